"""How deep the footings of a foundation run lie: level, in steps, or sloped, always under the
frost.

Only outside footings follow the ground; inside ones lie in soil that does not freeze and stay on
their level.
"""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

import msgspec
import numpy as np

from balken.framing.ground.lines import chains
from balken.framing.ground.steps import Course, modules_deep, solve_course
from balken.geometry.plane import TOUCH, Ring, add, distance, left, sub, unit
from balken.model.foundations import STEEPEST, HeldStep, StepRule
from balken.model.walls import Wall, reach
from balken.recall import remembered, remembered_piece
from balken.site.ground import Surface, ground_along


class Plateau(msgspec.Struct, frozen=True, cache_hash=True):
    """A stretch of a footing along its wall's line, from ``start`` to ``end`` in mm; ``drop`` under
    the nominal bottom.

    A sloped stretch has another drop at its end.
    """

    start: float
    end: float
    drop: float
    drop_end: float

    @property
    def sloped(self) -> bool:
        """Whether its bottom is no level."""
        return abs(self.drop_end - self.drop) > 1e-6


class Ways(msgspec.Struct, frozen=True):
    """The course of all outside footings of a run: plateaus per line, and the lines whose ground is
    too steep for the rule."""

    plateaus: tuple[tuple[str, tuple[Plateau, ...]], ...]
    strained: tuple[str, ...] = ()


