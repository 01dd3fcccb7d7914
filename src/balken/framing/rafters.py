"""Common rafters and jacks on the planes of a roof: where they stand, how they are cut at wall, ridge, hip and valley."""

import math
from collections.abc import Iterable, Sequence
from functools import partial
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.framing.gables import gable_support
from balken.framing.layout import Layout, Row, Stand, carried, stands, to_local, to_plan
from balken.framing.member import Member, Strip, Support
from balken.framing.pieces import bearings_on, strip_under
from balken.framing.roof_parts import cut_from, part_of
from balken.framing.roof_shape import Edge, Placed, RoofShape
from balken.framing.roof_sticks import Stick, Stop, nearest_stop, stick_stop
from balken.framing.under_purlins import UnderPurlin
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    box,
    distance_to_segment,
    dot,
    left,
    sub,
    unit,
)
from balken.geometry.roof_lines import RoofLine
from balken.geometry.roof_planes import Face
from balken.geometry.solid import bevelled_profile
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System, format_run

SHORTEST: Final = 100.0
"""In the corner of a plane a rafter shorter than this in plan is left out, mm."""
ON: Final = 1.0
"""A rafter ends at the line this near to its end, mm."""
PLIES_BESIDE: Final = 2
"""Rafters beside an opening are doubled (IRC 2021 R802.7.1 for headers over 4 ft; common practice for all)."""
NEAR_END: Final = 0.15
"""A purlin nearer to an end of a rafter than this share of its span is passed over: it would lift the end."""
SQUARE: Final = 0.002
"""Runs across an end that differ by less than this share of the breadth are square."""


Lines = tuple[tuple[Point, Point], ...]
"""In plan, of what rafters stand over."""


class Family(NamedTuple):
    """Planes whose rafters run in one direction share one layout, so that pairs meet at the ridge."""

    angle: float
    places: list[Stand]


def families(
    shape: RoofShape, faces: Sequence[Face], layout: Layout, over: Lines = (), *, from_middle: bool = False
) -> dict[float, Family]:  # fmt: skip
    """Return the layouts of a roof by the direction of their rafters, radians; over lines that run with them they stand in
    line with those."""
    found: dict[float, Family] = {}
    for face in faces:
        angle = run_of(face)
        if angle not in found:
            rings = tuple(tuple(to_local(p, angle) for p in ring) for ring in shape.rings)
            mine = layout
            if from_middle:
                x0, _, x1, _ = box(rings[0])
                mine = replace(layout, start=(x1 - x0) / 2 % layout.spacing if layout.spacing > TOUCH else 0.0)
            start = _in_line(over, angle, box(rings[0])[0], layout.spacing)
            if start is not None:
                mine = replace(layout, start=start)
            found[angle] = Family(angle, stands(rings, mine))
    return found


def _in_line(over: Lines, angle: float, first: float, spacing: float) -> float | None:
    """Return where a layout begins so that most of its rows stand over some lines, mm after the first edge; None where none of
    them runs along the rows."""
    counts: dict[float, int] = {}
    for a, b in over:
        (x, _), (y, _) = to_local(a, angle), to_local(b, angle)
        if abs(x - y) < TOUCH and spacing > TOUCH:
            at = round((x - first) % spacing, 1) % spacing
            counts[at] = counts.get(at, 0) + 1
    return max(counts, key=lambda at: (counts[at], -at)) if counts else None


def run_of(face: Face) -> float:
    """Return the direction in which rafters run on a plane, the same for planes that face each other, radians."""
    angle = math.atan2(face.plane[1], face.plane[0])
    if angle <= -math.pi / 2 + 1e-6:
        angle += math.pi
    elif angle > math.pi / 2 + 1e-6:
        angle -= math.pi
    return round(angle, 6) + 0.0


def longest_rows(face: Face, shape: RoofShape) -> list[Stand]:
    """Return the places of the longest rafters on a plane over the walls: near its corners and in its middle."""
    angle = run_of(face)
    rings = tuple(tuple(to_local(p, angle) for p in ring) for ring in (face.outline, *face.holes))
    x0, _, x1, _ = box(rings[0])
    walls = box([to_local(p, angle) for p in shape.ring])
    low, high = max(x0, walls[0]) + WITHIN, min(x1, walls[2]) - WITHIN
    if high <= low:
        return []
    near = {min(max(x + side, low), high) for x, _ in rings[0] for side in (-2 * TOUCH, 2 * TOUCH)} | {(low + high) / 2}
    ranked = sorted(near, key=lambda x: (-round(max((b - a for a, b in _stretches(rings, x)), default=0.0)), x))
    return [(f"L{n}", x, -math.inf, math.inf) for n, x in enumerate(ranked[:MOST_TRIED], 1)]


