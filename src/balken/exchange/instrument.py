"""A survey instrument and the walk round a building with it.

The interface is what any instrument offers that measures a height where its staff stands. The one
that ships is simulated: a made-up slope of ground, read with a known error, for the demo and the
tests.
"""

import math
import random
from collections.abc import Iterator, Sequence
from typing import Protocol

import msgspec

from balken.geometry.plane import Point, add, distance, left, sub, unit
from balken.model.project import Spot


class Instrument(Protocol):
    """Measures the height of the ground at a place."""

    def read(self, at: Point) -> float:
        """The height at a place, mm."""
        ...


class MadeUpGround(msgspec.Struct, frozen=True):
    """A slope with a swell in it: heights in mm at places in mm."""

    height: float = -600.0
    east: float = -0.02
    """Rise per mm to the east."""
    north: float = 0.04
    swell: float = 120.0
    wave: float = 15000.0

    def __call__(self, at: Point) -> float:
        """The true height at a place."""
        x, y = at
        waves = math.sin(2 * math.pi * x / self.wave) * math.cos(2 * math.pi * y / self.wave)
        return self.height + self.east * x + self.north * y + self.swell * waves


class SimulatedInstrument:
    """Reads made-up ground with an error of known spread; the same seed always reads the same."""

    def __init__(self, ground: MadeUpGround, spread: float = 5.0, seed: int = 1) -> None:
        self.ground, self.spread = ground, spread
        self._chance = random.Random(seed)

    def read(self, at: Point) -> float:
        """The height at a place, mm, off by a normally distributed error of ``spread``."""
        return self.ground(at) + self._chance.gauss(0.0, self.spread)


def stations(outline: Sequence[Point], step: float, out: float) -> Iterator[Point]:
    """Yield the places to measure: round an outline at most ``step`` apart, at it and ``out``
    outside it, mm."""
    for a, b in zip(outline, [*outline[1:], outline[0]]):
        way = unit(sub(b, a))
        away = left(way)
        count = max(1, math.ceil(distance(a, b) / step))
        for i in range(count):
            p = add(a, way, distance(a, b) * i / count)
            yield p
            yield add(p, away, -out)  # outlines run counter-clockwise: outside lies to the right


def survey(
    instrument: Instrument, outline: Sequence[Point], step: float = 3000.0, out: float = 3000.0
) -> tuple[Spot, ...]:
    """Walk round an outline and return what was measured; places to a mm, heights to a tenth."""
    places = [(round(x) + 0.0, round(y) + 0.0) for x, y in stations(outline, step, out)]
    return tuple(Spot(p, round(instrument.read(p), 1)) for p in places)
