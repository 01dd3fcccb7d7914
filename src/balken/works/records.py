"""Which record of a project a member in the ground belongs to."""

from balken.framing.member import Member
from balken.model.foundations import FoundationRun
from balken.model.names import HostName
from balken.model.project import PointSupport, Project


def run_of(project: Project, member: Member) -> FoundationRun:
    """The foundation a member belongs to."""
    return next(r for r in project.runs if HostName("run", r.id) == member.host)


def support_of(project: Project, member: Member) -> PointSupport:
    """The record of a post, pad or pier."""
    return next(s for s in project.point_supports if s.id == member.host.key)
