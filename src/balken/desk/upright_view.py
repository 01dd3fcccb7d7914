"""Elevations and the section on the board: the four sides, and a cut that can be moved."""

from collections.abc import Callable
from typing import Final

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from balken.desk.paint import Easel, ring
from balken.desk.pick_index import PickIndex
from balken.desk.plan_view import MM_PX, PICK
from balken.desk.theme import Theme, font
from balken.drawing.cut import View
from balken.drawing.marks import Drawing, extent
from balken.drawing.upright import SIDES, Side, looking, upright_view
from balken.drawing.wall_elevation import Seen, along_at, framed_walls, wall_elevation, way_seen
from balken.drawing.wall_sheets import sheets_drawing
from balken.geometry.plane import Point, add
from balken.model.names import HostName, Name, ThingName
from balken.model.project import wall
from balken.session.desk import DragWay, Pull
from balken.session.shown import Shown
from balken.session.snapping import whole_steps
from balken.session.toolbox import WHOLE
from balken.units import format_length
from balken.works.building import Checked

WORDS = (*SIDES, "section", "wall", "sheets")
SAID = {
    "section": "Arrows move the cut; “section” again turns it.",
    "wall": "The wall that is chosen; “wall” again looks from its other side, arrows go on. Drag what"
    " is chosen, studs and openings; a double click sets a stud.",
    "sheets": "Panels and boards; “sheets” again looks from the other side, arrows go on.",
}
OF_WALL: Final = ("wall", "sheets")
"""Words that show one wall."""
STEP = 304.8
BESIDE = 400.0
"""A section is cut so far beside the middle of a building, where there may be a wall to be cut
along, mm."""
ROUNDS: Final = 8
"""In which the scale of a view that is fitted settles."""


def _wall_of(name: Name) -> HostName | None:
    """The wall that a name belongs to, of the wall itself, a piece or an opening of it."""
    if isinstance(name, ThingName):
        return HostName("wall", name.key) if name.kind == "opening" else None
    return name.host


