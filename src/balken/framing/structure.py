"""The whole structure of a project: every host framed from the few records it reads."""

import itertools
from collections.abc import Iterable

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.beams.fitting import Under, frame_beams
from balken.framing.beams.supports import frame_supports, stand
from balken.framing.by_hand import by_hand
from balken.framing.concrete import Concrete, trim_concrete
from balken.framing.floors.joists import frame_floor
from balken.framing.floors.slabs import frame_slab
from balken.framing.ground.anchors import APART, CLEAR, Bolts, place_bolts
from balken.framing.hosts.beams import placed_beams
from balken.framing.hosts.floors import bed_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.roofs import bed_of_roof
from balken.framing.hosts.runs import Step, changes_on, frame_one, run_site, steps_of
from balken.framing.kinds import MemberKind
from balken.framing.layout import LayoutError
from balken.framing.member import Bed, Framed, Member, Part, Size, Strip, framed_of
from balken.framing.roofs.over_framing import over_framed
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.rafter_roof import frame_roof
from balken.framing.roofs.shape import RoofShape, seen_faces, shape_of, without
from balken.framing.roofs.sticks import boards_for
from balken.framing.trusses.valley_sets import VALLEY_FRAME, valley_set
from balken.framing.walls.gables import GableWall, gables_of
from balken.geometry.plane import Point, add, box, direction_or, dot, sub
from balken.geometry.roof_front import RoofError
from balken.geometry.roof_planes import Face
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import walls_on
from balken.model.names import HostName, MemberName, Rest, piece_letters, whole
from balken.model.project import AddedMember, Change, Project, host_records, wall_top
from balken.model.roofs import RafterPart, RoofArea
from balken.model.sections import Product, Section
from balken.model.walls import direction_of
from balken.recall import remembered, remembered_piece
from balken.site.bodies import bodies, storey_walls
from balken.units import System


class Structure(msgspec.Struct, frozen=True):
    """All members, in a lasting order, and what could not be framed."""

    parts: tuple[Part, ...]
    """All members as they were made together: parts that did not change are the same objects as
    before an edit."""
    members: tuple[Member, ...]
    gone: tuple[MemberName, ...]
    """Changes by hand whose member is no longer there."""
    unframed: tuple[tuple[Rest | None, str], ...]
    """Hosts that could not be framed, and why."""
    concrete: Concrete = Concrete({}, {})
    """What is left of concrete that meets other concrete."""
    bolts: dict[MemberName, Bolts] = {}
    """Anchor bolts per piece of sill."""
    steps: tuple[Step, ...] = ()
    """Steps of all footings."""
    standing: tuple[Member, ...] = ()
    """Posts and piers, to be found without looking through everything."""
    about: dict[MemberName, tuple[Member, ...]] = {}
    """By the name of each of them, what a post can stand on that lies under or over it, in any
    height."""

    by_kind: dict[MemberKind, tuple[Member, ...]] = {}
    roofs: dict[HostName, RoofShape] = {}
    """The shape of each roof, by its host's name."""
    seen: dict[HostName, tuple[Face, ...]] = {}
    """What is seen of the planes of each roof."""
    gables: tuple[GableWall, ...] = ()
    """What of walls rises over their top to a roof."""

    def of(self, *wanted: MemberKind) -> list[Member]:
        """The members of these kinds, kind by kind."""
        return [m for kind in wanted for m in self.by_kind.get(kind, ())]

    def volume(self, member: Member) -> float:
        """A member's volume, concrete counted once, mm³."""
        mesh = self.concrete.meshes.get(member.id)
        return member.solid.volume if mesh is None else mesh.volume


