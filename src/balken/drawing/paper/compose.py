"""A set of sheets: views of a kind share sheets at the largest standard scale at which they fit, in their
order, row by row; schedules and general notes have sheets of their own; the first sheet is the index."""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.drawing.clearing import with_words
from balken.drawing.marks import (
    Disc,
    Drawing,
    Label,
    Mark,
    Stroke,
    enlarged,
    extent,
    rectangle,
    shifted,
)
from balken.drawing.paper.column import column_of, frame_of, room_of
from balken.drawing.paper.general import general_notes
from balken.drawing.paper.legend import Used, legend_of, size_of_legend, used_in
from balken.drawing.paper.records import Placed, Sheet
from balken.drawing.paper.schedules import schedules_of
from balken.drawing.paper.sizes import PAPERS, USUAL, Scale, Size, scales_from
from balken.drawing.paper.tables import ROW, TEXT, TITLE, Table, marks_of, size_of, split
from balken.drawing.paper.views import LARGEST, Drawn, Group, views_of
from balken.drawing.paper.words import wrapped
from balken.drawing.section_marks import REFERENCE
from balken.fit.finding import Finding
from balken.progress import Tell, unheard
from balken.units import FOOT, System
from balken.works.building import Checked

LARGER: Final = 1.4
"""Words, heads and distances of strings are so much larger on paper than on the screen: capitals of 2.5 mm,
as ISO 3098 counts the height of letters (those of the font are 0.7 of its size)."""
GAP: Final = 8.0
"""Between views, mm of paper."""
UNDER: Final = 17.0
"""For the title of a view, under it."""
PAD: Final = 5.0
"""Round lines, for heads and ends of strings, mm of paper."""
TITLES: Final[dict[Group, str]] = {
    "plans": "Plans",
    "upright": "Elevations and sections",
    "details": "Details",
    "space": "In space",
    "walls": "Framing of walls",
    "trusses": "Trusses",
}
NOTES: Final = 90.0
"""General notes take no less width, mm of paper."""
ROOMY: Final = (400.0, 350.0)
"""Of a first sheet that the structure in space is drawn on, mm of paper."""
ENOUGH: Final = 0.75
"""A smaller paper does where plans fill it so much as well as the best one."""
WANTED: Final[dict[System, float]] = {"us": 48.0, "metric": 50.0}
"""The scale at which plans are wanted, where the paper is chosen by itself."""


class Fitted(NamedTuple):
    """A view drawn at its scale: what of the paper it takes, from its origin, mm."""

    view: Drawn
    scale: Scale
    drawing: Drawing
    box: tuple[float, float, float, float]

    @property
    def width(self) -> float:
        """mm of paper; a title may be wider than what it stands under."""
        return max(self.box[2] - self.box[0], len(self.view.title) * 2.5 + 30.0)

    @property
    def height(self) -> float:
        """With its title, mm of paper."""
        return self.box[3] - self.box[1] + UNDER


def sheets_of(
    checked: Checked, findings: Sequence[Finding], date: str, tell: Tell = unheard
) -> tuple[Sheet, ...]:
    """All sheets of a building.

    Args:
        checked: the building.
        findings: told on the sheets they belong to.
        date: of the set.
        tell: takes in how far it is; what it raises ends the work.
    """
    views = list(views_of(checked))
    paper = paper_of(checked, views)
    first = [v for v in views if v.group == "space"] if _is_large(paper) else []
    sheets: list[_Laid] = []
    for group, of_group in groupby((v for v in views if v not in first), key=lambda v: v.group):
        sheets += _laid(checked, list(of_group), group, paper, tell)
    tables = list(_tables(checked, paper))
    return tuple(_numbered(checked, (first, sheets), tables, paper, findings, date))


def _is_large(paper: Size) -> bool:
    """Whether the first sheet has room for the structure in space."""
    left, foot, right, top = room_of(paper.width, paper.height)
    return right - left >= ROOMY[0] and top - foot >= ROOMY[1]


class _Laid(NamedTuple):
    """Views that lie on one sheet, each with its lower left corner."""

    title: str
    views: tuple[tuple[Fitted, float, float], ...]


