"""The whole way through: size, frame, take the loads down, check. One function, the same for window
and commands."""

import math
from typing import Final, NamedTuple

import msgspec

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer, explain_answer
from balken.design.codes.us.nds.bending import explain
from balken.design.pads import over_pads
from balken.design.seats import UNKNOWN, Beneath, Under
from balken.design.side_by_side import HostCheck, PartCheck, tail_and_push
from balken.design.sizing import TOLERANCE, Sized, Task, choose, end_share, member_span
from balken.design.steps import Check
from balken.design.strip_loads import Stretches
from balken.design.trusses import TrussRoof, row_of, size_trusses, truss_checks
from balken.framing.floors.joists import frame_floor
from balken.framing.hosts.floors import bed_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.roofs import bed_of_roof
from balken.framing.layout import LayoutError
from balken.framing.member import Bed, CutFrom, Member, Part, Size, clear_span
from balken.framing.roofs.rafter_roof import longest_rafters
from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure, frame, shape_or_fault
from balken.geometry.plane import TOUCH, dot, left, sub, unit
from balken.loads.path import LoadPath, take_down
from balken.model.cases import Cases
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Level, Project, level
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.recall import Recall, remembered, remembered_piece, remembering
from balken.site.proposals import PLATE_UNDER
from balken.units import System
from balken.works.by_kind import CHECKS, Asked, checks_by_kind
from balken.works.carrying import (
    check_carrying,
    choose_beams,
    choose_plies,
    choose_sticks,
    with_sections,
)
from balken.works.first_sticks import first_sticks
from balken.works.leaving_out import worked_out_in_part
from balken.works.side_by_side import check_side_by_side
from balken.works.terms import beneath_of, surroundings_of
from balken.works.trusses import check_truss_roofs

ROUNDS: Final = 3
"""Beams are chosen again while choices change, at most so often: what each hangs on shifts a little
with its neighbours."""


class Checked(msgspec.Struct, frozen=True):
    """A project with everything that follows from it."""

    project: Project
    sizes: dict[HostName, Sized]
    structure: Structure
    path: LoadPath
    hosts: dict[HostName, list[PartCheck]]
    """Members that carry no more than their strip."""
    carrying: dict[MemberName, Answer]
    """Members that carry more than their strip of floor."""
    built: Project
    """The project with every beam cut from what was chosen for it."""
    used: dict[MemberName, tuple[float, str]]
    """Utilisation and governing check per member that has checks."""
    trusses: dict[HostName, TrussRoof] = {}
    """Roofs of trusses, by their host's name."""


def work_out(project: Project, recall: Recall | None = None) -> Checked:
    """Size, frame, follow the loads and check a valid project. It never raises: what cannot be
    worked out is left out, and stands in the structure among what is not framed."""
    with remembering(recall):
        try:
            return _whole(project)
        except Exception as error:
            found, left = worked_out_in_part(project, _whole, error)
            unframed = (*found.structure.unframed, *((x.host, x.why) for x in left))
            structure = msgspec.structs.replace(found.structure, unframed=unframed)
            return msgspec.structs.replace(found, project=project, structure=structure)


def _whole(project: Project) -> Checked:
    built, sizes, structure, path = _built(project)
    around = _around(built, structure, sizes)
    carrying = check_carrying(built, structure, path, around)
    hosts = check_side_by_side(built, structure, sizes, carrying, around)
    used: dict[MemberName, tuple[float, str]] = {}
    for checks in hosts.values():
        for item in checks:
            used.update(item.used)
    used.update({name: answer.worst for name, answer in carrying.items()})
    beds = {
        HostName("roof", r.id): bed
        for r in project.roofs
        if (bed := bed_of_roof(built, r)) is not None
    }
    beneath = beneath_of(built, {})
    under = {host: softest(beneath, bed) for host, bed in beds.items()}
    trusses = check_truss_roofs(built, structure, sizes, beds, under)
    for roof in trusses.values():
        used.update(roof.used)
    asked = Asked(built, structure, path, over_pads(structure), Stretches(structure), sizes)
    for member in structure.of(*CHECKS):
        for extra in checks_by_kind(asked, member):
            if member.id not in used or extra.ratio > used[member.id][0]:
                used[member.id] = (extra.ratio, extra.name)
    return Checked(project, sizes, structure, path, hosts, carrying, built, used, trusses)


