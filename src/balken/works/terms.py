"""What of a project the checks are asked with: its terms, what its walls are of, what is about its
members."""

from collections.abc import Mapping

from balken.design.around import Surroundings
from balken.design.seats import Beneath
from balken.design.service import COVERED, service_class
from balken.design.terms import Terms
from balken.framing.member import Member, Size
from balken.framing.structure import Structure
from balken.loads.leeward import leeward_of
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_records
from balken.model.record import ServiceClass
from balken.model.uses import heaviest


def terms_of(project: Project) -> Terms:
    """The terms that the members of a project are checked on."""
    used = heaviest({f.use for f in project.floors})
    return Terms(project.code, project.system, project.products, project.site, used)


def beneath_of(project: Project, members: Mapping[MemberName, Member]) -> Beneath:
    """What supports lie on, by name: walls, and members where they are known."""
    bodies = {b.id: b for b in project.wall_build_ups}
    walls = {w.id: bodies.get(w.build_up or "") for w in project.walls}
    return Beneath(terms_of(project), walls, members)


def surroundings_of(
    project: Project, structure: Structure, sizes: Mapping[HostName, Size]
) -> Surroundings:
    """What is about every member of a structure."""
    beneath = beneath_of(project, {m.id: m for m in structure.members})
    heavier = {HostName("roof", r.id): leeward_of(project, structure, r) for r in project.roofs}
    return Surroundings(beneath, project.bores, project.roofs, structure, sizes, heavier)


def service_of_post(project: Project, member: Member) -> ServiceClass:
    """The service class of a post or strut: of its own record, or of the roof it stands in."""
    host = host_records(project).get(member.host)
    if host is not None:
        return service_class(host)
    return next(
        (service_class(s) for s in project.point_supports if s.id == member.host.key), COVERED
    )
