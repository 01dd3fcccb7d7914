"""Bodies, edges and lines as VTK takes them."""

from collections.abc import Sequence
from typing import Any

import numpy as np
from PySide6.QtGui import QColor

from balken.geometry import facets
from balken.geometry.slices import sharp_edges
from balken.geometry.solid import Extrusion
from balken.geometry.trim import Mesh

Shape = Extrusion | Mesh
"""What a piece is drawn with: as it is cut, or what is left where it gave way to others."""


def mesh_of(solids: Sequence[Shape]) -> tuple[Any, list[int]]:
    """All faces of solids as one triangle mesh, and which solid each triangle belongs to."""
    from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
    from vtkmodules.vtkCommonCore import vtkPoints
    from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData

    points: list[Any] = []
    triangles: list[tuple[int, int, int]] = []
    owners: list[int] = []
    for i, solid in enumerate(solids):
        base = len(points)
        if isinstance(solid, Mesh):
            points += solid.points.tolist()
            triangles += [(base + a, base + b, base + c) for a, b, c in solid.triangles.tolist()]
            owners += [i] * len(solid.triangles)
            continue
        rings = solid.rings()
        n, last = len(rings[0]), (len(rings) - 1) * len(rings[0])
        points += [p for ring in rings for p in ring]
        cap = _triangles(solid)
        made = [(base + c, base + b, base + a) for a, b, c in cap] + [
            (base + last + a, base + last + b, base + last + c) for a, b, c in cap
        ]
        for step in range(base, base + last, n):
            for k in range(n):
                j = (k + 1) % n
                made += [(step + k, step + j, step + n + j), (step + k, step + n + j, step + n + k)]
        triangles += made
        owners += [i] * len(made)
    data = vtkPolyData()
    spots = vtkPoints()
    spots.SetData(numpy_to_vtk(np.array(points, dtype=float).reshape(-1, 3), deep=True))
    data.SetPoints(spots)
    cells = vtkCellArray()
    flat = np.array([(3, *t) for t in triangles], dtype=np.int64).reshape(-1)
    cells.ImportLegacyFormat(numpy_to_vtkIdTypeArray(flat, deep=True))
    data.SetPolys(cells)
    return data, owners


def _triangles(solid: Extrusion) -> list[tuple[int, int, int]]:
    import manifold3d

    if len(solid.outline) == 4:
        return [(0, 1, 2), (0, 2, 3)]
    if len(set(solid.outline)) < len(solid.outline):  # round a hollow and back through a slit
        return facets.triangles(solid.outline)
    return [tuple(int(i) for i in t) for t in manifold3d.triangulate([np.array(solid.outline)])]  # type: ignore[misc]


def faces_of(solids: Sequence[Shape], colour: str) -> Any:
    """The faces of bodies in one colour."""
    from vtkmodules.vtkFiltersCore import vtkPolyDataNormals
    from vtkmodules.vtkRenderingCore import vtkActor, vtkPolyDataMapper

    data, _ = mesh_of(solids)
    normals = vtkPolyDataNormals()
    normals.SetInputData(data)
    normals.SplittingOn()
    normals.SetFeatureAngle(20)
    normals.ConsistencyOff()
    mapper = vtkPolyDataMapper()
    mapper.SetInputConnection(normals.GetOutputPort())
    mapper.SetResolveCoincidentTopologyToPolygonOffset()
    mapper.SetResolveCoincidentTopologyPolygonOffsetParameters(1, 1)
    actor = vtkActor()
    actor.SetMapper(mapper)
    actor.GetProperty().SetColor(*rgb(colour))
    actor.GetProperty().SetAmbient(0.42)
    actor.GetProperty().SetDiffuse(0.75)
    return actor


def edges_of(solids: Sequence[Shape], colour: str, opacity: float) -> Any:
    """The sharp edges of bodies in one colour, more or less to be seen through."""
    lines: list[list[Any]] = []
    for solid in solids:
        if isinstance(solid, Mesh):
            lines += sharp_edges(solid)
            continue
        rings = solid.rings()
        near, far = rings[0], rings[-1]
        lines += [[*near, near[0]], [*far, far[0]], *([*corner] for corner in zip(*rings))]
    return polylines_of(lines, colour, opacity)


def polylines_of(lines: list[list[Any]], colour: str, opacity: float) -> Any:
    """Lines through places as one thin drawing."""
    from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
    from vtkmodules.vtkCommonCore import vtkPoints
    from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData
    from vtkmodules.vtkRenderingCore import vtkActor, vtkPolyDataMapper

    points = [p for line in lines for p in line]
    flat: list[int] = []
    for line in lines:
        first = flat[-1] + 1 if flat else 0
        flat += [len(line), *range(first, first + len(line))]
    data = vtkPolyData()
    spots = vtkPoints()
    spots.SetData(numpy_to_vtk(np.array(points, dtype=float).reshape(-1, 3), deep=True))
    data.SetPoints(spots)
    cells = vtkCellArray()
    cells.ImportLegacyFormat(numpy_to_vtkIdTypeArray(np.array(flat, dtype=np.int64), deep=True))
    data.SetLines(cells)
    mapper = vtkPolyDataMapper()
    mapper.SetInputData(data)
    actor = vtkActor()
    actor.SetMapper(mapper)
    actor.GetProperty().SetColor(*rgb(colour))
    actor.GetProperty().SetLineWidth(1.0)
    actor.GetProperty().SetOpacity(opacity)
    actor.GetProperty().LightingOff()
    return actor


def rgb(colour: str) -> tuple[float, float, float]:
    """A colour by its parts, from nothing to one."""
    c = QColor(colour)
    return c.redF(), c.greenF(), c.blueF()
