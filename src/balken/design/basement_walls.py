"""Basement walls against their backfill: plain where that holds, else with vertical bars on the
inside."""

import math
from typing import Final, NamedTuple

import msgspec

from balken.design.codes.ground import Standing
from balken.design.concrete.bars import bars_along
from balken.design.detailing import dowel_lines
from balken.design.lines import Check, Line
from balken.design.soil import pressure
from balken.design.strips import plan_width
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.framing.member import Member
from balken.model.catalogue import catalogue_of
from balken.model.foundations import FoundationRun
from balken.units import PCF, format_spacing


class Backfill(msgspec.Struct, frozen=True):
    """Soil against a basement wall: the wall's height between its props, the soil's over the slab,
    mm; who props the top."""

    height: float
    fill: float
    propped: bool
    by: str
    open: float = 0.0
    """The longest stretch of its top that nothing holds, mm."""
    beside: pressure.Beside = pressure.NOTHING
    """What presses besides, with water over the slab."""


SOIL: Final = 110 * PCF
"""Weight of backfill that helps against turning over (ASCE 7-16 table C3.1-2: dry earth, 110 pcf
packed)."""


class EarthWall(NamedTuple):
    """A piece of basement wall with the soil against it. Heights mm."""

    member: Member
    run: FoundationRun
    soil: Backfill
    footing: float
    """Thickness of its footing."""
    ground: float | None
    """The height of the ground beside it."""
    bolts: float
    """The widest distance between the anchor bolts of the sills on it."""
    dead: float
    """What of dead load stands on it, itself included, N."""


def earth_checks(terms: Terms, wall: EarthWall) -> tuple[Check, ...]:
    """The checks of a basement wall against its backfill: bending and shear, what its top
    pushes into the floor, or whether it stands where no floor props it."""
    top = _top_checks(terms, wall) if wall.soil.propped else _stands(terms, wall)
    return (*_concrete_checks(terms, wall.member, wall.soil), *top)


def _top_checks(terms: Terms, wall: EarthWall) -> tuple[Check, ...]:
    """What the top of a propped wall pushes into the anchor bolts of its sill; none where no sill
    lies on it."""
    run, soil, apart = wall.run, wall.soil, wall.bolts
    sill = catalogue_of(terms.system).sections.get(run.sill)
    push = pressure.propped(soil.height, soil.fill, terms.site.fluid, soil.beside).top
    if sill is None or push <= 0:
        return ()
    one = terms.timber.sill_bolt(run.bolt, sill.breadth)
    lines = (
        Line("R top", push, "line load", how="γ h³ / (6 L), of the soil" + _also(soil.beside)),
        Line("s", apart, "length", how="between anchor bolts, the widest"),
        *one.lines,
    )
    ratio = one.push_factor * push * apart / one.held
    return (Check(TOP_INTO_BOLTS, ratio, "H", one.clause, lines),)


TOP_INTO_BOLTS: Final = "Top into bolts"


def _stands(terms: Terms, wall: EarthWall) -> tuple[Check, ...]:
    """Whether a wall that nothing props stands: turning over about the inner edge of its footing,
    dead load alone holding it, and sliding where no slab holds its foot. Per mm of wall."""
    member, run, rules = wall.member, wall.run, terms.ground.walls.stands
    low, high = member.solid.bounds()
    foot = low[2] - wall.footing
    ground = min(wall.ground or high[2], high[2])
    deep, thick, wide = ground - foot, plan_width(member), run.footing_width
    soil = pressure.cantilever(deep, terms.site.fluid, _on_foot(wall, foot))
    push, lift = soil.bottom, pressure.WATER * _on_foot(wall, foot).water * wide / 2
    dead = wall.dead / member.length
    footing = wide * wall.footing * terms.site.concrete
    toe = wide / 2 - abs(
        run.footing_shift
    )  # from its inner edge to the wall's middle, the shorter way
    heel = max(0.0, wide - toe - thick / 2)
    on_heel = heel * max(0.0, ground - low[2]) * SOIL
    # Water under the footing lifts it: all of its head at the heel, none at the toe.
    turns = soil.moment + lift * 2 / 3 * wide
    holds = dead * toe + footing * wide / 2 + on_heel * (wide - heel / 2)
    lines: tuple[Line, ...] = (
        Line("h", deep, "length", how="soil over the bottom of the footing"),
        Line("H", push, "line load", how="γ h² / 2" + _also(wall.soil.beside)),
        Line(
            "M turns", turns, "force", how="H h / 3, per unit of length" + _also(wall.soil.beside)
        ),
        Line("D", dead, "line load", how="wall and what stands on it"),
        Line("b", wide, "run"),
        Line(
            "M holds", holds, "force", how="about the inner edge of the footing, per unit of length"
        ),
        Line("safety", rules.turning, "factor", rules.clause),
    )
    found = [
        Check(
            "Turning over",
            rules.turning * turns / holds if holds > 0 else math.inf,
            "D + H",
            rules.clause,
            lines,
        )
    ]
    rubs = max(0.0, rules.friction * (dead + footing + on_heel - lift))
    return (
        *found,
        _against_slab(terms, run, push) if run.slab_thickness else _by_friction(rules, push, rubs),
    )


def _on_foot(wall: EarthWall, foot: float) -> pressure.Beside:
    """What presses besides, with water over the bottom of the footing."""
    beside, low = wall.soil.beside, wall.member.solid.bounds()[1][2] - wall.soil.height
    water = beside.water + max(0.0, low - foot) if beside.water > 0 else 0.0
    return pressure.Beside(beside.even, water)


