"""Crossed bridging: pairs of thin boards between joists, in rows no more than 8 ft apart (IRC 2021
R502.7.1)."""

import math
from itertools import pairwise
from typing import Final

import msgspec

from balken.framing import kinds
from balken.framing.floors.bands import Band
from balken.framing.floors.neighbours import Neighbours
from balken.framing.layout import to_local, to_plan
from balken.framing.member import Member, Part, apart, blank_of, clear_span
from balken.geometry.plane import EXACT, Point, Ring, distance, sub, unit
from balken.geometry.solid import side_profile
from balken.model.names import HostName, MemberName
from balken.model.sections import Section
from balken.recall import remembered_piece
from balken.units import FOOT

BOARD: Final = (1, 3)
"""The nominal size of its boards, in; common practice, no source."""
MOST_APART: Final = 8 * FOOT
"""Rows of it lie no further apart, and no further from a bearing (IRC 2021 R502.7.1)."""
SHORTEST: Final = 50.0
"""Between joists nearer than this there is none, mm."""


class Bridging(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What all bridging of a floor shares. Heights of its foot and head mm."""

    host: HostName
    level: str
    board: Section
    material: str
    angle: float
    bottom: float
    top: float


def bridging_rows(bridging: Bridging, bands: list[Band]) -> list[Part]:
    """The pairs between each joist and the next, where a joist spans more than 8 ft.

    A piece is named for the joist on its left, its row along it, and whether it rises or falls
    towards the next: ``07.a1r``.
    """
    nexts = [*(band.first() for band in bands[1:]), ()]
    return [_in_band(bridging, band, beyond) for band, beyond in zip(bands, nexts)]


@remembered_piece
def _in_band(bridging: Bridging, band: Band, beyond: tuple[Member, ...]) -> Part:
    neighbours, found = Neighbours(band, beyond, bridging.angle), list[Member]()
    for row, m in band.pieces():
        x, low = to_local(m.start[:2], bridging.angle)
        places = [low + along for along in places_along(m)]
        if not places and clear_span(m) <= 0:  # it lies on its wall all along
            beside = neighbours.next_row(row)
            places = [start + along for _, start, other in beside for along in places_along(other)]
        for n, y in enumerate(places, 1):
            face = neighbours.face(row, x, y)
            if face is not None:
                found += _pair(bridging, m, n, (x + m.solid.depth / 2, face), y)
    return Part(tuple(found))


def places_along(m: Member) -> list[float]:
    """Where rows of bridging cross a joist, mm from its start: evenly between its bearings, no
    more than 8 ft apart."""
    found = []
    for a, b in pairwise(apart(m.carrier.supports)):
        count = math.ceil((b.at - a.at) / MOST_APART - EXACT)
        found += [a.at + (b.at - a.at) * k / count for k in range(1, count)]
    return found


def _pair(
    bridging: Bridging, m: Member, n: int, across: tuple[float, float], y: float
) -> list[Member]:
    """Two boards that cross between the faces of two joists, side by side along them."""
    gap, thick = across[1] - across[0], bridging.board.breadth
    plumb = _plumb(bridging, gap)
    if gap <= SHORTEST or plumb is None:
        return []
    made = []
    for way, side in (("r", -1), ("f", 1)):
        at = y + side * thick / 2
        ends = to_plan((across[0], at), bridging.angle), to_plan((across[1], at), bridging.angle)
        made.append(_board(bridging, m, f"{m.id.piece}{n}{way}", ends, plumb))
    return made


def _plumb(bridging: Bridging, gap: float) -> float | None:
    """How high the plumb cut of a board is that runs from the foot of one joist to the head of
    the next, mm; None where joists are so low that it would not cross."""
    high, plumb = bridging.top - bridging.bottom, bridging.board.depth
    for _ in range(60):
        plumb = bridging.board.depth * math.hypot(1.0, max(0.0, high - plumb) / max(gap, EXACT))
    return plumb if plumb < high / 2 else None


def _board(
    bridging: Bridging, m: Member, piece: str, ends: tuple[Point, Point], plumb: float
) -> Member:
    gap = distance(*ends)
    low, high = bridging.bottom, bridging.top
    ring: Ring = ((0.0, low), (gap, high - plumb), (gap, high), (0.0, low + plumb))
    heights = (low + plumb / 2, high - plumb / 2)
    if piece.endswith("f"):
        ring = ((0.0, high - plumb), (gap, low), (gap, low + plumb), (0.0, high))
        heights = heights[::-1]
    solid = side_profile(ends[0], unit(sub(ends[1], ends[0])), ring, bridging.board.breadth)
    start, end = (*ends[0], heights[0]), (*ends[1], heights[1])
    name = MemberName(bridging.host, kinds.BRIDGING.role, m.id.row, piece)
    return Member(
        name,
        f"{bridging.host.key}-BR{name.place}",
        kinds.BRIDGING,
        bridging.host,
        bridging.level,
        bridging.board.name,
        bridging.material,
        solid,
        start,
        end,
        math.dist(start, end),
        blank_of(solid, start, end),
        ("plumb", "plumb"),
        (heights[1] - heights[0]) / gap,
    )
