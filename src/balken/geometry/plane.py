"""Points and lines in the plan, mm. Turning left (counter-clockwise) is positive; the left of a
line is positive."""

import math
from collections.abc import Sequence
from typing import Final

Point = tuple[float, float]
Ring = tuple[Point, ...]
"""A closed outline, first point not repeated, counter-clockwise unless said otherwise."""

TOUCH: Final = 1.0
"""Two places nearer than this are the same place on a building site, mm."""
EXACT: Final = 1e-6
"""Rounding of floating point, mm: for telling zero from not zero, never for fitting."""
ANGLE: Final = math.radians(0.5)
"""Directions nearer than this are parallel (or square), radians."""


def add(a: Point, b: Point, times: float = 1.0) -> Point:
    """Return ``a + times * b``."""
    return (a[0] + times * b[0], a[1] + times * b[1])


def sub(a: Point, b: Point) -> Point:
    """The vector from ``b`` to ``a``."""
    return (a[0] - b[0], a[1] - b[1])


def middle_of(a: Point, b: Point) -> Point:
    """The point halfway between two."""
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)


def dot(a: Point, b: Point) -> float:
    """The scalar product."""
    return a[0] * b[0] + a[1] * b[1]


def cross(a: Point, b: Point) -> float:
    """The z part of the vector product: positive where ``b`` turns left of ``a``."""
    return a[0] * b[1] - a[1] * b[0]


def distance(a: Point, b: Point) -> float:
    """The distance between two points."""
    return math.hypot(a[0] - b[0], a[1] - b[1])


def unit(vector: Point) -> Point:
    """The vector at length one.

    Raises:
        ValueError: the vector has no length, so it has no direction.
    """
    length = math.hypot(*vector)
    if length < EXACT:
        raise ValueError("a line with both ends at one point has no direction")
    return (vector[0] / length, vector[1] / length)


def direction_or(vector: Point, otherwise: Point) -> Point:
    """The vector at length one, or another direction where it has no length."""
    return unit(vector) if math.hypot(*vector) >= EXACT else otherwise


def left(direction: Point) -> Point:
    """The direction turned a quarter to the left."""
    return (-direction[1], direction[0])


def rotate(point: Point, angle: float) -> Point:
    """Turn a point about the origin by an angle in radians."""
    c, s = math.cos(angle), math.sin(angle)
    return (c * point[0] - s * point[1], s * point[0] + c * point[1])


def parallel(a: Point, b: Point) -> bool:
    """Whether two unit directions are parallel or opposite, within :data:`ANGLE`."""
    return abs(cross(a, b)) < math.sin(ANGLE)


def meet(p: Point, d: Point, q: Point, e: Point) -> Point | None:
    """Where the line through ``p`` along ``d`` meets the line through ``q`` along ``e``;
    None if parallel."""
    turn = cross(d, e)
    if abs(turn) < EXACT:
        return None
    return add(p, d, cross(sub(q, p), e) / turn)


def signed_area(ring: Sequence[Point]) -> float:
    """The area inside a ring, mm²: positive when it runs counter-clockwise."""
    return 0.5 * sum([a[0] * b[1] - a[1] * b[0] for a, b in zip(ring, [*ring[1:], ring[0]])])


def edges(ring: Sequence[Point]) -> list[tuple[Point, Point]]:
    """The sides of a ring in order."""
    return list(zip(ring, [*ring[1:], ring[0]]))


def simplify(ring: Sequence[Point], tolerance: float = TOUCH) -> Ring:
    """Drop points that lie on the line between their neighbours, and run counter-clockwise from the
    lowest left."""
    points = list(ring)
    changed = True
    while changed and len(points) > 3:
        changed = False
        for i, point in enumerate(points):
            before, after = points[i - 1], points[(i + 1) % len(points)]
            span = distance(before, after)
            if (
                span < EXACT
                or abs(cross(sub(after, before), sub(point, before))) / span < tolerance
            ):
                del points[i]
                changed = True
                break
    if signed_area(points) < 0:
        points.reverse()
    first = min(range(len(points)), key=lambda i: (round(points[i][1], 3), round(points[i][0], 3)))
    return tuple(points[first:] + points[:first])


def box(ring: Sequence[Point]) -> tuple[float, float, float, float]:
    """The least and greatest x and y: ``(x0, y0, x1, y1)``."""
    xs, ys = [p[0] for p in ring], [p[1] for p in ring]
    return min(xs), min(ys), max(xs), max(ys)


def crossings(ring: Sequence[Point], x: float) -> list[float]:
    """The sorted y at which the upright line at ``x`` enters and leaves a ring; pairs are
    the inside parts."""
    found = []
    for a, b in edges(ring):
        if (a[0] <= x) != (b[0] <= x):
            found.append(a[1] + (x - a[0]) / (b[0] - a[0]) * (b[1] - a[1]))
    return sorted(found)


def distance_to_segment(point: Point, a: Point, b: Point) -> float:
    """The distance of a point from the piece of line between ``a`` and ``b``."""
    along = sub(b, a)
    length2 = dot(along, along)
    if length2 < EXACT:
        return distance(point, a)
    t = min(1.0, max(0.0, dot(sub(point, a), along) / length2))
    return distance(point, add(a, along, t))


def holds(ring: Sequence[Point], p: Point) -> bool:
    """Whether a ring holds a place, by the crossings of a ray to the right."""
    odd = False
    x, y = p
    x0, y0 = ring[-1] if ring else (0.0, 0.0)
    for x1, y1 in ring:
        if (y0 > y) != (y1 > y) and x < x0 + (y - y0) / (y1 - y0) * (x1 - x0):
            odd = not odd
        x0, y0 = x1, y1
    return odd


def distance_to_ring(p: Point, ring: Sequence[Point]) -> float:
    """The distance of a point from what a ring encloses: zero inside."""
    return 0.0 if holds(ring, p) else min(distance_to_segment(p, a, b) for a, b in edges(ring))
