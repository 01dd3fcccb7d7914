"""Make the architect's file of the bakehouse, the invented demo building, in feet, as IFC4.

Run as ``.venv/bin/python tools/make_bakehouse_ifc.py``; writes
``src/balken/demo/bakehouse-architect.ifc``. The same run always writes the same bytes: identifiers
are derived from names.
"""

import hashlib
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.guid

LENGTH, WIDTH = 36.0, 26.0
OUTER, INNER = 6.5 / 12, 4.5 / 12
FLOOR_1, PLATE_1 = 0.0, 8 + 1.125 / 12
FLOOR_2 = PLATE_1 + 8.75 / 12
PLATE_2 = FLOOR_2 + 8 + 1.125 / 12
TARGET = Path(__file__).parents[1] / "src" / "balken" / "demo" / "bakehouse-architect.ifc"


def guid(name: str) -> str:
    """Return an IFC identifier that depends on the name only."""
    return ifcopenshell.guid.compress(hashlib.md5(name.encode(), usedforsecurity=False).hexdigest())


class Writer:
    """The few entities an architect's file needs, each written in one place."""

    def __init__(self) -> None:
        self.f = ifcopenshell.file(schema="IFC4")
        self.z = self.f.createIfcDirection((0.0, 0.0, 1.0))
        self.x = self.f.createIfcDirection((1.0, 0.0, 0.0))
        self.owner = None

    def point(self, *xyz: float) -> Any:
        return self.f.createIfcCartesianPoint(tuple(float(v) for v in xyz))

    def axis3(
        self, x: float = 0, y: float = 0, z: float = 0, way: tuple[float, float] | None = None
    ) -> Any:
        ref = self.f.createIfcDirection((*way, 0.0)) if way else None
        return self.f.createIfcAxis2Placement3D(self.point(x, y, z), self.z if way else None, ref)

    def place(self, under: Any, *args: Any, **kw: Any) -> Any:
        return self.f.createIfcLocalPlacement(under, self.axis3(*args, **kw))

    def units(self) -> Any:
        f = self.f
        metre = f.createIfcSIUnit(None, "LENGTHUNIT", None, "METRE")
        exponents = f.createIfcDimensionalExponents(1, 0, 0, 0, 0, 0, 0)
        ratio = f.createIfcMeasureWithUnit(f.createIfcLengthMeasure(0.3048), metre)
        foot = f.createIfcConversionBasedUnit(exponents, "LENGTHUNIT", "FOOT", ratio)
        area = f.createIfcSIUnit(None, "AREAUNIT", None, "SQUARE_METRE")
        volume = f.createIfcSIUnit(None, "VOLUMEUNIT", None, "CUBIC_METRE")
        angle = f.createIfcSIUnit(None, "PLANEANGLEUNIT", None, "RADIAN")
        return f.createIfcUnitAssignment([foot, area, volume, angle])


def build() -> ifcopenshell.file:
    """Return the whole file."""
    w = Writer()
    f = w.f
    context = f.createIfcGeometricRepresentationContext(None, "Model", 3, 1e-5, w.axis3(), None)
    body = f.createIfcGeometricRepresentationSubContext(
        "Body", "Model", None, None, None, None, context, None, "MODEL_VIEW", None
    )
    axis = f.createIfcGeometricRepresentationSubContext(
        "Axis", "Model", None, None, None, None, context, None, "GRAPH_VIEW", None
    )
    project = f.createIfcProject(
        guid("project"), None, "Bakehouse", None, None, None, None, [context], w.units()
    )
    site = f.createIfcSite(
        guid("site"), None, "Site", None, None, w.place(None), None, None, "ELEMENT"
    )
    building = f.createIfcBuilding(
        guid("building"),
        None,
        "Bakehouse",
        None,
        None,
        w.place(site.ObjectPlacement),
        None,
        None,
        "ELEMENT",
    )
    storeys = [
        f.createIfcBuildingStorey(
            guid(n),
            None,
            n,
            None,
            None,
            w.place(building.ObjectPlacement, 0, 0, z),
            None,
            None,
            "ELEMENT",
            z,
        )
        for n, z in (("Floor 1", FLOOR_1), ("Floor 2", FLOOR_2))
    ]
    f.createIfcRelAggregates(guid("p-s"), None, None, None, project, [site])
    f.createIfcRelAggregates(guid("s-b"), None, None, None, site, [building])
    f.createIfcRelAggregates(guid("b-l"), None, None, None, building, storeys)
    layers = Layers(w)
    for storey, height, tag in (
        (storeys[0], PLATE_1 - FLOOR_1, "1"),
        (storeys[1], PLATE_2 - FLOOR_2, "2"),
    ):
        add_walls(w, storey, height, tag, body, axis, layers)
    layers.give()
    add_grid(w, storeys[0], axis)
    return f