WITHIN: Final = 200.0
"""So far inside the walls rafters are asked for their span, clear of those that lie over a gable wall, mm."""
MOST_TRIED: Final = 3


class Piece(NamedTuple):
    """One rafter to be cut: its lasting name, its line in plan from the foot up, and what it runs between."""

    name: str
    mark: str
    start: Point
    end: Point
    foot: RoofLine | None
    head: RoofLine | None
    area: float
    on: tuple[str, str] = ("", "")
    """Headers it ends at, at its foot and its head."""
    trimmer: bool = False
    """Doubled beside an opening."""


class Cutting(NamedTuple):
    """What all rafters of a roof are cut with."""

    roof: RoofArea
    shape: RoofShape
    lines: Sequence[RoofLine]
    sticks: Sequence[Stick]
    strips: tuple[Strip, ...]
    width: float
    """Of the plates, mm."""
    sections: dict[str, Section]
    section: Section
    changes: dict[str, Change]
    system: System
    openings: tuple[Placed, ...] = ()
    purlins: tuple[UnderPurlin, ...] = ()


def frame_face(n: int, face: Face, family: Family, cut: Cutting, letter: str) -> tuple[list[Member], frozenset[str]]:
    """Return the rafters of one plane, and the names of all there would be without those taken away by hand."""
    names: set[str] = set()
    pieces = _pieces(n, face, family, cut, letter, names)
    return [_member(p, face, cut) for p in pieces], frozenset(names)


def _pieces(n: int, face: Face, family: Family, cut: Cutting, letter: str, names: set[str]) -> Iterable[Piece]:
    angle, shape = family.angle, cut.shape
    side = shape.edges[face.side]
    rings = tuple(tuple(to_local(p, angle) for p in ring) for ring in (face.outline, *face.holes))
    x0, low, x1, high = box(rings[0])
    host, part = f"roof:{cut.roof.id}", part_name(side, face, shape)
    upward = face.height(to_plan((0.0, 1.0), angle)) > face.height((0.0, 0.0))

    holes = [h for h in cut.openings if h.face == n]
    gaps = [_gap(h, angle, upward, cut, host) for h in holes]

    mine = [line for line in cut.lines if n in line.faces]

    def lines_at(x: float) -> list[Run]:
        whole_runs = [_run_on(mine, x, s, angle, upward) for s in _stretches(rings, x)]
        return [r for w in whole_runs for r in _past(w, gaps, x, cut.section.breadth, angle) if _stands(r, side)]

    kept: list[tuple[str, float, list[Run]]] = []
    beside = cut.section.breadth if cut.roof.rafters.stagger and not upward else 0.0
    places = [(row, x + beside, lo, hi) for row, x, lo, hi in family.places]
    for row, x, lo, hi in (*_of_face(places, rings, x0, x1), *_beside(gaps, cut)):
        change = _change_of(f"{host}/", f"{part}.{row}", cut.changes)
        at = x + (change.shift if change else 0.0)
        runs = [r for r in lines_at(at) if min(r.span[1], hi + side.out) - max(r.span[0], lo - side.out) > SHORTEST]
        if runs and (row.startswith("T") or not _taken(at, gaps, cut)):
            names.add(f"{part}.{row}")
            if change is None or not change.removed:
                # Over an outline with inside corners a row has several stretches: what stands on two of them is one.
                same = next((k for k in kept if k[:2] == (row, at)), None)
                if same is None:
                    kept.append((row, at, runs))
                else:
                    same[2].extend(r for r in runs if r not in same[2])
                    same[2].sort(key=lambda r: r.span)
    kept.sort(key=lambda k: k[1])
    if not kept and not names:
        kept = _least_of(mine, rings, angle, upward, (x0, x1))
    for i, (row, at, runs) in enumerate(kept):
        left_x = x0 if i == 0 else (kept[i - 1][1] + at) / 2
        right_x = x1 if i == len(kept) - 1 else (at + kept[i + 1][1]) / 2
        areas = carried(rings, Row(row, at, low, high, ((low, high, left_x, right_x),)), [r.span for r in runs])
        for k, (r, area) in enumerate(zip(runs, areas)):
            more = "" if k == 0 else "bcdefgh"[min(k - 1, 6)]
            beside = row.startswith("T")
            kind = "trimmer" if beside else _kind(r.foot, r.head)
            yield Piece(
                f"{host}/{kind}:{part}.{row}{more}", f"{cut.roof.id}-{'' if beside else 'R'}{row}{letter}{more}", r.start, r.end,
                r.foot, r.head, area, r.on, beside,
            )  # fmt: skip


