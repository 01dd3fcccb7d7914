"""What travels: a load at a place in plan, with its force per case; and what arrives where nothing
carries it."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.framing.member import Member
from balken.geometry.plane import Point
from balken.model.cases import CASE_COUNT, NOTHING, Cases
from balken.model.names import Rest
from balken.recall import remembered_piece


class Parcel(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A load on its way down."""

    x: float
    y: float
    forces: Cases
    source: Rest
    more: Cases = NOTHING
    """What comes besides when live load stands on those spans only that add to it (ASCE 7-16
    4.3.3), N per case: it may be there or not, so it is no part of the balance of loads."""
    wide: float = 0.0
    """Spread evenly over so much of what it lies on, mm; nothing where it stands at one place, or
    that is not known."""

    @property
    def most(self) -> Cases:
        """The greatest force per case."""
        return self.forces + self.more


class OpenEnd(msgspec.Struct, frozen=True, gc=False):
    """Load that arrives where nothing carries it further."""

    source: Rest
    x: float
    y: float
    forces: Cases


class Laid(NamedTuple):
    """Parcels as they lie along a direction: how far along it from the origin (P), mm, in order,
    and the force there per case (C, P), N. What lies at one place is one load: two joists that meet
    over a beam."""

    at: NDArray[np.float64]
    forces: NDArray[np.float64]


@remembered_piece
def laid_along(parcels: tuple[Parcel, ...], way: Point) -> Laid:
    """Parcels side by side along a direction in the plan."""
    t = np.array([(p.x, p.y) for p in parcels]).reshape(-1, 2) @ np.array(way)
    at, which = np.unique(np.round(t, 3), return_inverse=True)
    forces = np.zeros((CASE_COUNT, len(at)))
    np.add.at(forces.T, which, rows_of([p.forces for p in parcels]))
    return Laid(at, forces)


def laid_on(member: Member, parcels: tuple[Parcel, ...]) -> Laid:
    """Parcels side by side along a member, from its start and kept within it."""
    (ax, ay, _), (bx, by, _) = member.carrier.start, member.carrier.end
    run = math.hypot(bx - ax, by - ay)
    if not parcels or run <= 0:
        return Laid(np.zeros(len(parcels)), rows_of([p.forces for p in parcels]).T)
    way = ((bx - ax) / run, (by - ay) / run)
    laid = laid_along(parcels, way)
    return Laid(np.clip(laid.at - (ax * way[0] + ay * way[1]), 0.0, run), laid.forces)


Parcels = dict[Rest, list[Parcel]]
"""What lies on each member or wall, by its name."""


def rows_of(amounts: Sequence[Cases]) -> NDArray[np.float64]:
    """Amounts as the rows of an array, a column for each case (N, C)."""
    return np.array([list(a) for a in amounts], dtype=float).reshape(-1, CASE_COUNT)


def at_most(parcels: tuple[Parcel, ...]) -> tuple[Parcel, ...]:
    """Loads with all that may come besides: what a piece that carries them is checked
    with."""
    if not any(p.more for p in parcels):
        return parcels
    return tuple(Parcel(p.x, p.y, p.most, p.source, wide=p.wide) for p in parcels)


def station(member: Member, x: float, y: float) -> float:
    """How far along a member a place lies, mm from its start in plan, kept within it."""
    (ax, ay, _), (bx, by, _) = member.carrier.start, member.carrier.end
    run = math.hypot(bx - ax, by - ay)
    if run <= 0:
        return 0.0
    return min(run, max(0.0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / run))
