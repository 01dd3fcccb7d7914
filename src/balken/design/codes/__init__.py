"""The codes, each on its own: what one clause says is one function, and no function knows two."""

from balken.design.codes.eu import ground as eu_ground
from balken.design.codes.eu import timber as eu_timber
from balken.design.codes.ground import GroundCode
from balken.design.codes.timber import TimberCode
from balken.design.codes.us import ground as us_ground
from balken.design.codes.us import timber as us_timber
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.record import Code
from balken.model.uses import Category


def ground_by(code: Code, on_floors: Category, by: LeftOpen = RECOMMENDED) -> GroundCode:
    """What a code says of concrete in the ground, by what the floors over it are used for and the
    values it leaves open."""
    return us_ground.GROUND if code == "us" else eu_ground.ground_by(on_floors, by)


def timber_by(code: Code, by: LeftOpen = RECOMMENDED) -> TimberCode:
    """What a code says of timber, and of steel that stands in its place, by the values it leaves
    open."""
    return us_timber.timber_by(by) if code == "us" else eu_timber.timber_by(by)
