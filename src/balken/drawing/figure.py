"""The figure on the slip: the selected piece drawn with its supports, loads and inner forces.

Figures have their own frame: 1 unit is 1 mm of a figure 100 mm wide; heights follow from what is
shown.
"""

import math
from collections.abc import Callable
from itertools import pairwise
from typing import Final

from balken.analysis.simple import moment
from balken.design.lines import Check
from balken.design.pads import OnPad
from balken.design.sizing import member_span
from balken.design.soil.pressure import cantilever, propped, shear_and_moment
from balken.design.strips import plan_width
from balken.design.trusses import row_of
from balken.drawing.bars import beam_across, slab_through, wall_bars
from balken.drawing.marks import Disc, Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.truss_figure import truss_figure, truss_of_member
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member, clear_span
from balken.geometry.plane import Point, Ring
from balken.loads.codes.us.combinations import GRAVITY
from balken.model.cases import NOTHING
from balken.model.names import HostName
from balken.model.project import Project
from balken.units import (
    format_area_load,
    format_force,
    format_length,
    format_line_load,
    format_moment,
    format_run,
)
from balken.works.building import Checked, checked_among, checks_of
from balken.works.earth import backfill_of
from balken.works.pads import on_pad
from balken.works.records import support_of

WIDTH = 100.0
TEXT = 3.6


def figure(checked: Checked, member: Member) -> Drawing:
    """The figure of a member."""
    truss = truss_of_member(checked, member)
    if truss is not None:
        piece = row_of(member)
        return truss_figure(checked, *truss, f"{member.role} {piece[2] if piece else 1}")
    return FIGURES.get(member.kind, _plain)(checked, member)


def _governing(checked: Checked, member: Member) -> tuple[float, float, str]:
    """Line load, end reaction and combination of the bending check."""
    among = checked_among(checked, member)
    if among is None:
        return 0.0, 0.0, ""
    host, i = among
    combo = host.batch.combinations[int(host.results.governs[0, i])]
    w = sum(f * float(q) for f, q in zip(combo.factors, host.batch.line[:, i]))
    r = sum(f * float(q) for f, q in zip(combo.factors, host.batch.reaction[:, i]))
    return w, r, combo.name


def _arrows(x0: float, x1: float, y: float, height: float) -> list[Mark]:
    marks: list[Mark] = [Stroke(((x0, y + height), (x1, y + height)), "hair")]
    for i in range(14):
        x = x0 + (x1 - x0) * i / 13
        marks.append(Stroke(((x, y + height), (x, y + 0.6)), "hair"))
        marks.append(Patch(((x - 0.7, y + 1.8), (x + 0.7, y + 1.8), (x, y + 0.3)), "ink", "none"))
    return marks


def _support(x: float, y: float) -> list[Mark]:
    return [
        Patch(((x, y), (x - 2.6, y - 4.4), (x + 2.6, y - 4.4)), "none", "seen"),
        Stroke(((x - 4, y - 4.4), (x + 4, y - 4.4)), "seen"),
    ]


def _joist(checked: Checked, member: Member) -> Drawing:
    """A joist across its bearings, with its load and moment."""
    if member_span(member) <= 0:
        return _plain(checked, member)
    system = checked.project.system
    w, r, combo = _governing(checked, member)
    span = member_span(member)
    x0, x1 = 4.0, 96.0
    marks: list[Mark] = _arrows(x0, x1, 5.0, 8.0)
    marks.append(Label(f"{combo}: {format_line_load(w, system)}", (50, 15.2), TEXT))
    marks.append(Patch(rectangle(x0, 0, x1, 5), "timber", "seen"))
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    scale = (x1 - x0) / member.run
    a, b = x0 + first.at * scale, x0 + last.at * scale
    marks += _support(a, 0) + _support(b, 0)
    marks.append(Label(format_force(r, system), (x0, -9.2), TEXT, "start"))
    marks.append(Label(format_force(r, system), (x1, -9.2), TEXT, "end"))
    marks.append(
        Label(f"clear {format_length(clear_span(member), system)}", (50, -9.2), TEXT, quiet=True)
    )
    curve: list[Point] = [
        (a + (b - a) * t / 24, -15 - 11 * 4 * (t / 24) * (1 - t / 24)) for t in range(25)
    ]
    marks.append(Patch(tuple(curve), "shade", "seen"))
    marks.append(Stroke(((a, -15), (b, -15)), "cut"))
    marks.append(Label(format_moment(moment(w, span), system), (50, -21.4), TEXT, bold=True))
    marks.append(Label("moment", (x0, -26.5), TEXT, "start", quiet=True))
    return tuple(marks)


