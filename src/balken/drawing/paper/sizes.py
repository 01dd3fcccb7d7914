"""Papers and scales: ISO 216 and ISO 5455, ANSI/ASME Y14.1 and the scales of feet and inches."""

from typing import Final, NamedTuple

from balken.units import INCH, System


class Size(NamedTuple):
    """A paper lying on its long side, mm."""

    name: str
    width: float
    height: float


def _inches(name: str, width: float, height: float) -> Size:
    return Size(name, width * INCH, height * INCH)


PAPERS: Final[dict[str, Size]] = {
    p.name: p
    for p in (
        Size("A4", 297.0, 210.0),
        Size("A3", 420.0, 297.0),
        Size("A2", 594.0, 420.0),
        Size("A1", 841.0, 594.0),
        Size("A0", 1189.0, 841.0),
        _inches("ANSI A", 11, 8.5),
        _inches("ANSI B", 17, 11),
        _inches("ANSI C", 22, 17),
        _inches("ANSI D", 34, 22),
        _inches("ANSI E", 44, 34),
        _inches("ARCH A", 12, 9),
        _inches("ARCH B", 18, 12),
        _inches("ARCH C", 24, 18),
        _inches("ARCH D", 36, 24),
        _inches("ARCH E", 48, 36),
    )
}
USUAL: Final[dict[System, tuple[str, ...]]] = {
    "us": ("ANSI B", "ARCH C", "ARCH D", "ARCH E"),
    "metric": ("A3", "A2", "A1", "A0"),
}
"""What a set is laid on where nothing is typed: the smallest that holds every plan at its scale."""


class Scale(NamedTuple):
    """So many mm of building to one of paper, and how that is written."""

    ratio: float
    words: str


SCALES: Final[dict[System, tuple[Scale, ...]]] = {
    "us": (
        Scale(4, '3" = 1\'-0"'),
        Scale(8, '1 1/2" = 1\'-0"'),
        Scale(12, '1" = 1\'-0"'),
        Scale(16, '3/4" = 1\'-0"'),
        Scale(24, '1/2" = 1\'-0"'),
        Scale(32, '3/8" = 1\'-0"'),
        Scale(48, '1/4" = 1\'-0"'),
        Scale(64, '3/16" = 1\'-0"'),
        Scale(96, '1/8" = 1\'-0"'),
        Scale(128, '3/32" = 1\'-0"'),
        Scale(192, '1/16" = 1\'-0"'),
        Scale(384, '1/32" = 1\'-0"'),
    ),
    "metric": tuple(
        Scale(n, f"1 : {n}") for n in (5, 10, 20, 25, 50, 75, 100, 150, 200, 250, 500, 1000)
    ),
}
"""The largest first."""


def scales_from(system: System, largest: float) -> tuple[Scale, ...]:
    """The standard scales that are no larger than one, the largest first."""
    return tuple(s for s in SCALES[system] if s.ratio >= largest - 1e-9)
