"""Foundations to members: footings with their steps and links, walls, slabs, edges, beams, sills
and blinding.

A footing lies under its stem (or shifted); the stem's outer face is flush with the wall above, or
moved by the run's offset; under inside walls both are centred. Heights follow the ground by
:mod:`balken.framing.ground.footing_course`. Bodies that meet are not cut here:
:mod:`balken.framing.concrete` counts them once.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Any, Final, NamedTuple

import msgspec

from balken.framing import kinds
from balken.framing.ground.footing_course import INFLUENCE, Asked, Plateau, Ways, course_of
from balken.framing.ground.lines import (
    PATH,
    SLIVER,
    beside_face,
    butted,
    clipped,
    ends_of,
    flush_lines,
    pieces,
    wall_of,
    widened,
)
from balken.framing.kinds import MemberKind
from balken.framing.member import Framed, Member, framed_of
from balken.geometry.plane import EXACT, Point, Ring, add, box, distance, left, simplify, sub, unit
from balken.geometry.solid import Extrusion, side_profile, upright
from balken.model.foundations import WITH_STEM, FoundationRun, HeldStep, Pocket, Shelf, StepRule
from balken.model.names import HostName, MemberName, whole
from balken.model.project import Change
from balken.model.sections import Section
from balken.model.walls import Wall
from balken.recall import remembered, remembered_piece
from balken.site.bodies import Near, bodies, neighbours
from balken.site.ground import Surface
from balken.units import System, format_run

MATERIALS: Final = {kinds.BLINDING: "lean concrete"}
"""What is no structural concrete, but sills: wood on concrete is preservative-treated (IRC 2021
R317.1)."""
HAIR: Final = 1.0
"""Corners of walls that miss each other by no more still close a room, mm."""
ENDLESS: Final = 1e15


class RunSite(msgspec.Struct, frozen=True, cache_hash=True):
    """What a run is framed from besides its own record. Heights mm.

    ``lines``: the walls over it, and the pieces of its path; ``outside``: the side of each that is
    outside; ``beside``: the stems of other runs, for the joints between them.
    """

    lines: tuple[Wall, ...]
    outside: tuple[tuple[str, int], ...]
    beside: tuple[Wall, ...]
    bottom: float
    base: float
    top: float
    slab: float
    ground: float | None
    frost: float
    rule: StepRule
    sill: Section | None
    sill_material: str
    system: System
    deeper: tuple[tuple[Ring, float], ...] = ()
    """Footings of other runs near by that lie deeper: outline, and bottom before it steps."""
    begins: tuple[tuple[str, float], ...] = ()
    """Where the part of a wall that stands on the run begins, mm from the wall's start."""
    plated: tuple[str, ...] = ()
    """Walls framed of studs right on the run: their bottom plates are its sills."""


def stems_of(
    run: FoundationRun, lines: tuple[Wall, ...], outside: Mapping[str, int]
) -> tuple[Wall, ...]:
    """The lines of what stands in a run: its walls, or its edges and beams."""
    thickness = run.stem_thickness if run.kind in WITH_STEM else run.edge_width
    own = {p.wall: p.stem_thickness for p in run.parts if p.stem_thickness}
    return flush_lines(lines, thickness or 200.0, run.offset, outside, own)


def ways_of(run: FoundationRun, site: RunSite, surface: Surface | None) -> Ways:
    """How deep the outside footings of a run lie."""
    if run.kind not in WITH_STEM or run.follow == "level":
        return Ways(())
    if surface is None and not site.deeper:
        return Ways(())
    outside = dict(site.outside)
    stems = stems_of(run, site.lines, outside)
    exposed = outside if surface is not None else {}
    lines = tuple(w for w in stems if w.id in exposed or _beside(w, run, site))
    asked = Asked(
        lines,
        tuple((w.id, outside.get(w.id, 0)) for w in lines),
        max([run.footing_width, *(p.footing_width for p in run.parts)]),
        site.bottom,
        site.frost,
        run.follow,
        site.rule,
        tuple(_held_steps(run, site, lines)),
        site.ground or 0.0,
        tuple(w.id for w in lines if w.id not in exposed),
        site.deeper,
    )
    return course_of(asked, surface)


