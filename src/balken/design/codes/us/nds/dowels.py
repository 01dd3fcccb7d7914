"""Nails, screws and bolts sideways by the yield limit equations of NDS-2018 12.3.1. Lengths mm, N,
N/mm²."""

import math
from typing import Final

import msgspec

from balken.units import INCH, PSI

CONCRETE_BEARING: Final = 7500 * PSI
"""Dowel bearing strength of concrete of 2,500 psi and more (NDS-2018 table 12E)."""
BOLT_YIELD: Final = 45_000 * PSI
"""F_yb of bolts (NDS-2018 table I1)."""
GRAVITY: Final = {"DF-L": 0.50, "HF": 0.43, "SPF": 0.42, "SP": 0.55, "DF-L(N)": 0.49, "SPF-S": 0.36}
"""Specific gravity by species (NDS-2018 table 12.3.3A)."""
THIN: Final = 0.17 * INCH
THICK: Final = 0.25 * INCH
"""Diameters under which one bearing strength holds for all directions, and R_d goes by K_D (table
12.3.1B, 12.3.3)."""


class Side(msgspec.Struct, frozen=True, gc=False):
    """One of the two members a fastener joins."""

    bearing: float
    """F_e, N/mm²."""
    length: float
    """Of the fastener in it, mm."""


def bearing_across(gravity: float, diameter: float) -> float:
    """Dowel bearing strength of wood across its grain, N/mm²: 6100 G^1.45 / √D psi (NDS-2018
    12.3.3); of fasteners a quarter of an inch and over."""
    return 6100 * math.pow(gravity, 1.45) / math.sqrt(diameter / INCH) * PSI


def bearing_along(gravity: float) -> float:
    """Dowel bearing strength of wood along its grain, N/mm²: 11200 G psi (NDS-2018 12.3.3); of
    fasteners a quarter of an inch and over."""
    return 11_200 * gravity * PSI


def bearing_of_nails(gravity: float) -> float:
    """Dowel bearing strength of wood for nails, spikes and screws under a quarter of an inch, any
    way of the grain, N/mm²: 16600 G^1.84 psi (NDS-2018 12.3.3)."""
    return 16_600 * math.pow(gravity, 1.84) * PSI


def reduction(diameter: float, angle: float = 0.0) -> tuple[float, float, float]:
    """R_d of modes I, of mode II, and of modes III and IV (NDS-2018 table 12.3.1B).

    Args:
        diameter: mm.
        angle: the greatest between force and grain in either member, degrees.
    """
    if diameter < THICK:
        inches = diameter / INCH
        kd = 2.2 if diameter <= THIN else 10 * inches + 0.5
        return kd, kd, kd
    turned = 1 + 0.25 * angle / 90
    return 4 * turned, 3.6 * turned, 3.2 * turned


def single_shear(
    diameter: float, yields: float, main: Side, side: Side, angle: float = 0.0
) -> float:
    """Reference value Z of one fastener in single shear, N (NDS-2018 12.3-1 to 12.3-6).

    Args:
        diameter: mm; of screws at the root.
        yields: F_yb, N/mm².
        main: the member the fastener ends in.
        side: the member it goes through.
        angle: the greatest between force and grain, degrees; counts from a quarter of an inch on.
    """
    d, fem, fes, lm, ls = diameter, main.bearing, side.bearing, main.length, side.length
    one, two, rest = reduction(diameter, angle)
    re, rt = fem / fes, lm / ls
    k1 = (math.sqrt(re + 2 * re**2 * (1 + rt + rt**2) + rt**2 * re**3) - re * (1 + rt)) / (1 + re)
    bend = 2 * yields * d**2 / (3 * fem)
    k2 = -1 + math.sqrt(2 * (1 + re) + bend * (1 + 2 * re) / lm**2)
    k3 = -1 + math.sqrt(2 * (1 + re) / re + bend * (2 + re) / ls**2)
    return min(
        d * lm * fem / one,
        d * ls * fes / one,
        k1 * d * ls * fes / two,
        k2 * d * lm * fem / ((1 + 2 * re) * rest),
        k3 * d * ls * fem / ((2 + re) * rest),
        d**2 / rest * math.sqrt(2 * fem * yields / (3 * (1 + re))),
    )


def sill_bolt(diameter: float, sill: float, gravity: float, embedded: float) -> float:
    """Reference value Z⊥ of an anchor bolt through a sill into concrete, pushed across the grain of
    the sill, N.

    Args:
        diameter: of the bolt, mm.
        sill: its thickness, mm.
        gravity: of the sill's wood.
        embedded: in the concrete, mm.
    """
    wood = Side(bearing_across(gravity, diameter), sill)
    return single_shear(diameter, BOLT_YIELD, Side(CONCRETE_BEARING, embedded), wood, 90.0)


def nails_at_heel(thrust: float, one: float) -> int:
    """Least number of nails that join a rafter and its tie, each worth ``one`` N with all its
    factors."""
    return math.ceil(thrust / one - 1e-9)
