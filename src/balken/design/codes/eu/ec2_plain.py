"""Plain concrete: strips and walls without bars (EN 1992-1-1 section 12, recommended values). N, mm."""

import math
from typing import Final

from balken.design.codes.eu.ec2_partial import GAMMA_C

PLAIN: Final = 0.8
"""α_cc,pl and α_ct,pl (EN 1992-1-1 12.3.1)."""


def flexural_strength(fck: float) -> float:
    """The design tensile strength of plain concrete, N/mm²: 0.8 · 0.7 · 0.30 fck^⅔ / 1.5 (EN
    1992-1-1 12.3.1)."""
    return PLAIN * 0.7 * 0.30 * math.pow(fck, 2 / 3) / GAMMA_C


def strip(pressure: float, projection: float, thickness: float, fck: float) -> float:
    """The utilisation of a plain strip: a √(3 σ / fctd) / (0.85 h) (EN 1992-1-1 12.9.3,
    expression 12.13)."""
    return projection * math.sqrt(3 * pressure / flexural_strength(fck)) / (0.85 * thickness)


def wall_flexure(moment: float, thickness: float, fck: float) -> float:
    """The utilisation of a plain wall in bending for a design moment in N mm/mm, its axial load
    left out (EN 1992-1-1 12.6.1)."""
    return 6 * moment / (flexural_strength(fck) * thickness**2)


def wall_shear(thickness: float, fck: float) -> float:
    """V_Rd of a plain wall per mm of its length, N/mm (EN 1992-1-1 12.6.3)."""
    return flexural_strength(fck) * thickness / 1.5


def wall_compression(fck: float, area: float, height: float, thickness: float) -> float:
    """N_Rd of a plain wall held at both ends, loaded in its middle as well as it can be built, N
    (EN 1992-1-1 12.6.5.2)."""
    off = max(20.0, height / 400)
    phi = min(1 - 2 * off / thickness, 1.14 * (1 - 2 * off / thickness) - 0.02 * height / thickness)
    return max(0.0, PLAIN * fck / GAMMA_C * area * phi)
