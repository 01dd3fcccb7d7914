"""Loads that floors, ceilings and roofs begin with, whether proposed or drawn by hand, until others
are typed. N/mm².

Live loads: IRC 2021 tables R301.5 and R301.6, EN 1991-1-1 tables 6.2 and 6.10. Dead loads: common
practice, no source; without partitions, which are carried as they stand.
"""

from typing import Final, NamedTuple

from balken.model.project import Code
from balken.units import KPA, PSF, System


class Loads(NamedTuple):
    """Dead and live load."""

    dead: float
    live: float


class RoofLoads(NamedTuple):
    """Dead load on the slope, live load and snow on the plan."""

    dead: float
    live: float
    snow: float


FLOOR: Final[dict[System, Loads]] = {
    "us": Loads(12 * PSF, 40 * PSF),
    "metric": Loads(0.6 * KPA, 2.0 * KPA),
}
CEILING: Final[dict[System, Loads]] = {
    "us": Loads(5 * PSF, 10 * PSF),
    "metric": Loads(0.25 * KPA, 0.5 * KPA),
}
ROOF: Final[dict[System, RoofLoads]] = {
    "us": RoofLoads(10 * PSF, 20 * PSF, 25 * PSF),
    "metric": RoofLoads(0.5 * KPA, 1.0 * KPA, 1.2 * KPA),
}
CODE: Final[dict[System, Code]] = {"us": "us", "metric": "eu"}
"""The code that a building begins with."""