def frame(project: Project, sizes: dict[HostName, Size]) -> Structure:
    """Frame a whole project.

    Args:
        project: a valid project.
        sizes: section and spacing per host (``floor:F1``, ``roof:R1``).
    """
    unframed: list[tuple[HostName, str]] = []
    sites = [(r, run_site(project, r)) for r in project.runs if r.walls or r.spans or r.paths]
    ground = [frame_one(project, run) for run, _ in sites]
    standing = frame_supports(project)
    beams = _beams(project, ground, standing, unframed)
    floors = _floors(project, sizes, unframed)
    shapes, onward = _running(project, _shapes(project, sizes, unframed), sizes)
    seen = dict(zip(onward, _seen(tuple(onward.values()))))
    by_floor = {f.parts[0].members[0].host: f for f in floors if f.parts and f.parts[0].members}
    roofs = _roofs(project, shapes, sizes, by_floor, unframed)
    below = tuple(m for f in ground for m in f.members)
    ridges = tuple(
        m
        for f in roofs
        for p in f.parts
        for m in p.members
        if m.kind in (kinds.RIDGE_BEAM, kinds.PURLIN)
    )
    stood = stand(standing.members, beams.members, below, _slabs_of(floors), ridges)
    over = list(_valleys(project, onward, seen, sizes))
    away = {c.member for c in project.changes if c.removed}
    valleys = [framed_of(tuple(m for m in f.members if m.id not in away)) for f in over]
    framed = [*ground, *floors, *roofs, *valleys, beams, framed_of(stood.members)]
    hosts = set(hosts_of(project))
    orphans = {c.member for c in project.changes if c.member.host not in hosts}
    gone = sorted(
        orphans.union(*(f.gone for f in framed)) - {m.id for f in over for m in f.members}
    )
    parts = _each_named_once(tuple(part for f in framed for part in f.parts))
    members = tuple([m for part in parts for m in part.members])
    by_kind = _by_kind(parts)
    concrete = trim_concrete(
        [m for kind in (*kinds.CONCRETE, kinds.SUBFLOOR) for m in by_kind.get(kind, ())]
    )
    steps = tuple(s for run, site in sites for s in steps_of(project, run, site))
    standing_now = tuple(m for m in stood.members if m.kind in (kinds.POST, kinds.PIER))
    return Structure(
        parts,
        members,
        tuple(gone),
        tuple(unframed),
        concrete,
        anchors(project, parts, by_kind.get(kinds.SILL, ())),
        steps,
        standing_now,
        stood.about,
        by_kind,
        shapes,
        seen,
        tuple(_gables(project, shapes, sizes)),
    )


def _each_named_once(parts: tuple[Part, ...]) -> tuple[Part, ...]:
    """Parts in which no two members share a name: loads, checks and lists go by names, and
    would lose the second."""
    names = [m.id for part in parts for m in part.members]
    if len(set(names)) == len(names):
        return parts
    taken: set[MemberName] = set()
    return tuple(part.after([_named_apart(m, taken) for m in part.members]) for part in parts)


def _named_apart(member: Member, taken: set[MemberName]) -> Member:
    """A member with letters behind its name and mark where another has them already."""
    if member.id not in taken:
        taken.add(member.id)
        return member
    for k in itertools.count(1):
        more = piece_letters(k)
        name = replace(member.id, piece=member.id.piece + more)
        if name not in taken:
            break
    taken.add(name)
    return replace(member, id=name, mark=member.mark + more)


def _by_kind(parts: tuple[Part, ...]) -> dict[MemberKind, tuple[Member, ...]]:
    found: dict[MemberKind, list[Member]] = {}
    for part in parts:
        for kind, members in _kinds_in(part):
            found.setdefault(kind, []).extend(members)
    return {kind: tuple(members) for kind, members in found.items()}


@remembered_piece
def _kinds_in(part: Part) -> tuple[tuple[MemberKind, tuple[Member, ...]], ...]:
    there = dict.fromkeys(m.kind for m in part.members)
    return tuple((kind, tuple([m for m in part.members if m.kind is kind])) for kind in there)


def hosts_of(project: Project) -> list[HostName]:
    """The names of everything that makes members and takes changes by hand."""
    return list(host_records(project))


def _slabs_of(floors: list[Framed]) -> tuple[Member, ...]:
    slabs = [
        part.members
        for f in floors
        for part in f.parts
        if part.members and part.members[0].kind is kinds.FLOOR_SLAB
    ]
    return tuple(m for members in slabs for m in members)


def _beams(
    project: Project,
    ground: list[Framed],
    standing: Framed,
    unframed: list[tuple[HostName, str]],
) -> Framed:
    placed, faults = placed_beams(project)
    unframed.extend(faults)
    if not placed:
        return Framed(
            (), tuple(c.member for c in project.changes if c.member.host.kind in ("beam", "bay"))
        )
    changes = tuple(c for c in project.changes if c.member.host.kind in ("beam", "bay"))
    unders = _unders(project, ground, standing)
    return _framed_beams(placed, unders, changes, project.system, project.products)


