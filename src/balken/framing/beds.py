"""What floors and roofs lie on: their outline with its edges, cuts and openings, and every strip
they can bear on."""

from typing import Any, Final

from balken.framing import kinds
from balken.framing.beams.fitting import Placed, placed_at, strip_of
from balken.framing.beams.lines import lines_of, section_for
from balken.framing.ground.lines import flush_lines
from balken.framing.ground.runs import frame_run
from balken.framing.ground.sites import run_site, surface_under, walls_of
from balken.framing.member import Bed, Framed, Hole, Member, Strip
from balken.framing.roofs.shape import side_names
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance,
    dot,
    edges,
    left,
    rotate,
    signed_area,
    simplify,
    sub,
    unit,
)
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import BuildUp, FloorArea, FloorCut, FloorOpening
from balken.model.foundations import WITH_STEM, FoundationRun, walls_on
from balken.model.grids import grid_ends, grid_line
from balken.model.names import HostName, MemberName, wall_below, whole
from balken.model.project import Change, Project, grid, level
from balken.model.roofs import RoofArea
from balken.model.supports import outline_at, spots_of
from balken.model.walls import Wall, direction_of, reach
from balken.recall import remembered, remembered_piece
from balken.site.bodies import bodies, outer_sides, storey_outline
from balken.units import System

ON_EDGE: Final = 30.0
"""A side of the outline within this of a wall's face is that wall's side, mm."""


def plate_width(wall: Wall, system: System) -> float:
    """The widest plate of dressed lumber no wider than a wall, mm."""
    widths = sorted({s.depth for s in catalogue_of(system).sections.values() if s.nominal[0] == 2})
    return max((w for w in widths if w <= wall.thickness + 0.5), default=widths[0])


@remembered
def plates_of(
    walls: tuple[Wall, ...], system: System, outline: Ring | None = None
) -> tuple[Ring, tuple[Strip, ...], float] | None:
    """The outline of a storey's walls (or the one given), their plates as strips, and the
    width of the outer plates."""
    outline = storey_outline(walls) if outline is None else outline
    if outline is None:
        return None
    outside = outer_sides(walls, outline)
    widths = [plate_width(wall, system) for wall in walls]
    flush = {width: flush_lines(walls, width, outside=outside) for width in set(widths)}
    lines = tuple(flush[width][i] for i, width in enumerate(widths))
    strips = tuple(
        Strip(HostName("wall", k), body.ring, k in outside) for k, body in bodies(lines).items()
    )
    return (
        outline,
        strips,
        max((w for wall, w in zip(walls, widths) if wall.id in outside), default=max(widths)),
    )


def runs_under(project: Project, floor: FloorArea) -> tuple[FoundationRun, ...]:
    """The foundations whose top a floor bears on."""
    mine = set(floor.walls)
    return tuple(
        r
        for r in project.runs
        if r.top == floor.bears_on and r.kind in WITH_STEM and mine & set(walls_on(r))
    )


def run_under(project: Project, floor: FloorArea) -> FoundationRun | None:
    """The first foundation whose top a floor bears on, if any."""
    return next(iter(runs_under(project, floor)), None)


def build_up_of(project: Project, floor: FloorArea) -> BuildUp:
    """A floor's build-up."""
    return next(b for b in project.build_ups if b.id == floor.build_up)


def bearing_height(project: Project, floor: FloorArea) -> float:
    """The height a floor's joists bear at, mm: its level, and the sill where it lies on a
    foundation.

    A slab hangs by its thickness under its top.
    """
    body = build_up_of(project, floor)
    if body.kind == "slab":
        return level(project, floor.level).elevation - body.slab
    run = run_under(project, floor)
    sill = catalogue_of(project.system).sections.get(run.sill) if run else None
    return level(project, floor.bears_on).elevation + (sill.breadth if sill else 0.0)


def frame_one(project: Project, run: FoundationRun) -> Framed:
    """Frame one run as it stands in its project."""
    site = run_site(project, run)
    return frame_run(
        run,
        site,
        surface_under(project),
        changes_on(project, HostName("run", run.id)),
    )


