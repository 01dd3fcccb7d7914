"""Pieces of the structure in an IFC file: what each is, where it stands, its body, and what of it is told
together with all that are alike - type, material, quantities, properties."""

import math
from typing import Any, Final, NamedTuple

from balken.exchange.ifc_rolled import Shown, profile_of, rolled_shape
from balken.exchange.ifc_writer import IfcWriter, faces
from balken.exchange.step_text import Ref, kind_of, known_in
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import signed_area
from balken.geometry.solid import Extrusion
from balken.geometry.trim import Mesh
from balken.model.catalogue import sections_of
from balken.model.sections import STEEL, Section
from balken.takeoff.weights import net_volume
from balken.works.building import Checked, checks_of

CHECKS: Final = "Structural checks"
"""The property set of how far a piece is used, by which check, and whether it was changed by hand."""
MAKING: Final = "Making"
"""The property set of what a piece is cut from and how, and of what it is part."""

TypeKey = tuple[str, str, str | None, str, str]


class Pieces(NamedTuple):
    """What alike pieces share, gathered while they are written."""

    w: IfcWriter
    checked: Checked
    body: Ref
    """The context of bodies."""
    sections: dict[str, Section]
    sets: dict[tuple[Any, ...], tuple[str, list[Ref]]]
    """Alike sets of quantities and of properties: the first piece's name, and all that have them."""
    types: dict[TypeKey, list[Ref]]
    materials: dict[tuple[str, str], list[Ref]]
    """By section and material."""
    fillings: dict[str, list[Ref]]
    """Doors and windows, by the level their wall stands on."""
    products: dict[str, Ref]
    """Every piece by its name."""
    clauses: dict[tuple[str, str, str], str]
    """Of the checks that govern, by the kind of piece, its family and the check: alike ones are held to one
    clause, and reading a whole calculation for each would take long."""


def pieces_of(w: IfcWriter, checked: Checked, body: Ref) -> Pieces:
    """Nothing written yet."""
    sections = sections_of(checked.project.system, checked.project.products)
    return Pieces(w, checked, body, sections, {}, {}, {}, {}, {}, {})


def write_piece(p: Pieces, m: Member, within: Ref, high: float = 0.0) -> Ref:
    """A piece in its place: ``within`` is where it is held, which lies so high, mm."""
    w, f = p.w, p.w.f
    entity, predefined, words, quantities = m.kind.ifc
    mesh = p.checked.structure.concrete.meshes.get(m.id)
    if mesh is None:
        rolled = rolled_shape(w, m, p.sections.get(m.section), p.body)
        make = _faceted if m.solid.across else _extruded
        shape, at, *ways = rolled or make(w, m, p.body)
    else:
        shape, at, *ways = _meshed(w, mesh, p.body)
    frame = w.frame((at[0], at[1], at[2] - high), *ways)
    place = f.add("IfcLocalPlacement", within, frame)
    common = (w.guid(str(m.id)), w.owner, m.mark, str(m.id), words, place, shape, m.mark)
    if "PredefinedType" in kind_of(w.schema, entity).places:
        value, more = w.word(entity, "PredefinedType", predefined)
        told = (*common[:4], words or more, *common[5:])
        product = f.add(entity, *told, value)
    else:
        product = f.add(entity, *common[:4], words or predefined, *common[5:])
    p.products[str(m.id)] = product
    section = m.section if m.section in p.sections else ""
    p.materials.setdefault((section, m.material), []).append(product)
    p.types.setdefault((entity, predefined, words, section, m.material), []).append(product)
    _quantities(p, m, product, quantities)
    _properties(p, m, product)
    return product


def _extruded(w: IfcWriter, m: Member, body: Ref) -> Shown:
    return extruded_shape(w, m.solid, m.section, body)


