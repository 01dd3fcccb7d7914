"""A member: one piece that is bought, cut and placed, with a name that lasts through every
regeneration."""

import math
import operator
from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.geometry.plane import EXACT, TOUCH, Point, Ring
from balken.geometry.solid import Extrusion, Vector
from balken.model.cases import NOTHING, Cases
from balken.model.names import HostName, MemberName, Rest


class Support(msgspec.Struct, frozen=True, gc=False):
    """Where a member bears: ``at`` its middle along the plan from the member's start, ``length``
    along the member, mm."""

    at: float
    length: float
    on: Rest | None
    """The member or wall underneath; None where the end has nothing under it."""
    point: Point
    hung: bool = False
    """Held by a hanger at the side of what carries it, not lying on it."""


class Carrier(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What is analysed: an axis on its supports, and what lies on it. Lengths mm, areas mm².

    Of most pieces it is the piece itself. A truss is one carrier: its first bottom chord brings
    it, from bearing to bearing, for all its chords and webs.
    """

    start: Vector
    end: Vector
    length: float
    """Along the axis."""
    slope: float = 0.0
    """Rise over run."""
    supports: tuple[Support, ...] = ()
    area: float = 0.0
    """The plan it carries, spread over ``carries`` of its run."""
    carries: tuple[float, float] = (0.0, 0.0)
    line: Cases = NOTHING
    """Its own weight and what is typed along it, N/mm."""
    hinges: tuple[float, ...] = ()
    """Where it may fold, from its start, mm."""

    @property
    def run(self) -> float:
        """Length in plan, mm."""
        return math.hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])

    @property
    def reach(self) -> float:
        """The length it is analysed over, mm: in plan where it slopes."""
        return self.run if self.slope else self.length


RESTS: Final = Carrier((0.0, 0.0, 0.0), (0.0, 0.0, 0.0), 0.0)
"""Of a piece that lies all along on what carries it, or is part of a truss: nothing to analyse."""


class Member(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A piece of structure as it is bought, sawn and placed, with what is analysed of it.

    Lengths mm. ``length`` is measured along the piece; ``blank`` is the shortest square-ended piece
    it can be cut from.
    """

    id: MemberName
    mark: str
    kind: MemberKind
    host: HostName
    level: str
    section: str
    material: str
    solid: Extrusion
    start: Vector
    end: Vector
    length: float
    blank: float
    cuts: tuple[str, ...] = ()
    slope: float = 0.0
    """Rise over run."""
    touched: bool = False
    """Changed by hand."""
    voids: tuple[Extrusion, ...] = ()
    """Bodies that are left out of it: ledges for brick, seats for slabs, pockets for beams."""
    carrier: Carrier = RESTS

    @property
    def role(self) -> str:
        """The word of its kind."""
        return self.kind.role

    @property
    def run(self) -> float:
        """Length in plan, mm."""
        return math.hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])


def blank_of(solid: Extrusion, start: Vector, end: Vector) -> float:
    """The shortest square-ended piece a body can be cut from, mm: how far apart its corners lie
    along its axis."""
    along = tuple(b - a for a, b in zip(start, end))
    length = math.hypot(*along)
    places = [sum(p * u for p, u in zip(corner, along)) / length for corner in solid.points()]
    return max(places) - min(places)


def carrying(
    member: Member,
    supports: tuple[Support, ...],
    *,
    area: float = 0.0,
    carries: tuple[float, float] = (0.0, 0.0),
    line: Cases = NOTHING,
    hinges: tuple[float, ...] = (),
) -> Member:
    """A piece that is analysed as it is sawn: on these supports, with what lies on it."""
    axis = (member.start, member.end, member.length, member.slope)
    return replace(member, carrier=Carrier(*axis, supports, area, carries, line, hinges))


def on_supports(member: Member, supports: tuple[Support, ...]) -> Member:
    """A piece on other supports, carrying what it did."""
    return replace(member, carrier=replace(member.carrier, supports=supports))


