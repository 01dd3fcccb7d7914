"""Shear by EN 1995-1-1 6.1.7, and 6.5.2 over notches at supports. Lengths mm, N, N/mm²."""

import math
from typing import Final

from balken.design.codes.eu.ec5.factors import KCR
from balken.design.codes.eu.ec5.values import Material

_KN: Final[dict[Material, float]] = {"solid timber": 5.0, "glulam": 6.5, "lvl": 4.5}
"""EN 1995-1-1 6.63."""


def shear_stress(force: float, breadth: float, depth: float, kcr: float = KCR) -> float:
    """1.5 V / (kcr b h), N/mm² (EN 1995-1-1 6.13, 6.13a)."""
    return 1.5 * force / (kcr * breadth * depth)


def notch_factor(
    material: Material, depth: float, left: float, from_support: float, taper: float = 0.0
) -> float:
    """kv over a notch in the lower edge at a support; 1 where it is in the upper edge (EN 1995-1-1
    6.61 to 6.63).

    Args:
        material: what it is of.
        depth: h, mm.
        left: hef over the notch, mm.
        from_support: x, from the line of the support to the corner of the notch, mm.
        taper: i, how far the notch runs out along the beam over its height; 0 where its corner is
            square.
    """
    share = left / depth
    plain = _KN[material] * (1 + 1.1 * math.pow(taper, 1.5) / math.sqrt(depth))
    sharp = math.sqrt(depth) * (
        math.sqrt(share * (1 - share))
        + 0.8 * from_support / depth * math.sqrt(1 / share - share**2)
    )
    return min(1.0, plain / sharp) if sharp > 0 else 1.0
