"""Pages filled from the top down: pieces that stay whole, in one column, with a head and a foot on
each page. All in mm of paper."""

from collections.abc import Callable, Iterable, Sequence
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.drawing.marks import Drawing, Label, Mark, Stroke, extent, shifted
from balken.drawing.paper.records import Sheet
from balken.units import INCH, System

PAPER: Final[dict[System, tuple[str, float, float]]] = {
    "us": ("8 1/2 × 11 in", 8.5 * INCH, 11 * INCH),
    "metric": ("A4", 210.0, 297.0),
}
LEFT: Final = 22.0
"""Wider than at the right, for binding."""
RIGHT: Final = 14.0
TOP: Final = 20.0
FOOT: Final = 18.0
TEXT: Final = 2.7
LINE: Final = 4.6


class Piece(msgspec.Struct, frozen=True):
    """What stays on one page: its height, and its marks from its upper left corner down."""

    height: float
    marks: Drawing
    chapter: str = ""
    """What stands in the contents, where a chapter or one of its parts begins here."""
    level: int = 0
    new_page: bool = False


def width_of(system: System) -> float:
    """Of what is written on a page."""
    return PAPER[system][1] - LEFT - RIGHT


def heading(words: str, level: int = 0, *, new_page: bool = False) -> Piece:
    """The title of a chapter, or of a part of one."""
    size, height = (5.2, 12.0) if level == 0 else (3.6, 9.0)
    mark = Label(words, (0.0, -height + 4.0), size, "start", bold=True)
    return Piece(height, (mark,), words, level, new_page)


def line(words: str, *, quiet: bool = False, bold: bool = False) -> Piece:
    """One line of words."""
    return Piece(LINE, (Label(words, (0.0, -3.4), TEXT, "start", bold=bold, quiet=quiet),))


def paragraph(words: str, system: System, *, quiet: bool = False) -> Iterable[Piece]:
    """Words over as many lines as they need."""
    most = int(width_of(system) / (0.50 * TEXT))
    row = ""
    for word in words.split():
        if row and len(row) + 1 + len(word) > most:
            yield line(row, quiet=quiet)
            row = word
        else:
            row = f"{row} {word}".strip()
    yield line(row, quiet=quiet)


def whole(pieces: Iterable[Piece]) -> Piece:
    """Several pieces that stay together on one page."""
    marks: list[Mark] = []
    y = 0.0
    for piece in pieces:
        marks += [shifted(m, (0.0, y)) for m in piece.marks]
        y -= piece.height
    return Piece(-y, tuple(marks))


def gap(height: float = 3.0) -> Piece:
    """Some room."""
    return Piece(height, ())


class Column(msgspec.Struct, frozen=True):
    """A column of a table: its head, where it ends or begins, and to which side its words lie."""

    head: str
    at: float
    right: bool = False


def row(columns: Sequence[Column], cells: Sequence[str], *, bold: bool = False) -> Piece:
    """A row of a table."""
    marks: list[Mark] = [
        Label(cell, (c.at, -3.4), TEXT - 0.2, "end" if c.right else "start", bold=bold)
        for c, cell in zip(columns, cells, strict=True)
        if cell
    ]
    return Piece(LINE, tuple(marks))


def table(
    columns: Sequence[Column], rows: Iterable[Sequence[str]], system: System
) -> Iterable[Piece]:
    """A table with its head and a rule under it."""
    head = row(columns, [c.head for c in columns], bold=True)
    rule = Stroke(((0.0, -LINE), (width_of(system), -LINE)), "hair")
    yield replace(head, marks=(*head.marks, rule))
    for cells in rows:
        yield row(columns, cells)


def drawn(drawing: Drawing, system: System) -> Piece:
    """A figure in the middle of the column."""
    box = extent(drawing)
    if box is None:
        return gap(0.0)
    x0, y0, x1, y1 = box
    by = ((width_of(system) - (x1 - x0)) / 2 - x0, -y1 - 6.0)
    return Piece(y1 - y0 + 12.0, tuple(shifted(m, by) for m in drawing))


def _fitting(pieces: Iterable[Piece], most: float) -> Iterable[Piece]:
    """Pieces no higher than a page: a figure that is gets all of one, cut at its foot."""
    for piece in pieces:
        yield piece if piece.height <= most else replace(piece, height=most)


class Entry(msgspec.Struct, frozen=True):
    """A line of the contents."""

    words: str
    level: int
    page: int


def pages_of(pieces: Iterable[Piece], system: System) -> tuple[list[list[Mark]], list[Entry]]:
    """Lay pieces on pages; return the marks of each page, and the contents by page from 0."""
    _, _, height = PAPER[system]
    pages: list[list[Mark]] = []
    contents: list[Entry] = []
    y = 0.0
    for piece in _fitting(pieces, height - TOP - FOOT):
        full = y - piece.height < FOOT
        # A title does not stand alone at the foot of a page.
        alone = bool(piece.chapter) and y - piece.height < FOOT + 5 * LINE
        if not pages or full or alone or piece.new_page:
            pages.append([])
            y = height - TOP
        if piece.chapter:
            contents.append(Entry(piece.chapter, piece.level, len(pages) - 1))
        pages[-1] += [shifted(m, (LEFT, y)) for m in piece.marks]
        y -= piece.height
    return pages, contents


def numbered(
    pages: Sequence[Sequence[Mark]],
    title: str,
    system: System,
    called: Callable[[int], str],
    before: str = "C",
) -> tuple[Sheet, ...]:
    """Pages with what stands at the head and the foot of each; ``before`` stands before their numbers."""
    name, width, height = PAPER[system]
    found = []
    for n, marks in enumerate(pages, 1):
        head, foot = height - 14.0, 10.0
        frame: list[Mark] = [
            Label(title, (LEFT, head), 2.4, "start", quiet=True),
            Stroke(((LEFT, head - 2.0), (width - RIGHT, head - 2.0)), "hair"),
            Label(f"{n} of {len(pages)}", (width - RIGHT, foot), 2.4, "end"),
        ]
        words = called(n - 1)
        block = (*frame, *marks)
        found.append(Sheet(f"{before}{n}", words, name, width, height, (), block))
    return tuple(found)
