"""Beams of concrete by ACI 318-19: least stirrups and what a beam resists with them. N, mm; roots taken in
psi."""

import math
from typing import Final

from balken.design.codes.ground import Stirrups
from balken.design.codes.us.aci_pads import PHI_SHEAR
from balken.units import INCH, PSI

COVER: Final = 1.5 * INCH
"""Of bars in beams that are not cast against soil, no. 5 and thinner where weather comes to them (ACI
318-19 table 20.5.1.3.1)."""
DEEP: Final = 4.0
"""A clear span of so many depths or fewer is a deep beam's (ACI 318-19 9.9.1.1)."""
MOST: Final = 24 * INCH
"""Stirrups are no further apart (ACI 318-19 table 9.7.6.2.2)."""


def stirrups(width: float, depth: float, fc: float, fy: float, shear: float) -> Stirrups:
    """Wanted where the factored shear is more than φ √f'c b d (ACI 318-19 9.6.3.1, table 9.6.3.4); what
    beams resist with them (table 22.5.5.1(a), 22.5.8.5.3). Set half the depth apart they add no more than
    4 √f'c b d (table 9.7.6.2.2).

    Args:
        width: of the beam, mm.
        depth: effective, mm.
        fc: N/mm².
        fy: of the stirrups, N/mm²; no more than 60 ksi is counted (20.2.2.4).
        shear: factored, N.
    """
    root, yields = math.sqrt(fc / PSI) * PSI, min(fy, 60_000 * PSI)
    area = width * depth

    def held(steel: float) -> float:
        return PHI_SHEAR * (2 * root * area + min(steel * yields * depth, 4 * root * area))

    least = max(0.75 * root, 50 * PSI) * width / yields
    wanted = shear > PHI_SHEAR * root * area
    return Stirrups(wanted, least, min(depth / 2, MOST), held, "ACI 318-19 9.6.3, 22.5.8")
