"""The frame of one wall in its own elevation: plates that run through, studs that stop at them, and what
goes round openings. Flat and without wood: lengths along the wall and heights over its foot, mm.

Horizontal pieces go first and run from end to end; whatever stands stops at them. Nothing lies in the
room of anything else: what has no room is told with how much it lacks.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.model.wall_frames import StudRule
from balken.units import FOOT

SLIGHT: Final = 0.01
"""Pieces that overlap by less than this touch, mm."""
LEAST: Final = 12.0
"""A shorter piece is left out: shims fill it, mm (common practice, no source)."""
AT_FLOOR: Final = 60.0
"""An opening that begins lower than this goes down to the floor, mm."""
STOCK: Final = 16 * FOOT
"""Plates are sold no longer (common practice, no source): 4.88 m."""
OFFSET: Final = 4 * FOOT
"""Joints of two plates over one another lie this far apart at the least (2 ft by IRC 2021 R602.3.2; 4 ft
by common practice)."""
FIRE: Final = 10 * FOOT
"""Higher walls are blocked against fire (IRC 2021 R302.11)."""


class Hole(NamedTuple):
    """A rough opening in the elevation of a wall, and what is over it."""

    key: str
    low: float
    high: float
    sill: float
    head: float
    depth: float
    """Of its header."""
    jacks: int = 1
    kings: int = 1


class Meets(NamedTuple):
    """What happens at one end of a wall's frame."""

    cap: float = 0.0
    """How much further than the studs its cap plate runs, less than nothing where another laps over
    it."""
    backed: float = 0.0
    """How wide the wall is that ends at its corner, and wants a stud behind its lining."""


class Face(NamedTuple):
    """A wall's frame before it is laid out."""

    low: float
    high: float
    tall: float
    """From its foot to the top of its plates."""
    thick: float
    """Of studs and plates."""
    rule: StudRule
    holes: tuple[Hole, ...] = ()
    start: Meets = Meets()
    end: Meets = Meets()
    tees: tuple[tuple[float, float, bool], ...] = ()
    """Walls that end at its side: where their middle is, how wide they are, and whether their cap plates
    lap over its own."""
    points: tuple[tuple[str, float, int], ...] = ()
    """What bears on it at one place: the name of it, where, and how many studs stand under it."""

    @property
    def under(self) -> float:
        """The underside of its top plates."""
        return self.tall - self.rule.top_plates * self.thick


class Stick(NamedTuple):
    """One piece in the elevation."""

    kind: MemberKind
    row: str
    piece: str
    low: float
    high: float
    bottom: float
    top: float

    @property
    def stands(self) -> bool:
        """Whether it stands upright."""
        return self.kind in UPRIGHT


UPRIGHT: Final = (kinds.WALL_STUD, kinds.KING, kinds.JACK, kinds.CRIPPLE)


class Lack(NamedTuple):
    """What cannot be framed: about which opening, in words, and by how much, mm."""

    hole: str
    words: str
    short: float


class LaidOut(NamedTuple):
    """The pieces of a wall and what could not be done."""

    sticks: tuple[Stick, ...]
    lacks: tuple[Lack, ...]


def lay_out(face: Face) -> LaidOut:
    """All pieces of a wall, horizontal ones first."""
    lacks: list[Lack] = []
    holes = _settled(face, list(_kept(face, lacks)), lacks)
    frames = _shared([f for group in _groups(face, holes) for f in _round(face, group)])
    sticks = [*_plates(face, holes), *frames]
    taken = [(s.low, s.high) for s in frames if s.kind in (kinds.KING, kinds.JACK)]
    taken += [(f.low, f.high) for f in frames if f.kind is kinds.WALL_HEADER]
    taken += [(h.low, h.high) for h in holes]
    sticks += _studs(face, taken)
    sticks += _cripples(face, holes, frames)
    sticks += _blocking(face, sticks, holes)
    return LaidOut(tuple(s for s in sticks if _is_piece(s)), tuple(lacks))


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
    return min(a.high, b.high) - max(a.low, b.low) > SLIGHT


def _is_piece(s: Stick) -> bool:
    return s.high - s.low > LEAST and s.top - s.bottom > LEAST


