"""The tool for notes: words beside what they are about, with a leader; they stand on the plan and on its
sheet."""

from functools import partial

from balken.drawing.marks import Drawing, Stroke
from balken.geometry.plane import Point
from balken.model.edits.common import EditError
from balken.model.edits.paper import add_sheet_note
from balken.model.project import Project
from balken.session.tools.asking import Bench, Do, Tool, ask


def place(bench: Bench) -> Tool:
    """Write notes one after another."""
    if not bench.view_key:
        raise EditError("A note is written on a plan. Go to a tier first.")
    while True:
        about = yield from ask("Click what the note is about. Enter ends.", ends=True)
        if about.finished:
            return
        spot = about.point
        beside = yield from ask(
            "Click where its words begin.", anchor=spot, ghost=partial(_leader, spot)
        )
        said = yield from ask("Write the note, then Enter.", kind="text", check=_words)
        yield Do(
            "write a note",
            partial(_write, view=bench.view_key, at=beside.point, to=spot, words=said.text),
        )


def _leader(start: Point, end: Point) -> Drawing:
    return (Stroke((start, end), "mark"),)


def _words(text: str) -> str:
    if not text.strip():
        raise EditError("A note has words.")
    return text


def _write(project: Project, view: str, at: Point, to: Point, words: str) -> Project:
    return add_sheet_note(project, view, words, at, to)[0]
