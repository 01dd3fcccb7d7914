"""Grids in an IFC file: straight lines both ways, rings and rays."""

import math

from balken.exchange.ifc_writer import IfcWriter
from balken.exchange.step_text import Ref
from balken.model.grids import Grid, GridLine, grid_ends


def write_grids(w: IfcWriter, building: Ref, place: Ref, context: Ref) -> None:
    """Every grid of a project, in the building."""
    made = [_grid(w, g, place, context) for g in w.project.grids if g.lines]
    if made:
        w.relate("IfcRelContainedInSpatialStructure", "contained grids", made, building)


def _grid(w: IfcWriter, grid: Grid, within: Ref, context: Ref) -> Ref:
    drawn = {
        x.id: _ring(w, grid, x) if x.runs == "ring" else _straight(w, grid, x) for x in grid.lines
    }
    axes = {x.id: w.f.add("IfcGridAxis", x.label, drawn[x.id], True) for x in grid.lines}
    along = [x for x in grid.lines if x.runs in ("x", "ring")]
    across = [x for x in grid.lines if x not in along]
    if not (along and across):
        # IFC asks for two rows; lines that all run one way are parted among them.
        along, across = list(grid.lines[:1]), list(grid.lines[1:] or grid.lines)
    curves = w.f.add("IfcGeometricCurveSet", list(drawn.values()))
    shown = w.f.add("IfcShapeRepresentation", context, "FootPrint", "GeometricCurveSet", [curves])
    return w.root(
        "IfcGrid",
        f"grid {grid.id}",
        Name=grid.name or grid.id,
        ObjectPlacement=w.place(within),
        Representation=w.f.add("IfcProductDefinitionShape", None, None, [shown]),
        UAxes=[axes[x.id] for x in along],
        VAxes=[axes[x.id] for x in across],
    )


def _straight(w: IfcWriter, grid: Grid, line: GridLine) -> Ref:
    return w.f.add("IfcPolyline", [w.point(*p) for p in grid_ends(grid, line)])


def _ring(w: IfcWriter, grid: Grid, line: GridLine) -> Ref:
    f = w.f
    turn = math.radians(grid.angle)
    at = f.add("IfcAxis2Placement2D", w.point(*grid.origin), w.way(math.cos(turn), math.sin(turn)))
    circle = f.add("IfcCircle", at, line.offset)
    ends = [[f.value("IfcParameterValue", math.radians(angle))] for angle in (line.start, line.end)]
    return f.add("IfcTrimmedCurve", circle, *ends, True, "PARAMETER")
