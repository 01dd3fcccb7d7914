"""The book put together: contents, basis, loads, a part for each group of alike members, the list of
all, and what is open."""

from collections.abc import Iterable, Iterator
from functools import partial
from typing import Final

from balken.design.lines import Check, format_value
from balken.drawing.beam_figure import beam_figure
from balken.drawing.book import chapters
from balken.drawing.book.flow import (
    LINE,
    TEXT,
    Column,
    Entry,
    Piece,
    drawn,
    gap,
    heading,
    line,
    numbered,
    pages_of,
    paragraph,
    row,
    table,
    whole,
    width_of,
)
from balken.drawing.book.groups import Group, groups_of
from balken.drawing.figure import figure
from balken.drawing.marks import Label, Stroke
from balken.drawing.paper.records import Sheet
from balken.drawing.sheet_set import Page
from balken.drawing.words import pretty
from balken.fit.finding import Finding
from balken.loads.ways import LoadWays, ways_of
from balken.model.cases import CASE_NAMES
from balken.model.names import HostName, Rest
from balken.progress import Tell, unheard
from balken.units import System, format_force, format_length
from balken.works.building import Checked, checks_of

GIVERS: Final = 6
"""So many that give their load to a member are named."""


def calculation_book(
    checked: Checked, findings: tuple[Finding, ...], date: str = "", tell: Tell = unheard
) -> tuple[Sheet, ...]:
    """All pages of the book.

    Args:
        checked: the building.
        findings: what is open in it.
        date: of the book.
        tell: takes in how far it is; what it raises ends the work.
    """
    system = checked.project.system
    pages, contents = pages_of(_pieces(checked, findings, tell), system)
    # The contents may need more than one page, which moves what they name.
    front = 1
    for _ in range(2):
        first, _none = pages_of(_front(checked, contents, front, date), system)
        front = len(first)
    words = {e.page + front: e.words for e in reversed(contents)}
    laid = [*first, *pages]

    def called(page: int) -> str:
        before = [p for p in words if p <= page]
        return words[max(before)] if before else "Contents"

    return numbered(laid, f"{checked.project.name}: calculation", system, called)


def book_pages(checked: Checked, findings: tuple[Finding, ...], date: str = "") -> tuple[Page, ...]:
    """The pages of the book as they are looked at one by one, after the sheets."""
    return as_pages(calculation_book(checked, findings, date))


def as_pages(sheets: Iterable[Sheet]) -> tuple[Page, ...]:
    """Sheets that are laid already, as pages to be looked at one by one."""
    return tuple(Page(s.number, s.title, partial(_laid, s)) for s in sheets)


def _laid(sheet: Sheet) -> Sheet:
    return sheet


def _front(checked: Checked, contents: list[Entry], front: int, date: str) -> Iterator[Piece]:
    """The title and the contents."""
    system = checked.project.system
    yield gap(16.0)
    yield Piece(10.0, (Label(checked.project.name, (0.0, -8.0), 8.0, "start", bold=True),))
    yield Piece(9.0, (Label("Structural calculation", (0.0, -6.0), 4.4, "start"),))
    if date:
        yield line(date, quiet=True)
    yield gap(10.0)
    for e in contents:
        right = width_of(system)
        words = Label(e.words, (4.0 * e.level, -3.4), TEXT, "start", bold=e.level == 0)
        page = Label(str(e.page + front + 1), (right, -3.4), TEXT, "end")
        yield Piece(LINE + (1.5 if e.level == 0 else 0.0), (words, page))


def _pieces(checked: Checked, findings: tuple[Finding, ...], tell: Tell) -> Iterator[Piece]:
    yield from chapters.basis(checked)
    yield from chapters.loads(checked)
    yield from chapters.sideways(checked)
    yield heading("Members", new_page=True)
    groups, ways = groups_of(checked), ways_of(checked.path)
    for n, group in enumerate(groups, 1):
        tell(f"Calculation {n} of {len(groups)}: {group.title} …")
        yield from _group(checked, ways, group)
    yield from chapters.members(checked)
    yield from chapters.open_points(findings, checked)


def _group(checked: Checked, ways: LoadWays, group: Group) -> Iterator[Piece]:
    """A group: the most used of it with its figure, loads and checks; the marks of the others."""
    m, system = group.worst, checked.project.system
    yield heading(group.title, 1)
    of = dict.fromkeys((pretty(m.section), pretty(m.material)))
    cut_from = " ".join(x for x in of if x)
    long = f"{format_length(m.length, system)} long"
    yield line(f"{cut_from}, {long}" if cut_from else long)
    if len(group.members) > 1:
        marks = [f"{x.mark} {checked.used[x.id][0]:.2f}" for x in group.members[1:]]
        shown = ", ".join(marks[:ALIKE])
        more = f" and {len(marks) - ALIKE} more" if len(marks) > ALIKE else ""
        words = f"alike, with how far each is used: {shown}{more}"
        yield from paragraph(words, system, quiet=True)
    drawing = beam_figure(checked, m)[0] if m.id in checked.carrying else figure(checked, m)
    yield drawn(drawing, system)
    yield from _loads(checked, ways, m.id)
    for check in checks_of(checked, m):
        yield whole(_check(check, system))
    yield gap(4.0)


ALIKE: Final = 8
"""So many alike members are named beside the most used; the list at the end has them all."""


def _loads(checked: Checked, ways: LoadWays, name: Rest) -> Iterator[Piece]:
    """What gives its load to a member, and what it hands on, case by case."""
    system = checked.project.system
    givers = sorted(ways.givers.get(name, {}).items(), key=lambda g: (-g[1], str(g[0])))
    names: dict[Rest, str] = {m.id: f"{m.role} {m.mark}" for m in checked.structure.members}
    if givers:
        told = [f"{names.get(g) or _host(g)} {format_force(f, system)}" for g, f in givers[:GIVERS]]
        more = f" and {len(givers) - GIVERS} more" if len(givers) > GIVERS else ""
        yield from paragraph(f"carries {', '.join(told)}{more}", system)
    ends = checked.path.reactions.get(name, ()) if not isinstance(name, HostName) else ()
    if not ends:
        return
    cases = [n for n in CASE_NAMES if any(getattr(e, n) for e in ends)]
    columns = [Column("hands on", 0.0), *chapters.case_columns(cases, 40.0, system)]
    rows = [
        [f"at support {n}", *(format_force(getattr(e, c), system) for c in cases)]
        for n, e in enumerate(ends, 1)
    ]
    yield from table(columns, rows, system)
    yield gap(2.0)


def _host(name: Rest) -> str:
    return f"{name.kind} {name.key}" if isinstance(name, HostName) else str(name)


SYMBOLS: Final = (Column("", 2.0), Column("", 42.0, right=True), Column("", 46.0))


def _check(check: Check, system: System) -> Iterator[Piece]:
    """A check: its utilisation, then every line as formula, numbers and clause."""
    by = ", ".join(x for x in (check.combination, check.clause) if x not in ("", "–"))
    right = width_of(system)
    yield Piece(
        6.4,
        (
            Label(check.name, (0.0, -4.6), 3.0, "start", bold=True),
            Label(by, (46.0, -4.6), TEXT - 0.2, "start"),
            Label(f"{check.ratio:.2f}", (right, -4.6), 3.0, "end", bold=True),
            Stroke(((0.0, -6.0), (right, -6.0)), "hair"),
        ),
    )
    for x in check.lines:
        how = "; ".join(t for t in (x.how, x.clause) if t)
        yield row(SYMBOLS, (x.symbol, format_value(x, system), how))
    yield gap(2.0)
