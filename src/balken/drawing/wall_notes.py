"""What is written round the walls of a storey: strings for openings along every side of its outline, wings
too, and the marks of openings, posts and kinds of walls. Text and distances in mm of paper."""

from collections.abc import Iterator, Sequence
from typing import Final

from balken.drawing.dimensions import chain
from balken.drawing.marks import Label, Mark
from balken.drawing.tiers import Tier
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, add, cross, distance, dot, left, middle_of, sub, unit
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.model.walls import Wall, arc_middle, direction_of, reach
from balken.site.bodies import storey_outline, storey_walls
from balken.units import System
from balken.works.building import Checked

NEAREST: Final = 9.0
"""The string of openings stands so far outside the face."""
NEXT: Final = 7.0
"""And the one of the whole side so much further."""
SHORT: Final = 600.0
"""No string is drawn along a shorter side, mm of building."""
ON_FACE: Final = 30.0
"""An opening whose wall's face lies this near to a side belongs to it, mm of building."""
MARK: Final = 2.5


def outline_strings(project: Project, tier: Tier, paper: float) -> Iterator[Mark]:
    """Along each side of the outline of a storey what lies in it, then its whole length."""
    walls = storey_walls(project, tier.walls_on)
    outline = storey_outline(walls)
    if outline is None:
        return
    for a, b in sides_of(outline):
        yield from side_strings((a, b), _openings_on(walls, a, b), paper, project.system)


def side_strings(
    side: tuple[Point, Point], places: Sequence[float], paper: float, system: System
) -> Iterator[Mark]:
    """A string of what lies in a side, its outside at the right, then one of its whole length.

    Args:
        side: from end to end.
        places: mm from where it begins.
        paper: mm of building to a mm of paper.
        system: of the words.
    """
    a, b = side
    way = unit(sub(b, a))
    out = (way[1], -way[0])
    if places:
        points = [a, b, *(add(a, way, s) for s in places)]
        yield from chain(_once(points), out, NEAREST * paper, paper, system)
    away = NEAREST + NEXT if places else NEAREST
    yield from chain([a, b], out, away * paper, paper, system)


def whole_sides(project: Project, tier: Tier) -> list[float]:
    """The lengths of the sides that have a string of their own, mm; none but on plans of walls."""
    outline = storey_outline(storey_walls(project, tier.walls_on)) if tier.kind == "walls" else None
    return [distance(a, b) for a, b in sides_of(outline)] if outline is not None else []


def room_for_strings(project: Project, tier: Tier, paper: float) -> float:
    """How far these strings reach outside the walls, mm of building."""
    there = (
        tier.kind == "walls" and storey_outline(storey_walls(project, tier.walls_on)) is not None
    )
    return (NEAREST + NEXT + 5.0) * paper if there else 0.0


def sides_of(outline: Ring) -> Iterator[tuple[Point, Point]]:
    """The long sides of an outline, counter-clockwise, corners in one line taken together."""
    ring = list(outline)
    area = sum(cross(p, q) for p, q in zip(ring, [*ring[1:], ring[0]]))
    if area < 0:
        ring.reverse()
    corners = [
        p
        for before, p, after in zip([ring[-1], *ring[:-1]], ring, [*ring[1:], ring[0]])
        if abs(cross(unit(sub(p, before)), unit(sub(after, p)))) > 1e-3
    ]
    for a, b in zip(corners, [*corners[1:], *corners[:1]]):
        if distance(a, b) >= SHORT:
            yield a, b


def _openings_on(walls: Sequence[Wall], a: Point, b: Point) -> list[float]:
    """The jambs of openings along a side, mm from where it begins."""
    way, found = unit(sub(b, a)), []
    for w in walls:
        along = direction_of(w)
        if abs(cross(along, way)) > 1e-3:
            continue
        faces = [dot(sub(add(w.start, left(along), f), a), left(way)) for f in reach(w)]
        if min(abs(f) for f in faces) > ON_FACE:
            continue
        for hole in w.openings:
            jambs = [
                dot(sub(add(w.start, along, s), a), way) for s in (hole.at, hole.at + hole.width)
            ]
            if max(jambs) > 0 and min(jambs) < distance(a, b):
                found += jambs
    return found


def _once(points: Sequence[Point]) -> list[Point]:
    kept: list[Point] = []
    for p in points:
        if all(distance(p, q) > 1.0 for q in kept):
            kept.append(p)
    return kept


def wall_marks(checked: Checked, tier: Tier, paper: float) -> Iterator[Mark]:
    """Marks of openings beside them, of kinds of walls on them, of posts; as in the schedules."""
    project = checked.project
    for w in (w for w in project.walls if w.base == tier.walls_on):
        normal = left(direction_of(w))
        high, low = reach(w)
        inside = high if w.side == "left" else low
        step = (inside / abs(inside) if inside else 1.0) * 2.2 * paper
        if w.build_up:
            at = add(arc_middle(w), normal, inside + 2.4 * step)
            yield Label(w.build_up, at, MARK, bold=True, boxed=True, key=HostName("wall", w.id))
        for hole in w.openings if not w.bulge else ():
            middle = add(w.start, direction_of(w), hole.at + hole.width / 2)
            at = add(middle, normal, inside + step)
            yield Label(hole.id, at, MARK, boxed=True, key=ThingName("opening", w.id, hole.id))
    for m in checked.structure.of(kinds.POST):
        if stands_in(m, tier):
            at = add(middle_of(m.start[:2], m.end[:2]), (1.0, 0.0), 4.0 * paper)
            yield Label(m.mark, at, MARK, "start", bold=True, boxed=True, key=m.id)


def stands_in(post: Member, tier: Tier) -> bool:
    """Whether most of a post, or of what there is of a storey, is the other's."""
    low, high = post.start[2], post.end[2]
    shared = min(high, tier.high) - max(low, tier.low)
    return shared >= min(high - low, tier.high - tier.low) / 2
