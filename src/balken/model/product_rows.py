"""Products that ship with the program: rows and where they come from. Prices are invented and only
rank choices.

Rolled sections: outer sizes and thicknesses of EN 10365 (I), EN 10219-2 (hollow, cold formed) and
ASTM A6 / AISC tables, from memory; properties are worked out from them. Glued laminated timber:
stress class 24F-1.8E of NDS-2018 Supplement table 5A (Southern Pine left out), widths and depths as
usually sold. LVL: usual values of grade 2.0E, no source; a maker's own are typed over them.
"""

from collections.abc import Iterator
from functools import cache
from typing import Final

from msgspec.structs import replace

from balken.model.sections import STEEL_WEIGHT, Family, Product, section_of
from balken.units import INCH, PSI, System

GLULAM: Final = Product(
    "24F-1.8E",
    "glulam",
    1.0,
    1.0,
    fb=2400 * PSI,
    fv=265 * PSI,
    fc_perp=650 * PSI,
    fc=1600 * PSI,
    e=1.8e6 * PSI,
    e_min=0.95e6 * PSI,
    fb_hogging=1450 * PSI,
    e_min_weak=0.85e6 * PSI,
)
"""The unbalanced layup, for spans that sag: its upper edge resists no more than 1,450 psi in
tension."""
BALANCED: Final = replace(GLULAM, id="24F-V8", fb_hogging=2400 * PSI)
"""The balanced layup (combination 24F-V8 of table 5A expanded), for pieces that hog: both edges
alike."""
LAYUPS: Final = (("", GLULAM), (" 24F-V8", BALANCED))
"""What follows the size in the name of a glulam product, and its values."""
LVL: Final = Product(
    "2.0E",
    "lvl",
    1.0,
    1.0,
    fb=2600 * PSI,
    fv=285 * PSI,
    fc_perp=750 * PSI,
    fc=2310 * PSI,
    e=2.0e6 * PSI,
    e_min=1.016e6 * PSI,
)
WOOD_WEIGHT: Final = 5.5e-6
"""Of glued and engineered wood, N/mm³ (35 pcf)."""
_PRICE: Final = {"glulam": 1.6e-3, "lvl": 1.5e-3, "steel": 21.0e-3}
"""Invented, of a cubic millimetre times a metre, times 1000."""

US_I: Final = (
    ("W8x10", 7.89, 3.94, 0.170, 0.205, 0.30),
    ("W8x18", 8.14, 5.25, 0.230, 0.330, 0.30),
    ("W10x22", 10.2, 5.75, 0.240, 0.360, 0.30),
    ("W12x26", 12.2, 6.49, 0.230, 0.380, 0.30),
    ("W14x30", 13.8, 6.73, 0.270, 0.385, 0.40),
    ("W16x36", 15.9, 6.99, 0.295, 0.430, 0.40),
)
"""Name, depth, breadth, web, flange, fillet; inches."""
EN_I: Final = (
    ("IPE 160", 160, 82, 5.0, 7.4, 9),
    ("IPE 200", 200, 100, 5.6, 8.5, 12),
    ("IPE 240", 240, 120, 6.2, 9.8, 15),
    ("IPE 300", 300, 150, 7.1, 10.7, 15),
    ("IPE 360", 360, 170, 8.0, 12.7, 18),
    ("HEA 160", 152, 160, 6.0, 9.0, 15),
    ("HEA 200", 190, 200, 6.5, 10.0, 18),
    ("HEA 240", 230, 240, 7.5, 12.0, 21),
)
"""Millimetres, likewise."""
US_HOLLOW: Final = (
    ("HSS 3-1/2x1/4", 3.5, 0.233),
    ("HSS 4x1/4", 4.0, 0.233),
    ("HSS 5x1/4", 5.0, 0.233),
    ("HSS 6x1/4", 6.0, 0.233),
    ("HSS 6x3/8", 6.0, 0.349),
)
"""Square; name, side, design wall (0.93 of the nominal, AISC 360 B4.2); inches. Outer radius twice
the wall."""
EN_HOLLOW: Final = (
    ("SHS 80x5", 80, 5.0),
    ("SHS 100x5", 100, 5.0),
    ("SHS 120x6", 120, 6.0),
    ("SHS 140x6", 140, 6.0),
    ("SHS 160x8", 160, 8.0),
)
US_GLULAM: Final = (
    (3.125, (9, 10.5, 12, 13.5, 15)),
    (5.125, (10.5, 12, 13.5, 15, 16.5, 18, 21, 24)),
    (6.75, (18, 21, 24, 27, 30)),
)
EN_GLULAM: Final = (
    (100, (200, 240, 280, 320)),
    (140, (280, 320, 360, 400, 440, 480)),
    (160, (400, 440, 480, 520, 560, 600)),
    (200, (520, 600, 680, 760, 840)),
    (240, (240, 360, 600, 720)),
    (280, (480, 600, 720, 800)),
)
US_LVL: Final = (9.5, 11.875, 14, 16, 18)
GLULAM_CLASS: Final = "GL24h"
"""Of the European glulam that ships, the commonest; US projects in metres take 24F-1.8E of it."""
EN_LVL: Final = (200, 240, 300, 360, 400)


