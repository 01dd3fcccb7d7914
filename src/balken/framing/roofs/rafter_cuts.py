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
from balken.geometry.solid import Extrusion, bevelled_profile
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


class Lie(NamedTuple):
    """How a rafter lies before its ends are cut: the side it rises from, what it is sawn from, and
    its line."""

    edge: Edge
    section: Section
    way: Point
    """Up the roof, in plan."""
    run: float
    slope: float
    plumb: float
    """Its depth, measured upright, mm."""
    base: float
    """Height of its top where its run begins, on the line of the roof."""
    at_wall: float | None
    """The run at which it comes in over its wall; None where it comes in over none."""

    def top(self, s: float) -> float:
        """The height of its top edge at a run."""
        return self.base + self.slope * s

    def under(self, s: float) -> float:
        """The height of its underside at a run."""
        return self.top(s) - self.plumb


def _lie(p: Piece, face: Face, cut: Cutting) -> Lie:
    edge, slope = cut.shape.edges[face.side], face.pitch
    way = (face.plane[0] / slope, face.plane[1] / slope)
    section = _section_of(p, cut)
    at_eave = p.foot is not None and p.foot.kind == "eave"
    return Lie(
        edge,
        section,
        way,
        dot((p.end[0] - p.start[0], p.end[1] - p.start[1]), way),
        slope,
        section.depth * math.hypot(1.0, slope),
        face.height(p.start),
        wall_at(edge, p.start, way) if at_eave else None,
    )


def _section_of(p: Piece, cut: Cutting) -> Section:
    """What a rafter is cut from: the section chosen by hand, else that of its part, doubled beside
    an opening."""
    change = cut.changes.get(p.name)
    if change and change.section:
        return cut.sections[change.section]
    usual = cut_from(cut.roof, part_of(p.name, kinds.RAFTER), cut.section, cut.sections)
    return cut.sections.get(f"{PLIES_BESIDE}-{usual.name}", usual) if p.trimmer else usual


def cut_rafter(p: Piece, face: Face, cut: Cutting) -> Member | None:
    """One rafter as it is sawn; None where what it meets at its two ends leaves nothing of it."""
    lie = _lie(p, face, cut)
    ends = _ends(p, face, cut, lie)
    first, last = ends[1]
    if last - first < TOUCH:
        return None
    supports = _with_purlin(_supports(p, cut, lie, first, last), p, face, cut, lie.way, first)
    solid = _solid(p, cut, lie, ends)
    mid = lie.base - lie.plumb / 2
    low = (*add(p.start, lie.way, first), mid + lie.slope * first)
    high = (*add(p.start, lie.way, last), mid + lie.slope * last)
    sawn = Member(
        p.name,
        p.mark,
        kinds.TRIMMER if p.trimmer else kinds.RAFTER,
        p.name.host,
        cut.roof.plate,
        lie.section.name,
        f"{cut.roof.species} {cut.roof.grade}",
        solid,
        low,
        high,
        (last - first) * math.hypot(1.0, lie.slope),
        blank_of(solid, low, high),
        _words(cut, lie, ends, p.head),
        lie.slope,
        p.name in cut.changes,
    )
    return carrying(sawn, supports, area=p.area, carries=(0.0, last - first))


def _across(section: Section) -> tuple[float, float, float]:
    """The faces of a rafter and its middle, across it, mm."""
    half = section.breadth / 2
    return -half, 0.0, half


def _ends(p: Piece, face: Face, cut: Cutting, lie: Lie) -> list[tuple[float, float]]:
    """The runs between which a rafter goes, at one face, its middle and the other: to what it meets
    at each end."""
    way, back = lie.way, (-lie.way[0], -lie.way[1])
    heads = _stops(p.head, face, p.end, way, cut, lie.section.breadth)
    feet = _stops(p.foot, face, p.start, back, cut, lie.section.breadth)
    found = []
    for y in _across(lie.section):
        top_end = min(lie.run, nearest_stop(p.start, way, y, heads)) if heads else lie.run
        low_end = max(0.0, -nearest_stop(p.start, back, -y, feet)) if feet else 0.0
        found.append((low_end, top_end))
    return found


def _solid(p: Piece, cut: Cutting, lie: Lie, ends: list[tuple[float, float]]) -> Extrusion:
    wall = lie.at_wall or 0.0  # the side view counts its runs from the outer face of the wall
    rings = []
    for y, (first, last) in zip(_across(lie.section), ends):
        ring = _outline(cut, lie, first, last, p.head)
        rings.append((y, tuple((s - wall, z) for s, z in ring)))
    return bevelled_profile(add(p.start, lie.way, wall), lie.way, tuple(rings))


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


def _outline(cut: Cutting, lie: Lie, first: float, last: float, head: RoofLine | None) -> Ring:
    """The side view of a rafter between two runs: tail, heel cut, seat, underside, head, top
    edge."""
    points, low = [(first, lie.under(first))], lie.under(last)
    if lie.at_wall is not None:
        points, low = _over_wall(cut, lie, lie.at_wall, first, last)
    upper = upper_wall(cut, head)
    if upper is not None:
        out, seat = last - upper.out, min(COMMON, last)
        inner, under = out - seat, lie.under(out)
        points += [(inner, lie.under(inner)), (inner, under), (out, under)]
    points += [(last, low), (last, lie.top(last)), (first, lie.top(first))]
    return tuple(points)


