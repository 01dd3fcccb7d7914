"""Slabs by EN 1992-1-1 with recommended values: punching round columns. Lengths mm, N, N/mm²."""

import math
from typing import Final, Literal

from balken.design.codes.eu.ec2_pads import shear_strength

Column = Literal["interior", "edge", "corner"]
BETA: Final[dict[Column, float]] = {"interior": 1.15, "edge": 1.4, "corner": 1.5}
"""How far moment makes punching worse, of braced frames with spans within a quarter of one another
(EN 1992-1-1 figure 6.21N)."""


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
