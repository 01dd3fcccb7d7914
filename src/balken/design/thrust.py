"""What pushes the walls under a rafter roof apart, and what ties them: IRC 2021 R802.5.2."""

import math

import msgspec

from balken.design.sizing import combinations_for
from balken.design.truss_forces import tie_force
from balken.framing.beds import build_up_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import sub, unit
from balken.loads.path import area_loads
from balken.model.memo import Memo
from balken.model.project import Project
from balken.model.roofs import RoofArea


class Thrust(msgspec.Struct, frozen=True, gc=False):
    """The push of the worst pair of rafters on its plates, N, in which combination, and the floor or ceiling that ties it."""

    member: str
    force: float
    combination: str
    tied_by: str


def thrust_of(project: Project, structure: Structure, roof: RoofArea, memo: Memo) -> Thrust | None:
    """Return the push of a roof's rafters; None where a beam carries them, or none meet across a ridge board."""
    del memo
    worst: tuple[float, Member, str] | None = None
    for m in structure.of("rafter"):
        if m.host == f"roof:{roof.id}" and "/rafter:" in m.id and "/ridge:" in m.supports[-1].on:
            force, name = push_of(project, m)
            if worst is None or force > worst[0] + 1e-9:
                worst = (force, m, name)
    if worst is None:
        return None
    return Thrust(worst[1].id, worst[0], worst[2], _tie(project, structure, roof, worst[1]))


def push_of(project: Project, m: Member) -> tuple[float, str]:
    """Return the horizontal push of a rafter at its plate, N, and the combination: that of a pair as wide as twice its span."""
    loads = area_loads(project, m.host, m.slope)
    wide = m.area / (m.carries[1] - m.carries[0])
    half = m.supports[-1].at - m.supports[0].at
    best = (0.0, "")
    for c in combinations_for(loads):
        w = sum(q * f for q, f in zip(loads, c.factors)) * wide
        best = max(best, (tie_force(w, 2 * half, half * m.slope), c.name))
    return best


def _tie(project: Project, structure: Structure, roof: RoofArea, rafter: Member) -> str:
    """Return the name of a floor or ceiling on the plates whose joists run with the rafters; empty where there is none."""
    way = unit(sub(rafter.end[:2], rafter.start[:2]))
    for floor in project.floors:
        level = floor.level if build_up_of(project, floor).use == "ceiling" else floor.bears_on
        if level != roof.plate:
            continue
        for m in structure.of("joist", "ceiling joist"):
            if m.host == f"floor:{floor.id}":
                along = unit(sub(m.end[:2], m.start[:2]))
                if abs(along[0] * way[0] + along[1] * way[1]) > math.cos(math.radians(5)):
                    return floor.name
                break
    return ""
