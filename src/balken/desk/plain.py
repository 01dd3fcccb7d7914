"""Words from files shown as they are: no name is ever read as marked-up text, which could fetch
pictures or devices."""

import html

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QLayout, QWidget


class PlainLabel(QLabel):
    """A label that shows its text letter by letter."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class ShortLabel(PlainLabel):
    """A label that gives way: where there is no room for all of its text, it ends in an ellipsis
    and tells the whole under the pointer."""

    def __init__(self, least: int = 0) -> None:
        super().__init__()
        self.least = least
        """So wide it stays before others must have given way, px."""

    def minimumSizeHint(self) -> QSize:
        whole = super().minimumSizeHint()
        return QSize(min(self.least, whole.width()), whole.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        shown = self.fontMetrics().elidedText(
            self.text(), Qt.TextElideMode.ElideRight, self.contentsRect().width()
        )
        if shown == self.text():
            self.setToolTip("")
            super().paintEvent(event)
            return
        self.setToolTip(plain_tip(self.text()))
        painter = QPainter(self)
        self.style().drawItemText(
            painter,
            self.contentsRect(),
            int(self.alignment()),
            self.palette(),
            self.isEnabled(),
            shown,
            self.foregroundRole(),
        )


def emptied(layout: QLayout) -> None:
    """Take every widget out of a layout; it may be in the middle of the click that led here."""
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None:
            widget.hide()
            widget.deleteLater()


def plain_tip(text: str) -> str:
    """A tip under the pointer that shows a text letter by letter."""
    return f"<qt>{html.escape(text)}</qt>" if text else ""
