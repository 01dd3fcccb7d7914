"""Strip footings, thickened edges and grade beams on soil: pressure, width by load and by table,
projection, plain bending."""

import math
from typing import NamedTuple

from balken.design.codes.us.irc_soil import Below, Construction, prescriptive_width, width_2021
from balken.design.footing_loads import wall_over
from balken.design.lines import Check, Line
from balken.design.soil import pressure
from balken.design.soil.sizes import strip_width
from balken.design.strip_loads import OnStrip, Stretch, highest_lines
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import direction_or, dot, left, sub
from balken.model.foundations import FoundationRun


class ByTable(NamedTuple):
    """What the prescriptive table of the IRC asks about a strip: what stands on it and over it."""

    construction: Construction
    storeys: int
    below: Below
    roof: float
    """The heavier of roof live load and ground snow, N/mm²."""

    @property
    def words(self) -> str:
        """The same, in words."""
        storeys = f"{self.storeys} {'storey' if self.storeys == 1 else 'storeys'}"
        return f"{self.construction}, {storeys}, {self.below}"


class OnSoil(NamedTuple):
    """A piece of strip footing, thickened edge or grade beam, with what lies on it and under it."""

    member: Member
    run: FoundationRun
    own: float
    """Its own weight along its line, N/mm."""
    thick: float
    """Of its footing, mm."""
    stretch: Stretch
    loads: tuple[OnStrip, ...]
    table: ByTable | None
    """Where the code has a table for it."""


def strip_checks(terms: Terms, strip: OnSoil) -> tuple[Check, ...]:
    """The checks of a piece of strip footing, thickened edge or grade beam on soil."""
    checks = [_soil_under_strip(terms, strip)]
    if strip.member.kind is kinds.FOOTING:
        checks += _plain_strip(terms, strip)
        table = table_width(terms, strip.table) if strip.table else None
        if strip.table is not None and table is not None:
            checks.append(_by_table(table, needed_width(terms, strip), strip))
    return tuple(checks)


def _by_table(table: float, needed: float, strip: OnSoil) -> Check:
    """The prescriptive width as a second opinion."""
    assert strip.table is not None
    width = plan_width(strip.member)
    governs = "the table" if table > needed else "the load"
    lines = (
        Line("b table", table, "run", "IRC table R403.1", how=strip.table.words),
        Line("b load", needed, "run", "IRC R401.4.1", how=f"w / (qa − γ t); {governs} governs"),
        Line("b", width, "run"),
    )
    return Check("Width by the table", table / width, "second opinion", "IRC table R403.1", lines)


def plan_width(member: Member) -> float:
    """A piece's width across its line, mm."""
    start = (member.start[0], member.start[1])
    normal = left(direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0)))
    across = [dot(sub(p, start), normal) for p in member.solid.plan()]
    return max(across) - min(across)


def _soil_under_strip(terms: Terms, strip: OnSoil) -> Check:
    member, stretch, loads, own = strip.member, strip.stretch, strip.loads, strip.own
    combos = terms.ground.service
    lines_of = highest_lines(loads, stretch, [c.factors for c in combos])
    by_combination = [line + own * c.factors.dead for line, c in zip(lines_of, combos)]
    k = max(range(len(combos)), key=lambda i: by_combination[i])
    line, combo = by_combination[k], combos[k].name
    is_footing = member.kind is kinds.FOOTING
    width = plan_width(member) if is_footing else stretch.area / stretch.length
    lines = [
        Line("w", line, "line load", how=f"the most of any place, own weight included, {combo}"),
        Line("b", width, "run"),
        Line("ℓ", stretch.length, "length", how="on soil of its own, along the middle"),
    ]
    spread = max((x.spread for x in loads if x.alone), default=None)
    if spread is not None:
        words = "to each side of a post or beam, 1 to 1"
        lines.append(Line("spread", spread, "length", "common practice", words))
    shift = abs(strip.run.footing_shift) if is_footing else 0.0
    moment = (line - own) * shift if line > own else 0.0
    highest, how, off = _highest_pressure(line, moment, width)
    lines += [
        *off,
        Line("q", highest, "area load", how=how),
        Line("qa", terms.site.soil_bearing, "area load", terms.ground.soil),
    ]
    ratio = highest / terms.site.soil_bearing
    return Check("Soil pressure", ratio, combo, terms.ground.soil, tuple(lines))


def _highest_pressure(line: float, moment: float, width: float) -> tuple[float, str, list[Line]]:
    """The highest pressure under a strip, N/mm², how it comes about, and how far the load stands
    out of the middle."""
    if not moment:
        return line / width, "w / b", []
    try:
        found = pressure.under_pad(line, (moment, 0.0), (width, 1.0))
    except BalkenError:
        return math.inf, "the load falls outside the footing", []
    kern = f"load out of the middle; kern b/6 = {width / 6:.0f} mm"
    how = "2w / (3 (b/2 − e)), a part lifts" if found.lifts else "w/b (1 + 6 e/b)"
    return found.highest, how, [Line("e", moment / line, "run", how=kern)]


def projection(run: FoundationRun, width: float) -> float:
    """How far a footing reaches past the face of its wall on the longer side, mm."""
    return (width - run.stem_thickness) / 2 + abs(run.footing_shift)


def _plain_strip(terms: Terms, strip: OnSoil) -> list[Check]:
    member, run, stretch, loads = strip.member, strip.run, strip.stretch, strip.loads
    width, thick = plan_width(member), strip.thick
    part = next((p for p in run.parts if p.wall == wall_over(member) and p.stem_thickness), None)
    stem = part.stem_thickness if part else run.stem_thickness
    reach = (width - stem) / 2 + abs(run.footing_shift)
    strong = terms.ground.strength
    highest = highest_lines(loads, stretch, [c.factors for c in strong])
    up, combo = max(zip(highest, (c.name for c in strong)))
    net = max(0.0, up) / width
    code = terms.ground.strips
    lines = (
        Line("a", reach, "run", how="projection past the wall"),
        Line("h", thick, "run"),
        Line("a / h", reach / thick, "factor", how="no more than 1"),
    )
    return [
        Check("Projection", reach / thick, "–", code.projection, lines),
        code.bending(net, reach, thick, combo, terms.site),
    ]


def needed_width(terms: Terms, strip: OnSoil) -> float:
    """The width the soil asks of a strip for the load it carries, mm; infinite where its own
    weight is too much."""
    sums = [c.factors for c in terms.ground.service]
    line = max(highest_lines(strip.loads, strip.stretch, sums))
    low, high = strip.member.solid.bounds()
    site = terms.site
    try:
        return strip_width(max(0.0, line), site.soil_bearing, high[2] - low[2], site.concrete)
    except BalkenError:
        return math.inf


def table_width(terms: Terms, asked: ByTable) -> float | None:
    """The least width by the prescriptive table, mm; None where the table says nothing."""
    built, storeys, below, roof = asked
    bearing = terms.site.soil_bearing
    framed = width_2021(storeys, below, bearing, roof)
    if built == "light frame":
        return framed
    # The tables for brick and masonry of 2021 are not held: the heavier of the older one and the
    # lighter construction.
    older = prescriptive_width(built, storeys, bearing)
    return max((w for w in (framed, older) if w is not None), default=None)
