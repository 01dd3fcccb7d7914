"""Compression along the grain with bending by EN 1995-1-1 6.2.4 and 6.3.2, tension by 6.1.2 and
6.2.3. Lengths mm, N, N/mm²."""

import math
from typing import Final

from balken.design.codes.eu.ec5.factors import KM
from balken.design.codes.eu.ec5.values import Material, Timber

_BETA: Final[dict[Material, float]] = {"solid timber": 0.2, "glulam": 0.1, "lvl": 0.1}
"""How straight pieces are (EN 1995-1-1 6.29)."""
STOCKY: Final = 0.3
"""Relative slenderness up to which nothing buckles (EN 1995-1-1 6.3.2(2))."""


def slenderness(length: float, depth: float) -> float:
    """λ of a rectangle that buckles in the direction of its depth."""
    return length * math.sqrt(12) / depth


def relative_slenderness(slender: float, timber: Timber) -> float:
    """λrel (EN 1995-1-1 6.21, 6.22)."""
    return slender / math.pi * math.sqrt(timber.fc / timber.e_05)


def kc(slender: float, timber: Timber) -> float:
    """What buckling leaves of the compression strength (EN 1995-1-1 6.25 to 6.28)."""
    relative = relative_slenderness(slender, timber)
    if relative <= STOCKY:
        return 1.0
    k = 0.5 * (1 + _BETA[timber.material] * (relative - STOCKY) + relative**2)
    return 1 / (k + math.sqrt(k**2 - relative**2))


def with_bending(
    pressed: float, bent: tuple[float, float], slender: tuple[float, float], timber: Timber
) -> float:
    """The worse of the two sums of compression and bending: (6.19) and (6.20) of a stocky
    rectangle, (6.23) and (6.24) of one that may buckle.

    Args:
        pressed: σc,0,d / fc,0,d.
        bent: σm,d / fm,d about the strong and the weak axis.
        slender: λ for buckling about the strong and the weak axis.
        timber: of which class.
    """
    strong, weak = bent
    sums = (strong + KM * weak, KM * strong + weak)
    if max(relative_slenderness(s, timber) for s in slender) <= STOCKY:
        return max(pressed**2 + s for s in sums)
    return max(pressed / kc(b, timber) + s for b, s in zip(slender, sums))


def with_lateral_buckling(pressed: float, bent: float, kcrit: float, kc_weak: float) -> float:
    """Compression and bending about the strong axis of a beam that may also buckle sideways (EN
    1995-1-1 6.35)."""
    return (bent / kcrit) ** 2 + pressed / kc_weak


def tension_with_bending(pulled: float, bent: tuple[float, float]) -> float:
    """The worse sum of tension and bending (EN 1995-1-1 6.17, 6.18)."""
    strong, weak = bent
    return pulled + max(strong + KM * weak, KM * strong + weak)
