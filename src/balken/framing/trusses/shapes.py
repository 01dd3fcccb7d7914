"""Shapes of trusses: where their joints lie and which pieces join them.

Each shape is a table: where the joints of the top and the bottom chord stand along the span, and
the webs between them. The names are those of the trade; where a name means more than one thing, the
drawing under it says which is meant.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Final, NamedTuple

import msgspec

from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.geometry.plane import EXACT, Point
from balken.model.roofs import TRUSS_KINDS, TrussKind

Kind = TrussKind
KINDS: Final = TRUSS_KINDS


class Layout(NamedTuple):
    """Joints as shares of the span, and webs as (joint of the bottom chord, joint of the top
    chord), both from the left."""

    top: tuple[float, ...]
    bottom: tuple[float, ...]
    webs: tuple[tuple[int, int], ...]
    collars: tuple[tuple[int, int], ...] = ()
    """Webs from joint to joint of the top chord."""


_QUARTERS: Final = (0.0, 1 / 4, 1 / 2, 3 / 4, 1.0)
_SIXTHS: Final = (0.0, 1 / 6, 1 / 3, 1 / 2, 2 / 3, 5 / 6, 1.0)
LAYOUTS: Final[dict[Kind, Layout]] = {
    # A post from the tie to the apex.
    "king post": Layout((0.0, 1 / 2, 1.0), (0.0, 1 / 2, 1.0), ((1, 1),)),
    # With struts from the post's foot to the middle of the rafters.
    "king post with struts": Layout(_QUARTERS, (0.0, 1 / 2, 1.0), ((1, 1), (1, 2), (1, 3))),
    # Two posts at the thirds, and webs from their feet to the apex.
    "queen post": Layout(
        (0.0, 1 / 3, 1 / 2, 2 / 3, 1.0), (0.0, 1 / 3, 2 / 3, 1.0), ((1, 1), (1, 2), (2, 2), (2, 3))
    ),
    # A W: bottom chord in three, top chord in quarters.
    "Fink": Layout(_QUARTERS, (0.0, 1 / 3, 2 / 3, 1.0), ((1, 1), (1, 2), (2, 2), (2, 3))),
    # Upright webs with others that fall to the middle.
    "Howe": Layout(_QUARTERS, _QUARTERS, ((1, 1), (2, 1), (2, 2), (2, 3), (3, 3))),
    # Upright webs with others that rise to the middle.
    "Pratt": Layout(_QUARTERS, _QUARTERS, ((1, 1), (1, 2), (2, 2), (3, 2), (3, 3))),
    # Three webs from each third of the bottom chord.
    "fan": Layout(
        _SIXTHS, (0.0, 1 / 3, 2 / 3, 1.0), ((1, 1), (1, 2), (1, 3), (2, 3), (2, 4), (2, 5))
    ),
    # A double W: bottom chord in five, top chord in sixths.
    "double Fink": Layout(
        _SIXTHS,
        (0.0, 1 / 5, 2 / 5, 3 / 5, 4 / 5, 1.0),
        ((1, 1), (1, 2), (2, 2), (2, 3), (3, 3), (3, 4), (4, 4), (4, 5)),
    ),
    "double Howe": Layout(
        _SIXTHS,
        _SIXTHS,
        ((1, 1), (2, 1), (2, 2), (3, 2), (3, 3), (3, 4), (4, 4), (4, 5), (5, 5)),
    ),
    # A room half as wide as the span between two upright webs, under a collar: stiff by its chords,
    # not by triangles.
    "attic": Layout(
        (0.0, 1 / 4, 2 / 5, 1 / 2, 3 / 5, 3 / 4, 1.0),
        (0.0, 1 / 4, 3 / 4, 1.0),
        ((1, 1), (2, 5)),
        ((2, 4),),
    ),
    # One slope up to an upright end.
    "mono": Layout((0.0, 1 / 2, 1.0), (0.0, 1 / 2, 1.0), ((1, 1), (2, 1), (2, 2))),
}


class Piece(msgspec.Struct, frozen=True, gc=False):
    """One piece between two joints, by their numbers."""

    kind: MemberKind
    start: int
    end: int

    @property
    def role(self) -> str:
        """The word of its kind."""
        return self.kind.role


class Truss(msgspec.Struct, frozen=True, gc=False):
    """A truss as joints, mm from its left bearing, and pieces: the top chord from the left, the
    bottom chord, the webs."""

    kind: str
    """One of :data:`KINDS`, or ``panels`` where its top follows another roof than two slopes or
    one."""
    joints: tuple[Point, ...]
    pieces: tuple[Piece, ...]
    bearings: tuple[int, int]
    """The joints it stands on."""

    @property
    def apex(self) -> int:
        """Its highest joint."""
        return max(range(len(self.joints)), key=lambda i: self.joints[i][1])

    def chord(self, kind: MemberKind) -> tuple[Piece, ...]:
        """The pieces of a kind, in order."""
        return tuple(p for p in self.pieces if p.kind is kind)


def truss_of(
    kind: Kind, span: float, rise: float, apex: float = 0.5, bottom_rise: float = 0.0
) -> Truss:
    """The lines of a truss with its heels on the bottom chord.

    Args:
        kind: which shape.
        span: between its heels, mm.
        rise: of the apex over the heels, mm.
        apex: where the apex stands, as a share of the span; the joints go with it. A mono has its
            apex at the far end.
        bottom_rise: of the bottom chord's middle, mm: scissors.

    Raises:
        BalkenError: no span or rise, an apex outside the span, or a bottom chord as high as the top.
    """
    if span < EXACT or rise < EXACT:
        raise BalkenError(f"a truss of {span:g} by {rise:g} mm has no shape")
    if not 0.05 <= apex <= 0.95:
        raise BalkenError(
            f"the apex stands at {apex:.2f} of the span; it must stand between 0.05 and 0.95"
        )
    if not -rise < bottom_rise < 0.9 * rise:
        raise BalkenError(
            f"the bottom chord rises {bottom_rise:g} of {rise:g} mm and leaves no depth"
        )
    line = (
        [(0.0, 0.0), (span, rise)]
        if kind == "mono"
        else [(0.0, 0.0), (apex * span, rise), (span, 0.0)]
    )
    joints, pieces = of_kind(kind, line, bottom_rise)
    low = [p for p in pieces if p.kind is kinds.BOTTOM_CHORD]
    return Truss(kind, tuple(joints), tuple(pieces), (low[0].start, low[-1].end))


def of_kind(kind: str, line: Sequence[Point], rise: float) -> tuple[list[Point], list[Piece]]:
    """The joints and pieces of a shape under the middle line of its top chord.

    Args:
        kind: which shape.
        line: from heel to apex to heel; of a mono from its heel to its upright end.
        rise: of the bottom chord's middle over the heels, mm.

    Raises:
        BalkenError: the bottom chord leaves no depth.
    """
    layout = LAYOUTS[kind]  # type: ignore[index]
    heel, mono = line[0], kind == "mono"
    if rise > 0.9 * (line[1][1] - heel[1]):
        raise BalkenError(
            f"its bottom chord rises {rise:.0f} mm and leaves no depth under the apex"
        )
    stations = [_station(line, share, mono=mono) for share in layout.top]
    joints = [(s, height_on(line, s)) for s in stations]
    top = list(range(len(joints)))
    ends = {0: top[0]} if mono else {0: top[0], len(layout.bottom) - 1: top[-1]}
    bottom: list[int] = []
    for n, share in enumerate(layout.bottom):
        bottom.append(ends.get(n, len(joints)))
        if n not in ends:
            up = share if mono else 1 - abs(share - 0.5) * 2
            joints.append((_station(line, share, mono=mono), heel[1] + up * rise))
    return joints, _pieces(layout, top, bottom)


def _station(line: Sequence[Point], share: float, *, mono: bool) -> float:
    """How far along a truss a share of its length lies: each half of a gabled one has its own."""
    first, apex, last = line[0][0], line[1][0], line[-1][0]
    if mono:
        return first + share * (last - first)
    if share <= 0.5:
        return first + share * 2 * (apex - first)
    return apex + (share - 0.5) * 2 * (last - apex)


def _pieces(layout: Layout, top: list[int], bottom: list[int]) -> list[Piece]:
    """The chords and webs of a shape between its joints."""
    pieces = [Piece(kinds.TOP_CHORD, a, b) for a, b in pairwise(top)]
    pieces += [Piece(kinds.BOTTOM_CHORD, a, b) for a, b in pairwise(bottom)]
    pieces += [Piece(kinds.WEB, bottom[b], top[t]) for b, t in layout.webs]
    pieces += [Piece(kinds.WEB, top[a], top[b]) for a, b in layout.collars]
    return pieces


def height_on(line: Sequence[Point], s: float) -> float:
    """The height of a line at a place, carried on straight past its ends."""
    for (a, za), (b, zb) in pairwise(line):
        if s <= b + 1e-9:
            return za + (zb - za) * (s - a) / (b - a)
    (a, za), (b, zb) = line[-2:]
    return za + (zb - za) * (s - a) / (b - a)
