"""The pieces of a wall's frame as members: bodies, sections, names."""

import math
from collections.abc import Iterable
from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member, Support, carrying
from balken.framing.walls.face import Face, Hole, Stick
from balken.framing.walls.openings import PORTAL_POST
from balken.geometry.plane import Point, add
from balken.geometry.solid import side_profile
from balken.model.cases import Cases
from balken.model.names import HostName, MemberName
from balken.model.sections import Section

LETTERS: Final[dict[MemberKind, str]] = {
    kinds.WALL_STUD: "S",
    kinds.KING: "K",
    kinds.JACK: "J",
    kinds.CRIPPLE: "C",
    kinds.BOTTOM_PLATE: "B",
    kinds.TOP_PLATE: "T",
    kinds.WALL_HEADER: "H",
    kinds.ROUGH_SILL: "R",
    kinds.WALL_BLOCKING: "X",
}
"""In marks, behind the wall."""
TREATED: Final = " treated"
"""Behind the wood of bottom plates on concrete (IRC 2021 R317.1)."""


class Stands(NamedTuple):
    """Where a wall's frame stands and what it is cut from."""

    host: HostName
    level: str
    start: Point
    """In plan, in the middle of the studs, where lengths along the wall are counted from."""
    way: Point
    foot: float
    """Height of its foot, mm."""
    studs: Section
    material: str
    on_concrete: bool
    headers: dict[str, Section]
    """What the header over each opening is cut from."""


def members_of(face: Face, sticks: Iterable[Stick], at: Stands) -> list[Member]:
    """The pieces of one wall."""
    return [_member(face, s, at) for s in sticks]


def _member(face: Face, s: Stick, at: Stands) -> Member:
    section = at.headers.get(s.row, at.studs) if s.kind is kinds.WALL_HEADER else at.studs
    name = MemberName(at.host, s.kind.role, s.row, s.piece)
    row = s.row.removeprefix(f"{at.host.key}-")  # openings are often named after their wall
    apart = "-" if row[:1].isalpha() else ""  # the stud at an end is S-end
    mark = f"{at.host.key}-{LETTERS[s.kind]}{apart}{row}{s.piece}"
    low, top = at.foot + s.bottom, at.foot + s.top
    ring = ((s.low, low), (s.high, low), (s.high, top), (s.low, top))
    wide = min(section.breadth, at.studs.depth) if s.kind is kinds.WALL_HEADER else at.studs.depth
    start, end = _axis(s, at)
    length = math.dist(start, end)
    material = at.material
    if s.kind is kinds.BOTTOM_PLATE and at.on_concrete:
        material += TREATED
    made = Member(
        name,
        mark,
        s.kind,
        at.host,
        at.level,
        section.name,
        material,
        side_profile(at.start, at.way, ring, wide),
        start,
        end,
        length,
        length,
        ("square", "square"),
    )
    return _on_jacks(made, face, s, section, at) if s.kind is kinds.WALL_HEADER else made


def _axis(s: Stick, at: Stands) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """From end to end through the middle of a piece."""
    if s.stands:
        x, y = add(at.start, at.way, (s.low + s.high) / 2)
        return (x, y, at.foot + s.bottom), (x, y, at.foot + s.top)
    z = at.foot + (s.bottom + s.top) / 2
    (ax, ay), (bx, by) = (add(at.start, at.way, x) for x in (s.low, s.high))
    return (ax, ay, z), (bx, by, z)


def _on_jacks(m: Member, face: Face, s: Stick, section: Section, at: Stands) -> Member:
    """A header on its jacks, which hand what they carry to the wall below."""
    mine = [h for h in face.holes if s.low - 1.0 <= h.low and h.high <= s.high + 1.0]
    first, last = (min(mine, key=lambda h: h.low), max(mine, key=lambda h: h.high))
    seats = (first.jacks * face.thick, last.jacks * face.thick)
    middles = (first.low - seats[0] / 2 - s.low, last.high + seats[1] / 2 - s.low)
    supports = [
        Support(x, seat, at.host, add(at.start, at.way, s.low + x))
        for x, seat in zip(middles, seats)
    ]
    supports += _portal_posts(face, s, at, first, last)
    runs = (first.runs_on[0], last.runs_on[1])
    hinges = tuple(x for x, run in zip(middles, runs) if run)
    between = [
        Support((a.high + b.low) / 2 - s.low, b.low - a.high, at.host, _in_plan(at, a.high, b.low))
        for a, b in pairwise(mine)
        if b.low > a.high
    ]
    every = sorted([*supports, *between], key=lambda x: x.at)
    return carrying(m, tuple(every), line=Cases(), hinges=hinges)


def _portal_posts(face: Face, s: Stick, at: Stands, first: Hole, last: Hole) -> list[Support]:
    """What holds the outer ends of a header that runs on over the panels beside its openings. It is taken
    to fold over the inner posts: the panel neither helps it over the opening nor holds it down."""
    seat = PORTAL_POST * face.thick
    long = s.high - s.low
    places = [seat / 2] if first.runs_on[0] else []
    places += [long - seat / 2] if last.runs_on[1] else []
    return [Support(x, seat, at.host, add(at.start, at.way, s.low + x)) for x in places]


def _in_plan(at: Stands, low: float, high: float) -> Point:
    """The middle of a stretch of the wall."""
    return add(at.start, at.way, (low + high) / 2)
