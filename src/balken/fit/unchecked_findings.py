"""What carries and is not checked, told in the fit list: by host and reason, walls by what they
are."""

from collections.abc import Iterable, Sequence
from functools import partial

from balken.design.codes.us import aisc
from balken.fit.finding import Finding, Mend
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.member import Member
from balken.loads.path import place_of
from balken.model.catalogue import GRADES_OF, sections_of
from balken.model.edits.code import with_wood_of_code
from balken.model.edits.wall_frames import frame_walls
from balken.model.names import HostName, ThingName
from balken.model.project import Project, wall_build_up
from balken.model.sections import STEEL
from balken.model.usual import WOOD
from balken.model.walls import Wall, arc_middle, called
from balken.site.wall_weights import is_masonry
from balken.units import format_force
from balken.works.building import Checked
from balken.works.unchecked import silent_members


def unchecked_findings(checked: Checked) -> Iterable[Finding]:
    """What carries without a check, and what is told as advice only."""
    project = checked.project
    for silent in silent_members(checked.built, checked.structure, checked.path, checked.used):
        first, more = silent.members[0], len(silent.members) - 1
        marks = first.mark if not more else f"{first.mark} and {more} more"
        at = place_of(first)
        yield Finding(
            "unchecked",
            f"{marks}, {place_name(project, at)}",
            float(len(silent.members)),
            "count",
            f"{marks} ({first.role}) {'carries' if not more else 'carry'} load and"
            f" {'is' if not more else 'are'} not checked:"
            f" {silent.why}.",
            first.host,
            tuple(m.id for m in silent.members),
            at,
            mend=_regraded(project, silent.members[0]),
        )
    yield from _walls(checked)
    yield from _slender_steel(checked)


def _regraded(project: Project, member: Member) -> Mend | None:
    """Wood of the project's own code, where a member is of wood that only another has values for."""
    species, _, grade = member.material.partition(" ")
    known = any(grade in names.get(species, ()) for names in GRADES_OF.values())
    if not known or grade in GRADES_OF[project.code].get(species, ()):
        return None
    wood = " ".join(WOOD[project.code][:2])
    return Mend(f"Cut what is graded by another code from {wood}", with_wood_of_code)


def _walls(checked: Checked) -> Iterable[Finding]:
    """Walls that carry and are not checked: those that are not framed, and those of masonry."""
    project = checked.project
    framed = {m.host for m in checked.structure.of(kinds.WALL_STUD)}
    hosts = ((w, HostName("wall", w.id)) for w in project.walls)
    laden = [w for w, h in hosts if checked.path.onto.get(h) and h not in framed]
    solid = [w for w in laden if _is_solid(project, w)]
    studs = [w for w in laden if w not in solid]
    if studs:
        mend = Mend("Frame the stud walls", partial(frame_walls, is_solid=is_masonry))
        why = "they are not framed: studs, plates and headers over openings"
        yield _unchecked_walls(checked, studs, f"{why}. Frame the stud walls.", mend)
    if solid:
        why = "what masonry and concrete of walls bear, and how slender they are; lintels are"
        yield _unchecked_walls(checked, solid, f"{why}. Check it by hand.", None)


def _is_solid(project: Project, item: Wall) -> bool:
    body = wall_build_up(project, item)
    return body is not None and is_masonry(body)


def _unchecked_walls(
    checked: Checked, laden: Sequence[Wall], why: str, mend: Mend | None
) -> Finding:
    """Walls with one reason: the one that carries most, and how many more."""
    project = checked.project
    carried = {w.id: sum(checked.path.onto[HostName("wall", w.id)].down) for w in laden}
    most = max(laden, key=lambda w: carried[w.id])
    force = format_force(carried[most.id], project.system)
    more = f" and {len(laden) - 1} more" if len(laden) > 1 else ""
    return Finding(
        "unchecked",
        f"{called(most)}{more}",
        float(len(laden)),
        "count",
        f"Walls carry load and are not checked, most of all {called(most)} with {force}: {why}",
        ThingName("walls", most.base),
        at=arc_middle(most),
        mend=mend,
    )


def _slender_steel(checked: Checked) -> Iterable[Finding]:
    """Steel columns more slender than the code advises (AISC 360-16 E2, user note)."""
    project = checked.project
    if project.code != "us":
        return
    sections = sections_of(project.system, project.products)
    for m in checked.structure.of(kinds.POST, kinds.STRUT):
        section = sections.get(m.section)
        if section is None or section.family not in STEEL:
            continue
        slender = aisc.slenderness(section, m.length)
        if slender > aisc.SLENDEREST:
            at = place_of(m)
            yield Finding(
                "slender",
                f"{m.mark}, {place_name(project, at)}",
                slender / aisc.SLENDEREST,
                "ratio",
                f"{m.mark} is {slender:.0f} times as long as its radius of gyration; AISC 360 E2"
                " advises no more than"
                f" {aisc.SLENDEREST:.0f}. Choose a stouter section.",
                m.host,
                (m.id,),
                at,
            )
