"""The structure as IFC4: storeys, members with true cuts as extruded bodies, material, profile and
quantities.

Identifiers come from the members' lasting names, so that two writings of one building can be
compared.
"""

import hashlib
import math
import uuid
from collections.abc import Callable
from typing import Any, Final

from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import signed_area
from balken.geometry.trim import Mesh
from balken.model.catalogue import sections_of
from balken.model.project import Level, Project, column
from balken.model.sections import Section
from balken.works.building import Checked

# role: entity, predefined type, object type where the predefined ones have no word for it, quantity
# set
_NAMESPACE: Final = uuid.UUID("6f1d7c1e-7a58-4c26-9d0b-2a9a31c0d5b4")


class _Writer:
    """Shared entities of one file: points, directions, units, materials, profiles, each written
    once."""

    def __init__(self, project: Project, when: str) -> None:
        import ifcopenshell

        self.project = project
        self.f = ifcopenshell.file(schema="IFC4")
        self.key = hashlib.sha256(f"{project.name}|{project.system}".encode()).hexdigest()
        self.points: dict[tuple[float, ...], Any] = {}
        self.ways: dict[tuple[float, ...], Any] = {}
        self.materials: dict[str, Any] = {}
        self.profiles: dict[tuple[str, str], Any] = {}
        self.uses: dict[tuple[str, str], list[Any]] = {}
        self.shapes: dict[tuple[Any, ...], Any] = {}
        """Alike bodies by what they are made of: one shape serves all."""
        self.sets: dict[tuple[Any, ...], tuple[str, list[Any]]] = {}
        """Alike sets of quantities and of properties: the first piece's name, and all that have them."""
        self.sections = sections_of(project.system, project.products)
        header = self.f.header
        header.file_name.name = "structure.ifc"
        if when:
            header.file_name.time_stamp = when
        header.file_name.author = ("",)
        header.file_name.organization = ("",)
        header.file_name.originating_system = "Balken"
        header.file_name.preprocessor_version = "IfcOpenShell"

    def guid(self, name: str) -> str:
        """An identifier that depends on the project and the name only."""
        import ifcopenshell.guid

        return str(ifcopenshell.guid.compress(uuid.uuid5(_NAMESPACE, f"{self.key}|{name}").hex))

    def point(self, *xyz: float) -> Any:
        rounded = tuple(round(float(v), 6) + 0.0 for v in xyz)
        if rounded not in self.points:
            self.points[rounded] = self.f.createIfcCartesianPoint(rounded)
        return self.points[rounded]

    def way(self, *xyz: float) -> Any:
        rounded = tuple(round(float(v), 12) + 0.0 for v in xyz)
        if rounded not in self.ways:
            self.ways[rounded] = self.f.createIfcDirection(rounded)
        return self.ways[rounded]

    def frame(
        self, origin: tuple[float, ...] = (0.0, 0.0, 0.0), z: Any = None, x: Any = None
    ) -> Any:
        return self.f.createIfcAxis2Placement3D(self.point(*origin), z, x)

    def units(self) -> Any:
        f = self.f
        return f.createIfcUnitAssignment(
            [
                f.createIfcSIUnit(None, "LENGTHUNIT", "MILLI", "METRE"),
                f.createIfcSIUnit(None, "AREAUNIT", None, "SQUARE_METRE"),
                f.createIfcSIUnit(None, "VOLUMEUNIT", None, "CUBIC_METRE"),
                f.createIfcSIUnit(None, "PLANEANGLEUNIT", None, "RADIAN"),
            ]
        )

    def material(self, name: str) -> Any:
        if name not in self.materials:
            category = "concrete" if name == "concrete" else "wood"
            self.materials[name] = self.f.createIfcMaterial(name, None, category)
        return self.materials[name]

    def profile_set(self, section: Section, material: str) -> Any:
        key = (section.name, material)
        if key not in self.profiles:
            at = self.f.createIfcAxis2Placement2D(self.point(0, 0), None)
            shape = self.f.createIfcRectangleProfileDef(
                "AREA", section.name, at, section.breadth, section.depth
            )
            entry = self.f.createIfcMaterialProfile(
                section.name, None, self.material(material), shape, None, None
            )
            whole = self.f.createIfcMaterialProfileSet(
                f"{section.name} {material}", None, [entry], None
            )
            self.profiles[key] = self.f.createIfcMaterialProfileSetUsage(whole, 5, None)
        return self.profiles[key]


