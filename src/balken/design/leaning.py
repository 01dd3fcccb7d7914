"""Rafters and hips that lean on others across a ridge board: the thrust along them, together with
bending (NDS-2018 3.9.2).

At the top of a rafter that no beam holds up, its end reaction R is held by thrust along the rafters
that meet there: half way down it is R / sin θ (statics of a pair with a hinge at its head). A tie
above the plates has a shorter arm and is pulled harder.
"""

import math
from itertools import pairwise

import msgspec

from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.factors import adjusted
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.effects import Effects
from balken.design.lines import Check, Line
from balken.framing.member import Member
from balken.loads.statics import leans, span_marks
from balken.model.sections import Section


class Push(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """Thrust along a member that leans, and what resists it."""

    share: float
    """Thrust at its middle over the reaction that its head would need."""
    area: float
    fc: float
    """Fc with all factors but C_D and C_P, N/mm²."""
    e_min: float
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


def push_on(member: Member, section: Section, tie_up: float) -> Push | None:
    """What pushes along a member that leans; None where it does not, or has no values of its
    own."""
    if not leans(member) or member.carrier.slope <= 0 or len(member.carrier.supports) < 2:
        return None
    strength = compression_values(member, section)
    if strength is None:
        return None
    fc, e_min = strength
    rise = member.carrier.slope * (member.carrier.supports[-1].at - member.carrier.supports[0].at)
    marks = span_marks(member)
    longest = max(b - a for a, b in pairwise(marks)) * math.hypot(1.0, member.carrier.slope)
    share = thrust_share(member.carrier.slope, rise, tie_up)
    return Push(share, section.breadth * section.depth, fc, e_min, longest / section.depth)


def compression_values(member: Member, section: Section) -> tuple[float, float] | None:
    """Fc with its size factor, and E′min in the plane of bending, N/mm²; None where there are
    none."""
    if section.product is not None:
        return (section.product.fc, section.product.e_min) if section.product.fc else None
    species, _, grade = member.material.partition(" ")
    try:
        value = adjusted(
            reference(species, grade, section.nominal), species, grade, section.nominal
        )
    except NoValueError:
        return None
    return value.fc, value.e_min


def combined(push: Push, force: float, bending: float, cd: float) -> float:
    """Interaction of thrust with bending about the strong axis (NDS-2018 3.9-3).

    Args:
        push: what resists the thrust.
        force: the thrust, N.
        bending: utilisation in bending alone.
        cd: C_D.
    """
    if force <= 0:
        return 0.0
    star = push.fc * cd
    stress = force / push.area
    allowed = star * columns.stability(star, push.e_min, push.slender)
    return columns.with_bending(stress, allowed, bending, 1.0, push.e_min, push.slender)


def push_check(push: Push, effects: Effects, bending: list[float]) -> Check:
    """Check of thrust with bending.

    Args:
        push: what pushes, and what resists.
        effects: what the loads do.
        bending: utilisation in bending alone, by combination.
    """
    found = []
    for k, combo in enumerate(effects.combinations):
        force = push.share * max(0.0, float(effects.reaction[k, -1]))
        found.append((combined(push, force, bending[k], combo.duration), k, force))
    ratio, k, force = max(found)
    combo = effects.combinations[k]
    lines = (
        Line("R", float(effects.reaction[k, -1]), "force", how="which its head would need"),
        Line("P", force, "force", how="R / sin θ, along it, at its middle"),
        Line("A", push.area, "steel"),
        Line("Fc*", push.fc * combo.duration, "stress", "NDS 3.7.1"),
        Line(
            "ℓe / d",
            push.slender,
            "factor",
            "NDS 3.7.1.3",
            "in the plane of the roof the sheathing holds it",
        ),
        Line("fb / Fb′", bending[k], "factor", "NDS 3.3"),
    )
    return Check("Thrust and bending", ratio, combo.name, "NDS 3.9.2", lines)
