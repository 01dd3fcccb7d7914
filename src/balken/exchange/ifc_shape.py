"""Shapes of an IFC file without a geometry kernel: what walls, openings and axes are drawn with.

Read here: extruded profiles (rectangle, closed polylines), clippings by half spaces and solids (evaluated with
manifold3d), mapped items, faceted bodies, straight axes. Everything else raises :class:`ShapeError` with its reason.
Coordinates come out in mm in the building's own frame.
"""

import math
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import Point

Matrix = NDArray[np.float64]
FARTHEST: Final = 1e9
"""Coordinates beyond 1000 km are damage, mm."""
DEEPEST: Final = 40
SOLIDS: Final = ("SweptSolid", "Clipping", "CSG", "Brep", "Tessellation", "SolidModel", "MappedRepresentation")
HALF: Final = 1e7
"""How far a half space is built out, mm."""


class ShapeError(ValueError):
    """A shape that cannot be read; the text says why."""


def placement(item: Any, scale: float) -> Matrix:
    """Return the placement of a product in the building's frame, mm, nested and rotated ones multiplied out."""
    from ifcopenshell.util.placement import get_local_placement

    if item is None:
        return np.eye(4)
    _check_chain(item)
    matrix = np.array(get_local_placement(item), dtype=float)
    matrix[:3, 3] *= scale
    return _checked(matrix)


def _check_chain(item: Any) -> None:
    seen: set[int] = set()
    while item is not None and item.is_a("IfcLocalPlacement"):
        if item.id() in seen or len(seen) > 200:
            raise ShapeError("its placement goes round in a circle")
        seen.add(item.id())
        item = item.PlacementRelTo


def _checked(values: Matrix) -> Matrix:
    if not np.all(np.isfinite(values)) or np.abs(values).max(initial=0.0) > FARTHEST:
        raise ShapeError("it has coordinates beyond 1000 km")
    return values


def _axis3(item: Any, scale: float) -> Matrix:
    from ifcopenshell.util.placement import get_axis2placement

    if item is None:
        return np.eye(4)
    matrix = np.array(get_axis2placement(item), dtype=float)
    matrix[:3, 3] *= scale
    return _checked(matrix)


def representation(product: Any, identifier: str) -> Any | None:
    """Return a product's representation by its identifier (``Body``, ``Axis``), or None.

    Some writers leave the identifier out; then the kind of the representation tells a body.
    """
    shape = product.Representation
    items = list(shape.Representations) if shape else []
    for item in items:
        if item.RepresentationIdentifier == identifier:
            return item
    if identifier == "Body":
        return next((i for i in items if not i.RepresentationIdentifier and i.RepresentationType in SOLIDS), None)
    return None


def straight_line(product: Any, scale: float) -> tuple[Point, Point] | None:
    """Return the ends of a product's straight axis in the building's plan, or None where it has no axis.

    Raises:
        ShapeError: the axis is curved or bent.
    """
    axis = representation(product, "Axis")
    if axis is None or not axis.Items:
        return None
    matrix = placement(product.ObjectPlacement, scale)
    items = list(axis.Items)
    item = items[0]
    if item.is_a("IfcMappedItem"):
        matrix = matrix @ _mapped(item, scale)
        item = item.MappingSource.MappedRepresentation.Items[0]
    points = curve_points(item, scale)
    world = [matrix @ np.array([x, y, 0.0, 1.0]) for x, y in points]
    return straight_ends([(float(p[0]), float(p[1])) for p in world])


def straight_ends(points: list[Point]) -> tuple[Point, Point]:
    """Return the first and last of points that lie on one line.

    Raises:
        ShapeError: they do not.
    """
    start, end = points[0], points[-1]
    length = math.dist(start, end)
    if length < 1.0:
        raise ShapeError("its axis has no length")
    for p in points[1:-1]:
        off = abs((end[0] - start[0]) * (p[1] - start[1]) - (end[1] - start[1]) * (p[0] - start[0])) / length
        if off > 1.0:
            raise ShapeError("its axis is bent or curved; only straight ones are read")
    return start, end


