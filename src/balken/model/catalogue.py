"""Lumber that can be bought: dressed sizes, the grades it comes in, stock lengths, price.

Dressed sizes: American Softwood Lumber Standard PS 20, table 3 (dry), from memory. Prices are
invented and only rank one choice against another; a yard's own list replaces them.
"""

from collections.abc import Iterator
from functools import cache
from typing import Final

import msgspec

from balken.model.product_rows import WOOD_WEIGHT, shipped_products
from balken.model.record import Code
from balken.model.sections import Box, Product, Section, section_of
from balken.units import FOOT, INCH, System

DRESSED_WIDTH: Final = {
    1: 0.75,
    2: 1.5,
    3: 2.5,
    4: 3.5,
    5: 4.5,
    6: 5.5,
    8: 7.25,
    10: 9.25,
    12: 11.25,
    14: 13.25,
}
"""Inches, for pieces under 5 in thick; timbers (both ways 5 in or more) are dressed 1/2 in under
their name."""

METRIC_SIZES: Final = (
    (38, 89),
    (38, 140),
    (38, 184),
    (38, 235),
    (38, 286),
    (89, 89),
    (89, 140),
    (89, 184),
    (89, 235),
    (140, 140),
)
"""The same dressed sizes sold by their rounded millimetres."""

SPECIES: Final = {
    "DF-L": "Douglas Fir-Larch",
    "HF": "Hem-Fir",
    "SPF": "Spruce-Pine-Fir",
    "SP": "Southern Pine",
    "DF-L(N)": "Douglas Fir-Larch (North)",
    "SPF-S": "Spruce-Pine-Fir (South)",
}
_LIGHT: Final = ("Stud", "Construction", "Standard", "Utility")
GRADES: Final = {
    "DF-L": ("SS", "No.1&Btr", "No.1", "No.2", "No.3", *_LIGHT),
    "HF": ("SS", "No.1&Btr", "No.1", "No.2", "No.3", *_LIGHT),
    "SPF": ("SS", "No.1", "No.2", "No.3", *_LIGHT),
    "SP": ("SS", "No.1", "No.2", "No.3"),
    "DF-L(N)": ("SS", "No.1&Btr", "No.1", "No.2", "No.3"),
    "SPF-S": ("SS", "No.1", "No.2", "No.3"),
}
"""Grades per species for which US design values are held."""
SOFTWOOD: Final = "softwood"
"""What is graded by strength classes: the species does not matter then (EN 338)."""
STRENGTH_CLASSES: Final = (
    "C14",
    "C16",
    "C18",
    "C20",
    "C22",
    "C24",
    "C27",
    "C30",
    "C35",
    "C40",
    "C45",
    "C50",
)
"""Of softwood (EN 338:2016 table 1)."""
GRADES_OF: Final[dict[Code, dict[str, tuple[str, ...]]]] = {
    "us": GRADES,
    "eu": {SOFTWOOD: STRENGTH_CLASSES},
}
"""Grades per species by the code that has values for them."""
PRICE_FACTOR: Final = {
    "SS": 1.45,
    "No.1&Btr": 1.25,
    "No.1": 1.15,
    "No.2": 1.0,
    "No.3": 0.85,
    "C14": 0.88,
    "C16": 0.92,
    "C18": 0.96,
    "C24": 1.0,
    "C30": 1.2,
    "C35": 1.4,
}
WIDTH_FACTOR: Final = {4: 0.95, 6: 0.98, 8: 1.0, 10: 1.06, 12: 1.15, 14: 1.35}
"""Wide boards cost more a board foot; common practice, no source."""
BOARD_FOOT: Final = 0.92
"""Invented price of one board foot of No.2."""


class Catalogue(msgspec.Struct, frozen=True):
    """Everything a project of one system of measure can choose from."""

    system: System
    sections: dict[str, Section]
    boards: dict[str, Section]
    """Too thin to carry: for what only holds others."""
    grades: frozenset[tuple[str, str]]
    stock: tuple[float, ...]
    """Lengths sold, mm, ascending."""
    spacings: tuple[float, ...]


def dressed(nominal: tuple[int, int]) -> tuple[float, float]:
    """The dressed breadth and depth of a nominal size, mm (PS 20-20, table 3).

    Raises:
        KeyError: a size that is not sold.
    """
    if min(nominal) >= 5:
        return round((nominal[0] - 0.5) * INCH, 3), round((nominal[1] - 0.5) * INCH, 3)
    return round(DRESSED_WIDTH[nominal[0]] * INCH, 3), round(DRESSED_WIDTH[nominal[1]] * INCH, 3)


def _us_sections() -> dict[str, Section]:
    names = [(2, w) for w in (4, 6, 8, 10, 12, 14)] + [(4, w) for w in (4, 6, 8, 10, 12)]
    names += [(a, b) for a in (6, 8) for b in (6, 8, 10, 12) if b >= a]
    found = {}
    for nominal in names:
        breadth, depth = dressed(nominal)
        name = f"{nominal[0]}x{nominal[1]}"
        found[name] = Section(name, nominal, breadth, depth)
    return found


