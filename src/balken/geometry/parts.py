"""The parts of a shape that shapely gave: a boolean of two shapes may be anything from nothing to a
heap of polygons, lines and points."""

from collections.abc import Iterator
from typing import Any


def polygons_in(shape: Any, least: float = 0.0) -> Iterator[Any]:
    """The polygons of a shape whose area is larger, mm²."""
    for part in getattr(shape, "geoms", [shape]):
        if part.geom_type == "Polygon" and part.area > least:
            yield part


def lines_in(shape: Any, least: float = 0.0) -> Iterator[Any]:
    """The lines of a shape that are longer, mm."""
    for part in getattr(shape, "geoms", [shape]):
        if part.geom_type == "LineString" and part.length > least:
            yield part
