"""Loads and stresses in trade notation."""

from collections.abc import Callable

import pytest

from balken.units import (
    KPA,
    LB,
    LBFT,
    PLF,
    PSF,
    PSI,
    NumberError,
    QuantityError,
    System,
    format_area_load,
    format_force,
    format_line_load,
    format_moment,
    format_stress,
    parse_area_load,
    parse_force,
    parse_line_load,
    parse_moment,
)
from balken.units.quantity import parse_soil_bearing


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


# 1 lbf = 4.448222 N, 1 lbf·ft = 1.355818 N·m, 1 lbf/ft = 14.59390 N/m: NIST SP 811, appendix B.8.
@pytest.mark.parametrize(
    ("read", "text", "system", "value"),
    [
        (parse_force, "1200", "us", 5337.87),
        (parse_force, "1,200 lb", "metric", 5337.87),
        (parse_force, "1.2 kip", "us", 5337.87),
        (parse_force, "12.5 kN", "us", 12_500.0),
        (parse_force, "12,5 kN", "metric", 12_500.0),
        (parse_force, "12.5", "metric", 12_500.0),
        (parse_force, "0,125 kN", "metric", 125.0),
        (parse_force, "1,200.5 kN", "metric", 1_200_500.0),
        (parse_moment, "100 lb·ft", "metric", 135_581.8),
        (parse_moment, "100 ft lb", "us", 135_581.8),
        (parse_moment, "2.5 kN·m", "us", 2.5e6),
        (parse_moment, "2.5", "metric", 2.5e6),
        (parse_line_load, "850 plf", "metric", 12.404815),
        (parse_line_load, "850", "us", 12.404815),
        (parse_line_load, "12.4 kN/m", "us", 12.4),
        (parse_line_load, "12.4", "metric", 12.4),
    ],
)
def test_typed_loads(
    read: Callable[[str, System], float], text: str, system: System, value: float
) -> None:
    assert read(text, system) == pytest.approx(value, rel=1e-6)


@pytest.mark.parametrize("read", [parse_force, parse_moment, parse_line_load])
@pytest.mark.parametrize("text", ["", "kN", "much", "1 2 x", "nan", "inf"])
def test_a_typed_load_that_is_none(read: Callable[[str, System], float], text: str) -> None:
    with pytest.raises(NumberError):
        read(text, "us")


@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_is_written_reads_back(system: System) -> None:
    # Fields show what is typed into them: opened and left, they change nothing.
    assert parse_force(format_force(12_000 * LB, "us"), system) == pytest.approx(12_000 * LB)
    assert parse_force(format_force(1_234_560.0, "metric"), system) == pytest.approx(1_234_560.0)
    assert parse_moment(format_moment(2_400 * LBFT, "us"), system) == pytest.approx(2_400 * LBFT)
    assert parse_line_load(format_line_load(1_850 * PLF, "us"), system) == pytest.approx(
        1_850 * PLF
    )
    assert parse_line_load(format_line_load(14.25, "metric"), system) == pytest.approx(14.25)


def test_what_soil_bears_goes_from_peat_to_rock() -> None:
    """IRC table R401.4.1: 1,500 psf for clay, 12,000 psf for bedrock."""
    psf = 4.4482216152605 / 304.8**2
    assert parse_soil_bearing("12,000 psf", "us") == pytest.approx(12_000 * psf)
    assert parse_soil_bearing("1500", "us") == pytest.approx(1500 * psf)
    assert parse_soil_bearing("3 ksf", "us") == pytest.approx(3000 * psf)
    assert parse_soil_bearing("150", "metric") == pytest.approx(0.150)
    for text in ("0", "soft", "900 MPa"):
        with pytest.raises(QuantityError):
            parse_soil_bearing(text, "metric")
