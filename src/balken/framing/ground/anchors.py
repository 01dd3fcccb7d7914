"""Anchor bolts of sill plates: how many a piece needs, and where they stand clear of joists and
doors (IRC 2021 R403.1.6)."""

import math
from collections.abc import Sequence
from typing import Final

import msgspec

from balken.geometry.plane import EXACT
from balken.recall import remembered_piece
from balken.units import FOOT, INCH

APART: Final = 6 * FOOT
"""Bolts stand no further apart."""
FROM_END: Final = 12 * INCH
"""One stands within this of each end of each piece."""
BOLT: Final = 0.5 * INCH
NEAREST_END: Final = 7 * BOLT
"""No nearer to an end than seven diameters."""
EMBEDDED: Final = 7 * INCH
"""Into the concrete."""
CLEAR: Final = 1.5 * INCH
"""A bolt keeps its nut and washer this clear of a joist's side; common practice, no source."""


class Bolts(msgspec.Struct, frozen=True):
    """Where the bolts of one piece stand, mm from its start, and those that could find no clear
    place."""

    at: tuple[float, ...]
    blocked: tuple[float, ...] = ()


def least_bolts(length: float, apart: float = APART) -> int:
    """The least number of bolts of one piece of sill, whatever stands over it; lengths in
    mm."""
    between = max(0.0, length - 2 * FROM_END)
    return max(2, math.ceil(between / apart - 1e-9) + 1)


@remembered_piece
def place_bolts(
    length: float, taken: tuple[tuple[float, float], ...] = (), apart: float = APART
) -> Bolts:
    """The fewest bolts of one piece that keep all distances and stand outside what is taken.

    From the near end on, each bolt stands as far along as the rule allows and a clear place is
    left; then they are spread evenly where nothing is in the way.

    Args:
        length: of the piece, mm.
        taken: stretches where no bolt may stand: joists over it, openings, mm from the start.
        apart: between bolts at most, mm.
    """
    first, last = _outermost(length)
    count = least_bolts(length, apart)
    even = [first + (last - first) * i / (count - 1) for i in range(count)]
    if not _blocked(even, taken):
        return Bolts(tuple(even))
    start = _clear(first, taken, low=min(NEAREST_END, first), high=first)
    end = _clear(last, taken, low=last, high=max(last, length - NEAREST_END))
    placed = [(first, start)]
    stop = last if end is None else end
    at = first if start is None else start
    while stop - at > apart + EXACT:
        wanted = at + apart
        here = _clear(wanted, taken, low=at + min(NEAREST_END, apart / 2), high=wanted)
        placed.append((wanted, here))
        at = wanted if here is None else here
    placed.append((last, end))
    return Bolts(
        tuple(wanted if here is None else here for wanted, here in placed),
        tuple(wanted for wanted, here in placed if here is None),
    )


def _outermost(length: float) -> tuple[float, float]:
    """Where the first and the last bolt of a piece stand at best, mm from its start."""
    if length > 2 * FROM_END:
        return FROM_END, length - FROM_END
    reach = max(length / 4, min(NEAREST_END, length / 3))
    return reach, length - reach


def _blocked(places: Sequence[float], taken: Sequence[tuple[float, float]]) -> bool:
    return any(a - 1e-6 < p < b + 1e-6 for p in places for a, b in taken)


def _clear(
    wanted: float, taken: Sequence[tuple[float, float]], low: float, high: float
) -> float | None:
    """The clear place nearest to a wanted one, between two bounds; None where all of it is
    taken."""
    edges = [wanted, *(a - 0.5 for a, _ in taken), *(b + 0.5 for _, b in taken)]
    clear = [p for p in edges if low - 1e-6 <= p <= high + 1e-6 and not _blocked([p], taken)]
    return min(clear, key=lambda p: (abs(p - wanted), p), default=None)
