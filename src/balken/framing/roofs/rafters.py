"""Common rafters and jacks on the planes of a roof: in which rows they stand, from where to where,
and what they are called."""

import math
from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.framing.layout import Layout, Row, Stand, carried, stands, to_local, to_plan
from balken.framing.member import Member
from balken.framing.roofs.rafter_cuts import ON, PLIES_BESIDE, Cutting, Piece, cut_rafter, wall_at
from balken.framing.roofs.shape import Edge, Placed, RoofShape
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    box,
    distance_to_segment,
    dot,
    signed_area,
    sub,
    unit,
)
from balken.geometry.roof_lines import RoofLine
from balken.geometry.roof_planes import Face
from balken.model.names import HostName, MemberName, Rest, piece_letters
from balken.model.project import Change

FLAT: Final = 1e-9
"""A plane no steeper than this carries no jacks and sheds to no side."""
SHORTEST: Final = 100.0
"""In the corner of a plane a rafter shorter than this in plan is left out, mm."""


Lines = tuple[tuple[Point, Point], ...]
"""In plan, of what rafters stand over."""


class Family(NamedTuple):
    """Planes whose rafters run in one direction share one layout, so that pairs meet at the
    ridge."""

    angle: float
    places: list[Stand]


def families(
    shape: RoofShape,
    faces: Sequence[Face],
    layout: Layout,
    over: Lines = (),
    *,
    from_middle: bool = False,
) -> dict[float, Family]:
    """The layouts of a roof by the direction of their rafters, radians; over lines that run
    with them they stand in line with those."""
    found: dict[float, Family] = {}
    for face in faces:
        angle = run_of(face)
        if angle not in found:
            rings = tuple(tuple(to_local(p, angle) for p in ring) for ring in shape.rings)
            mine = layout
            if from_middle:
                x0, _, x1, _ = box(rings[0])
                mine = replace(
                    layout, start=(x1 - x0) / 2 % layout.spacing if layout.spacing > TOUCH else 0.0
                )
            start = _in_line(over, angle, box(rings[0])[0], layout.spacing)
            if start is not None:
                mine = replace(layout, start=start)
            found[angle] = Family(angle, stands(rings, mine))
    return found


def _in_line(over: Lines, angle: float, first: float, spacing: float) -> float | None:
    """Where a layout begins so that most of its rows stand over some lines, mm after the
    first edge; None where none of them runs along the rows."""
    counts: dict[float, int] = {}
    for a, b in over:
        (x, _), (y, _) = to_local(a, angle), to_local(b, angle)
        if abs(x - y) < TOUCH and spacing > TOUCH:
            at = round((x - first) % spacing, 1) % spacing
            counts[at] = counts.get(at, 0) + 1
    return max(counts, key=lambda at: (counts[at], -at)) if counts else None


def run_of(face: Face) -> float:
    """The direction in which rafters run on a plane, the same for planes that face each
    other, radians."""
    angle = math.atan2(face.plane[1], face.plane[0])
    if angle <= -math.pi / 2 + 1e-6:
        angle += math.pi
    elif angle > math.pi / 2 + 1e-6:
        angle -= math.pi
    return round(angle, 6) + 0.0


def longest_rows(face: Face, shape: RoofShape) -> list[Stand]:
    """The places of the longest rafters on a plane over the walls: near its corners and in
    its middle."""
    angle = run_of(face)
    rings = tuple(tuple(to_local(p, angle) for p in ring) for ring in (face.outline, *face.holes))
    x0, _, x1, _ = box(rings[0])
    walls = box([to_local(p, angle) for p in shape.ring])
    low, high = max(x0, walls[0]) + WITHIN, min(x1, walls[2]) - WITHIN
    if high <= low:
        return []
    near = {
        min(max(x + side, low), high) for x, _ in rings[0] for side in (-2 * TOUCH, 2 * TOUCH)
    } | {(low + high) / 2}
    ranked = sorted(
        near, key=lambda x: (-round(max((b - a for a, b in _stretches(rings, x)), default=0.0)), x)
    )
    return [(f"L{n}", x, -math.inf, math.inf) for n, x in enumerate(ranked[:MOST_TRIED], 1)]


WITHIN: Final = 200.0
"""So far inside the walls rafters are asked for their span, clear of those that lie over a gable
wall, mm."""
MOST_TRIED: Final = 3


