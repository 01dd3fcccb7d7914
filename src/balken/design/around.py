"""What about a member its checks follow from besides its loads: what it lies on, who helps it, what
is cut out of it, who leans.

Looked up in the whole structure once a building, so that a check itself sees one member alone.
"""

from collections.abc import Iterable, Mapping
from typing import Final

import msgspec

from balken.design.leaning import Push, push_on
from balken.design.notches import Neck, neck_of
from balken.design.seats import Beneath
from balken.design.terms import Terms
from balken.design.under import Under
from balken.framing import kinds
from balken.framing.member import Member, Size, apart
from balken.framing.structure import Structure
from balken.model.names import HostName, MemberName
from balken.model.project import Bore
from balken.model.roofs import RoofArea
from balken.model.sections import Section


class Around(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What about one member its checks follow from."""

    under: tuple[Under, ...]
    """What lies under each of its supports that are apart."""
    in_row: bool = False
    """One of some alike, near enough to share a load by the code."""
    bores: tuple[Bore, ...] = ()
    tie_up: float = 0.0
    """Of a rafter: how high over the plate its tie lies, mm."""
    leeward: float = 1.0
    """Of a rafter: how much heavier snow may lie on one side of its ridge."""


class Surroundings:
    """What is about every member of a structure."""

    def __init__(
        self,
        beneath: Beneath,
        bores: Iterable[Bore],
        roofs: Iterable[RoofArea],
        structure: Structure,
        sizes: Mapping[HostName, Size],
        leeward: Mapping[HostName, float],
    ) -> None:
        self._beneath = beneath
        self._sections = beneath.terms.sections
        self._bores: dict[MemberName, list[Bore]] = {}
        for bore in bores:
            self._bores.setdefault(bore.member, []).append(bore)
        self._rows = rows_of(structure, sizes)
        self._sizes, self._leeward = sizes, leeward
        self._ties = {
            HostName("roof", r.id): r.rafters.tie_up for r in roofs if r.rafters.ties != "none"
        }

    def of(self, member: Member) -> Around:
        """What is about one member."""
        section = self._sections.get(member.section)
        return Around(
            tuple([self._beneath.of(s) for s in apart(member.carrier.supports)]),
            member.kind.spans and section is not None and self.shares(member, section),
            tuple(self._bores.get(member.id, ())),
            self._ties.get(member.host, 0.0),
            self._leeward.get(member.host, 1.0) if member.kind is kinds.RAFTER else 1.0,
        )

    def shares(self, member: Member, section: Section) -> bool:
        """Whether a joist or rafter is one of three or more alike, near enough to help one
        another."""
        count, spacing = self._rows.get(member.host, (0, 0.0))
        shared = self._beneath.terms.timber.shared
        return shared(count, section.breadth / section.plies, spacing) > 1.0

    def spacing(self, host: HostName) -> float:
        """How far apart the pieces of a floor or roof are set, mm; nothing where it has none."""
        return self._sizes[host].spacing if host in self._sizes else 0.0

    def bored(self, name: MemberName) -> bool:
        """Whether a member has holes or notches."""
        return name in self._bores


MANY: Final = 3
"""So many members side by side are as any more (NDS 4.3.9; EN 1995-1-1 6.6 has no number)."""
ALIKE: Final = kinds.those(lambda k: k.spans)
"""Pieces that stand in rows."""


def rows_of(
    structure: Structure, sizes: Mapping[HostName, Size]
) -> dict[HostName, tuple[int, float]]:
    """How many joists or rafters each host has, three standing for more, and how far apart they are
    set, mm."""
    counts: dict[HostName, int] = {}
    for m in structure.of(*ALIKE):
        counts[m.host] = min(counts.get(m.host, 0) + 1, MANY)
    return {host: (count, sizes[host].spacing) for host, count in counts.items() if host in sizes}


def lean_of(terms: Terms, member: Member, section: Section, around: Around) -> Push | None:
    """What pushes along a member."""
    species, _, grade = member.material.partition(" ")
    return push_on(member, section, terms.timber.worth(species, grade, section), around.tie_up)


def birdsmouth_of(member: Member, section: Section) -> Neck | None:
    """What the birdsmouth leaves of a rafter with a tail."""
    return neck_of(member, section.depth)
