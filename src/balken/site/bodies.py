"""The bodies of walls in plan: how they meet at corners and tees, the outline of a storey, which
faces are outside."""

import math
from collections.abc import Iterable, Iterator, Mapping
from typing import Any, Final

import msgspec
import numpy as np

from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance,
    distance_to_segment,
    dot,
    edges,
    left,
    meet,
    middle_of,
    parallel,
    signed_area,
    simplify,
    sub,
    unit,
)
from balken.model.project import Project
from balken.model.walls import (
    LAYER_RANK,
    Wall,
    WallBuildUp,
    direction_of,
    layer_bands,
    reach,
    straightened,
)
from balken.recall import remembered, remembered_piece

FEW: Final = 40
"""Up to this many walls, each is simply held against each other."""
GROUP: Final = 16
"""So many walls are united at a time; a group in which no wall moved is remembered."""
CLOSED_SHARE: Final = 0.5
"""Walls whose bodies fill less than this share of their outline enclose something."""


class Body(msgspec.Struct, frozen=True, gc=False):
    """A wall in plan: its corners in the order start left, start right, end right, end left."""

    wall: str
    corners: tuple[Point, Point, Point, Point]
    ring: Ring
    """The outline, counter-clockwise."""

    @property
    def centre(self) -> tuple[Point, Point]:
        """The centre line."""
        a, b, c, d = self.corners
        return (((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), ((c[0] + d[0]) / 2, (c[1] + d[1]) / 2))


Near = list[tuple[tuple[int, ...], tuple[int, ...]]]
"""For each line the numbers of the lines near its start, and of those near its end."""


@remembered
def bodies(walls: tuple[Wall, ...]) -> dict[str, Body]:
    """The bodies of straight walls that stand on one level, mitred at corners and cut back
    at tees.

    Args:
        walls: the walls.
    """
    if len(walls) <= FEW:
        return {wall.id: _body(wall, a, b) for wall, a, b in _neighbours(walls)}
    ends = tuple((w.start, w.end) for w in walls)
    return bodies_near(walls, neighbours(ends, max(w.thickness for w in walls) + TOUCH))


def bodies_near(walls: tuple[Wall, ...], near: Near) -> dict[str, Body]:
    """The same, where their neighbours are known; more than are near do no harm."""
    return {
        wall.id: _body(wall, tuple(walls[k] for k in a), tuple(walls[k] for k in b))
        for wall, (a, b) in zip(walls, near)
    }


@remembered_piece
def _body(wall: Wall, near_start: tuple[Wall, ...], near_end: tuple[Wall, ...]) -> Body:
    direction = direction_of(wall)
    start = _end_corners(wall, wall.start, direction, near_start)
    end = _end_corners(wall, wall.end, (-direction[0], -direction[1]), near_end)
    # Seen from the far end, left and right change places.
    corners = (start[0], start[1], end[0], end[1])
    return Body(wall.id, corners, corners if signed_area(corners) > 0 else corners[::-1])


def _neighbours(walls: tuple[Wall, ...]) -> list[tuple[Wall, tuple[Wall, ...], tuple[Wall, ...]]]:
    """Each wall with the walls near its start and its end, in their own order."""
    if len(walls) <= FEW:
        return [(wall, walls, walls) for wall in walls]
    near = neighbours(
        tuple((w.start, w.end) for w in walls), max(w.thickness for w in walls) + TOUCH
    )
    return [
        (wall, tuple(walls[k] for k in a), tuple(walls[k] for k in b))
        for wall, (a, b) in zip(walls, near)
    ]


@remembered
def neighbours(lines: tuple[tuple[Point, Point], ...], far: float) -> Near:
    """For each line the numbers of the lines near its start and near its end, in order."""
    from shapely import STRtree, linestrings, points

    n = len(lines)
    ends = np.array(lines, dtype=float)
    tree = STRtree(linestrings(ends))
    near: list[list[int]] = [[] for _ in range(2 * n)]
    places = points(np.concatenate([ends[:, 0], ends[:, 1]]))
    for end, other in zip(*tree.query(places, predicate="dwithin", distance=far).tolist()):
        near[end].append(other)
    return [(tuple(sorted(near[i])), tuple(sorted(near[n + i]))) for i in range(n)]


def _sides(wall: Wall, away: Point) -> tuple[float, float]:
    """The reach left and right of a wall seen along ``away``, which may run against its
    direction."""
    far, near = reach(wall)
    return (far, near) if dot(sub(wall.end, wall.start), away) > 0 else (-near, -far)


def _end_corners(
    wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]
) -> tuple[Point, Point]:
    """The left and right corner at one end of a wall, looking along ``away`` from that
    end."""
    normal = left(away)
    reach_left, reach_right = _sides(wall, away)
    lines = (add(end, normal, reach_left), add(end, normal, reach_right))
    corner = corner_partner(wall, end, away, walls)
    if corner is not None:
        other, other_end, other_away = corner
        other_left, other_right = _sides(other, other_away)
        turned = left(other_away)
        # Seen from the joint, my left face meets the other's right face.
        hit_left = meet(lines[0], away, add(other_end, turned, other_right), other_away)
        hit_right = meet(lines[1], away, add(other_end, turned, other_left), other_away)
        if hit_left and hit_right:
            return hit_left, hit_right
    tee = tee_partner(wall, end, away, walls)
    if tee is not None:
        direction = direction_of(tee)
        normal_tee = left(direction)
        # Stop at the face that looks towards the rest of this wall.
        faces = reach(tee)
        face = faces[0] if dot(normal_tee, away) > 0 else faces[1]
        through = add(tee.start, normal_tee, face)
        hits = [meet(line, away, through, direction) for line in lines]
        if hits[0] and hits[1]:
            return hits[0], hits[1]
    return lines


