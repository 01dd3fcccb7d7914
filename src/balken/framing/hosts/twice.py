"""What would lie over another of its kind: a place floored or roofed twice carries its load twice."""

from collections.abc import Callable, Iterable
from typing import Final, TypeVar

from shapely.geometry import Polygon

from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings
from balken.model.floors import FloorArea
from balken.model.project import Project
from balken.model.roofs import RoofArea

_Host = TypeVar("_Host", FloorArea, RoofArea)
SHARE: Final = 0.25
"""Of the smaller of two outlines: neighbours that meet over a wall share less than this."""


def floor_under(project: Project, key: str) -> tuple[FloorArea, float] | None:
    """Another floor at the same level that a floor lies over.

    Returns:
        The floor, and the area both cover, mm²; None where there is none.
    """
    mine = next(f for f in project.floors if f.id == key)
    others = (f for f in project.floors if f.level == mine.level and f.id != key)
    return _shared(project, mine, others, bearings_of_floor)


def roof_under(project: Project, key: str) -> tuple[RoofArea, float] | None:
    """Another roof from the same plate that a roof lies over.

    Returns:
        The roof, and the area both cover, mm²; None where there is none.
    """
    mine = next(r for r in project.roofs if r.id == key)
    others = (r for r in project.roofs if r.plate == mine.plate and r.id != key)
    return _shared(project, mine, others, bearings_of_roof)


def _shared(
    project: Project,
    mine: _Host,
    others: Iterable[_Host],
    bearings_of: Callable[[Project, _Host], Bearings | None],
) -> tuple[_Host, float] | None:
    """The first of others whose outline shares enough of one's own, and how much, mm²."""
    on = bearings_of(project, mine)
    if on is None:
        return None
    outline = Polygon(on.outline).buffer(0)
    for other in others:
        under = bearings_of(project, other)
        if under is None:
            continue
        its = Polygon(under.outline).buffer(0)
        both = outline.intersection(its).area
        if both > SHARE * min(outline.area, its.area):
            return other, both
    return None
