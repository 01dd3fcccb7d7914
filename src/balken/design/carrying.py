"""Which members carry more than their strip of floor, what each is asked to carry, and what beams
are chosen to carry it."""

import math
from collections.abc import Iterable
from itertools import pairwise
from typing import Final, Protocol

import msgspec

from balken.design.around import Around, Surroundings, birdsmouth_of, lean_of
from balken.design.beam_checks import Answer, Asked, judge, judge_all
from balken.design.effects import Loaded, effects_of
from balken.design.nds.factors import Loading
from balken.design.posts import in_compression
from balken.design.seats import seats_of
from balken.design.short_pieces import is_valley_rafter, short_checks
from balken.design.sizing import TOLERANCE, Choice, Sized
from balken.design.strength import strength_of
from balken.framing import kinds
from balken.framing.member import CutFrom, Member, Part, Size
from balken.framing.structure import Structure
from balken.framing.trusses.valley_sets import VALLEY_FRAME
from balken.loads.parcels import Parcel, at_most, laid_on
from balken.loads.path import LoadPath, area_loads
from balken.loads.statics import OVERHANG, apart, span_marks
from balken.model.beams import Beam, BeamBay, BeamKind
from balken.model.cases import NOTHING
from balken.model.catalogue import MOST_PLIES, price_per_mm, sections_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName, MemberName, Rest
from balken.model.project import FORMAT, Host, Project, host_record, host_records
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.recall import remembered_each, remembered_piece
from balken.units import System

NEARLY: Final = 0.97
"""A beam is chosen so that no check is used to more than this: its bearings shift a little when it
is known."""


def carries_more(member: Member, parcels: tuple[Parcel, ...], section: Section) -> bool:
    """Whether a member needs the analysis of a beam: it carries others, reaches out, or
    resists by capacity."""
    if len(apart(member.carrier.supports)) < 2:
        return False
    if member.kind.carries:
        return member.kind is not kinds.LEDGER
    rests = apart(member.carrier.supports)
    if member.kind is kinds.RAFTER:
        return len(rests) > 2
    if member.kind is not kinds.JOIST:
        return False
    first, last = rests[0].at - rests[0].length / 2, rests[-1].at + rests[-1].length / 2
    reaches = first > OVERHANG or member.carrier.length - last > OVERHANG
    return bool(reaches or parcels or section.plies > 1 or section.product is not None)


def asked_of(
    project: Project,
    member: Member,
    parcels: tuple[Parcel, ...],
    sections: dict[str, Section],
    around: Around,
    section: Section | None = None,
) -> Asked | None:
    """What a member is asked to carry under what lies on it, cut from its own section or
    another; None where it has no values.

    Args:
        project: with the member's host and what it is made of.
        member: the piece.
        parcels: what lies on it.
        sections: all there are.
        around: what else its checks follow from.
        section: what it is cut from, where not its own.
    """
    chosen = section or sections[member.section]
    parcels = at_most(parcels)
    kind, live, total = _terms(project, member)
    longest = max(b - a for a, b in pairwise(span_marks(member)))
    unbraced, loading = _held(member, parcels, kind, longest)
    species, _, grade = member.material.partition(" ")
    strength = strength_of(chosen, species, grade, longest, unbraced, repetitive=around.in_row)
    if strength is None:
        return None
    seats = seats_of(member, chosen, strength, around.under)
    # It bends square to its slope: over a length and against a limit that are longer than the plan's.
    if member.carrier.slope:
        strength = msgspec.structs.replace(
            strength, ei=strength.ei / math.hypot(1.0, member.carrier.slope)
        )
    camber = kind.camber if kind else 0.0
    loaded = Loaded(member, area_loads(project, member.host, member.carrier.slope), parcels)
    return Asked(
        loaded,
        strength,
        live,
        total,
        unbraced,
        loading,
        seats,
        camber,
        around.bores,
        birdsmouth_of(member, chosen),
        lean_of(member, chosen, around),
    )


