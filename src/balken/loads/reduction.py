"""Live loads of floors that are less on what carries a large area, where the code allows it and the
project asks for it (ASCE 7-16 4.7; EN 1991-1-1 6.3.1.2(10)).

The area that a member carries goes the same way as loads: every floor whose load may be less bears
one of what is counted, and what arrives is the area. Loads that are drawn or typed, and floors whose
use the code leaves out, stay whole.
"""

from collections.abc import Callable, Mapping
from typing import Final

from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.structure import Structure
from balken.loads.codes.eu.live import area_factor
from balken.loads.codes.us.live import HEAVY, reduced
from balken.loads.parcels import Parcel
from balken.model.cases import NOTHING, Cases
from balken.model.floors import FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.uses import USES, heaviest

ELEMENT: Final[dict[MemberKind, float]] = {kinds.POST: 4.0, kinds.PAD: 4.0, kinds.BEAM: 2.0}
"""K_LL (ASCE 7-16 table 4.7-1): columns and what they stand on, and beams, no slab or floor reaching
out over them."""
REACHING: Final[dict[MemberKind, float]] = {kinds.POST: 2.0, kinds.PAD: 2.0, kinds.BEAM: 1.0}
"""And in a building where one does, whichever it is: corner columns, edge beams."""


Areas = Callable[[HostName, float], Cases]
"""What lies on a host of a slope, N/mm² per case."""
Arrive = Callable[[Areas], Mapping[MemberName, Cases]]
"""What comes onto each member, N, where such areas are loaded and nothing else."""


def reductions(
    project: Project, structure: Structure, live: Mapping[MemberName, Cases], arrive: Arrive
) -> dict[MemberName, float]:
    """How much of its live load counts on each member that carries enough, by its name.

    Args:
        project: with its floors.
        structure: its members.
        live: what all floors and drawn loads bring to each, N.
        arrive: the way of loads.
    """
    floors = [f for f in project.floors if _may_be_less(project, f)]
    if not floors:
        return {}
    share_of = _share_us if project.code == "us" else _share_eu
    by_id = {m.id: m for m in structure.members}
    found = {}
    counted = {HostName("floor", f.id): Cases(snow=f.live, roof_live=1.0) for f in floors}
    for name, carries in arrive(lambda host, _: counted.get(host, NOTHING)).items():
        kind, whole = by_id[name].kind, live.get(name, NOTHING).live
        # What is counted as live load on a roof is the area, and as snow the floors’ live load.
        share = share_of(project, floors, kind, carries.roof_live) if kind in ELEMENT else 1.0
        if share < 1.0 and whole > 0:
            found[name] = 1 - (1 - share) * min(1.0, carries.snow / whole)
    return found


def _may_be_less(project: Project, floor: FloorArea) -> bool:
    """Whether the code lets the live load of a floor be less over a large area."""
    if project.code == "us":
        return USES["us"][floor.use].reducible and floor.live <= HEAVY * (1 + 1e-9)
    return USES["eu"][floor.use].category in ("A", "B", "C", "D")


def _share_us(project: Project, floors: list[FloorArea], kind: MemberKind, area: float) -> float:
    reaches = any(f.edge > 0 or any(e.out > 0 for e in f.edges) for f in project.floors)
    return reduced(HEAVY, area, (REACHING if reaches else ELEMENT)[kind]) / HEAVY


def _share_eu(project: Project, floors: list[FloorArea], kind: MemberKind, area: float) -> float:
    """Of beams; columns are less by the storeys over them, more than two (6.3.1.2(11)), which is
    left out, as safe."""
    if kind is not kinds.BEAM:
        return 1.0
    psi = project.site.left_open.psi_floors
    return area_factor(heaviest({f.use for f in floors}), area, psi[0] if psi else None)


def lessened(parcels: tuple[Parcel, ...], share: float) -> tuple[Parcel, ...]:
    """Parcels with a share of their live load."""
    return tuple(
        replace(
            p,
            forces=replace(p.forces, live=p.forces.live * share),
            more=replace(p.more, live=p.more.live * share),
        )
        for p in parcels
    )
