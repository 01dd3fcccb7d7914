"""Prices from a table a person keeps: CSV, or the first sheet of a workbook. Columns by their headings: item,
unit, price, and if there are any hours and date. Nothing is taken from a table that has a fault."""

import csv
import io
import math
import zipfile
from pathlib import Path
from typing import Final, get_args

from balken.exchange.files import FileError, read_bytes
from balken.model.prices import Price, Unit

COLUMNS: Final[tuple[str, ...]] = ("item", "unit", "price", "hours", "date")
NEEDED: Final[tuple[str, ...]] = ("item", "unit", "price")
LARGEST: Final = 5_000_000
"""Of a file, bytes."""
MOST_ROWS: Final = 5000
MOST_TOLD: Final = 5
"""Faults are told one by one up to so many."""


def read_prices(path: Path) -> tuple[Price, ...]:
    """The prices of a table.

    Raises:
        FileError: it cannot be read, or rows of it have faults: says which rows and what.
    """
    data = read_bytes(path, LARGEST)
    rows = _of_workbook(data, path.name) if data[:2] == b"PK" else _of_csv(data, path.name)
    if not rows:
        raise FileError(f"{path.name} has no rows.")
    heads = [h.strip().lower() for h in rows[0]]
    lacking = [c for c in NEEDED if c not in heads]
    if lacking:
        raise FileError(
            f"{path.name} has no column “{lacking[0]}”: the first row names the columns"
            f" {', '.join(NEEDED)}, and if you like hours and date."
        )
    if len(rows) - 1 > MOST_ROWS:
        raise FileError(f"{path.name} has {len(rows) - 1} rows; {MOST_ROWS} can be taken at once.")
    places = {c: heads.index(c) for c in COLUMNS if c in heads}
    found: dict[str, Price] = {}
    faults: list[str] = []
    for number, row in enumerate(rows[1:], 2):
        if not any(cell.strip() for cell in row):
            continue
        cells = {c: row[n].strip() if n < len(row) else "" for c, n in places.items()}
        price = _price(cells)
        if isinstance(price, str):
            faults.append(f"row {number}: {price}")
        elif price.item.lower() in found:
            faults.append(f"row {number}: “{price.item}” has a price already")
        else:
            found[price.item.lower()] = price
    if faults:
        more = f"; and {len(faults) - MOST_TOLD} more" if len(faults) > MOST_TOLD else ""
        raise FileError(f"{path.name}: {'; '.join(faults[:MOST_TOLD])}{more}. Nothing was taken.")
    return tuple(found.values())


def _price(cells: dict[str, str]) -> Price | str:
    """A row as a price, or what is wrong with it."""
    item, unit = cells["item"].lstrip("'"), cells["unit"].lower()
    if not item:
        return "it names no item"
    if len(item) > 120:
        return f"the item's name has {len(item)} letters, 120 are the most"
    if unit not in get_args(Unit):
        return f"“{cells['unit']}” is no unit; there are {', '.join(get_args(Unit))}"
    price = _number(cells["price"])
    if price is None:
        return f"the price “{cells['price']}” is no number"
    if price < 0:
        return f"the price {price:g} is less than nothing"
    hours = _number(cells.get("hours", "") or "0")
    if hours is None or not 0 <= hours <= 1e4:
        return f"the hours “{cells['hours']}” are no number from 0 to 10,000"
    return Price(item, unit, price, hours, cells.get("date", "")[:200])  # type: ignore[arg-type]


def _number(text: str) -> float | None:
    try:
        value = float(text.replace(",", ""))
    except ValueError:
        return None
    return value if math.isfinite(value) and value <= 1e9 else None


def _of_csv(data: bytes, name: str) -> list[list[str]]:
    try:
        text = data.decode("utf-8-sig")
        return list(csv.reader(io.StringIO(text)))
    except (UnicodeDecodeError, csv.Error) as error:
        raise FileError(f"{name} is no CSV table in UTF-8: {error}.") from error


def _of_workbook(data: bytes, name: str) -> list[list[str]]:
    import openpyxl

    try:
        book = openpyxl.load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        rows = sheet.iter_rows(max_row=MOST_ROWS + 2, max_col=30, values_only=True)
        return [["" if c is None else str(c) for c in row] for row in rows]
    except (KeyError, ValueError, IndexError, OSError, zipfile.BadZipFile) as error:
        raise FileError(f"{name} is no workbook that can be read: {error}.") from error