def frame_face(
    n: int, face: Face, family: Family, cut: Cutting, letter: str
) -> tuple[list[Member], frozenset[tuple[str, str]]]:
    """The rafters of one plane, and the places of all there would be without those taken
    away by hand."""
    names: set[tuple[str, str]] = set()
    pieces = _pieces(n, face, family, cut, letter, names)
    found: list[Member] = []
    over = 0.0
    for m, p in [(cut_rafter(p, face, cut), p) for p in pieces]:
        if m is None:
            over += p.area
        else:
            found.append(_with_more(m, over))
            over = 0.0
    if over and found:
        found[-1] = _with_more(found[-1], over)
    return found, frozenset(names)


def _with_more(m: Member, area: float) -> Member:
    """A rafter that also carries what lies where nothing is left of the one beside it."""
    return replace(m, carrier=replace(m.carrier, area=m.carrier.area + area)) if area else m


class Gap(NamedTuple):
    """An opening in the layout of its plane: its outline across and along, and the headers at its
    low and its high edge, as the rows run; ``upward`` where they run up the roof."""

    key: str
    left: float
    right: float
    low: float
    high: float
    at_low: MemberName
    at_high: MemberName


class Run(NamedTuple):
    """A stretch of a row on a plane: from where to where along it, its ends in plan, and the lines
    of the roof there."""

    span: tuple[float, float]
    start: Point
    end: Point
    foot: RoofLine | None
    head: RoofLine | None
    on: tuple[Rest | None, Rest | None] = (None, None)
    """Headers it ends at, at its foot and its head."""


class Plane(NamedTuple):
    """A plane of a roof as rafters are laid out on it, their rows along it."""

    number: int
    face: Face
    side: Edge
    part: str
    angle: float
    rings: tuple[Ring, ...]
    """Its outline and holes, locally."""
    upward: bool
    """Rows run up the roof."""
    lines: list[RoofLine]
    gaps: list[Gap]


class Rows(NamedTuple):
    """A row that stands on a plane: its name, where, and the stretches of it."""

    name: str
    x: float
    runs: list[Run]


def _plane(n: int, face: Face, angle: float, cut: Cutting) -> Plane:
    side = cut.shape.edges[face.side]
    upward = face.height(to_plan((0.0, 1.0), angle)) > face.height((0.0, 0.0))
    return Plane(
        n,
        face,
        side,
        part_name(side, face, cut.shape),
        angle,
        tuple(tuple(to_local(p, angle) for p in ring) for ring in (face.outline, *face.holes)),
        upward,
        [line for line in cut.lines if n in line.faces],
        [_gap(h, angle, upward, cut.roof.id) for h in cut.openings if h.face == n],
    )


def _pieces(
    n: int, face: Face, family: Family, cut: Cutting, letter: str, names: set[tuple[str, str]]
) -> Iterable[Piece]:
    """The rafters of a plane; ``names`` takes up what rows there are, cut or taken away."""
    plane = _plane(n, face, family.angle, cut)
    x0, low, x1, high = box(plane.rings[0])
    rows = _rows_on(plane, family, cut, names)
    if not rows and not names:
        rows = _least_of(plane, (x0, x1))
    between = [(a.x + b.x) / 2 for a, b in pairwise(rows)]
    for row, left, right in zip(rows, [x0, *between], [*between, x1]):
        strip = Row(row.name, row.x, low, high, ((low, high, left, right),))
        areas = carried(plane.rings, strip, [r.span for r in row.runs])
        for k, (run, area) in enumerate(zip(row.runs, areas)):
            yield _piece(plane, row.name, k, run, area, (cut.roof.id, letter))


def _piece(plane: Plane, row: str, k: int, run: Run, area: float, marked: tuple[str, str]) -> Piece:
    roof, letter = marked
    more = piece_letters(k) if k else ""
    beside = row.startswith("T")
    kind = "trimmer" if beside else _kind(run.foot, run.head)
    return Piece(
        MemberName(HostName("roof", roof), kind, plane.part, row + more),
        f"{roof}-{'' if beside else 'R'}{row}{letter}{more}",
        run.start,
        run.end,
        run.foot,
        run.head,
        area,
        run.on,
        beside,
    )


def _rows_on(plane: Plane, family: Family, cut: Cutting, names: set[tuple[str, str]]) -> list[Rows]:
    """The rows that stand on a plane, from its first edge: those of the layout, and the doubled
    ones beside openings."""
    x0, _, x1, _ = box(plane.rings[0])
    beside = cut.section.breadth if cut.roof.rafters.stagger and not plane.upward else 0.0
    places = [(row, x + beside, lo, hi) for row, x, lo, hi in family.places]
    there = (*_of_face(places, plane.rings, x0, x1), *_beside(plane.gaps, cut))
    kept: list[Rows] = []
    for place in there:
        change = _change_of(HostName("roof", cut.roof.id), plane.part, place[0], cut.changes)
        row = _row(plane, place, cut, change.shift if change else 0.0)
        if row is not None:
            names.add((plane.part, row.name))
            if change is None or not change.removed:
                _keep(kept, row)
    return sorted(kept, key=lambda k: k.x)


