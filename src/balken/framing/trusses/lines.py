"""One truss under a roof: its axes from the line of the roof over it, and the outlines its pieces
are cut to."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Any, Final, NamedTuple

import msgspec

from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.trusses.shapes import LAYOUTS, Piece, Truss, height_on, of_kind
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    dot,
    left,
    signed_area,
    simplify,
    sub,
    unit,
)

LONGEST_PANEL: Final = 2400.0
"""Of the top chord of a truss that is divided by rule, mm (8 ft; common practice, no source)."""
SHORTEST_STUD: Final = 150.0
"""A shorter stud of a gable truss is left out, mm."""
LEAST_DEPTH: Final = 50.0
"""Between the middle lines of the chords of a truss that is divided by rule, mm."""
LEAST_TAIL: Final = 150.0
"""A top chord that reaches no further past its end joint is not analysed as a tail, mm."""
PAST: Final = 200.0
"""A piece of a chord whose middle lies so far past its ends still belongs to it, mm."""
SNAP: Final = 100.0
"""A bearing this near to a joint of the chord that lies on it bears at the joint, mm."""
POST_FROM: Final = 200.0
"""A post over a bearing inside a heel is no shorter, and stands no nearer to a brace, mm."""
CLEAR: Final = 13.0
"""Between a plate and the end of a truss whose top chord lies on it, mm (½ in; common practice, no
source)."""
CLOSEST: Final = 150.0
"""Joints of a chord that are moved come no nearer to one another, mm."""
LEVEL: Final = 1e-3
"""A chord that rises less is level."""
AT_HEEL: Final = 60.0
"""Of the bearing of a raised heel, from the outer face to the middle of its post, mm."""


class Profile(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """The line of the roof over a truss: places ``(s, z)``, s from the outer face of the left wall,
    z over the plate, mm.

    It begins and ends at the eaves, past the walls where there is an overhang.
    """

    points: tuple[Point, ...]
    span: float
    """Between the outer faces of the walls."""
    upright: tuple[bool, bool] = (False, False)
    """Whether the left, the right end stands upright at a wall or a girder, as of a mono."""
    hang: float | None = None
    """How far its underside lies under the plate where its top chord bears; None where its bottom
    chord does."""

    def slopes(self) -> list[float]:
        """The rise over run of its stretches."""
        return [(b[1] - a[1]) / (b[0] - a[0]) for a, b in pairwise(self.points)]

    def height(self, s: float) -> float:
        """The height of the roof at a place."""
        for (a, za), (b, zb) in pairwise(self.points):
            if s <= b + TOUCH:
                return za + (zb - za) * (s - a) / (b - a)
        return self.points[-1][1]


class Asked(NamedTuple):
    """What is asked of a truss besides its shape."""

    panels: int = 0
    """Of each stretch of the top chord; by the shape where nothing."""
    moved: tuple[tuple[int, float], ...] = ()
    """Joints by their number from 1, and how far along the span each is moved, mm."""
    bears: tuple[float, float] | None = None
    """Where the middles of its bearings lie, mm from the outer face of the left wall; at its heels
    where nothing is said."""


PLAIN: Final = Asked()


class Cut(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """Depths of what a truss is cut from, mm."""

    top: float
    bottom: float
    web: float


def axes_of(profile: Profile, depth: float) -> list[Point]:
    """The middle line of a top chord under a line of the roof: its stretches lowered by half
    its depth square to them."""
    lowered = [
        (a, z, k, depth / 2 * math.hypot(1, k))
        for (a, z), k in zip(profile.points, profile.slopes())
    ]
    found: list[Point] = [(lowered[0][0], lowered[0][1] - lowered[0][3])]
    for (a, z, k, d), (b, y, m, e) in pairwise(lowered):
        s = b if abs(k - m) < 1e-9 else ((y - e - m * b) - (z - d - k * a)) / (k - m)
        found.append((s, z - d + k * (s - a)))
    end, z = profile.points[-1]
    found.append((end, z - lowered[-1][3]))
    return found


def truss_under(
    profile: Profile, kind: str, cut: Cut, bottom_rise: float = 0.0, asked: Asked = PLAIN
) -> Truss:
    """The lines of a truss under a line of the roof.

    With two slopes, or one where the far end is upright, it has the shape of its kind; else it is
    divided into panels with posts and braces. Where the roof stands higher over the wall than both
    chords need, the heel is raised on a post.

    Raises:
        BalkenError: it leaves no room for a truss.
    """
    if len(profile.points) < 2:
        raise BalkenError("no plane of the roof lies over it")
    axis = axes_of(profile, cut.top)
    bears = asked.bears or (0.0, profile.span)
    heels = (_heel(profile, axis, cut, 0, bears), _heel(profile, axis, cut, 1, bears))
    line = _between_heels(axis, heels)
    two = len(line) == (2 if kind == "mono" else 3)
    by_kind = two and kind in LAYOUTS and not asked.panels and _common_heels(heels, kind)
    if by_kind:
        joints, pieces = of_kind(kind, line, bottom_rise)
    else:
        joints, pieces = _panelled(line, heels[0][0], heels[1][0], bottom_rise, asked.panels)
    if two:
        joints = moved_joints(joints, pieces, asked.moved)
    ends = (
        pieces[_first(pieces, kinds.BOTTOM_CHORD)].start,
        pieces[_last(pieces, kinds.BOTTOM_CHORD)].end,
    )
    joints, pieces = _with_tails(axis, joints, pieces, LEAST_TAIL if profile.hang is None else SNAP)
    first, last = (_bearing(profile, cut, joints, pieces, end, ends[end], asked) for end in (0, 1))
    return Truss(kind if by_kind else "panels", tuple(joints), tuple(pieces), (first, last))


Heels = tuple[tuple[Point, Point], tuple[Point, Point]]
"""At each end of a truss the joint of its bottom chord and that of its top chord."""


def _between_heels(axis: Sequence[Point], heels: Heels) -> list[Point]:
    """The middle line of a top chord from heel to heel."""
    (_, left), (_, right) = heels
    inner = [p for p in axis[1:-1] if left[0] + TOUCH < p[0] < right[0] - TOUCH]
    return [left, *inner, right]


def _common_heels(heels: Heels, kind: str) -> bool:
    """Whether the chords meet in one joint at each heel; a mono's far end is upright."""
    (low, left), (far, right) = heels
    return low == left and (far == right or kind == "mono")


