"""A set of sheets: views of a kind share sheets at the largest standard scale at which they fit, in their
order, row by row; schedules and general notes have sheets of their own; the first sheet is the index."""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.drawing.marks import Mark, shifted
from balken.drawing.paper.ahead import Schedules, work_ahead
from balken.drawing.paper.column import column_of, frame_of, room_of
from balken.drawing.paper.first_sheet import in_room, index_marks, is_large
from balken.drawing.paper.fitting import GAP, UNDER, Fitted, fitted, scale_of
from balken.drawing.paper.legend import used_in
from balken.drawing.paper.match_lines import in_parts, named
from balken.drawing.paper.records import Placed, Sheet
from balken.drawing.paper.sizes import PAPERS, USUAL, Scale, Size, scales_from
from balken.drawing.paper.tables import Table, marks_of, size_of, split
from balken.drawing.paper.titles import scale_bar, title_marks
from balken.drawing.paper.views import LARGEST, Drawn, Group, views_of
from balken.fit.finding import Finding
from balken.progress import Tell, unheard
from balken.recall import remembering
from balken.units import System
from balken.works.building import Checked

TITLES: Final[dict[Group, str]] = {
    "plans": "Plans",
    "upright": "Elevations and sections",
    "details": "Details",
    "joints": "Details of joints",
    "space": "In space",
    "walls": "Framing of walls",
    "trusses": "Trusses",
}
ENOUGH: Final = 0.75
"""A smaller paper does where plans fill it so much as well as the best one."""
SMALLEST: Final[dict[System, float]] = {"us": 96.0, "metric": 100.0}
"""No plan is drawn smaller: 1/8 in to a foot, 1 to 100 (common practice, no source)."""
WANTED: Final[dict[System, float]] = {"us": 48.0, "metric": 50.0}
"""The scale at which plans are wanted, where the paper is chosen by itself."""


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
    with remembering():  # what an edit did not touch is not drawn again where the caller remembers
        return _sheets_of(checked, findings, date, tell)


def _sheets_of(
    checked: Checked, findings: Sequence[Finding], date: str, tell: Tell
) -> tuple[Sheet, ...]:
    views = list(views_of(checked))
    schedules = work_ahead(checked, views, tell)
    paper = paper_of(checked, views)
    first = [v for v in views if v.group == "space"] if is_large(paper) else []
    sheets: list[_Laid] = []
    for group, of_group in groupby((v for v in views if v not in first), key=lambda v: v.group):
        sheets += _laid(checked, list(of_group), (group, schedules), paper, tell)
    placed = [table for laid in sheets for table, _, _ in laid.tables]
    tables = list(_tables([t for t in schedules.every if t not in placed], paper))
    return tuple(_numbered(checked, (first, sheets), tables, paper, findings, date))


class _Laid(NamedTuple):
    """Views that lie on one sheet, each with its lower left corner."""

    title: str
    views: tuple[tuple[Fitted, float, float], ...]
    tables: tuple[tuple[Table, float, float], ...] = ()
    """Schedules of what its plans mark, where there is room beside them, each with its upper left corner."""


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


def _laid(
    checked: Checked, views: list[Drawn], of_group: tuple[Group, Schedules], paper: Size, tell: Tell
) -> Iterator[_Laid]:
    """Views of a group on their sheets; schedules beside them where there is room."""
    group, schedules = of_group
    done = [
        part
        for f in _at_one_scale(checked, views, group, paper, tell)
        for part in in_parts(f, paper)
    ]
    left, foot, right, top = room_of(paper.width, paper.height)
    for n, rows in enumerate(_packed(done, paper), 1):
        mine = [f for row in rows for f in row]
        tables = [t for f in mine for t in schedules.beside.get(f.view.key, ())]
        strip, placed = _at_the_side(rows, tables, paper)
        spread = tuple(_spread(rows, (left, foot, right - strip, top)))
        title = f"{TITLES[group]}{f' {n}' if n > 1 else ''}"
        yield _Laid(mine[0].view.title if len(mine) == 1 else title, spread, tuple(placed))


