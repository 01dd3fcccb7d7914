"""Blocks between joists over bearings and at mid-span, splices beside joists that butt, squash
blocks under posts."""

from itertools import pairwise
from typing import Final

import msgspec

from balken.framing import kinds
from balken.framing.floors.bands import Band
from balken.framing.floors.neighbours import Neighbours
from balken.framing.kinds import MemberKind
from balken.framing.layout import Row, to_local, to_plan
from balken.framing.member import Bearings, Member, Part
from balken.framing.pieces import Cut, level_piece
from balken.geometry.plane import TOUCH, Point, add, distance, distance_to_ring
from balken.model.floors import Blocking
from balken.model.names import HostName, MemberName
from balken.recall import remembered_piece

LONG: Final = 2440.0
"""Joists over a longer span get a row of blocks at their middle, mm (8 ft; IRC 2021 R502.7.1 asks
it of deep joists)."""
SHORTEST: Final = 50.0
"""Between joists nearer than this there is no block, mm."""
STANDS_BY: Final = 400.0
"""A post further than this from every joist stands on none, mm."""


class Blocks(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What all blocks and splices of a floor share."""

    host: HostName
    level: str
    wanted: Blocking
    splice: float
    cut: Cut
    angle: float
    bottom: float
    top: float

    def piece(
        self, kind: MemberKind, letter: str, place: tuple[str, str], a: Point, b: Point
    ) -> Member:
        """One block along a line in plan, named for its row and piece."""
        name = MemberName(self.host, kind.role, *place)
        return level_piece(
            name,
            f"{self.host.key}-{letter}{name.place}",
            kind,
            self.host,
            self.level,
            self.cut,
            a,
            b,
            self.bottom,
            self.top,
        )


def block_rows(blocks: Blocks, bands: list[Band]) -> list[Part]:
    """Blocks between each joist and the next - over inner bearings, and at the middle of
    long spans - and the splices beside joists that butt.

    A block is named for the joist on its left and for where it stands: ``s`` over the far support,
    ``m`` at mid-span; a splice for the joist before the joint.
    """
    if blocks.wanted == "none" and not blocks.splice:
        return []
    nexts = [*(band.first() for band in bands[1:]), ()]
    return [_in_band(blocks, band, beyond) for band, beyond in zip(bands, nexts)]


@remembered_piece
def _in_band(blocks: Blocks, band: Band, beyond: tuple[Member, ...]) -> Part:
    """The blocks and splices of the rows of a band, blocks up to the first row beyond it."""
    spliced = _butted(band) if blocks.splice else []
    blocked = (
        _between_rows(blocks, band, beyond, {m.id for m in spliced})
        if blocks.wanted != "none"
        else []
    )
    last = None if beyond or not band.rows else band.rows[-1].x
    by_row = {m.id: row for row, m in band.pieces()}
    return Part((*blocked, *(_splice(blocks, m, inward=by_row[m.id].x == last) for m in spliced)))


def _butted(band: Band) -> list[Member]:
    """The joists whose far end meets the next of their row over a bearing (IRC 2021
    R502.6.1: those lap 3 in or have a splice as strong as the nailed lap)."""
    found = []
    for (row, m), (other, n) in pairwise(band.pieces()):
        if (
            row is other
            and m.carrier.supports[-1].on
            and not m.carrier.supports[-1].hung
            and distance(m.end[:2], n.start[:2]) < TOUCH
        ):
            found.append(m)
    return found


def _splice(blocks: Blocks, m: Member, *, inward: bool) -> Member:
    """The board beside a joint, on the side of the next row; of the last row on the other,
    inside the rim."""
    x, low = to_local(m.start[:2], blocks.angle)
    x += (m.solid.depth + blocks.cut.breadth) / 2 * (-1 if inward else 1)
    y, half = low + m.length, blocks.splice / 2
    a, b = to_plan((x, y - half), blocks.angle), to_plan((x, y + half), blocks.angle)
    return blocks.piece(kinds.SPLICE, "X", (m.id.row, m.id.piece), a, b)


def _between_rows(
    blocks: Blocks, band: Band, beyond: tuple[Member, ...], spliced: set[MemberName]
) -> list[Member]:
    neighbours, found = Neighbours(band, beyond, blocks.angle), []
    for row, m in band.pieces():
        x, _ = to_local(m.start[:2], blocks.angle)
        for letter, y, out in _spots(blocks, row, m, spliced=m.id in spliced):
            face = neighbours.face(row, x, y)
            if face is not None and face - (x + out) > SHORTEST:
                a, b = (to_plan((at, y), blocks.angle) for at in (x + out, face))
                place = (m.id.row, m.id.piece + letter)
                found.append(blocks.piece(kinds.BLOCKING, "B", place, a, b))
    return found


def _spots(blocks: Blocks, row: Row, m: Member, *, spliced: bool) -> list[tuple[str, float, float]]:
    """Where blocks stand beside a joist: their letter, how far along, and how far from the joist's
    middle they begin; over a bearing inside its row, and at its middle where that is wanted."""
    _, low = to_local(m.start[:2], blocks.angle)
    half, last = m.solid.depth / 2, m.carrier.supports[-1]
    spots = []
    if last.on and not last.hung and row.high - (low + m.length) > TOUCH:
        board = blocks.cut.breadth if spliced else 0.0
        spots.append(("s", low + last.at, half + board))
    if blocks.wanted == "bearings and middle" and m.length > LONG:
        spots.append(("m", low + m.length / 2, half))
    return spots


def squash_blocks(
    blocks: Blocks, bearings: Bearings, joists: list[tuple[Row, Member]]
) -> list[Member]:
    """A pair of upright blocks beside the joist under each post that stands on the floor
    over a bearing."""
    found = []
    for key, spot in bearings.stands_on:
        if not any(_near(spot, s.ring) for s in bearings.strips):
            continue
        m = min((m for _, m in joists), key=lambda m: _away(spot, m), default=None)
        if m is None or _away(spot, m) > STANDS_BY:
            continue
        way = ((m.end[0] - m.start[0]) / m.run, (m.end[1] - m.start[1]) / m.run)
        across: Point = (-way[1], way[0])
        for side, sign in (("L", 1.0), ("R", -1.0)):
            middle = add(spot, across, sign * (m.solid.depth / 2 + blocks.cut.breadth / 2))
            a, b = add(middle, way, -blocks.cut.breadth), add(middle, way, blocks.cut.breadth)
            found.append(blocks.piece(kinds.SQUASH_BLOCK, "Q", (f"{key}{side}", ""), a, b))
    return found


def _away(spot: Point, m: Member) -> float:
    way = ((m.end[0] - m.start[0]) / m.run, (m.end[1] - m.start[1]) / m.run)
    along = (spot[0] - m.start[0]) * way[0] + (spot[1] - m.start[1]) * way[1]
    if not -TOUCH <= along <= m.run + TOUCH:
        return float("inf")
    return abs((spot[0] - m.start[0]) * -way[1] + (spot[1] - m.start[1]) * way[0])


def _near(spot: Point, ring: tuple[Point, ...]) -> bool:
    return distance_to_ring(spot, ring) < 100.0
