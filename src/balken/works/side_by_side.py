"""Joists, ceiling joists and rafters of every host side by side, part by part."""

from collections.abc import Container, Sequence

from balken.design.around import Surroundings
from balken.design.service import category_of, service_class
from balken.design.side_by_side import PartCheck, Strip, check_parts
from balken.design.sizing import Sized, member_span
from balken.design.under import Under
from balken.framing.hosts.heights import build_up_of
from balken.framing.member import Member, Part
from balken.framing.structure import Structure
from balken.loads.leeward import leeward_of
from balken.loads.path import area_loads
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_record
from balken.model.roofs import RoofArea
from balken.recall import remembered_piece
from balken.works.terms import terms_of
from balken.works.walking import walked_of, width_across

MANY = 3
"""Three members side by side help each other (NDS 4.3.9)."""


def check_side_by_side(
    project: Project,
    structure: Structure,
    sizes: dict[HostName, Sized],
    carrying: Container[MemberName],
    around: Surroundings,
) -> dict[HostName, list[PartCheck]]:
    """Check the members of every host that carry no more than their strip, part by part; those
    asked for the first time are worked out together."""
    by_host: dict[HostName, list[tuple[Member, ...]]] = {}
    for part in structure.parts:
        members = tuple([m for m in _spanning(part) if m.id not in carrying])
        if members:
            by_host.setdefault(members[0].host, []).append(members)
    found = {}
    for host, parts in by_host.items():
        every = [m for members in parts for m in members]
        strip = _strip_of(project, structure, host, sizes[host].size.spacing, every)
        found[host] = check_parts(
            [(strip, members, _softest(members, around)) for members in parts]
        )
    return found


@remembered_piece
def _spanning(part: Part) -> tuple[Member, ...]:
    return tuple(m for m in part.members if m.kind.spans and member_span(m) > 0)


def _softest(members: tuple[Member, ...], around: Surroundings) -> tuple[Under, ...]:
    """The softest of what lies under each of some members."""
    return tuple(min(around.of(m).under, key=lambda u: u.stress) for m in members)


def _strip_of(
    project: Project,
    structure: Structure,
    host: HostName,
    spacing: float,
    members: Sequence[Member],
) -> Strip:
    record = host_record(project, host)
    assert isinstance(record, FloorArea | RoofArea), "only floors and roofs span"
    grown = build_up_of(project, record) if isinstance(record, FloorArea) else record
    return Strip(
        area_loads(record),
        record.live_limit,
        record.total_limit,
        grown.species,
        grown.grade,
        spacing,
        min(len(members), MANY),
        terms_of(project).timber,
        service_class(record),
        category_of(terms_of(project), record),
        project.system,
        project.products,
        walked_of(record, grown, width_across(members))
        if isinstance(record, FloorArea) and isinstance(grown, BuildUp)
        else None,
        record.rafters.tie_up
        if isinstance(record, RoofArea) and record.rafters.ties != "none"
        else 0.0,
        leeward_of(project, structure, record) if isinstance(record, RoofArea) else 1.0,
    )
