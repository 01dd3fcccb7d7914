"""Rolled sections against published tables, and what a typed product needs."""

import pytest

from balken.model.catalogue import sections_of
from balken.model.sections import Product, faults_of_product
from balken.units import INCH

# EN 10365 tables and EN 10219-2 annex B, from memory: area cm², inertia cm⁴, plastic modulus cm³.
EUROPEAN = [
    ("IPE 160", 20.1, 869, 124),
    ("IPE 200", 28.5, 1943, 221),
    ("IPE 240", 39.1, 3892, 367),
    ("IPE 300", 53.8, 8356, 628),
    ("IPE 360", 72.7, 16270, 1019),
    ("HEA 200", 53.8, 3692, 430),
    ("HEA 240", 76.8, 7763, 745),
    ("SHS 100x5", 18.4, 271, 64.6),
    ("SHS 120x6", 26.4, 562, 112),
]
# AISC Steel Construction Manual, part 1, from memory: area in², inertia in⁴.
AMERICAN = [
    ("W8x18", 5.26, 61.9),
    ("W10x22", 6.49, 118),
    ("W12x26", 7.65, 204),
    ("W14x30", 8.85, 291),
    ("HSS 4x1/4", 3.37, 7.80),
    ("HSS 6x1/4", 5.24, 28.6),
]


@pytest.mark.parametrize(("name", "area", "inertia", "plastic"), EUROPEAN)
def test_european_sections_have_their_published_properties(
    name: str, area: float, inertia: float, plastic: float
) -> None:
    section = sections_of("metric")[name]
    assert section.area / 100 == pytest.approx(area, rel=0.005)
    assert section.inertia / 1e4 == pytest.approx(inertia, rel=0.005)
    assert section.plastic / 1e3 == pytest.approx(plastic, rel=0.006)


@pytest.mark.parametrize(("name", "area", "inertia"), AMERICAN)
def test_american_sections_have_their_published_properties(
    name: str, area: float, inertia: float
) -> None:
    section = sections_of("us")[name]
    assert section.area / INCH**2 == pytest.approx(area, rel=0.01)
    assert section.inertia / INCH**4 == pytest.approx(inertia, rel=0.01)


def test_plies_side_by_side_add_up() -> None:
    sections = sections_of("us")
    three, one = sections["3-2x10"], sections["2x10"]
    assert three.breadth == pytest.approx(3 * one.breadth)
    assert three.inertia == pytest.approx(3 * one.inertia)
    assert (three.nominal, three.plies) == (one.nominal, 3)


@pytest.mark.parametrize(
    ("item", "words"),
    [
        (
            Product("I 241", "i-joist", 50.0, 241.0, moment=4e6, shear=6e3, stiffness=5e11),
            "lacks its end reaction",
        ),
        (
            Product("G", "glulam", 140.0, 400.0, fb=16.0, fv=1.8, e=12e3, e_min=6e3),
            "lacks its bearing stress",
        ),
        (Product("S", "steel hollow", 80.0, 80.0, web=41.0, fy=235.0), "thicker than it is wide"),
    ],
)
def test_a_typed_product_says_what_it_lacks(item: Product, words: str) -> None:
    assert words in faults_of_product(item)
