"""Setting pieces out at a spacing over an outline: the frame along the pieces, their rows, and what
each row carries.

Everything here works in a local plan in which the pieces run along +y and are set out along +x.
"""

import math
from itertools import pairwise
from typing import Literal

import msgspec

from balken.errors import BalkenError
from balken.framing.member import Member
from balken.geometry.plane import (
    ANGLE,
    TOUCH,
    Point,
    Ring,
    box,
    crossings,
    edges,
    rotate,
    sub,
    unit,
)
from balken.model.floors import Rule
from balken.model.names import HostName, MemberName
from balken.model.project import Change

ROW_NAMES_PER_SIDE = 10_000
"""No layout has more rows than this; more is a slip of the finger in a spacing or a wall."""


class LayoutError(BalkenError):
    """A layout that cannot be made; the text says why."""


class Row(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """One line of pieces: its lasting name, where its centre lies, and the plan it carries."""

    name: str
    x: float
    low: float
    """Along the row: where the outline begins and ends."""
    high: float
    fields: "tuple[Field, ...]"
    """The plan it carries, as boxes square to the frame, to be cut to the outline."""

    @property
    def width(self) -> float:
        """The widest it carries across, mm."""
        return max((right - left for _, _, left, right in self.fields), default=0.0)


def run_angle(
    outline: Ring, span: Literal["short", "long", "x", "y", "turned"], turn: float = 0.0
) -> float:
    """The plan angle, radians, along which pieces run.

    ``short`` follows the shorter way across the outline squared to its longest side, ``long`` the
    longer; ``x`` and ``y`` follow the sides nearest to the axes of the building; ``turned`` lies
    ``turn`` degrees to the left of x.
    """
    if span == "turned":
        return math.radians(turn)
    a, b = max(edges(outline), key=lambda e: math.dist(*e))
    along = unit(sub(b, a))
    base = math.atan2(along[1], along[0]) % (math.pi / 2)
    if base > math.pi / 4:
        base -= math.pi / 2
    if span in ("x", "y"):
        return base + (math.pi / 2 if span == "y" else 0.0)
    x0, y0, x1, y1 = box([rotate(p, -base) for p in outline])
    short_is_x = (x1 - x0) < (y1 - y0) - TOUCH
    return base + (0.0 if short_is_x == (span == "short") else math.pi / 2)


def to_local(point: Point, angle: float) -> Point:
    """Turn a plan point so that pieces run along +y; what turning leaves behind the fourth decimal
    is dropped."""
    x, y = rotate(point, math.pi / 2 - angle)
    return round(x, 4), round(y, 4)


def to_plan(point: Point, angle: float) -> Point:
    """Turn a local point back into the plan."""
    return rotate(point, angle - math.pi / 2)


Field = tuple[float, float, float, float]
"""A stretch along a row with its bounds across: from, to, left, right."""
Stand = tuple[str, float, float, float]
"""A row's name, its place across, and where the outline begins and ends along it."""


class Layout(msgspec.Struct, frozen=True, gc=False):
    """How rows are set out: breadth of a piece, spacing between centres and how it is kept, and
    what stands already.

    ``taken`` are stands that are there before the rows: trimmers, doubles under walls; with their
    breadth.
    """

    breadth: float
    spacing: float
    rule: Rule = "exact"
    start: float = 0.0
    end_gap: float = 0.0
    least_clear: float = 0.0
    taken: tuple[tuple[Stand, float], ...] = ()


def rows(
    rings: tuple[Ring, ...], layout: Layout, shifts: dict[str, float], removed: frozenset[str]
) -> list[Row]:
    """Set out rows over a local outline (the first ring) with holes, without those taken away by
    hand; their neighbours then carry more.

    Raises:
        LayoutError: more rows than any building has, or a spacing of nothing.
    """
    x0, _, x1, _ = box(rings[0])
    places = stands(rings, layout)
    placed = [(n, x + shifts.get(n, 0.0), lo, hi) for n, x, lo, hi in places if n not in removed]
    placed.sort(key=lambda p: (p[1], p[2]))
    return [Row(*stand, fields) for stand, fields in zip(placed, _fields(placed, x0, x1))]


def stands(rings: tuple[Ring, ...], layout: Layout) -> list[Stand]:
    """Stand a piece flush along every side the pieces run beside, the others by the rule from the
    first edge.

    A row that would not keep the least clear distance from one that is there already is left out.
    """
    x0, _, x1, _ = box(rings[0])
    breadth = layout.breadth
    at_edges = _edge_places(rings[0], breadth)
    standing = [(x, low, high, wide) for (_, x, low, high), wide in layout.taken]
    places = [p for p in at_edges if _keeps_clear(p, breadth, standing, 0.0)]
    places += [stand for stand, _ in layout.taken]
    there = [(x, low, high, breadth) for _, x, low, high in at_edges] + standing
    marks = spaced(x1 - x0, layout)
    for k, at in enumerate(marks, 1):
        regular = _row_at(f"{k:02d}", x0 + at, rings)
        places += [p for p in regular if _keeps_clear(p, breadth, there, layout.least_clear)]
    if layout.end_gap and at_edges and marks:
        last = max(x for _, x, _, _ in at_edges)
        places += _in_end_gap(places, last, layout.end_gap, rings)
    return places


def _row_at(name: str, x: float, rings: tuple[Ring, ...]) -> list[Stand]:
    """A row at a place across: a stand on each stretch of the plan it crosses."""
    ys = sorted(y for ring in rings for y in crossings(ring, x))
    return [(name, x, low, high) for low, high in zip(ys[::2], ys[1::2])]


def _in_end_gap(
    places: list[Stand], last: float, widest: float, rings: tuple[Ring, ...]
) -> list[Stand]:
    """One row more in the middle of the last gap, where that is wider than it may be."""
    before = max((p[1] for p in places if p[1] < last - TOUCH), default=last)
    if last - before <= widest + TOUCH:
        return []
    return _row_at("X1", (last + before) / 2, rings)


def row_names(rings: tuple[Ring, ...], layout: Layout) -> frozenset[str]:
    """The names of all rows of a layout, those taken away by hand among them."""
    return frozenset(name for name, *_ in stands(rings, layout))


def spaced(width: float, layout: Layout) -> list[float]:
    """Where rows stand between the two edges, from the first, mm; the edges have rows of
    their own.

    Raises:
        LayoutError: a spacing of nothing, or more rows than any building has.
    """
    spacing = layout.spacing + (layout.breadth if layout.rule == "clear" else 0.0)
    if spacing < TOUCH or (layout.rule == "count" and layout.spacing < 1):
        raise LayoutError(f"a spacing of {layout.spacing:g} mm sets nothing out")
    start = layout.start
    if layout.rule in ("maximum", "equal"):
        parts = _gaps(width - layout.breadth, spacing, at_most=layout.rule == "maximum")
        spacing = (width - layout.breadth) / parts
        start, count = layout.breadth / 2, parts - 1
    else:
        count = int((width - layout.breadth - start) / spacing + 1e-9)
    if count > ROW_NAMES_PER_SIDE:
        raise LayoutError(f"{count} rows at this spacing are more than any building has")
    places = [start + k * spacing for k in range(1, count + 1)]
    has_first = start > layout.breadth and layout.rule in ("exact", "clear")
    return [start, *places] if has_first else places


def _gaps(width: float, spacing: float, *, at_most: bool) -> int:
    """Into how many gaps, all alike, a width is divided from the middle of the first edge row to the
    middle of the last."""
    exact = width / spacing
    return max(1, math.ceil(exact - 1e-6) if at_most else round(exact))


def _keeps_clear(
    place: Stand, breadth: float, others: list[tuple[float, float, float, float]], clear: float
) -> bool:
    _, x, low, high = place
    return not any(
        abs(x - other) <= (breadth + wide) / 2 + max(clear, TOUCH)
        and min(high, hi) - max(low, lo) > TOUCH
        for other, lo, hi, wide in others
    )


def row_changes(
    host: HostName, family: str, changes: tuple[Change, ...]
) -> tuple[dict[str, float], frozenset[str]]:
    """Read what was done by hand to whole rows: shifts and removals.

    The pieces of a row stand in one line, so moving or taking away one moves or takes away the row.
    """
    mine = [
        (c.member.row, c) for c in changes if c.member.host == host and c.member.family == family
    ]
    return {n: c.shift for n, c in mine if c.shift}, frozenset(n for n, c in mine if c.removed)


def lost_changes(
    members: list[Member], changes: tuple[Change, ...], rows_there: frozenset[str]
) -> tuple[MemberName, ...]:
    """The names of changes by hand that found no member to act on."""
    if not changes:
        return ()
    present = {m.id for m in members}
    taken_away = {c.member for c in changes if c.removed and c.member.row in rows_there}
    return tuple(sorted({c.member for c in changes} - present - taken_away))


def _edge_places(ring: Ring, breadth: float) -> list[Stand]:
    found = []
    for a, b in edges(ring):
        if abs(b[0] - a[0]) < math.sin(ANGLE) * math.dist(a, b):
            inward = (
                -breadth / 2 if b[1] > a[1] else breadth / 2
            )  # counter-clockwise: inside lies to the left
            x = (a[0] + b[0]) / 2 + inward
            inside = crossings(ring, x)
            low, high = min(a[1], b[1]), max(a[1], b[1])
            for lo, hi in zip(inside[::2], inside[1::2]):
                if min(hi, high) - max(lo, low) > TOUCH:
                    found.append((x, max(lo, low), min(hi, high)))
    found.sort()
    return [(f"E{i}", *place) for i, place in enumerate(found, 1)]


def _fields(placed: list[Stand], x0: float, x1: float) -> list[tuple[Field, ...]]:
    """Share the plan between rows: at every place along them, each carries halfway to the rows
    beside it there.

    Rows begin and end at different places over an outline with steps, so the sharing is done
    stretch by stretch.
    """
    shares: list[list[Field]] = [[] for _ in placed]
    for low, high in pairwise(_marks(placed)):
        there = [
            i for i, p in enumerate(placed) if min(high, p[3]) - max(low, p[2]) > (high - low) / 2
        ]
        between = [(placed[i][1] + placed[k][1]) / 2 for i, k in pairwise(there)]
        for i, left, right in zip(there, [x0, *between], [*between, x1]):
            last = shares[i][-1] if shares[i] else None
            if last and last[1:] == (low, left, right):  # between the same neighbours as before
                shares[i][-1] = (last[0], high, left, right)
            else:
                shares[i].append((low, high, left, right))
    return [tuple(s) for s in shares]


def _marks(placed: list[Stand]) -> list[float]:
    """Where rows begin and end, along them."""
    marks: list[float] = []
    for v in sorted(v for _, _, low, high in placed for v in (low, high)):
        if not marks or v - marks[-1] > TOUCH:
            marks.append(v)
    return marks


def carried(rings: tuple[Ring, ...], row: Row, spans: list[tuple[float, float]]) -> list[float]:
    """The plan area each piece of a row carries, mm²; holes (the rings after the first)
    carry nothing.

    ``spans`` are the stretches along the row that belong to its pieces. What the outline holds in
    the row's fields beyond them goes to the longest piece, so that nothing is lost.
    """
    if not spans:
        return []
    areas = [
        sum(
            net_area(rings, left, right, max(low, a), min(high, b))
            for low, high, left, right in row.fields
        )
        for a, b in spans
    ]
    rest = sum(
        net_area(rings, left, right, low, high) for low, high, left, right in row.fields
    ) - sum(areas)
    longest = max(range(len(spans)), key=lambda i: spans[i][1] - spans[i][0])
    areas[longest] += max(0.0, rest)
    return areas


def net_area(rings: tuple[Ring, ...], x0: float, x1: float, y0: float, y1: float) -> float:
    """The area of an outline less its holes (the rings after the first) inside a box square
    to the frame, mm²."""
    return _area_in(rings[0], x0, x1, y0, y1) - sum(
        _area_in(hole, x0, x1, y0, y1) for hole in rings[1:]
    )


def _area_in(ring: Ring, x0: float, x1: float, y0: float, y1: float) -> float:
    """Area of an outline inside a box square to the frame (Sutherland-Hodgman; exact for a convex
    window)."""
    if x1 - x0 <= 0 or y1 - y0 <= 0:
        return 0.0
    if len(ring) == 4 and _is_square_to_frame(ring):
        (a, _, c, _) = ring
        wide = min(x1, max(a[0], c[0])) - max(x0, min(a[0], c[0]))
        tall = min(y1, max(a[1], c[1])) - max(y0, min(a[1], c[1]))
        return wide * tall if wide > 0 and tall > 0 else 0.0
    points = list(ring)
    for axis, limit, keep_above in ((0, x0, True), (0, x1, False), (1, y0, True), (1, y1, False)):
        points = _clip(points, axis, limit, keep_above)
        if len(points) < 3:
            return 0.0
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in edges(points))) / 2


def _is_square_to_frame(ring: Ring) -> bool:
    """Whether four corners are a rectangle square to the frame, as most outlines are."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = ring
    first_across = ax == dx and bx == cx and ay == by and cy == dy
    return first_across or (ax == bx and cx == dx and ay == dy and by == cy)


def _clip(points: list[Point], axis: int, limit: float, keep_above: bool) -> list[Point]:
    sign = 1.0 if keep_above else -1.0
    found: list[Point] = []
    for a, b in edges(points):
        da, db = sign * (a[axis] - limit), sign * (b[axis] - limit)
        if da >= 0:
            found.append(a)
        if (da > 0 > db) or (da < 0 < db):
            t = da / (da - db)
            found.append((a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])))
    return found
