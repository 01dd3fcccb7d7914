"""A list to choose from."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QWheelEvent
from PySide6.QtWidgets import QComboBox

from balken.desk.theme import Theme


class Chooser(QComboBox):
    """A list to choose from, with a sign that there is more."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(self.theme.quiet), 1.4))
        x, y = self.width() - 14.0, self.height() / 2
        painter.drawPolyline([QPointF(x - 4, y - 2), QPointF(x, y + 2), QPointF(x + 4, y - 2)])

    def wheelEvent(self, event: QWheelEvent) -> None:
        """The wheel moves the slip, and chooses nothing by the way."""
        event.ignore()
