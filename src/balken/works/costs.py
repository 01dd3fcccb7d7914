"""What pieces cost by length, by the prices of the catalogue and those typed for products; how much of
each material there is, and its embodied carbon by typed factors."""

from collections.abc import Iterable
from typing import Final, NamedTuple

from balken.framing.member import Member
from balken.model.catalogue import box_area, price_per_mm, sections_of
from balken.model.foundations import Carbon
from balken.model.sections import STEEL, Product
from balken.units import System
from balken.works.building import Checked


def cost_of(members: Iterable[Member], system: System, products: tuple[Product, ...]) -> float:
    """What members that are bought by length cost, in the money of the price list."""
    sections = sections_of(system, products)
    return sum(
        m.blank * price_per_mm(sections[m.section], m.material.partition(" ")[2])
        for m in members
        if m.section in sections
    )


CUBIC_METRE: Final = 1e9
"""In mm³."""


class Volumes(NamedTuple):
    """How much of each material is built, mm³."""

    timber: float
    glued: float
    concrete: float
    steel: float


def volumes_of(checked: Checked) -> Volumes:
    """The volumes of all that is built."""
    return volumes_among(checked, checked.structure.members)


def volumes_among(checked: Checked, members: Iterable[Member]) -> Volumes:
    """The volumes of some members; steel by its section, hollow or rolled."""
    sections = sections_of(checked.built.system, checked.built.products)
    timber = glued = concrete = steel = 0.0
    for m in members:
        section = sections.get(m.section)
        if m.kind.concrete:
            concrete += checked.structure.volume(m)
        elif section is not None and section.family in STEEL:
            steel += section.area * m.length
        elif section is not None and section.box is not None:
            timber += box_area(section.box, section.depth) * m.length
        elif section is not None and section.product is not None:
            glued += m.solid.volume
        elif m.section:
            timber += m.solid.volume
    return Volumes(timber, glued, concrete, steel)


def carbon_of(amounts: Volumes, factors: Carbon) -> float:
    """Embodied carbon, kg."""
    each = (
        amounts.timber * factors.timber,
        amounts.glued * (factors.glued or factors.timber),
        amounts.concrete * factors.concrete,
        amounts.steel * factors.steel,
    )
    return sum(each) / CUBIC_METRE
