"""Small things made of words: tool words with their key, step words with a count, a line across the
board."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QPushButton, QWidget

from balken.desk.plain import PlainLabel, emptied, plain_tip
from balken.desk.theme import SMALL_PX, Theme, font
from balken.session.commands import Command
from balken.session.face import Answers


class ToolWord(QAbstractButton):
    """A tool: a word and its key."""

    def __init__(self, theme: Theme, command: Command) -> None:
        super().__init__()
        self.theme, self.key = theme, command.key
        text, act = command.words, command.act
        self.setText(text)
        self.setAccessibleName(f"{text}, key {self.key}" if self.key else text)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: act())
        self.setMinimumHeight(20)
        self.setMaximumHeight(26)

    def name(self, words: str) -> None:
        """Say more than the word does, where it is asked for: under the pointer and to assistive
        tools."""
        self.setToolTip(plain_tip(words))
        self.setAccessibleName(words)

    def sizeHint(self) -> QSize:
        return QSize(100, 26)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        on = self.isChecked()
        if on or (self.underMouse() and self.isEnabled()):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(t.wash if on else t.panel))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(5, 1, -5, -1), 3, 3)
        if self.hasFocus():
            painter.setPen(QPen(QColor(t.accent), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(5.5, 1.5, -5.5, -1.5), 3, 3)
        asleep = not self.isEnabled()
        painter.setPen(QColor(t.hairline if asleep else t.accent if on else t.ink))
        painter.setFont(font(13, bold=on))
        base = self.height() / 2 + 5
        painter.drawText(QPointF(12, base), self.text())
        painter.setPen(QColor(t.hairline if asleep else t.quiet))
        painter.setFont(font(SMALL_PX))
        width = QFontMetricsF(painter.font()).horizontalAdvance(self.key)
        painter.drawText(QPointF(self.width() - 12 - width, base), self.key)


class StepWord(QAbstractButton):
    """A step of the work, with the number of its open findings in a ring."""

    def __init__(self, theme: Theme, text: str, act: Callable[[], object]) -> None:
        super().__init__()
        self.theme, self.count = theme, 0
        self.setText(text)
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: act())

    def sizeHint(self) -> QSize:
        width = QFontMetricsF(font(13, bold=True)).horizontalAdvance(self.text())
        return QSize(int(width) + (38 if self.count else 18), 38)

    def set_count(self, count: int) -> None:
        """Show how many findings belong to this step."""
        self.count = count
        self.setAccessibleName(f"{self.text()}, {count} open" if count else self.text())
        self.updateGeometry()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, on = self.theme, self.isChecked()
        painter.setFont(font(13, bold=on))
        painter.setPen(QColor(t.accent if on else t.ink))
        width = QFontMetricsF(painter.font()).horizontalAdvance(self.text())
        painter.drawText(QPointF(8, 24), self.text())
        if on:
            painter.fillRect(QRectF(8, 35, width, 2), QColor(t.accent))
        if self.hasFocus():  # a ring, so that where keys go is told from what is worked on
            painter.setPen(QPen(QColor(t.accent), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            box = QRectF(self.rect()).adjusted(1.5, 7.5, -1.5, -5.5)
            painter.drawRoundedRect(box, 3, 3)
        if self.count:
            painter.setPen(QPen(QColor(t.accent), 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            centre = QPointF(8 + width + 14, 19)
            painter.drawEllipse(centre, 8, 8)
            painter.setFont(font(SMALL_PX, bold=True))
            number = str(self.count)
            w = QFontMetricsF(painter.font()).horizontalAdvance(number)
            painter.drawText(QPointF(centre.x() - w / 2, centre.y() + 4), number)


class Line(QWidget):
    """A line across the top of the board with something to say and something to do about it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(14, 6, 14, 6)
        self.setAutoFillBackground(True)
        self.hide()

    asked: tuple[str, Answers] | None = None
    """What is asked and not answered yet."""

    def ask(self, text: str, answers: Answers) -> None:
        """Show words and answers."""
        self.asked = (text, answers)
        emptied(self.row)
        label = PlainLabel(text)
        label.setWordWrap(True)
        self.row.addWidget(label, 1)
        for word, act in answers:
            button = QPushButton(word)
            button.setProperty("act", True)
            button.clicked.connect(self.answered)
            button.clicked.connect(lambda _=False, a=act: a())
            self.row.addWidget(button)
        self.setStyleSheet(f"background: {self.theme.wash};")
        self.show()

    def answered(self) -> None:
        """Take the question away."""
        self.asked = None
        self.hide()


def hairline(theme: Theme, *, across: bool) -> QWidget:
    """The line between two parts of the desk."""
    line = _Hairline(theme)
    if across:
        line.setFixedHeight(1)
    else:
        line.setFixedWidth(1)
    return line


class _Hairline(QWidget):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme

    def paintEvent(self, event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), QColor(self.theme.hairline))
