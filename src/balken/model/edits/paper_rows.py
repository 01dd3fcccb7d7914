"""Edits of what is kept in rows of the paper, each row by its key: sections, notes, dimensions and clouds are
changed, moved and taken away alike."""

from typing import Any, Final, Literal

from msgspec.structs import replace

from balken.geometry.plane import Point, add
from balken.model.edits.common import EditError, checked, known
from balken.model.paper import Cloud, HandDimension, SectionLine, SheetNote
from balken.model.project import Project

Rows = Literal["sections", "notes", "dimensions", "clouds"]
PaperRow = SectionLine | SheetNote | HandDimension | Cloud
KINDS: Final[dict[Rows, type[PaperRow]]] = {
    "sections": SectionLine,
    "notes": SheetNote,
    "dimensions": HandDimension,
    "clouds": Cloud,
}
PLACES: Final[dict[Rows, tuple[str, ...]]] = {
    "sections": ("start", "end"),
    "notes": ("at",),
    "dimensions": ("at",),
    "clouds": ("start", "end"),
}
"""What of each is moved: the words of a note, but not the end of its leader; the string of a dimension, but
not what it measures."""


def found_row(project: Project, rows: Rows, key: str) -> Any:
    """A row by its key; None where it is not there."""
    return next((r for r in getattr(project.paper, rows) if r.id == key), None)


def row_of(project: Project, rows: Rows, key: str) -> Any:
    """A row by its key.

    Raises:
        EditError: there is none.
    """
    found = found_row(project, rows, key)
    if found is None:
        raise EditError(f"There is no {rows.removesuffix('s')} {key}.")
    return found


def add_row(project: Project, rows: Rows, row: PaperRow) -> Project:
    """Add a row after the others."""
    return _put(project, rows, (*getattr(project.paper, rows), row))


def set_row(project: Project, rows: Rows, key: str, **fields: Any) -> Project:
    """Change a row.

    Raises:
        EditError: there is none of that key.
    """
    known(KINDS[rows], fields)
    new = replace(row_of(project, rows, key), **fields)
    kept = tuple(new if r.id == key else r for r in getattr(project.paper, rows))
    return _put(project, rows, kept)


def move_row(project: Project, rows: Rows, key: str, by: Point) -> Project:
    """Move where a row stands, mm."""
    old = row_of(project, rows, key)
    moved = {place: add(getattr(old, place), by, 1.0) for place in PLACES[rows]}
    return set_row(project, rows, key, **moved)


def drop_row(project: Project, rows: Rows, key: str) -> Project:
    """Take a row away.

    Raises:
        EditError: there is none of that key.
    """
    row_of(project, rows, key)
    return _put(project, rows, tuple(r for r in getattr(project.paper, rows) if r.id != key))


def _put(project: Project, rows: Rows, kept: tuple[PaperRow, ...]) -> Project:
    return checked(project, paper=replace(project.paper, **{rows: kept}))
