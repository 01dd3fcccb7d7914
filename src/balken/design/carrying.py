"""What a member that carries more than its strip of floor is asked to carry, and what comes out."""

import math
from itertools import pairwise
from typing import Final, NamedTuple

import msgspec

from balken.design.around import Around, birdsmouth_of, lean_of
from balken.design.beam_checks import Answer, Asked, judge_all
from balken.design.effects import Loaded, effects_of
from balken.design.seats import seats_of
from balken.design.service import category_of, service_class
from balken.design.strength import Loading
from balken.design.terms import Terms
from balken.framing import kinds
from balken.framing.member import Member, apart
from balken.loads.cases import Sums, drifted
from balken.loads.parcels import Parcel, at_most, laid_on
from balken.loads.path import area_loads
from balken.loads.statics import OVERHANG, span_marks
from balken.model.beams import BeamKind
from balken.model.catalogue import price_per_mm, sections_of
from balken.model.names import HostName, Rest
from balken.model.project import Host
from balken.model.sections import STEEL, Section
from balken.recall import remembered_each
from balken.units import System

NEARLY: Final = 0.97
"""A beam is chosen so that no check is used to more than this: its bearings shift a little when it
is known."""


def carries_more(member: Member, parcels: tuple[Parcel, ...], section: Section) -> bool:
    """Whether a member needs the analysis of a beam: it carries others, reaches out, or
    resists by capacity."""
    if len(apart(member.carrier.supports)) < 2:
        return False
    if member.kind.carries:
        return member.kind is not kinds.LEDGER
    rests = apart(member.carrier.supports)
    if member.kind is kinds.RAFTER:
        return len(rests) > 2 or any(is_drawn(p.source) for p in parcels)
    if member.kind is not kinds.JOIST:
        return False
    first, last = rests[0].at - rests[0].length / 2, rests[-1].at + rests[-1].length / 2
    reaches = first > OVERHANG or member.carrier.length - last > OVERHANG
    return bool(reaches or parcels or section.plies > 1 or section.product is not None)


def is_drawn(source: Rest) -> bool:
    """Whether a load was drawn, or is snow that is heaped up: not one that a framing rule counts."""
    return isinstance(source, HostName) and source.kind == "load"


def asked_of(
    terms: Terms,
    record: Host,
    member: Member,
    parcels: tuple[Parcel, ...],
    around: Around,
    section: Section | None = None,
) -> Asked | None:
    """What a member is asked to carry under what lies on it, cut from its own section or
    another; None where it has no values.

    Args:
        terms: of the building.
        record: the member's host: what lies on it and how far it may bend.
        member: the piece.
        parcels: what lies on it.
        around: what else its checks follow from.
        section: what it is cut from, where not its own.
    """
    chosen = section or terms.sections[member.section]
    parcels = at_most(parcels)
    kind, live, total = _limits(record)
    longest = max(b - a for a, b in pairwise(span_marks(member)))
    unbraced, loading = _held(member, parcels, kind, longest)
    species, _, grade = member.material.partition(" ")
    strength = terms.timber.strength(chosen, species, grade, longest, unbraced, around.in_row)
    if strength is None:
        return None
    seats = seats_of(
        terms.timber,
        member,
        chosen,
        strength,
        around.under,
        _heavy(member, parcels),
    )
    # It bends square to its slope: over a length and against a limit that are longer than the plan's.
    if member.carrier.slope:
        strength = msgspec.structs.replace(
            strength, ei=strength.ei / math.hypot(1.0, member.carrier.slope)
        )
    camber = kind.camber if kind else 0.0
    sums = drifted(sums_of(terms, record, chosen), around.leeward)
    loaded = Loaded(member, area_loads(record, member.carrier.slope), parcels, sums)
    return Asked(
        loaded,
        strength,
        live,
        total,
        unbraced,
        loading,
        seats,
        camber,
        around.bores,
        birdsmouth_of(member, chosen),
        lean_of(terms, member, chosen, around),
    )


HEAVY: Final = 0.2
"""A load stands at one place for what it presses on where it is over this share of all that lies on
the member; joists in a row are as good as spread (common practice, no source)."""


