"""Cutting meshes with upright planes, and their outlines as seen from a side."""

from collections.abc import Callable

import numpy as np

from balken.geometry.plane import Point, Ring
from balken.geometry.trim import Mesh, face_areas

Across = Callable[[Point], float]
"""How far a place in plan lies behind a plane, mm."""


SHARP = 0.94
"""Two faces whose normals agree by less than this (about 20°) meet in an edge that is drawn."""


def sharp_edges(mesh: Mesh) -> list[list[tuple[float, ...]]]:
    """The edges of a mesh where its faces turn, as pairs of places."""
    _, normals = face_areas(mesh)
    faces: dict[tuple[int, int], list[int]] = {}
    for t, (a, b, c) in enumerate(mesh.triangles.tolist()):
        for i, k in ((a, b), (b, c), (c, a)):
            faces.setdefault((min(i, k), max(i, k)), []).append(t)
    found = []
    for (i, k), sides in faces.items():
        if len(sides) != 2 or float(normals[sides[0]] @ normals[sides[1]]) < SHARP:
            found.append([tuple(mesh.points[i].tolist()), tuple(mesh.points[k].tolist())])
    return found


def slices(mesh: Mesh, deep: Across, along: Across) -> list[Ring]:
    """The outlines in which the plane where ``deep`` is nothing cuts a closed mesh, in
    ``along`` and height."""
    from shapely import LineString, get_parts, polygonize, union_all

    where = np.array([[deep((x, y)), along((x, y)), z] for x, y, z in mesh.points])
    where[np.abs(where[:, 0]) < 1e-7, 0] = 1e-7  # a corner on the plane lies just behind it
    pieces = []
    for triangle in mesh.triangles:
        p = where[triangle]
        cut = []
        for i in range(3):
            a, b = p[i], p[(i + 1) % 3]
            if (a[0] > 0) != (b[0] > 0):
                t = a[0] / (a[0] - b[0])
                cut.append(
                    (
                        round(float(a[1] + t * (b[1] - a[1])), 4),
                        round(float(a[2] + t * (b[2] - a[2])), 4),
                    )
                )
        if len(cut) == 2 and cut[0] != cut[1]:
            pieces.append(LineString(cut))
    if not pieces:
        return []
    faces = get_parts(polygonize([union_all(pieces)]))
    return [
        tuple((float(x), float(y)) for x, y in f.exterior.coords[:-1])
        for f in faces
        if f.area > 1.0
    ]
