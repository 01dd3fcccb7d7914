"""Zones of duopitch roofs by EN 1991-1-4:2005 tables 7.4a and 7.4b: suction c_pe,10 and c_pe,1 of F, G and
H, the greatest of both directions. From memory."""

import math
from typing import Final

import numpy as np

ANGLES: Final = (5.0, 15.0, 30.0, 45.0, 60.0, 75.0)
TEN: Final = (
    (0.7, 0.6, 0.8, 0.9, 0.8, 0.8),
    (1.3, 1.3, 1.4, 1.4, 1.2, 1.2),
    (1.7, 1.3, 1.1, 1.1, 1.1, 1.1),
)
"""Amounts of c_pe,10 of H, G and F by angle."""
ONE: Final = (
    (1.2, 1.2, 1.2, 1.2, 1.0, 1.0),
    (2.0, 2.0, 2.0, 2.0, 2.0, 2.0),
    (2.5, 2.0, 1.5, 1.5, 1.5, 1.5),
)
"""And of c_pe,1."""
LARGE: Final = 10e6
SMALL: Final = 1e6
"""mm²: between them by the logarithm of the area (7.2.1, figure 7.2)."""


def coefficients(angle: float, area: float) -> tuple[float, float, float]:
    """Amounts of c_pe of zones H, G and F, corners no less than edges.

    Args:
        angle: degrees.
        area: loaded, mm².
    """
    share = math.log10(min(LARGE, max(SMALL, area)) / SMALL)
    found = [
        one - (one - ten) * share
        for one, ten in (
            (float(np.interp(angle, ANGLES, ONE[k])), float(np.interp(angle, ANGLES, TEN[k])))
            for k in range(3)
        )
    ]
    return found[0], found[1], max(found[1], found[2])
