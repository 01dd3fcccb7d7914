"""The one language of all drawings: strokes, patches and labels with pens and fills that mean
something.

Coordinates are mm of the building; text sizes and pen widths are mm of paper.
"""

from collections.abc import Iterable
from typing import Final, Literal

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import EXACT, Point
from balken.model.names import Name

Pen = Literal["cut", "seen", "beyond", "hidden", "centre", "hair", "mark", "none"]
Fill = Literal[
    "none",
    "concrete",
    "timber",
    "steel",
    "end grain",
    "panel",
    "wall",
    "earth",
    "insulation",
    "mark",
    "paper",
    "ink",
    "shade",
    "misfit",
    "block",
    "board",
]
Anchor = Literal["middle", "start", "end"]

PEN_WIDTH: Final[dict[str, float]] = {
    "cut": 0.50,
    "seen": 0.25,
    "beyond": 0.13,
    "hidden": 0.18,
    "centre": 0.13,
    "hair": 0.10,
    "mark": 0.50,
    "none": 0.0,
}
"""Line weights by drafting convention: cut heavy, seen medium, beyond light (ISO 128, the idea;
widths ours)."""
DASHES: Final[dict[str, tuple[float, ...]]] = {"hidden": (1.6, 1.0), "centre": (5.0, 1.2, 0.8, 1.2)}


class Stroke(msgspec.Struct, frozen=True):
    """A line through points."""

    points: tuple[Point, ...]
    pen: Pen
    key: Name | None = None
    of_string: bool = False
    """It is part of a dimension string, of which the words tell what they measure."""


class Patch(msgspec.Struct, frozen=True):
    """A filled outline."""

    ring: tuple[Point, ...]
    fill: Fill
    pen: Pen
    key: Name | None = None


class Disc(msgspec.Struct, frozen=True):
    """A circle of a paper size, such as the head of a grid line."""

    centre: Point
    radius: float
    """mm of paper."""
    pen: Pen
    key: Name | None = None


class Label(msgspec.Struct, frozen=True):
    """Words at a place; ``angle`` in degrees turns them to the left."""

    text: str
    at: Point
    size: float = 2.5
    anchor: Anchor = "middle"
    angle: float = 0.0
    bold: bool = False
    quiet: bool = False
    boxed: bool = False
    """On a patch of paper, so that lines do not run through it."""
    key: Name | None = None
    measures: tuple[Point, Point, Point] | None = None
    """Of a dimension: from where to where, and a place on its line."""


Mark = Stroke | Patch | Disc | Label
Drawing = tuple[Mark, ...]


def extent(drawing: Iterable[Mark]) -> tuple[float, float, float, float] | None:
    """The box round a drawing's places: x0, y0, x1, y1; None where it is empty."""
    points: list[Point] = []
    for mark in drawing:
        if isinstance(mark, Stroke):
            points += mark.points
        elif isinstance(mark, Patch):
            points += mark.ring
        elif isinstance(mark, Disc):
            points.append(mark.centre)
        else:
            points.append(mark.at)
    if not points:
        return None
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)


def rectangle(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    """A rectangle's corners."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


def readable(way: Point) -> Point:
    """A direction turned so that words along it are read from below or from the right."""
    backward = way[0] < -EXACT or (abs(way[0]) < EXACT and way[1] < 0)
    return (-way[0], -way[1]) if backward else way


def shifted(mark: Mark, by: Point) -> Mark:
    """A mark moved on its paper."""

    def to(p: Point) -> Point:
        return p[0] + by[0], p[1] + by[1]

    if isinstance(mark, Stroke):
        return replace(mark, points=tuple(map(to, mark.points)))
    if isinstance(mark, Patch):
        return replace(mark, ring=tuple(map(to, mark.ring)))
    if isinstance(mark, Disc):
        return replace(mark, centre=to(mark.centre))
    measures = mark.measures and (*map(to, mark.measures),)
    return replace(mark, at=to(mark.at), measures=measures)


def enlarged(drawing: Drawing, by: float) -> Drawing:
    """A drawing whose words and heads are larger; what it shows stays."""
    found: list[Mark] = []
    for mark in drawing:
        if isinstance(mark, Label):
            found.append(replace(mark, size=mark.size * by))
        elif isinstance(mark, Disc):
            found.append(replace(mark, radius=mark.radius * by))
        else:
            found.append(mark)
    return tuple(found)
