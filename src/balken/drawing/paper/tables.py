"""Tables as drawings in mm of paper: a title, a head, rows, lines between."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from balken.drawing.marks import Drawing, Label, Mark, Stroke

TEXT: Final = 3.5
ROW: Final = 6.2
LETTER: Final = 0.54
"""Width of a letter over its height, about."""
GAP: Final = 3.0
"""Between two columns, mm."""
TITLE: Final = 4.6


class Table(NamedTuple):
    """Rows of words under a head."""

    title: str
    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def widths(table: Table) -> list[float]:
    """How wide each column is, mm."""
    columns = zip(table.head, *table.rows)
    return [max(len(cell) for cell in column) * TEXT * LETTER + GAP for column in columns]


def size_of(table: Table) -> tuple[float, float]:
    """Width and height, mm."""
    title = len(table.title) * TITLE * LETTER
    return max(sum(widths(table)), title), TITLE * 2 + ROW * (len(table.rows) + 1)


def marks_of(table: Table) -> Drawing:
    """A table with its upper left corner at nothing."""
    wide, places = sum(widths(table)), [0.0]
    for width in widths(table):
        places.append(places[-1] + width)
    marks: list[Mark] = [Label(table.title, (0.0, -TITLE), TITLE, "start", bold=True)]
    y = -2 * TITLE
    marks.append(Stroke(((0.0, y), (wide, y)), "seen"))
    marks += _row(table.head, places, y - ROW, bold=True)
    y -= ROW
    marks.append(Stroke(((0.0, y), (wide, y)), "seen"))
    for row in table.rows:
        y -= ROW
        marks += _row(row, places, y, bold=False)
        marks.append(Stroke(((0.0, y), (wide, y)), "hair"))
    return tuple(marks)


def _row(cells: Sequence[str], places: Sequence[float], y: float, *, bold: bool) -> list[Mark]:
    return [
        Label(cell, (x + GAP / 3, y + (ROW - TEXT) / 2), TEXT, "start", bold=bold)
        for cell, x in zip(cells, places)
        if cell
    ]


def split(table: Table, tall: float) -> list[Table]:
    """A table in parts no taller than there is room for, mm."""
    most = max(1, int((tall - TITLE * 2) / ROW) - 1)
    if len(table.rows) <= most:
        return [table]
    parts = [table.rows[k : k + most] for k in range(0, len(table.rows), most)]
    return [
        Table(f"{table.title}, {n} of {len(parts)}", table.head, rows)
        for n, rows in enumerate(parts, 1)
    ]
