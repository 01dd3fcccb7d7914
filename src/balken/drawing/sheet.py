"""Sheets: a drawing at a scale that fits the paper, with a title block and notes."""

import math
from collections.abc import Callable
from functools import cache
from typing import NamedTuple

import msgspec

from balken.design.trusses import TrussRoof
from balken.drawing.clearing import with_words, without_contours_under
from balken.drawing.cut import View
from balken.drawing.foundation_words import sizes_of
from balken.drawing.marks import Drawing, Label, Mark, Stroke, extent, rectangle
from balken.drawing.plan import plan, plan_notes
from balken.drawing.tiers import Tier
from balken.drawing.truss_figure import truss_drawing, truss_groups, truss_notes
from balken.drawing.upright import upright_lines, upright_notes
from balken.drawing.wall_elevation import piece_list, wall_elevation
from balken.drawing.wall_sheets import sheet_words
from balken.drawing.words import pretty
from balken.fit.finding import KIND_WORDS, Finding, amount_text
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.model.project import Project, host_record, wall
from balken.model.roofs import RoofArea
from balken.model.walls import called
from balken.takeoff.sheets import sheets_on
from balken.units import INCH, System, format_area_load, format_length, format_run
from balken.works.building import Checked, worst_of

PAPERS: dict[str, tuple[tuple[str, float, float], ...]] = {
    "us": (
        ("11 × 17 in", 17 * INCH, 11 * INCH),
        ("18 × 24 in", 24 * INCH, 18 * INCH),
        ("24 × 36 in", 36 * INCH, 24 * INCH),
    ),
    "metric": (("A3", 420.0, 297.0), ("A2", 594.0, 420.0), ("A1", 841.0, 594.0)),
}
SCALES: dict[str, tuple[tuple[float, str], ...]] = {
    "us": (
        (24, '1/2" = 1\'-0"'),
        (32, '3/8" = 1\'-0"'),
        (48, '1/4" = 1\'-0"'),
        (64, '3/16" = 1\'-0"'),
        (96, '1/8" = 1\'-0"'),
        (192, '1/16" = 1\'-0"'),
        (384, '1/32" = 1\'-0"'),
    ),
    "metric": tuple((n, f"1 : {n}") for n in (25, 50, 75, 100, 200, 250, 500, 1000)),
}
MARGIN = 10.0
BLOCK = 62.0
"""Width of the column of notes and title at the right, mm."""
READABLE = 100.0
"""Beyond this scale a larger paper is taken, if there is one."""


class Sheet(msgspec.Struct, frozen=True):
    """A page: size in mm, the drawing with its scale and where its origin lies, and marks in mm of
    paper."""

    number: str
    title: str
    paper: str
    width: float
    height: float
    scale: float
    scale_text: str
    origin: tuple[float, float]
    drawing: Drawing
    block: Drawing


def plan_sheet(
    checked: Checked, tier: Tier, number: str, findings: tuple[Finding, ...], date: str = ""
) -> Sheet:
    """The plan of a tier on the smallest paper and at the largest scale that hold it."""
    lines = plan(checked, tier)

    def make(scale: float) -> Drawing:
        notes = plan_notes(checked, tier, scale)
        return (
            without_contours_under(lines, notes, scale) if tier.kind == "ground" else lines
        ) + notes

    laid = _laid(make, checked.project.system)
    title = title_of(tier)
    words = _Words(title, number, laid.text, date, tuple(_notes(checked, tier)))
    mine = tuple(f for f in findings if tier.holds(f.host))
    return _sheet(checked, laid, words, mine)


def upright_sheet(checked: Checked, view: View, title: str, number: str, date: str = "") -> Sheet:
    """An elevation or section on the smallest paper and at the largest scale that hold
    it."""
    lines = upright_lines(checked, view)
    laid = _laid(lambda scale: lines + upright_notes(checked, view, scale), checked.project.system)
    return _sheet(checked, laid, _Words(title, number, laid.text, date), ())


class TrussKind(NamedTuple):
    """Trusses of a roof that are made alike: the first of them, and the rows of all."""

    title: str
    record: RoofArea
    roof: TrussRoof
    first: int
    rows: tuple[str, ...]


def truss_kinds(checked: Checked) -> list[TrussKind]:
    """The kinds of trusses there are: each has a sheet of its own."""
    records = {HostName("roof", r.id): r for r in checked.built.roofs}
    return [
        TrussKind(
            f"Truss {roof.placed[i].row} of {records[host].name}",
            records[host],
            roof,
            i,
            tuple(rows),
        )
        for host, roof in checked.trusses.items()
        for i, rows in truss_groups(roof)
    ]


