"""How sections and marks are written on drawings and in the window."""

import re
from typing import Final


def pretty(section: str) -> str:
    """Write a section with a multiplication sign: ``2x10`` as ``2×10``, ``3-2x10`` as
    ``3-2×10``."""
    return section.replace("x", "×") if any(c.isdigit() for c in section) else section


_NUMBERED: Final = re.compile(r"(.*?)(\d+)(\D*)")


def shortened(marks: list[str]) -> str:
    """All marks in a row of a table; those that count on from one another from the first to the last:
    C1–C4, C7."""
    runs: list[list[str]] = []
    for mark in dict.fromkeys(marks):
        if runs and _counts_on(runs[-1][-1], mark):
            runs[-1].append(mark)
        else:
            runs.append([mark])
    return ", ".join(words for run in runs for words in _run_words(run))


def _counts_on(before: str, mark: str) -> bool:
    """Whether a mark has the next number, and all else the same."""
    a, b = _NUMBERED.fullmatch(before), _NUMBERED.fullmatch(mark)
    if a is None or b is None or (a[1], a[3]) != (b[1], b[3]):
        return False
    return int(b[2]) == int(a[2]) + 1


def _run_words(run: list[str]) -> list[str]:
    return [f"{run[0]}–{run[-1]}"] if len(run) > 2 else run
