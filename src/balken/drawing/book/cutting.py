"""The cutting plan on paper: each board drawn to scale with its pieces, their lengths and marks, alike ones
once with their count; what is bought of each section, and what is left."""

from collections.abc import Iterator, Sequence
from typing import Final

from balken.drawing.book.flow import (
    LINE,
    TEXT,
    Piece,
    gap,
    heading,
    line,
    numbered,
    pages_of,
    paragraph,
    whole,
    width_of,
)
from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, rectangle
from balken.drawing.paper.records import Sheet
from balken.drawing.words import pretty
from balken.takeoff.boards import Board, alike_boards
from balken.takeoff.cutting import SectionPlan, cut_from_lengths
from balken.units import System, format_length
from balken.works.building import Checked

TALL: Final = 5.0
"""Of a board on paper, mm."""
COUNTED: Final = 16.0
"""At the left, for how often a board is cut so, mm."""
LETTER: Final = 0.56
"""Width of a letter over its height, about."""
BEFORE: Final = "B"
"""Pages are numbered B1, B2."""


def cutting_pages(checked: Checked, date: str = "") -> tuple[Sheet, ...]:
    """All boards of a building, section by section; nothing where none is cut.

    Args:
        checked: the building.
        date: of the plan.
    """
    system = checked.project.system
    plans = cut_from_lengths(checked)
    if not plans:
        return ()
    pages, _ = pages_of(_pieces(plans, system), system)
    title = f"{checked.project.name}: cutting{f', {date}' if date else ''}"
    return numbered(pages, title, system, lambda _: "Cutting", BEFORE)


def _pieces(plans: list[SectionPlan], system: System) -> Iterator[Piece]:
    yield heading("Boards to cut")
    saw = plans[0].saw
    trimmed = f"; {format_length(saw.trim, system)} comes off both ends first" if saw.trim else ""
    yield line(f"The saw takes {format_length(saw.kerf, system)} at a cut{trimmed}.", quiet=True)
    for plan in plans:
        yield heading(f"{pretty(plan.section)} {plan.material}", 1)
        bought = [b.length for b in plan.plan.boards if not b.at_hand]
        sorts = ", ".join(
            f"{bought.count(x)} × {format_length(x, system)}" for x in sorted(set(bought))
        )
        yield from paragraph(f"To buy: {sorts or 'nothing'}.", system)
        yield gap(1.5)
        for board, count, marks in alike_boards(plan.plan.boards):
            yield whole(_board(plan, board, marks, count, system))
        for cut in plan.plan.open:
            words = f"{cut.mark}: {format_length(cut.length, system)} is longer than anything sold."
            yield line(words)


def _board(
    plan: SectionPlan, board: Board, marks: Sequence[str], count: int, system: System
) -> Iterator[Piece]:
    """A board with what is cut from it, and the marks of its pieces under it."""
    long = max(plan.saw.lengths[-1], board.length)
    scale = (width_of(system) - COUNTED) / long
    drawing = _drawn(plan, board, count, scale, system)
    yield Piece(TALL + LINE, drawing)
    read = {m.text for m in drawing if isinstance(m, Label)}
    if not read.issuperset(marks):
        yield from paragraph(", ".join(marks), system, quiet=True)
    yield gap(2.0)


def _drawn(plan: SectionPlan, board: Board, count: int, scale: float, system: System) -> Drawing:
    words = f"{count} ×" if not board.at_hand else f"{count} × at hand"
    marks: list[Mark] = [Label(words, (0.0, -TALL + 1.4), TEXT, "start", bold=True)]
    x = COUNTED + plan.saw.trim * scale
    marks.append(_bar(COUNTED, COUNTED + board.length * scale, "none"))
    for cut in board.cuts:
        end = x + cut.length * scale
        marks.append(_bar(x, end, "timber"))
        for text, y in ((cut.mark, -TALL + 1.4), (format_length(cut.length, system), -TALL - 3.0)):
            if len(text) * TEXT * LETTER <= end - x:
                marks.append(Label(text, ((x + end) / 2, y), TEXT))
        x = end + plan.saw.kerf * scale
    rest = board.rest(plan.saw)
    left = f"{format_length(rest, system)} left"
    room = COUNTED + board.length * scale - x
    if rest > 0 and len(left) * TEXT * LETTER <= room:
        marks.append(Label(left, (x + room / 2, -TALL - 3.0), TEXT, quiet=True))
    return tuple(marks)


def _bar(x0: float, x1: float, fill: Fill) -> Patch:
    return Patch(rectangle(x0, -TALL, x1, 0.0), fill, "seen" if fill != "none" else "beyond")
