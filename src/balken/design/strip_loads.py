"""How what lies on a piece of strip footing spreads along it to the soil.

Walls and rows of joists load it evenly, piece by piece; what stands at one place - a post, a beam -
goes down through stem and footing at 1 to 1 (common practice: half the angle that IRC R403.1.1
keeps for the projection), so that it presses no further to either side than it stands high over the
soil. Where pieces lap at a step, only the lower one lies on the soil.
"""

from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np
import shapely

from balken.analysis.beams import Floats
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.pieces import polygons_of
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Point, direction_or, dot, sub
from balken.loads.parcels import Parcel
from balken.loads.path import LoadPath
from balken.model.cases import CASE_COUNT, Cases
from balken.model.names import HostName, Rest

ROW: Final = 600.0
"""What lies in rows - joists, pieces of wall - is spread over so much of the wall before it goes
down, mm."""


class Stretch(msgspec.Struct, frozen=True):
    """The part of a piece of footing that lies on soil of its own: along its line from its start,
    mm, and its area, mm²."""

    low: float
    high: float
    area: float
    goes_on: tuple[float, float] = (0.0, 0.0)
    """How much further the footing of the same wall goes on before and after it, mm: what stands at one
    place spreads into it through the wall."""

    @property
    def length(self) -> float:
        """Mean length along the line, mm."""
        return self.high - self.low


class OnStrip(msgspec.Struct, frozen=True, gc=False):
    """What lies on a stretch, N per case: how far along it, how far to both sides it spreads, and
    whether it stands alone."""

    at: float
    forces: Cases
    spread: float
    alone: bool
    wide: float
    """Of the row it lies in, or of the post that stands there, along the line, mm."""


class Stretches:
    """What of every piece in the ground lies on soil of its own; overlaps are worked out once a
    building."""

    def __init__(self, structure: Structure) -> None:
        self._structure = structure
        pieces = structure.of(*kinds.those(lambda k: k.strip))
        shapes = polygons_of(pieces)
        self._own: dict[Rest, shapely.Polygon] = {}
        if pieces:
            tree = shapely.STRtree(shapes)
            for i, k in zip(*tree.query(shapes, predicate="intersects").tolist()):
                # Loads go to the first of two pieces over one place; so does the soil there.
                if k < i and pieces[i].host == pieces[k].host:
                    own = self._own.get(pieces[i].id, shapes[i])
                    self._own[pieces[i].id] = own.difference(shapes[k])
        self._members: dict[Rest, Member] = {
            m.id: m for m in structure.of(kinds.STEM, kinds.POST, kinds.PIER)
        }
        self._along: dict[tuple[HostName, str], list[Member]] = {}
        for m in structure.of(kinds.FOOTING):
            self._along.setdefault((m.host, m.id.row), []).append(m)
        self._stems: dict[HostName, float] = {}
        for m in structure.of(kinds.STEM):
            low, high = m.solid.bounds()
            self._stems[m.host] = max(self._stems.get(m.host, 0.0), high[2] - low[2])

    def of(self, member: Member) -> Stretch:
        """What of one piece lies on soil of its own."""
        shape = self._own.get(member.id)
        if shape is None or shape.area < TOUCH:
            shape = shapely.Polygon(member.solid.plan())
        start = (member.start[0], member.start[1])
        way = direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0))
        along = [dot(sub(p, start), way) for p in shapely.get_coordinates(shape)]
        low, high = min(along), max(along)
        ends = [dot(sub(p, start), way) for m in self._mates(member) for p in m.solid.plan()]
        goes_on = (max(0.0, low - min(ends, default=low)), max(0.0, max(ends, default=high) - high))
        return Stretch(low, high, float(shape.area), goes_on)

    def _mates(self, member: Member) -> list[Member]:
        """The other pieces of a wall's footing, under the same stem, at other steps."""
        if member.kind is not kinds.FOOTING or not self._stems.get(member.host):
            return []
        mine = self._along.get((member.host, member.id.row), [])
        return [m for m in mine if m.id != member.id]

    def loads(self, member: Member, path: LoadPath) -> tuple[OnStrip, ...]:
        """What lies on one piece, along its line."""
        start = (member.start[0], member.start[1])
        way = direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0))
        low, high = member.solid.bounds()
        stem = self._stems.get(member.host, 0.0) if member.kind is kinds.FOOTING else 0.0
        through = high[2] - low[2] + stem
        found = []
        beside = (p for m in self._mates(member) for p in path.points.get(m.id, ()))
        for p in (*path.points.get(member.id, ()), *filter(stands_alone, beside)):
            source = self._members.get(p.source)
            deep = (
                source.start[2] - low[2]
                if source is not None and source.kind is not kinds.STEM
                else through
            )
            at, alone = dot(sub((p.x, p.y), start), way), stands_alone(p)
            wide = (
                _along(source, way)
                if alone and source is not None
                else 0.0
                if alone
                else p.wide or ROW
            )
            found.append(OnStrip(at, p.most, max(deep, high[2] - low[2]), alone, wide))
        return tuple(found)