def _built(project: Project) -> tuple[Project, dict[HostName, Sized], Structure, LoadPath]:
    """Frame a project and take its loads down; beams without a section are first the largest they
    may be, then what was chosen under the loads that come out, and so are the plies of trimmers and
    headers."""

    def framed(
        item: Project, plies: Plies, sticks: Cuts
    ) -> tuple[dict[HostName, Sized], Structure, LoadPath]:
        sizes = {
            host: with_plies(s, plies.get(host, ()), sticks.get(host, ()))
            for host, s in sizes_of(item).items()
        }
        structure = frame(item, {host: s.size for host, s in sizes.items()})
        return sizes, structure, take_down(item, structure)

    built, plies, chosen = project, Plies(), dict[HostName, Sized]()
    sticks: Cuts = first_sticks(project, sizes_of(project))
    names: dict[HostName, str] = {}
    sizes, structure, path = framed(built, plies, sticks)
    for _ in range(ROUNDS):
        around = _around(built, structure, sizes)
        chosen = choose_beams(project, structure, path, around)
        wanted = (
            {host: s.size.section for host, s in chosen.items()},
            choose_plies(built, structure, path, around),
            choose_sticks(built, structure, path, around),
        )
        if wanted == (names, plies, sticks):
            break
        names, plies, sticks = wanted
        built = with_sections(project, names)
        sizes, structure, path = framed(built, plies, sticks)
    return built, {**sizes, **chosen}, structure, path


def _around(project: Project, structure: Structure, sizes: dict[HostName, Sized]) -> Surroundings:
    return surroundings_of(project, structure, {host: s.size for host, s in sizes.items()})


Plies = dict[HostName, tuple[tuple[str, int], ...]]
"""Per floor, how many plies its trimmers, headers and doubles have."""


Cuts = dict[HostName, tuple[CutFrom, ...]]
"""Per roof, what its hips, valleys and ridge beams are cut from."""


def with_plies(
    sized: Sized, plies: tuple[tuple[str, int], ...], sticks: tuple[CutFrom, ...]
) -> Sized:
    """What was chosen for a host with the plies of its trimmers and headers, or what its
    hips are cut from."""
    if not plies and not sticks:
        return sized
    cut = tuple(sorted({**dict(sized.size.cut), **dict(sticks)}.items()))
    return msgspec.structs.replace(
        sized, size=msgspec.structs.replace(sized.size, plies=plies, cut=cut)
    )


def checks_of(checked: Checked, member: Member) -> tuple[Check, ...]:
    """All checks of a member with their steps; empty where it rests all along and nothing is
    checked."""
    answer = checked.carrying.get(member.id)
    if answer is not None:
        return explain_answer(answer)
    roof = checked.trusses.get(member.host)
    piece = row_of(member) if roof else None
    if roof is not None and piece is not None and any(t.row == piece[1] for t in roof.placed):
        return truss_checks(roof, piece[1])
    among = checked_among(checked, member)
    if among is not None:
        return explain(among[0].batch, among[0].results, among[1])
    over = over_pads(checked.structure)
    stretches = Stretches(checked.structure)
    asked = Asked(checked.built, checked.structure, checked.path, over, stretches, checked.sizes)
    return checks_by_kind(asked, member)


def checked_among(checked: Checked, member: Member) -> tuple[HostCheck, int] | None:
    """Among which others a joist or rafter was checked, and as which of them; None where it
    was not."""
    for item in checked.hosts.get(member.host, ()):
        if item.among is not None and member.id in item.used:
            return item.among, item.among.ids.index(member.id)
    return None


def sizes_of(project: Project) -> dict[HostName, Sized]:
    """Section and spacing of every floor, ceiling and roof."""
    found = {}
    beneath = beneath_of(project, {})
    for floor in project.floors:
        bed = bed_of_floor(project, floor)
        if bed and build_up_of(project, floor).kind == "joists":
            allowed = depth_allowed(project, floor, bed)
            sized = _size_floor(
                floor,
                build_up_of(project, floor),
                bed,
                softest(beneath, bed),
                allowed,
                project.system,
                project.products,
            )
            if sized:
                found[sized.host] = sized
    for roof in project.roofs:
        bed = bed_of_roof(project, roof)
        if bed:
            size = size_trusses if roof.framing == "trusses" else _size_roof
            sized = size(roof, bed, softest(beneath, bed), project.system)
            if sized:
                found[sized.host] = sized
    return found


