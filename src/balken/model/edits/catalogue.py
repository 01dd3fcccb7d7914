"""Edits of the catalogue of a project as a whole."""

from collections.abc import Iterable
from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked
from balken.model.edits.prices import take_prices
from balken.model.kept import Catalogue
from balken.model.prices import Price
from balken.model.project import Project
from balken.model.sections import faults_of_product


def take_catalogue(project: Project, catalogue: Catalogue) -> Project:
    """Take a catalogue in: what has the name of something there takes its place, the rest comes beside it.

    Raises:
        EditError: a product lacks values its family needs.
    """
    for item in catalogue.products:
        if fault := faults_of_product(item):
            raise EditError(f"“{item.id}” {fault}. Nothing was taken.")
    project = take_prices(project, catalogue.prices) if catalogue.prices else project
    return checked(
        project,
        products=_joined(project.products, catalogue.products),
        build_ups=_joined(project.build_ups, catalogue.build_ups),
        wall_build_ups=_joined(project.wall_build_ups, catalogue.wall_build_ups),
    )


def _joined(mine: Iterable[Any], taken: Iterable[Any]) -> tuple[Any, ...]:
    found = {x.id: x for x in mine} | {x.id: x for x in taken}
    return tuple(found.values())


def set_price(project: Project, item: str, price: Price) -> Project:
    """Change a price that is kept.

    Raises:
        EditError: there is none of that item.
    """
    prices = project.estimate.prices
    if all(p.item != item for p in prices):
        raise EditError(f"There is no price of “{item}”.")
    return _priced(project, tuple(price if p.item == item else p for p in prices))


def add_price(project: Project, price: Price) -> Project:
    """Keep one more price.

    Raises:
        EditError: its item has one, or it names none.
    """
    if not price.item.strip():
        raise EditError("A price needs an item, such as “2x10 DF-L No.2” or “concrete”.")
    if any(p.item.lower() == price.item.lower() for p in project.estimate.prices):
        raise EditError(f"“{price.item}” has a price already.")
    return _priced(project, (*project.estimate.prices, price))


def drop_price(project: Project, item: str) -> Project:
    """Forget the price of an item."""
    return _priced(project, tuple(p for p in project.estimate.prices if p.item != item))


def _priced(project: Project, prices: tuple[Price, ...]) -> Project:
    return checked(project, estimate=replace(project.estimate, prices=prices))
