"""The building in space as VTK draws it: bodies and edges by their colour, walls to be seen through, the
ground, the grids; what lies under a pixel."""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from PySide6.QtGui import (
    QImage,
)

from balken.desk.space_colours import Colouring
from balken.desk.space_meshes import Shape, edges_of, faces_of, mesh_of, polylines_of, rgb
from balken.desk.theme import Theme
from balken.drawing.dimensions import clear_of, frame_round
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.rolled import is_rolled, shape_of
from balken.geometry.plane import add, dot, sub, unit
from balken.geometry.solid import Extrusion, Vector, side_profile, upright
from balken.geometry.trim import Mesh
from balken.model.catalogue import sections_of
from balken.model.grids import line_points
from balken.model.names import MemberName, Name, ThingName
from balken.model.project import column, wall_base, wall_top
from balken.model.walls import Wall
from balken.session.shown import Shown
from balken.site.bodies import bodies, lie_of, storey_walls
from balken.site.ground import contour_step, contours, surface_of

OUTSIDE = 1200.0
"""Heads of grid lines stand so far outside the walls, mm."""


class Scene:
    """The VTK side: one mesh a colour, one line mesh, one locator for picking."""

    def __init__(self) -> None:
        import vtkmodules.vtkRenderingOpenGL2  # noqa: F401 - registers the drawing back end
        from vtkmodules.vtkRenderingCore import vtkLight, vtkRenderer, vtkRenderWindow

        self.window = vtkRenderWindow()
        self.window.SetOffScreenRendering(1)
        self.window.SetMultiSamples(4)
        self.renderer = vtkRenderer()
        self.renderer.SetAutomaticLightCreation(False)
        for direction, strength in (
            ((-0.5, -0.8, 1.2), 0.78),
            ((0.9, 0.4, 0.5), 0.30),
            ((0.0, 0.0, -1.0), 0.25),
        ):
            light = vtkLight()
            light.SetLightTypeToSceneLight()
            light.SetPositional(False)
            light.SetPosition(*(1e5 * d for d in direction))
            light.SetFocalPoint(0, 0, 0)
            light.SetIntensity(strength)
            self.renderer.AddLight(light)
        self.window.AddRenderer(self.renderer)
        self.keys: list[MemberName] = []
        self.shapes: dict[MemberName, Shape] = {}
        """Of pieces that are not drawn as they are framed."""
        self.labels: list[tuple[str, ThingName, tuple[Vector, Vector]]] = []
        """Label, key and both ends of each grid line."""
        self.centre = np.zeros(3)
        self.radius = 1.0

    def fill(
        self,
        building: Shown,
        chosen: frozenset[Name],
        lit: frozenset[Name],
        theme: Theme,
        colour_of: Colouring,
        *,
        faint: bool = False,
    ) -> None:
        """Build the meshes of a building; with faint edges where something else is to stand out."""
        self.renderer.RemoveAllViewProps()
        self.renderer.SetBackground(*rgb(theme.paper))
        self.shapes = _shapes(building)
        members = [
            m
            for m in building.checked.structure.members
            if m.kind is not kinds.SUBFLOOR or m.id in chosen
        ]
        groups: dict[str, list[Member]] = {}
        for m in members:
            groups.setdefault(colour_of(building, m, chosen, lit, theme), []).append(m)
        for colour, group in groups.items():
            actor = faces_of([self._shape(m) for m in group], colour)
            if colour == theme.accent:
                actor.GetProperty().SetAmbient(0.8)
            self.renderer.AddActor(actor)
        wood = [self._shape(m) for m in members if not m.kind.concrete]
        stone = [self._shape(m) for m in members if m.kind.concrete]
        strength = 0.55 if theme.name == "light" else 0.35
        self.renderer.AddActor(edges_of(wood, theme.grain, 0.12 if faint else strength))
        self.renderer.AddActor(
            edges_of(stone, theme.ink if theme.name == "light" else theme.stipple, 0.6)
        )
        self._walls(building, chosen, theme)
        self._ground(building, theme)
        self._grids(building, theme)
        self._locate(members)

    def ghosts(self, gone: Sequence[Member], theme: Theme) -> None:
        """Bodies of an earlier version, to be seen through."""
        if gone:
            bodies = [m.solid for m in gone]
            actor = faces_of(bodies, theme.accent)
            actor.GetProperty().SetOpacity(0.25)
            self.renderer.AddActor(actor)
            self.renderer.AddActor(edges_of(bodies, theme.accent, 0.7))

    def _shape(self, m: Member) -> Shape:
        """The body a member is drawn with."""
        return self.shapes.get(m.id, m.solid)

    def _ground(self, building: Shown, theme: Theme) -> None:
        """The measured ground as a thin skin with its contours, so that what is buried still
        shows."""
        spots = building.project.spots
        if len(spots) < 3:
            return
        surface = surface_of(spots)
        if len(surface.triangles):
            skin = faces_of(
                [Mesh(surface.points, surface.triangles, surface.triangles[:, 0], 0.0)],
                theme.timber,
            )
            skin.GetProperty().SetOpacity(0.16)
            self.renderer.AddActor(skin)
        lines = [
            [(*p, height) for p in line]
            for height, found in contours(spots, contour_step(spots, building.project.system))
            for line in found
        ]
        if lines:
            self.renderer.AddActor(polylines_of(lines, theme.grain, 0.55))

    def _grids(self, building: Shown, theme: Theme) -> None:
        """Grid lines at the height of the lowest floor, so that the building stands on its setting
        out."""
        project = building.project
        floors = [x.elevation for x in column(project) if x.role == "floor"]
        z = floors[0] if floors else 0.0
        corners = [p for w in project.walls for p in (w.start, w.end)]
        frame = frame_round(corners, lie_of(project, project.walls)) if corners else None
        self.labels = []
        lines = []
        for g in project.grids:
            for x in g.lines:
                points = line_points(g, x)
                if frame is not None and x.runs != "ring":
                    a, b = points[0], points[-1]
                    way = unit(sub(b, a))
                    points = (
                        clear_of(a, (-way[0], -way[1]), frame, OUTSIDE),
                        clear_of(b, way, frame, OUTSIDE),
                    )
                lines.append([(*p, z) for p in points])
                self.labels.append(
                    (x.label, ThingName("grid", g.id, x.id), ((*points[0], z), (*points[-1], z)))
                )
        if lines:
            self.renderer.AddActor(polylines_of(lines, theme.quiet, 0.8))

    def nearer(self, ends: tuple[Vector, Vector]) -> Vector:
        """The end of a grid line that lies nearer to the eye: its head stands before the
        building, not behind it."""
        look = np.array(self.renderer.GetActiveCamera().GetDirectionOfProjection())
        return min(ends, key=lambda p: round(float(np.dot(p, look)), 3))

    def to_pixel(self, place: tuple[float, float, float]) -> tuple[float, float]:
        """Where a place lies in the picture, pixels from the lower left."""
        self.renderer.SetWorldPoint(*place, 1.0)
        self.renderer.WorldToDisplay()
        x, y, _ = self.renderer.GetDisplayPoint()
        return float(x), float(y)

    def _walls(self, building: Shown, chosen: frozenset[Name], theme: Theme) -> None:
        """The architect's walls as a thin drawing in the air, so that the storeys hang together."""
        walls: list[Extrusion] = []
        holes: list[Extrusion] = []
        for base in {w.base for w in building.project.walls}:
            shapes = bodies(storey_walls(building.project, base))
            for w in storey_walls(building.project, base):
                low = wall_base(building.project, w)
                walls.append(upright(shapes[w.id].ring, low, wall_top(building.project, w)))
                holes += _holes(w, shapes[w.id].centre[0], low)
        walls += [g.solid for g in building.checked.structure.gables]
        if walls:
            self.renderer.AddActor(edges_of(walls, theme.quiet, 0.5))
            self.renderer.AddActor(edges_of(holes, theme.quiet, 0.35))
            actor = faces_of(walls, theme.wall)
            actor.GetProperty().SetOpacity(0.13)
            self.renderer.AddActor(actor)

    def _locate(self, members: list[Member]) -> None:
        from vtkmodules.vtkCommonDataModel import vtkStaticCellLocator

        self.data, owners = mesh_of([self._shape(m) for m in members])
        self.keys = [members[i].id for i in owners]
        self.locator = vtkStaticCellLocator()
        if members:  # it builds nothing over nothing
            self.locator.SetDataSet(self.data)
            self.locator.BuildLocator()
            low = np.min([m.solid.bounds()[0] for m in members], axis=0)
            high = np.max([m.solid.bounds()[1] for m in members], axis=0)
            heads = [p[:2] for _, _, ends in self.labels for p in ends]
            if heads:
                low[:2], high[:2] = (
                    np.min([low[:2], *heads], axis=0),
                    np.max([high[:2], *heads], axis=0),
                )
            self.centre, self.radius = (low + high) / 2, float(np.linalg.norm(high - low)) / 2

    def render(
        self, size: tuple[int, int], turn: float, tilt: float, zoom: float, shift: Any
    ) -> QImage:
        """The picture from a direction."""
        from vtkmodules.util.numpy_support import vtk_to_numpy
        from vtkmodules.vtkRenderingCore import vtkWindowToImageFilter

        away = np.array(
            [math.cos(turn) * math.cos(tilt), math.sin(turn) * math.cos(tilt), math.sin(tilt)]
        )
        focus = self.centre + shift
        camera = self.renderer.GetActiveCamera()
        camera.SetParallelProjection(True)
        camera.SetFocalPoint(*focus)
        camera.SetPosition(*(focus + away * self.radius * 4))
        camera.SetViewUp(0, 0, 1) if abs(tilt) < 1.5 else camera.SetViewUp(
            -math.cos(turn), -math.sin(turn), 0
        )
        camera.SetParallelScale(
            self.radius * (0.85 if size[0] >= size[1] else 0.85 * size[1] / size[0]) / zoom
        )
        camera.SetClippingRange(self.radius * 0.5, self.radius * 8)
        self.window.SetSize(*size)
        self.window.Render()
        grab = vtkWindowToImageFilter()
        grab.SetInput(self.window)
        grab.SetInputBufferTypeToRGB()
        grab.ReadFrontBufferOff()
        grab.Update()
        image = grab.GetOutput()
        w, h, _ = image.GetDimensions()
        pixels = vtk_to_numpy(image.GetPointData().GetScalars()).reshape(h, w, 3)[::-1].copy()
        return QImage(pixels.data, w, h, 3 * w, QImage.Format.Format_RGB888).copy()

    def pan(self, dx: float, dy: float, height: int) -> Any:
        """The shift in space for a drag in pixels."""
        camera = self.renderer.GetActiveCamera()
        scale = 2 * camera.GetParallelScale() / max(1, height)
        up = np.array(camera.GetViewUp())
        look = np.array(camera.GetDirectionOfProjection())
        right = np.cross(look, up)
        right /= np.linalg.norm(right)
        true_up = np.cross(right, look)
        return -dx * scale * right + dy * scale * true_up

    def pick(self, x: float, y: float) -> MemberName | None:
        """The member under a pixel, counted from the lower left."""
        from vtkmodules.vtkCommonCore import reference

        if not self.keys:
            return None
        ends = []
        for depth in (0.0, 1.0):
            self.renderer.SetDisplayPoint(x, y, depth)
            self.renderer.DisplayToWorld()
            p = self.renderer.GetWorldPoint()
            ends.append([p[i] / p[3] for i in range(3)])
        t, sub, cell = reference(0.0), reference(0), reference(0)
        hit, coordinates = [0.0] * 3, [0.0] * 3
        # VTK writes what it finds into references, which its stubs do not know.
        found = self.locator.IntersectWithLine(
            ends[0], ends[1], 0.1, t, hit, coordinates, sub, cell
        )  # type: ignore[call-overload]
        return self.keys[int(cell)] if found else None


def _holes(w: Wall, foot: tuple[float, float], low: float) -> list[Extrusion]:
    """The openings of a wall as boxes through it."""
    direction = unit(sub(w.end, w.start))
    along = dot(sub(w.start, foot), direction)
    found = []
    for hole in w.openings:
        start = add(foot, direction, along + hole.at)
        z = low + hole.sill
        ring = ((0.0, z), (hole.width, z), (hole.width, z + hole.height), (0.0, z + hole.height))
        found.append(side_profile(start, direction, ring, w.thickness))
    return found


def _shapes(building: Shown) -> dict[MemberName, Shape]:
    """What is left of concrete that gave way to other, and rolled steel as it is rolled."""
    sections = sections_of(building.project.system, building.project.products)
    rolled: dict[MemberName, Shape] = {
        m.id: shape_of(m, section)
        for m in building.checked.structure.members
        if is_rolled(section := sections.get(m.section))
    }
    return {**building.checked.structure.concrete.meshes, **rolled}
