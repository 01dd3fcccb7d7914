"""Solid slabs as floors: thick enough that their sag need not be worked out (ACI 318-19 table
7.3.1.1)."""

from collections.abc import Sequence
from typing import Any, Final

import numpy as np
import shapely

from balken.design.lines import Check, Line
from balken.framing.member import Member
from balken.geometry.plane import TOUCH
from balken.loads.path import LoadPath
from balken.units import PSI

LEAST: Final = 20.0
"""A slab on two supports is at least a twentieth of its span thick (ACI 318-19 table 7.3.1.1, fy
60,000 psi)."""
LEAST_CANTILEVER: Final = 10.0
"""And a tenth of what it reaches past its last support (the same table)."""
ALONG_EDGE: Final = 100.0
"""Between places on a slab's edge at which its reach is measured, mm."""


def clear_way(member: Member, under: Sequence[Any]) -> float:
    """The span of a slab, mm: twice the radius of the largest circle in it that nothing
    under it touches."""
    shape = shapely.Polygon(member.solid.plan())
    free = shape.difference(shapely.union_all(list(under))) if under else shape
    circle = shapely.maximum_inscribed_circle(free, tolerance=50.0)
    return 2.0 * float(circle.length)


def reach_past(member: Member, under: Sequence[Any]) -> float:
    """How far a slab reaches past what carries it, as a cantilever, mm: the furthest place of its
    edge from the nearest carrier, of those beyond which nothing carries it any more."""
    shape = shapely.Polygon(member.solid.plan())
    carriers = shapely.union_all(list(under))
    edge = shapely.segmentize(shape.exterior, ALONG_EDGE)
    spots = shapely.get_coordinates(edge)
    dots = shapely.points(spots)
    near = shapely.get_coordinates(
        shapely.shortest_line(np.full(len(dots), carriers), dots)
    ).reshape(-1, 2, 2)[:, 0]
    ways = spots - near
    away = np.hypot(ways[:, 0], ways[:, 1])
    out = away > TOUCH
    if not out.any():
        return 0.0
    x0, y0, x1, y1 = shape.bounds
    far = x1 - x0 + y1 - y0
    ends = spots[out] + ways[out] / away[out, None] * far
    starts = spots[out] + ways[out] / away[out, None] * TOUCH
    ahead = shapely.linestrings(np.stack([starts, ends], axis=1))
    free = ~shapely.intersects(ahead, carriers)
    return float(away[out][free].max(initial=0.0))


def yield_factor(fy: float) -> float:
    """By how much slabs with bars of other steel than 60,000 psi are thicker: 0.4 + fy / 100,000
    psi (ACI 318-19 7.3.1.1.1)."""
    return 0.4 + fy / PSI / 100_000


def slab_checks(path: LoadPath, member: Member, fy: float) -> tuple[Check, ...]:
    """The checks of a slab's thickness against its span and its cantilevers; none where it
    lies on nothing.

    ``fy`` is of the bars, N/mm².
    """
    under = tuple(shapely.Polygon(ring) for _, ring in path.rests.get(member.id, ()))
    if not under:
        return ()
    factor = yield_factor(fy)
    span, reach = clear_way(member, under), reach_past(member, under)
    found = [
        _thickness("Thickness", span, LEAST, factor, member, "widest way between what carries it")
    ]
    if reach > 2 * member.solid.depth:
        words = "furthest past what carries it: a cantilever"
        found.append(
            _thickness(
                "Thickness of the cantilever", reach, LEAST_CANTILEVER, factor, member, words
            )
        )
    return tuple(found)


def _thickness(
    name: str, span: float, share: float, factor: float, member: Member, words: str
) -> Check:
    needed = span / share * factor
    lines = (
        Line("ℓ", span, "length", how=words),
        Line("fy", factor, "factor", "ACI 318-19 7.3.1.1.1", "0.4 + fy / 100,000 psi"),
        Line("h needed", needed, "run", "ACI 318-19 table 7.3.1.1", f"ℓ / {share:.0f}"),
        Line("h", member.solid.depth, "run"),
    )
    return Check(name, needed / member.solid.depth, "–", "ACI 318-19 7.3.1.1", lines)