def softest(beneath: Beneath, bed: Bed) -> Under:
    """The softest of what a floor or roof may bear on, beams left out."""
    under = [beneath.under(strip.on) for strip in bed.strips]
    return min(under, key=lambda u: u.stress, default=UNKNOWN)


def depth_allowed(project: Project, floor: FloorArea, bed: Bed) -> float:
    """The depth joists may have, mm; infinite for a ceiling, and where a level follows from
    what is built."""
    if build_up_of(project, floor).use == "ceiling" or free_of_depth(project, floor):
        return math.inf
    return depth_between(project, floor, bed)


def depth_between(project: Project, floor: FloorArea, bed: Bed) -> float:
    """The depth the levels leave for joists between bearing and subfloor, mm."""
    return level(project, floor.level).elevation - bed.height - build_up_of(project, floor).subfloor


def free_of_depth(project: Project, floor: FloorArea) -> Level | None:
    """The level of a floor's two that follows from its depth: the one that is not held, the
    upper before the lower."""
    for key in (floor.level, floor.bears_on):
        item = level(project, key)
        locked = [x for x in project.levels if x.lock and x.lock == item.lock]
        if not item.held and not any(x.held for x in locked):
            return item
    return None


def _held(
    names: tuple[str, ...], one: str | None, sections: dict[str, Section]
) -> tuple[Section, ...]:
    return (sections[one],) if one else tuple(sections[n] for n in names)


@remembered
def _size_floor(
    floor: FloorArea,
    build_up: BuildUp,
    bed: Bed,
    under: Under,
    allowed: float,
    system: System,
    products: tuple[Product, ...],
) -> Sized | None:
    sections = sections_of(system, products)
    candidates = _held(build_up.sizes, floor.section, sections)
    spacings = (floor.spacing,) if floor.spacing else build_up.spacings
    trial = Size(candidates[0].name, min(spacings))
    try:
        framed = frame_floor(floor, build_up, bed, trial, sections, (), telling=True)
    except LayoutError:
        return None
    told = [one for part in framed.parts for one in _told(part)]
    if not told:
        # Nothing spans: the joists stay at the first choice and the fit list says what they lack.
        return (
            Sized(HostName("floor", floor.id), trial, (), 0.0, allowed) if framed.members else None
        )
    worst = max((one.worst for one in told), key=lambda m: (clear_span(m), m.id))
    across = [_between(part) for part in framed.parts if part.members]
    return choose(
        Task(
            HostName("floor", floor.id),
            build_up.species,
            build_up.grade,
            candidates,
            spacings,
            Cases(floor.dead, floor.live),
            clear_span(worst),
            member_span(worst),
            end_share(worst),
            min(one.bearing for one in told),
            0.0,
            floor.live_limit,
            floor.total_limit,
            allowed,
            max(high for _, high in across) - min(low for low, _ in across) + worst.solid.depth,
            max(one.row for one in told),
            under,
        )
    )


class _Told(NamedTuple):
    """What a choice of size asks of some rows: their worst joist, the longest row, the shortest
    bearing."""

    worst: Member
    row: float
    bearing: float


@remembered_piece
def _told(part: Part) -> tuple[_Told, ...]:
    """What the joists of a part tell; nothing where none of them spans."""
    joists = [m for m in part.members if m.kind.spans and clear_span(m) > 0]
    if not joists:
        return ()
    rows: dict[str, float] = {}
    for m in joists:
        rows[m.id.row] = rows.get(m.id.row, 0.0) + m.blank
    rests = [s for m in joists for s in m.carrier.supports]
    worst = max(joists, key=lambda m: (clear_span(m), m.id))
    return (_Told(worst, max(rows.values()), min(s.length for s in rests if s.on)),)


