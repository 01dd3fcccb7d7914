"""The codes, each on its own: what one clause says is one function, and no function knows two."""

from collections.abc import Callable
from typing import Final

from balken.design.codes.eu import ground as eu
from balken.design.codes.eu import timber as eu_timber
from balken.design.codes.ground import GroundCode
from balken.design.codes.timber import TimberCode
from balken.design.codes.us import ground as us
from balken.design.codes.us import timber as us_timber
from balken.model.record import Code
from balken.model.uses import Category

GROUND: Final[dict[Code, Callable[[Category], GroundCode]]] = {
    "us": lambda on_floors: us.GROUND,
    "eu": eu.for_floors,
}
"""Of concrete in the ground, by what the floors over it are used for."""
TIMBER: Final[dict[Code, TimberCode]] = {"us": us_timber.TIMBER, "eu": eu_timber.TIMBER}
"""Of timber, and of steel that stands in its place."""
