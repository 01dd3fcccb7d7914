"""The structure as an IFC file: storeys and grids, pieces with true cuts in walls, floors, roofs and trusses,
openings and what fills them, types, materials, profiles, quantities, and the analysis model.

Identifiers come from lasting names, so that two writings of one building can be compared.
"""

from balken.exchange.ifc_analysis import write_analysis
from balken.exchange.ifc_grid_out import write_grids
from balken.exchange.ifc_groups import Storey, groups_of, write_group
from balken.exchange.ifc_pieces import (
    Pieces,
    pieces_of,
    write_materials,
    write_sets,
    write_types,
)
from balken.exchange.ifc_writer import IfcWriter, Schema
from balken.exchange.step_text import Ref
from balken.model.project import column
from balken.works.analysis_model import analysis_model
from balken.works.building import Checked


def structure_ifc(checked: Checked, when: str = "", schema: Schema = "IFC4") -> str:
    """The structure as the text of an IFC file.

    Args:
        checked: the building.
        when: time stamp for the header (ISO 8601); the library's own clock where empty.
        schema: of the file: IFC4 (ISO 16739-1:2018) or IFC2X3 (ISO/PAS 16739:2005).
    """
    w = IfcWriter(checked.project, when, schema)
    context, body, footprint, reference = _contexts(w)
    building, place = _building(w, context)
    storeys = _storeys(w, checked, building, place)
    write_grids(w, building, place, footprint)
    p = pieces_of(w, checked, body)
    _contents(p, storeys)
    write_sets(p)
    write_types(p)
    bars = write_analysis(w, analysis_model(checked), (building, place), reference, p.products)
    for bar, made in bars:
        section = bar.member.section if bar.member.section in p.sections else ""
        p.materials[(section, bar.member.material)].append(made)
    write_materials(p)
    return w.text()


def _contexts(w: IfcWriter) -> tuple[Ref, Ref, Ref, Ref]:
    """Of the model, and in it of bodies, footprints and the lines of bars."""
    f = w.f
    context = f.add("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, w.frame(), None)
    body, footprint, reference = (
        f.add(
            "IfcGeometricRepresentationSubContext",
            ContextIdentifier=word,
            ContextType="Model",
            ParentContext=context,
            TargetView=view,
        )
        for word, view in (
            ("Body", "MODEL_VIEW"),
            ("FootPrint", "PLAN_VIEW"),
            ("Reference", "GRAPH_VIEW"),
        )
    )
    return context, body, footprint, reference


def _units(w: IfcWriter) -> Ref:
    units = [
        w.make("IfcSIUnit", UnitType=kind, Prefix=prefix, Name=name)
        for kind, prefix, name in (
            ("LENGTHUNIT", "MILLI", "METRE"),
            ("AREAUNIT", None, "SQUARE_METRE"),
            ("VOLUMEUNIT", None, "CUBIC_METRE"),
            ("PLANEANGLEUNIT", None, "RADIAN"),
            ("FORCEUNIT", None, "NEWTON"),
            ("MASSUNIT", "KILO", "GRAM"),
            ("TIMEUNIT", None, "SECOND"),
        )
    ]
    metre = w.make("IfcSIUnit", UnitType="LENGTHUNIT", Name="METRE")
    parts = [
        w.f.add("IfcDerivedUnitElement", unit, power)
        for unit, power in ((units[4], 1), (metre, -1))
    ]
    units.append(w.make("IfcDerivedUnit", Elements=parts, UnitType="LINEARFORCEUNIT"))
    return w.f.add("IfcUnitAssignment", units)


def _building(w: IfcWriter, context: Ref) -> tuple[Ref, Ref]:
    """The project, its site, and the building, which is returned with its place."""
    name = w.project.name
    top = w.root(
        "IfcProject",
        "project",
        Name=name or "Structure",
        RepresentationContexts=[context],
        UnitsInContext=_units(w),
    )
    site_place = w.place(None)
    site = w.root(
        "IfcSite", "site", Name="Site", ObjectPlacement=site_place, CompositionType="ELEMENT"
    )
    place = w.place(site_place)
    building = w.root(
        "IfcBuilding",
        "building",
        Name=name or "Building",
        ObjectPlacement=place,
        CompositionType="ELEMENT",
    )
    w.relate("IfcRelAggregates", "in project", top, [site])
    w.relate("IfcRelAggregates", "in site", site, [building])
    return building, place


def _storeys(w: IfcWriter, checked: Checked, building: Ref, within: Ref) -> dict[str, Storey]:
    used = {m.level for m in checked.structure.members}
    found: dict[str, Storey] = {}
    for item in column(checked.project):
        if item.id in used or item.role == "floor":
            place = w.place(within, w.frame((0.0, 0.0, item.elevation)))
            storey = w.root(
                "IfcBuildingStorey",
                f"level {item.id}",
                Name=item.name,
                ObjectPlacement=place,
                CompositionType="ELEMENT",
                Elevation=item.elevation,
            )
            found[item.id] = Storey(storey, place, item)
    if found:
        w.relate("IfcRelAggregates", "storeys", building, [s.entity for s in found.values()])
    return found


def _contents(p: Pieces, storeys: dict[str, Storey]) -> None:
    """All pieces, held in their storeys."""
    held: dict[str, list[Ref]] = {}
    for group in groups_of(p):
        held.setdefault(group.level, []).extend(write_group(p, group, storeys[group.level]))
    for level, fillings in p.fillings.items():
        # A wall can stand on a level that holds nothing else.
        mine = level if level in storeys else next(iter(storeys))
        held.setdefault(mine, []).extend(fillings)
    for key, products in held.items():
        name = f"contained {key}"
        p.w.relate("IfcRelContainedInSpatialStructure", name, products, storeys[key].entity)