# -- openings that can be framed ---------------------------------------------------------------


def _kept(face: Face, lacks: list[Lack]) -> Iterator[Hole]:
    """The openings that lie in the wall, each with a header that has room; what is not possible is
    told."""
    for hole in sorted(face.holes, key=lambda h: (h.low, h.sill)):
        jacks = hole.jacks * face.thick
        out = max(face.low + jacks - hole.low, hole.high + jacks - face.high)
        if out > SLIGHT:
            lacks.append(Lack(hole.key, "lies too near to the end of the wall for its jack", out))
            continue
        over = hole.head - face.under
        if over > SLIGHT:
            lacks.append(Lack(hole.key, "is higher than the underside of the top plates", over))
            continue
        if hole.depth - (face.under - hole.head) > SLIGHT:
            short = hole.depth - (face.under - hole.head)
            lacks.append(Lack(hole.key, "has no room for its header under the top plates", short))
            hole = hole._replace(depth=max(0.0, face.under - hole.head))
        yield hole


def _settled(face: Face, holes: Sequence[Hole], lacks: list[Lack]) -> tuple[Hole, ...]:
    """The openings that can stand beside and over one another; of others the first is framed, and what
    stands in the way of the next is told."""
    found: list[Hole] = []
    for hole in holes:
        stands = (_in_the_way(face, hole, other, found) for other in found)
        lack = next((x for x in stands if x is not None), None)
        if lack is None:
            found.append(hole)
        else:
            lacks.append(lack)
    return tuple(found)


def _in_the_way(face: Face, hole: Hole, other: Hole, found: Sequence[Hole]) -> Lack | None:
    """Why an opening cannot be framed with another that is; None where it can."""
    if _apart(face, hole, other):
        return None
    if _one_column(hole, other):
        low, high = sorted((hole, other), key=lambda h: h.sill)
        short = low.head - (high.sill - face.rule.sills * face.thick)
        words = f"stands over or under {other.key} with no room for a sill between"
        return Lack(hole.key, words, short) if short > SLIGHT else None
    if _over(hole, other):
        wide = max(abs(hole.low - other.low), abs(hole.high - other.high))
        return Lack(hole.key, f"stands over or under {other.key} and is not as wide", wide)
    if abs(hole.head - other.head) > SLIGHT:
        words = f"stands too near to {other.key}, whose head is at another height"
        return Lack(hole.key, words, abs(hole.head - other.head))
    gap = max(hole.low - other.high, other.low - hole.high)
    if gap < face.thick - SLIGHT:
        words = f"has no room for a stud between it and {other.key}"
        return Lack(hole.key, words, face.thick - gap)
    if any(_one_column(x, other) for x in found if x is not other):
        words = f"stands too near to {other.key}, which stands over or under another"
        return Lack(hole.key, words, _needed(face, hole, other) - gap)
    return None


def _needed(face: Face, a: Hole, b: Hole) -> float:
    """The room between two openings for the jacks of both and a king."""
    return (a.jacks + b.jacks + 1) * face.thick


def _apart(face: Face, a: Hole, b: Hole) -> bool:
    """Whether two openings have the room between them that each is framed for itself."""
    gap = max(a.low - b.high, b.low - a.high)
    return gap >= _needed(face, a, b) - SLIGHT


def _one_column(a: Hole, b: Hole) -> bool:
    """Whether one opening stands right over another, as wide."""
    return abs(a.low - b.low) <= SLIGHT and abs(a.high - b.high) <= SLIGHT


def _groups(face: Face, holes: Sequence[Hole]) -> Iterator[list[Hole]]:
    """Openings that are framed together: with one header over them, or over one another."""
    group: list[Hole] = []
    for hole in holes:
        if group and all(_apart(face, hole, h) for h in group):
            yield group
            group = []
        group.append(hole)
    if group:
        yield group


