"""Nails of the joint between a rafter and the tie at its heel: a second opinion beside the force,
by the table of the code.

International Residential Code 2015, table R802.5.1(9), "Rafter/ceiling joist heel joint
connections": 16d common nails, for ties on the plates. Typed in from memory; its tests hold it
against the statics it was made by.
"""

from bisect import bisect_left, bisect_right
from typing import Final

from balken.units import FOOT, INCH, PSF

SLOPES: Final = (3, 4, 5, 7, 9, 12)
"""Rise in 12; a roof between two counts as the flatter."""
SPACINGS: Final = (12, 16, 24)
"""In inches; between two the wider counts, as with snow and spans."""
SNOW: Final = (20, 30, 50, 70)
"""In lb/ft²; the first holds for a live load on the roof too."""
SPANS: Final = (12, 20, 28, 36)
"""Between the walls, in feet."""
NAILS: Final = {
    (3, 12): ((4, 6, 8, 10), (4, 6, 8, 11), (5, 8, 12, 15), (6, 11, 15, 20)),
    (3, 16): ((5, 8, 10, 13), (5, 8, 11, 14), (6, 11, 15, 20), (8, 14, 20, 26)),
    (3, 24): ((7, 11, 15, 19), (7, 11, 16, 21), (9, 16, 23, 30), (12, 21, 30, 39)),
    (4, 12): ((3, 5, 6, 8), (3, 5, 6, 8), (4, 6, 9, 11), (5, 8, 12, 15)),
    (4, 16): ((4, 6, 8, 10), (4, 6, 8, 11), (5, 8, 12, 15), (6, 11, 15, 20)),
    (4, 24): ((5, 8, 12, 15), (5, 9, 12, 16), (7, 12, 17, 22), (9, 16, 23, 29)),
    (5, 12): ((3, 4, 5, 6), (3, 4, 5, 7), (3, 5, 7, 9), (4, 7, 9, 12)),
    (5, 16): ((3, 5, 6, 8), (3, 5, 7, 9), (4, 7, 9, 12), (5, 9, 12, 16)),
    (5, 24): ((4, 7, 9, 12), (4, 7, 10, 13), (6, 10, 14, 18), (7, 13, 18, 23)),
    (7, 12): ((3, 4, 4, 5), (3, 3, 4, 5), (3, 4, 5, 7), (3, 5, 7, 9)),
    (7, 16): ((3, 4, 5, 6), (3, 4, 5, 6), (3, 5, 7, 9), (4, 6, 9, 11)),
    (7, 24): ((3, 5, 7, 9), (3, 5, 7, 9), (4, 7, 10, 13), (5, 9, 13, 17)),
    (9, 12): ((3, 3, 4, 4), (3, 3, 3, 4), (3, 3, 4, 5), (3, 4, 5, 7)),
    (9, 16): ((3, 4, 4, 5), (3, 3, 4, 5), (3, 4, 5, 7), (3, 5, 7, 9)),
    (9, 24): ((3, 4, 6, 7), (3, 4, 6, 7), (3, 6, 8, 10), (4, 7, 10, 13)),
    (12, 12): ((3, 3, 3, 3), (3, 3, 3, 3), (3, 3, 3, 4), (3, 3, 4, 5)),
    (12, 16): ((3, 3, 4, 4), (3, 3, 3, 4), (3, 3, 4, 5), (3, 4, 5, 7)),
    (12, 24): ((3, 4, 4, 5), (3, 3, 4, 6), (3, 4, 6, 8), (3, 6, 8, 10)),
}
"""By slope and spacing: a row for each load of snow, with a figure for each span."""


def heel_nails(slope: float, spacing: float, snow: float, span: float) -> int | None:
    """How many 16d common nails a heel joint takes by the table; None for what lies outside
    it.

    Args:
        slope: rise over run.
        spacing: of the rafters, mm.
        snow: or live load on the roof, N/mm².
        span: between the walls, mm.
    """
    row = bisect_right(SLOPES, slope * 12 + 1e-6) - 1
    places = [
        bisect_left(steps, amount - 0.01)
        for steps, amount in ((SPACINGS, spacing / INCH), (SNOW, snow / PSF), (SPANS, span / FOOT))
    ]
    if row < 0 or any(p == len(steps) for p, steps in zip(places, (SPACINGS, SNOW, SPANS))):
        return None
    return NAILS[SLOPES[row], SPACINGS[places[0]]][places[1]][places[2]]
