"""Plain concrete: strips, pads and walls without bars (ACI 318-19 chapter 14). Strengths in psi
where the code takes roots."""

import math
from typing import Final

from balken.units import INCH, PSI

PHI: Final = 0.60
"""Strength reduction for plain concrete (ACI 318-19 21.2.1)."""
AGAINST_SOIL: Final = 2 * INCH
"""What the thickness loses where concrete is cast against soil (ACI 318-19 14.5.1.7)."""
LEAST_FOOTING: Final = 8 * INCH
"""Least thickness of a plain footing (ACI 318-19 14.3.2.1)."""
LEAST_WALL: Final = 7.5 * INCH
"""Least thickness of a plain basement wall (ACI 318-19 14.3.1.2)."""


def modulus_of_rupture(fc: float) -> float:
    """5 √f'c of normal concrete, N/mm² (ACI 318-19 14.5.2.1); ``fc`` in N/mm²."""
    return 5 * math.sqrt(fc / PSI) * PSI


def effective(thickness: float, *, against_soil: bool = True) -> float:
    """The thickness that counts, mm."""
    return max(0.0, thickness - AGAINST_SOIL) if against_soil else thickness


def cantilever_moment(pressure: float, projection: float) -> float:
    """The moment at the face of what stands on a footing, N mm per mm of width; upward
    pressure in N/mm²."""
    return pressure * projection**2 / 2


def flexure(
    pressure: float, projection: float, thickness: float, fc: float, *, against_soil: bool = True
) -> float:
    """The utilisation of a plain footing in bending: Mu / φ 5√f'c S (ACI 318-19
    14.5.2.1)."""
    h = effective(thickness, against_soil=against_soil)
    if h <= 0:
        return math.inf
    return cantilever_moment(pressure, projection) / (PHI * modulus_of_rupture(fc) * h**2 / 6)


def least_thickness(
    pressure: float, projection: float, fc: float, *, against_soil: bool = True
) -> float:
    """The overall thickness a plain strip needs for bending, mm; no less than 8 in."""
    h = math.sqrt(6 * cantilever_moment(pressure, projection) / (PHI * modulus_of_rupture(fc)))
    return max(LEAST_FOOTING, h + (AGAINST_SOIL if against_soil else 0.0))


def one_way_shear(
    pressure: float, projection: float, thickness: float, fc: float, *, against_soil: bool = True
) -> float:
    """The utilisation in one-way shear at h from the face: Vu / φ (4/3) √f'c h (ACI 318-19
    table 14.5.5.1)."""
    h = effective(thickness, against_soil=against_soil)
    if h <= 0:
        return math.inf
    force = pressure * max(0.0, projection - h)
    return force / (PHI * 4 / 3 * math.sqrt(fc / PSI) * PSI * h)


def punching(
    load: float,
    sides: tuple[float, float],
    column: tuple[float, float],
    thickness: float,
    fc: float,
    *,
    against_soil: bool = True,
) -> float:
    """The utilisation of a plain pad in punching, h/2 round the column (ACI 318-19 table
    14.5.5.1).

    Args:
        load: factored, N.
        sides: of the pad, mm.
        column: sides of the column, mm.
        thickness: overall, mm.
        fc: strength of the concrete, N/mm².
        against_soil: whether two inches of it do not count.
    """
    h = effective(thickness, against_soil=against_soil)
    if h <= 0:
        return math.inf
    a, b = column[0] + h, column[1] + h
    force = load * max(0.0, 1 - a * b / (sides[0] * sides[1]))
    slender = max(column) / min(column)
    factor = min(4 / 3 * (1 + 2 / slender), 8 / 3)
    return force / (PHI * factor * math.sqrt(fc / PSI) * PSI * 2 * (a + b) * h)


def wall_flexure(moment: float, thickness: float, fc: float) -> float:
    """The utilisation of a plain wall in bending for a factored moment in N mm/mm, its axial
    load left out; of one thinner than it may be, at least that (ACI 318-19 14.5.2, 14.3.1.2)."""
    ratio = 6 * moment / (PHI * modulus_of_rupture(fc) * thickness**2)
    return max(ratio, LEAST_WALL / thickness) if thickness < LEAST_WALL - 0.5 else ratio


def wall_shear(thickness: float, fc: float) -> float:
    """φ Vn of a plain wall per mm of its length, N/mm: φ (4/3) √f'c h (ACI 318-19 14.5.5)."""
    return PHI * 4 / 3 * math.sqrt(fc / PSI) * PSI * thickness


def wall_compression(fc: float, area: float, height: float, thickness: float) -> float:
    """φ Pn of a plain wall, N: φ 0.60 f'c A (1 − (ℓc / 32 h)²) (ACI 318-19 14.5.3.1)."""
    share = 1 - (height / (32 * thickness)) ** 2
    return PHI * 0.60 * fc * area * max(0.0, share)


def pedestal(fc: float, area: float) -> float:
    """φ Pn of a short plain pedestal, N (ACI 318-19 14.5.3.1 with no slenderness)."""
    return PHI * 0.60 * fc * area


def wall_thickness(moment: float, fc: float) -> float:
    """The thickness a plain wall needs for a factored moment in N mm/mm, its axial load left
    out, mm."""
    return max(LEAST_WALL, math.sqrt(6 * moment / (PHI * modulus_of_rupture(fc))))
