"""What the supports of a bending member take: its own wood or web over the bearing, and what lies
under it.

NDS-2018 3.10.2 holds for both pieces: where a plate, sill or beam under a member is softer than the
member, it gives way first.
"""

import math
from collections.abc import Mapping
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.design.codes.us import aisc
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Line
from balken.design.strength import Strength
from balken.design.terms import Terms
from balken.framing import kinds
from balken.framing.ground.runs import SILL_MATERIAL
from balken.framing.member import Member, Support, apart
from balken.model.names import HostName, MemberName, Rest, wall_key
from balken.model.sections import STEEL, Section
from balken.model.walls import WallBuildUp
from balken.site.wall_weights import is_masonry
from balken.units import PSI

MASONRY: Final = 0.33 * 1500 * PSI
"""Allowable bearing of masonry, 0.33 f'm with f'm of 1,500 psi (TMS 402-16 8.2.4 and table 2, from
memory), N/mm²."""
CONCRETE: Final = 0.35
"""Allowable bearing of concrete over f'c: φ 0.85 f'c with φ 0.65 (ACI 318-19 22.8.3.2), over a load
factor of 1.6."""


class Under(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What lies under a support: the stress square to its surface that it resists, N/mm² (infinite:
    no softer than any wood on it), and what it is."""

    stress: float
    what: str
    clause: str
    hard: bool = False
    """Concrete or masonry, where a bearing is longer than on wood (IRC 2021 R502.6)."""


UNKNOWN: Final = Under(math.inf, "", "")


class Seat(msgspec.Struct, frozen=True, gc=False):
    """What one support takes, N, without C_D, and how that was found."""

    holds: float
    clause: str = ""
    lines: tuple[Line, ...] = ()


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
            return treated_sill()
        member = self._members.get(on) or self._members.get(
            replace(on, piece="a")
        )  # a beam cut in pieces: all are of one section
        return self._of_member(member) if member else UNKNOWN

    def _of_member(self, member: Member) -> Under:
        if member.kind.concrete:
            return Under(
                CONCRETE * self.terms.site.strength, "concrete", "ACI 318-19 22.8", hard=True
            )
        section = self._sections.get(member.section)
        if section is None or section.family in STEEL or member.kind is kinds.POST:
            return UNKNOWN  # steel; end grain is looked at where the post is
        if section.product is not None:
            product = section.product
            return (
                Under(product.fc_perp, member.section, product.id) if product.fc_perp else UNKNOWN
            )
        species, _, grade = member.material.partition(" ")
        try:
            return Under(
                reference(species, grade, section.nominal).fc_perp,
                f"{species} {member.section}",
                "NDS Supp. 4A",
            )
        except NoValueError:
            return UNKNOWN


def treated_sill() -> Under:
    """The sill on a foundation."""
    species, grade, _ = SILL_MATERIAL.split(" ")
    return Under(reference(species, grade, (2, 6)).fc_perp, "the treated sill", "NDS Supp. 4A")


def under_wall(terms: Terms, body: WallBuildUp | None) -> Under:
    """What the top of a wall is by its build-up: plates of the site's species on studs; masonry or
    concrete where its core is that."""
    if body is not None and is_masonry(body):
        core = " ".join(x.material.lower() for x in body.layers if x.role == "core")
        if "concrete" in core and "block" not in core:
            return Under(CONCRETE * terms.site.strength, "concrete", "ACI 318-19 22.8", hard=True)
        return Under(MASONRY, "masonry", "TMS 402 8.2.4", hard=True)
    species = terms.site.plates
    return Under(
        reference(species, "No.2", (2, 6)).fc_perp, f"wall plates of {species}", "NDS Supp. 4A"
    )


def seats_of(
    member: Member, section: Section, strength: Strength, under: tuple[Under, ...]
) -> tuple[Seat, ...]:
    """What each support of a member takes.

    Args:
        member: with its supports.
        section: what it is cut from.
        strength: what it resists.
        under: what lies under each of its supports that are apart.
    """
    found = []
    for rest, below in zip(apart(member.carrier.supports), under):
        if not rest.on:
            found.append(Seat(math.inf))
            continue
        length = max(rest.length, 1e-9)
        options = [Seat(strength.bearing * length, "NDS 3.10.2")]
        if below.stress < math.inf and strength.breadth:
            step = Line("under it", below.stress, "stress", below.clause, below.what)
            options.append(
                Seat(
                    below.stress * strength.breadth * length, below.clause or "NDS 3.10.2", (step,)
                )
            )
        if section.family == "steel i" and not rest.hung:
            to_end = min(rest.at, member.carrier.reach - rest.at)
            held = aisc.web_bearing(section, rest.length, to_end)
            step = Line(
                "web", held, "force", "AISC 360 J10.2, J10.3", "yields or cripples, no stiffeners"
            )
            options.append(Seat(held, "AISC 360 J10", (step,)))
        found.append(min(options, key=lambda s: s.holds))
    return tuple(found)
