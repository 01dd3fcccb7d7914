"""How long the bars that were chosen hold, lap and are bent, as lines of a calculation."""

from typing import Final

from balken.design.concrete.bars import Bar
from balken.design.lines import Line
from balken.design.terms import Terms

ROOMY: Final = 6.0
"""Bars this many diameters apart, and as far from the side, hold their hooks without ties (ACI 318-19
table 25.4.3.2)."""


def hook_length(terms: Terms, bar: Bar, spacing: float, cover: float, share: float = 1.0) -> float:
    """From where a bar works hardest to the outside of its hook, mm, by the share of its strength that
    is asked of it."""
    details, fc, fy = terms.ground.details, terms.site.strength, terms.site.steel
    roomy = min(spacing, cover) >= ROOMY * bar.diameter - 0.5
    return details.hook(bar, fc, fy, share, roomy)


def lap_lines(terms: Terms, bar: Bar) -> tuple[Line, ...]:
    """The bar's thickness, and how far two of them lap."""
    details, fc, fy = terms.ground.details, terms.site.strength, terms.site.steel
    return (
        Line("db", bar.diameter, "run"),
        Line("lap", details.lap(bar, fc, fy), "length", details.lap_clause),
    )


def dowel_lines(terms: Terms, bar: Bar, spacing: float, cover: float) -> tuple[Line, ...]:
    """Dowels that bring a wall's bars into its footing: one for each, lapped with it, hooked below."""
    hook = hook_length(terms, bar, spacing, cover)
    how = "dowels into the footing, one a bar"
    return (
        *lap_lines(terms, bar),
        Line("hook", hook, "length", terms.ground.details.hook_clause, how),
    )
