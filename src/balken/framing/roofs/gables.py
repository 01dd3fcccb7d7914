"""Walls that rise to the roof: what stands over a wall's top, up to the underside of the rafters,
at gables and at the high side of a shed. Under trusses the gable truss closes the end."""

import math
from collections.abc import Callable, Sequence
from itertools import pairwise
from typing import Final

import msgspec

from balken.framing.member import Support
from balken.framing.roofs.shape import Edge, RoofShape
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    dot,
    left,
    signed_area,
    sub,
    unit,
)
from balken.geometry.roof_planes import Face
from balken.geometry.solid import Extrusion, side_profile
from balken.model.names import HostName, Rest
from balken.recall import remembered_piece

SAME: Final = 0.01
"""Corners nearer than this are one, mm."""
LEAST: Final = 1e4
"""A smaller piece of wall is none, mm²."""


class GableWall(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A piece of wall over a wall: its outline along the outer face, from ``start`` (in plan) by
    ``way``, and heights, mm."""

    wall: str
    start: Point
    way: Point
    ring: Ring
    thickness: float

    @property
    def area(self) -> float:
        """Of its face, mm²."""
        return abs(signed_area(self.ring))

    @property
    def solid(self) -> Extrusion:
        """Its body: the wall lies to the left of its outer face."""
        return side_profile(
            add(self.start, left(self.way), self.thickness / 2), self.way, self.ring, self.thickness
        )


@remembered_piece
def gables_of(
    shape: RoofShape, depth: float, tops: tuple[tuple[str, float, float], ...]
) -> list[GableWall]:
    """The pieces of wall that rise to a roof.

    Args:
        shape: of the roof.
        depth: of its rafters, square to the slope, mm.
        tops: name, top and thickness of the walls under it, mm.
    """
    found = []
    known = {name: (top, thick) for name, top, thick in tops}
    for edge in shape.edges:
        if edge.slope is None and edge.rule.kind == "gable" and edge.name in known:
            top, thick = known[edge.name]
            line = _under_line(shape.roof.faces, edge, depth)
            rising = _over(line, top)
            if len(rising) > 2 and abs(signed_area(rising)) > LEAST:
                found.append(GableWall(edge.name, edge.a, unit(sub(edge.b, edge.a)), rising, thick))
    return found


def _under_line(faces: Sequence[Face], edge: Edge, depth: float) -> list[Point]:
    """The underside of the rafters over a side: how far along it, and how high."""
    way = unit(sub(edge.b, edge.a))
    length = distance(edge.a, edge.b)
    start = add(edge.a, left(way), TOUCH / 2)
    marks: list[Point] = []
    for face in faces:
        cuts = []
        for p, q in zip(face.outline, [*face.outline[1:], face.outline[0]]):
            u, v = cross(way, sub(p, start)), cross(way, sub(q, start))
            if (u <= 0) != (v <= 0):
                x = (p[0] + (q[0] - p[0]) * u / (u - v), p[1] + (q[1] - p[1]) * u / (u - v))
                cuts.append((x[0] - start[0]) * way[0] + (x[1] - start[1]) * way[1])
        cuts.sort()
        plumb = depth * math.hypot(1.0, face.pitch)
        for low, high in zip(cuts[::2], cuts[1::2]):
            a, b = max(low, 0.0), min(high, length)
            if b - a > TOUCH:
                marks += [(s, face.height(add(start, way, s)) - plumb) for s in (a, b)]
    return sorted(marks)


def _over(line: Sequence[Point], top: float) -> Ring:
    """The outline between a level and a line over it."""
    upper: list[Point] = []
    for a, b in pairwise(line):
        upper += _stretch_over(a, b, top)
    distinct = [p for k, p in enumerate(upper) if k == 0 or math.dist(p, upper[k - 1]) > SAME]
    if len(distinct) < 2:
        return ()
    ring = [(distinct[0][0], top), (distinct[-1][0], top), *reversed(distinct)]
    return tuple(p for k, p in enumerate(ring) if math.dist(p, ring[k - 1]) > SAME)


def _stretch_over(a: Point, b: Point, top: float) -> list[Point]:
    """What of a stretch of a line lies over a level, with the point where it crosses it."""
    (s, z), (t, y) = a, b
    if (z > top) == (y > top):
        return [a, b] if z > top else []
    crossing = (s + (t - s) * (top - z) / (y - z), top)
    return [a, crossing] if z > top else [crossing, b]


ALONG: Final = 0.05
"""A piece runs along a wall that it crosses at less, sine of the angle."""
PAST: Final = 30.0
"""A piece ends over a wall where it goes on past its far face by no more, besides the overhang,
mm."""


def gable_support(
    shape: RoofShape,
    width: float,
    under: Callable[[Point], Rest | None],
    start: Point,
    way: Point,
    run: tuple[float, float],
    end: float,
) -> Support | None:
    """Where a sloped piece bears whose end lies over a gable wall that it crosses aslant:
    the wall rises to it.

    Args:
        shape: of the roof.
        width: of the plates, mm.
        under: finds the plate under a place.
        start: where the piece's run begins, in plan.
        way: its direction in plan.
        run: from where to where it goes, mm of its run; supports count from there.
        end: which of the two is asked for.
    """
    for edge in shape.edges:
        inward = left(unit(sub(edge.b, edge.a)))
        steep = dot(way, inward)
        if edge.slope is not None or edge.rule.kind != "gable" or abs(steep) < ALONG:
            continue
        at = dot(sub(add(edge.a, inward, width / 2), start), inward) / steep
        spot = add(start, way, at)
        near = abs(at - end) < (edge.out + width + PAST) / abs(steep)
        if (
            run[0] - TOUCH < at < run[1] + TOUCH
            and near
            and under(spot) == HostName("wall", edge.name)
        ):
            return Support(at - run[0], width / abs(steep), HostName("wall", edge.name), spot)
    return None