def _row(plane: Plane, place: Stand, cut: Cutting, shift: float) -> Rows | None:
    """A row at its place, moved by hand; None where nothing of it is on the plane, or it would
    stand in the doubled ones beside an opening."""
    name, x, low, high = place
    at, out = x + shift, plane.side.out
    if not name.startswith("T") and _taken(at, plane.gaps, cut):
        return None
    reach = (low - out, high + out)
    runs = [r for r in _runs_at(plane, at, cut.section.breadth) if _overlaps(r.span, reach)]
    return Rows(name, at, runs) if runs else None


def _overlaps(span: tuple[float, float], other: tuple[float, float]) -> bool:
    return min(span[1], other[1]) - max(span[0], other[0]) > SHORTEST


def _runs_at(plane: Plane, x: float, breadth: float) -> list[Run]:
    """What of a plane a row crosses at a place: stretches between its lines and the openings."""
    whole = [
        _run_on(plane.lines, x, span, plane.angle, plane.upward)
        for span in _stretches(plane.rings, x)
    ]
    past = [r for w in whole for r in _past(w, plane.gaps, x, breadth, plane.angle)]
    return [r for r in past if _stands(r, plane.side)]


def _keep(kept: list[Rows], row: Rows) -> None:
    """Keep a row. Over an outline with inside corners a row has several stretches: what stands on
    two of them is one."""
    same = next((k for k in kept if k.name == row.name and abs(k.x - row.x) < TOUCH), None)
    if same is None:
        kept.append(row)
        return
    known = list(same.runs)
    same.runs.extend(r for r in row.runs if not any(_covers(r, other) for other in known))
    same.runs.sort(key=lambda r: r.span)


def _gap(item: Placed, angle: float, upward: bool, roof: str) -> Gap:
    x0, y0, x1, y1 = box([to_local(p, angle) for p in item.ring])
    host = HostName("roof", roof)
    lower, upper = (MemberName(host, "header", item.key, which) for which in ("a", "b"))
    return Gap(item.key, x0, x1, y0, y1, lower if upward else upper, upper if upward else lower)


def _beside(gaps: Sequence[Gap], cut: Cutting) -> Iterable[Stand]:
    """The places of the doubled rafters beside openings."""
    wide = PLIES_BESIDE * cut.section.breadth
    for g in gaps:
        yield f"T{g.key}a", g.left - wide / 2, -math.inf, math.inf
        yield f"T{g.key}b", g.right + wide / 2, -math.inf, math.inf


def _taken(x: float, gaps: Sequence[Gap], cut: Cutting) -> bool:
    """Whether a row would stand in the doubled rafters beside an opening."""
    wide, b = PLIES_BESIDE * cut.section.breadth, cut.section.breadth
    return any(
        g.left - wide - b / 2 + TOUCH < x < g.left + b / 2 - TOUCH
        or g.right - b / 2 + TOUCH < x < g.right + wide + b / 2 - TOUCH
        for g in gaps
    )


def _past(run: Run, gaps: Sequence[Gap], x: float, breadth: float, angle: float) -> Iterable[Run]:
    """What of a stretch is left on both sides of the openings it meets: it ends at their
    headers."""
    pieces = [run]
    for g in gaps:
        if g.left - TOUCH < x < g.right + TOUCH:
            pieces = [left for r in pieces for left in _beside_gap(r, g, x, breadth, angle)]
    return pieces


def _beside_gap(run: Run, gap: Gap, x: float, breadth: float, angle: float) -> Iterator[Run]:
    """What of a stretch is left below and above an opening; all of it where it does not meet it."""
    low, high = gap.low - breadth, gap.high + breadth
    a, b = run.span
    if high <= a or low >= b:
        yield run
        return
    along = sub(to_plan((x, 1.0), angle), to_plan((x, 0.0), angle))
    rising = dot(sub(run.end, run.start), along) > 0
    if low - a > SHORTEST:
        yield _ended(run, (a, low), to_plan((x, low), angle), gap.at_low, at_head=rising)
    if b - high > SHORTEST:
        yield _ended(run, (high, b), to_plan((x, high), angle), gap.at_high, at_head=not rising)


def _ended(
    run: Run, span: tuple[float, float], spot: Point, header: MemberName, *, at_head: bool
) -> Run:
    """A stretch that ends at a header: with its head, or with its foot."""
    if at_head:
        return run._replace(span=span, end=spot, head=None, on=(run.on[0], header))
    return run._replace(span=span, start=spot, foot=None, on=(header, run.on[1]))


