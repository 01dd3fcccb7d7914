"""Hidden lines: which parts of edges are seen from a side, and which lie behind the faces of bodies.

Edges are clipped, not areas: against each face that may lie before it an edge is hidden where it is inside
the face's outline and farther away than its plane. Both are linear along the edge, so that every face hides
one stretch of it; the stretches of all faces are united by one sort. All pairs are worked out at once.
"""

from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

NEARER: Final = 0.5
"""A face hides what lies this much farther away, mm: what touches it is seen."""
INSIDE: Final = 0.05
"""And what lies this far inside its outline, mm."""
SPECK: Final = 0.5
"""Shorter stretches are no lines, and what lies this near together is hidden in one, mm."""


class Faces(NamedTuple):
    """Convex faces in the view: to the right, up, ahead. Of each as many corners as the one with most has,
    the last repeated."""

    corners: Floats
    """Faces by corners by three."""
    body: Ints
    """To which body each belongs."""


class Edges(NamedTuple):
    """Straight edges in the view."""

    ends: Floats
    """Edges by two ends by three."""
    body: Ints
    """To which body each belongs."""


class Seen(NamedTuple):
    """Stretches of edges."""

    ends: Floats
    """Stretches by two ends by two: to the right, up."""
    edge: Ints
    """Of which edge each is."""


def visible(edges: Edges, faces: Faces, round_bodies: Sequence[int] = ()) -> tuple[Seen, Seen]:
    """What is seen of edges, and what is hidden.

    Args:
        edges: of all bodies.
        faces: those that look at the viewer.
        round_bodies: bodies that are not convex, whose own faces may hide their edges.
    """
    count = len(edges.ends)
    if not count:
        nothing = Seen(np.zeros((0, 2, 2)), np.zeros(0, dtype=np.int64))
        return nothing, nothing
    found = _hidden(edges, faces, np.asarray(round_bodies, dtype=np.int64))
    ways = edges.ends[:, 1, :2] - edges.ends[:, 0, :2]
    hidden = _united(*found, SPECK / np.maximum(np.hypot(ways[:, 0], ways[:, 1]), SPECK))
    return _stretches(edges, _between(*hidden, count)), _stretches(edges, hidden)


Stretches = tuple[Ints, Floats, Floats]
"""Edge, from and to along it, 0 to 1, sorted."""


class _Pairs(NamedTuple):
    """Edges and the faces that may hide them, and the stretch of each edge that is not ruled out yet."""

    edge: Ints
    face: Ints
    low: Floats
    high: Floats

    def narrowed(self, at: Floats, per: Floats) -> "_Pairs":
        """The pairs with what is left of their stretches where ``at + t per`` is not negative; those of
        which nothing is are gone, so that each next test has fewer to look at."""
        level = np.abs(per) <= 1e-12
        t = -at / np.where(level, 1.0, per)
        low = np.where(per > 1e-12, np.maximum(self.low, t), self.low)
        high = np.where(per < -1e-12, np.minimum(self.high, t), self.high)
        left = np.flatnonzero((high - low > 1e-9) & ~(level & (at < 0)))
        return _Pairs(self.edge[left], self.face[left], low[left], high[left])


def _hidden(edges: Edges, faces: Faces, not_convex: Ints) -> Stretches:
    """What each face hides of each edge."""
    e, f = _near(edges, faces)
    own = (edges.body[e] == faces.body[f]) & ~np.isin(edges.body, not_convex)[e]
    nearest = faces.corners[:, :, 2].min(axis=1)
    farthest = edges.ends[:, :, 2].max(axis=1)
    keep = np.flatnonzero(~own & (nearest[f] < farthest[e] - NEARER))
    pairs = _Pairs(e[keep], f[keep], np.zeros(len(keep)), np.ones(len(keep)))

    start = np.ascontiguousarray(edges.ends[:, 0].T)
    way = np.ascontiguousarray((edges.ends[:, 1] - edges.ends[:, 0]).T)
    slope = np.ascontiguousarray(_planes(faces).T)
    e, f = pairs.edge, pairs.face
    plane = slope[0, f] * start[0, e] + slope[1, f] * start[1, e] + slope[2, f]
    per = way[2, e] - slope[0, f] * way[0, e] - slope[1, f] * way[1, e]
    pairs = pairs.narrowed(start[2, e] - plane - NEARER, per)

    corners, sides, lengths = (np.moveaxis(x, 0, -1).copy() for x in _outlines(faces))
    for k in range(len(corners)):
        e, f = pairs.edge, pairs.face
        nx, nz = -sides[k, 1][f], sides[k, 0][f]
        at = (start[0, e] - corners[k, 0][f]) * nx + (start[1, e] - corners[k, 1][f]) * nz - INSIDE
        per = way[0, e] * nx + way[1, e] * nz
        used = lengths[k][f] > INSIDE
        pairs = pairs.narrowed(np.where(used, at, 1.0), np.where(used, per, 0.0))
    return pairs.edge, pairs.low, pairs.high


