"""Combinations of loads for allowable stress design and for serviceability."""

from typing import Final

import msgspec

from balken.model.cases import Cases


class Combination(msgspec.Struct, frozen=True):
    """A sum of cases, each times its factor."""

    name: str
    factors: Cases
    duration: float = 1.0
    """C_D of the shortest load in it (NDS-2018 table 2.3.2); 1 where the code has none."""


COMBINATIONS: Final = (
    Combination("D", Cases(dead=1.0), 0.90),
    Combination("D + L", Cases(dead=1.0, live=1.0), 1.00),
    Combination("D + Lr", Cases(dead=1.0, roof_live=1.0), 1.25),
    Combination("D + S", Cases(dead=1.0, snow=1.0), 1.15),
    Combination("D + 0.75L + 0.75Lr", Cases(dead=1.0, live=0.75, roof_live=0.75), 1.25),
    Combination("D + 0.75L + 0.75S", Cases(dead=1.0, live=0.75, snow=0.75), 1.15),
)
"""ASCE 7-16 section 2.4.1, combinations 1 to 4, the gravity part."""

CHARACTERISTIC: Final = (
    Combination("G", Cases(dead=1.0)),
    Combination("G + L", Cases(dead=1.0, live=1.0)),
    Combination("G + H", Cases(dead=1.0, roof_live=1.0)),
    Combination("G + S", Cases(dead=1.0, snow=1.0)),
    Combination("G + L + 0.5S", Cases(dead=1.0, live=1.0, snow=0.5)),
    Combination("G + 0.7L + S", Cases(dead=1.0, live=0.7, snow=1.0)),
    Combination("G + 0.7L + H", Cases(dead=1.0, live=0.7, roof_live=1.0)),
)
"""EN 1990 expression 6.14b: the characteristic combination, with ψ0 of 0.7 for floors, 0.5 for snow
below 1,000 m and none for live load on roofs (H), as recommended in table A1.1. For the soil of
metric projects."""
