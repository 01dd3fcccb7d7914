"""The bars in concrete that checks chose, as they are bent and cut: how many, how long, how heavy.

What no check asks for - bars that only hold others in their place, and horizontal bars of walls - is not
counted; the list says so.
"""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.design.concrete.bars import Bar, Bars
from balken.design.lines import Check, Line
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import TOUCH, distance, signed_area
from balken.model.record import Code
from balken.model.sections import STEEL_WEIGHT
from balken.recall import remembered_of_one
from balken.takeoff.boards import Cut, Plan, Saw, cutting_plan
from balken.units import FOOT, System
from balken.works.building import Checked, checks_of
from balken.works.terms import terms_of

SOLD: Final[dict[System, tuple[float, ...]]] = {
    "us": (20 * FOOT, 40 * FOOT, 60 * FOOT),
    "metric": (6000.0, 12_000.0),
}
"""Lengths bars are sold in (common practice, no source)."""


class BarLine(NamedTuple):
    """Bars of one member that are alike. Lengths mm, weight N."""

    member: Member
    bar: Bar
    shape: str
    """As they are bent: ``straight``, ``hooked`` at both ends, ``tie``."""
    number: int
    length: float
    """Of one, along its middle."""

    @property
    def weight(self) -> float:
        """Of all."""
        return self.number * self.length * self.bar.area * STEEL_WEIGHT


def bend_of(code: Code, bar: Bar) -> tuple[float, float]:
    """Radius to the middle of a bar in a right-angled bend, and what stands straight past it, mm.

    By ACI 318-14 table 25.3.1: 6 db inside to #8, 8 db over it, then 12 db. By EN 1992-1-1 table 8.1N
    and figure 8.1: 4 ø inside to 16 mm, 7 ø over it, then 5 ø. Both from memory.
    """
    d = bar.diameter
    if code == "us":
        inside, past = (6 * d if d <= INCH_BAR else 8 * d), 12 * d
    else:
        inside, past = (4 * d if d <= THIN else 7 * d), 5 * d
    return inside / 2 + d / 2, past


INCH_BAR: Final = 25.5
THIN: Final = 16.0
TIE_PAST: Final = {"us": (6.0, 75.0), "eu": (10.0, 50.0)}
"""Past the corner of a tie, times the diameter and at least, mm: ACI 318-14 25.3.2 (135°); EN 1992-1-1
8.5 (both from memory)."""


@remembered_of_one
def bars_of(checked: Checked) -> tuple[BarLine, ...]:
    """All bars that checks chose, member by member."""
    return tuple(line for m in checked.structure.members for line in _in(checked, m))


def _in(checked: Checked, m: Member) -> Iterator[BarLine]:
    if not m.kind.concrete and m.kind not in (kinds.FLOOR_SLAB, kinds.LINTEL):
        return
    checks = checks_of(checked, m)
    chosen = [line for c in checks for line in c.lines if line.symbol == "bars" and line.bars]
    if not chosen:
        return
    ground = terms_of(checked.built).ground
    cover = ground.beams.cover if m.kind is kinds.LINTEL else ground.pads.cover
    lap = _value(checks, "lap")
    most = _most(chosen)
    if m.kind is kinds.PAD:
        yield from _of_pad(checked.project.code, m, most, cover)
    elif m.kind is kinds.FLOOR_SLAB:
        yield from _of_slab(checked, m, most, cover, lap)
    elif m.kind is kinds.STEM:
        yield _of_wall(checked.project.code, m, most, cover, lap, _value(checks, "hook"))
    else:
        yield from _of_beam(checked, m, most, checks, cover, lap)


def _most(lines: list[Line]) -> Bars:
    """The bars with most steel, of those that several checks chose for one place."""
    return max((x.bars for x in lines if x.bars), key=lambda b: b.area / (b.spacing or 1.0))


def _value(checks: tuple[Check, ...], symbol: str) -> float:
    return next((x.value for c in checks for x in c.lines if x.symbol == symbol), 0.0)


