"""Bodies as flat faces and the edges between them: what hidden lines are made of."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point, Ring, signed_area
from balken.geometry.slices import SHARP
from balken.geometry.solid import Extrusion, Vector
from balken.geometry.trim import Mesh, face_areas

Floats = NDArray[np.float64]
TURNS: Final = 1e-6
"""A corner that turns back by less is straight, mm²."""


class Facet(NamedTuple):
    """A flat face, seen counter-clockwise from outside: its convex pieces, and the edges round it."""

    pieces: tuple[tuple[Vector, ...], ...]
    edges: tuple[tuple[Vector, Vector], ...]
    normal: Vector


class Facets(NamedTuple):
    """All faces of a body."""

    facets: tuple[Facet, ...]
    convex: bool


def facets_of(solid: Extrusion) -> Facets:
    """The faces of an extruded body."""
    rings = solid.rings()
    near, far = rings[0], rings[-1]
    outline = solid.outline
    simple = not solid.across and _is_convex(outline)
    last = solid.across[-1][1] if solid.across else outline
    found = [
        _facet(list(reversed(near)), _pieces(outline, near, turned=True)),
        _facet(far, _pieces(last, far, turned=False)),
    ]
    for a, b in pairwise(rings):
        for i in range(len(a)):
            k = (i + 1) % len(a)
            side = _distinct([a[i], a[k], b[k], b[i]])
            if len(side) > 2:
                found.append(_facet(side, (tuple(side),)))
    return Facets(tuple(f for f in found if any(f.normal)), simple)


def is_prism(solid: Extrusion) -> bool:
    """Whether a body has one outline that turns nowhere back, and no corner of it twice."""
    outline = solid.outline
    return (
        not solid.across
        and solid.depth > TURNS
        and len(set(outline)) == len(outline) > 2
        and _is_convex(outline)
    )


def _distinct(points: Sequence[Vector]) -> list[Vector]:
    return [p for i, p in enumerate(points) if p != points[i - 1]]


def _facet(ring: Sequence[Vector], pieces: tuple[tuple[Vector, ...], ...]) -> Facet:
    edges = tuple((ring[i - 1], ring[i]) for i in range(len(ring)))
    return Facet(pieces, edges, _normal(ring))


def _normal(ring: Sequence[Vector]) -> Vector:
    """By Newell: of any flat ring."""
    nx = ny = nz = 0.0
    for (ax, ay, az), (bx, by, bz) in zip(ring, (*ring[1:], ring[0])):
        nx += (ay - by) * (az + bz)
        ny += (az - bz) * (ax + bx)
        nz += (ax - bx) * (ay + by)
    length = (nx * nx + ny * ny + nz * nz) ** 0.5
    return (nx / length, ny / length, nz / length) if length > TURNS else (0.0, 0.0, 0.0)


def _pieces(
    outline: Ring, corners: Sequence[Vector], *, turned: bool
) -> tuple[tuple[Vector, ...], ...]:
    """The convex pieces of a face that has an outline."""
    if _is_convex(outline):
        whole = tuple(corners)
        return (whole[::-1] if turned else whole,)
    found = [tuple(corners[i] for i in t) for t in triangles(outline)]
    return tuple(t[::-1] if turned else t for t in found)


def _is_convex(outline: Ring) -> bool:
    return all(_turn(outline, i) > -TURNS for i in range(len(outline)))


def _turn(ring: Sequence[Point], i: int) -> float:
    a, b, c = ring[i - 1], ring[i], ring[(i + 1) % len(ring)]
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])


def triangles(outline: Sequence[Point]) -> list[tuple[int, int, int]]:
    """A simple outline in triangles, by its corners' numbers: ears cut off one by one."""
    left = list(range(len(outline)))
    if signed_area(tuple(outline)) < 0:
        left.reverse()
    found = []
    while len(left) > 3:
        ear = next((k for k in range(len(left)) if _is_ear(outline, left, k)), None)
        if ear is None:
            break
        found.append((left[ear - 1], left[ear], left[(ear + 1) % len(left)]))
        del left[ear]
    if len(left) >= 3:
        found += [(left[0], left[k], left[k + 1]) for k in range(1, len(left) - 1)]
    return found


def _is_ear(outline: Sequence[Point], left: Sequence[int], k: int) -> bool:
    i, j, m = left[k - 1], left[k], left[(k + 1) % len(left)]
    a, b, c = outline[i], outline[j], outline[m]
    if (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) <= TURNS:
        return False
    return not any(_holds(a, b, c, outline[n]) for n in left if n not in (i, j, m))


def _holds(a: Point, b: Point, c: Point, p: Point) -> bool:
    """Whether a triangle has a point inside it or on its rim, corners left out."""
    if p in (a, b, c):
        return False
    return all(
        (q[0] - o[0]) * (p[1] - o[1]) - (q[1] - o[1]) * (p[0] - o[0]) >= 0
        for o, q in ((a, b), (b, c), (c, a))
    )


def facets_of_mesh(mesh: Mesh) -> Facets:
    """The triangles of a closed mesh, each with those of its edges where the surface turns."""
    _, normals = face_areas(mesh)
    corners = mesh.points[mesh.triangles]
    sharp = _sharp(mesh, normals)
    found = []
    for t, (triangle, normal) in enumerate(zip(corners.tolist(), normals.tolist())):
        points: list[Vector] = [tuple(p) for p in triangle]
        ids = mesh.triangles[t].tolist()
        edges = tuple(
            (points[i], points[(i + 1) % 3])
            for i in range(3)
            if (min(ids[i], ids[(i + 1) % 3]), max(ids[i], ids[(i + 1) % 3])) in sharp
        )
        found.append(Facet((tuple(points),), edges, tuple(normal)))
    return Facets(tuple(found), convex=False)


def _sharp(mesh: Mesh, normals: Floats) -> set[tuple[int, int]]:
    sides: dict[tuple[int, int], list[int]] = {}
    for t, (a, b, c) in enumerate(mesh.triangles.tolist()):
        for i, k in ((a, b), (b, c), (c, a)):
            sides.setdefault((min(i, k), max(i, k)), []).append(t)
    return {
        key
        for key, both in sides.items()
        if len(both) != 2 or float(normals[both[0]] @ normals[both[1]]) < SHARP
    }


def clipped(corners: Sequence[Vector], deep: Sequence[float]) -> list[tuple[float, ...]]:
    """What of a convex face lies at a depth over nothing.

    Args:
        corners: of the face.
        deep: how deep each lies.
    """
    found: list[tuple[float, ...]] = []
    for i in range(len(corners)):
        a, b, da, db = corners[i - 1], corners[i], deep[i - 1], deep[i]
        if (da > 0) != (db > 0):
            t = da / (da - db)
            found.append(tuple(p + t * (q - p) for p, q in zip(a, b)))
        if db > 0:
            found.append(b)
    return found


def edges_of(facets: Facets) -> Iterator[tuple[Vector, Vector]]:
    """All edges, those between two faces twice."""
    for f in facets.facets:
        yield from f.edges
