"""Posts and struts: solid, built up of plies or of steel, under what lies on them."""

import math
from functools import partial
from typing import Final

from balken.design.codes.timber import PostRules, TimberCode
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.framing.member import Member
from balken.loads.cases import Sums
from balken.loads.path import LoadPath
from balken.model.cases import Cases
from balken.model.record import ServiceClass
from balken.model.sections import STEEL, Section
from balken.model.uses import Category
from balken.recall import remembered_piece


def post_checks(
    terms: Terms, service: ServiceClass, path: LoadPath, member: Member
) -> tuple[Check, ...]:
    """Checks of a post or strut in compression under the most that may come onto it, live load
    standing where it is worst; none where nothing lies on it or its section has no values."""
    forces = path.onto_most(member.id)
    section = terms.sections.get(member.section)
    if forces is None or not forces or section is None:
        return ()
    return in_compression(terms.timber, service, terms.on_floors, member, section, forces)


def why_not_checked(terms: Terms, member: Member, section: Section | None) -> str:
    """What is missing for the checks of a post; empty where nothing is."""
    if section is None:
        return (
            f"{member.section or 'its size'} is no section of the catalogue: choose one, or type a"
            " product with its values"
        )
    return terms.timber.posts.missing(member.material, section)


def axial(member: Member, load: float) -> float:
    """Force along a post or strut that carries a plumb load, N: V / sin of its angle with the level
    (statics)."""
    rise = abs(member.end[2] - member.start[2])
    return load * member.length / rise if rise > 0 else math.inf


@remembered_piece
def in_compression(
    timber: TimberCode,
    service: ServiceClass,
    on_floors: Category,
    member: Member,
    section: Section,
    forces: Cases,
) -> tuple[Check, ...]:
    """Checks of a piece in compression and of its slenderness, plumb load in N per case; none where
    its section has no values."""
    posts = timber.posts
    if posts.missing(member.material, section):
        return ()
    sums = timber.elastic if section.family in STEEL else partial(timber.sums, service)
    found = _worst(timber, sums(on_floors), member, section, forces)
    slender = member.length / min(section.breadth, section.depth)
    if found and section.family not in STEEL and slender > posts.slenderest + SLIGHT:
        return (*found, _too_slender(posts, member, slender))
    return found


SLIGHT: Final = 1e-6
"""A slenderness this far over the limit is rounding."""


def _too_slender(posts: PostRules, member: Member, slender: float) -> Check:
    """A column that may not be built, however little it carries."""
    lines = (
        Line("ℓe", member.length, "length", how="held at both ends"),
        Line("ℓe / d", slender, "factor", how="about the weaker axis"),
        Line("most", posts.slenderest, "factor", posts.slender_clause),
    )
    return Check("Slenderness", slender / posts.slenderest, "–", posts.slender_clause, lines)


def _worst(
    timber: TimberCode, sums: Sums, member: Member, section: Section, forces: Cases
) -> tuple[Check, ...]:
    worst: Check | None = None
    rules, wood = timber.rules, section.family not in STEEL
    for combo in sums.every:
        load = forces.weighed(combo.factors)
        if load <= 0:
            continue
        force = axial(member, load)
        allowed, lines, clause = timber.posts.held(
            member.material, section, member.length, combo.duration
        )
        leaning = (Line("V", load, "force"),) if force > load * (1 + 1e-6) else ()
        how = f"V / sin of its angle, {combo.name}" if leaning else combo.name
        lasts = Line(rules.duration_symbol, combo.duration, "factor", rules.duration_clause)
        first = (
            *leaning,
            Line("P", force, "force", how=how),
            *((lasts,) if wood else ()),
        )
        ratio = force / allowed if allowed > 0 else math.inf
        if worst is None or ratio > worst.ratio:
            last = Line("P allowed", allowed, "force")
            worst = Check("Compression", ratio, combo.name, clause, (*first, *lines, last))
    return () if worst is None else (worst,)
