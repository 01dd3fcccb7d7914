"""The frame of what rises over a wall to the roof: a plate on the wall's own, studs on the layout of the wall
below cut to the slope, and a plate along the rake. Where studs stand on plates at half height the wall
may fold: floor or ceiling has to hold it there (platform framing).
"""

import math
from collections.abc import Iterator
from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member, blank_of
from balken.framing.roofs.gables import GableWall
from balken.framing.walls.face import LEAST, SLIGHT
from balken.framing.walls.pieces import Stands
from balken.geometry.plane import Point, Ring, add, dot, sub
from balken.geometry.solid import side_profile
from balken.model.names import MemberName

FLAT: Final = 1e-6


class Rise(NamedTuple):
    """The outline of a gable along its wall: from, to, and the line under the roof, mm."""

    low: float
    high: float
    foot: float
    line: tuple[Point, ...]

    def top(self, s: float) -> float:
        """The height of the line under the roof at a place along the wall."""
        for (a, za), (b, zb) in pairwise(self.line):
            if a - SLIGHT <= s <= b + SLIGHT and b - a > FLAT:
                return za + (zb - za) * (s - a) / (b - a)
        return self.foot


def rise_of(gable: GableWall, at: Stands) -> Rise:
    """A gable along the line of its wall."""
    offset = dot(sub(gable.start, at.start), at.way)
    turned = dot(gable.way, at.way) < 0
    places = [(offset - s if turned else offset + s, z) for s, z in gable.ring]
    foot = min(z for _, z in places)
    low, high = min(s for s, _ in places), max(s for s, _ in places)
    upper = sorted({p for p in places if p[1] > foot + SLIGHT or p[0] in (low, high)})
    return Rise(low, high, foot, tuple(upper))


class Shaped(NamedTuple):
    """One piece: kind, row, outline in the elevation, and its axis."""

    kind: MemberKind
    row: str
    ring: Ring
    axis: tuple[Point, Point]


def gable_pieces(rise: Rise, thick: float, layout: list[float]) -> Iterator[Shaped]:
    """The pieces of a gable.

    Args:
        rise: its outline.
        thick: of studs and plates, mm.
        layout: the middles of the studs of the wall below, mm.
    """
    lines = list(_rake_lines(rise, thick))
    stands = [p for line in lines for p in line]
    if not stands:
        return
    low, high = min(s for s, _ in stands), max(s for s, _ in stands)
    foot = rise.foot + thick
    yield Shaped(
        kinds.GABLE_PLATE,
        "1",
        ((low, rise.foot), (high, rise.foot), (high, foot), (low, foot)),
        ((low, rise.foot + thick / 2), (high, rise.foot + thick / 2)),
    )
    for n, ((a, za), (b, zb)) in enumerate(lines, 1):
        deep = thick * math.hypot(1.0, (zb - za) / (b - a))
        ring: Ring = ((a, za), (b, zb), (b, zb + deep), (a, za + deep))
        yield Shaped(kinds.RAKE_PLATE, f"{n}", ring, ((a, za + deep / 2), (b, zb + deep / 2)))
    for k, x in enumerate(layout, 1):
        left, right = x - thick / 2, x + thick / 2
        if left < low - SLIGHT or right > high + SLIGHT:
            continue
        under = _under(lines, left), _under(lines, right)
        if min(under) - foot < LEAST:
            continue
        peak = [(s, z) for line in lines for s, z in line if left < s < right]
        ring = ((left, foot), (right, foot), (right, under[1]), *sorted(peak), (left, under[0]))
        yield Shaped(kinds.GABLE_STUD, f"{k:02d}", _tidy(ring), ((x, foot), (x, max(under))))


def _tidy(ring: Ring) -> Ring:
    """A ring without corners that lie on one another."""
    found = [p for p, q in zip(ring, (*ring[1:], ring[0])) if math.dist(p, q) > SLIGHT]
    return tuple(found)


def _rake_lines(rise: Rise, thick: float) -> Iterator[tuple[Point, Point]]:
    """The undersides of the rake plates, where they lie over the plate on the wall."""
    foot = rise.foot + thick
    for (a, za), (b, zb) in pairwise(rise.line):
        if b - a < LEAST:
            continue
        slope = (zb - za) / (b - a)
        deep = thick * math.hypot(1.0, slope)
        first, last = (a, za - deep), (b, zb - deep)
        if abs(slope) > FLAT:
            cross = a + (foot - first[1]) / slope
            if slope > 0 and first[1] < foot:
                first = (cross, foot)
            if slope < 0 and last[1] < foot:
                last = (cross, foot)
        if last[0] - first[0] > LEAST and max(first[1], last[1]) > foot - SLIGHT:
            yield first, last


def _under(lines: list[tuple[Point, Point]], s: float) -> float:
    """The underside of the rake plates at a place; nothing where none lies."""
    for (a, za), (b, zb) in lines:
        if a - SLIGHT <= s <= b + SLIGHT:
            return za + (zb - za) * (s - a) / (b - a)
    return -math.inf


def gable_members(gable: GableWall, at: Stands, layout: list[float]) -> list[Member]:
    """The members of a gable over a framed wall."""
    rise = rise_of(gable, at)
    found = []
    for p in gable_pieces(rise, at.studs.breadth, layout):
        name = MemberName(at.host, p.kind.role, p.row, "")
        (sa, za), (sb, zb) = p.axis
        (ax, ay), (bx, by) = add(at.start, at.way, sa), add(at.start, at.way, sb)
        start, end = (ax, ay, za), (bx, by, zb)
        solid = side_profile(at.start, at.way, p.ring, at.studs.depth)
        blank = blank_of(solid, start, end)
        cut = "square" if p.kind is kinds.GABLE_PLATE else "sloped"
        found.append(
            Member(
                name,
                f"{at.host.key}-{LETTERS[p.kind]}{p.row}",
                p.kind,
                at.host,
                at.level,
                at.studs.name,
                at.material,
                solid,
                start,
                end,
                math.dist(start, end),
                blank,
                ("square", cut),
            )
        )
    return found


LETTERS: Final = {kinds.GABLE_PLATE: "GB", kinds.RAKE_PLATE: "GR", kinds.GABLE_STUD: "GS"}
"""In marks, behind the wall."""
