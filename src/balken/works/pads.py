"""Pads: what stands on each and comes down on it, and the size it needs."""

from collections.abc import Iterable

from balken.design.lines import Check
from balken.design.pads import OnPad, column_on, on_top, pad_checks, sized_pad
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.model.cases import Cases
from balken.model.names import HostName
from balken.model.project import PointSupport, Project
from balken.recall import remembered
from balken.works.records import support_of
from balken.works.terms import terms_of


def on_pad(project: Project, pad: Member, standing: Iterable[Member]) -> OnPad | None:
    """Which of the posts and piers stands on a pad, or None."""
    records = _by_key(project.point_supports)
    near = tuple([(records[m.host], m) for m in standing if on_top(m, pad)])
    return column_on(records[pad.host], pad, near)


@remembered
def _by_key(supports: tuple[PointSupport, ...]) -> dict[HostName, PointSupport]:
    return {HostName("support", s.id): s for s in supports}


def checks_of_pad(
    project: Project,
    structure: Structure,
    path: LoadPath,
    member: Member,
    standing: Iterable[Member],
) -> tuple[Check, ...]:
    """The checks of a pad under one of the posts and piers that may stand on it."""
    own = structure.volume(member) * project.site.concrete
    return pad_checks(
        terms_of(project),
        _by_key(project.point_supports)[member.host],
        on_pad(project, member, standing),
        own,
        path.soil_most(member.id, Cases(own)),
        member.end[2] - member.start[2],
    )


def propose_pad(
    project: Project, structure: Structure, path: LoadPath, member: Member
) -> tuple[float, float] | None:
    """Side and thickness of a square pad that passes all checks, on the modules, mm; None
    where none does."""
    own = Cases(structure.volume(member) * project.site.concrete)
    above = on_pad(project, member, structure.standing)
    carried = path.soil_most(member.id, own) - own
    return sized_pad(terms_of(project), support_of(project, member), above, carried)
