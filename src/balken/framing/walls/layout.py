"""The frame of one wall in its own elevation: plates that run through, studs that stop at them, and what
goes round openings.

Horizontal pieces go first and run from end to end; whatever stands stops at them. Nothing lies in the
room of anything else: what has no room is told with how much it lacks.
"""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.walls.face import (
    AT_FLOOR,
    FIRE,
    LEAST,
    OFFSET,
    SLIGHT,
    STOCK,
    Face,
    Hole,
    Lack,
    LaidOut,
    Stick,
)
from balken.framing.walls.lifts import divide
from balken.framing.walls.openings import (
    groups,
    kept,
    over,
    round_them,
    settled,
    with_portals,
)

EVEN: Final = 1e-6
"""Of a spacing: what lies no further apart than that is evenly set out."""


def lay_out(face: Face) -> LaidOut:
    """All pieces of a wall, horizontal ones first."""
    lacks: list[Lack] = []
    holes = with_portals(face, settled(face, list(kept(face, lacks)), lacks), lacks)
    frames = _shared([f for group in groups(face, holes) for f in round_them(face, group)])
    taken = [(s.low, s.high) for s in frames if s.kind in (kinds.KING, kinds.JACK)]
    taken += [_kept_free(f, holes) for f in frames if f.kind is kinds.WALL_HEADER]
    taken += [(h.low, h.high) for h in holes]
    whole = _framed(face, holes, frames, taken, ())
    divided = divide(face, whole.sticks, taken, layout_places(face))
    done = _framed(face, holes, frames, taken, divided.joints) if divided.joints else whole
    return LaidOut(done.sticks, (*lacks, *done.lacks, *divided.lacks), holes)


def _framed(
    face: Face,
    holes: Sequence[Hole],
    frames: Sequence[Stick],
    taken: Sequence[tuple[float, float]],
    joints: Sequence[float],
) -> LaidOut:
    """All pieces of a wall that is divided at some places."""
    lacks: list[Lack] = []
    sticks = [*_plates(face, holes, joints), *frames]
    headers = [f for f in frames if f.kind is kinds.WALL_HEADER]
    sticks += _studs(face, taken, headers, joints, lacks)
    sticks += _cripples(face, holes, frames)
    sticks += _blocking(face, sticks, holes)
    return LaidOut(tuple(s for s in sticks if _is_piece(s)), tuple(lacks))


def _kept_free(header: Stick, holes: Sequence[Hole]) -> tuple[float, float]:
    """Where no studs stand under a header: but for where it runs on over the panels beside its
    openings."""
    under = [h for h in holes if header.low <= h.low and h.high <= header.high]
    return header.low + under[0].runs_on[0], header.high - under[-1].runs_on[1]


def _shared(frames: Sequence[Stick]) -> list[Stick]:
    """What goes round openings, with one king where two would stand in one room, or none where the
    jack of the next opening stands."""
    found = [f for f in frames if f.kind is not kinds.KING]
    stands = [f for f in found if f.kind in (kinds.JACK, kinds.WALL_HEADER)]
    for f in frames:
        if f.kind is kinds.KING and not any(_beside_one(f, x) for x in stands):
            found.append(f)
            stands.append(f)
    return found


def _beside_one(a: Stick, b: Stick) -> bool:
    wide = min(a.high, b.high) - max(a.low, b.low)
    return wide > SLIGHT and min(a.top, b.top) - max(a.bottom, b.bottom) > SLIGHT


def _is_piece(s: Stick) -> bool:
    return s.high - s.low > LEAST and s.top - s.bottom > LEAST


class Laid(NamedTuple):
    """A piece of a plate in the elevation."""

    low: float
    high: float
    bottom: float


