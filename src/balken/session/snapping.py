"""Snapping: the place a pointer means. Ends, corners, middles and crossings are caught first, then
feet of perpendiculars, then lines; a locked direction or a nearly straight one is kept.
"""

import math
from collections.abc import Callable, Iterator
from itertools import pairwise
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import (
    EXACT,
    Point,
    add,
    cross,
    distance,
    dot,
    edges,
    meet,
    rotate,
    sub,
    unit,
)
from balken.model.grids import Grid, grid_crossings, line_points
from balken.model.project import Project, TracedLayer
from balken.model.supports import spots_of
from balken.model.walls import Wall, arc_middle, direction_of, straightened
from balken.site.bodies import bodies

STRAIGHT: Final = math.radians(3.0)
"""A line this near to an axis of the building is meant to run along it."""
NEARBY: Final = 8
"""So many lines under the pointer are crossed with each other."""
_RANKS: Final = {
    "crossing": 0,
    "end": 1,
    "corner": 2,
    "jamb": 3,
    "middle": 4,
    "post": 2,
    "traced": 3,
}


class Snap(msgspec.Struct, frozen=True):
    """A place, and in a word why it was caught; the word is empty where nothing was."""

    point: Point
    word: str = ""


class SnapField(msgspec.Struct, frozen=True):
    """Everything a pointer can catch on one plan: places, and pieces of line, (n, 2) and (m, 4)
    arrays in mm."""

    points: NDArray[np.float64]
    words: tuple[str, ...]
    lines: NDArray[np.float64]
    line_words: tuple[str, ...]
    turn: float = 0.0
    """How the building lies, radians to the left."""


Catch = tuple[Point, str]
"""A place that can be caught, and what it is."""


Line = tuple[Point, Point, str]
"""A line that can be caught, and what it is."""


def snap_field(project: Project, base: str, turn: float = 0.0) -> SnapField:
    """What can be caught on the plan of a level."""
    caught = [
        _of_walls(tuple(w for w in project.walls if w.base == base)),
        *map(_of_grid, project.grids),
        ([(spot, "post") for _, spot, _ in spots_of(project)], []),
        *(_of_layer(layer) for layer in _traced(project, base)),
    ]
    points = [p for places, _ in caught for p in places]
    lines = [x for _, ways in caught for x in ways if distance(x[0], x[1]) > EXACT]
    return SnapField(
        np.array([p for p, _ in points], dtype=float).reshape(-1, 2),
        tuple(w for _, w in points),
        np.array([(*a, *b) for a, b, _ in lines], dtype=float).reshape(-1, 4),
        tuple(w for _, _, w in lines),
        turn,
    )


def _of_walls(walls: tuple[Wall, ...]) -> tuple[list[Catch], list[Line]]:
    """Ends and openings of walls, the corners and faces of their bodies, and their lines."""
    points = [place for wall in walls for place in _places_of(wall)]
    lines: list[Line] = []
    straight = straightened(walls)
    for body in bodies(straight).values():
        points += [(p, "corner") for p in body.corners]
        lines += [(a, b, "face") for a, b in edges(body.corners)]
    return points, lines + [(w.start, w.end, "wall line") for w in straight]


def _of_grid(g: Grid) -> tuple[list[Catch], list[Line]]:
    drawn = [(line, pairwise(line_points(g, line))) for line in g.lines]
    return (
        [(p, "crossing") for _, _, p in grid_crossings(g)],
        [(a, b, f"line {line.label}") for line, ways in drawn for a, b in ways],
    )


def _traced(project: Project, base: str) -> Iterator[TracedLayer]:
    """The shown layers of drawings that lie under a level."""
    for drawing in project.backgrounds:
        if drawing.level in ("", base):
            yield from (layer for layer in drawing.layers if layer.shown)


def _of_layer(layer: TracedLayer) -> tuple[list[Catch], list[Line]]:
    return (
        [(p, "traced") for way in layer.lines for p in way],
        [(a, b, "traced line") for way in layer.lines for a, b in pairwise(way)],
    )


def _places_of(wall: Wall) -> list[tuple[Point, str]]:
    found = [(wall.start, "end"), (wall.end, "end"), (arc_middle(wall), "middle")]
    if not wall.bulge:
        way = direction_of(wall)
        found += [
            (add(wall.start, way, d), "jamb") for o in wall.openings for d in (o.at, o.at + o.width)
        ]
    return found


def snap(
    field: SnapField,
    p: Point,
    reach: float,
    anchor: Point | None = None,
    lock: Point | None = None,
    step: Callable[[float], float] | None = None,
) -> Snap:
    """The place a pointer means.

    Args:
        field: what can be caught.
        p: the pointer, mm.
        reach: how near counts, mm.
        anchor: where the line being drawn begins.
        lock: a unit direction it must keep.
        step: rounds the length of a line that ends at nothing.
    """
    if anchor is not None and lock is not None:
        return _locked(field, p, reach, anchor, lock, step)
    return (
        _point(field, p, reach)
        or _crossing(field, p, reach)
        or (_square_or_straight(field, p, reach, anchor, step) if anchor is not None else None)
        or _on_line(field, p, reach)
        or _free(p, anchor, step)
    )


