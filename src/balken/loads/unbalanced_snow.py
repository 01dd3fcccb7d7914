"""Unbalanced snow on hip and gable roofs: the wind carries it over the ridge (ASCE 7-16 7.6.1).
Lengths mm, loads N/mm².

Kept here for trusses. Narrow roofs of simply supported rafters have a rule of their own in the same
clause.
"""

import math
from typing import Final

import msgspec

from balken.units import FOOT, PCF, PSF

GENTLEST: Final = 0.5 / 12
STEEPEST: Final = 7.0 / 12
"""Roofs outside half on 12 to 7 on 12 need no unbalanced snow."""
WINDWARD: Final = 0.3
"""Of the balanced snow that stays on the windward side."""
LEAST_FETCH: Final = 20 * FOOT
FLAT: Final = 0.7
"""Roof snow over ground snow, C_e, C_t and I_s being 1: what was typed is the snow on the roof
(7.3-1)."""
HEAVIEST: Final = 30 * PCF


class Drift(msgspec.Struct, frozen=True, gc=False):
    """What lies on the leeward side beside the balanced snow: ``load`` from the ridge down over
    ``reach`` of plan."""

    load: float
    reach: float


def height_of_drift(fetch: float, ground: float) -> float:
    """Height of a drift, mm: 0.43 ∛ℓu ⁴√(pg + 10) − 1.5 in feet and psf (ASCE 7-16 figure 7.6-1),
    ℓu no less than 20 ft."""
    feet = max(fetch, LEAST_FETCH) / FOOT
    high = 0.43 * math.pow(feet, 1 / 3) * math.pow(ground / PSF + 10, 0.25) - 1.5
    return max(0.0, high) * FOOT


def density(ground: float) -> float:
    """Weight of snow, N/mm³: 0.13 pg + 14 pcf, no more than 30 (ASCE 7-16 7.7-1); ``ground`` in
    N/mm²."""
    return min(HEAVIEST, (0.13 * ground / PSF + 14) * PCF)


def drift_on(balanced: float, slope: float, width: float) -> Drift | None:
    """The drift of a roof; None where the clause asks for none.

    Args:
        balanced: snow on the roof, N/mm² of plan.
        slope: rise over run.
        width: from eave to ridge in plan, mm.
    """
    if balanced <= 0 or not GENTLEST - 1e-9 <= slope <= STEEPEST + 1e-9:
        return None
    ground = balanced / FLAT
    high, spread = height_of_drift(width, ground), math.sqrt(1 / slope)
    return Drift(high * density(ground) / spread, min(width, 8 / 3 * high * spread))
