"""Quick spans: how far a joist, ceiling joist or rafter reaches, without a building.

Two answers that must not be mixed up: the *engineered* span passes every check a member of a
building has; the *table* span follows the rule by which the span tables of IRC 2021 were made
(R502.3.1, R802.4.1, R802.5.1; AWC Span Tables for Joists and Rafters): bending and live deflection
only, to the nearest inch, nothing beyond 26 ft.
"""

import math
from typing import Final, Literal

import msgspec
import numpy as np

from balken.design.codes.us.nds.bending import check, explain, repetitive
from balken.design.codes.us.nds.factors import REPETITIVE_COUNT, Adjusted, adjusted
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Check
from balken.design.sizing import LEAST_BEARING
from balken.design.spanning import Batch
from balken.loads.cases import Combination
from balken.loads.parcels import rows_of
from balken.model.cases import Cases
from balken.model.catalogue import catalogue_of
from balken.model.sections import Section
from balken.units import INCH, PSF, System

MemberWord = Literal["joist", "ceiling joist", "rafter"]
LONGEST_TABLE: Final = 26 * 12 * INCH
TABLE_SPECIES: Final = ("DF-L", "HF", "SP", "SPF")
TABLE_GRADES: Final = ("SS", "No.1", "No.2", "No.3")
WIDTHS: Final[dict[MemberWord, tuple[int, ...]]] = {
    "joist": (6, 8, 10, 12),
    "ceiling joist": (4, 6, 8, 10),
    "rafter": (4, 6, 8, 10, 12),
}
"""Nominal widths that the tables of a member list, in."""
TABLE_SPACINGS: Final = (12.0, 16.0, 19.2, 24.0)
NOT_SOLD: Final = 60_000.0
"""Spans are sought no further than 60 m."""


class SpanAsked(msgspec.Struct, frozen=True):
    """A question about a span. Loads N/mm² on the plan, lengths mm."""

    member: MemberWord
    species: str
    grade: str
    section: Section
    spacing: float
    live: float
    dead: float
    live_kind: Literal["L", "Lr", "S"] = "L"
    live_limit: float = 360.0
    total_limit: float | None = 240.0
    wet: bool = False
    incised: bool = False
    system: System = "us"


class Limits(msgspec.Struct, frozen=True):
    """The span at which each check alone is used up, mm, horizontal."""

    bending: float
    shear: float
    live_deflection: float
    total_deflection: float
    bearing: float

    def governing(self) -> tuple[str, float]:
        """The check with the shortest span, and that span."""
        names = ("Bending", "Shear", "Live deflection", "Total deflection", "Bearing")
        values = (
            self.bending,
            self.shear,
            self.live_deflection,
            self.total_deflection,
            self.bearing,
        )
        shortest = min(range(len(values)), key=lambda i: values[i])
        return names[shortest], values[shortest]


class SpanFound(msgspec.Struct, frozen=True):
    """The answer: limits, the engineered span and what governs, the table span or why there is
    none."""

    asked: SpanAsked
    limits: Limits
    engineered: float
    governing: str
    checks: tuple[Check, ...]
    table: float | None
    table_name: str
    """The table, or the reason why none applies."""
    bearing_needed: float
    """Bearing that the engineered span needs, mm."""


DURATION: Final = {"L": 1.0, "Lr": 1.25, "S": 1.15}


def default_limits(member: MemberWord) -> tuple[float, float]:
    """The live and total deflection limits usual for a member (IRC 2021 table R301.7)."""
    return {"joist": (360.0, 240.0), "ceiling joist": (240.0, 180.0), "rafter": (180.0, 120.0)}[
        member
    ]


def values_of(asked: SpanAsked) -> Adjusted:
    """Adjusted values for a question.

    Raises:
        NoValueError: no design values for that species, grade and size.
    """
    return adjusted(
        reference(asked.species, asked.grade, asked.section.nominal),
        asked.species,
        asked.grade,
        asked.section.nominal,
        wet=asked.wet,
        incised=asked.incised,
    )


def shared(asked: SpanAsked) -> float:
    """C_r of members in a row at a spacing (NDS 4.3.9)."""
    return repetitive(REPETITIVE_COUNT, asked.section.breadth, asked.spacing)


def span_limits(asked: SpanAsked, *, bearing: float = LEAST_BEARING) -> Limits:
    """The span at which each check alone reaches 1.00 (NDS-2018 3.3, 3.4, 3.5, 3.10).

    Dead load alone (C_D 0.9) is checked beside dead and live together.
    """
    value, section = values_of(asked), asked.section
    both = (asked.dead + asked.live) * asked.spacing
    cases = ((both, DURATION[asked.live_kind]), (asked.dead * asked.spacing, 0.9))

    def least(of: list[float]) -> float:
        return min(min(of), NOT_SOLD)

    def per_load(numerator: float, w: float) -> float:
        return numerator / w if w > 0 else math.inf

    flex = [
        math.sqrt(per_load(8 * value.fb * shared(asked) * cd * section.modulus, w))
        for w, cd in cases
    ]
    shear = [per_load(2 * value.fv * cd * section.area / 1.5, w) for w, cd in cases]

    def sag(w: float, limit: float) -> float:
        return (
            per_load(384 * value.e * section.inertia / (5 * limit), w) ** (1 / 3)
            if w > 0
            else math.inf
        )

    return Limits(
        bending=least(flex),
        shear=least(shear),
        live_deflection=least([sag(asked.live * asked.spacing, asked.live_limit)]),
        total_deflection=least([sag(both, asked.total_limit)]) if asked.total_limit else NOT_SOLD,
        bearing=least([per_load(2 * value.fc_perp * section.breadth * bearing, both)]),
    )