class Asked(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What the course of a run depends on: outside lines, which side of each is outside, heights
    and rules, mm."""

    lines: tuple[Wall, ...]
    outside: tuple[tuple[str, int], ...]
    width: float
    bottom: float
    frost: float
    follow: str
    rule: StepRule
    held: tuple[HeldStep, ...]
    level: float
    """Height of the ground where nothing was measured."""
    inside: tuple[str, ...] = ()
    """Lines among them that lie inside, where no frost reaches; they follow only what lies deeper
    beside them."""
    deeper: tuple[tuple[Ring, float], ...] = ()
    """Footings of others nearby that lie deeper: outline and bottom."""


@remembered
def course_of(asked: Asked, surface: Surface | None) -> Ways:
    """How deep the outside footings lie."""
    sides = dict(asked.outside)
    found: dict[str, tuple[Plateau, ...]] = {}
    strained: list[str] = []
    for chain, closed in chains(asked.lines):
        grounds = [
            ground_beside(surface, asked.level, w, sides.get(w.id, 0), asked.width)
            for w, _ in chain
        ]
        if asked.follow == "slope":
            found.update(_sloped(asked, chain, closed, grounds))
            continue
        plateaus, tight = _stepped(asked, tuple(chain), closed, tuple(grounds))
        found.update(plateaus)
        strained += [w.id for w, _ in chain] if tight else []
    return Ways(tuple(found.items()), tuple(strained))


SAME: Final = 1e-6
"""A whole module is one that misses it by no larger share."""
INFLUENCE: Final = 1.0
"""Rise over run of the line under which a footing stands clear of a deeper one beside it; common
practice, no source."""
MOST_CELLS: Final = 2000
"""A line is cut into no more cells than this; longer ones step on several modules along it."""
Ground = tuple[tuple[float, ...], tuple[float, ...]]
"""Stations along a line and the least height of the ground at them, mm."""


@remembered
def ground_beside(
    surface: Surface | None, level: float, line: Wall, side: int, width: float
) -> Ground:
    """The ground that covers a footing: the lower of what lies at its outer edge and at the
    face of its wall.

    Stations run from half a width before the line's start to half a width past its end. A line with
    no outside (an open path) is looked at on both sides.
    """
    way = unit(sub(line.end, line.start))
    half = width / 2
    length = distance(line.start, line.end)
    if surface is None:
        return (-half, length + half), (level, level)
    far, near = reach(line)
    middle = (far + near) / 2
    shifts = {1: (far, middle + half), -1: (near, middle - half)}.get(
        side, (middle - half, middle + half)
    )
    runs = []
    for shift in shifts:
        a = add(add(line.start, way, -half), left(way), shift)
        b = add(add(line.end, way, half), left(way), shift)
        runs.append(ground_along(surface, a, b))
    stations = np.unique(np.concatenate([r[0] for r in runs]))
    least = np.minimum(*(np.interp(stations, *r) for r in runs))
    return tuple((stations - half).tolist()), tuple(least.tolist())


def least_in_cells(ground: Ground, cuts: list[float], beyond: float) -> list[float]:
    """The lowest ground over each cell of a line, the first and the last reaching ``beyond``
    its ends, mm."""
    stations, heights = np.array(ground[0]), np.array(ground[1])
    edges = np.array(cuts)
    edges[0], edges[-1] = edges[0] - beyond, edges[-1] + beyond
    at_edges = np.interp(edges, stations, heights)
    order = np.searchsorted(edges, stations, side="left")
    least = np.minimum(at_edges[:-1], at_edges[1:])
    inside = (order > 0) & (order < len(edges))
    np.minimum.at(least, order[inside] - 1, heights[inside])
    found: list[float] = least.tolist()
    return found


def _cuts(length: float, module: float, keep: float, held: list[float]) -> list[float]:
    """Where the cells of a line end: on the module from its start, as far from its ends as a
    step keeps, and where steps are held."""
    cell = module * max(1, math.ceil(length / module / MOST_CELLS))
    count = max(1, int(length / cell + 1e-6))
    regular = [i * cell for i in range(1, count) if keep <= i * cell <= length - keep]
    kept = [x for x in regular if all(abs(x - h) > module / 4 for h in held)]
    return [0.0, *sorted([*kept, *(h for h in held if 1.0 < h < length - 1.0)]), length]


class Cell(NamedTuple):
    """A stretch of a line as long as a module or more, in the order the chain is walked."""

    needed: int
    """How deep it has to lie, modules."""
    size: float
    """Its length to the nearest centimetre, mm: what a course costs goes by it."""
    modules: int
    """Its length in modules."""
    may_step: bool
    """A step may stand where it begins."""
    held: int
    """By how many modules a step that is held goes down where it begins; 0 where none is."""


@remembered
def _stepped(
    asked: Asked,
    chain: tuple[tuple[Wall, bool], ...],
    closed: bool,
    grounds: tuple[Ground, ...],
) -> tuple[dict[str, tuple[Plateau, ...]], bool]:
    rule = asked.rule
    most = max(1, int(rule.rise / rule.module + SAME))
    lap = max(rule.lap, most * rule.module)
    keep = lap + asked.width / 2
    cells: list[Cell] = []
    spans: list[tuple[Wall, bool, list[float]]] = []
    for (line, forward), ground in zip(chain, grounds):
        held = [h.at for h in asked.held if h.wall == line.id]
        cuts = _cuts(distance(line.start, line.end), rule.module, keep, held)
        spans.append((line, forward, cuts))
        cells += _cells(asked, line, ground, cuts, keep, forward=forward)
    held_at = tuple((i, cell.held) for i, cell in enumerate(cells) if cell.held)
    needed, sizes, modules, may_step, _ = zip(*cells)
    apart = math.ceil(lap / rule.module - 1e-9) + bool(held_at)
    course = _solved(needed, sizes, may_step, held_at, most, apart, closed, modules)
    return _along_lines(spans, course.depths, rule.module), course.strained


def _along_lines(
    spans: list[tuple[Wall, bool, list[float]]], depths: Sequence[int], module: float
) -> dict[str, tuple[Plateau, ...]]:
    """The depths of the cells of a chain as plateaus of its lines, each its own way."""
    found: dict[str, tuple[Plateau, ...]] = {}
    at = 0
    for line, forward, cuts in spans:
        mine = list(depths[at : at + len(cuts) - 1])
        at += len(cuts) - 1
        found[line.id] = _plateaus(cuts, mine if forward else mine[::-1], module)
    return found


def _cells(
    asked: Asked, line: Wall, ground: Ground, cuts: list[float], keep: float, *, forward: bool
) -> list[Cell]:
    """The cells of a line, walked its own way or the other."""
    module, length = asked.rule.module, distance(line.start, line.end)
    held = {h.at: h.drop for h in asked.held if h.wall == line.id}
    lows, deeper = least_in_cells(ground, cuts, asked.width), _beside_deeper(asked, line, cuts)
    found = []
    for a, b, low, deep in zip(cuts[:-1], cuts[1:], lows, deeper):
        begins = a if forward else b
        drop = held.get(begins, 0.0) if 0 < begins < length else 0.0
        frost = 0.0 if line.id in asked.inside else asked.bottom - (low - asked.frost)
        # Beside a deeper footing the next whole module above it is near enough, or this one would
        # be the deeper.
        beside = int(deep / module + SAME)
        found.append(
            Cell(
                max(modules_deep(frost, module), beside),
                round(b - a, -1),
                max(1, int((b - a) / module + SAME)),
                keep <= begins <= length - keep,
                round(drop / module) * (1 if forward else -1),
            )
        )
    return found if forward else found[::-1]


@remembered_piece
def _solved(
    needed: tuple[int, ...],
    sizes: tuple[float, ...],
    may: tuple[bool, ...],
    held: tuple[tuple[int, int], ...],
    most: int,
    apart: int,
    closed: bool,
    counts: tuple[int, ...],
) -> Course:
    """The course; cells are weighed to 10 mm, so that a wall that moves by a hair leaves it
    as it was."""
    return solve_course(
        needed, sizes, may, dict(held), most=most, apart=apart, closed=closed, counts=counts
    )


def _beside_deeper(asked: Asked, line: Wall, cuts: list[float]) -> list[float]:
    """How deep each cell of a line must lie to stay under the influence lines of deeper
    footings beside it, mm."""
    import shapely

    found = np.zeros(len(cuts) - 1)
    if not asked.deeper:
        return [0.0] * len(found)
    way = np.array(unit(sub(line.end, line.start)))
    edges = np.array(cuts)
    stations = np.stack([edges[:-1], (edges[:-1] + edges[1:]) / 2, edges[1:]])
    places = shapely.points(np.array(line.start) + stations[..., None] * way)
    for ring, bottom in asked.deeper:
        away = np.maximum(
            0.0,
            shapely.distance(places, shapely.polygons(ring)).min(axis=0) - asked.width / 2 - TOUCH,
        )
        found = np.maximum(found, asked.bottom - bottom - INFLUENCE * away)
    deep: list[float] = found.tolist()
    return deep


def _plateaus(cuts: list[float], depths: list[int], module: float) -> tuple[Plateau, ...]:
    found: list[Plateau] = []
    start = cuts[0]
    for i, depth in enumerate(depths):
        if i + 1 == len(depths) or depths[i + 1] != depth:
            found.append(Plateau(start, cuts[i + 1], depth * module, depth * module))
            start = cuts[i + 1]
    return tuple(found)


def _sloped(
    asked: Asked, chain: list[tuple[Wall, bool]], closed: bool, grounds: list[Ground]
) -> dict[str, tuple[Plateau, ...]]:
    """One sloped stretch per line, no steeper than 1 in 10, under the frost all along, with
    the least digging.

    Depths at the corners are found by linear programming; where the ground falls faster, the
    footing lies deeper before it.
    """
    from scipy.optimize import linprog

    nodes = len(chain) + (0 if closed else 1)
    rows: list[list[float]] = []
    limits: list[float] = []

    weights = [0.0] * nodes
    for i, ((line, forward), ground) in enumerate(zip(chain, grounds)):
        length = distance(line.start, line.end)
        a, b = i, (i + 1) % nodes
        weights[a] += length
        weights[b] += length
        for sign in (1.0, -1.0):
            slope = [0.0] * nodes
            slope[a], slope[b] = slope[a] + sign, slope[b] - sign
            rows.append(slope)
            limits.append(STEEPEST * length)
        for s, h in zip(*ground):
            share = min(1.0, max(0.0, s / length))
            share = share if forward else 1 - share
            deep = [0.0] * nodes
            deep[a] -= 1 - share
            deep[b] -= share
            rows.append(deep)
            limits.append(-(asked.bottom - (h - asked.frost)))
    answer = linprog(weights, A_ub=rows, b_ub=limits, bounds=[(0, None)] * nodes, method="highs")
    depths = [float(x) for x in answer.x]
    found: dict[str, tuple[Plateau, ...]] = {}
    for i, (line, forward) in enumerate(chain):
        first, last = depths[i], depths[(i + 1) % nodes]
        if not forward:
            first, last = last, first
        found[line.id] = (
            Plateau(0.0, distance(line.start, line.end), round(first, 6), round(last, 6)),
        )
    return found
