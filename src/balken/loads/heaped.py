"""Snow that lies on a roof beside what lies evenly on it, as areas with amounts: strip by strip from a
line. Lengths mm, loads N/mm² of plan."""

from collections.abc import Callable, Iterator
from typing import Any, Final, NamedTuple

import shapely

from balken.geometry.plane import Point, add, distance
from balken.model.drawn_loads import DrawnLoad
from balken.model.names import HostName
from balken.model.project import Project

STRIPS: Final = 6
"""A wedge of snow is laid on in so many even strips."""


class Heap(NamedTuple):
    """Snow on a lower roof beside what lies evenly on it."""

    lower: HostName
    upper: HostName
    """Which stands higher beside it, or meets it in a valley."""
    edge: tuple[Point, Point]
    """Along which it begins; the roof it lies on to the left."""
    most: float
    """At that line, N/mm²."""
    reach: float
    """From there to where it ends, mm."""
    strips: tuple[tuple[tuple[Point, ...], float], ...]
    """The outline of each strip and what lies on it, N/mm²."""
    where: str = "at the wall"


def strips_from(
    whole: Any,
    edge: tuple[Point, Point],
    inward: Point,
    at: Callable[[float], float],
    reach: float,
) -> Iterator[tuple[tuple[Point, ...], float]]:
    """Strips along a line, each with what lies in its middle, kept within a polygon."""
    wide = reach / STRIPS
    for n in range(STRIPS if wide > 1.0 and distance(*edge) > 1.0 else 0):
        amount = at((n + 0.5) * wide)
        ring = [add(p, inward, k * wide) for k, p in ((n, edge[0]), (n, edge[1]))]
        ring += [add(p, inward, (n + 1) * wide) for p in (edge[1], edge[0])]
        part = shapely.intersection(whole, shapely.Polygon(ring))
        for piece in getattr(part, "geoms", [part]):
            if amount > 0 and piece.geom_type == "Polygon" and piece.area > 1.0:
                yield tuple((x, y) for x, y in piece.exterior.coords[:-1]), amount


def as_loads(project: Project, found: tuple[Heap, ...]) -> tuple[DrawnLoad, ...]:
    """Heaps as the loads they are."""
    plates = {HostName("roof", r.id): r.plate for r in project.roofs}
    return tuple(
        DrawnLoad(f"snow-{n}-{k}", "heaped snow", "area", plates[heap.lower], ring, "snow", amount)
        for n, heap in enumerate(found, 1)
        for k, (ring, amount) in enumerate(heap.strips, 1)
    )
