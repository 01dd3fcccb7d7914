"""Loads and stresses in trade notation."""

import pytest

from balken.units import (
    KPA,
    PLF,
    PSF,
    PSI,
    QuantityError,
    format_area_load,
    format_force,
    format_line_load,
    format_stress,
    parse_area_load,
)


def test_factors() -> None:
    # NIST SP 811, appendix B.8: 1 psi = 6.894757 kPa, 1 psf = 47.88026 Pa, 1 lbf/ft = 14.59390 N/m.
    assert pytest.approx(6.894757e-3, rel=1e-6) == PSI
    assert pytest.approx(47.88026e-6, rel=1e-6) == PSF
    assert pytest.approx(14.59390e-3, rel=1e-6) == PLF


@pytest.mark.parametrize(
    ("text", "system", "value"),
    [
        ("40psf", "metric", 40 * PSF),
        ("40", "us", 40 * PSF),
        ("1.9", "metric", 1.9 * KPA),
        ("1.9 kN/m²", "us", 1.9 * KPA),
    ],
)
def test_area_loads(text: str, system: str, value: float) -> None:
    assert parse_area_load(text, system) == pytest.approx(value)  # type: ignore[arg-type]


@pytest.mark.parametrize("text", ["", "abc", "-5", "40 pounds", "1e3", "99999", "nan"])
def test_refused_loads(text: str) -> None:
    with pytest.raises(QuantityError):
        parse_area_load(text, "us")


def test_notation() -> None:
    assert format_area_load(40 * PSF, "us") == "40 psf"
    assert format_area_load(1334.1 * PSF, "us") == "1334 psf"
    assert format_line_load(53.3 * PLF, "us") == "53 plf"
    assert format_force(441.4 * 4.4482216, "us") == "441 lb"
    assert format_force(5000.0, "metric") == "5.00 kN"
    assert format_stress(900 * PSI, "us") == "900 psi"
