"""Beams of concrete by EN 1992-1-1 with recommended values: least stirrups and what a beam resists with
them. N, mm, N/mm²."""

import math
from typing import Final

from balken.design.codes.eu.ec2_partial import ALPHA_CC, GAMMA_C, GAMMA_S
from balken.design.codes.ground import Stirrups

COVER: Final = 35.0
"""Of bars outside in no salt, XC3, 25 mm and 10 for placing (EN 1992-1-1 table 4.4N, 4.4.1.3)."""
DEEP: Final = 3.0
"""A span of fewer depths is a deep beam's (EN 1992-1-1 5.3.1(3))."""


def stirrups(width: float, depth: float, fck: float, fyk: float, _shear: float) -> Stirrups:
    """Wanted in every beam but for lintels of 2 m and less (EN 1992-1-1 9.2.2(5), 6.2.1(4)); what they
    resist with struts at 45°, and the struts themselves (6.2.3(3)).

    Args:
        width: of the beam, mm.
        depth: effective, mm.
        fck: N/mm².
        fyk: of the stirrups, N/mm².
    """
    arm, fcd = 0.9 * depth, ALPHA_CC * fck / GAMMA_C
    struts = width * arm * 0.6 * (1 - fck / 250) * fcd / 2

    def held(steel: float) -> float:
        return min(steel * arm * fyk / GAMMA_S, struts)

    least = 0.08 * math.sqrt(fck) / fyk * width
    return Stirrups(True, least, 0.75 * depth, held, "EN 1992-1-1 9.2.2, 6.2.3")
