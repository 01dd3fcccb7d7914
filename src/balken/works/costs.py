"""What pieces cost by length, by the prices of the catalogue and those typed for products."""

from collections.abc import Iterable

from balken.framing.member import Member
from balken.model.catalogue import price_per_mm, sections_of
from balken.model.sections import Product
from balken.units import System


def cost_of(members: Iterable[Member], system: System, products: tuple[Product, ...]) -> float:
    """What members that are bought by length cost, in the money of the price list."""
    sections = sections_of(system, products)
    return sum(
        m.blank * price_per_mm(sections[m.section], m.material.partition(" ")[2])
        for m in members
        if m.section in sections
    )