def structure_ifc(checked: Checked, when: str = "") -> str:
    """The structure as the text of an IFC4 file.

    Args:
        checked: the building.
        when: time stamp for the header (ISO 8601); the library's own clock where empty.
    """
    project = checked.project
    w = _Writer(project, when)
    f = w.f
    context = f.createIfcGeometricRepresentationContext(None, "Model", 3, 1e-5, w.frame(), None)
    body = f.createIfcGeometricRepresentationSubContext(
        "Body", "Model", None, None, None, None, context, None, "MODEL_VIEW", None
    )
    top = f.createIfcProject(
        w.guid("project"),
        None,
        project.name or "Structure",
        None,
        None,
        None,
        None,
        [context],
        w.units(),
    )
    site_place = f.createIfcLocalPlacement(None, w.frame())
    site = f.createIfcSite(
        w.guid("site"), None, "Site", None, None, site_place, None, None, "ELEMENT"
    )
    place = f.createIfcLocalPlacement(site_place, w.frame())
    building = f.createIfcBuilding(
        w.guid("building"),
        None,
        project.name or "Building",
        None,
        None,
        place,
        None,
        None,
        "ELEMENT",
    )
    f.createIfcRelAggregates(w.guid("in project"), None, None, None, top, [site])
    f.createIfcRelAggregates(w.guid("in site"), None, None, None, site, [building])
    storeys = _storeys(w, checked, building)
    held: dict[str, list[Any]] = {}
    for member in checked.structure.members:
        held.setdefault(member.level, []).append(
            _member(w, checked, member, storeys[member.level], body)
        )
    for key, products in held.items():
        f.createIfcRelContainedInSpatialStructure(
            w.guid(f"contained {key}"), None, None, None, products, storeys[key][0]
        )
    _write_sets(w)
    for (kind, name), products in sorted(w.uses.items()):
        material = w.profiles[(kind, name)] if kind else w.materials[name]
        f.createIfcRelAssociatesMaterial(
            w.guid(f"material {kind} {name}"), None, None, None, products, material
        )
    return str(f.to_string())


def _storeys(w: _Writer, checked: Checked, building: Any) -> dict[str, tuple[Any, Level]]:
    used = {m.level for m in checked.structure.members}
    found: dict[str, tuple[Any, Level]] = {}
    for item in column(checked.project):
        if item.id in used or item.role == "floor":
            place = w.f.createIfcLocalPlacement(
                building.ObjectPlacement, w.frame((0.0, 0.0, item.elevation))
            )
            storey = w.f.createIfcBuildingStorey(
                w.guid(f"level {item.id}"),
                None,
                item.name,
                None,
                None,
                place,
                None,
                None,
                "ELEMENT",
                item.elevation,
            )
            found[item.id] = (storey, item)
    if found:
        storeys = [s for s, _ in found.values()]
        w.f.createIfcRelAggregates(w.guid("storeys"), None, None, None, building, storeys)
    return found


def _member(w: _Writer, checked: Checked, m: Member, storey: tuple[Any, Level], body: Any) -> Any:
    f = w.f
    entity, predefined, object_type, quantities = m.kind.ifc
    mesh = checked.structure.concrete.meshes.get(m.id)
    if mesh is None:
        make = _faceted if m.solid.across else _extruded
        shape, frame = make(w, m, storey[1].elevation, body)
    else:
        shape, frame = _meshed(w, mesh, storey[1].elevation, body)
    place = f.createIfcLocalPlacement(storey[0].ObjectPlacement, frame)
    product = f.create_entity(
        entity,
        GlobalId=w.guid(str(m.id)),
        Name=m.mark,
        Description=str(m.id),
        ObjectType=object_type,
        ObjectPlacement=place,
        Representation=shape,
        Tag=m.mark,
        PredefinedType=predefined,
    )
    section = w.sections.get(m.section)
    if section:
        w.profile_set(section, m.material)
        w.uses.setdefault((section.name, m.material), []).append(product)
    else:
        w.material(m.material)
        w.uses.setdefault(("", m.material), []).append(product)
    _quantities(w, m, checked.structure.volume(m), product, quantities)
    _properties(w, checked, m, product)
    return product


def _shared(w: _Writer, key: tuple[Any, ...], make: Callable[[], Any]) -> Any:
    """The shape of a body, the same for all that are alike (IFC4: a product definition shape may be that of
    several products)."""
    if key not in w.shapes:
        w.shapes[key] = w.f.createIfcProductDefinitionShape(None, None, [make()])
    return w.shapes[key]


