"""Slabs by EN 1992-1-1 with recommended values: punching round columns, and anchoring and lapping
their bars. Lengths mm, N, N/mm²."""

import math
from typing import Final, Literal

from balken.design.codes.eu.ec2_pads import GAMMA_C, shear_strength

Column = Literal["interior", "edge", "corner"]
BETA: Final[dict[Column, float]] = {"interior": 1.15, "edge": 1.4, "corner": 1.5}
"""How far moment makes punching worse, of braced frames with spans within a quarter of one another
(EN 1992-1-1 figure 6.21N)."""
LAP_ALL: Final = 1.5
"""α6 where more than half the bars lap in one place (table 8.3)."""


def perimeter(place: Column, sides: tuple[float, float], depth: float) -> float:
    """u1 at 2 d from a column whose faces are flush with the slab's edges, mm (EN 1992-1-1 6.4.2,
    figure 6.15).

    Args:
        place: of the column.
        sides: square to the edge, and along it, mm.
        depth: effective, mm.
    """
    c1, c2 = sides
    if place == "interior":
        return 2 * (c1 + c2) + 4 * math.pi * depth
    if place == "edge":
        return 2 * c1 + c2 + 2 * math.pi * depth
    return c1 + c2 + math.pi * depth


def punching(
    force: float,
    beta: float,
    place: Column,
    sides: tuple[float, float],
    depth: float,
    ratio: float,
    fck: float,
) -> float:
    """Utilisation β V_Ed / (u1 d v_Rd,c) without stirrups (EN 1992-1-1 6.38, 6.47).

    Args:
        force: V_Ed, N.
        beta: for moment.
        place: of the column.
        sides: of the column, mm.
        depth: d, mm.
        ratio: ρ_l of both directions, no more than 0.02 counts.
        fck: N/mm².
    """
    round_it = perimeter(place, sides, depth)
    return beta * force / (round_it * depth) / shear_strength(depth, ratio, fck)


def bond_strength(fck: float, eta1: float = 1.0) -> float:
    """f_bd of ribbed bars up to 32 mm, N/mm² (EN 1992-1-1 8.2); ``eta1`` 0.7 in poor bond."""
    return 2.25 * eta1 * 0.7 * 0.30 * math.pow(fck, 2 / 3) / GAMMA_C


def basic_anchorage(diameter: float, stress: float, fck: float, eta1: float = 1.0) -> float:
    """ℓ_b,rqd, mm (EN 1992-1-1 8.3)."""
    return diameter / 4 * stress / bond_strength(fck, eta1)


def anchorage(diameter: float, stress: float, fck: float, eta1: float = 1.0) -> float:
    """ℓ_bd in tension with α1 to α5 of 1, mm (EN 1992-1-1 8.4, 8.6)."""
    basic = basic_anchorage(diameter, stress, fck, eta1)
    return max(basic, 0.3 * basic, 10 * diameter, 100.0)


def lap(
    diameter: float, stress: float, fck: float, alpha6: float = LAP_ALL, eta1: float = 1.0
) -> float:
    """ℓ_0 in tension, mm (EN 1992-1-1 8.10, 8.11)."""
    basic = basic_anchorage(diameter, stress, fck, eta1)
    return max(alpha6 * basic, 0.3 * alpha6 * basic, 15 * diameter, 200.0)
