"""Dimension strings and grid heads, placed by paper distance so that they read alike at any
scale."""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Literal

import msgspec

from balken.drawing.marks import Disc, Label, Mark, Stroke
from balken.geometry.plane import Point, add, box, distance, dot, left, rotate, sub, unit
from balken.model.grids import Grid, GridLine, grid_ends, line_points, row_of
from balken.model.names import ThingName
from balken.units import System, format_length

TICK = 1.1
"""Half the length of a tick, mm of paper."""
TEXT = 2.5
LETTER = 0.56
"""Width of a letter over its height, about."""
ROWS = (1, 2, -1, 3)
"""Words without room stand in these rows over the string, one under it among them."""
LEAST = 9.0
"""Room a dimension needs for its words on the line, mm of paper."""
HEAD = 2.6


class Frame(msgspec.Struct, frozen=True):
    """A rectangle in the plan that lies the way the building does: lower left, lower right, upper
    right, upper left."""

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
        """A place measured along the frame."""
        return rotate(p, -self.turn)

    def plan(self, p: Point) -> Point:
        """A place measured along the frame in the plan."""
        return rotate(p, self.turn)


def frame_round(points: Sequence[Point], turn: float) -> Frame:
    """The frame round places, turned."""
    x0, y0, x1, y1 = box([rotate(p, -turn) for p in points])
    corners = [rotate(p, turn) for p in ((x0, y0), (x1, y0), (x1, y1), (x0, y1))]
    return Frame((corners[0], corners[1], corners[2], corners[3]), turn)


def grown(frame: Frame, by: float) -> Frame:
    """A frame so much larger on every side, mm."""
    if not by:
        return frame
    a, b, c, d = frame.corners
    right, up = frame.right, frame.up
    moves = ((-by, -by), (by, -by), (by, by), (-by, by))
    corners = [add(add(p, right, x), up, y) for p, (x, y) in zip((a, b, c, d), moves)]
    return Frame((corners[0], corners[1], corners[2], corners[3]), frame.turn)


def chain(
    points: list[Point],
    out: Point,
    away: float,
    paper: float,
    system: System,
    words: str = "",
    texts: Sequence[str] = (),
) -> list[Mark]:
    """A dimension string through points, ``away`` mm of building outside them along ``out``.

    Args:
        points: that are measured.
        out: the way to the string, a unit.
        away: mm of building.
        paper: mm of building to a mm of paper.
        system: of the words.
        words: behind each measure.
        texts: in place of the measures, from the right of who looks along ``out`` on.
    """
    along = left(out)
    base = max(dot(p, out) for p in points) + away
    on = [add(p, out, base - dot(p, out)) for p in points]
    on.sort(key=lambda p: dot(p, along))
    sources = sorted(points, key=lambda p: dot(p, along))
    marks: list[Mark] = [Stroke((on[0], on[-1]), "hair", of_string=True)]
    slant = unit((along[0] + out[0], along[1] + out[1]))
    for source, p in zip(sources, on):
        tick = (add(p, slant, -TICK * paper), add(p, slant, TICK * paper))
        marks.append(Stroke(tick, "seen", of_string=True))
        witness = (add(source, out, 1.5 * paper), add(p, out, 1.2 * paper))
        marks.append(Stroke(witness, "hair", of_string=True))
    # Words read from below or from the right.
    angle = (math.degrees(math.atan2(along[1], along[0])) + 89.9) % 180 - 89.9
    lift = left((math.cos(math.radians(angle)), math.sin(math.radians(angle))))
    taken = dict.fromkeys((0, *ROWS), -math.inf)
    for n, (a, b) in enumerate(pairwise(on)):
        text = format_length(distance(a, b), system) + (f" {words}" if words else "")
        text = texts[n] if texts else text
        room = distance(a, b) / paper
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        # Words without room stand over the others, those beside them over them.
        wide = len(text) * TEXT * LETTER
        at = dot(middle, along) / paper
        free = [r for r in ROWS if taken[r] <= at - wide / 2]
        row = 0 if room >= max(LEAST, wide) else next(iter(free), ROWS[-1])
        taken[row] = at + wide / 2 + 1.0
        level = 1.0 + row * TEXT * 1.2 if row >= 0 else row * TEXT * 1.3
        marks.append(
            Label(
                text,
                add(middle, lift, level * paper),
                TEXT,
                angle=angle,
                measures=(sources[n], sources[n + 1], a),
            )
        )
    return marks


CLEAR = 13.5
"""Heads stand at least this far outside the building, clear of the dimension strings, mm of
paper."""
BEYOND = 4.0
"""A line runs this far past the building where it has no head, mm of paper."""


def widened(frame: Frame, below: float, beside: float) -> Frame:
    """A frame that reaches further down and to the left, mm."""
    a, b, c, d = frame.corners
    down, back = (-frame.up[0], -frame.up[1]), (-frame.right[0], -frame.right[1])
    return Frame(
        (add(add(a, down, below), back, beside), add(b, down, below), c, add(d, back, beside)),
        frame.turn,
    )


