"""Lists of a building as tables: columns with their measure, rows with the pieces they stand for; filtered by
what is typed, put in order, grouped, summed."""

import operator
import re
from collections.abc import Callable, Iterable
from typing import Final, Literal, NamedTuple

from balken.errors import BalkenError
from balken.model.names import Name
from balken.units import System, format_force, format_length, parse_length
from balken.units.quantity import format_area, format_volume, parse_force

Measure = Literal["text", "count", "length", "area", "volume", "weight", "money", "ratio"]
Cell = str | float | None


class Column(NamedTuple):
    """A column: its key, as filters name it, its heading, what it measures, and whether it is summed."""

    key: str
    title: str
    measure: Measure = "text"
    sums: bool = False


class Row(NamedTuple):
    """A line: a cell for each column - lengths mm, areas mm², volumes mm³, weights N - and what it stands
    for."""

    cells: tuple[Cell, ...]
    names: tuple[Name, ...] = ()


class Listing(NamedTuple):
    """A list of a building."""

    key: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[Row, ...]

    def at(self, key: str) -> int:
        """Where a column stands.

        Raises:
            FilterError: there is none of that key.
        """
        for i, column in enumerate(self.columns):
            if column.key == key:
                return i
        known = ", ".join(c.key for c in self.columns)
        raise FilterError(f"“{key}” is no column of {self.title.lower()}; there are {known}.")


class FilterError(BalkenError):
    """A filter that cannot be read; says what it could be."""


def shown(cell: Cell, measure: Measure, system: System) -> str:
    """A cell as it is read."""
    if cell is None:
        return ""
    if isinstance(cell, str):
        return cell
    match measure:
        case "length":
            return format_length(cell, system)
        case "area":
            return format_area(cell, system)
        case "volume":
            return format_volume(cell, system)
        case "weight":
            return format_force(cell, system)
        case "money" | "ratio":
            return f"{cell:,.2f}"
        case _:
            return f"{cell:,.0f}" if float(cell).is_integer() else f"{cell:,.2f}"


_TERM: Final = re.compile(r'(\w+)\s*(<=|>=|!=|=|<|>|~)\s*("[^"]*"|\S+)|("[^"]*"|\S+)')
_SIGNS: Final[dict[str, Callable[[float, float], bool]]] = {
    "<": operator.lt,
    ">": operator.gt,
    "<=": operator.le,
    ">=": operator.ge,
}
MOST_TYPED: Final = 500
"""Longer filters are refused, letters."""
NEAR: Final = {"length": 0.5, "area": 1e3, "volume": 1e6, "weight": 0.5}
"""Measures within this are the same: mm, mm², mm³, N."""


def filtered(listing: Listing, phrase: str, system: System) -> Listing:
    """The rows that all terms of a phrase hold for.

    A term names a column, a sign and a value - ``role=joist``, ``section~2x10``, ``length>10'``,
    ``used>=0.9`` - or is a word that any cell has. Words with blanks stand in quotes.

    Raises:
        FilterError: a term cannot be read.
    """
    if len(phrase) > MOST_TYPED:
        raise FilterError(f"A filter has {MOST_TYPED} letters at most; this one has {len(phrase)}.")
    rows = listing.rows
    for key, sign, value, word in _TERM.findall(phrase):
        wanted = (value or word).strip('"')
        test = (
            _of_column(listing, key, sign, wanted, system)
            if key
            else _of_any(listing, wanted, system)
        )
        rows = tuple(r for r in rows if test(r))
    return listing._replace(rows=rows)


def _of_any(listing: Listing, word: str, system: System) -> Callable[[Row], bool]:
    wanted = word.lower()

    def has(row: Row) -> bool:
        return any(
            wanted in shown(cell, column.measure, system).lower()
            for cell, column in zip(row.cells, listing.columns)
        )

    return has