def _at_one_scale(
    checked: Checked, views: list[Drawn], group: Group, paper: Size, tell: Tell
) -> list[Fitted]:
    """Views of a group at the largest scale at which each fits on a sheet, but for those whose scale is
    typed."""
    typed = {v.key for v in checked.project.paper.views if v.scale}
    *larger, last = _scales_of(checked.project.system, group)
    for scale in larger:
        done: list[Fitted] = []
        for n, view in enumerate(views, 1):
            tell(f"{TITLES[group]}, {n} of {len(views)}: {view.title} …")
            one = fitted(view, scale_of(checked, view, scale))
            if not _holds(paper, one) and view.key not in typed:
                break
            done.append(one)
        if len(done) == len(views):
            return done
    return [fitted(view, scale_of(checked, view, last)) for view in views]


def _scales_of(system: System, group: Group) -> tuple[Scale, ...]:
    """The scales of a group, the largest first; plans that are larger at the last go on over several
    sheets."""
    scales = scales_from(system, LARGEST[group][system])
    return tuple(s for s in scales if group != "plans" or s.ratio <= SMALLEST[system])


def _at_the_side(
    rows: list[list[Fitted]], tables: Sequence[Table], paper: Size
) -> tuple[float, list[tuple[Table, float, float]]]:
    """Schedules in a column at the right of the views of a sheet, those that have room there; and how wide
    that column is, mm."""
    left, foot, right, top = room_of(paper.width, paper.height)
    used = max(sum(f.width + GAP for f in row) for row in rows)
    fitting = [t for t in tables if size_of(t)[0] + 2 * GAP <= right - left - used]
    kept: list[tuple[Table, float]] = []
    y = top
    for table in fitting:
        _, tall = size_of(table)
        if y - tall >= foot:
            kept.append((table, y))
            y -= tall + GAP
    strip = max((size_of(t)[0] + GAP for t, _ in kept), default=0.0)
    return strip, [(table, right - strip + GAP, at) for table, at in kept]


def _packed(views: Sequence[Fitted], paper: Size) -> list[list[list[Fitted]]]:
    """Views in rows, row after row, sheet after sheet."""
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
    return [[row for row in rows if row] for rows in sheets if any(rows)]


def _spread(
    rows: list[list[Fitted]], room: tuple[float, float, float, float]
) -> list[tuple[Fitted, float, float]]:
    """Views of a sheet from the top left; what room is left is shared out between them."""
    left, foot, right, top = room
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


def _tables(schedules: Sequence[Table], paper: Size) -> Iterator[list[tuple[Table, float, float]]]:
    """Schedules in columns, sheet after sheet, each with its upper left corner."""
    left, foot, right, top = room_of(paper.width, paper.height)
    here: list[tuple[Table, float, float]] = []
    x, y, wide = left, top, 0.0
    for whole in schedules:
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
    marks, free = index_marks(checked, names, numbers, paper, used)
    seen = _Laid(names[0], tuple(in_room(checked, v, free) for v in first))
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
    return Sheet(number, name, paper.name, *size, (), block, checked.project.paper.colour)


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
        block += title_marks(f, f"{n}", words, x, y)
        if words:
            block += scale_bar(f, checked.project.system, x, y)
        if f.view.notes:
            notes.append((f"{n}  {f.view.title}" if len(laid.views) > 1 else "", f.view.notes))
    size = (paper.width, paper.height)
    scales = ", ".join(dict.fromkeys(p.scale_text for p in placed if p.scale_text))
    mine = [f for f in findings if any(_about(f, v.view) for v, _, _ in laid.views)]
    column = column_of(checked.project, (laid.title, number, scales), size, notes, mine, date)
    block += [shifted(m, (x, y)) for table, x, y in laid.tables for m in marks_of(table)]
    lines = (*frame_of(*size), *column, *block)
    colour = checked.project.paper.colour
    return Sheet(number, laid.title, paper.name, *size, tuple(placed), lines, colour)


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
        replace(v, drawing=tuple(named(m, lies_on) for m in v.drawing)) for v in sheet.views
    )
    return replace(sheet, views=views)


def _about(finding: Finding, view: Drawn) -> bool:
    """Whether a finding belongs to what a plan shows."""
    return view.group == "plans" and finding.host is not None and view.key == f"plan:{finding.host}"
