"""Grade beams that span between piers: which piers stand under each, and what each pier takes."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

import shapely

from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.pieces import polygons_of
from balken.framing.structure import Structure
from balken.geometry.plane import direction_or, dot, sub
from balken.loads.parcels import Parcel
from balken.model.cases import Cases
from balken.model.names import HostName, MemberName
from balken.model.project import Project

MEETS: Final = 60.0
"""The top of a pier lies no further than this from the underside of the beam it carries, mm."""
MIDDLE_OF_TWO: Final = 1.25
"""What the middle support of two even spans takes over its share of length (statics)."""
FIRST_INNER: Final = 1.15
"""And each inner one of more (ACI 318-19 table 6.5.4, at the face of the first; 1.1 in statics)."""


class OnPier(NamedTuple):
    """Where a pier lies under a beam: from, to along it, mm; and its name."""

    low: float
    high: float
    pier: MemberName

    @property
    def middle(self) -> float:
        """Along the beam, mm."""
        return (self.low + self.high) / 2


Spanning = dict[MemberName, tuple[OnPier, ...]]
"""The piers under each grade beam that spans, in order along it: two at least."""


def way_of(beam: Member) -> tuple[tuple[float, float], tuple[float, float]]:
    """Where a beam starts in plan, and its direction."""
    start = (beam.start[0], beam.start[1])
    return start, direction_or(sub((beam.end[0], beam.end[1]), start), (1.0, 0.0))


def spanning(project: Project, structure: Structure) -> Spanning:
    """All grade beams that are set to span and have two piers or more under them."""
    wanted = {HostName("run", r.id) for r in project.runs if r.on_piers}
    if not wanted:
        return {}
    piers = structure.of(kinds.PIER, kinds.PAD)
    tree, found = shapely.STRtree(polygons_of(piers)), {}
    for beam in structure.of(kinds.GRADE_BEAM):
        if beam.host not in wanted:
            continue
        shape, low = shapely.Polygon(beam.solid.plan()), beam.solid.bounds()[0][2]
        under = [piers[i] for i in sorted(tree.query(shape, predicate="intersects").tolist())]
        met = [p for p in under if abs(p.solid.bounds()[1][2] - low) <= MEETS]
        on = sorted(_along(beam, p) for p in met)
        if len(on) > 1:
            found[beam.id] = tuple(on)
    return found


def _along(beam: Member, pier: Member) -> OnPier:
    start, way = way_of(beam)
    places = [dot(sub(p, start), way) for p in pier.solid.plan()]
    return OnPier(max(0.0, min(places)), min(beam.length, max(places)), pier.id)


def onto_piers(
    beam: Member, piers: Sequence[OnPier], parcels: Sequence[Parcel]
) -> Iterator[tuple[MemberName, Parcel]]:
    """What a beam hands to its piers: each load by the lever to the two beside it, past the last one
    all to it; and what inner piers of a beam that runs through may take besides."""
    for parcel in parcels:
        for i, share in _shares(beam, piers, parcel):
            inner = 0 < i < len(piers) - 1
            times = (MIDDLE_OF_TWO if len(piers) == 3 else FIRST_INNER) if inner else 1.0
            forces = parcel.forces * share
            more = parcel.more * share + _down(forces) * (times - 1)
            yield piers[i].pier, _at(beam, piers[i], forces, more)


def _shares(beam: Member, piers: Sequence[OnPier], parcel: Parcel) -> tuple[tuple[int, float], ...]:
    """Which piers take what part of a load."""
    start, way = way_of(beam)
    at, last = dot(sub((parcel.x, parcel.y), start), way), len(piers) - 1
    if at <= piers[0].middle:
        return ((0, 1.0),)
    if at >= piers[last].middle:
        return ((last, 1.0),)
    i = next(k for k in range(last) if at <= piers[k + 1].middle)
    far = (at - piers[i].middle) / (piers[i + 1].middle - piers[i].middle)
    return tuple((k, share) for k, share in ((i, 1 - far), (i + 1, far)) if share > 0)


def _down(forces: Cases) -> Cases:
    return Cases(*(max(0.0, f) for f in forces))


def _at(beam: Member, on: OnPier, forces: Cases, more: Cases) -> Parcel:
    (x, y), (dx, dy) = way_of(beam)
    return Parcel(x + dx * on.middle, y + dy * on.middle, forces, beam.id, more)
