"""A right-angled outline as rectangles: the largest, and what stands out from it, each with one
side on what is there already."""

import math
from collections.abc import Sequence
from typing import Any, Final, NamedTuple

from balken.geometry.parts import polygons_in
from balken.geometry.plane import EXACT, Point, Ring, edges, rotate, sub

SQUARE: Final = 1e-3
"""Sides this near to square, in sine, are."""
HAIR: Final = 0.5
"""Corners this near to one another lie in one line, mm."""
MOST: Final = 24
"""Outlines of more corners are not divided."""


class Cell(NamedTuple):
    """A rectangle, counter-clockwise, and the number of its side that lies on an earlier one; none
    of the first."""

    ring: Ring
    onto: int | None


def rectangles_of(ring: Ring) -> tuple[Cell, ...]:
    """An outline divided into rectangles, the largest first; nothing where its corners are
    not square or are too many, or where no rectangle would lie on another with a whole side."""
    if len(ring) > MOST:
        return ()
    first = sub(ring[1], ring[0])
    angle = math.atan2(first[1], first[0])
    local = [rotate(p, -angle) for p in ring]
    if not _is_square(local):
        return ()
    from shapely import Polygon, box

    left = Polygon(local)
    found: list[Any] = []
    cells: list[Cell] = []
    while left.area > HAIR * left.length:
        best = _largest(left, found)
        if best is None:
            return ()
        corners, onto = best
        found.append(box(*corners[0], *corners[2]))
        cells.append(Cell(tuple(rotate(p, angle) for p in corners), onto))
        left = left.difference(found[-1].buffer(EXACT, join_style="mitre"))
    return tuple(cells)


def _is_square(ring: Sequence[Point]) -> bool:
    """Whether all sides of an outline run along the axes."""
    sides = [sub(b, a) for a, b in edges(ring)]
    return all(min(abs(x), abs(y)) <= SQUARE * math.hypot(x, y) for x, y in sides)


def _largest(left: Any, found: list[Any]) -> tuple[Ring, int | None] | None:
    """The largest rectangle in what is left that lies on one found before with a whole side, and
    that side's number; None where there is none."""
    best: tuple[tuple[int, float], Ring, int | None] | None = None
    for x0, y0, x1, y1 in (b for piece in polygons_in(left) for b in _boxes(piece)):
        corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
        sides = enumerate(edges(corners))
        onto = next((n for n, (a, b) in sides if _lies_on(a, b, found)), None)
        rank = (round((x1 - x0) * (y1 - y0)), max(x1 - x0, y1 - y0))
        if (onto is not None or not found) and (best is None or rank > best[0]):
            best = (rank, corners, onto)
    return None if best is None else best[1:]


def _boxes(piece: Any) -> list[tuple[float, float, float, float]]:
    """The boxes between the corners of a shape that lie inside it."""
    from shapely import box

    xs, ys = (_apart(sorted(values)) for values in zip(*piece.exterior.coords[:-1]))
    held = piece.buffer(HAIR, join_style="mitre")
    return [
        (x0, y0, x1, y1)
        for i, x0 in enumerate(xs)
        for x1 in xs[i + 1 :]
        for k, y0 in enumerate(ys)
        for y1 in ys[k + 1 :]
        if held.covers(box(x0, y0, x1, y1))
    ]


def _apart(values: list[float]) -> list[float]:
    found: list[float] = []
    for v in values:
        if not found or v - found[-1] > HAIR:
            found.append(v)
    return found


def _lies_on(a: Point, b: Point, found: list[Any]) -> bool:
    """Whether a side lies on one of some rectangles, whole."""
    from shapely import LineString

    side = LineString([a, b])
    return any(side.within(f.exterior.buffer(HAIR)) for f in found)
