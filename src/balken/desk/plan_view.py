"""The plan on the board: pan, zoom, pick, and drag a wall while everything follows."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QWidget

from balken.desk.paint import Easel, polish
from balken.desk.shown import Shown
from balken.desk.theme import Theme, font
from balken.drawing.marks import Drawing, Patch, Stroke, extent
from balken.geometry.plane import Point, distance_to_segment, dot, left, sub, unit
from balken.model.project import Project, wall
from balken.model.walls import Wall
from balken.units import LengthError, format_length, format_run, parse_length

MM_PX = 4.9
"""Pixels to a mm of paper on the screen."""
PICK = 7.0
"""A line can be picked this near, px."""


class PlanView(QWidget):
    """The plan of the working tier, with the tier below faint."""

    picked = Signal(str)
    wall_dragged = Signal(str, float, bool)
    """Wall, distance to its left from where the drag began, whether the drag still goes on."""
    measured = Signal(str)
    moved = Signal(str)
    """Where the pointer is, in words."""

    def __init__(self, theme: Theme, say: Callable[[str], None]) -> None:
        super().__init__()
        self.theme, self.say = theme, say
        self.building: Shown | None = None
        self.lines: Drawing = ()
        self.below: Drawing = ()
        self.notes: Callable[[float], Drawing] = lambda _: ()
        self.chosen: frozenset[str] = frozenset()
        self.tool = "select"
        self.scale = 0.05
        self.offset = QPointF(0, 0)
        self._fitted = False
        self._pan: QPointF | None = None
        self._grab: tuple[str, QPointF, Wall] | None = None
        self._typed = ""
        self._measure: list[Point] = []
        self._pointer: Point = (0.0, 0.0)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Plan")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    def show_plan(
        self, building: Shown, lines: Drawing, below: Drawing, notes: Callable[[float], Drawing],
        chosen: frozenset[str],
    ) -> None:  # fmt: skip
        """Show the plan of a tier."""
        self.building, self.lines, self.below, self.notes, self.chosen = building, lines, below, notes, chosen
        if not self._fitted:
            self.fit()
        self.update()

    # -- places ------------------------------------------------------------------------------------------------

    @property
    def paper(self) -> float:
        """mm of building to a mm of paper at the present zoom."""
        return MM_PX / self.scale

    def to_pixel(self, p: Point) -> QPointF:
        """Return the pixel of a place."""
        return QPointF(self.offset.x() + p[0] * self.scale, self.offset.y() - p[1] * self.scale)

    def to_plan(self, p: QPointF) -> Point:
        """Return the place of a pixel."""
        return ((p.x() - self.offset.x()) / self.scale, (self.offset.y() - p.y()) / self.scale)

    def fit(self) -> None:
        """Show everything, with room for dimensions and grid heads."""
        found = extent(self.lines) or extent(self.below)
        if found is None or self.width() < 50:
            return
        x0, y0, x1, y1 = found
        left_px, right_px, top_px, bottom_px = 104.0, 72.0, 104.0, 70.0
        room_w, room_h = max(60.0, self.width() - left_px - right_px), max(60.0, self.height() - top_px - bottom_px)
        self.scale = max(1e-5, min(room_w / max(x1 - x0, 1.0), room_h / max(y1 - y0, 1.0)))
        self.offset = QPointF(
            left_px + (room_w - (x1 - x0) * self.scale) / 2 - x0 * self.scale,
            top_px + (room_h - (y1 - y0) * self.scale) / 2 + y1 * self.scale,
        )
        self._fitted = True
        self.update()

    def resizeEvent(self, event: object) -> None:
        if self.lines or self.below:
            self.fit()

    # -- painting ----------------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        easel = Easel(painter, self.theme, self.to_pixel, MM_PX)
        easel.paint(self.below, faint=True)
        easel.paint(self.lines, self.chosen)
        easel.paint(self.notes(self.paper), self.chosen)
        self._measuring(painter)
        if self._grab and (self._typed or self._dragging):
            self._entry(painter)

    def _measuring(self, painter: QPainter) -> None:
        if not self._measure or self.building is None:
            return
        a = self._measure[0]
        b = self._measure[1] if len(self._measure) > 1 else self._pointer
        painter.setPen(QPen(QColor(self.theme.accent), 1.5))
        painter.drawLine(self.to_pixel(a), self.to_pixel(b))
        for p in (a, b):
            painter.drawEllipse(self.to_pixel(p), 3, 3)
        middle = self.to_pixel(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2))
        text = polish(format_length(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5, self.building.project.system))
        self._tag(painter, middle, text)

    def _entry(self, painter: QPainter) -> None:
        """Show how far the wall has come, or what is typed instead."""
        at = self.to_pixel(self._pointer) + QPointF(14, -14)
        if self._typed:
            self._tag(painter, at, f"{self._typed} |")
        elif self.building:
            way = self._step(self._distance(self.to_pixel(self._pointer)))
            self._tag(painter, at, polish(format_run(abs(way), self.building.project.system)))

    def _step(self, distance: float) -> float:
        """Return a distance at whole inches, or at 10 mm."""
        step = 25.4 if self.building and self.building.project.system == "us" else 10.0
        return round(distance / step) * step

    def _tag(self, painter: QPainter, at: QPointF, text: str) -> None:
        painter.setFont(font(13, bold=True))
        width = painter.fontMetrics().horizontalAdvance(text)
        painter.fillRect(int(at.x()) - 5, int(at.y()) - 15, width + 10, 21, QColor(self.theme.wash))
        painter.setPen(QColor(self.theme.accent))
        painter.drawText(at, text)

    # -- hands -------------------------------------------------------------------------------------------------

    def key_at(self, p: Point) -> str:
        """Return what lies at a place: the smallest patch round it, else the nearest line; empty where nothing is."""
        reach = PICK / self.scale
        inside: list[tuple[float, str]] = []
        near: list[tuple[float, str]] = []
        for mark in (*self.lines, *self.notes(self.paper)):
            key = getattr(mark, "key", "")
            if not key or key.startswith("grid:"):
                continue
            if isinstance(mark, Patch):
                polygon = QPolygonF([QPointF(*q) for q in mark.ring])
                if polygon.containsPoint(QPointF(*p), Qt.FillRule.OddEvenFill):
                    box = polygon.boundingRect()
                    inside.append((box.width() * box.height(), key))
                ring = mark.ring
                away = min(distance_to_segment(p, a, b) for a, b in zip(ring, (*ring[1:], ring[0])))
                near.append((away, key))
            elif isinstance(mark, Stroke):
                near.append((min(distance_to_segment(p, a, b) for a, b in zip(mark.points, mark.points[1:])), key))
        if inside:
            return min(inside)[1]
        close = [n for n in near if n[0] <= reach]
        return min(close)[1] if close else ""

    def snap(self, p: Point) -> Point:
        """Return the nearest corner of what is drawn, if one is near, else the place itself."""
        reach = 9 / self.scale
        corners = [q for mark in self.lines if isinstance(mark, Patch) for q in mark.ring]
        best = min(corners, key=lambda q: (q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2, default=p)
        return best if abs(best[0] - p[0]) + abs(best[1] - p[1]) < reach else p

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._let_go()
        p = self.to_plan(event.position())
        if event.button() in (Qt.MouseButton.MiddleButton, Qt.MouseButton.RightButton):
            self._pan = event.position()
            return
        if self.tool == "measure":
            if len(self._measure) != 1:
                self._measure = [self.snap(p)]
            else:
                self._measure.append(self.snap(p))
            self.update()
            return
        key = self.key_at(p)
        if not key and self.tool == "select":
            self._pan = event.position()
        self.picked.emit(key)
        if key.startswith("wall:") and self.building:
            self._grab = (key, event.position(), wall(self.building.project, key.removeprefix("wall:")))
            self._typed = ""

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        p = self.to_plan(event.position())
        self._pointer = self.snap(p) if self.tool == "measure" else p
        if self._pan is not None:
            self.offset += event.position() - self._pan
            self._pan = event.position()
            self.update()
            return
        if self._grab and not self._typed:
            by = self._distance(event.position())
            if abs(by) * self.scale > 4 or self._dragging:
                self._dragging = True
                self.wall_dragged.emit(self._grab[0], self._step(by), True)
                self.update()
                return
        self.moved.emit(self._where(p))
        if self._measure:
            self.update()

    _dragging = False

    def _distance(self, position: QPointF) -> float:
        """Return how far the pointer is from where the wall was grabbed, to the left of the wall's line, mm."""
        assert self._grab is not None
        _, start, item = self._grab
        normal = left(unit(sub(item.end, item.start)))
        return dot(sub(self.to_plan(position), self.to_plan(start)), normal)

    def _where(self, p: Point) -> str:
        if not self.building:
            return ""
        system = self.building.project.system
        words = f"{format_length(p[0], system)}, {format_length(p[1], system)}"
        key = self.key_at(p)
        return f"{words}   {label_of(self.building.project, key)}" if key else words

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._pan = None
        if self._grab and self._dragging and not self._typed:
            self.wall_dragged.emit(self._grab[0], self._step(self._distance(event.position())), False)
        if not self._typed:
            self._grab, self._dragging = None, False

    def wheelEvent(self, event: QWheelEvent) -> None:
        factor = 1.0015 ** event.angleDelta().y()
        self.zoom(factor, event.position())

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom about a pixel (the middle, when left out)."""
        at = at or QPointF(self.width() / 2, self.height() / 2)
        new = max(1e-4, min(5.0, self.scale * factor))
        place = self.to_plan(at)
        self.scale = new
        self.offset = QPointF(at.x() - place[0] * new, at.y() + place[1] * new)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self._grab and self.building:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._typed:
                self._apply_typed()
                return
            if event.key() == Qt.Key.Key_Escape:
                self._let_go()
                return
            if event.key() == Qt.Key.Key_Backspace:
                self._typed = self._typed[:-1]
                self.update()
                return
            if event.text() and event.text() in "0123456789.'\"/- mc":
                self._typed += event.text()
                self.update()
                return
        if event.key() == Qt.Key.Key_Escape:
            self._measure = []
            self.update()
            super().keyPressEvent(event)  # the window leaves the tool, the preview and the selection
            return
        arrows = {
            Qt.Key.Key_Left: (60, 0), Qt.Key.Key_Right: (-60, 0), Qt.Key.Key_Up: (0, 60), Qt.Key.Key_Down: (0, -60),
        }  # fmt: skip
        if event.key() in arrows:
            self.offset += QPointF(*arrows[event.key()])
            self.update()
            return
        super().keyPressEvent(event)

    def _let_go(self) -> None:
        """Leave a wall that is held where it was."""
        if self._grab:
            self.wall_dragged.emit(self._grab[0], 0.0, False)
            self._grab, self._typed, self._dragging = None, "", False
            self.update()

    def _apply_typed(self) -> None:
        assert self._grab is not None
        key = self._grab[0]
        try:
            value = parse_length(self._typed, self.building.project.system)
        except LengthError as error:
            self.say(str(error))
            return
        towards = 1.0
        pointer = self.to_pixel(self._pointer)
        if self._distance(pointer) < 0:
            towards = -1.0
        self.wall_dragged.emit(key, towards * value, False)
        self._grab, self._typed, self._dragging = None, "", False

        self.update()

    def caption(self) -> str:
        """Return the scale of the screen in words."""
        dots = self.logicalDpiX() / 25.4
        ratio = dots / self.scale
        return f"1 : {round(ratio / 5) * 5 if ratio > 20 else round(ratio)}"


def label_of(project: Project, key: str) -> str:
    """Return what a key is called by people."""
    if key.startswith("wall:"):
        found = next((w for w in project.walls if w.id == key[5:]), None)
        return f"wall {found.name}, {format_run(found.thickness, project.system)}" if found else ""
    if "/" in key:
        host, name = key.split("/", 1)
        role, number = name.split(":", 1)
        return f"{host.split(':')[1]} {role} {number}"
    return key.replace(":", " ")
