"""Floors of dwellings under a walking person by EN 1995-1-1 7.3.3. In m, kg, N, s here alone, as
the clause is written; sags in mm."""

import math
from typing import Final

SLOWEST: Final = 8.0
"""Floors whose first frequency is not over this want a study of their own, Hz (EN 1995-1-1
7.3.3(1))."""
DAMPING: Final = 0.01
"""ζ (EN 1995-1-1 7.3.1(3))."""


def frequency(span: float, stiffness: float, mass: float) -> float:
    """First frequency of a floor on two supports, Hz (EN 1995-1-1 7.5).

    Args:
        span: m.
        stiffness: (EI)ℓ of a metre of width, N m²/m.
        mass: of the floor and what is permanent on it, kg/m².
    """
    return math.pi / (2 * span**2) * math.sqrt(stiffness / mass)


def sag_under_a_person(span: float, stiffness: float, share: float = 1.0) -> float:
    """Sag under a force of 1 kN in the middle, mm (EN 1995-1-1 7.3).

    Args:
        span: mm.
        stiffness: EI of one joist, N mm².
        share: of the force that one joist takes; 1 where nothing spreads it.
    """
    return share * 1000.0 * span**3 / (48 * stiffness)


def impulse_velocity(
    span: float, width: float, along: float, across: float, mass: float, f1: float | None = None
) -> float:
    """Unit impulse velocity response of a floor on four sides, m/(N s²) (EN 1995-1-1 7.6, 7.7).

    Args:
        span: ℓ, m.
        width: b, m.
        along: (EI)ℓ, N m²/m.
        across: (EI)b, less than along, N m²/m.
        mass: kg/m².
        f1: Hz; by (7.5) where it is not given.
    """
    first = f1 if f1 is not None else frequency(span, along, mass)
    many = max(0.0, (40 / first) ** 2 - 1)
    n40 = math.pow(many * (width / span) ** 4 * along / across, 0.25)
    return 4 * (0.4 + 0.6 * n40) / (mass * width * span + 200)


def velocity_limit(b: float, f1: float, damping: float = DAMPING) -> float:
    """What v may be at most, m/(N s²) (EN 1995-1-1 7.4).

    Args:
        b: of figure 7.2.
        f1: Hz.
        damping: ζ.
    """
    return math.pow(b, f1 * damping - 1)


def b_of(a: float) -> float:
    """b that goes with a limit a on the sag under 1 kN, mm (EN 1995-1-1 figure 7.2: 150 at 0.5
    mm, 120 at 1, 80 at 2, from memory; straight between them)."""
    if a <= 1.0:
        return min(150.0, 120 + 60 * (1.0 - a))
    return max(50.0, 120 - 40 * (a - 1.0))
