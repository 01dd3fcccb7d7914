"""Plain numbers and angles as typed: what is read, and what is refused with a reason."""

import pytest

from balken.units import NumberError, parse_angle, parse_number


@pytest.mark.parametrize(
    ("text", "value"), [("2", 2.0), (" 12,5 ", 12.5), ("−3", -3.0), ("1e3", 1000.0)]
)
def test_numbers(text: str, value: float) -> None:
    assert parse_number(text) == value


def test_a_unit_may_stand_behind() -> None:
    assert parse_number("8 mm of paper", "mm of paper") == 8.0
    assert parse_angle("45°") == 45.0
    assert parse_angle("−12,5 °") == -12.5


@pytest.mark.parametrize("text", ["", "nan", "inf", "1e999", "1_000", "five", "1 2", "2e9"])
def test_what_is_no_number_says_so(text: str) -> None:
    with pytest.raises(NumberError, match=f"“{text}” is no number"):
        parse_number(text)
    with pytest.raises(NumberError, match=f"“{text}” is no angle"):
        parse_angle(text)


def test_more_than_ten_turns_is_a_slip() -> None:
    assert parse_angle("3600") == 3600.0
    with pytest.raises(NumberError):
        parse_angle("3601")