def _square_or_straight(
    field: SnapField,
    p: Point,
    reach: float,
    anchor: Point,
    step: Callable[[float], float] | None,
) -> Snap | None:
    """The foot of a square from the line's beginning, or a place straight along the building."""
    foot = _foot(field, p, reach, anchor)
    if foot:
        return foot
    straight = _straight(field, p, anchor)
    if straight is None:
        return None
    hit = _locked(field, p, reach, anchor, straight, step)
    return Snap(hit.point, hit.word or "straight")


def _free(p: Point, anchor: Point | None, step: Callable[[float], float] | None) -> Snap:
    """A place where nothing is caught; the line's length in steps."""
    if anchor is None or step is None or distance(p, anchor) <= EXACT:
        return Snap(p)
    way = unit(sub(p, anchor))
    return Snap(add(anchor, way, step(distance(p, anchor))))


def _point(field: SnapField, p: Point, reach: float) -> Snap | None:
    if not len(field.points):
        return None
    away = np.hypot(field.points[:, 0] - p[0], field.points[:, 1] - p[1])
    near = np.flatnonzero(away <= reach)
    if not len(near):
        return None
    best = min(near.tolist(), key=lambda i: (_RANKS[field.words[i]], float(away[i])))
    x, y = field.points[best]
    return Snap((float(x), float(y)), field.words[best])


def _near_lines(field: SnapField, p: Point, reach: float) -> list[int]:
    if not len(field.lines):
        return []
    a, b = field.lines[:, :2], field.lines[:, 2:]
    along = b - a
    t = ((np.array(p) - a) * along).sum(axis=1) / (along**2).sum(axis=1)
    foot = a + np.clip(t, 0.0, 1.0)[:, None] * along
    away = np.hypot(foot[:, 0] - p[0], foot[:, 1] - p[1])
    near = np.flatnonzero(away <= reach)
    return [int(i) for i in near[np.argsort(away[near], kind="stable")][:NEARBY]]


def _ends(field: SnapField, i: int) -> tuple[Point, Point]:
    x0, y0, x1, y1 = (float(v) for v in field.lines[i])
    return (x0, y0), (x1, y1)


def _crossing(field: SnapField, p: Point, reach: float) -> Snap | None:
    near = _near_lines(field, p, reach)
    found: list[tuple[float, Point]] = []
    for n, i in enumerate(near):
        a, b = _ends(field, i)
        for k in near[n + 1 :]:
            c, d = _ends(field, k)
            e, f = unit(sub(b, a)), unit(sub(d, c))
            hit = meet(a, e, c, f) if abs(cross(e, f)) > 0.05 else None
            if hit and distance(hit, p) <= reach:
                found.append((distance(hit, p), hit))
    return Snap(min(found)[1], "crossing of lines") if found else None


def _foot(field: SnapField, p: Point, reach: float, anchor: Point) -> Snap | None:
    for i in _near_lines(field, p, reach):
        a, b = _ends(field, i)
        way = unit(sub(b, a))
        foot = add(a, way, dot(sub(anchor, a), way))
        if distance(foot, p) <= reach and distance(foot, anchor) > reach:
            return Snap(foot, f"square to {field.line_words[i]}")
    return None


def _on_line(field: SnapField, p: Point, reach: float) -> Snap | None:
    for i in _near_lines(field, p, reach):
        a, b = _ends(field, i)
        way = unit(sub(b, a))
        return Snap(
            add(a, way, min(distance(a, b), max(0.0, dot(sub(p, a), way)))), field.line_words[i]
        )
    return None


def _straight(field: SnapField, p: Point, anchor: Point) -> Point | None:
    """The axis direction that the line from the anchor nearly follows."""
    if distance(p, anchor) < EXACT:
        return None
    way = unit(sub(p, anchor))
    for axis in axes(field.turn):
        if dot(way, axis) > math.cos(STRAIGHT):
            return axis
    return None


def axes(turn: float) -> list[Point]:
    """The four directions of a building that lies turned: ahead, left, back, right."""
    return [rotate((1.0, 0.0), turn + k * math.pi / 2) for k in range(4)]


def _locked(
    field: SnapField,
    p: Point,
    reach: float,
    anchor: Point,
    lock: Point,
    step: Callable[[float], float] | None,
) -> Snap:
    """Keep a direction: a place that is caught counts by its foot on the line, a line by where it
    is crossed."""
    along = dot(sub(p, anchor), lock)
    caught = _point(field, p, reach)
    if caught:
        return Snap(
            add(anchor, lock, dot(sub(caught.point, anchor), lock)), f"level with {caught.word}"
        )
    on = add(anchor, lock, along)
    for i in _near_lines(field, on, reach):
        a, b = _ends(field, i)
        way = unit(sub(b, a))
        hit = meet(anchor, lock, a, way) if abs(cross(way, lock)) > 0.05 else None
        if hit and distance(hit, on) <= reach:
            return Snap(hit, field.line_words[i])
    if step is not None:
        along = math.copysign(step(abs(along)), along)
    return Snap(add(anchor, lock, along))


def whole_steps(size: float) -> Callable[[float], float]:
    """A rounding of lengths to whole steps."""
    return lambda length: round(length / size) * size
