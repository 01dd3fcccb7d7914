"""Bodies that meet: each cut by those that go before it, so that every point of space is counted
once (manifold3d)."""

from collections.abc import Sequence
from typing import Any, Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.geometry.solid import Extrusion, Vector
from balken.recall import remembered_piece

ROUND: Final = 1e-6
"""Places in bodies are rounded to this, so that faces that lie on one plane do, mm."""


class Mesh(msgspec.Struct, frozen=True, eq=False):
    """A closed surface: ``points`` (n, 3) in mm, ``triangles`` (m, 3), and the body each triangle's
    face comes from."""

    points: NDArray[np.float64]
    triangles: NDArray[np.intp]
    source: NDArray[np.intp]
    volume: float

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Mesh) or self.points.shape != other.points.shape:
            return False
        return bool(np.array_equal(self.points, other.points)) and bool(
            np.array_equal(self.triangles, other.triangles)
        )

    def __hash__(self) -> int:
        return hash((self.points.shape, self.triangles.shape, self.volume))


class Body(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A body before it meets others, with what is left out of it."""

    solid: Extrusion
    voids: tuple[Extrusion, ...] = ()


def manifold_of(solid: Extrusion, origin: tuple[float, float, float]) -> Any:
    """An extrusion as manifold3d's body, about an origin of its own so that no digit is lost
    far from zero."""
    from manifold3d import CrossSection, Manifold

    ring = [(round(x, 6), round(y, 6)) for x, y in solid.outline]
    made = Manifold.extrude(CrossSection([ring]), solid.depth)
    u, v, n, o = solid.u, solid.v, solid.normal, solid.origin
    return made.transform([[u[i], v[i], n[i], o[i] - origin[i]] for i in range(3)])


def whole_body(body: Body, origin: tuple[float, float, float]) -> Any:
    """A body without its voids."""
    from manifold3d import Manifold, OpType

    made = manifold_of(body.solid, origin)
    if not body.voids:
        return made
    return Manifold.batch_boolean(
        [made, *(manifold_of(v, origin) for v in body.voids)], OpType.Subtract
    )


@remembered_piece
def trimmed(body: Body, before: tuple[Body, ...]) -> Mesh:
    """What is left of a body where others go before it; its triangles name those others from
    1, itself 0."""
    from manifold3d import Manifold, OpType

    origin = body.solid.bounds()[0]
    parts = [whole_body(b, origin).as_original() for b in (body, *before)]
    made = Manifold.batch_boolean(parts, OpType.Subtract) if before else parts[0]
    return _mesh(made, origin, {p.original_id(): i for i, p in enumerate(parts)})


def union(bodies: Sequence[Body]) -> Mesh:
    """The union of bodies; its triangles name the body their face comes from."""
    from manifold3d import Manifold, OpType

    if not bodies:
        return Mesh(
            np.zeros((0, 3)), np.zeros((0, 3), dtype=np.intp), np.zeros(0, dtype=np.intp), 0.0
        )
    origin = bodies[0].solid.bounds()[0]
    parts = [whole_body(b, origin).as_original() for b in bodies]
    made = Manifold.batch_boolean(parts, OpType.Add)
    return _mesh(made, origin, {p.original_id(): i for i, p in enumerate(parts)})


def _mesh(made: Any, origin: tuple[float, float, float], sources: dict[int, int]) -> Mesh:
    out = made.to_mesh64()
    points = np.asarray(out.vert_properties, dtype=np.float64)[:, :3] + np.array(origin)
    triangles = np.asarray(out.tri_verts, dtype=np.intp).reshape(-1, 3)
    source = np.zeros(len(triangles), dtype=np.intp)
    runs = list(out.run_index)
    for begin, end, key in zip(runs, runs[1:], out.run_original_id):
        source[begin // 3 : end // 3] = sources.get(int(key), 0)
    return Mesh(points, triangles, source, float(made.volume()))


def overlaps(bounds: Sequence[tuple[Vector, Vector]], least: float = 1e-3) -> list[tuple[int, int]]:
    """Pairs of bodies whose boxes share a volume, the first number the smaller.

    Args:
        bounds: least and greatest corner of each body.
        least: overlaps thinner than this are touch, mm.
    """
    from shapely import STRtree, linestrings

    if not bounds:
        return []
    low = np.array([b[0] for b in bounds])
    high = np.array([b[1] for b in bounds])
    tree = STRtree(
        linestrings(np.stack([low[:, :2], high[:, :2]], axis=1))
    )  # it looks at boxes only
    first, second = tree.query(tree.geometries)
    shared = np.minimum(high[first], high[second]) - np.maximum(low[first], low[second])
    kept = (first < second) & np.all(shared > least, axis=1)
    return sorted(zip(first[kept].tolist(), second[kept].tolist()))


def face_areas(mesh: Mesh) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The area of each triangle, mm², and its outward unit normal."""
    a, b, c = (mesh.points[mesh.triangles[:, i]] for i in range(3))
    normal = np.cross(b - a, c - a)
    size = np.linalg.norm(normal, axis=1)
    return size / 2, normal / np.maximum(size, 1e-12)[:, None]
