"""What the supports of a bending member take: its own wood or web over the bearing, and what lies
under it.

Both pieces are pressed alike: where a plate, sill or beam under a member is softer than the member,
it gives way first.
"""

import math
from collections.abc import Mapping, Sequence
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.design.codes.timber import Contact, TimberCode
from balken.design.lines import Line
from balken.design.strength import Strength
from balken.design.terms import Terms
from balken.design.under import UNKNOWN, Under
from balken.framing import kinds
from balken.framing.member import Member, Support, apart
from balken.geometry.plane import TOUCH
from balken.model.names import HostName, MemberName, Rest, wall_key
from balken.model.sections import STEEL, Section
from balken.model.walls import WallBuildUp
from balken.site.wall_weights import is_masonry


class Seat(msgspec.Struct, frozen=True, gc=False):
    """What one support takes, N, without C_D, and how that was found."""

    holds: float
    clause: str = ""
    lines: tuple[Line, ...] = ()
    lasting: bool = False
    """Of wood whose bearing duration changes."""


class Beneath:
    """What lies under supports, by the name of what they are on; looked up once a building."""

    def __init__(
        self,
        terms: Terms,
        walls: Mapping[str, WallBuildUp | None],
        members: Mapping[MemberName, Member],
    ) -> None:
        self.terms, self._walls, self._members = terms, walls, members
        self._sections = terms.sections
        self._known: dict[Rest, Under] = {}

    def of(self, support: Support) -> Under:
        """What lies under one support; what hangs lies on nothing."""
        return UNKNOWN if support.hung or not support.on else self.under(support.on)

    def under(self, on: Rest) -> Under:
        """What carries the name of a member or wall is made of."""
        if on not in self._known:
            self._known[on] = self._found(on)
        return self._known[on]

    def _found(self, on: Rest) -> Under:
        if isinstance(on, HostName):
            key = wall_key(on)
            return under_wall(self.terms, self._walls[key]) if key in self._walls else UNKNOWN
        if on.family == "sill":
            return treated_sill(self.terms)
        member = self._members.get(on) or self._members.get(
            replace(on, piece="a")
        )  # a beam cut in pieces: all are of one section
        return self._of_member(member) if member else UNKNOWN

    def _of_member(self, member: Member) -> Under:
        if member.kind.concrete:
            stress, clause = self.terms.timber.concrete(self.terms.site.strength)
            return Under(stress, "concrete", clause, hard=True)
        section = self._sections.get(member.section)
        if section is None or section.family in STEEL or member.kind is kinds.POST:
            return UNKNOWN  # steel; end grain is looked at where the post is
        if section.product is not None:
            found = self.terms.timber.product_worth(section.product)
            if found is None or not found.fc_perp:
                return UNKNOWN
            return Under(found.fc_perp, member.section, section.product.id)
        species, _, grade = member.material.partition(" ")
        worth = self.terms.timber.worth(species, grade, section)
        if worth is None:
            return UNKNOWN
        return Under(worth.fc_perp, f"{species} {member.section}", self.terms.timber.table)


def treated_sill(terms: Terms) -> Under:
    """The sill on a foundation."""
    return _plate(terms, terms.timber.sill, "the treated sill")


def under_wall(terms: Terms, body: WallBuildUp | None) -> Under:
    """What the top of a wall is by its build-up: plates of the site's species on studs; masonry or
    concrete where its core is that."""
    if body is not None and is_masonry(body):
        core = " ".join(x.material.lower() for x in body.layers if x.role == "core")
        if "concrete" in core and "block" not in core:
            stress, clause = terms.timber.concrete(terms.site.strength)
            return Under(stress, "concrete", clause, hard=True)
        stress, clause = terms.timber.masonry
        return Under(stress, "masonry", clause, hard=True)
    wood = terms.timber.plates(terms.site.plates)
    return _plate(terms, wood, f"wall plates of {wood[0]}")


def _plate(terms: Terms, wood: tuple[str, str], words: str) -> Under:
    worth = terms.timber.worth(*wood, PLATE)
    assert worth is not None, "the wood of plates has values"
    return Under(worth.fc_perp, words, terms.timber.table)


PLATE: Final = Section("plate", (2, 6), 38.0, 140.0)
"""Plates and sills lie flat; across their grain all sizes are worth the same."""


def seats_of(
    timber: TimberCode,
    member: Member,
    section: Section,
    strength: Strength,
    under: tuple[Under, ...],
    points: Sequence[float] = (),
) -> tuple[Seat, ...]:
    """What each support of a member takes.

    Args:
        timber: what the code says.
        member: with its supports.
        section: what it is cut from.
        strength: what it resists.
        under: what lies under each of its supports that are apart.
        points: where loads stand on it at one place, mm from its start.
    """
    found = []
    for rest, below in zip(apart(member.carrier.supports), under):
        if not rest.on:
            found.append(Seat(math.inf))
            continue
        length = max(rest.length, 1e-9)
        to_end = min(rest.at, member.carrier.reach - rest.at)
        touch = timber.contact(
            Contact(length, to_end, strength.depth, _to_next(rest, points)), section
        )
        options = [
            Seat(
                strength.bearing * touch,
                strength.clauses.bearing,
                lasting=strength.bearing_by_duration,
            )
        ]
        if below.stress < math.inf and strength.breadth:
            step = Line("under it", below.stress, "stress", below.clause, below.what)
            options.append(
                Seat(
                    below.stress * strength.breadth * length,
                    below.clause or strength.clauses.bearing,
                    (step,),
                    lasting=timber.bearing_by_duration and not below.hard,
                )
            )
        if section.family == "steel i" and not rest.hung:
            held, clause = timber.web(section, rest.length, to_end)
            step = Line("web", held, "force", clause, "yields or cripples, no stiffeners")
            options.append(Seat(held, clause, (step,)))
        found.append(min(options, key=lambda s: s.holds))
    return tuple(found)


def _to_next(rest: Support, points: Sequence[float]) -> float:
    """From the edge of a bearing to the nearest load beside it that stands at one place, mm; what
    stands over it, or at its very edge, is none beside it."""
    half = rest.length / 2 + TOUCH
    gaps = [abs(at - rest.at) - half for at in points if abs(at - rest.at) > half]
    return min(gaps, default=math.inf)
