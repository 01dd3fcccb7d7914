"""What the check of a floor under a walking person is asked with."""

from collections.abc import Sequence
from typing import Final

from balken.framing.member import Member
from balken.model.floors import BuildUp, FloorArea

DECK: Final = 3500.0
"""E of panels bent across their strength, N/mm² (common practice, no source)."""

Walked = tuple[float, float, float]
"""Limit of sag under 1 kN, mm; width of the floor across its joists, mm; EI of the deck, N mm² a mm."""


def walked_of(floor: FloorArea, body: BuildUp, width: float) -> Walked | None:
    """What a floor is asked with; None of a ceiling."""
    if body.use != "floor":
        return None
    return floor.walk, max(width, 1.0), DECK * body.subfloor**3 / 12


def between(members: Sequence[Member]) -> tuple[float, float]:
    """Where members stand across the first of them: the least and the greatest, mm from the
    origin."""
    first = members[0]
    ux, uy = (
        (first.end[0] - first.start[0]) / first.run,
        (first.end[1] - first.start[1]) / first.run,
    )
    offsets = [-uy * m.start[0] + ux * m.start[1] for m in members]
    return min(offsets), max(offsets)


def width_across(members: Sequence[Member]) -> float:
    """How far members are set out across the first of them, mm."""
    low, high = between(members)
    return high - low