def changes_on(project: Project, host: HostName) -> tuple[Change, ...]:
    """The changes by hand on the members of one host."""
    return tuple(c for c in project.changes if c.member.host == host)


def bed_of_floor(project: Project, floor: FloorArea) -> Bed | None:
    """What a floor lies on: sills where its walls stand on a foundation, else wall plates,
    and beams."""
    return _bed_of_floor(project, floor)


@remembered
def _bed_of_floor(project: Project, floor: FloorArea) -> Bed | None:
    base = _on_walls(project, floor)
    if base is None:
        return None
    outline = area_of(project, floor, base.outline)
    if outline is None:
        return None
    strips, ledgers, outline = _with_ledgers(project, floor, base.strips, outline)
    beams = tuple(strip_of(p) for p in placed_beams(project)[0] if p.axis.level == floor.level)
    return Bed(
        outline,
        strips + beams,
        base.height,
        base.width,
        tuple(holes_of(project, floor)),
        _along(project, floor),
        ledgers,
        _stands_on(project, floor),
    )


def _on_walls(project: Project, floor: FloorArea) -> Bed | None:
    height = bearing_height(project, floor)
    if not floor.walls:
        return Bed(tuple(floor.corners), (), height, 0.0) if len(floor.corners) > 2 else None
    plates = plates_of(walls_of(project, floor.walls), project.system)
    if plates is None:
        return Bed(tuple(floor.corners), (), height, 0.0) if len(floor.corners) > 2 else None
    outline, strips, width = plates
    runs = runs_under(project, floor)
    if not runs:
        return Bed(outline, strips, height, width)
    run = runs[0]
    sill = catalogue_of(project.system).sections.get(run.sill)
    wanted = kinds.SILL if sill else kinds.STEM
    outer = {s.on.key for s in strips if s.outer and isinstance(s.on, HostName)}
    members = [m for r in runs for m in frame_one(project, r).members]
    pieces = tuple(
        Strip(m.id, m.solid.plan(), m.id.row in outer) for m in members if m.kind is wanted
    )
    if any(s.kind == "ledge" for r in runs for s in r.shelves):
        outline = _behind_ledges(outline, members)
    return Bed(outline, pieces, height, sill.depth if sill else run.stem_thickness)


def _behind_ledges(outline: Ring, members: list[Member]) -> Ring:
    """The outline a floor fills where brick stands on ledges of the foundation: it ends
    behind them."""
    from shapely import Polygon, union_all

    whole_area = Polygon(outline)
    voids = [Polygon(v.plan()) for m in members if m.kind is kinds.STEM for v in m.voids]
    ledges = [
        v.buffer(0.5, join_style="mitre") for v in voids if whole_area.exterior.distance(v) < TOUCH
    ]
    return _largest(whole_area.difference(union_all(ledges))) or outline


def _largest(shape: Any) -> Ring | None:
    """The outline of the largest part of a shape, to a thousandth of a millimetre."""
    parts = [
        p for p in getattr(shape, "geoms", [shape]) if p.geom_type == "Polygon" and p.area > TOUCH
    ]
    if not parts:
        return None
    best = max(parts, key=lambda g: g.area)
    return simplify([(round(x, 3), round(y, 3)) for x, y in best.exterior.coords[:-1]])


def area_of(project: Project, floor: FloorArea, outline: Ring) -> Ring | None:
    """The outline a floor fills inside (or past) its walls' outline; None where nothing is
    left.

    First the room or the corners it is held to, then how far its edges reach, then the lines that
    cut it.
    """
    if not (floor.room or floor.corners or floor.edge or floor.edges or floor.cuts):
        return outline
    if floor.room is None:
        ring = _inside(outline, floor.corners, floor.edge)
    else:
        from shapely import Polygon

        room = _room(project, floor, Polygon(outline))
        ring = _cut_to(room, floor.corners, floor.edge) if room is not None else None
    for item in floor.edges:
        if ring and item.out:
            ring = _edge_moved(project, ring, item.wall, item.out)
    for cut in floor.cuts:
        ring = _cut(project, ring, cut) if ring else None
    return ring


