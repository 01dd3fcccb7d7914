"""Solid slabs as floors: thick enough that their sag need not be worked out."""

from collections.abc import Sequence
from typing import Any, Final

import numpy as np
import shapely

from balken.design.codes.ground import SlabDepth
from balken.design.lines import Check, Line
from balken.framing.member import Member
from balken.geometry.plane import TOUCH
from balken.loads.path import LoadPath

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


def slab_checks(rules: SlabDepth, path: LoadPath, member: Member, fy: float) -> tuple[Check, ...]:
    """The checks of a slab's thickness against its span and its cantilevers; none where it
    lies on nothing.

    Args:
        rules: of the code.
        path: where loads go.
        member: the slab.
        fy: of the bars, N/mm².
    """
    under = tuple(shapely.Polygon(ring) for _, ring in path.rests.get(member.id, ()))
    if not under:
        return ()
    factor = rules.by_steel(fy)
    span, reach = clear_way(member, under), reach_past(member, under)
    found = [
        _thickness(
            "Thickness", span, rules.of_span, factor, rules, member, "widest way between carriers"
        )
    ]
    if reach > 2 * member.solid.depth:
        words = "furthest past what carries it: a cantilever"
        found.append(
            _thickness(
                "Cantilever, depth",
                reach,
                rules.of_cantilever,
                factor,
                rules,
                member,
                words,
            )
        )
    return tuple(found)


def _thickness(
    name: str,
    span: float,
    share: float,
    factor: float,
    rules: SlabDepth,
    member: Member,
    words: str,
) -> Check:
    needed = span / share * factor + rules.under_bars
    under = Line("under the bars", rules.under_bars, "run", how="cover and half a bar")
    lines = (
        Line("ℓ", span, "length", how=words),
        Line("for its steel", factor, "factor", rules.steel_clause),
        *((under,) if rules.under_bars else ()),
        Line("h needed", needed, "run", rules.clause, f"ℓ / {share:.0f}"),
        Line("h", member.solid.depth, "run"),
    )
    return Check(name, needed / member.solid.depth, "–", rules.clause, lines)
