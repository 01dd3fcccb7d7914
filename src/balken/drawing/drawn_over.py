"""Two versions of a building laid over one another: what came, what changed, and the bodies that went."""

from typing import NamedTuple

from balken.drawing.marks import Drawing, Mark, Patch
from balken.drawing.tiers import Tier
from balken.framing.member import Member
from balken.model.names import MemberName
from balken.takeoff.compared import differences
from balken.works.building import Checked


class Over(NamedTuple):
    """What is drawn of the earlier version over the later one."""

    came: frozenset[MemberName]
    changed: frozenset[MemberName]
    gone: tuple[Member, ...]
    """Bodies as they were: of what went, and of what lies or is cut otherwise now."""


def laid_over(before: Checked, after: Checked) -> Over:
    """What an earlier version was that the later is not."""
    found = differences(before, after)
    other = [d for d in found if d.before is not None and d.after is not None]
    moved = [d.before for d in other if d.before and d.after and d.before.solid != d.after.solid]
    return Over(
        frozenset(d.name for d in found if d.before is None),
        frozenset(d.name for d in other),
        tuple([d.before for d in found if d.before and d.after is None] + moved),
    )


def over_marks(over: Over, after: Checked, tier: Tier) -> Drawing:
    """On a plan: what came or changed shaded, what went or lay elsewhere in hidden lines."""
    marks: list[Mark] = [
        Patch(m.solid.plan(), "shade", "seen", m.id)
        for m in after.structure.members
        if m.id in over.came | over.changed and tier.holds(m.host)
    ]
    marks += [Patch(m.solid.plan(), "none", "hidden") for m in over.gone if tier.holds(m.host)]
    return tuple(marks)
