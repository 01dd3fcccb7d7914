"""What stands beside the views of a sheet: its frame, the project's name, notes, open points, the table of
revisions and the title block. mm of paper."""

from collections.abc import Sequence
from typing import Final

from balken.drawing.marks import Drawing, Label, Mark, Stroke, rectangle
from balken.drawing.paper.words import wrapped
from balken.fit.finding import KIND_WORDS, Finding, amount_text
from balken.model.project import Project

MARGIN: Final = 10.0
COLUMN: Final = 80.0
"""Width of the column at the right."""
TEXT: Final = 3.5
LINE: Final = 5.6
LETTERS: Final = 42
"""So many letters of that size fit into the column."""
BLOCK: Final = 74.0
"""Height of the title block."""
MOST_POINTS: Final = 10


def room_of(width: float, height: float) -> tuple[float, float, float, float]:
    """What of a paper the views may take: left, foot, right, top."""
    return MARGIN, MARGIN, width - MARGIN - COLUMN - 4.0, height - MARGIN


def frame_of(width: float, height: float) -> Drawing:
    """The frame of a sheet and the line beside its column."""
    x, edge = width - MARGIN - COLUMN, MARGIN / 2
    ring = rectangle(edge, edge, width - edge, height - edge)
    return (
        Stroke((*ring, ring[0]), "seen"),
        Stroke(((x, edge), (x, height - edge)), "hair"),
    )


class _Pen:
    """Writes down a column, line by line, as far as there is room."""

    def __init__(self, x: float, top: float, foot: float) -> None:
        self.marks: list[Mark] = []
        self._x, self._y, self._foot = x, top, foot

    def line(self, text: str, *, bold: bool = False, quiet: bool = False, gap: float = 0.0) -> bool:
        """Write a line; whether there was room for it."""
        if self._y - gap - LINE < self._foot:
            return False
        self._y -= gap + LINE
        label = Label(text, (self._x, self._y), TEXT, "start", bold=bold, quiet=quiet)
        self.marks.append(label)
        return True

    def words(self, lines: Sequence[str]) -> None:
        """Write notes; what finds no room is told to be left out."""
        every = [part for text in lines for part in wrapped(text, LETTERS)]
        for n, text in enumerate(every):
            last = self._y - 2 * LINE < self._foot and n < len(every) - 1
            said = f"… and {len(every) - n} more lines, in the lists" if last else text
            if not self.line(said, quiet=text.startswith("  ")) or last:
                return


def column_of(
    project: Project,
    title: tuple[str, str, str],
    size: tuple[float, float],
    notes: Sequence[tuple[str, Sequence[str]]],
    findings: Sequence[Finding],
    date: str,
) -> Drawing:
    """The column of a sheet.

    Args:
        project: whose sheet it is.
        title: of the sheet, its number, and its scales.
        size: of the paper, mm.
        notes: under heads.
        findings: what is open on what the sheet shows.
        date: of the set.
    """
    width, height = size
    x = width - MARGIN - COLUMN + 3.0
    pen = _Pen(x, height - 17.0, BLOCK + 8.0 + LINE * (len(project.paper.revisions) + 1))
    marks: list[Mark] = [Label(project.name[:26], (x, height - 15.0), 6.5, "start", bold=True)]
    for head, lines in notes:
        if head and lines:
            pen.line(head, bold=True, gap=2.0)
        pen.words(lines)
    if findings:
        pen.line("Open points", bold=True, gap=2.0)
        for f in findings[:MOST_POINTS]:
            pen.words([f"{KIND_WORDS[f.kind]} {amount_text(project, f)}: {f.place}"])
    return (
        *marks,
        *pen.marks,
        *_revisions(project, x, width),
        *_block(project, title, x, width, date),
    )


def _revisions(project: Project, x: float, width: float) -> list[Mark]:
    rows = project.paper.revisions
    if not rows:
        return []
    y = BLOCK + LINE * len(rows) + 1.0
    marks: list[Mark] = [Label("Revisions", (x, y), TEXT, "start", bold=True)]
    for r in rows:
        y -= LINE
        marks.append(Label(f"{r.mark}  {r.date}  {r.words}"[:LETTERS], (x, y), TEXT, "start"))
    return marks


def _block(
    project: Project, title: tuple[str, str, str], x: float, width: float, date: str
) -> list[Mark]:
    """The title block: who, what, at what scale, when, and the number."""
    block = project.paper.block
    name, number, scales = title
    marks: list[Mark] = [Stroke(((x - 3.0, BLOCK), (width - MARGIN / 2, BLOCK)), "hair")]
    y = BLOCK - 1.0
    for text, bold in ((block.firm, True), (block.client, False), (block.address, False)):
        for part in wrapped(text, LETTERS)[:2] if text else ():
            y -= LINE
            marks.append(Label(part, (x, y), TEXT, "start", bold=bold))
    y = 39.0
    for part in reversed(wrapped(name, 28)[:2]):
        marks.append(Label(part, (x, y), 4.6, "start", bold=True))
        y += 6.0
    marks.append(Label(f"scale {scales}" if scales else "no scale", (x, 32.0), TEXT, "start"))
    by = "  ".join(
        f"{word} {who}"
        for word, who in (("drawn", block.drawn), ("seen", block.seen), ("job", block.job))
        if who
    )
    marks.append(Label("  ".join(filter(None, (date, by))), (x, 26.0), TEXT, "start", quiet=True))
    marks.append(Label("sheet", (x, 10.0), TEXT, "start", quiet=True))
    marks.append(Label(number, (x + 15.0, 9.0), 10.0, "start", bold=True))
    return marks
