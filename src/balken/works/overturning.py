"""What turns the stretches of braced walls over: what pulls up at their ends, storey after storey down to the
foundation, for the hold-downs there.

What an end of a wall above pulls goes on in the end of the wall below that stands under it, before any dead
load is taken off: the dead load on a lower wall holds down both.
"""

from itertools import groupby
from typing import Final, NamedTuple

from balken.framing.member import Member
from balken.geometry.plane import Point, add, distance, distance_to_segment, dot
from balken.model.cases import Cases
from balken.model.names import HostName
from balken.model.project import Project, wall
from balken.model.walls import Wall, direction_of
from balken.recall import remembered_of_one
from balken.works.bracing import Braced, End, braced_lines, ends_of, turned_by_quake
from balken.works.building import Checked
from balken.works.terms import terms_of
from balken.works.wall_studs import UPRIGHTS, OnWalls, pushed_checks

UNDER: Final = 600.0
"""The end of a stretch this near in plan under another takes on what it pulls, mm (common practice, no
source)."""
BESIDE: Final = 300.0
"""The stud that a hold-down is fixed to stands this near to the end of its stretch, mm."""
TOUCHING: Final = 1.0
"""Studs with no more than this between them are nailed together, mm."""
PARALLEL: Final = 0.99
"""Ways whose cosine is this much are one."""
LEAST: Final = 1.0
"""Less pulls nothing, N."""


class HeldEnd(NamedTuple):
    """One end of a stretch of wall that is turned over, or a place that a wall above turns at."""

    wall: str
    at: Point
    pulls: float
    """In the code's terms, dead load taken off, N; nothing where that holds it."""
    pushes: float
    """On its stud when the wind turns, beside what comes down there, in the code's terms, N."""
    above: float
    """Of what it pulls, what comes from above, N."""
    combination: str
    over_nothing: bool = False
    """What pulls from above meets no end of a stretch here."""


class _Pull(NamedTuple):
    """What pulls at a place, N, along which way of the wind, and by what."""

    at: Point
    force: float
    """Dead load not taken off."""
    net: float
    """Taken off."""
    way: Point
    by_quake: bool


def held_ends(checked: Checked) -> tuple[HeldEnd, ...]:
    """All ends that pull, wall after wall from the roof down."""
    return tuple(e for e in turned_ends(checked) if e.pulls > LEAST)


@remembered_of_one
def turned_ends(checked: Checked) -> tuple[HeldEnd, ...]:
    """All ends of stretches of braced walls, wall after wall from the roof down."""
    lines = sorted(braced_lines(checked), key=lambda b: (-b.storey.top, b.line.walls))
    # A wall that passes a floor without one is turned once, by all that comes to its lower storey.
    lowest = {key: b.storey.top for b in lines for key in b.line.walls}
    coming: list[_Pull] = []
    found: list[HeldEnd] = []
    for top, of_storey in groupby(lines, key=lambda b: b.storey.top):
        going: list[_Pull] = []
        for braced in of_storey:
            ends = [
                e for e in ends_of(checked.built, braced) if lowest[e.stretch.wall] >= top - 1.0
            ]
            through = _through(checked, braced, ends, coming)
            coming = through.left
            going += through.going
            found += through.ends
        coming = [*coming, *going]
    return tuple(found)


class _Through(NamedTuple):
    """What a line of walls holds down, what goes on below it, and what passed it by."""

    ends: list[HeldEnd]
    going: list[_Pull]
    left: list[_Pull]


def _through(checked: Checked, braced: Braced, ends: list[End], coming: list[_Pull]) -> _Through:
    project, way = checked.built, braced.storey.way
    by_quake = turned_by_quake(braced)
    done = _Through([], [], [p for p in coming if abs(dot(p.way, way)) < PARALLEL])
    mine = [p for p in coming if abs(dot(p.way, way)) >= PARALLEL]
    for end in ends:
        item = wall(project, end.stretch.wall)
        for at in _places(item, end):
            over = [p for p in mine if distance(p.at, at) <= UNDER]
            mine = [p for p in mine if p not in over]
            above = sum(p.force for p in over)
            turned = end.turning + above
            pulls = max(0.0, turned - end.held)
            done.going.append(_Pull(at, turned, pulls, way, by_quake))
            words = words_of(checked, by_quake)
            done.ends.append(HeldEnd(item.id, at, pulls, turned, min(above, pulls), words))
    for pull in mine:
        under = _wall_under(project, braced, pull)
        if under is None:
            done.left.append(pull)
            continue
        done.going.append(pull)
        words = words_of(checked, pull.by_quake)
        done.ends.append(HeldEnd(under.id, pull.at, pull.net, pull.force, pull.net, words, True))
    return done


def _places(item: Wall, end: End) -> tuple[Point, Point]:
    way = direction_of(item)
    return add(item.start, way, end.stretch.low), add(item.start, way, end.stretch.high)


def _wall_under(project: Project, braced: Braced, pull: _Pull) -> Wall | None:
    """The wall of a line that a place lies on, away from the ends of its stretches."""
    for key in braced.line.walls:
        item = wall(project, key)
        if distance_to_segment(pull.at, item.start, item.end) <= item.thickness + BESIDE:
            return item
    return None


def words_of(checked: Checked, by_quake: bool) -> str:
    """What turns or slides a wall, as the code writes the combination."""
    code = checked.project.code
    if by_quake:
        return "0.6D + 0.7E" if code == "us" else "G + E"
    return terms_of(checked.built).timber.uplift(1)[0].removesuffix(" up")


def stud_at(checked: Checked, held: HeldEnd) -> Member | None:
    """The stud or king at an end, that a hold-down is fixed to; None where none stands there."""
    host = HostName("wall", held.wall)
    near = [
        (distance(m.start[:2], held.at), m.id, m)
        for m in checked.structure.in_host(host, *UPRIGHTS)
    ]
    best = min(near, default=None, key=lambda n: (n[0], n[1]))
    return best[2] if best is not None and best[0] <= 2 * BESIDE else None


def _post_of(checked: Checked, stud: Member) -> list[Member]:
    """A stud with those that touch it, one after the other: nailed together they are pushed alike."""
    way = direction_of(wall(checked.built, stud.host.key))
    mine = [(dot(m.start[:2], way), m) for m in checked.structure.in_host(stud.host, *UPRIGHTS)]
    mine.sort(key=lambda p: (p[0], p[1].id))
    first = last = next(i for i, (_, m) in enumerate(mine) if m.id == stud.id)
    reach = terms_of(checked.built).sections[stud.section].breadth + TOUCHING
    while first > 0 and mine[first][0] - mine[first - 1][0] <= reach:
        first -= 1
    while last + 1 < len(mine) and mine[last + 1][0] - mine[last][0] <= reach:
        last += 1
    return [m for _, m in mine[first : last + 1]]


def pressed_ends(checked: Checked) -> tuple[tuple[HeldEnd, Member, float], ...]:
    """How far the stud at each end is used when it is pushed, beside what comes down on it: compression
    and the plate under it. A stud without values, and an end without a stud, are left out."""
    on_walls = OnWalls(checked.built, checked.structure, checked.path)
    blown = terms_of(checked.built).timber.uplift(1)[2]
    found = []
    for end in turned_ends(checked):
        stud = stud_at(checked, end)
        if stud is None or end.pushes <= LEAST:
            continue
        push = Cases(wind=end.pushes / blown / len(_post_of(checked, stud)))
        checks = pushed_checks(checked.built, checked.structure, on_walls, stud, push)
        if checks:
            found.append((end, stud, max(c.ratio for c in checks)))
    return tuple(found)
