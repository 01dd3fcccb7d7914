"""Lengths as people type and read them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.units import LengthError, format_length, format_run, parse_length

# NIST SP 811, appendix B.8: 1 in = 25.4 mm and 1 ft = 304.8 mm exactly.
TYPED_US = {
    "11'-10 1/2\"": 11 * 304.8 + 10.5 * 25.4,
    "11-10.5": 11 * 304.8 + 10.5 * 25.4,
    "11' 10.5\"": 11 * 304.8 + 10.5 * 25.4,
    '3/4"': 19.05,
    "16in": 406.4,
    "16": 406.4,
    "12ft": 3657.6,
    "3600mm": 3600.0,
    "3.6m": 3600.0,
    "360cm": 3600.0,
    "5′-3½″".replace("½", " 1/2"): 5 * 304.8 + 3.5 * 25.4,
    "0'-8\"": 203.2,
    "16'-11½": 16 * 304.8 + 11.5 * 25.4,
    "16' 11 ½\"": 16 * 304.8 + 11.5 * 25.4,
    "8½": 8.5 * 25.4,
    '8½"': 8.5 * 25.4,
    "3 1/2": 3.5 * 25.4,
    "½": 12.7,
    "1'-0¾\"": 12.75 * 25.4,
    "5 ft. 6 in.": 66 * 25.4,
    "1.2 m": 1200.0,
}


@pytest.mark.parametrize(("text", "mm"), TYPED_US.items())
def test_reads_what_people_type(text: str, mm: float) -> None:
    assert parse_length(text, "us") == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("2,5", 2.5),
        ("1,2 m", 1200.0),
        ("1,200 m", 1200.0),
        ("3,600", 3600.0),
        ("12,345.5", 12345.5),
        ("3,600 mm", 3600.0),
        ("0,125", 0.125),
    ],
)
def test_a_comma_is_a_point_or_parts_thousands(text: str, mm: float) -> None:
    """Three digits behind a comma are thousands, as ISO 80000-1 warns they may be read; in metres,
    where nobody types thousands, a point."""
    assert parse_length(text, "metric") == pytest.approx(mm)


def test_a_bare_number_follows_the_system() -> None:
    assert parse_length("3600", "metric") == 3600.0
    assert parse_length("10", "us") == pytest.approx(254.0)


@pytest.mark.parametrize(
    "text",
    [
        "12'-14\"",
        "abc",
        "",
        "-3'",
        "1/0",
        "5 5 5",
        "1e9",
        "nan",
        "inf",
        "99999999999",
        "12'-",
        "--4",
    ],
)
def test_refuses_and_says_what_is_accepted(text: str) -> None:
    if text == "12'-":
        assert parse_length(text, "us") == pytest.approx(12 * 304.8)
        return
    with pytest.raises(LengthError) as error:
        parse_length(text, "us")
    assert len(str(error.value)) > 20


def test_negative_only_where_it_makes_sense() -> None:
    assert parse_length("-1'-6\"", "us", negative=True) == pytest.approx(-457.2)
    with pytest.raises(LengthError, match="below zero"):
        parse_length("-1", "us")


@given(st.integers(min_value=0, max_value=40_000))
def test_what_is_written_is_read_back(sixteenths: int) -> None:
    mm = sixteenths * 25.4 / 16
    assert parse_length(format_length(mm, "us"), "us") == pytest.approx(mm, abs=1e-6)


@given(st.floats(min_value=0, max_value=1e6))
def test_rounding_is_never_more_than_half_a_mark(mm: float) -> None:
    assert abs(parse_length(format_length(mm, "us"), "us") - mm) <= 25.4 / 32 + 1e-6
    assert abs(parse_length(format_length(mm, "metric"), "metric") - mm) <= 0.5 + 1e-6


@pytest.mark.parametrize(
    ("mm", "text"),
    [
        (3048.0, "10'-0\""),
        (304.8 - 0.1, "1'-0\""),
        (12.7, '1/2"'),
        (-457.2, "−1'-6\""),
        (0.0, '0"'),
    ],
)
def test_writes_as_a_tape_reads(mm: float, text: str) -> None:
    assert format_length(mm, "us") == text


def test_spacings() -> None:
    assert format_run(19.2 * 25.4, "us") == '19.2"'
    assert format_run(406.4, "us") == '16"'
    assert format_run(400.0, "metric") == "400"
