"""Ridges, hips and valleys: the pieces along the lines of a roof, mitred where they meet, seated on
the corners of walls."""

import math
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import Final, NamedTuple

import msgspec

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member, Support, blank_of, carrying
from balken.framing.roofs.gables import gable_support
from balken.framing.roofs.shape import RoofShape
from balken.geometry.plane import (
    EXACT,
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    distance_to_segment,
    dot,
    left,
    rotate,
    sub,
    unit,
)
from balken.geometry.plane import edges as sides_of
from balken.geometry.roof_lines import RoofLine
from balken.geometry.solid import Extrusion, Vector, bevelled_profile
from balken.model.names import HostName, MemberName, Rest, piece_letters
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import INCH, System, format_run

IN_LINE: Final = 0.02
"""Pieces that meet at a smaller angle lie one on the other, radians."""
NODE: Final = 2.0
"""Lines that end this near to one another meet, mm."""
OVER_CORNER: Final = 40.0
"""A hip that passes this near to a corner of the walls stands over it, mm."""
HIGH: Final = 300.0
"""What passes this much higher over a wall than its rafters does not lie on its plate, mm."""
SOUGHT: Final = 10
"""Places along a hip, half a plate apart, at which a gable wall is sought under its end."""
STICKS: Final = ("ridge", "hip", "valley", "break")
LETTERS: Final = {"ridge": "B", "hip": "H", "valley": "V", "break": "P"}
"""Of the marks of the pieces along the lines of a roof."""
SEAT: Final = 3.5 * INCH
"""Bearing of a ridge beam, and of a hip on plates nothing is known of, mm; common practice, no
source."""

Stop = tuple[Point, Point]
"""An upright plane that ends a piece: a place on it, and its normal, pointing out of the piece."""


class Stick(msgspec.Struct, frozen=True, gc=False):
    """A ridge, hip or valley before it is cut: its line on the roof from its low end up, and what
    it is cut from."""

    name: MemberName
    mark: str
    kind: MemberKind
    line: RoofLine
    low: Vector
    high: Vector
    section: Section
    touched: bool = False

    @property
    def way(self) -> Point:
        """Its direction in plan, upward."""
        return unit(sub(self.high[:2], self.low[:2]))

    @property
    def run(self) -> float:
        """Its length in plan, mm."""
        return distance(self.low[:2], self.high[:2])

    @property
    def slope(self) -> float:
        """Rise over run."""
        return (self.high[2] - self.low[2]) / self.run

    @property
    def role(self) -> str:
        """The word of its kind."""
        return self.kind.role


def nearest_stop(start: Point, way: Point, y: float, stops: Sequence[Stop]) -> float:
    """The run at which the first of some planes ends a piece, ``y`` to the right of its
    line."""
    right = (way[1], -way[0])
    at = add(start, right, y)
    return min(dot(sub(place, at), n) / dot(way, n) for place, n in stops)


def stick_stop(stick: Stick, way: Point) -> Stop | None:
    """The face of a ridge, hip or valley that a rafter coming along ``way`` meets; None
    where it runs beside it."""
    n = left(stick.way)
    along = dot(way, n)
    if abs(along) < 0.05:
        return None
    if along < 0:
        n = (-n[0], -n[1])
    return add(stick.low[:2], n, -stick.section.breadth / 2), n


def sticks_of(
    roof: RoofArea,
    shape: RoofShape,
    lines: Sequence[RoofLine],
    section_for: "SectionFor",
    changes: dict[MemberName, Change],
    sections: dict[str, Section],
) -> list[Stick]:
    """The ridges, hips and valleys of a roof, named by the sides they lie between."""
    found: list[Stick] = []
    counts: Counter[tuple[MemberKind, str]] = Counter()
    numbers: Counter[str] = Counter()
    long = [x for x in lines if distance(x.start[:2], x.end[:2]) >= NODE and x.kind in STICKS]
    for line in sorted(long, key=lambda x: (x.kind, _between(shape, x), x.start)):
        kind, sides = _kind_of(roof, line), _between(shape, line)
        more = piece_letters(counts[kind, sides]) if counts[kind, sides] else ""
        counts[kind, sides] += 1
        numbers[line.kind] += 1
        name = MemberName(HostName("roof", roof.id), kind.role, sides + more)
        mark = f"{roof.id}-{LETTERS[line.kind]}{numbers[line.kind]:02d}"
        change = changes.get(name)
        chosen = change.section if change else None
        section = sections[chosen] if chosen else section_for(kind, sides)
        low, high = sorted((line.start, line.end), key=lambda p: p[2])
        found.append(Stick(name, mark, kind, line, low, high, section, change is not None))
    gone = {name for name, c in changes.items() if c.removed}
    return [s for s in found if s.name not in gone]


