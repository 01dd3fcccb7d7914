"""What gives way on paper: contours of the ground end before dimension strings and the words beside
them."""

import math
from collections.abc import Iterable

from shapely import LineString, Point, box, union_all
from shapely.affinity import rotate
from shapely.geometry.base import BaseGeometry

from balken.drawing.marks import Drawing, Label, Mark, Stroke
from balken.geometry.parts import lines_in

LETTER = 0.55
"""Width of a letter over its height, about."""
ROOM = 1.2
"""Contours keep this far from what they give way to, mm of paper."""


def words_box(label: Label, paper: float) -> BaseGeometry:
    """The place a label's words take in the plan, at so many mm of building to a mm of
    paper."""
    wide, high = LETTER * label.size * len(label.text) * paper, label.size * paper
    x, y = label.at
    x0 = {"start": x, "middle": x - wide / 2, "end": x - wide}[label.anchor]
    found: BaseGeometry = rotate(box(x0, y, x0 + wide, y + high), label.angle, origin=(x, y))
    return found


def words_extent(label: Label, paper: float) -> tuple[float, float, float, float]:
    """The box round that place, along the axes of the plan: x0, y0, x1, y1."""
    wide, high = LETTER * label.size * len(label.text) * paper, label.size * paper
    x0 = {"start": 0.0, "middle": -wide / 2, "end": -wide}[label.anchor]
    turn = math.radians(label.angle)
    c, s = math.cos(turn), math.sin(turn)
    corners = [(x, y) for x in (x0, x0 + wide) for y in (0.0, high)]
    xs = [label.at[0] + x * c - y * s for x, y in corners]
    ys = [label.at[1] + x * s + y * c for x, y in corners]
    return min(xs), min(ys), max(xs), max(ys)


def without_contours_under(lines: Drawing, notes: Drawing, paper: float) -> Drawing:
    """The lines of a ground plan whose contours and heights end before dimensions and their
    words.

    Args:
        lines: of the plan; contours are its strokes of what lies beyond.
        notes: strings, heads and words that are laid over it.
        paper: mm of building to a mm of paper.
    """
    taken = union_all(list(_taken(notes, paper)))
    left = [piece for mark in lines for piece in _giving_way(mark, taken, paper)]
    return tuple(_apart(left, paper))


def _apart(lines: Iterable[Mark], paper: float) -> Iterable[Mark]:
    """Heights of contours that lie on no others: the first of two that do is kept."""
    kept: list[BaseGeometry] = []
    for mark in lines:
        if isinstance(mark, Label) and mark.boxed:
            place = words_box(mark, paper)
            if any(place.intersects(other) for other in kept):
                continue
            kept.append(place)
        yield mark


def _taken(notes: Drawing, paper: float) -> Iterable[BaseGeometry]:
    for mark in notes:
        if isinstance(mark, Label):
            yield words_box(mark, paper).buffer(ROOM * paper)
        elif isinstance(mark, Stroke) and mark.pen == "hair" and len(mark.points) > 1:
            yield LineString(mark.points).buffer(ROOM * paper)


def _giving_way(mark: Mark, taken: BaseGeometry, paper: float) -> Iterable[Mark]:
    if isinstance(mark, Label):
        if not _hides(mark, taken, paper):
            yield mark
    elif isinstance(mark, Stroke) and mark.pen == "beyond" and len(mark.points) > 1:
        for piece in lines_in(LineString(mark.points).difference(taken), 2 * ROOM * paper):
            yield Stroke(tuple((float(x), float(y)) for x, y in piece.coords), mark.pen, mark.key)
    else:
        yield mark


def _hides(label: Label, taken: BaseGeometry, paper: float) -> bool:
    """Whether a label that gives way lies on what is taken."""
    if label.boxed and taken.intersects(words_box(label, paper)):
        return True
    return label.text == "+" and bool(taken.contains(Point(label.at)))


def with_words(drawing: Drawing, paper: float) -> tuple[float, float, float, float]:
    """The box round all words of a drawing; without any, a box of nothing at infinity."""
    boxes = [words_extent(m, paper) for m in drawing if isinstance(m, Label) and m.text]
    if not boxes:
        return math.inf, math.inf, -math.inf, -math.inf
    return (
        min(b[0] for b in boxes),
        min(b[1] for b in boxes),
        max(b[2] for b in boxes),
        max(b[3] for b in boxes),
    )