class UprightView(QWidget):
    """One upright view at a time."""

    picked = Signal(object, bool)
    turned = Signal(str)
    """Another side or cut is looked at; what there is to say about it, or nothing."""
    dragged = Signal(object, object, bool)
    """What is dragged in the framing of a wall, its :class:`Pull`, whether the drag still goes on."""
    stud_set = Signal(str, float)
    """Into which wall, and how far along it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.building: Shown | None = None
        self.chosen: frozenset[Name] = frozenset()
        self.word = "south"
        self.side: Side = "south"
        self.wall: HostName | None = None
        """Whose framing is shown: that of the wall chosen last."""
        self.inside = False
        self.at: float | None = None
        """How far ahead of the building's origin the section is cut, mm; in its middle where
        None."""
        self.scale, self.offset = 0.05, QPointF(0, 0)
        self.lines: Drawing = ()
        self.ways: Callable[[Name, Point], DragWay | None] = lambda name, at: None
        """How a thing can be dragged from a place."""
        self._grab: tuple[Name, Point] | None = None
        """What is in the hand, and where in the elevation it was grabbed."""
        self._pull = Pull((0.0, 0.0), (0.0, 0.0))
        self._pan: QPointF | None = None
        self._moved = False
        self._fitted = False
        self._state: tuple[object, ...] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Upright view")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    def show_building(self, building: Shown, chosen: frozenset[Name]) -> None:
        """Show a building from the present side."""
        self.building, self.chosen = building, chosen
        framed = framed_walls(building.checked)
        hosts = [h for n in chosen if (h := _wall_of(n)) is not None]
        picked = next((h for h in hosts if h in framed), None)
        if picked is None and self.wall not in framed:
            picked = framed[0] if framed else None
        if picked is not None and picked != self.wall:
            self.wall = picked
            self._fitted = self._fitted and self.word not in OF_WALL
        if not self._fitted:
            self.fit()
        self.update()

    def view(self) -> View:
        """The direction of looking."""
        assert self.building is not None
        project = self.building.project
        if self.word != "section":
            return looking(project, self.side)
        ahead = looking(project, self.side).ahead
        return looking(project, self.side, add((0.0, 0.0), ahead, self.cut()))

    def cut(self) -> float:
        """How far ahead of the building's origin the section is cut, mm."""
        assert self.building is not None
        if self.at is not None:
            return self.at
        near, far = self._depths(self.side)
        return (near + far) / 2 + BESIDE

    def _depths(self, side: Side) -> tuple[float, float]:
        """How far ahead of the building's origin its walls begin and end."""
        assert self.building is not None
        view = looking(self.building.project, side)
        depths = [view.deep(p) for w in self.building.project.walls for p in (w.start, w.end)] or [
            0.0
        ]
        return min(depths), max(depths)

    def show_word(self, word: str) -> None:
        """Show another side, or the section: across the building first, a quarter turned when it is
        asked for again."""
        if word in OF_WALL:
            self.inside = self.inside != (self.word == word)
        elif word != "section":
            self.side = word  # type: ignore[assignment]
        elif self.word == "section":
            self.side = SIDES[(SIDES.index(self.side) + 1) % len(SIDES)]
        elif self.building:
            self.side = self._across()
        self.word, self.at = word, None
        self.fit()

    def _across(self) -> Side:
        """The side from which a section shows the short way of the building: rafters and
        joists at full length."""
        deep = {side: self._depths(side) for side in ("south", "east")}
        south, east = (far - near for near, far in deep.values())
        return "east" if east > south else "south"

    def title(self) -> str:
        """What is shown, in words."""
        if self.word in OF_WALL:
            what = "Framing" if self.word == "wall" else "Sheets"
            return f"{what} of a wall" if self.wall else "No wall is framed"
        return "Section" if self.word == "section" else f"{self.word.capitalize()} elevation"

    def caption(self) -> str:
        """The scale, and where a section is cut."""
        ratio = self.logicalDpiX() / 25.4 / self.scale
        text = f"1 : {round(ratio / 5) * 5}"
        if self.word == "section" and self.building:
            into = format_length(
                self.cut() - self._depths(self.side)[0], self.building.project.system
            )
            text += f" · {into} in from the {self.side}"
        return text

    def _draw(self) -> None:
        if self.building is None:
            return
        paper = MM_PX / self.scale
        state = (self.building.checked, self.word, self._looked_at(), self.at, paper)
        if self._state is None or self._state[0] is not state[0] or self._state[1:] != state[1:]:
            self.lines = self._lines(self.building.checked, paper)
            self._state = state

    def _looked_at(self) -> tuple[object, ...]:
        return (self.wall, self.inside) if self.word in OF_WALL else (self.side,)

    def _lines(self, checked: Checked, paper: float) -> Drawing:
        if self.word not in OF_WALL:
            return upright_view(checked, self.view(), paper)
        if self.wall is None or self.wall not in framed_walls(checked):
            return ()
        draw = wall_elevation if self.word == "wall" else sheets_drawing
        return draw(checked, self.wall, paper, self._seen())

    def fit(self) -> None:
        """Show everything."""
        if self.building is None or self.width() < 50:
            return
        beside = (
            60.0 if self.word in OF_WALL else 190.0
        )  # elevations have the names of levels there
        for _ in range(ROUNDS):  # words at the rim take room by the scale that is found
            before = self.scale
            self._draw()
            x0, y0, x1, y1 = extent(self.lines) or (0.0, 0.0, 8000.0, 6000.0)
            room_w, room_h = self.width() - beside, self.height() - 70.0
            self.scale = max(1e-4, min(room_w / max(1.0, x1 - x0), room_h / max(1.0, y1 - y0)))
            self.offset = QPointF(
                (room_w - (x1 - x0) * self.scale) / 2 + 20 - x0 * self.scale,
                40 + (room_h - (y1 - y0) * self.scale) / 2 + y1 * self.scale,
            )
            if abs(self.scale - before) < 0.01 * before:
                break
        self._fitted = True
        self.update()

    def resizeEvent(self, event: object) -> None:
        self.fit()

    def _to_pixel(self, p: Point) -> QPointF:
        return QPointF(self.offset.x() + p[0] * self.scale, self.offset.y() - p[1] * self.scale)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.paper))
        self._draw()
        easel = Easel(painter, self.theme, self._to_pixel, MM_PX)
        easel.paint(self.lines)
        if self.chosen:
            # In its own framing a wall is all there is: only pieces of it are lit.
            lit = self.chosen - {self.wall} if self.word == "wall" else self.chosen
            easel.choose(PickIndex(self.lines).of(lit))
        painter.setFont(font(13))
        for word, x in self._words():
            painter.setFont(font(13, bold=word == self.word))
            painter.setPen(QColor(self.theme.accent if word == self.word else self.theme.quiet))
            painter.drawText(QPointF(x, 20), word)
        ring(painter, self, self.theme)

    def _words(self) -> list[tuple[str, float]]:
        return [(word, 16.0 + 64.0 * i) for i, word in enumerate(WORDS)]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        x, y = event.position().x(), event.position().y()
        if y < 28:
            for word, left in self._words():
                if left - 6 <= x <= left + 56:
                    self._turn(word)
                    return
        self._pan, self._moved = event.position(), False
        name = self._named_at(event.position())
        here = self._to_place(event.position())
        left = event.button() == Qt.MouseButton.LeftButton
        if left and self.word == "wall" and name in self.chosen and self.ways(name, here):
            self._grab = (name, here)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Set a stud where nothing is; on what is there a second click is a click."""
        p = event.position()
        self._draw()
        free = PickIndex(self.lines).at(self._to_place(p), 0.0) is None and p.y() >= 28
        if not free or self.word != "wall" or self.wall is None or self.building is None:
            self.mousePressEvent(event)
            return
        item = wall(self.building.project, self.wall.key)
        at = along_at(item, self._seen(), self._to_place(p)[0])
        self.stud_set.emit(item.id, self._step()(at))

    def _step(self) -> Callable[[float], float]:
        assert self.building is not None, "asked where something is shown"
        return whole_steps(WHOLE[self.building.project.system])

    def _seen(self) -> Seen:
        return "inside" if self.inside else "outside"

    def _to_place(self, p: QPointF) -> Point:
        return ((p.x() - self.offset.x()) / self.scale, (self.offset.y() - p.y()) / self.scale)

    def _named_at(self, p: QPointF) -> Name | None:
        self._draw()
        return PickIndex(self.lines).at(self._to_place(p), PICK / self.scale)

    def _pulled(self, p: QPointF) -> Pull:
        """How far what is in the hand was drawn, in plan and up, in whole steps."""
        assert self._grab is not None, "something is in the hand"
        assert self.wall is not None, "a wall is shown"
        assert self.building is not None, "a wall is shown"
        (x, z), here, step = self._grab[1], self._to_place(p), self._step()
        along, up = step(here[0] - x), step(here[1] - z)
        if abs(up) < abs(along) / 2:  # a hand that means to go along is not meant to lift
            up = 0.0
        way = way_seen(wall(self.building.project, self.wall.key), self._seen())
        return Pull((0.0, 0.0), (way[0] * along, way[1] * along), up)

    def _drop(self, pull: Pull) -> None:
        """Let go of what is in the hand."""
        assert self._grab is not None
        name, self._grab = self._grab[0], None
        self.dragged.emit(name, pull, False)

    def _turn(self, word: str) -> None:
        self.show_word(word)
        self.turned.emit(SAID.get(word, ""))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pan is None:
            return
        step = event.position() - self._pan
        if self._grab is not None and (self._moved or step.manhattanLength() > 4):
            self._moved = True
            pull = self._pulled(event.position())
            if pull != self._pull:
                self._pull = pull
                self.dragged.emit(self._grab[0], pull, True)
            return
        if self._moved or step.manhattanLength() > 4:
            self._moved = True
            self.offset += step
            self._pan = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._grab is not None and self._moved:
            self._drop(self._pulled(event.position()))
            self._pan, self._pull = None, Pull((0.0, 0.0), (0.0, 0.0))
            return
        self._grab = None
        if (
            self._pan is not None
            and not self._moved
            and event.button() == Qt.MouseButton.LeftButton
        ):
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.picked.emit(self._named_at(event.position()), more)
        self._pan = None

    def _next_wall(self, step: int) -> None:
        """Go on to the next framed wall."""
        assert self.building is not None, "asked where something is shown"
        framed = framed_walls(self.building.checked)
        if framed:
            i = framed.index(self.wall) if self.wall in framed else 0
            self.picked.emit(framed[(i + step) % len(framed)], False)
            self.fit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        factor = 1.0015 ** event.angleDelta().y()
        at = event.position()
        x, y = (at.x() - self.offset.x()) / self.scale, (self.offset.y() - at.y()) / self.scale
        self.scale = max(1e-4, min(5.0, self.scale * factor))
        self.offset = QPointF(at.x() - x * self.scale, at.y() + y * self.scale)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: 1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Down: -1,
        }
        if event.key() == Qt.Key.Key_Escape and self._grab is not None:
            self._drop(Pull((0.0, 0.0), (0.0, 0.0)))
            self._pan = None
            return
        step = steps.get(event.key())
        if step and self.building:
            if self.word in OF_WALL:
                self._next_wall(step)
            elif self.word == "section":
                self.at = self.cut() + step * STEP
                self.turned.emit("")
            else:
                i = (SIDES.index(self.side) + step) % 4
                self._turn(SIDES[i])
            return
        super().keyPressEvent(event)