def truss_sheet(checked: Checked, kind: TrussKind, number: str, date: str = "") -> Sheet:
    """The sheet of a kind of truss."""
    laid = _laid(
        lambda scale: truss_drawing(checked, kind.roof, kind.first, scale), checked.project.system
    )
    notes = truss_notes(
        checked, kind.roof, kind.first, list(kind.rows), kind.record.trusses.plate_strength
    )
    return _sheet(checked, laid, _Words(kind.title, number, laid.text, date, tuple(notes)), ())


def wall_sheet(checked: Checked, host: HostName, number: str, date: str = "") -> Sheet:
    """The framing of one wall, with its pieces."""
    laid = _laid(lambda scale: wall_elevation(checked, host, scale), checked.project.system)
    title = wall_sheet_title(checked.project, host)
    item = wall(checked.project, host.key)
    layers = [sheet_words(x, checked.project.system) for x in sheets_on(checked, item)]
    notes = (*piece_list(checked, host), *layers)
    return _sheet(checked, laid, _Words(title, number, laid.text, date, notes), ())


def wall_sheet_title(project: Project, host: HostName) -> str:
    """A framing sheet's title."""
    return f"Framing of {called(wall(project, host.key))}"


class _Laid(msgspec.Struct, frozen=True):
    """A drawing on its paper: the scale, and where its origin lies."""

    scale: float
    text: str
    paper: tuple[str, float, float]
    origin: tuple[float, float]
    drawing: Drawing


class _Words(msgspec.Struct, frozen=True):
    """The words of a sheet's column."""

    title: str
    number: str
    scale: str
    date: str
    notes: tuple[str, ...] = ("",)


def _laid(make: Callable[[float], Drawing], system: System) -> _Laid:
    make = cache(make)
    scale, text, paper = _fit(make, system)
    drawing = make(scale)
    x0, y0, x1, y1 = _grown(drawing, scale)
    room_w, room_h = paper[1] - 3 * MARGIN - BLOCK, paper[2] - 2 * MARGIN
    origin = (
        1.5 * MARGIN + (room_w - (x1 - x0) / scale) / 2 - x0 / scale,
        MARGIN + (room_h - (y1 - y0) / scale) / 2 - y0 / scale,
    )
    return _Laid(scale, text, paper, origin, drawing)


def _sheet(checked: Checked, laid: _Laid, words: _Words, findings: tuple[Finding, ...]) -> Sheet:
    name, width, height = laid.paper
    block = frame_of(width, height) + _block(checked.project, words, width, height, findings)
    return Sheet(
        words.number,
        words.title,
        name,
        width,
        height,
        laid.scale,
        laid.text,
        laid.origin,
        laid.drawing,
        block,
    )


def title_of(tier: Tier) -> str:
    """A sheet's title."""
    return {
        "ground": "Foundation plan",
        "walls": f"{tier.name} plan",
        "ceiling": "Ceiling framing plan",
        "roof": "Roof framing plan",
    }.get(tier.kind, tier.name.replace(" joists", "") + " framing plan")


def _fit(
    make: Callable[[float], Drawing], system: System
) -> tuple[float, str, tuple[str, float, float]]:
    """The scale, its words and the paper. To draw is work: only scales that can hold the
    drawing are tried, words growing with the scale while the building does not."""
    largest_scale = SCALES[system][0][0]
    x0, y0, x1, y1 = extent(make(largest_scale)) or (0.0, 0.0, 1.0, 1.0)
    wide, high = x1 - x0, y1 - y0
    best: tuple[float, str, tuple[str, float, float]] | None = None
    for paper in PAPERS[system]:
        room_w, room_h = paper[1] - 3 * MARGIN - BLOCK, paper[2] - 2 * MARGIN - 6
        for scale, text in SCALES[system]:
            if wide / scale > room_w or high / scale > room_h:
                continue
            x0, y0, x1, y1 = _grown(make(scale), scale)
            if (x1 - x0) / scale <= room_w and (y1 - y0) / scale <= room_h:
                if best is None or scale < best[0]:
                    best = best if best and best[0] <= READABLE else (scale, text, paper)
                break
    if best:
        return best
    largest = PAPERS[system][-1]
    needed = max(wide / (largest[1] - 5 * MARGIN - BLOCK), high / (largest[2] - 6 * MARGIN))
    scale = math.ceil(max(1.0, needed * 1.5) / 100) * 100
    return scale, f"1 : {scale:g}", largest


