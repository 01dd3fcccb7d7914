"""Lengths: reading what people type, and writing what a tape reads.

Accepted in both systems: ``11'-10 1/2"``, ``11'-10½``, ``11' 10.5"``, ``11-10.5`` (feet and
inches), ``8"``, ``8½``, ``3/4"``, ``16in``, ``12ft``, ``5 ft 6``, ``3600mm``, ``360cm``, ``3.6m``,
``2,5`` and ``3,600``. A bare number is inches in US projects and millimetres in metric ones.
"""

import math
import re
from typing import Final

from balken.errors import BalkenError
from balken.units.quantity import FOOT, INCH
from balken.units.system import System

LONGEST: Final = 10_000_000.0
"""The longest length anybody may type, mm (10 km): beyond it a slip of the finger is certain."""

SIXTEENTHS: Final = 16
ACCEPTED: Final = {
    "us": "Write feet and inches such as 12'-6½\", 12-6.5, 8½ or 3600mm.",
    "metric": "Write millimetres such as 3600, or 3.6m, or 12'-6\".",
}

_NUMBER = r"(?:\d+(?:\.\d*)?|\.\d+)"
_FRACTION = r"(?:\d+\s*/\s*\d+)"
_INCHES = rf"(?:(?P<whole>{_NUMBER})(?:[\s-]+(?P<part>{_FRACTION}))?|(?P<only>{_FRACTION}))"
_FEET_MARKED = re.compile(
    rf"(?P<feet>{_NUMBER})\s*(?:'|ft\.?|feet|foot)\s*-?\s*(?:{_INCHES}\s*(?:\"|in\.?|inch|inches)?)?"
)
_FEET_DASH = re.compile(rf"(?P<feet>\d+)-{_INCHES}\s*\"?")
_INCH_MARKED = re.compile(rf"{_INCHES}\s*(?:\"|in\.?|inch|inches)")
_INCH_BARE = re.compile(_INCHES)
_METRIC = re.compile(rf"(?P<value>{_NUMBER})\s*(?P<unit>mm|cm|m)")
_METRIC_FACTOR: Final = {"mm": 1.0, "cm": 10.0, "m": 1000.0}
_MARKS = str.maketrans({"′": "'", "’": "'", "″": '"', "”": '"', "⁄": "/", "−": "-", "–": "-"})
_WRITTEN_WHOLE: Final = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_THOUSANDS: Final = re.compile(r"[1-9]\d{0,2}(?:,\d{3})+(?!\s*m(?!m))")
"""Thousands parted as in 3,600; before a unit of metres a comma is a point: 1,200 m."""


class LengthError(BalkenError):
    """A length that cannot be read; its text says what was typed and what is accepted."""


def parse_length(text: str, system: System, *, negative: bool = False) -> float:
    """Read a typed length.

    Args:
        text: what was typed.
        system: decides what a bare number means (inches or millimetres).
        negative: whether a length below zero makes sense here (an elevation, a shift).

    Returns:
        The length in mm.

    Raises:
        LengthError: the text is no length, is negative where that makes no sense, holds twelve or
            more inches beside feet, or is longer than 10 km.
    """
    typed = text.strip()
    body = _plain(typed)
    if not body:
        raise LengthError(f"Nothing was typed. {ACCEPTED[system]}")
    sign = 1.0
    if body[0] in "+-":
        sign = -1.0 if body[0] == "-" else 1.0
        body = body[1:].strip()
    value = (
        round(sign * _magnitude(body, typed, system), 9) + 0.0
    )  # 6 in are 152.4 mm, not 152.39999999999998
    if value < 0 and not negative:
        raise LengthError(f"“{typed}” is below zero; a length here must be zero or more.")
    if abs(value) > LONGEST:
        raise LengthError(f"“{typed}” is longer than 10 km; a building is not. {ACCEPTED[system]}")
    return value


