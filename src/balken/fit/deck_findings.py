"""Findings on floors and roofs that hand on what pushes a building sideways."""

import math
from collections.abc import Iterable
from functools import partial

from msgspec.structs import replace

from balken.fit.finding import Finding, Mend
from balken.fit.wind_findings import compass
from balken.model.edits import set_site
from balken.units import format_force, format_length, format_line_load
from balken.works.building import Checked, is_over
from balken.works.diaphragms import Deck, decks_of, worst_decks


def deck_findings(checked: Checked) -> Iterable[Finding]:
    """The worst floor or roof of each storey, each way, that holds less than it is asked for, or whose
    strength is not known."""
    for deck in worst_decks(checked).values():
        if deck.decked.why or is_over(deck.used):
            yield _lacking(checked, deck)


def _lacking(checked: Checked, deck: Deck) -> Finding:
    system = checked.project.system
    top, way = format_length(deck.storey.top, system), compass(deck.storey.way)
    what = deck.panels.what if deck.panels else "floor or roof"
    asked = format_line_load(deck.unit, system)
    mend = _blocked(checked, deck)
    if deck.decked.why:
        says = f"{asked} is not checked: {deck.decked.why}"
    else:
        chord = format_force(deck.chord, system)
        worst = max(deck.checks, key=lambda c: c.ratio)
        says = (
            f"{asked} in its panels and {chord} along its edge use it to {deck.used:.2f} of 1.00"
            f" ({worst.name.lower()})"
        )
    helps = (
        mend.text if mend else "Add a line of walls between, thicker panels, or check it by hand"
    )
    known = math.isfinite(deck.used)
    return Finding(
        "over" if known else "unchecked",
        f"{what} at {top}, {way}",
        deck.used if known else deck.unit * deck.span.depth,
        "ratio" if known else "N",
        f"The {what} at {top}, pushed {way}: {says}. {helps}.",
        None,
        mend=mend,
    )


def _blocked(checked: Checked, deck: Deck) -> Mend | None:
    """Join all edges of the panels, where that is enough."""
    if checked.project.site.blocked or deck.panels is None:
        return None
    site = replace(checked.built.site, blocked=True)
    tried = replace(checked, built=replace(checked.built, site=site))
    same = [d for d in decks_of(tried) if (d.storey, d.span) == (deck.storey, deck.span)]
    if not same or any(d.decked.why or is_over(d.used) for d in same):
        return None
    return Mend("Join all edges of the panels", partial(set_site, blocked=True))