def _bearing(
    profile: Profile,
    cut: Cut,
    joints: list[Point],
    pieces: list[Piece],
    end: int,
    heel: int,
    asked: Asked,
) -> int:
    """The joint over a bearing: the heel, or where the wall lies inside it one of the chord that
    bears, propped if need be."""
    if asked.bears is None:
        return heel
    at = asked.bears[end]
    if profile.hang is not None:
        return _joint_at(joints, pieces, kinds.TOP_CHORD, at)
    if abs(joints[heel][0] - at) <= max(_scarf(profile, cut, end), cut.web):
        return heel
    found = _joint_at(joints, pieces, kinds.BOTTOM_CHORD, at)
    _prop(joints, pieces, found, heel)
    return found


def _scarf(profile: Profile, cut: Cut, end: int) -> float:
    """How far the chords lie on one another at a heel, mm: a bearing under them is one at
    the joint."""
    slopes = profile.slopes()
    slope = abs(slopes[0] if end == 0 else slopes[-1])
    heel = profile.height(0.0 if end == 0 else profile.span)
    return (
        max(0.0, (cut.bottom - heel + cut.top * math.hypot(1, slope)) / slope)
        if slope > LEVEL
        else 0.0
    )


def _joint_at(joints: list[Point], pieces: list[Piece], kind: MemberKind, s: float) -> int:
    """The joint of a chord at a place; where none is near, the piece there is divided.

    Raises:
        BalkenError: the chord does not reach there.
    """
    of = [i for i, p in enumerate(pieces) if p.kind is kind]
    near = min(
        (n for i in of for n in (pieces[i].start, pieces[i].end)),
        key=lambda n: abs(joints[n][0] - s),
    )
    if abs(joints[near][0] - s) < SNAP:
        return near
    for i in of:
        a, b = joints[pieces[i].start], joints[pieces[i].end]
        if a[0] < s < b[0]:
            joints.append((s, a[1] + (b[1] - a[1]) * (s - a[0]) / (b[0] - a[0])))
            new = len(joints) - 1
            pieces[i : i + 1] = [Piece(kind, pieces[i].start, new), Piece(kind, new, pieces[i].end)]
            return new
    raise BalkenError(
        f"its {kind.role} does not reach its bearing {s:.0f} mm from the outer face of the wall"
    )


