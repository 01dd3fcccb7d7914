"""The bodies of walls in plan: how they meet at corners and tees, the outline of a storey, which faces are outside."""

from typing import Final

import msgspec

from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    distance_to_segment,
    dot,
    edges,
    left,
    meet,
    parallel,
    signed_area,
    simplify,
    sub,
    unit,
)
from balken.model.project import Project, Wall

CLOSED_SHARE: Final = 0.5
"""Walls whose bodies fill less than this share of their outline enclose something."""


class Body(msgspec.Struct, frozen=True):
    """A wall in plan: its corners in the order start left, start right, end right, end left."""

    wall: str
    corners: tuple[Point, Point, Point, Point]

    @property
    def ring(self) -> Ring:
        """The outline, counter-clockwise."""
        ring = self.corners
        return ring if signed_area(ring) > 0 else ring[::-1]

    @property
    def centre(self) -> tuple[Point, Point]:
        """The centre line."""
        a, b, c, d = self.corners
        return (((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), ((c[0] + d[0]) / 2, (c[1] + d[1]) / 2))


def reach(wall: Wall) -> tuple[float, float]:
    """Return how far a wall's body reaches to the left and to the right of its line, mm (right is negative)."""
    t, s = wall.thickness, wall.shift
    if wall.side == "left":
        return t + s, s
    if wall.side == "right":
        return s, s - t
    return t / 2 + s, s - t / 2


def bodies(walls: tuple[Wall, ...]) -> dict[str, Body]:
    """Return the bodies of walls that stand on one level, mitred at corners and cut back at tees."""
    found = {}
    for wall in walls:
        direction = unit(sub(wall.end, wall.start))
        start = _end_corners(wall, wall.start, direction, walls)
        end = _end_corners(wall, wall.end, (-direction[0], -direction[1]), walls)
        # Seen from the far end, left and right change places.
        found[wall.id] = Body(wall.id, (start[0], start[1], end[0], end[1]))
    return found


def _sides(wall: Wall, away: Point) -> tuple[float, float]:
    """Return the reach left and right of a wall seen along ``away``, which may run against its direction."""
    far, near = reach(wall)
    return (far, near) if dot(sub(wall.end, wall.start), away) > 0 else (-near, -far)


def _end_corners(wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]) -> tuple[Point, Point]:
    """Return the left and right corner at one end of a wall, looking along ``away`` from that end."""
    normal = left(away)
    reach_left, reach_right = _sides(wall, away)
    lines = (add(end, normal, reach_left), add(end, normal, reach_right))
    corner = _corner_partner(wall, end, away, walls)
    if corner is not None:
        other, other_end, other_away = corner
        other_left, other_right = _sides(other, other_away)
        turned = left(other_away)
        # Seen from the joint, my left face meets the other's right face.
        hit_left = meet(lines[0], away, add(other_end, turned, other_right), other_away)
        hit_right = meet(lines[1], away, add(other_end, turned, other_left), other_away)
        if hit_left and hit_right:
            return hit_left, hit_right
    tee = _tee_partner(wall, end, away, walls)
    if tee is not None:
        direction = unit(sub(tee.end, tee.start))
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


def _corner_partner(wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]) -> tuple[Wall, Point, Point] | None:
    best: tuple[float, Wall, Point, Point] | None = None
    for other in walls:
        if other.id == wall.id:
            continue
        direction = unit(sub(other.end, other.start))
        if parallel(direction, away):
            continue
        for other_end, other_away in ((other.start, direction), (other.end, (-direction[0], -direction[1]))):
            gap = distance(end, other_end)
            if gap <= _near(wall, other) and (best is None or gap < best[0]):
                best = (gap, other, other_end, other_away)
    return best[1:] if best else None


def _tee_partner(wall: Wall, end: Point, away: Point, walls: tuple[Wall, ...]) -> Wall | None:
    for other in walls:
        if other.id == wall.id or parallel(unit(sub(other.end, other.start)), away):
            continue
        if distance_to_segment(end, other.start, other.end) <= _near(wall, other):
            return other
    return None


def storey_outline(walls: tuple[Wall, ...]) -> Ring | None:
    """Return the outline round the outer faces of walls on one level; None where they enclose nothing.

    Of several separate outlines the largest counts.
    """
    if not walls:
        return None
    from shapely import Polygon, unary_union

    # Corners that miss each other by a hair still close: grow and shrink by a hair, with square corners.
    shapes = [Polygon(body.ring).buffer(TOUCH, join_style="mitre") for body in bodies(walls).values()]
    joined = unary_union(shapes).buffer(-TOUCH, join_style="mitre")
    parts = [g for g in getattr(joined, "geoms", [joined]) if not g.is_empty]
    if not parts:
        return None
    best = max(parts, key=lambda g: Polygon(g.exterior).area)
    whole = Polygon(best.exterior).area
    if best.area > (1 - (1 - CLOSED_SHARE) * 0.2) * whole:
        return None
    ring = tuple((round(x, 6), round(y, 6)) for x, y in best.exterior.coords[:-1])
    return simplify(ring)


def outer_sides(walls: tuple[Wall, ...], outline: Ring | None) -> dict[str, int]:
    """Return, for walls with a face on the outline, the side that face is on: 1 left of the wall's line, -1 right."""
    if outline is None:
        return {}
    found = {}
    for wall in walls:
        direction = unit(sub(wall.end, wall.start))
        middle = ((wall.start[0] + wall.end[0]) / 2, (wall.start[1] + wall.end[1]) / 2)
        for sign, face in zip((1, -1), reach(wall)):
            point = add(middle, left(direction), face)
            if any(_on_edge(point, direction, a, b) for a, b in edges(outline)):
                found[wall.id] = sign
                break
    return found


def _on_edge(point: Point, direction: Point, a: Point, b: Point) -> bool:
    return distance_to_segment(point, a, b) < 3 * TOUCH and parallel(unit(sub(b, a)), direction)


def storey_walls(project: Project, base: str) -> tuple[Wall, ...]:
    """Return the walls that stand on a level."""
    return tuple(w for w in project.walls if w.base == base)


def stacked(project: Project, wall: Wall) -> tuple[Wall, ...]:
    """Return the walls of other storeys whose line lies over or under this wall's, at least in part."""
    direction = unit(sub(wall.end, wall.start))
    found = []
    for other in project.walls:
        if other.base == wall.base or not parallel(unit(sub(other.end, other.start)), direction):
            continue
        if abs(cross(direction, sub(other.start, wall.start))) > max(wall.thickness, other.thickness) / 2:
            continue
        if overlap(wall.start, wall.end, other.start, other.end) > TOUCH:
            found.append(other)
    return tuple(found)


def overlap(a: Point, b: Point, c: Point, d: Point) -> float:
    """Return the length over which the piece of line c–d runs beside a–b, measured along a–b."""
    direction = unit(sub(b, a))
    length = distance(a, b)
    s, t = sorted((dot(sub(c, a), direction), dot(sub(d, a), direction)))
    return max(0.0, min(length, t) - max(0.0, s))