@remembered_piece
def _between(part: Part) -> tuple[float, float]:
    """Where the first and the last row of a part stand across, mm from the origin."""
    first = part.members[0]
    ux, uy = (
        (first.end[0] - first.start[0]) / first.run,
        (first.end[1] - first.start[1]) / first.run,
    )
    offsets = [-uy * m.start[0] + ux * m.start[1] for m in part.members]
    return min(offsets), max(offsets)


@remembered
def _size_roof(roof: RoofArea, bed: Bed, under: Under, system: System) -> Sized | None:
    catalogue = catalogue_of(system)
    candidates = _held(roof.sizes, roof.section, catalogue.sections)
    spacings = (roof.spacing,) if roof.spacing else roof.spacings
    trial = Size(candidates[0].name, min(spacings))
    shape = shape_or_fault(roof, bed, candidates[0].depth, 0.0)
    sections = sections_of(system, ())
    rafters = (
        longest_rafters(roof, shape, bed, candidates[0], sections, system)
        if isinstance(shape, RoofShape)
        else []
    )
    worst = max(rafters, key=lambda m: (clear_span(m), m.id), default=None)
    if worst is None or clear_span(worst) <= 0 or min(spacings) < TOUCH:
        return Sized(HostName("roof", roof.id), trial, (), 0.0, math.inf)
    dead = roof.dead * math.hypot(1, worst.slope)
    loads = Cases(dead, roof_live=roof.live, snow=roof.snow)
    n = left(unit(sub(worst.end[:2], worst.start[:2])))
    offsets = [dot(p, n) for p in bed.outline]
    return choose(
        Task(
            HostName("roof", roof.id),
            roof.species,
            roof.grade,
            candidates,
            spacings,
            loads,
            clear_span(worst),
            member_span(worst),
            end_share(worst),
            worst.carrier.supports[0].length,
            worst.slope,
            roof.live_limit,
            roof.total_limit,
            math.inf,
            max(offsets) - min(offsets),
            2 * worst.blank,
            under,
            _tail_of(worst, candidates[0], roof),
        )
    )


def _tail_of(worst: Member, cut_from: Section, roof: RoofArea) -> tuple[float, float, float, float]:
    """What sizing asks of the longest rafter besides its span: tail, what its seat cuts away,
    thrust, length on the slope."""
    tie_up = roof.rafters.tie_up if roof.rafters.ties != "none" else 0.0
    tail, neck, push, length = tail_and_push(worst, cut_from, tie_up)
    return tail, cut_from.depth - neck, push, length


def settle(project: Project) -> Project:
    """Bring proposed levels to the depth of the joists that came out, so that the column adds up.

    For a building just begun from an architect's file: everything from the top of foundation down
    moves together, and so does each plate that was proposed under a floor. Levels of the
    architect's stay.
    """
    sizes = sizes_of(project)
    shifts: dict[str, float] = {}
    below = {"foundation_top", "ground", "footing_top", "footing_bottom", "slab"}
    for floor in project.floors:
        sized = sizes.get(HostName("floor", floor.id))
        bed = bed_of_floor(project, floor)
        if sized is None or bed is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = sections_of(project.system, project.products)[sized.size.section].depth
        shift = depth_between(project, floor, bed) - depth
        if abs(shift) < TOUCH:
            continue
        if any(r.top == floor.bears_on for r in project.runs):
            shifts.update(
                {x.id: shift for x in project.levels if x.role in below and x.id not in shifts}
            )
        elif floor.bears_on.startswith(PLATE_UNDER):
            shifts[floor.bears_on] = shift
    levels = tuple(
        msgspec.structs.replace(x, elevation=round(x.elevation + shifts[x.id], 6))
        if x.id in shifts
        else x
        for x in project.levels
    )
    return msgspec.structs.replace(project, levels=levels)


def worst_of(checked: Checked, host: HostName) -> tuple[float, str, MemberName | None]:
    """The worst utilisation of a host's members, its check and the member."""
    mine = [
        (*checked.used[m.id], m.id)
        for m in checked.structure.members
        if m.host == host and m.id in checked.used
    ]
    return max(mine, default=(0.0, "", None), key=lambda w: (w[0], w[1], str(w[2])))


def is_over(ratio: float) -> bool:
    """Whether a utilisation is over 1.00 beyond rounding."""
    return ratio > 1 + TOLERANCE