def _prop(joints: list[Point], pieces: list[Piece], bearing: int, heel: int) -> None:
    """Add the webs over a bearing inside a heel, where the shape has none: a brace to the first
    joint that the next web inward goes up to, and a post beside it where that stands further in."""
    webs = [p for p in pieces if p.kind is kinds.WEB]
    if _joined(webs, bearing):
        return
    s = joints[bearing][0]
    inward = 1.0 if s > joints[heel][0] else -1.0
    bottom = [p for p in pieces if p.kind is kinds.BOTTOM_CHORD]
    beside = sorted(_joined(bottom, bearing), key=lambda n: joints[n][0] * inward)
    top = _first_top(joints, pieces, _joined(webs, beside[-1]), inward)
    if top is None:
        return
    pieces.append(Piece(kinds.WEB, bearing, top))
    if beside[0] == heel and (joints[top][0] - s) * inward > POST_FROM:
        head = _joint_at(joints, pieces, kinds.TOP_CHORD, s)
        if head not in (top, heel) and joints[head][1] - joints[bearing][1] > POST_FROM:
            pieces.append(Piece(kinds.WEB, bearing, head))


def _first_top(
    joints: list[Point], pieces: list[Piece], among: list[int], inward: float
) -> int | None:
    """The first of some joints, going inward, that lies on the top chord."""
    top = {n for p in pieces if p.kind is kinds.TOP_CHORD for n in (p.start, p.end)}
    return min(top.intersection(among), key=lambda n: joints[n][0] * inward, default=None)


def _joined(pieces: Sequence[Piece], joint: int) -> list[int]:
    """The joints at the other end of the pieces that meet a joint."""
    mine = [p for p in pieces if joint in (p.start, p.end)]
    return [n for p in mine for n in (p.start, p.end) if n != joint]


def moved_joints(
    joints: Sequence[Point], pieces: Sequence[Piece], moved: Sequence[tuple[int, float]]
) -> list[Point]:
    """Joints of which some are moved along their chords, no further than to the joints
    beside them.

    Ends of chords and joints where a chord bends stay.
    """
    found = list(joints)
    for number, shift in moved:
        n = number - 1
        beside = beside_on_chord(pieces, n)
        if beside is None:
            continue
        a, here, b = joints[beside[0]], joints[n], joints[beside[1]]
        if abs(cross(unit(sub(here, a)), unit(sub(b, here)))) > 1e-6:
            continue
        low, high = found[beside[0]][0] + CLOSEST, found[beside[1]][0] - CLOSEST
        if low < high:
            s = min(max(here[0] + shift, low), high)
            found[n] = (s, a[1] + (b[1] - a[1]) * (s - a[0]) / (b[0] - a[0]))
    return found


def beside_on_chord(pieces: Sequence[Piece], joint: int) -> tuple[int, int] | None:
    """The joints before and after a joint along its chord; None at the ends of a chord."""
    chords = [p for p in pieces if p.kind is not kinds.WEB]
    before = next((p for p in chords if p.end == joint), None)
    after = next((p for p in chords if p.start == joint), None)
    if before is None or after is None or before.kind is not after.kind:
        return None
    return before.start, after.end


def _first(pieces: Sequence[Piece], kind: MemberKind) -> int:
    return next(i for i, p in enumerate(pieces) if p.kind is kind)


def _last(pieces: Sequence[Piece], kind: MemberKind) -> int:
    return max(i for i, p in enumerate(pieces) if p.kind is kind)


def _heel(
    profile: Profile, axis: Sequence[Point], cut: Cut, end: int, bears: tuple[float, float]
) -> tuple[Point, Point]:
    """The joint of the bottom chord and that of the top chord at an end; one and the same at
    a common heel."""
    low = cut.bottom / 2
    wall = 0.0 if end == 0 else profile.span
    into = 1.0 if end == 0 else -1.0
    if profile.hang is not None:  # a post clear of the plate
        s = wall + into * (2 * abs(bears[end] - wall) + CLEAR + cut.web / 2)
        return (s, low - profile.hang), (s, height_on(axis, s))
    if profile.upright[end]:
        s = wall + into * cut.web / 2
        return (s, low), (s, height_on(axis, s))
    (a, za), (b, zb) = (axis[0], axis[1]) if end == 0 else (axis[-1], axis[-2])
    slope = (zb - za) / (b - a)
    at = height_on(axis, wall)
    if at - low > cut.bottom / 2 + cut.top * math.hypot(1, slope) and abs(slope) > 1e-9:
        s = wall + into * AT_HEEL
        return (s, low), (s, height_on(axis, s))
    if abs(slope) < LEVEL:
        raise BalkenError("its top chord lies level over the wall")
    s = a + (low - za) / slope
    return (s, low), (s, low)


