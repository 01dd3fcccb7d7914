"""Solid slabs as floors: thick enough that their sag need not be worked out (ACI 318-19 table 7.3.1.1)."""

from typing import Final

import shapely

from balken.design.steps import Check, Step
from balken.framing.member import Member
from balken.loads.path import LoadPath

LEAST: Final = 20.0
"""A slab on two supports is at least a twentieth of its span thick (ACI 318-19 table 7.3.1.1, Grade 60)."""


def clear_way(member: Member, under: tuple[shapely.Polygon, ...]) -> float:
    """Return the span of a slab, mm: twice the radius of the largest circle in it that nothing under it touches."""
    shape = shapely.Polygon(member.solid.plan())
    free = shape.difference(shapely.union_all(list(under))) if under else shape
    circle = shapely.maximum_inscribed_circle(free, tolerance=50.0)
    return 2.0 * float(circle.length)


def slab_checks(path: LoadPath, member: Member) -> tuple[Check, ...]:
    """Return the check of a slab's thickness against its span; none where it lies on nothing."""
    under = tuple(shapely.Polygon(ring) for _, ring in path.rests.get(member.id, ()))
    if not under:
        return ()
    span = clear_way(member, under)
    needed = span / LEAST
    steps = (
        Step("ℓ", span, "length", how="widest way between what carries it"),
        Step("h needed", needed, "run", "ACI 318 7.3.1.1", "ℓ / 20"), Step("h", member.solid.depth, "run"),
    )  # fmt: skip
    return (Check("Thickness", needed / member.solid.depth, "–", "ACI 318 7.3.1.1", steps),)
