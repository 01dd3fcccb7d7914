"""Edits of the catalogue of a project as a whole."""

from collections.abc import Iterable, Sequence
from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked, fresh
from balken.model.edits.prices import take_prices
from balken.model.kept import Catalogue
from balken.model.prices import Price
from balken.model.project import Project
from balken.model.sections import faults_of_product


def take_catalogue(project: Project, catalogue: Catalogue) -> Project:
    """Take a catalogue in. Products and prices take the place of those of their name. A build-up that is used
    stays as it is - walls and floors would change with it -, and what has its key in the catalogue comes
    beside it under another.

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
        build_ups=_beside(
            project.build_ups, catalogue.build_ups, {f.build_up for f in project.floors}
        ),
        wall_build_ups=_beside(
            project.wall_build_ups, catalogue.wall_build_ups, {w.build_up for w in project.walls}
        ),
    )


def came_beside(before: Project, after: Project, catalogue: Catalogue) -> tuple[str, ...]:
    """The keys under which build-ups of a catalogue came where theirs are in use, the project before and
    after it was taken in."""
    return tuple(
        key
        for old, new, taken in (
            (before.build_ups, after.build_ups, catalogue.build_ups),
            (before.wall_build_ups, after.wall_build_ups, catalogue.wall_build_ups),
        )
        for key in (x.id for x in new)
        if key not in {x.id for x in (*old, *taken)}
    )


def _beside(mine: Sequence[Any], taken: Iterable[Any], used: set[str]) -> tuple[Any, ...]:
    """Build-ups with those of a catalogue; what is there already comes no second time."""
    found = {x.id: x for x in mine}
    for item in taken:
        if any(replace(x, id=item.id) == item for x in found.values()):
            continue
        clash = item.id in used and item.id in found
        key = fresh(found, item.id.rstrip("0123456789")) if clash else item.id
        found[key] = replace(item, id=key)
    return tuple(found.values())


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
