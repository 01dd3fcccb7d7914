"""Loads by what causes them, each case by its name."""

import math
from collections.abc import Iterable, Iterator
from typing import Final

from msgspec.structs import astuple

from balken.model.record import Load, Record


class Cases(Record, frozen=True):
    """An amount of each kind of load: N, N/mm or N/mm², as where it stands says.

    Amounts are added case by case and multiplied by a number; going through them gives the amounts
    in the order of the fields, which every array of loads follows.
    """

    dead: Load = 0.0
    live: Load = 0.0
    """On floors."""
    roof_live: Load = 0.0
    snow: Load = 0.0
    wind: Load = 0.0
    """That presses on roofs."""
    uplift: Load = 0.0
    """Of wind on roofs: it acts upward and is less than nothing."""

    def __iter__(self) -> Iterator[float]:
        return iter(astuple(self))

    def __bool__(self) -> bool:
        return any(astuple(self))

    def __add__(self, other: "Cases") -> "Cases":
        return Cases(*[a + b for a, b in zip(astuple(self), astuple(other))])

    def __sub__(self, other: "Cases") -> "Cases":
        return Cases(*[a - b for a, b in zip(astuple(self), astuple(other))])

    def __mul__(self, by: float) -> "Cases":
        return Cases(*[a * by for a in astuple(self)])

    __rmul__ = __mul__

    def __truediv__(self, by: float) -> "Cases":
        return Cases(*[a / by for a in astuple(self)])

    def weighed(self, factors: "Cases") -> float:
        """The sum of all cases, each times its factor: what comes of a combination."""
        return float(sum(f * a for f, a in zip(astuple(factors), astuple(self))))

    @property
    def down(self) -> "Cases":
        """What presses: all but the uplift."""
        return Cases(self.dead, self.live, self.roof_live, self.snow, self.wind)

    @property
    def variable(self) -> "Cases":
        """What may be there or not: all but the dead load."""
        return Cases(0.0, *astuple(self)[1:])


NOTHING: Final = Cases()
CASE_NAMES: Final = Cases.__struct_fields__
"""In the order of arrays."""
CASE_COUNT: Final = len(CASE_NAMES)
DEAD: Final = CASE_NAMES.index("dead")
"""Row of arrays."""
PRESSING: Final = tuple(n for n in CASE_NAMES if n not in ("wind", "uplift"))
"""The cases that are typed on what stands; wind comes from the site."""
CASE_WORDS: Final = {
    "dead": "dead",
    "live": "live",
    "roof_live": "roof live",
    "snow": "snow",
    "wind": "wind down",
    "uplift": "wind up",
}
SYMBOLS: Final = {
    "dead": "D",
    "live": "L",
    "roof_live": "Lr",
    "snow": "S",
    "wind": "W",
    "uplift": "Wu",
}
"""As combinations are written (ASCE 7-16 2.2)."""


def total(amounts: Iterable[Cases]) -> Cases:
    """The sum per case, without rounding on the way."""
    return Cases(*map(math.fsum, zip(*amounts)))


def greatest_of(amount: Cases) -> float:
    """The greatest amount of any case, whichever way it acts."""
    return max(map(abs, amount))
