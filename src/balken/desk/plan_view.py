"""The plan on the board: pan, zoom, pick, select by a box, drag, and the hand of whatever tool is
at work.

The drawing is painted once into a picture a little larger than the board. Panning shifts that
picture, zooming stretches it until the hand rests, and only what changes with every move is painted
over it: the selection, a ghost, words at the pointer.
"""

from collections.abc import Callable, Mapping
from itertools import takewhile

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from balken.desk.paint import Easel, polish, ring
from balken.desk.pick_index import PickIndex
from balken.desk.plan_fit import EMPTY, beside_strings, extent_of_plan, fitted
from balken.desk.plan_over import paint_amounts, paint_box, paint_tag, paint_tool
from balken.desk.theme import Theme
from balken.drawing.clearing import without_contours_under
from balken.drawing.marks import Drawing, Label, Stroke, extent
from balken.geometry.plane import Point, add, direction_or, dot, sub
from balken.model.names import Name, in_words, kind_of
from balken.session.desk import DragWay, Pull
from balken.session.shown import Shown
from balken.session.snapping import SnapField
from balken.session.toolbox import WHOLE
from balken.session.tools.asking import ToolRun
from balken.units import LengthError, format_length, format_run, parse_length

MM_PX = 4.9
"""Pixels to a mm of paper on the screen."""
PICK = 7.0
"""A line can be picked this near, px."""
SAME_PLACE = 5
"""A click so near to the last one is at the same place, px."""
CATCH = 10.0
"""A corner catches the pointer from this far, px."""
MARGIN = 0.25
"""How much larger than the board the painted picture is at each side, as a share."""
SETTLE = 110
"""After this long without zooming the picture is painted anew, ms."""