def curve_points(curve: Any, scale: float) -> list[Point]:
    """Return the points of a curve made of straight pieces, mm.

    Raises:
        ShapeError: a piece is curved.
    """
    if curve.is_a("IfcPolyline"):
        return [_point(p.Coordinates, scale) for p in curve.Points]
    if curve.is_a("IfcIndexedPolyCurve"):
        points = [_point(c, scale) for c in curve.Points.CoordList]
        if not curve.Segments:
            return points
        found: list[Point] = []
        for segment in curve.Segments:
            if segment.is_a("IfcArcIndex"):
                raise ShapeError("it is curved; only straight ones are read")
            found += [points[i - 1] for i in segment.wrappedValue]
        return _without_repeats(found)
    if curve.is_a("IfcCompositeCurve"):
        found = []
        for part in curve.Segments:
            points = curve_points(part.ParentCurve, scale)
            found += points if part.SameSense else points[::-1]
        return _without_repeats(found)
    if curve.is_a("IfcTrimmedCurve"):
        return _trimmed(curve, scale)
    if curve.is_a("IfcLine"):
        raise ShapeError("its line has no ends")
    raise ShapeError(f"it is drawn with {curve.is_a()}, which is curved or not known here; only straight ones are read")


def arc_of_curve(curve: Any, scale: float) -> tuple[Point, float, float, float] | None:
    """Return centre, radius, first and last angle (degrees, the last above the first) of an arc or circle; None for others.

    Raises:
        ShapeError: it is an arc that cannot be read.
    """
    if curve.is_a("IfcCircle"):
        centre, turn = _circle(curve, scale)
        return centre, float(curve.Radius) * scale, turn, turn + 360.0
    if curve.is_a("IfcTrimmedCurve") and curve.BasisCurve.is_a("IfcCircle"):
        return _trimmed_circle(curve, scale)
    if curve.is_a("IfcCompositeCurve") and len(curve.Segments) == 1:
        return arc_of_curve(curve.Segments[0].ParentCurve, scale)
    if curve.is_a("IfcIndexedPolyCurve") and curve.Segments and len(curve.Segments) == 1:
        segment = curve.Segments[0]
        if segment.is_a("IfcArcIndex"):
            points = [_point(curve.Points.CoordList[i - 1], scale) for i in segment.wrappedValue]
            return arc_through(points[0], points[1], points[2])
    return None


def _circle(curve: Any, scale: float) -> tuple[Point, float]:
    position = curve.Position
    centre = _point(position.Location.Coordinates, scale)
    way = position.RefDirection.DirectionRatios if getattr(position, "RefDirection", None) else (1.0, 0.0)
    return centre, math.degrees(math.atan2(float(way[1]), float(way[0])))


def _trimmed_circle(curve: Any, scale: float) -> tuple[Point, float, float, float]:
    centre, turn = _circle(curve.BasisCurve, scale)
    radius = float(curve.BasisCurve.Radius) * scale
    ends = []
    for trim in (curve.Trim1, curve.Trim2):
        points = [t for t in trim if t.is_a("IfcCartesianPoint")]
        values = [t for t in trim if not t.is_a("IfcCartesianPoint")]
        if points and (curve.MasterRepresentation != "PARAMETER" or not values):
            x, y = _point(points[0].Coordinates, scale)
            ends.append(math.degrees(math.atan2(y - centre[1], x - centre[0])))
        else:
            ends.append(turn + _angle_value(float(values[0].wrappedValue)))
    a, b = ends if curve.SenseAgreement else ends[::-1]
    return centre, radius, a, a + ((b - a) % 360.0 or 360.0)


def _angle_value(value: float) -> float:
    """Return a trim's parameter in degrees. Files give radians or degrees as their unit says; more than a whole turn of
    radians can only be degrees."""
    return math.degrees(value) if abs(value) <= 2 * math.pi + 1e-6 else value


