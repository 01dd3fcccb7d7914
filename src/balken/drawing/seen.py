"""What is seen of a building from a side, or behind a cut: the edges of its bodies without what others hide,
exactly. Isometric views are made the same way."""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.drawing.cut import Body, View, rings_cut
from balken.drawing.marks import Mark, Pen, Stroke
from balken.geometry.facets import Facet, Facets, clipped, facets_of, facets_of_mesh, triangles
from balken.geometry.hidden import Edges, Faces, Seen, visible
from balken.geometry.plane import Ring, dot
from balken.geometry.solid import Vector

FACING: Final = -1e-9
"""A face looks at the viewer where its normal goes back by more than this."""
SAME: Final = 2
"""Edges that agree to so many decimals of a millimetre are one."""
FAR: Final = 3000.0
"""What lies farther behind a cut is drawn light, mm."""

Floats = NDArray[np.float64]


class Sight(NamedTuple):
    """A way of looking in space: three unit vectors square to one another."""

    right: Vector
    up: Vector
    ahead: Vector
    zero: float = 0.0
    """How far ahead the cutting plane lies, where there is one."""
    cuts: bool = False


def sight_of(view: View) -> Sight:
    """Level, as elevations and sections look."""
    (rx, ry), (ax, ay) = view.right, view.ahead
    zero = dot(view.cut, view.ahead) if view.cut is not None else 0.0
    return Sight((rx, ry, 0.0), (0.0, 0.0, 1.0), (ax, ay, 0.0), zero, view.cut is not None)


def isometric(
    turn: float = math.radians(45.0), down: float = math.asin(math.tan(math.pi / 6))
) -> Sight:
    """From above, all three axes as long (ISO 5456-3: down by 35° 16′).

    Args:
        turn: of the way one looks, from along y to the left, radians.
        down: under the horizon, radians.
    """
    flat = (-math.sin(turn), math.cos(turn))
    right = (flat[1], -flat[0], 0.0)
    ahead = (flat[0] * math.cos(down), flat[1] * math.cos(down), -math.sin(down))
    up = (flat[0] * math.sin(down), flat[1] * math.sin(down), math.cos(down))
    return Sight(right, up, ahead)


class Lines(NamedTuple):
    """What is seen and what is hidden, with the body each line is of."""

    seen: Seen
    hidden: Seen
    body: NDArray[np.int64]
    """Of each edge."""
    depth: Floats
    """How far ahead the middle of each edge lies, mm."""


def lines_of(bodies: Sequence[Body], sight: Sight, view: View | None = None) -> Lines:
    """The edges of bodies, and what of them is seen.

    Args:
        bodies: those that are not cut away.
        sight: from where.
        view: the same as a view, where it cuts.
    """
    turn = np.array([sight.right, sight.up, sight.ahead])
    corners: list[list[tuple[float, ...]]] = []
    owners: list[int] = []
    ends: list[tuple[Vector, Vector]] = []
    edge_owners: list[int] = []
    hollow: list[int] = []
    for n, body in enumerate(bodies):
        facets = facets_of_mesh(body.mesh) if body.mesh is not None else facets_of(body.solid)
        if not facets.convex:
            hollow.append(n)
        for facet in _facing(facets, sight):
            corners += [list(piece) for piece in facet.pieces]
            owners += [n] * len(facet.pieces)
            ends += facet.edges
            edge_owners += [n] * len(facet.edges)
    return _worked_out(turn, sight, (corners, owners), (ends, edge_owners), hollow, bodies, view)


def _facing(facets: Facets, sight: Sight) -> list[Facet]:
    ax, ay, az = sight.ahead
    return [
        f for f in facets.facets if f.normal[0] * ax + f.normal[1] * ay + f.normal[2] * az < FACING
    ]


def _worked_out(
    turn: Floats,
    sight: Sight,
    faces: tuple[list[list[tuple[float, ...]]], list[int]],
    edges: tuple[list[tuple[Vector, Vector]], list[int]],
    hollow: list[int],
    bodies: Sequence[Body],
    view: View | None,
) -> Lines:
    corners, owners = faces
    turned = _turned(corners, turn)
    ends = np.array(edges[0], dtype=float).reshape(-1, 2, 3) @ turn.T
    body = np.array(edges[1], dtype=np.int64)
    if sight.cuts:
        turned, owners = _faces_behind(turned, owners, sight.zero)
        ends, body = _edges_behind(ends, body, sight.zero)
        if view is not None:
            for n, part in enumerate(bodies):
                for ring in rings_cut(part, view) if part.is_cut(view) else ():
                    for piece in _convex(ring):
                        turned.append([(x, z, sight.zero) for x, z in piece])
                        owners.append(n)
    ends, body = _once(ends, body)
    packed = Edges(ends, body)
    shown, lost = visible(packed, _packed(turned, owners), hollow)
    return Lines(shown, lost, body, ends[:, :, 2].mean(axis=1) if len(ends) else np.zeros(0))


