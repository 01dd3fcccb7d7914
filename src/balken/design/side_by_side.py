"""Joists, ceiling joists and rafters side by side, each under the loads of its strip of the plan."""

from collections.abc import Container, Sequence

import msgspec
import numpy as np

from balken.design.carrying import softer
from balken.design.nds.bending import CHECKS, Batch, Results, check, repetitive
from balken.design.nds.factors import Adjusted, adjusted
from balken.design.nds.values import NoValueError, reference
from balken.design.sizing import Sized, combinations_for, end_share, limited, member_span
from balken.framing.beds import build_up_of
from balken.framing.member import SPANNING_ROLES, Member, Part
from balken.framing.structure import Structure
from balken.loads.path import area_loads
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.memo import Memo
from balken.model.project import Project, host_record
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.units import System


class HostCheck(msgspec.Struct, frozen=True):
    """Members of one host side by side, and what came out."""

    ids: tuple[str, ...]
    batch: Batch
    results: Results


class Terms(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What the members of one host are checked with."""

    loads: tuple[float, float, float, float]
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


class PartCheck(msgspec.Struct, frozen=True):
    """What came out for members of one part: among which they were checked, and utilisation and governing check of each."""

    among: HostCheck | None
    used: dict[str, tuple[float, str]]


MANY = 3
"""Three members side by side help each other (NDS 4.3.9)."""


def check_side_by_side(
    project: Project, structure: Structure, sizes: dict[str, Sized], carrying: Container[str], memo: Memo
) -> dict[str, list[PartCheck]]:
    """Check the members of every host that carry no more than their strip, part by part; those asked for the first time
    are worked out together."""
    by_host: dict[str, list[tuple[Member, ...]]] = {}
    for part in structure.parts:
        members = tuple([m for m in memo.small(_spanning, part) if m.id not in carrying])
        if members:
            by_host.setdefault(members[0].host, []).append(members)
    found = {}
    for host, parts in by_host.items():
        terms = _terms(project, host, sizes[host].size.spacing, sum(map(len, parts)))
        found[host] = memo.each(_check_parts, [(terms, members) for members in parts])
    return found


def _spanning(part: Part) -> tuple[Member, ...]:
    return tuple(m for m in part.members if m.role in SPANNING_ROLES and member_span(m) > 0)


def _terms(project: Project, host: str, spacing: float, count: int) -> Terms:
    record = host_record(project, host)
    assert isinstance(record, FloorArea | RoofArea), "only floors and roofs span"
    grown = build_up_of(project, record) if isinstance(record, FloorArea) else record
    return Terms(
        area_loads(project, host), record.live_limit, record.total_limit, grown.species, grown.grade, spacing,
        min(count, MANY), project.system, project.products,
    )  # fmt: skip


def _check_parts(asked: Sequence[tuple[Terms, tuple[Member, ...]]]) -> list[PartCheck]:
    """Check parts of one host in one batch."""
    terms = asked[0][0]
    found = _check_members([m for _, members in asked for m in members], terms)
    if found is None:
        return [PartCheck(None, {}) for _ in asked]
    worst, governing = found.results.worst.tolist(), found.results.ratios.argmax(axis=0).tolist()
    used = {name: (ratio, CHECKS[k]) for name, ratio, k in zip(found.ids, worst, governing)}
    return [PartCheck(found, {m.id: used[m.id] for m in members if m.id in used}) for _, members in asked]


def _check_members(members: Sequence[Member], terms: Terms) -> HostCheck | None:
    sections = sections_of(terms.system, terms.products)
    kept: list[tuple[Member, Adjusted]] = []
    known: dict[tuple[str, bool], Adjusted | None] = {}
    for m in members:
        on_sill = [s.on for s in m.supports if "/sill:" in s.on]
        key = (m.section, bool(on_sill))
        if key not in known:
            known[key] = _values(sections[m.section], terms.species, terms.grade, softer(on_sill[0] if on_sill else ""))
        value = known[key]
        if value is not None:
            kept.append((m, value))
    if not kept:
        return None
    n = len(kept)
    pieces = [m for m, _ in kept]
    widths = np.array([m.area / (m.carries[1] - m.carries[0]) for m in pieces])
    slopes = np.array([m.slope for m in pieces])
    line = np.array(terms.loads)[:, None] * widths[None, :]
    line[0] *= np.hypot(1.0, slopes)  # dead load lies on the slope
    batch = Batch(
        sections=tuple(sections[m.section] for m in pieces),
        values=tuple(v for _, v in kept),
        repetitive=np.array([repetitive(terms.many, sections[m.section].breadth, terms.spacing) for m in pieces]),
        span=np.array([member_span(m) for m in pieces]),
        line=line,
        reaction=line * np.array([end_share(m) for m in pieces]),
        bearing=np.array(
            [m.supports[0].length if m.role == "rafter" else min(s.length for s in m.supports) for m in pieces]
        ),
        live_limit=np.full(n, terms.live_limit),
        total_limit=np.full(n, terms.total_limit),
        slope=slopes,
        combinations=combinations_for(terms.loads),
    )
    return HostCheck(tuple(m.id for m in pieces), batch, check(batch))


def _values(section: Section, species: str, grade: str, softest: float) -> Adjusted | None:
    """Return the values of lumber on what it bears on; None where the tables hold none."""
    try:
        value = adjusted(reference(species, grade, section.nominal), species, grade, section.nominal)
    except NoValueError:
        return None
    return limited(value, softest)