class Gap(NamedTuple):
    """An opening in the layout of its plane: its outline across and along, and the headers at its low and its high edge, as the
    rows run; ``upward`` where they run up the roof."""

    key: str
    left: float
    right: float
    low: float
    high: float
    at_low: str
    at_high: str


def _gap(item: Placed, angle: float, upward: bool, cut: "Cutting", host: str) -> Gap:
    x0, y0, x1, y1 = box([to_local(p, angle) for p in item.ring])
    lower, upper = (f"{host}/header:{item.key}{which}" for which in ("a", "b"))
    return Gap(item.key, x0, x1, y0, y1, lower if upward else upper, upper if upward else lower)


def _beside(gaps: Sequence[Gap], cut: "Cutting") -> Iterable[Stand]:
    """Return the places of the doubled rafters beside openings."""
    wide = PLIES_BESIDE * cut.section.breadth
    for g in gaps:
        yield f"T{g.key}a", g.left - wide / 2, -math.inf, math.inf
        yield f"T{g.key}b", g.right + wide / 2, -math.inf, math.inf


def _taken(x: float, gaps: Sequence[Gap], cut: "Cutting") -> bool:
    """Tell whether a row would stand in the doubled rafters beside an opening."""
    wide, b = PLIES_BESIDE * cut.section.breadth, cut.section.breadth
    return any(
        g.left - wide - b / 2 + TOUCH < x < g.left + b / 2 - TOUCH
        or g.right - b / 2 + TOUCH < x < g.right + wide + b / 2 - TOUCH
        for g in gaps
    )


def _past(run: "Run", gaps: Sequence[Gap], x: float, breadth: float, angle: float) -> Iterable["Run"]:
    """Return what of a stretch is left on both sides of the openings it meets: it ends at their headers."""
    pieces = [run]
    for g in gaps:
        if not g.left - TOUCH < x < g.right + TOUCH:
            continue
        low, high = g.low - breadth, g.high + breadth
        made: list[Run] = []
        for r in pieces:
            a, b = r.span
            if high <= a or low >= b:
                made.append(r)
                continue
            rising = dot(sub(r.end, r.start), sub(to_plan((x, 1.0), angle), to_plan((x, 0.0), angle))) > 0
            if low - a > SHORTEST:
                spot = to_plan((x, low), angle)
                made.append(
                    r._replace(span=(a, low), end=spot, head=None, on=(r.on[0], g.at_low)) if rising
                    else r._replace(span=(a, low), start=spot, foot=None, on=(g.at_low, r.on[1]))
                )  # fmt: skip
            if b - high > SHORTEST:
                spot = to_plan((x, high), angle)
                made.append(
                    r._replace(span=(high, b), start=spot, foot=None, on=(g.at_high, r.on[1])) if rising
                    else r._replace(span=(high, b), end=spot, head=None, on=(r.on[0], g.at_high))
                )  # fmt: skip
        pieces = made
    return pieces


class Run(NamedTuple):
    """A stretch of a row on a plane: from where to where along it, its ends in plan, and the lines of the roof there."""

    span: tuple[float, float]
    start: Point
    end: Point
    foot: RoofLine | None
    head: RoofLine | None
    on: tuple[str, str] = ("", "")
    """Headers it ends at, at its foot and its head."""


def _run_on(lines: Sequence[RoofLine], x: float, span: tuple[float, float], angle: float, upward: bool) -> Run:
    low, high = span if upward else span[::-1]
    start, end = to_plan((x, low), angle), to_plan((x, high), angle)
    return Run(span, start, end, _line_at(lines, start), _line_at(lines, end))


