"""The placer of words: words that may lie elsewhere give way to each other, to bubbles, to strings of
dimensions and their figures. The same drawing gives the same places, on paper and on the screen."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.drawing.clearing import words_extent
from balken.drawing.marks import Disc, Drawing, Label, Mark, Stroke
from balken.geometry.plane import Point, add

STEP: Final = 2.6
"""Words are tried this far apart, mm of paper: about a line of them."""
FURTHEST: Final = 6
"""They go no further than so many steps."""
LED: Final = 4.5
"""Words that moved further than this are led back to their place by a line, mm of paper."""
ROOM: Final = 0.5
"""Between words and what they keep off, mm of paper."""
HEAVIER: Final = 1.12
"""Bold words are wider by this."""

Boxes = NDArray[np.float64]


def placed(drawing: Drawing, paper: float) -> Drawing:
    """A drawing whose movable words, those on a patch of paper of their own, lie clear of everything
    else that is written, and of bubbles and strings. What finds no room is left out: at a larger
    scale it has some.

    Args:
        drawing: strings, bubbles and words laid over a plan.
        paper: mm of building to a mm of paper.
    """
    drawing = _loosened(drawing, paper)
    groups = _groups(drawing)
    if not groups:
        return drawing
    moving = {id(label) for group in groups for label in group}
    taken = _boxes([b for m in drawing if id(m) not in moving for b in _fixed(m, paper)])
    found: dict[int, list[Mark]] = {}
    for group in sorted(groups, key=_rank):
        own = _boxes([_box(label, paper) for label in group])
        by = next((s for s in _shifts(paper) if _free(own, s, taken)), None)
        if by is not None:
            taken = np.vstack([taken, own + np.array([*by, *by])])
            found[id(group[0])] = _moved(group, by, paper)
    first = {id(group[0]) for group in groups}
    return tuple(
        mark
        for m in drawing
        for mark in (found.get(id(m), []) if id(m) in first else [] if id(m) in moving else [m])
    )


def _loosened(drawing: Drawing, paper: float) -> Drawing:
    """A drawing in which figures that would lie on others before them, where strings cross or are too dense,
    may move as other words do."""
    taken = np.empty((0, 4))
    found: list[Mark] = []
    for mark in drawing:
        if isinstance(mark, Label) and mark.text and not mark.boxed:
            own = np.array([words_extent(mark, paper)])
            if _free(own, (0.0, 0.0), taken):
                taken = np.vstack([taken, own])
            else:
                mark = replace(mark, boxed=True)
        found.append(mark)
    return tuple(found)


def _groups(drawing: Drawing) -> list[list[Label]]:
    """Movable words; lines of words about one thing that follow each other move together."""
    groups: list[list[Label]] = []
    before: Mark | None = None
    for mark in drawing:
        if isinstance(mark, Label) and mark.boxed and mark.text:
            together = (
                isinstance(before, Label)
                and before.boxed
                and before.key is not None
                and (before.key, before.anchor, before.angle) == (mark.key, mark.anchor, mark.angle)
                and before.at[0] == mark.at[0]
            )
            if together:
                groups[-1].append(mark)
            else:
                groups.append([mark])
        before = mark
    return groups


def _rank(group: Sequence[Label]) -> tuple[bool, bool]:
    """Who is placed first: bold words, then plain ones, quiet ones last."""
    return (not any(x.bold for x in group), all(x.quiet for x in group))


def _shifts(paper: float) -> Iterator[Point]:
    """Where words are tried, the nearest first: down and up before aside, for words are flat."""
    tried = sorted(
        (math.hypot(i * 1.6, j), -j, abs(i), i, j)
        for i in range(-FURTHEST, FURTHEST + 1)
        for j in range(-FURTHEST, FURTHEST + 1)
    )
    return ((i * 1.6 * STEP * paper, j * STEP * paper) for _, _, _, i, j in tried)


def _box(label: Label, paper: float) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = words_extent(label, paper)
    wider = (x1 - x0) * (HEAVIER - 1.0) / 2 if label.bold else 0.0
    room = ROOM * paper
    return x0 - wider - room, y0 - room, x1 + wider + room, y1 + room


def _fixed(mark: Mark, paper: float) -> Iterator[tuple[float, float, float, float]]:
    """What stays where it is and is kept clear: figures, bubbles, strings."""
    if isinstance(mark, Label):
        if mark.text:
            yield _box(mark, paper)
    elif isinstance(mark, Disc):
        (x, y), r = mark.centre, mark.radius * paper
        yield x - r, y - r, x + r, y + r
    elif isinstance(mark, Stroke) and mark.pen == "hair":
        for (ax, ay), (bx, by) in zip(mark.points, mark.points[1:]):
            yield min(ax, bx), min(ay, by), max(ax, bx), max(ay, by)


def _boxes(found: Sequence[tuple[float, float, float, float]]) -> Boxes:
    return np.array(found, dtype=float).reshape(-1, 4)


def _free(own: Boxes, by: Point, taken: Boxes) -> bool:
    """Whether boxes lie clear of all others when they are shifted."""
    for x0, y0, x1, y1 in own + np.array([*by, *by]):
        over = (taken[:, 0] < x1) & (x0 < taken[:, 2]) & (taken[:, 1] < y1) & (y0 < taken[:, 3])
        if over.any():
            return False
    return True


def _moved(group: Sequence[Label], by: Point, paper: float) -> list[Mark]:
    """Words at their place, with a line back where that is far."""
    labels: list[Mark] = [replace(x, at=add(x.at, by)) for x in group]
    if math.hypot(*by) <= LED * paper:
        return labels
    x0, y0, x1, y1 = _box(replace(group[0], at=add(group[0].at, by)), paper)
    at = group[0].at
    end = (min(max(at[0], x0), x1), min(max(at[1], y0), y1))
    return [Stroke((at, end), "beyond"), *labels]
