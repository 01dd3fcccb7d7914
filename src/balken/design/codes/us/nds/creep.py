"""Deflection that grows with time by NDS-2018 3.5.2."""

from typing import Final

SEASONED: Final = 1.5
"""K_cr of seasoned lumber, glulam and composite lumber in dry use."""
UNSEASONED: Final = 2.0
"""K_cr of lumber built in wet or used wet, and of panels."""


def total(long_term: float, short_term: float, kcr: float) -> float:
    """Δ_T = K_cr Δ_LT + Δ_ST, mm (NDS-2018 3.5-1).

    Args:
        long_term: sag at once under what is always there, mm.
        short_term: sag under the rest of what is reckoned with, mm.
        kcr: 1.5 or 2.
    """
    return kcr * long_term + short_term