def _kind_of(roof: RoofArea, line: RoofLine) -> MemberKind:
    """What lies along a line: where planes break there is a purlin, under a ridge a board or
    a beam."""
    if line.kind == "ridge":
        return kinds.RIDGE_BEAM if roof.rafters.ridge == "beam" else kinds.RIDGE
    return {"hip": kinds.HIP, "valley": kinds.VALLEY, "break": kinds.PURLIN}[line.kind]


class SectionFor(NamedTuple):
    """Chooses what a ridge, hip or valley is cut from."""

    rafter: Section
    slope: float
    chosen: dict[tuple[str, str], str]
    """By calculation, by its role and place."""
    sections: dict[str, Section]
    typed: dict[str, str]
    """By the kind of piece."""

    def __call__(self, kind: MemberKind, sides: str, least: Section | None = None) -> Section:
        """What is typed or was chosen; else ``least``, or the shallowest board as deep as
        the rafters' plumb cut (IRC 2021 R802.3)."""
        name = self.typed.get(kind.part or "", self.chosen.get((kind.role, sides)))
        if name is not None and name in self.sections:
            return self.sections[name]
        if least is not None:
            return least
        return boards_for(self.rafter, self.slope, self.sections)[0]


def boards_for(rafter: Section, slope: float, sections: dict[str, Section]) -> list[Section]:
    """The boards as thick as a rafter and as deep as its plumb cut, the shallowest first;
    the deepest where none is."""
    plumb = rafter.depth * math.hypot(1.0, slope)
    alike = (
        s
        for s in sections.values()
        if abs(s.breadth - rafter.breadth) < TOUCH and s.plies == 1 and s.product is None
    )
    boards = sorted(alike, key=lambda s: s.depth)
    return [s for s in boards if s.depth >= plumb - EXACT] or boards[-1:]


def _between(shape: RoofShape, line: RoofLine) -> str:
    names = [
        shape.edges[shape.roof.faces[n].side].name if shape.roof.faces[n].side >= 0 else "top"
        for n in line.faces
    ]
    return "+".join(sorted(names))


class Setting(NamedTuple):
    """What sticks are set on."""

    roof: RoofArea
    shape: RoofShape
    width: float
    """Of the plates, mm."""
    under: Callable[[Point], Rest | None]
    """Finds the plate or beam under a place."""
    system: System
    along: tuple["Stick", ...] = ()
    """What else the upper ends can meet: the girder of a hip end."""


def cut_sticks(sticks: Sequence[Stick], to: Setting) -> list[Member]:
    """Ridges, hips and valleys as they are cut."""
    return [_cut(stick, [*sticks, *to.along], to) for stick in sticks]


