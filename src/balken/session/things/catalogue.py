"""The page of the catalogue: what is in it, prices to be typed over, and its files in and out."""

import re
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Final, get_args

from msgspec.structs import replace

from balken.exchange.catalogue_files import (
    PARTS,
    catalogue_csv,
    catalogue_json,
    read_catalogue,
)
from balken.exchange.files import write_atomic
from balken.model.edits.catalogue import (
    add_price,
    came_beside,
    drop_price,
    set_price,
    take_catalogue,
)
from balken.model.edits.common import EditError
from balken.model.kept import WORDS, Catalogue, catalogue_of_project
from balken.model.prices import Price, Unit
from balken.session.desk import Desk, page
from balken.session.rows import Button, Field, Heading, Line, Link, Links, Rows, Title
from balken.units.number import parse_number

ENDINGS: Final = "Catalogues (*.json *.csv)"
MOST_SHOWN: Final = 60
"""So many prices stand on the page; the list Cost has all that are used."""


def catalogue(desk: Desk) -> Rows:
    """The whole catalogue of the project."""
    kept = catalogue_of_project(desk.project)
    counts = {part: len(getattr(kept, part)) for part in PARTS}
    yield Title("Catalogue", "", f"{sum(counts.values())}")
    yield Line("What you keep from one building to the next.", quiet=True)
    for part, words in WORDS.items():
        target = {"products": "products", "wall_build_ups": "build-ups", "prices": "cost"}.get(part)
        if target:
            yield Link(words, f"{counts[part]}", partial(desk.select, page(target)))
        else:
            yield Line(f"{words}: {counts[part]}")
    yield Button("Take from a file …", partial(take, desk))
    yield Button("Write all to a file …", partial(write_all_of_it, desk))
    yield Heading("One part as a table")
    tables = [(words, partial(write_part, desk, part)) for part, words in WORDS.items()]
    yield Links(tables[:2])
    yield Links(tables[2:3])
    yield Links(tables[3:])
    yield from _prices(desk)


def _prices(desk: Desk) -> Rows:
    """Each price with its unit, and hours where it has any; what is typed empty is forgotten."""
    prices = desk.project.estimate.prices
    yield Heading("Prices", f"{len(prices)}")
    yield Line("Such as 12.5 / m, or 12.5 / m, 0.2 h with hours.", quiet=True)
    for price in prices[:MOST_SHOWN]:
        yield Field(price.item, price_words(price), partial(_put, desk, price.item))
    if len(prices) > MOST_SHOWN:
        yield Line(f"and {len(prices) - MOST_SHOWN} more, in the list Cost (5)", quiet=True)
    yield Field("one more", "", partial(_more, desk), example="concrete = 140 / m3")


def price_words(price: Price) -> str:
    """A price as it is typed."""
    hours = f", {price.hours:g} h" if price.hours else ""
    return f"{price.price:g} / {price.unit}{hours}"


_TYPED: Final = re.compile(r"([\d.,\s]+)(?:/\s*([a-z0-9 ]+?))?(?:[,;]\s*([\d.]+)\s*h)?\s*")


def read_price(text: str, before: Price) -> Price:
    """A price as typed over another: what is not said of it stays, but for the day it was told on.

    Raises:
        EditError: it cannot be read; says what it could be.
    """
    found = _TYPED.fullmatch(text.strip().lower())
    if found is None:
        raise EditError(f"“{text.strip()}” is no price; type it as 12.5 / m, or 12.5 / m, 0.2 h.")
    amount, unit, hours = found.groups()
    if unit and unit not in get_args(Unit):
        raise EditError(f"“{unit}” is no unit; there are {', '.join(get_args(Unit))}.")
    return replace(
        before,
        price=_amount(amount, 1e9),
        unit=unit or before.unit,
        hours=before.hours if hours is None else _amount(hours, 1e4),
        date="",
    )


def _put(desk: Desk, item: str, text: str) -> object:
    if not text.strip():
        return desk.edit("forget a price", partial(drop_price, item=item))
    old = next(p for p in desk.project.estimate.prices if p.item == item)
    return desk.edit("price", partial(set_price, item=item, price=read_price(text, old)))


def _more(desk: Desk, text: str) -> object:
    item, _, rest = text.rpartition("=")
    if not item.strip():
        raise EditError("Type the item, =, and its price, as concrete = 140 / m3.")
    made = read_price(rest, Price(item.strip(), "piece", 0.0))
    return desk.edit("add a price", partial(add_price, price=made))


def _amount(text: str, most: float) -> float:
    value = parse_number(text.strip())
    if not 0 <= value <= most:
        raise EditError(f"{value:g} is no amount from 0 to {most:,.0f}.")
    return value


def take(desk: Desk) -> None:
    """Ask for a file and take in what it holds."""
    path = desk.face.file_to_open("Catalogue", ENDINGS)
    if path is None:
        return
    found = read_catalogue(path)
    counts = [(len(getattr(found, part)), words) for part, words in WORDS.items()]
    told = ", ".join(f"{n} {words}" for n, words in counts if n) or "nothing"
    before = desk.project
    if desk.edit("take a catalogue", partial(take_catalogue, catalogue=found)):
        beside = ", ".join(came_beside(before, desk.project, found))
        more = f" As {beside} came what is called like build-ups in use." if beside else ""
        desk.say(f"Taken from {path.name}: {told}.{more}")


def write_all_of_it(desk: Desk) -> None:
    """Ask for a name and write the whole catalogue there."""
    _write(desk, "json", "Catalogue (*.json)", lambda: catalogue_json(_kept(desk)))


def write_part(desk: Desk, part: str) -> None:
    """Ask for a name and write one part as a table."""
    _write(desk, "csv", "Table (*.csv)", lambda: catalogue_csv(_kept(desk), part), part)


def _kept(desk: Desk) -> Catalogue:
    return catalogue_of_project(desk.project)


def _write(
    desk: Desk, ending: str, kinds: str, make: Callable[[], str], stem: str = "catalogue"
) -> None:
    start = str(Path.home() / f"{stem.replace('_', '-')}.{ending}")
    path = desk.face.file_to_write("Write the catalogue", start, kinds)
    if path is not None:
        target = path if path.suffix else path.with_suffix(f".{ending}")
        write_atomic(target, make().encode())
        desk.say(f"Written to {target}.")