@remembered
def _framed_beams(
    placed: tuple[object, ...],
    unders: tuple[Under, ...],
    changes: tuple[Change, ...],
    system: System,
    products: tuple[Product, ...],
) -> Framed:
    members = frame_beams(placed, unders, changes)  # type: ignore[arg-type]
    strips = tuple(Strip(u.on, u.ring, False) for u in unders)
    present = {m.id for m in members}
    gone = tuple(sorted(c.member for c in changes if c.member not in present and not c.removed))
    return by_hand(framed_of(members, gone), changes, (), strips, sections_of(system, products))


def _unders(project: Project, ground: list[Framed], standing: Framed) -> tuple[Under, ...]:
    """What beams can stand on: posts, walls, and the tops of foundations."""
    tied = {HostName("support", s.id): s.tied for s in project.point_supports}
    found = [
        _support(m, tied[m.host]) for m in standing.members if m.kind in (kinds.POST, kinds.PIER)
    ]
    for base in sorted({w.base for w in project.walls}):
        tops = {w.id: wall_top(project, w) for w in project.walls if w.base == base}
        for key, body in bodies(storey_walls(project, base)).items():
            found.append(Under(HostName("wall", whole(key)), body.ring, tops[whole(key)]))
    for framed in ground:
        for m in framed.members:
            if m.kind in (kinds.STEM, kinds.SILL):
                found.append(
                    Under(m.id, m.solid.plan(), m.solid.top(), concrete=m.kind is kinds.STEM)
                )
    return tuple(found)


@remembered_piece
def _support(m: Member, tied: bool) -> Under:
    return Under(m.id, m.solid.plan(), m.end[2], tied)


def _floors(
    project: Project, sizes: dict[HostName, Size], unframed: list[tuple[HostName, str]]
) -> list[Framed]:
    found = []
    for floor in project.floors:
        host = HostName("floor", floor.id)
        bed = bed_of_floor(project, floor)
        size = sizes.get(host)
        body = build_up_of(project, floor)
        if bed is None:
            unframed.append((host, f"the walls of {floor.name} enclose nothing"))
        elif body.kind == "slab":
            found.append(frame_slab(floor, body, bed))
        elif size is None:
            unframed.append(
                (host, f"the joists of {floor.name} cannot be set out: its spacing is too small")
            )
        else:
            found.append(
                _floor(
                    floor,
                    body,
                    bed,
                    size,
                    project.system,
                    project.products,
                    changes_on(project, host),
                    tuple(a for a in project.added if a.host == host),
                )
            )
    return found


def _shapes(
    project: Project, sizes: dict[HostName, Size], unframed: list[tuple[HostName, str]]
) -> dict[HostName, RoofShape]:
    """The shapes of all roofs that have one."""
    found: dict[HostName, RoofShape] = {}
    sections = catalogue_of(project.system).sections
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        bed = bed_of_roof(project, roof)
        size = sizes.get(host)
        if bed is None:
            unframed.append((host, f"the walls of roof {roof.name} enclose nothing"))
        elif size is None:
            unframed.append(
                (host, f"nothing spans under roof {roof.name}, or its spacing is too small")
            )
        else:
            made = shape_or_fault(roof, bed, sections[size.section].depth, 0.0)
            if isinstance(made, str):
                unframed.append((host, f"roof {roof.name}: {made}"))
            else:
                found[host] = made
    return found


def shapes_of(project: Project, sizes: dict[HostName, Size]) -> dict[HostName, RoofShape]:
    """The shapes of all roofs that have one, as they are framed."""
    return _running(project, _shapes(project, sizes, []), sizes)[0]


