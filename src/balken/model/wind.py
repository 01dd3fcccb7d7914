"""What wind and earthquake ask for at a place, as it was typed or came from a site sheet."""

from typing import Annotated, Literal

from msgspec import Meta

from balken.model.record import Record

Exposure = Literal["B", "C", "D"]
"""Of the ground before a building (ASCE 7-16 26.7.3)."""
Terrain = Literal["0", "I", "II", "III", "IV"]
"""Category of the ground before a building (EN 1991-1-4 table 4.1)."""


Coefficient = Annotated[float, Meta(ge=0.0, le=6.0)]


class Wind(Record, frozen=True):
    """The wind at a place."""

    speed: Annotated[float, Meta(ge=5_000, le=120_000)]
    """mm/s: V of ASCE 7-16 26.5, a gust of three seconds; or v_b of EN 1991-1-4 4.2, the mean of
    ten minutes."""
    exposure: Exposure = "C"
    """Of US codes."""
    terrain: Terrain = "II"
    """Of EN 1991-1-4."""
    topography: Annotated[float, Meta(ge=0.5, le=3.0)] = 1.0
    """K_zt (ASCE 7-16 26.8); c_0 (EN 1991-1-4 4.3.3)."""
    enclosed: bool = True
    """Whether its openings are few and closed in a storm; else it is partially enclosed."""
    zones: tuple[Coefficient, Coefficient, Coefficient] | None = None
    """Amounts of suction on rafters as components: inside a roof, along its edges, in its corners. GC_p
    of ASCE 7-16 figure 30.3-2 for their area, which has to be typed; c_pe of zones H, G and F of
    EN 1991-1-4, recommended ones where none are typed."""


class Earthquake(Record, frozen=True):
    """How the ground shakes at a place, and what of the building resists it (ASCE 7-16 chapters 11
    and 12)."""

    sds: Annotated[float, Meta(ge=0, le=4)]
    """S_DS, of gravity."""
    sd1: Annotated[float, Meta(ge=0, le=4)]
    """S_D1, of gravity."""
    s1: Annotated[float, Meta(ge=0, le=4)] = 0.0
    response: Annotated[float, Meta(ge=1, le=8)] = 6.5
    """R: 6.5 for light frames with wood panels (table 12.2-1, A.15)."""
    importance: Annotated[float, Meta(ge=1, le=1.5)] = 1.0
    """I_e."""
