"""Load cases and their combinations for allowable stress design."""

from typing import Final

import msgspec

CASES: Final = ("D", "L", "Lr", "S")
"""Dead, floor live, roof live, snow: the cases of this version, in the order every array of loads
follows."""

CASE_WORDS: Final = {"D": "dead", "L": "live", "Lr": "roof live", "S": "snow"}


class Combination(msgspec.Struct, frozen=True):
    """A sum of cases with its load duration factor."""

    name: str
    factors: tuple[float, float, float, float]
    duration: float
    """C_D of the shortest load in it (NDS-2018 table 2.3.2)."""


COMBINATIONS: Final = (
    Combination("D", (1.0, 0.0, 0.0, 0.0), 0.90),
    Combination("D + L", (1.0, 1.0, 0.0, 0.0), 1.00),
    Combination("D + Lr", (1.0, 0.0, 1.0, 0.0), 1.25),
    Combination("D + S", (1.0, 0.0, 0.0, 1.0), 1.15),
    Combination("D + 0.75L + 0.75Lr", (1.0, 0.75, 0.75, 0.0), 1.25),
    Combination("D + 0.75L + 0.75S", (1.0, 0.75, 0.0, 0.75), 1.15),
)
"""ASCE 7-16 section 2.4.1, combinations 1 to 4, the gravity part."""

CHARACTERISTIC: Final = (
    Combination("G", (1.0, 0.0, 0.0, 0.0), 1.0),
    Combination("G + L", (1.0, 1.0, 0.0, 0.0), 1.0),
    Combination("G + H", (1.0, 0.0, 1.0, 0.0), 1.0),
    Combination("G + S", (1.0, 0.0, 0.0, 1.0), 1.0),
    Combination("G + L + 0.5S", (1.0, 1.0, 0.0, 0.5), 1.0),
    Combination("G + 0.7L + S", (1.0, 0.7, 0.0, 1.0), 1.0),
    Combination("G + 0.7L + H", (1.0, 0.7, 1.0, 0.0), 1.0),
)
"""EN 1990 expression 6.14b: the characteristic combination, with ψ0 of 0.7 for floors, 0.5 for snow
below 1,000 m and none for live load on roofs (H), as recommended in table A1.1. For the soil of
metric projects."""
