"""The first paint: the desk's own places, with what is being brought in said in the middle. It
stands after a moment and can be closed, while program and building come in behind it."""

from PySide6.QtCore import QRect, Qt, Signal
from PySide6.QtGui import QCloseEvent, QColor, QKeyEvent, QPainter, QPaintEvent, QScreen
from PySide6.QtWidgets import QWidget

from balken.desk.theme import TEXT_PX, Theme, font

USUAL, LEAST = (1280, 800), (900, 560)
"""The size of the window where the screen has room for it, and the least it can be made, px."""
TOP, LADDER, SLIP, LIST = 38, 236, 332, 150
"""Height of the top bar, widths of ladder and slip, height of the fit list, px."""
PACE_PX = 22
"""From one line of words to the next."""


def first_size(screen: QScreen) -> tuple[int, int]:
    """The size a window opens with: no larger than the screen, with room for its frame."""
    free = screen.availableGeometry()
    frame = 32  # of the window manager, round the window
    return (
        max(LEAST[0], min(USUAL[0], free.width())),
        max(LEAST[1], min(USUAL[1], free.height() - frame)),
    )


class Opening(QWidget):
    """A window whose building is still on its way. Escape or its close button gives it up."""

    closed = Signal()
    """It was closed: given up, or the building stands in its place."""

    def __init__(self, name: str, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.name = name
        self.doing = ""
        self.setWindowTitle(f"{name} – Balken")
        self.setAccessibleName(f"Opening {name}")
        self.setMinimumSize(*LEAST)
        self.resize(*first_size(self.screen()))

    def reach(self, doing: str) -> None:
        """Show what is being done now."""
        self.doing = doing
        self.setAccessibleDescription(doing)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        else:
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.closed.emit()
        super().closeEvent(event)

    def board(self) -> QRect:
        """Where the building will be drawn."""
        return self.rect().adjusted(LADDER, TOP, -SLIP, -LIST)

    def paintEvent(self, event: QPaintEvent) -> None:
        t, board, whole = self.theme, self.board(), self.rect()
        painter = QPainter(self)
        painter.fillRect(whole, QColor(t.panel))
        painter.fillRect(board, QColor(t.paper))
        painter.fillRect(0, 0, whole.width(), TOP, QColor(t.strip))
        painter.fillRect(LADDER, whole.height() - LIST, board.width(), LIST, QColor(t.strip))
        painter.setPen(QColor(t.hairline))
        painter.drawRect(board)
        middle = board.center().y()
        for row, (words, colour) in enumerate(
            ((f"Opening {self.name}", t.ink), (self.doing, t.quiet), ("Esc gives it up", t.quiet))
        ):
            painter.setFont(font(TEXT_PX + 5 if row == 0 else TEXT_PX))
            painter.setPen(QColor(colour))
            line = QRect(board.x(), middle + (row - 2) * PACE_PX, board.width(), PACE_PX)
            painter.drawText(line, Qt.AlignmentFlag.AlignCenter, words)
