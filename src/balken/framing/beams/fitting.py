"""Beams as members: trimmed to what they meet, on posts and walls and other beams, cut or going
through.

Who gives way where two beams of one height meet: one that ends gives way to one that goes through;
where both end, the shallower to the deeper, a beam of a bay to a single beam.
"""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Final, NamedTuple

import msgspec
import numpy as np

from balken.framing import kinds
from balken.framing.beams.lines import Axis
from balken.framing.member import Member, Strip, Support
from balken.framing.pieces import Cut, bearings_on, level_piece
from balken.geometry.plane import (
    ANGLE,
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    dot,
    left,
    sub,
    unit,
)
from balken.model.cases import Cases
from balken.model.catalogue import weight_of
from balken.model.names import MemberName, Rest, piece_letters
from balken.model.project import Change
from balken.model.sections import Section
from balken.recall import remembered_each, remembered_piece

SEAT: Final = 102.0
"""Length of the seat of a beam hanger, mm (4 in; common practice, no source)."""
MEETS: Final = 60.0
"""A beam whose end lies this near to another's side ends at it, mm."""
REACH: Final = 400.0
"""So far to both sides of its end a beam is looked for what it lies on, mm."""
SITS: Final = 6.0
"""A beam whose underside lies this near to a top bears on it, mm: shims take up less (common
practice, no source)."""
TIES: Final = 1000.0
"""A post follows the underside of a beam so far from its own top, mm."""


NEAR: Final = 400.0
"""What a beam meets lies within this of the box round its axis, mm."""
NO_TURN: Final = 10 * math.sin(ANGLE)


