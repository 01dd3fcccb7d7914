"""The next section that a post may be cut from."""

from msgspec.structs import replace

from balken.design.carrying import NEARLY
from balken.design.posts import post_checks
from balken.framing.member import Member
from balken.model.catalogue import price_per_mm
from balken.model.sections import Section
from balken.works.building import Checked
from balken.works.terms import service_of_post, terms_of


def next_post(checked: Checked, member: Member) -> Section | None:
    """The cheapest section of a post's own family that carries what comes onto it; None where none
    does, or nothing is known of its own."""
    project = checked.built
    terms = terms_of(project)
    own = terms.sections.get(member.section)
    if own is None:
        return None
    service = service_of_post(project, member)
    grade = member.material.partition(" ")[2]
    alike = [s for s in terms.sections.values() if _stands(s, own)]
    for section in sorted(alike, key=lambda s: (price_per_mm(s, grade), s.area)):
        material = section.product.id if section.product else member.material
        trial = replace(member, section=section.name, material=material)
        checks = post_checks(terms, service, checked.path, trial)
        if checks and all(c.ratio <= NEARLY for c in checks):
            return section
    return None


def _stands(section: Section, own: Section) -> bool:
    """Whether a section may stand in for a post's own: of its family, and no smaller either way."""
    least = min(own.breadth, own.depth)
    return section.family == own.family and min(section.breadth, section.depth) >= least - 0.5
