"""Edits of what things cost, and of how lumber is bought and cut."""

from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked, known
from balken.model.prices import Estimate, Price
from balken.model.project import Project
from balken.model.stock import Offcut, StockRule


def set_estimate(project: Project, **fields: Any) -> Project:
    """Change currency, wage or waste."""
    known(Estimate, fields)
    return checked(project, estimate=replace(project.estimate, **fields))


def take_prices(project: Project, prices: tuple[Price, ...]) -> Project:
    """Keep prices; those of items that were priced before are replaced."""
    items = {p.item.lower(): p for p in project.estimate.prices}
    items |= {p.item.lower(): p for p in prices}
    kept = tuple(items[k] for k in sorted(items))
    return set_estimate(project, prices=kept)


def drop_prices(project: Project) -> Project:
    """Forget all prices that were taken in."""
    return set_estimate(project, prices=())


def set_stock(project: Project, **fields: Any) -> Project:
    """Change what lumber is cut from, and what a cut takes."""
    known(StockRule, fields)
    return checked(project, stock=replace(project.stock, **fields))


def add_offcut(project: Project, offcut: Offcut) -> Project:
    """Keep an offcut that is at hand."""
    return set_stock(project, offcuts=(*project.stock.offcuts, offcut))


def drop_offcut(project: Project, number: int) -> Project:
    """Take an offcut out, by its place in the list.

    Raises:
        EditError: there is none.
    """
    offcuts = project.stock.offcuts
    if not 0 <= number < len(offcuts):
        raise EditError(f"There are {len(offcuts)} offcuts at hand.")
    return set_stock(project, offcuts=(*offcuts[:number], *offcuts[number + 1 :]))