def _panelled(
    line: Sequence[Point], left: Point, right: Point, rise: float, panels: int = 0
) -> tuple[list[Point], list[Piece]]:
    """Divide a truss into panels: a post under every joint of the top chord, and a brace across
    each panel, falling outwards."""
    joints = _panel_points(line, panels)
    top = list(range(len(joints)))
    meets = (left == line[0], right == line[-1])
    bottom = _bottom_joints(joints, (left, right), meets, rise)
    if any(joints[t][1] - joints[b][1] < LEAST_DEPTH for t, b in zip(top, bottom) if t != b):
        what = f"its bottom chord rises {rise:.0f} mm and" if rise else "the roof"
        raise BalkenError(f"{what} leaves no depth between the chords")
    pieces = [Piece(kinds.TOP_CHORD, a, b) for a, b in pairwise(top)]
    pieces += [Piece(kinds.BOTTOM_CHORD, a, b) for a, b in pairwise(bottom)]
    middle = (left[0] + right[0]) / 2
    nexts = [*zip(top[1:], bottom[1:]), None]
    for over, under, beyond in zip(top, bottom, nexts):
        if over != under:
            pieces.append(Piece(kinds.WEB, under, over))
            pieces += _brace(joints, (over, under), beyond, middle)
    return joints, pieces


def _panel_points(line: Sequence[Point], panels: int) -> list[Point]:
    """The joints of a top chord: its bends, and what divides it between them."""
    tops = [line[0]]
    for a, b in pairwise(line):
        parts = panels or max(1, math.ceil(distance(a, b) / LONGEST_PANEL))
        tops += [
            (a[0] + (b[0] - a[0]) * k / parts, a[1] + (b[1] - a[1]) * k / parts)
            for k in range(1, parts + 1)
        ]
    return tops


def _bottom_joints(
    joints: list[Point], heels: tuple[Point, Point], meets: tuple[bool, bool], rise: float
) -> list[int]:
    """The joints of the bottom chord, under those of the top chord; they are added to the joints
    but at a heel where both chords meet."""
    left, right = heels
    count = len(joints)
    middle, half = (left[0] + right[0]) / 2, max(right[0] - left[0], TOUCH) / 2
    inner = [(s, left[1] + rise * (1 - abs(s - middle) / half)) for s, _ in joints[1 : count - 1]]
    ends = (0 if meets[0] else None, count - 1 if meets[1] else None)
    found = []
    for shared, place in zip((ends[0], *(None for _ in inner), ends[1]), (left, *inner, right)):
        found.append(len(joints) if shared is None else shared)
        if shared is None:
            joints.append(place)
    return found


def _brace(
    joints: Sequence[Point],
    here: tuple[int, int],
    beyond: tuple[int, int] | None,
    middle: float,
) -> list[Piece]:
    """The brace across a panel, which falls away from the middle of the truss; none past the last
    post, and none in a panel whose chords meet."""
    over, under = here
    if beyond is None or beyond[0] == beyond[1]:
        return []
    if (joints[over][0] + joints[beyond[0]][0]) / 2 < middle:
        return [Piece(kinds.WEB, under, beyond[0])]
    return [Piece(kinds.WEB, beyond[1], over)]


def _with_tails(
    axis: Sequence[Point], joints: list[Point], pieces: list[Piece], least: float
) -> tuple[list[Point], list[Piece]]:
    """Add what the top chord reaches out past its end joints."""
    first, last = _first(pieces, kinds.TOP_CHORD), _last(pieces, kinds.TOP_CHORD)
    head, tail = pieces[first].start, pieces[last].end
    if joints[head][0] - axis[0][0] > least:
        joints.append(axis[0])
        pieces.insert(first, Piece(kinds.TOP_CHORD, len(joints) - 1, head))
        last += 1
    if axis[-1][0] - joints[tail][0] > least:
        joints.append(axis[-1])
        pieces.insert(last + 1, Piece(kinds.TOP_CHORD, tail, len(joints) - 1))
    return joints, pieces