def _near(a: Wall, b: Wall) -> float:
    return max(a.thickness, b.thickness) + TOUCH


def corner_partner(
    wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]
) -> tuple[Wall, Point, Point] | None:
    """The wall whose own end meets an end of this one at a corner, that end, and the way from it into
    the other wall; None where none does."""
    best: tuple[float, Wall, Point, Point] | None = None
    for other in walls:
        if other.id == wall.id:
            continue
        direction = direction_of(other)
        if parallel(direction, away):
            continue
        for other_end, other_away in (
            (other.start, direction),
            (other.end, (-direction[0], -direction[1])),
        ):
            gap = distance(end, other_end)
            if gap <= _near(wall, other) and (best is None or gap < best[0]):
                best = (gap, other, other_end, other_away)
    return best[1:] if best else None


def tee_partner(wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]) -> Wall | None:
    """The wall at whose side an end of this one stops; None where it stops at none."""
    for other in walls:
        if other.id == wall.id or parallel(direction_of(other), away):
            continue
        if distance_to_segment(end, other.start, other.end) <= _near(wall, other):
            return other
    return None


@remembered
def storey_outline(walls: tuple[Wall, ...]) -> Ring | None:
    """The outline round the outer faces of walls on one level; None where they enclose
    nothing.

    Of several separate outlines the largest counts.
    """
    if not walls:
        return None
    from shapely import Polygon, buffer

    # Corners that miss each other by a hair still close: grow and shrink by a hair, with square
    # corners.
    rings = [body.ring for body in bodies(walls).values()]
    grown = _grown_union(tuple(rings))
    joined = buffer(grown, -TOUCH, join_style="mitre")
    parts = [g for g in getattr(joined, "geoms", [joined]) if not g.is_empty]
    if not parts:
        return None
    best = max(parts, key=lambda g: Polygon(g.exterior).area)
    whole = Polygon(best.exterior).area
    if best.area > (1 - (1 - CLOSED_SHARE) * 0.2) * whole:
        return None
    ring = tuple((round(x, 6), round(y, 6)) for x, y in best.exterior.coords[:-1])
    return simplify(ring)


@remembered_piece
def _grown_union(rings: tuple[Ring, ...]) -> Any:
    """Bodies as one, each grown by a hair so that corners that just miss each other close:
    half with half, so that halves in which no wall moved are remembered."""
    from shapely import buffer, polygons, union, union_all

    if len(rings) <= GROUP:
        return union_all(buffer(polygons(np.array(rings)), TOUCH, join_style="mitre"))
    middle = len(rings) // 2
    return union(*(_grown_union(half) for half in (rings[:middle], rings[middle:])))


@remembered
def outer_sides(walls: tuple[Wall, ...], outline: Ring | None) -> dict[str, int]:
    """For walls with a face on the outline, the side that face is on: 1 left of the wall's line, -1
    right."""
    if outline is None or not walls:
        return {}
    sides = edges(outline)
    starts, ends = np.array([a for a, _ in sides]), np.array([b for _, b in sides])
    low, high = np.minimum(starts, ends) - 3 * TOUCH, np.maximum(starts, ends) + 3 * TOUCH
    faces = [face for wall in walls for face in _middles_of_faces(wall)]
    places = np.array([p for _, _, p in faces])[:, None]
    near = np.argwhere(np.all((low <= places) & (places <= high), axis=2))
    found: dict[str, int] = {}
    for k, i in near.tolist():
        wall, sign, place = faces[k]
        if wall.id not in found and _on_edge(place, direction_of(wall), *sides[i]):
            found[wall.id] = sign
    return {w.id: found[w.id] for w in walls if w.id in found}


