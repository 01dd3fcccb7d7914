"""The figure on the slip: the selected piece drawn with its supports, loads and inner forces.

Figures have their own frame: 1 unit is 1 mm of a figure 100 mm wide; heights follow from what is shown.
"""

import math

from balken.analysis.beams import moment
from balken.design.building import Checked, checks_of
from balken.design.sizing import member_span
from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.framing.member import Member, clear_span
from balken.geometry.plane import Point
from balken.loads.cases import COMBINATIONS
from balken.units import (
    format_area_load,
    format_force,
    format_length,
    format_line_load,
    format_moment,
    format_run,
)

WIDTH = 100.0
TEXT = 3.6


def figure(checked: Checked, member: Member) -> Drawing:
    """Return the figure of a member."""
    if member.role == "rafter" and clear_span(member) > 0:
        return _rafter(checked, member)
    if member.role in ("joist", "ceiling joist") and member_span(member) > 0:
        return _joist(checked, member)
    if member.role == "footing":
        return _footing(checked, member)
    return _plain(checked, member)


def _governing(checked: Checked, member: Member) -> tuple[float, float, str]:
    """Return line load, end reaction and combination of the bending check."""
    host = checked.hosts.get(member.host)
    if host is None or member.id not in host.ids:
        return 0.0, 0.0, ""
    i = host.ids.index(member.id)
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
    system = checked.project.system
    w, r, combo = _governing(checked, member)
    span = member_span(member)
    x0, x1 = 4.0, 96.0
    marks: list[Mark] = _arrows(x0, x1, 5.0, 8.0)
    marks.append(Label(f"{combo}: {format_line_load(w, system)}", (50, 15.2), TEXT))
    marks.append(Patch(rectangle(x0, 0, x1, 5), "timber", "seen"))
    first, last = member.supports[0], member.supports[-1]
    scale = (x1 - x0) / member.run
    a, b = x0 + first.at * scale, x0 + last.at * scale
    marks += _support(a, 0) + _support(b, 0)
    marks.append(Label(format_force(r, system), (x0, -9.2), TEXT, "start"))
    marks.append(Label(format_force(r, system), (x1, -9.2), TEXT, "end"))
    marks.append(Label(f"clear {format_length(clear_span(member), system)}", (50, -9.2), TEXT, quiet=True))
    curve: list[Point] = [(a + (b - a) * t / 24, -15 - 11 * 4 * (t / 24) * (1 - t / 24)) for t in range(25)]
    marks.append(Patch(tuple(curve), "shade", "seen"))
    marks.append(Stroke(((a, -15), (b, -15)), "cut"))
    marks.append(Label(format_moment(moment(w, span), system), (50, -21.4), TEXT, bold=True))
    marks.append(Label("moment", (x0, -26.5), TEXT, "start", quiet=True))
    return tuple(marks)


def _rafter(checked: Checked, member: Member) -> Drawing:
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
    marks.append(Label(f"{combo}: {format_line_load(w, system)} of plan", ((4 + right) / 2, top + 9), TEXT))
    heel = next(p for p in outline if abs(p[0]) < 1e-6)
    seat_z = max(p[1] for p in outline if abs(p[0]) < 1e-6 and p[1] <= heel[1] + 1e3)
    seat_z = min(seat_z, sorted(p[1] for p in outline if abs(p[0]) < 1e-6)[-1])
    seat_length = member.supports[0].length
    seat = at((seat_length / 2, seat_z))
    marks += [
        Patch(rectangle(at((0.0, 0.0))[0], seat[1] - 3, at((140.0, 0.0))[0], seat[1]), "end grain", "seen"),
        Label(format_force(r, system), (seat[0] + 6, seat[1] - 7.5), TEXT, "start"),
        Label(f"seat {format_run(seat_length, system)}", (seat[0] + 6, seat[1] - 12.5), TEXT, "start", quiet=True),
    ]
    rise = member.slope * 12
    marks.append(
        Label(f"{rise:g} in 12, {math.degrees(math.atan(member.slope)):.1f}°", (right, seat[1] - 7.5), TEXT, "end")
    )
    marks.append(
        Label(
            f"{format_length(member.length, system)} along the slope", (right, seat[1] - 12.5), TEXT, "end", quiet=True
        )
    )
    return tuple(marks)


def _footing(checked: Checked, member: Member) -> Drawing:
    project, system = checked.project, checked.project.system
    run = next(r for r in project.runs if f"run:{r.id}" == member.host)
    height = member.solid.depth
    scale = 60 / run.footing_width
    half, deep = run.footing_width / 2 * scale, height * scale
    stem = run.stem_thickness / 2 * scale
    forces = checked.path.soil.get(member.id, (0.0,) * 4)
    total = max(sum(f * c for f, c in zip(forces, combo.factors)) for combo in COMBINATIONS)
    pressure = checks_of(checked, member)[0].ratio * project.site.soil_bearing
    marks: list[Mark] = [
        Patch(rectangle(50 - half, 0, 50 + half, deep), "concrete", "cut"),
        Patch(rectangle(50 - stem, deep, 50 + stem, deep + 20), "concrete", "cut"),
        Stroke(((50 - stem - 2, deep + 20), (50 + stem + 2, deep + 20)), "centre"),
        Label(format_force(total, system), (50 + stem + 4, deep + 15), TEXT, "start", bold=True),
        Label(f"on {format_length(member.length, system)}", (50 + stem + 4, deep + 9.5), TEXT, "start", quiet=True),
    ]
    for i in range(9):
        x = 50 - half + 2 * half * i / 8
        marks.append(Stroke(((x, -9), (x, -1.5)), "hair"))
        marks.append(Patch(((x - 0.7, -1.8), (x + 0.7, -1.8), (x, -0.3)), "ink", "none"))
    marks.append(Stroke(((50 - half, -9), (50 + half, -9)), "hair"))
    marks.append(Label(f"{format_area_load(pressure, system)} into the soil", (50, -14.5), TEXT))
    marks.append(
        Label(
            f"{format_run(run.footing_width, system)} × {format_run(height, system)}",
            (50, deep / 2 - 1.3),
            TEXT,
            boxed=True,
        )
    )
    return tuple(marks)


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
    return tuple(marks)
