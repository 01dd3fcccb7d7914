"""Walls over one another: those of other storeys on the same line."""

from balken.geometry.plane import (
    TOUCH,
    Point,
    cross,
    distance,
    dot,
    parallel,
    sub,
    unit,
)
from balken.model.project import Project
from balken.model.walls import (
    Wall,
    direction_of,
)


def stacked(project: Project, wall: Wall) -> tuple[Wall, ...]:
    """The walls of other storeys whose line lies over or under this wall's, at least in
    part."""
    direction = direction_of(wall)
    found = []
    for other in project.walls:
        if other.base == wall.base or not parallel(direction_of(other), direction):
            continue
        if (
            abs(cross(direction, sub(other.start, wall.start)))
            > max(wall.thickness, other.thickness) / 2
        ):
            continue
        if overlap(wall.start, wall.end, other.start, other.end) > TOUCH:
            found.append(other)
    return tuple(found)


def overlap(a: Point, b: Point, c: Point, d: Point) -> float:
    """The length over which the piece of line c–d runs beside a–b, measured along a–b."""
    direction = unit(sub(b, a))
    length = distance(a, b)
    s, t = sorted((dot(sub(c, a), direction), dot(sub(d, a), direction)))
    return max(0.0, min(length, t) - max(0.0, s))
