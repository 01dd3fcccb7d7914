"""The lines of a roof - eaves, rakes, ridges, hips, valleys, breaks - and its measures, from its
planes."""

import math
from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Final, Literal

import msgspec
import numpy as np

from balken.geometry.plane import Point, cross, distance, dot, edges, signed_area, sub, unit
from balken.geometry.roof_front import NEAR
from balken.geometry.roof_planes import Face, Roof
from balken.recall import remembered_piece

Kind = Literal["eave", "top", "rake", "ridge", "hip", "valley", "break"]
"""``top`` is the high end of a shed; at a ``break`` one plane goes on above another, as in a
gambrel."""
LEVEL: Final = 1.0
"""A line whose ends differ by less than this is level, mm."""
ON_LINE: Final = 0.05
"""A corner this near to a line lies on it, mm."""


class RoofLine(msgspec.Struct, frozen=True, gc=False):
    """One line of a roof in space, and the faces that meet there: one at the edge of the roof."""

    kind: Kind
    start: tuple[float, float, float]
    end: tuple[float, float, float]
    faces: tuple[int, ...]

    @property
    def length(self) -> float:
        """Its true length, mm."""
        return math.dist(self.start, self.end)


def roof_lines(roof: Roof) -> tuple[RoofLine, ...]:
    """All lines of a roof. Where two faces lie in one plane, as over two walls in line,
    there is none."""
    owners: dict[tuple[Point, Point], list[int]] = {}
    for n, a, b in _pieces(roof.faces):
        owners.setdefault((min(a, b), max(a, b)), []).append(n)
    by_faces: dict[tuple[int, ...], list[tuple[Point, Point]]] = {}
    for ends, faces in owners.items():
        by_faces.setdefault(tuple(faces), []).append(ends)
    found = []
    for whose, pieces in sorted(by_faces.items()):
        for a, b in _put_together(pieces):
            if len(whose) == 1:
                found.append(_at_edge(roof.faces[whose[0]], whose[0], a, b))
            elif not _one_plane(roof.faces[whose[0]], roof.faces[whose[1]]):
                found.append(_between(roof.faces, whose[0], whose[1], a, b))
    return tuple(found)


def _pieces(faces: Sequence[Face]) -> Iterable[tuple[int, Point, Point]]:
    """The sides of all faces, broken wherever a corner of any face lies on them: what two
    faces share is then the same piece of both."""
    rings = [
        (n, [_rounded(p) for p in ring])
        for n, f in enumerate(faces)
        for ring in (f.outline, *f.holes)
    ]
    corners = np.array(sorted({p for _, ring in rings for p in ring}))
    for n, ring in rings:
        for a, b in edges(ring):
            length = distance(a, b)
            if length < NEAR:
                continue
            way = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
            reach = corners - np.array(a)
            along = reach @ np.array(way)
            off = np.abs(reach[:, 0] * way[1] - reach[:, 1] * way[0])
            on = np.flatnonzero((off < ON_LINE) & (along > ON_LINE) & (along < length - ON_LINE))
            marks = [a, *(_rounded(corners[k]) for k in on[np.argsort(along[on])]), b]
            yield from ((n, p, q) for p, q in pairwise(marks))


def _rounded(p: Sequence[float]) -> Point:
    return round(float(p[0]), 2), round(float(p[1]), 2)


def _put_together(pieces: list[tuple[Point, Point]]) -> Iterable[tuple[Point, Point]]:
    """Pieces that go on in one line as one."""
    left = list(pieces)
    while left:
        a, b = left.pop()
        grown = True
        while grown:
            grown = False
            for k, (p, q) in enumerate(left):
                for near, far in ((p, q), (q, p)):
                    if near == b and _straight(a, b, far):
                        b, grown = far, True
                    elif near == a and _straight(b, a, far):
                        a, grown = far, True
                    if grown:
                        break
                if grown:
                    del left[k]
                    break
        yield a, b


def _straight(a: Point, b: Point, c: Point) -> bool:
    """Whether a line goes on from ``b`` to ``c`` as it came from ``a``."""
    u, v = sub(b, a), sub(c, b)
    return dot(u, v) > 0 and abs(cross(u, v)) < 2 * ON_LINE * max(math.hypot(*u), math.hypot(*v))


def _one_plane(a: Face, b: Face) -> bool:
    return (
        all(abs(p - q) < 1e-9 for p, q in zip(a.plane[:2], b.plane[:2]))
        and abs(a.plane[2] - b.plane[2]) < LEVEL
    )


def _fall(face: Face, a: Point, b: Point) -> float:
    """How fast a face rises away from a line into itself, mm per mm."""
    from shapely import Point as Spot
    from shapely import Polygon

    way = unit(sub(b, a))
    normal = (-way[1], way[0])
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    probe = min(20.0, math.dist(a, b) / 4)
    shape = Polygon(face.outline, face.holes)
    inside = shape.distance(Spot(middle[0] + normal[0] * probe, middle[1] + normal[1] * probe))
    other = shape.distance(Spot(middle[0] - normal[0] * probe, middle[1] - normal[1] * probe))
    sign = 1.0 if inside <= other else -1.0
    return sign * (face.plane[0] * normal[0] + face.plane[1] * normal[1])


def _space(face: Face, p: Point) -> tuple[float, float, float]:
    return p[0], p[1], face.height(p)


def _between(faces: tuple[Face, ...], i: int, k: int, a: Point, b: Point) -> RoofLine:
    start, end = _space(faces[i], a), _space(faces[i], b)
    rises = _fall(faces[i], a, b), _fall(faces[k], a, b)
    level = abs(start[2] - end[2]) < LEVEL
    kind: Kind
    if level and rises[0] * rises[1] < 1e-12:
        kind = "break"
    elif sum(rises) < 0:
        kind = "ridge" if level else "hip"
    else:
        kind = "valley"
    return RoofLine(kind, start, end, (i, k))


def _at_edge(face: Face, n: int, a: Point, b: Point) -> RoofLine:
    start, end = _space(face, a), _space(face, b)
    if abs(start[2] - end[2]) > LEVEL:
        return RoofLine("rake", start, end, (n,))
    return RoofLine("eave" if _fall(face, a, b) >= 0 else "top", start, end, (n,))


class Measures(msgspec.Struct, frozen=True, gc=False):
    """Areas, mm², and the total length of each kind of line, mm."""

    plan: float
    true: float
    lengths: dict[str, float]


@remembered_piece
def measures(roof: Roof) -> Measures:
    """The areas of a roof - in plan, and over cosine on the slope - and the lengths of its
    lines."""
    plan = [signed_area(f.outline) - sum(abs(signed_area(h)) for h in f.holes) for f in roof.faces]
    lengths: dict[str, float] = {}
    for line in roof_lines(roof):
        lengths[line.kind] = lengths.get(line.kind, 0.0) + line.length
    true = math.fsum(area * math.hypot(1.0, f.pitch) for area, f in zip(plan, roof.faces))
    return Measures(math.fsum(plan), true, lengths)