def paper_of(checked: Checked, views: Sequence[Drawn]) -> Size:
    """The paper of a set: as typed; else of the usual ones that hold each plan at the scale that is wanted
    the smallest that they fill well; else the largest."""
    project = checked.project
    if project.paper.size:
        return PAPERS[project.paper.size]
    usual = [PAPERS[name] for name in USUAL[project.system]]
    wanted = scales_from(project.system, WANTED[project.system])[0]
    boxes = [fitted(v, wanted) for v in views if v.group == "plans"]
    holding = [paper for paper in usual if all(_holds(paper, f) for f in boxes)]
    if not holding or not boxes:
        return holding[0] if holding else usual[-1]
    best = max(_filled(paper, boxes) for paper in holding)
    return next(paper for paper in holding if _filled(paper, boxes) >= ENOUGH * best)


def _filled(paper: Size, views: Sequence[Fitted]) -> float:
    """How much of its sheets views fill."""
    left, foot, right, top = room_of(paper.width, paper.height)
    sheets = len(_packed(views, paper))
    return sum(f.width * f.height for f in views) / (sheets * (right - left) * (top - foot))


def _holds(paper: Size, f: Fitted) -> bool:
    left, foot, right, top = room_of(paper.width, paper.height)
    return f.width <= right - left and f.height <= top - foot


def fitted(view: Drawn, scale: Scale) -> Fitted:
    """A view drawn at a scale, with the room it takes."""
    drawing = enlarged(view.draw(scale.ratio * LARGER), LARGER)
    lines = extent(drawing) or (0.0, 0.0, 1.0, 1.0)
    words = with_words(drawing, scale.ratio)
    pad, beside = PAD * scale.ratio, scale.ratio
    box = (
        min(lines[0] - pad, words[0] - beside) / scale.ratio,
        min(lines[1] - pad, words[1] - beside) / scale.ratio,
        max(lines[2] + pad, words[2] + beside) / scale.ratio,
        max(lines[3] + pad, words[3] + beside) / scale.ratio,
    )
    return Fitted(view, scale, drawing, box)


def _laid(
    checked: Checked, views: list[Drawn], group: Group, paper: Size, tell: Tell
) -> Iterator[_Laid]:
    """Views of a group at one scale: the largest at which each fits on a sheet."""
    system = checked.project.system
    scales = scales_from(system, LARGEST[group][system])
    done: list[Fitted] = []
    for scale in scales:
        done = []
        for n, view in enumerate(views, 1):
            tell(f"{TITLES[group]}, {n} of {len(views)}: {view.title} …")
            one = fitted(view, _scale_of(checked, view, scale))
            if not _holds(paper, one) and scale is not scales[-1]:
                break
            done.append(one)
        if len(done) == len(views):
            break
    for n, row in enumerate(_packed(done, paper), 1):
        only = row[0][0].view.title if len(row) == 1 else ""
        yield _Laid(only or f"{TITLES[group]}{f' {n}' if n > 1 else ''}", tuple(row))


def _scale_of(checked: Checked, view: Drawn, wanted: Scale) -> Scale:
    """The scale of a view: as a person said, else that of its group."""
    laid = next((v for v in checked.project.paper.views if v.key == view.key and v.scale), None)
    if laid is None:
        return wanted
    words = {s.ratio: s.words for s in scales_from(checked.project.system, 0.0)}
    return Scale(laid.scale, words.get(laid.scale, f"1 : {laid.scale:g}"))


def _packed(views: Sequence[Fitted], paper: Size) -> list[list[tuple[Fitted, float, float]]]:
    """Views in rows from the top left, row after row, sheet after sheet; what room is left is shared out
    between them."""
    left, foot, right, top = room_of(paper.width, paper.height)
    sheets: list[list[list[Fitted]]] = [[[]]]
    tall = 0.0
    for f in views:
        row = sheets[-1][-1]
        wide = sum(v.width + GAP for v in row) + f.width
        if row and wide > right - left:
            sheets[-1].append([])
        rows = sheets[-1]
        tall = sum(max((v.height for v in r), default=0.0) + GAP for r in rows[:-1])
        mine = max([f.height, *(v.height for v in rows[-1])])
        if tall + mine > top - foot and any(any(r) for r in (rows[:-1] or [rows[-1]])):
            rows = [r for r in rows if r]
            sheets[-1] = rows
            sheets.append([[]])
        sheets[-1][-1].append(f)
    return [_spread(rows, (left, foot, right, top)) for rows in sheets if any(rows)]


def _spread(
    rows: list[list[Fitted]], room: tuple[float, float, float, float]
) -> list[tuple[Fitted, float, float]]:
    left, foot, right, top = room
    rows = [r for r in rows if r]
    used = sum(max(v.height for v in r) for r in rows)
    between = (top - foot - used) / (len(rows) + 1)
    found = []
    y = top - between
    for row in rows:
        tall = max(v.height for v in row)
        free = (right - left - sum(v.width for v in row)) / (len(row) + 1)
        x = left + free
        for v in row:
            found.append((v, x, y - v.height))
            x += v.width + free
        y -= tall + between
    return found


