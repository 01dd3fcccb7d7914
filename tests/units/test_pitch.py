"""Pitches typed in any of the trade's ways."""

import math

import pytest

from balken.errors import BalkenError
from balken.units.pitch import format_pitch, parse_pitch


@pytest.mark.parametrize(
    ("text", "system", "rise"),
    [
        ("6", "us", 6.0),
        ("6 in 12", "us", 6.0),
        ("6:12", "us", 6.0),
        ("6/12", "us", 6.0),
        ("3 in 6", "us", 6.0),
        ("4.5 in 12", "metric", 4.5),
        ("50 %", "us", 6.0),
        ("50%", "metric", 6.0),
        ("45°", "us", 12.0),
        ("45", "metric", 12.0),
        ("30 deg", "us", 12 * math.tan(math.pi / 6)),
        ("22,5°", "metric", 12 * math.tan(math.pi / 8)),
    ],
)
def test_a_pitch_is_read_as_rise_in_12(text: str, system: str, rise: float) -> None:
    assert parse_pitch(text, system) == pytest.approx(rise)  # type: ignore[arg-type]


@pytest.mark.parametrize("text", ["", "steep", "6 in 0", "-3", "90°", "120 deg", "6 in 12 in 12"])
def test_what_is_no_pitch_is_told(text: str) -> None:
    with pytest.raises(BalkenError, match=r"pitch|run"):
        parse_pitch(text, "us")


@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_is_written_is_read_again(system: str) -> None:
    for rise in (1.0, 3.5, 6.0, 12.0, 24.0):
        assert parse_pitch(format_pitch(rise, system), system) == pytest.approx(rise, rel=2e-3)  # type: ignore[arg-type]
