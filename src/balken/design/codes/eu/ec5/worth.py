"""What pieces of timber are worth by EN 1995-1-1: design strengths without kmod."""

from typing import Final

from balken.design.codes.eu.ec5.factors import gamma_m, kcr, kh
from balken.design.codes.eu.ec5.values import (
    GLULAM_CLASSES,
    SOFTWOOD_CLASSES,
    Timber,
    timber,
)
from balken.design.worth import Worth
from balken.model.catalogue import SOFTWOOD
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.sections import BY_STRESS, Product, Section


class DesignTimber(Worth, frozen=True, gc=False, kw_only=True):
    """Design strengths without kmod, with what they were made from. ``fv`` has kcr in it."""

    timber: Timber
    kh: float
    """On bending."""
    bears_on: str = ""
    """Where the bearing value comes from, when what lies underneath is softer."""
    by: LeftOpen = RECOMMENDED

    @property
    def gamma_m(self) -> float:
        """Of the material."""
        return gamma_m(self.timber.material, self.by)


def design_timber(of: Timber, section: Section, by: LeftOpen = RECOMMENDED) -> DesignTimber:
    """What a section of a strength class is worth."""
    gamma, bends = gamma_m(of.material, by), kh(of, section.depth)
    pulled = kh(of, max(section.breadth, section.depth))
    return DesignTimber(
        fb=of.fm * bends / gamma,
        fv=of.fv * kcr(of) / gamma,
        fc_perp=of.fc_perp / gamma,
        fc=of.fc / gamma,
        e=of.e,
        e_min=of.e_05,
        ft=of.ft * pulled / gamma,
        characteristic=of.fc,
        timber=of,
        kh=bends,
        by=by,
    )


def timber_of(species: str, grade: str, section: Section) -> Timber | None:
    """The characteristic values of a piece: of its strength class, or of a product by stress without
    one as they were typed; None where there are none."""
    if section.product is not None:
        return timber_of_product(section.product)
    known = species == SOFTWOOD and grade in SOFTWOOD_CLASSES
    return timber(grade) if known else None


def timber_of_product(item: Product) -> Timber | None:
    """The characteristic values of a product by stress."""
    if item.family not in BY_STRESS:
        return None
    if item.family == "glulam" and item.strength_class in GLULAM_CLASSES:
        return timber(item.strength_class)
    return Timber(
        item.id,
        "lvl" if item.family == "lvl" else "glulam",
        item.fb,
        0.0,
        item.fc,
        item.fc_perp,
        item.fv,
        item.e,
        item.e_min,
        item.e / 16,
        0.0,
        0.0,
        typed=True,
    )


def worth_of(
    species: str, grade: str, section: Section, by: LeftOpen = RECOMMENDED
) -> DesignTimber | None:
    """What a piece is worth; None where it has no values."""
    found = timber_of(species, grade, section)
    return design_timber(found, section, by) if found else None


def worth_of_product(item: Product, by: LeftOpen = RECOMMENDED) -> Worth | None:
    """What a product is worth across its grain and along it, whatever is cut from it."""
    found = timber_of_product(item)
    if found is None:
        return None
    return design_timber(found, Section(item.id, (2, 6), item.breadth, item.depth), by)


NO_CLASS: Final = (
    "it has no strength class by EN 338 or EN 14080: choose softwood C14 to C50, or type one for the"
    " product"
)
