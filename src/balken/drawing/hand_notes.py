"""Notes that a person wrote on a view: words with a leader to what they are about."""

from collections.abc import Iterator
from typing import Final

from balken.drawing.marks import Disc, Label, Mark, Stroke
from balken.geometry.plane import add
from balken.model.names import ThingName
from balken.model.project import Project

TEXT: Final = 2.5
DOT: Final = 0.5
"""At the end of the leader, mm of paper."""


def hand_notes(project: Project, view: str, paper: float) -> Iterator[Mark]:
    """All notes on a view, at so many mm of building to a mm of paper."""
    for note in project.paper.notes:
        if note.view != view:
            continue
        key = ThingName("note", note.id)
        if note.to is not None:
            yield Stroke((note.to, note.at), "seen", key)
            yield Disc(note.to, DOT, "seen", key)
        to_the_right = note.to is None or note.at[0] >= note.to[0]
        step = (1.0 if to_the_right else -1.0) * paper
        anchor = "start" if to_the_right else "end"
        at = add(note.at, (1.0, 0.0), step)
        yield Label(note.words, add(at, (0.0, -1.0), TEXT / 2 * paper), TEXT, anchor, key=key)  # type: ignore[arg-type]