class PlanView(QWidget):
    """The plan of the working tier, with the tier below faint."""

    picked = Signal(object, bool)
    """What was clicked, and whether it is added to what is selected."""
    boxed = Signal(object, bool)
    """Everything in the box that was drawn, and whether it is added."""
    dragged = Signal(object, object, bool)
    """What is dragged, its :class:`Pull`, whether the drag still goes on."""
    moved = Signal(str)
    """Where the pointer is, in words."""
    scaled = Signal()
    """Another scale is shown."""
    asked = Signal(object)
    """A menu is asked for at a pixel of the screen."""
    answered = Signal()
    """A tool was given a place, a thing or a key."""

    def __init__(self, theme: Theme, say: Callable[[str], None]) -> None:
        super().__init__()
        self.theme, self.say = theme, say
        self.building: Shown | None = None
        self.lines: Drawing = ()
        self.below: Drawing = ()
        self.notes: Callable[[float], Drawing] = lambda _: ()
        self.chosen: frozenset[Name] = frozenset()
        self.lit: Mapping[Name, str] = {}
        """What sits on what is selected or carries it, with the amount in words."""
        self.locked: Callable[[Name], bool] = lambda _: False
        self.run: ToolRun | None = None
        self.field: Callable[[], SnapField | None] = lambda: None
        self.scale = 0.05
        self.offset = QPointF(0, 0)
        self.applied: Callable[[], Point] = lambda: (0.0, 0.0)
        """How much of a drag the drawing shows already, mm."""
        self.ways: Callable[[Name, Point], DragWay | None] = lambda name, at: None
        """How a thing can be dragged from a place."""
        self.called: Callable[[Name], str] = in_words
        """What people call a thing."""
        self._fitted = self._touched = False
        self.prefers: tuple[str, ...] = ()
        """Kinds of things the tier is about: of what lies on one another they are taken first."""
        self.stacked: tuple[Name, ...] = ()
        """What lay at the place that was clicked last."""
        self._clicked = QPointF(-100, -100)
        self._next: Name | None = None
        """What a second click at the same place goes on to."""
        self._pan: QPointF | None = None
        self._panned_from = QPointF()
        self._box: tuple[QPointF, QPointF] | None = None
        self._grab: tuple[Name, QPointF, Point | None] | None = None
        self._vector: Point = (0.0, 0.0)
        self._dragging = False
        self._typed = ""
        self._space = False
        self._pointer: Point = (0.0, 0.0)
        self._grabbed: Point = (0.0, 0.0)
        self._picture: QPixmap | None = None
        self._painted: tuple[float, QPointF] = (1.0, QPointF())
        self._fresh = False
        self._index: PickIndex | None = None
        self._noted: tuple[float, Drawing] | None = None
        self._cleared: tuple[float, Drawing] | None = None
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(SETTLE)
        self._settle.timeout.connect(self.repaint_drawing)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Plan")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    def show_plan(
        self,
        building: Shown,
        lines: Drawing,
        below: Drawing,
        notes: Callable[[float], Drawing],
        chosen: frozenset[Name],
        lit: Mapping[Name, str],
    ) -> None:
        """Show the plan of a tier."""
        self.building, self.lines, self.below, self.notes = building, lines, below, notes
        self.chosen, self.lit = chosen, lit
        self._index = self._noted = self._cleared = None
        if not self._fitted:
            self.fit()
        self.repaint_drawing()

    def choose(self, chosen: frozenset[Name], lit: Mapping[Name, str]) -> None:
        """Show other things as selected on the plan that is shown, and lit with their amounts."""
        self.chosen, self.lit = chosen, lit
        self.update()

    def repaint_drawing(self) -> None:
        """Paint the drawing anew at the next turn."""
        self._fresh = False
        self.update()

    # -- places ---------------------------------------------------------------

    @property
    def paper(self) -> float:
        """mm of building to a mm of paper at the present zoom."""
        return MM_PX / self.scale

    def to_pixel(self, p: Point) -> QPointF:
        """The pixel of a place."""
        return QPointF(self.offset.x() + p[0] * self.scale, self.offset.y() - p[1] * self.scale)

    def to_plan(self, p: QPointF) -> Point:
        """The place of a pixel."""
        return ((p.x() - self.offset.x()) / self.scale, (self.offset.y() - p.y()) / self.scale)

    def reach(self) -> float:
        """How near to a thing a place counts as on it, mm."""
        return CATCH / self.scale

    def centre(self, place: Point) -> None:
        """Bring a place to the middle."""
        self.offset += QPointF(self.width() / 2, self.height() / 2) - self.to_pixel(place)
        self._touched = True
        self.update()

    def unfit(self) -> None:
        """Show everything when the next plan comes."""
        self._fitted = False

    def fit(self) -> None:
        """Show everything, with room for dimensions and grid heads."""
        if self.width() < 50:
            return
        size = (self.width(), self.height())
        grids = self.building.project.grids if self.building else ()
        box = extent_of_plan((*self.lines, *self.below), grids) or EMPTY
        self.scale, self.offset = fitted(box, size)
        strings = extent([m for m in self._notes() if isinstance(m, Stroke) and m.pen == "hair"])
        if strings is not None:
            beside = beside_strings(box, strings, self.scale)
            self.scale, self.offset = fitted(box, size, beside)
        self._fitted, self._touched = True, False
        self.scaled.emit()
        self.repaint_drawing()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._picture = None
        if self.building is None:
            return
        if not self._touched:
            self.fit()
            return
        # What was looked at stays in the middle.
        self.offset += QPointF(
            (event.size() - event.oldSize()).width() / 2,
            (event.size() - event.oldSize()).height() / 2,
        )
        self.repaint_drawing()

    # -- painting -------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        self._lay_picture(painter)
        easel = Easel(painter, self.theme, self.to_pixel, MM_PX)
        if self.lit and not self._dragging:
            self._paint_lit(painter, easel)
        if self.chosen:
            self._paint_chosen(painter, easel)
        if self.run is not None:
            words = paint_tool(painter, easel, self.theme, self.to_pixel, self.run)
            if words:
                self._tag(painter, self.to_pixel(self._pointer) + QPointF(16, -16), words)
        if self._grab and (self._typed or self._dragging):
            self._entry(painter)
        if self._box:
            paint_box(painter, self.theme, *self._box)
        ring(painter, self, self.theme)

    def _lay_picture(self, painter: QPainter) -> None:
        """Lay the painted picture under everything: shifted while panning, stretched while
        zooming."""
        scale, offset = self._painted
        if self._picture is None or (not self._fresh and not self._settle.isActive()):
            self._paint_picture()
            scale, offset = self._painted
        assert self._picture is not None
        factor = self.scale / scale
        mx, my = self.width() * MARGIN, self.height() * MARGIN
        corner = QPointF(-mx, -my) - offset
        at = QPointF(self.offset.x() + corner.x() * factor, self.offset.y() + corner.y() * factor)
        size = self._picture.deviceIndependentSize()
        target = QRectF(at.x(), at.y(), size.width() * factor, size.height() * factor)
        if factor == 1.0:
            painter.drawPixmap(at, self._picture)
            if not target.adjusted(-0.5, -0.5, 0.5, 0.5).contains(QRectF(self.rect())):
                self._settle.start()
                self._fresh = False
        else:
            painter.drawPixmap(target, self._picture, QRectF(self._picture.rect()))

    def _paint_picture(self) -> None:
        ratio = self.devicePixelRatioF()
        mx, my = self.width() * MARGIN, self.height() * MARGIN
        size = QSize(int((self.width() + 2 * mx) * ratio), int((self.height() + 2 * my) * ratio))
        if self._picture is None or self._picture.size() != size:
            self._picture = QPixmap(size)
            self._picture.setDevicePixelRatio(ratio)
        self._picture.fill(QColor(self.theme.paper))
        painter = QPainter(self._picture)
        offset = self.offset + QPointF(mx, my)

        def at(p: Point) -> QPointF:
            return QPointF(offset.x() + p[0] * self.scale, offset.y() - p[1] * self.scale)

        easel = Easel(painter, self.theme, at, MM_PX, far=self._far())
        # Words of what lies under would be read together with those over it.
        easel.paint(tuple(m for m in self.below if not isinstance(m, Label)), faint=True)
        easel.paint(self._lines())
        easel.paint(self._notes())
        painter.end()
        self._painted, self._fresh = (self.scale, QPointF(self.offset)), True

    def _far(self) -> bool:
        """Whether so much is shown so small that fine work would only blacken it."""
        return len(self.lines) > 4000 and self.scale < 0.02

    def _lines(self) -> Drawing:
        """The lines of the plan; contours give way to what is written."""
        if self.building is None or not self.building.project.spots:
            return self.lines
        if self._cleared is None or self._cleared[0] != self.paper:
            made = without_contours_under(self.lines, self._notes(), self.paper)
            self._cleared = (self.paper, made)
        return self._cleared[1]

    def _notes(self) -> Drawing:
        if self._noted is None or self._noted[0] != self.paper:
            self._noted = (self.paper, self.notes(self.paper))
        return self._noted[1]

    def _paint_lit(self, painter: QPainter, easel: Easel) -> None:
        """What sits on what is selected, and what carries it, with amounts where there is room."""
        easel.light(self.index.of(self.lit))
        easel.paint(tuple(m for m in self._notes() if isinstance(m, Label) and m.boxed))
        paint_amounts(painter, self.theme, self.to_pixel, self.index, self.lit)

    def _paint_chosen(self, painter: QPainter, easel: Easel) -> None:
        shift = sub(self._vector, self.applied()) if self._dragging else (0.0, 0.0)
        painter.save()
        painter.translate(shift[0] * self.scale, -shift[1] * self.scale)
        easel.choose(self.index.of(self.chosen))
        painter.restore()

    def _entry(self, painter: QPainter) -> None:
        """Show how far a thing has come, or what is typed instead."""
        at = self.to_pixel(self._pointer) + QPointF(14, -14)
        if self._typed:
            self._tag(painter, at, f"{self._typed} |")
        elif self.building:
            way = (self._vector[0] ** 2 + self._vector[1] ** 2) ** 0.5
            self._tag(painter, at, polish(format_run(way, self.building.project.system)))

    def _step(self, distance: float) -> float:
        """A distance at whole inches, or at 10 mm."""
        size = WHOLE[self.building.project.system] if self.building else 1.0
        return round(distance / size) * size

    def _tag(self, painter: QPainter, at: QPointF, text: str) -> None:
        paint_tag(painter, self.theme, at, text, self.width())

    # -- picking --------------------------------------------------------------

    @property
    def index(self) -> PickIndex:
        """Everything on the plan that has a name, by its place."""
        if self._index is None:
            self._index = PickIndex((*self.lines, *self._notes()))
        return self._index

    def key_at(self, p: Point, kinds: tuple[str, ...] = ()) -> Name | None:
        """What lies at a place: the smallest patch round it, else the nearest line; empty
        where nothing is. Where kinds are named, what is of another does not count."""
        found = [n for n in self.stack_at(p) if not kinds or kind_of(n) in kinds]
        return found[0] if found else None

    def stack_at(self, p: Point) -> list[Name]:
        """Everything that lies at a place, what the tier is about first, then the nearest to the
        eye; what is locked covers what lies under it."""
        found = self.index.stack(p, PICK / self.scale)
        found = sorted(found, key=lambda n: kind_of(n) not in self.prefers)
        return list(takewhile(lambda n: not self.locked(n), found))

    # -- hands ----------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self._let_go()
        p = self.to_plan(event.position())
        self._pointer = p
        if (
            event.button() in (Qt.MouseButton.MiddleButton, Qt.MouseButton.RightButton)
            or self._space
        ):
            self._pan = self._panned_from = event.position()
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        if self.run is not None:
            self.run.click(p, self.field(), CATCH / self.scale)
            self.answered.emit()
            return
        more = bool(
            event.modifiers()
            & (Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
        )
        self.stacked = tuple(self.stack_at(p))
        again = (event.position() - self._clicked).manhattanLength() < SAME_PLACE
        self._clicked, self._next = event.position(), None
        if not self.stacked:
            self._box = (event.position(), event.position())
            return
        key = self.stacked[0]
        if again and not more and len(self.chosen) == 1:
            here = [i for i, n in enumerate(self.stacked) if n in self.chosen]
            if here and len(self.stacked) > 1:  # what is chosen may be meant to be dragged
                key = self.stacked[here[0]]
                self._next = self.stacked[(here[0] + 1) % len(self.stacked)]
        self.picked.emit(key, more)
        way = self.ways(key, p) if self.building and not more else None
        if way is not None:
            self._grab, self._typed = (key, event.position(), way.along), ""
            self._vector = (0.0, 0.0)
            self._grabbed = p

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        p = self.to_plan(event.position())
        self._pointer = p
        if self._pan is not None:
            self.offset += event.position() - self._pan
            self._pan, self._touched = event.position(), True
            self.update()
            return
        if self._box is not None:
            self._box = (self._box[0], event.position())
            self.update()
            return
        if self._grab and not self._typed:
            vector = self._step_vector(self._away(event.position()))
            if max(abs(vector[0]), abs(vector[1])) * self.scale > 4 or self._dragging:
                self._dragging, self._vector = True, vector
                # The plan answers at once; what follows from the drag comes in the next turn.
                self.repaint()
                self.dragged.emit(self._grab[0], Pull(self._grabbed, vector), True)
                return
        if self.run is not None:
            self.run.move(p, self.field(), CATCH / self.scale)
            self.update()
        self.moved.emit(self._where(p))

    def _away(self, position: QPointF) -> Point:
        """How far the pointer is from where the thing was grabbed, in the direction it can
        go, mm."""
        assert self._grab is not None
        _, start, way = self._grab
        away = sub(self.to_plan(position), self.to_plan(start))
        return away if way is None else add((0.0, 0.0), way, dot(away, way))

    def _step_vector(self, away: Point) -> Point:
        assert self._grab is not None
        way = self._grab[2]
        if way is not None:
            return add((0.0, 0.0), way, self._step(dot(away, way)))
        return (self._step(away[0]), self._step(away[1]))

    def _where(self, p: Point) -> str:
        if not self.building:
            return ""
        system = self.building.project.system
        words = f"{format_length(p[0], system)}, {format_length(p[1], system)}"
        key = self.key_at(p)
        return f"{words}   {self.called(key)}" if key else words

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pan is not None:
            self._pan = None
            self._cursor()
            still = (event.position() - self._panned_from).manhattanLength() < 4
            if still and event.button() == Qt.MouseButton.RightButton:
                self._ask_menu(event)
                return
        if self._box is not None:
            a, b = self._box
            self._box = None
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            if (a - b).manhattanLength() < 5:
                self.picked.emit(None, more)
            else:
                self.boxed.emit(self.keys_in(a, b), more)
            self.update()
        if self._grab and self._dragging and not self._typed:
            key, vector = self._grab[0], self._step_vector(self._away(event.position()))
            self._grab, self._dragging = None, False
            self.dragged.emit(key, Pull(self._grabbed, vector), False)
        elif self._next is not None and not self._typed:
            self.picked.emit(self._next, False)
        self._next = None
        if not self._typed:
            self._grab, self._dragging = None, False

    def _ask_menu(self, event: QMouseEvent) -> None:
        """A click with the right button chooses what lies there, and asks what can be done."""
        key = self.key_at(self.to_plan(event.position()))
        if key not in self.chosen:
            self.picked.emit(key, False)
        self.asked.emit(event.globalPosition().toPoint())

    def keys_in(self, a: QPointF, b: QPointF) -> tuple[Name, ...]:
        """What lies whole in a box drawn to the right, or what a box drawn to the left
        touches."""
        p, q = self.to_plan(a), self.to_plan(b)
        box = (min(p[0], q[0]), min(p[1], q[1]), max(p[0], q[0]), max(p[1], q[1]))
        found = self.index.inside(box, touching=b.x() < a.x())
        return tuple(k for k in found if not self.locked(k))

    def _cursor(self) -> None:
        busy = self.run is not None and not self.run.done
        self.setCursor(Qt.CursorShape.CrossCursor if busy else Qt.CursorShape.ArrowCursor)

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom about a pixel (the middle, when left out)."""
        at = at or QPointF(self.width() / 2, self.height() / 2)
        new = max(1e-4, min(5.0, self.scale * factor))
        place = self.to_plan(at)
        self.scale, self._touched = new, True
        self.offset = QPointF(at.x() - place[0] * new, at.y() + place[1] * new)
        self._fresh = False
        self._settle.start()
        self.scaled.emit()
        self.update()

    def event(self, event: QEvent) -> bool:
        """Take Tab before Qt moves the focus with it, while a tool asks for numbers."""
        if (
            event.type() == QEvent.Type.KeyPress
            and self.run is not None
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Tab
            and self.run.key("tab")
        ):
            self.update()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self.run is not None and self._tool_key(event):
            return
        if self._grab and self.building and self._grab_key(event):
            return
        if event.key() == Qt.Key.Key_Escape:
            super().keyPressEvent(
                event
            )  # the window leaves the tool, the preview and the selection
            return
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
            return
        arrows: dict[int, tuple[int, int]] = {
            Qt.Key.Key_Left: (60, 0),
            Qt.Key.Key_Right: (-60, 0),
            Qt.Key.Key_Up: (0, 60),
            Qt.Key.Key_Down: (0, -60),
        }
        if event.key() in arrows and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.offset += QPointF(*arrows[event.key()])
            self._touched = True
            self.update()
            return
        super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            self._cursor()

    def _tool_key(self, event: QKeyEvent) -> bool:
        names: dict[int, str] = {
            Qt.Key.Key_Return: "enter",
            Qt.Key.Key_Enter: "enter",
            Qt.Key.Key_Backspace: "back",
            Qt.Key.Key_Left: "left",
            Qt.Key.Key_Right: "right",
            Qt.Key.Key_Up: "up",
            Qt.Key.Key_Down: "down",
        }
        if event.modifiers() & (
            Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
        ):
            return False
        assert self.run is not None
        used = self.run.key(names.get(event.key(), ""), event.text())
        if used:
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.answered.emit()
            self.update()
        return used

    def _grab_key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._typed:
            self._apply_typed()
            return True
        if event.key() == Qt.Key.Key_Escape:
            self._let_go()
            return True
        if event.key() == Qt.Key.Key_Backspace:
            self._typed = self._typed[:-1]
            self.update()
            return True
        if event.text() and event.text() in "0123456789.'\"/- mc":
            self._typed += event.text()
            self.update()
            return True
        return False

    def _let_go(self) -> None:
        """Leave a thing that is held where it was."""
        if self._grab:
            key = self._grab[0]
            self._grab, self._typed, self._dragging = None, "", False
            self.dragged.emit(key, Pull(self._grabbed, (0.0, 0.0)), False)
            self.update()

    def _apply_typed(self) -> None:
        assert self._grab is not None
        key, _, way = self._grab
        assert self.building is not None
        try:
            value = parse_length(self._typed, self.building.project.system)
        except LengthError as error:
            self.say(str(error))
            return
        away = self._away(self.to_pixel(self._pointer))
        towards = direction_or(away, way or (1.0, 0.0))
        self._grab, self._typed, self._dragging = None, "", False
        self.dragged.emit(key, Pull(self._grabbed, add((0.0, 0.0), towards, value)), False)
        self.update()

    def start(self, run: ToolRun | None) -> None:
        """Give the hand of the plan to a tool, or take it back."""
        self._let_go()
        self.run = run
        if run is not None:
            run.move(self._pointer, self.field(), CATCH / self.scale)
        self._cursor()
        self.update()

    def ratio(self) -> int:
        """The scale of the screen: so many mm of the building to one of the screen."""
        ratio = self.logicalDpiX() / 25.4 / self.scale
        return round(ratio / 5) * 5 if ratio > 20 else round(ratio)
