"""What would lie over another of its kind: a place floored or roofed twice carries its load twice."""

from collections.abc import Iterable, Iterator
from typing import Final, TypeVar

from shapely.geometry import Polygon

from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.geometry.plane import Ring
from balken.model.floors import FloorArea
from balken.model.project import Project
from balken.model.roofs import RoofArea

_T = TypeVar("_T")
SHARE: Final = 0.25
"""Of the smaller of two outlines: neighbours that meet over a wall share less than this."""


def floor_under(project: Project, key: str) -> tuple[FloorArea, float] | None:
    """Another floor at the same level that a floor lies over.

    Returns:
        The floor, and the area both cover, mm²; None where there is none.
    """
    mine = next(f for f in project.floors if f.id == key)
    outlines = (
        (other, bearings.outline)
        for other in project.floors
        if other.id != key and other.level == mine.level
        if (bearings := bearings_of_floor(project, other)) is not None
    )
    bearings = bearings_of_floor(project, mine)
    return next(_shared(bearings.outline, outlines), None) if bearings is not None else None


def roof_under(project: Project, key: str) -> tuple[RoofArea, float] | None:
    """Another roof from the same plate that a roof lies over.

    Returns:
        The roof, and the area both cover, mm²; None where there is none.
    """
    mine = next(r for r in project.roofs if r.id == key)
    outlines = (
        (other, bearings.outline)
        for other in project.roofs
        if other.id != key and other.plate == mine.plate
        if (bearings := bearings_of_roof(project, other)) is not None
    )
    bearings = bearings_of_roof(project, mine)
    return next(_shared(bearings.outline, outlines), None) if bearings is not None else None


def _shared(outline: Ring, others: Iterable[tuple[_T, Ring]]) -> Iterator[tuple[_T, float]]:
    mine = Polygon(outline).buffer(0)
    for other, ring in others:
        its = Polygon(ring).buffer(0)
        both = mine.intersection(its).area
        if both > SHARE * min(mine.area, its.area):
            yield other, both
