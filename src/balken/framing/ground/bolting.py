"""Anchor bolts of the sills of a building, and of the plates of walls that stand right on concrete: clear
of the joists or studs over each, and of doors."""

from collections.abc import Iterable
from typing import Final

from balken.framing.ground.anchors import APART, CLEAR, Bolts, place_bolts
from balken.framing.member import Member, Part
from balken.geometry.plane import Point, direction_or, dot, sub
from balken.model.names import HostName, MemberName, whole
from balken.recall import remembered_piece

THICK: Final = 45.0
"""Half of what studs take of a plate at most, mm."""
Door = tuple[Point, Point]
Doors = dict[tuple[HostName, str], tuple[Door, ...]]
"""The openings down to the sill, from jamb to jamb, by run and wall."""


def bolts_of(
    parts: Iterable[Part],
    sills: Iterable[Member],
    uprights: Iterable[Member],
    doors: Doors,
    apart: dict[HostName, float],
) -> dict[MemberName, Bolts]:
    """The anchor bolts of every sill piece.

    Args:
        parts: all members, for the joists that lie on sills.
        sills: the pieces of sill, and of plates that are bolted down.
        uprights: what stands on plates.
        doors: where no bolt may stand.
        apart: how far apart they stand at most per run, mm; 0 for what is usual.
    """
    taken: dict[MemberName, list[tuple[Point, float]]] = {}
    for part in parts:
        for sill, place in _over_sills(part):
            taken.setdefault(sill, []).append(place)
    standing: dict[HostName, list[tuple[Point, float]]] = {}
    for m in uprights:
        half = (m.solid.bounds()[1][0] - m.solid.bounds()[0][0]) / 2
        standing.setdefault(m.host, []).append((m.start[:2], min(half, THICK) + CLEAR))
    return {
        m.id: place_bolts(
            m.length,
            (
                *_beside(m, taken.get(m.id, ())),
                *_beside(m, standing.get(m.host, ())),
                *_at_doors(m, doors),
            ),
            apart.get(m.host, 0.0) or APART,
        )
        for m in sills
    }


def _along(sill: Member, p: Point) -> float:
    """How far along a sill a point lies, mm."""
    way = direction_or(sub(sill.end[:2], sill.start[:2]), (1.0, 0.0))
    return dot(sub(p, sill.start[:2]), way)


def _beside(sill: Member, taken: Iterable[tuple[Point, float]]) -> list[tuple[float, float]]:
    return [(_along(sill, p) - half, _along(sill, p) + half) for p, half in taken]


def _at_doors(sill: Member, doors: Doors) -> list[tuple[float, float]]:
    jambs = [
        sorted((_along(sill, a), _along(sill, b)))
        for a, b in doors.get((sill.host, whole(sill.id.row)), ())
    ]
    return [(low - CLEAR, high + CLEAR) for low, high in jambs]


@remembered_piece
def _over_sills(part: Part) -> tuple[tuple[MemberName, tuple[Point, float]], ...]:
    """Where members of a part lie on sills, by the sill, with how much of it they take to
    each side."""
    return tuple(
        (s.on, (s.point, m.solid.depth / 2 + CLEAR))
        for m in part.members
        for s in m.carrier.supports
        if isinstance(s.on, MemberName) and s.on.family == "sill"
    )
