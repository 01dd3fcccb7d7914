"""The first sheet: index, legend and general notes, and in the room they leave the structure in space. mm of
paper."""

from collections.abc import Sequence
from typing import Final

from balken.drawing.marks import Label, Mark, shifted
from balken.drawing.paper.column import room_of
from balken.drawing.paper.fitting import GAP, Fitted, fitted, scale_of
from balken.drawing.paper.general import general_notes
from balken.drawing.paper.legend import Used, legend_of, size_of_legend
from balken.drawing.paper.sizes import Size, scales_from
from balken.drawing.paper.tables import ROW, TEXT, TITLE, Table, marks_of, size_of
from balken.drawing.paper.views import LARGEST, Drawn
from balken.drawing.paper.words import wrapped
from balken.works.building import Checked

NOTES: Final = 90.0
"""General notes take no less width, mm of paper."""
ROOMY: Final = (400.0, 350.0)
"""Of a first sheet that the structure in space is drawn on, mm of paper."""


def is_large(paper: Size) -> bool:
    """Whether the first sheet has room for the structure in space."""
    left, foot, right, top = room_of(paper.width, paper.height)
    return right - left >= ROOMY[0] and top - foot >= ROOMY[1]


def index_marks(
    checked: Checked,
    names: Sequence[str],
    numbers: Sequence[str],
    paper: Size,
    used: Used,
) -> tuple[list[Mark], tuple[float, float, float, float]]:
    """Index, legend and general notes, and the room that they leave: left, foot, right, top."""
    left, foot, right, top = room_of(paper.width, paper.height)
    index = Table("Sheets", ("sheet", "what is on it"), tuple(zip(numbers, names)))
    marks = [shifted(m, (left, top)) for m in marks_of(index)]
    under, x = _legend_at(used, size_of(index), paper)
    marks += [shifted(m, under) for m in legend_of(used)] if under is not None else []
    marks.append(Label("General notes", (x, top - TITLE), TITLE, "start", bold=True))
    y, letters = top - 2 * TITLE, max(20, int((right - x) / (TEXT * 0.52)))
    for n, note in enumerate(general_notes(checked), 1):
        for k, part in enumerate(wrapped(note, letters - 4)):
            y -= ROW
            if k == 0:
                marks.append(Label(f"{n}", (x, y), TEXT, "start", quiet=True))
            marks.append(Label(part, (x + 9.0, y), TEXT, "start"))
    return marks, (x, foot, right, y - GAP)


def in_room(
    checked: Checked, view: Drawn, room: tuple[float, float, float, float]
) -> tuple[Fitted, float, float]:
    """A view in the middle of some room, at the largest scale at which it fits."""
    left, foot, right, top = room
    found: Fitted | None = None
    for scale in scales_from(checked.project.system, LARGEST[view.group][checked.project.system]):
        found = fitted(view, scale_of(checked, view, scale))
        if found.width <= right - left and found.height <= top - foot:
            break
    assert found is not None, "there is a smallest scale"
    return (
        found,
        left + max(0.0, right - left - found.width) / 2,
        foot + max(0.0, top - foot - found.height) / 2,
    )


def _legend_at(
    used: Used, index: tuple[float, float], paper: Size
) -> tuple[tuple[float, float] | None, float]:
    """The upper left corner of the legend, under the index or beside it, and where what follows begins at
    the left; without a legend where it would take the room of the notes."""
    left, foot, right, top = room_of(paper.width, paper.height)
    wide, tall = size_of_legend(used)
    down, beside = top - index[1] - 2 * GAP, left + index[0] + 2 * GAP
    if down - tall >= foot:
        return (left, down), max(beside, left + wide + 2 * GAP)
    after = beside + wide + 2 * GAP
    return ((beside, top), after) if right - after >= NOTES else (None, beside)