def _middles_of_faces(wall: Wall) -> Iterator[tuple[Wall, int, Point]]:
    """The middle of a wall's left face and of its right one, with the sign of each."""
    normal, middle = left(direction_of(wall)), middle_of(wall.start, wall.end)
    for sign, face in zip((1, -1), reach(wall)):
        yield wall, sign, add(middle, normal, face)


def _on_edge(point: Point, direction: Point, a: Point, b: Point) -> bool:
    return distance_to_segment(point, a, b) < 3 * TOUCH and parallel(unit(sub(b, a)), direction)


def storey_walls(project: Project, base: str) -> tuple[Wall, ...]:
    """The walls that stand on a level, curved ones as the straight pieces they are built
    of."""
    return straightened(tuple(w for w in project.walls if w.base == base))


def layer_rings(
    walls: tuple[Wall, ...], build_ups: Mapping[str, WallBuildUp]
) -> dict[str, list[tuple[str, Ring]]]:
    """Return, for each wall with a build-up, the role and plan outline of each of its layers.

    At corners layers of the same kind mitre; at a tee each layer of the wall that ends there runs
    on through the other wall's layers of lower rank and stops at the first that is at least its
    equal.
    """
    if not any(w.build_up in build_ups for w in walls):
        return {}
    shapes = bodies(walls)
    found: dict[str, list[tuple[str, Ring]]] = {}
    for wall, near_start, near_end in _neighbours(walls):
        build_up = build_ups.get(wall.build_up)
        if build_up is None:
            continue
        direction = direction_of(wall)
        away = (-direction[0], -direction[1])
        tees = [
            None if corner_partner(wall, p, way, near) else tee_partner(wall, p, way, near)
            for p, way, near in ((wall.start, direction, near_start), (wall.end, away, near_end))
        ]
        far, close = reach(wall)
        corners = shapes[wall.id].corners
        rings: list[tuple[str, Ring]] = []
        for layer, outer, inner in layer_bands(wall, build_up):
            ends = []
            for lateral in (outer, inner):
                share = (far - lateral) / (far - close)
                ends.append(
                    (
                        _between(corners[0], corners[1], share),
                        _between(corners[3], corners[2], share),
                    )
                )
            (a, d), (b, c) = ends
            a, b = _run_on(a, b, direction, tees[0], build_ups, LAYER_RANK[layer.role])
            d, c = _run_on(d, c, away, tees[1], build_ups, LAYER_RANK[layer.role])
            rings.append((layer.role, (a, b, c, d)))
        found[wall.id] = rings
    return found


def _between(a: Point, b: Point, share: float) -> Point:
    return (a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share)


def _run_on(
    a: Point,
    b: Point,
    away: Point,
    tee: Wall | None,
    build_ups: Mapping[str, WallBuildUp],
    rank: int,
) -> tuple[Point, Point]:
    """Let both ends of a layer run on into the wall it meets, as far as layers of lower rank
    reach."""
    build_up = build_ups.get(tee.build_up) if tee else None
    if tee is None or build_up is None:
        return a, b
    bands = layer_bands(tee, build_up)
    direction = direction_of(tee)
    facing = dot(left(direction), away) > 0  # the layer comes from the left of the other wall
    ordered = sorted(bands, key=lambda x: (x[1] + x[2]) / 2, reverse=facing)
    stop = next((x for x in ordered if LAYER_RANK[x[0].role] >= rank), ordered[-1])
    face = max(stop[1], stop[2]) if facing else min(stop[1], stop[2])
    through = add(tee.start, left(direction), face)
    hits = [meet(p, away, through, direction) for p in (a, b)]
    return (hits[0] or a, hits[1] or b)


def lie_of(project: Project, walls: Iterable[Wall]) -> float:
    """How a building lies, radians between -45° and 45°: its first grid, else its longest
    wall."""
    turns = [math.radians(g.angle) for g in project.grids]
    straight = [w for w in walls if not w.bulge]
    if not turns and straight:
        longest = max(straight, key=lambda w: (round(distance(w.start, w.end)), w.id))
        way = direction_of(longest)
        turns = [math.atan2(way[1], way[0])]
    turn = turns[0] if turns else 0.0
    return (turn + math.pi / 4) % (math.pi / 2) - math.pi / 4
