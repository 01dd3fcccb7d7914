"""Closed lines round pieces that are one body."""

from collections.abc import Sequence

from balken.geometry.plane import Point, Ring


def outlines(rings: Sequence[Ring]) -> list[tuple[Point, ...]]:
    """The closed lines round pieces that are one body where they touch, holes among them."""
    from shapely import buffer, polygons, union_all

    if not rings:
        return []
    joined = buffer(
        union_all(buffer([polygons(r) for r in rings], 0.5, join_style="mitre")),
        -0.5,
        join_style="mitre",
    )
    found: list[tuple[Point, ...]] = []
    for part in getattr(joined, "geoms", [joined]):
        if not part.is_empty:
            found += [
                tuple((x, y) for x, y in line.coords) for line in (part.exterior, *part.interiors)
            ]
    return found
