"""Anchor bolts of sill plates: how many a piece needs, and where they stand clear of joists and
doors (IRC 2021 R403.1.6)."""

import math
from collections.abc import Sequence
from typing import Final

import msgspec

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
    length: float, taken: Sequence[tuple[float, float]] = (), apart: float = APART
) -> Bolts:
    """The fewest bolts of one piece that keep all distances and stand outside what is taken.

    From the near end on, each bolt stands as far along as the rule allows and a clear place is
    left; then they are spread evenly where nothing is in the way.

    Args:
        length: of the piece, mm.
        taken: stretches where no bolt may stand: joists over it, openings, mm from the start.
        apart: between bolts at most, mm.
    """
    first, last = (
        (FROM_END, length - FROM_END) if length > 2 * NEAREST_END else (length / 3, 2 * length / 3)
    )
    count = least_bolts(length, apart)
    if length <= 2 * FROM_END:
        reach = max(length / 4, min(NEAREST_END, length / 3))
        first, last = reach, length - reach
    even = [first + (last - first) * i / (count - 1) for i in range(count)]
    if not _blocked(even, taken):
        return Bolts(tuple(even))
    found: list[float] = []
    blocked: list[float] = []
    start = _clear(first, taken, low=min(NEAREST_END, first), high=first)
    found.append(first if start is None else start)
    blocked += [first] if start is None else []
    end = _clear(last, taken, low=last, high=max(last, length - NEAREST_END))
    stop = last if end is None else end
    blocked += [last] if end is None else []
    while stop - found[-1] > apart + 1e-6:
        wanted = found[-1] + apart
        here = _clear(wanted, taken, low=found[-1] + min(NEAREST_END, apart / 2), high=wanted)
        if here is None:
            here = wanted
            blocked.append(wanted)
        found.append(here)
    found.append(stop)
    return Bolts(tuple(found), tuple(blocked))


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