def _heavy(member: Member, parcels: tuple[Parcel, ...]) -> list[float]:
    """Where loads stand on a member that press it like a post, mm from its start."""
    laid = laid_on(member, parcels)
    each = laid.forces.sum(axis=0)
    whole = float(each.sum()) + sum(member.carrier.line) * member.carrier.reach
    return [float(at) for at, force in zip(laid.at, each) if force > HEAVY * whole]


def sums_of(terms: Terms, record: Host, section: Section) -> Sums:
    """What a piece of a host is held against."""
    if section.family in STEEL:
        return terms.timber.elastic(category_of(terms, record))
    return terms.timber.sums(service_class(record), category_of(terms, record))


def _limits(record: Host) -> tuple[BeamKind | None, float, float]:
    """The rule of a beam, where it is one, and span over live and over total deflection."""
    kind = getattr(record, "kind", None)
    if isinstance(kind, BeamKind):
        return kind, kind.live_limit, kind.total_limit
    return None, getattr(record, "live_limit", 360.0), getattr(record, "total_limit", 240.0)


def holds_sideways(source: Rest) -> bool:
    """Whether what brings a load to a beam holds its upper edge sideways there."""
    kind = kinds.named(source)
    return kind is not None and kind.holds_sideways


def _held(
    member: Member, parcels: tuple[Parcel, ...], kind: BeamKind | None, longest: float
) -> tuple[float, Loading]:
    """How far apart the upper edge is held sideways, mm, by sheathing all along, as was typed, or
    by what lies on it; and how the stretch between is bent."""
    if kind is not None and kind.braced is not None:
        held = min(kind.braced, longest)
    elif member.kind.held_all_along:
        held = 0.0
    else:
        braces = tuple(p for p in parcels if holds_sideways(p.source))
        places = [0.0, *laid_on(member, braces).at.tolist(), member.carrier.reach]
        held = float(min(longest, max(b - a for a, b in pairwise(places))))
    return held, _loading(member, parcels, held, longest) if held else "uniform"


EVENLY: Final = 0.02
"""Loads stand evenly where their places differ by no more than this share of the span."""
ALMOST_ALL: Final = 0.95
"""A load in the middle counts as alone where it makes so much of the moment."""


class _Standing(NamedTuple):
    """What stands alone on a member: how it lies and weighs, for NDS table 3.3.3."""

    number: int
    even: bool
    """It divides the span evenly."""
    alike: bool
    """All of it weighs the same."""
    alone: bool
    """Next to it all else is nothing."""


def _standing(member: Member, parcels: tuple[Parcel, ...], longest: float) -> _Standing:
    low, high = span_marks(member)
    laid = laid_on(member, parcels)
    forces = zip(laid.at.tolist(), laid.forces.sum(axis=0).tolist())
    inside = [(at, f) for at, f in forces if f > 0 and low < at < high]
    if not inside:
        return _Standing(0, even=False, alike=False, alone=False)
    parts = len(inside) + 1
    even = all(
        abs(at - low - longest * k / parts) <= EVENLY * longest
        for k, (at, _) in enumerate(inside, 1)
    )
    weights = [f for _, f in inside]
    spread = sum(member.carrier.line) * member.carrier.reach
    return _Standing(
        len(inside),
        even,
        max(weights) <= 1.1 * min(weights),
        sum(weights) >= ALMOST_ALL * (sum(weights) + spread / 2),
    )


def _loading(member: Member, parcels: tuple[Parcel, ...], held: float, longest: float) -> Loading:
    """The row of NDS table 3.3.3 that the upper edge of a member belongs to between places where it
    is held."""
    if len(span_marks(member)) != 2:
        return "other"
    free = held >= longest * (1 - EVENLY)
    there = _standing(member, parcels, longest)
    if not there.number:
        return "uniform" if free else "other"
    if free and there.number == 1 and there.even and there.alone:
        return "middle"
    many = there.even and there.alike
    if free:
        return "uniform" if many and there.number >= MANY else "other"
    under_each = abs(held - longest / (there.number + 1)) <= EVENLY * longest
    return _HELD[min(there.number, 7)] if many and under_each and there.alone else "other"


