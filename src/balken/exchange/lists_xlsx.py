"""Lists of a building as one workbook (Office Open XML, by XlsxWriter): a sheet a list, numbers as numbers in
the project's units, sums as formulas, so that they follow what is changed there."""

import io
from collections.abc import Iterable
from datetime import datetime
from typing import Any, Final

from balken.takeoff.listing import Cell, Column, Listing, Measure, totals
from balken.units import FOOT, INCH, LB, System

UNITS: Final[dict[System, dict[Measure, tuple[str, float, str]]]] = {
    "us": {
        "length": ("in", INCH, "0.00"),
        "area": ("sq ft", FOOT**2, "#,##0.0"),
        "volume": ("cu yd", (3 * FOOT) ** 3, "#,##0.00"),
        "weight": ("lb", LB, "#,##0"),
    },
    "metric": {
        "length": ("mm", 1.0, "#,##0"),
        "area": ("m²", 1e6, "#,##0.00"),
        "volume": ("m³", 1e9, "#,##0.000"),
        "weight": ("kN", 1000.0, "#,##0.00"),
    },
}
"""What a measure is written in: its word, mm or N to one of it, and its format."""
PLAIN: Final[dict[Measure, str]] = {"count": "#,##0", "money": "#,##0.00", "ratio": "0.00"}
WIDEST: Final = 60
"""Columns are no wider, letters."""
FIRST: Final = 1
"""The first row under the headings."""


def lists_xlsx(listings: Iterable[Listing], system: System) -> bytes:
    """A workbook of lists; the same lists give the same bytes."""
    import xlsxwriter

    out = io.BytesIO()
    # Words that begin like a formula, a link or a number stay words.
    plain = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    book = xlsxwriter.Workbook(out, {"in_memory": True, **plain})
    book.set_properties({"title": "Lists", "created": datetime(2000, 1, 1)})
    heading = book.add_format({"bold": True, "bottom": 1})
    for listing in listings:
        _sheet(book, listing, system, heading)
    book.close()
    return out.getvalue()


def _sheet(book: Any, listing: Listing, system: System, heading: Any) -> None:
    """A list with its headings held in place, a filter over each column, and sums of what is shown."""
    sheet = book.add_worksheet(listing.title[:31].replace("/", "-"))
    sheet.freeze_panes(FIRST, 1)
    last, sums, at = FIRST + len(listing.rows) - 1, totals(listing), 0
    for n, column in enumerate(listing.columns):
        cells = [row.cells[n] for row in listing.rows]
        for title, per, look in _written(column, system):
            form = book.add_format({"num_format": look}) if look else None
            sheet.write_string(0, at, title, heading)
            for i, cell in enumerate(cells):
                _write(sheet, FIRST + i, at, cell, per, form)
            sheet.set_column(at, at, min(WIDEST, 2 + max(_widths(cells, len(title)))))
            total = sums[n]
            if total is not None and cells:
                bold = book.add_format({"num_format": look, "bold": True, "top": 1})
                name = _letters(at)
                # 109: the sum of the rows that a filter shows.
                formula = f"=SUBTOTAL(109,{name}{FIRST + 1}:{name}{last + 1})"
                sheet.write_formula(last + 2, at, formula, bold, total / per)
            at += 1
    if listing.rows:
        sheet.autofilter(0, 0, last, at - 1)


def _written(column: Column, system: System) -> list[tuple[str, float, str]]:
    """The columns of a sheet that one of a list becomes: heading, mm or N to one of it, format; lengths in
    inches stand in mm too."""
    word, per, look = UNITS[system].get(column.measure, ("", 1.0, PLAIN.get(column.measure, "")))
    found = [(f"{column.title}, {word}" if word else column.title, per, look)]
    if column.measure == "length" and system == "us":
        found.append((f"{column.title}, mm", 1.0, "#,##0"))
    return found


def _write(sheet: Any, row: int, n: int, cell: Cell, per: float, form: Any) -> None:
    if isinstance(cell, str):
        sheet.write_string(row, n, cell)
    elif cell is not None:
        sheet.write_number(row, n, cell / per, form)


def _widths(cells: Iterable[Cell], least: int) -> list[int]:
    return [least, *(len(c) if isinstance(c, str) else 9 for c in cells)]


def _letters(n: int) -> str:
    """The name of a column: A, B … Z, AA."""
    from xlsxwriter.utility import xl_col_to_name

    return str(xl_col_to_name(n))