# Walls: tag, from, to (counter-clockwise round the outside, body to the left), thickness, centred.
WALLS = (
    ("south", (0, 0), (LENGTH, 0), OUTER, False),
    ("east", (LENGTH, 0), (LENGTH, WIDTH), OUTER, False),
    ("north", (LENGTH, WIDTH), (0, WIDTH), OUTER, False),
    ("west", (0, WIDTH), (0, 0), OUTER, False),
    ("middle", (OUTER, WIDTH / 2), (LENGTH - OUTER, WIDTH / 2), INNER, True),
)
# Openings: wall, kind, distance along, sill, width, height.
OPENINGS = {
    "1": (
        ("south", "window", 4, 1.5, 16, 5),
        ("south", "door", 24, 0, 3, 6.8333),
        ("south", "window", 30, 3, 3, 4),
        ("east", "window", 5, 3, 4, 4),
        ("north", "door", 8, 0, 3, 6.8333),
        ("north", "window", 18, 3, 5, 4),
        ("middle", "door", 8, 0, 3, 6.8333),
        ("middle", "door", 24, 0, 5, 6.8333),
    ),
    "2": (
        ("south", "window", 4, 3, 4, 4),
        ("south", "window", 16, 3, 4, 4),
        ("south", "window", 28, 3, 4, 4),
        ("north", "window", 6, 3, 4, 4),
        ("north", "window", 22, 3, 4, 4),
        ("west", "window", 11, 3, 4, 4),
        ("middle", "door", 16, 0, 3, 6.8333),
    ),
}


class Layers:
    """Two layer sets, one for outside and one for inside walls, and who has which."""

    OUTSIDE = (("sheathing", 0.5 / 12), ("2x6 studs", 5.5 / 12), ("gypsum board", 0.5 / 12))
    INSIDE = (("gypsum board", 0.5 / 12), ("2x4 studs", 3.5 / 12), ("gypsum board", 0.5 / 12))

    def __init__(self, w: Writer) -> None:
        self.f = w.f
        names = dict.fromkeys(n for n, _ in (*self.OUTSIDE, *self.INSIDE))
        materials = {n: self.f.createIfcMaterial(n, None, None) for n in names}
        self.walls: dict[str, list[Any]] = {"outside": [], "inside": []}
        self.usages = {}
        for kind, layers, offset in (
            ("outside", self.OUTSIDE, 0.0),
            ("inside", self.INSIDE, -INNER / 2),
        ):
            made = [
                self.f.createIfcMaterialLayer(materials[n], t, None, None, None, None, None)
                for n, t in layers
            ]
            chosen = self.f.createIfcMaterialLayerSet(made, f"{kind} wall", None)
            self.usages[kind] = self.f.createIfcMaterialLayerSetUsage(
                chosen, "AXIS2", "POSITIVE", offset, None
            )

    def give(self) -> None:
        """Write which walls have which layers."""
        for kind, walls in self.walls.items():
            self.f.createIfcRelAssociatesMaterial(
                guid(f"layers {kind}"), None, None, None, walls, self.usages[kind]
            )


