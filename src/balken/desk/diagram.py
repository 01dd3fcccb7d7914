"""The figure of a beam on the slip, with the values under the pointer."""

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from balken.design.effects import Diagram
from balken.desk.paint import polish
from balken.desk.slip_parts import Figure
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.beam_figure import along, place_in, words_at
from balken.drawing.marks import Drawing
from balken.framing.member import Member
from balken.units import System

STEPS = 40
"""Arrow keys go along a beam in so many steps."""


class BeamFigure(Figure):
    """A beam with its diagrams; pointing at it, or the arrow keys, tell the values at a place."""

    def __init__(
        self, theme: Theme, drawing: Drawing, member: Member, diagram: Diagram, system: System
    ) -> None:
        super().__init__(theme, drawing)
        self.member, self.diagram, self.system = member, diagram, system
        self.at: float | None = None
        self.setFixedHeight(self.height() + 18)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(
            "Shear, moment and deflection along the beam; arrow keys tell the values"
        )

    @property
    def words(self) -> str:
        """What is told now."""
        return "" if self.at is None else words_at(self.diagram, self.at, self.system)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setFont(font(SMALL_PX))
        painter.setPen(QColor(self.theme.quiet if self.at is None else self.theme.ink))
        painter.drawText(
            QPointF(0, self.height() - 4),
            polish(self.words or "Point at the beam for the values there."),
        )
        if self.at is not None:
            scale = self.width() / (self.box[2] - self.box[0])
            x = (along(self.member, self.at) - self.box[0]) * scale
            painter.setPen(QPen(QColor(self.theme.accent), 1))
            painter.drawLine(QPointF(x, 12), QPointF(x, self.height() - 20))

    def _go(self, at: float | None) -> None:
        self.at = at
        self.setAccessibleDescription(self.words)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        x = self.box[0] + event.position().x() * (self.box[2] - self.box[0]) / self.width()
        self._go(place_in(self.member, x))

    def leaveEvent(self, event: QEvent) -> None:
        self._go(None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        length = self.member.length
        now = length / 2 if self.at is None else self.at
        self._go(min(length, max(0.0, now + step * length / STEPS)))
