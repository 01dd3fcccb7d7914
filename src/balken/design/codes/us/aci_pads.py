"""Reinforced pads by ACI 318-19: bending, one-way and punching shear. Forces factored; roots taken
in psi."""

import math
from typing import Final

from balken.errors import BalkenError
from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.units import INCH, PSI

PHI_FLEXURE: Final = 0.90
PHI_SHEAR: Final = 0.75
COVER: Final = 3 * INCH
"""Cover of bars where concrete is cast against soil (ACI 318-19 table 20.5.1.3.1)."""
LEAST_STEEL: Final = 0.0018
"""Of the gross section (ACI 318-19 24.4.3.2, 8.6.1.1)."""
LEAST_DEPTH: Final = 6 * INCH
"""Above the bottom bars (ACI 318-19 13.3.1.2)."""


def face_moment(load: float, sides: tuple[float, float], column: float) -> float:
    """The factored moment at the face of the column over the whole width, N mm (ACI 318-19
    13.2.7.1).

    ``sides``: along the bars, and across them; ``column`` its side along the bars, mm.
    """
    along, across = sides
    reach = (along - column) / 2
    return load / (along * across) * across * max(0.0, reach) ** 2 / 2


def steel_for(moment: float, width: float, depth: float, fc: float, fy: float) -> float:
    """The steel a factored moment needs, mm²: φ As fy (d − a/2), a = As fy / (0.85 f'c b)
    (ACI 318-19 22.2).

    Raises:
        BalkenError: the section is too thin for the moment, however much steel.
    """
    if moment <= 0:
        return 0.0
    root = 1 - 2 * moment / (PHI_FLEXURE * 0.85 * fc * width * depth**2)
    if root < 0:
        raise BalkenError("The concrete is too thin for the moment: make it thicker.")
    return 0.85 * fc * width * depth / fy * (1 - math.sqrt(root))


def size_factor(depth: float) -> float:
    """Λs = √(2 / (1 + d/10 in)) ≤ 1 (ACI 318-19 22.5.5.1.3); footings may leave it out
    (13.2.6.2)."""
    return min(1.0, math.sqrt(2 / (1 + depth / (10 * INCH))))


def one_way(
    load: float, sides: tuple[float, float], column: float, depth: float, steel: float, fc: float
) -> tuple[float, float]:
    """Factored shear at d from the column and φVc, N (ACI 318-19 table 22.5.5.1(c),
    13.2.7.2).

    Args:
        load: factored, N.
        sides: along the bars, and across them, mm.
        column: its side along the bars, mm.
        depth: effective, mm.
        steel: of the bars, mm² over the whole width.
        fc: N/mm².
    """
    along, across = sides
    force = load / along * max(0.0, (along - column) / 2 - depth)
    ratio = max(steel, 1e-9) / (across * depth)
    return force, PHI_SHEAR * 8 * ratio ** (1 / 3) * math.sqrt(fc / PSI) * PSI * across * depth


def punching(
    load: float,
    sides: tuple[float, float],
    column: tuple[float, float],
    depth: float,
    fc: float,
    off: tuple[float, float] = (0.0, 0.0),
) -> tuple[float, float]:
    """Factored punching shear d/2 round a column and φVc, N: of the worst of a section all
    round it, and of those that run out to an edge or a corner near it (ACI 318-19 22.6.4.1, table
    22.6.5.2, 22.6.5.3, 13.2.6.2).

    ``off`` is how far the column's middle lies from the pad's, along its sides, mm.
    """
    out = [
        (s - c) / 2 - abs(o) for s, c, o in zip(sides, column, off)
    ]  # from the column's face to the nearer edge
    a, b = column[0] + depth, column[1] + depth
    to_a, to_b = (c + depth / 2 + max(0.0, o) for c, o in zip(column, out))
    sections = (
        (40.0, 2 * (a + b), a * b),
        (30.0, b + 2 * to_a, to_a * b),
        (30.0, a + 2 * to_b, to_b * a),
        (20.0, to_a + to_b, to_a * to_b),
    )
    slender = max(column) / min(column)
    found = []
    for alpha, round_it, inside in sections:
        force = load * max(0.0, 1 - inside / (sides[0] * sides[1]))
        factor = min(4.0, 2 + 4 / slender, 2 + alpha * depth / round_it)
        found.append((force, PHI_SHEAR * factor * math.sqrt(fc / PSI) * PSI * round_it * depth))
    return max(found, key=lambda f: f[0] / f[1])


def band_factor(along: float, across: float) -> float:
    """By how much bars of a rectangular pad are raised that lie along its short side: of
    them 2 / (β + 1) belong into a middle band as wide as the short side; set at one spacing they
    are 2 β / (β + 1) of what is needed (ACI 318-19 13.3.3.3).

    Args:
        along: side of the pad along the bars, mm.
        across: side they are spread over, mm.
    """
    slender = across / along
    return 2 * slender / (slender + 1) if slender > 1 else 1.0


COMBINATIONS: Final = (
    Combination("1.4D", Cases(dead=1.4)),
    Combination("1.2D + 1.6L + 0.5Lr", Cases(dead=1.2, live=1.6, roof_live=0.5)),
    Combination("1.2D + 1.6L + 0.5S", Cases(dead=1.2, live=1.6, snow=0.5)),
    Combination("1.2D + L + 1.6Lr", Cases(dead=1.2, live=1.0, roof_live=1.6)),
    Combination("1.2D + L + 1.6S", Cases(dead=1.2, live=1.0, snow=1.6)),
    Combination("1.2D + 1.6Lr + 0.5W", Cases(dead=1.2, roof_live=1.6, wind=0.5)),
    Combination("1.2D + 1.6S + 0.5W", Cases(dead=1.2, snow=1.6, wind=0.5)),
    Combination("1.2D + W + L + 0.5Lr", Cases(dead=1.2, live=1.0, roof_live=0.5, wind=1.0)),
    Combination("1.2D + W + L + 0.5S", Cases(dead=1.2, live=1.0, snow=0.5, wind=1.0)),
)
"""Strength design, what comes down (ASCE 7-16 2.3.1)."""
