"""Snow on the ground of a place, and what of a roof's surroundings changes it."""

from typing import Annotated

from msgspec import Meta

from balken.model.record import AreaLoad, Record


class GroundSnow(Record, frozen=True):
    """What lies on the ground, N/mm², and the factors that lead to roofs."""

    ground: AreaLoad
    """p_g of ASCE 7-16 7.2, or s_k of EN 1991-1-3."""
    exposure: Annotated[float, Meta(ge=0.5, le=1.5)] = 1.0
    """C_e."""
    thermal: Annotated[float, Meta(ge=0.8, le=1.3)] = 1.0
    """C_t."""
    importance: Annotated[float, Meta(ge=0.8, le=1.2)] = 1.0
    """I_s; EN 1991-1-3 has none."""
    slides: bool = False
    """Off slippery roofs with nothing in its way (ASCE 7-16 7.4)."""
    guarded: bool = False
    """It cannot slide off: guards, parapets (EN 1991-1-3 5.3)."""
