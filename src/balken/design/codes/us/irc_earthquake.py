"""How long what braces a wall line must be against earthquakes by the tables of the IRC (R602.10.3(3) with
the factors of (4)). From memory; beside the calculation, never in place of it."""

import math
from typing import Final, Literal, NamedTuple

from balken.design.codes.us.irc_walls import Bracing, Method
from balken.errors import BalkenError
from balken.units import FOOT, PSF

Category = Literal["A", "B", "C", "D0", "D1", "D2", "E"]
"""Seismic design category of houses."""
CATEGORIES: Final[tuple[tuple[float, Category], ...]] = (
    (0.17, "A"),
    (0.33, "B"),
    (0.50, "C"),
    (0.67, "D0"),
    (0.83, "D1"),
    (1.25, "D2"),
)
"""Up to which S_DS each goes (IRC 2021 table R301.2.2.1.1)."""


def category_of(sds: float) -> Category:
    """The category of a place by its S_DS, a share of gravity (IRC 2021 table R301.2.2.1.1)."""
    return next((name for most, name in CATEGORIES if sds <= most + 1e-9), "E")


def asks_nothing(category: Category) -> str:
    """Why the tables say nothing of any line of a building; empty where they do (IRC R301.2.2)."""
    if category in ("A", "B", "C"):
        return f"category {category} asks for none of houses"
    return "the tables end with category D2" if category == "E" else ""


class ShakenLine(NamedTuple):
    """A braced wall line as the tables ask for it. mm and N/mm²."""

    category: Category
    length: float
    """From end to end, openings in it."""
    spacing: float
    """To the next, the mean of both sides."""
    storeys_over: int
    wall: float
    """Height of its walls."""
    wall_dead: float
    """Weight of its walls on their face."""
    roof_dead: float
    """Of roof and ceiling."""
    floor_dead: float
    """Of the heaviest floor over it; nothing where there is none."""
    veneer: bool
    """Whether stone or masonry is anchored to it."""
    gypsum: bool
    """Whether gypsum boards line it inside."""
    method: Method = "WSP"


LENGTHS: Final[dict[tuple[Category, Method], tuple[tuple[float, ...], ...]]] = {
    ("D0", "GB"): (
        (2.8, 5.5, 8.3, 11.0, 13.8),
        (5.3, 10.5, 15.8, 21.0, 26.3),
        (7.3, 14.5, 21.8, 29.0, 36.3),
    ),
    ("D0", "WSP"): (
        (1.8, 3.6, 5.4, 7.2, 9.0),
        (3.8, 7.5, 11.3, 15.0, 18.8),
        (5.3, 10.5, 15.8, 21.0, 26.3),
    ),
    ("D0", "CS-WSP"): (
        (1.6, 3.1, 4.6, 6.1, 7.7),
        (3.2, 6.4, 9.6, 12.8, 16.0),
        (4.5, 9.0, 13.4, 17.9, 22.3),
    ),
    ("D1", "GB"): (
        (3.0, 6.0, 9.0, 12.0, 15.0),
        (6.0, 12.0, 18.0, 24.0, 30.0),
        (8.5, 17.0, 25.5, 34.0, 42.5),
    ),
    ("D1", "WSP"): (
        (2.0, 4.0, 6.0, 8.0, 10.0),
        (4.5, 9.0, 13.5, 18.0, 22.5),
        (6.0, 12.0, 18.0, 24.0, 30.0),
    ),
    ("D1", "CS-WSP"): (
        (1.7, 3.4, 5.1, 6.8, 8.5),
        (3.8, 7.7, 11.5, 15.3, 19.1),
        (5.1, 10.2, 15.3, 20.4, 25.5),
    ),
    ("D2", "GB"): ((4.0, 8.0, 12.0, 16.0, 20.0), (7.5, 15.0, 22.5, 30.0, 37.5)),
    ("D2", "WSP"): ((2.5, 5.0, 7.5, 10.0, 12.5), (5.5, 11.0, 16.5, 22.0, 27.5)),
    ("D2", "CS-WSP"): ((2.1, 4.3, 6.4, 8.5, 10.6), (4.7, 9.4, 14.0, 18.7, 23.4)),
}
"""ft, of lines 10, 20, 30, 40 and 50 ft long: under a roof, one and two more storeys."""
LINE_LENGTHS: Final = (10.0, 20.0, 30.0, 40.0, 50.0)
NO_GYPSUM: Final = 1.5
"""Of panels with no gypsum board inside (table R602.10.3(4))."""
WIDER: Final = ((25.0, 1.0), (30.0, 1.2), (35.0, 1.4))
"""Up to so many ft between lines."""


def shaken_length(line: ShakenLine) -> Bracing:
    """The length of what braces along a line against earthquakes (IRC 2021 tables R602.10.3(3),
    R602.10.3(4)); between two lengths of a line in proportion.

    Raises:
        BalkenError: the tables have no such line, or ask for nothing of it.
    """
    if none := asks_nothing(line.category):
        raise BalkenError(none)
    rows = LENGTHS.get((line.category, line.method))
    if rows is None:
        raise BalkenError(f"method {line.method} may not brace in category {line.category}")
    if line.storeys_over >= len(rows):
        raise BalkenError(f"category {line.category} has {len(rows)} storeys at most")
    if line.veneer:
        raise BalkenError("stone or masonry is anchored to it: IRC R602.10.6.5")
    if line.floor_dead > 10 * PSF + 1e-9:
        raise BalkenError(
            f"its floors weigh {line.floor_dead / PSF:.1f} psf, the tables have 10 psf"
        )
    feet = line.length / FOOT
    if feet > LINE_LENGTHS[-1] + 1e-6:
        raise BalkenError("the line is longer than 50 ft")
    row = rows[line.storeys_over]
    share = max(feet, LINE_LENGTHS[0]) / LINE_LENGTHS[0] - 1
    before = min(int(share), len(row) - 2)
    listed = row[before] + (share - before) * (row[before + 1] - row[before])
    factors = _factors(line)
    return Bracing(listed * FOOT * math.prod(f for _, f in factors), factors)


def _factors(line: ShakenLine) -> tuple[tuple[str, float], ...]:
    """Those of table R602.10.3(4), named."""
    spacing = next((f for most, f in WIDER if line.spacing <= most * FOOT + 1.0), None)
    if spacing is None:
        raise BalkenError("lines stand more than 35 ft apart")
    if line.wall > 12 * FOOT + 1.0:
        raise BalkenError("the walls are higher than 12 ft")
    if line.wall_dead > 15 * PSF + 1e-9:
        raise BalkenError("the walls weigh more than 15 psf")
    if line.roof_dead > 25 * PSF + 1e-9:
        raise BalkenError("roof and ceiling weigh more than 25 psf")
    heavy_roof = 1.2 if line.storeys_over == 0 else 1.1
    gypsum = line.gypsum or line.method == "GB"
    return (
        ("wall height", 1.2 if line.wall > 10 * FOOT + 1.0 else 1.0),
        ("spacing", spacing),
        ("wall weight", 0.85 if line.wall_dead <= 8 * PSF + 1e-9 else 1.0),
        ("roof weight", heavy_roof if line.roof_dead > 15 * PSF + 1e-9 else 1.0),
        ("no gypsum inside", 1.0 if gypsum else NO_GYPSUM),
    )
