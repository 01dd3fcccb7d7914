"""Floors and roofs as beams on their side: what their panels hold of what pushes a storey, and what their
edges, the plates of the walls along them, are pulled by."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.design.codes.timber import Decked, Decking
from balken.design.lines import Check, Line
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import dot
from balken.loads.sideways import ALONG, ONE_FLOOR, Span, Storey
from balken.model.project import Project, level, wall
from balken.model.usual import USUAL
from balken.model.walls import direction_of
from balken.works.building import Checked
from balken.works.terms import terms_of

ROOF_PANELS: Final = {"us": 11.9, "metric": 15.0}
"""On roofs where none is typed, mm: 15/32 in (common practice, no source)."""
NOTHING_THERE: Final = "no floor or roof of panels lies there"
OF_CONCRETE: Final = "what a slab of concrete holds on its side is not worked out"


class Panels(NamedTuple):
    """The panels on a storey, and the wood they are nailed to."""

    what: str
    thick: float
    species: str
    grade: str


class Deck(NamedTuple):
    """A floor or roof between two lines of walls against what pushes it one way."""

    storey: Storey
    span: Span
    panels: Panels | None
    unit: float
    """The greatest unit shear, N/mm before any factor."""
    chord: float
    """What pulls the plate along its edge, N, in the code's terms."""
    decked: Decked
    plate: Member | None
    """A piece of plate along its edge."""
    checks: tuple[Check, ...]

    @property
    def used(self) -> float:
        """How far it is used; infinite where nothing is known to hold."""
        if self.decked.why:
            return math.inf
        return max((c.ratio for c in self.checks), default=0.0)


def decks_of(checked: Checked) -> tuple[Deck, ...]:
    """All floors and roofs that something pushes, from line to line."""
    return tuple(
        deck
        for storey in checked.sideways
        for span in storey.spans
        for quake in (False, True)
        if (deck := _deck(checked, storey, span, quake=quake)) is not None
    )


def _deck(checked: Checked, storey: Storey, span: Span, *, quake: bool) -> Deck | None:
    shear = span.shear(quake=quake)
    if shear <= 0 or span.depth <= 0:
        return None
    panels, lacks = panels_on(checked.built, storey)
    decked = Decked(why=lacks)
    if panels is not None:
        # Past the last line it is held at one end: as one twice as long held at both.
        length = (span.high - span.low) * (1.0 if span.held == "both" else 2.0)
        blocked = checked.built.site.blocked
        asked = Decking(
            panels.thick, blocked, panels.species, panels.grade, length, span.depth, quake
        )
        decked = terms_of(checked.built).timber.decked(asked)
    plate = _plate_across(checked, storey)
    unit = shear / span.depth
    chord = span.moment(quake=quake) / span.depth * decked.counts
    deck = Deck(storey, span, panels, unit, chord, decked, plate, ())
    return deck._replace(checks=tuple(_checks(checked, deck, quake=quake)))


def panels_on(project: Project, storey: Storey) -> tuple[Panels | None, str]:
    """The thinnest panels that lie on a storey; or why there are none."""
    bodies = {b.id: b for b in project.build_ups}
    found: list[Panels] = []
    lacks = NOTHING_THERE
    for f in project.floors:
        body = bodies.get(f.build_up)
        lies = abs(level(project, f.bears_on).elevation - storey.top) < ONE_FLOOR
        if body is None or body.use != "floor" or not lies:
            continue
        if body.kind == "slab":
            lacks = OF_CONCRETE
        else:
            thick = body.subfloor or USUAL[project.system].subfloor
            found.append(Panels("floor", thick, body.species, body.grade))
    for r in project.roofs:
        if abs(level(project, r.plate).elevation - storey.top) < ONE_FLOOR:
            thick = project.site.roof_panels or ROOF_PANELS[project.system]
            found.append(Panels("roof", thick, r.species, r.grade))
    best = min(found, key=lambda p: (p.thick, p.what), default=None)
    return best, "" if best else lacks


def _plate_across(checked: Checked, storey: Storey) -> Member | None:
    """A plate of a framed wall that runs across the force at the top of a storey."""
    for m in checked.structure.of(kinds.TOP_PLATE):
        item = wall(checked.built, m.host.key)
        runs_across = abs(dot(direction_of(item), storey.way)) < math.sqrt(1 - ALONG**2)
        if runs_across and abs(m.solid.bounds()[1][2] - storey.top) < ONE_FLOOR:
            return m
    return None


def _checks(checked: Checked, deck: Deck, *, quake: bool) -> Iterator[Check]:
    word = "Earthquake" if quake else "Wind"
    if deck.decked.held > 0:
        lines = (
            Line("v", deck.unit, "line load", how="the greatest at an end, before any factor"),
            Line("depth", deck.span.depth, "run"),
            *deck.decked.lines,
        )
        ratio = deck.unit / deck.decked.held
        letter = "E" if quake else "W"
        yield Check(f"{word}, shear of panels", ratio, letter, deck.decked.clause, lines)
    chord = chord_check(checked, deck)
    if chord is not None:
        yield chord


def chord_check(checked: Checked, deck: Deck) -> Check | None:
    """Tension along one plate of two, since the other has its joint there; None without values."""
    if deck.plate is None:
        return None
    terms = terms_of(checked.built)
    section = terms.sections.get(deck.plate.section)
    species, _, grade = deck.plate.material.partition(" ")
    worth = terms.timber.worth(species, grade, section) if section else None
    if section is None or worth is None or worth.ft <= 0:
        return None
    lasts = terms.timber.uplift(1)[3]
    area = section.breadth * section.depth
    held = worth.ft * lasts * area
    lines = (
        Line("M / depth", deck.chord, "force", how="weighed"),
        Line("ft", worth.ft * lasts, "stress"),
        Line("T", held, "force", how=f"one {section.name} of two"),
    )
    clause = "NDS 3.8.1" if checked.project.code == "us" else "EN 1995-1-1 6.1.2"
    return Check("Pull along its edge", deck.chord / held, "W", clause, lines)


def worst_decks(checked: Checked) -> dict[tuple[float, bool], Deck]:
    """The deck of each storey, by its height and which way it is pushed, that is used most."""
    found: dict[tuple[float, bool], Deck] = {}
    for deck in decks_of(checked):
        key = (deck.storey.top, abs(deck.storey.way[0]) > abs(deck.storey.way[1]))
        if key not in found or deck.used > found[key].used:
            found[key] = deck
    return found
