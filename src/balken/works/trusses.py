"""Roofs of trusses: all that stand are checked, and what each bears on is known."""

from collections.abc import Sequence

from balken.analysis.beams import UnstableError
from balken.design.codes.timber import TimberCode
from balken.design.sizing import Sized
from balken.design.truss_checks import (
    check_trusses,
    lumber_of,
)
from balken.design.truss_more import More
from balken.design.trusses import TrussRoof, task_of, used_in
from balken.design.under import Under
from balken.framing.layout import LayoutError
from balken.framing.member import Bearings, Size
from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.framing.trusses.placing import PlacedTruss, cut_of, place_trusses
from balken.geometry.plane import dot, sub
from balken.loads.parcels import Parcel
from balken.loads.path import LoadPath
from balken.model.catalogue import sections_of
from balken.model.names import HostName
from balken.model.project import Project, changes_on
from balken.model.roofs import RoofArea
from balken.recall import remembered
from balken.units import System
from balken.works.terms import terms_of


def check_truss_roofs(
    project: Project,
    structure: Structure,
    sizes: dict[HostName, Sized],
    of_roofs: dict[HostName, Bearings],
    under: dict[HostName, Under],
    path: LoadPath,
) -> dict[HostName, TrussRoof]:
    """Check all trusses that stand; ``under`` is the softest of what each roof bears on, ``path`` has
    what was drawn on them."""
    found = {}
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        if (
            roof.framing == "trusses"
            and host in structure.roofs
            and host in sizes
            and host in of_roofs
        ):
            made = _checked_roof(
                roof,
                structure.roofs[host],
                of_roofs[host],
                under[host],
                sizes[host].size,
                terms_of(project).timber,
                project.system,
                changes_on(project, host),
                _by_row(host, path),
            )
            if made is not None:
                found[host] = made
    return found


def _by_row(host: HostName, path: LoadPath) -> tuple[tuple[str, tuple[Parcel, ...]], ...]:
    """What lies on each truss of a roof beside its even loads, by row."""
    mine = [(n.row, parcels) for n, parcels in path.on_trusses.items() if n.host == host]
    return tuple(sorted(mine, key=lambda found: found[0]))


def _along(
    placed: Sequence[PlacedTruss], parcels: dict[str, tuple[Parcel, ...]]
) -> dict[str, More]:
    """The same by how far along its truss it lies, mm."""
    return {
        t.row: tuple((dot(sub((p.x, p.y), t.start), t.way), p.most) for p in parcels[t.row])
        for t in placed
        if t.row in parcels
    }


@remembered
def _checked_roof(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    under: Under,
    size: Size,
    timber: TimberCode,
    system: System,
    changes: tuple[object, ...],
    more: tuple[tuple[str, tuple[Parcel, ...]], ...],
) -> TrussRoof | None:
    sections = sections_of(system, ())
    try:
        placed, _, _ = place_trusses(roof, shape, bearings, size, sections, changes)  # type: ignore[arg-type]
    except LayoutError:
        return None
    names = cut_of(size, sections)[1]
    lumber = lumber_of(timber, names, roof.species, roof.grade, sections)
    if lumber is None:
        return None
    task = task_of(timber, roof, bearings, under, size.spacing, len(placed))
    try:
        checks = tuple(check_trusses(placed, lumber, task, _along(placed, dict(more))))
    except UnstableError:
        return None
    return TrussRoof(
        placed, checks, lumber, task, used_in(HostName("roof", roof.id), placed, checks)
    )
