"""What of a plan is shown when all of it is: how far it reaches, and the scale and shift that bring it on the
board with room for strings and heads of grids."""

from collections.abc import Sequence
from typing import Final

from PySide6.QtCore import QPointF

from balken.drawing.marks import Drawing, extent
from balken.model.grids import Grid, grid_crossings, grid_ends, line_points

Box = tuple[float, float, float, float]
"""Left, lower, right and upper end, mm."""
EMPTY: Final[Box] = (-2000.0, -2000.0, 14000.0, 10000.0)
"""What is shown of an empty plan, mm."""
LEAST_BESIDE: Final = (104.0, 72.0, 104.0, 70.0)
"""At the left, the right, over and under what is shown, px at the least: for heads of grids and strings."""
FOR_WORDS: Final = 26.0
"""Beside strings, px; heads of grids and sections may lie outside: they are seen after zooming."""
LEAST_ROOM: Final = 60.0
"""A plan is shown at least so large, px."""
SMALLEST: Final = 1e-5
"""No plan is shown smaller, px to a mm."""


def extent_of_plan(lines: Drawing, grids: Sequence[Grid]) -> Box | None:
    """How far walls, members and grids reach: straight grids to their crossings, round ones to their ends;
    None where there is nothing."""
    box = extent(lines)
    places = [p for g in grids for _, _, p in grid_crossings(g)]
    places += [
        p for g in grids for x in g.lines if x.runs in ("ring", "ray") for p in line_points(g, x)
    ]
    if not places and not box:
        places = [p for g in grids for x in g.lines for p in grid_ends(g, x)]
    places += [] if box is None else [(box[0], box[1]), (box[2], box[3])]
    if not places:
        return None
    xs, ys = [p[0] for p in places], [p[1] for p in places]
    return min(xs), min(ys), max(xs), max(ys)


def fitted(
    box: Box, size: tuple[float, float], beside: Sequence[float] = LEAST_BESIDE
) -> tuple[float, QPointF]:
    """The scale, px to a mm, and the pixel of the plan's origin, that show a box.

    Args:
        box: to be shown.
        size: of the board, px.
        beside: room at its left, its right, over it and under it, px.
    """
    x0, y0, x1, y1 = box
    left, right, over, under = beside
    wide = max(LEAST_ROOM, size[0] - left - right)
    high = max(LEAST_ROOM, size[1] - over - under)
    scale = max(SMALLEST, min(wide / max(x1 - x0, 1.0), high / max(y1 - y0, 1.0)))
    return scale, QPointF(
        left + (wide - (x1 - x0) * scale) / 2 - x0 * scale,
        over + (high - (y1 - y0) * scale) / 2 + y1 * scale,
    )


def beside_strings(box: Box, strings: Box, scale: float) -> tuple[float, ...]:
    """The room that strings take beside a box, px."""
    past = (box[0] - strings[0], strings[2] - box[2], strings[3] - box[3], box[1] - strings[1])
    return tuple(max(least, FOR_WORDS + scale * p) for least, p in zip(LEAST_BESIDE, past))
