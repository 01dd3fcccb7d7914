"""What things cost: prices a person keeps, hours a piece of work takes, wage, waste and currency."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.record import Name, Record

Unit = Literal["piece", "m", "ft", "m2", "sq ft", "m3", "cu yd"]
UNIT_MEASURE: Final[dict[Unit, tuple[str, float]]] = {
    "piece": ("count", 1.0),
    "m": ("length", 1000.0),
    "ft": ("length", 304.8),
    "m2": ("area", 1e6),
    "sq ft": ("area", 304.8**2),
    "m3": ("volume", 1e9),
    "cu yd": ("volume", 914.4**3),
}
"""What each unit measures, and mm, mm² or mm³ to one of it."""


class Price(Record, frozen=True):
    """The price of one unit of an item, and the hours it takes to put in.

    ``item`` is a section with its material, a section, a kind of sheet, ``concrete``, ``formwork``, a use of
    fasteners.
    """

    item: Annotated[str, Meta(min_length=1, max_length=120)]
    unit: Unit
    price: Annotated[float, Meta(ge=0, le=1e9)]
    hours: Annotated[float, Meta(ge=0, le=1e4)] = 0.0
    date: Name = ""
    """When it was told, as 2026-11-30; empty where that is not known."""


class Estimate(Record, frozen=True):
    """How the cost of a project is reckoned."""

    currency: Annotated[str, Meta(max_length=12)] = ""
    wage: Annotated[float, Meta(ge=0, le=1e6)] = 0.0
    """Of an hour of labour."""
    waste: Annotated[float, Meta(ge=0, le=1)] = 0.0
    """Of sheets and fasteners, on top of what is counted; lumber's is in its boards."""
    prices: Annotated[tuple[Price, ...], Meta(max_length=5000)] = ()
