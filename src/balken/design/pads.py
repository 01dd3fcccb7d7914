"""Pads: soil under eccentric load, uplift, bending with its bars, one-way and punching shear; their
sizes proposed."""

import math
from typing import Final, NamedTuple

import msgspec

from balken.design.codes.ground import Punched
from balken.design.concrete.bars import Bar, Bars, bars_across
from balken.design.detailing import hook_length
from balken.design.footing_loads import (
    LEAST_THICKNESS,
    WIDTH_MODULE,
    service,
)
from balken.design.lines import Check, Line
from balken.design.soil import pressure
from balken.design.soil.sizes import pad_side, rounded_up
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import Point, distance, holds
from balken.loads.cases import Combination
from balken.loads.path import place_of
from balken.model.cases import Cases
from balken.model.names import MemberName
from balken.model.project import PointSupport
from balken.recall import remembered_piece
from balken.units import INCH

THICKNESS_MODULE: Final = {"us": 1 * INCH, "metric": 25.0}
MOST_THICK: Final = 1500.0
POINT: Final = 100.0
"""A pad with nothing on it is checked as if a column this wide stood there, mm."""


class OnPad(msgspec.Struct, frozen=True):
    """What stands on a pad: the column's sides, mm, and how far its middle lies from the pad's,
    along the pad's sides."""

    column: tuple[float, float]
    off: Point
    mark: str


def over_pads(structure: Structure) -> dict[MemberName, list[Member]]:
    """The posts and piers that may stand on each pad, in any height."""
    found: dict[MemberName, list[Member]] = {}
    for m in structure.standing:
        for under in structure.about[m.id]:
            if under.kind is kinds.PAD:
                found.setdefault(under.id, []).append(m)
    return found


def on_top(m: Member, pad: Member) -> bool:
    """Whether the foot of a post or pier is at a pad's top."""
    return abs(m.start[2] - pad.end[2]) < 50.0


@remembered_piece
def column_on(
    item: PointSupport, pad: Member, standing: tuple[tuple[PointSupport, Member], ...]
) -> OnPad | None:
    ring = pad.solid.plan()
    middle = place_of(pad)
    best: tuple[float, PointSupport, Member] | None = None
    for other, m in standing:
        p = (m.start[0], m.start[1])
        if holds(ring, p) and (best is None or distance(p, middle) < best[0]):
            best = (distance(p, middle), other, m)
    if best is None:
        return None
    _, other, m = best
    p = (m.start[0], m.start[1])
    turn = math.atan2(ring[1][1] - ring[0][1], ring[1][0] - ring[0][0]) if not item.round else 0.0
    dx, dy = p[0] - middle[0], p[1] - middle[1]
    off = (dx * math.cos(turn) + dy * math.sin(turn), -dx * math.sin(turn) + dy * math.cos(turn))
    return OnPad(other.size, (round(off[0], 6), round(off[1], 6)), m.mark)


def sides_of_pad(item: PointSupport) -> tuple[float, float]:
    """The sides a pad is checked with, mm: a round one as the square of its area (ACI 318-19
    13.2.7.3 for columns)."""
    if item.round:
        side = item.size[0] * math.sqrt(math.pi) / 2
        return side, side
    return item.size


@remembered_piece
def pad_checks(
    terms: Terms,
    item: PointSupport,
    above: OnPad | None,
    own: float,
    forces: Cases,
    thick: float,
) -> tuple[Check, ...]:
    """The checks of a pad under what stands on it: soil, uplift, bending with its bars, one-way
    and punching shear.

    Args:
        terms: of the building.
        item: its record.
        above: what stands on it.
        own: its own weight, N.
        forces: all that comes down, its own weight included, N.
        thick: mm.
    """
    sides = sides_of_pad(item)
    off = above.off if above else (0.0, 0.0)
    carried = forces - Cases(own)
    checks = [_soil_under_pad(terms, item, sides, forces, carried, off)]
    if item.uplift:
        held = 0.6 * forces.dead
        lines = (
            Line("0.6 D", held, "force", "ASCE 7-16 2.4.1"),
            Line("W", item.uplift, "force", how="typed"),
        )
        checks.append(
            Check(
                "Uplift",
                item.uplift / held if held > 0 else math.inf,
                "0.6D − W",
                "ASCE 7-16 2.4.1",
                lines,
            )
        )
    column = above.column if above else (POINT, POINT)
    worst = _worst_factored(terms, item, sides, carried, own, off)
    if worst is not None:
        load, combo, uneven = worst
        checks += pad_concrete(terms, sides, column, thick, load * uneven, combo, uneven, off)[0]
    return tuple(checks)


