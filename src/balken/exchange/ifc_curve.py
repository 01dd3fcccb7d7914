"""Curves of an IFC file: polylines, lines, arcs and circles, as points of the plan, mm."""

import math
from collections.abc import Sequence
from typing import Any, Final

from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.walls import arc_points

FARTHEST: Final = 1e9
"""Coordinates beyond 1000 km are damage, mm."""
Arc = tuple[Point, float, float, float]
"""Centre, radius, first and last angle in degrees, turning left."""


class ShapeError(BalkenError):
    """A shape that cannot be read; the text says why."""


def straight_ends(points: list[Point]) -> tuple[Point, Point]:
    """The first and last of points that lie on one line.

    Raises:
        ShapeError: they do not.
    """
    start, end = points[0], points[-1]
    length = math.dist(start, end)
    if length < 1.0:
        raise ShapeError("its axis has no length")
    for p in points[1:-1]:
        off = (
            abs((end[0] - start[0]) * (p[1] - start[1]) - (end[1] - start[1]) * (p[0] - start[0]))
            / length
        )
        if off > 1.0:
            raise ShapeError("its axis is bent or curved; only straight ones are read")
    return start, end


def curve_points(curve: Any, scale: float, *, arcs: bool = False) -> list[Point]:
    """The points of a curve made of straight pieces, mm; with ``arcs``, points along arcs
    too.

    Raises:
        ShapeError: a piece is curved, or of a kind that is not known here.
    """
    if arcs and (whole := arc_of_curve(curve, scale)) is not None:
        return _along(whole, turns_left(curve, scale))
    if curve.is_a("IfcPolyline"):
        return [point_of(p.Coordinates, scale) for p in curve.Points]
    if curve.is_a("IfcIndexedPolyCurve"):
        return _indexed(curve, scale, arcs=arcs)
    if curve.is_a("IfcCompositeCurve"):
        found = []
        for part in curve.Segments:
            points = curve_points(part.ParentCurve, scale, arcs=arcs)
            found += points if part.SameSense else points[::-1]
        return _without_repeats(found)
    if curve.is_a("IfcTrimmedCurve"):
        return _trimmed(curve, scale)
    if curve.is_a("IfcLine"):
        raise ShapeError("its line has no ends")
    raise ShapeError(
        f"it is drawn with {curve.is_a()}, which is curved or not known here; only straight ones"
        " are read"
    )


def _indexed(curve: Any, scale: float, *, arcs: bool) -> list[Point]:
    """The points of an IfcIndexedPolyCurve."""
    points = [point_of(c, scale) for c in curve.Points.CoordList]
    if not curve.Segments:
        return points
    found: list[Point] = []
    for segment in curve.Segments:
        mine = [points[i - 1] for i in segment.wrappedValue]
        if not segment.is_a("IfcArcIndex"):
            found += mine
        elif arcs:
            a, b, c = mine
            found += _along(arc_through(a, b, c), _left_of(a, b, c))
        else:
            raise ShapeError("it is curved; only straight ones are read")
    return _without_repeats(found)


def _trim(curve: Any, trim: Any) -> tuple[Any | None, float]:
    """How one end of a curve is trimmed: at a point, or else at a parameter."""
    points = [t for t in trim if t.is_a("IfcCartesianPoint")]
    values = [t for t in trim if not t.is_a("IfcCartesianPoint")]
    if points and (curve.MasterRepresentation != "PARAMETER" or not values):
        return points[0], 0.0
    return None, float(values[0].wrappedValue)


def _trimmed(curve: Any, scale: float) -> list[Point]:
    basis = curve.BasisCurve
    if not basis.is_a("IfcLine"):
        raise ShapeError("it is curved; only straight ones are read")
    origin = point_of(basis.Pnt.Coordinates, scale)
    way = basis.Dir.Orientation.DirectionRatios
    size = math.hypot(way[0], way[1])
    ends: list[Point] = []
    for trim in (curve.Trim1, curve.Trim2):
        point, value = _trim(curve, trim)
        if point is not None:
            ends.append(point_of(point.Coordinates, scale))
        else:
            t = value * basis.Dir.Magnitude * scale
            ends.append((origin[0] + t * way[0] / size, origin[1] + t * way[1] / size))
    return ends if curve.SenseAgreement else ends[::-1]


def arc_of_curve(curve: Any, scale: float) -> Arc | None:
    """Centre, radius, first and last angle (degrees, the last above the first) of an arc or
    circle; None for others.

    Raises:
        ShapeError: it is an arc that cannot be read.
    """
    if curve.is_a("IfcCircle"):
        centre, turn = _circle(curve, scale)
        return centre, float(curve.Radius) * scale, turn, turn + 360.0
    if curve.is_a("IfcTrimmedCurve") and curve.BasisCurve.is_a("IfcCircle"):
        return _trimmed_circle(curve, scale)
    segments: Sequence[Any] = getattr(curve, "Segments", None) or ()
    if len(segments) != 1:
        return None
    if curve.is_a("IfcCompositeCurve"):
        return arc_of_curve(segments[0].ParentCurve, scale)
    if segments[0].is_a("IfcArcIndex"):
        a, b, c = (point_of(curve.Points.CoordList[i - 1], scale) for i in segments[0].wrappedValue)
        return arc_through(a, b, c)
    return None


