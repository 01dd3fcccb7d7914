"""What travels: a load at a place in plan, with its force per case; and what arrives where nothing carries it."""

import math
from collections.abc import Iterable

import msgspec

from balken.framing.member import Member
from balken.loads.cases import CASES

Cases = tuple[float, ...]
"""A force per case of :data:`CASES`, N."""
NOTHING: Cases = (0.0,) * len(CASES)


class Parcel(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A load on its way down."""

    x: float
    y: float
    forces: Cases
    source: str


class OpenEnd(msgspec.Struct, frozen=True, gc=False):
    """Load that arrives where nothing carries it further."""

    source: str
    x: float
    y: float
    forces: Cases


Parcels = dict[str, list[Parcel]]
"""What lies on each member or wall, by its name."""


def total(forces: Iterable[Cases]) -> Cases:
    """Return the sum per case, without rounding on the way."""
    return tuple(map(math.fsum, zip(*forces))) or NOTHING


def station(member: Member, x: float, y: float) -> float:
    """Return how far along a member a place lies, mm from its start in plan, kept within it."""
    return stations(member, [(x, y)])[0]


def stations(member: Member, places: Iterable[tuple[float, float]]) -> list[float]:
    """Return how far along a member places lie, mm from its start in plan, kept within it."""
    (ax, ay, _), (bx, by, _) = member.start, member.end
    run = math.hypot(bx - ax, by - ay)
    if run <= 0:
        return [0.0 for _ in places]
    ux, uy = bx - ax, by - ay
    return [min(run, max(0.0, ((x - ax) * ux + (y - ay) * uy) / run)) for x, y in places]