MANY: Final = 7
"""So many even loads are as one spread evenly (NDS table 3.3.3 counts no further)."""
_HELD: Final[dict[int, Loading]] = {
    1: "held 1",
    2: "held 2",
    3: "held 3",
    4: "held 4",
    5: "held 5",
    6: "held 6",
    7: "held 7",
}


class Carried(msgspec.Struct, frozen=True, gc=False):
    """Everything a member's checks follow from: with the same, they come out the same."""

    terms: Terms
    record: Host
    """The member's host."""
    loaded: Loaded
    around: Around


@remembered_each
def answers(wanted: list[Carried]) -> list[Answer | None]:
    """What each of some members answers; None where it has no values."""
    found: list[Answer | None] = [None] * len(wanted)
    asked = []
    for i, one in enumerate(wanted):
        item = asked_of(one.terms, one.record, one.loaded.member, one.loaded.parcels, one.around)
        if item is not None:
            asked.append((i, item))
    for (i, _), answer in zip(asked, judged([a for _, a in asked])):
        found[i] = answer
    return found


def judged(asked: list[Asked]) -> list[Answer | None]:
    """Hold members against what they resist; what loads do to each is worked out once, whatever it
    is cut from."""
    effects = effects_of([a.loaded for a in asked])
    stands = [(a, e) for a, e in zip(asked, effects) if e is not None]
    answers = iter(judge_all([a for a, _ in stands], [e for _, e in stands]))
    return [next(answers) if e is not None else None for e in effects]


def stick_for(
    terms: Terms,
    record: Host,
    m: Member,
    least: float,
    parcels: tuple[Parcel, ...],
    around: Around,
) -> str:
    """What a hip, valley, ridge beam or purlin is cut from under what lies on it; the
    strongest where nothing does.

    Args:
        terms: of the building.
        record: its roof.
        m: the piece, cut from anything.
        least: depth it has at least, for what meets it, mm.
        parcels: what lies on it.
        around: what else its checks follow from.
    """
    choices = _sticks_from(
        m.section,
        least,
        m.material,
        terms.system,
        beam=m.kind in (kinds.RIDGE_BEAM, kinds.PURLIN),
    )
    asked = [
        (name, asked_of(terms, record, m, parcels, around, terms.sections[name]))
        for name in choices
    ]
    able = [(name, a) for name, a in asked if a is not None]
    found = judged([a for _, a in able])
    worst = [(a.worst[0] if a else math.inf, name) for (name, _), a in zip(able, found)]
    return next(
        (name for ratio, name in worst if ratio <= NEARLY), min(worst, default=(0.0, m.section))[1]
    )


STRUTS: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6", "4x4", "4x6"),
    "metric": ("38x89", "38x140", "89x89", "89x140"),
}
"""What struts may be cut from, the cheapest first (IRC 2021 R802.4.5: 2 by 4 at least)."""


VALLEY_FRAMES: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6", "2x8", "2x10"),
    "metric": ("38x89", "38x140", "38x184", "38x235"),
}
"""What frames set on another roof may be cut from, the cheapest first."""


def _sticks_from(
    section: str, least: float, material: str, system: System, *, beam: bool
) -> tuple[str, ...]:
    """The sections a hip may be cut from, the cheapest first: boards as deep as the rafters'
    plumb cut, in any number of plies; a ridge beam or purlin from glued timber as well."""
    sections = sections_of(system, ())
    own, grade = sections[section], material.partition(" ")[2]
    thick = own.breadth / own.plies
    alike = [
        s
        for s in sections.values()
        if s.depth >= least - 1.0
        and (
            (s.product is None and abs(s.breadth / s.plies - thick) < 0.5)
            or (beam and s.family in ("lvl", "glulam"))
        )
    ] or [own]
    return tuple(
        s.name for s in sorted(alike, key=lambda s: (price_per_mm(s, grade), s.plies, s.depth))
    )
