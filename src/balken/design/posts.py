"""Posts: solid, built up or of steel, under what lies on them."""

from balken.design import aisc
from balken.design.nds import columns
from balken.design.nds.factors import adjusted
from balken.design.nds.values import NoValueError, reference
from balken.design.steps import Check, Step
from balken.framing.member import Member
from balken.loads.cases import COMBINATIONS
from balken.loads.parcels import Cases
from balken.loads.path import LoadPath
from balken.model.catalogue import sections_of
from balken.model.memo import Memo
from balken.model.project import Project
from balken.model.sections import STEEL, Section


def post_checks(project: Project, path: LoadPath, member: Member, memo: Memo) -> tuple[Check, ...]:
    """Return the check of a post in compression: NDS 3.7 or 15.3, or AISC 360 chapter E; none where nothing lies on it."""
    forces = path.onto.get(member.id)
    section = sections_of(project.system, project.products).get(member.section)
    if forces is None or not any(forces) or section is None:
        return ()
    return memo.small(in_compression, member, section, forces)


def in_compression(member: Member, section: Section, forces: Cases) -> tuple[Check, ...]:
    """Return the check of a piece in compression, N per case; none where its section has no values."""
    species, _, grade = member.material.partition(" ")
    worst: tuple[float, str, tuple[Step, ...], str] | None = None
    for combo in COMBINATIONS:
        load = sum(f * q for f, q in zip(combo.factors, forces))
        if load <= 0:
            continue
        if section.family in STEEL:
            allowed, steps = aisc.compression(section, member.length)
            clause = "AISC 360 E3"
        elif section.product:
            item = section.product
            if not item.fc:
                return ()
            c = columns.C_GLUED if item.family in ("glulam", "lvl") else columns.C_SAWN
            allowed, steps = columns.allowable(
                section.breadth, section.depth, item.fc * combo.duration, item.e_min, (member.length, member.length), c
            )
            clause = "NDS 3.7"
        else:
            try:
                value = adjusted(reference(species, grade, section.nominal), species, grade, section.nominal)
            except NoValueError:
                return ()
            allowed, steps = columns.allowable(
                section.breadth, section.depth, value.fc * combo.duration, value.e_min, (member.length, member.length),
                plies=section.plies,
            )  # fmt: skip
            clause = "NDS 15.3" if section.plies > 1 else "NDS 3.7"
        if worst is None or load / allowed > worst[0]:
            first = (Step("P", load, "force", how=combo.name), Step("CD", combo.duration, "factor", "NDS 2.3.2"))
            last = (Step("P allowed", allowed, "force"),)
            worst = (load / allowed, combo.name, (*first, *steps, *last), clause)
    if worst is None:
        return ()
    return (Check("Compression", worst[0], worst[1], worst[3], worst[2]),)