def grid_marks(grid: Grid, frame: Frame, paper: float, building: Frame | None = None) -> list[Mark]:
    """A grid's lines as centre lines with their heads; ``building`` is the frame without strings.

    A line ends where its extents say. Where that lies outside the building it is drawn on until its
    head stands clear of the dimension strings; an elbow moves the head aside.
    """
    marks: list[Mark] = []
    for line in grid.lines:
        key = ThingName("grid", grid.id, line.id)
        points = list(line_points(grid, line))
        if line.runs == "ring":
            marks.append(Stroke(tuple(points), "centre", key))
            ends = [
                (points[0], unit(sub(points[0], points[1]))),
                (points[-1], unit(sub(points[-1], points[-2]))),
            ]
        else:
            a, b = points
            way = unit(sub(b, a))
            if line.runs != "ray" and dot(way, frame.right) - dot(way, frame.up) < 0:
                a, b, way = (
                    b,
                    a,
                    (-way[0], -way[1]),
                )  # the start is the end at the left or at the top
            back = (-way[0], -way[1])
            first = (CLEAR if line.heads in ("start", "both") else BEYOND) * paper
            last = (CLEAR if line.heads in ("end", "both") else BEYOND) * paper
            a = clear_of(a, back, frame, first, building)
            b = clear_of(b, way, frame, last, building)
            marks.append(Stroke((a, b), "centre", key))
            ends = [(a, back), (b, way)]
        for name, (end, out) in zip(("start", "end"), ends):
            if line.heads in (name, "both"):
                marks += _head(line, end, out, paper, key)
    return marks


def clear_of(
    end: Point, out: Point, frame: Frame, far: float, building: Frame | None = None
) -> Point:
    """The end of a line drawn on, past a frame by at least ``far`` where it leaves the building at all.

    Args:
        end: of the line.
        out: the way it runs there.
        frame: round the building and its strings.
        far: mm of building.
        building: the frame without strings, where that is another.
    """
    inside = max(dot(sub(c, end), out) for c in (building or frame).corners)
    reach = max(dot(sub(c, end), out) for c in frame.corners)
    return add(end, out, max(0.0, reach + far)) if inside < EDGE else end


EDGE = 1.0
"""A line that ends inside the building by more than this was cut short on purpose, mm."""


def _head(line: GridLine, end: Point, out: Point, paper: float, key: ThingName) -> list[Mark]:
    marks: list[Mark] = []
    if line.elbow:
        side = left(out)
        knee = add(end, out, 2.0 * paper)
        bent = add(add(knee, side, line.elbow * paper), out, abs(line.elbow) * 0.5 * paper)
        marks.append(Stroke((end, knee, bent), "centre", key))
        end = bent
    centre = add(end, out, HEAD * paper)
    size = 2.6 if len(line.label) < 4 else 2.6 * 3.2 / len(line.label)
    marks += [
        Disc(centre, HEAD, "seen", key),
        Label(line.label, add(centre, (0, -1), 0.35 * size * paper), size, bold=True, key=key),
    ]
    return marks


def grid_strings(grid: Grid, frame: Frame, paper: float, system: System) -> list[Mark]:
    """The dimension string and the overall string of a grid at the distances it asks for."""
    found: list[Mark] = []
    if abs(math.sin(math.radians(grid.angle) - frame.turn)) < 1e-3:
        for runs, out in (("y", frame.up), ("x", (-frame.right[0], -frame.right[1]))):
            places = row_places(grid, runs, frame)  # type: ignore[arg-type]
            if len(places) < 2:
                continue
            if grid.string:
                found += chain(places, out, grid.string * paper, paper, system)
            if grid.overall:
                ends = [pick(places, key=lambda p: dot(p, left(out))) for pick in (min, max)]
                found += chain(ends, out, grid.overall * paper, paper, system, words="overall")
    return found + _ring_string(grid, paper, system)


def row_places(grid: Grid, runs: Literal["x", "y"], frame: Frame) -> list[Point]:
    """Where a row of lines meets the side of the frame at which its string stands."""
    _, _, c, d = frame.corners
    side = frame.local(c if runs == "y" else d)
    ends = [frame.local(grid_ends(grid, line)[0]) for line in row_of(grid, runs)]
    return [frame.plan((p[0], side[1]) if runs == "y" else (side[0], p[1])) for p in ends]


def _ring_string(grid: Grid, paper: float, system: System) -> list[Mark]:
    """The string of rings, from the hub along the first ray."""
    rings, rays = row_of(grid, "ring"), row_of(grid, "ray")
    if not (grid.string and rings and rays):
        return []
    hub, far = grid_ends(grid, rays[0])
    way = unit(sub(far, hub))
    places = [grid.origin, *(add(grid.origin, way, r.offset) for r in rings)]
    return chain(places, (way[1], -way[0]), grid.string * paper, paper, system)
