"""Earthquake by the equivalent lateral force of ASCE 7-16 12.8. Lengths mm, forces N, periods s."""

import math
from collections.abc import Sequence
from typing import Final

import msgspec

from balken.units import FOOT

PERIOD_FACTOR: Final = 0.02
PERIOD_POWER: Final = 0.75
"""C_t and x of structures that are neither frames nor braced eccentrically (table 12.8-2)."""
LIGHT_FRAME: Final = 6.5
"""R of light-frame walls with wood structural panels (table 12.2-1, A.15)."""
OTHER_PANELS: Final = 2.0
"""R of light-frame walls with panels of all other materials (A.17)."""
ALLOWABLE: Final = 0.7
"""Of E in allowable stress design (2.4.5)."""


class Shaking(msgspec.Struct, frozen=True):
    """What is known of the ground, as shares of gravity."""

    sds: float
    sd1: float
    s1: float = 0.0


def period(height: float) -> float:
    """T_a, s (ASCE 7-16 12.8-7); ``height`` h_n from the base to the top of what resists, mm."""
    return PERIOD_FACTOR * math.pow(height / FOOT, PERIOD_POWER)


def response(shaking: Shaking, period: float, r: float, importance: float = 1.0) -> float:
    """C_s (ASCE 7-16 12.8-2 with its limits 12.8-3, 12.8-5 and 12.8-6), for periods up to T_L."""
    yielding = r / importance
    most = shaking.sd1 / (period * yielding)
    least = max(0.044 * shaking.sds * importance, 0.01)
    if shaking.s1 >= 0.6:
        least = max(least, 0.5 * shaking.s1 / yielding)
    return max(least, min(shaking.sds / yielding, most))


def base_shear(
    shaking: Shaking, weight: float, height: float, r: float, importance: float = 1.0
) -> float:
    """V = C_s W, N (ASCE 7-16 12.8-1)."""
    return response(shaking, period(height), r, importance) * weight


def exponent(period: float) -> float:
    """k: 1 up to half a second, 2 from two and a half, straight between (ASCE 7-16 12.8.3)."""
    return min(2.0, max(1.0, 1 + (period - 0.5) / 2))


def level_forces(
    shear: float, weights: Sequence[float], heights: Sequence[float], period: float
) -> tuple[float, ...]:
    """F_x of each level, from below, N (ASCE 7-16 12.8-11, 12.8-12)."""
    k = exponent(period)
    each = [w * math.pow(h, k) for w, h in zip(weights, heights, strict=True)]
    whole = math.fsum(each)
    return tuple(shear * e / whole for e in each)
