"""Which members carry more than their strip of floor, and what beams, plies, hips and struts are
chosen to carry what comes down."""

import math
from collections.abc import Iterable, Iterator, Mapping
from functools import partial
from itertools import pairwise
from typing import Protocol

import msgspec

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer, Asked, judge
from balken.design.carrying import (
    NEARLY,
    STRUTS,
    VALLEY_FRAMES,
    Carried,
    answers,
    asked_of,
    carries_more,
    judged,
    stick_for,
    sums_of,
)
from balken.design.effects import Loaded
from balken.design.posts import in_compression
from balken.design.service import service_class
from balken.design.short_pieces import is_valley_rafter, short_checks
from balken.design.sizing import LEAST, TOLERANCE, Choice, Sized, carbon_per_mm
from balken.design.terms import Terms
from balken.framing import kinds
from balken.framing.member import CutFrom, Member, Part, Size, apart
from balken.framing.structure import Structure
from balken.framing.trusses.valley_sets import VALLEY_FRAME
from balken.loads.path import LoadPath, area_loads
from balken.loads.statics import span_marks
from balken.model.beams import BeamKind
from balken.model.cases import NOTHING, Cases
from balken.model.catalogue import MOST_PLIES, price_per_mm, sections_of
from balken.model.edits.groups import beam_groups
from balken.model.foundations import Carbon
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_records
from balken.model.record import ServiceClass
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.recall import remembered_piece
from balken.units import System
from balken.works.terms import surroundings_of, terms_of


