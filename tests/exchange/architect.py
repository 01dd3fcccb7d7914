"""Small architects' files of many kinds, built with ifcopenshell, for the tests of reading."""

from typing import Any

import ifcopenshell
import ifcopenshell.guid

UNITS = {"METRE": 1000.0, "MILLIMETRE": 1.0, "CENTIMETRE": 10.0, "FOOT": 304.8, "INCH": 25.4}


class Architect:
    """Writes walls in any schema and length unit; all numbers given are mm."""

    def __init__(
        self, schema: str = "IFC4", unit: str = "MILLIMETRE", turn: tuple[float, float] = (1.0, 0.0)
    ) -> None:
        self.f = ifcopenshell.file(schema=schema)
        self.schema, self.mm = schema, UNITS[unit]
        self.z = self.f.createIfcDirection((0.0, 0.0, 1.0))
        self.owner = self._owner() if schema == "IFC2X3" else None
        assignment = self.f.createIfcUnitAssignment([self._unit(unit)])
        self.context = self.f.createIfcGeometricRepresentationContext(
            None, "Model", 3, 1e-5, self.axis3(), None
        )
        self.project = self.f.create_entity(
            "IfcProject",
            GlobalId=ifcopenshell.guid.new(),
            OwnerHistory=self.owner,
            Name="Test",
            RepresentationContexts=[self.context],
            UnitsInContext=assignment,
        )
        site_at = self.f.createIfcLocalPlacement(None, self.axis3(1000, 2000, 300, turn))
        self.site = self.make(
            "IfcSite", Name="Site", ObjectPlacement=site_at, CompositionType="ELEMENT"
        )
        at = self.f.createIfcLocalPlacement(site_at, self.axis3(500, 0, 0))
        self.building = self.make(
            "IfcBuilding", Name="House", ObjectPlacement=at, CompositionType="ELEMENT"
        )
        self.aggregate(self.project, [self.site])
        self.aggregate(self.site, [self.building])
        self.storeys: list[Any] = []

    def _owner(self) -> Any:
        f = self.f
        person = f.createIfcPerson(None, None, "Nobody", None, None, None, None, None)
        organisation = f.createIfcOrganization(None, "None", None, None, None)
        both = f.createIfcPersonAndOrganization(person, organisation, None)
        application = f.createIfcApplication(organisation, "1", "test", "test")
        return f.createIfcOwnerHistory(both, application, None, "ADDED", None, None, None, 0)

    def _unit(self, unit: str) -> Any:
        f = self.f
        if unit in ("FOOT", "INCH"):
            metre = f.createIfcSIUnit(None, "LENGTHUNIT", None, "METRE")
            ratio = f.createIfcMeasureWithUnit(f.createIfcLengthMeasure(self.mm / 1000), metre)
            return f.createIfcConversionBasedUnit(
                f.createIfcDimensionalExponents(1, 0, 0, 0, 0, 0, 0), "LENGTHUNIT", unit, ratio
            )
        prefix = {"MILLIMETRE": "MILLI", "CENTIMETRE": "CENTI", "METRE": None}[unit]
        return f.createIfcSIUnit(None, "LENGTHUNIT", prefix, "METRE")

    def make(self, entity: str, **fields: Any) -> Any:
        return self.f.create_entity(
            entity, GlobalId=ifcopenshell.guid.new(), OwnerHistory=self.owner, **fields
        )

    def aggregate(self, whole: Any, parts: list[Any]) -> None:
        self.make("IfcRelAggregates", RelatingObject=whole, RelatedObjects=parts)

    def point(self, *mm: float) -> Any:
        return self.f.createIfcCartesianPoint(tuple(float(v) / self.mm for v in mm))

    def axis3(
        self, x: float = 0, y: float = 0, z: float = 0, way: tuple[float, float] | None = None
    ) -> Any:
        ref = self.f.createIfcDirection((float(way[0]), float(way[1]), 0.0)) if way else None
        return self.f.createIfcAxis2Placement3D(self.point(x, y, z), self.z if way else None, ref)

    def storey(self, name: str, elevation: float, *, attribute: float | None = None) -> Any:
        at = self.f.createIfcLocalPlacement(
            self.building.ObjectPlacement, self.axis3(0, 0, elevation)
        )
        stated = (elevation if attribute is None else attribute) / self.mm
        found = self.make(
            "IfcBuildingStorey",
            Name=name,
            ObjectPlacement=at,
            CompositionType="ELEMENT",
            Elevation=stated,
        )
        self.storeys.append(found)
        self.aggregate(self.building, [found])
        return found

    def place(
        self, storey: Any, x: float, y: float, way: tuple[float, float], z: float = 0.0
    ) -> Any:
        return self.f.createIfcLocalPlacement(storey.ObjectPlacement, self.axis3(x, y, z, way))

    def rectangle(self, length: float, thickness: float, y: float) -> Any:
        at = self.f.createIfcAxis2Placement2D(self.point(length / 2, y), None)
        return self.f.createIfcRectangleProfileDef(
            "AREA", None, at, length / self.mm, thickness / self.mm
        )

    def extruded(self, profile: Any, height: float) -> Any:
        return self.f.createIfcExtrudedAreaSolid(profile, self.axis3(), self.z, height / self.mm)

    def shape(self, items: list[Any], line: Any = None, kind: str = "SweptSolid") -> Any:
        shapes = []
        if line is not None:
            shapes.append(
                self.f.createIfcShapeRepresentation(self.context, "Axis", "Curve2D", [line])
            )
        if items:
            shapes.append(self.f.createIfcShapeRepresentation(self.context, "Body", kind, items))
        return self.f.createIfcProductDefinitionShape(None, None, shapes)

    def line(self, length: float) -> Any:
        return self.f.createIfcPolyline([self.point(0, 0), self.point(length, 0)])

    def wall(
        self,
        storey: Any,
        x: float,
        y: float,
        way: tuple[float, float],
        length: float,
        thickness: float = 200.0,
        height: float = 2700.0,
        *,
        side: str = "left",
        axis: bool = True,
        solid: Any = None,
        name: str = "wall",
    ) -> Any:
        """Add a wall; returns the product."""
        shift = {"left": thickness / 2, "right": -thickness / 2, "centre": 0.0}[side]
        body = solid or self.extruded(self.rectangle(length, thickness, shift), height)
        entity = "IfcWallStandardCase" if self.schema == "IFC2X3" else "IfcWall"
        product = self.make(
            entity,
            Name=name,
            ObjectPlacement=self.place(storey, x, y, way),
            Representation=self.shape([body] if body else [], self.line(length) if axis else None),
        )
        self.make(
            "IfcRelContainedInSpatialStructure", RelatedElements=[product], RelatingStructure=storey
        )
        return product

    def opening(
        self, wall: Any, at: float, sill: float, width: float, height: float, filling: str = ""
    ) -> Any:
        """Add an opening, and a door or window in it."""
        local = self.f.createIfcLocalPlacement(wall.ObjectPlacement, self.axis3(at, 0, sill))
        solid = self.extruded(self.rectangle(width, 1000, 0), height)
        hole = self.make(
            "IfcOpeningElement", ObjectPlacement=local, Representation=self.shape([solid])
        )
        self.make("IfcRelVoidsElement", RelatingBuildingElement=wall, RelatedOpeningElement=hole)
        if filling:
            inner = self.f.createIfcLocalPlacement(local, self.axis3())
            thing = self.make(
                filling,
                ObjectPlacement=inner,
                OverallHeight=height / self.mm,
                OverallWidth=width / self.mm,
            )
            self.make(
                "IfcRelFillsElement", RelatingOpeningElement=hole, RelatedBuildingElement=thing
            )
        return hole

    def grid(
        self, storey: Any, lines: dict[str, tuple[tuple[float, float], tuple[float, float]]]
    ) -> Any:
        """Add a grid; lines named by letters run one way, by numbers the other."""
        axes = {
            k: self.f.createIfcGridAxis(
                k, self.f.createIfcPolyline([self.point(*a), self.point(*b)]), True
            )
            for k, (a, b) in lines.items()
        }
        u = [a for k, a in axes.items() if k.isalpha()]
        v = [a for k, a in axes.items() if not k.isalpha()]
        return self.make(
            "IfcGrid",
            ObjectPlacement=self.f.createIfcLocalPlacement(storey.ObjectPlacement, self.axis3()),
            UAxes=u,
            VAxes=v,
        )


def box(a: Architect, storey: Any, length: float = 9000.0, width: float = 6000.0) -> list[Any]:
    """Add four walls round a rectangle, bodies inside."""
    return [
        a.wall(storey, 0, 0, (1, 0), length, name="south"),
        a.wall(storey, length, 0, (0, 1), width, name="east"),
        a.wall(storey, length, width, (-1, 0), length, name="north"),
        a.wall(storey, 0, width, (0, -1), width, name="west"),
    ]
