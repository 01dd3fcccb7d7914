"""Sections of concrete beams: the bars a moment needs, and shear with stirrups or without."""

import math
from typing import Final, Literal, NamedTuple

from msgspec.structs import replace

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


class Acting(NamedTuple):
    """What acts on the worst section of a beam, factored. N mm, N."""

    moment: float
    shear: float
    combo: str
    taken: str = "at d from the support"
    """Where the shear is taken."""


LAYERS: Final = {1: "below", 2: "below and above"}
"""Of bars, in words."""


def section_checks(
    terms: Terms, section: Section, acting: Acting, base: tuple[Line, ...], layers: Literal[1, 2]
) -> tuple[Check, ...]:
    """Bending and shear.

    Args:
        terms: of the project.
        section: of the beam.
        acting: what the loads do to it.
        base: lines that say where both come from.
        layers: of bars: below, or below and above.
    """
    rules, site, combo = terms.ground.beams, terms.site, acting.combo
    width, depth = section.width, section.depth
    if depth <= 0:
        none = Line("As", math.inf, "steel", how="Bars find no room in it")
        return (Check("Bending", math.inf, combo, rules.bending_clause, (*base, none)),)
    try:
        needed = terms.ground.pads.steel_for(acting.moment, width, depth, site.strength, site.steel)
    except BalkenError as error:
        lines = (*base, Line("As", math.inf, "steel", how=str(error)))
        return (Check("Bending", math.inf, combo, rules.bending_clause, lines),)
    least = rules.least(width, depth, site.strength, site.steel)
    bars = bars_in(terms, section, max(needed, least))
    both = replace(bars, layers=layers)
    lines = (
        *base,
        Line("As", needed, "steel", how="needed"),
        Line("As min", least, "steel", rules.least_clause),
        Line(
            "bars",
            bars.area,
            "steel",
            how=f"{bars.count} {bars.bar.name}, {LAYERS[layers]}",
            bars=both,
        ),
        Line("n", bars.count, "factor", how="in each layer"),
        *lap_lines(terms, bars.bar),
    )
    bending = Check("Bending", max(needed, least) / bars.area, combo, rules.bending_clause, lines)
    return bending, _shear(terms, section, acting, base, bars)


def bars_in(terms: Terms, section: Section, steel: float) -> Bars:
    """Bars side by side in a beam; they run through."""
    cover = section.cover + STIRRUP
    return bars_across(
        steel, section.width, cover, MOST_APART, terms.system, math.inf, lambda bar: 0.0
    )


def _shear(
    terms: Terms, section: Section, acting: Acting, base: tuple[Line, ...], bars: Bars
) -> Check:
    """By the concrete alone where that is allowed, else with the stirrups it needs."""
    rules, site, shear = terms.ground.beams, terms.site, acting.shear
    width, depth = section.width, section.depth
    lines = (*base, Line("V", shear, "force", how=acting.taken))
    alone = rules.shear(width, depth, bars.area, site.strength)
    tied = rules.stirrups(width, depth, site.strength, site.steel, shear)
    exempt = section.is_lintel and section.clear <= rules.none_to
    if shear <= alone and (exempt or not tied.wanted):
        lines = (*lines, Line("held", alone, "force", how="by the concrete, no stirrups needed"))
        return Check("Shear", shear / alone, acting.combo, rules.shear_clause, lines)
    bar = BARS[terms.system][0]
    legs = 2 * bar.area
    apart = _apart(terms.system, legs, shear, tied)
    if apart < CLOSEST:
        lines = (*lines, Line("s", math.inf, "run", how="It is too thin for stirrups"))
        return Check("Shear", math.inf, acting.combo, tied.clause, lines)
    held = max(alone, tied.held(legs / apart))
    lines = (
        *lines,
        Line("Av", legs, "steel", how=f"two legs of {bar.name}", bars=Bars(bar, 2, apart)),
        Line("s", apart, "run", tied.clause, "stirrups apart"),
        Line("held", held, "force", how="with stirrups"),
    )
    return Check("Shear", shear / held, acting.combo, tied.clause, lines)


def _apart(system: System, legs: float, shear: float, tied: Stirrups) -> float:
    """How far apart stirrups stand: as they must by rule, closer where the shear asks it, mm; less than
    the closest where the rule leaves no room for them."""
    step = STEP[system]
    apart = math.floor(min(tied.apart, legs / tied.least) / step) * step
    while apart - step >= CLOSEST and tied.held(legs / apart) < shear:
        apart -= step
    return apart
