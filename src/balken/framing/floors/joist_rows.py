"""A row of joists against what lies under it: where it breaks, what each piece rests or hangs
on."""

import math
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.framing.layout import Row, to_local, to_plan
from balken.framing.member import Strip, Support
from balken.framing.pieces import Over, end_supports
from balken.geometry.plane import ANGLE, TOUCH, Ring, box, crossings, distance, edges, sub, unit
from balken.model.names import Rest
from balken.recall import remembered, remembered_piece

EDGE = 0.5
"""A bearing shorter than this is a touch, not a bearing, mm."""
END_ZONE = 12.0
"""A bearing whose edge lies within this of a joist row's end is the end bearing, mm."""
SIDE_WALL = 400.0
"""Inside walls stop at the face of a side wall; a joist over that wall still breaks where they
would cross it, mm."""
MOSTLY = 0.9
"""A joist that lies on a wall over this share of its length rests on it all along."""
CANTILEVER = 0.5
"""A joist runs past its last bearing by at most this share of the span behind it; more is a span
that lacks a bearing."""


class Bearing(NamedTuple):
    """A bearing in the local plan: its name, its ring with the box round it, and whether its long
    side lies square."""

    on: Rest
    ring: Ring
    box: tuple[float, float, float, float]
    square: bool
    hung: bool = False


class _Local(NamedTuple):
    """A strip in the local plan, whether it runs along the joists, and what of it the rows that
    meet it need to know."""

    bearing: Bearing
    along: bool
    known: Bearing


def bearings_along(strips: tuple[Strip, ...], angle: float) -> list[Bearing]:
    """The bearings that run along the joists, locally."""
    local = [_local_strip(strip, angle) for strip in strips]
    return [one.bearing for one in local if one.along and not one.bearing.hung]


@remembered_piece
def _local_strip(strip: Strip, angle: float) -> _Local:
    ring = tuple(to_local(p, angle) for p in strip.ring)
    direction = unit(sub(*max(edges(ring), key=lambda e: distance(*e))[::-1]))
    found = Bearing(strip.on, ring, box(ring), abs(direction[1]) < ANGLE, strip.hung)
    along = abs(direction[0]) < 4 * ANGLE
    # How far a square bearing reaches beside the rows that meet it changes nothing about them.
    bounds = (-math.inf, found.box[1], math.inf, found.box[3])
    return _Local(
        found, along, found._replace(ring=(), box=bounds) if along or found.square else found
    )


class Met(NamedTuple):
    """Which bearings the rows of a band meet: row by row, a byte for each bearing."""

    bearings: tuple[Bearing, ...]
    rows: bytes

    def mask(self, i: int) -> bytes:
        """Which bearings a row meets, a byte for each."""
        n = len(self.bearings)
        return self.rows[i * n : (i + 1) * n]

    def of(self, i: int) -> list[Bearing]:
        """The bearings a row meets."""
        return [bearing for bearing, there in zip(self.bearings, self.mask(i)) if there]


@remembered
def met_by(
    bands: tuple[tuple[Row, ...], ...], strips: tuple[Strip, ...], angle: float
) -> list[tuple[Met, Met]]:
    """For each band of rows the bearings they meet across, and those that run along under
    them."""
    local = [_local_strip(strip, angle) for strip in strips]
    across, along = (
        [o for o in local if not o.along],
        [o for o in local if o.along and not o.bearing.hung],
    )
    x = np.array([row.x for band in bands for row in band])
    lies = _meets(along, x, np.full(len(x), TOUCH))
    # Close to a bearing's end it matters how close: a row over a side wall counts past the ends of
    # others.
    crossed = _meets(across, x, np.where(lies.any(axis=1), SIDE_WALL, TOUCH))
    first = np.cumsum([0, *map(len, bands)])
    return list(zip(_band_by_band(across, crossed, first), _band_by_band(along, lies, first)))


def _band_by_band(
    local: list[_Local], meets: NDArray[np.bool_], first: NDArray[np.int64]
) -> list[Met]:
    """What each band meets; ``first`` are the numbers of their first rows, and of the row
    after the last."""
    if not local:
        return [Met((), b"") for _ in first[1:]]
    found = []
    some = np.logical_or.reduceat(meets, first[:-1], axis=0)
    for low, high, there in zip(first[:-1].tolist(), first[1:].tolist(), some):
        columns = np.flatnonzero(there)
        bearings = tuple([local[k].known for k in columns.tolist()])
        found.append(Met(bearings, meets[low:high, columns].tobytes()))
    return found


def _meets(
    local: list[_Local], x: NDArray[np.float64], past: NDArray[np.float64]
) -> NDArray[np.bool_]:
    """Which rows, at ``x`` and so far past its ends, meet which bearing: (rows, bearings)."""
    low, high = np.array([(o.bearing.box[0], o.bearing.box[2]) for o in local]).reshape(-1, 2).T
    found: NDArray[np.bool_] = (low <= (x + past)[:, None]) & ((x - past)[:, None] <= high)
    return found