def _plates(face: Face, holes: Sequence[Hole], divided: Sequence[float]) -> Iterator[Stick]:
    """Plates from end to end: the bottom one without doors, the cap lapped at corners and tees. Where the
    wall is divided into panels all but the cap end, which ties them."""
    over_studs = [x for x in layout_places(face) if not any(h.low < x < h.high for h in holes)]
    bottom = [
        Laid(low, high, up)
        for first, last, up in face.floors()
        for start, end in _divided(first, last, divided)
        for a, b in _without(start, end, [(h.low, h.high) for h in holes if h.sill < up + AT_FLOOR])
        for low, high in _spliced(a, b, over_studs, ())
    ]
    yield from _laid(
        face, kinds.BOTTOM_PLATE, "1", _joined_by_hand(face, "bottom plate", "1", bottom)
    )
    under = [
        Laid(*piece, face.under)
        for a, b in _divided(face.low, face.high, divided)
        for piece in _spliced(a, b, over_studs, ())
    ]
    under = _joined_by_hand(face, "top plate", "1", under)
    yield from _laid(face, kinds.TOP_PLATE, "1", under)
    if face.rule.top_plates == 2:
        low, high = face.low - face.start.cap, face.high + face.end.cap
        lapped = [(s - w / 2, s + w / 2) for s, w, laps in face.tees if laps]
        joints = [piece.high for piece in under[:-1]]
        cap = [
            Laid(*piece, face.tall - face.thick)
            for a, b in _without(low, high, lapped)
            for piece in _spliced(a, b, over_studs, joints)
        ]
        yield from _laid(face, kinds.TOP_PLATE, "2", _joined_by_hand(face, "top plate", "2", cap))


def _laid(face: Face, kind: MemberKind, row: str, pieces: Sequence[Laid]) -> Iterator[Stick]:
    for n, p in enumerate(pieces, 1):
        yield Stick(kind, row, _nth(n), p.low, p.high, p.bottom, p.bottom + face.thick)


def _joined_by_hand(face: Face, family: str, row: str, pieces: Sequence[Laid]) -> list[Laid]:
    """Pieces of a plate with their joints where a person moved them: between the far ends of both."""
    moved = {m.piece: m.along for m in face.moved if (m.family, m.row) == (family, row)}
    found = list(pieces)
    for n in range(1, len(found)):
        one, two = found[n - 1], found[n]
        by = moved.get(_nth(n), 0.0)
        if by and abs(two.low - one.high) <= SLIGHT:
            joint = _within(one.high + by, one.low + OFFSET / 2, two.high - OFFSET / 2)
            found[n - 1], found[n] = one._replace(high=joint), two._replace(low=joint)
    return found


def _divided(low: float, high: float, joints: Sequence[float]) -> list[tuple[float, float]]:
    """A stretch between the joints in it."""
    places = [low, *(x for x in joints if low + LEAST < x < high - LEAST), high]
    return list(pairwise(places))


def _spliced(
    low: float, high: float, places: Sequence[float], joints: Sequence[float]
) -> list[tuple[float, float]]:
    """A plate in pieces as they are sold, joined over studs beside openings, and 4 ft or more from the
    joints of the plate under it; where no such stud stands, as far along as the piece reaches."""
    found, at = [], low
    while high - at > STOCK + SLIGHT:
        reach = [x for x in places if at + OFFSET <= x <= at + STOCK]
        apart = [x for x in reach if all(abs(x - j) >= OFFSET - SLIGHT for j in joints)]
        end = max(apart or reach, default=at + STOCK)
        found.append((at, end))
        at = end
    return [*found, (at, high)]


def _nth(n: int) -> str:
    return "" if n == 1 else f"{n}"


def _without(
    low: float, high: float, gaps: Sequence[tuple[float, float]]
) -> list[tuple[float, float]]:
    """What is left of a stretch without some gaps in it."""
    found, at = [], low
    for a, b in sorted(gaps):
        if a - at > LEAST:
            found.append((at, a))
        at = max(at, b)
    if high - at > LEAST:
        found.append((at, high))
    return found


def layout_places(face: Face) -> list[float]:
    """The middles of the studs of the layout, ends left out: by the spacing from the end that is chosen,
    or under what bears on the wall, with more between where that lies further apart."""
    places = (
        _under_above(face)
        if face.rule.begins == "under joists" and face.above
        else _by_spacing(face)
    )
    half = face.thick / 2
    return [x for x in places if face.low + half < x - half and x + half < face.high - half]