def bearing_needed(asked: SpanAsked, span: float) -> float:
    """The length of bearing a span needs, mm, C_b = 1 (NDS 3.10.2)."""
    reaction = (asked.dead + asked.live) * asked.spacing * span / 2
    return reaction / (asked.section.breadth * values_of(asked).fc_perp)


def table_span(asked: SpanAsked) -> float:
    """The span by the rule of the span tables, mm: nearest inch, no limit of what is
    printed."""
    limits = span_limits(asked)
    both = (asked.dead + asked.live) * asked.spacing
    value = values_of(asked)
    flex = math.sqrt(
        8 * value.fb * shared(asked) * DURATION[asked.live_kind] * asked.section.modulus / both
    )
    return math.floor(min(flex, limits.live_deflection) / INCH + 0.5) * INCH


def which_table(asked: SpanAsked) -> tuple[str | None, str]:
    """The IRC 2021 table that holds a question, or None and why no table does."""
    section, listed = asked.section, WIDTHS[asked.member]
    if asked.wet or asked.incised:
        return None, "the tables are for dry, plain lumber"
    if asked.species not in TABLE_SPECIES or asked.grade not in TABLE_GRADES:
        return None, f"the tables do not list {asked.species} {asked.grade}"
    if asked.system != "us" or section.nominal not in {(2, w) for w in listed}:
        return None, f"the tables do not list {section.name}"
    if all(abs(asked.spacing / INCH - s) > 0.01 for s in TABLE_SPACINGS):
        return None, "the tables list 12, 16, 19.2 and 24 in spacing"
    live, dead = round(asked.live / PSF, 3), round(asked.dead / PSF, 3)
    found = _TABLES[asked.member].get((asked.live_kind, live, dead, round(asked.live_limit)))
    if found is None:
        limit = f"L/{asked.live_limit:g}"
        return None, f"no table has {live:g} psf live and {dead:g} psf dead with {limit}"
    return found, ""


def _rafter_tables() -> dict[tuple[str, float, float, int], str]:
    found = {}
    for dead in (10.0, 20.0):
        found[("Lr", 20.0, dead, 180)] = "IRC 2021 R802.4.1(1)"
        found[("Lr", 20.0, dead, 240)] = "IRC 2021 R802.4.1(2)"
        for snow, plain, ceiling in ((30.0, 3, 5), (50.0, 4, 6), (70.0, 7, 8)):
            found[("S", snow, dead, 180)] = f"IRC 2021 R802.4.1({plain})"
            found[("S", snow, dead, 240)] = f"IRC 2021 R802.4.1({ceiling})"
    return found


_TABLES: Final[dict[str, dict[tuple[str, float, float, int], str]]] = {
    "joist": {
        ("L", live, dead, 360): f"IRC 2021 R502.3.1({n})"
        for n, live in ((1, 30.0), (2, 40.0))
        for dead in (10.0, 20.0)
    },
    "ceiling joist": {
        ("L", 10.0, 5.0, 240): "IRC 2021 R802.5.1(1)",
        ("L", 20.0, 10.0, 240): "IRC 2021 R802.5.1(2)",
    },
    "rafter": _rafter_tables(),
}


def find_span(asked: SpanAsked) -> SpanFound:
    """Answer a question about a span.

    Raises:
        NoValueError: no design values for that species, grade and size.
    """
    limits = span_limits(asked)
    governing, span = limits.governing()
    name, why = which_table(asked)
    table = table_span(asked) if name else None
    if table is not None and table > LONGEST_TABLE:
        table, why = None, f"{name} prints no span over 26 ft"
    return SpanFound(
        asked,
        limits,
        span,
        governing,
        _checks(asked, span),
        table,
        name if table and name else why,
        bearing_needed(asked, span),
    )


def _checks(asked: SpanAsked, span: float) -> tuple[Check, ...]:
    """Check one member at a span through the same array function a building uses."""
    kind = {"L": "live", "Lr": "roof_live", "S": "snow"}[asked.live_kind]
    combos = (
        Combination("D", Cases(dead=1.0), 0.9),
        Combination(
            f"D + {asked.live_kind}", Cases(dead=1.0, **{kind: 1.0}), DURATION[asked.live_kind]
        ),
    )
    line = rows_of([Cases(asked.dead, **{kind: asked.live})]).T * asked.spacing
    one = np.ones(1)
    batch = Batch(
        (asked.section,),
        (values_of(asked),),
        shared(asked) * one,
        span * one,
        line,
        line * span / 2,
        LEAST_BEARING * one,
        asked.live_limit * one,
        (asked.total_limit or 1e-6) * one,
        0 * one,
        combos,
    )
    found = explain(batch, check(batch), 0)
    return tuple(c for c in found if c.name != "Total deflection" or asked.total_limit)


def span_table(
    asked: SpanAsked, sections: tuple[Section, ...], spacings: tuple[float, ...]
) -> list[list[SpanFound | None]]:
    """Answer for every section (rows) and spacing (columns); None where there are no design
    values."""
    rows: list[list[SpanFound | None]] = []
    for section in sections:
        row: list[SpanFound | None] = []
        for spacing in spacings:
            try:
                row.append(
                    find_span(msgspec.structs.replace(asked, section=section, spacing=spacing))
                )
            except NoValueError:
                row.append(None)
        rows.append(row)
    return rows


def usual_sections(system: System, member: MemberWord) -> tuple[Section, ...]:
    """The sections a table of spans shows."""
    catalogue = catalogue_of(system)
    least = 5 if member == "joist" else 4
    return tuple(
        s for s in catalogue.sections.values() if s.nominal[0] == 2 and least <= s.nominal[1] <= 12
    )
