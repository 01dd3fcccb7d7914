"""A note on a plan."""

from functools import partial
from typing import Any, Final

from balken.model.edits.paper_rows import set_row
from balken.model.paper import SheetNote
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Line, Rows, Title
from balken.session.things.on_paper import on_paper

MOST_CALLED: Final = 24
"""A note is called by so many of its letters."""


def _slip(desk: Desk, note: SheetNote) -> Rows:
    def put(**fields: Any) -> object:
        return desk.edit("note", partial(set_row, rows="notes", key=note.id, **fields))

    yield Title("Note", "on its plan and its sheet")
    yield Field("words", note.words, lambda t: put(words=t.strip()))
    yield Line("Drag it to where there is room; its leader stays.", quiet=True)
    if note.to is not None:
        yield Button("Without a leader", lambda: put(to=None))


NOTE = on_paper("note", "notes", _slip, lambda note: f"note “{note.words[:MOST_CALLED]}”")
