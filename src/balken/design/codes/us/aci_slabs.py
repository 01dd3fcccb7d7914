"""Slabs and beams of reinforced concrete by ACI 318-19: least bars, shear without stirrups,
punching. Lengths mm, N, N/mm²; roots in psi."""

import math
from typing import Final, Literal

from balken.design.codes.us.aci_pads import PHI_SHEAR, size_factor
from balken.units import PSI

LEAST_OF_SLAB: Final = 0.0018
"""Of the gross section of a one-way slab (7.6.1.1), and against shrinkage (24.4.3.2)."""
Column = Literal["interior", "edge", "corner"]
_ALPHA: Final[dict[Column, float]] = {"interior": 40.0, "edge": 30.0, "corner": 20.0}
"""α_s (22.6.5.3)."""


def least_of_slab(width: float, thickness: float) -> float:
    """A_s,min of a one-way slab, mm² (ACI 318-19 7.6.1.1)."""
    return LEAST_OF_SLAB * width * thickness


def least_of_beam(width: float, depth: float, fc: float, fy: float) -> float:
    """A_s,min of a beam, mm²: the greater of 3 √f'c and 200 psi over fy (ACI 318-19 9.6.1.2)."""
    root = max(3 * math.sqrt(fc / PSI), 200.0)
    return root / (fy / PSI) * width * depth


def shear_without_stirrups(
    width: float, depth: float, steel: float, fc: float, press: float = 0.0
) -> float:
    """φ Vc of a section without stirrups, N (ACI 318-19 table 22.5.5.1(c), 22.5.5.1.1, 22.5.5.1.3).

    Args:
        width: b_w, mm.
        depth: d, mm.
        steel: A_s in tension, mm².
        fc: N/mm².
        press: N_u / 6 A_g, N/mm², no more than 0.05 f'c counts.
    """
    ratio = math.pow(steel / (width * depth), 1 / 3)
    root = math.sqrt(fc / PSI)
    stress = 8 * size_factor(depth) * ratio * root * PSI + min(press, 0.05 * fc)
    return PHI_SHEAR * min(stress, 5 * root * PSI) * width * depth


def perimeter(place: Column, sides: tuple[float, float], depth: float) -> float:
    """b_o half of d from a column whose faces are flush with the slab's edges, mm (ACI 318-19
    22.6.4.1).

    Args:
        place: of the column.
        sides: square to the edge, and along it, mm.
        depth: effective, mm.
    """
    c1, c2 = sides
    if place == "interior":
        return 2 * (c1 + depth) + 2 * (c2 + depth)
    if place == "edge":
        return 2 * (c1 + depth / 2) + (c2 + depth)
    return (c1 + depth / 2) + (c2 + depth / 2)


def punching(place: Column, sides: tuple[float, float], depth: float, fc: float) -> float:
    """φ Vc of a slab round a column, N, with no stirrups and no moment to hand over (ACI 318-19
    table 22.6.5.2, 22.5.5.1.3)."""
    round_it = perimeter(place, sides, depth)
    slender = max(sides) / min(sides)
    factor = min(4.0, 2 + 4 / slender, 2 + _ALPHA[place] * depth / round_it)
    stress = factor * size_factor(depth) * math.sqrt(fc / PSI) * PSI
    return PHI_SHEAR * stress * round_it * depth