def _of_pad(code: Code, m: Member, bars: Bars, cover: float) -> Iterator[BarLine]:
    """Each way, hooked where straight ones would be too short."""
    ring = m.solid.plan()
    sides = (distance(ring[0], ring[1]), distance(ring[1], ring[2]))
    alike = abs(sides[0] - sides[1]) < TOUCH
    for side in sides[:1] if alike else sides:
        inside = side - 2 * cover
        length = inside
        if bars.hooked:
            radius, past = bend_of(code, bars.bar)
            flat = inside - 2 * (radius + bars.bar.diameter / 2)
            length = flat + math.pi * radius + 2 * past
        shape = "hooked" if bars.hooked else "straight"
        number = bars.count * (2 if alike else 1)
        yield BarLine(m, bars.bar, shape, number, length)


def _of_slab(
    checked: Checked, m: Member, bars: Bars, cover: float, lap: float
) -> Iterator[BarLine]:
    """Both ways over the whole outline; as many as cross it, of the length its area gives."""
    ring = m.solid.plan()
    area = abs(signed_area(ring))
    xs, ys = [x for x, _ in ring], [y for _, y in ring]
    for across in (max(xs) - min(xs), max(ys) - min(ys)):
        count = math.floor((across - 2 * cover) / bars.spacing) + 1
        yield from _lapped(checked, m, bars.bar, count, area / across - 2 * cover, lap)


def _of_wall(code: Code, m: Member, bars: Bars, cover: float, lap: float, hook: float) -> BarLine:
    """Upright, each with its dowel out of the footing: lapped above, hooked below."""
    count = math.floor((m.length - 2 * cover) / bars.spacing) + 1
    _, past = bend_of(code, bars.bar)
    dowel = lap + hook + past if lap else 0.0
    return BarLine(m, bars.bar, "straight, with a dowel", count, m.solid.depth - cover + dowel)


def _of_beam(
    checked: Checked, m: Member, bars: Bars, checks: tuple[Check, ...], cover: float, lap: float
) -> Iterator[BarLine]:
    """Through its whole length below, or below and above; with ties where it needs any."""
    count = bars.count * bars.layers
    yield from _lapped(checked, m, bars.bar, count, m.length - 2 * cover, lap)
    ties = next((x.bars for c in checks for x in c.lines if x.symbol == "Av" and x.bars), None)
    if ties is None:
        return
    times, least = TIE_PAST[checked.project.code]
    d = ties.bar.diameter
    around = 2 * (_wide(m) + _deep(m) - 4 * cover - 2 * d)
    length = around + 2 * max(times * d, least)
    number = math.floor((m.length - 2 * cover) / ties.spacing) + 1
    yield BarLine(m, ties.bar, "tie", number, length)


def _wide(m: Member) -> float:
    low, high = m.solid.bounds()
    return m.solid.volume / (m.length * (high[2] - low[2]))


def _deep(m: Member) -> float:
    low, high = m.solid.bounds()
    return high[2] - low[2]


def _lapped(
    checked: Checked, m: Member, bar: Bar, count: int, length: float, lap: float
) -> Iterator[BarLine]:
    """Bars longer than any sold are lapped of several."""
    longest = SOLD[checked.project.system][-1]
    if length <= longest or lap <= 0:
        yield BarLine(m, bar, "straight", count, length)
        return
    parts = math.ceil((length - lap) / (longest - lap))
    each = (length + (parts - 1) * lap) / parts
    yield BarLine(m, bar, "straight, lapped", count * parts, each)


def bar_plans(checked: Checked) -> list[tuple[Bar, Plan]]:
    """What bars are cut from, each diameter for itself, by the lengths that are sold."""
    saw = Saw(SOLD[checked.project.system])
    cuts: dict[Bar, list[Cut]] = {}
    for x in bars_of(checked):
        cuts.setdefault(x.bar, []).extend([Cut(x.length, x.member.mark)] * x.number)
    return [(bar, cutting_plan(cuts[bar], saw)) for bar in sorted(cuts, key=lambda b: b.diameter)]
