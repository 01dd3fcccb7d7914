"""Views that are larger than their paper go on over several sheets: cut along match lines, each of which
names the sheet that the view goes on on."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final

from msgspec.structs import replace

from balken.drawing.clearing import with_words
from balken.drawing.cut import Window
from balken.drawing.details import clipped_to
from balken.drawing.marks import Disc, Drawing, Label, Mark, Stroke
from balken.drawing.paper.column import room_of
from balken.drawing.paper.fitting import UNDER, Fitted
from balken.drawing.paper.sizes import Size
from balken.drawing.section_marks import REFERENCE
from balken.geometry.plane import Point

SPARE: Final = 14.0
"""Room for what is written along match lines, mm of paper."""
TEXT: Final = 3.5


def in_parts(f: Fitted, paper: Size) -> list[Fitted]:
    """A view as it is where it fits on a sheet, else in parts of one size, row by row from the top left."""
    left, foot, right, top = room_of(paper.width, paper.height)
    wide, tall = right - left - SPARE, top - foot - UNDER - SPARE
    x0, y0, x1, y1 = f.box
    across = math.ceil((x1 - x0) / wide) if f.width > right - left else 1
    down = math.ceil((y1 - y0) / tall) if f.height > top - foot else 1
    if across * down == 1:
        return [f]
    xs = [x0 + (x1 - x0) * k / across for k in range(across + 1)]
    ys = [y1 - (y1 - y0) * k / down for k in range(down + 1)]
    windows = [(a, d, b, c) for c, d in pairwise(ys) for a, b in pairwise(xs)]
    return [_part(f, windows, n) for n in range(len(windows))]


def _part(f: Fitted, windows: Sequence[Window], n: int) -> Fitted:
    """One part: what lies in its window, mm of paper from the view's origin, with its match lines."""
    ratio = f.scale.ratio
    box = windows[n]
    x0, y0, x1, y1 = (v * ratio for v in box)
    inside = tuple(_inside(f.drawing, (x0, y0, x1, y1)))
    drawing = (*inside, *_match_lines(f, windows, n))
    words = with_words(drawing, ratio)
    reach = (
        min(box[0], words[0] / ratio),
        min(box[1], words[1] / ratio),
        max(box[2], words[2] / ratio),
        max(box[3], words[3] / ratio),
    )
    title = f"{f.view.title}, part {n + 1} of {len(windows)}"
    view = f.view._replace(key=part_key(f.view.key, n), title=title)
    return f._replace(view=view, drawing=drawing, box=reach)


def part_key(key: str, n: int) -> str:
    """The lasting name of a part of a view; the first has that of the view."""
    return f"{key}#{n + 1}" if n else key


def _inside(drawing: Drawing, window: Window) -> Iterator[Mark]:
    """What lies in a window: lines and fills cut off at its rim, words and bubbles by their place."""
    x0, y0, x1, y1 = window

    def holds(p: Point) -> bool:
        return x0 <= p[0] < x1 and y0 <= p[1] < y1

    for mark in drawing:
        if isinstance(mark, Label):
            if holds(mark.at):
                yield mark
        elif isinstance(mark, Disc):
            if holds(mark.centre):
                yield mark
        else:
            yield from clipped_to((mark,), window)


def _match_lines(f: Fitted, windows: Sequence[Window], n: int) -> Iterator[Mark]:
    """Along each side of a part beyond which the view goes on: a heavy line, and on which sheet."""
    ratio = f.scale.ratio
    for k, other in enumerate(windows):
        shared = _shared_side(windows[n], other) if k != n else None
        if shared is None:
            continue
        (ax, ay), (bx, by) = ((x * ratio, y * ratio) for x, y in shared)
        yield Stroke(((ax, ay), (bx, by)), "cut")
        upright = abs(ax - bx) < 1e-6
        words = f"match line, goes on on {REFERENCE}{part_key(f.view.key, k)}"
        at = ((ax + bx) / 2, (ay + by) / 2)
        middle = (windows[n][0] + windows[n][2]) / 2, (windows[n][1] + windows[n][3]) / 2
        # Upright words run upwards, their foot at the right: both stand outside the part.
        beyond = at[0] > middle[0] * ratio if upright else at[1] < middle[1] * ratio
        off = (TEXT + 1.5 if beyond else -1.5) * ratio
        place = (at[0] + off, at[1]) if upright else (at[0], at[1] - off)
        yield Label(words, place, TEXT, angle=90.0 if upright else 0.0, bold=True)


def _shared_side(a: Window, b: Window) -> tuple[Point, Point] | None:
    """The side that two parts beside one another share; None of others."""
    if a[1] == b[1]:
        for x, other in ((a[2], b[0]), (a[0], b[2])):
            if abs(x - other) < 1e-6:
                return (x, a[1]), (x, a[3])
    if a[0] == b[0]:
        for y, other in ((a[3], b[1]), (a[1], b[3])):
            if abs(y - other) < 1e-6:
                return (a[0], y), (a[2], y)
    return None


def named(mark: Mark, lies_on: dict[str, str]) -> Mark:
    """A mark with the number of the sheet that it stands for in its words."""
    if not isinstance(mark, Label) or REFERENCE not in mark.text:
        return mark
    before, _, key = mark.text.partition(REFERENCE)
    return replace(mark, text=before + lies_on.get(key, "–"))
