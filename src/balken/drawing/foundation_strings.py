"""Strings of the foundation plan: along every side of the concrete under walls with what meets it from
inside, and of pads from the grid lines next to them. Distances in mm of paper."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import radians, sin
from typing import Final

from balken.drawing.dimensions import Frame, chain, row_places
from balken.drawing.marks import Mark
from balken.drawing.outlines import outlines
from balken.drawing.tiers import Tier
from balken.drawing.wall_notes import NEAREST, NEXT, side_strings, sides_of
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, box, cross, distance, dot, left, sub, unit
from balken.works.building import Checked

STANDING: Final = (kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM)
"""What a foundation wall is of: its outer face is what is set out."""
MEETS: Final = 400.0
"""A wall that ends this near to a face meets it, mm of building."""
SAME: Final = 1.0
"""Places this near are one, mm of building."""
BESIDE: Final = 7.0
"""Strings of pads stand so far beside and under them."""


def foundation_sides(checked: Checked, tier: Tier) -> list[tuple[Point, Point]]:
    """The outer sides of the concrete under walls, each counter-clockwise round its outline."""
    rings = [m.solid.plan() for m in _standing(checked, tier)]
    return [side for ring in outer_rings(rings) for side in sides_of(ring)]


def outer_rings(rings: Sequence[Ring]) -> list[Ring]:
    """The outlines that lie in no other."""
    found = [_distinct(r) for r in outlines(rings)]
    boxes = [box(r) for r in found]

    def inside(i: int) -> bool:
        x0, y0, x1, y1 = boxes[i]
        return any(
            j != i and b[0] < x0 and b[1] < y0 and x1 < b[2] and y1 < b[3]
            for j, b in enumerate(boxes)
        )

    return [r for i, r in enumerate(found) if not inside(i)]


def _distinct(ring: Ring) -> Ring:
    """A closed line without places that are one."""
    return tuple(p for p, q in pairwise(ring) if distance(p, q) > SAME)


def foundation_strings(checked: Checked, tier: Tier, frame: Frame, paper: float) -> Iterator[Mark]:
    """Along each outer side the faces of walls that meet it, then its whole length; pads from grids."""
    system = checked.project.system
    standing = _standing(checked, tier)
    told: set[tuple[int, ...]] = set()
    for a, b in foundation_sides(checked, tier):
        places = _meeting(standing, a, b)
        ends = _ends_of(frame, a, b)
        if places or ends not in told:
            yield from side_strings((a, b), places, paper, system)
        told.add(ends)
    yield from _off_the_grid(checked, standing, frame, paper)
    yield from _pads(checked, tier, frame, paper)


def _ends_of(frame: Frame, a: Point, b: Point) -> tuple[int, ...]:
    """Between which places a side runs, and which way: what lies opposite and is as long runs between the
    same."""
    p, q = frame.local(a), frame.local(b)
    if abs(p[0] - q[0]) > abs(p[1] - q[1]):
        return (0, *sorted((round(p[0]), round(q[0]))))
    return (1, *sorted((round(p[1]), round(q[1]))))


def _off_the_grid(
    checked: Checked, standing: Sequence[Member], frame: Frame, paper: float
) -> Iterator[Mark]:
    """From the grid lines next to it to the lower left corner of concrete that stands on none."""
    columns, rows = _lines(checked, frame)
    down, system = (-left(frame.right)[0], -left(frame.right)[1]), checked.project.system
    back = (-frame.right[0], -frame.right[1])
    away = (NEAREST + NEXT) * paper
    for ring in outer_rings([m.solid.plan() for m in standing]):
        x, y, _, _ = box([frame.local(p) for p in ring])
        if _off(x, columns):
            points = [frame.plan((u, y)) for u in _with_nearest([x], columns)]
            yield from chain(points, down, away, paper, system)
        if _off(y, rows):
            points = [frame.plan((x, v)) for v in _with_nearest([y], rows)]
            yield from chain(points, back, away, paper, system)


def _standing(checked: Checked, tier: Tier) -> list[Member]:
    return [m for m in checked.structure.members if m.kind in STANDING and tier.holds(m.host)]


def _meeting(standing: Sequence[Member], a: Point, b: Point) -> list[float]:
    """The faces of walls that run across to a side and end on it, mm from where it begins."""
    way = unit(sub(b, a))
    long = dot(sub(b, a), way)
    found: list[float] = []
    for m in standing:
        start, end = m.start[:2], m.end[:2]
        if abs(dot(unit(sub(end, start)), way)) > 0.1:
            continue
        if min(abs(cross(way, sub(p, a))) for p in (start, end)) > MEETS:
            continue
        along = [dot(sub(p, a), way) for p in m.solid.plan()]
        if min(along) > SAME and max(along) < long - SAME:
            found += [min(along), max(along)]
    return found


def _pads(checked: Checked, tier: Tier, frame: Frame, paper: float) -> Iterator[Mark]:
    """Pads that stand off the grid, column by column and row by row, each once."""
    columns, rows = _lines(checked, frame)
    pads = [m for m in checked.structure.of(kinds.PAD) if tier.kind == "ground"]
    boxes = [box([frame.local(p) for p in m.solid.plan()]) for m in pads]
    middles = [((x0 + x1) / 2, (y0 + y1) / 2) for x0, y0, x1, y1 in boxes]
    half = max(((x1 - x0) / 2 for x0, _, x1, _ in boxes), default=0.0)
    system = checked.project.system
    for x, ys in _groups(middles):
        off = [y for y in ys if _off(y, rows)]
        if off:
            points = [frame.plan((x + half, y)) for y in _with_nearest(off, rows)]
            yield from chain(points, frame.right, BESIDE * paper, paper, system)
    told: set[int] = set()
    for y, xs in _groups([(y, x) for x, y in middles]):
        off = [x for x in xs if _off(x, columns) and round(x) not in told]
        if off:
            told |= {round(x) for x in off}
            points = [frame.plan((x, y - half)) for x in _with_nearest(off, columns)]
            down = (-left(frame.right)[0], -left(frame.right)[1])
            yield from chain(points, down, BESIDE * paper, paper, system)


def lines_of_grid(checked: Checked, frame: Frame) -> tuple[list[float], list[float]]:
    """Where grid lines lie along the frame and up it, mm."""
    columns: list[float] = []
    rows: list[float] = []
    for grid in checked.project.grids:
        if abs(sin(radians(grid.angle) - frame.turn)) < 1e-3:
            columns += [frame.local(p)[0] for p in row_places(grid, "y", frame)]
            rows += [frame.local(p)[1] for p in row_places(grid, "x", frame)]
    return columns, rows


def _lines(checked: Checked, frame: Frame) -> tuple[list[float], list[float]]:
    """The same; its lower left corner where there is no grid."""
    columns, rows = lines_of_grid(checked, frame)
    x, y = frame.local(frame.corners[0])
    return columns or [x], rows or [y]


def _groups(places: Sequence[Point]) -> list[tuple[float, list[float]]]:
    """Places by their first measure, those in one line together, from the lowest."""
    found: list[tuple[float, list[float]]] = []
    for x, y in sorted(places):
        if found and abs(found[-1][0] - x) < SAME:
            found[-1][1].append(y)
        else:
            found.append((x, [y]))
    return found


def _off(at: float, lines: Sequence[float]) -> bool:
    return all(abs(at - x) > SAME for x in lines)


def _with_nearest(places: Sequence[float], lines: Sequence[float]) -> list[float]:
    """Places with the line nearest to any of them."""
    nearest = min(lines, key=lambda x: min(abs(x - p) for p in places))
    return sorted([nearest, *places])


def room_for_sides(checked: Checked, tier: Tier, frame: Frame, paper: float) -> float:
    """How far these strings reach outside the frame of a plan, mm of building; nothing where the concrete
    lies so far inside that they do not."""
    standing = _standing(checked, tier) if tier.kind == "ground" else []
    if not standing:
        return 0.0
    x0, y0, x1, y1 = box([frame.local(p) for m in standing for p in m.solid.plan()])
    a, b, c, d = box([frame.local(p) for p in frame.corners])
    inside = min(x0 - a, y0 - b, c - x1, d - y1)
    return max(0.0, (NEAREST + NEXT + 5.0) * paper - max(0.0, inside))
