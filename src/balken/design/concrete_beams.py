"""Sections of concrete beams: the bars a moment needs, and shear with stirrups or without."""

import math
from typing import Final, NamedTuple

from balken.design.codes.ground import Stirrups
from balken.design.concrete.bars import BARS, Bars, bars_across
from balken.design.detailing import lap_lines
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.units import INCH, System

HALF_BAR: Final = 8.0
STIRRUP: Final = 10.0
"""Round the bars, mm."""
MOST_APART: Final = 300.0
"""Bars side by side, mm."""


STEP: Final[dict[System, float]] = {"us": INCH, "metric": 25.0}
"""Stirrups are set in steps of this, mm."""
CLOSEST: Final = 50.0
"""And no closer, mm (common practice, no source)."""


class Section(NamedTuple):
    """A beam cut through. mm."""

    width: float
    thick: float
    cover: float
    clear: float
    """The longest clear span."""
    is_lintel: bool = False

    @property
    def depth(self) -> float:
        """From the compressed edge to the middle of the bars."""
        return self.thick - self.cover - STIRRUP - HALF_BAR


def section_checks(
    terms: Terms,
    section: Section,
    moment: float,
    shear: float,
    combo: str,
    base: tuple[Line, ...],
    layers: str,
    taken: str = "at d from the support",
) -> tuple[Check, ...]:
    """Bending and shear.

    Args:
        terms: of the project.
        section: of the beam.
        moment: factored, N mm.
        shear: factored, N.
        combo: its combination.
        base: lines that say where both come from.
        layers: where its bars lie, in words.
        taken: where the shear is taken.
    """
    rules, site = terms.ground.beams, terms.site
    width, depth = section.width, section.depth
    if depth <= 0:
        none = Line("As", math.inf, "steel", how="Bars find no room in it")
        return (Check("Bending", math.inf, combo, rules.bending_clause, (*base, none)),)
    try:
        needed = terms.ground.pads.steel_for(moment, width, depth, site.strength, site.steel)
    except BalkenError as error:
        lines = (*base, Line("As", math.inf, "steel", how=str(error)))
        return (Check("Bending", math.inf, combo, rules.bending_clause, lines),)
    least = rules.least(width, depth, site.strength, site.steel)
    bars = bars_in(terms, section, max(needed, least))
    lines = (
        *base,
        Line("As", needed, "steel", how="needed"),
        Line("As min", least, "steel", rules.least_clause),
        Line("bars", bars.area, "steel", how=f"{bars.count} {bars.bar.name}, {layers}"),
        Line("n", bars.count, "factor", how="in each layer"),
        *lap_lines(terms, bars.bar),
    )
    bending = Check("Bending", max(needed, least) / bars.area, combo, rules.bending_clause, lines)
    return bending, _shear(
        terms, section, shear, combo, (*base, Line("V", shear, "force", how=taken)), bars
    )


def bars_in(terms: Terms, section: Section, steel: float) -> Bars:
    """Bars side by side in a beam; they run through."""
    cover = section.cover + STIRRUP
    return bars_across(
        steel, section.width, cover, MOST_APART, terms.system, math.inf, lambda bar: 0.0
    )


def _shear(
    terms: Terms, section: Section, shear: float, combo: str, base: tuple[Line, ...], bars: Bars
) -> Check:
    """By the concrete alone where that is allowed, else with the least stirrups."""
    rules, site = terms.ground.beams, terms.site
    width, depth = section.width, section.depth
    alone = rules.shear(width, depth, bars.area, site.strength)
    tied = rules.stirrups(width, depth, site.strength, site.steel, shear)
    exempt = section.is_lintel and section.clear <= rules.none_to
    lines: tuple[Line, ...] = base
    if shear <= alone and (exempt or not tied.wanted):
        lines = (*lines, Line("held", alone, "force", how="by the concrete, no stirrups needed"))
        return Check("Shear", shear / alone, combo, rules.shear_clause, lines)
    bar = BARS[terms.system][0]
    legs = 2 * bar.area
    apart = _apart(terms.system, legs, shear, tied)
    held = max(alone, tied.held(legs / apart))
    lines = (
        *lines,
        Line("Av", legs, "steel", how=f"two legs of {bar.name}"),
        Line("s", apart, "run", tied.clause, "stirrups apart"),
        Line("held", held, "force", how="with stirrups"),
    )
    return Check("Shear", shear / held, combo, tied.clause, lines)


def _apart(system: System, legs: float, shear: float, tied: Stirrups) -> float:
    """How far apart stirrups stand: as they must by rule, closer where the shear asks it, mm."""
    step = STEP[system]
    apart = math.floor(min(tied.apart, legs / tied.least) / step) * step
    while apart > CLOSEST + step and tied.held(legs / apart) < shear:
        apart -= step
    return max(apart, CLOSEST)