def _fraction(inches: float) -> str:
    whole, rest = int(inches), round((inches - int(inches)) * 8)
    parts = {0: "", 1: "1/8", 2: "1/4", 3: "3/8", 4: "1/2", 5: "5/8", 6: "3/4", 7: "7/8"}[rest]
    return f"{whole}-{parts}" if parts else str(whole)


def _wood(name: str, family: Family, breadth: float, depth: float, values: Product) -> Product:
    price = round(breadth * depth * _PRICE[family], 2)
    size = {
        "breadth": round(breadth, 4),
        "depth": round(depth, 4),
        "weight": breadth * depth * WOOD_WEIGHT,
    }
    return replace(values, id=name, family=family, price=price, **size)


def _rolled(
    name: str,
    depth: float,
    breadth: float,
    web: float,
    flange: float,
    radius: float,
    fy: float,
    hollow: bool,
) -> Product:
    item = Product(
        name,
        "steel hollow" if hollow else "steel i",
        breadth,
        depth,
        web=web,
        flange=flange,
        radius=radius,
        fy=fy,
    )
    area = section_of(item).area
    return Product(
        name,
        item.family,
        breadth,
        depth,
        web=web,
        flange=flange,
        radius=radius,
        fy=fy,
        weight=area * STEEL_WEIGHT,
        price=round(area * _PRICE["steel"], 2),
    )


@cache
def shipped_products(system: System) -> tuple[Product, ...]:
    """The products shipped for a system of measure."""
    return tuple(_us_products() if system == "us" else _en_products())


def _us_products() -> Iterator[Product]:
    for width, depths in US_GLULAM:
        for depth in depths:
            name = f"GL {_fraction(width)}x{_fraction(depth)}"
            for word, item in LAYUPS:
                yield _wood(f"{name}{word}", "glulam", width * INCH, depth * INCH, item)
    for d in US_LVL:
        yield _wood(f"LVL 1-3/4x{_fraction(d)}", "lvl", 1.75 * INCH, d * INCH, LVL)
    for n, d, b, w, f, r in US_I:
        yield _rolled(n, d * INCH, b * INCH, w * INCH, f * INCH, r * INCH, 50_000 * PSI, False)
    for n, s, t in US_HOLLOW:
        yield _rolled(n, s * INCH, s * INCH, t * INCH, 0.0, 2 * t * INCH, 50_000 * PSI, True)


def _en_products() -> Iterator[Product]:
    for wide, deep in EN_GLULAM:
        for depth in deep:
            for word, item in LAYUPS:
                item = replace(item, strength_class=GLULAM_CLASS)
                yield _wood(f"GL {wide}x{depth}{word}", "glulam", float(wide), float(depth), item)
    for d in EN_LVL:
        yield _wood(f"LVL 45x{d}", "lvl", 45.0, float(d), LVL)
    for n, d, b, w, f, r in EN_I:
        yield _rolled(n, float(d), float(b), w, f, float(r), 235.0, False)
    for n, s, t in EN_HOLLOW:
        yield _rolled(n, float(s), float(s), t, 0.0, 2 * t, 235.0, True)
