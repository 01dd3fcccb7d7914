"""Roofs by another library: the straight skeletons of CGAL, through compas_cgal (for tests
alone)."""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from compas_cgal import _straight_skeleton_2 as cgal
from compas_cgal import _types_std  # noqa: F401 - makes CGAL's lists of points known
from shapely import Polygon


def _rings(shape: Polygon) -> tuple[Any, list[Any]]:
    """Return the outline anticlockwise and the holes clockwise, as CGAL wants them."""
    outer, *holes = (
        np.array([(x, y, 0.0) for x, y in ring.coords[:-1]])
        for ring in (shape.exterior, *shape.interiors)
    )
    return outer, holes


def skeleton(shape: Polygon) -> tuple[list[tuple[float, float]], float]:
    """Return the nodes of the straight skeleton of an outline that do not lie on it, and the summed
    length of its arcs."""
    spots, names, edges, kinds = cgal.create_interior_straight_skeleton_with_holes(*_rings(shape))
    at = {name: (float(p[0]), float(p[1])) for name, p in zip(names, spots)}
    arcs = [e for e, kind in zip(edges.tolist(), kinds) if kind != 2]
    outline = {v for e, kind in zip(edges.tolist(), kinds) if kind == 2 for v in e}
    return [p for name, p in at.items() if name not in outline], math.fsum(
        math.dist(at[a], at[b]) for a, b in arcs
    )


def area_above(shape: Polygon, slopes: Sequence[float], height: float) -> float:
    """Return the plan area of what lies higher, of the roof over an outline without holes whose
    sides rise by their slopes."""
    weights = [slopes[-1], *slopes[:-1]]  # CGAL counts a side as that of the corner where it ends
    parts = cgal.create_weighted_offset_polygons_2_inner(
        _rings(shape)[0], height, np.array(weights).reshape(-1, 1)
    )
    return math.fsum(float(Polygon(np.asarray(p)[:, :2]).area) for p in parts)
