"""Which mark lies at a place: boxes in arrays first, so that thousands of marks are asked in one
go, then the marks themselves."""

import math
from collections.abc import Iterable
from itertools import pairwise

import numpy as np

from balken.drawing.marks import Disc, Drawing, Label, Mark, Patch, Stroke
from balken.geometry.plane import Point, distance_to_segment, edges, holds, signed_area
from balken.model.names import HostName, MemberName, Name, kind_of

Box = tuple[float, float, float, float]


class PickIndex:
    """The marks of a drawing that have a name."""

    def __init__(self, drawing: Drawing) -> None:
        self.marks = [m for m in drawing if m.key is not None]
        self.keys: list[Name] = [m.key for m in drawing if m.key is not None]
        boxes = [_box(m) for m in self.marks]
        self.boxes = np.array(boxes, dtype=float).reshape(-1, 4)
        self._by_key: dict[Name, list[Mark]] = {}
        for mark, key in zip(self.marks, self.keys):
            self._by_key.setdefault(key, []).append(mark)

    def of(self, keys: Iterable[Name]) -> list[Mark]:
        """The marks with these names; a name of a whole host or support brings those of its
        parts."""
        found: list[Mark] = []
        for key in keys:
            if key in self._by_key:
                found += self._by_key[key]
            elif isinstance(key, HostName):
                members = (k for k in self._by_key if isinstance(k, MemberName) and k.host == key)
                found += [m for k in members for m in self._by_key[k]]
        return found

    def middle(self, mark: Mark) -> Point:
        """The middle of a mark."""
        x0, y0, x1, y1 = _box(mark)
        return (x0 + x1) / 2, (y0 + y1) / 2

    def at(self, p: Point, reach: float, kinds: tuple[str, ...] = ()) -> Name | None:
        """What lies at a place: the smallest patch round it, else the nearest line or head;
        None for nothing. Where kinds are named, such as ``wall``, nothing else counts."""
        found = [n for n in self.stack(p, reach) if not kinds or kind_of(n) in kinds]
        return found[0] if found else None

    def stack(self, p: Point, reach: float) -> list[Name]:
        """Everything that lies at a place: patches round it, the smallest first, then lines and
        heads within reach, the nearest first."""
        if not len(self.boxes):
            return []
        x, y = p
        b = self.boxes
        near = np.flatnonzero(
            (b[:, 0] - reach <= x)
            & (x <= b[:, 2] + reach)
            & (b[:, 1] - reach <= y)
            & (y <= b[:, 3] + reach)
        )
        inside: list[tuple[float, Name]] = []
        close: list[tuple[float, Name]] = []
        for i in near.tolist():
            mark, key = self.marks[i], self.keys[i]
            if isinstance(mark, Patch) and holds(mark.ring, p):
                inside.append((abs(signed_area(mark.ring)), key))
            else:
                close.append((_away(mark, p), key))
        ranked = [*sorted(inside), *sorted(c for c in close if c[0] <= reach)]
        return list(dict.fromkeys(name for _, name in ranked))

    def inside(self, box: Box, *, touching: bool) -> list[Name]:
        """The names of what lies whole in a box, or of what a box touches."""
        if not len(self.boxes):
            return []
        x0, y0, x1, y1 = box
        b = self.boxes
        if touching:
            from shapely import box as make
            from shapely import intersects, linestrings, polygons

            over = np.flatnonzero(
                (b[:, 2] >= x0) & (b[:, 0] <= x1) & (b[:, 3] >= y0) & (b[:, 1] <= y1)
            )
            window = make(x0, y0, x1, y1)
            found: dict[Name, None] = {}
            for i in over.tolist():
                mark = self.marks[i]
                if (isinstance(mark, Patch) and intersects(polygons(mark.ring), window)) or (
                    isinstance(mark, Stroke) and intersects(linestrings(mark.points), window)
                ):
                    found[self.keys[i]] = None
            return list(found)
        whole = (b[:, 0] >= x0) & (b[:, 2] <= x1) & (b[:, 1] >= y0) & (b[:, 3] <= y1)
        out = {
            self.keys[i]
            for i in np.flatnonzero(~whole).tolist()
            if not isinstance(self.marks[i], Label)
        }
        return list(
            dict.fromkeys(
                self.keys[i] for i in np.flatnonzero(whole).tolist() if self.keys[i] not in out
            )
        )


def _away(mark: Mark, p: Point) -> float:
    """How far a mark is from a place, mm; a head counts from a third as far, words not at all."""
    if isinstance(mark, Patch):
        return min(distance_to_segment(p, *e) for e in edges(mark.ring))
    if isinstance(mark, Stroke):
        return min(distance_to_segment(p, a, c) for a, c in pairwise(mark.points))
    if isinstance(mark, Disc):
        return math.dist(mark.centre, p) / 3.0
    return math.inf


def _box(mark: Mark) -> Box:
    if isinstance(mark, Patch):
        points = mark.ring
    elif isinstance(mark, Stroke):
        points = mark.points
    else:
        x, y = mark.centre if isinstance(mark, Disc) else mark.at
        return x, y, x, y
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)