def _run_on(
    lines: Sequence[RoofLine], x: float, span: tuple[float, float], angle: float, upward: bool
) -> Run:
    low, high = span if upward else span[::-1]
    start, end = to_plan((x, low), angle), to_plan((x, high), angle)
    return Run(span, start, end, _line_at(lines, start), _line_at(lines, end))


def _stands(run: Run, side: Edge) -> bool:
    """Whether a stretch is long enough for a rafter: past the wall, where it comes in over
    one."""
    over = 0.0
    if run.foot is not None and run.foot.kind == "eave":
        over = wall_at(side, run.start, unit(sub(run.end, run.start)))
    return run.span[1] - run.span[0] > over + SHORTEST


def _of_face(
    places: Sequence[Stand], rings: tuple[Ring, ...], x0: float, x1: float
) -> Iterable[Stand]:
    """The places of a layout that reach into a plane; where none does, one in its middle."""
    there = [
        p
        for p in places
        if x0 + TOUCH < p[1] < x1 - TOUCH
        and any(b - a > SHORTEST for a, b in _stretches(rings, p[1]))
    ]
    if there:
        return there
    middle = (x0 + x1) / 2
    return [("M", middle, -math.inf, math.inf)]


def _least_of(plane: Plane, across: tuple[float, float]) -> list[Rows]:
    """One row for a plane on which none is long enough, where it is longest, so that what
    lies there is borne."""
    inside = [
        across[0] + (across[1] - across[0]) * (0.2 + 0.6 * k / TRIED) for k in range(TRIED + 1)
    ]  # clear of what is beside
    runs = [(b - a, x, (a, b)) for x in inside for a, b in _stretches(plane.rings, x)]
    if not runs:
        return []
    _, x, span = max(runs)
    return [Rows("M", x, [_run_on(plane.lines, x, span, plane.angle, plane.upward)])]


TRIED: Final = 12
"""Places across a plane that are tried, and one."""


def part_name(side: Edge, face: Face, shape: RoofShape) -> str:
    """The name of a plane: its side, and which part of it where it breaks or lies in several
    pieces."""
    mine = [f for f in shape.roof.faces if f.side == face.side]
    return side.name if len(mine) == 1 else f"{side.name}{piece_letters(mine.index(face))}"


def _change_of(
    host: HostName, part: str, row: str, changes: dict[MemberName, Change]
) -> Change | None:
    return next(
        (changes[k] for kind in KINDS if (k := MemberName(host, kind, part, row)) in changes), None
    )


KINDS: Final = ("rafter", "hip jack", "valley jack", "cripple jack", "trimmer")
"""What a rafter is called by what it runs between."""


def _kind(foot: RoofLine | None, head: RoofLine | None) -> str:
    if foot is not None and foot.kind == "valley":
        return "cripple jack" if head is not None and head.kind == "hip" else "valley jack"
    return "hip jack" if head is not None and head.kind == "hip" else "rafter"


def _covers(run: Run, other: Run) -> bool:
    """Whether two stretches of one row have room in common: they are the same piece."""
    return min(run.span[1], other.span[1]) - max(run.span[0], other.span[0]) > TOUCH


def _stretches(rings: tuple[Ring, ...], x: float) -> list[tuple[float, float]]:
    marks = []
    for ring in rings:
        for (ax, ay), (bx, by) in zip(ring, [*ring[1:], ring[0]]):
            if (ax <= x) != (bx <= x):
                marks.append(ay + (by - ay) * (x - ax) / (bx - ax))
    marks.sort()
    return [(a, b) for a, b in zip(marks[::2], marks[1::2]) if b - a > TOUCH]


def _line_at(lines: Sequence[RoofLine], p: Point) -> RoofLine | None:
    """Which of a face's lines lies at a place of its edge; where two hips meet, the ridge
    that begins there if any."""
    near = sorted((distance_to_segment(p, x.start[:2], x.end[:2]), i) for i, x in enumerate(lines))
    here = [lines[i] for d, i in near if d < ON]
    level = next((x for x in here if x.kind in ("ridge", "eave", "break", "top")), None)
    return level or (here[0] if here else lines[near[0][1]] if near else None)


def main_run(shape: RoofShape) -> float:
    """The direction trusses run in: down the slope of the planes that cover most."""
    sums: dict[float, float] = {}
    for f in shape.roof.faces:
        if f.pitch > FLAT:
            sums[run_of(f)] = sums.get(run_of(f), 0.0) + abs(signed_area(f.outline))
    return max(sums, key=lambda k: (round(sums[k]), -k)) if sums else 0.0
