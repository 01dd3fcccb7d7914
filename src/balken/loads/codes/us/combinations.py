"""Combinations for allowable stress design (ASCE 7-16 2.4.1), and for strength (2.3.1)."""

from collections.abc import Mapping
from typing import Final, Literal, NamedTuple

from balken.loads.cases import Combination
from balken.model.cases import Cases

Action = Literal["D", "L", "Lr", "S", "W"]
ACTIONS: Final[tuple[Action, ...]] = ("D", "L", "Lr", "S", "W")
DURATION: Final[dict[Action, float]] = {"D": 0.9, "L": 1.0, "S": 1.15, "Lr": 1.25, "W": 1.6}
"""C_D (NDS-2018 table 2.3.2): of a combination that of the shortest load in it."""


class Sum(NamedTuple):
    """One sum of a numbered combination."""

    number: int
    factors: Mapping[Action, float]


ALLOWABLE: Final = (
    Sum(1, {"D": 1.0}),
    Sum(2, {"D": 1.0, "L": 1.0}),
    Sum(3, {"D": 1.0, "Lr": 1.0}),
    Sum(3, {"D": 1.0, "S": 1.0}),
    Sum(4, {"D": 1.0, "L": 0.75, "Lr": 0.75}),
    Sum(4, {"D": 1.0, "L": 0.75, "S": 0.75}),
    Sum(5, {"D": 1.0, "W": 0.6}),
    Sum(6, {"D": 1.0, "L": 0.75, "W": 0.45, "Lr": 0.75}),
    Sum(6, {"D": 1.0, "L": 0.75, "W": 0.45, "S": 0.75}),
    Sum(7, {"D": 0.6, "W": 0.6}),
)
"""Where wind blows; earthquake has combinations of its own (2.4.5)."""
STRENGTH: Final = (
    Sum(1, {"D": 1.4}),
    Sum(2, {"D": 1.2, "L": 1.6, "Lr": 0.5}),
    Sum(2, {"D": 1.2, "L": 1.6, "S": 0.5}),
    Sum(3, {"D": 1.2, "Lr": 1.6, "L": 1.0}),
    Sum(3, {"D": 1.2, "S": 1.6, "L": 1.0}),
    Sum(3, {"D": 1.2, "Lr": 1.6, "W": 0.5}),
    Sum(3, {"D": 1.2, "S": 1.6, "W": 0.5}),
    Sum(4, {"D": 1.2, "W": 1.0, "L": 1.0, "Lr": 0.5}),
    Sum(4, {"D": 1.2, "W": 1.0, "L": 1.0, "S": 0.5}),
    Sum(5, {"D": 0.9, "W": 1.0}),
)
"""With the whole live load in no. 3 and 4: it may be halved for uses up to 100 psf (2.3.1,
exception 1), which is left out as the safe side."""


_CASES: Final[dict[Action, str]] = {
    "D": "dead",
    "L": "live",
    "Lr": "roof_live",
    "S": "snow",
    "W": "wind",
}


def _of_gravity(item: Sum) -> Combination:
    """A numbered sum as members are held against it, with C_D of the shortest load in it."""
    name = " + ".join(f"{f:g}{a}" if f != 1.0 else a for a, f in item.factors.items())
    cases = Cases(**{_CASES[a]: f for a, f in item.factors.items()})
    return Combination(name, cases, max(DURATION[a] for a in item.factors))


GRAVITY: Final = tuple(_of_gravity(s) for s in ALLOWABLE if s.number <= 6)
"""Nos. 1 to 6: what comes down on members; no. 7 is what wind lifts."""


class Worst(NamedTuple):
    """What a combination comes to."""

    number: int
    total: float
    over_duration: float
    """The total over C_D: what wood that is not yet adjusted is held against."""


def duration(loads: Mapping[Action, float], factors: Mapping[Action, float]) -> float:
    """C_D of the shortest load in a combination that is there at all (NDS-2018 2.3.2.2)."""
    return max(DURATION[a] for a in factors if a == "D" or loads.get(a, 0.0) != 0.0)


def total(loads: Mapping[Action, float], factors: Mapping[Action, float]) -> float:
    """The loads, each times its factor."""
    return sum(f * loads.get(a, 0.0) for a, f in factors.items())


def worst_by_duration(loads: Mapping[Action, float]) -> Worst:
    """The combination with the greatest total over C_D."""
    found = []
    for number, factors in ALLOWABLE:
        summed = total(loads, factors)
        found.append(Worst(number, summed, summed / duration(loads, factors)))
    return max(found, key=lambda w: w.over_duration)


def greatest(loads: Mapping[Action, float], sums: tuple[Sum, ...] = ALLOWABLE) -> float:
    """The greatest total."""
    return max(total(loads, s.factors) for s in sums)


def least(loads: Mapping[Action, float], sums: tuple[Sum, ...] = ALLOWABLE) -> float:
    """The least total: where it is negative, what must be held down.

    Loads that hold down count only where they are sure: 0.6 D of no. 7 (2.4.1).
    """
    return min(total(loads, s.factors) for s in sums)
