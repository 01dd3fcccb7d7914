"""Grade beams that span between piers: the bars they need below and above, and shear.

The heaviest stretch of what lies on a beam is taken all along it; moments are those of continuous beams
(ACI 318-19 6.5.2 over two spans and more; w ℓ² / 8 of one span), the same below and above.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.design.concrete_beams import Acting, Section, section_checks
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.framing.member import Member

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
    """Bending below and above, and shear."""
    rules, line, combo = terms.ground.beams, beam.line, beam.combo
    span = max(beam.clear)
    section = Section(beam.width, beam.thick, terms.ground.pads.cover, span)
    cantilever = line * beam.reach**2 / 2
    moment = max(moment_factor(beam.clear) * line * span**2, cantilever)
    base: tuple[Line, ...] = (
        Line("w", line, "line load", how=f"factored, the heaviest stretch, {combo}"),
        Line("ℓn", span, "length", how=f"the longest of {len(beam.clear)} between piers"),
        Line("M", moment, "moment", rules.moment_clause),
        Line("d", section.depth, "run"),
    )
    shear = line * max(0.0, span / 2 - section.depth, beam.reach - section.depth)
    return section_checks(terms, section, Acting(moment, shear, combo), base, 2)
