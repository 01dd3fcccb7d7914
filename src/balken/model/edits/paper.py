"""Edits of the set of sheets: paper, title block, general notes, revisions, sections."""

from typing import Any

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, distance, left, sub, unit
from balken.model.edits.common import EditError, checked, fresh, known
from balken.model.edits.paper_rows import add_row, row_of, set_row
from balken.model.paper import Jog, LaidView, Paper, Revision, SectionLine, SheetNote, TitleBlock
from balken.model.project import Project

LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Sections are called by letters, without those that look like figures."""


def set_paper(project: Project, **fields: Any) -> Project:
    """Change what is decided of the set."""
    known(Paper, fields)
    return checked(project, paper=replace(project.paper, **fields))


def set_block(project: Project, **fields: Any) -> Project:
    """Change what stands in the title block."""
    known(TitleBlock, fields)
    return set_paper(project, block=replace(project.paper.block, **fields))


def set_note(project: Project, number: int, words: str) -> Project:
    """Change one of the general notes; the next one is new, one without words goes."""
    notes = list(project.paper.general)
    if not 0 <= number <= len(notes):
        raise EditError(f"There are {len(notes)} notes.")
    kept = [*notes[:number], *([words] if words.strip() else []), *notes[number + 1 :]]
    return set_paper(project, general=tuple(kept))


def add_revision(project: Project, mark: str, date: str, words: str) -> Project:
    """Add a row to the table of revisions.

    Raises:
        EditError: it has no mark or no words.
    """
    if not mark.strip() or not words.strip():
        raise EditError("A revision has a mark, a date and words: A, 2027-01-15, stair moved.")
    row = Revision(mark.strip(), date.strip(), words.strip())
    return set_paper(project, revisions=(*project.paper.revisions, row))


def drop_revision(project: Project, number: int) -> Project:
    """Take a row out of the table of revisions."""
    rows = project.paper.revisions
    return set_paper(project, revisions=(*rows[:number], *rows[number + 1 :]))


def add_section(project: Project, start: Point, end: Point) -> tuple[Project, str]:
    """Draw a section on the plan, looking to the left of its way; return the project and its letter.

    Raises:
        EditError: it has no length, or there are as many as letters.
    """
    if distance(start, end) < TOUCH:
        raise EditError("A section needs two ends that lie apart.")
    taken = {s.id for s in project.paper.sections}
    free = [c for c in LETTERS if c not in taken]
    key = free[0] if free else fresh(taken, "A")
    made = SectionLine(key, start, end)
    return add_row(project, "sections", made), key


def turn_section(project: Project, key: str) -> Project:
    """Let a section look the other way."""
    old: SectionLine = row_of(project, "sections", key)
    long = distance(old.start, old.end)
    legs = [0.0, *(j.ahead for j in old.jogs)]
    # Seen from the other end the last leg is the first: all lie as far from it as they did.
    jogs = tuple(
        Jog(long - j.at, legs[-1] - before) for j, before in zip(old.jogs[::-1], legs[-2::-1])
    )
    by = left(unit(sub(old.end, old.start)))
    start, end = add(old.end, by, legs[-1]), add(old.start, by, legs[-1])
    return set_row(project, "sections", key, start=start, end=end, jogs=jogs)


def add_sheet_note(
    project: Project, view: str, words: str, at: Point, to: Point | None = None
) -> tuple[Project, str]:
    """Write a note on a view; return the project and the note's key.

    Args:
        project: the building.
        view: its lasting name.
        words: of the note.
        at: where they begin, in what the view shows, mm.
        to: what they are about; without a leader where None.

    Raises:
        EditError: it has no words.
    """
    if not words.strip():
        raise EditError("A note has words.")
    key = fresh((n.id for n in project.paper.notes), "T")
    made = SheetNote(key, view, words.strip(), at, to)
    return add_row(project, "notes", made), key


def lay_view(project: Project, key: str, **fields: Any) -> Project:
    """Decide where a view lies on its sheet, or at what scale."""
    known(LaidView, fields)
    old = next((v for v in project.paper.views if v.key == key), LaidView(key))
    new = replace(old, **fields)
    rest = tuple(v for v in project.paper.views if v.key != key)
    kept = () if new == LaidView(key) else (new,)
    return set_paper(project, views=tuple(sorted((*rest, *kept), key=lambda v: v.key)))


def lay_again(project: Project, key: str) -> Project:
    """Let a view lie where it lies by itself."""
    return set_paper(project, views=tuple(v for v in project.paper.views if v.key != key))
