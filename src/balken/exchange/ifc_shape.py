"""Shapes of an IFC file without a geometry kernel: what walls, openings and axes are drawn with.

Read here: extruded profiles (rectangle, closed curves), clippings by half spaces and solids
(evaluated with manifold3d), mapped items, faceted bodies, axes straight or of one arc. Everything
else raises :class:`ShapeError` with its reason. Coordinates come out in mm in the building's own
frame.
"""

import math
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from balken.exchange.ifc_curve import (
    FARTHEST,
    ShapeError,
    arc_ends,
    curve_points,
    point_of,
    straight_ends,
)
from balken.geometry.plane import Point

Matrix = NDArray[np.float64]
DEEPEST: Final = 40
SOLIDS: Final = (
    "SweptSolid",
    "Clipping",
    "CSG",
    "Brep",
    "Tessellation",
    "SolidModel",
    "MappedRepresentation",
)
HALF: Final = 1e7
"""How far a half space is built out, mm."""


def placement(item: Any, scale: float) -> Matrix:
    """The placement of a product in the building's frame, mm, nested and rotated ones
    multiplied out."""
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
    """A product's representation by its identifier (``Body``, ``Axis``), or None.

    Some writers leave the identifier out; then the kind of the representation tells a body.
    """
    shape = product.Representation
    items = list(shape.Representations) if shape else []
    for item in items:
        if item.RepresentationIdentifier == identifier:
            return item
    if identifier == "Body":
        return next(
            (i for i in items if not i.RepresentationIdentifier and i.RepresentationType in SOLIDS),
            None,
        )
    return None


def axis_line(product: Any, scale: float) -> tuple[Point, Point, float] | None:
    """The ends of a product's axis in the building's plan and its bulge (``Wall.bulge``), or
    None without an axis.

    Raises:
        ShapeError: the axis is neither straight nor one arc.
    """
    axis = representation(product, "Axis")
    if axis is None or not axis.Items:
        return None
    matrix = placement(product.ObjectPlacement, scale)
    item = axis.Items[0]
    if item.is_a("IfcMappedItem"):
        matrix = matrix @ _mapped(item, scale)
        item = item.MappingSource.MappedRepresentation.Items[0]
    arc = arc_ends(item, scale)
    points = curve_points(item, scale) if arc is None else [arc[0], arc[1]]
    world = [matrix @ np.array([x, y, 0.0, 1.0]) for x, y in points]
    start, end = straight_ends([(float(p[0]), float(p[1])) for p in world])
    mirrored = float(np.linalg.det(matrix[:2, :2])) < 0
    return start, end, 0.0 if arc is None else -arc[2] if mirrored else arc[2]


def _mapped(item: Any, scale: float) -> Matrix:
    from ifcopenshell.util.placement import get_mappeditem_transformation

    matrix = np.array(get_mappeditem_transformation(item), dtype=float)
    matrix[:3, 3] *= scale
    return _checked(matrix)


class Body:
    """A body in the building's frame: ``plain`` points before any clipping, and the solid that is
    left after it."""

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
    """A product's body in the building's frame, or None where it has none.

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
        return [
            (float(p[0]), float(p[1])) for p in (matrix @ np.array([x, y, 1.0]) for x, y in ring)
        ]
    if profile.is_a("IfcIShapeProfileDef"):  # by the box round it
        x, y = float(profile.OverallWidth) * scale / 2, float(profile.OverallDepth) * scale / 2
        return [(-x, -y), (x, -y), (x, y), (-x, y)]
    if profile.is_a("IfcArbitraryClosedProfileDef"):
        points = curve_points(profile.OuterCurve, scale, arcs=True)
        return points[:-1] if math.dist(points[0], points[-1]) < 1e-3 else points
    raise ShapeError(f"its profile is a {profile.is_a()}, which is not read")


def _axis2(item: Any, scale: float) -> Matrix:
    x, y = point_of(item.Location.Coordinates, scale)
    way = item.RefDirection.DirectionRatios if item.RefDirection else (1.0, 0.0)
    size = math.hypot(way[0], way[1]) or 1.0
    c, s = way[0] / size, way[1] / size
    return np.array([[c, -s, x], [s, c, y], [0.0, 0.0, 1.0]])


def _tool(item: Any, scale: float, matrix: Matrix, depth: int) -> Any:
    """The solid that is taken away: a half space on its material side, or a body."""
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
        whole = manifold3d.Manifold.cube([2 * HALF] * 3, True).translate(
            [float(v) for v in frame[:3, 3]]
        )
    return whole.trim_by_plane([float(v) for v in normal], offset)


def _facets(item: Any, scale: float, matrix: Matrix) -> Matrix:
    if item.is_a("IfcTessellatedFaceSet"):
        raw = [tuple(p) for p in item.Coordinates.CoordList]
    else:
        raw = [
            tuple(p.Coordinates)
            for f in item.Outer.CfsFaces
            for b in f.Bounds
            for p in b.Bound.Polygon
        ]
    points = np.array(raw, dtype=float) * scale
    if points.ndim != 2 or points.shape[1] != 3:
        raise ShapeError("its body has no points")
    return _checked(points @ matrix[:3, :3].T + matrix[:3, 3])


def parts_of(product: Any) -> list[Any]:
    """The parts that a product is made of."""
    return [p for r in product.IsDecomposedBy or () for p in r.RelatedObjects]