def _running(
    project: Project, shapes: dict[HostName, RoofShape], sizes: dict[HostName, Size]
) -> tuple[dict[HostName, RoofShape], dict[HostName, RoofShape]]:
    """The shapes as they are framed - without what of a roof would hang into another that
    runs on to it - and as they run on."""
    reach = reach_of_roofs(project)
    if not reach:
        return shapes, shapes
    sections = catalogue_of(project.system).sections
    records = {HostName("roof", r.id): r for r in project.roofs}
    framed, onward = {}, {}
    runs = {h for h, s in shapes.items() if any(e.rule.kind == "runs on" for e in s.edges)}
    for host, shape in shapes.items():
        # Of two that both run on, to one another or to a third, each ends at the walls of the
        # other.
        rings = tuple(
            s.ring if host in runs else s.eaves
            for h, s in shapes.items()
            if h in runs and h != host
        )
        framed[host] = without(shape, rings) if rings else shape
        onward[host] = shape
        if host in runs:
            bed = bed_of_roof(project, records[host])
            assert bed is not None, "it has a shape"
            made = shape_or_fault(records[host], bed, sections[sizes[host].section].depth, reach)
            onward[host] = made if isinstance(made, RoofShape) else shape
    return framed, onward


def reach_of_roofs(project: Project) -> float:
    """How far a roof may run on until it has met any other, mm."""
    if not any(s.kind == "runs on" for r in project.roofs for s in r.sides):
        return 0.0
    points = [
        p
        for r in project.roofs
        if (bed := bed_of_roof(project, r)) is not None
        for p in bed.outline
    ]
    if len(project.roofs) < 2 or not points:
        return 0.0
    x0, y0, x1, y1 = box(points)
    return max(x1 - x0, y1 - y0)


@remembered
def shape_or_fault(roof: RoofArea, bed: Bed, depth: float, reach: float) -> RoofShape | str:
    """The shape of a roof, or in a sentence why it has none."""
    try:
        return shape_of(roof, bed, depth, reach)
    except RoofError as error:
        return str(error)


def _valleys(
    project: Project,
    onward: dict[HostName, RoofShape],
    seen: dict[HostName, tuple[Face, ...]],
    sizes: dict[HostName, Size],
) -> Iterable[Framed]:
    """What is framed over other roofs where a roof runs on to them."""
    sections = sections_of(project.system, ())
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        if host in onward and any(e.rule.kind == "runs on" for e in onward[host].edges):
            others = tuple(f for h, s in onward.items() if h != host for f in s.roof.faces)
            if not others:
                continue
            section = sections[sizes[host].section]
            what = (roof, onward[host], seen[host], others)
            if roof.framing == "rafters":
                board = boards_for(
                    section, max(f.pitch for f in onward[host].roof.faces), sections
                )[0]
                usual: dict[RafterPart, Section] = {
                    "valleys": section,
                    "ridge": board,
                    "jacks": section,
                }
                valley, ridge, jack = (
                    cut_from(roof, part, s, sections) for part, s in usual.items()
                )
                yield framed_of(over_framed(*what, (valley, ridge, jack), sizes[host].spacing))
            else:
                frames = sections[dict(sizes[host].cut).get((VALLEY_FRAME, ""), section.name)]
                yield framed_of(valley_set(*what, frames, sizes[host].spacing))


def _gables(
    project: Project, shapes: dict[HostName, RoofShape], sizes: dict[HostName, Size]
) -> Iterable[GableWall]:
    """What of walls rises to roofs of rafters."""
    sections = catalogue_of(project.system).sections
    for roof in project.roofs:
        shape = shapes.get(HostName("roof", roof.id))
        if shape is not None and roof.framing == "rafters":
            mine = {e.name for e in shape.edges}
            tops = tuple(
                (w.id, wall_top(project, w), w.thickness) for w in project.walls if w.id in mine
            )
            yield from gables_of(
                shape, sections[sizes[HostName("roof", roof.id)].section].depth, tops
            )


@remembered
def _seen(shapes: tuple[RoofShape, ...]) -> list[tuple[Face, ...]]:
    return [tuple(faces) for faces in seen_faces(shapes)]


def _roofs(
    project: Project,
    shapes: dict[HostName, RoofShape],
    sizes: dict[HostName, Size],
    floors: dict[HostName, Framed],
    unframed: list[tuple[HostName, str]],
) -> list[Framed]:
    found: dict[HostName, Framed] = {}
    for roof in sorted(
        project.roofs, key=lambda r: r.rafters.line_up is not None
    ):  # what others stand over comes first
        host = HostName("roof", roof.id)
        bed = bed_of_roof(project, roof)
        if host in shapes and bed is not None:
            changes = changes_on(project, host)
            over = (
                lines_of((floors | found)[roof.rafters.line_up])
                if roof.rafters.line_up in floors | found
                else ()
            )
            made = _roof(roof, shapes[host], bed, sizes[host], project.system, changes, over)
            if isinstance(made, str):
                unframed.append((host, made))
            else:
                found[host] = made
    return [found[HostName("roof", r.id)] for r in project.roofs if HostName("roof", r.id) in found]


