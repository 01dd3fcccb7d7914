"""Basement walls: soil against concrete, as plain concrete, or with vertical bars on the inside
(ACI 318-19 11.3, 22.2)."""

from typing import Final

from balken.design.codes.us.aci_pads import PHI_SHEAR, size_factor, steel_for
from balken.units import INCH, PSI

EARTH_FACTOR: Final = 1.6
"""Load factor of earth pressure H (ASCE 7-16 2.3.1)."""
LEAST_VERTICAL: Final = 0.0012
"""Of the gross section, bars up to #5 (ACI 318-19 table 11.6.1)."""
INSIDE_COVER: Final = 0.75 * INCH
"""Cover on the face away from soil (ACI 318-19 table 20.5.1.3.1)."""


SOIL_COVER: Final = 2 * INCH
"""Cover on the face to the soil, of formed concrete (ACI 318-19 table 20.5.1.3.1: 1½ in up to #5, 2
in beyond)."""


def vertical_steel(moment: float, depth: float, fc: float, fy: float) -> float:
    """The steel a factored moment in N mm per mm of wall needs, mm² per mm, before the least
    (ACI 318-19 22.2)."""
    return steel_for(moment, 1.0, depth, fc, fy)


def shear_capacity(depth: float, steel: float, fc: float) -> float:
    """The design shear strength per mm of wall, N/mm: φ 8 λs ρ^⅓ √f'c (ACI 318-19 22.5.5)."""
    ratio = max(steel / depth, 1e-6)
    roots = ratio ** (1 / 3) * (fc / PSI) ** 0.5 * PSI
    return float(PHI_SHEAR * 8 * size_factor(depth) * roots * depth)