def wall_at(edge: Edge, start: Point, way: Point) -> float:
    """Return the run from a rafter's foot to the outer face of the wall it comes in over, mm."""
    n = left(unit(sub(edge.b, edge.a)))
    return max(0.0, dot(sub(edge.a, start), n) / dot(way, n))


def _stands(run: Run, side: Edge) -> bool:
    """Tell whether a stretch is long enough for a rafter: past the wall, where it comes in over one."""
    over = 0.0
    if run.foot is not None and run.foot.kind == "eave":
        over = wall_at(side, run.start, unit(sub(run.end, run.start)))
    return run.span[1] - run.span[0] > over + SHORTEST


def _of_face(places: Sequence[Stand], rings: tuple[Ring, ...], x0: float, x1: float) -> Iterable[Stand]:
    """Return the places of a layout that reach into a plane; where none does, one in its middle."""
    there = [
        p
        for p in places
        if x0 + TOUCH < p[1] < x1 - TOUCH and any(b - a > SHORTEST for a, b in _stretches(rings, p[1]))
    ]
    if there:
        return there
    middle = (x0 + x1) / 2
    return [("M", middle, -math.inf, math.inf)]


def _least_of(
    lines: Sequence[RoofLine], rings: tuple[Ring, ...], angle: float, upward: bool, across: tuple[float, float]
) -> list[tuple[str, float, list[Run]]]:
    """Return one row for a plane on which none is long enough, where it is longest, so that what lies there is borne."""
    inside = [
        across[0] + (across[1] - across[0]) * (0.2 + 0.6 * k / TRIED) for k in range(TRIED + 1)
    ]  # clear of what is beside
    runs = [(b - a, x, (a, b)) for x in inside for a, b in _stretches(rings, x)]
    if not runs:
        return []
    _, x, span = max(runs)
    return [("M", x, [_run_on(lines, x, span, angle, upward)])]


TRIED: Final = 12
"""Places across a plane that are tried, and one."""


def part_name(side: Edge, face: Face, shape: RoofShape) -> str:
    """Return the name of a plane: its side, and which part of it where it breaks or lies in several pieces."""
    mine = [f for f in shape.roof.faces if f.side == face.side]
    return side.name if len(mine) == 1 else f"{side.name}{'abcdefgh'[min(mine.index(face), 7)]}"


def _change_of(prefix: str, name: str, changes: dict[str, Change]) -> Change | None:
    return next((changes[k] for kind in KINDS if (k := f"{prefix}{kind}:{name}") in changes), None)


KINDS: Final = ("rafter", "hip jack", "valley jack", "cripple jack", "trimmer")
"""What a rafter is called by what it runs between."""


def _kind(foot: RoofLine | None, head: RoofLine | None) -> str:
    if foot is not None and foot.kind == "valley":
        return "cripple jack" if head is not None and head.kind == "hip" else "valley jack"
    return "hip jack" if head is not None and head.kind == "hip" else "rafter"


def _stretches(rings: tuple[Ring, ...], x: float) -> list[tuple[float, float]]:
    marks = []
    for ring in rings:
        for (ax, ay), (bx, by) in zip(ring, [*ring[1:], ring[0]]):
            if (ax <= x) != (bx <= x):
                marks.append(ay + (by - ay) * (x - ax) / (bx - ax))
    marks.sort()
    return [(a, b) for a, b in zip(marks[::2], marks[1::2]) if b - a > TOUCH]


def _line_at(lines: Sequence[RoofLine], p: Point) -> RoofLine | None:
    """Return which of a face's lines lies at a place of its edge; where two hips meet, the ridge that begins there if any."""
    near = sorted((distance_to_segment(p, x.start[:2], x.end[:2]), i) for i, x in enumerate(lines))
    here = [lines[i] for d, i in near if d < ON]
    level = next((x for x in here if x.kind in ("ridge", "eave", "break", "top")), None)
    return level or (here[0] if here else lines[near[0][1]] if near else None)


