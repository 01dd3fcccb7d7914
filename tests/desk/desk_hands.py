"""A person's hands: mouse and keys on one widget, and what stands on the slip."""

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from balken.desk.window import Window


class Hands:
    """Mouse and keys on one widget."""

    def __init__(self, qtbot: QtBot, widget: QWidget) -> None:
        self.qtbot, self.widget = qtbot, widget

    def click(self, x: float, y: float) -> None:
        self.qtbot.mouseClick(
            self.widget, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y))
        )

    def move(self, x: float, y: float) -> None:
        """Move the pointer with no button held."""
        at = QPointF(x, y)
        none = Qt.MouseButton.NoButton
        event = QMouseEvent(
            QEvent.Type.MouseMove,
            at,
            self.widget.mapToGlobal(at),
            none,
            none,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(self.widget, event)
        QApplication.processEvents()

    def drag(self, start: tuple[float, float], end: tuple[float, float], steps: int = 8) -> None:
        self.hold(start, end, steps)
        self.qtbot.mouseRelease(
            self.widget, Qt.MouseButton.LeftButton, pos=QPoint(round(end[0]), round(end[1]))
        )

    def hold(self, start: tuple[float, float], end: tuple[float, float], steps: int = 8) -> None:
        """Press and move, without letting go."""
        a, b = QPointF(*start), QPointF(*end)
        self.qtbot.mousePress(self.widget, Qt.MouseButton.LeftButton, pos=a.toPoint())
        for i in range(1, steps + 1):
            at = a + (b - a) * (i / steps)
            _move(self.widget, at)
        QApplication.processEvents()
        hand = getattr(self.widget.window(), "drag", None)
        if (
            hand is not None
        ):  # what follows from a drag is worked out apart; a person would see it a moment later
            hand.settle()
            QApplication.processEvents()
            hand.settle()


def _move(widget: QWidget, at: QPointF) -> None:
    """Send a move with the button held, which Qt's test mouse does not."""
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        at,
        widget.mapToGlobal(at),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(widget, event)


def field(w: Window, name: str) -> QLineEdit:
    """Return a field of the slip."""
    return next(e for e in w.slip.findChildren(QLineEdit) if e.accessibleName() == name)


def enter(qtbot: QtBot, w: Window, name: str, text: str) -> None:
    """Type into a field of the slip, and Enter."""
    edit = field(w, name)
    edit.setText(text)
    qtbot.keyClick(edit, Qt.Key.Key_Return)


def choose(w: Window, name: str, text: str) -> None:
    """Choose from a list of the slip what begins with a text."""
    box = next(b for b in w.slip.findChildren(QComboBox) if b.accessibleName() == name)
    index = next(i for i in range(box.count()) if box.itemText(i).startswith(text))
    box.setCurrentIndex(index)
    box.activated.emit(index)


def press(w: Window, text: str) -> None:
    """Press a word or button of the slip."""
    next(b for b in w.slip.findChildren(QPushButton) if b.text() == text).click()


def words(w: Window) -> str:
    """Return all that the slip says."""
    return " / ".join(x.text() for x in w.slip.findChildren(QLabel))


def answer(window: Window, words: str) -> QPushButton:
    """A word that answers what the line asks."""
    return next(
        b for b in window.line.findChildren(QPushButton) if b.text() == words and b.isVisible()
    )
