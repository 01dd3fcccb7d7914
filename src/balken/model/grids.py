"""Grids: straight lines both ways, or rings and rays, about an origin; where their lines lie and
cross.

A straight line runs along the grid's ``x`` or ``y`` at a distance from the origin. A ring is part
of a circle about the origin; a ray runs out from the origin. Angles in degrees, to the left.
"""

import math
from collections.abc import Iterator
from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.geometry.plane import EXACT, Point, cross, distance, meet, rotate, sub, unit
from balken.model.named import named
from balken.model.record import Coordinate, Key, Name, Place, Record, Shift, Turn

Heads = Literal["start", "end", "both", "none"]
Runs = Literal["x", "y", "ring", "ray"]
RING_STEP: Final = math.radians(3.0)
"""A ring is drawn with a point at least this often, radians."""


class GridLine(Record, frozen=True):
    """One line of a grid.

    ``offset`` is the distance from the origin for ``x`` and ``y``, the radius of a ring, or the
    angle of a ray in degrees. ``start`` and ``end`` bound it along its run: mm, or degrees for a
    ring.
    """

    id: Key
    label: Annotated[str, Meta(min_length=1, max_length=20)]
    runs: Runs
    offset: Coordinate
    start: Coordinate
    end: Coordinate
    heads: Heads = "start"
    """Where its label stands; the start is the end at the left or at the top of a plan."""
    held: bool = False
    """A held line stays where it is when others are moved."""
    elbow: Shift = 0.0
    """The head moved aside by this many mm of paper, along the row of heads."""


class Grid(Record, frozen=True):
    """Lines about an origin; ``angle`` turns the whole. ``string`` and ``overall`` are the
    distances of its dimension strings from the building, mm of paper; zero for none."""

    id: Key
    origin: Place
    angle: Turn
    lines: Annotated[tuple[GridLine, ...], Meta(max_length=1000)]
    name: Name = ""
    string: Annotated[float, Meta(ge=0, le=200)] = 8.0
    overall: Annotated[float, Meta(ge=0, le=200)] = 0.0


def to_plan(grid: Grid, p: Point) -> Point:
    """A place measured along the grid in the plan of the building."""
    x, y = rotate(p, math.radians(grid.angle))
    return (grid.origin[0] + x, grid.origin[1] + y)


def to_grid(grid: Grid, p: Point) -> Point:
    """A place of the plan measured along the grid from its origin."""
    return rotate(sub(p, grid.origin), -math.radians(grid.angle))


def line_points(grid: Grid, line: GridLine) -> tuple[Point, ...]:
    """The points a grid line is drawn through: two, or as many as a ring needs to look
    round."""
    if line.runs == "ring":
        a, b = math.radians(line.start), math.radians(line.end)
        steps = max(2, math.ceil((b - a) / RING_STEP))
        angles = [a + (b - a) * i / steps for i in range(steps + 1)]
        return tuple(
            to_plan(grid, (line.offset * math.cos(t), line.offset * math.sin(t))) for t in angles
        )
    if line.runs == "ray":
        t = math.radians(line.offset)
        ends = [(r * math.cos(t), r * math.sin(t)) for r in (line.start, line.end)]
    elif line.runs == "x":
        ends = [(line.start, line.offset), (line.end, line.offset)]
    else:
        ends = [(line.offset, line.start), (line.offset, line.end)]
    return tuple(to_plan(grid, p) for p in ends)


def grid_ends(grid: Grid, line: GridLine) -> tuple[Point, Point]:
    """Both ends of a grid line in the plan of the building."""
    points = line_points(grid, line)
    return points[0], points[-1]


def crossing(grid: Grid, a: GridLine, b: GridLine) -> Point | None:
    """Where two lines of a grid cross, in the plan; None where they run alike or miss each
    other."""
    if "ring" in (a.runs, b.runs):
        return _on_ring(grid, a, b) if a.runs == "ring" else _on_ring(grid, b, a)
    if a.runs == b.runs:
        return None
    if {a.runs, b.runs} == {"x", "y"}:
        along, across = (a, b) if a.runs == "x" else (b, a)
        return to_plan(grid, (across.offset, along.offset))
    (p, q), (r, s) = grid_ends(grid, a), grid_ends(grid, b)
    if min(distance(p, q), distance(r, s)) < EXACT:
        return None
    d, e = unit(sub(q, p)), unit(sub(s, r))
    return None if abs(cross(d, e)) < 1e-3 else meet(p, d, r, e)


def _on_ring(grid: Grid, ring: GridLine, other: GridLine) -> Point | None:
    """Where a ray crosses a ring; None where another line would, or past the ring's end."""
    if other.runs != "ray" or not _within_turn(other.offset, ring):
        return None
    t = math.radians(other.offset)
    return to_plan(grid, (ring.offset * math.cos(t), ring.offset * math.sin(t)))


def _within_turn(angle: float, ring: GridLine) -> bool:
    """Whether an angle lies on a ring, whole turns apart."""
    over = (angle - ring.start) % 360
    return over <= ring.end - ring.start + 1e-6 or over >= 360 - 1e-6


def grid_crossings(grid: Grid) -> Iterator[tuple[GridLine, GridLine, Point]]:
    """Yield each crossing of a grid once: the line along x or round first, then the line along y or
    out."""
    along = [x for x in grid.lines if x.runs in ("x", "ring")]
    across = [x for x in grid.lines if x.runs in ("y", "ray")]
    for a in along:
        for b in across:
            point = crossing(grid, a, b)
            if point:
                yield a, b, point


def grid_line(grid: Grid, key: str) -> GridLine:
    """A line of a grid by its key."""
    return named(grid.lines, key, "grid line")


def row_of(grid: Grid, runs: Runs) -> tuple[GridLine, ...]:
    """The lines of a grid that run one way, in the order of their offset."""
    return tuple(sorted((x for x in grid.lines if x.runs == runs), key=lambda x: (x.offset, x.id)))