@remembered_piece
def _inside(outline: Ring, corners: tuple[Point, ...], edge: float) -> Ring | None:
    from shapely import Polygon

    return _cut_to(Polygon(outline), corners, edge)


def _cut_to(shape: Any, corners: tuple[Point, ...], edge: float) -> Ring | None:
    """What of a shape lies within the corners, grown (or shrunk) by how far the edge
    reaches."""
    from shapely import Polygon

    if not shape.is_valid:  # walls that cross each other outside
        shape = shape.buffer(0)
    if corners:
        shape = shape.intersection(Polygon(corners).buffer(0))
    return _largest(shape.buffer(edge, join_style="mitre") if edge else shape)


def _room(project: Project, floor: FloorArea, outline: Any) -> Any:
    """The room that holds a place: to the outer face of outside walls, to the middle of
    inside ones.

    The middle lines of inside walls, carried on through what they end at, divide the outline.
    """
    from shapely import LineString, polygonize, union_all
    from shapely import Point as Spot

    assert floor.room is not None
    walls = walls_of(project, floor.walls)
    outside = outer_sides(walls, storey_outline(walls))
    beyond = max(w.thickness for w in walls) + TOUCH
    lines = []
    for wall in walls:
        if wall.id not in outside:
            way, n = direction_of(wall), left(direction_of(wall))
            shift = sum(reach(wall)) / 2
            a, b = (
                add(add(wall.start, n, shift), way, -beyond),
                add(add(wall.end, n, shift), way, beyond),
            )
            lines.append(LineString([a, b]))
    parts = polygonize([union_all([outline.exterior, *lines])])
    place = Spot(floor.room)
    return next((part for part in parts.geoms if part.contains(place)), None)


def _edge_moved(project: Project, ring: Ring, wall_id: str, out: float) -> Ring | None:
    """An outline with the side along a wall moved out by a distance, or in where
    negative."""
    from shapely import Polygon

    wall = next((w for w in walls_of(project, (wall_id,))), None)
    if wall is None:
        return ring
    shape = Polygon(ring)
    for a, b in edges(ring):
        if _lies_along(a, b, wall):
            n = left(unit(sub(b, a)))
            strip = Polygon([a, b, add(b, n, -out), add(a, n, -out)])
            shape = shape.union(strip) if out > 0 else shape.difference(strip)
    return _largest(shape)


def _lies_along(a: Point, b: Point, wall: Wall) -> bool:
    way = direction_of(wall)
    if abs(dot(left(way), unit(sub(b, a)))) > 0.01 or distance(a, b) < TOUCH:
        return False
    offset = dot(sub(a, wall.start), left(way))
    low, high = reach(wall)
    if min(abs(offset - low), abs(offset - high)) > ON_EDGE and not low <= offset <= high:
        return False
    length = distance(wall.start, wall.end)
    s, e = sorted((dot(sub(a, wall.start), way), dot(sub(b, wall.start), way)))
    return min(e, length) - max(s, 0.0) > (e - s) / 2


def _cut(project: Project, ring: Ring, cut: FloorCut) -> Ring | None:
    """What lies on the kept side of a line."""
    from shapely import Polygon

    start, end = cut.start, cut.end
    if cut.grid:
        of = grid(project, cut.grid)
        start, end = grid_ends(of, grid_line(of, cut.line))
        if cut.other_side:
            start, end = end, start
    if distance(start, end) < TOUCH:
        return ring
    way = unit(sub(end, start))
    far = 1e6
    a, b = add(start, way, -far), add(start, way, far)
    side = left(way)
    return _largest(
        Polygon(ring).intersection(Polygon([a, b, add(b, side, 2 * far), add(a, side, 2 * far)]))
    )