def _rafter(checked: Checked, member: Member) -> Drawing:
    """A rafter on its slope, with its load and its seat."""
    if clear_span(member) <= 0:
        return _plain(checked, member)
    system = checked.project.system
    w, r, combo = _governing(checked, member)
    outline = member.solid.outline
    x_low, x_high = min(p[0] for p in outline), max(p[0] for p in outline)
    z_low = min(p[1] for p in outline)
    scale = min(92.0 / (x_high - x_low), 60.0 / (max(p[1] for p in outline) - z_low))

    def at(p: Point) -> Point:
        return (4 + (p[0] - x_low) * scale, (p[1] - z_low) * scale)

    ring = tuple(at(p) for p in outline)
    marks: list[Mark] = [Patch(ring, "timber", "seen")]
    top = max(p[1] for p in ring) + 3
    right = max(p[0] for p in ring)
    marks += _arrows(4, right, top, 7)
    marks.append(
        Label(f"{combo}: {format_line_load(w, system)} of plan", ((4 + right) / 2, top + 9), TEXT)
    )
    seat_length = member.carrier.supports[0].length
    seat_x, seat_z = _seat(outline)
    seat = at((seat_x + seat_length / 2, seat_z))
    marks += [
        Patch(
            rectangle(at((seat_x, 0.0))[0], seat[1] - 3, at((seat_x + 140.0, 0.0))[0], seat[1]),
            "end grain",
            "seen",
        ),
        Label(format_force(r, system), (seat[0] + 6, seat[1] - 7.5), TEXT, "start"),
        Label(
            f"seat {format_run(seat_length, system)}",
            (seat[0] + 6, seat[1] - 12.5),
            TEXT,
            "start",
            quiet=True,
        ),
    ]
    rise = member.slope * 12
    marks.append(
        Label(
            f"{rise:g} in 12, {math.degrees(math.atan(member.slope)):.1f}°",
            (right, seat[1] - 7.5),
            TEXT,
            "end",
        )
    )
    marks.append(
        Label(
            f"{format_length(member.length, system)} along the slope",
            (right, seat[1] - 12.5),
            TEXT,
            "end",
            quiet=True,
        )
    )
    return tuple(marks)


def _seat(outline: Ring) -> Point:
    """Where a rafter sits: the top of its heel cut, over the wall's face; the lowest corner
    of one that has none, such as a jack with its heel blocked up."""
    heel = [p for p in outline if abs(p[0]) < 1e-6]
    return max(heel, key=lambda p: p[1]) if heel else min(outline, key=lambda p: (p[1], p[0]))


def _soil_arrows(x0: float, x1: float, y: float, low: float, high: float) -> list[Mark]:
    """The soil pressing up on a bottom: arrows as long as the pressure, from one end to the
    other."""
    marks: list[Mark] = [Stroke(((x0, y - low), (x1, y - high)), "hair")]
    for i in range(9):
        x, deep = x0 + (x1 - x0) * i / 8, low + (high - low) * i / 8
        if deep > 1.6:
            marks.append(Stroke(((x, y - deep), (x, y - 1.5)), "hair"))
            marks.append(
                Patch(((x - 0.7, y - 1.8), (x + 0.7, y - 1.8), (x, y - 0.3)), "ink", "none")
            )
    return marks


