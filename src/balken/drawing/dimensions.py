"""Dimension strings and grid heads, placed by paper distance so that they read alike at any scale."""

import math
from collections.abc import Sequence
from itertools import pairwise

import msgspec

from balken.drawing.marks import Disc, Label, Mark, Stroke
from balken.geometry.plane import Point, add, box, distance, dot, left, rotate, sub, unit
from balken.model.grids import Grid, grid_ends
from balken.units import System, format_length

TICK = 1.1
"""Half the length of a tick, mm of paper."""
TEXT = 2.4
LEAST = 9.0
"""Room a dimension needs for its words on the line, mm of paper."""
HEAD = 2.6


class Frame(msgspec.Struct, frozen=True):
    """A rectangle in the plan that lies the way the building does: lower left, lower right, upper right, upper left."""

    corners: tuple[Point, Point, Point, Point]
    turn: float
    """Radians to the left."""

    @property
    def right(self) -> Point:
        """The direction of the lower side."""
        return (math.cos(self.turn), math.sin(self.turn))

    @property
    def up(self) -> Point:
        """The direction square to it."""
        return left(self.right)

    def local(self, p: Point) -> Point:
        """Return a place measured along the frame."""
        return rotate(p, -self.turn)

    def plan(self, p: Point) -> Point:
        """Return a place measured along the frame in the plan."""
        return rotate(p, self.turn)


def frame_round(points: Sequence[Point], turn: float) -> Frame:
    """Return the frame round places, turned."""
    x0, y0, x1, y1 = box([rotate(p, -turn) for p in points])
    corners = [rotate(p, turn) for p in ((x0, y0), (x1, y0), (x1, y1), (x0, y1))]
    return Frame((corners[0], corners[1], corners[2], corners[3]), turn)


def chain(points: list[Point], out: Point, away: float, paper: float, system: System, words: str = "") -> list[Mark]:
    """Return a dimension string through points, ``away`` mm of building outside them along ``out``."""
    along = left(out)
    base = max(dot(p, out) for p in points) + away
    on = [add(p, out, base - dot(p, out)) for p in points]
    on.sort(key=lambda p: dot(p, along))
    marks: list[Mark] = [Stroke((on[0], on[-1]), "hair")]
    slant = unit((along[0] + out[0], along[1] + out[1]))
    for source, p in zip(sorted(points, key=lambda p: dot(p, along)), on):
        marks.append(Stroke((add(p, slant, -TICK * paper), add(p, slant, TICK * paper)), "seen"))
        marks.append(Stroke((add(source, out, 1.5 * paper), add(p, out, 1.2 * paper)), "hair"))
    # Words read from below or from the right.
    angle = (math.degrees(math.atan2(along[1], along[0])) + 89.9) % 180 - 89.9
    lift = left((math.cos(math.radians(angle)), math.sin(math.radians(angle))))
    for a, b in pairwise(on):
        text = format_length(distance(a, b), system) + (f" {words}" if words else "")
        room = distance(a, b) / paper
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        level = 1.0 if room >= LEAST else 1.0 + TEXT * 1.2
        marks.append(Label(text, add(middle, lift, level * paper), TEXT, angle=angle))
    return marks


def grid_heads(grid: Grid, frame: Frame, paper: float) -> list[Mark]:
    """Return grid lines as centre lines, with a head at their start that stands clear of the dimensions."""
    corners = frame.corners
    marks: list[Mark] = []
    for line in grid.lines:
        a, b = grid_ends(grid, line)
        way = unit(sub(b, a))
        # Heads stand at the left and at the top.
        if dot(way, frame.right) - dot(way, frame.up) < 0:
            a, b, way = b, a, (-way[0], -way[1])
        reach = [dot(sub(c, a), way) for c in corners]
        start = add(a, way, min(reach) - 13.5 * paper)
        end = add(a, way, max(reach) + 4 * paper)
        centre = add(start, way, -HEAD * paper)
        marks += [
            Stroke((start, end), "centre", f"grid:{grid.id}/{line.id}"),
            Disc(centre, HEAD, "seen"),
            Label(line.label, add(centre, (0, -1), 0.9 * paper), 2.6, bold=True),
        ]
    return marks