def _turned(corners: list[list[tuple[float, ...]]], turn: Floats) -> list[list[tuple[float, ...]]]:
    """Faces in the view, all at once."""
    if not corners:
        return []
    flat = np.array([p for piece in corners for p in piece]) @ turn.T
    points = iter(map(tuple, flat.tolist()))
    return [[next(points) for _ in piece] for piece in corners]


def _convex(ring: Ring) -> list[list[tuple[float, float]]]:
    return [[ring[i] for i in t] for t in triangles(ring)]


def _packed(corners: list[list[tuple[float, ...]]], owners: list[int]) -> Faces:
    most = max((len(c) for c in corners), default=3)
    full = [c + [c[-1]] * (most - len(c)) for c in corners]
    return Faces(np.array(full, dtype=float).reshape(-1, most, 3), np.array(owners, dtype=np.int64))


def _faces_behind(
    corners: list[list[tuple[float, ...]]], owners: list[int], zero: float
) -> tuple[list[list[tuple[float, ...]]], list[int]]:
    """Faces behind the cutting plane, those it goes through in part."""
    kept, of = [], []
    for piece, n in zip(corners, owners):
        deep = [p[2] - zero for p in piece]
        if min(deep) >= 0:
            kept.append(piece)
            of.append(n)
        elif max(deep) > 0:
            left = clipped(piece, deep)  # type: ignore[arg-type]
            if len(left) > 2:
                kept.append(left)
                of.append(n)
    return kept, of


def _edges_behind(
    ends: Floats, body: NDArray[np.int64], zero: float
) -> tuple[Floats, NDArray[np.int64]]:
    """Edges behind the cutting plane, those it goes through in part."""
    deep = ends[:, :, 2] - zero
    behind = deep.max(axis=1) > 1e-6
    ends, body, deep = ends[behind], body[behind], deep[behind]
    for k in (0, 1):
        over = deep[:, k] < 0
        t = np.where(over, deep[:, k] / np.where(over, deep[:, k] - deep[:, 1 - k], 1.0), 0.0)
        ends[:, k] += t[:, None] * (ends[:, 1 - k] - ends[:, k])
    return ends, body


def _once(ends: Floats, body: NDArray[np.int64]) -> tuple[Floats, NDArray[np.int64]]:
    """Each edge once: two faces share it, and bodies that touch have it both."""
    if not len(ends):
        return ends, body
    rounded = np.round(ends, SAME)
    swap = np.zeros(len(ends), dtype=bool)
    first, second = rounded[:, 0], rounded[:, 1]
    for k in (2, 1, 0):
        differs = first[:, k] != second[:, k]
        swap = np.where(differs, first[:, k] > second[:, k], swap)
    a = np.where(swap[:, None], second, first)
    b = np.where(swap[:, None], first, second)
    _, keep = np.unique(np.concatenate([a, b], axis=1), axis=0, return_index=True)
    keep.sort()
    long = np.hypot(*(ends[keep, 1, :2] - ends[keep, 0, :2]).T) > 1e-3
    return ends[keep[long]], body[keep[long]]


def strokes_of(
    bodies: Sequence[Body], lines: Lines, sight: Sight, pens: dict[int, Pen] | None = None
) -> list[Mark]:
    """Lines that are seen as marks: medium, light far behind a cut.

    Args:
        bodies: what they are of.
        lines: as worked out.
        sight: from where.
        pens: of bodies drawn otherwise.
    """
    other = pens or {}
    found: list[Mark] = []
    for (a, b), edge in zip(lines.seen.ends.tolist(), lines.seen.edge.tolist()):
        n = int(lines.body[edge])
        light = sight.cuts and lines.depth[edge] - sight.zero > FAR
        pen = other.get(n, "beyond" if light else "seen")
        found.append(Stroke(((a[0], a[1]), (b[0], b[1])), pen, bodies[n].key))
    return found
