"""What floors are used for, and the live load that the codes have for it: ASCE 7-16 table 4.3-1 with
IRC 2021 table R301.5 for dwellings, EN 1991-1-1 tables 6.2 to 6.4 and 6.8, recommended values; all from
memory."""

from typing import Final, Literal, NamedTuple

from balken.model.record import Code
from balken.units import INCH, KPA, LB, PSF

FloorUse = Literal[
    "rooms",
    "sleeping rooms",
    "attic",
    "attic with storage",
    "balcony",
    "stairs",
    "offices",
    "assembly, fixed seats",
    "assembly",
    "shop",
    "storage",
    "garage",
]
Category = Literal["A", "B", "C", "D", "E", "F", "H"]


class Used(NamedTuple):
    """A use by one code."""

    live: float
    """N/mm²."""
    clause: str
    category: Category
    """Of EN 1991-1-1, for ψ and duration."""
    reducible: bool = True
    """Whether a large area lowers it (ASCE 7-16 4.7)."""


class PointLoad(NamedTuple):
    """A live load at one place, which need not come with the even one."""

    force: float
    """N."""
    patch: float
    """The side of the square it stands on, mm."""
    clause: str


_US: Final = "ASCE 7-16 table 4.3-1"
_IRC: Final = "IRC 2021 table R301.5"
_EN: Final = "EN 1991-1-1 table 6.2"

USES: Final[dict[Code, dict[FloorUse, Used]]] = {
    "us": {
        "rooms": Used(40 * PSF, _IRC, "A"),
        "sleeping rooms": Used(30 * PSF, _IRC, "A"),
        "attic": Used(10 * PSF, _IRC, "A", False),
        "attic with storage": Used(20 * PSF, _IRC, "A", False),
        "balcony": Used(40 * PSF, _IRC, "A", False),
        "stairs": Used(40 * PSF, _IRC, "A", False),
        "offices": Used(50 * PSF, _US, "B"),
        "assembly, fixed seats": Used(60 * PSF, _US, "C", False),
        "assembly": Used(100 * PSF, _US, "C", False),
        "shop": Used(100 * PSF, _US, "D", False),
        "storage": Used(125 * PSF, _US, "E", False),
        "garage": Used(40 * PSF, _US, "F", False),
    },
    "eu": {
        "rooms": Used(2.0 * KPA, _EN, "A"),
        "sleeping rooms": Used(2.0 * KPA, _EN, "A"),
        "attic": Used(0.5 * KPA, "common practice", "A"),
        "attic with storage": Used(1.0 * KPA, "common practice", "A"),
        "balcony": Used(2.5 * KPA, _EN, "A"),
        "stairs": Used(2.0 * KPA, _EN, "A"),
        "offices": Used(3.0 * KPA, _EN, "B"),
        "assembly, fixed seats": Used(4.0 * KPA, _EN, "C"),
        "assembly": Used(5.0 * KPA, _EN, "C"),
        "shop": Used(4.0 * KPA, _EN, "D"),
        "storage": Used(7.5 * KPA, "EN 1991-1-1 table 6.4", "E"),
        "garage": Used(2.5 * KPA, "EN 1991-1-1 table 6.8", "F"),
    },
}


_EN_Q: Final = "EN 1991-1-1 table 6.2, Qk"
POINTS: Final[dict[Code, dict[FloorUse, PointLoad]]] = {
    "us": {
        "stairs": PointLoad(300 * LB, 2 * INCH, _IRC),
        "offices": PointLoad(2000 * LB, 30 * INCH, _US),
        "shop": PointLoad(1000 * LB, 30 * INCH, _US),
        "garage": PointLoad(2000 * LB, 4.5 * INCH, _IRC),
    },
    "eu": {
        "rooms": PointLoad(2000.0, 50.0, _EN_Q),
        "sleeping rooms": PointLoad(2000.0, 50.0, _EN_Q),
        "balcony": PointLoad(2000.0, 50.0, _EN_Q),
        "stairs": PointLoad(2000.0, 50.0, _EN_Q),
        "offices": PointLoad(4500.0, 50.0, _EN_Q),
        "assembly, fixed seats": PointLoad(4000.0, 50.0, _EN_Q),
        "assembly": PointLoad(4500.0, 50.0, _EN_Q),
        "shop": PointLoad(4000.0, 50.0, _EN_Q),
        "storage": PointLoad(7000.0, 50.0, "EN 1991-1-1 table 6.4"),
        "garage": PointLoad(10_000.0, 100.0, "EN 1991-1-1 table 6.8, one wheel"),
    },
}
"""Uses that the codes have such a load for (ASCE 7-16 table 4.3-1; IRC 2021 table R301.5; EN 1991-1-1
6.3.1.2(6), recommended values); from memory."""


def heaviest(uses: set[FloorUse]) -> Category:
    """Of several uses the category whose loads stay longest, for what carries floors of them all."""
    order: tuple[Category, ...] = ("A", "B", "C", "D", "F", "E")
    there = {USES["eu"][use].category for use in uses}
    return next((c for c in reversed(order) if c in there), "A")
