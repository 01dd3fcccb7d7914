"""What is seen of a building from a side, or behind a cut: the edges of its bodies without what others hide,
exactly. Isometric views are made the same way."""

import math
from collections.abc import Sequence
from functools import cache
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.drawing.cut import Body, View, rings_cut
from balken.drawing.marks import Mark, Pen, Stroke
from balken.geometry.facets import Facets, clipped, facets_of, facets_of_mesh, is_prism, triangles
from balken.geometry.hidden import Edges, Faces, Seen, visible
from balken.geometry.plane import Point, Ring, dot
from balken.geometry.solid import Extrusion, Vector
from balken.geometry.trim import Mesh
from balken.recall import remembered, remembered_piece

FACING: Final = -1e-9
"""A face looks at the viewer where its normal goes back by more than this."""
SAME: Final = 2
"""Edges that agree to so many decimals of a millimetre are one."""
FAR: Final = 3000.0
"""What lies farther behind a cut is drawn light, mm."""

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


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


class Surface(NamedTuple):
    """The flat faces of bodies and the edges round them, in space."""

    normals: Floats
    """Of each face."""
    pieces: Floats
    """Convex pieces of faces, by as many corners as the one with most has, by three: the last repeated."""
    piece_of: Ints
    """Of which face each piece is."""
    owners: Ints
    """And of which body."""
    ends: Floats
    """Of edges, by two by three."""
    edge_of: Ints
    edge_owners: Ints
    hollow: tuple[int, ...]
    """Bodies that are not convex, whose own faces may hide their edges."""


@remembered_piece
def _surface_of_one(solid: Extrusion, mesh: Mesh | None) -> Surface:
    """The faces of one body: worked out once for all views that have it."""
    if mesh is not None:
        return _of_facets(facets_of_mesh(mesh))
    return _of_prism(solid) if is_prism(solid) else _of_facets(facets_of(solid))


def _of_prism(solid: Extrusion) -> Surface:
    """The faces of a convex body with one outline, as nearly all pieces are: what :func:`facets_of` finds, by
    the order of its corners alone."""
    count = len(solid.outline)
    order = _prism_order(count)
    points = np.array(solid.points(), dtype=float)
    outline = np.array(solid.outline, dtype=float)
    ways = np.roll(outline, -1, axis=0) - outline
    ways /= np.hypot(ways[:, 0], ways[:, 1])[:, None]
    along = np.array([solid.u, solid.v])
    end = np.array(solid.normal)
    sides = np.stack([ways[:, 1], -ways[:, 0]], axis=1) @ along
    faces = np.arange(count + 2)
    return Surface(
        np.concatenate([[-end, end], sides]),
        points[order.pieces],
        faces,
        np.zeros(count + 2, dtype=np.int64),
        points[order.ends],
        order.edge_of,
        np.zeros(len(order.ends), dtype=np.int64),
        (),
    )


class _PrismOrder(NamedTuple):
    """Which corners of a prism make its faces and edges: those of the near end first, then of the far one."""

    pieces: Ints
    ends: Ints
    edge_of: Ints


@cache
def _prism_order(count: int) -> _PrismOrder:
    near, far = range(count), range(count, 2 * count)
    after = [*range(1, count), 0]
    rings = [[*reversed(near)], [*far]]
    rings += [[i, after[i], after[i] + count, i + count] for i in near]
    most = max(4, count)
    return _PrismOrder(
        np.array([[*r, *[r[-1]] * (most - len(r))] for r in rings]),
        np.array([(r[k - 1], r[k]) for r in rings for k in range(len(r))]),
        np.array([n for n, r in enumerate(rings) for _ in r]),
    )


def _of_facets(facets: Facets) -> Surface:
    faces = facets.facets
    piece_of = [n for n, f in enumerate(faces) for _ in f.pieces]
    edge_of = [n for n, f in enumerate(faces) for _ in f.edges]
    return Surface(
        np.array([f.normal for f in faces], dtype=float).reshape(-1, 3),
        _filled_up([piece for f in faces for piece in f.pieces], least=4),
        np.array(piece_of, dtype=np.int64),
        np.zeros(len(piece_of), dtype=np.int64),
        np.array([edge for f in faces for edge in f.edges], dtype=float).reshape(-1, 2, 3),
        np.array(edge_of, dtype=np.int64),
        np.zeros(len(edge_of), dtype=np.int64),
        () if facets.convex else (0,),
    )


@remembered
def surface_of(bodies: tuple[Body, ...]) -> Surface:
    """The faces of bodies, put together once for all sides they are seen from."""
    single = [_surface_of_one(b.solid, b.mesh) for b in bodies]
    if not single:
        return _of_facets(Facets((), convex=True))
    every = np.arange(len(single))
    faces = [len(s.normals) for s in single]
    pieces, edges = [len(s.pieces) for s in single], [len(s.ends) for s in single]
    begins = np.cumsum([0, *faces[:-1]])
    return Surface(
        np.concatenate([s.normals for s in single]),
        _with_corners_alike([s.pieces for s in single]),
        np.concatenate([s.piece_of for s in single]) + np.repeat(begins, pieces),
        np.repeat(every, pieces),
        np.concatenate([s.ends for s in single]),
        np.concatenate([s.edge_of for s in single]) + np.repeat(begins, edges),
        np.repeat(every, edges),
        tuple(n for n, s in enumerate(single) if s.hollow),
    )


