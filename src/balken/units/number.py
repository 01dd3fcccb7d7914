"""Plain numbers and angles as people type them."""

import math
from typing import Final

from balken.errors import BalkenError

LARGEST: Final = 1e9
WIDEST: Final = 3600.0
"""An angle of more than ten turns is a slip of the hand, degrees."""


class NumberError(BalkenError):
    """What was typed is no such number; the text says what is."""


def parse_number(text: str, unit: str = "") -> float:
    """Read a number; a comma is a point, a typographic minus is one, and the unit may stand behind
    it.

    Raises:
        NumberError: it is none, or beyond a thousand million.
    """
    word = text.replace("−", "-").replace(",", ".").strip()
    word = word.removesuffix(unit).strip() if unit else word
    try:
        value = float(word)
    except ValueError:
        value = math.nan
    if "_" in word or not abs(value) <= LARGEST:
        raise NumberError(f"“{text.strip()}” is no number. Write one such as 2 or 12.5.")
    return value


def parse_several(text: str, count: int, example: str) -> tuple[float, ...]:
    """Read several numbers with commas between them; where semicolons part them a comma is a point:
    0,7; 0,5; 0,3.

    Raises:
        NumberError: there are more or fewer, or one is no number.
    """
    parts = [p for p in text.split(";" if ";" in text else ",") if p.strip()]
    if len(parts) != count:
        raise NumberError(
            f"This asks for {count} numbers with commas between them, not {len(parts)}: {example}."
        )
    return tuple(parse_number(p) for p in parts)


def parse_angle(text: str) -> float:
    """Read an angle in degrees.

    Raises:
        NumberError: it is none, or more than ten turns.
    """
    try:
        value = parse_number(text, "°")
    except NumberError:
        value = math.nan
    if not abs(value) <= WIDEST:
        raise NumberError(f"“{text.strip()}” is no angle. Write degrees such as 45 or -12.5.")
    return value