def extruded_shape(w: IfcWriter, solid: Extrusion, title: str, body: Ref) -> Shown:
    """A body as its profile pushed along: the profile begins at its first corner, so that pieces cut alike
    have the same."""
    f = w.f
    a, b = solid.outline[0]
    places = tuple([(round(x - a, 4), round(y - b, 4)) for x, y in solid.outline])
    depth = round(solid.depth, 6)

    def make() -> Ref:
        ring = [w.point(*place) for place in places]
        outline = f.add("IfcPolyline", [*ring, ring[0]])
        profile = f.add("IfcArbitraryClosedProfileDef", "AREA", title or None, outline)
        up = w.way(0, 0, 1)
        extruded = f.add("IfcExtrudedAreaSolid", profile, w.level_frame(), up, depth)
        return f.add("IfcShapeRepresentation", body, "Body", "SweptSolid", [extruded])

    start = tuple([o + a * u + b * v for o, u, v in zip(solid.origin, solid.u, solid.v)])
    shape = w.shape(("extruded", title, places, depth), body, make)
    return shape, start, w.way(*solid.normal), w.way(*solid.u)


def _faceted(w: IfcWriter, m: Member, body: Ref) -> Shown:
    """A body with bevels as its flat faces, about its own lowest corner."""
    rings = m.solid.rings()
    low, _ = m.solid.bounds()
    count, n = len(rings), len(rings[0])
    places = tuple(tuple(round(p[i] - low[i], 4) for i in range(3)) for ring in rings for p in ring)
    found = [list(range(n - 1, -1, -1)), [(count - 1) * n + i for i in range(n)]]
    for step in range(0, (count - 1) * n, n):
        for k in range(n):
            j = (k + 1) % n
            found.append([step + k, step + j, step + n + j, step + n + k])
    shape = w.shape(("faceted", places, count), body, lambda: faces(w, body, places, found))
    return shape, low


def _meshed(w: IfcWriter, mesh: Mesh, body: Ref) -> Shown:
    """A body that gave way to others as its faces, about its own lowest corner."""
    x, y, z = (float(c) for c in mesh.points.min(axis=0))
    places = tuple(
        tuple(round(float(c), 4) for c in p) for p in mesh.points - mesh.points.min(axis=0)
    )
    found = [[int(i) for i in t] for t in mesh.triangles]
    key = ("meshed", places, tuple(map(tuple, found)))
    shape = w.shape(key, body, lambda: faces(w, body, places, found))
    return shape, (x, y, z)


def _quantities(p: Pieces, m: Member, product: Ref, name: str) -> None:
    """What a piece measures, mm, m² and m³; alike pieces have one set."""
    net = net_volume(p.checked, m, p.sections)
    volume = ("IfcQuantityVolume", "NetVolume", round(net / 1e9, 12))
    if m.kind is kinds.SUBFLOOR:
        area = abs(signed_area(m.solid.outline)) / 1e6
        found = [("IfcQuantityArea", "NetArea", round(area, 9)), volume]
    else:
        found = [("IfcQuantityLength", "Length", round(m.length, 6)), volume]
        if m.kind is kinds.FOOTING:
            found.append(("IfcQuantityLength", "Height", round(m.solid.depth, 6)))
    p.sets.setdefault(("quantities", name, *found), (str(m.id), []))[1].append(product)


def _properties(p: Pieces, m: Member, product: Ref) -> None:
    used = p.checked.used.get(m.id)
    found: list[tuple[str, str, Any]] = [("IfcBoolean", "ChangedByHand", m.touched)]
    if used is not None and math.isfinite(used[0]):
        found.append(("IfcReal", "Utilisation", round(used[0], 4)))
        found.append(("IfcLabel", "GoverningCheck", used[1][:255]))
        found.append(("IfcLabel", "GoverningClause", _clause(p, m, used[1])[:255]))
    p.sets.setdefault(("properties", CHECKS, *found), (str(m.id), []))[1].append(product)
    making = [
        ("IfcLabel", "Mark", m.mark),
        ("IfcLabel", "Role", m.role),
        ("IfcLabel", "Host", str(m.host)),
        ("IfcLabel", "Section", m.section),
        ("IfcLabel", "Material", m.material),
        ("IfcLengthMeasure", "CutFrom", round(m.blank, 3)),
        ("IfcText", "Cuts", "; ".join(m.cuts)),
    ]
    p.sets.setdefault(("properties", MAKING, *making), (str(m.id), []))[1].append(product)


