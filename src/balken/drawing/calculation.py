"""The calculation sheet: the most used member of every host, each check with all its lines."""

from balken.design.lines import Check, format_value
from balken.drawing.figure import figure
from balken.drawing.marks import Drawing, Label, Mark, Stroke, extent
from balken.drawing.sheet import BLOCK, MARGIN, PAPERS, Sheet, frame_of
from balken.drawing.words import pretty
from balken.framing.member import Member
from balken.model.names import HostName
from balken.works.building import Checked, checks_of
from balken.works.terms import terms_of

LINE = 4.1
COLUMN = 88.0
FIGURE_SCALE = 1.0
"""A figure is 100 units wide; on the sheet a unit is a mm."""


def worst_members(checked: Checked) -> list[Member]:
    """The most used member of every host that has checks."""
    found: dict[HostName, Member] = {}
    for m in checked.structure.members:
        if m.id in checked.used:
            best = found.get(m.host)
            if best is None or checked.used[m.id][0] > checked.used[best.id][0] + 1e-9:
                found[m.host] = m
    return list(found.values())


def calculation_sheet(checked: Checked, member: Member, number: str, date: str = "") -> Sheet:
    """The sheet with the calculation of a member, the most used of its host."""
    name, width, height = PAPERS[checked.project.system][0]
    marks: list[Mark] = []
    x, top = 1.5 * MARGIN, height - 14.0
    marks.append(Label(f"{member.mark}  {member.role}", (x, top), 4.6, "start", bold=True))
    line = f"{pretty(member.section)} {member.material}, the most used of {member.host}"
    marks.append(Label(line, (x, top - 6), 2.6, "start", quiet=True))
    y = top - 15
    for check in checks_of(checked, member):
        needed = (len(check.lines) + 2.5) * LINE
        if y - needed < MARGIN:
            x, y = x + COLUMN + 8, top - 15
        y = _check(checked, check, x, y, marks)
    block_x = width - MARGIN - BLOCK + 4
    for text, at, size, bold in (
        (checked.project.name[:34], height - 14.0, 5.0, True),
        ("Calculation", 40.0, 4.2, True),
        (terms_of(checked.project).timber.basis, 33.5, 2.4, False),
        (date, 28.5, 2.4, False),
        ("sheet", 19.0, 2.4, False),
        (number, 11.0, 7.0, True),
    ):
        marks.append(Label(text, (block_x, at), size, "start", bold=bold))
    title = f"Calculation {member.mark}"
    drawn = figure(checked, member)
    top_of = max((y for _, y in _places(drawn)), default=0.0)
    origin = (x + COLUMN + 24, height - 30.0 - top_of / FIGURE_SCALE)
    block = (*frame_of(width, height), *marks)
    return Sheet(number, title, name, width, height, FIGURE_SCALE, "", origin, drawn, block)


def _places(drawing: Drawing) -> list[tuple[float, float]]:
    found = extent(drawing)
    return [(found[0], found[1]), (found[2], found[3])] if found else []


def _check(checked: Checked, check: Check, x: float, y: float, marks: list[Mark]) -> float:
    marks.append(Label(check.name, (x, y), 3.0, "start", bold=True))
    marks.append(Label(f"{check.ratio:.2f}", (x + COLUMN, y), 3.0, "end", bold=True))
    marks.append(
        Label(f"{check.combination}, {check.clause}", (x + 34, y), 2.4, "start", quiet=True)
    )
    marks.append(Stroke(((x, y - 1.2), (x + COLUMN, y - 1.2)), "hair"))
    for line in check.lines:
        y -= LINE
        marks.append(Label(line.symbol, (x + 2, y - 0.6), 2.4, "start"))
        marks.append(
            Label(format_value(line, checked.project.system), (x + 34, y - 0.6), 2.4, "end")
        )
        note = "; ".join(t for t in (line.how, line.clause) if t)
        marks.append(Label(note, (x + 37, y - 0.6), 2.1, "start", quiet=True))
    return y - 2.4 * LINE