def _footing(checked: Checked, member: Member) -> Drawing:
    """A strip, a thickened edge or a grade beam across, with what comes down and what the soil
    gives back."""
    project, system = checked.project, checked.project.system
    run = next(r for r in project.runs if HostName("run", r.id) == member.host)
    low, high = member.solid.bounds()
    height = high[2] - low[2]
    width = plan_width(member)
    scale = min(60 / width, 40 / height)
    half, deep = width / 2 * scale, height * scale
    stem = (run.stem_thickness or min(width, 140.0)) / 2 * scale
    out = run.footing_shift * scale
    forces = checked.path.soil.get(member.id, NOTHING)
    total = max(forces.weighed(combo.factors) for combo in GRAVITY)
    pressure = checks_of(checked, member)[0].ratio * project.site.soil_bearing
    marks: list[Mark] = [
        Patch(rectangle(50 - half - out, 0, 50 + half - out, deep), "concrete", "cut"),
        Patch(
            rectangle(50 - stem, deep, 50 + stem, deep + 20),
            "concrete" if run.stem_thickness else "wall",
            "cut",
        ),
        Stroke(((50 - stem - 2, deep + 20), (50 + stem + 2, deep + 20)), "centre"),
        Label(format_force(total, system), (50 + stem + 4, deep + 15), TEXT, "start", bold=True),
        Label(
            f"on {format_length(member.length, system)}",
            (50 + stem + 4, deep + 9.5),
            TEXT,
            "start",
            quiet=True,
        ),
    ]
    tilted = (9.0, 9.0) if not out else (11.0, 6.0) if out < 0 else (6.0, 11.0)
    marks += _soil_arrows(50 - half - out, 50 + half - out, 0.0, *tilted)
    words = (
        f"{format_area_load(pressure, system)} into the soil"
        if math.isfinite(pressure)
        else "turns over"
    )
    marks.append(Label(words, (50 - out, -14.5), TEXT))
    size = f"{format_run(width, system)} × {format_run(height, system)}"
    marks.append(Label(size, (50 - out, deep / 2 - 1.3), TEXT, boxed=True))
    return tuple(marks)


def _pad(checked: Checked, member: Member) -> Drawing:
    """A pad across with its post, its bars, and the soil under it; beside it the pad from above."""
    project, system = checked.project, checked.project.system
    item = support_of(project, member)
    above = on_pad(project, member, checked.structure.standing)
    low, high = member.solid.bounds()
    deep = (high[2] - low[2]) * 46.0 / max(item.size)
    checks = checks_of(checked, member)
    sizes = (*item.size, high[2] - low[2])
    words = " × ".join(format_run(s, system) for s in sizes)
    marks = [
        *_pad_across(item.size, deep, above, hooked=_is_hooked(checks)),
        *_pad_soil(checks[0], item.size, deep, above, project),
        *_pad_from_above(item.size, above),
        Label(words, (50, deep + 22.5), TEXT, bold=True),
    ]
    bars = next((s.how for check in checks for s in check.lines if s.symbol == "bars"), "")
    if bars:
        under = 6.0 - item.size[1] / 2 * 36.0 / max(item.size)
        marks.append(Label(bars, (78.0, under - 5.0), TEXT, quiet=True))
    return tuple(marks)


def _is_hooked(checks: tuple[Check, ...]) -> bool:
    """Whether the bars of a pad are bent up at their ends."""
    return any(s.how == "hooked" for c in checks for s in c.lines)


def _pad_across(
    size: tuple[float, float], deep: float, above: OnPad | None, *, hooked: bool
) -> list[Mark]:
    """A pad cut through, with its bars and the post on it."""
    scale = 46.0 / max(size)
    half = size[0] / 2 * scale
    marks: list[Mark] = [Patch(rectangle(26 - half, 0, 26 + half, deep), "concrete", "cut")]
    if above:
        middle, post = 26 + above.off[0] * scale, above.column[0] / 2 * scale
        body = rectangle(middle - post, deep, middle + post, deep + 16)
        marks.append(Patch(body, "timber", "cut"))
    cover = max(1.4, 75.0 * scale)
    bar: tuple[Point, ...] = ((26 - half + 1.4, cover), (26 + half - 1.4, cover))
    if hooked:
        up = min(deep - 1.0, cover + 5.0)
        bar = ((26 - half + 1.4, up), *bar, (26 + half - 1.4, up))
    marks.append(Stroke(bar, "cut"))
    return marks