# -- tables and words ------------------------------------------------------------------------------


def _tables(checked: Checked, paper: Size) -> Iterator[list[tuple[Table, float, float]]]:
    """Schedules in columns, sheet after sheet, each with its upper left corner."""
    left, foot, right, top = room_of(paper.width, paper.height)
    here: list[tuple[Table, float, float]] = []
    x, y, wide = left, top, 0.0
    for whole in schedules_of(checked):
        for table in split(whole, top - foot):
            w, h = size_of(table)
            if y - h < foot:
                x, y, wide = x + wide + GAP, top, 0.0
            if x + w > right and here:
                yield here
                here, x, y, wide = [], left, top, 0.0
            here.append((table, x, y))
            y, wide = y - h - GAP, max(wide, w)
    if here:
        yield here


def _numbered(
    checked: Checked,
    drawn: tuple[Sequence[Drawn], Sequence[_Laid]],
    tables: Sequence[list[tuple[Table, float, float]]],
    paper: Size,
    findings: Sequence[Finding],
    date: str,
) -> Iterator[Sheet]:
    first, sheets = drawn
    names = ["Index and general notes", *(s.title for s in sheets)]
    names += [f"Schedules{f' {n}' if n > 1 else ''}" for n in range(1, len(tables) + 1)]
    numbers = [f"S{n}" for n in range(1, len(names) + 1)]
    used = used_in(f.drawing for laid in sheets for f, _, _ in laid.views)
    marks, free = _index(checked, names, numbers, paper, used)
    seen = _Laid(names[0], tuple(_in_room(checked, v, free) for v in first))
    index = _sheet(checked, seen, numbers[0], paper, (), date)
    yield replace(index, block=(*index.block, *marks))
    lies_on = {
        f.view.key: number for laid, number in zip(sheets, numbers[1:]) for f, _, _ in laid.views
    }
    for laid, number in zip(sheets, numbers[1:]):
        yield _referred(_sheet(checked, laid, number, paper, findings, date), lies_on)
    for placed, name, number in zip(tables, names[1 + len(sheets) :], numbers[1 + len(sheets) :]):
        marks = [shifted(m, (x, y)) for table, x, y in placed for m in marks_of(table)]
        yield _plain(checked, name, number, paper, marks, date)


def _plain(
    checked: Checked, name: str, number: str, paper: Size, marks: Sequence[Mark], date: str
) -> Sheet:
    """A sheet of words and tables."""
    size = (paper.width, paper.height)
    column = column_of(checked.project, (name, number, ""), size, (), (), date)
    block = (*frame_of(*size), *column, *marks)
    return Sheet(number, name, paper.name, *size, (), block)


