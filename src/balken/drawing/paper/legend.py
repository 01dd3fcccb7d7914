"""The legend of a set: what its lines and hatches mean, of those alone that are drawn. mm of paper."""

from collections.abc import Iterable
from typing import Final, NamedTuple

from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Pen, Stroke, rectangle
from balken.drawing.paper.tables import LETTER, TEXT, TITLE

LINES: Final[tuple[tuple[Pen, str], ...]] = (
    ("cut", "cut"),
    ("seen", "seen"),
    ("beyond", "seen beyond"),
    ("hidden", "hidden, or an opening by its diagonals"),
    ("centre", "grid line, middle"),
)
FILLS: Final[tuple[tuple[Fill, str], ...]] = (
    ("concrete", "concrete"),
    ("timber", "lumber, glued wood"),
    ("steel", "rolled steel"),
    ("end grain", "end of a piece"),
    ("panel", "wood panel"),
    ("board", "gypsum board"),
    ("block", "block"),
    ("insulation", "insulation"),
    ("wall", "wall"),
    ("earth", "ground"),
)
SAMPLE: Final = (14.0, 5.0)
"""Width and height of what stands before its words."""
PACE: Final = 8.0


class Used(NamedTuple):
    """Which lines and fills are drawn."""

    pens: frozenset[str]
    fills: frozenset[str]


def used_in(drawings: Iterable[Drawing]) -> Used:
    """The lines and fills of drawings."""
    pens: set[str] = set()
    fills: set[str] = set()
    for drawing in drawings:
        for mark in drawing:
            if isinstance(mark, Stroke | Patch):
                pens.add(mark.pen)
            if isinstance(mark, Patch):
                fills.add(mark.fill)
    return Used(frozenset(pens), frozenset(fills))


def legend_of(used: Used) -> Drawing:
    """Samples of what is used with their words, the upper left corner at nothing; nothing of nothing."""
    if not rows_of(used):
        return ()
    wide, tall = SAMPLE
    marks: list[Mark] = [Label("Legend", (0.0, -TITLE), TITLE, "start", bold=True)]
    y = -TITLE - 2.0
    for pen, words in LINES:
        if pen in used.pens:
            y -= PACE
            marks.append(Stroke(((0.0, y + tall / 2), (wide, y + tall / 2)), pen))
            marks.append(_beside(words, y))
    for fill, words in FILLS:
        if fill in used.fills:
            y -= PACE
            marks.append(Patch(rectangle(0.0, y, wide, y + tall), fill, "seen"))
            marks.append(_beside(words, y))
    return tuple(marks)


def _beside(words: str, y: float) -> Label:
    return Label(words, (SAMPLE[0] + 3.0, y + (SAMPLE[1] - TEXT) / 2 + 0.4), TEXT, "start")


def rows_of(used: Used) -> int:
    """How many rows a legend has."""
    pens = sum(pen in used.pens for pen, _ in LINES)
    return pens + sum(fill in used.fills for fill, _ in FILLS)


def size_of_legend(used: Used) -> tuple[float, float]:
    """Width and height, mm."""
    if not rows_of(used):
        return 0.0, 0.0
    longest = max(len(words) for _, words in (*LINES, *FILLS))
    return SAMPLE[0] + 3.0 + longest * TEXT * LETTER, TITLE + 2.0 + rows_of(used) * PACE