def _metric_sections() -> dict[str, Section]:
    inches = {38: 2, 89: 4, 140: 6, 184: 8, 235: 10, 286: 12}
    return {
        f"{b}x{d}": Section(f"{b}x{d}", (inches[b], inches[d]), float(b), float(d))
        for b, d in METRIC_SIZES
    }


@cache
def catalogue_of(system: System) -> Catalogue:
    """The catalogue shipped for a system of measure."""
    grades = frozenset(
        (s, g) for code in GRADES_OF.values() for s, names in code.items() for g in names
    )
    if system == "us":
        stock = tuple(float(n) * FOOT for n in range(8, 26, 2))
        return Catalogue(
            system,
            _us_sections(),
            {"1x3": Section("1x3", (1, 3), *dressed((1, 3)))},
            grades,
            stock,
            tuple(round(n * INCH, 3) for n in (12, 16, 19.2, 24)),
        )
    stock = tuple(300.0 * n for n in range(8, 25))
    boards = {"19x64": Section("19x64", (1, 3), 19.0, 64.0)}
    return Catalogue(
        system, _metric_sections(), boards, grades, stock, (300.0, 400.0, 480.0, 600.0)
    )


MOST_PLIES: Final = 4
"""Built-up beams have two to four plies (common practice, no source)."""


@cache
def sections_of(system: System, products: tuple[Product, ...] = ()) -> dict[str, Section]:
    """Every section there is by its name: lumber, built-up lumber and LVL, products shipped
    and typed.

    A typed product goes before a shipped one of the same name.
    """
    found = dict(catalogue_of(system).sections)
    for one in list(found.values()):
        if one.nominal[0] == 2 and one.nominal[1] >= 6:
            for n in range(2, MOST_PLIES + 1):
                name = f"{n}-{one.name}"
                found[name] = Section(name, one.nominal, n * one.breadth, one.depth, n)
    found |= {s.name: s for s in _boxes(system)}
    for item in (*shipped_products(system), *products):
        for n in range(1, MOST_PLIES + 1 if item.family == "lvl" else 2):
            made = section_of(item, n)
            found[made.name] = made
    return found


BOX: Final = "Box "
"""The name of a box header begins so."""
BOX_DEPTHS: Final[dict[System, tuple[tuple[str, float], ...]]] = {
    "us": (("9-1/4", 9.25 * INCH), ("11-1/4", 11.25 * INCH), ("15", 15 * INCH)),
    "metric": (("235", 235.0), ("286", 286.0), ("381", 381.0)),
}
BOX_FLANGES: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6"),
    "metric": ("38x89", "38x140"),
}
BOX_PANEL: Final[dict[System, float]] = {"us": 7 / 16 * INCH, "metric": 12.0}
"""Thickness of the panels of box headers, mm."""


def _boxes(system: System) -> Iterator[Section]:
    """Box headers of the usual studs, with panels on one face and on both."""
    studs = catalogue_of(system).sections
    for flange in BOX_FLANGES[system]:
        lying = studs[flange]
        for words, depth in BOX_DEPTHS[system]:
            for faces in (1, 2):
                name = f"{BOX}{flange}x{words}" + (" one side" if faces == 1 else "")
                size = (lying.depth, lying.breadth, BOX_PANEL[system], faces)
                box = Box(flange, lying.nominal, *size)
                yield Section(name, (0, 0), lying.depth, depth, box=box)


def box_area(box: Box, depth: float) -> float:
    """What a box header holds of wood and panels, mm² along it; ``depth`` in mm."""
    return BOX_WOOD * box.area + box.faces * box.panel * depth


BOX_WOOD: Final = 2.5
"""Wood of a box header over one of its flanges: two, and uprights between."""
BOX_PRICE: Final = 2.6
"""A box header over one of its flanges: two, uprights, panels, nails, work; invented."""


def price_per_mm(section: Section, grade: str) -> float:
    """The invented price of a millimetre of a section in a grade; of a product what was
    typed for it."""
    if section.product:
        return section.plies * section.product.price / 1000
    if section.box is not None:
        width = section.box.nominal
        return BOX_PRICE * price_per_mm(Section("", width, *dressed(width)), grade)
    board_feet = section.plies * section.nominal[0] * section.nominal[1] / 12 / FOOT
    return (
        BOARD_FOOT
        * board_feet
        * PRICE_FACTOR.get(grade, 1.0)
        * WIDTH_FACTOR.get(section.nominal[1], 1.2)
    )


def weight_of(section: Section) -> float:
    """What a piece of a section weighs, N/mm."""
    if section.product:
        return section.plies * section.product.weight
    if section.box is not None:
        return box_area(section.box, section.depth) * WOOD_WEIGHT
    return section.breadth * section.depth * WOOD_WEIGHT


def stock_length(catalogue: Catalogue, length: float) -> float | None:
    """The shortest length sold that a piece can be cut from; None where the piece is longer
    than any."""
    return next((s for s in catalogue.stock if s >= length - 0.5), None)