def _of_column(
    listing: Listing, key: str, sign: str, text: str, system: System
) -> Callable[[Row], bool]:
    n = listing.at(key.lower())
    column = listing.columns[n]
    if sign == "~" or column.measure == "text":
        return _of_text(n, column, sign, text.lower(), system)
    wanted = _value(column, text, system)
    near = NEAR.get(column.measure, 1e-9)

    def holds(row: Row) -> bool:
        cell = row.cells[n]
        if not isinstance(cell, (int, float)):
            return False
        if sign in ("=", "!="):
            return (abs(cell - wanted) <= near) == (sign == "=")
        return _SIGNS[sign](cell, wanted)

    return holds


def _of_text(
    n: int, column: Column, sign: str, wanted: str, system: System
) -> Callable[[Row], bool]:
    if sign not in ("=", "!=", "~"):
        raise FilterError(f"“{column.key}” has words: use =, != or ~ (has), not {sign}.")

    def holds(row: Row) -> bool:
        cell = shown(row.cells[n], column.measure, system).lower()
        if sign == "~":
            return wanted in cell
        return (cell == wanted) == (sign == "=")

    return holds


def _value(column: Column, text: str, system: System) -> float:
    """A value as it is typed for a column."""
    try:
        if column.measure == "length":
            return parse_length(text, system, negative=True)
        if column.measure == "weight":
            return parse_force(text, system)
        return float(text.replace(",", ""))
    except BalkenError as error:
        raise FilterError(f"“{text}” is no value for {column.key}: {error}") from error
    except ValueError as error:
        raise FilterError(f"“{text}” is no value for {column.key}: type a number.") from error


def ordered(listing: Listing, key: str, *, down: bool = False) -> Listing:
    """The rows by a column; numbers in words by their number; what has no value last."""
    n = listing.at(key)
    there = [r for r in listing.rows if r.cells[n] not in (None, "")]
    empty = [r for r in listing.rows if r.cells[n] in (None, "")]
    rows = sorted(there, key=lambda r: _rank(r.cells[n]), reverse=down)
    return listing._replace(rows=(*rows, *empty))


def _rank(cell: Cell) -> tuple[tuple[int, float, str], ...]:
    if isinstance(cell, str):
        parts = re.findall(r"\d+|\D+", cell.lower())
        return tuple((0, float(p), "") if p.isdigit() else (1, 0.0, p) for p in parts)
    return ((0, float(cell or 0.0), ""),)


class Group(NamedTuple):
    """Rows that have the same value in a column."""

    value: str
    listing: Listing


def grouped(listing: Listing, key: str, system: System) -> list[Group]:
    """The rows by the values of a column, in the order in which these come first."""
    n = listing.at(key)
    found: dict[str, list[Row]] = {}
    for row in listing.rows:
        found.setdefault(shown(row.cells[n], listing.columns[n].measure, system), []).append(row)
    return [Group(value, listing._replace(rows=tuple(rows))) for value, rows in found.items()]


def totals(listing: Listing) -> tuple[float | None, ...]:
    """The sum of each column that is summed; None of the others."""
    return tuple(
        _sum(row.cells[n] for row in listing.rows) if column.sums else None
        for n, column in enumerate(listing.columns)
    )


def in_columns(listing: Listing, system: System) -> str:
    """A list as text in columns, with its sums under it."""
    kinds = [c.measure for c in listing.columns]
    table = [[c.title for c in listing.columns]]
    table += [[shown(x, k, system) for x, k in zip(row.cells, kinds)] for row in listing.rows]
    sums = totals(listing)
    if any(x is not None for x in sums):
        table.append([shown(x, k, system) for x, k in zip(sums, kinds)])
    widths = [min(WIDEST, max(map(len, column))) for column in zip(*table)]
    lines = (
        "  ".join(
            cell[:w].ljust(w) if k == "text" else cell.rjust(w)
            for cell, w, k in zip(row, widths, kinds)
        ).rstrip()
        for row in table
    )
    return "\n".join([*lines, ""])


WIDEST: Final = 40
"""Columns of text are cut off there, letters."""


def _sum(cells: Iterable[Cell]) -> float:
    return sum(float(c) for c in cells if isinstance(c, (int, float)))
