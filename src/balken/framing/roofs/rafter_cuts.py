"""How one rafter is sawn: its tail, birdsmouth, head and side cuts, what it bears on, and its cuts
in words."""

import math
from collections.abc import Sequence
from functools import partial
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.member import Member, Strip, Support, blank_of, carrying
from balken.framing.pieces import bearings_on, strip_under
from balken.framing.roofs.gables import gable_support
from balken.framing.roofs.parts import cut_from, part_of
from balken.framing.roofs.shape import Edge, Placed, RoofShape
from balken.framing.roofs.sticks import Stick, Stop, nearest_stop, stick_stop
from balken.framing.roofs.under_purlins import UnderPurlin
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance_to_segment,
    dot,
    left,
    sub,
    unit,
)
from balken.geometry.roof_lines import RoofLine
from balken.geometry.roof_planes import Face
from balken.geometry.solid import bevelled_profile
from balken.model.names import HostName, MemberName, Rest
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System, format_run

ON: Final = 1.0
"""A rafter ends at the line this near to its end, mm."""
PLIES_BESIDE: Final = 2
"""Rafters beside an opening are doubled (IRC 2021 R802.7.1 for headers over 4 ft; common practice
for all)."""
NEAR_END: Final = 0.15
"""A purlin nearer to an end of a rafter than this share of its span is passed over: it would lift
the end."""
SQUARE: Final = 0.002
"""Runs across an end that differ by less than this share of the breadth are square."""


class Piece(NamedTuple):
    """One rafter to be cut: its lasting name, its line in plan from the foot up, and what it runs
    between."""

    name: MemberName
    mark: str
    start: Point
    end: Point
    foot: RoofLine | None
    head: RoofLine | None
    area: float
    on: tuple[Rest | None, Rest | None] = (None, None)
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
    changes: dict[MemberName, Change]
    system: System
    openings: tuple[Placed, ...] = ()
    purlins: tuple[UnderPurlin, ...] = ()


def wall_at(edge: Edge, start: Point, way: Point) -> float:
    """The run from a rafter's foot to the outer face of the wall it comes in over, mm."""
    n = left(unit(sub(edge.b, edge.a)))
    return max(0.0, dot(sub(edge.a, start), n) / dot(way, n))


def cut_rafter(p: Piece, face: Face, cut: Cutting) -> Member | None:
    """One rafter as it is sawn; None where what it meets at its two ends leaves nothing of it."""
    change = cut.changes.get(p.name)
    usual = cut_from(cut.roof, part_of(p.name, kinds.RAFTER), cut.section, cut.sections)
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
    if last - first < TOUCH:
        return None
    start, finish = add(p.start, way, first), add(p.start, way, last)
    supports = _with_purlin(
        _supports(p, cut, edge, section, way, first, last, plumb, slope, at_wall),
        p,
        face,
        cut,
        way,
        first,
    )
    length = (last - first) * math.hypot(1.0, slope)
    mid = base - plumb / 2
    solid = bevelled_profile(add(p.start, way, wall), way, tuple(rings))
    low, high = (*start, mid + slope * first), (*finish, mid + slope * last)
    sawn = Member(
        p.name,
        p.mark,
        kinds.TRIMMER if p.trimmer else kinds.RAFTER,
        p.name.host,
        cut.roof.plate,
        section.name,
        f"{cut.roof.species} {cut.roof.grade}",
        solid,
        low,
        high,
        length,
        blank_of(solid, low, high),
        _words(cut, edge, section, slope, plumb, at_wall, ends, p.head),
        slope,
        change is not None,
    )
    return carrying(sawn, supports, area=p.area, carries=(0.0, last - first))


def _with_purlin(
    supports: tuple[Support, ...], p: Piece, face: Face, cut: Cutting, way: Point, first: float
) -> tuple[Support, ...]:
    """What a rafter bears on with the purlins under its plane between."""
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
    """The level cut of a rafter on its plate, mm: to where its underside leaves the plate,
    or to the plate's inner edge; nothing where the heel is as high as the rafter is deep."""
    return max(0.0, min((plumb - cut.shape.heel) / slope, cut.width or math.inf))


