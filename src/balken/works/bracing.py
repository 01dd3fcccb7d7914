"""What each line of walls holds against wind and earthquake along it: its stretches of panels between
openings, what pulls up at their ends, and what of the line is used."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.design.codes.timber import Racked, Racking
from balken.design.codes.us.sdpws import deflection
from balken.design.lines import Check
from balken.framing import kinds
from balken.framing.hosts.walls import foot_floors, rule_of
from balken.framing.member import Member
from balken.loads.sideways import Line, Storey
from balken.model.names import HostName
from balken.model.project import Project, wall, wall_base, wall_top
from balken.model.wall_frames import Panels
from balken.model.walls import Wall, wall_length
from balken.recall import remembered_of_one
from balken.works.building import Checked
from balken.works.terms import terms_of

SHORTEST: Final = 300.0
"""A shorter stretch of wall braces nothing, mm."""


class Stretch(NamedTuple):
    """A full-height stretch of a wall between openings. Forces before any factor, N."""

    wall: str
    low: float
    high: float
    height: float
    wind: Racked
    quake: Racked
    dead: float
    """Of the wall and on it, N/mm."""
    lifts: float = 0.0
    """What wind lifts of it, N/mm: less than nothing where it does."""

    @property
    def length(self) -> float:
        """mm."""
        return self.high - self.low


class Braced(NamedTuple):
    """A line of walls of a storey with what it holds."""

    storey: Storey
    line: Line
    stretches: tuple[Stretch, ...]
    wind: float
    """Held, N before any factor."""
    quake: float
    why: str
    """Why nothing of it is known to hold, where that is so."""

    @property
    def used(self) -> float:
        """How far it is used; infinite where it holds nothing."""
        ratios = [
            asked / held if held > 0 else math.inf
            for asked, held in ((self.line.wind, self.wind), (self.line.quake, self.quake))
            if asked > 0
        ]
        return max(ratios, default=0.0)


@remembered_of_one
def braced_lines(checked: Checked) -> tuple[Braced, ...]:
    """Every line of walls that something pushes along."""
    return tuple(
        _braced(checked, storey, line)
        for storey in checked.sideways
        for line in storey.lines
        if line.wind > 0 or line.quake > 0
    )


def held_with(checked: Checked, braced: Braced, panels: Panels) -> tuple[float, float]:
    """What a line would hold against wind and against earthquake with other panels, N before any
    factor."""
    wind = quake = 0.0
    for key in braced.line.walls:
        mine, _ = _stretches(checked, wall(checked.built, key), panels)
        wind += math.fsum(s.wind.held for s in mine)
        quake += math.fsum(s.quake.held for s in mine)
    return wind, quake


def _braced(checked: Checked, storey: Storey, line: Line) -> Braced:
    found: list[Stretch] = []
    why = ""
    for key in line.walls:
        mine, lacks = _stretches(checked, wall(checked.built, key))
        found += mine
        why = why or lacks
    wind = math.fsum(s.wind.held for s in found)
    quake = math.fsum(s.quake.held for s in found)
    return Braced(storey, line, tuple(found), wind, quake, why if not wind and not quake else "")


def _stretches(
    checked: Checked, item: Wall, other: Panels | None = None
) -> tuple[list[Stretch], str]:
    """The stretches of a wall that hold, and why there are none; with other panels than its own where
    they are given."""
    project = checked.built
    rule = rule_of(project, item)
    if rule is None:
        return [], "its walls are not framed"
    panels, terms = other or rule.panels, terms_of(project)
    if panels is None:
        return [], "no panels are chosen for its walls"
    studs = _stud_of(checked, item)
    if studs is None:
        return [], "its walls have no studs"
    species, _, grade = studs.material.partition(" ")
    height = wall_top(project, item) - wall_base(project, item)
    onto = checked.path.onto.get(HostName("wall", item.id))
    dead = onto.dead / wall_length(item) if onto else 0.0
    lifts = onto.uplift / wall_length(item) if onto else 0.0
    found, why = [], ""
    bracing = [s for s in between_openings(item) if not is_slack(item, s)]
    if not bracing:
        return [], "its stretches between openings are not to brace"
    for low, high in bracing:
        deeper = [up for a, b, up in foot_floors(project, item) if a < high and low < b]
        tall = height - min([0.0, *deeper])
        asked = Racking(
            panels.panel,
            panels.nail,
            panels.thick,
            panels.nail_diameter,
            panels.nail_length,
            panels.edges,
            panels.faces,
            species,
            grade,
            tall,
            high - low,
        )
        wind = terms.timber.racked(asked)
        quake = terms.timber.racked(asked._replace(quake=True))
        why = why or wind.why
        if wind.held > 0:
            found.append(Stretch(item.id, low, high, tall, wind, quake, dead, lifts))
    return found, why or "its stretches between openings are too short"


def between_openings(item: Wall) -> Iterator[tuple[float, float]]:
    """The full-height stretches of a wall, from and to along it, mm."""
    at = 0.0
    for hole in sorted(item.openings, key=lambda o: o.at):
        if hole.at - at >= SHORTEST:
            yield at, hole.at
        at = max(at, hole.at + hole.width)
    if wall_length(item) - at >= SHORTEST:
        yield at, wall_length(item)


def is_slack(item: Wall, stretch: tuple[float, float]) -> bool:
    """Whether a stretch is not to brace, as a person said."""
    return any(stretch[0] <= x <= stretch[1] for x in item.slack)


def _stud_of(checked: Checked, item: Wall) -> Member | None:
    studs = checked.structure.in_host(HostName("wall", item.id), kinds.WALL_STUD)
    return next(iter(studs), None)


class End(NamedTuple):
    """What turns a stretch over at its ends and what holds them, N, in the code's terms, and how far
    its top goes sideways, mm; nothing where the code has no stiffness."""

    stretch: Stretch
    turning: float
    held: float
    """By dead load, less what wind lifts of it."""
    sways: float

    @property
    def pulls(self) -> float:
        """What is left to hold, but for what the ends of walls over it pull."""
        return max(0.0, self.turning - self.held)


HELD_DEAD: Final = {"us": 0.6, "eu": 0.9}
"""Of dead load against what pulls up (ASCE 7-16 2.4.1 no. 7; EN 1990 table A1.2(A))."""


def turned_by_quake(braced: Braced) -> bool:
    """Whether an earthquake turns a line's stretches more than wind does, each with its factor."""
    first = next(iter(braced.stretches), None)
    if first is None:
        return False
    return braced.line.quake * first.quake.counts > braced.line.wind * first.wind.counts