def _grown(drawing: Drawing, scale: float) -> tuple[float, float, float, float]:
    """The box round a drawing with room for the words and heads at its rim."""
    lines, words = extent(drawing) or (0.0, 0.0, 1.0, 1.0), with_words(drawing, scale)
    pad, beside = 5 * scale, scale
    return (
        min(lines[0] - pad, words[0] - beside),
        min(lines[1] - pad, words[1] - beside),
        max(lines[2] + pad, words[2] + beside),
        max(lines[3] + pad, words[3] + beside),
    )


def frame_of(width: float, height: float) -> tuple[Mark, ...]:
    """The frame of a sheet and the line beside its column of notes."""
    x = width - MARGIN - BLOCK
    return (
        Stroke(
            (
                *rectangle(MARGIN / 2, MARGIN / 2, width - MARGIN / 2, height - MARGIN / 2),
                (MARGIN / 2, MARGIN / 2),
            ),
            "seen",
        ),
        Stroke(((x, MARGIN / 2), (x, height - MARGIN / 2)), "hair"),
    )


def _block(
    project: Project, words: _Words, width: float, height: float, findings: tuple[Finding, ...]
) -> tuple[Mark, ...]:
    x = width - MARGIN - BLOCK + 4
    marks: list[Mark] = []

    def line(
        text: str, y: float, size: float = 2.4, *, bold: bool = False, quiet: bool = False
    ) -> None:
        marks.append(Label(text, (x, y), size, "start", bold=bold, quiet=quiet))

    y = height - 14.0
    line(project.name[:34], y, 5.0, bold=True)
    for text in words.notes:
        y -= 4.6
        line(text, y, 2.4, quiet=text.startswith("  "))
    if findings:
        y -= 8
        line("Open points", y, 2.8, bold=True)
        for f in findings[:12]:
            for piece in wrap(f"{KIND_WORDS[f.kind]} {amount_text(project, f)}: {f.place}", 40):
                y -= 4.2
                line(piece, y)
    line(words.title, 40, 4.2, bold=True)
    line(f"scale {words.scale}", 33.5, 2.8)
    line(words.date, 28.5, 2.4, quiet=True)
    line("sheet", 19, 2.4, quiet=True)
    line(words.number, 11, 7.0, bold=True)
    marks.append(Stroke(((x - 4, 48), (width - MARGIN / 2, 48)), "hair"))
    marks.append(
        Label("Dimensions of structure and outer wall faces.", (x, 50), 2.0, "start", quiet=True)
    )
    return tuple(marks)


def _notes(checked: Checked, tier: Tier) -> list[str]:
    host = tier.host
    notes = ["", *(_host_notes(checked, host) if host is not None else ())]
    materials = dict.fromkeys(m.material for m in checked.structure.members if tier.holds(m.host))
    return notes + [f"  {m}" for m in materials]


def _host_notes(checked: Checked, host: HostName) -> list[str]:
    """What is noted of a floor, a roof or the foundations."""
    notes = _size_notes(checked, host)
    if host.kind == "run":
        return notes + _foundation_notes(checked.project)
    record, system = host_record(checked.project, host), checked.project.system
    if isinstance(record, FloorArea):
        live, dead = (format_area_load(x, system) for x in (record.live, record.dead))
        notes.append(f"  {live} live, {dead} dead")
    if isinstance(record, RoofArea):
        snow, live = (format_area_load(x, system) for x in (record.snow, record.live))
        notes.append(f"  {record.rise:g} in 12, overhang {format_run(record.overhang, system)}")
        notes.append(f"  {snow} snow, {live} roof live")
    return notes


def _size_notes(checked: Checked, host: HostName) -> list[str]:
    """Section, spacing and count of a host's pieces, and how far they are used."""
    sized, system = checked.sizes.get(host), checked.project.system
    if sized is None:
        return []
    count = sum(m.host == host and m.carrier.area > 0 for m in checked.structure.members)
    spacing = format_run(sized.size.spacing, system)
    ratio, check, _ = worst_of(checked, host)
    span = format_length(sized.span, system)
    return [
        f"{pretty(sized.size.section)} at {spacing}, {count} pieces",
        f"  span {span}, {check.lower()} {ratio:.2f} of 1.00",
    ]


def _foundation_notes(project: Project) -> list[str]:
    """What each foundation is, and what it stands in."""
    site, system = project.site, project.system
    lines = [line for r in project.runs for line in wrap(f"{r.name}: {sizes_of(r, project)}", 34)]
    return [
        *lines,
        f"  soil bearing {format_area_load(site.soil_bearing, system)} presumed",
        f"  bottoms {format_length(site.frost_depth, system)} or more below the ground",
    ]


def wrap(text: str, width: int) -> list[str]:
    """Break words into lines of at most ``width`` letters."""
    import textwrap

    return textwrap.wrap(text, width) or [""]
