"""Grade beams that span between piers: the bars they need below and above, and shear.

The heaviest stretch of what lies on a beam is taken all along it; moments are those of continuous beams
(ACI 318-19 6.5.2 over two spans and more; w ℓ² / 8 of one span), the same below and above.
"""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.design.concrete.bars import Bars, bars_across
from balken.design.detailing import lap_lines
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.framing.member import Member

HALF_BAR: Final = 8.0
STIRRUP: Final = 10.0
"""Round the bars, mm."""
NO_TWO: Final = 0.2
"""Neighbouring spans differ by no more than this for the moments of continuous beams (ACI 318-19
6.5.1)."""


class Spanned(NamedTuple):
    """A grade beam on its piers. mm, N."""

    member: Member
    width: float
    thick: float
    piers: tuple[tuple[float, float], ...]
    """Where each begins and ends along the beam."""
    line: float
    """The heaviest stretch of what lies on it, factored, its own weight included, N/mm."""
    combo: str

    @property
    def clear(self) -> tuple[float, ...]:
        """The clear spans between piers."""
        return tuple(b[0] - a[1] for a, b in pairwise(self.piers))

    @property
    def reach(self) -> float:
        """How far it goes on past its last pier."""
        return max(0.0, self.piers[0][0], self.member.length - self.piers[-1][1])


def moment_factor(clear: Sequence[float]) -> float:
    """M over w ℓn²: an eighth of one span, a ninth of two, a tenth of more; an eighth where neighbours
    differ by more than a fifth (ACI 318-19 6.5.1, 6.5.2)."""
    uneven = any(max(a, b) > (1 + NO_TWO) * min(a, b) for a, b in pairwise(clear))
    if len(clear) < 2 or uneven:
        return 1 / 8
    return 1 / 9 if len(clear) == 2 else 1 / 10


def grade_beam_checks(terms: Terms, beam: Spanned) -> tuple[Check, ...]:
    """Bending below and above, and shear without stirrups."""
    rules, pads = terms.ground.beams, terms.ground.pads
    fc, fy = terms.site.strength, terms.site.steel
    line, combo = beam.line, beam.combo
    span = max(beam.clear)
    depth = beam.thick - pads.cover - STIRRUP - HALF_BAR
    cantilever = line * beam.reach**2 / 2
    moment = max(moment_factor(beam.clear) * line * span**2, cantilever)
    base: tuple[Line, ...] = (
        Line("w", line, "line load", how=f"factored, the heaviest stretch, {combo}"),
        Line("ℓn", span, "length", how=f"the longest of {len(beam.clear)} between piers"),
        Line("M", moment, "moment", rules.moment_clause),
        Line("d", depth, "run"),
    )
    if depth <= 0:
        return (Check("Bending", math.inf, combo, rules.bending_clause, base),)
    try:
        needed = pads.steel_for(moment, beam.width, depth, fc, fy)
    except BalkenError as error:
        lines: tuple[Line, ...] = (*base, Line("h", beam.thick, "run", how=str(error)))
        return (Check("Bending", math.inf, combo, rules.bending_clause, lines),)
    least = rules.least(beam.width, depth, fc, fy)
    bars = bars_of(terms, beam, max(needed, least))
    lines = (
        *base,
        Line("As", needed, "steel", how="needed"),
        Line("As min", least, "steel", rules.least_clause),
        Line("bars", bars.area, "steel", how=f"{bars.count} {bars.bar.name}, below and above"),
        Line("n", bars.count, "factor", how="in each layer"),
        *lap_lines(terms, bars.bar),
    )
    bending = Check("Bending", max(needed, least) / bars.area, combo, rules.bending_clause, lines)
    shear = line * max(0.0, span / 2 - depth)
    shear = max(shear, line * max(0.0, beam.reach - depth))
    held = rules.shear(beam.width, depth, bars.area, fc)
    lines = (
        *base,
        Line("V", shear, "force", how="at d from the pier"),
        Line("held", held, "force"),
    )
    return bending, Check("Shear", shear / held, combo, rules.shear_clause, lines)


def bars_of(terms: Terms, beam: Spanned, steel: float) -> Bars:
    """Bars side by side in the beam, hooked or not; they run through."""
    cover = terms.ground.pads.cover + STIRRUP
    return bars_across(steel, beam.width, cover, 300.0, terms.system, math.inf, lambda bar: 0.0)