def _along(post: Member, way: Point) -> float:
    """How long a post is along a direction, mm."""
    along = [dot(p, way) for p in post.solid.plan()]
    return max(along) - min(along)


def stands_alone(parcel: Parcel) -> bool:
    """Whether a load comes down at one place, not in a row."""
    kind = kinds.named(parcel.source)
    return kind is not None and kind.at_one_place


def highest_line(loads: Sequence[OnStrip], stretch: Stretch, factors: Cases) -> float:
    """The greatest line load on soil under a stretch in one combination, N/mm: see
    :func:`highest_lines`."""
    return highest_lines(loads, stretch, (factors,))[0]


def highest_lines(
    loads: Sequence[OnStrip], stretch: Stretch, combinations: Sequence[Cases]
) -> list[float]:
    """The greatest line load on soil under a stretch in each of some combinations, N/mm, its own
    weight left out.

    Rows are evened out over twice the depth they go down through; what stands alone spreads over as
    much, less where the footing ends.

    Args:
        loads: what lies on it.
        stretch: where it lies on soil.
        combinations: the factors of the cases in each.
    """
    length = stretch.length
    if length < TOUCH or not loads:
        return [0.0] * len(combinations)
    rows = [x for x in loads if not x.alone]
    points = []
    for x in (x for x in loads if x.alone):
        before, after = stretch.goes_on
        at = min(max(x.at - stretch.low, -before), length + after)
        half = x.spread + x.wide / 2
        points.append((max(-before, at - half), min(length + after, at + half), x.forces))
    ends = [e for low, high, _ in points for e in (low, high)]
    places = [0.0, length, *ends, *(x.at - stretch.low for x in rows)]
    spots = np.clip(np.array(places), 0.0, length)
    line = _rows_at(rows, stretch, spots)
    for low, high, forces in points:
        under = (spots >= low - TOUCH) & (spots <= high + TOUCH)  # spots beyond it lie at its ends
        line = line + np.outer(under, np.array(list(forces)) / max(high - low, TOUCH))
    factors = np.array([list(c) for c in combinations])
    return [float(most) for most in (line @ factors.T).max(axis=0)]


def _rows_at(rows: Sequence[OnStrip], stretch: Stretch, spots: Floats) -> Floats:
    """The line load of rows at places along a stretch, a column a case, evened out over the depth
    they go down through to each side."""
    if not rows:
        return np.zeros((len(spots), CASE_COUNT))
    length = stretch.length
    window = min(length, 2 * max(x.spread for x in rows))
    wide = np.minimum(np.array([x.wide for x in rows]), length)
    lows = np.clip(np.array([x.at - stretch.low for x in rows]) - wide / 2, 0.0, length - wide)
    forces = np.array([list(x.forces) for x in rows])

    def before(x: Floats) -> Floats:
        share = np.clip((x[:, None] - lows) / np.maximum(wide, TOUCH), 0.0, 1.0)
        found: Floats = share @ forces
        return found

    low = np.clip(spots - window / 2, 0.0, length - window)
    return (before(low + window) - before(low)) / window