def _by_spacing(face: Face) -> list[float]:
    count = int((face.high - face.low) / face.rule.spacing)
    steps = [k * face.rule.spacing for k in range(1, count + 1)]
    return [face.high - s if face.rule.begins == "end" else face.low + s for s in steps]


def _under_above(face: Face) -> list[float]:
    """A stud under each piece that bears on the wall, and others evenly between where two lie further
    apart than the spacing."""
    half = face.thick / 2
    inside = [x for x in face.above if face.low + half < x < face.high - half]
    found: list[float] = []
    for a, b in pairwise([face.low + half, *inside, face.high - half]):
        between = math.ceil((b - a) / face.rule.spacing - EVEN)
        found += [a + (b - a) * k / between for k in range(1, between)]
        found.append(b)
    return found[:-1]


def _studs(
    face: Face,
    taken: Sequence[tuple[float, float]],
    headers: Sequence[Stick],
    joints: Sequence[float],
    lacks: list[Lack],
) -> Iterator[Stick]:
    """Studs from plate to plate, or to a header that runs on over them: those that a person set or moved,
    then at ends and corners, at steps of the foot, behind tees, under what bears at one place, and by
    the layout, wherever nothing stands yet. What a person set where another stands is told."""
    t, room = face.thick, list(taken)
    moved = {
        (m.row, m.piece): m.along
        for m in face.moved
        if m.family == kinds.WALL_STUD.role and m.along
    }
    wanted = _wanted_studs(face, joints)
    by_hand = {name for name, _ in face.set_by_hand} | {".".join(filter(None, k)) for k in moved}
    for name, x in sorted(wanted, key=lambda w: w[0] not in by_hand):
        row, _, piece = name.partition(".")
        x += moved.get((row, piece), 0.0)
        low, high = x - t / 2, x + t / 2
        lacking = max((min(high, b) - max(low, a) for a, b in room), default=0.0)
        lacking = max(lacking, face.low - low, high - face.high)
        if lacking <= SLIGHT:
            room.append((low, high))
            top = min([face.under, *(h.bottom for h in headers if h.low < high and low < h.high)])
            yield Stick(kinds.WALL_STUD, row, piece, low, high, face.foot(low, high), top)
        elif name in by_hand:
            lacks.append(Lack(f"stud {row}", "has no room where it was set by hand", lacking))


def _wanted_studs(face: Face, joints: Sequence[float]) -> list[tuple[str, float]]:
    """Names and middles of all studs that a wall asks for, what matters most first."""
    t = face.thick
    wanted: list[tuple[str, float]] = list(face.set_by_hand)
    for k, letter in enumerate(("", "b", "c", "d")[: face.rule.end_studs]):
        wanted.append((f"start.{letter}", face.low + (k + 0.5) * t))
        wanted.append((f"end.{letter}", face.high - (k + 0.5) * t))
    if face.rule.corner == "three studs":
        wanted += [("start2", face.low + face.start.backed)] if face.start.backed else []
        wanted += [("end2", face.high - face.end.backed)] if face.end.backed else []
    for name, at, count in face.points:
        first = at - (count - 1) * t / 2
        wanted += [(f"{name}.{k + 1}", first + k * t) for k in range(count)]
    for n, (s, w, _) in enumerate(face.tees, 1):
        wanted += [(f"tee{n}.1", s - w / 2), (f"tee{n}.2", s + w / 2)]
    for n, x in enumerate(joints, 1):
        wanted += [(f"lift{n}.1", x - t / 2), (f"lift{n}.2", x + t / 2)]
    for n, (_, x, _) in enumerate(face.floors()[:-1], 1):
        wanted += [(f"step{n}.1", x - t / 2), (f"step{n}.2", x + t / 2)]
    return wanted + [(f"{k:02d}", x) for k, x in enumerate(layout_places(face), 1)]