def _over_wall(
    cut: Cutting, lie: Lie, wall: float, first: float, last: float
) -> tuple[list[Point], float]:
    """The corners of tail, heel and seat, five in every outline across - what is not there has them
    in one place - and the height of the head's lower corner."""
    low = lie.under(last)
    seat = min(seat_of(cut, lie.slope, lie.plumb), last - wall)
    tail = 0.0
    if cut.roof.eave_cut == "square" and wall > 0:
        tail = min(lie.section.depth * math.sin(math.atan(lie.slope)), wall)
    tailed = wall - first - tail > TOUCH
    at_tail = (first + tail, lie.under(first + tail))
    if seat <= 0:
        return [at_tail if tailed else (first, lie.under(first))] * 5, low
    plate, end = lie.top(wall) - cut.shape.heel, wall + seat
    foot = [at_tail, (wall, lie.under(wall))] if tailed else [(wall, plate)] * 2
    through = end > last - TOUCH  # a short jack lies on the plate all the way to its head
    rises = not through and plate - lie.under(end) > TOUCH
    drop = lie.under(end) if rises else plate
    return [*foot, (wall, plate), (end, plate), (end, drop)], max(low, plate) if through else low


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
    p: Piece, cut: Cutting, lie: Lie, first: float, last: float
) -> tuple[Support, Support]:
    along = _gable_under(p, cut, lie.way, first, last)
    if along:  # it stands on the wall that rises to it, all along
        half = (last - first) / 2
        return tuple(
            Support(at, half, along, add(p.start, lie.way, first + at))
            for at in (half / 2, half * 3 / 2)
        )  # type: ignore[return-value]
    return _low_support(p, cut, lie, first, last), _high_support(p, cut, lie, first, last)


def _low_support(p: Piece, cut: Cutting, lie: Lie, first: float, last: float) -> Support:
    """What the foot of a rafter bears on: the plate of its wall, what it meets, a gable, or the
    plate it comes in over beside a corner."""
    if lie.at_wall is not None:
        # The top chord of a jack truss stands on its bottom chord, which lies on the whole plate.
        by_seat = cut.roof.framing == "rafters"
        seat = seat_of(cut, lie.slope, lie.plumb) if by_seat else cut.width
        seat = seat or cut.width  # with its heel above it, blocked up from the plate
        spot = add(p.start, lie.way, lie.at_wall + max(seat, TOUCH) / 2)
        under = strip_under(spot, cut.strips)
        return Support(lie.at_wall + seat / 2 - first, seat if under else 0.0, under, spot)
    carrier = p.on[0] or _carrier(p.foot, p.start, cut)
    if not carrier:
        found = _on_gable(p, cut, lie, (first, last), first) or _first_plate(
            p, cut, lie.edge, lie.way, (first, last)
        )
        if found:
            return found
    return Support(0.0, lie.section.depth, carrier, add(p.start, lie.way, first))


def _high_support(p: Piece, cut: Cutting, lie: Lie, first: float, last: float) -> Support:
    """What the head of a rafter bears on: the high wall of a shed, what it meets, or a gable."""
    upper = upper_wall(cut, p.head)
    if upper is not None:
        at = last - upper.out - COMMON / 2
        spot = add(p.start, lie.way, at)
        under = strip_under(spot, cut.strips)
        return Support(at - first, COMMON if under else 0.0, under, spot)
    carrier = p.on[1] or _carrier(p.head, p.end, cut)
    found = None if carrier else _on_gable(p, cut, lie, (first, last), last)
    if found is not None:
        return found
    return Support(last - first, lie.section.depth, carrier, add(p.start, lie.way, last))


def _on_gable(
    p: Piece, cut: Cutting, lie: Lie, run: tuple[float, float], at: float
) -> Support | None:
    under = partial(strip_under, strips=cut.strips)
    return gable_support(cut.shape, cut.width or COMMON, under, p.start, lie.way, run, at)


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
    cut: Cutting, lie: Lie, ends: Sequence[tuple[float, float]], head: RoofLine | None
) -> tuple[str, ...]:
    """Say how a rafter is cut at its foot, its head and its seat."""
    angle, breadth = math.degrees(math.atan(lie.slope)), lie.section.breadth
    square = cut.roof.eave_cut == "square" and (lie.at_wall or 0.0) > 0
    foot = "square" if square else _end_words(angle, [s for s, _ in ends], breadth, foot=True)
    words = [foot, _end_words(angle, [e for _, e in ends], breadth, foot=False)]
    seat = seat_of(cut, lie.slope, lie.plumb)
    if lie.at_wall is not None and seat > 0:
        deep = (lie.plumb - cut.shape.heel) * math.cos(math.atan(lie.slope))
        words.append(
            f"birdsmouth, seat {format_run(seat, cut.system)}, {format_run(deep, cut.system)} deep"
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
