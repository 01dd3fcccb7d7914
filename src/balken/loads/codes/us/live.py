"""Live loads on floors by ASCE 7-16 chapter 4. Loads N/mm², areas mm²."""

import math
from typing import Final

from balken.units import FOOT, PSF

LEAST_AREA: Final = 400 * FOOT**2
"""K_LL A_T from which a floor's live load may be reduced (4.7.2)."""
HEAVY: Final = 100 * PSF
"""Live loads over this are not reduced, but by a fifth of what carries two floors or more
(4.7.3)."""


def reduced(
    load: float, area: float, element_factor: float, floors: int = 1, *, reducible: bool = True
) -> float:
    """The live load of a member by the area it serves, N/mm² (ASCE 7-16 4.7.2 to 4.7.5).

    Args:
        load: L_o, N/mm².
        area: A_T, mm².
        element_factor: K_LL of table 4.7-1: 4 inner columns and outer ones with no cantilever
            slab, 3 edge columns with one, 2 corner columns with one and beams, 1 others.
        floors: that it carries.
        reducible: no for garages (4.7.4), assembly (4.7.5) and roofs.
    """
    if not reducible:
        return load
    if load > HEAVY + 1e-12:
        return 0.8 * load if floors >= 2 else load
    influence = element_factor * area
    if influence < LEAST_AREA:
        return load
    share = 0.25 + 15 / math.sqrt(influence / FOOT**2)
    return load * max(share, 0.5 if floors == 1 else 0.4)