def _cut(stick: Stick, sticks: Sequence[Stick], to: Setting) -> Member:
    way, slope, half = stick.way, stick.slope, stick.section.breadth / 2
    back = (-way[0], -way[1])
    plumb = stick.section.depth * math.hypot(1.0, slope)
    drop, backed = _edges(stick, to)
    how = to.roof.rafters.joints
    heads, feet = _mitres(stick, sticks, how, top=True), _mitres(stick, sticks, how, top=False)
    corner = _corner(stick, to.shape, to.width) if stick.kind in (kinds.HIP, kinds.VALLEY) else None
    if (
        corner is not None
        and stick.low[2] + slope * corner.at > corner.plate + to.shape.heel + HIGH
    ):
        corner = None  # it passes high over the wall: over a gable
    if corner is not None:
        feet = _eave_planes(stick, to.shape)
    rings, ends = [], []
    for y in (-half, 0.0, half):
        last = nearest_stop(stick.low[:2], way, y, heads) if heads else stick.run
        first = -nearest_stop(stick.low[:2], back, -y, feet) if feet else 0.0
        ends.append((first, last))
        down = drop + (backed[0] * max(0.0, -y) + backed[1] * max(0.0, y))
        rings.append((y, _outline(stick, first, last, slope, plumb, drop, down, corner, y)))
    first, last = ends[1]
    a, b = add(stick.low[:2], way, first), add(stick.low[:2], way, last)
    mid = stick.low[2] - drop - plumb / 2
    steep = math.hypot(1.0, slope)
    solid = _solid(stick, way, rings)
    low, high = (*a, mid + slope * first), (*b, mid + slope * last)
    square = not any(backed) and all(
        abs(s - first) < TOUCH and abs(e - last) < TOUCH for s, e in ends
    )
    supports = _supports(stick, sticks, to, corner, first, last, plumb)
    sawn = Member(
        stick.name,
        stick.mark,
        stick.kind,
        HostName("roof", to.roof.id),
        to.roof.plate,
        stick.section.name,
        f"{to.roof.species} {to.roof.grade}",
        solid,
        low,
        high,
        (last - first) * steep,
        blank_of(solid, low, high),
        ("square", "square")
        if square
        else _words(stick, to, ends, corner, slope, plumb, drop, backed),
        slope,
        stick.touched,
    )
    return carrying(sawn, supports, carries=(0.0, last - first))


def _solid(stick: Stick, way: Point, rings: Sequence[tuple[float, Ring]]) -> Extrusion:
    return bevelled_profile(stick.low[:2], way, tuple(rings))


def _edges(stick: Stick, to: Setting) -> tuple[float, tuple[float, float]]:
    """How far the middle of the top lies under the line of the roof, and how fast the top
    falls to the left and the right of it, mm per mm."""
    faces = [to.shape.roof.faces[n] for n in stick.line.faces]
    way = stick.way
    n = left(way)
    falls = [f.plane[0] * n[0] + f.plane[1] * n[1] for f in faces]  # rise per mm to the left
    if stick.kind in (kinds.RIDGE, kinds.RIDGE_BEAM, kinds.PURLIN):
        return stick.section.breadth / 2 * min(abs(f) for f in falls), (0.0, 0.0)
    if stick.kind is kinds.VALLEY:
        return 0.0, (0.0, 0.0)
    on_left, on_right = abs(max(falls)), abs(min(falls))
    if falls[0] * falls[1] < 0:
        on_left, on_right = max(falls), -min(falls)
    if to.roof.rafters.hips == "dropped":
        return stick.section.breadth / 2 * max(on_left, on_right), (0.0, 0.0)
    return 0.0, (on_left, on_right)


def _mitres(stick: Stick, sticks: Sequence[Stick], how: str, *, top: bool) -> list[Stop]:
    """The planes that end a piece at the node where it meets others: halfway between it and
    those beside it, or the face of one that goes before it; one that goes before those beside it is
    not cut."""
    node = (stick.high if top else stick.low)[:2]
    onward = stick.way if top else (-stick.way[0], -stick.way[1])
    others = list(_meeting(stick, sticks, node))
    found: list[Stop] = []
    for side in (1.0, -1.0):
        beside = _beside(onward, others, side)
        if beside is None:
            continue
        angle, other = beside
        first, second = _rank(stick, how), _rank(other, how)
        if first == second:
            found += _halfway(node, onward, angle / 2 * side)
        elif first > second:
            found.append(stick_stop(other, onward) or (node, onward))
    return found


def _meeting(stick: Stick, sticks: Sequence[Stick], node: Point) -> Iterator[tuple[Point, Stick]]:
    """The other pieces that end at a node, each with its direction away from it."""
    for other in (s for s in sticks if s.name != stick.name):
        for end, sign in ((other.low, 1.0), (other.high, -1.0)):
            if distance(end[:2], node) < NODE:
                yield (other.way[0] * sign, other.way[1] * sign), other


ORDER: Final = (kinds.RIDGE_BEAM, kinds.RIDGE, kinds.PURLIN, kinds.VALLEY, kinds.HIP)
"""Which goes before which where they butt."""


