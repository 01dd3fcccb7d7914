"""Pitches as the trade says them: 6 in 12, 30°, 50 %; kept as the rise in 12 of run."""

import math
import re
from typing import Final

from balken.errors import BalkenError
from balken.units.system import System

_PITCH: Final = re.compile(
    r"\s*(?P<rise>\d+(?:[.,]\d+)?)\s*(?:(?:in|:|/)\s*(?P<run>\d+(?:[.,]\d+)?)|(?P<unit>°|deg|degrees|%))?\s*"
)


def parse_pitch(text: str, system: System) -> float:
    """A pitch as its rise in 12; a bare number is a rise in 12, in metric projects degrees.

    Raises:
        BalkenError: it is no pitch, or one that no roof has.
    """
    found = _PITCH.fullmatch(text.lower().replace("⁄", "/"))
    if found is None:
        raise BalkenError(f"“{text}” is no pitch. Write 6 in 12, 30° or 50 %.")
    value = float(found["rise"].replace(",", "."))
    if found["run"]:
        run = float(found["run"].replace(",", "."))
        if run <= 0:
            raise BalkenError(f"“{text}” has no run. Write 6 in 12, 30° or 50 %.")
        return value / run * 12
    unit = found["unit"] or ("" if system == "us" else "°")
    if unit == "%":
        return value / 100 * 12
    if unit:
        if value >= 90:
            raise BalkenError(f"{value:g}° is upright and no pitch.")
        return math.tan(math.radians(value)) * 12
    return value


def format_pitch(rise: float, system: System) -> str:
    """A pitch as the project's trade says it."""
    return (
        f"{round(rise, 3):g} in 12"
        if system == "us"
        else f"{round(math.degrees(math.atan(rise / 12)), 2):g}°"
    )