def _pad_soil(
    soil: Check,
    size: tuple[float, float],
    deep: float,
    above: OnPad | None,
    project: Project,
) -> list[Mark]:
    """The force on a pad, and the soil that answers: harder on the side where the force stands."""
    scale, system = 46.0 / max(size), project.system
    half = size[0] / 2 * scale
    off = above.off[0] * scale if above else 0.0
    post = (above.column[0] if above else 100.0) / 2 * scale
    known = {s.symbol: s.value for s in reversed(soil.lines)}
    beside = (26 + off + post + 3, deep + 10)
    ends = (9.0, 9.0)
    if known.get("e", 0.0):
        ends = (4.0, 12.0) if off >= 0 else (12.0, 4.0)
    pressure = soil.ratio * project.site.soil_bearing
    words = "lifts or turns over"
    if math.isfinite(pressure):
        words = f"{format_area_load(pressure, system)} into the soil"
    return [
        Label(format_force(known.get("P", 0.0), system), beside, TEXT, "start", bold=True),
        *_soil_arrows(26 - half, 26 + half, 0.0, *ends),
        Label(words, (26, -17.0), TEXT),
    ]


def _pad_from_above(size: tuple[float, float], above: OnPad | None) -> list[Mark]:
    """A pad from above, its bars both ways, and the post on it."""
    x, y, scale = 78.0, 6.0, 36.0 / max(size)
    a, b = size[0] / 2 * scale, size[1] / 2 * scale
    marks: list[Mark] = [Patch(rectangle(x - a, y - b, x + a, y + b), "none", "seen")]
    for i in range(7):
        t = -1 + 2 * (i + 0.5) / 7
        marks += [
            Stroke(((x + t * a, y - b + 1), (x + t * a, y + b - 1)), "hair"),
            Stroke(((x - a + 1, y + t * b), (x + a - 1, y + t * b)), "hair"),
        ]
    if above:
        c, d = above.column[0] / 2 * scale, above.column[1] / 2 * scale
        x, y = x + above.off[0] * scale, y + above.off[1] * scale
        marks.append(Patch(rectangle(x - c, y - d, x + c, y + d), "end grain", "cut"))
    return marks


def _earth(checked: Checked, member: Member) -> Drawing:
    """A basement wall with the soil against it, the pressure it makes, and the moment along its
    height; a wall without soil against it as it is."""
    project, system = checked.project, checked.project.system
    soil = backfill_of(project, checked.structure, member)
    if soil is None:
        return _plain(checked, member)
    fluid = project.site.fluid
    scale = 60.0 / soil.height
    thick = plan_width(member) * scale
    top, fill = soil.height * scale, soil.fill * scale
    marks: list[Mark] = [
        Patch(((4, 0), (24, 0), (24, fill), (4, fill)), "earth", "none"),
        Stroke(((4, fill), (24, fill)), "cut"),
        Patch(rectangle(24, 0, 24 + thick, top), "concrete", "cut"),
        Patch(rectangle(24 + thick, -3.0, 60, 0), "concrete", "seen"),
    ]
    marks += wall_bars(checks_of(checked, member), 24 + thick, 24.0, scale, top, system)
    if soil.propped:
        marks += [Patch(rectangle(24 + thick, top - 1.0, 48, top + 4.0), "timber", "seen")]
        marks.append(Label(soil.by, (49.5, top - 0.5), TEXT, "start", quiet=True))
    marks.append(Patch(((23.4, 0), (23.4, fill), (23.4 - 15.0, 0)), "shade", "seen"))
    marks.append(Label(format_area_load(fluid * soil.fill, system), (2.0, -6.5), TEXT, "start"))
    beside = soil.beside
    found = (
        propped(soil.height, soil.fill, fluid, beside)
        if soil.propped
        else cantilever(soil.fill, fluid, beside)
    )
    curve: list[Point] = []
    for i in range(31):
        z = soil.height * i / 30
        _, m = shear_and_moment(soil.height, soil.fill, fluid, z, prop=soil.propped, beside=beside)
        curve.append((68.0 + 24.0 * m / max(found.moment, 1e-9), z * scale))
    marks.append(Patch(((68.0, 0.0), *curve, (68.0, top)), "shade", "seen"))
    marks.append(Stroke(((68.0, 0.0), (68.0, top)), "cut"))
    per = 304.8 if system == "us" else 1000.0
    unit_words = "per ft" if system == "us" else "per m"
    marks.append(
        Label(
            f"{format_moment(found.moment * per, system)} {unit_words}",
            (80.0, -6.5),
            TEXT,
            bold=True,
        )
    )
    marks.append(Label("moment, service", (80.0, -11.5), TEXT, quiet=True))
    marks.append(Label(format_length(soil.fill, system), (14.0, fill + 1.5), TEXT, quiet=True))
    return tuple(marks)


