"""How a solid slab shares its load: every patch of it goes to the nearest thing that carries it.

Common practice for slabs on walls, beams and posts (yield-line tributary areas with corners at
45°), no source. A slab that runs on over what carries it brings more there than its two halves:
1.25 w ℓ over the middle of two spans (statics; ACI 318-19 6.5.2 asks for no less at such a
support). What its ends then take less is left with them.
"""

from typing import Any, Final

import numpy as np
import shapely

from balken.framing.member import Member
from balken.geometry.plane import Ring, box
from balken.loads.parcels import Parcel, rows_of
from balken.model.cases import CASE_COUNT, Cases
from balken.model.names import Rest
from balken.recall import remembered_piece

PATCH: Final = 100.0
"""Side of the patches a slab is shared in, mm."""
BUCKET: Final = 400.0
"""What arrives within this of one place goes on as one load, mm."""
FINEST: Final = 200_000
"""So many patches at most; a larger slab has larger ones."""
Carrier = tuple[Rest, Ring]


def patches(slab: Member) -> tuple[Any, Any, Any]:
    """The middles (x, y) and areas of a slab's patches; together they are its net area
    exactly."""
    shape = shapely.Polygon(slab.solid.plan(), [v.plan() for v in slab.voids])
    if not shape.is_valid:
        shape = shapely.Polygon(slab.solid.plan()).difference(
            shapely.union_all([shapely.Polygon(v.plan()) for v in slab.voids])
        )
    x0, y0, x1, y1 = box(slab.solid.plan())
    step = max(PATCH, ((x1 - x0) * (y1 - y0) / FINEST) ** 0.5)
    nx, ny = max(1, round((x1 - x0) / step)), max(1, round((y1 - y0) / step))
    xs, ys = np.linspace(x0, x1, nx + 1), np.linspace(y0, y1, ny + 1)
    cells = shapely.box(xs[:-1, None], ys[None, :-1], xs[1:, None], ys[None, 1:]).ravel()
    shapely.prepare(shape)
    whole = shapely.contains(shape, cells)
    cut = shapely.intersects(shape, cells) & ~whole
    cells[cut] = shapely.intersection(cells[cut], shape)
    cells = cells[whole | cut]
    areas = shapely.area(cells)
    cells, areas = cells[areas > 0], areas[areas > 0]
    middles = shapely.centroid(cells)
    return shapely.get_x(middles), shapely.get_y(middles), areas


@remembered_piece
def share_slab(
    slab: Member, pressure: Cases, parcels: tuple[Parcel, ...], carriers: tuple[Carrier, ...]
) -> list[tuple[Rest, Parcel]]:
    """What a slab hands to each carrier, at the nearest place of it.

    Args:
        slab: its member.
        pressure: N/mm² per case, own weight included.
        parcels: what stands on it.
        carriers: names and outlines of all it lies on.
    """
    if not carriers:
        return []
    x, y, areas = patches(slab)
    shapes = np.array([shapely.Polygon(ring) for _, ring in carriers])
    tree = shapely.STRtree(shapes)
    spots = shapely.points(
        np.concatenate([x, [p.x for p in parcels]]), np.concatenate([y, [p.y for p in parcels]])
    )
    # A place as near to two carriers gives each half.
    which, nearest = tree.query_nearest(spots, all_matches=True)
    split = 1.0 / np.bincount(which, minlength=len(spots))[which]
    at = shapely.get_coordinates(shapely.shortest_line(shapes[nearest], spots[which])).reshape(
        -1, 2, 2
    )[:, 0]
    whole = np.concatenate(
        [
            areas[:, None] * rows_of([pressure]),
            rows_of([p.forces for p in parcels]),
        ]
    )
    besides = np.concatenate(
        [
            np.zeros((len(x), CASE_COUNT)),
            rows_of([p.more for p in parcels]),
        ]
    )
    forces, more = whole[which] * split[:, None], besides[which] * split[:, None]
    keys = np.column_stack([nearest, np.round(at / BUCKET)]).astype(np.int64)
    _, bucket = np.unique(keys, axis=0, return_inverse=True)
    bucket = bucket.ravel()
    count = int(bucket.max()) + 1
    of_bucket = np.zeros(count, dtype=int)
    of_bucket[bucket] = nearest
    both = _both_sides(bucket, count, shapely.get_coordinates(spots)[which] - at, which < len(x))
    summed, extra = (_by_bucket(bucket, count, values) for values in (forces, more))
    extra = extra + np.where(both, CONTINUOUS, 0.0)[:, None] * np.maximum(
        _by_bucket(bucket, count, np.where((which < len(x))[:, None], forces, 0.0)), 0.0
    )
    weight = np.abs(forces.sum(axis=1)) + 1e-12
    place = _by_bucket(bucket, count, at * weight[:, None]) / _by_bucket(
        bucket, count, weight[:, None]
    )
    return [
        (
            carriers[of_bucket[k]][0],
            Parcel(
                float(place[k, 0]),
                float(place[k, 1]),
                Cases(*summed[k].tolist()),
                slab.id,
                Cases(*extra[k].tolist()),
                BUCKET,
            ),
        )
        for k in range(count)
    ]


def _by_bucket(bucket: Any, count: int, values: Any) -> Any:
    """Sum of values (N, C) by their bucket, (count, C)."""
    found = np.zeros((count, values.shape[1]))
    np.add.at(found, bucket, values)
    return found


def _both_sides(bucket: Any, count: int, ways: Any, of_slab: Any) -> Any:
    """Whether patches lie on both sides of what carries each bucket: some in the way of the
    furthest, some against it, by more than a patch."""
    reach = np.hypot(ways[:, 0], ways[:, 1])
    furthest = np.zeros((count, 2))
    order = np.argsort(reach, kind="stable")
    furthest[bucket[order]] = ways[order]  # the last, and so the furthest, stays
    along = (ways * furthest[bucket]).sum(axis=1)
    size = np.hypot(furthest[:, 0], furthest[:, 1])
    against = of_slab & (along < -ASIDE * size[bucket])
    found = np.zeros(count, dtype=bool)
    found[bucket[against]] = True
    return found & (size > ASIDE)


ASIDE: Final = 250.0
"""A slab runs on over a carrier where it reaches further than this past both its sides, mm."""
CONTINUOUS: Final = 0.25
"""What a slab that runs on over a support brings there besides the halves of its two spans."""