def _held_steps(run: FoundationRun, site: RunSite, lines: tuple[Wall, ...]) -> Iterator[HeldStep]:
    """The steps of a run that a person holds, along the lines they stand on."""
    begins = dict(site.begins)
    for step in run.steps:
        for line in (w for w in lines if step.wall == wall_of(w.id)):
            along = step.at - begins.get(line.id, 0.0)
            if 0 < along < distance(line.start, line.end):
                yield HeldStep(line.id, round(along, 6), step.drop)


def _beside(line: Wall, run: FoundationRun, site: RunSite) -> bool:
    """Whether a line comes near enough to a deeper footing to follow it down."""
    if not site.deeper:
        return False
    from shapely import LineString, Polygon

    way = LineString([line.start, line.end])
    return any(
        way.distance(Polygon(ring)) < (site.bottom - bottom) / INFLUENCE + run.footing_width
        for ring, bottom in site.deeper
    )


@remembered
def frame_run(
    run: FoundationRun,
    site: RunSite,
    surface: Surface | None,
    changes: tuple[Change, ...],
) -> Framed:
    """Frame one foundation.

    Args:
        run: the run.
        site: what it is framed from.
        surface: the ground, where heights were measured.
        changes: changes by hand on members of this run.
    """
    kept = _Namer(run, site.sill_material, changes)
    stems = stems_of(run, site.lines, dict(site.outside))
    members: list[Member] = []
    if run.kind in WITH_STEM:
        members += _strip(run, site, stems, ways_of(run, site, surface), kept)
    if run.kind in ("slab edge", "grade beam"):
        members += _edges(run, site, stems, kept)
    if run.slab_thickness:
        members += _slab(run, site, stems, kept)
    if site.sill:
        members += _sills(run, site, stems, kept)
    if run.blinding:
        members += _blinding(run, members, kept)
    gone = {c.member for c in changes} - {m.id for m in members} - kept.removed
    return framed_of(members, tuple(sorted(gone)))


def _edges(
    run: FoundationRun, site: RunSite, stems: tuple[Wall, ...], kept: "_Namer"
) -> list[Member]:
    """The thickened edges of a slab, or grade beams."""
    system, by_id = site.system, {w.id: w for w in stems}
    size = f"{format_run(run.edge_width, system)} × {format_run(run.edge_depth, system)}"
    kind, top = kinds.GRADE_BEAM, site.top
    if run.kind == "slab edge":
        kind, top = kinds.EDGE, site.slab
    return [
        m
        for key, ring in _pieces(run, stems, site)
        for m in kept.make(kind, by_id[key], ring, top - run.edge_depth, top, run.top, size)
    ]


class Link(NamedTuple):
    """What fills between two footings at a step: from, to along the line, its bottom and top."""

    start: float
    end: float
    bottom: float
    top: float


def _near(run: FoundationRun, site: RunSite) -> Near:
    """Which lines of a run are neighbours: near enough for its widest part to meet."""
    parts = [max(p.footing_width, p.stem_thickness) for p in run.parts]
    widest = max([run.footing_width, run.stem_thickness, run.edge_width, 300.0, *parts])
    far = (
        widest
        + abs(run.offset)
        + abs(run.footing_shift)
        + max((w.thickness for w in site.lines), default=0.0)
    )
    return neighbours(tuple((w.start, w.end) for w in site.lines), far)


def _pieces(run: FoundationRun, lines: tuple[Wall, ...], site: RunSite) -> list[tuple[str, Ring]]:
    """The pieces of a run's own lines, with those of others that meet them there for the
    joints."""
    if not site.beside:
        return pieces(lines, near=_near(run, site))
    return pieces((*lines, *site.beside), frozenset(w.id for w in lines))


def _strip(
    run: FoundationRun,
    site: RunSite,
    stems: tuple[Wall, ...],
    ways: Ways,
    kept: "_Namer",
) -> list[Member]:
    outside = dict(site.outside)
    own = {p.wall: p.footing_width for p in run.parts if p.footing_width}
    footings = widened(stems, run.footing_width, run.footing_shift, outside, own)
    courses = dict(ways.plateaus)
    drops = {p.wall: p.top_drop for p in run.parts}
    thick = site.base - site.bottom
    voids = _voids(run, site, stems, drops)
    found: list[Member] = []
    for line, key_rings in _by_line(footings, pieces(footings, near=_near(run, site))):
        size = f"{format_run(line.thickness, site.system)} × {format_run(thick, site.system)}"
        course = courses.get(line.id, (Plateau(0.0, distance(line.start, line.end), 0.0, 0.0),))
        found += _footing(run, site, line, key_rings, course, size, kept)
    for line, key_rings in _by_line(stems, _pieces(run, stems, site)):
        course = courses.get(line.id, (Plateau(0.0, distance(line.start, line.end), 0.0, 0.0),))
        tops = _tops(run, site, line, drops)
        for plateau, low, high, top in _under_tops(_stretches(course), tops):
            for ring in key_rings:
                cut = clipped(ring, line, low, high)
                found += kept.make(
                    kinds.STEM,
                    line,
                    cut,
                    site.base - plateau.drop,
                    top,
                    run.base,
                    format_run(line.thickness, site.system),
                    plateau,
                    voids.get(line.id, ()),
                )
    return found + _corbels(run, site, stems, drops, kept)


