"""What things begin with, whether proposed or drawn by hand, until something else is typed; by the
measure of length, since that says what is sold. Lengths mm, loads N/mm².

Live loads: IRC 2021 tables R301.5 and R301.6, EN 1991-1-1 tables 6.2 and 6.10. Dead loads: common
practice, no source; without partitions, which are carried as they stand. Sizes: common practice,
no source.
"""

from typing import Any, Final, NamedTuple

from balken.model.catalogue import SOFTWOOD
from balken.model.record import Code
from balken.units import INCH, KPA, PSF, System


class Loads(NamedTuple):
    """Dead and live load."""

    dead: float
    live: float


class RoofLoads(NamedTuple):
    """Dead load on the slope, live load and snow on the plan."""

    dead: float
    live: float
    snow: float


class Ground(NamedTuple):
    """What stands in the ground."""

    footing: tuple[float, float]
    """Width and thickness of a strip."""
    stem: float
    basement_wall: float
    slab: float
    edge: tuple[float, float]
    """Width and depth of a thickened edge, or a grade beam."""
    sill: str
    over_ground: float
    """How high its top stands over the ground."""
    under_frost: float
    """How much deeper than frost its bottom lies."""


class Wood(NamedTuple):
    """What wood is begun with by one code: species and grade, and span over the two limits of
    deflection."""

    species: str
    grade: str
    sill: str
    """Of sills on concrete, as it is marked."""
    floor: tuple[float, float]
    ceiling: tuple[float, float]
    roof: tuple[float, float]

    def cut_from(self) -> dict[str, Any]:
        """The fields of a record that is cut from it."""
        return {"species": self.species, "grade": self.grade}


def limits(pair: tuple[float, float]) -> dict[str, Any]:
    """The fields of a record that hold its two limits of deflection."""
    return dict(zip(("live_limit", "total_limit"), pair))


WOOD: Final[dict[Code, Wood]] = {
    "us": Wood("DF-L", "No.2", "HF No.2 treated", (360.0, 240.0), (240.0, 180.0), (180.0, 120.0)),
    "eu": Wood(
        SOFTWOOD,
        "C24",
        f"{SOFTWOOD} C24 treated",
        (300.0, 250.0),
        (300.0, 250.0),
        (300.0, 250.0),
    ),
}
"""Limits: IRC 2021 table R301.7; EN 1995-1-1 table 7.2, the wider end of its ranges."""


class Usual(NamedTuple):
    """What is usual where one measure of length is used."""

    code: Code
    floor: Loads
    ceiling: Loads
    roof: RoofLoads
    small: tuple[str, ...]
    """Sections of ceiling joists and rafters, the shallowest first."""
    joists: tuple[str, ...]
    """And of floor joists."""
    common_joist: str
    """The deepest that is common in a house."""
    subfloor: float
    floor_slab: float
    overhang: float
    ground: Ground


USUAL: Final[dict[System, Usual]] = {
    "us": Usual(
        "us",
        Loads(12 * PSF, 40 * PSF),
        Loads(5 * PSF, 10 * PSF),
        RoofLoads(10 * PSF, 20 * PSF, 25 * PSF),
        ("2x6", "2x8", "2x10", "2x12"),
        ("2x8", "2x10", "2x12"),
        "2x10",
        0.75 * INCH,  # 23/32 in panel, sold as 3/4
        10 * INCH,
        12 * INCH,
        Ground(
            (20 * INCH, 10 * INCH),
            8 * INCH,
            10 * INCH,
            4 * INCH,
            (12 * INCH, 24 * INCH),
            "2x6",
            8 * INCH,
            0.0,
        ),
    ),
    "metric": Usual(
        "eu",
        Loads(0.6 * KPA, 2.0 * KPA),
        Loads(0.25 * KPA, 0.5 * KPA),
        RoofLoads(0.5 * KPA, 1.0 * KPA, 1.2 * KPA),
        ("38x140", "38x184", "38x235", "38x286"),
        ("38x184", "38x235", "38x286"),
        "38x235",
        19.0,
        250.0,
        300.0,
        Ground((500.0, 250.0), 200.0, 250.0, 100.0, (300.0, 600.0), "38x140", 200.0, 100.0),
    ),
}
