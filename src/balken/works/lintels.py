"""Lintels as they are checked, and how deep one has to be."""

from collections.abc import Iterator

from balken.design.lines import Check
from balken.design.lintels import OverOpening, lintel_checks
from balken.design.seats import under_wall
from balken.framing.hosts.lintels import COURSE
from balken.framing.member import Member
from balken.loads.path import LoadPath
from balken.model.project import Project, wall, wall_build_up, wall_top
from balken.works.terms import terms_of


def checks_of_lintel(
    project: Project, path: LoadPath, member: Member, thick: float | None = None
) -> tuple[Check, ...]:
    """Bending, shear and bearing of a lintel as it is framed, or of one so thick, mm."""
    body = wall_build_up(project, wall(project, member.host.key))
    low, high = member.solid.bounds()
    terms = terms_of(project)
    over = OverOpening(
        member,
        member.solid.depth,
        high[2] - low[2] if thick is None else thick,
        path.carried.get(member.id, ()),
        under_wall(terms, body),
    )
    return lintel_checks(terms, over)


def proposed_depth(project: Project, path: LoadPath, member: Member) -> float | None:
    """The least depth in whole courses at which a lintel bends and shears within what it bears, mm;
    None where the wall has no room for it, or no depth helps: its bearing."""
    for thick in _depths(project, member):
        checks = checks_of_lintel(project, path, member, thick)
        if checks and max(c.ratio for c in checks) <= 1.0:
            return thick
    return None


def _depths(project: Project, member: Member) -> Iterator[float]:
    body = wall_build_up(project, wall(project, member.host.key))
    module = body.module if body else None
    course = module.course if module else COURSE[project.system]
    joint = module.joint if module else 0.0
    low, high = member.solid.bounds()
    room = wall_top(project, wall(project, member.host.key)) - low[2]
    courses = 1
    while (thick := courses * course - joint) <= room:
        if thick > high[2] - low[2] + 1.0:
            yield thick
        courses += 1