def _terms(project: Project, member: Member) -> tuple[BeamKind | None, float, float]:
    record = host_record(project, member.host)
    kind = getattr(record, "kind", None)
    if isinstance(kind, BeamKind):
        return kind, kind.live_limit, kind.total_limit
    return None, getattr(record, "live_limit", 360.0), getattr(record, "total_limit", 240.0)


def holds_sideways(source: Rest) -> bool:
    """Whether what brings a load to a beam holds its upper edge sideways there."""
    kind = kinds.named(source)
    return kind is not None and kind.holds_sideways


def _held(
    member: Member, parcels: tuple[Parcel, ...], kind: BeamKind | None, longest: float
) -> tuple[float, Loading]:
    """How far apart the upper edge is held sideways, mm, by sheathing all along, as was typed, or
    by what lies on it; and which row of NDS table 3.3.3 the stretch between is."""
    if kind is not None and kind.braced is not None:
        held = min(kind.braced, longest)
    elif member.kind.held_all_along:
        held = 0.0
    else:
        braces = tuple(p for p in parcels if holds_sideways(p.source))
        places = [0.0, *laid_on(member, braces).at.tolist(), member.carrier.reach]
        held = float(min(longest, max(b - a for a, b in pairwise(places))))
    return held, _loading(member, parcels, held, longest) if held else "uniform"


EVENLY: Final = 0.02
"""Loads stand evenly where their places differ by no more than this share of the span."""
ALMOST_ALL: Final = 0.95
"""A load in the middle counts as alone where it makes so much of the moment."""


def _loading(member: Member, parcels: tuple[Parcel, ...], held: float, longest: float) -> Loading:
    """The row of NDS table 3.3.3 that the upper edge of a member belongs to between places where it
    is held."""
    marks = span_marks(member)
    if len(marks) != 2:
        return "other"
    laid = laid_on(member, parcels)
    size = laid.forces.sum(axis=0)
    inside = [
        (at, f)
        for at, f in zip(laid.at.tolist(), size.tolist())
        if f > 0 and marks[0] < at < marks[1]
    ]
    spread = sum(member.carrier.line) * member.carrier.reach
    if not inside:
        return "uniform" if held >= longest * (1 - EVENLY) else "other"
    n = len(inside)
    even = all(
        abs(at - marks[0] - longest * (k + 1) / (n + 1)) <= EVENLY * longest
        for k, (at, _) in enumerate(inside)
    )
    alike = max(f for _, f in inside) <= 1.1 * min(f for _, f in inside)
    alone = (
        sum(f for _, f in inside) * longest / 4
        >= ALMOST_ALL * (sum(f for _, f in inside) + spread / 2) * longest / 4
    )
    if held >= longest * (1 - EVENLY):
        if n == 1 and even and alone:
            return "middle"
        return "uniform" if even and alike and n >= MANY else "other"
    under_each = even and alike and abs(held - longest / (n + 1)) <= EVENLY * longest
    return _HELD[min(n, 7)] if under_each and alone else "other"


MANY: Final = 7
"""So many even loads are as one spread evenly (NDS table 3.3.3 counts no further)."""
_HELD: Final[dict[int, Loading]] = {
    1: "held 1",
    2: "held 2",
    3: "held 3",
    4: "held 4",
    5: "held 5",
    6: "held 6",
    7: "held 7",
}


class Carried(msgspec.Struct, frozen=True, gc=False):
    """Everything a member's checks follow from: with the same, they come out the same."""

    project: Project
    """What of the project they read: measure, products, and the member's host with what it is made
    of."""
    loaded: Loaded
    around: Around