class Strip(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """The top of a sill or wall plate that members can bear on: a plan ring at a height."""

    on: Rest
    ring: tuple[Point, ...]
    outer: bool
    hung: bool = False
    """Pieces end at its faces and hang there, instead of lying on it."""


CutFrom = tuple[tuple[str, str], str]
"""What a piece of a roof is cut from by calculation: its role and place (empty for all of the
role), and a section."""


class Size(msgspec.Struct, frozen=True, gc=False):
    """A section at a spacing, as chosen by calculation or held by hand."""

    section: str
    spacing: float
    plies: tuple[tuple[str, int], ...] = ()
    """How many plies trimmers, headers and doubles have by calculation, by their row's or header's
    name."""
    cut: tuple[CutFrom, ...] = ()
    """Of a roof: what hips, valleys and ridge beams are cut from by calculation."""


class Bearings(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What a floor or roof bears on: the outline, the strips under it, and their height and
    width, mm."""

    outline: Ring
    strips: tuple[Strip, ...]
    height: float
    width: float
    holes: tuple["Hole", ...] = ()
    doubles: tuple[tuple[str, Point, Point], ...] = ()
    """Walls that stand on the floor and run along: their key and middle line."""
    ledgers: tuple[tuple[str, Point, Point], ...] = ()
    """Faces of walls that a ledger is fixed to, the floor to the left: the wall's name and the
    line."""
    stands_on: tuple[tuple[str, Point], ...] = ()
    """Posts that stand on the floor: their key and place."""
    sides: tuple[str, ...] = ()
    """Of a roof: by the sides of the outline, the wall that lies along each."""


class Hole(msgspec.Struct, frozen=True, gc=False):
    """What is left out of a floor: the opening's key, what it is for, its outline with its clear
    distance."""

    key: str
    use: str
    ring: Ring


class Part(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A handful of members made together.

    Where nothing of theirs changed it is the same object as before an edit, so that what follows
    from them - what they hand on, whether they lack a bearing - is remembered for all of them at
    the cost of one look.
    """

    members: tuple[Member, ...]

    def after(self, members: Sequence[Member]) -> "Part":
        """The part with members in place of its own; itself where they are the same."""
        same = len(members) == len(self.members) and all(map(operator.is_, members, self.members))
        return self if same else Part(tuple(members))


class Framed(msgspec.Struct, frozen=True, gc=False):
    """What one host gave: its members in parts, and the changes by hand that found no member; or
    why it could not be framed."""

    parts: tuple[Part, ...]
    gone: tuple[MemberName, ...] = ()
    fault: str = ""

    @property
    def members(self) -> tuple[Member, ...]:
        """All members of the host."""
        return tuple(m for part in self.parts for m in part.members)


def framed_of(members: Iterable[Member], gone: tuple[MemberName, ...] = ()) -> Framed:
    """What a host gave whose members are few enough to be one part."""
    return Framed((Part(tuple(members)),), gone)


def unframed(fault: str) -> Framed:
    """A host without members, and why."""
    return Framed((), (), fault)


def clear_span(member: Member) -> float:
    """The horizontal distance between the faces of a member's supports, mm; 0 where an end
    has none."""
    if len(member.carrier.supports) < 2 or not all(s.on for s in member.carrier.supports):
        return 0.0
    # A rafter is as long as the longer stretch beside a purlin; a joist is taken whole, whatever it
    # runs over.
    rests = (
        member.carrier.supports
        if member.kind is kinds.RAFTER
        else (member.carrier.supports[0], member.carrier.supports[-1])
    )
    clear = max((b.at - b.length / 2) - (a.at + a.length / 2) for a, b in pairwise(rests))
    return clear if clear > EXACT else 0.0


def apart(supports: tuple[Support, ...]) -> list[Support]:
    """Supports that are far enough apart to be told from one another."""
    kept: list[Support] = []
    for s in supports:
        if not kept or s.at - kept[-1].at > TOUCH:
            kept.append(s)
    return kept