def _worst_factored(
    terms: Terms,
    item: PointSupport,
    sides: tuple[float, float],
    carried: Cases,
    own: float,
    off: Point,
) -> tuple[float, str, float] | None:
    """The strength combination that presses hardest: its load, N, its name, and by how much the
    greatest pressure is over the mean; the typed moment is of the dead load and factored with it.
    None where nothing comes down.

    The pad's own weight holds it down, but bends nothing: it lies on the soil that bears it.
    """
    found = []
    for combination in terms.ground.strength:
        dead, load = combination.factors.dead, carried.weighed(combination.factors)
        if load > 0:
            found.append(
                (
                    load,
                    combination.name,
                    _uneven(load, dead * own, _moments(item, dead, load, off), sides),
                )
            )
    return max(found, key=lambda f: f[0] * f[2], default=None)


def _moments(item: PointSupport, dead: float, load: float, off: Point) -> tuple[float, float]:
    """Moments on a pad along its sides, N mm: the typed ones of the dead load, factored, and the
    load off its middle."""
    return tuple(abs(m) * dead + max(0.0, load) * abs(o) for m, o in zip(item.moments, off))  # type: ignore[return-value]


def _uneven(
    load: float, own: float, moments: tuple[float, float], sides: tuple[float, float]
) -> float:
    """Greatest over mean pressure of what is carried, the pad's own weight left out of both;
    infinite where it turns over."""
    try:
        return (
            pressure.under_pad(load + own, moments, sides).highest * sides[0] * sides[1] - own
        ) / load
    except BalkenError:
        return math.inf


def _soil_under_pad(
    terms: Terms,
    item: PointSupport,
    sides: tuple[float, float],
    forces: Cases,
    carried: Cases,
    off: Point,
) -> Check:
    """Pressure under a pad in the combination that makes it worst: with a moment that may well be
    the one with the least load on it (ASCE 7-16 2.4.1; EN 1990 6.14b)."""
    return max(
        (_soil_in(terms, item, sides, forces, carried, off, c) for c in terms.ground.service),
        key=lambda check: check.ratio,
    )


def _soil_in(
    terms: Terms,
    item: PointSupport,
    sides: tuple[float, float],
    forces: Cases,
    carried: Cases,
    off: Point,
    combination: Combination,
) -> Check:
    most, down = (q.weighed(combination.factors) for q in (forces, carried))
    combo = combination.name
    moments = _moments(item, combination.factors.dead, down, off)
    clause = terms.ground.soil
    lines = [
        Line("P", most, "force", how=f"all that comes down, own weight included, {combo}"),
        Line("b", sides[0], "run"),
        Line("ℓ", sides[1], "run"),
    ]
    try:
        found = pressure.under_pad(most, moments, sides)
    except BalkenError as error:
        return Check(
            "Soil pressure",
            math.inf,
            combo,
            clause,
            (*lines, Line("q", math.inf, "factor", how=str(error))),
        )
    if any(e > 1e-6 for e in found.eccentric):
        e, b = max(zip(found.eccentric, sides), key=lambda pair: pair[0] / pair[1])
        lines.append(Line("e", e, "run", how=f"kern b/6 = {b / 6:.0f} mm"))
        if found.lifts:
            lines.append(
                Line("pressed", found.share, "factor", how="share of the pad; the rest lifts")
            )
    how = (
        "no tension: 2P / (3 (b/2 − e) ℓ)"
        if found.lifts
        else "P/A (1 + 6 e/b)"
        if max(found.eccentric) > 0
        else "P / (b ℓ)"
    )
    lines += [
        Line("q", found.highest, "area load", how=how),
        Line("qa", terms.site.soil_bearing, "area load", clause),
    ]
    return Check(
        "Soil pressure", found.highest / terms.site.soil_bearing, combo, clause, tuple(lines)
    )


