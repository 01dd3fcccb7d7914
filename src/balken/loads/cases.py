"""Combinations of loads: what members are held against, whatever the code."""

from collections.abc import Container
from functools import cache

import msgspec
from msgspec.structs import replace

from balken.model.cases import DEAD, Cases


class Combination(msgspec.Struct, frozen=True):
    """A sum of cases, each times its factor."""

    name: str
    factors: Cases
    """For strength."""
    duration: float = 1.0
    """C_D of the shortest load in it (NDS-2018 table 2.3.2), or its kmod (EN 1995-1-1 3.1.3); 1
    where the code has none."""
    sags: tuple[Cases, Cases] | None = None
    """What the two limits of deflection are held against, where that is not what strength is."""

    @property
    def first_sag(self) -> Cases:
        """What the first limit of deflection is held against: where nothing else is said, all that
        may be there or not."""
        return self.factors.variable if self.sags is None else self.sags[0]

    @property
    def second_sag(self) -> Cases:
        """What the second limit of deflection is held against: where nothing else is said, the
        whole sum."""
        return self.factors if self.sags is None else self.sags[1]


class Sums(msgspec.Struct, frozen=True, cache_hash=True):
    """The combinations that a code has for members of one service class."""

    every: tuple[Combination, ...]

    def among(self, there: Container[int]) -> tuple[Combination, ...]:
        """The combinations whose every case is there, by the places of cases; the dead load always
        is."""
        return tuple(
            c
            for c in self.every
            if all(not f or i == DEAD or i in there for i, f in enumerate(c.factors))
        )

    def under(self, loads: Cases) -> tuple[Combination, ...]:
        """The combinations that differ for a member with some loads."""
        return self.among([i for i, load in enumerate(loads) if load > 0])


@cache
def drifted(sums: Sums, times: float) -> Sums:
    """Combinations, and beside each with snow one whose snow is heavier: what wind has carried over a
    ridge. The same where it is no heavier.

    Args:
        sums: of a code.
        times: the snow to leeward over what lies evenly.
    """
    if times <= 1.0:
        return sums
    return Sums((*sums.every, *(_drifted(c, times) for c in sums.every if c.factors.snow)))


def _drifted(c: Combination, times: float) -> Combination:
    def heavier(cases: Cases) -> Cases:
        return replace(cases, snow=cases.snow * times)

    sags = None if c.sags is None else (heavier(c.sags[0]), heavier(c.sags[1]))
    return Combination(f"{c.name} unbalanced", heavier(c.factors), c.duration, sags)