def _round(face: Face, group: list[Hole]) -> Iterator[Stick]:
    """Header, jacks, kings and sills of openings that stand alone, share a header, or stand over one
    another."""
    tops = [h for h in group if not any(_one_column(h, x) and x.sill > h.sill for x in group)]
    yield from _header(face, tops)
    yield from _beside(face, tops)
    for hole in group:
        yield from _sills(face, hole)
        if hole not in tops:
            yield from _flat_head(face, hole, group)


def _over(a: Hole, b: Hole) -> bool:
    """Whether two openings share a stretch of the wall."""
    return a.low < b.high - SLIGHT and b.low < a.high - SLIGHT


def _header(face: Face, tops: list[Hole]) -> Iterator[Stick]:
    first, last = tops[0], tops[-1]
    depth = max(h.depth for h in tops)
    low, high = first.low - first.jacks * face.thick, last.high + last.jacks * face.thick
    yield Stick(kinds.WALL_HEADER, first.key, "", low, high, first.head, first.head + depth)


def _beside(face: Face, tops: list[Hole]) -> Iterator[Stick]:
    """Jacks under the ends of a header and between openings that share it, kings beside it."""
    t, first, last = face.thick, tops[0], tops[-1]
    foot = t
    for k in range(first.jacks):
        x = first.low - (k + 1) * t
        yield Stick(kinds.JACK, first.key, f"l{k + 1}", x, x + t, foot, first.head)
    for k in range(last.jacks):
        x = last.high + k * t
        yield Stick(kinds.JACK, first.key, f"r{k + 1}", x, x + t, foot, first.head)
    for a, b in pairwise(tops):
        count = int((b.low - a.high + SLIGHT) // t)
        between = (b.low - a.high - count * t) / 2
        for k in range(count):
            x = a.high + between + k * t
            yield Stick(kinds.JACK, b.key, f"m{k + 1}", x, x + t, foot, first.head)
    low, high = first.low - first.jacks * t, last.high + last.jacks * t
    for k in range(first.kings):
        x = low - (k + 1) * t
        if x >= face.low - SLIGHT:
            yield Stick(kinds.KING, first.key, f"l{k + 1}", x, x + t, foot, face.under)
    for k in range(last.kings):
        x = high + k * t
        if x + t <= face.high + SLIGHT:
            yield Stick(kinds.KING, first.key, f"r{k + 1}", x, x + t, foot, face.under)


def _sills(face: Face, hole: Hole) -> Iterator[Stick]:
    if hole.sill < AT_FLOOR:
        return
    for k in range(face.rule.sills):
        top = hole.sill - k * face.thick
        if top - face.thick >= face.thick - SLIGHT:
            piece = "" if k == 0 else f"{k + 1}"
            yield Stick(
                kinds.ROUGH_SILL, hole.key, piece, hole.low, hole.high, top - face.thick, top
            )


def _flat_head(face: Face, hole: Hole, group: list[Hole]) -> Iterator[Stick]:
    """Over an opening that has another over it: a plate on its flat, the sill of the upper one where
    there is no more room."""
    above = min(h.sill for h in group if h is not hole and _over(h, hole) and h.sill >= hole.head)
    room = above - face.rule.sills * face.thick - hole.head
    if room >= face.thick - SLIGHT:
        piece = "head"
        top = hole.head + face.thick
        yield Stick(kinds.ROUGH_SILL, hole.key, piece, hole.low, hole.high, hole.head, top)


# -- plates, studs, cripples, blocks ------------------------------------------------------------


def _plates(face: Face, holes: Sequence[Hole]) -> Iterator[Stick]:
    """Plates from end to end: the bottom one without doors, the cap lapped at corners and tees."""
    t = face.thick
    doors = [(h.low, h.high) for h in holes if h.sill < AT_FLOOR]
    over_studs = [x for x in layout_places(face) if not any(h.low < x < h.high for h in holes)]
    bottom = [
        piece
        for low, high in _without(face.low, face.high, doors)
        for piece in _spliced(low, high, over_studs, ())
    ]
    for n, (low, high) in enumerate(bottom, 1):
        yield Stick(kinds.BOTTOM_PLATE, "1", _nth(n), low, high, 0.0, t)
    top = face.tall - (t if face.rule.top_plates == 2 else 0.0)
    under = _spliced(face.low, face.high, over_studs, ())
    for n, (low, high) in enumerate(under, 1):
        yield Stick(kinds.TOP_PLATE, "1", _nth(n), low, high, top - t, top)
    if face.rule.top_plates == 2:
        low, high = face.low - face.start.cap, face.high + face.end.cap
        lapped = [(s - w / 2, s + w / 2) for s, w, laps in face.tees if laps]
        joints = [high for _, high in under[:-1]]
        cap = [
            piece
            for a, b in _without(low, high, lapped)
            for piece in _spliced(a, b, over_studs, joints)
        ]
        for n, (a, b) in enumerate(cap, 1):
            yield Stick(kinds.TOP_PLATE, "2", _nth(n), a, b, face.tall - t, face.tall)


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
    """The middles of the studs of the layout, ends left out."""
    found, step = [], face.rule.spacing
    count = int((face.high - face.low) / step)
    for k in range(1, count + 1):
        x = face.low + k * step if face.rule.begins == "start" else face.high - k * step
        if (
            face.low + face.thick < x - face.thick / 2
            and x + face.thick / 2 < face.high - face.thick
        ):
            found.append(x)
    return found


def _studs(face: Face, taken: Sequence[tuple[float, float]]) -> Iterator[Stick]:
    """Studs from plate to plate: at ends and corners, behind tees, under what bears at one place, and
    by the layout, wherever nothing stands yet."""
    t, room = face.thick, list(taken)
    wanted: list[tuple[str, float]] = []
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
    wanted += [(f"{k:02d}", x) for k, x in enumerate(layout_places(face), 1)]
    for name, x in wanted:
        low, high = x - t / 2, x + t / 2
        free = all(high <= a + SLIGHT or low >= b - SLIGHT for a, b in room)
        if free and low >= face.low - SLIGHT and high <= face.high + SLIGHT:
            room.append((low, high))
            row, _, piece = name.partition(".")
            yield Stick(kinds.WALL_STUD, row, piece, low, high, t, face.under)


def _cripples(face: Face, holes: Sequence[Hole], frames: Sequence[Stick]) -> Iterator[Stick]:
    """Short studs on the layout over headers and under sills, with one at each end of a sill."""
    t, places = face.thick, layout_places(face)
    for header in (f for f in frames if f.kind is kinds.WALL_HEADER):
        ends = (header.low + t / 2, header.high - t / 2)
        for n, x in enumerate(_clear(places, header.low, header.high, t, ends), 1):
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
            yield Stick(kinds.CRIPPLE, hole.key, f"u{n}", x - t / 2, x + t / 2, foot, low_sill)


def _foot_under(face: Face, hole: Hole, holes: Sequence[Hole], frames: Sequence[Stick]) -> float:
    """What cripples under a sill stand on: the plate, or the head of an opening below."""
    below = [h for h in holes if h is not hole and _over(h, hole) and h.head <= hole.sill]
    if not below:
        return face.thick
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
    tall = sorted(
        (s for s in sticks if s.stands and s.bottom <= face.thick and s.top >= face.under - SLIGHT),
        key=lambda s: s.low,
    )
    rows = int((face.under - face.thick) / apart + 1e-9) or 1
    for r in range(1, rows + 1):
        z = face.thick + r * (face.under - face.thick) / (rows + 1)
        for n, (a, b) in enumerate(pairwise(tall), 1):
            block = Stick(
                kinds.WALL_BLOCKING,
                f"{r}",
                f"{n}",
                a.high,
                b.low,
                z - face.thick / 2,
                z + face.thick / 2,
            )
            if not any(_clash(block, s) for s in sticks) and not any(_in(block, h) for h in holes):
                yield block


def _clash(a: Stick, b: Stick) -> bool:
    wide = min(a.high, b.high) - max(a.low, b.low)
    return wide > SLIGHT and min(a.top, b.top) - max(a.bottom, b.bottom) > SLIGHT


def _in(block: Stick, hole: Hole) -> bool:
    wide = min(block.high, hole.high) - max(block.low, hole.low)
    return wide > SLIGHT and min(block.top, hole.head) - max(block.bottom, hole.sill) > SLIGHT
