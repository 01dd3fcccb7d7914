"""What all writers of an IFC file share: the file, its schema, and entities that are written once - points,
directions, frames, relations.

The same calls write IFC4 and IFC2X3: what a schema does not know of an entity is left out.
"""

import hashlib
import uuid
from collections.abc import Callable, Sequence
from typing import Any, Final, Literal

from balken.exchange.step_text import Ref, StepText, kind_of, words_of
from balken.model.project import Project

Schema = Literal["IFC4", "IFC2X3"]
SCHEMAS: Final[tuple[Schema, ...]] = ("IFC4", "IFC2X3")
_NAMESPACE: Final = uuid.UUID("6f1d7c1e-7a58-4c26-9d0b-2a9a31c0d5b4")


class IfcWriter:
    """One file being written."""

    def __init__(self, project: Project, when: str, schema: Schema = "IFC4") -> None:
        self.project, self.schema, self.when = project, schema, when
        self.f = StepText(schema)
        self.key = hashlib.sha256(f"{project.name}|{project.system}".encode()).hexdigest()
        self.points: dict[tuple[float, ...], Ref] = {}
        self.ways: dict[tuple[float, ...], Ref] = {}
        self.shapes: dict[tuple[Any, ...], Ref] = {}
        """Alike bodies by what they are made of: one shape serves all."""
        self.owner = None if schema == "IFC4" else self._owner()

    def text(self) -> str:
        """The whole file."""
        return self.f.text("structure.ifc", self.when, "Balken")

    def _owner(self) -> Ref:
        """Who made what, which IFC2X3 asks of everything: the program, at no time."""
        f = self.f
        person = f.add("IfcPerson", FamilyName="not told")
        firm = f.add("IfcOrganization", Name="not told")
        who = f.add("IfcPersonAndOrganization", person, firm)
        program = f.add("IfcApplication", firm, "1", "Balken", "Balken")
        return f.add("IfcOwnerHistory", who, program, None, "ADDED", None, None, None, 0)

    def guid(self, name: str) -> str:
        """An identifier that depends on the project and the name only."""
        import ifcopenshell.guid

        return str(ifcopenshell.guid.compress(uuid.uuid5(_NAMESPACE, f"{self.key}|{name}").hex))

    def make(self, entity: str, **values: Any) -> Ref:
        """An entity with what its schema knows of these values."""
        known = kind_of(self.schema, entity).places
        return self.f.add(entity, **{k: v for k, v in values.items() if k in known})

    def root(self, entity: str, name: str, **values: Any) -> Ref:
        """An entity with an identifier of its own, after a lasting name."""
        return self.make(entity, GlobalId=self.guid(name), OwnerHistory=self.owner, **values)

    def relate(self, entity: str, name: str, *ends: Any) -> Ref:
        """A relation: its two ends in the order of the schema."""
        return self.f.add(entity, self.guid(name), self.owner, None, None, *ends)

    def word(self, entity: str, attribute: str, value: str) -> tuple[str, str | None]:
        """A word of an enumeration, and what is said beside where the schema does not have it."""
        if value in words_of(self.schema, entity, attribute):
            return value, None
        return "USERDEFINED", value

    def point(self, *xyz: float) -> Ref:
        rounded = tuple([round(float(v), 6) + 0.0 for v in xyz])
        found = self.points.get(rounded)
        if found is None:
            found = self.points[rounded] = self.f.add("IfcCartesianPoint", rounded)
        return found

    def way(self, *xyz: float) -> Ref:
        rounded = tuple([round(float(v), 12) + 0.0 for v in xyz])
        found = self.ways.get(rounded)
        if found is None:
            found = self.ways[rounded] = self.f.add("IfcDirection", rounded)
        return found

    def frame(
        self, origin: tuple[float, ...] = (0.0, 0.0, 0.0), z: Any = None, x: Any = None
    ) -> Ref:
        return self.f.add("IfcAxis2Placement3D", self.point(*origin), z, x)

    def place(self, within: Any, frame: Any = None) -> Ref:
        """Where something stands, in the frame of what holds it."""
        return self.f.add("IfcLocalPlacement", within, frame or self.level_frame())

    def level_frame(self) -> Ref:
        """The frame of what stands where that stands which holds it."""
        return self.once(("frame",), self.frame)

    def once(self, key: tuple[Any, ...], make: Callable[[], Ref]) -> Ref:
        """What is the same for all that ask with this key."""
        if key not in self.shapes:
            self.shapes[key] = make()
        return self.shapes[key]

    def shape(self, key: tuple[Any, ...], context: Ref, make: Callable[[], Ref]) -> Ref:
        """The shape of a body. In IFC4 all that are alike have one; IFC2X3 gives each its own, of what is
        mapped from one."""
        shown = self.once(key, make)
        if self.schema == "IFC4":
            return self.once(
                ("shape", *key),
                lambda: self.f.add("IfcProductDefinitionShape", None, None, [shown]),
            )
        return self._mapped(key, context, shown)

    def _mapped(self, key: tuple[Any, ...], context: Ref, shown: Ref) -> Ref:
        f = self.f
        source = self.once(
            ("map", *key),
            lambda: f.add("IfcRepresentationMap", self.level_frame(), shown),
        )
        as_it_is = self.once(
            ("as it is",),
            lambda: f.add(
                "IfcCartesianTransformationOperator3D", None, None, self.point(0, 0, 0), None, None
            ),
        )
        item = f.add("IfcMappedItem", source, as_it_is)
        mapped = f.add("IfcShapeRepresentation", context, "Body", "MappedRepresentation", [item])
        return f.add("IfcProductDefinitionShape", None, None, [mapped])

    def shared(self, key: tuple[Any, ...], make: Callable[[], Ref]) -> Ref:
        """A shape or a placement that several products have in IFC4, and each has for itself in IFC2X3."""
        return self.once(key, make) if self.schema == "IFC4" else make()


def faces(w: IfcWriter, context: Ref, points: Sequence[Any], rings: Sequence[Sequence[int]]) -> Ref:
    """A body by its flat faces: rings of places in ``points``, from nothing."""
    f = w.f
    if w.schema == "IFC4" and all(len(ring) == 3 for ring in rings):
        made = f.add(
            "IfcTriangulatedFaceSet",
            f.add("IfcCartesianPointList3D", points),
            None,
            True,
            [[i + 1 for i in ring] for ring in rings],
            None,
        )
        return f.add("IfcShapeRepresentation", context, "Body", "Tessellation", [made])
    if w.schema == "IFC4":
        made = f.add(
            "IfcPolygonalFaceSet",
            f.add("IfcCartesianPointList3D", points),
            True,
            [f.add("IfcIndexedPolygonalFace", [i + 1 for i in ring]) for ring in rings],
            None,
        )
        return f.add("IfcShapeRepresentation", context, "Body", "Tessellation", [made])
    corners = [f.add("IfcCartesianPoint", tuple(p)) for p in points]
    shell = f.add(
        "IfcClosedShell",
        [
            f.add(
                "IfcFace",
                [
                    f.add(
                        "IfcFaceOuterBound",
                        f.add("IfcPolyLoop", [corners[i] for i in ring]),
                        True,
                    )
                ],
            )
            for ring in rings
        ],
    )
    made = f.add("IfcFacetedBrep", shell)
    return f.add("IfcShapeRepresentation", context, "Body", "Brep", [made])