def pad_concrete(
    terms: Terms,
    sides: tuple[float, float],
    column: tuple[float, float],
    thick: float,
    load: float,
    combo: str,
    uneven: float = 1.0,
    off: Point = (0.0, 0.0),
) -> tuple[list[Check], tuple[Bars, ...]]:
    """The checks of a pad's concrete and the bars chosen, first those along the first side.

    Args:
        terms: for their code, concrete and steel.
        sides: of the pad, mm.
        column: of what stands on it, mm.
        thick: of the pad, mm.
        load: factored, N, already raised for what stands out of the middle.
        combo: name of the combination.
        uneven: by how much it was raised.
        off: of the column from the pad's middle, along its sides, mm.
    """
    if not math.isfinite(load):
        return [Check("Bending", math.inf, combo, terms.ground.pads.turns, (_TURNS,))], ()
    bar = LEAST_BAR[terms.system]
    for _ in range(MOST_BARS):
        checks, chosen = _pad_concrete(terms, sides, column, thick, load, combo, uneven, off, bar)
        thickest = max((b.bar.diameter for b in chosen), default=bar)
        if thickest <= bar + 1e-9:
            break
        bar = thickest  # thicker bars lie higher: once more with what they leave of the depth
    return checks, chosen


_TURNS: Final = Line(
    "e", math.inf, "factor", how="The load falls outside the pad, which turns over."
)
LEAST_BAR: Final = {"us": 0.5 * INCH, "metric": 10.0}
"""The thinnest bar of a pad, mm."""
MOST_BARS: Final = 8


def _pad_concrete(
    terms: Terms,
    sides: tuple[float, float],
    column: tuple[float, float],
    thick: float,
    load: float,
    combo: str,
    uneven: float,
    off: Point,
    bar: float,
) -> tuple[list[Check], tuple[Bars, ...]]:
    """Checks of a pad's concrete whose bars are no thicker than ``bar``, mm."""
    code, fc = terms.ground.pads, terms.site.strength
    depth = thick - code.cover - bar
    raised = "" if uneven == 1 else f", × {uneven:.2f} for the eccentricity"
    base = (
        Line("P", load, "force", how="factored" + raised),
        Line("d", depth, "run", how="mean of both layers"),
    )
    if depth <= 0:
        thin = Line("h", thick, "run", how="thinner than its cover")
        return [Check("Bending", math.inf, combo, code.name, (*base, thin))], ()
    ways: list[tuple[Check, Check, Check, Bars]] = []
    for i in (0, 1):
        # A column off the middle leaves a longer cantilever on one side: as one so much narrower in
        # the middle.
        way = _Way((sides[i], sides[1 - i]), column[i], abs(off[i]), thick, depth, load, combo)
        try:
            ways.append(_one_way(terms, way, base))
        except BalkenError as error:
            moment = code.face_moment(load, way.sides, way.narrow)
            lines = (*base, Line("M", moment, "moment", how=str(error)))
            return [Check("Bending", math.inf, combo, code.name, lines)], ()
    chosen = tuple(bars for *_, bars in ways)
    share = min(b.area for b in chosen) / (max(sides) * depth)
    punched = Punched(load, combo, sides, column, depth, share, fc, off, base)
    bending = max((w[0] for w in ways), key=lambda c: c.ratio)
    shear = max((w[1] for w in ways), key=lambda c: c.ratio)
    anchored = max((w[2] for w in ways), key=lambda c: c.ratio)
    return [bending, shear, anchored, *code.punching(punched)], chosen


class _Way(NamedTuple):
    """A pad looked at along one of its sides."""

    sides: tuple[float, float]
    """Along, and across."""
    column: float
    off: float
    thick: float
    depth: float
    load: float
    combo: str

    @property
    def narrow(self) -> float:
        """The column's side, less twice what it stands off the middle, mm."""
        return self.column - 2 * self.off