def _member(p: Piece, face: Face, cut: Cutting) -> Member:
    """Return one rafter as it is sawn."""
    change = cut.changes.get(p.name)
    usual = cut_from(cut.roof, part_of(p.name, "rafter"), cut.section, cut.sections)
    section = cut.sections[change.section] if change and change.section else usual
    if p.trimmer and not (change and change.section):
        section = cut.sections.get(f"{PLIES_BESIDE}-{section.name}", section)
    slope = face.pitch
    edges = cut.shape.edges
    edge = edges[face.side]
    way = (face.plane[0] / slope, face.plane[1] / slope)
    run = dot((p.end[0] - p.start[0], p.end[1] - p.start[1]), way)
    plumb = section.depth * math.hypot(1.0, slope)
    at_wall = wall_at(edge, p.start, way) if p.foot is not None and p.foot.kind == "eave" else None
    base = face.height(p.start)  # top of the rafter where its run begins, on the line of the roof
    heads = _stops(p.head, face, p.end, way, cut, section.breadth)
    feet = _stops(p.foot, face, p.start, (-way[0], -way[1]), cut, section.breadth)
    half = section.breadth / 2
    rings, ends = [], []
    wall = at_wall or 0.0  # the side view counts its runs from the outer face of the wall
    for y in (-half, 0.0, half):
        top_end = min(run, nearest_stop(p.start, way, y, heads)) if heads else run
        low_end = max(0.0, -nearest_stop(p.start, (-way[0], -way[1]), -y, feet)) if feet else 0.0
        ends.append((low_end, top_end))
        ring = _outline(cut, edge, section, low_end, top_end, base, slope, plumb, at_wall, p.head)
        rings.append((y, tuple((s - wall, z) for s, z in ring)))
    first, last = ends[1]
    start, finish = add(p.start, way, first), add(p.start, way, last)
    supports = _with_purlin(
        _supports(p, cut, edge, section, way, first, last, plumb, slope, at_wall), p, face, cut, way, first
    )
    length = (last - first) * math.hypot(1.0, slope)
    longest = max(e for _, e in ends) - min(s for s, _ in ends)
    mid = base - plumb / 2
    return Member(
        p.name, p.mark, "trimmer" if p.trimmer else "rafter", f"roof:{cut.roof.id}", cut.roof.plate, section.name,
        f"{cut.roof.species} {cut.roof.grade}",
        bevelled_profile(add(p.start, way, wall), way, tuple(rings)), (*start, mid + slope * first),
        (*finish, mid + slope * last), length,
        longest * math.hypot(1.0, slope) + section.depth * slope,
        _words(cut, edge, section, slope, plumb, at_wall, ends, p.head), supports, p.area, (0.0, last - first), slope,
        change is not None,
    )  # fmt: skip


def _with_purlin(
    supports: tuple[Support, ...], p: Piece, face: Face, cut: Cutting, way: Point, first: float
) -> tuple[Support, ...]:  # fmt: skip
    """Return what a rafter bears on with the purlins under its plane between."""
    found = list(supports)
    for item in cut.purlins:
        run = item.meets(p.start, way) if cut.shape.roof.faces[item.face] is face else None
        if run is None:
            continue
        wide = item.section.breadth
        at = run - first + wide / 2
        low, high = supports[0].at, supports[-1].at
        if min(at - low, high - at) > NEAR_END * (high - low):
            found.insert(-1, Support(at, wide, item.name, add(p.start, way, run + wide / 2)))
    return tuple(found)


def seat_of(cut: Cutting, slope: float, plumb: float) -> float:
    """Return the level cut of a rafter on its plate, mm: to where its underside leaves the plate, or to the plate's inner
    edge; nothing where the heel is as high as the rafter is deep."""
    return max(0.0, min((plumb - cut.shape.heel) / slope, cut.width or math.inf))