def arc_through(a: Point, b: Point, c: Point) -> tuple[Point, float, float, float]:
    """Return the arc from ``a`` through ``b`` to ``c``, turning left.

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
    left = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) > 0
    if not left:
        first, last = last, first
    return (x, y), math.hypot(a[0] - x, a[1] - y), first, first + ((last - first) % 360.0 or 360.0)


def _without_repeats(points: list[Point]) -> list[Point]:
    found: list[Point] = []
    for p in points:
        if not found or math.dist(found[-1], p) > 1e-3:
            found.append(p)
    return found


def _point(coordinates: Any, scale: float) -> Point:
    x, y = float(coordinates[0]) * scale, float(coordinates[1]) * scale
    if not (math.isfinite(x) and math.isfinite(y)) or max(abs(x), abs(y)) > FARTHEST:
        raise ShapeError("it has coordinates beyond 1000 km")
    return x, y


def _trimmed(curve: Any, scale: float) -> list[Point]:
    basis = curve.BasisCurve
    if not basis.is_a("IfcLine"):
        raise ShapeError("it is curved; only straight ones are read")
    origin = _point(basis.Pnt.Coordinates, scale)
    way = basis.Dir.Orientation.DirectionRatios
    size = math.hypot(way[0], way[1])
    magnitude = basis.Dir.Magnitude * scale
    ends: list[Point] = []
    for trim in (curve.Trim1, curve.Trim2):
        points = [t for t in trim if t.is_a("IfcCartesianPoint")]
        values = [t for t in trim if not t.is_a("IfcCartesianPoint")]
        if points and (curve.MasterRepresentation != "PARAMETER" or not values):
            ends.append(_point(points[0].Coordinates, scale))
        else:
            t = float(values[0].wrappedValue) * magnitude
            ends.append((origin[0] + t * way[0] / size, origin[1] + t * way[1] / size))
    return ends if curve.SenseAgreement else ends[::-1]


def _mapped(item: Any, scale: float) -> Matrix:
    from ifcopenshell.util.placement import get_mappeditem_transformation

    matrix = np.array(get_mappeditem_transformation(item), dtype=float)
    matrix[:3, 3] *= scale
    return _checked(matrix)


class Body:
    """A body in the building's frame: ``plain`` points before any clipping, and the solid that is left after it."""

    def __init__(self, plain: Matrix, solid: Any) -> None:
        self.plain = plain
        self.solid = solid

    @property
    def points(self) -> Matrix:
        """Corner points of what is left, (n, 3) mm."""
        if self.solid is None:
            return self.plain
        mesh = self.solid.to_mesh64() if hasattr(self.solid, "to_mesh64") else self.solid.to_mesh()
        return np.asarray(mesh.vert_properties)[:, :3].astype(float)


def body_of(product: Any, scale: float) -> Body | None:
    """Return a product's body in the building's frame, or None where it has none.

    Raises:
        ShapeError: it is drawn with something that is not read here.
    """
    shape = representation(product, "Body")
    if shape is None or not shape.Items:
        return None
    matrix = placement(product.ObjectPlacement, scale)
    return _joined([_item(item, scale, matrix, 0) for item in shape.Items])


def _joined(bodies: list[Body]) -> Body:
    plain = np.concatenate([b.plain for b in bodies])
    solids = [b.solid for b in bodies if b.solid is not None]
    if len(solids) < len(bodies) or not solids:
        return Body(plain, None)
    total = solids[0]
    for other in solids[1:]:
        total = total + other
    return Body(plain, total)


def _item(item: Any, scale: float, matrix: Matrix, depth: int) -> Body:
    if depth > DEEPEST:
        raise ShapeError("its body is nested too deep")
    if item.is_a("IfcMappedItem"):
        inner = matrix @ _mapped(item, scale)
        parts = item.MappingSource.MappedRepresentation.Items
        return _joined([_item(part, scale, inner, depth + 1) for part in parts])
    if item.is_a("IfcExtrudedAreaSolid"):
        return _extruded(item, scale, matrix)
    if item.is_a("IfcBooleanResult"):  # clipping results among them
        first = _item(item.FirstOperand, scale, matrix, depth + 1)
        if item.Operator != "DIFFERENCE":
            raise ShapeError(f"its body is a boolean {item.Operator.lower()}, which is not read")
        if first.solid is None:
            raise ShapeError("its body is clipped from a shape that is not extruded")
        return Body(first.plain, first.solid - _tool(item.SecondOperand, scale, matrix, depth + 1))
    if item.is_a("IfcFacetedBrep") or item.is_a("IfcTessellatedFaceSet"):
        return Body(_facets(item, scale, matrix), None)
    raise ShapeError(f"its body is a {item.is_a()}, which is not read")