def _tops(
    run: FoundationRun, site: RunSite, line: Wall, drops: Mapping[str, float]
) -> list[tuple[float, float, float]]:
    """The stretches of the top of a line: from, to along it, and how high each lies."""
    key = whole(line.id)
    own = next((p.top_steps for p in run.parts if p.wall == key), ())
    before = dict(site.begins).get(line.id, 0.0)
    steps = sorted((s.at - before, s.down) for s in own)
    top = site.top - drops.get(key, 0.0)
    places = [-ENDLESS, *(at for at, _ in steps), ENDLESS]
    heights = [top, *(top - down for _, down in steps)]
    return [(a, b, z) for (a, b), z in zip(pairwise(places), heights)]


def _under_tops(
    stretches: Sequence[tuple[Plateau, float, float]], tops: Sequence[tuple[float, float, float]]
) -> Iterator[tuple[Plateau, float, float, float]]:
    """The stretches of a line between the steps of its footing and those of its top."""
    for plateau, low, high in stretches:
        for a, b, top in tops:
            if min(high, b) - max(low, a) > EXACT:
                yield plateau, max(low, a), min(high, b), top


def _by_line(lines: Iterable[Wall], parts: list[tuple[str, Ring]]) -> list[tuple[Wall, list[Ring]]]:
    rings: dict[str, list[Ring]] = {}
    for key, ring in parts:
        rings.setdefault(key, []).append(ring)
    return [(line, rings.get(line.id, [])) for line in lines]


def _stretches(course: tuple[Plateau, ...]) -> list[tuple[Plateau, float, float]]:
    """Plateaus with the stations they are cut at; the first and the last reach as far as the
    corners do."""
    last = len(course) - 1
    return [
        (p, -ENDLESS if i == 0 else p.start, ENDLESS if i == last else p.end)
        for i, p in enumerate(course)
    ]


def _footing(
    run: FoundationRun,
    site: RunSite,
    line: Wall,
    rings: list[Ring],
    course: tuple[Plateau, ...],
    size: str,
    kept: "_Namer",
) -> list[Member]:
    """The stretches of one footing; at a step the lower one laps under the upper, and a link
    fills between them."""
    found: list[Member] = []
    links: list[Link] = []
    level = run.bottom or run.base
    for i, (plateau, low, high) in enumerate(_stretches(course)):
        # A stretch deeper than the next on either side laps under it.
        for beside, edge, sign in ((i - 1, plateau.start, -1), (i + 1, plateau.end, 1)):
            if 0 <= beside < len(course) and course[beside].drop < plateau.drop - EXACT:
                lap = max(site.rule.lap, plateau.drop - course[beside].drop)
                low, high = (low - lap, high) if sign < 0 else (low, high + lap)
                links += _link(site, plateau.drop, course[beside].drop, edge, sign * lap)
        bottom, top = site.bottom - plateau.drop, site.base - plateau.drop
        for ring in rings:
            cut = clipped(ring, line, low, high)
            found += kept.make(kinds.FOOTING, line, cut, bottom, top, level, size, plateau)
    width = f"{format_run(line.thickness, site.system)} wide"
    for link in links:
        for ring in rings:
            cut = clipped(ring, line, link.start, link.end)
            found += kept.make(kinds.LINK, line, cut, link.bottom, link.top, level, width)
    return found


def _link(site: RunSite, drop: float, upper: float, edge: float, lap: float) -> list[Link]:
    """The link over the lap of a footing at a step, from the top of the lower footing to the
    bottom of the upper one; none where they touch."""
    bottom, top = site.base - drop, site.bottom - upper
    start, end = sorted((edge, edge + lap))
    return [Link(start, end, bottom, top)] if top - bottom > EXACT else []


