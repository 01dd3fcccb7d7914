"""Search-and-do: one field at the top, and under it what the phrase can mean, with what each would
do."""

from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QFocusEvent,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QLineEdit, QWidget

from balken.desk.paint import polish
from balken.desk.theme import SMALL_PX, Theme, font
from balken.session.desk import Desk
from balken.session.search.offer import Offer
from balken.session.search.offers import is_meant, offers
from balken.session.search.told import NOTHING, NOTHING_MORE

SHOWN = 8
ROW, PAD, WIDTH = 40, 12, 460
RESTS = 60
"""What a phrase means is asked after this long without typing, ms."""


class Offers(QWidget):
    """The list under the field."""

    chosen = Signal(int)

    def __init__(self, theme: Theme, over: QWidget) -> None:
        super().__init__(over)
        self.theme = theme
        self.rows: list[Offer] = []
        self.head = ""
        self.now = 0
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("What the phrase can mean")
        self.hide()

    def show_offers(self, head: str, rows: list[Offer]) -> None:
        """Show offers; Enter takes the first. Where there is something to say over them, they are
        only near what was meant, and none is taken before it is chosen."""
        self.head, self.rows, self.now = head, rows, 0 if not head else -1
        self.setFixedSize(WIDTH, self._top() + ROW * len(rows) + 6)
        self._tell()
        self.update()

    def _top(self) -> int:
        return 6 if not self.head else 10 + 18 * (1 + self.head.count("\n"))

    def step(self, by: int) -> None:
        """Go on to the next, or the one before."""
        self.now = max(0, min(len(self.rows) - 1, self.now + by))
        self._tell()
        self.update()

    def _tell(self) -> None:
        """Tell assistive tools what Enter would do."""
        row = self.rows[self.now] if self.rows and self.now >= 0 else None
        does = f": {row.does}" if row and row.does else ""
        self.setAccessibleDescription(f"{row.words}{does}" if row else self.head)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        t = self.theme
        painter.fillRect(self.rect(), QColor(t.field))
        painter.setPen(QPen(QColor(t.hairline), 1))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))
        painter.setFont(font(SMALL_PX))
        painter.setPen(QColor(t.quiet))
        for i, line in enumerate(self.head.split("\n") if self.head else ()):
            painter.drawText(QPointF(PAD, 18 + 18 * i), line)
        for i, offer in enumerate(self.rows):
            self._row(painter, self._top() + i * ROW, offer, i == self.now)

    def _row(self, painter: QPainter, y: float, offer: Offer, now: bool) -> None:
        t = self.theme
        if now:
            painter.fillRect(QRectF(4, y, self.width() - 8, ROW - 2), QColor(t.wash))
            painter.fillRect(QRectF(4, y, 3, ROW - 2), QColor(t.accent))
        painter.setFont(font(SMALL_PX))
        painter.setPen(QColor(t.quiet))
        note = QFontMetricsF(painter.font()).horizontalAdvance(polish(offer.note))
        note = min(note, 150.0)
        room = self.width() - 2 * PAD - note - 12
        small = QFontMetricsF(painter.font())
        right = small.elidedText(polish(offer.note), Qt.TextElideMode.ElideRight, 150)
        painter.drawText(QPointF(self.width() - PAD - note, y + 16), right)
        does = polish(offer.does or "")
        does = small.elidedText(does, Qt.TextElideMode.ElideRight, self.width() - 2 * PAD)
        painter.drawText(QPointF(PAD, y + 32), does)
        painter.setFont(font(13, bold=now))
        painter.setPen(QColor(t.ink))
        words = QFontMetricsF(painter.font()).elidedText(
            polish(offer.words), Qt.TextElideMode.ElideRight, room
        )
        painter.drawText(QPointF(PAD, y + (16 if does else 24)), words)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        row = int((event.position().y() - self._top()) // ROW)
        if 0 <= row < len(self.rows):
            self.now = row
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = int((event.position().y() - self._top()) // ROW)
        if 0 <= row < len(self.rows):
            self.chosen.emit(row)


class Finder(QLineEdit):
    """The field."""

    def __init__(self, theme: Theme, desk: Desk, over: QWidget) -> None:
        super().__init__()
        self.desk, self.over = desk, over
        self.setPlaceholderText("Find or do: “joist 14”, “2x10 at 16”, “frost depth”")
        self.setAccessibleName("Find or do")
        self.setMinimumWidth(180)
        self.setMaximumWidth(330)
        self.list = Offers(theme, over)
        self.list.chosen.connect(self.do)
        self._asked = ""
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(RESTS)
        self._rest.timeout.connect(self.look)
        self.textEdited.connect(lambda _: self._rest.start())

    def sizeHint(self) -> QSize:
        return QSize(330, super().sizeHint().height())

    def look(self) -> None:
        """Show what the phrase can mean now."""
        self._rest.stop()
        self._asked = self.text()
        found = offers(self.desk, self._asked)[:SHOWN]
        if not found:
            head = f"{NOTHING}\n{NOTHING_MORE}"
        elif self._asked.strip() and not is_meant(self.desk, self._asked, found[0]):
            head = f"Nothing is called “{self._asked}”. The nearest:"
        else:
            head = ""
        self.list.show_offers(head, found)
        place = self.mapTo(self.over, QPoint(0, self.height() + 4))
        self.list.move(max(4, min(place.x(), self.over.width() - WIDTH - 4)), place.y())
        self.list.raise_()
        self.list.show()

    def do(self, row: int) -> None:
        """Do what a row of the list offers."""
        if 0 <= row < len(self.list.rows):
            offer = self.list.rows[row]
            self.list.hide()
            self.clear()
            self.over.setFocus()
            offer.act()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            if self.list.isVisible():
                self.list.step(1 if key == Qt.Key.Key_Down else -1)
            else:
                self.look()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self._rest.isActive() or self._asked != self.text() or not self.list.isVisible():
                self.look()  # Enter means what stands there, however fast it was typed
            self.do(self.list.now)
        elif key == Qt.Key.Key_Escape:
            self.list.hide()
            self.clear()
            self.over.setFocus()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.list.hide()