def holes_of(project: Project, floor: FloorArea) -> list[Hole]:
    """The openings of a floor in plan, grown by what is kept clear round them."""
    found = []
    for item in floor.openings:
        ring = opening_ring(project, item)
        if ring is not None:
            if item.clear:
                from shapely import Polygon

                ring = _largest(Polygon(ring).buffer(item.clear, join_style="mitre")) or ring
            found.append(Hole(item.id, item.use, ring))
    return found


def opening_ring(project: Project, item: FloorOpening) -> Ring | None:
    """An opening's own outline; None where it has none, or its wall is gone."""
    middle, turn = item.at, item.turn
    if item.wall:
        wall = next((w for w in project.walls if w.id == item.wall), None)
        if wall is None or distance(wall.start, wall.end) < TOUCH:
            return None
        way = unit(sub(wall.end, wall.start))
        middle = add(add(wall.start, way, item.at[0]), left(way), item.at[1])
        turn += _degrees(way)
    if item.corners:
        shift = middle if item.wall else item.at
        return simplify([add(p, shift) for p in item.corners])
    if item.size[0] < TOUCH or item.size[1] < TOUCH:
        return None
    x, y = item.size[0] / 2, item.size[1] / 2
    return tuple(
        add(middle, rotate(p, _radians(turn))) for p in ((-x, -y), (x, -y), (x, y), (-x, y))
    )


def _degrees(way: Point) -> float:
    import math

    return math.degrees(math.atan2(way[1], way[0]))


def _radians(turn: float) -> float:
    import math

    return math.radians(turn)


def _with_ledgers(
    project: Project, floor: FloorArea, strips: tuple[Strip, ...], outline: Ring
) -> tuple[tuple[Strip, ...], tuple[tuple[str, Point, Point], ...], Ring]:
    """Take the walls whose inner face carries a ledger out of the strips, and end the floor at
    those faces."""
    wanted = [e.wall for e in floor.edges if e.ledger]
    if not wanted:
        return strips, (), outline
    thick = 38.1 if project.system == "us" else 38.0
    ledgers: list[tuple[str, Point, Point]] = []
    ring = outline
    for key in wanted:
        for wall in walls_of(project, (key,)):
            moved = _edge_moved(project, ring, wall.id, -wall.thickness)
            if moved is None:
                continue
            ring = moved
            for a, b in edges(ring):
                if _lies_along(a, b, wall):
                    n = left(unit(sub(b, a)))
                    ledgers.append((key, add(a, n, thick / 2), add(b, n, thick / 2)))
    host = HostName("floor", floor.id)
    faces = tuple(
        Strip(MemberName(host, "ledger", key), _band(a, b, thick), True, hung=True)
        for key, a, b in ledgers
    )
    kept = tuple(s for s in strips if wall_below(s.on) not in wanted)
    return kept + faces, tuple(ledgers), ring


def _band(a: Point, b: Point, thick: float) -> Ring:
    n = left(unit(sub(b, a)))
    return add(a, n, -thick / 2), add(b, n, -thick / 2), add(b, n, thick / 2), add(a, n, thick / 2)


def _along(project: Project, floor: FloorArea) -> tuple[tuple[str, Point, Point], ...]:
    """The middle lines of walls that stand on a floor."""
    if build_up_of(project, floor).use == "ceiling":
        return ()
    found = []
    for wall in project.walls:
        if wall.base == floor.level and not wall.bulge and distance(wall.start, wall.end) > TOUCH:
            shift = sum(reach(wall)) / 2
            n = left(direction_of(wall))
            found.append((wall.id, add(wall.start, n, shift), add(wall.end, n, shift)))
    return tuple(found)


def _stands_on(project: Project, floor: FloorArea) -> tuple[tuple[str, Point], ...]:
    mine = [p for p in project.point_supports if p.kind == "post" and p.base == floor.level]
    return tuple((p.id, spot) for p, spot, _ in spots_of(project, mine))