def _voids(
    run: FoundationRun, site: RunSite, stems: tuple[Wall, ...], drops: Mapping[str, float]
) -> dict[str, tuple[Extrusion, ...]]:
    """What is left out of the stem of each line: ledges, seats and pockets."""
    found: dict[str, list[Extrusion]] = {}
    for key, void in _under_shelves(run, site, stems, drops):
        found.setdefault(key, []).append(void)
    for pocket in run.pockets:
        line, at = _line_of_pocket(pocket, site, stems)
        if line is not None:
            top = site.top - drops.get(pocket.wall, 0.0)
            ring = _pocket_ring(pocket, line, at, dict(site.outside))
            found.setdefault(line.id, []).append(upright(ring, top - pocket.height, top))
    return {key: tuple(v) for key, v in found.items()}


def _under_shelves(
    run: FoundationRun, site: RunSite, stems: tuple[Wall, ...], drops: Mapping[str, float]
) -> Iterator[tuple[str, Extrusion]]:
    """What ledges and seats leave out of each line."""
    outside = dict(site.outside)
    for shelf in (s for s in run.shelves if s.kind != "corbel"):
        strips = beside_face(stems, shelf.width, outside, outer=shelf.kind == "ledge")
        shapes = bodies(strips)
        for line in (s for s in strips if _has(shelf, s, outside)):
            top = site.top - drops.get(whole(line.id), 0.0)
            yield line.id, upright(shapes[line.id].ring, top - shelf.depth, top)


def _line_of_pocket(
    pocket: Pocket, site: RunSite, stems: tuple[Wall, ...]
) -> tuple[Wall | None, float]:
    """The line a pocket is left out of, and how far along it; None where it has none."""
    begins = dict(site.begins)
    for line in stems:
        at = pocket.at - begins.get(line.id, 0.0)
        if _lies_on(line, pocket.wall, at):
            return line, at
    return None, 0.0


def _pocket_ring(pocket: Pocket, line: Wall, at: float, outside: Mapping[str, int]) -> Ring:
    way = unit(sub(line.end, line.start))
    strip = beside_face((line,), pocket.depth, outside, outer=False)[0]
    middle = add(strip.start, way, at)
    return tuple(
        add(add(middle, way, s * pocket.width / 2), left(way), t * pocket.depth / 2)
        for s, t in ((-1, -1), (1, -1), (1, 1), (-1, 1))
    )


def _lies_on(line: Wall, wall: str, at: float) -> bool:
    """Whether a place along a wall, measured from where the line begins, lies on the line."""
    return wall_of(line.id) == wall and 0 <= at <= distance(line.start, line.end)


def _has(shelf: Shelf, line: Wall, outside: Mapping[str, int]) -> bool:
    return whole(line.id) in shelf.walls if shelf.walls else line.id in outside


def _corbels(
    run: FoundationRun,
    site: RunSite,
    stems: tuple[Wall, ...],
    drops: Mapping[str, float],
    kept: "_Namer",
) -> list[Member]:
    found: list[Member] = []
    outside = dict(site.outside)
    for shelf in run.shelves:
        if shelf.kind != "corbel":
            continue
        strips = beside_face(stems, -shelf.width, outside, outer=False)
        shapes = bodies(strips)
        for line in strips:
            if _has(shelf, line, outside):
                top = site.top - drops.get(whole(line.id), 0.0)
                size = (
                    f"{format_run(shelf.width, site.system)} ×"
                    f" {format_run(shelf.depth, site.system)}"
                )
                found += kept.make(
                    kinds.CORBEL, line, shapes[line.id].ring, top - shelf.depth, top, run.top, size
                )
    return found


OWN_SHARE: Final = 0.5
"""A room belongs to the run that stands round at least this share of it."""


