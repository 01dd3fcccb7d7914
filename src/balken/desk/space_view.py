"""The building in space: drawn by VTK into an image, turned and picked here, so that it looks and
feels like the desk."""

import math
from functools import partial

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
from balken.desk.space_colours import by_change, by_material, by_reserve
from balken.desk.space_scene import Scene
from balken.desk.theme import Theme, font
from balken.drawing.drawn_over import Over
from balken.model.names import Name
from balken.session.shown import Shown
from balken.works.building import Checked

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
        self._scene: Scene | None = None
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
            self._scene = Scene()
        if self._is_new():
            colour = by_reserve if self.reserve else by_material
            if self.over is not None:
                colour = partial(by_change, self.over)
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