def check_carrying(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[MemberName, Answer]:
    """Check every member that carries more than its strip of floor."""
    records, bare = host_records(project), dict[HostName, Project]()
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
            if m.host not in bare:
                bare[m.host] = _bare(
                    project.system, project.products, project.build_ups, records[m.host]
                )
            loaded = Loaded(
                m, area_loads(project, m.host, m.carrier.slope), path.carried.get(m.id, ())
            )
            wanted.append(Carried(bare[m.host], loaded, around.of(m)))
    found = _answers(wanted)
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


@remembered_piece
def _bare(
    system: System, products: tuple[Product, ...], build_ups: tuple[BuildUp, ...], record: Host
) -> Project:
    """A project with nothing but one host and what its members are made of."""
    field = {FloorArea: "floors", Beam: "beams", BeamBay: "bays", RoofArea: "roofs"}[type(record)]
    return msgspec.structs.replace(
        Project(FORMAT, "", system, products=products, build_ups=build_ups), **{field: (record,)}
    )


@remembered_each
def _answers(wanted: list[Carried]) -> list[Answer | None]:
    found: list[Answer | None] = [None] * len(wanted)
    asked = []
    for i, one in enumerate(wanted):
        sections = sections_of(one.project.system, one.project.products)
        item = asked_of(one.project, one.loaded.member, one.loaded.parcels, sections, one.around)
        if item is not None:
            asked.append((i, item))
    for (i, _), answer in zip(asked, _judged([a for _, a in asked])):
        found[i] = answer
    return found


def _judged(asked: list[Asked]) -> list[Answer | None]:
    """Hold members against what they resist; what loads do to each is worked out once, whatever it
    is cut from."""
    effects = effects_of([a.loaded for a in asked])
    stands = [(a, e) for a, e in zip(asked, effects) if e is not None]
    answers = iter(judge_all([a for a, _ in stands], [e for _, e in stands]))
    return [next(answers) if e is not None else None for e in effects]


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
    if not unsized(project):
        return {}
    sections = sections_of(project.system, project.products)
    by_host: dict[HostName, list[Member]] = {}
    for m in structure.members:
        if m.kind is kinds.BEAM and len(apart(m.carrier.supports)) > 1:
            by_host.setdefault(m.host, []).append(m)
    asked: list[Asked] = []
    whose: list[tuple[HostName, str]] = []
    for host, kind in unsized(project):
        for name in kind.sizes:
            for m in by_host.get(host, ()):
                item = asked_of(
                    project,
                    m,
                    path.carried.get(m.id, ()),
                    sections,
                    around.of(m),
                    sections[name],
                )
                if item is not None:
                    asked.append(item)
                    whose.append((host, name))
    worst: dict[tuple[HostName, str], tuple[float, str]] = {}
    for key, answer in zip(whose, _judged(asked)):
        ratio = answer.worst if answer else (99.0, "it cannot stand")
        worst[key] = max(worst.get(key, ratio), ratio)
    found = {}
    for host, kind in unsized(project):
        members = by_host.get(host, [])
        made = [
            Choice(
                name,
                0.0,
                *worst[host, name],
                sum(m.length for m in members) * price_per_mm(sections[name], kind.grade),
                sections[name].depth,
                True,
            )
            for name in kind.sizes
            if (host, name) in worst
        ]
        made.sort(key=lambda c: (c.cost, c.depth, c.section))
        passing = [c for c in made if c.worst <= NEARLY + TOLERANCE] or [
            c for c in made if c.passes
        ]
        best = passing[0] if passing else min(made, key=lambda c: c.worst, default=None)
        name = best.section if best else kind.sizes[0]
        span = max((b - a for m in members for a, b in pairwise(span_marks(m))), default=0.0)
        found[host] = Sized(host, Size(name, 0.0), tuple(made), span, float("inf"))
    return found


def next_section(checked: "HasCarrying", member: Member) -> str | None:
    """The cheapest section of a member's own family that carries what it is asked to; None
    where none does."""
    project = checked.built
    sections = sections_of(project.system, project.products)
    answer = checked.carrying.get(member.id)
    if answer is None or member.section not in sections:
        return None
    own = sections[member.section]
    sizes = {host: sized.size for host, sized in checked.sizes.items()}
    around = Surroundings(project, checked.structure, sizes).of(member)
    alike = [
        s
        for s in sections.values()
        if s.family == own.family
        and (member.kind is kinds.BEAM or (s.depth == own.depth and s.nominal == own.nominal))
    ]
    grade = member.material.partition(" ")[2]
    for section in sorted(alike, key=lambda s: (price_per_mm(s, grade), s.depth)):
        asked = asked_of(
            project, member, checked.path.carried.get(member.id, ()), sections, around, section
        )
        if asked is not None and judge(asked, answer.effects).worst[0] <= NEARLY:
            return section.name
    return None


def choose_plies(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, tuple[tuple[str, int], ...]]:
    """Per floor how many plies its trimmers, headers and doubles need, by row or header;
    only those over one.

    A piece whose section a person changed stays as it is.
    """
    sections = sections_of(project.system, project.products)
    touched = {c.member for c in project.changes if c.section}
    left = [m for part in structure.parts for m in _by_plies(part) if m.id not in touched]
    found: dict[HostName, dict[str, int]] = {}
    for n in range(1, MOST_PLIES):
        asked = [
            asked_of(
                project,
                m,
                path.carried.get(m.id, ()),
                sections,
                around.of(m),
                _of_plies(m, n, sections),
            )
            for m in left
        ]
        answers = iter(_judged([a for a in asked if a is not None]))
        weak = []
        for m, one in zip(left, asked):
            answer = next(answers) if one is not None else None
            if answer is None or answer.worst[0] <= NEARLY or n == MOST_PLIES - 1:
                row = m.id.place if m.kind is kinds.HEADER else m.id.row
                kept = found.setdefault(m.host, {})
                kept[row] = max(kept.get(row, 1), n)
            else:
                weak.append(m)
        left = weak
    several = {
        host: tuple(sorted((row, n) for row, n in rows.items() if n > 1))
        for host, rows in found.items()
    }
    return {host: rows for host, rows in several.items() if rows}


def choose_sticks(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, tuple[CutFrom, ...]]:
    """Per roof what its hips, valleys and ridge beams are cut from: the cheapest board, or
    boards side by side, that passes; the strongest where none does. A piece whose section a person
    chose stays as it is."""
    sections = sections_of(project.system, project.products)
    touched = {c.member for c in project.changes if c.section}
    typed = {HostName("roof", r.id): dict(r.rafters.sections) for r in project.roofs}
    found: dict[HostName, list[CutFrom]] = {}
    for m in structure.of(kinds.HIP, kinds.VALLEY, kinds.RIDGE_BEAM, kinds.PURLIN):
        if m.id in touched or len(apart(m.carrier.supports)) < 2 or m.kind.part in typed[m.host]:
            continue
        lies_on = path.carried.get(m.id, ())
        best = stick_for(project, m, _least_depth(structure, m, sections), lies_on, around.of(m))
        found.setdefault(m.host, []).append(((m.role, m.id.place), best))
    for host, name in _struts_from(project, structure, path, sections):
        found.setdefault(host, []).append((("strut", ""), name))
    for host, name in _valley_frames_from(project, structure, around):
        found.setdefault(host, []).append(((VALLEY_FRAME, ""), name))
    return {host: tuple(sorted(rows)) for host, rows in found.items()}


def stick_for(
    project: Project,
    m: Member,
    least: float,
    parcels: tuple[Parcel, ...],
    around: Around,
) -> str:
    """What a hip, valley, ridge beam or purlin is cut from under what lies on it; the
    strongest where nothing does.

    Args:
        project: with its catalogue.
        m: the piece, cut from anything.
        least: depth it has at least, for what meets it, mm.
        parcels: what lies on it.
        around: what else its checks follow from.
    """
    sections = sections_of(project.system, project.products)
    choices = _sticks_from(
        m.section,
        least,
        m.material,
        project.system,
        beam=m.kind in (kinds.RIDGE_BEAM, kinds.PURLIN),
    )
    asked = [
        (name, asked_of(project, m, parcels, sections, around, sections[name])) for name in choices
    ]
    able = [(name, a) for name, a in asked if a is not None]
    answers = _judged([a for _, a in able])
    worst = [(a.worst[0] if a else math.inf, name) for (name, _), a in zip(able, answers)]
    return next(
        (name for ratio, name in worst if ratio <= NEARLY), min(worst, default=(0.0, m.section))[1]
    )


STRUTS: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6", "4x4", "4x6"),
    "metric": ("38x89", "38x140", "89x89", "89x140"),
}
"""What struts may be cut from, the cheapest first (IRC 2021 R802.4.5: 2 by 4 at least)."""


