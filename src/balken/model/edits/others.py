"""Edits of what comes from others: traced drawings, heights of the ground, slabs and roofs shown as
reference."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Any, Final, NamedTuple

from msgspec.structs import replace

from balken.geometry.plane import Point, add, cross, distance, dot, meet, sub, unit
from balken.model.edits.common import EditError, checked, fresh, fresh_many, with_
from balken.model.edits.walls import WallKind, make_wall
from balken.model.named import named
from balken.model.project import Background, Project, Spot
from balken.units import format_run

NEARLY: Final = 30.0
"""Centre lines that miss each other by no more than this and half of both walls meet, mm."""
MOST_LINES: Final = 20_000
"""More lines than this are not paired."""
THINNEST: Final = 40.0
THICKEST: Final = 600.0
"""Two parallel lines nearer or further apart than this are no wall, mm."""
SHORTEST: Final = 300.0
"""Two lines beside each other over less than this are no wall, mm."""
PARALLEL: Final = math.radians(0.5)
MOST: Final = 2000


def add_background(project: Project, drawing: Background) -> Project:
    """Lay a drawing under the plans; its key is chosen here."""
    key = fresh((b.id for b in project.backgrounds), "U")
    return checked(project, backgrounds=(*project.backgrounds, replace(drawing, id=key)))


def set_background(project: Project, key: str, **fields: Any) -> Project:
    """Change a background: its name or the level it lies under."""
    return checked(project, backgrounds=with_(project.backgrounds, key, **fields))


def show_layer(project: Project, key: str, layer: str, shown: bool) -> Project:
    """Show or hide one layer of a background."""
    return checked(
        project,
        backgrounds=tuple(
            replace(
                b, layers=tuple(replace(x, shown=shown) if x.name == layer else x for x in b.layers)
            )
            if b.id == key
            else b
            for b in project.backgrounds
        ),
    )


def move_background(project: Project, key: str, by: Point, scale: float = 1.0) -> Project:
    """Shift a background by a vector after making it larger or smaller about the origin."""
    if not 1e-4 <= scale <= 1e4:
        raise EditError("A drawing can be made ten thousand times larger or smaller, no more.")

    def there(p: Point) -> Point:
        return (round(p[0] * scale + by[0], 4) + 0.0, round(p[1] * scale + by[1], 4) + 0.0)

    return checked(
        project,
        backgrounds=tuple(
            replace(
                b,
                layers=tuple(
                    replace(x, lines=tuple(tuple(there(p) for p in w) for w in x.lines))
                    for x in b.layers
                ),
            )
            if b.id == key
            else b
            for b in project.backgrounds
        ),
    )


def remove_background(project: Project, key: str) -> Project:
    """Take a background away."""
    return checked(project, backgrounds=tuple(b for b in project.backgrounds if b.id != key))


def set_spots(project: Project, spots: Sequence[Spot]) -> Project:
    """Take heights of the ground instead of those there are; none of them leaves the ground level
    alone."""
    return checked(project, spots=tuple(spots))


def add_spot(project: Project, at: Point, height: float) -> Project:
    """Add one height of the ground."""
    return checked(project, spots=(*project.spots, Spot(at, height)))


Piece = tuple[Point, Point]


class _Beside(NamedTuple):
    """Two lines side by side: how far apart, and the stretch of the first that both cover, mm."""

    apart: float
    shorter: float
    """Minus the length of the stretch: of two as far apart the longer goes first."""
    one: int
    other: int
    low: float
    high: float


def pairs_of(pieces: Sequence[Piece]) -> list[tuple[Point, Point, float]]:
    """Centre lines and thicknesses of walls drawn as pairs of parallel lines, mm.

    Of all lines beside one, the nearest that covers the same length is its partner; each stretch of
    a line serves once.
    """
    straight = [(a, b) for a, b in pieces if distance(a, b) >= SHORTEST]
    straight.sort(key=lambda s: -distance(*s))
    taken: dict[int, list[tuple[float, float]]] = {}
    found = []
    for pair in sorted(_side_by_side(straight)):
        (a, b), (c, d) = straight[pair.one], straight[pair.other]
        way, along = unit(sub(b, a)), unit(sub(d, c))
        own = sorted(dot(sub(add(a, way, s), c), along) for s in (pair.low, pair.high))
        if _used(taken, pair.one, pair.low, pair.high) or _used(taken, pair.other, own[0], own[1]):
            continue
        taken.setdefault(pair.one, []).append((pair.low, pair.high))
        taken.setdefault(pair.other, []).append((own[0], own[1]))
        side = 1.0 if cross(way, sub(c, a)) > 0 else -1.0
        normal = (-way[1] * side, way[0] * side)
        start, end = (add(add(a, way, s), normal, pair.apart / 2) for s in (pair.low, pair.high))
        found.append((start, end, pair.apart))
    return found


def _side_by_side(straight: Sequence[Piece]) -> Iterator[_Beside]:
    """The pairs of lines that are parallel, as far apart as the faces of a wall."""
    for i, (a, b) in enumerate(straight):
        way = unit(sub(b, a))
        for k in range(i + 1, len(straight)):
            c, d = straight[k]
            if abs(cross(way, unit(sub(d, c)))) > math.sin(PARALLEL):
                continue
            apart = abs(cross(way, sub(c, a)))
            low, high = sorted((dot(sub(c, a), way), dot(sub(d, a), way)))
            low, high = max(0.0, low), min(distance(a, b), high)
            long = high - low
            if THINNEST <= apart <= THICKEST and long >= SHORTEST and long > apart:
                yield _Beside(apart, -long, i, k, low, high)


def _used(taken: dict[int, list[tuple[float, float]]], i: int, low: float, high: float) -> bool:
    return any(min(high, b) - max(low, a) > 0.2 * (high - low) for a, b in taken.get(i, ()))


def walls_from_pairs(project: Project, key: str, base: str, top: str) -> Project:
    """Make walls of the pairs of parallel lines in the shown layers of a background.

    Centre lines are carried on to each other's where two walls nearly meet, so that corners close.

    Raises:
        EditError: there is no pair, or there are too many lines to pair.
    """
    pairs = _shown_pairs(project, key)
    lines = _joined(pairs[:MOST])
    made = []
    keys = fresh_many((w.id for w in project.walls), "W", len(lines))
    for name, (start, end, thickness) in zip(keys, lines):
        kind = WallKind(base, top, thickness=round(thickness, 3), by="core centre")
        made.append(make_wall(project, kind, name, _tidy(start), _tidy(end)))
    return checked(project, walls=(*project.walls, *made))


def _shown_pairs(project: Project, key: str) -> list[tuple[Point, Point, float]]:
    """The pairs of parallel lines in the shown layers of a background."""
    drawing = named(project.backgrounds, key, "background")
    ways = [way for layer in drawing.layers if layer.shown for way in layer.lines]
    pieces = [(a, b) for way in ways for a, b in pairwise(way) if a != b]
    if len(pieces) > MOST_LINES:
        raise EditError(
            f"{len(pieces)} lines are too many to pair; show only the layers the walls are drawn"
            " on."
        )
    pairs = pairs_of(pieces)
    if not pairs:
        span = f"{format_run(THINNEST, project.system)} to {format_run(THICKEST, project.system)}"
        raise EditError(f"No two lines run side by side {span} apart in the layers that are shown.")
    return pairs


def _joined(pairs: list[tuple[Point, Point, float]]) -> list[tuple[Point, Point, float]]:
    """Carry the ends of centre lines on, or cut them back, to the centre line of the wall they
    nearly meet."""
    return [
        (_carried_on(start, end, t, pairs), _carried_on(end, start, t, pairs), t)
        for start, end, t in pairs
    ]


def _carried_on(
    here: Point, other: Point, thickness: float, pairs: list[tuple[Point, Point, float]]
) -> Point:
    """An end of a centre line, at the nearest centre line that it nearly meets."""
    way = unit(sub(here, other))
    best, nearest = here, math.inf
    for c, d, u in pairs:
        along = unit(sub(d, c))
        hit = meet(here, way, c, along) if abs(cross(way, along)) > 0.1 else None
        if hit is None:
            continue
        reach = (thickness + u) / 2 + NEARLY
        away, on = distance(hit, here), dot(sub(hit, c), along)
        if away < nearest and away <= reach and -reach <= on <= distance(c, d) + reach:
            best, nearest = hit, away
    return best


def _tidy(p: Point) -> Point:
    return (round(p[0], 4) + 0.0, round(p[1], 4) + 0.0)


def remove_references(project: Project) -> Project:
    """Take the architect's slabs and roofs out of sight for good."""
    return checked(project, references=())
