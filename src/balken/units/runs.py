"""Typed runs of distances: ``5400 7200*2 4800``, ``18' 24'x2 16'``, ``2@24'``; and plain runs of
angles."""

import re
from collections.abc import Callable
from typing import Final

from balken.units.length import LengthError, parse_length
from balken.units.system import System

MOST: Final = 500
"""Bays in one run; beyond it a slip of the finger is certain."""
_TIMES_AFTER: Final = re.compile(r"(?P<size>.+?)\s*[*x×]\s*(?P<times>\d+)")
_TIMES_BEFORE: Final = re.compile(r"(?P<times>\d+)\s*[@×]\s*(?P<size>.+)")
_FRACTION: Final = re.compile(r"\d+/\d+(?:\"|″|in)?(?:[*x×]\d+)?")
_INCHES_AFTER_FEET: Final = re.compile(r"\d[\d./]*(?:\"|″|in)(?:[*x×]\d+)?")


def parse_runs(text: str, system: System) -> tuple[float, ...]:
    """Read a run of bays, mm, in their order.

    Raises:
        LengthError: a bay cannot be read or is nothing; the text says which.
    """
    return _parse(text, lambda part: parse_length(part, system))


def parse_angles(text: str) -> tuple[float, ...]:
    """Read a run of angles in degrees, such as ``15*6`` or ``10 20*3``.

    Raises:
        LengthError: one cannot be read or is nothing.
    """
    return _parse(text, _degrees)


def _degrees(text: str) -> float:
    try:
        value = float(text.replace("°", "").strip())
    except ValueError:
        raise LengthError(f"“{text}” is no angle in degrees.") from None
    if not 0 <= value <= 360:
        raise LengthError(f"“{text}” is no angle between 0 and 360 degrees.")
    return value


def _parse(text: str, read: Callable[[str], float]) -> tuple[float, ...]:
    found: list[float] = []
    for word in _words(text):
        times, size = 1, word
        match = _TIMES_BEFORE.fullmatch(word) or _TIMES_AFTER.fullmatch(word)
        if match:
            times, size = int(match["times"]), match["size"]
        value = read(size)
        if value <= 0:
            raise LengthError(
                f"Bay {len(found) + 1}, “{word}”, has no width; a bay is more than zero."
            )
        if times == 0:
            raise LengthError(f"“{word}” says nought times; leave it out, or write how many.")
        if len(found) + times > MOST:
            raise LengthError(f"That is more than {MOST} bays in one run.")
        found += [value] * times
    if not found:
        raise LengthError(
            "Nothing was typed. Write bays such as 5400 7200*2 4800, or 18' 24'x2 16'."
        )
    return tuple(found)


def _words(text: str) -> list[str]:
    """Split at spaces, commas and semicolons; feet, inches and their fraction stay together."""
    text = re.sub(
        r"\s*([*×@])\s*", r"\1", text.replace("′", "'").replace("”", '"').replace("’", "'")
    )
    text = re.sub(r"\s+x\s*(?=\d)", "x", text)
    text = re.sub(r"(?<=\d),(?=\d{1,3}\s*(?:m|cm)\b)", ".", text)  # 5,4m is one length
    found: list[str] = []
    for word in re.split(r"[\s;,]+", text.strip()):
        joins = (
            found
            and not re.search(r"[*x×@]", found[-1])
            and (
                (_FRACTION.fullmatch(word) and re.search(r"\d$", found[-1]))
                or (found[-1].endswith(("'", "ft")) and (_INCHES_AFTER_FEET.fullmatch(word)))
            )
        )
        if joins:
            found[-1] += f" {word}"
        elif word:
            found.append(word)
    return found
