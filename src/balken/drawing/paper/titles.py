"""What stands under a view: its number, its name, north, its scale in words and as a bar. mm of paper."""

from collections.abc import Iterator
from typing import Final

from balken.drawing.marks import Disc, Label, Mark, Stroke, rectangle
from balken.drawing.paper.fitting import Fitted
from balken.drawing.paper.tables import TEXT
from balken.units import FOOT, System


def title_marks(f: Fitted, number: str, scale: str, x: float, y: float) -> Iterator[Mark]:
    """The title under a view: its number in a ring, its name, its scale, north of a plan."""
    at = y + 7.0
    yield Disc((x + 4.6, at + 1.4), 4.6, "seen")
    yield Label(number, (x + 4.6, at - 0.2), 4.4, bold=True)
    yield Label(f.view.title, (x + 12.0, at + 0.8), 4.6, "start", bold=True)
    long = len(f.view.title) * 4.6 * 0.5 + 12.0
    yield Stroke(((x + 12.0, at - 1.0), (x + long, at - 1.0)), "seen")
    if scale:
        yield Label(scale, (x + 12.0, at - 5.8), TEXT, "start")
    if f.view.north:
        yield from _north(x + long + 8.0, at + 1.0)


STEPS: Final[dict[System, tuple[tuple[float, str], ...]]] = {
    "us": tuple((n * FOOT, f"{n}'") for n in (100, 50, 20, 10, 5, 2, 1)),
    "metric": tuple((n * 1000.0, f"{n:g} m") for n in (50, 20, 10, 5, 2, 1, 0.5, 0.2)),
}
BAR: Final = 45.0
"""The longest bar of a scale, mm of paper."""


def scale_bar(f: Fitted, system: System, x: float, y: float) -> Iterator[Mark]:
    """A bar beside the scale in words, by which a print at half size is measured: its first half heavy.
    Nothing where the view is too narrow for it."""
    start = x + 12.0 + len(f.scale.words) * TEXT * 0.55 + 8.0
    most = min(BAR, x + f.width - start - 14.0)
    found = next((s for s in STEPS[system] if s[0] / f.scale.ratio <= most), None)
    if found is None or found[0] / f.scale.ratio < 4.0:
        return
    long, low, high = found[0] / f.scale.ratio, y + 1.4, y + 2.8
    ring = rectangle(start, low, start + long, high)
    yield Stroke((*ring, ring[0]), "seen")
    yield Stroke(((start + long / 2, low), (start + long / 2, high)), "seen")
    middle = (low + high) / 2
    yield Stroke(((start, middle), (start + long / 2, middle)), "cut")
    yield Label(found[1], (start + long + 1.6, y + 0.8), TEXT, "start")


def _north(x: float, y: float) -> Iterator[Mark]:
    """The project's north: up."""
    yield Stroke(((x, y - 4.0), (x, y + 4.0)), "seen")
    yield Stroke(((x - 1.5, y + 1.5), (x, y + 4.0), (x + 1.5, y + 1.5)), "seen")
    yield Label("N", (x, y + 4.8), TEXT, bold=True)
