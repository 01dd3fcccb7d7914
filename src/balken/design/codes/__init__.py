"""The codes, each on its own: what one clause says is one function, and no function knows two."""

from typing import Final

from balken.design.codes.eu import ground as eu
from balken.design.codes.ground import GroundCode
from balken.design.codes.us import ground as us
from balken.model.project import Code

GROUND: Final[dict[Code, GroundCode]] = {"us": us.GROUND, "eu": eu.GROUND}
"""Of concrete in the ground."""