@remembered_piece
def lines_of(framed: Framed) -> tuple[tuple[Point, Point], ...]:
    """The lines in plan of the joists, rafters or trusses that a host gave."""
    rows = (kinds.JOIST, kinds.CEILING_JOIST, kinds.RAFTER, kinds.BOTTOM_CHORD)
    return tuple(
        sorted(
            {
                (m.carrier.start[:2], m.carrier.end[:2])
                for m in framed.members
                if m.kind in rows and m.carrier.supports
            }
        )
    )


def anchors(
    project: Project, parts: tuple[Part, ...], sills: tuple[Member, ...]
) -> dict[MemberName, Bolts]:
    """The anchor bolts of every sill piece: clear of the joists over it, and of doors in
    walls that stand on it."""
    taken: dict[MemberName, list[tuple[Point, float]]] = {}
    for part in parts:
        for on, place in _over_sills(part):
            taken.setdefault(on, []).append(place)
    doors = _doors_on_slabs(project)
    apart = {HostName("run", r.id): r.bolts_apart for r in project.runs}
    found = {}
    for m in sills:
        start = (m.start[0], m.start[1])
        way = direction_or(sub(m.end[:2], m.start[:2]), (1.0, 0.0))
        spans = [
            (dot(sub(p, start), way) - r, dot(sub(p, start), way) + r)
            for p, r in taken.get(m.id, ())
        ]
        wall = whole(m.id.row)
        for a, b in doors.get((m.host, wall), ()):
            low, high = sorted((dot(sub(a, start), way), dot(sub(b, start), way)))
            spans.append((low - CLEAR, high + CLEAR))
        found[m.id] = place_bolts(m.length, tuple(spans), apart.get(m.host, 0.0) or APART)
    return found


@remembered_piece
def _over_sills(part: Part) -> tuple[tuple[MemberName, tuple[Point, float]], ...]:
    """Where members of a part lie on sills, by the sill, with how much of it they take to
    each side."""
    return tuple(
        (s.on, (s.point, m.solid.depth / 2 + CLEAR))
        for m in part.members
        for s in m.carrier.supports
        if isinstance(s.on, MemberName) and s.on.family == "sill"
    )


def _doors_on_slabs(project: Project) -> dict[tuple[HostName, str], list[tuple[Point, Point]]]:
    """The openings down to the floor of walls whose sill is their bottom plate: those on a
    slab's edge."""
    found: dict[tuple[HostName, str], list[tuple[Point, Point]]] = {}
    for run in project.runs:
        if run.kind == "slab edge":
            for wall in (w for w in project.walls if w.id in walls_on(run) and not w.bulge):
                way = direction_of(wall)
                for hole in wall.openings:
                    if hole.sill <= 0:
                        a = add(wall.start, way, hole.at)
                        found.setdefault((HostName("run", run.id), wall.id), []).append(
                            (a, add(a, way, hole.width))
                        )
    return found


@remembered
def _floor(
    floor: FloorArea,
    build_up: BuildUp,
    bed: Bed,
    size: Size,
    system: System,
    products: tuple[Product, ...],
    changes: tuple[Change, ...],
    added: tuple[AddedMember, ...],
) -> Framed:
    sections = {**sections_of(system, products), **catalogue_of(system).boards}
    framed = frame_floor(floor, build_up, bed, size, sections, changes, added)
    return by_hand(framed, changes, added, bed.strips, sections)


@remembered
def _roof(
    roof: RoofArea,
    shape: RoofShape,
    bed: Bed,
    size: Size,
    system: System,
    changes: tuple[Change, ...],
    over: tuple[tuple[Point, Point], ...],
) -> Framed | str:
    """Frame a roof; where that cannot be done, say why."""
    try:
        return frame_roof(roof, shape, bed, size, sections_of(system, ()), system, changes, over)
    except LayoutError as error:
        return str(error)