def _slab(
    run: FoundationRun, site: RunSite, stems: tuple[Wall, ...], kept: "_Namer"
) -> list[Member]:
    """The slab: inside the walls of a basement, room by room; else over its rooms and their
    edges.

    A run that closes against walls of another, as a wing does, has its room between them.
    """
    from shapely import Polygon, buffer, polygons, union_all

    own = [polygons(b.ring) for b in bodies(stems).values()]
    if not own:
        return []
    shapes = _rooms(own, [polygons(b.ring) for b in bodies(site.beside).values()])
    if run.kind != "basement" and shapes:
        over = union_all([*buffer(shapes, HAIR, join_style="mitre"), *own])
        shapes = [Polygon(g.exterior) for g in getattr(over, "geoms", [over])]
    found: list[Member] = []
    size = format_run(run.slab_thickness, site.system)
    bottom, level = site.slab - run.slab_thickness, run.slab_level or run.top
    for number, shape in enumerate(sorted(shapes, key=lambda g: (-round(g.area), g.bounds)), 1):
        outline = simplify([(round(x, 3), round(y, 3)) for x, y in shape.exterior.coords[:-1]])
        found += kept.piece(kinds.SLAB, (str(number), ""), outline, bottom, site.slab, level, size)
    return found


def _rooms(own: list[Any], others: list[Any]) -> list[Any]:
    """The rooms that walls close round, as polygons: those a run's own walls are enough of. Corners
    that miss each other by a hair still close."""
    from shapely import Polygon, buffer, union_all

    mine = buffer(union_all(own), 2 * HAIR)
    grown = union_all(buffer([*own, *others], HAIR, join_style="mitre"))
    joined = buffer(grown, -HAIR, join_style="mitre")
    rooms = [
        Polygon(hole) for part in getattr(joined, "geoms", [joined]) for hole in part.interiors
    ]
    return [
        r for r in rooms if r.exterior.intersection(mine).length >= OWN_SHARE * r.exterior.length
    ]


def _sills(
    run: FoundationRun, site: RunSite, stems: tuple[Wall, ...], kept: "_Namer"
) -> list[Member]:
    assert site.sill is not None
    lines = _sill_lines(run, site, site.sill.depth, stems)
    drops = {p.wall: p.top_drop for p in run.parts}
    top = site.slab if run.kind == "slab edge" else site.top
    found: list[Member] = []
    by_id = {w.id: w for w in lines}
    for key, ring in butted(lines, _near(run, site)):
        if whole(key) in site.plated:
            continue
        line = by_id[key]
        for start, end, z in _tops(run, site, line, drops):
            low = z - site.top + top
            cut = ring if (start, end) == (-ENDLESS, ENDLESS) else clipped(ring, line, start, end)
            found += kept.make(
                kinds.SILL, line, cut, low, low + site.sill.breadth, run.top, site.sill.name
            )
    return found


def _sill_lines(
    run: FoundationRun, site: RunSite, width: float, stems: tuple[Wall, ...]
) -> tuple[Wall, ...]:
    """Where the sills of a run lie: flush with the face of its walls, behind a ledge, which takes
    the outer strip of the wall's top; in the middle of what stands on a free path."""
    outside = dict(site.outside)
    flush = flush_lines(site.lines, width, outside=outside)
    chosen = [widened((s,), width)[0] if whole(f.id) == PATH else f for f, s in zip(flush, stems)]
    for shelf in (s for s in run.shelves if s.kind == "ledge"):
        moved = flush_lines(site.lines, width, -shelf.width, outside)
        chosen = [m if _has(shelf, m, outside) else c for m, c in zip(moved, chosen)]
    return tuple(chosen)


def _blinding(run: FoundationRun, members: list[Member], kept: "_Namer") -> list[Member]:
    """The thin slabs under footings, edges and slabs; under a stepped footing they step with
    it."""
    found: list[Member] = []
    for m in members:
        if m.kind in (kinds.FOOTING, kinds.EDGE, kinds.GRADE_BEAM, kinds.SLAB):
            low, _ = m.solid.bounds()
            if abs(m.solid.normal[2]) < 0.5:
                continue  # a sloped footing is cast on the trimmed ground
            row = f"{m.id.family}-{m.id.row}".replace(" ", "-")
            found += kept.piece(
                kinds.BLINDING,
                (row, m.id.piece),
                m.solid.plan(),
                low[2] - run.blinding,
                low[2],
                m.level,
                format_run(run.blinding, "metric"),
            )
    return found


