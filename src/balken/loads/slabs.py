"""How a solid slab shares its load: every patch of it goes to the nearest thing that carries it.

Common practice for slabs on walls, beams and posts (yield-line tributary areas with corners at 45°), no source.
"""

from collections.abc import Sequence
from typing import Any, Final

import numpy as np
import shapely

from balken.framing.member import Member
from balken.geometry.plane import Ring, box
from balken.loads.parcels import Cases, Parcel

PATCH: Final = 250.0
"""Side of the patches a slab is shared in, mm."""
BUCKET: Final = 400.0
"""What arrives within this of one place goes on as one load, mm."""
FINEST: Final = 200_000
"""So many patches at most; a larger slab has larger ones."""
Carrier = tuple[str, Ring]


def patches(slab: Member) -> tuple[Any, Any, Any]:
    """Return the middles (x, y) and areas of a slab's patches; together they are its net area exactly."""
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


def share_slab(
    slab: Member, pressure: Cases, parcels: Sequence[Parcel], carriers: Sequence[Carrier]
) -> list[tuple[str, Parcel]]:
    """Return what a slab hands to each carrier, at the nearest place of it.

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
    spots = shapely.points(np.concatenate([x, [p.x for p in parcels]]), np.concatenate([y, [p.y for p in parcels]]))
    # A place as near to two carriers gives each half.
    which, nearest = tree.query_nearest(spots, all_matches=True)
    split = 1.0 / np.bincount(which, minlength=len(spots))[which]
    lines = shapely.shortest_line(shapes[nearest], spots[which])
    at = shapely.get_coordinates(lines).reshape(-1, 2, 2)[:, 0]
    buckets: dict[tuple[int, int, int], list[tuple[float, float, Cases]]] = {}
    for i, carrier, share, (ax, ay) in zip(which.tolist(), nearest.tolist(), split.tolist(), at.tolist()):
        forces = tuple(q * areas[i] for q in pressure) if i < len(x) else parcels[i - len(x)].forces
        key = (carrier, round(ax / BUCKET), round(ay / BUCKET))
        buckets.setdefault(key, []).append((ax, ay, tuple(share * f for f in forces)))
    found = []
    for (carrier, _, _), items in buckets.items():
        weight = [abs(sum(f)) + 1e-12 for *_, f in items]
        px = sum(w * a for w, (a, _, _) in zip(weight, items)) / sum(weight)
        py = sum(w * b for w, (_, b, _) in zip(weight, items)) / sum(weight)
        forces = tuple(float(sum(f[c] for *_, f in items)) for c in range(len(pressure)))
        found.append((carriers[carrier][0], Parcel(float(px), float(py), forces, slab.id)))
    return found
