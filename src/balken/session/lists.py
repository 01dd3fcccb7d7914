"""Lists of the building at the desk: which one is looked at, how it is filtered, put in order and grouped,
and its lines with the pieces they stand for."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from balken.drawing.words import pretty
from balken.exchange.files import write_all
from balken.exchange.lists_csv import listing_csv
from balken.exchange.lists_xlsx import lists_xlsx
from balken.model.names import Name
from balken.session.desk import Desk
from balken.takeoff.listing import (
    Cell,
    Column,
    FilterError,
    Listing,
    Measure,
    filtered,
    grouped,
    ordered,
    shown,
    totals,
)
from balken.takeoff.lists import LISTS
from balken.units import System
from balken.works.building import Checked


class Asked(NamedTuple):
    """What is looked at of a list."""

    key: str = "members"
    phrase: str = ""
    """The filter, as typed."""
    by: str = ""
    """The column it is put in order by; as the building has it where empty."""
    down: bool = False
    group: str = ""
    """The column whose alike values stand together; none where empty."""


class Line(NamedTuple):
    """A line as it is read."""

    cells: tuple[str, ...]
    names: tuple[Name, ...] = ()
    is_group: bool = False
    """It heads the lines under it: the value they share, their number and their sums."""


class Lines(NamedTuple):
    """A list as it is looked at."""

    title: str
    columns: tuple[Column, ...]
    lines: tuple[Line, ...]
    sums: tuple[str, ...]
    number: int
    """Of rows."""
    fault: str = ""
    """Why the filter cannot be read; the list stands unfiltered then."""


def listing_of(checked: Checked, key: str) -> Listing:
    """A list of a building; the first where there is none of that key."""
    return LISTS.get(key, LISTS["members"])(checked)


def lines_of(listing: Listing, asked: Asked, system: System) -> Lines:
    """A list as it is asked for."""
    fault = ""
    keys = {c.key for c in listing.columns}
    try:
        listing = filtered(listing, asked.phrase, system)
    except FilterError as error:
        fault = str(error)
    if asked.by in keys:
        listing = ordered(listing, asked.by, down=asked.down)
    if asked.group in keys:
        lines = tuple(_in_groups(listing, asked.group, system))
    else:
        lines = tuple(_lines(listing, system))
    sums = _sums(listing, system)
    return Lines(listing.title, listing.columns, lines, sums, len(listing.rows), fault)


def _lines(listing: Listing, system: System) -> list[Line]:
    measures = [c.measure for c in listing.columns]
    sections = [c.key in OF_SECTIONS for c in listing.columns]

    def read(cell: Cell, measure: Measure, of_section: bool) -> str:
        words = shown(cell, measure, system)
        return pretty(words) if of_section else words

    return [
        Line(tuple(map(read, row.cells, measures, sections)), row.names) for row in listing.rows
    ]


OF_SECTIONS: Final = ("section", "was", "what", "item")
"""Columns that name sections: written with a multiplication sign, filtered as they are typed."""


def _in_groups(listing: Listing, key: str, system: System) -> list[Line]:
    found: list[Line] = []
    for group in grouped(listing, key, system):
        names = tuple(dict.fromkeys(n for row in group.listing.rows for n in row.names))
        head = list(_sums(group.listing, system))
        head[0] = f"{group.value or 'none'} · {len(group.listing.rows)}"
        found.append(Line(tuple(head), names, is_group=True))
        found += _lines(group.listing, system)
    return found


def _sums(listing: Listing, system: System) -> tuple[str, ...]:
    return tuple(
        "" if total is None else shown(total, column.measure, system)
        for total, column in zip(totals(listing), listing.columns)
    )


def by_column(asked: Asked, key: str) -> Asked:
    """Put in order by a column; once more the other way round, a third time as the building has it."""
    if asked.by != key:
        return asked._replace(by=key, down=False)
    return asked._replace(down=True) if not asked.down else asked._replace(by="", down=False)


def lines_with(lines: Sequence[Line], names: frozenset[Name]) -> list[int]:
    """Where the lines stand that are about what is selected."""
    return [i for i, x in enumerate(lines) if not x.is_group and not names.isdisjoint(x.names)]


def save_list(desk: Desk, asked: Asked) -> None:
    """Ask for a name and write the list as it is looked at: CSV, or a workbook of it and all others."""
    system = desk.system
    listing = listing_of(desk.checked, asked.key)
    kinds = "Workbook of all lists (*.xlsx);;This list (*.csv)"
    path = desk.face.file_to_write("Save lists", f"{listing.key}.xlsx", kinds)
    if path is None:
        return
    if path.suffix.lower() == ".csv":
        data = listing_csv(filtered(listing, asked.phrase, system), system).encode()
    else:
        path = path.with_suffix(".xlsx")
        every = [listing_of(desk.checked, key) for key in LISTS]
        data = lists_xlsx([x for x in every if x.rows], system)
    write_all(path.parent, {path.name: data})
    desk.say(f"Saved as {path}.")
