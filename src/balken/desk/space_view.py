"""The building in space: drawn by VTK into an image, turned and picked here, so that it looks and
feels like the desk."""

import math
from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from balken.desk.paint import ring
from balken.desk.theme import Theme, font
from balken.drawing.dimensions import clear_of, frame_round
from balken.drawing.drawn_over import Over
from balken.drawing.kinds import DRAWN
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import add, dot, sub, unit
from balken.geometry.slices import sharp_edges
from balken.geometry.solid import Extrusion, Vector, side_profile, upright
from balken.geometry.trim import Mesh
from balken.model.grids import line_points
from balken.model.names import MemberName, Name, ThingName
from balken.model.project import column, wall_base, wall_top
from balken.model.walls import Wall
from balken.session.shown import Shown
from balken.site.bodies import bodies, lie_of, storey_walls
from balken.site.ground import contour_step, contours, surface_of
from balken.works.building import Checked, is_over

OUTSIDE = 1200.0
"""Heads of grid lines stand so far outside the walls, mm."""


_SeenAs = tuple[frozenset[Name], frozenset[Name], Theme, bool, Over | None]
"""What is selected, what is lit, the theme, and whether the reserve is shown."""


class SpaceView(QWidget):
    """All members at true place; drag turns, right drag pans, wheel zooms, click picks."""

    picked = Signal(object, bool)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.building: Shown | None = None
        self.chosen: frozenset[Name] = frozenset()
        self.lit: frozenset[Name] = frozenset()
        """What sits on what is selected, or carries it."""
        self.reserve = False
        self.over: Over | None = None
        """Whether everything shows how far it is used."""
        self.turn, self.tilt, self.zoom = math.radians(-58), math.radians(24), 1.0
        self.shift = np.zeros(3)
        self._scene: _Scene | None = None
        self._image: QImage | None = None
        self._stale = True
        self._press: tuple[QPointF, Qt.MouseButton] | None = None
        self._moved = False
        self._shown: tuple[Checked, *_SeenAs] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("View in space")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    def show_building(
        self,
        building: Shown,
        chosen: frozenset[Name],
        lit: frozenset[Name] = frozenset(),
        *,
        reserve: bool = False,
        over: Over | None = None,
    ) -> None:
        """Show a building; the scene is built when it is first painted."""
        self.building, self.chosen, self.lit = building, chosen, lit
        self.reserve, self.over = reserve, over
        self._stale = True
        self.update()

    def _draw(self) -> None:
        if self.building is None:
            return
        if self._scene is None:
            self._scene = _Scene()
        if self._is_new():
            colour = _by_reserve if self.reserve else _colour
            if self.over is not None:
                colour = partial(_by_change, self.over)
            seen = (self.chosen, self.lit, self.theme)
            self._scene.fill(self.building, *seen, colour, faint=self.over is not None)
            if self.over is not None:
                self._scene.ghosts(self.over.gone, self.theme)
            self._shown = (self.building.checked, *self._seen_as)
        ratio = self.devicePixelRatioF()
        size = (max(16, int(self.width() * ratio)), max(16, int(self.height() * ratio)))
        self._image = self._scene.render(size, self.turn, self.tilt, self.zoom, self.shift)
        self._image.setDevicePixelRatio(ratio)
        self._stale = False

    def paintEvent(self, event: QPaintEvent) -> None:
        new = self.building is not None and self._is_new()
        if self._stale and new:
            # Building the scene takes a while: what was seen stays, and it is said.
            QTimer.singleShot(0, self._draw_new)
        elif self._stale:
            self._draw()
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        if self._image is not None:
            painter.drawImage(0, 0, self._image)
        if new:
            painter.setFont(font(13))
            painter.setPen(QColor(self.theme.quiet))
            painter.drawText(QPointF(16, 24), "The building is being set up in space …")
        else:
            self._grid_labels(painter)
        ring(painter, self, self.theme)

    def _is_new(self) -> bool:
        """Whether another building, or another part of it, is to be seen than the scene holds."""
        if self._shown is None or self.building is None:
            return True
        checked, *rest = self._shown
        return checked is not self.building.checked or tuple(rest) != self._seen_as

    @property
    def _seen_as(self) -> _SeenAs:
        return self.chosen, self.lit, self.theme, self.reserve, self.over

    @property
    def ready(self) -> bool:
        """Whether what is to be seen is what is drawn."""
        return not self._is_new()

    def _draw_new(self) -> None:
        if self._is_new():
            self._draw()
            self.update()

    def _grid_labels(self, painter: QPainter) -> None:
        """Write the labels of grid lines where their ends lie in the picture."""
        if self._scene is None:
            return
        ratio = self.devicePixelRatioF()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(12, bold=True))
        for label, key, ends in self._scene.labels:
            x, y = self._scene.to_pixel(self._scene.nearer(ends))
            at = QPointF(x / ratio, self.height() - y / ratio)
            on = key in self.chosen
            painter.setPen(QPen(QColor(self.theme.accent if on else self.theme.quiet), 1.2))
            painter.setBrush(QColor(self.theme.paper))
            painter.drawEllipse(at, 10, 10)
            painter.setPen(QColor(self.theme.accent if on else self.theme.ink))
            painter.drawText(
                QRectF(at.x() - 14, at.y() - 10, 28, 20), Qt.AlignmentFlag.AlignCenter, label
            )

    def resizeEvent(self, event: object) -> None:
        self._stale = True

    def fit(self) -> None:
        """Show everything."""
        self.zoom, self.shift = 1.0, np.zeros(3)
        self._again()

    def look_from(self, turn: float, tilt: float) -> None:
        """Look from a direction, degrees."""
        self.turn, self.tilt = math.radians(turn), math.radians(tilt)
        self._again()

    def _again(self) -> None:
        self._stale = True
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._press, self._moved = (event.position(), event.button()), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._press is None or self._scene is None:
            return
        start, button = self._press
        step = event.position() - start
        if not self._moved and abs(step.x()) + abs(step.y()) < 4:
            return
        self._moved = True
        self._press = (event.position(), button)
        if button == Qt.MouseButton.LeftButton:
            self.turn -= step.x() * 0.008
            self.tilt = max(-1.4, min(1.53, self.tilt + step.y() * 0.008))
        else:
            self.shift = self.shift + self._scene.pan(step.x(), step.y(), self.height())
        self._again()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if (
            self._press
            and not self._moved
            and self._scene
            and self._press[1] == Qt.MouseButton.LeftButton
        ):
            ratio = self.devicePixelRatioF()
            key = self._scene.pick(
                event.position().x() * ratio, (self.height() - event.position().y()) * ratio
            )
            self.picked.emit(key, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        self._press = None

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom = max(0.2, min(30.0, self.zoom * 1.0015 ** event.angleDelta().y()))
        self._again()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        turns: dict[int, tuple[float, float]] = {
            Qt.Key.Key_Left: (0.12, 0),
            Qt.Key.Key_Right: (-0.12, 0),
            Qt.Key.Key_Up: (0, 0.1),
            Qt.Key.Key_Down: (0, -0.1),
        }
        if event.key() in turns:
            a, b = turns[event.key()]
            self.turn, self.tilt = self.turn + a, max(-1.4, min(1.53, self.tilt + b))
            self._again()
            return
        super().keyPressEvent(event)


Shape = Extrusion | Mesh


class _Scene:
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
        self.meshes: dict[MemberName, Mesh] = {}
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
        colour_of: "_Colouring",
        *,
        faint: bool = False,
    ) -> None:
        """Build the meshes of a building; with faint edges where something else is to stand out."""
        self.renderer.RemoveAllViewProps()
        self.renderer.SetBackground(*_rgb(theme.paper))
        self.meshes = building.checked.structure.concrete.meshes
        members = [
            m
            for m in building.checked.structure.members
            if m.kind is not kinds.SUBFLOOR or m.id in chosen
        ]
        groups: dict[str, list[Member]] = {}
        for m in members:
            groups.setdefault(colour_of(building, m, chosen, lit, theme), []).append(m)
        for colour, group in groups.items():
            actor = _faces([self._shape(m) for m in group], colour)
            if colour == theme.accent:
                actor.GetProperty().SetAmbient(0.8)
            self.renderer.AddActor(actor)
        wood: list[Shape] = [m.solid for m in members if not m.kind.concrete]
        stone = [self._shape(m) for m in members if m.kind.concrete]
        strength = 0.55 if theme.name == "light" else 0.35
        self.renderer.AddActor(_edges(wood, theme.grain, 0.12 if faint else strength))
        self.renderer.AddActor(
            _edges(stone, theme.ink if theme.name == "light" else theme.stipple, 0.6)
        )
        self._walls(building, chosen, theme)
        self._ground(building, theme)
        self._grids(building, theme)
        self._locate(members)

    def ghosts(self, gone: Sequence[Member], theme: Theme) -> None:
        """Bodies of an earlier version, to be seen through."""
        if gone:
            bodies = [m.solid for m in gone]
            actor = _faces(bodies, theme.accent)
            actor.GetProperty().SetOpacity(0.25)
            self.renderer.AddActor(actor)
            self.renderer.AddActor(_edges(bodies, theme.accent, 0.7))

    def _shape(self, m: Member) -> Shape:
        """The body a member is drawn with: what is left of it where it gave way to
        others."""
        return self.meshes.get(m.id, m.solid)

    def _ground(self, building: Shown, theme: Theme) -> None:
        """The measured ground as a thin skin with its contours, so that what is buried still
        shows."""
        spots = building.project.spots
        if len(spots) < 3:
            return
        surface = surface_of(spots)
        if len(surface.triangles):
            skin = _faces(
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
            self.renderer.AddActor(_polylines(lines, theme.grain, 0.55))

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
            self.renderer.AddActor(_polylines(lines, theme.quiet, 0.8))

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
            self.renderer.AddActor(_edges(walls, theme.quiet, 0.5))
            self.renderer.AddActor(_edges(holes, theme.quiet, 0.35))
            actor = _faces(walls, theme.wall)
            actor.GetProperty().SetOpacity(0.13)
            self.renderer.AddActor(actor)

    def _locate(self, members: list[Member]) -> None:
        from vtkmodules.vtkCommonDataModel import vtkStaticCellLocator

        self.data, owners = _mesh([self._shape(m) for m in members])
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


_Colouring = Callable[[Shown, Member, frozenset[Name], frozenset[Name], Theme], str]


def _by_reserve(
    building: Shown, m: Member, chosen: frozenset[Name], lit: frozenset[Name], theme: Theme
) -> str:
    """The darker the more it is used; what is over in the colour of what is wrong."""
    del lit
    used = building.checked.used.get(m.id)
    if m.id in chosen:
        return theme.lit
    if used is None:
        return theme.panel
    if is_over(used[0]):
        return theme.accent
    step = min(RESERVE_STEPS, math.ceil(used[0] * RESERVE_STEPS)) / RESERVE_STEPS
    return _between(theme.panel, theme.ink, 0.15 + 0.75 * step)


RESERVE_STEPS = 5
"""Of greys between unused and used up: a fifth each."""


def _between(first: str, second: str, share: float) -> str:
    a, b = _rgb(first), _rgb(second)
    return QColor.fromRgbF(*(x + (y - x) * share for x, y in zip(a, b))).name()


def _colour(
    building: Shown, m: Member, chosen: frozenset[Name], lit: frozenset[Name], theme: Theme
) -> str:
    del building
    if m.id in chosen or m.host in chosen:
        return theme.accent
    if m.id in lit:
        return theme.lit
    tones = {"concrete": theme.concrete, "pale": theme.panel_wood, "timber": theme.timber}
    return tones[DRAWN[m.kind].tone]


def _by_change(
    over: Over,
    building: Shown,
    m: Member,
    chosen: frozenset[Name],
    lit: frozenset[Name],
    theme: Theme,
) -> str:
    """What came or changed since an earlier version stands out of what stayed."""
    if m.id in chosen or m.host in chosen:
        return _colour(building, m, chosen, lit, theme)
    if m.id in over.came:
        return theme.grain
    return theme.timber if m.id in over.changed else theme.panel


def _rgb(colour: str) -> tuple[float, float, float]:
    c = QColor(colour)
    return c.redF(), c.greenF(), c.blueF()


def _mesh(solids: Sequence[Shape]) -> tuple[Any, list[int]]:
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
    return [tuple(int(i) for i in t) for t in manifold3d.triangulate([np.array(solid.outline)])]  # type: ignore[misc]


def _faces(solids: Sequence[Shape], colour: str) -> Any:
    from vtkmodules.vtkFiltersCore import vtkPolyDataNormals
    from vtkmodules.vtkRenderingCore import vtkActor, vtkPolyDataMapper

    data, _ = _mesh(solids)
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
    actor.GetProperty().SetColor(*_rgb(colour))
    actor.GetProperty().SetAmbient(0.42)
    actor.GetProperty().SetDiffuse(0.75)
    return actor


def _edges(solids: Sequence[Shape], colour: str, opacity: float) -> Any:
    lines: list[list[Any]] = []
    for solid in solids:
        if isinstance(solid, Mesh):
            lines += sharp_edges(solid)
            continue
        rings = solid.rings()
        near, far = rings[0], rings[-1]
        lines += [[*near, near[0]], [*far, far[0]], *([*corner] for corner in zip(*rings))]
    return _polylines(lines, colour, opacity)


def _polylines(lines: list[list[Any]], colour: str, opacity: float) -> Any:
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
    actor.GetProperty().SetColor(*_rgb(colour))
    actor.GetProperty().SetLineWidth(1.0)
    actor.GetProperty().SetOpacity(opacity)
    actor.GetProperty().LightingOff()
    return actor
