"""Strings through the rooms of a storey: from face to face of the walls inside, so that each of them is
set out along the building and across it."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from shapely import LinearRing
from shapely import Point as Spot

from balken.drawing.dimensions import Frame, chain
from balken.drawing.marks import Mark
from balken.drawing.tiers import Tier
from balken.geometry.plane import Point, Ring, box, cross, dot, left, middle_of, rotate
from balken.model.project import Project
from balken.model.walls import Wall, direction_of
from balken.recall import remembered
from balken.site.bodies import bodies, lie_of, storey_outline, storey_walls

TRIED: Final = (0.5, 0.35, 0.65, 0.2, 0.8)
"""Where along a wall a string may cross it, in shares of its length."""
INSIDE: Final = 0.8
"""A wall whose middle lies so many of its thicknesses inside the outline stands inside."""
SQUARE: Final = 1e-3
"""Walls run along or across the building within this, radians."""
MOST: Final = 250
"""Storeys with more walls are set out by their grid."""


class Across(NamedTuple):
    """A wall that a string can cross, measured along the string and across it, mm."""

    low: float
    high: float
    first: float
    last: float
    inside: bool


class RoomString(NamedTuple):
    """A string: which way it runs along the building, 0 or 1, where, and the faces on it, mm."""

    axis: int
    at: float
    places: tuple[float, ...]


def room_strings(project: Project, tier: Tier, frame: Frame, paper: float) -> Iterator[Mark]:
    """The strings inside a storey.

    Args:
        project: the building.
        tier: of walls.
        frame: round the plan.
        paper: mm of building to a mm of paper.
    """
    walls = storey_walls(project, tier.walls_on)
    for string in rooms_of(walls, lie_of(project, walls)):
        points = [frame.plan(_turned((x, string.at), string.axis)) for x in string.places]
        out = (frame.up, (-frame.right[0], -frame.right[1]))[string.axis]
        yield from chain(points, out, 0.0, paper, project.system)


def _turned(p: Point, axis: int) -> Point:
    """A place along and across a string as one along and up the frame, and the other way round."""
    return (p[1], p[0]) if axis else p


@remembered
def rooms_of(walls: tuple[Wall, ...], turn: float) -> tuple[RoomString, ...]:
    """The fewest strings, found one after the other, that cross every wall inside: each crosses as many
    that none has crossed as it can.

    Args:
        walls: of a storey, straight.
        turn: how the building lies, radians.
    """
    outline = storey_outline(walls)
    if outline is None or len(walls) > MOST:
        return ()
    rings = {k: tuple(rotate(p, -turn) for p in b.ring) for k, b in bodies(walls).items()}
    round_it = LinearRing([rotate(p, -turn) for p in outline])
    return tuple(s for axis in (0, 1) for s in _along(walls, rings, round_it, (turn, axis)))


def _along(
    walls: Sequence[Wall], rings: dict[str, Ring], outline: LinearRing, way: tuple[float, int]
) -> Iterator[RoomString]:
    """Strings that run one way."""
    turn, axis = way
    along = rotate((1.0, 0.0), turn) if axis == 0 else left(rotate((1.0, 0.0), turn))
    crossing: list[Across] = []
    beside: list[Across] = []
    for w in walls:
        ring = [_turned(p, axis) for p in rings[w.id]]
        x0, y0, x1, y1 = box(ring)
        middle = middle_of((x0, y0), (x1, y1))
        deep = outline.distance(Spot(_turned(middle, axis)))
        item = Across(x0, x1, y0, y1, deep > INSIDE * w.thickness)
        if abs(dot(direction_of(w), along)) < SQUARE:
            crossing.append(item)
        elif abs(cross(direction_of(w), along)) < SQUARE:
            beside.append(item)
    told: set[Across] = set()
    while open_walls := [c for c in crossing if c.inside and c not in told]:
        best = _best(open_walls, crossing, beside)
        if best is None:
            return
        at, met = best
        told |= set(met)
        faces = [x for c in sorted(met) for x in (c.low, c.high)]
        yield RoomString(axis, at, tuple(faces[1:-1]))


def _best(
    open_walls: Sequence[Across], crossing: Sequence[Across], beside: Sequence[Across]
) -> tuple[float, list[Across]] | None:
    """Where a string crosses most walls that none has crossed yet, and all that it crosses."""
    found: tuple[float, list[Across]] | None = None
    most = 0
    for one in open_walls:
        for share in TRIED:
            at = one.first + share * (one.last - one.first)
            met = [c for c in crossing if c.first < at < c.last]
            in_the_way = met and any(
                _lies_along(b, at, min(met).low, max(met).high) for b in beside
            )
            from_outside = len(met) > 2 and not min(met).inside and not max(met).inside
            count = sum(c in met for c in open_walls)
            if from_outside and not in_the_way and count > most:
                found, most = (at, met), count
    return found


def _lies_along(wall: Across, at: float, low: float, high: float) -> bool:
    """Whether a string between two places would run in a wall, or right beside it."""
    room = wall.last - wall.first
    near = wall.first - room < at < wall.last + room
    return near and wall.low < high and low < wall.high
