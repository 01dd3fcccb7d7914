"""A right-angled outline as rectangles: the largest, and what stands out from it, each with one
side on what is there already."""

import math
from typing import Any, Final, NamedTuple

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
    for a, b in edges(local):
        x, y = sub(b, a)
        if min(abs(x), abs(y)) > SQUARE * math.hypot(x, y):
            return ()
    from shapely import Polygon, box

    left = Polygon(local)
    found: list[Any] = []
    cells: list[Cell] = []
    while left.area > HAIR * left.length:
        best = None
        for piece in getattr(left, "geoms", [left]):
            for x0, y0, x1, y1 in _boxes(piece):
                corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
                onto = next(
                    (n for n in range(4) if _lies_on(corners[n], corners[(n + 1) % 4], found)), None
                )
                if found and onto is None:
                    continue
                size = (x1 - x0) * (y1 - y0)
                rank = (round(size), max(x1 - x0, y1 - y0))
                if best is None or rank > best[0]:
                    best = (rank, corners, onto)
        if best is None:
            return ()
        _, corners, onto = best
        found.append(box(*corners[0], *corners[2]))
        cells.append(Cell(tuple(rotate(p, angle) for p in corners), onto))
        left = left.difference(found[-1].buffer(EXACT, join_style="mitre"))
    return tuple(cells)


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