class Under(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What a beam can stand on: its name, outline and top; a tied post's top follows the beam."""

    on: Rest
    ring: Ring
    top: float
    tied: bool = False
    concrete: bool = False


class Placed(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A beam with its section and its heights."""

    axis: Axis
    section: Section
    top: float
    bottom: float
    way: Point
    """Its direction in plan."""


@remembered_piece
def placed_at(axis: Axis, section: Section, top: float) -> Placed:
    """A beam with its top at a height, mm."""
    return Placed(axis, section, top, top - section.depth, unit(sub(axis.b, axis.a)))


class Trim(NamedTuple):
    """How an end is fitted: how far it is cut back (or reaches on), and the beam it hangs on, if
    any."""

    back: float
    on: Rest | None = None


@remembered_piece
def strip_of(placed: Placed) -> Strip:
    """A beam's top in plan as something joists can bear on, before it is trimmed."""
    return Strip(
        placed.axis.key,
        _ring(placed.axis.a, placed.axis.b, placed.section.breadth),
        False,
        placed.axis.kind.set == "flush",
    )


def _ring(a: Point, b: Point, breadth: float) -> Ring:
    n = left(unit(sub(b, a)))
    h = breadth / 2
    return add(a, n, -h), add(b, n, -h), add(b, n, h), add(a, n, h)


def frame_beams(
    placed: tuple[Placed, ...], unders: tuple[Under, ...], changes: tuple[Change, ...]
) -> tuple[Member, ...]:
    """Frame the beams of a building.

    Args:
        placed: all beams with their sections and heights.
        unders: posts, walls and stems that can carry them.
        changes: changes by hand on beams.
    """
    near = _Near(placed, unders)
    found: list[Member] = []
    for i, item in enumerate(placed):
        mine = tuple(c for c in changes if c.member.host == item.axis.host)
        found += frame_beam(item, near.beams(i), near.goes_on[i], near.carriers(i), mine)
    return tuple(found)


class _Near:
    """Beams and what carries them, found by their place."""

    def __init__(self, placed: tuple[Placed, ...], unders: tuple[Under, ...]) -> None:
        import shapely

        self.placed, self.unders = placed, unders
        ends = np.array([(p.axis.a, p.axis.b) for p in placed]).reshape(-1, 2, 2)
        low, high = ends.min(axis=1), ends.max(axis=1)
        # A tree looks at boxes only: a line from corner to corner has the box, and costs less to
        # make.
        lines, wide = (
            shapely.linestrings(ends),
            shapely.linestrings(np.stack([low - NEAR, high + NEAR], axis=1)),
        )
        i, k = shapely.STRtree(lines).query(wide)
        way, top = (
            np.array([p.way for p in placed]).reshape(-1, 2),
            np.array([p.top for p in placed]),
        )
        bottom = np.array([p.bottom for p in placed])
        alike = np.abs(way[i, 0] * way[k, 1] - way[i, 1] * way[k, 0]) < NO_TURN
        level = np.minimum(top[i], top[k]) - np.maximum(bottom[i], bottom[k]) > SITS
        meets = ~alike & (level | (np.abs(top[k] - bottom[i]) <= SITS))
        self._beams = _by_first(i[meets], k[meets])
        self._carriers = _by_first(*shapely.STRtree(_outlines(unders)).query(wide))
        # In line with another at one height: each then has half of what they both lie on.
        i, k = i[alike & level & (i != k)], k[alike & level & (i != k)]
        apart = np.linalg.norm(ends[i][:, :, None] - ends[k][:, None], axis=3).min(axis=2)
        on = np.zeros((len(placed), 2), dtype=bool)
        np.logical_or.at(on, i, apart < MEETS)
        self.goes_on: list[tuple[bool, bool]] = [(a, b) for a, b in on.tolist()]
        """Of each beam, whether another goes on in line from its ends."""

    def beams(self, i: int) -> tuple[Placed, ...]:
        """The beams near a beam that run otherwise, and that it may end at or lie on."""
        return tuple([self.placed[k] for k in self._beams.get(i, ())])

    def carriers(self, i: int) -> tuple[Under, ...]:
        """What may carry a beam."""
        return tuple([self.unders[k] for k in self._carriers.get(i, ())])


def _by_first(first: Any, second: Any) -> dict[int, list[int]]:
    """Pairs by the first of them, the second ones in order."""
    found: dict[int, list[int]] = {}
    for i, k in sorted(zip(first.tolist(), second.tolist())):
        found.setdefault(i, []).append(k)
    return found


@remembered_each
def _outlines(unders: Sequence[Under]) -> list[Any]:
    import shapely

    return [shapely.Polygon(u.ring) for u in unders]


def _same_height(a: Placed, b: Placed) -> bool:
    return min(a.top, b.top) - max(a.bottom, b.bottom) > SITS


def _goes_before(a: Placed, b: Placed) -> bool:
    """Whether ``a`` keeps its place where both end."""

    def rank(p: Placed) -> tuple[float, bool, MemberName]:
        return (-p.section.depth, p.axis.host.kind == "bay", p.axis.key)

    return rank(a) < rank(b)


def _inside(end: Point, other: Placed) -> float | None:
    """How far along another beam an end lies, where it lies on it; None where it does
    not."""
    (ax, ay), (bx, by), (wx, wy) = other.axis.a, other.axis.b, other.way
    dx, dy = end[0] - ax, end[1] - ay
    if abs(wx * dy - wy * dx) > other.section.breadth / 2 + MEETS:
        return None
    along = dx * wx + dy * wy
    return along if -MEETS <= along <= (bx - ax) * wx + (by - ay) * wy + MEETS else None


def _trim(
    item: Placed,
    end: Point,
    inward: Point,
    others: tuple[Placed, ...],
    carriers: tuple[Under, ...],
    *,
    goes_on: bool,
) -> Trim:
    """Fit one end: against the side of a beam it hangs on, the face of a post that goes on up, or
    over what it lies on."""
    hung = next((t for other in others if (t := _against(item, end, inward, other))), None)
    if hung is not None:
        return hung
    if goes_on:
        return Trim(0.0)
    reached = (_to_far_face(end, inward, under) for under in carriers if _lies_on(item, under))
    return next((trim for trim in reached if trim is not None), Trim(0.0))


def _against(item: Placed, end: Point, inward: Point, other: Placed) -> Trim | None:
    """An end cut back to the side of another beam of its height that passes there, or that goes
    before it."""
    along = _inside(end, other) if _same_height(item, other) else None
    if along is None:
        return None
    clear = MEETS + item.section.breadth / 2
    passes = clear < along < distance(other.axis.a, other.axis.b) - clear
    if not passes and not _goes_before(other, item):
        return None
    back = dot(sub(add(other.axis.a, other.way, along), end), inward)
    half = other.section.breadth / 2 / abs(cross(inward, other.way))
    return Trim(back + half, other.axis.key)


def _lies_on(item: Placed, under: Under) -> bool:
    """Whether the top of what could carry a beam is near enough to its underside."""
    return abs(under.top - item.bottom) <= (TIES if under.tied else SITS)


def _to_far_face(end: Point, inward: Point, under: Under) -> Trim | None:
    """An end that reaches on to the far face of what it lies on; None where it misses that."""
    reach = bearings_on(
        add(end, inward, -REACH),
        add(end, inward, REACH),
        (Strip(under.on, under.ring, False),),
    )
    if reach and reach[0][1] - TOUCH <= REACH <= reach[0][2] + TOUCH:
        return Trim(reach[0][1] - REACH)
    return None


@remembered_piece
def frame_beam(
    item: Placed,
    others: tuple[Placed, ...],
    goes_on: tuple[bool, bool],
    carriers: tuple[Under, ...],
    changes: tuple[Change, ...],
) -> tuple[Member, ...]:
    """Frame one beam from what is near it: one member, or several where it is cut over its
    supports.

    Args:
        item: the beam.
        others: beams that run otherwise, which it may end at or lie on.
        goes_on: whether another goes on in line from its start, and from its end.
        carriers: posts, walls and stems under it.
        changes: by hand.
    """
    axis, way = item.axis, item.way
    trims = _trims(item, others, goes_on, carriers)
    a, b = add(axis.a, way, trims[0].back), add(axis.b, way, -trims[1].back)
    if dot(sub(b, a), way) < 2 * SEAT:
        return ()
    rests = _rests(item, a, b, trims, others, carriers)
    by_name = {c.member: c for c in changes}
    if axis.through or len(rests) < 3:
        whole = _member(item, 0, 1, a, b, rests, 0.0, by_name)
        return (whole,) if whole is not None else ()
    marks = list(pairwise([0.0, *(s.at for s in rests[1:-1]), distance(a, b)]))
    pieces = [
        _member(
            item,
            n,
            len(marks),
            add(a, way, low),
            add(a, way, high),
            _within(rests, low, high - low, add(a, way, low), way),
            low,
            by_name,
        )
        for n, (low, high) in enumerate(marks)
    ]
    return tuple(m for m in pieces if m is not None)


def _trims(
    item: Placed,
    others: tuple[Placed, ...],
    goes_on: tuple[bool, bool],
    carriers: tuple[Under, ...],
) -> tuple[Trim, Trim]:
    """How both ends are fitted; an end with an overhang typed keeps it."""
    axis, way = item.axis, item.way
    back = (-way[0], -way[1])
    first, last = (
        Trim(-out) if out else _trim(item, end, inward, others, carriers, goes_on=on)
        for out, end, inward, on in zip(axis.out, (axis.a, axis.b), (way, back), goes_on)
    )
    return first, last


def _within(
    rests: tuple[Support, ...], begin: float, length: float, p: Point, way: Point
) -> tuple[Support, ...]:
    """The supports of one piece of a beam that is cut over its supports: half of each inner
    one."""
    found = []
    for s in rests:
        lo, hi = max(0.0, s.at - s.length / 2 - begin), min(length, s.at + s.length / 2 - begin)
        if hi - lo > TOUCH:
            found.append(Support((lo + hi) / 2, hi - lo, s.on, add(p, way, (lo + hi) / 2), s.hung))
    return tuple(found)


def _rests(
    item: Placed,
    a: Point,
    b: Point,
    trims: tuple[Trim, Trim],
    others: tuple[Placed, ...],
    carriers: tuple[Under, ...],
) -> tuple[Support, ...]:
    """Everything a beam bears or hangs on, from its start."""
    length, way = distance(a, b), item.way
    strips = [Strip(u.on, u.ring, False) for u in carriers if _carries(u, item)]
    strips += [
        Strip(o.axis.key, _ring(o.axis.a, o.axis.b, o.section.breadth), False)
        for o in others
        if abs(o.top - item.bottom) <= SITS
    ]
    found = [
        Support((lo + hi) / 2, hi - lo, on, add(a, way, (lo + hi) / 2))
        for on, lo, hi, _ in bearings_on(a, b, tuple(strips))
    ]
    for trim, at in ((trims[0], SEAT / 2), (trims[1], length - SEAT / 2)):
        if trim.on:
            found = [s for s in found if abs(s.at - at) > SEAT + s.length]
            found.append(Support(at, SEAT, trim.on, add(a, way, at), hung=True))
    found.sort(key=lambda s: (s.at, str(s.on)))
    return _one_a_place(found)


def _carries(under: Under, item: Placed) -> bool:
    """Whether a beam lies on something, or in a pocket of concrete that rises past it."""
    return _lies_on(item, under) or (under.concrete and under.top > item.bottom + SITS)


def _one_a_place(found: list[Support]) -> tuple[Support, ...]:
    """Of supports that overlap - a post in a wall - keep the first named post, else the longest."""
    kept: list[Support] = []
    for s in found:
        last = kept[-1] if kept else None
        if last and s.at - s.length / 2 < last.at + last.length / 2 - TOUCH:
            if (_on_post(s), s.length) > (_on_post(last), last.length):
                kept[-1] = s
        else:
            kept.append(s)
    return tuple(kept)


def _on_post(s: Support) -> bool:
    return s.on is not None and s.on.host.kind == "support"


def _member(
    item: Placed,
    n: int,
    count: int,
    a: Point,
    b: Point,
    rests: tuple[Support, ...],
    begin: float,
    changes: dict[MemberName, Change],
) -> Member | None:
    axis, section = item.axis, item.section
    name = MemberName(axis.host, "beam", str(axis.number), "" if count == 1 else piece_letters(n))
    change = changes.get(name)
    if change and change.removed:
        return None
    alone = axis.host.kind == "beam" and count == 1
    material = section.product.id if section.product else f"{axis.kind.species} {axis.kind.grade}"
    length = distance(a, b)
    return level_piece(
        name,
        axis.host.key if alone else f"{axis.host.key}-{name.place}",
        kinds.BEAM,
        axis.host,
        axis.level,
        Cut(section.name, material, section.breadth),
        a,
        b,
        item.bottom,
        item.top,
        _with_free_ends(rests, a, b, overhangs=any(axis.out)),
        touched=change is not None,
        line=axis.loads + Cases(dead=weight_of(section)),
        hinges=tuple(h - begin for h in axis.hinges if TOUCH < h - begin < length - TOUCH),
    )


def _with_free_ends(
    rests: tuple[Support, ...], a: Point, b: Point, *, overhangs: bool
) -> tuple[Support, ...]:
    """Supports with the ends that find nothing under them, for the fit list to name; a beam that is
    to overhang from one support keeps that one."""
    length = distance(a, b)
    first, last = Support(0.0, 0.0, None, a), Support(length, 0.0, None, b)
    if not rests:
        return first, last
    if len(rests) > 1 or overhangs:
        return rests
    return (*rests, last) if rests[0].at < length / 2 else (first, *rests)


def ply_pieces(
    member: Member, plies: int, stock: float
) -> tuple[tuple[tuple[float, float], ...], ...]:
    """How each ply of a built-up beam is cut, as stretches along it: in one where the stock
    is long enough, else spliced over supports, no two plies side by side at the same one where
    there is a choice (IRC 2021 R602.7.5 and common practice)."""
    if member.length <= stock or len(member.carrier.supports) < 3:
        return (((0.0, member.length),),) * plies
    inner = [s.at for s in member.carrier.supports[1:-1]]
    found = []
    for ply in range(plies):
        chosen = inner[ply % 2 :: 2] if len(inner) > 1 else inner
        marks = [0.0]
        for mark in (*chosen, member.length):
            marks += _splices(marks[-1], mark, inner, stock)
        found.append(tuple(pairwise(marks)))
    return tuple(found)


def _splices(start: float, end: float, inner: list[float], stock: float) -> list[float]:
    """Where a ply is spliced on its way from one mark to the next, and that mark: over the farthest
    support that the stock reaches."""
    marks, last = list[float](), start
    while end - last > stock + TOUCH:
        between = [x for x in inner if last + TOUCH < x <= last + stock]
        if not between:
            break
        last = max(between)
        marks.append(last)
    return [*marks, end]