def add_walls(
    w: Writer, storey: Any, height: float, tag: str, body: Any, axis: Any, layers: Layers
) -> None:
    """Add the walls of one storey, each on its own turned placement; gable walls are clipped to the
    plate."""
    f = w.f
    made = []
    for name, a, b, thickness, centred in WALLS:
        length = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
        way = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
        place = w.place(storey.ObjectPlacement, a[0], a[1], 0, way=way)
        line = f.createIfcPolyline([w.point(0, 0), w.point(length, 0)])
        y = 0.0 if centred else thickness / 2
        profile = f.createIfcRectangleProfileDef(
            "AREA",
            None,
            f.createIfcAxis2Placement2D(w.point(length / 2, y), None),
            length,
            thickness,
        )
        clipped = name in ("east", "west")
        solid = f.createIfcExtrudedAreaSolid(
            profile, w.axis3(), w.z, height + (2.0 if clipped else 0.0)
        )
        kind = "SweptSolid"
        if clipped:
            plane = f.createIfcPlane(w.axis3(0, 0, height))
            solid = f.createIfcBooleanClippingResult(
                "DIFFERENCE", solid, f.createIfcHalfSpaceSolid(plane, False)
            )
            kind = "Clipping"
        shape = f.createIfcProductDefinitionShape(
            None,
            None,
            [
                f.createIfcShapeRepresentation(axis, "Axis", "Curve2D", [line]),
                f.createIfcShapeRepresentation(body, "Body", kind, [solid]),
            ],
        )
        wall = f.createIfcWall(
            guid(f"wall {tag} {name}"), None, f"{name} {tag}", None, None, place, shape, None, None
        )
        made.append(wall)
        layers.walls["inside" if centred else "outside"].append(wall)
        for i, item in enumerate(o for o in OPENINGS[tag] if o[0] == name):
            made.append(add_opening(w, wall, item, thickness, y, f"{tag} {name} {i}", body))
    f.createIfcRelContainedInSpatialStructure(
        guid(f"contains {tag}"), None, None, None, made, storey
    )


def add_opening(
    w: Writer, wall: Any, item: Any, thickness: float, y: float, key: str, body: Any
) -> Any:
    """Add an opening through all of a wall, and the door or window in it."""
    f = w.f
    _, kind, at, sill, width, height = item
    place = w.place(wall.ObjectPlacement, at, 0, sill)
    profile = f.createIfcRectangleProfileDef(
        "AREA",
        None,
        f.createIfcAxis2Placement2D(w.point(width / 2, y), None),
        width,
        thickness + 0.5,
    )
    solid = f.createIfcExtrudedAreaSolid(profile, w.axis3(), w.z, height)
    shape = f.createIfcProductDefinitionShape(
        None, None, [f.createIfcShapeRepresentation(body, "Body", "SweptSolid", [solid])]
    )
    hole = f.createIfcOpeningElement(
        guid(f"hole {key}"), None, None, None, None, place, shape, None, "OPENING"
    )
    f.createIfcRelVoidsElement(guid(f"voids {key}"), None, None, None, wall, hole)
    make = f.createIfcDoor if kind == "door" else f.createIfcWindow
    filling = make(
        guid(f"{kind} {key}"),
        None,
        f"{kind} {key}",
        None,
        None,
        w.place(place),
        None,
        None,
        height,
        width,
    )
    f.createIfcRelFillsElement(guid(f"fills {key}"), None, None, None, hole, filling)
    return filling


def add_grid(w: Writer, storey: Any, axis: Any) -> None:
    """Add lines A to C along the building and 1 to 4 across."""
    f = w.f

    def line(tag: str, a: tuple[float, float], b: tuple[float, float]) -> Any:
        return f.createIfcGridAxis(tag, f.createIfcPolyline([w.point(*a), w.point(*b)]), True)

    along = [
        line(t, (-5, y), (LENGTH + 5, y)) for t, y in (("A", 0.0), ("B", WIDTH / 2), ("C", WIDTH))
    ]
    across = [
        line(t, (x, -5), (x, WIDTH + 5))
        for t, x in (("1", 0.0), ("2", 40 / 3), ("3", 24.0), ("4", LENGTH))
    ]
    curves = f.createIfcGeometricCurveSet([a.AxisCurve for a in along + across])
    shape = f.createIfcProductDefinitionShape(
        None,
        None,
        [f.createIfcShapeRepresentation(axis, "FootPrint", "GeometricCurveSet", [curves])],
    )
    grid = f.createIfcGrid(
        guid("grid"),
        None,
        "Grid",
        None,
        None,
        w.place(storey.ObjectPlacement),
        shape,
        along,
        across,
        None,
        "RECTANGULAR",
    )
    f.createIfcRelContainedInSpatialStructure(guid("grid in"), None, None, None, [grid], storey)


if __name__ == "__main__":
    model = build()
    model.header.file_name.name = TARGET.name
    model.header.file_name.time_stamp = "2026-01-01T00:00:00"
    TARGET.write_text(model.to_string())
    print(f"wrote {TARGET}")