def _outline(
    cut: Cutting, edge: Edge, section: Section, first: float, last: float, base: float, slope: float, plumb: float,
    at_wall: float | None, head: RoofLine | None,
) -> Ring:  # fmt: skip
    """Return the side view of a rafter between two runs: tail, heel cut, seat, underside, head, top edge."""

    def top(s: float) -> float:
        return base + slope * s

    def under(s: float) -> float:
        return top(s) - plumb

    points: list[Point] = []
    low = under(last)  # of the head's lower corner
    if at_wall is not None:
        # The same five corners in every outline across: of tail, heel and seat. What is not there has them in one place.
        wall, tail = at_wall, 0.0
        seat = min(seat_of(cut, slope, plumb), last - wall)
        if cut.roof.eave_cut == "square" and wall > 0:
            tail = min(section.depth * math.sin(math.atan(slope)), wall)
        tailed = wall - first - tail > TOUCH
        foot = [(first + tail, under(first + tail) if tail == 0 or wall > tail else under(wall))] if tailed else []
        if seat > 0:
            plate, end = top(wall) - cut.shape.heel, wall + seat
            foot += [(wall, under(wall) if tailed else plate)] * (2 - len(foot))
            through = end > last - TOUCH  # a short jack lies on the plate all the way to its head
            low = max(low, plate) if through else low
            drop = under(end) if not through and plate - under(end) > TOUCH else plate
            points += [*foot, (wall, plate), (end, plate), (end, drop)]
        else:
            foot = foot or [(first, under(first))]
            points += [*foot, *[foot[-1]] * (5 - len(foot))]
    else:
        points.append((first, under(first)))
    upper = upper_wall(cut, head)
    if upper is not None:
        out, seat = last - upper.out, min(COMMON, last)
        points += [(out - seat, under(out - seat)), (out - seat, under(out)), (out, under(out))]
    points += [(last, low), (last, top(last)), (first, top(first))]
    return tuple(points)


COMMON: Final = 3.5 * 25.4
"""Seat on the high wall of a shed, mm; common practice, no source."""


def upper_wall(cut: Cutting, head: RoofLine | None) -> Edge | None:
    """Return the side whose wall carries the upper end of a rafter: at the high end of a shed."""
    if head is None or head.kind != "top":
        return None
    middle = ((head.start[0] + head.end[0]) / 2, (head.start[1] + head.end[1]) / 2)
    near = [
        (distance_to_segment(middle, add(e.a, _out(e), e.out), add(e.b, _out(e), e.out)), i)
        for i, e in enumerate(cut.shape.edges) if e.slope is None
    ]  # fmt: skip
    return cut.shape.edges[min(near)[1]] if near and min(near)[0] < 3 * TOUCH else None


def _out(edge: Edge) -> Point:
    length = math.dist(edge.a, edge.b)
    way = ((edge.b[0] - edge.a[0]) / length, (edge.b[1] - edge.a[1]) / length)
    n = left(way)
    return -n[0], -n[1]


def _stops(
    line: RoofLine | None, face: Face, place: Point, way: Point, cut: Cutting, breadth: float
) -> list[Stop]:  # fmt: skip
    """Return what a rafter's end meets: the faces of ridges, hips and valleys within its breadth."""
    if line is None or line.kind == "eave":
        return []
    found = []
    for stick in cut.sticks:
        reach = breadth / 2 + stick.section.breadth
        if distance_to_segment(place, stick.low[:2], stick.high[:2]) <= reach:
            stop = stick_stop(stick, way)
            if stop is not None:
                found.append(stop)
    return found


def _supports(
    p: Piece, cut: Cutting, edge: Edge, section: Section, way: Point, first: float, last: float, plumb: float, slope: float,
    at_wall: float | None,
) -> tuple[Support, Support]:  # fmt: skip
    at_plates = partial(strip_under, strips=cut.strips)
    along = _gable_under(p, cut, way, first, last)
    if along:  # it stands on the wall that rises to it, all along
        half = (last - first) / 2
        return tuple(Support(at, half, along, add(p.start, way, first + at)) for at in (half / 2, half * 3 / 2))  # type: ignore[return-value]
    if at_wall is not None:
        # The top chord of a jack truss stands on its bottom chord, which lies on the whole plate.
        seat = seat_of(cut, slope, plumb) if cut.roof.framing == "rafters" else cut.width
        seat = seat or cut.width  # with its heel above it, blocked up from the plate
        spot = add(p.start, way, at_wall + max(seat, TOUCH) / 2)
        under = strip_under(spot, cut.strips)
        low = Support(at_wall + seat / 2 - first, seat if under else 0.0, under, spot)
    else:
        spot = add(p.start, way, first)
        carrier = p.on[0] or _carrier(p.foot, p.start, cut)
        low = Support(0.0, section.depth, carrier, spot)
        if not carrier:
            low = (
                gable_support(cut.shape, cut.width or COMMON, at_plates, p.start, way, (first, last), first)
                or _first_plate(p, cut, edge, way, (first, last))
                or low
            )
    upper = upper_wall(cut, p.head)
    if upper is not None:
        at = last - upper.out - COMMON / 2
        spot = add(p.start, way, at)
        under = strip_under(spot, cut.strips)
        return low, Support(at - first, COMMON if under else 0.0, under, spot)
    carrier = p.on[1] or _carrier(p.head, p.end, cut)
    high = (
        None if carrier else gable_support(cut.shape, cut.width or COMMON, at_plates, p.start, way, (first, last), last)
    )
    if high is not None:
        return low, high
    return low, Support(last - first, section.depth, carrier, add(p.start, way, last))


