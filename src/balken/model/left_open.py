"""What a code leaves open: values that a country sets in place of the recommended ones (Eurocodes),
and the sag that stays, which a client may ask for (NDS-2018 3.5.2)."""

from typing import Annotated, Literal

from msgspec import Meta

from balken.model.record import Record

Factor = Annotated[float, Meta(ge=0.5, le=3.0)]
Share = Annotated[float, Meta(ge=0.0, le=1.0)]
Remains = Annotated[float, Meta(ge=0.2, le=1.3)]
Psi = tuple[Share, Share, Share]
"""ψ0, ψ1, ψ2: beside another action, often, and nearly always."""
ByDuration = tuple[Remains, Remains, Remains, Remains, Remains]
"""kmod of permanent, long, medium, short and instantaneous loads."""
LongTerm = Literal["at once", "seasoned", "unseasoned"]
"""What the second limit of deflection holds of loads that stay: their sag at once, or with the creep
of wood built in dry or wet."""


class LeftOpen(Record, frozen=True, cache_hash=True):
    """The values as they were typed; recommended ones until then."""

    permanent: Factor = 1.35
    """γ_G (EN 1990 table A1.2(B))."""
    holding: Factor = 0.9
    """γ_G of what holds down (EN 1990 table A1.2(A))."""
    variable: Factor = 1.5
    """γ_Q (EN 1990 table A1.2)."""
    psi_floors: Psi | None = None
    """Of live loads on floors; None by the category of each (EN 1990 table A1.1)."""
    psi_snow: Psi = (0.5, 0.2, 0.0)
    """Of snow below 1,000 m (EN 1990 table A1.1)."""
    psi_wind: Psi = (0.6, 0.2, 0.0)
    solid_timber: Factor = 1.30
    """γ_M (EN 1995-1-1 table 2.3), also of the two below."""
    glulam: Factor = 1.25
    lvl: Factor = 1.20
    kmod_dry: ByDuration = (0.60, 0.70, 0.80, 0.90, 1.10)
    """Service classes 1 and 2 (EN 1995-1-1 table 3.1)."""
    kmod_wet: ByDuration = (0.50, 0.55, 0.65, 0.70, 0.90)
    """Service class 3."""
    long_term: LongTerm = "at once"
    """Of US codes."""
    live_on_areas: Literal["whole", "reduced"] = "whole"
    """Whether live load of floors is less on what carries a large area, where the code allows
    it."""


RECOMMENDED = LeftOpen()
"""What stands in the codes themselves."""
