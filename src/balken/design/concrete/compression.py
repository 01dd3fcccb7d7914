"""Plain concrete in compression: foundation walls and pedestals. Lengths mm, N, N/mm²."""

import math
from typing import Final

from balken.design.concrete.ec2_pads import GAMMA_C
from balken.design.concrete.plain import PHI

PLAIN_EN: Final = 0.8
"""α_cc,pl (EN 1992-1-1 12.3.1)."""
SHORT: Final = 3.0
"""A pedestal is no higher than three times its least side (ACI 318-19 2.3); higher ones are columns
with bars."""


def wall_en(fck: float, area: float, height: float, thickness: float) -> float:
    """N_Rd of a plain wall held at both ends, loaded in its middle as well as it can be built, N
    (EN 1992-1-1 12.6.5.2)."""
    off = max(20.0, height / 400)
    phi = min(1 - 2 * off / thickness, 1.14 * (1 - 2 * off / thickness) - 0.02 * height / thickness)
    return max(0.0, PLAIN_EN * fck / GAMMA_C * area * phi)


def wall_us(fc: float, area: float, height: float, thickness: float) -> float:
    """φ Pn of a plain wall, N: φ 0.60 f'c A (1 − (ℓc / 32 h)²) (ACI 318-19 14.5.3.1)."""
    share = 1 - (height / (32 * thickness)) ** 2
    return PHI * 0.60 * fc * area * max(0.0, share)


def pedestal_us(fc: float, area: float) -> float:
    """φ Pn of a short plain pedestal, N (ACI 318-19 14.5.3.1 with no slenderness)."""
    return PHI * 0.60 * fc * area


def is_short(height: float, least: float) -> bool:
    """Whether a pier is a pedestal, by its height and least side."""
    return height <= SHORT * least + 1e-6 and math.isfinite(height)