def _circle(curve: Any, scale: float) -> tuple[Point, float]:
    position = curve.Position
    centre = point_of(position.Location.Coordinates, scale)
    way = (
        position.RefDirection.DirectionRatios
        if getattr(position, "RefDirection", None)
        else (1.0, 0.0)
    )
    return centre, math.degrees(math.atan2(float(way[1]), float(way[0])))


def _trimmed_circle(curve: Any, scale: float) -> Arc:
    centre, turn = _circle(curve.BasisCurve, scale)
    radius = float(curve.BasisCurve.Radius) * scale
    ends = []
    for trim in (curve.Trim1, curve.Trim2):
        point, value = _trim(curve, trim)
        if point is not None:
            x, y = point_of(point.Coordinates, scale)
            ends.append(math.degrees(math.atan2(y - centre[1], x - centre[0])))
        else:
            ends.append(turn + _angle_value(value))
    a, b = ends if curve.SenseAgreement else ends[::-1]
    return centre, radius, a, a + ((b - a) % 360.0 or 360.0)


def _angle_value(value: float) -> float:
    """A trim's parameter in degrees. Files give radians or degrees as their unit says; more
    than a whole turn of radians can only be degrees."""
    return math.degrees(value) if abs(value) <= 2 * math.pi + 1e-6 else value


def arc_through(a: Point, b: Point, c: Point) -> Arc:
    """The arc from ``a`` through ``b`` to ``c``, turning left.

    Raises:
        ShapeError: the three lie in a line.
    """
    d = 2 * (a[0] * (b[1] - c[1]) + b[0] * (c[1] - a[1]) + c[0] * (a[1] - b[1]))
    if abs(d) < 1e-6:
        raise ShapeError("its arc is straight")
    sa, sb, sc = (p[0] ** 2 + p[1] ** 2 for p in (a, b, c))
    x = (sa * (b[1] - c[1]) + sb * (c[1] - a[1]) + sc * (a[1] - b[1])) / d
    y = (sa * (c[0] - b[0]) + sb * (a[0] - c[0]) + sc * (b[0] - a[0])) / d
    first, last = (math.degrees(math.atan2(p[1] - y, p[0] - x)) for p in (a, c))
    if not _left_of(a, b, c):
        first, last = last, first
    return (x, y), math.hypot(a[0] - x, a[1] - y), first, first + ((last - first) % 360.0 or 360.0)


def _left_of(a: Point, b: Point, c: Point) -> bool:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) > 0


def turns_left(curve: Any, scale: float) -> bool:
    """Whether an arc, drawn from its start to its end, turns left."""
    if curve.is_a("IfcTrimmedCurve"):
        return bool(curve.SenseAgreement)
    if curve.is_a("IfcCompositeCurve"):
        return turns_left(curve.Segments[0].ParentCurve, scale) == bool(curve.Segments[0].SameSense)
    if curve.is_a("IfcIndexedPolyCurve"):
        return _left_of(
            *(
                point_of(curve.Points.CoordList[i - 1], scale)
                for i in curve.Segments[0].wrappedValue
            )
        )
    return True


def arc_ends(curve: Any, scale: float) -> tuple[Point, Point, float] | None:
    """Start, end and bulge (the tangent of a quarter of its angle, to the left positive) of
    an arc; None for others.

    Raises:
        ShapeError: it turns more than half round, which no wall here does.
    """
    arc = arc_of_curve(curve, scale)
    if arc is None:
        return None
    if arc[3] - arc[2] > 180.0 + 1e-6:
        raise ShapeError(
            "its axis is curved through more than half a circle; up to half a circle is read"
        )
    p, q, bulge = _chord(arc)
    return (p, q, bulge) if turns_left(curve, scale) else (q, p, -bulge)


def _chord(arc: Arc) -> tuple[Point, Point, float]:
    (x, y), radius, a, b = arc
    p, q = (
        (x + radius * math.cos(math.radians(t)), y + radius * math.sin(math.radians(t)))
        for t in (a, b)
    )
    return p, q, min(1.0, math.tan(math.radians(min(b - a, 180.0)) / 4))


def _along(arc: Arc, forwards: bool) -> list[Point]:
    """Points along an arc, in two halves: a whole circle has no chord."""
    centre, radius, a, b = arc
    points: list[Point] = []
    for lo, hi in ((a, (a + b) / 2), ((a + b) / 2, b)):
        points += arc_points(*_chord((centre, radius, lo, hi)))
    points = _without_repeats(points)
    return points if forwards else points[::-1]


def _without_repeats(points: list[Point]) -> list[Point]:
    found: list[Point] = []
    for p in points:
        if not found or math.dist(found[-1], p) > 1e-3:
            found.append(p)
    return found


def point_of(coordinates: Any, scale: float) -> Point:
    x, y = float(coordinates[0]) * scale, float(coordinates[1]) * scale
    if not (math.isfinite(x) and math.isfinite(y)) or max(abs(x), abs(y)) > FARTHEST:
        raise ShapeError("it has coordinates beyond 1000 km")
    return x, y