class _Namer:
    """Gives members of one run their lasting names: the wall above, since walls outlive layouts."""

    def __init__(self, run: FoundationRun, sill_material: str, changes: tuple[Change, ...]) -> None:
        self.run = run
        self.materials = {kinds.SILL: sill_material, **MATERIALS}
        self.changes = {c.member: c for c in changes}
        self.removed: set[MemberName] = set()
        self.counts: dict[tuple[MemberKind, str], int] = {}

    def make(
        self,
        kind: MemberKind,
        line: Wall,
        ring: Ring,
        bottom: float,
        top: float,
        level: str,
        section: str,
        plateau: Plateau | None = None,
        voids: tuple[Extrusion, ...] = (),
    ) -> list[Member]:
        """The member of a piece of a line, sloped where its plateau is; none where the piece
        is a sliver."""
        if len(ring) < 3 or _area(ring) < SLIVER:
            return []
        number = self.counts[kind, line.id] = self.counts.get((kind, line.id), 0) + 1
        place = (line.id, "" if number == 1 else str(number))
        slope = plateau if plateau is not None and plateau.sloped else None
        return self._named(kind, place, line, ring, bottom, top, level, section, slope, voids)

    def piece(
        self,
        kind: MemberKind,
        place: tuple[str, str],
        ring: Ring,
        bottom: float,
        top: float,
        level: str,
        section: str,
    ) -> list[Member]:
        """A member that follows no line."""
        if len(ring) < 3 or _area(ring) < SLIVER:
            return []
        return self._named(kind, place, None, ring, bottom, top, level, section, None, ())

    def _named(self, kind: MemberKind, place: tuple[str, str], *how: Any) -> list[Member]:
        name = MemberName(HostName("run", self.run.id), kind.role, *place)
        change = self.changes.get(name)
        if change and change.removed:
            self.removed.add(name)
            return []
        material = self.materials.get(kind, "concrete")
        return [_member(name, kind, material, change is not None, *how)]


@remembered_piece
def _member(
    name: MemberName,
    kind: MemberKind,
    material: str,
    touched: bool,
    line: Wall | None,
    ring: Ring,
    bottom: float,
    top: float,
    level: str,
    section: str,
    slope: Plateau | None,
    voids: tuple[Extrusion, ...],
) -> Member:
    """A member of a foundation: along its line, or where it follows none along the box round
    it."""
    solid = upright(ring, bottom, top)
    if line is None:
        x0, y0, x1, y1 = box(ring)
        a, b, length = (x0, (y0 + y1) / 2), (x1, (y0 + y1) / 2), x1 - x0
    else:
        (a, b), length = ends_of(line, ring)
        if slope is not None:
            solid = _sloping(line, ring, bottom, top, slope, whole_bottom=kind is kinds.FOOTING)
    low, high = solid.bounds()
    z = (low[2] + high[2]) / 2
    return Member(
        name,
        f"{name.host.key}-{kind.letter}-{name.place}",
        kind,
        name.host,
        level,
        section,
        material,
        solid,
        (*a, z),
        (*b, z),
        length,
        length,
        ("square", "square") if kind is kinds.SILL else (),
        touched=touched,
        voids=tuple(v for v in voids if _touches(v, solid)),
    )


def _touches(void: Extrusion, solid: Extrusion) -> bool:
    (a, b), (c, d) = void.bounds(), solid.bounds()
    return all(min(b[i], d[i]) - max(a[i], c[i]) > 1e-6 for i in range(3))


@remembered_piece
def _area(ring: Ring) -> float:
    x = [p[0] - ring[0][0] for p in ring]
    y = [p[1] - ring[0][1] for p in ring]
    return (
        abs(sum(x[i] * y[(i + 1) % len(x)] - x[(i + 1) % len(x)] * y[i] for i in range(len(x)))) / 2
    )


def _sloping(
    line: Wall, ring: Ring, bottom: float, top: float, plateau: Plateau, *, whole_bottom: bool
) -> Extrusion:
    """A body whose bottom slopes along its line; a footing's top slopes with it, a wall's
    stays level.

    Its ends are square; ``bottom`` and ``top`` are given where the line starts.
    """
    (a, b), length = ends_of(line, ring)
    fall = (plateau.drop_end - plateau.drop) / max(plateau.end - plateau.start, 1.0)
    before = -fall * _station(line, a)
    low_a, low_b = bottom + before, bottom + before - fall * length
    high_a, high_b = (top + before, top + before - fall * length) if whole_bottom else (top, top)
    outline = ((0.0, low_a), (length, low_b), (length, high_b), (0.0, high_a))
    return side_profile(a, unit(sub(b, a)), outline, line.thickness)


def _station(line: Wall, p: Point) -> float:
    way = unit(sub(line.end, line.start))
    return (p[0] - line.start[0]) * way[0] + (p[1] - line.start[1]) * way[1]