def _extruded(item: Any, scale: float, matrix: Matrix) -> Body:
    import manifold3d

    frame = matrix @ _axis3(item.Position, scale)
    ring = _profile(item.SweptArea, scale)
    way = np.array(item.ExtrudedDirection.DirectionRatios, dtype=float)
    size = float(np.linalg.norm(way))
    if size == 0 or len(ring) < 3:
        raise ShapeError("its profile or extrusion is empty")
    push = way / size * float(item.Depth) * scale
    low = np.array([[x, y, 0.0] for x, y in ring])
    local = np.concatenate([low, low + push])
    plain = _checked(local @ frame[:3, :3].T + frame[:3, 3])
    solid = None
    if abs(push[2]) > 1e-9 and float(item.Depth) > 0:
        shear = np.eye(4)[:3]
        shear[0, 2], shear[1, 2] = push[0] / push[2], push[1] / push[2]
        section = manifold3d.CrossSection([np.array(ring)], manifold3d.FillRule.NonZero)
        solid = manifold3d.Manifold.extrude(section, abs(float(push[2])))
        if push[2] < 0:
            solid = solid.translate([0.0, 0.0, float(push[2])])
        solid = solid.transform(shear).transform(frame[:3])
    return Body(plain, solid)


def _profile(profile: Any, scale: float) -> list[Point]:
    if profile.is_a("IfcRectangleProfileDef"):
        x, y = float(profile.XDim) * scale / 2, float(profile.YDim) * scale / 2
        ring = [(-x, -y), (x, -y), (x, y), (-x, y)]
        if profile.Position is None:
            return ring
        matrix = _axis2(profile.Position, scale)
        return [(float(p[0]), float(p[1])) for p in (matrix @ np.array([x, y, 1.0]) for x, y in ring)]
    if profile.is_a("IfcArbitraryClosedProfileDef"):
        points = curve_points(profile.OuterCurve, scale)
        return points[:-1] if math.dist(points[0], points[-1]) < 1e-3 else points
    raise ShapeError(f"its profile is a {profile.is_a()}, which is not read")


def _axis2(item: Any, scale: float) -> Matrix:
    x, y = _point(item.Location.Coordinates, scale)
    way = item.RefDirection.DirectionRatios if item.RefDirection else (1.0, 0.0)
    size = math.hypot(way[0], way[1]) or 1.0
    c, s = way[0] / size, way[1] / size
    return np.array([[c, -s, x], [s, c, y], [0.0, 0.0, 1.0]])


def _tool(item: Any, scale: float, matrix: Matrix, depth: int) -> Any:
    """Return the solid that is taken away: a half space on its material side, or a body."""
    import manifold3d

    if not item.is_a("IfcHalfSpaceSolid"):
        body = _item(item, scale, matrix, depth)
        if body.solid is None:
            raise ShapeError("its body is clipped by a shape that is not extruded")
        return body.solid
    surface = item.BaseSurface
    if not surface.is_a("IfcPlane"):
        raise ShapeError("its body is clipped by a curved surface")
    frame = matrix @ _axis3(surface.Position, scale)
    # AgreementFlag true: the material lies on the side the plane's normal points away from.
    sign = -1.0 if item.AgreementFlag else 1.0
    normal = sign * frame[:3, 2]
    offset = float(normal @ frame[:3, 3])
    if item.is_a("IfcPolygonalBoundedHalfSpace"):
        bounds = matrix @ _axis3(item.Position, scale)
        ring = np.array(curve_points(item.PolygonalBoundary, scale))
        section = manifold3d.CrossSection([ring], manifold3d.FillRule.NonZero)
        tall = manifold3d.Manifold.extrude(section, 2 * HALF).translate([0.0, 0.0, -HALF])
        whole = tall.transform(bounds[:3])
    else:
        whole = manifold3d.Manifold.cube([2 * HALF] * 3, True).translate([float(v) for v in frame[:3, 3]])
    return whole.trim_by_plane([float(v) for v in normal], offset)


def _facets(item: Any, scale: float, matrix: Matrix) -> Matrix:
    if item.is_a("IfcTessellatedFaceSet"):
        raw = [tuple(p) for p in item.Coordinates.CoordList]
    else:
        raw = [tuple(p.Coordinates) for f in item.Outer.CfsFaces for b in f.Bounds for p in b.Bound.Polygon]
    points = np.array(raw, dtype=float) * scale
    if points.ndim != 2 or points.shape[1] != 3:
        raise ShapeError("its body has no points")
    return _checked(points @ matrix[:3, :3].T + matrix[:3, 3])
