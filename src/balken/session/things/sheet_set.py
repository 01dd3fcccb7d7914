"""The page of the set of sheets: paper, title block, general notes, revisions, sections."""

from functools import partial
from typing import Any, Final, get_args

from balken.errors import BalkenError
from balken.model.edits.paper import add_revision, drop_revision, set_block, set_note, set_paper
from balken.model.names import ThingName
from balken.model.paper import PaperSize
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Heading, Line, Link, Options, Rows, Title

FIELDS: Final = (
    ("firm", "firm"),
    ("client", "client"),
    ("address", "address"),
    ("job number", "job"),
    ("drawn by", "drawn"),
    ("looked through by", "seen"),
)


def sheet_set(desk: Desk) -> Rows:
    """What is decided of the set as a whole."""
    paper = desk.project.paper
    yield Title("Set of sheets", "paper and title block")
    sizes = [(name or "by itself", name) for name in get_args(PaperSize)]
    yield Options(
        "paper",
        sizes,
        paper.size,
        lambda v: desk.edit("paper of the set", partial(set_paper, size=v)),
    )
    yield Options(
        "printed in",
        [("one colour", False), ("colours of materials", True)],
        paper.colour,
        lambda v: desk.edit("colour of the set", partial(set_paper, colour=v)),
    )
    yield Heading("Title block")
    for word, field in FIELDS:
        yield Field(word, getattr(paper.block, field), partial(_block, desk, field))
    yield Heading("General notes", f"{len(paper.general)} by hand")
    yield Line("Codes, loads, soil and materials stand there by themselves.", quiet=True)
    for n, words in enumerate(paper.general):
        yield Field(f"note {n + 1}", words, partial(_note, desk, n))
    yield Field("one more note", "", partial(_note, desk, len(paper.general)))
    yield Heading("Revisions", f"{len(paper.revisions)}")
    for n, row in enumerate(paper.revisions):
        away = partial(desk.edit, "take a revision out", partial(drop_revision, number=n))
        yield Link(row.mark, f"{row.date} {row.words} · take away", away)
    yield Field("one more", "", partial(_revision, desk), example="A, 2027-01-15, stair moved")
    yield Heading("Sections", f"{len(paper.sections)}")
    for line in paper.sections:
        yield Link(
            f"section {line.id}", "look at it", partial(desk.select, ThingName("section", line.id))
        )
    yield Button("Look at the sheets", lambda: desk.show_view("paper"))


def _block(desk: Desk, field: str, text: str) -> object:
    changed: dict[str, Any] = {field: text.strip()}
    return desk.edit("title block", partial(set_block, **changed))


def _note(desk: Desk, number: int, text: str) -> object:
    return desk.edit("general note", partial(set_note, number=number, words=text.strip()))


def _revision(desk: Desk, text: str) -> object:
    parts = [p.strip() for p in text.split(",", 2)]
    if len(parts) < 3:
        raise BalkenError("Write mark, date, words: A, 2027-01-15, stair moved.")
    return desk.edit("revision", lambda p: add_revision(p, *parts))