def _clause(p: Pieces, m: Member, check: str) -> str:
    """The clause that the governing check of a piece is of; empty where its calculation names none."""
    section = p.sections.get(m.section)
    key = (m.role, section.family if section else "", check)
    if key not in p.clauses:
        # Checks against what lifts, or stands at one place, are named with that before.
        mine = (c for c in checks_of(p.checked, m) if check.lower().endswith(c.name.lower()))
        p.clauses[key] = next((c.clause for c in mine), "")
    return p.clauses[key]


def write_sets(p: Pieces) -> None:
    """Each set once, with all pieces that have it."""
    w, f = p.w, p.w.f
    for (kind, name, *values), (first, products) in p.sets.items():
        if kind == "quantities":
            made = w.root(
                "IfcElementQuantity",
                f"quantities {first}",
                Name=name,
                Quantities=[_quantity(w, *v) for v in values],
            )
        else:
            made = w.root(
                "IfcPropertySet",
                f"properties {name} {first}",
                Name=name,
                HasProperties=[
                    f.add("IfcPropertySingleValue", what, None, f.value(e, value), None)
                    for e, what, value in values
                    if value != ""
                ],
            )
        w.relate("IfcRelDefinesByProperties", f"has {kind} {name} {first}", products, made)


def _quantity(w: IfcWriter, entity: str, name: str, value: float) -> Ref:
    which = {"IfcQuantityLength": "LengthValue", "IfcQuantityArea": "AreaValue"}
    return w.make(entity, Name=name, **{which.get(entity, "VolumeValue"): value})


def write_types(p: Pieces) -> None:
    """The types of pieces: what they are and are cut from."""
    w = p.w
    for key, products in sorted(p.types.items(), key=lambda x: str(x[0])):
        entity, predefined, words, section, material = key
        if not known_in(w.schema, f"{entity}Type"):
            continue
        value, more = w.word(f"{entity}Type", "PredefinedType", predefined)
        what = (words or (more or predefined).replace("_", " ").lower()).lower()
        name = " ".join(x for x in (what, section, material) if x)
        made = w.root(
            f"{entity}Type",
            f"type {key}",
            Name=name,
            PredefinedType=value,
            ElementType=words or more,
        )
        w.relate("IfcRelDefinesByType", f"of type {key}", products, made)


def write_materials(p: Pieces) -> None:
    """What pieces are made of: with their profile where the schema has that."""
    w = p.w
    for (section, material), products in sorted(p.materials.items()):
        found = p.sections.get(section)
        made = _material(w, material, found)
        if found is not None and w.schema == "IFC4":
            made = _profiled(w, found, material, made)
        w.relate("IfcRelAssociatesMaterial", f"material {section} {material}", products, made)


def _material(w: IfcWriter, name: str, section: Section | None) -> Ref:
    category = "concrete" if name == "concrete" else "wood"
    if section is not None and section.family in STEEL:
        category = "steel"
    return w.once(("material", name), lambda: w.make("IfcMaterial", Name=name, Category=category))


def _profiled(w: IfcWriter, section: Section, material: str, made: Ref) -> Ref:
    f = w.f
    shape = profile_of(w, section)
    entry = f.add("IfcMaterialProfile", section.name, None, made, shape, None, None)
    whole = f.add("IfcMaterialProfileSet", f"{section.name} {material}", None, [entry], None)
    return f.add("IfcMaterialProfileSetUsage", whole, 5, None)