def _index(
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


def _in_room(
    checked: Checked, view: Drawn, room: tuple[float, float, float, float]
) -> tuple[Fitted, float, float]:
    """A view in the middle of some room, at the largest scale at which it fits."""
    left, foot, right, top = room
    found: Fitted | None = None
    for scale in scales_from(checked.project.system, LARGEST[view.group][checked.project.system]):
        found = fitted(view, _scale_of(checked, view, scale))
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


def _sheet(
    checked: Checked,
    laid: _Laid,
    number: str,
    paper: Size,
    findings: Sequence[Finding],
    date: str,
) -> Sheet:
    placed: list[Placed] = []
    notes: list[tuple[str, Sequence[str]]] = []
    block: list[Mark] = []
    moved = {v.key: v.by for v in checked.project.paper.views}
    room = room_of(paper.width, paper.height)
    for n, (f, x0, y0) in enumerate(laid.views, 1):
        x, y = _inside(f, x0, y0, moved.get(f.view.key, (0.0, 0.0)), room)
        box = (x, y, x + f.width, y + f.height)
        beside = (f.width - (f.box[2] - f.box[0])) / 2
        origin = (x + beside - f.box[0], y + UNDER - f.box[1])
        words = f.scale.words if f.view.group != "space" else ""
        placed.append(
            Placed(
                f.view.key,
                f"{n}",
                f.view.title,
                f.scale.ratio,
                words,
                origin,
                f.drawing,
                box,
            )
        )
        block += _title(f, f"{n}", words, x, y)
        if words:
            block += _scale_bar(f, checked.project.system, x, y)
        if f.view.notes:
            notes.append((f"{n}  {f.view.title}" if len(laid.views) > 1 else "", f.view.notes))
    size = (paper.width, paper.height)
    scales = ", ".join(dict.fromkeys(p.scale_text for p in placed if p.scale_text))
    mine = [f for f in findings if any(_about(f, v.view) for v, _, _ in laid.views)]
    column = column_of(checked.project, (laid.title, number, scales), size, notes, mine, date)
    return Sheet(
        number, laid.title, paper.name, *size, tuple(placed), (*frame_of(*size), *column, *block)
    )


def _inside(
    f: Fitted,
    x: float,
    y: float,
    by: tuple[float, float],
    room: tuple[float, float, float, float],
) -> tuple[float, float]:
    """Where a view lies that was moved by hand: no farther than to the rim."""
    left, foot, right, top = room
    return (
        max(left, min(right - f.width, x + by[0])) if by[0] else x,
        max(foot, min(top - f.height, y + by[1])) if by[1] else y,
    )


def _referred(sheet: Sheet, lies_on: dict[str, str]) -> Sheet:
    """A sheet whose marks name the sheets of the views they stand for."""
    views = tuple(
        replace(v, drawing=tuple(_named(m, lies_on) for m in v.drawing)) for v in sheet.views
    )
    return replace(sheet, views=views)


def _named(mark: Mark, lies_on: dict[str, str]) -> Mark:
    if isinstance(mark, Label) and mark.text.startswith(REFERENCE):
        return replace(mark, text=lies_on.get(mark.text.removeprefix(REFERENCE), "–"))
    return mark


def _about(finding: Finding, view: Drawn) -> bool:
    """Whether a finding belongs to what a plan shows."""
    return view.group == "plans" and finding.host is not None and view.key == f"plan:{finding.host}"


def _title(f: Fitted, number: str, scale: str, x: float, y: float) -> Iterator[Mark]:
    """The title under a view: its number in a ring, its name, its scale, north of a plan."""
    at = y + 7.0
    yield Disc((x + 4.6, at + 1.4), 4.6, "seen")
    yield Label(number, (x + 4.6, at - 0.2), 4.4, bold=True)
    yield Label(f.view.title, (x + 12.0, at + 0.8), 4.6, "start", bold=True)
    long = len(f.view.title) * 4.6 * 0.5 + 12.0
    yield Stroke(((x + 12.0, at - 1.0), (x + long, at - 1.0)), "seen")
    if scale:
        yield Label(scale, (x + 12.0, at - 5.8), TEXT, "start")
    if f.view.north:
        yield from _north(x + long + 8.0, at + 1.0)


STEPS: Final[dict[System, tuple[tuple[float, str], ...]]] = {
    "us": tuple((n * FOOT, f"{n}'") for n in (100, 50, 20, 10, 5, 2, 1)),
    "metric": tuple((n * 1000.0, f"{n:g} m") for n in (50, 20, 10, 5, 2, 1, 0.5, 0.2)),
}
BAR: Final = 45.0
"""The longest bar of a scale, mm of paper."""


def _scale_bar(f: Fitted, system: System, x: float, y: float) -> Iterator[Mark]:
    """A bar beside the scale in words, by which a print at half size is measured: its first half heavy.
    Nothing where the view is too narrow for it."""
    start = x + 12.0 + len(f.scale.words) * TEXT * 0.55 + 8.0
    most = min(BAR, x + f.width - start - 14.0)
    found = next((s for s in STEPS[system] if s[0] / f.scale.ratio <= most), None)
    if found is None or found[0] / f.scale.ratio < 4.0:
        return
    long, low, high = found[0] / f.scale.ratio, y + 1.4, y + 2.8
    ring = rectangle(start, low, start + long, high)
    yield Stroke((*ring, ring[0]), "seen")
    yield Stroke(((start + long / 2, low), (start + long / 2, high)), "seen")
    middle = (low + high) / 2
    yield Stroke(((start, middle), (start + long / 2, middle)), "cut")
    yield Label(found[1], (start + long + 1.6, y + 0.8), TEXT, "start")


def _north(x: float, y: float) -> Iterator[Mark]:
    """The project's north: up."""
    yield Stroke(((x, y - 4.0), (x, y + 4.0)), "seen")
    yield Stroke(((x - 1.5, y + 1.5), (x, y + 4.0), (x + 1.5, y + 1.5)), "seen")
    yield Label("N", (x, y + 4.8), TEXT, bold=True)
