"""Imposed loads on floors by EN 1991-1-1 6.3.1.2, recommended values. Areas mm²."""

from typing import Final

from balken.loads.codes.eu.combinations import PSI, Category

WHOLE: Final = 10e6
"""A_0: over this a floor's load may be less."""
LEAST: Final = 0.6
"""α_A of categories C and D at the least."""


def area_factor(category: Category, area: float, psi0: float | None = None) -> float:
    """α_A of a floor's load on a beam, by the area it supports: 5/7 ψ0 + A_0/A, of categories A to
    D (6.1)."""
    if category not in ("A", "B", "C", "D") or area <= 0:
        return 1.0
    share = 5 / 7 * (PSI[category].combination if psi0 is None else psi0) + WHOLE / area
    return min(1.0, max(share, LEAST) if category in ("C", "D") else share)
