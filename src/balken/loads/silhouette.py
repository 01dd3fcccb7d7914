"""A building as the wind meets it: upright shapes across the wind, each with what presses on it."""

from collections.abc import Iterable, Sequence
from typing import Any, Final

import msgspec
import shapely

from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.geometry.plane import Point, dot, left, sub, unit
from balken.loads.roof_snow import flattest
from balken.loads.roof_wind import ground_height
from balken.loads.wind import WIND
from balken.model.names import HostName
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall

FACING: Final = 0.97
"""Cosine within which a gable faces the wind: some 15 degrees."""


class Push(msgspec.Struct, frozen=True, gc=False):
    """Part of a silhouette, of places across the wind and heights in mm, and what presses on it,
    N/mm²."""

    shape: Any
    pressure: float
    plate: float | None = None
    """Of a roof, which pushes where its plates lie, mm."""

    def force(self, low: float, high: float, left_end: float, right_end: float) -> float:
        """What presses between two heights and two places across, N."""
        if low >= high or left_end >= right_end:
            return 0.0
        strip = shapely.clip_by_rect(self.shape, left_end, low, right_end, high)
        return self.pressure * float(shapely.area(strip))


def silhouette(
    project: Project, structure: Structure, walls: Sequence[Wall], way: Point
) -> list[Push]:
    """What the wind meets that blows one way or the other: walls, then what of the roofs shows over
    them. Nothing where no wind is typed.

    Args:
        project: the building.
        structure: with its roofs as they are framed.
        walls: those that stand over the ground.
        way: of the wind, a unit vector.
    """
    wind, rules = project.site.wind, WIND[project.code]
    if wind is None or not walls:
        return []
    ground, across = ground_height(project.levels), left(way)
    deep, wide = _length_along(walls, way), _length_along(walls, across)
    roofs = structure.roofs
    highest = max(
        *(wall_top(project, w) for w in walls), *(_mean_height(s) for s in roofs.values()), ground
    )
    height = max(highest - ground, 1.0)
    pressure = rules.pressure(wind, height)
    on_walls = rules.wall_push(pressure, height, deep, wide)
    seen = shapely.union_all([_upright(project, w, across, ground) for w in walls])
    found = [Push(seen, on_walls)]
    pitches = {HostName("roof", r.id): flattest(r) for r in project.roofs}
    for host, shape in roofs.items():
        shows = shapely.difference(_from_the_side(shape, across), seen)
        slender = height / min(deep, wide)
        on_roof = rules.roof_side_push(pressure, pitches[host], slender)
        plate = max(e.plate for e in shape.edges)
        pressure_here = on_walls if _shows_gable(shape, way) else on_roof
        found.append(Push(shows, pressure_here, plate))
        seen = shapely.union(seen, shows)
    return found


def _length_along(walls: Iterable[Wall], axis: Point) -> float:
    places = [dot(p, axis) for w in walls for p in (w.start, w.end)]
    return max(max(places) - min(places), 1.0)


def _upright(project: Project, w: Wall, across: Point, ground: float) -> Any:
    """A wall from the side, down to the ground."""
    a, b = sorted((dot(w.start, across), dot(w.end, across)))
    half, base = w.thickness / 2, max(ground, wall_base(project, w))
    return shapely.box(a - half, base, b + half, max(base, wall_top(project, w)))


def _mean_height(shape: RoofShape) -> float:
    heights = [f.height(p) for f in shape.roof.faces for p in f.outline]
    return (max(heights) + min(heights)) / 2


def _from_the_side(shape: RoofShape, across: Point) -> Any:
    """A roof over its plates from the side; its eaves under them push nobody."""
    plate = min(e.plate for e in shape.edges)
    parts = []
    for face in shape.roof.faces:
        upper = [(dot(p, across), max(plate, face.height(p))) for p in face.outline]
        lower = [(u, plate) for u, _ in upper]
        parts.append(shapely.MultiPoint(upper + lower).convex_hull)
    return shapely.union_all(parts)


def _shows_gable(shape: RoofShape, way: Point) -> bool:
    """Whether the wind meets an upright gable of a roof, which is a wall to it."""
    gables = [e for e in shape.edges if e.slope is None]
    return any(abs(dot(left(unit(sub(e.b, e.a))), way)) > FACING for e in gables)
