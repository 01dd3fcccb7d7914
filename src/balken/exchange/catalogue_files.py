"""Catalogues as files, both ways: one JSON text of all of it, or a CSV table of one part - products, prices,
build-ups of floors or of walls. Lengths mm, forces N, strengths N/mm².

A table names its part in its first column, and a field of it in each other; what has parts of its own, such
as the layers of a wall, stands in one cell as JSON. Nothing is taken from a file that has a fault.
"""

import csv
import io
import json
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any, Final

import msgspec

from balken.exchange.cutlist_csv import plain_cell
from balken.exchange.files import FileError, read_bytes
from balken.model.floors import BuildUp
from balken.model.kept import WORDS, Catalogue
from balken.model.prices import Price
from balken.model.sections import Product
from balken.model.walls import WallBuildUp

PARTS: Final[dict[str, type[msgspec.Struct]]] = {
    "products": Product,
    "prices": Price,
    "build_ups": BuildUp,
    "wall_build_ups": WallBuildUp,
}
"""What the rows of each part are."""
FIRST: Final = "catalogue"
"""The heading of the first column of a table."""
LARGEST: Final = 10_000_000
"""Of a file, bytes."""
MOST_ROWS: Final = 5000
MOST_TOLD: Final = 5
"""Faults are told one by one up to so many."""
FORMAT: Final = 1


class _Written(msgspec.Struct, forbid_unknown_fields=True):
    balken_catalogue: int
    catalogue: Catalogue


def catalogue_json(catalogue: Catalogue) -> str:
    """All of a catalogue as JSON."""
    raw = msgspec.json.encode(_Written(FORMAT, catalogue))
    return msgspec.json.format(raw, indent=1).decode() + "\n"


def catalogue_csv(catalogue: Catalogue, part: str) -> str:
    """One part of a catalogue as CSV (RFC 4180).

    Args:
        catalogue: all of it.
        part: of :data:`PARTS`.
    """
    names = [*PARTS[part].__struct_fields__]
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([FIRST, *names])
    for record in getattr(catalogue, part):
        told = msgspec.to_builtins(record)
        writer.writerow([part, *(_cell(told.get(n)) for n in names)])
    return out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, str):
        return plain_cell(value)
    return json.dumps(value, ensure_ascii=False)


def read_catalogue(path: Path) -> Catalogue:
    """The catalogue of a file: all of it, or one part.

    Raises:
        FileError: it cannot be read, or rows of it have faults: says which and what.
    """
    data = read_bytes(path, LARGEST)
    if path.suffix.lower() == ".json":
        return _of_json(data, path.name)
    return _of_csv(data, path.name)


def _of_json(data: bytes, name: str) -> Catalogue:
    try:
        found = msgspec.json.decode(data, type=_Written)
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError) as error:
        raise FileError(f"{name} is no catalogue: {error}. Nothing was taken.") from error
    if found.balken_catalogue > FORMAT:
        raise FileError(f"{name} was written by a newer program. Nothing was taken.")
    return found.catalogue


def _of_csv(data: bytes, name: str) -> Catalogue:
    try:
        rows = list(csv.reader(io.StringIO(data.decode("utf-8-sig"))))
    except (UnicodeDecodeError, csv.Error) as error:
        raise FileError(f"{name} is no CSV table in UTF-8: {error}.") from error
    heads = [h.strip() for h in rows[0]] if rows else []
    if len(rows) < 2 or not heads or heads[0] != FIRST:
        raise FileError(
            f"{name} is no table of a catalogue: its first heading is “{FIRST}”, and below it stands"
            f" one of {', '.join(PARTS)}."
        )
    if len(rows) - 1 > MOST_ROWS:
        raise FileError(f"{name} has {len(rows) - 1} rows; {MOST_ROWS} can be taken at once.")
    part = rows[1][0].strip() if rows[1] else ""
    if part not in PARTS:
        raise FileError(
            f"{name}: “{part}” is no part of a catalogue; there are {', '.join(PARTS)}."
        )
    if unknown := [h for h in heads[1:] if h not in PARTS[part].__struct_fields__]:
        raise FileError(f"{name}: {WORDS[part]} have no “{unknown[0]}”.")
    return Catalogue(**{part: _records(rows, heads, part, name)})


def _records(
    rows: Sequence[Sequence[str]], heads: Sequence[str], part: str, name: str
) -> tuple[Any, ...]:
    found: dict[str, Any] = {}
    faults: list[str] = []
    for number, row in enumerate(rows[1:], 2):
        if not any(c.strip() for c in row):
            continue
        if row[0].strip() != part:
            faults.append(f"row {number}: a table holds one part, and this is “{row[0]}”")
            continue
        try:
            record = _record(dict(zip(heads[1:], row[1:])), PARTS[part])
        except (msgspec.ValidationError, ValueError) as error:
            faults.append(f"row {number}: {_fault(str(error), dict(zip(heads[1:], row[1:])))}")
            continue
        key = getattr(record, "id", None) or record.item  # type: ignore[attr-defined]
        if key in found:
            faults.append(f"row {number}: “{key}” stands there already")
        found[key] = record
    if faults:
        more = f"; and {len(faults) - MOST_TOLD} more" if len(faults) > MOST_TOLD else ""
        raise FileError(f"{name}: {'; '.join(faults[:MOST_TOLD])}{more}. Nothing was taken.")
    return tuple(found.values())


_PLACE: Final = re.compile(r"(.*?)(?: - at `\$\.(\w+).*`)?", re.DOTALL)


def _fault(words: str, cells: dict[str, str]) -> str:
    """What is wrong with a row: which cell, and what it says."""
    found = _PLACE.fullmatch(words)
    if found is None or found[2] not in cells:
        return words
    return f"its {found[2]} “{cells[found[2]]}” cannot be taken: {found[1].lower()}"


def _record(cells: dict[str, str], kind: type[msgspec.Struct]) -> msgspec.Struct:
    """A row as a record; an empty cell leaves what is usual."""
    given: dict[str, Any] = {}
    for name, cell in cells.items():
        text = cell.strip()
        if not text:
            continue
        if text[0] in "[{":
            given[name] = json.loads(text)
        else:
            text = text.lstrip("'")
            given[name] = text.lower() if text in ("TRUE", "FALSE", "True", "False") else text
    return msgspec.convert(given, kind, strict=False)