def _extruded(w: _Writer, m: Member, storey: float, body: Any) -> tuple[Any, Any]:
    """A member's body as its profile pushed along, with the frame it stands in: the profile begins at its
    first corner, so that pieces cut alike have the same."""
    f, solid = w.f, m.solid
    a, b = solid.outline[0]
    places = tuple((round(x - a, 4), round(y - b, 4)) for x, y in solid.outline)
    depth = round(solid.depth, 6)

    def make() -> Any:
        ring = [w.point(*p) for p in places]
        outline = f.createIfcPolyline([*ring, ring[0]])
        profile = f.createIfcArbitraryClosedProfileDef("AREA", m.section, outline)
        extruded = f.createIfcExtrudedAreaSolid(profile, w.frame(), w.way(0, 0, 1), depth)
        return f.createIfcShapeRepresentation(body, "Body", "SweptSolid", [extruded])

    x, y, z = (o + a * u + b * v for o, u, v in zip(solid.origin, solid.u, solid.v))
    shape = _shared(w, ("extruded", m.section, places, depth), make)
    return shape, w.frame((x, y, z - storey), w.way(*solid.normal), w.way(*solid.u))


def _faceted(w: _Writer, m: Member, storey: float, body: Any) -> tuple[Any, Any]:
    """A body with bevels as its flat faces, about its own lowest corner."""
    f, rings = w.f, m.solid.rings()
    low, _ = m.solid.bounds()
    count, n = len(rings), len(rings[0])
    places = tuple(tuple(round(p[i] - low[i], 4) for i in range(3)) for ring in rings for p in ring)
    faces = [list(range(n, 0, -1)), [(count - 1) * n + i + 1 for i in range(n)]]
    for step in range(0, (count - 1) * n, n):
        for k in range(n):
            j = (k + 1) % n
            faces.append([step + k + 1, step + j + 1, step + n + j + 1, step + n + k + 1])

    def make() -> Any:
        made = f.createIfcPolygonalFaceSet(
            f.createIfcCartesianPointList3D(places),
            True,
            [f.createIfcIndexedPolygonalFace(face) for face in faces],
            None,
        )
        return f.createIfcShapeRepresentation(body, "Body", "Tessellation", [made])

    shape = _shared(w, ("faceted", places, count), make)
    return shape, w.frame((low[0], low[1], low[2] - storey))


def _meshed(w: _Writer, mesh: Mesh, storey: float, body: Any) -> tuple[Any, Any]:
    """A body that gave way to others as its faces, about its own first corner."""
    f = w.f
    x, y, z = (float(c) for c in mesh.points.min(axis=0))
    places = [[round(float(c), 4) for c in p] for p in mesh.points - mesh.points.min(axis=0)]
    faces = [[int(i) + 1 for i in t] for t in mesh.triangles]
    made = f.createIfcTriangulatedFaceSet(
        f.createIfcCartesianPointList3D(places), None, True, faces, None
    )
    shown = f.createIfcShapeRepresentation(body, "Body", "Tessellation", [made])
    shape = f.createIfcProductDefinitionShape(None, None, [shown])
    return shape, w.frame((x, y, z - storey))


def _quantities(w: _Writer, m: Member, net: float, product: Any, name: str) -> None:
    """What a piece measures, mm, m² and m³; alike pieces have one set."""
    volume = ("IfcQuantityVolume", "NetVolume", round(net / 1e9, 12))
    if m.kind is kinds.SUBFLOOR:
        area = abs(signed_area(m.solid.outline)) / 1e6
        found = [("IfcQuantityArea", "NetArea", round(area, 9)), volume]
    else:
        found = [("IfcQuantityLength", "Length", round(m.length, 6)), volume]
        if m.kind is kinds.FOOTING:
            found.append(("IfcQuantityLength", "Height", round(m.solid.depth, 6)))
    w.sets.setdefault(("quantities", name, *found), (str(m.id), []))[1].append(product)


CHECKS: Final = "Structural checks"
"""The property set of how far a piece is used, by which check, and whether it was changed by hand."""


def _properties(w: _Writer, checked: Checked, m: Member, product: Any) -> None:
    used = checked.used.get(m.id)
    found: list[tuple[str, str, Any]] = [("IfcBoolean", "ChangedByHand", m.touched)]
    if used is not None and math.isfinite(used[0]):
        found.append(("IfcReal", "Utilisation", round(used[0], 4)))
        found.append(("IfcLabel", "GoverningCheck", used[1][:255]))
    w.sets.setdefault(("properties", CHECKS, *found), (str(m.id), []))[1].append(product)


def _write_sets(w: _Writer) -> None:
    """Each set once, with all pieces that have it."""
    f = w.f
    for (kind, name, *values), (first, products) in w.sets.items():
        if kind == "quantities":
            parts = [f.create_entity(e, what, None, None, value, None) for e, what, value in values]
            made = f.createIfcElementQuantity(
                w.guid(f"quantities {first}"), None, name, None, None, parts
            )
        else:
            parts = [
                f.createIfcPropertySingleValue(what, None, f.create_entity(e, value), None)
                for e, what, value in values
            ]
            made = f.createIfcPropertySet(w.guid(f"properties {first}"), None, name, None, parts)
        f.createIfcRelDefinesByProperties(
            w.guid(f"has {kind} {first}"), None, None, None, products, made
        )