def _first_plate(p: Piece, cut: Cutting, edge: Edge, way: Point, run: tuple[float, float]) -> Support | None:
    """Return the plate that a rafter comes in over beside a corner, where its tail ends at a rake instead of an eave."""
    start, end = add(p.start, way, run[0]), add(p.start, way, run[1])
    on, low, high, _ = next(iter(bearings_on(start, end, cut.strips)), ("", 0.0, 0.0, False))
    if not on or high - low > 3 * (cut.width or COMMON) or low > 2 * edge.out + TOUCH:
        return None
    return Support((low + high) / 2, high - low, on, add(start, way, (low + high) / 2))


def _gable_under(p: Piece, cut: Cutting, way: Point, first: float, last: float) -> str:
    """Return the name of the gable wall that a rafter lies over; empty where it lies over none."""
    gables = {f"wall:{e.name}" for e in cut.shape.edges if e.slope is None and e.rule.kind == "gable"}
    if not gables:
        return ""
    spots = [add(p.start, way, first + share * (last - first)) for share in (0.35, 0.65, 0.9)]
    under = {strip_under(spot, cut.strips) for spot in spots}
    return under.pop() if len(under) == 1 and under <= gables else ""


def _carrier(line: RoofLine | None, place: Point, cut: Cutting) -> str:
    if line is None:
        return ""
    near = [(distance_to_segment(place, s.low[:2], s.high[:2]), i) for i, s in enumerate(cut.sticks)]
    best = min(near, default=None)
    return cut.sticks[best[1]].name if best is not None and best[0] < 10 * ON else ""


def _words(
    cut: Cutting, edge: Edge, section: Section, slope: float, plumb: float, at_wall: float | None,
    ends: Sequence[tuple[float, float]], head: RoofLine | None,
) -> tuple[str, ...]:  # fmt: skip
    """Say how a rafter is cut at its foot, its head and its seat."""
    angle = math.degrees(math.atan(slope))
    words = [_end_words(angle, [s for s, _ in ends], section.breadth, foot=True)]
    if at_wall is not None and cut.roof.eave_cut == "square" and at_wall > 0:
        words = ["square"]
    words.append(_end_words(angle, [e for _, e in ends], section.breadth, foot=False))
    if at_wall is not None:
        seat = seat_of(cut, slope, plumb)
        deep = (plumb - cut.shape.heel) * math.cos(math.atan(slope))
        if seat > 0:
            words.append(f"birdsmouth, seat {format_run(seat, cut.system)}, {format_run(deep, cut.system)} deep")
    if upper_wall(cut, head) is not None:
        words.append(f"birdsmouth at the high wall, seat {format_run(COMMON, cut.system)}")
    return tuple(words)


def _end_words(angle: float, runs: Sequence[float], breadth: float, *, foot: bool) -> str:
    """Say a plumb cut, with the angle of its side cut in plan where it is bevelled, and both where it has two."""
    near, middle, far = runs
    sign = -1 if foot else 1
    bevels = [
        math.degrees(math.atan2(abs(middle - x), breadth / 2))
        for x in (near, far)
        if abs(middle - x) > SQUARE * breadth
    ]
    plumb = f"plumb {angle:.1f}°"
    if not bevels:
        return plumb
    if len(bevels) == 2 and sign * (middle - near) > 0 and sign * (middle - far) > 0:
        return f"{plumb}, side cuts {bevels[0]:.1f}° and {bevels[1]:.1f}°"
    return f"{plumb}, side cut {bevels[0]:.1f}°"