def _near(edges: Edges, faces: Faces) -> tuple[Ints, Ints]:
    """Edges and faces whose boxes meet in the view."""
    import shapely

    def boxes(points: Floats) -> NDArray[np.object_]:
        flat = points[:, :, :2]
        low, high = flat.min(axis=1), flat.max(axis=1)
        found: NDArray[np.object_] = shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1])
        return found

    tree = shapely.STRtree(boxes(faces.corners))
    found = tree.query(boxes(edges.ends))
    return found[0].astype(np.int64), found[1].astype(np.int64)


def _outlines(faces: Faces) -> tuple[Floats, Floats, Floats]:
    """Corners, unit directions and lengths of the sides of faces, counter-clockwise in the view."""
    flat = faces.corners[:, :, :2]
    after = np.roll(flat, -1, axis=1)
    area = (flat[:, :, 0] * after[:, :, 1] - after[:, :, 0] * flat[:, :, 1]).sum(axis=1)
    turned = np.where((area < 0)[:, None, None], flat[:, ::-1], flat)
    sides = np.roll(turned, -1, axis=1) - turned
    lengths = np.hypot(sides[:, :, 0], sides[:, :, 1])
    units = sides / np.maximum(lengths, 1e-12)[:, :, None]
    return turned, units, lengths


def _planes(faces: Faces) -> Floats:
    """How far ahead each face lies: a x + b z + c."""
    a, b = faces.corners[:, 0], faces.corners[:, 1]
    # The corner that is farthest off the first side: others may be repeated or in line.
    along = b - a
    across = np.cross(along[:, None, :], faces.corners - a[:, None, :])
    best = np.linalg.norm(across, axis=2).argmax(axis=1)
    normal = across[np.arange(len(best)), best]
    deep = np.where(np.abs(normal[:, 2]) < 1e-9, 1e-9, normal[:, 2])
    slope = -normal[:, :2] / deep[:, None]
    level = a[:, 2] - slope[:, 0] * a[:, 0] - slope[:, 1] * a[:, 1]
    return np.column_stack([slope, level])


def _united(edge: Ints, low: Floats, high: Floats, near: Floats) -> Stretches:
    """The stretches of each edge with none that meet, or lie ``near`` to one another."""
    if not len(edge):
        return edge, low, high
    order = np.lexsort((low, edge))
    edge, low, high = edge[order], low[order], high[order]
    # Stretches of one edge lie on a line of their own, so that one running maximum serves all.
    reach = np.maximum.accumulate(high + 2.0 * edge) - 2.0 * edge
    begins = np.ones(len(edge), dtype=bool)
    begins[1:] = (edge[1:] != edge[:-1]) | (low[1:] > reach[:-1] + near[edge[1:]])
    starts = np.flatnonzero(begins)
    lasts = np.append(starts[1:] - 1, len(edge) - 1)
    return edge[starts], low[starts], reach[lasts]


def _between(edge: Ints, low: Floats, high: Floats, count: int) -> Stretches:
    """What united stretches leave of all edges."""
    every = np.arange(count)
    e = np.concatenate([edge, every])
    begins = np.concatenate([high, np.zeros(count)])
    order = np.lexsort((begins, e))
    e, begins = e[order], begins[order]
    stops = np.concatenate([low, np.ones(count)])
    stop_edge = np.concatenate([edge, every])
    order = np.lexsort((stops, stop_edge))
    ends = stops[order]
    kept = ends - begins > 1e-9
    return e[kept], begins[kept], ends[kept]


def _stretches(edges: Edges, found: Stretches) -> Seen:
    edge, low, high = found
    start = edges.ends[edge, 0, :2]
    way = edges.ends[edge, 1, :2] - start
    ends = np.stack([start + low[:, None] * way, start + high[:, None] * way], axis=1)
    long = np.hypot(*(ends[:, 1] - ends[:, 0]).T) > SPECK
    return Seen(ends[long], edge[long])
