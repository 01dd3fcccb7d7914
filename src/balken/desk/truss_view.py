"""The figure of a truss on the slip, whose panel points can be dragged along its chords."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from balken.desk.paint import polish
from balken.desk.slip_parts import Figure
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.marks import Drawing
from balken.drawing.truss_figure import Fitted
from balken.framing import kinds
from balken.framing.trusses.placing import PlacedTruss, movable
from balken.units import System, format_length

GRIP_PX = 5.0
REACH_PX = 12.0
STEP: dict[System, float] = {"us": 25.4, "metric": 25.0}
"""An arrow key moves a joint so far, mm."""


class TrussFigure(Figure):
    """A truss with grips on the joints that can move: dragged, or chosen and moved with the arrow
    keys."""

    def __init__(
        self,
        theme: Theme,
        drawing: Drawing,
        truss: PlacedTruss,
        put: Callable[[int, float], object],
        system: System,
    ) -> None:
        super().__init__(theme, drawing)
        self.truss, self.put, self.system = truss, put, system
        self.fitted = Fitted.of(truss)
        self.grips = movable(truss)
        self.held: int | None = None
        self.under: int | None = None
        self.at = 0.0
        self.setMouseTracking(True)
        self.setFixedHeight(self.height() + 18)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(
            "The truss; up and down choose a joint, left and right move it along its chord"
        )

    @property
    def words(self) -> str:
        """What is told now."""
        n = self.held if self.held is not None else self.under
        if n is None:
            return "Drag a joint along its chord." if self.grips else ""
        at = self.at if self.held is not None else self.truss.truss.joints[n][0]
        return f"Joint {n + 1}, {format_length(at, self.system)} from the outer face of the wall"

    def pixel(self, n: int, s: float | None = None) -> QPointF:
        """Where a joint is drawn; at another place along its chord where one is given."""
        x, z = self.truss.truss.joints[n]
        a, b = self._ends(n)
        if s is not None and abs(b[0] - a[0]) > 1.0:
            x, z = s, a[1] + (b[1] - a[1]) * (s - a[0]) / (b[0] - a[0])
        p = self.fitted.place((x, z))
        scale = self.width() / (self.box[2] - self.box[0])
        return QPointF((p[0] - self.box[0]) * scale, (self.box[3] - p[1]) * scale)

    def _ends(self, n: int) -> tuple[tuple[float, float], tuple[float, float]]:
        truss = self.truss.truss
        before = next(p for p in truss.pieces if p.kind is not kinds.WEB and p.end == n)
        after = next(p for p in truss.pieces if p.kind is not kinds.WEB and p.start == n)
        return truss.joints[before.start], truss.joints[after.end]

    def _place(self, event: QMouseEvent) -> float:
        x = self.box[0] + event.position().x() * (self.box[2] - self.box[0]) / self.width()
        return self.fitted.along(x)

    def _near(self, event: QMouseEvent) -> int | None:
        found = [((self.pixel(n) - event.position()).manhattanLength(), n) for n in self.grips]
        best = min(found, default=None)
        return best[1] if best is not None and best[0] < REACH_PX else None

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for n in self.grips:
            live = n in (self.held, self.under)
            painter.setPen(QPen(QColor(self.theme.accent if live else self.theme.quiet), 1.4))
            painter.setBrush(QColor(self.theme.paper))
            painter.drawEllipse(
                self.pixel(n, self.at if n == self.held else None), GRIP_PX - 1, GRIP_PX - 1
            )
        painter.setFont(font(SMALL_PX))
        painter.setPen(
            QColor(self.theme.quiet if self.held is None and self.under is None else self.theme.ink)
        )
        painter.drawText(QPointF(0, self.height() - 4), polish(self.words))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.held = self._near(event)
            if self.held is not None:
                self.at = self.truss.truss.joints[self.held][0]
        self._told()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.held is None:
            self.under = self._near(event)
            self.setCursor(
                Qt.CursorShape.SizeHorCursor
                if self.under is not None
                else Qt.CursorShape.ArrowCursor
            )
        else:
            a, b = self._ends(self.held)
            self.at = min(max(self._place(event), a[0]), b[0])
        self._told()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        held, self.held = self.held, None
        if held is not None and abs(self.at - self.truss.truss.joints[held][0]) > 1.0:
            self.put(held + 1, self.at)
        self._told()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape and self.held is not None:
            self.held = None
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and self.grips:
            step = 1 if key == Qt.Key.Key_Down else -1
            now = self.grips.index(self.under) + step if self.under in self.grips else 0
            self.under = self.grips[now % len(self.grips)]
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.under is not None:
            by = STEP[self.system] * (1 if key == Qt.Key.Key_Right else -1)
            self.put(self.under + 1, self.truss.truss.joints[self.under][0] + by)
        else:
            super().keyPressEvent(event)
            return
        self._told()

    def _told(self) -> None:
        self.setAccessibleDescription(self.words)
        self.update()
