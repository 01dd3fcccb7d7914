"""Basement walls: soil against concrete with vertical bars (EN 1992-1-1, recommended values)."""

from typing import Final

from balken.design.codes.eu.ec2_pads import shear_strength

EARTH_FACTOR: Final = 1.35
"""Of a permanent action that does harm (EN 1990 table A1.2(B))."""
INSIDE_COVER: Final = 40.0
SOIL_COVER: Final = 50.0
"""Cover on the face to the soil, mm (EN 1992-1-1 4.4.1.3(4))."""


def shear_capacity(depth: float, steel: float, fck: float) -> float:
    """V_Rd,c per mm of wall, N/mm (EN 1992-1-1 6.2.2)."""
    return shear_strength(depth, steel / depth, fck) * depth
