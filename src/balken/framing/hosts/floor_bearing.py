"""What floors and roofs lie on: their outline with its edges, cuts and openings, and every strip
they can bear on."""

import math
from collections.abc import Iterator
from typing import Any, Final

from balken.framing import kinds
from balken.framing.beams.fitting import strip_of
from balken.framing.hosts.beam_heights import placed_beams
from balken.framing.hosts.heights import bearing_height, build_up_of, runs_under
from balken.framing.hosts.plates import Plates, plates_of
from balken.framing.hosts.runs import frame_one, walls_of
from balken.framing.kinds import MemberKind
from balken.framing.member import Bearings, Hole, Member, Strip
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
    simplify,
    sub,
    unit,
)
from balken.model.catalogue import catalogue_of
from balken.model.floors import FloorArea, FloorCut, FloorOpening
from balken.model.foundations import FoundationRun
from balken.model.grids import grid_ends, grid_line
from balken.model.names import HostName, MemberName, wall_below, whole
from balken.model.project import Project, grid
from balken.model.supports import spots_of
from balken.model.walls import Wall, direction_of, reach
from balken.recall import remembered, remembered_piece
from balken.site.bodies import outer_sides, storey_outline

LEDGER: Final = {"us": 38.1, "metric": 38.0}
"""The thickness of a ledger, mm."""
ON_EDGE: Final = 30.0
"""A side of the outline within this of a wall's face is that wall's side, mm."""


def bearings_of_floor(project: Project, floor: FloorArea) -> Bearings | None:
    """What a floor lies on: sills where its walls stand on a foundation, else wall plates,
    and beams."""
    return _bearings_of_floor(project, floor)


@remembered
def _bearings_of_floor(project: Project, floor: FloorArea) -> Bearings | None:
    base = _on_walls(project, floor)
    if base is None:
        return None
    outline = area_of(project, floor, base.outline)
    if outline is None:
        return None
    strips, ledgers, outline = _with_ledgers(project, floor, base.strips, outline)
    beams = tuple(strip_of(p) for p in placed_beams(project)[0] if p.axis.level == floor.level)
    return Bearings(
        outline,
        strips + beams,
        base.height,
        base.width,
        tuple(holes_of(project, floor)),
        _along(project, floor),
        ledgers,
        _stands_on(project, floor),
    )


def _on_walls(project: Project, floor: FloorArea) -> Bearings | None:
    height = bearing_height(project, floor)
    plates = plates_of(walls_of(project, floor.walls), project.system) if floor.walls else None
    if plates is None:
        return Bearings(tuple(floor.corners), (), height, 0.0) if len(floor.corners) > 2 else None
    runs = runs_under(project, floor)
    if runs:
        return _on_foundation(project, runs, plates, height)
    outline, strips, width = plates
    return Bearings(outline, strips, height, width)


def _on_foundation(
    project: Project, runs: tuple[FoundationRun, ...], plates: Plates, height: float
) -> Bearings:
    """What a floor lies on whose walls stand on a foundation: its sills, or the tops of its walls
    where it has none."""
    outline, strips, _ = plates
    sill = catalogue_of(project.system).sections.get(runs[0].sill)
    width = sill.depth if sill else runs[0].stem_thickness
    members = [m for r in runs for m in frame_one(project, r).members]
    outer = {s.on.key for s in strips if s.outer and isinstance(s.on, HostName)}
    pieces = _strips_of(members, kinds.SILL if sill else kinds.STEM, outer)
    if any(s.kind == "ledge" for r in runs for s in r.shelves):
        outline = _behind_ledges(outline, members)
    return Bearings(outline, pieces, height, width)


def _strips_of(members: list[Member], kind: MemberKind, outer: set[str]) -> tuple[Strip, ...]:
    return tuple(Strip(m.id, m.solid.plan(), m.id.row in outer) for m in members if m.kind is kind)


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
    if not any((floor.room, floor.corners, floor.edge, floor.edges, floor.cuts)):
        return outline
    ring = _held_to(project, floor, outline)
    for item in (e for e in floor.edges if e.out):
        ring = _edge_moved(project, ring, item.wall, item.out) if ring else None
    for cut in floor.cuts:
        ring = _cut(project, ring, cut) if ring else None
    return ring


def _held_to(project: Project, floor: FloorArea, outline: Ring) -> Ring | None:
    """The outline within the room or the corners that a floor is held to."""
    if floor.room is None:
        return _inside(outline, floor.corners, floor.edge)
    from shapely import Polygon

    room = _room(project, floor, Polygon(outline))
    return _cut_to(room, floor.corners, floor.edge) if room is not None else None


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
        turn += math.degrees(math.atan2(way[1], way[0]))
    if item.corners:
        return simplify([add(p, middle) for p in item.corners])
    if min(item.size) < TOUCH:
        return None
    x, y = item.size[0] / 2, item.size[1] / 2
    corners = ((-x, -y), (x, -y), (x, y), (-x, y))
    return tuple(add(middle, rotate(p, math.radians(turn))) for p in corners)


def _with_ledgers(
    project: Project, floor: FloorArea, strips: tuple[Strip, ...], outline: Ring
) -> tuple[tuple[Strip, ...], tuple[tuple[str, Point, Point], ...], Ring]:
    """Take the walls whose inner face carries a ledger out of the strips, and end the floor at
    those faces."""
    wanted = [e.wall for e in floor.edges if e.ledger]
    if not wanted:
        return strips, (), outline
    thick = LEDGER[project.system]
    ledgers: list[tuple[str, Point, Point]] = []
    ring = outline
    for wall in (w for key in wanted for w in walls_of(project, (key,))):
        moved = _edge_moved(project, ring, wall.id, -wall.thickness)
        if moved is not None:
            ring = moved
            ledgers += [(whole(wall.id), a, b) for a, b in _along_wall(ring, wall, thick / 2)]
    kept = [s for s in strips if wall_below(s.on) not in wanted]
    faces = [_ledger_strip(floor, ledger, thick) for ledger in ledgers]
    return (*kept, *faces), tuple(ledgers), ring


def _ledger_strip(floor: FloorArea, ledger: tuple[str, Point, Point], thick: float) -> Strip:
    key, a, b = ledger
    name = MemberName(HostName("floor", floor.id), "ledger", key)
    return Strip(name, _band(a, b, thick), True, hung=True)


def _along_wall(ring: Ring, wall: Wall, inward: float) -> Iterator[tuple[Point, Point]]:
    """The sides of an outline that lie along a wall, moved in, mm."""
    for a, b in edges(ring):
        if _lies_along(a, b, wall):
            n = left(unit(sub(b, a)))
            yield add(a, n, inward), add(b, n, inward)


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
