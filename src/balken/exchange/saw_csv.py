"""The list a saw works from, and what it tells when it is done, as open text (CSV): a row for each cut,
board by board, lengths in mm. What it tells says of each piece whether it was cut, and what is left of each
board."""

import csv
import io
from collections.abc import Sequence
from typing import Final, NamedTuple

from balken.exchange.cutlist_csv import plain_cell
from balken.exchange.files import FileError
from balken.takeoff.cutting import SectionPlan

LIST: Final = ("board", "section", "material", "board_mm", "kerf_mm", "trim_mm", "cut_mm", "mark")
TOLD: Final = ("board", "section", "material", "mark", "length_mm", "state", "why")
LARGEST: Final = 10_000_000
"""Of a file, bytes."""
MOST: Final = 100_000
"""Rows."""
LONGEST: Final = 30_000.0
"""No board or piece is longer, mm."""


class Order(NamedTuple):
    """One cut that is asked for."""

    board: int
    section: str
    material: str
    length: float
    kerf: float
    trim: float
    cut: float
    mark: str


class Done(NamedTuple):
    """What became of a piece, or what is left of a board."""

    board: int
    section: str
    material: str
    mark: str
    length: float
    state: str
    """``cut``, ``open``, ``offcut`` or ``waste``."""
    why: str = ""


def saw_list(plans: Sequence[SectionPlan]) -> str:
    """The cuts of all boards that come in lengths."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(LIST)
    number = 0
    for plan in plans:
        for board in () if plan.to_length else plan.plan.boards:
            number += 1
            saw = plan.saw
            for cut in board.cuts:
                row = (
                    number,
                    plain_cell(plan.section),
                    plain_cell(plan.material),
                    f"{board.length:.3f}",
                    f"{saw.kerf:.3f}",
                    f"{saw.trim:.3f}",
                    f"{cut.length:.3f}",
                    plain_cell(cut.mark),
                )
                writer.writerow(row)
    return out.getvalue()


def read_orders(text: str) -> list[Order]:
    """The cuts a list asks for.

    Raises:
        FileError: it is no list for a saw; says which row and what.
    """
    return [
        Order(
            int(_number(row, n, "board", MOST)),
            row["section"],
            row["material"],
            _number(row, n, "board_mm", LONGEST),
            _number(row, n, "kerf_mm", 100.0),
            _number(row, n, "trim_mm", 1000.0),
            _number(row, n, "cut_mm", LONGEST),
            row["mark"],
        )
        for n, row in _rows(text, LIST)
    ]


def told_csv(done: Sequence[Done]) -> str:
    """What the saw tells."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(TOLD)
    for x in done:
        cells = (x.board, x.section, x.material, x.mark, f"{x.length:.1f}", x.state, x.why)
        writer.writerow([plain_cell(str(c)) for c in cells])
    return out.getvalue()


STATES: Final = ("cut", "open", "offcut", "waste")


def read_told(text: str) -> list[Done]:
    """What a saw told.

    Raises:
        FileError: it is nothing a saw tells; says which row and what.
    """
    found = []
    for n, row in _rows(text, TOLD):
        if row["state"] not in STATES:
            raise FileError(f"Row {n}: “{row['state']}” is none of {', '.join(STATES)}.")
        found.append(
            Done(
                int(_number(row, n, "board", MOST)),
                row["section"],
                row["material"],
                row["mark"],
                _number(row, n, "length_mm", LONGEST),
                row["state"],
                row["why"],
            )
        )
    return found


def _rows(text: str, columns: Sequence[str]) -> list[tuple[int, dict[str, str]]]:
    reader = csv.DictReader(io.StringIO(text))
    lacking = [c for c in columns if c not in (reader.fieldnames or ())]
    if lacking:
        raise FileError(f"There is no column “{lacking[0]}”; there must be {', '.join(columns)}.")
    found = []
    for n, row in enumerate(reader, 2):
        if n > MOST:
            raise FileError(f"There are more than {MOST:,} rows.")
        found.append((n, {c: (row[c] or "").strip().removeprefix("'") for c in columns}))
    return found


def _number(row: dict[str, str], n: int, column: str, most: float) -> float:
    try:
        value = float(row[column])
    except ValueError:
        raise FileError(f"Row {n}: {column} “{row[column]}” is no number.") from None
    if not 0.0 <= value <= most:
        raise FileError(f"Row {n}: {column} {value:g} is not from 0 to {most:g}.")
    return value