def ends_of(project: Project, braced: Braced) -> tuple[End, ...]:
    """What the ends of each stretch of a line pull: its share of the force at its height over its
    length, against half of the dead load on it less what wind lifts (SDPWS-2015 4.3.6.4.2; EN 1995-1-1
    9.2.4.2(9)). What the ends of walls over it pull comes beside it
    (:mod:`balken.works.overturning`)."""
    quake = turned_by_quake(braced)
    whole_held, along = (
        (braced.quake, braced.line.quake) if quake else (braced.wind, braced.line.wind)
    )
    found = []
    for s in braced.stretches:
        racked = s.quake if quake else s.wind
        if whole_held <= 0 or racked.held <= 0:
            continue
        load = along * racked.held / whole_held * racked.counts
        turning = load * s.height / s.length
        lifts = 0.0 if quake else racked.counts * s.lifts
        held = (HELD_DEAD[project.code] * s.dead + lifts) * s.length / 2
        sways = 0.0
        if racked.stiff:
            sways = deflection(
                load / s.length, s.height, s.length, (9_650.0, 2 * 38.1 * 139.7), racked.stiff, 0.0
            )
        found.append(End(s, turning, held, sways))
    return tuple(found)


def check_of(braced: Braced) -> Check | None:
    """How far a line is used, with how its longest stretch was found; None where it holds nothing."""
    if not braced.stretches:
        return None
    longest = max(braced.stretches, key=lambda s: s.length)
    by_quake = braced.quake > 0 and braced.line.quake / braced.quake > braced.line.wind / max(
        braced.wind, 1e-9
    )
    racked = longest.quake if by_quake else longest.wind
    name = "Earthquake along it" if by_quake else "Wind along it"
    return Check(name, braced.used, "E" if by_quake else "W", racked.clause, racked.lines)
