"""Labels of grid lines by rule: letters without I and O, or numbers, with prefix, start and step,
either way round."""

import re
from collections.abc import Callable
from typing import Final, Literal

import msgspec

from balken.errors import BalkenError

LETTERS: Final = "ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Without I and O, which are read as 1 and 0 (ISO 4157-3 leaves them out as well; from memory)."""


class LabelRule(msgspec.Struct, frozen=True):
    """How the lines of a row are called, in their order."""

    kind: Literal["letters", "numbers"]
    first: str = ""
    """The first label without its prefix; A or 1 where empty."""
    step: int = 1
    prefix: str = ""
    reversed: bool = False


_ONE_LABEL: Final = re.compile(r"(?P<head>.*?)(?P<first>\d+|[A-Za-z]+)(?:\+(?P<step>\d+))?")


def labels(rule: LabelRule, count: int) -> list[str]:
    """Labels for a row of lines.

    Raises:
        BalkenError: the first label or the step does not fit the rule; says what would.
    """
    if not 1 <= abs(rule.step) <= 100:
        raise BalkenError("Labels go in steps of 1 to 100.")
    write: Callable[[int], str] = str
    first, least = 0, 0
    if rule.kind == "letters":
        first, least, write = letters_number(rule.first or "A"), 1, letters_of
    else:
        first = _whole(rule.first or "1")
    numbers = [first + rule.step * i for i in range(count)]
    if min(numbers, default=0) < least:
        raise BalkenError(
            "These labels would run below the first one; start later or step upwards."
        )
    words = [rule.prefix + write(n) for n in numbers]
    return words[::-1] if rule.reversed else words


def letters_of(number: int) -> str:
    """The letters of a place in the row: 1 is A, 24 is Z, 25 is AA."""
    word = ""
    while number > 0:
        number, rest = divmod(number - 1, len(LETTERS))
        word = LETTERS[rest] + word
    return word


def letters_number(word: str) -> int:
    """The place in the row of letters.

    Raises:
        BalkenError: it holds anything but letters, or I or O.
    """
    number = 0
    for letter in word.strip().upper():
        if letter not in LETTERS:
            raise BalkenError(f"“{word}” is no label of letters; grid lines leave out I and O.")
        number = number * len(LETTERS) + LETTERS.index(letter) + 1
    if not number:
        raise BalkenError("A label of letters needs a letter.")
    return number


def _whole(word: str) -> int:
    if not word.strip().isdigit():
        raise BalkenError(f"“{word}” is no number to begin labels with.")
    return int(word)


def rule_from(text: str) -> LabelRule | list[str]:
    """Read how lines are to be called: ``A``, ``1``, ``P1``, ``10+10``, ``Z down``, or typed labels
    ``1.A 1.B 2``.

    One word begins a row by rule; several are the labels themselves.

    Raises:
        BalkenError: nothing can be made of it.
    """
    words = [w for w in re.split(r"[\s,;]+", text.strip()) if w]
    if not words:
        raise BalkenError("Type the first label (A, 1, P1), or all of them one after another.")
    turned = words[-1].lower() in ("down", "reversed", "back")
    if turned:
        words = words[:-1]
    if len(words) > 1:
        return words[::-1] if turned else words
    match = _ONE_LABEL.fullmatch(words[0]) if words else None
    if not match:
        raise BalkenError(
            f"“{text.strip()}” does not say how lines are called; try A, 1, P1 or 10+10."
        )
    first, step = match["first"], int(match["step"] or 1)
    if first.isdigit():
        return LabelRule("numbers", first, step, match["head"], turned)
    return LabelRule("letters", first.upper(), step, match["head"], turned)
