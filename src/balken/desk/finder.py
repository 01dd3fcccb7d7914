"""Search-and-do: one field that finds commands, members, levels and grid crossings, and does what
was asked."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from balken.desk.paint import polish
from balken.session.desk import Desk
from balken.session.search import Offer, offers

SHOWN = 10


class Finder(QLineEdit):
    """The field and the list under it."""

    def __init__(self, desk: Desk, over: QWidget) -> None:
        super().__init__()
        self.desk, self.over = desk, over
        self.setPlaceholderText("Find or do: “joist 14”, “Floor 2 +8 in”, “B/3”, “sheets”")
        self.setAccessibleName("Find or do")
        self.setFixedWidth(330)
        self.list = QListWidget(over)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.hide()
        self.list.itemClicked.connect(lambda item: self._do(self.list.row(item)))
        self.offers: list[Offer] = []
        self.textEdited.connect(lambda _: self.look())

    def look(self) -> None:
        """Show what matches."""
        self.offers = offers(self.desk, self.text())[:SHOWN]
        self.list.clear()
        for offer in self.offers:
            self.list.addItem(QListWidgetItem(polish(f"{offer.words}    {offer.note}".rstrip())))
        if not self.offers:
            self.list.addItem(QListWidgetItem("Nothing is called that."))
        self.list.setCurrentRow(0)
        place = self.mapTo(self.over, QPoint(0, self.height() + 4))
        self.list.setGeometry(
            place.x(), place.y(), max(self.width(), 420), 10 + 27 * max(1, len(self.offers))
        )
        self.list.raise_()
        self.list.show()

    def _do(self, row: int) -> None:
        if 0 <= row < len(self.offers):
            offer = self.offers[row]
            self.list.hide()
            self.clear()
            self.over.setFocus()
            offer.act()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            if not self.list.isVisible():
                self.look()
                return
            step = 1 if key == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(
                max(0, min(len(self.offers) - 1, self.list.currentRow() + step))
            )
            return
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._do(self.list.currentRow())
            return
        if key == Qt.Key.Key_Escape:
            self.list.hide()
            self.clear()
            self.over.setFocus()
            return
        super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.list.hide()
