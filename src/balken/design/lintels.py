"""Lintels of concrete over openings in walls: bending, shear, and what the wall beside the opening bears.

All that comes onto the wall over an opening lies on its lintel: nothing is taken to arch to the sides. A
lintel that is deep for its span counts as one that is not.
"""

import math
from typing import NamedTuple

from balken.design.concrete_beams import Acting, Section, section_checks
from balken.design.effects import Loaded, effects_of
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.design.under import Under
from balken.framing.member import Member, clear_span
from balken.loads.cases import Sums
from balken.loads.parcels import Parcel, at_most
from balken.model.cases import NOTHING
from balken.units import format_run


class OverOpening(NamedTuple):
    """A lintel and what lies on it. mm, N."""

    member: Member
    width: float
    thick: float
    parcels: tuple[Parcel, ...]
    under: Under
    """The wall that bears it."""


def lintel_checks(terms: Terms, lintel: OverOpening) -> tuple[Check, ...]:
    """Bending, shear, bearing; nothing where nothing lies on it."""
    clear = clear_span(lintel.member)
    thick = min(lintel.thick, clear / terms.ground.beams.deep)
    section = Section(lintel.width, thick, terms.ground.beams.cover, clear, is_lintel=True)
    strong = Loaded(
        lintel.member, NOTHING, at_most(lintel.parcels), Sums(tuple(terms.ground.strength))
    )
    effects = effects_of([strong])[0]
    if effects is None:
        return ()
    moments = effects.sagging.max(axis=1)
    worst = int(moments.argmax())
    combo = effects.combinations[worst].name
    moment, shear = float(moments[worst]), float(effects.shear.max())
    if moment <= 0:
        return ()
    deep = f"{format_run(lintel.thick, terms.system)} thick, deep for its span"
    base: tuple[Line, ...] = (
        Line("ℓn", clear, "length", how="clear of the opening"),
        Line("M", moment, "moment", how=f"factored, {combo}, simply supported"),
        Line("h", thick, "run", how=deep if thick < lintel.thick else ""),
        Line("d", section.depth, "run"),
    )
    acting = Acting(moment, shear, combo, "at the support")
    return (
        *section_checks(terms, section, acting, base, 1),
        *_bearing(terms, lintel),
    )


def _bearing(terms: Terms, lintel: OverOpening) -> tuple[Check, ...]:
    """What presses the wall beside the opening, against what its masonry bears."""
    sums = terms.timber.sums(1, terms.on_floors)
    loaded = Loaded(lintel.member, NOTHING, at_most(lintel.parcels), sums)
    effects = effects_of([loaded])[0]
    if effects is None or math.isinf(lintel.under.stress):
        return ()
    reactions = effects.reaction.max(axis=0)
    seats = [s.length for s in lintel.member.carrier.supports]
    stress, seat, force = max(
        (float(r) / (s * lintel.width), s, float(r)) for r, s in zip(reactions, seats)
    )
    combo = effects.combinations[int(effects.reaction.max(axis=1).argmax())].name
    lines = (
        Line("R", force, "force", how=f"at one end, {combo}"),
        Line("ℓb", seat, "run", how="bearing"),
        Line("b", lintel.width, "run"),
        Line("σ", stress, "stress"),
        Line("bears", lintel.under.stress, "stress", lintel.under.clause, lintel.under.what),
    )
    ratio = stress / lintel.under.stress
    return (Check("Bearing on the wall", ratio, combo, lintel.under.clause, lines),)