class Shaped(msgspec.Struct, frozen=True, gc=False):
    """A piece of a truss as it is cut: its kind, outline in the truss's plane, middle line, and the
    pieces of the lines it is."""

    kind: MemberKind
    outline: Ring
    start: Point
    end: Point
    of: tuple[int, ...]

    @property
    def length(self) -> float:
        """Along its middle line, mm."""
        return distance(self.start, self.end)

    @property
    def role(self) -> str:
        """The word of its kind."""
        return self.kind.role


def shaped(truss: Truss, profile: Profile, cut: Cut) -> list[Shaped]:
    """The pieces of a truss as they are cut: chords in one piece from break to break, webs
    between them."""
    from shapely import Polygon

    tops = _top_chords(truss, profile, cut)
    bottoms = _bottom_chords(truss, profile, cut)
    found = tops + bottoms
    body = [Polygon(p.outline).buffer(0.01) for p in found]
    inside = _inside(profile, truss)
    for chord in body:
        inside = inside.difference(chord)
    for i, piece in enumerate(truss.pieces):
        if piece.kind is kinds.WEB:
            made = _web(i, truss, inside, cut.web)
            if made is not None:
                found.append(made)
    return found


def studs(pieces: Sequence[Shaped], profile: Profile, spacing: float, breadth: float) -> list[Ring]:
    """The studs of a gable truss, upright between its chords and webs at a spacing from its
    middle, flat in its plane."""
    from shapely import Polygon, box, union_all

    body = union_all([Polygon(p.outline).buffer(0.5) for p in pieces])
    base = -(profile.hang or 0.0)
    inside = Polygon([(0.0, base), (profile.span, base), *reversed(profile.points)]).buffer(0)
    found: list[Ring] = []
    count = int(profile.span / 2 / spacing)
    for k in range(-count, count + 1):
        x = profile.span / 2 + k * spacing
        strip = (
            box(x - breadth / 2, base, x + breadth / 2, profile.height(x))
            .intersection(inside)
            .difference(body)
        )
        for part in getattr(strip, "geoms", [strip]):
            ring = _ring(part)
            if ring is not None and part.bounds[3] - part.bounds[1] > SHORTEST_STUD:
                found.append(ring)
    return found


def _inside(profile: Profile, truss: Truss) -> Any:
    from shapely import Polygon

    chord = truss.chord(kinds.BOTTOM_CHORD)
    left, right = truss.joints[chord[0].start][0] - 200.0, truss.joints[chord[-1].end][0] + 200.0
    over = [p for p in profile.points if left < p[0] < right]
    low, high = max(left, 0.0), min(right, profile.span)
    base = -(profile.hang or 0.0)
    return Polygon(
        [
            (low, base),
            (high, base),
            (high, profile.height(high)),
            *reversed(over),
            (low, profile.height(low)),
        ]
    ).buffer(0)


def _top_chords(truss: Truss, profile: Profile, cut: Cut) -> list[Shaped]:
    found = []
    for (a, za), (b, zb) in pairwise(profile.points):
        plumb = cut.top * math.hypot(1, (zb - za) / (b - a))
        mine = tuple(
            i
            for i, p in enumerate(truss.pieces)
            if p.kind is kinds.TOP_CHORD
            and a - 60 <= (truss.joints[p.start][0] + truss.joints[p.end][0]) / 2 <= b + 60
        )
        ring = ((a, za - plumb), (b, zb - plumb), (b, zb), (a, za))
        found.append(Shaped(kinds.TOP_CHORD, ring, (a, za - plumb / 2), (b, zb - plumb / 2), mine))
    return found


