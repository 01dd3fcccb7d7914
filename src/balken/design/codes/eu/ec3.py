"""Rolled beams and posts by EN 1993-1-1:2005 with recommended values: bending with lateral
torsional buckling, compression, shear. Lengths mm, N, N/mm²."""

import math
from typing import Final, Literal

E: Final = 210_000.0
G: Final = 81_000.0
GAMMA_M0: Final = 1.0
GAMMA_M1: Final = 1.0
Curve = Literal["a0", "a", "b", "c", "d"]
_ALPHA: Final[dict[Curve, float]] = {"a0": 0.13, "a": 0.21, "b": 0.34, "c": 0.49, "d": 0.76}
"""Imperfection (table 6.1, and 6.3 for lateral buckling)."""
LATERAL_PLATEAU: Final = 0.4
LATERAL_BETA: Final = 0.75
"""λ_LT,0 and β of rolled sections (6.3.2.3)."""
_THICK_FLANGE: Final = 40.0


def reduction(relative: float, alpha: float) -> float:
    """χ for a relative slenderness (EN 1993-1-1 6.49)."""
    if relative <= 0.2:
        return 1.0
    phi = 0.5 * (1 + alpha * (relative - 0.2) + relative**2)
    return min(1.0, 1 / (phi + math.sqrt(phi**2 - relative**2)))


def buckling_curve(depth: float, breadth: float, flange: float, axis: Literal["y", "z"]) -> Curve:
    """The curve of a rolled I of S235 to S420 (EN 1993-1-1 table 6.2)."""
    strong = axis == "y"
    if depth / breadth > 1.2:
        if flange <= _THICK_FLANGE:
            return "a" if strong else "b"
        return "b" if strong else "c"
    if flange <= 100.0:
        return "b" if strong else "c"
    return "d"


def compression(area: float, radius: float, length: float, fy: float, curve: Curve) -> float:
    """N_b,Rd of a section of class 1 to 3, N (EN 1993-1-1 6.47, 6.50).

    Args:
        area: mm².
        radius: of gyration, mm.
        length: of buckling, mm.
        fy: N/mm².
        curve: of buckling.
    """
    relative = length / radius / (math.pi * math.sqrt(E / fy))
    return reduction(relative, _ALPHA[curve]) * area * fy / GAMMA_M1


def critical_moment(
    length: float, weak_inertia: float, torsion: float, warping: float, c1: float = 1.0
) -> float:
    """M_cr between fork ends, loaded at the shear centre, N mm.

    Args:
        length: between places held sideways and against twisting, mm.
        weak_inertia: I_z, mm⁴.
        torsion: I_t, mm⁴.
        warping: I_w, mm⁶.
        c1: for the shape of the moment.
    """
    euler = math.pi**2 * E * weak_inertia / length**2
    return c1 * euler * math.sqrt(warping / weak_inertia + G * torsion / euler)


def lateral_curve(depth: float, breadth: float) -> Curve:
    """The curve of rolled I for lateral buckling by 6.3.2.3 (EN 1993-1-1 table 6.5)."""
    return "b" if depth / breadth <= 2 else "c"


def lateral_reduction(relative: float, curve: Curve) -> float:
    """χ_LT of rolled sections, f taken as 1 (EN 1993-1-1 6.57)."""
    if relative <= LATERAL_PLATEAU:
        return 1.0
    squared = LATERAL_BETA * relative**2
    phi = 0.5 * (1 + _ALPHA[curve] * (relative - LATERAL_PLATEAU) + squared)
    chi = 1 / (phi + math.sqrt(phi**2 - squared))
    return min(1.0, 1 / relative**2, chi)


def moment(modulus: float, fy: float, critical: float, curve: Curve) -> float:
    """M_b,Rd, N mm (EN 1993-1-1 6.55).

    Args:
        modulus: W_y: plastic of class 1 and 2, elastic of class 3, mm³.
        fy: N/mm².
        critical: M_cr, N mm; infinite where the flange in compression is held all along.
        curve: of lateral buckling.
    """
    relative = math.sqrt(modulus * fy / critical)
    return lateral_reduction(relative, curve) * modulus * fy / GAMMA_M1


def shear(area: float, fy: float) -> float:
    """V_pl,Rd, N (EN 1993-1-1 6.18); ``area`` A_v, mm²."""
    return area * fy / math.sqrt(3) / GAMMA_M0