def stretches(
    row: Row, across: list[Bearing], along: list[Bearing], hangs: tuple[bool, bool] = (False, False)
) -> tuple[list[tuple[float, float]], list[Over]]:
    """Break a row over inside bearings; ``hangs`` tells which of its ends hang on a header.

    A row that lies on a side wall meets inside walls that stop at that wall's face, so bearings
    then count past their ends. Past the first and the last bearing a row runs on as a cantilever,
    as far as the span behind it can hold.

    Returns:
        The stretches between breaks, and the bearings on the row.
    """
    reach = SIDE_WALL if any(holds_row(bearing, row.x) for bearing in along) else TOUCH
    on_row: list[Over] = []
    for bearing in across:
        if bearing.box[0] - reach <= row.x <= bearing.box[2] + reach:
            low, high = across_at(bearing, row.x)
            on_row.append((bearing.on, max(low, row.low), min(high, row.high), bearing.hung))
    on_row = sorted(
        (item for item in on_row if item[2] - item[1] > EDGE), key=lambda item: (item[1], item[0])
    )
    return list(pairwise([row.low, *_breaks(row, on_row, hangs), row.high])), on_row


def _breaks(row: Row, on_row: list[Over], hangs: tuple[bool, bool]) -> list[float]:
    """Where a row breaks: over the middle of each bearing inside it."""
    middles = [(low + high) / 2 for _, low, high, _ in on_row]
    found: list[float] = []
    for i, over in enumerate(on_row):
        if not row.low < middles[i] < row.high or (found and middles[i] - found[-1] <= TOUCH):
            continue
        if _is_inside(over, row) and not _cantilevers(i, on_row, middles, row, hangs):
            found.append(middles[i])
    return found


def _is_inside(over: Over, row: Row) -> bool:
    """Whether a bearing lies within a row, and is not the one at its end."""
    _, low, high, hung = over
    zone = TOUCH if hung else END_ZONE
    return (high if hung else low) > row.low + zone and (low if hung else high) < row.high - zone


def _cantilevers(
    i: int, on_row: list[Over], middles: list[float], row: Row, hangs: tuple[bool, bool]
) -> bool:
    """Whether a row runs on past its first or its last bearing: where that is not too long for what
    spans behind it, and its end hangs on nothing."""
    _, low, high, hung = on_row[i]
    if hung:
        return False
    if i == 0 and not hangs[0]:
        behind = (middles[1] if len(middles) > 1 else row.high) - middles[0]
        return low - row.low <= CANTILEVER * behind
    if i == len(on_row) - 1 and i > 0 and not hangs[1]:
        return row.high - high <= CANTILEVER * (middles[-1] - middles[-2])
    return False


def across_at(bearing: Bearing, x: float) -> tuple[float, float]:
    """From where to where a bearing reaches along a row. A square one has its full width,
    mitred ends or not."""
    x0, y0, x1, y1 = bearing.box
    if bearing.square:
        return y0, y1
    cut = crossings(bearing.ring, min(max(x, x0 + EDGE), x1 - EDGE))
    return (cut[0], cut[-1]) if len(cut) > 1 else (y0, y0)


def holds_row(bearing: Bearing, x: float) -> bool:
    """Whether a bearing that runs along holds a row."""
    return bearing.box[0] - TOUCH <= x <= bearing.box[2] + TOUCH


def beneath(x: float, low: float, high: float, along: list[Bearing]) -> Rest | None:
    """The bearing that a stretch of a row lies on all along; None where it spans."""
    for bearing in along:
        _, y0, _, y1 = bearing.box
        if holds_row(bearing, x) and min(y1, high) - max(y0, low) > MOSTLY * (high - low):
            return bearing.on
    return None


def body_of(
    stretch: tuple[float, float], row: Row, on_row: list[Over], rim: tuple[float, float], lap: float
) -> tuple[float, float]:
    """From where to where the piece of a stretch reaches: to the faces it hangs on, past the
    middle of a bearing by half the lap, short of the rims at the row's ends."""
    low, high = stretch
    starts, ends = _hung_at(low, on_row), _hung_at(high, on_row)
    start = low + rim[0] if low == row.low else low - lap / 2
    end = high - rim[1] if high == row.high else high + lap / 2
    return starts[2] if starts else start, ends[1] if ends else end


def _hung_at(y: float, on_row: list[Over]) -> Over | None:
    """What a piece that ends somewhere hangs on there."""
    return next((o for o in on_row if o[3] and o[1] - TOUCH <= y <= o[2] + TOUCH), None)


def supports_of(
    on_row: list[Over], body: tuple[float, float], x: float, angle: float, under: Rest | None
) -> tuple[Support, ...]:
    """What a piece of a row rests on: two ends, or halves where it lies on a bearing all
    along."""
    start, end = body
    if under:  # rests all along: each half bears on the wall beneath it
        half = (end - start) / 2
        places = (start + half / 2, end - half / 2)
        return tuple(Support(p - start, half, under, to_plan((x, p), angle)) for p in places)
    reached: list[Over] = []
    for on, lo, hi, hung in on_row:
        if not hung:
            reached.append((on, lo, hi, False))
        elif abs(hi - start) <= TOUCH or abs(lo - end) <= TOUCH:
            reached.append(
                (on, *((start, start) if abs(hi - start) <= TOUCH else (end, end)), True)
            )
    return end_supports(reached, start, end, lambda at: to_plan((x, at), angle))
