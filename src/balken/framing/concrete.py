"""Concrete counted once: every body trimmed by those that go before it in the table of priorities.

Which of two bodies of one kind goes first is settled by their size and place, never by their names,
so that the order in which they were placed does not matter.
"""

from collections.abc import Sequence
from typing import Final

import msgspec

from balken.framing.member import Member
from balken.geometry.solid import Vector
from balken.geometry.trim import Body, Mesh, overlaps, trimmed
from balken.model.names import MemberName
from balken.recall import remembered_piece

SAME: Final = 1e-9
"""A body loses something where its volume shrinks by more than this share."""


class Concrete(msgspec.Struct, frozen=True):
    """What is left of each concrete member that meets others or has voids; the rest keep their own
    bodies."""

    meshes: dict[MemberName, Mesh]
    yields: dict[MemberName, tuple[MemberName, ...]]
    """For each of them, the members it gives way to."""


@remembered_piece
def priority(member: Member) -> tuple[int, float, tuple[float, ...], MemberName]:
    """What settles who keeps the concrete: the kind, then the larger, then the one further
    south-west and lower."""
    low, high = member.solid.bounds()
    where = tuple(round(c, 3) for c in (*low, *high))
    return member.kind.concrete, -round(member.solid.volume, 1), where, member.id


def trim_concrete(members: Sequence[Member]) -> Concrete:
    """Trim all concrete members of a building."""
    mine = [m for m in members if m.kind.concrete]
    before = _before(mine)
    meshes: dict[MemberName, Mesh] = {}
    yields: dict[MemberName, tuple[MemberName, ...]] = {}
    # A subfloor with its openings gives way to nothing else.
    others = [m for m in members if m.voids and not m.kind.concrete]
    for i, member in enumerate([*mine, *others]):
        firsts = tuple(mine[k] for k in before.get(i, ()))
        mesh = _left(member, firsts) if firsts or member.voids else None
        if mesh is not None:
            meshes[member.id], yields[member.id] = mesh, tuple(m.id for m in firsts)
    return Concrete(meshes, yields)


def _left(member: Member, firsts: tuple[Member, ...]) -> Mesh | None:
    """What is left of a member that gives way to others; None where it is all of it."""
    body = Body(member.solid, member.voids)
    mesh = trimmed(body, tuple(Body(m.solid, m.voids) for m in firsts))
    loses = abs(mesh.volume - member.solid.volume) > SAME * member.solid.volume
    return mesh if member.voids or loses else None


def _before(mine: list[Member]) -> dict[int, list[int]]:
    """By the number of each body that gives way, the numbers of those that go before it, the first
    in rank first."""
    pairs = list(overlaps([_bounds(m) for m in mine]))
    ranks = {i: priority(mine[i]) for i in {i for pair in pairs for i in pair}}
    found: dict[int, list[int]] = {}
    for pair in pairs:
        first, later = sorted(pair, key=lambda i: ranks[i])
        found.setdefault(later, []).append(first)
    return {later: sorted(firsts, key=lambda k: ranks[k]) for later, firsts in found.items()}


@remembered_piece
def _bounds(member: Member) -> tuple[Vector, Vector]:
    return member.solid.bounds()
