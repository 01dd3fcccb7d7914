"""Joists, ceiling joists and rafters side by side, each under the loads of its strip of the
plan."""

import math
from collections.abc import Container, Mapping, Sequence

import msgspec
import numpy as np

from balken.design.around import Surroundings
from balken.design.leaning import thrust_share
from balken.design.nds.bending import CHECKS, Batch, Results, Tails, check, repetitive
from balken.design.nds.factors import Adjusted, adjusted
from balken.design.nds.values import NoValueError, reference
from balken.design.notches import neck_of
from balken.design.seats import Under
from balken.design.sizing import Sized, combinations_for, end_share, limited, member_span
from balken.framing import kinds
from balken.framing.beds import build_up_of
from balken.framing.member import Member, Part
from balken.framing.structure import Structure
from balken.loads.parcels import rows_of
from balken.loads.path import area_loads
from balken.loads.statics import leans
from balken.model.cases import DEAD, Cases
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_record
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.recall import remembered_each, remembered_piece
from balken.units import System


class HostCheck(msgspec.Struct, frozen=True):
    """Members of one host side by side, and what came out."""

    ids: tuple[MemberName, ...]
    batch: Batch
    results: Results


class Terms(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What the members of one host are checked with."""

    loads: Cases
    """N/mm² per case."""
    live_limit: float
    total_limit: float
    species: str
    grade: str
    spacing: float
    many: int
    """How many there are; three and thirty are alike."""
    system: System
    products: tuple[Product, ...]
    tie_up: float = 0.0
    """Of rafters: how high over the plate their ties lie, mm."""


class PartCheck(msgspec.Struct, frozen=True):
    """What came out for members of one part: among which they were checked, and utilisation and
    governing check of each."""

    among: HostCheck | None
    used: dict[MemberName, tuple[float, str]]


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
        terms = _terms(project, host, sizes[host].size.spacing, sum(map(len, parts)))
        found[host] = _check_parts(
            [(terms, members, _softest(members, around)) for members in parts]
        )
    return found


@remembered_piece
def _spanning(part: Part) -> tuple[Member, ...]:
    return tuple(m for m in part.members if m.kind.spans and member_span(m) > 0)


def _softest(members: tuple[Member, ...], around: Surroundings) -> tuple[Under, ...]:
    """The softest of what lies under each of some members."""
    return tuple(min(around.of(m).under, key=lambda u: u.stress) for m in members)


def _terms(project: Project, host: HostName, spacing: float, count: int) -> Terms:
    record = host_record(project, host)
    assert isinstance(record, FloorArea | RoofArea), "only floors and roofs span"
    grown = build_up_of(project, record) if isinstance(record, FloorArea) else record
    return Terms(
        area_loads(project, host),
        record.live_limit,
        record.total_limit,
        grown.species,
        grown.grade,
        spacing,
        min(count, MANY),
        project.system,
        project.products,
        record.rafters.tie_up
        if isinstance(record, RoofArea) and record.rafters.ties != "none"
        else 0.0,
    )


@remembered_each
def _check_parts(
    asked: Sequence[tuple[Terms, tuple[Member, ...], tuple[Under, ...]]],
) -> list[PartCheck]:
    """Check parts of one host in one batch."""
    terms = asked[0][0]
    found = _check_members(
        [m for _, members, _ in asked for m in members],
        [u for *_, under in asked for u in under],
        terms,
    )
    if found is None:
        return [PartCheck(None, {}) for _ in asked]
    worst, governing = found.results.worst.tolist(), found.results.ratios.argmax(axis=0).tolist()
    used = {name: (ratio, CHECKS[k]) for name, ratio, k in zip(found.ids, worst, governing)}
    return [
        PartCheck(found, {m.id: used[m.id] for m in members if m.id in used})
        for _, members, _ in asked
    ]


def _check_members(
    members: Sequence[Member], under: Sequence[Under], terms: Terms
) -> HostCheck | None:
    sections = sections_of(terms.system, terms.products)
    kept: list[tuple[Member, Adjusted]] = []
    known: dict[tuple[str, Under], Adjusted | None] = {}
    for m, below in zip(members, under):
        key = (m.section, below)
        if key not in known:
            known[key] = _values(sections[m.section], terms.species, terms.grade, below)
        value = known[key]
        if value is not None:
            kept.append((m, value))
    if not kept:
        return None
    n = len(kept)
    pieces = [m for m, _ in kept]
    widths = np.array(
        [m.carrier.area / (m.carrier.carries[1] - m.carrier.carries[0]) for m in pieces]
    )
    slopes = np.array([m.slope for m in pieces])
    line = rows_of([terms.loads]).T * widths[None, :]
    line[DEAD] *= np.hypot(1.0, slopes)  # dead load lies on the slope
    batch = Batch(
        sections=tuple(sections[m.section] for m in pieces),
        values=tuple(v for _, v in kept),
        repetitive=np.array(
            [repetitive(terms.many, sections[m.section].breadth, terms.spacing) for m in pieces]
        ),
        span=np.array([member_span(m) for m in pieces]),
        line=line,
        reaction=line * np.array([end_share(m) for m in pieces]),
        bearing=np.array(
            [
                m.carrier.supports[0].length
                if m.kind is kinds.RAFTER
                else min(s.length for s in m.carrier.supports)
                for m in pieces
            ]
        ),
        live_limit=np.full(n, terms.live_limit),
        total_limit=np.full(n, terms.total_limit),
        slope=slopes,
        combinations=combinations_for(terms.loads),
        tails=_tails(pieces, sections, terms)
        if any(m.kind is kinds.RAFTER for m in pieces)
        else None,
    )
    return HostCheck(tuple(m.id for m in pieces), batch, check(batch))


def _tails(pieces: Sequence[Member], sections: Mapping[str, Section], terms: Terms) -> Tails:
    """What of rafters reaches past their plates, what their birdsmouths leave, and what pushes
    along them."""
    rows = [tail_and_push(m, sections[m.section], terms.tie_up) for m in pieces]
    return Tails(*(np.array(column) for column in zip(*rows)))


def tail_and_push(m: Member, section: Section, tie_up: float) -> tuple[float, float, float, float]:
    """Of one rafter: reach of its tail in plan, depth over the birdsmouth, thrust over its head's
    reaction, length along the slope between supports; mm."""
    neck = neck_of(m, section.depth)
    first, last = m.carrier.supports[0], m.carrier.supports[-1]
    rise = m.slope * (last.at - first.at)
    push = thrust_share(m.slope, rise, tie_up) if leans(m) and m.slope > 0 and rise > 0 else 0.0
    length = (last.at - first.at) * math.hypot(1.0, m.slope)
    return (neck.tail, neck.depth, push, length) if neck else (0.0, section.depth, push, length)


def _values(section: Section, species: str, grade: str, below: Under) -> Adjusted | None:
    """The values of lumber on what it bears on; None where the tables hold none."""
    try:
        value = adjusted(
            reference(species, grade, section.nominal), species, grade, section.nominal
        )
    except NoValueError:
        return None
    return limited(value, below)