def placed_beams(project: Project) -> tuple[tuple[Placed, ...], tuple[tuple[HostName, str], ...]]:
    """All beams with section and height, and the hosts that could not be laid out with the
    reason."""
    if not project.beams and not project.bays:
        return (), ()
    return _placed_beams(project)


@remembered
def _placed_beams(project: Project) -> tuple[tuple[Placed, ...], tuple[tuple[HostName, str], ...]]:
    sections = sections_of(project.system, project.products)
    axes, faults = lines_of(project, sections)
    tops = {key: level_tops(project, key) for key in {a.level for a in axes}}
    found = []
    for axis in axes:
        section = section_for(axis.kind, sections)
        under, flush, top = tops[axis.level]
        height = {"under": under, "flush": flush, "level": top, "on": top + section.depth}[
            axis.kind.set
        ]
        found.append(placed_at(axis, section, round(height + axis.kind.offset, 6)))
    return tuple(found), tuple(faults)


def level_tops(project: Project, key: str) -> tuple[float, float, float]:
    """The tops of beams set under the joists, flush with them, and at a level, mm; all alike
    where no floor lies."""
    top = level(project, key).elevation
    floors = [
        f for f in project.floors if f.level == key and build_up_of(project, f).use == "floor"
    ]
    if not floors:
        return top, top, top
    joists = [f for f in floors if build_up_of(project, f).kind == "joists"]
    floor = (joists or floors)[0]
    body = build_up_of(project, floor)
    return (
        bearing_height(project, floor),
        top - (body.subfloor if body.kind == "joists" else 0.0),
        top,
    )


def bed_of_roof(project: Project, roof: RoofArea) -> Bed | None:
    """What a roof lies on: the plates of its walls, or the beams under its own outline; None
    where neither closes."""
    return _bed_of_roof(project, roof)


@remembered
def _bed_of_roof(project: Project, roof: RoofArea) -> Bed | None:
    height = level(project, roof.plate).elevation
    beams = tuple(strip_of(p) for p in placed_beams(project)[0] if p.axis.level == roof.plate)
    walls = walls_of(project, roof.walls) if roof.walls else ()
    own = simplify(roof.corners) if len(roof.corners) > 2 else None
    if own is not None and signed_area(own) < 0:
        own = own[::-1]
    plates = plates_of(walls, project.system, own) if walls else None
    if plates is None:
        width = max((min(_across(s.ring)) for s in beams), default=0.0)
        return Bed(own, beams, height, width) if own is not None else None
    outline, strips, width = plates
    faces = []
    for key, sign in outer_sides(walls, outline).items():
        wall = next(w for w in walls if w.id == key)
        face = reach(wall)[0 if sign > 0 else 1]
        n = left(direction_of(wall))
        faces.append((whole(key), add(wall.start, n, face), add(wall.end, n, face)))
    inner = tuple(
        Strip(HostName("wall", whole(k)), body.ring, False)
        for k, body in bodies(_others_at(project, roof, walls)).items()
    )
    return Bed(
        outline,
        strips + inner + beams + _posts_at(project, roof),
        height,
        width,
        sides=side_names(outline, faces),
    )


def _posts_at(project: Project, roof: RoofArea) -> tuple[Strip, ...]:
    """The posts that reach a roof's plate."""
    mine = [p for p in project.point_supports if p.kind == "post" and p.top == roof.plate]
    return tuple(
        Strip(MemberName(HostName("support", p.id), "post", "1"), outline_at(p, spot, turn), False)
        for p, spot, turn in spots_of(project, mine)
    )


def _others_at(project: Project, roof: RoofArea, known: tuple[Wall, ...]) -> tuple[Wall, ...]:
    """The straight walls that reach a roof's plate and are none of its own."""
    mine = {w.id for w in known} | set(roof.walls)
    return tuple(
        w for w in project.walls if w.top == roof.plate and not w.bulge and w.id not in mine
    )


def _across(ring: Ring) -> tuple[float, float]:
    a, b, c = ring[:3]
    return distance(a, b), distance(b, c)
