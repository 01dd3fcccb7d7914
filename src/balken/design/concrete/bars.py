"""Reinforcing bars that are sold, and choosing how many of which.

ASTM A615 bars by number, EN 10080 bars by diameter; both from memory.
"""

import math
from collections.abc import Callable
from typing import Final

import msgspec

from balken.units import INCH, System


class Bar(msgspec.Struct, frozen=True):
    """A bar: its name, diameter in mm, area in mm²."""

    name: str
    diameter: float
    area: float


_NUMBERED: Final = (
    (3, 0.375, 0.11),
    (4, 0.5, 0.20),
    (5, 0.625, 0.31),
    (6, 0.75, 0.44),
    (7, 0.875, 0.60),
    (8, 1.0, 0.79),
    (9, 1.128, 1.00),
)
BARS: Final[dict[str, tuple[Bar, ...]]] = {
    "us": tuple(Bar(f"#{n}", d * INCH, a * INCH**2) for n, d, a in _NUMBERED),
    "metric": tuple(Bar(f"ø{d}", float(d), math.pi * d**2 / 4) for d in (8, 10, 12, 16, 20, 25)),
}


class Bars(msgspec.Struct, frozen=True):
    """Bars side by side: ``count`` in a width, or at ``spacing`` along a wall, mm."""

    bar: Bar
    count: int
    spacing: float
    hooked: bool = False
    """Straight bars would be too short to hold: their ends are bent up."""
    layers: int = 1
    """Alike, one over the other."""

    @property
    def area(self) -> float:
        """Steel in the width, mm²."""
        return self.count * self.bar.area


def bars_across(
    needed: float,
    width: float,
    cover: float,
    most_apart: float,
    system: System,
    room: float,
    develop: Callable[[Bar], float],
) -> Bars:
    """Choose bars side by side in a width: least steel, of bars that hold without hooks where there
    are such.

    Args:
        needed: steel, mm².
        width: they are spread over, mm.
        cover: at both sides, mm.
        most_apart: greatest spacing, mm.
        system: whose bars.
        room: length of bar beyond where it works hardest, mm.
        develop: length a bar needs to hold, mm.
    """
    found: list[tuple[bool, float, int, Bars]] = []
    for bar in BARS[system][1:]:
        inside = width - 2 * cover - bar.diameter
        count = max(
            2, math.ceil(needed / bar.area - 1e-9), math.ceil(inside / most_apart - 1e-9) + 1
        )
        spacing = inside / (count - 1)
        if spacing - bar.diameter < max(25.0, bar.diameter):
            continue
        hooked = develop(bar) > room
        found.append((hooked, round(count * bar.area, 3), count, Bars(bar, count, spacing, hooked)))
    if not found:
        bar = BARS[system][-1]
        count = max(2, math.ceil(needed / bar.area))
        return Bars(bar, count, (width - 2 * cover) / (count - 1), hooked=True)
    return min(found, key=lambda f: f[:3])[3]


SPACINGS: Final[dict[System, tuple[float, ...]]] = {
    "us": tuple(s * INCH for s in (18, 16, 12, 10, 8, 6)),
    "metric": (400.0, 300.0, 250.0, 200.0, 150.0),
}
"""Of bars in a wall, the widest first, mm; common practice, no source."""


def bars_along(needed: float, most_apart: float, system: System) -> Bars:
    """Choose bars of a wall for ``needed`` mm² per mm: the widest spacing on the trade's own steps,
    then the thinnest bar."""
    for spacing in (s for s in SPACINGS[system] if s <= most_apart + 0.5):
        for bar in BARS[system][1:5]:
            if bar.area / spacing >= needed - 1e-12:
                return Bars(bar, 1, spacing)
    bar = BARS[system][4]
    return Bars(bar, 1, min(SPACINGS[system][-1], bar.area / needed))
