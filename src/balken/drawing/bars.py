"""Bars in concrete as they lie: in beams, walls and slabs, from what their checks chose. Figures 100
wide."""

from typing import Final

from balken.design.lines import Check, Line
from balken.drawing.marks import Disc, Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.framing.member import Member
from balken.units import System, format_length, format_run

TEXT: Final = 3.2
COVER: Final = 3.0
"""From the face of the concrete to the middle of a bar, on the figure."""
SHOWN: Final = 8
"""More bars than this in a layer are not told apart."""


def lines_of(checks: tuple[Check, ...]) -> dict[str, Line]:
    """The lines of some checks by their symbol, the first of each."""
    return {line.symbol: line for check in reversed(checks) for line in reversed(check.lines)}


def beam_across(size: tuple[float, float], checks: tuple[Check, ...], system: System) -> Drawing:
    """A beam cut through: its bars below, or below and above, inside a stirrup, with what they are
    called.

    Args:
        size: width and depth, mm.
        checks: that chose them.
        system: to write sizes in.
    """
    lines = lines_of(checks)
    scale = min(40.0 / size[0], 44.0 / size[1])
    wide, deep = size[0] * scale, size[1] * scale
    left = 30 - wide / 2
    words = f"{format_run(size[0], system)} × {format_run(size[1], system)}"
    marks: list[Mark] = [
        Patch(rectangle(left, 0, left + wide, deep), "concrete", "cut"),
        Stroke(
            _closed(left + COVER - 1, COVER - 1, left + wide - COVER + 1, deep - COVER + 1), "seen"
        ),
        Label(words, (30.0, -6.0), TEXT, bold=True),
    ]
    count = min(SHOWN, round(lines["n"].value)) if "n" in lines else 0
    for i in range(count):
        x = left + COVER + (wide - 2 * COVER) * (i / (count - 1) if count > 1 else 0.5)
        marks.append(Disc((x, COVER), 1.0, "cut"))
        if "above" in lines["bars"].how:
            marks.append(Disc((x, deep - COVER), 1.0, "cut"))
    called = _called(lines, ("bars", "lap"), (56.0, deep - 4.0), system)
    if "Av" in lines:
        ties = f"{lines['Av'].how} at {format_run(lines['s'].value, system)}"
        called.append(
            Label(ties, (56.0, deep - 4.0 - 5.0 * len(called)), TEXT, "start", quiet=True)
        )
    return tuple(marks + called)


def _closed(x0: float, y0: float, x1: float, y1: float) -> tuple[tuple[float, float], ...]:
    ring = rectangle(x0, y0, x1, y1)
    return (*ring, ring[0])


def _called(
    lines: dict[str, Line], symbols: tuple[str, ...], at: tuple[float, float], system: System
) -> list[Mark]:
    """What bars are called and how long they lap, line by line."""
    found: list[Mark] = []
    x, y = at
    for symbol in symbols:
        if symbol not in lines:
            continue
        line = lines[symbol]
        words = line.how if symbol == "bars" else f"{symbol} {format_length(line.value, system)}"
        found.append(Label(words, (x, y - 5.0 * len(found)), TEXT, "start", quiet=bool(found)))
    return found


def wall_bars(
    checks: tuple[Check, ...], inner: float, outer: float, scale: float, top: float, system: System
) -> list[Mark]:
    """The bars of a wall against soil with their dowels into the footing, cut through; nothing where
    it has none.

    Args:
        checks: of the wall.
        inner: its face to the room, on the figure.
        outer: its face to the soil.
        scale: of the figure, to mm.
        top: of the wall on the figure.
        system: to write lengths in.
    """
    lines = lines_of(checks)
    if "hook" not in lines or "lap" not in lines:
        return []
    inside = "inside" in lines["d"].how if "d" in lines else True
    face, towards = (inner - 1.2, -1.0) if inside else (outer + 1.2, 1.0)
    lap, foot = lines["lap"].value * scale, min(6.0, lines["hook"].value * scale)
    dowel = face + towards * 0.9
    return [
        Stroke(((face, 1.0), (face, top - 1.0)), "cut"),
        Stroke(((dowel + towards * 4.0, -foot), (dowel, -foot), (dowel, lap)), "cut"),
        *_called(lines, ("bars", "lap", "hook"), (34.0, top * 0.62), system),
    ]


def slab_through(member: Member, checks: tuple[Check, ...], system: System) -> Drawing:
    """A slab cut through between what carries it: bars one way along, and across as dots."""
    lines = lines_of(checks)
    thick = member.solid.depth
    deep = min(16.0, max(6.0, thick * 92.0 / 3000.0))
    marks: list[Mark] = [
        Patch(rectangle(4, 0, 96, deep), "concrete", "cut"),
        Patch(rectangle(4, -7, 10, 0), "block", "seen"),
        Patch(rectangle(90, -7, 96, 0), "block", "seen"),
        Label(f"{format_run(thick, system)} thick", (50.0, deep + 2.5), TEXT, bold=True),
    ]
    if "bars" in lines:
        low, high = 1.6, deep - 1.6
        marks += [Stroke(((5, y), (95, y)), "cut") for y in (low, high)]
        marks += [Disc((8 + 7 * i, low + 1.0), 0.6, "cut") for i in range(13)]
        marks += _called(lines, ("bars", "lap"), (14.0, -6.0), system)
    return tuple(marks)
