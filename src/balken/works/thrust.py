"""What pushes the walls under a rafter roof apart, and the floor or ceiling that ties it."""

import math
from typing import Final

import msgspec

from balken.design.thrust import PlatePush, push_of, pushes
from balken.framing import kinds
from balken.framing.hosts.heights import build_up_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import sub, unit
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.roofs import RoofArea
from balken.works.terms import terms_of


class Thrust(msgspec.Struct, frozen=True, gc=False):
    """The push of the worst pair of rafters on its plates, N, in which combination, and the floor
    or ceiling that ties it."""

    member: MemberName
    force: float
    combination: str
    tied_by: str
    duration: float = 1.0
    """C_D or kmod of the combination."""


def thrust_of(project: Project, structure: Structure, roof: RoofArea) -> Thrust | None:
    """The push of a roof's rafters; None where a beam carries them, or none meet across a
    ridge board."""
    worst: tuple[float, Member, PlatePush] | None = None
    for m in structure.of(kinds.RAFTER):
        if m.host == HostName("roof", roof.id) and pushes(m):
            push = push_of(terms_of(project), roof, m)
            if worst is None or push.force > worst[0] + 1e-9:
                worst = (push.force, m, push)
    if worst is None:
        return None
    own = TIES if any(m.host == HostName("roof", roof.id) for m in structure.of(kinds.TIE)) else ""
    force, rafter, push = worst
    tied_by = _tie(project, structure, roof, rafter) or own
    return Thrust(rafter.id, force, push.combination, tied_by, push.duration)


TIES: Final = "the ties of its rafters"
"""What ties a roof that has ties of its own."""


def _tie(project: Project, structure: Structure, roof: RoofArea, rafter: Member) -> str:
    """The name of a floor or ceiling on the plates whose joists run with the rafters; empty
    where there is none."""
    way = unit(sub(rafter.end[:2], rafter.start[:2]))
    for floor in project.floors:
        level = floor.level if build_up_of(project, floor).use == "ceiling" else floor.bears_on
        if level != roof.plate:
            continue
        for m in structure.of(kinds.JOIST, kinds.CEILING_JOIST):
            if m.host == HostName("floor", floor.id):
                along = unit(sub(m.end[:2], m.start[:2]))
                if abs(along[0] * way[0] + along[1] * way[1]) > math.cos(math.radians(5)):
                    return floor.name
                break
    return ""