def _outline(
    cut: Cutting,
    edge: Edge,
    section: Section,
    first: float,
    last: float,
    base: float,
    slope: float,
    plumb: float,
    at_wall: float | None,
    head: RoofLine | None,
) -> Ring:
    """The side view of a rafter between two runs: tail, heel cut, seat, underside, head, top
    edge."""

    def top(s: float) -> float:
        return base + slope * s

    def under(s: float) -> float:
        return top(s) - plumb

    points: list[Point] = []
    low = under(last)  # of the head's lower corner
    if at_wall is not None:
        # The same five corners in every outline across: of tail, heel and seat. What is not there
        # has them in one place.
        wall, tail = at_wall, 0.0
        seat = min(seat_of(cut, slope, plumb), last - wall)
        if cut.roof.eave_cut == "square" and wall > 0:
            tail = min(section.depth * math.sin(math.atan(slope)), wall)
        tailed = wall - first - tail > TOUCH
        foot = (
            [(first + tail, under(first + tail) if tail == 0 or wall > tail else under(wall))]
            if tailed
            else []
        )
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
    """The side whose wall carries the upper end of a rafter: at the high end of a shed."""
    if head is None or head.kind != "top":
        return None
    middle = ((head.start[0] + head.end[0]) / 2, (head.start[1] + head.end[1]) / 2)
    near = [
        (distance_to_segment(middle, add(e.a, _out(e), e.out), add(e.b, _out(e), e.out)), i)
        for i, e in enumerate(cut.shape.edges)
        if e.slope is None
    ]
    return cut.shape.edges[min(near)[1]] if near and min(near)[0] < 3 * TOUCH else None


def _out(edge: Edge) -> Point:
    length = math.dist(edge.a, edge.b)
    way = ((edge.b[0] - edge.a[0]) / length, (edge.b[1] - edge.a[1]) / length)
    n = left(way)
    return -n[0], -n[1]


def _stops(
    line: RoofLine | None, face: Face, place: Point, way: Point, cut: Cutting, breadth: float
) -> list[Stop]:
    """What a rafter's end meets: the faces of ridges, hips and valleys within its
    breadth."""
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
    p: Piece,
    cut: Cutting,
    edge: Edge,
    section: Section,
    way: Point,
    first: float,
    last: float,
    plumb: float,
    slope: float,
    at_wall: float | None,
) -> tuple[Support, Support]:
    at_plates = partial(strip_under, strips=cut.strips)
    along = _gable_under(p, cut, way, first, last)
    if along:  # it stands on the wall that rises to it, all along
        half = (last - first) / 2
        return tuple(
            Support(at, half, along, add(p.start, way, first + at))
            for at in (half / 2, half * 3 / 2)
        )  # type: ignore[return-value]
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
                gable_support(
                    cut.shape, cut.width or COMMON, at_plates, p.start, way, (first, last), first
                )
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
        None
        if carrier
        else gable_support(
            cut.shape, cut.width or COMMON, at_plates, p.start, way, (first, last), last
        )
    )
    if high is not None:
        return low, high
    return low, Support(last - first, section.depth, carrier, add(p.start, way, last))


def _first_plate(
    p: Piece, cut: Cutting, edge: Edge, way: Point, run: tuple[float, float]
) -> Support | None:
    """The plate that a rafter comes in over beside a corner, where its tail ends at a rake
    instead of an eave."""
    start, end = add(p.start, way, run[0]), add(p.start, way, run[1])
    on, low, high, _ = next(iter(bearings_on(start, end, cut.strips)), (None, 0.0, 0.0, False))
    if not on or high - low > 3 * (cut.width or COMMON) or low > 2 * edge.out + TOUCH:
        return None
    return Support((low + high) / 2, high - low, on, add(start, way, (low + high) / 2))


def _gable_under(p: Piece, cut: Cutting, way: Point, first: float, last: float) -> Rest | None:
    """The gable wall that a rafter lies over; None where it lies over none."""
    gables = {
        HostName("wall", e.name)
        for e in cut.shape.edges
        if e.slope is None and e.rule.kind == "gable"
    }
    if not gables:
        return None
    spots = [add(p.start, way, first + share * (last - first)) for share in (0.35, 0.65, 0.9)]
    under = {strip_under(spot, cut.strips) for spot in spots}
    return under.pop() if len(under) == 1 and under <= gables else None


def _carrier(line: RoofLine | None, place: Point, cut: Cutting) -> MemberName | None:
    if line is None:
        return None
    near = [
        (distance_to_segment(place, s.low[:2], s.high[:2]), i) for i, s in enumerate(cut.sticks)
    ]
    best = min(near, default=None)
    return cut.sticks[best[1]].name if best is not None and best[0] < 10 * ON else None


def _words(
    cut: Cutting,
    edge: Edge,
    section: Section,
    slope: float,
    plumb: float,
    at_wall: float | None,
    ends: Sequence[tuple[float, float]],
    head: RoofLine | None,
) -> tuple[str, ...]:
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
            words.append(
                f"birdsmouth, seat {format_run(seat, cut.system)}, {format_run(deep, cut.system)}"
                " deep"
            )
    if upper_wall(cut, head) is not None:
        words.append(f"birdsmouth at the high wall, seat {format_run(COMMON, cut.system)}")
    return tuple(words)


def _end_words(angle: float, runs: Sequence[float], breadth: float, *, foot: bool) -> str:
    """Say a plumb cut, with the angle of its side cut in plan where it is bevelled, and both where
    it has two."""
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
