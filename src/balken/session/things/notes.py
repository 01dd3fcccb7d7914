"""A note on a plan."""

from functools import partial
from typing import Any

from balken.model.edits.paper import drop_sheet_note, move_sheet_note, set_sheet_note
from balken.model.names import Name, as_thing
from balken.model.paper import SheetNote
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Line, Rows, Title
from balken.works.building import Checked


def _slip(desk: Desk, name: Name) -> Rows:
    note = _found(desk.project, name)
    if note is None:
        return

    key = note.id

    def put(**fields: Any) -> object:
        return desk.edit("note", partial(set_sheet_note, key=key, **fields))

    yield Title("Note", "on its plan and its sheet")
    yield Field("words", note.words, lambda t: put(words=t.strip()))
    yield Line("Drag it to where there is room; its leader stays.", quiet=True)
    if note.to is not None:
        yield Button("Without a leader", lambda: put(to=None))
    yield Button("Take it away", lambda: _take_away(desk, name))


def _found(project: Project, name: Name) -> SheetNote | None:
    return next((n for n in project.paper.notes if n.id == as_thing(name).key), None)


def _called(project: Project, name: Name) -> str:
    note = _found(project, name)
    return f"note “{note.words[:24]}”" if note else ""


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_sheet_note(base, as_thing(name).key, pull.by)


def _take_away(desk: Desk, name: Name) -> None:
    if desk.edit("take the note away", partial(drop_sheet_note, key=as_thing(name).key)):
        desk.select(None)


NOTE = Thing(
    "note",
    "note",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