def _rank(stick: Stick, how: str) -> tuple[int, str]:
    """The place of a piece among those it meets; alike ones are mitred."""
    if how == "mitred":
        return 0, ""
    place = ORDER.index(stick.kind) if stick.kind in ORDER else len(ORDER)
    return place, str(stick.name) if how == "one through" else ""


class Corner(NamedTuple):
    """Where a hip or valley passes over the walls: the run to the corner, the faces of the walls
    there, the plate's height."""

    at: float
    faces: tuple[Stop, ...]
    plate: float
    inside: bool
    """At an inside corner, under a valley."""
    width: float
    """Of the plates, mm."""

    def seat(self, stick: Stick, y: float, bottom: float) -> tuple[float, float]:
        """From where to where a piece lies on the plates, ``y`` to the right of its line, mm
        of its run.

        Args:
            stick: the piece.
            y: how far to the right.
            bottom: height of its underside where its run begins, mm.
        """
        way = stick.way
        start = add(stick.low[:2], (way[1], -way[0]), y)
        runs = [
            (dot(sub(p, start), n) / dot(way, n), dot(way, n))
            for p, n in self.faces
            if abs(dot(way, n)) > 0.05
        ]
        if not runs:
            return self.at, self.at
        outer = min(r for r, _ in runs) if self.inside else max(r for r, _ in runs)
        inner = max(r + self.width / d for r, d in runs)
        return outer, max(outer, min(inner, (self.plate - bottom) / stick.slope))


def _corner(stick: Stick, shape: RoofShape, width: float) -> Corner | None:
    """Where a piece passes over the walls: at a corner, or somewhere along a wall."""
    a, b = stick.low[:2], stick.high[:2]
    offsets = [(distance_to_segment(e.a, a, b), n) for n, e in enumerate(shape.edges)]
    off, n = min(offsets)
    if off >= OVER_CORNER:
        return _over_one_wall(stick, shape, width or SEAT)
    one, other = shape.before(n), shape.edges[n]
    at = dot(sub(other.a, a), stick.way)
    faces = tuple((e.a, left(unit(sub(e.b, e.a)))) for e in (one, other))
    turn = cross(sub(one.b, one.a), sub(other.b, other.a))
    return Corner(at, faces, max(one.plate, other.plate), turn < 0, width or SEAT)


def _over_one_wall(stick: Stick, shape: RoofShape, width: float) -> Corner | None:
    """Where a piece comes in over a wall between its corners."""
    a, b = stick.low[:2], stick.high[:2]
    for edge in shape.edges:
        inward = left(unit(sub(edge.b, edge.a)))
        da, db = dot(sub(a, edge.a), inward), dot(sub(b, edge.a), inward)
        if da < -TOUCH and db > TOUCH:
            at = stick.run * -da / (db - da)
            if distance_to_segment(add(a, stick.way, at), edge.a, edge.b) < TOUCH:
                return Corner(at, ((edge.a, inward),), edge.plate, inside=False, width=width)
    return None


def _eave_planes(stick: Stick, shape: RoofShape) -> list[Stop]:
    """The planes of the eaves that end the tail of a hip or valley."""
    back = (-stick.way[0], -stick.way[1])
    found: list[Stop] = []
    for a, b in (side for ring in (shape.eaves, *shape.court_eaves) for side in sides_of(ring)):
        if distance_to_segment(stick.low[:2], a, b) < OVER_CORNER:
            n = left(unit(sub(b, a)))
            out = (-n[0], -n[1])
            if dot(out, back) > 0.05:
                found.append((a, out))
    return found


def _outline(
    stick: Stick,
    first: float,
    last: float,
    slope: float,
    plumb: float,
    drop: float,
    down: float,
    corner: Corner | None,
    y: float,
) -> Ring:
    base = stick.low[2]

    def top(s: float) -> float:
        return base + slope * s - down

    def under(s: float) -> float:
        return base + slope * s - drop - plumb

    points: list[Point] = []
    if corner is not None:
        # The same five corners in every outline across: of tail, heel and seat. What is not there
        # has them in one place.
        wall, seat_end = corner.seat(stick, y, base - drop - plumb)
        tail = [(first, under(first)), (wall, under(wall))] if wall - first > TOUCH else []
        if seat_end > wall + TOUCH:
            tail = tail or [(wall, corner.plate)] * 2
            points += [
                *tail,
                (wall, corner.plate),
                (seat_end, corner.plate),
                (seat_end, under(seat_end)),
            ]
        else:
            tail = tail or [(first, under(first))]
            points += [*tail, *[tail[-1]] * (5 - len(tail))]
    else:
        points.append((first, under(first)))
    points += [(last, under(last)), (last, top(last)), (first, top(first))]
    return tuple(points)


