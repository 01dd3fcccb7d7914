"""Box headers as every code asks about them: flanges that pull and push, panels that take the shear."""

from typing import NamedTuple

from balken.design.lines import Line
from balken.design.strength import BeamRules, Clauses, Strength
from balken.model.sections import Section


class BoxStrength(NamedTuple):
    """What a box header resists at the normal duration: N, mm, N/mm², with its lines."""

    moment: float
    shear: float
    ei: float
    bearing: float
    """Per mm of length, N/mm."""
    moment_lines: tuple[Line, ...]
    shear_lines: tuple[Line, ...]
    stiff_lines: tuple[Line, ...]
    bearing_lines: tuple[Line, ...]


def with_shear(ei: float, ga: float, span: float) -> float:
    """The EI that sags under a uniform load as much as bending and shear together, N mm²:
    5 w L⁴ / 384 EI + w L² / 8 GA.

    Args:
        ei: of bending alone, N mm².
        ga: of shear, N.
        span: mm.
    """
    return ei / (1 + 48 * ei / (5 * ga * span**2)) if span > 0 else ei


def as_strength(
    section: Section, found: BoxStrength, rules: BeamRules, clauses: Clauses, *, lasts: bool
) -> Strength:
    """A box header among all that bends; ``lasts``: duration counts for its bearing too."""
    return Strength(
        rules,
        clauses,
        found.moment,
        found.shear,
        found.ei,
        found.bearing,
        bearing_by_duration=lasts,
        breadth=section.breadth,
        depth=section.depth,
        moment_lines=found.moment_lines,
        shear_lines=found.shear_lines,
        stiff_lines=found.stiff_lines,
        bearing_lines=found.bearing_lines,
    )