def _plain(typed: str) -> str:
    """A typed length in plain signs: fractions written whole as digits, thousands joined, decimal
    commas as points."""
    body = typed.translate(_MARKS).lower().replace("''", '"').strip()
    for sign, digits in _WRITTEN_WHOLE.items():
        body = re.sub(rf"(?<=\d)\s*{sign}", f" {digits}", body).replace(sign, digits)
    if parted := _THOUSANDS.match(body.lstrip("+-")):
        body = body.replace(parted[0], parted[0].replace(",", ""), 1)
    return body.replace(",", ".")


def _magnitude(body: str, typed: str, system: System) -> float:
    if match := _METRIC.fullmatch(body):
        return float(match["value"]) * _METRIC_FACTOR[match["unit"]]
    if match := _FEET_MARKED.fullmatch(body) or _FEET_DASH.fullmatch(body):
        inches = _inches(match, typed)
        if inches >= 12:
            raise LengthError(
                f"“{typed}” has {inches:g} inches beside the feet; inches there stay below 12:"
                f" write {int(float(match['feet']) + inches // 12)}'-{inches % 12:g}\"."
            )
        return float(match["feet"]) * FOOT + inches * INCH
    if match := _INCH_MARKED.fullmatch(body):
        return _inches(match, typed) * INCH
    if match := _INCH_BARE.fullmatch(body):
        return _inches(match, typed) * (INCH if system == "us" else 1.0)
    raise LengthError(f"“{typed}” is not a length. {ACCEPTED[system]}")


def _inches(match: re.Match[str], typed: str) -> float:
    total = float(match["whole"] or 0.0)
    for fraction in (match["part"], match["only"]):
        if fraction:
            top, bottom = (int(n) for n in fraction.split("/"))
            if bottom == 0:
                raise LengthError(f"“{typed}” divides by zero.")
            total += top / bottom
    return total


def format_length(mm: float, system: System) -> str:
    """Write a length as a tape reads: to 1/16 in as feet and inches, or to whole millimetres."""
    if not math.isfinite(mm):
        return "–"
    if system == "metric":
        return _minus(f"{_half_up(mm)}")
    sixteenths = _half_up(abs(mm) / INCH * SIXTEENTHS)
    feet, rest = divmod(sixteenths, 12 * SIXTEENTHS)
    inches, part = divmod(rest, SIXTEENTHS)
    fraction = _fraction(part)
    if feet:
        text = f"{feet}'-{inches}{fraction and ' ' + fraction}\""
    else:
        text = f'{inches} {fraction}"' if inches and fraction else f'{fraction or inches}"'
    return _minus(f"-{text}" if mm < 0 and sixteenths else text)


def format_run(mm: float, system: System) -> str:
    """Write a spacing or thickness: inches only, to 1/16 in, or millimetres with a half where it is
    one (12.5 boards)."""
    if system == "metric":
        half = abs(abs(mm) % 1.0 - 0.5) < 1e-6
        return _minus(f"{mm:.1f}") if half else format_length(mm, system)
    inches = mm / INCH
    if (
        abs(inches - round(inches, 1)) < 1e-6
        and abs(inches * SIXTEENTHS - round(inches * SIXTEENTHS)) > 1e-6
    ):
        return f'{inches:.1f}"'  # 19.2 in is a spacing of its own
    whole, part = divmod(_half_up(abs(inches) * SIXTEENTHS), SIXTEENTHS)
    fraction = _fraction(part)
    text = f"{whole} {fraction}" if whole and fraction else fraction or str(whole)
    return _minus(f'{"-" if mm < 0 else ""}{text}"')


def _fraction(sixteenths: int) -> str:
    if not sixteenths:
        return ""
    divisor = math.gcd(sixteenths, SIXTEENTHS)
    return f"{sixteenths // divisor}/{SIXTEENTHS // divisor}"


def _half_up(value: float) -> int:
    return math.floor(value + 0.5 + 1e-9)


def _minus(text: str) -> str:
    return text.replace("-", "−", 1) if text.startswith("-") else text


def format_spacing(mm: float, system: System) -> str:
    """How far apart bars lie, in whole inches or millimetres."""
    return f"{mm / INCH:.0f} in" if system == "us" else f"{mm:.0f} mm"