def _with_corners_alike(groups: Sequence[Floats]) -> Floats:
    """Faces of several groups, with as many corners each: the last of each repeated."""
    counts = [len(g) for g in groups]
    corners = np.repeat([g.shape[1] for g in groups], counts)
    flat = np.concatenate([g.reshape(-1, 3) for g in groups])
    first = np.cumsum(corners) - corners
    most = max(g.shape[1] for g in groups)
    found: Floats = flat[first[:, None] + np.minimum(np.arange(most), corners[:, None] - 1)]
    return found


def _filled_up(pieces: Sequence[Sequence[Sequence[float]]], least: int = 3) -> Floats:
    """Faces with as many corners each as the one with most: the last of each repeated."""
    most = max(least, *(len(p) for p in pieces), least)
    full = [[*p, *[p[-1]] * (most - len(p))] for p in pieces]
    return np.array(full, dtype=float).reshape(-1, most, 3)


def lines_of(bodies: Sequence[Body], sight: Sight, view: View | None = None) -> Lines:
    """The edges of bodies, and what of them is seen.

    Args:
        bodies: those that are not cut away.
        sight: from where.
        view: the same as a view, where it cuts.
    """
    surface = surface_of(tuple(bodies))
    turn = np.array([sight.right, sight.up, sight.ahead])
    facing = surface.normals @ turn[2] < FACING
    mine = facing[surface.piece_of]
    faces = Faces(surface.pieces[mine] @ turn.T, surface.owners[mine])
    mine = facing[surface.edge_of]
    ends, body = surface.ends[mine] @ turn.T, surface.edge_owners[mine]
    if sight.cuts:
        faces = _joined([_faces_behind(faces, sight.zero), _cut_faces(bodies, sight, view)])
        ends, body = _edges_behind(ends, body, sight.zero)
    ends, body = _once(ends, body)
    shown, lost = visible(Edges(ends, body), faces, surface.hollow)
    return Lines(shown, lost, body, ends[:, :, 2].mean(axis=1) if len(ends) else np.zeros(0))


def _joined(groups: Sequence[Faces]) -> Faces:
    """Faces of several groups, with as many corners each."""
    corners = _with_corners_alike([g.corners for g in groups])
    return Faces(corners, np.concatenate([g.body for g in groups]))


def _cut_faces(bodies: Sequence[Body], sight: Sight, view: View | None) -> Faces:
    """What the plane cuts of bodies, as faces in it: they hide what lies behind."""
    found: list[list[tuple[float, float, float]]] = []
    owners: list[int] = []
    for n, body in enumerate(bodies):
        for ring in rings_cut(body, view) if view is not None and body.is_cut(view) else ():
            for piece in _convex(ring):
                found.append([(x, z, sight.zero) for x, z in piece])
                owners.append(n)
    return Faces(_filled_up(found), np.array(owners, dtype=np.int64))


def _convex(ring: Ring) -> list[list[tuple[float, float]]]:
    return [[ring[i] for i in t] for t in triangles(ring)]


def _faces_behind(faces: Faces, zero: float) -> Faces:
    """Faces behind the cutting plane, those it goes through in part."""
    deep = faces.corners[:, :, 2] - zero
    whole = deep.min(axis=1) >= 0
    through = np.flatnonzero(~whole & (deep.max(axis=1) > 0))
    parts: list[list[tuple[float, ...]]] = []
    owners: list[int] = []
    for i in through.tolist():
        left = clipped([tuple(p) for p in faces.corners[i].tolist()], deep[i].tolist())
        if len(left) > 2:
            parts.append(left)
            owners.append(int(faces.body[i]))
    cut = Faces(_filled_up(parts), np.array(owners, dtype=np.int64))
    return _joined([Faces(faces.corners[whole], faces.body[whole]), cut])


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
    edges = lines.seen.edge
    light = (lines.depth[edges] - sight.zero > FAR) & sight.cuts
    found: list[Mark] = []
    chain: list[Point] = []
    now: tuple[int, bool] | None = None
    for ((ax, ay), (bx, by)), n, far in zip(
        lines.seen.ends.tolist(), lines.body[edges].tolist(), light.tolist()
    ):
        a, b = (ax, ay), (bx, by)
        if (n, far) != now or not _goes_on(chain, a, b):
            if now is not None:
                found.append(_stroke(chain, now, bodies, other))
            chain, now = [a, b], (n, far)
    if now is not None:
        found.append(_stroke(chain, now, bodies, other))
    return found


def _stroke(
    chain: list[Point], now: tuple[int, bool], bodies: Sequence[Body], other: dict[int, Pen]
) -> Stroke:
    n, far = now
    return Stroke(tuple(chain), other.get(n, "beyond" if far else "seen"), bodies[n].key)


def _goes_on(chain: list[Point], a: Point, b: Point) -> bool:
    """Whether an edge begins or ends where a line of edges ends, which it then goes on; one edge alone has
    two ends."""
    if len(chain) == 2 and not _meets(chain[1], a) and not _meets(chain[1], b):
        chain.reverse()
    if _meets(chain[-1], a):
        chain.append(b)
    elif _meets(chain[-1], b):
        chain.append(a)
    else:
        return False
    return True


def _meets(p: Point, q: Point) -> bool:
    return abs(p[0] - q[0]) + abs(p[1] - q[1]) < MEETS


MEETS: Final = 1e-6
"""Edges whose ends lie no farther apart are one line, mm."""
