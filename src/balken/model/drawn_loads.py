"""Loads that people draw on a floor or a roof: at a point, along a line, over an area."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.record import Key, Name, Place, Record

Shape = Literal["point", "line", "area"]
Case = Literal["dead", "live", "roof_live", "snow"]
LEAST_PLACES: Final[dict[Shape, int]] = {"point": 1, "line": 2, "area": 3}


class DrawnLoad(Record, frozen=True):
    """A load on what spans under a level."""

    id: Key
    name: Name
    shape: Shape
    level: Key
    """It lies on the floor that this level is the top of, or on the roof whose plates lie there."""
    places: Annotated[tuple[Place, ...], Meta(min_length=1, max_length=200)]
    """Where it stands; along what; or the corners round it."""
    case: Case
    amount: Annotated[float, Meta(ge=0, le=1e7)]
    """N at a point, N/mm along a line, N/mm² over an area."""


def fault_of(load: DrawnLoad) -> str:
    """What a load lacks, in words; empty where nothing."""
    least = LEAST_PLACES[load.shape]
    if len(load.places) < least or (load.shape == "point" and len(load.places) > 1):
        return f"a load of the shape “{load.shape}” has {least} places, not {len(load.places)}"
    return ""