def _supports(
    stick: Stick,
    sticks: Sequence[Stick],
    to: Setting,
    corner: Corner | None,
    first: float,
    last: float,
    plumb: float,
) -> tuple[Support, ...]:
    if stick.kind is kinds.RIDGE:
        return ()
    if stick.kind in (kinds.RIDGE_BEAM, kinds.PURLIN):
        return tuple(_under_ends(stick, sticks, to, first, last))
    way = stick.way
    if corner is not None:
        drop, _ = _edges(stick, to)
        # At the hip end of a set of trusses the hip stands on the bottom chords, which lie on the
        # whole plate.
        bottom = stick.low[2] - drop - plumb if to.roof.framing == "rafters" else -math.inf
        wall, end = corner.seat(stick, 0.0, bottom)
        spot = add(stick.low[:2], way, wall + max(end - wall, TOUCH) / 2)
        under = to.under(spot)
        low = Support((wall + end) / 2 - first, end - wall if under else 0.0, under, spot)
    else:
        low = Support(
            0.0, stick.section.breadth, _lower_of(stick, sticks), add(stick.low[:2], way, first)
        )
        low = low if low.on else _on_gable(stick, to, first, last, first) or low
    high = Support(
        last - first, stick.section.depth, _upper_of(stick, sticks), add(stick.low[:2], way, last)
    )
    return low, high if high.on else _on_gable(stick, to, first, last, last) or high


def _on_gable(stick: Stick, to: Setting, first: float, last: float, end: float) -> Support | None:
    """What an end bears on over a gable wall: where it crosses the wall, else where it first
    comes over its corner."""
    width = to.width or SEAT
    found = gable_support(to.shape, width, to.under, stick.low[:2], stick.way, (first, last), end)
    gables = {
        HostName("wall", e.name)
        for e in to.shape.edges
        if e.slope is None and e.rule.kind == "gable"
    }
    inward = 1.0 if end == first else -1.0
    for k in range(SOUGHT if found is None else 0):
        at = end + inward * (k + 0.5) * width / 2
        spot = add(stick.low[:2], stick.way, at)
        if first < at < last and to.under(spot) in gables:
            return Support(at - first, width, to.under(spot), spot)
    return found


def _at_node(node: Point, sticks: Sequence[Stick], but: Stick) -> list[Stick]:
    return [
        s
        for s in sticks
        if s is not but and any(distance(p[:2], node) < 2 * NODE for p in (s.low, s.high))
    ]


def _beside(
    onward: Point, others: Sequence[tuple[Point, Stick]], side: float
) -> tuple[float, Stick] | None:
    """The piece next to another round their node, to one side, and the angle between them."""
    out = (-onward[0], -onward[1])
    angles = [
        (math.atan2(side * cross(out, d), dot(out, d)) % (2 * math.pi), n)
        for n, (d, _) in enumerate(others)
    ]
    angle, n = min(angles, default=(0.0, 0))
    return (angle, others[n][1]) if IN_LINE <= angle <= math.pi + IN_LINE / 2 else None


def _halfway(node: Point, onward: Point, turn: float) -> list[Stop]:
    """The plane through a node that is turned from a piece by an angle; none where it would cut
    along the piece."""
    line = rotate((-onward[0], -onward[1]), turn)
    n = left(line)
    if dot(n, onward) < 0:
        n = (-n[0], -n[1])
    return [(node, n)] if dot(n, onward) > 0.1 else []