def _cripples(face: Face, holes: Sequence[Hole], frames: Sequence[Stick]) -> Iterator[Stick]:
    """Short studs on the layout over headers and under sills, with one at each end of a sill."""
    t, places = face.thick, layout_places(face)
    moved = {(m.row, m.piece): m.along for m in face.moved if m.family == kinds.CRIPPLE.role}
    for header in (f for f in frames if f.kind is kinds.WALL_HEADER):
        ends = (header.low + t / 2, header.high - t / 2)
        for n, x in enumerate(_clear(places, header.low, header.high, t, ends), 1):
            x = _within(x + moved.get((header.row, f"o{n}"), 0.0), *ends)
            low, high = x - t / 2, x + t / 2
            yield Stick(kinds.CRIPPLE, header.row, f"o{n}", low, high, header.top, face.under)
    for hole in holes:
        under = [
            f
            for f in frames
            if f.kind is kinds.ROUGH_SILL and f.row == hole.key and f.top <= hole.sill + SLIGHT
        ]
        if not under:
            continue
        low_sill = min(f.bottom for f in under)
        foot = _foot_under(face, hole, holes, frames)
        ends = (hole.low + t / 2, hole.high - t / 2)
        for n, x in enumerate(_clear(places, hole.low, hole.high, t, ends), 1):
            x = _within(x + moved.get((hole.key, f"u{n}"), 0.0), *ends)
            yield Stick(kinds.CRIPPLE, hole.key, f"u{n}", x - t / 2, x + t / 2, foot, low_sill)


def _within(x: float, low: float, high: float) -> float:
    return max(low, min(high, x))


def _foot_under(face: Face, hole: Hole, holes: Sequence[Hole], frames: Sequence[Stick]) -> float:
    """What cripples under a sill stand on: the plate, or the head of an opening below."""
    below = [h for h in holes if h is not hole and over(h, hole) and h.head <= hole.sill]
    if not below:
        return face.foot(hole.low, hole.high)
    heads = [f.top for f in frames if f.row in {h.key for h in below} and f.piece == "head"]
    return max(heads, default=max(h.head for h in below))


def _clear(
    places: Sequence[float], low: float, high: float, t: float, ends: tuple[float, float]
) -> list[float]:
    """The two ends of a stretch, and the places of the layout between them that leave both room."""
    if ends[1] - ends[0] < t - SLIGHT:
        return [(low + high) / 2]
    inner = [x for x in places if ends[0] + t <= x + SLIGHT and x <= ends[1] - t + SLIGHT]
    return [ends[0], *inner, ends[1]]


def _blocking(face: Face, sticks: Sequence[Stick], holes: Sequence[Hole]) -> Iterator[Stick]:
    """Rows of blocks between studs that go from plate to plate."""
    apart = face.rule.blocking or (FIRE if face.tall > FIRE else 0.0)
    if not apart:
        return
    up = {(m.row, m.piece): m.up for m in face.moved if m.family == kinds.WALL_BLOCKING.role}
    tall = sorted(
        (
            s
            for s in sticks
            if s.stands and s.bottom <= face.foot(s.low, s.high) and s.top >= face.under - SLIGHT
        ),
        key=lambda s: s.low,
    )
    rows = int((face.under - face.thick) / apart + 1e-9) or 1
    for r in range(1, rows + 1):
        z = face.thick + r * (face.under - face.thick) / (rows + 1)
        for n, (a, b) in enumerate(pairwise(tall), 1):
            at = z + up.get((f"{r}", f"{n}"), 0.0)
            block = Stick(
                kinds.WALL_BLOCKING,
                f"{r}",
                f"{n}",
                a.high,
                b.low,
                at - face.thick / 2,
                at + face.thick / 2,
            )
            if not any(_clash(block, s) for s in sticks) and not any(_in(block, h) for h in holes):
                yield block


def _clash(a: Stick, b: Stick) -> bool:
    wide = min(a.high, b.high) - max(a.low, b.low)
    return wide > SLIGHT and min(a.top, b.top) - max(a.bottom, b.bottom) > SLIGHT


def _in(block: Stick, hole: Hole) -> bool:
    wide = min(block.high, hole.high) - max(block.low, hole.low)
    return wide > SLIGHT and min(block.top, hole.head) - max(block.bottom, hole.sill) > SLIGHT
