"""What every check is asked with besides its demand: the code, the measure, the products there are,
and the site."""

import msgspec

from balken.design.codes import ground_by, timber_by
from balken.design.codes.ground import GroundCode
from balken.design.codes.timber import TimberCode
from balken.model.catalogue import sections_of
from balken.model.foundations import Site
from balken.model.record import Code
from balken.model.sections import Product, Section
from balken.model.uses import Category
from balken.units import System


class Terms(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What the checks of one building are held to."""

    code: Code
    system: System
    products: tuple[Product, ...]
    site: Site
    on_floors: Category = "A"
    """Of what floors are used for, that whose loads stay longest: for what carries several."""

    @property
    def ground(self) -> GroundCode:
        """What the code says of concrete in the ground."""
        return ground_by(self.code, self.on_floors, self.site.left_open)

    @property
    def timber(self) -> TimberCode:
        """What the code says of timber."""
        return timber_by(self.code, self.site.left_open)

    @property
    def sections(self) -> dict[str, Section]:
        """Every section there is, by its name."""
        return sections_of(self.system, self.products)