def _struts_from(
    project: Project, structure: Structure, path: LoadPath, sections: dict[str, Section]
) -> Iterable[tuple[HostName, str]]:
    """Per roof what its struts are cut from: the first that does for all of them, the
    largest where none does."""
    for host in dict.fromkeys(m.host for m in structure.of(kinds.STRUT)):
        mine = [m for m in structure.of(kinds.STRUT) if m.host == host and path.onto.get(m.id)]
        for name in STRUTS[project.system]:
            checks = [
                c
                for m in mine
                for c in in_compression(m, sections[name], path.onto_most(m.id) or NOTHING)
            ]
            if all(c.ratio <= NEARLY for c in checks) or name == STRUTS[project.system][-1]:
                yield host, name
                break


def _valley_frames_from(
    project: Project, structure: Structure, around: Surroundings
) -> Iterable[tuple[HostName, str]]:
    """Per roof what the frames it sets on another roof are cut from: the first that does for
    all of them, the largest where none does. A roof whose trusses are cut from a section that was
    typed has its frames cut from it too."""
    rafters = [m for m in structure.of(kinds.TOP_CHORD) if is_valley_rafter(m)]
    for roof in project.roofs:
        mine = [m for m in rafters if m.host == HostName("roof", roof.id)]
        spacing = around.spacing(HostName("roof", roof.id))
        if not mine or roof.section or not spacing:
            continue
        choices = VALLEY_FRAMES[project.system]
        for name in choices:
            trial = [msgspec.structs.replace(m, section=name) for m in mine]
            checks = [c for m in trial for c in short_checks(project, roof, m, spacing, len(mine))]
            if all(c.ratio <= NEARLY for c in checks) or name == choices[-1]:
                yield HostName("roof", roof.id), name
                break