def check_carrying(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[MemberName, Answer]:
    """Check every member that carries more than its strip of floor."""
    records, terms = host_records(project), terms_of(project)
    wanted = []
    for part in structure.parts:
        alone, joists = _alone_or_loaded(part, project.system, project.products)
        bored = any(around.bored(name) for name in joists)
        members = (
            _carrying_of(project, part, path, around)
            if bored or not joists.isdisjoint(path.carried)
            else alone
        )
        for m in members:
            record = records[m.host]
            loads = area_loads(record, m.carrier.slope)
            sums = sums_of(terms, record, terms.sections[m.section])
            loaded = Loaded(m, loads, path.carried.get(m.id, ()), sums)
            wanted.append(Carried(terms, record, loaded, around.of(m)))
    found = answers(wanted)
    return {a.asked.member.id: a for a in found if a is not None}


def _carrying_of(
    project: Project, part: Part, path: LoadPath, around: Surroundings
) -> tuple[Member, ...]:
    sections = sections_of(project.system, project.products)
    return tuple(
        m
        for m in part.members
        if m.section in sections
        and (
            carries_more(m, path.carried.get(m.id, ()), sections[m.section])
            or _spans_bored(m, around)
        )
    )


def _spans_bored(m: Member, around: Surroundings) -> bool:
    return m.kind.spans and around.bored(m.id) and len(apart(m.carrier.supports)) > 1


@remembered_piece
def _alone_or_loaded(
    part: Part, system: System, products: tuple[Product, ...]
) -> tuple[tuple[Member, ...], frozenset[MemberName]]:
    """The members of a part that need the analysis of a beam whatever lies on them, and the
    joists that need it once something does."""
    sections = sections_of(system, products)
    alone = tuple(
        m
        for m in part.members
        if m.section in sections and carries_more(m, (), sections[m.section])
    )
    return alone, frozenset(m.id for m in part.members if m.kind.spans)


def unsized(project: Project) -> list[tuple[HostName, BeamKind]]:
    """The beams and bays whose section comes out by calculation."""
    pairs = [(HostName("beam", b.id), b.kind) for b in project.beams] + [
        (HostName("bay", b.id), b.kind) for b in project.bays
    ]
    return [(host, kind) for host, kind in pairs if kind.section is None]


def with_sections(project: Project, chosen: dict[HostName, str]) -> Project:
    """A project whose beams are cut from what was chosen for them."""

    def cut(host: HostName, kind: BeamKind) -> BeamKind:
        return msgspec.structs.replace(kind, section=chosen[host]) if host in chosen else kind

    return msgspec.structs.replace(
        project,
        beams=tuple(
            msgspec.structs.replace(b, kind=cut(HostName("beam", b.id), b.kind))
            for b in project.beams
        ),
        bays=tuple(
            msgspec.structs.replace(b, kind=cut(HostName("bay", b.id), b.kind))
            for b in project.bays
        ),
    )


def choose_beams(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, Sized]:
    """For each beam and bay without a section the cheapest that passes, with all others
    beside it.

    Where none passes, the strongest is taken, and the fit list says so.
    """
    wanted = unsized(project)
    if not wanted:
        return {}
    by_host: dict[HostName, list[Member]] = {}
    for m in structure.of(kinds.BEAM):
        if len(apart(m.carrier.supports)) > 1:
            by_host.setdefault(m.host, []).append(m)
    worst = _of_groups(project, wanted, _worst_by_section(project, path, around, by_host))
    sections = terms_of(project).sections
    return {
        host: _chosen(host, kind, by_host.get(host, []), worst, sections, project.site.carbon)
        for host, kind in wanted
    }


Worst = dict[tuple[HostName, str], tuple[float, str]]
"""The worst utilisation of a host's members and its check, by the host and a section."""


def _of_groups(project: Project, wanted: list[tuple[HostName, BeamKind]], alone: Worst) -> Worst:
    """Each section with the worst of all that share it: what a group is cut from does for all of
    it. A section that one of them may not have is left to the others."""
    groups, found = beam_groups(project), dict(alone)
    for host, _ in wanted:
        mates = [h for h, _ in wanted if groups[h] and groups[h] == groups[host]]
        for _, name in [key for key in alone if key[0] == host]:
            of_all = [alone[h, name] for h in mates if (h, name) in alone]
            found[host, name] = max([alone[host, name], *of_all])
    return found


def _worst_by_section(
    project: Project,
    path: LoadPath,
    around: Surroundings,
    by_host: dict[HostName, list[Member]],
) -> Worst:
    """Every beam and bay without a section checked in each that it may have, in one batch."""
    terms, records = terms_of(project), host_records(project)
    asked: list[Asked] = []
    whose: list[tuple[HostName, str]] = []
    trials = (
        (host, name, m)
        for host, kind in unsized(project)
        for name in kind.sizes
        for m in by_host.get(host, ())
    )
    for host, name, m in trials:
        carried = path.carried.get(m.id, ())
        item = asked_of(terms, records[host], m, carried, around.of(m), terms.sections[name])
        if item is not None:
            asked.append(item)
            whose.append((host, name))
    worst: Worst = {}
    for key, answer in zip(whose, judged(asked)):
        ratio = answer.worst if answer else (99.0, "it cannot stand")
        worst[key] = max(worst.get(key, ratio), ratio)
    return worst


def _chosen(
    host: HostName,
    kind: BeamKind,
    members: list[Member],
    worst: Worst,
    sections: Mapping[str, Section],
    carbon: Carbon,
) -> Sized:
    """What a beam or a bay is cut from: the cheapest that passes, else the strongest."""
    length = sum(m.length for m in members)
    made = [
        Choice(
            name,
            0.0,
            *worst[host, name],
            length * price_per_mm(sections[name], kind.grade),
            sections[name].depth,
            True,
            pieces=len(members) * sections[name].plies,
            volume=length * sections[name].area,
            carbon=length * carbon_per_mm(sections[name], carbon),
        )
        for name in kind.sizes
        if (host, name) in worst
    ]
    made.sort(key=lambda c: (*LEAST[kind.aim](c), c.section))
    best = _cheapest_passing(made)
    spans = (b - a for m in members for a, b in pairwise(span_marks(m)))
    name = best.section if best else kind.sizes[0]
    return Sized(host, Size(name, 0.0), tuple(made), max(spans, default=0.0), float("inf"))


def _cheapest_passing(made: list[Choice]) -> Choice | None:
    """The first of some choices that passes with something to spare, else that just passes, else
    the strongest."""
    passing = [c for c in made if c.worst <= NEARLY + TOLERANCE]
    passing = passing or [c for c in made if c.passes]
    return passing[0] if passing else min(made, key=lambda c: c.worst, default=None)


def next_section(checked: "HasCarrying", member: Member) -> str | None:
    """The cheapest section of a member's own family that carries what it is asked to; None
    where none does."""
    project, terms = checked.built, terms_of(checked.built)
    record = host_records(project).get(member.host)
    answer = checked.carrying.get(member.id)
    own = terms.sections.get(member.section)
    if answer is None or record is None or own is None:
        return None
    sizes = {host: sized.size for host, sized in checked.sizes.items()}
    around = surroundings_of(project, checked.structure, sizes).of(member)
    carried = checked.path.carried.get(member.id, ())
    grade = member.material.partition(" ")[2]
    alike = [s for s in terms.sections.values() if _may_stand_for(s, own, member)]
    for section in sorted(alike, key=lambda s: (price_per_mm(s, grade), s.depth)):
        asked = asked_of(terms, record, member, carried, around, section)
        if asked is not None and judge(asked, answer.effects).worst[0] <= NEARLY:
            return section.name
    return None


def _may_stand_for(section: Section, own: Section, member: Member) -> bool:
    """Whether a section can take the place of a member's own: any of its family for a beam, of
    other members those as deep."""
    if section.family != own.family:
        return False
    as_deep = section.depth == own.depth and section.nominal == own.nominal
    return member.kind is kinds.BEAM or as_deep


def choose_plies(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, tuple[tuple[str, int], ...]]:
    """Per floor how many plies its trimmers, headers and doubles need, by row or header;
    only those over one.

    A piece whose section a person changed stays as it is.
    """
    touched = {c.member for c in project.changes if c.section}
    left = [m for part in structure.parts for m in _by_plies(part) if m.id not in touched]
    found: dict[HostName, dict[str, int]] = {}
    for n in range(1, MOST_PLIES):
        used = _used_of_plies(project, path, around, left, n)
        weak = [m for m, ratio in zip(left, used) if ratio > NEARLY and n < MOST_PLIES - 1]
        kept = {m.id for m in left} - {m.id for m in weak}
        for m in (m for m in left if m.id in kept):
            row = m.id.place if m.kind is kinds.HEADER else m.id.row
            rows = found.setdefault(m.host, {})
            rows[row] = max(rows.get(row, 1), n)
        left = weak
    return _over_one(found)


def _over_one(
    plies: dict[HostName, dict[str, int]],
) -> dict[HostName, tuple[tuple[str, int], ...]]:
    """The rows of each host with more than one ply."""
    several = {
        host: tuple(sorted((row, n) for row, n in rows.items() if n > 1))
        for host, rows in plies.items()
    }
    return {host: rows for host, rows in several.items() if rows}


def _used_of_plies(
    project: Project,
    path: LoadPath,
    around: Surroundings,
    members: list[Member],
    plies: int,
) -> list[float]:
    """The utilisation of each member of so many plies; 0 where nothing is asked of it."""
    terms, records = terms_of(project), host_records(project)
    asked = [
        asked_of(
            terms,
            records[m.host],
            m,
            path.carried.get(m.id, ()),
            around.of(m),
            _of_plies(m, plies, terms.sections),
        )
        for m in members
    ]
    judgements = iter(judged([a for a in asked if a is not None]))
    answers = [None if a is None else next(judgements) for a in asked]
    return [0.0 if answer is None else answer.worst[0] for answer in answers]


def choose_sticks(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, tuple[CutFrom, ...]]:
    """Per roof what its hips, valleys and ridge beams are cut from: the cheapest board, or
    boards side by side, that passes; the strongest where none does. A piece whose section a person
    chose stays as it is."""
    sections = terms_of(project).sections
    chosen = [
        *_along_lines(project, structure, path, around),
        *(
            (host, (("strut", ""), name))
            for host, name in _struts_from(project, structure, path, sections)
        ),
        *(
            (host, ((VALLEY_FRAME, ""), name))
            for host, name in _valley_frames_from(project, structure, around)
        ),
    ]
    found: dict[HostName, list[CutFrom]] = {}
    for host, cut in chosen:
        found.setdefault(host, []).append(cut)
    return {host: tuple(sorted(rows)) for host, rows in found.items()}


def _along_lines(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> Iterator[tuple[HostName, CutFrom]]:
    """What the pieces along the lines of roofs are cut from, by their host."""
    terms, records = terms_of(project), host_records(project)
    touched = {c.member for c in project.changes if c.section}
    typed = {HostName("roof", r.id): dict(r.rafters.sections) for r in project.roofs}
    for m in structure.of(kinds.HIP, kinds.VALLEY, kinds.RIDGE_BEAM, kinds.PURLIN):
        if m.id in touched or len(apart(m.carrier.supports)) < 2 or m.kind.part in typed[m.host]:
            continue
        lies_on = path.carried.get(m.id, ())
        least = _least_depth(structure, m, terms.sections)
        best = stick_for(terms, records[m.host], m, least, lies_on, around.of(m))
        yield m.host, ((m.role, m.id.place), best)


def _struts_from(
    project: Project, structure: Structure, path: LoadPath, sections: dict[str, Section]
) -> Iterable[tuple[HostName, str]]:
    """Per roof what its struts are cut from: the first that does for all of them, the
    largest where none does."""
    by_host: dict[HostName, list[Member]] = {}
    for m in structure.of(kinds.STRUT):
        by_host.setdefault(m.host, []).append(m)
    *names, largest = STRUTS[project.system]
    records = host_records(project)
    for host, struts in by_host.items():
        terms = terms_of(project)
        holds = partial(_holds, terms, service_class(records[host]))
        laden = [(m, path.onto_most(m.id) or NOTHING) for m in struts if path.onto.get(m.id)]
        yield (
            host,
            next((n for n in names if holds(laden, sections[n])), largest),
        )


def _holds(
    terms: Terms, service: ServiceClass, laden: list[tuple[Member, Cases]], section: Section
) -> bool:
    """Whether struts of a section hold what they carry."""
    checks = (
        c
        for m, forces in laden
        for c in in_compression(terms.timber, service, terms.on_floors, m, section, forces)
    )
    return all(c.ratio <= NEARLY for c in checks)


def _valley_frames_from(
    project: Project, structure: Structure, around: Surroundings
) -> Iterable[tuple[HostName, str]]:
    """Per roof what the frames it sets on another roof are cut from: the first that does for
    all of them, the largest where none does. A roof whose trusses are cut from a section that was
    typed has its frames cut from it too."""
    rafters = [m for m in structure.of(kinds.TOP_CHORD) if is_valley_rafter(m)]
    *names, largest = VALLEY_FRAMES[project.system]
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        mine = [m for m in rafters if m.host == host]
        if mine and not roof.section and around.spacing(host):
            passes = partial(_frames_hold, terms_of(project), roof, mine, around.spacing(host))
            yield host, next(filter(passes, names), largest)


def _frames_hold(
    terms: Terms, roof: RoofArea, rafters: list[Member], spacing: float, name: str
) -> bool:
    trial = (msgspec.structs.replace(m, section=name) for m in rafters)
    checks = (c for m in trial for c in short_checks(terms, roof, m, spacing, len(rafters)))
    return all(c.ratio <= NEARLY for c in checks)


def _least_depth(structure: Structure, m: Member, sections: dict[str, Section]) -> float:
    """The plumb cut of the rafters that meet a hip, valley or ridge, mm (IRC 2021
    R802.3)."""
    mine = {(r.section, r.slope) for r in structure.of(kinds.RAFTER) if r.host == m.host}
    return max((sections[name].depth * math.hypot(1.0, slope) for name, slope in mine), default=0.0)


def _of_plies(m: Member, n: int, sections: dict[str, Section]) -> Section:
    """A piece's section with another number of plies; its own where there is none."""
    name = m.section.split("-", 1)[1] if m.section[:2] in ("2-", "3-", "4-") else m.section
    return sections.get(name if n == 1 else f"{n}-{name}", sections[m.section])


@remembered_piece
def _by_plies(part: Part) -> tuple[Member, ...]:
    """The members whose plies come out by calculation: trimmers, headers, and doubles under
    walls.

    Rafters beside an opening are doubled whatever they carry.
    """

    def chosen(m: Member) -> bool:
        if m.kind is kinds.TRIMMER:
            return m.host.kind == "floor"
        return m.kind is kinds.HEADER or (m.kind is kinds.JOIST and m.id.row.startswith("W"))

    return tuple(m for m in part.members if chosen(m) and len(apart(m.carrier.supports)) > 1)


class HasCarrying(Protocol):
    """What a worked-out building offers to those who look for a stronger piece."""

    @property
    def built(self) -> Project:
        """The project with every beam cut from what was chosen."""

    @property
    def path(self) -> LoadPath:
        """Where loads go."""

    @property
    def structure(self) -> Structure:
        """All members."""

    @property
    def sizes(self) -> dict[HostName, Sized]:
        """What was chosen for each host."""

    @property
    def carrying(self) -> dict[MemberName, Answer]:
        """What came out for members that carry others."""