def _upper_of(stick: Stick, sticks: Sequence[Stick]) -> MemberName | None:
    """What a hip or valley leans on at its upper end: a ridge, else what goes on from
    there."""
    there = _at_node(stick.high[:2], sticks, stick)
    ranked = sorted(there, key=lambda s: (s.kind not in (kinds.RIDGE_BEAM, kinds.RIDGE), s.name))
    if not ranked:  # it ends along another: a hip of a set of trusses at its girder
        ranked = [
            s
            for s in sticks
            if s is not stick and distance_to_segment(stick.high[:2], s.low[:2], s.high[:2]) < NODE
        ]
    return ranked[0].name if ranked else None


def _lower_of(
    stick: Stick, sticks: Sequence[Stick], node: Point | None = None
) -> MemberName | None:
    """What carries the foot of a hip or valley that does not reach the walls (or another
    node): what comes up to it from below."""
    foot = stick.low[:2] if node is None else node
    there = [
        s
        for s in _at_node(foot, sticks, stick)
        if distance(s.high[:2], foot) < 2 * NODE
        and s.kind in (kinds.HIP, kinds.VALLEY, kinds.RIDGE_BEAM)
    ]
    ranked = sorted(
        there, key=lambda s: (s.kind not in (kinds.VALLEY, kinds.HIP, kinds.RIDGE_BEAM), s.name)
    )
    return ranked[0].name if ranked else None


def _under_ends(
    stick: Stick, sticks: Sequence[Stick], to: Setting, first: float, last: float
) -> Iterable[Support]:
    """What a ridge beam bears on at its ends: the gable walls under it, posts, props on what
    lies at the plates."""
    way, seat = stick.way, SEAT
    for at, inward in ((first, 1.0), (last, -1.0)):
        edge = min(
            to.shape.edges, key=lambda e: distance_to_segment(add(stick.low[:2], way, at), e.a, e.b)
        )
        n = left(unit(sub(edge.b, edge.a)))
        end = add(stick.low[:2], way, at)
        deep = dot(sub(end, edge.a), n)
        carrier = _lower_of(stick, sticks, node=end) if stick.kind is kinds.PURLIN else None
        if carrier:  # where hips come up to it, they push against each other through it
            yield Support(at - first, stick.section.depth, carrier, end, hung=True)
            continue
        on_wall = edge.slope is None and deep <= TOUCH
        move = (seat / 2 - deep) if on_wall else seat / 2
        spot = add(end, way, inward * move)
        under = to.under(spot)
        if not on_wall and under and under.host.kind != "support":
            # A prop down to the wall or beam that lies there.
            under = MemberName(stick.name.host, "strut", stick.name.row, "a" if inward > 0 else "b")
        yield Support(at + inward * move - first, seat if under else 0.0, under, spot)


def _words(
    stick: Stick,
    to: Setting,
    ends: Sequence[tuple[float, float]],
    corner: Corner | None,
    slope: float,
    plumb: float,
    drop: float,
    backed: tuple[float, float],
) -> tuple[str, ...]:
    angle = math.atan(slope)
    upright = f"plumb {math.degrees(angle):.1f}°" if slope > 1e-6 else "square"
    words = [upright + _side_cuts([e[k] for e in ends], stick.section.breadth / 2) for k in (0, 1)]
    if corner is not None:
        bottom = stick.low[2] - drop - plumb
        wall, end = corner.seat(stick, 0.0, bottom)
        seat, deep = end - wall, (corner.plate - bottom - slope * wall) * math.cos(angle)
        words.append(
            f"birdsmouth, seat {format_run(seat, to.system)}, {format_run(deep, to.system)} deep"
        )
    if stick.kind is kinds.HIP and any(backed):
        # Square to the hip the fall is the same over a run as long: backing is measured across the
        # piece.
        one, other = (math.degrees(math.atan(f * math.cos(angle))) for f in backed)
        words.append(f"backed {one:.1f}° and {other:.1f}°")
    elif stick.kind is kinds.HIP:
        words.append(f"dropped {format_run(drop, to.system)}")
    return tuple(words)


def _side_cuts(runs: Sequence[float], half: float) -> str:
    """The bevels of an end, from the runs at one face, the middle and the other."""
    near, middle, far = runs
    bevels = [
        f"{math.degrees(math.atan2(abs(middle - r), half)):.1f}°"
        for r in (near, far)
        if abs(middle - r) > TOUCH / 4
    ]
    return f", side cuts {' and '.join(bevels)}" if bevels else ""