VALLEY_FRAMES: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6", "2x8", "2x10"),
    "metric": ("38x89", "38x140", "38x184", "38x235"),
}
"""What frames set on another roof may be cut from, the cheapest first."""


def _least_depth(structure: Structure, m: Member, sections: dict[str, Section]) -> float:
    """The plumb cut of the rafters that meet a hip, valley or ridge, mm (IRC 2021
    R802.3)."""
    mine = {(r.section, r.slope) for r in structure.of(kinds.RAFTER) if r.host == m.host}
    return max((sections[name].depth * math.hypot(1.0, slope) for name, slope in mine), default=0.0)


def _sticks_from(
    section: str, least: float, material: str, system: System, *, beam: bool
) -> tuple[str, ...]:
    """The sections a hip may be cut from, the cheapest first: boards as deep as the rafters'
    plumb cut, in any number of plies; a ridge beam or purlin from glued timber as well."""
    sections = sections_of(system, ())
    own, grade = sections[section], material.partition(" ")[2]
    thick = own.breadth / own.plies
    alike = [
        s
        for s in sections.values()
        if s.depth >= least - 1.0
        and (
            (s.product is None and abs(s.breadth / s.plies - thick) < 0.5)
            or (beam and s.family in ("lvl", "glulam"))
        )
    ] or [own]
    return tuple(
        s.name for s in sorted(alike, key=lambda s: (price_per_mm(s, grade), s.plies, s.depth))
    )


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