def _grade_beam(checked: Checked, member: Member) -> Drawing:
    """A grade beam on the soil as a strip; one between piers with its bars."""
    if member.id not in checked.path.spanning:
        return _footing(checked, member)
    low, high = member.solid.bounds()
    size = plan_width(member), high[2] - low[2]
    return beam_across(size, checks_of(checked, member), checked.project.system)


def _lintel(checked: Checked, member: Member) -> Drawing:
    low, high = member.solid.bounds()
    size = member.solid.depth, high[2] - low[2]
    return beam_across(size, checks_of(checked, member), checked.project.system)


def _floor_slab(checked: Checked, member: Member) -> Drawing:
    return slab_through(member, checks_of(checked, member), checked.project.system)


def _plain(checked: Checked, member: Member) -> Drawing:
    """A piece that rests all along: its length and section, drawn to one scale in two views."""
    system = checked.project.system
    fill = "concrete" if member.material == "concrete" else "timber"
    low, high = member.solid.bounds()
    tall = min(16.0, max(3.0, (high[2] - low[2]) * 92 / max(member.length, 1.0)))
    marks: list[Mark] = [
        Patch(rectangle(4, 0, 96, tall), fill, "seen"),  # type: ignore[arg-type]
        Stroke(((4, -4), (96, -4)), "hair"),
        Stroke(((4, -5.5), (4, -2.5)), "seen"),
        Stroke(((96, -5.5), (96, -2.5)), "seen"),
        Label(format_length(member.length, system), (50, -9), TEXT),
    ]
    bolts = checked.structure.bolts.get(member.id)
    if bolts is not None:
        places = [4 + 92 * at / member.length for at in bolts.at]
        marks += [Disc((x, tall / 2), 0.8, "cut") for x in places]
        ends = [0.0, *bolts.at, member.length]
        for (a, b), left_end in zip(pairwise(ends), [4.0, *places]):
            middle = left_end + 46 * (b - a) / member.length
            if 92 * (b - a) / member.length > 9:
                marks.append(
                    Label(format_run(b - a, system), (middle, tall + 1.6), TEXT - 0.6, quiet=True)
                )
    return tuple(marks)


FIGURES: Final[dict[MemberKind, Callable[[Checked, Member], Drawing]]] = {
    kinds.JOIST: _joist,
    kinds.CEILING_JOIST: _joist,
    kinds.RAFTER: _rafter,
    kinds.FOOTING: _footing,
    kinds.EDGE: _footing,
    kinds.GRADE_BEAM: _grade_beam,
    kinds.FLOOR_SLAB: _floor_slab,
    kinds.LINTEL: _lintel,
    kinds.PAD: _pad,
    kinds.STEM: _earth,
}
"""By the kind of member; all others are drawn as they are."""
