"""Blocks between joists over bearings and at mid-span, and squash blocks under what stands on a floor."""

from itertools import pairwise
from typing import Final

from balken.framing.layout import Row, to_local, to_plan
from balken.framing.member import Bed, Member
from balken.framing.pieces import Cut, level_piece
from balken.geometry.plane import TOUCH, Point, add, distance_to_ring
from balken.model.floors import Blocking, FloorArea

LONG: Final = 2440.0
"""Joists over a longer span get a row of blocks at their middle, mm (8 ft; IRC 2021 R502.7.1 asks it of deep joists)."""
SHORTEST: Final = 50.0
"""Between joists nearer than this there is no block, mm."""
STANDS_BY: Final = 400.0
"""A post further than this from every joist stands on none, mm."""


def block_rows(
    host: str, floor: FloorArea, wanted: Blocking, joists: list[tuple[Row, Member]], cut: Cut, angle: float, bottom: float,
    top: float,
) -> list[Member]:  # fmt: skip
    """Return blocks between each joist and the next: over inner bearings, and at the middle of long spans.

    A block is named for the joist on its left and for where it stands: ``s`` over the far support, ``m`` at mid-span.
    """
    if wanted == "none":
        return []
    by_row: dict[float, list[tuple[float, float, float, float]]] = {}
    spots: list[tuple[float, str, float, float, float]] = []
    for row, m in joists:
        x, low = to_local(m.start[:2], angle)
        by_row.setdefault(row.x, []).append((low, low + m.length, x, m.solid.depth / 2))
        key = m.id.rsplit(":", 1)[1]
        last = m.supports[-1]
        if last.on and not last.hung and row.high - (low + m.length) > TOUCH:
            spots.append((row.x, f"{key}s", x, low + last.at, m.solid.depth / 2))
        if wanted == "bearings and middle" and m.length > LONG:
            spots.append((row.x, f"{key}m", x, low + m.length / 2, m.solid.depth / 2))
    after = dict(pairwise(by_row))
    found = []
    for row_x, key, x, y, half in spots:
        beside = [p for p in by_row.get(after.get(row_x, row_x), ()) if p[0] - TOUCH < y < p[1] + TOUCH and p[2] > x]
        if not beside:
            continue
        _, _, other, thick = min(beside, key=lambda p: p[2])
        a, b = (x + half, y), (other - thick, y)
        if b[0] - a[0] > SHORTEST:
            found.append(
                level_piece(
                    f"{host}/blocking:{key}", f"{floor.id}-B{key}", "blocking", host, floor.level, cut,
                    to_plan(a, angle), to_plan(b, angle), bottom, top,
                )
            )  # fmt: skip
    return found


def squash_blocks(
    host: str, floor: FloorArea, bed: Bed, joists: list[tuple[Row, Member]], cut: Cut, bottom: float, top: float
) -> list[Member]:
    """Return a pair of upright blocks beside the joist under each post that stands on the floor over a bearing."""
    found = []
    for key, spot in bed.stands_on:
        if not any(_near(spot, s.ring) for s in bed.strips):
            continue
        m = min((m for _, m in joists), key=lambda m: _away(spot, m), default=None)
        if m is None or _away(spot, m) > STANDS_BY:
            continue
        way = ((m.end[0] - m.start[0]) / m.run, (m.end[1] - m.start[1]) / m.run)
        across: Point = (-way[1], way[0])
        for side, sign in (("L", 1.0), ("R", -1.0)):
            middle = add(spot, across, sign * (m.solid.depth / 2 + cut.breadth / 2))
            a, b = add(middle, way, -cut.breadth), add(middle, way, cut.breadth)
            found.append(
                level_piece(
                    f"{host}/squash block:{key}{side}", f"{floor.id}-Q{key}{side}", "squash block", host, floor.level, cut,
                    a, b, bottom, top,
                )
            )  # fmt: skip
    return found


def _away(spot: Point, m: Member) -> float:
    way = ((m.end[0] - m.start[0]) / m.run, (m.end[1] - m.start[1]) / m.run)
    along = (spot[0] - m.start[0]) * way[0] + (spot[1] - m.start[1]) * way[1]
    if not -TOUCH <= along <= m.run + TOUCH:
        return float("inf")
    return abs((spot[0] - m.start[0]) * -way[1] + (spot[1] - m.start[1]) * way[0])


def _near(spot: Point, ring: tuple[Point, ...]) -> bool:
    return distance_to_ring(spot, ring) < 100.0
