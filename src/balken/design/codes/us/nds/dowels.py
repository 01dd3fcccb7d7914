"""Bolts sideways, wood on concrete, by the yield limit equations of NDS-2018 12.3.1. Lengths mm, N,
N/mm²."""

import math
from typing import Final

from balken.units import INCH, PSI

CONCRETE_BEARING: Final = 7500 * PSI
"""Dowel bearing strength of concrete of 2,500 psi and more (NDS-2018 table 12E)."""
BOLT_YIELD: Final = 45_000 * PSI
"""F_yb of bolts (NDS-2018 table I1)."""
GRAVITY: Final = {"DF-L": 0.50, "HF": 0.43, "SPF": 0.42, "SP": 0.55, "DF-L(N)": 0.49, "SPF-S": 0.36}
"""Specific gravity by species (NDS-2018 table 12.3.3A)."""


def bearing_across(gravity: float, diameter: float) -> float:
    """Dowel bearing strength of wood across its grain, N/mm²: 6100 G^1.45 / √D psi (NDS-2018
    12.3.3)."""
    return 6100 * math.pow(gravity, 1.45) / math.sqrt(diameter / INCH) * PSI


def sill_bolt(diameter: float, sill: float, gravity: float, embedded: float) -> float:
    """Reference value Z⊥ of an anchor bolt through a sill into concrete, pushed across the grain of
    the sill, N (NDS-2018 12.3-1 to 12.3-6; R_d of table 12.3.1B for 90°).

    Args:
        diameter: of the bolt, mm.
        sill: its thickness, mm.
        gravity: of the sill's wood.
        embedded: in the concrete, mm.
    """
    d, side, main = diameter, bearing_across(gravity, diameter), CONCRETE_BEARING
    re, rt = main / side, embedded / sill
    k1 = (math.sqrt(re + 2 * re**2 * (1 + rt + rt**2) + rt**2 * re**3) - re * (1 + rt)) / (1 + re)
    bend = 2 * BOLT_YIELD * d**2 / (3 * main)
    k2 = -1 + math.sqrt(2 * (1 + re) + bend * (1 + 2 * re) / embedded**2)
    k3 = -1 + math.sqrt(2 * (1 + re) / re + bend * (2 + re) / sill**2)
    turned = 1.25  # K_θ at 90°
    return min(
        d * embedded * main / (4 * turned),
        d * sill * side / (4 * turned),
        k1 * d * sill * side / (3.6 * turned),
        k2 * d * embedded * main / ((1 + 2 * re) * 3.2 * turned),
        k3 * d * sill * main / ((2 + re) * 3.2 * turned),
        d**2 / (3.2 * turned) * math.sqrt(2 * main * BOLT_YIELD / (3 * (1 + re))),
    )
