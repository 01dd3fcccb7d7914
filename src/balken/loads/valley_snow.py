"""Snow that gathers in the valleys of roofs: from the ridge down to the valley it lies ever deeper, as
between two roofs side by side (ASCE 7-16 7.6.3; EN 1991-1-3 5.3.4, case ii). Both clauses speak of roofs
in a row; for the valley where a wing meets a roof they are common practice. Lengths mm, loads N/mm² of
plan."""

import math
from collections.abc import Callable, Iterator
from typing import Final, NamedTuple

import shapely

from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.geometry.plane import Point, add, distance, dot, edges, left, sub, unit
from balken.geometry.roof_planes import Face
from balken.loads.codes.eu import snow as eu
from balken.loads.codes.us import snow as us
from balken.loads.heaped import Heap, strips_from
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.record import Code
from balken.model.snow import GroundSnow

SHORTEST: Final = 300.0
"""A line along which planes meet for less than this is no valley, mm."""
OUT: Final = 30.0
"""So far past its edge a plane is asked what lies beside it, mm."""
LEVEL: Final = 60.0
"""Planes meet whose heights differ by less than this there, mm."""
GENTLEST: Final = math.tan(math.radians(1.79))
"""Flatter planes gather nothing (ASCE 7-16 7.6.3: 3/8 on 12)."""
LEAST_RISE: Final = 0.005
"""Rise over run away from a line, from which a plane rises from it."""


class Valley(NamedTuple):
    """A line where two planes meet that both rise from it."""

    on: HostName
    beside: HostName
    edge: tuple[Point, Point]
    """The plane that snow lies on to its left."""
    face: Face
    other: Face


class _Lies(NamedTuple):
    """What a code says of the snow in a valley."""

    more: float
    """At the valley, over what lies evenly, N/mm²."""
    reach: float
    """How much of the way to the ridge it takes to come to nothing."""


def _us(snow: GroundSnow, even: float, angles: tuple[float, float]) -> _Lies:
    """2 p_f / C_e in the valley and half of p_f at the ridge, straight between: over p_f two thirds
    of the way (ASCE 7-16 7.6.3)."""
    flat = us.flat(snow.ground, snow.exposure, snow.thermal, snow.importance)
    return _Lies(2 * flat / snow.exposure - even, 2 / 3)


def _eu(snow: GroundSnow, even: float, angles: tuple[float, float]) -> _Lies:
    """μ2 of the mean angle in the valley, μ1 at the ridge (EN 1991-1-3 5.3.4)."""
    shape = eu.mu2(sum(angles) / 2)
    return _Lies(eu.on_roof(snow.ground, shape, snow.exposure, snow.thermal) - even, 1.0)


RULES: Final[dict[Code, Callable[[GroundSnow, float, tuple[float, float]], _Lies]]] = {
    "us": _us,
    "eu": _eu,
}


def valley_heaps(project: Project, structure: Structure) -> tuple[Heap, ...]:
    """What gathers in all valleys, on both sides, of roofs that take their snow from the site."""
    snow = project.site.snow
    if snow is None:
        return ()
    records = {HostName("roof", r.id): r for r in project.roofs}
    found = []
    for valley in valleys(structure.roofs):
        record = records.get(valley.on)
        if record is None or record.snow_from != "site":
            continue
        angles = tuple(math.degrees(math.atan(f.pitch)) for f in (valley.face, valley.other))
        lies = RULES[project.code](snow, record.snow, (angles[0], angles[1]))
        if lies.more > 0:
            heap = _heap(valley, lies)
            if heap.strips:
                found.append(heap)
    return tuple(found)


def _heap(valley: Valley, lies: _Lies) -> Heap:
    a, b = valley.edge
    inward = left(unit(sub(b, a)))
    reach = lies.reach * max(dot(sub(p, a), inward) for p in valley.face.outline)
    strips = strips_from(
        shapely.Polygon(valley.face.outline),
        valley.edge,
        inward,
        lambda x: lies.more * (1 - x / reach),
        reach,
    )
    return Heap(
        valley.on, valley.beside, valley.edge, lies.more, reach, tuple(strips), "in the valley"
    )


def valleys(roofs: dict[HostName, RoofShape]) -> Iterator[Valley]:
    """Every valley of some roofs, once for each plane that snow lies on beside it."""
    planes = [(host, f) for host, shape in roofs.items() for f in shape.roof.faces]
    areas = [shapely.Polygon(f.outline) for _, f in planes]
    tree = shapely.STRtree(areas)
    for host, face in planes:
        for a, b in _left_of(face):
            beside = _met_along(planes, areas, tree, face, (a, b))
            if beside is None:
                continue
            other_host, other = beside
            yield Valley(host, other_host, (a, b), face, other)
            if other_host != host:
                # The plane it runs into is not cut along the valley, and has no edge there itself.
                yield Valley(other_host, host, (b, a), other, face)


def _left_of(face: Face) -> Iterator[tuple[Point, Point]]:
    """The edges of a plane that are long enough, with the plane to their left."""
    turns = shapely.Polygon(face.outline).exterior.is_ccw
    for a, b in edges(face.outline):
        if distance(a, b) >= SHORTEST:
            yield (a, b) if turns else (b, a)


def _met_along(
    planes: list[tuple[HostName, Face]],
    areas: list[shapely.Polygon],
    tree: shapely.STRtree,
    face: Face,
    edge: tuple[Point, Point],
) -> tuple[HostName, Face] | None:
    """The plane that meets another along an edge, both rising from it; None where none does."""
    a, b = edge
    inward = left(unit(sub(b, a)))
    if face.pitch < GENTLEST or _rises(face, inward) < LEAST_RISE:
        return None
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    outside = add(middle, inward, -OUT)
    for i in tree.query(shapely.Point(outside), predicate="within").tolist():
        host, other = planes[i]
        level = abs(other.height(middle) - face.height(middle)) < LEVEL
        if other is not face and level and -_rises(other, inward) >= LEAST_RISE:
            return host, other
    return None


def _rises(face: Face, way: Point) -> float:
    return face.plane[0] * way[0] + face.plane[1] * way[1]
