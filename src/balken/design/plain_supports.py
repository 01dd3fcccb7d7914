"""Foundation walls and piers of plain concrete under what stands on them (ACI 318-19 14.5.3; EN
1992-1-1 12.6.5)."""

import math

from balken.design.concrete import compression
from balken.design.footing_loads import factored
from balken.design.lines import Check, Line
from balken.design.strips import plan_width
from balken.design.terms import Terms
from balken.framing.member import Member
from balken.geometry.plane import signed_area
from balken.loads.path import LoadPath
from balken.model.cases import Cases


def wall_check(terms: Terms, path: LoadPath, member: Member) -> tuple[Check, ...]:
    """Check of a foundation wall in compression, as if its load stood evenly on it; none where
    nothing stands on it.

    What stands at one place presses harder under it: that is looked at where the footing bears on
    soil.
    """
    forces = path.onto_most(member.id)
    if forces is None or not any(forces):
        return ()
    low, high = member.solid.bounds()
    return _check(
        terms, forces, member.length * plan_width(member), high[2] - low[2], plan_width(member)
    )


def pier_check(terms: Terms, path: LoadPath, member: Member) -> tuple[Check, ...]:
    """Check of a pier that is a short pedestal; none of a higher one, which is a column with
    bars."""
    forces = path.onto_most(member.id)
    area, least = abs(signed_area(member.solid.plan())), _least_side(member)
    height = member.end[2] - member.start[2]
    if forces is None or not any(forces) or not compression.is_short(height, least):
        return ()
    return _check(terms, forces, area, height, least)


def _least_side(member: Member) -> float:
    xs, ys = zip(*member.solid.plan())
    return float(min(max(xs) - min(xs), max(ys) - min(ys)))


def is_pedestal(member: Member) -> bool:
    """Whether a pier is short enough to be checked as a pedestal."""
    return compression.is_short(member.end[2] - member.start[2], _least_side(member))


def _check(
    terms: Terms, forces: Cases, area: float, height: float, thickness: float
) -> tuple[Check, ...]:
    load, combo = factored(forces, terms)
    if load <= 0:
        return ()
    held, symbol, clause = terms.ground.compression(terms.site.strength, area, height, thickness)
    lines = (
        Line("P", load, "force", how=f"factored, {combo}"),
        Line("A", area, "steel"),
        Line("ℓc", height, "length"),
        Line("h", thickness, "run"),
        Line(symbol, held, "force", clause),
    )
    return (Check("Compression", load / held if held > 0 else math.inf, combo, clause, lines),)