def _bottom_chords(truss: Truss, profile: Profile, cut: Cut) -> list[Shaped]:
    """The bottom chord, cut to the underside of the top chord at its ends; of scissors in
    two."""
    from shapely import Polygon

    of = [(i, p) for i, p in enumerate(truss.pieces) if p.kind is kinds.BOTTOM_CHORD]
    line = [truss.joints[of[0][1].start], *(truss.joints[p.end] for _, p in of)]
    first, last = line[0], line[-1]
    low = 0.0 if profile.upright[0] else min(0.0, first[0])
    ends = (0.0, profile.span)
    if profile.hang is not None:
        ends = (first[0] - cut.web / 2, last[0] + cut.web / 2)
    under = reversed(_under(profile, cut, 0.0, profile.span))
    roof = Polygon([(low, -1e4), (profile.span, -1e4), *under]).buffer(0)
    found = []
    for a, b in pairwise([(ends[0], first[1]), *_bends(line), (ends[1], last[1])]):
        lift = cut.bottom / 2 / unit(sub(b, a))[0]
        ring = ((a[0], a[1] - lift), (b[0], b[1] - lift), (b[0], b[1] + lift), (a[0], a[1] + lift))
        shape = Polygon(ring).intersection(roof)
        middles = [(i, (truss.joints[p.start][0] + truss.joints[p.end][0]) / 2) for i, p in of]
        mine = tuple(i for i, s in middles if a[0] - PAST <= s <= b[0] + PAST)
        found.append(Shaped(kinds.BOTTOM_CHORD, _ring(shape) or ring, a, b, mine))
    return found


def _bends(line: Sequence[Point]) -> list[Point]:
    """The joints of a chord where it is not straight."""
    return [
        here
        for a, here, b in zip(line, line[1:], line[2:])
        if abs(cross(unit(sub(here, a)), unit(sub(b, here)))) > 1e-6
    ]


def _under(profile: Profile, cut: Cut, low: float, high: float) -> list[Point]:
    """The underside of the top chord between two places."""
    points = []
    for (a, za), (b, zb) in pairwise(profile.points):
        k = (zb - za) / (b - a)
        plumb = cut.top * math.hypot(1, k)
        for s in (max(a, low), min(b, high)):
            if a - TOUCH <= s <= b + TOUCH and low - TOUCH <= s <= high + TOUCH:
                points.append((s, za + k * (s - a) - plumb))
    return points


def _web(i: int, truss: Truss, inside: Any, depth: float) -> Shaped | None:
    """Cut one web between the chords, and halfway between it and the webs beside it where they
    meet."""
    piece = truss.pieces[i]
    a, b = truss.joints[piece.start], truss.joints[piece.end]
    way = unit(sub(b, a))
    shape = _strip(add(a, way, -400.0), add(b, way, 400.0), depth).intersection(inside)
    for joint, out in ((piece.start, way), (piece.end, (-way[0], -way[1]))):
        for along in _webs_away(i, truss, joint):
            half = _halved(truss.joints[joint], out, along)
            shape = shape if half is None else shape.intersection(half)
    ring = _ring(shape)
    if ring is None:
        return None
    stations = [dot(sub(x, a), way) for x in ring]
    low, high = min(stations), max(stations)
    return Shaped(kinds.WEB, ring, add(a, way, low), add(a, way, high), (i,))


def _strip(p: Point, q: Point, depth: float) -> Any:
    """A strip about a line, as deep as a piece."""
    from shapely import Polygon

    n = left(unit(sub(q, p)))
    half = depth / 2
    return Polygon([add(p, n, -half), add(q, n, -half), add(q, n, half), add(p, n, half)])


def _webs_away(i: int, truss: Truss, joint: int) -> Iterator[Point]:
    """The directions of the other webs at a joint, away from it."""
    for k, other in enumerate(truss.pieces):
        if k != i and other.kind is kinds.WEB and joint in (other.start, other.end):
            there = other.end if other.start == joint else other.start
            yield unit(sub(truss.joints[there], truss.joints[joint]))


def _halved(node: Point, out: Point, along: Point) -> Any | None:
    """The half of the plane on a web's own side of the line halfway to another; None where the two
    are in line."""
    from shapely import Polygon

    bisector = (out[0] + along[0], out[1] + along[1])
    if math.hypot(*bisector) < 1e-6:
        return None
    line = unit(bisector)
    side = 1.0 if cross(line, out) > 0 else -1.0
    m = (-line[1] * side, line[0] * side)
    near, far = add(node, line, -5e3), add(node, line, 1e4)
    return Polygon([near, far, add(far, m, 1e4), add(near, m, 1e4)])


def _ring(shape: Any) -> Ring | None:
    parts = [
        g for g in getattr(shape, "geoms", [shape]) if g.geom_type == "Polygon" and g.area > 100.0
    ]
    if not parts:
        return None
    best = max(parts, key=lambda g: g.area)
    ring = simplify([(round(x, 3), round(y, 3)) for x, y in best.exterior.coords[:-1]], 0.2)
    return ring if signed_area(ring) > 0 else ring[::-1]
