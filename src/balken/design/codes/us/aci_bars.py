"""Bars in concrete by ACI 318-19 chapter 25: development, hooks, laps. Lengths mm, N/mm²; roots in
psi."""

import math
from typing import Final, Literal

from balken.design.concrete.bars import Bar
from balken.units import INCH, PSI

LAST_SMALL: Final = 0.75 * INCH + 0.1
"""#6, mm."""
LEAST: Final = 12 * INCH
"""Of straight bars and of laps (25.4.2.1, 25.5.2.1)."""
LAP_B: Final = 1.3
"""Class B: of the development length (25.5.2.1)."""
Room = Literal["good", "other"]
"""Good: cover of a bar's diameter and two of them clear between bars, or one with the least ties
(table 25.4.2.3)."""
_DIVISOR: Final[dict[tuple[Room, bool], float]] = {
    ("good", True): 25.0,
    ("good", False): 20.0,
    ("other", True): 50 / 3,
    ("other", False): 40 / 3,
}
STRONG: Final = 6000 * PSI
"""f'c from which hooks take no help of the concrete's strength (table 25.4.3.2)."""


HOOK_USUAL: Final = 1.6 * 1.25
"""ψr ψo of hooks without ties round them or much cover beside them (table 25.4.3.2)."""


def straight(bar: Bar, fc: float, fy: float, room: Room = "good", factors: float = 1.0) -> float:
    """ℓ_d of a straight bar in tension before its least, mm (ACI 318-19 table 25.4.2.3).

    Args:
        bar: uncoated, in normal concrete.
        fc: N/mm².
        fy: N/mm².
        room: cover and spacing.
        factors: ψt ψe ψg.
    """
    divisor = _DIVISOR[room, bar.diameter <= LAST_SMALL]
    return (fy / PSI) * factors / (divisor * math.sqrt(fc / PSI)) * bar.diameter


def development(bar: Bar, fc: float, fy: float) -> float:
    """The length a bar needs to hold, mm: of good room, no less than 12 in (ACI 318-19 25.4.2.1,
    25.4.2.3)."""
    return max(LEAST, straight(bar, fc, fy))


def lap(bar: Bar, fc: float, fy: float, room: Room = "good", factors: float = 1.0) -> float:
    """ℓ_st of a class B lap in tension, mm (ACI 318-19 25.5.2.1): its 1.3 ℓd is of the length
    before the least."""
    return max(LEAST, LAP_B * straight(bar, fc, fy, room, factors))


def hook(bar: Bar, fc: float, fy: float, factors: float) -> float:
    """ℓ_dh of a standard hook, mm, no less than 8 diameters and 6 in (ACI 318-19 25.4.3.1).

    Args:
        bar: of which size.
        fc: N/mm².
        fy: N/mm².
        factors: ψe ψr ψo; that for the concrete's strength is added here (table 25.4.3.2).
    """
    concrete = fc / PSI / 15_000 + 0.6 if fc < STRONG else 1.0
    size = math.pow(bar.diameter / INCH, 1.5) * INCH
    wanted = (fy / PSI) * factors * concrete / (55 * math.sqrt(fc / PSI)) * size
    return max(8 * bar.diameter, 6 * INCH, wanted)
