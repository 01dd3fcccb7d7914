"""Posts and struts: solid, built up of plies or of steel, under what lies on them."""

import math
from collections.abc import Callable
from typing import Final

import msgspec

from balken.design.codes.us import aisc
from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.factors import adjusted
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.framing.member import Member
from balken.loads.cases import COMBINATIONS, Combination
from balken.loads.path import LoadPath
from balken.model.cases import Cases
from balken.model.sections import STEEL, Section, weak_e_min
from balken.recall import remembered_piece


def post_checks(terms: Terms, path: LoadPath, member: Member) -> tuple[Check, ...]:
    """Checks of a post or strut in compression under the most that may come onto it, live load
    standing where it is worst: NDS 3.7 or 15.3, or AISC 360 chapter E; none where nothing lies on
    it or its section has no values."""
    forces = path.onto_most(member.id)
    section = terms.sections.get(member.section)
    if forces is None or not forces or section is None:
        return ()
    return in_compression(member, section, forces)


class Resists(msgspec.Struct, frozen=True, gc=False):
    """What a piece of wood resists in compression: N/mm²."""

    fc: float
    """Fc with all factors but C_D and C_P."""
    e_min: tuple[float, float]
    """E′min for buckling in the direction of the depth and of the breadth."""
    c: float


def resists_of(member: Member, section: Section) -> Resists | str:
    """What a wood post resists, or what is missing to say it."""
    item = section.product
    if item is not None:
        if not item.fc:
            return f"{item.id} has no compression stress: type its Fc"
        c = columns.C_GLUED if item.family in ("glulam", "lvl") else columns.C_SAWN
        return Resists(item.fc, (item.e_min, weak_e_min(item)), c)
    species, _, grade = member.material.partition(" ")
    try:
        value = adjusted(
            reference(species, grade, section.nominal), species, grade, section.nominal
        )
    except NoValueError as error:
        return f"{error}"
    return Resists(value.fc, (value.e_min, value.e_min), columns.C_SAWN)


def why_not_checked(member: Member, section: Section | None) -> str:
    """What is missing for the checks of a post; empty where nothing is."""
    if section is None:
        return (
            f"{member.section or 'its size'} is no section of the catalogue: choose one, or type a"
            " product with its values"
        )
    if section.family in STEEL:
        return ""
    found = resists_of(member, section)
    return found if isinstance(found, str) else ""


def axial(member: Member, load: float) -> float:
    """Force along a post or strut that carries a plumb load, N: V / sin of its angle with the level
    (statics)."""
    rise = abs(member.end[2] - member.start[2])
    return load * member.length / rise if rise > 0 else math.inf


@remembered_piece
def in_compression(member: Member, section: Section, forces: Cases) -> tuple[Check, ...]:
    """Checks of a piece in compression and of its slenderness, plumb load in N per case; none where
    its section has no values."""
    if section.family in STEEL:
        steel = (*aisc.compression(section, member.length), "AISC 360 E3, E7")
        return _worst(member, forces, lambda combo: steel)
    wood = resists_of(member, section)
    if isinstance(wood, str):
        return ()

    def allowable_wood(combo: Combination) -> tuple[float, tuple[Line, ...], str]:
        found = columns.allowable(
            section.breadth,
            section.depth,
            wood.fc * combo.duration,
            wood.e_min,
            (member.length, member.length),
            wood.c,
            plies=section.plies,
        )
        return (*found, "NDS 15.3" if section.plies > 1 else "NDS 3.7")

    found = _worst(member, forces, allowable_wood)
    slender = columns.slenderness(section.breadth, section.depth, member.length)
    return (
        (*found, _too_slender(member, slender))
        if found and slender > columns.SLENDEREST + SLIGHT
        else found
    )


SLIGHT: Final = 1e-6
"""A slenderness this far over the limit is rounding."""


def _too_slender(member: Member, slender: float) -> Check:
    """A column that may not be built, however little it carries (NDS 3.7.1.4)."""
    lines = (
        Line("ℓe", member.length, "length", "NDS 3.7.1.2", "held at both ends"),
        Line("ℓe / d", slender, "factor", how="about the weaker axis"),
        Line("most", columns.SLENDEREST, "factor", "NDS 3.7.1.4"),
    )
    return Check("Slenderness", slender / columns.SLENDEREST, "–", "NDS 3.7.1.4", lines)


def _worst(
    member: Member,
    forces: Cases,
    allowable: Callable[[Combination], tuple[float, tuple[Line, ...], str]],
) -> tuple[Check, ...]:
    worst: Check | None = None
    for combo in COMBINATIONS:
        load = forces.weighed(combo.factors)
        if load <= 0:
            continue
        force = axial(member, load)
        allowed, lines, clause = allowable(combo)
        leaning = (Line("V", load, "force"),) if force > load * (1 + 1e-6) else ()
        how = f"V / sin of its angle, {combo.name}" if leaning else combo.name
        first = (
            *leaning,
            Line("P", force, "force", how=how),
            Line("CD", combo.duration, "factor", "NDS 2.3.2"),
        )
        ratio = force / allowed if allowed > 0 else math.inf
        if worst is None or ratio > worst.ratio:
            last = Line("P allowed", allowed, "force")
            worst = Check("Compression", ratio, combo.name, clause, (*first, *lines, last))
    return () if worst is None else (worst,)