def _one_way(terms: Terms, way: _Way, base: tuple[Line, ...]) -> tuple[Check, Check, Check, Bars]:
    """Bending, one-way shear and anchorage along one side, with the bars chosen for it.

    Raises:
        BalkenError: the concrete is too thin for the moment.
    """
    code, fc, fy = terms.ground.pads, terms.site.strength, terms.site.steel
    along, across = way.sides
    moment = code.face_moment(way.load, way.sides, way.narrow)
    needed = code.steel_for(moment, across, way.depth, fc, fy) * code.in_band(along, across)
    least = code.least_steel(across, way.thick, way.depth, fc, fy)
    apart = code.most_apart(way.thick)
    room = (along - way.column) / 2 - way.off - code.cover

    def develop(bar: Bar) -> float:
        return code.development(bar, fc, fy)

    bars = bars_across(max(needed, least), across, code.cover, apart, terms.system, room, develop)
    hooks = ", hooked" if bars.hooked else ""
    lines = (
        *base,
        Line("M", moment, "moment", how="at the column's face"),
        Line("As", needed, "steel", how="needed"),
        Line("As min", least, "steel"),
        Line(
            "bars",
            bars.area,
            "steel",
            how=f"{bars.count} {bars.bar.name} each way{hooks}",
            bars=bars,
        ),
    )
    ratio = max(needed, least) / bars.area
    bending = Check("Bending", ratio, way.combo, code.bending_clause, lines)
    force, held = code.one_way(way.load, way.sides, way.narrow, way.depth, bars.area, fc)
    lines = (
        *base,
        Line("V", force, "force", how="at d from the column"),
        code.shear_step(held),
    )
    shear = Check("One-way shear", force / held, way.combo, code.shear_clause, lines)
    return bending, shear, _anchored(terms, way, bars, room, needed), bars


ANCHORAGE: Final = "Anchorage of bars"
MOST_WIDER: Final = 1000.0
"""A pad is made no wider than this for its bars alone, mm."""


def _anchored(terms: Terms, way: _Way, bars: Bars, room: float, needed: float) -> Check:
    """Whether bars hold on the way from the column's face to their ends, hooked where they would not
    straight."""
    code, details = terms.ground.pads, terms.ground.details
    share = min(1.0, needed / bars.area)
    if bars.hooked:
        length = hook_length(terms, bars.bar, bars.spacing, code.cover, share)
        clause, how = details.hook_clause, "hooked"
    else:
        length = details.straight(bars.bar, terms.site.strength, terms.site.steel, share)
        clause, how = details.straight_clause, "straight"
    lines = (
        Line("db", bars.bar.diameter, "run", how=bars.bar.name),
        Line("As / bars", share, "factor", how="how much of them is needed"),
        Line("needed", length, "length", clause, how),
        Line("there is", room, "length", how="from the column’s face to the cover"),
    )
    ratio = length / room if room > 0 else math.inf
    return Check(ANCHORAGE, ratio, way.combo, clause, lines)


def sized_pad(
    terms: Terms, item: PointSupport, above: OnPad | None, carried: Cases
) -> tuple[float, float] | None:
    """Side and thickness of a square pad that passes all checks, on the modules, mm; None
    where none does.

    Args:
        terms: of the building.
        item: its record.
        above: what stands on it.
        carried: what comes down on it, N.
    """
    column = above.column if above else (POINT, POINT)
    off = above.off if above else (0.0, 0.0)
    module, step = WIDTH_MODULE[terms.system], THICKNESS_MODULE[terms.system]
    down, _ = service(carried, terms)
    thick, wider = rounded_up(LEAST_THICKNESS[terms.system], step), 0.0
    while thick <= MOST_THICK:
        try:
            side = rounded_up(
                pad_side(max(down, 1.0), terms.site.soil_bearing, thick, terms.site.concrete),
                module,
            )
        except BalkenError:
            return None
        side = max(side, rounded_up(max(column) + 4 * INCH, module)) + wider
        for _ in range(400):
            weight = side * side * thick * terms.site.concrete
            total = carried + Cases(weight)
            if _soil_under_pad(terms, item, (side, side), total, carried, off).ratio <= 1 + 1e-9:
                break
            side += module
        else:
            return None
        worst = _worst_factored(terms, item, (side, side), carried, weight, off)
        if worst is None:
            return side, thick
        load, combo, uneven = worst
        checks, _ = pad_concrete(
            terms, (side, side), column, thick, load * uneven, combo, uneven, off
        )
        lacking = {c.name for c in checks if c.ratio > 1 + 1e-9}
        if not lacking:
            return side, thick
        if lacking == {ANCHORAGE} and wider < MOST_WIDER:
            wider += module  # bars need room to hold more than the pad needs depth
        else:
            thick, wider = thick + step, 0.0
    return None