def _also(beside: pressure.Beside) -> str:
    """What presses besides the soil, in words."""
    words = ["what stands on it"] if beside.even else []
    words += ["water"] if beside.water else []
    return f", and {' and '.join(words)}" if words else ""


def _by_friction(rules: Standing, push: float, rubs: float) -> Check:
    lines = (
        Line("H", push, "line load", how="γ h² / 2"),
        Line("μ N", rubs, "line load", rules.friction_clause, f"{rules.friction:g} N"),
        Line("safety", rules.sliding, "factor", rules.clause),
    )
    return Check(
        "Sliding",
        rules.sliding * push / rubs if rubs > 0 else math.inf,
        "D + H",
        rules.clause,
        lines,
    )


def _against_slab(terms: Terms, run: FoundationRun, push: float) -> Check:
    """A slab between walls holds their feet apart: its edge bears the push."""
    walls = terms.ground.walls
    rules, factor = walls.stands, walls.factor
    bears = rules.slab_bears(terms.site.strength) * run.slab_thickness
    lines = (
        Line(f"{factor:g} H", factor * push, "line load", how="soil at rest against the foot"),
        Line(
            "t",
            run.slab_thickness,
            "run",
            how="the slab, poured against the wall before it is backfilled",
        ),
        Line("bears", bears, "line load", rules.slab_clause, "edge of the slab, t high"),
    )
    return Check("Sliding", factor * push / bears, f"{factor:g}H", rules.slab_clause, lines)


class _Pressed(NamedTuple):
    """The concrete of a wall under the push of the soil. Per mm of its length, N, mm."""

    moment: float
    shear: float
    thick: float
    depth: float
    """Of its bars."""
    face: str
    combo: str
    base: tuple[Line, ...]
    """The lines its calculations begin with."""


def _concrete_checks(terms: Terms, member: Member, soil: Backfill) -> tuple[Check, ...]:
    """Bending and shear of the concrete: plain where that passes, else with vertical bars."""
    code, fluid, fc = terms.ground.walls, terms.site.fluid, terms.site.strength
    thick = plan_width(member)
    if soil.propped:
        found = pressure.propped(soil.height, soil.fill, fluid, soil.beside)
        held, where = f"held by {soil.by}", f"{found.moment_at:.0f} mm up"
        # Its inner face is in tension; held at its foot alone, the face to the soil (ACI 318-19
        # 22.2).
        face, cover = "inside", code.inside
    else:
        found = pressure.cantilever(soil.fill, fluid, soil.beside)
        held, where = "held at its foot alone: no floor props it yet", "at the foot"
        face, cover = "to the soil", code.outside
    moment, shear = code.factor * found.moment, code.factor * found.bottom
    how = f"{code.factor:g} H{_also(soil.beside)}, {where}, per unit of length"
    base = (
        Line("L", soil.height, "length", how=held),
        Line("h", soil.fill, "length", how="soil over the slab"),
        Line("M", moment, "force", how=how),
    )
    wall = _Pressed(moment, shear, thick, thick - cover - 8.0, face, f"{code.factor:g}H", base)
    ratio = code.plain_bending(moment, thick, fc)
    if ratio > 1:
        return _with_bars(terms, wall)
    lines = (*base, Line("t", thick, "run", how="plain concrete, axial load left out"))
    bending = Check("Earth, bending", ratio, wall.combo, code.plain_clause, lines)
    strength = code.plain_shear(thick, fc)
    return bending, _sheared(terms, wall, strength, code.plain_shear_clause)


def _with_bars(terms: Terms, wall: _Pressed) -> tuple[Check, ...]:
    """Bending and shear of a wall with vertical bars."""
    code, fc, fy = terms.ground.walls, terms.site.strength, terms.site.steel
    name, clause = "Earth, bending", code.barred_clause
    try:
        needed = code.steel_for(wall.moment, wall.depth, fc, fy)
    except BalkenError as error:
        lines = (*wall.base, Line("t", wall.thick, "run", how=str(error)))
        return (Check(name, math.inf, wall.combo, clause, lines),)
    least = code.least_steel(wall.thick, wall.depth, fc, fy)
    bars = bars_along(max(needed, least), code.most_apart(wall.thick), terms.system)
    steel = bars.bar.area / bars.spacing
    spacing = format_spacing(bars.spacing, terms.system)
    on = "inside" if wall.face == "inside" else f"face {wall.face}"
    lines = (
        *wall.base,
        Line("d", wall.depth, "run", how=f"bars on the {on}"),
        Line("As", needed, "steel per run", how="needed"),
        Line("As min", least, "steel per run"),
        Line("bars", steel, "steel per run", how=f"{bars.bar.name} at {spacing}", bars=bars),
        *dowel_lines(terms, bars.bar, bars.spacing, wall.thick - wall.depth),
    )
    bending = Check(name, max(needed, least) / steel, wall.combo, clause, lines)
    strength = code.barred_shear(wall.depth, steel, fc)
    return bending, _sheared(terms, wall, strength, code.barred_shear_clause)


def _sheared(terms: Terms, wall: _Pressed, strength: float, clause: str) -> Check:
    lines = (
        *wall.base,
        Line("V", wall.shear, "line load", how="at the foot"),
        Line(terms.ground.walls.shear_symbol, strength, "line load"),
    )
    return Check("Earth, shear", wall.shear / strength, wall.combo, clause, lines)
