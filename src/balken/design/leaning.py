"""Rafters and hips that lean on others across a ridge board: the thrust along them, together with
bending.

At the top of a rafter that no beam holds up, its end reaction R is held by thrust along the rafters
that meet there: half way down it is R / sin θ (statics of a pair with a hinge at its head). A tie
above the plates has a shorter arm and is pulled harder.
"""

import math
from itertools import pairwise

import msgspec

from balken.design.effects import Effects
from balken.design.lines import Check, Line
from balken.design.strength import BeamRules, Pushed
from balken.design.worth import Worth
from balken.framing.member import Member
from balken.loads.statics import leans, span_marks
from balken.model.sections import Section


class Push(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """Thrust along a member that leans, and what resists it."""

    share: float
    """Thrust at its middle over the reaction that its head would need."""
    area: float
    worth: Worth
    slender: float
    """ℓe / d in the plane of bending; across it the sheathing holds it."""


HIGHEST_TIE = 0.9
"""A tie is reckoned no nearer to the ridge, of the rise."""


def thrust_share(slope: float, rise: float, tie_up: float) -> float:
    """Thrust half way along a leaning rafter over the end reaction at its head.

    Args:
        slope: rise over run, along the member.
        rise: of its head over its foot, mm.
        tie_up: height of what ties the feet over the plates, mm.
    """
    up = min(tie_up, HIGHEST_TIE * rise)
    return math.hypot(1.0, slope) / slope * rise / (rise - up)


def push_on(member: Member, section: Section, worth: Worth | None, tie_up: float) -> Push | None:
    """What pushes along a member that leans; None where it does not, or has no values in
    compression."""
    if not leans(member) or member.carrier.slope <= 0 or len(member.carrier.supports) < 2:
        return None
    if worth is None or not worth.fc:
        return None
    rise = member.carrier.slope * (member.carrier.supports[-1].at - member.carrier.supports[0].at)
    marks = span_marks(member)
    longest = max(b - a for a, b in pairwise(marks)) * math.hypot(1.0, member.carrier.slope)
    share = thrust_share(member.carrier.slope, rise, tie_up)
    return Push(share, section.breadth * section.depth, worth, longest / section.depth)


def combined(push: Push, rules: BeamRules, force: float, bending: float, duration: float) -> float:
    """Utilisation of thrust with bending about the strong axis.

    Args:
        push: what resists the thrust.
        rules: of the code.
        force: the thrust, N.
        bending: utilisation in bending alone.
        duration: what it makes of strength.
    """
    if force <= 0:
        return 0.0
    worth = push.worth
    return rules.pushed(
        Pushed(
            force / push.area,
            worth.fc,
            worth.characteristic,
            worth.e_min,
            push.slender,
            bending,
            duration,
        )
    )


def push_check(push: Push, rules: BeamRules, effects: Effects, bending: list[float]) -> Check:
    """Check of thrust with bending.

    Args:
        push: what pushes, and what resists.
        rules: of the code.
        effects: what the loads do.
        bending: utilisation in bending alone, by combination.
    """
    found = []
    for k, combo in enumerate(effects.combinations):
        force = push.share * max(0.0, float(effects.reaction[k, -1]))
        found.append((combined(push, rules, force, bending[k], combo.duration), k, force))
    ratio, k, force = max(found)
    combo = effects.combinations[k]
    lines = (
        Line("R", float(effects.reaction[k, -1]), "force", how="which its head would need"),
        Line("P", force, "force", how="R / sin θ, along it, at its middle"),
        Line("A", push.area, "steel"),
        Line("fc allowed", push.worth.fc * combo.duration, "stress", rules.pushed_clauses[1]),
        Line(
            "ℓe / d", push.slender, "factor", how="in the plane of the roof the sheathing holds it"
        ),
        Line("bending", bending[k], "factor", how="utilisation by itself"),
    )
    return Check("Thrust and bending", ratio, combo.name, rules.pushed_clauses[0], lines)
