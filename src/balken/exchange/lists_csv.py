"""Any list of a building as CSV (RFC 4180): as the trade reads it, with lengths in mm beside."""

import csv
import io

from balken.exchange.cutlist_csv import plain_cell
from balken.takeoff.listing import Cell, Column, Listing, shown
from balken.units import System

SI: dict[str, tuple[str, float, int]] = {
    "length": ("mm", 1.0, 1),
    "area": ("m2", 1e6, 3),
    "volume": ("m3", 1e9, 4),
    "weight": ("N", 1.0, 1),
}
"""Unit, mm or N to one of it, and decimals, of the measures that stand in both."""


def listing_csv(listing: Listing, system: System) -> str:
    """A list as CSV text; no cell can be run as a formula."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([name for column in listing.columns for name in _headings(column)])
    for row in listing.rows:
        cells = zip(row.cells, listing.columns)
        writer.writerow(
            [plain_cell(x) for cell, column in cells for x in _cells(cell, column, system)]
        )
    return out.getvalue()


def _headings(column: Column) -> list[str]:
    both = SI.get(column.measure)
    return [column.key] if both is None else [column.key, f"{column.key}_{both[0]}"]


def _cells(cell: Cell, column: Column, system: System) -> list[str]:
    words = shown(cell, column.measure, system)
    both = SI.get(column.measure)
    if both is None:
        return [f"{cell:.2f}" if column.measure == "money" and cell is not None else words]
    _, per, decimals = both
    number = f"{cell / per:.{decimals}f}" if isinstance(cell, (int, float)) else ""
    return [words, number]
