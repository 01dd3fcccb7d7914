"""Bars in concrete by EN 1992-1-1 8.4 and 8.7, recommended values: anchorage and laps. Lengths mm,
N/mm²."""

import math
from typing import Final

from balken.design.codes.eu.ec2_partial import GAMMA_C

LAP_ALL: Final = 1.5
"""α6 where more than half the bars lap in one place (table 8.3)."""


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
