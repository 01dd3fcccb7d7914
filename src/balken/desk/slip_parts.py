"""Parts of the slip: captions, figures, bars of checks and their lines, other choices, fields."""

import math
from typing import Final

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import (
    QLabel,
    QLineEdit,
    QWidget,
)

from balken.design.lines import Check, format_value
from balken.design.sizing import Choice, Sized
from balken.desk.paint import Easel, polish, ring
from balken.desk.plain import PlainLabel
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.marks import Drawing, extent
from balken.drawing.words import pretty
from balken.units import System, format_run

WIDTH = 332
PAD = 18


def caption(
    text: str, *, caps: bool = False, quiet: bool = False, bold: bool = False, small: bool = False
) -> QLabel:
    """A line of words."""
    label = PlainLabel(text)
    for name, on in (("caps", caps), ("quiet", quiet), ("bold", bold), ("small", small)):
        label.setProperty(name, on)
    label.setWordWrap(len(text) > 22 and not caps)
    return label


class Figure(QWidget):
    """A drawing fitted to the width of the slip."""

    def __init__(self, theme: Theme, drawing: Drawing) -> None:
        super().__init__()
        self.theme, self.drawing = theme, drawing
        x0, y0, x1, y1 = extent(drawing) or (0, 0, 100, 20)
        self.box = (min(x0, 0.0), y0 - 3.0, max(x1, 100.0), y1 + 4.5)
        scale = (WIDTH - 2 * PAD) / (self.box[2] - self.box[0])
        self.setFixedHeight(int((self.box[3] - self.box[1]) * scale) + 4)
        self.setAccessibleName("Figure of the selected piece")

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        scale = self.width() / (self.box[2] - self.box[0])

        def at(p: tuple[float, float]) -> QPointF:
            return QPointF((p[0] - self.box[0]) * scale, (self.box[3] - p[1]) * scale)

        Easel(painter, self.theme, at, 3.4).paint(self.drawing)


FIRST_BAR: Final = 160.0
"""Bars of checks begin there where names are short, px."""
NUMBER: Final = 48.0
"""A utilisation takes so much beside its name, px."""


class Bars(QWidget):
    """Checks as bars: a length and a number; the line at 1.00 is where it is used up. Click opens
    the lines."""

    opened = Signal(int)
    ROW = 31

    def __init__(self, theme: Theme, checks: tuple[Check, ...], chosen: int) -> None:
        super().__init__()
        self.theme, self.checks, self.chosen = theme, checks, chosen
        self.setFixedHeight(self.ROW * len(checks))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        names = QFontMetricsF(font(13))
        widest = max((names.horizontalAdvance(c.name) for c in checks), default=0.0)
        self.bars = max(FIRST_BAR, widest + NUMBER)
        """Where the bars begin: past the longest name and the numbers, px."""
        self.setAccessibleName("Checks: " + ", ".join(f"{c.name} {c.ratio:.2f}" for c in checks))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        for i, check in enumerate(self.checks):
            y = i * self.ROW
            if i == self.chosen:
                painter.fillRect(
                    QRectF(-PAD, y - 2, self.width() + 2 * PAD, self.ROW), QColor(t.wash)
                )
            over = check.ratio > 1.0 + 1e-9
            painter.setFont(font(13))
            painter.setPen(QColor(t.accent if over else t.ink))
            painter.drawText(QPointF(0, y + 13), check.name)
            painter.setFont(font(SMALL_PX))
            painter.setPen(QColor(t.quiet))
            painter.drawText(QPointF(0, y + 25), f"{check.clause}   {check.combination}")
            painter.setFont(font(13, bold=True))
            painter.setPen(QColor(t.accent if over else t.ink))
            number = f"{check.ratio:.2f}" if math.isfinite(check.ratio) else "∞"
            width = QFontMetricsF(painter.font()).horizontalAdvance(number)
            painter.drawText(QPointF(self.bars - 10 - width, y + 13), number)
            self._bar(painter, y, check.ratio, over)
        ring(painter, self, t)

    def _bar(self, painter: QPainter, y: float, ratio: float, over: bool) -> None:
        t = self.theme
        x, full = self.bars, self.width() - self.bars
        unit = full / 1.25
        painter.setPen(QPen(QColor(t.hairline), 1))
        painter.setBrush(QColor(t.field))
        painter.drawRect(QRectF(x, y + 4, full, 9))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(t.accent if over else t.ink))
        painter.drawRect(QRectF(x, y + 4, min(full, unit * min(ratio, 1.25)), 9))
        painter.setPen(QPen(QColor(t.accent), 1.6))
        painter.drawLine(QPointF(x + unit, y + 1), QPointF(x + unit, y + 16))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = int(event.position().y() // self.ROW)
        self.opened.emit(-1 if row == self.chosen else row)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        step = steps.get(event.key())
        if step is None:
            super().keyPressEvent(event)
            return
        self.opened.emit(max(0, min(len(self.checks) - 1, self.chosen + step)))


class Lines(QWidget):
    """Every line of one check: symbol, value, how, clause."""

    ROW = 19

    def __init__(self, theme: Theme, check: Check, system: System) -> None:
        super().__init__()
        self.theme, self.check, self.system = theme, check, system
        self.setFixedHeight(self.ROW * len(check.lines) + 6)
        self.setAccessibleName(
            f"Calculation of {check.name}: "
            + "; ".join(f"{s.symbol} {format_value(s, system)}" for s in check.lines)
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        t = self.theme
        for i, line in enumerate(self.check.lines):
            y = i * self.ROW + 13
            painter.setFont(font(12, bold=True))
            painter.setPen(QColor(t.ink))
            painter.drawText(QPointF(0, y), line.symbol)
            painter.setFont(font(12))
            value = polish(format_value(line, self.system))
            width = QFontMetricsF(painter.font()).horizontalAdvance(value)
            painter.drawText(QPointF(150 - width, y), value)
            painter.setPen(QColor(t.quiet))
            painter.setFont(font(SMALL_PX))
            note = "  ".join(n for n in (line.how, line.clause) if n)
            note = QFontMetricsF(painter.font()).elidedText(
                note, Qt.TextElideMode.ElideRight, self.width() - 160
            )
            painter.drawText(QPointF(160, y), note)


class Choices(QWidget):
    """Other sections and spacings with worst utilisation, cost and depth; click holds one."""

    held = Signal(object)
    ROW = 23

    def __init__(self, theme: Theme, sized: Sized, system: System, most: int = 7) -> None:
        super().__init__()
        self.theme, self.system = theme, system
        self.current = sized.size
        self.rows = shortlist(sized, most)
        self.setFixedHeight(self.ROW * (len(self.rows) + 1))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("Other choices of section and spacing")
        self.setAccessibleDescription("Up and down go through them, Enter holds one")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._hover = -1
        self.setMouseTracking(True)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        t = self.theme
        stops = (0.0, 118.0, 176.0, 240.0, float(self.width()))
        painter.setFont(font(SMALL_PX))
        painter.setPen(QColor(t.quiet))
        words = ("section", "at" if self.current.spacing else "", "worst", "cost", "depth")
        for i, word in enumerate(words):
            self._cell(painter, stops, i, 14, word)
        for r, choice in enumerate(self.rows, 1):
            y = r * self.ROW
            now = (
                choice.section == self.current.section
                and abs(choice.spacing - self.current.spacing) < 0.1
            )
            if now or r == self._hover:
                painter.fillRect(
                    QRectF(-PAD, y - 1, self.width() + 2 * PAD, self.ROW),
                    QColor(t.wash if now else t.strip),
                )
            painter.setFont(font(13, bold=now))
            cells = (
                pretty(choice.section),
                polish(format_run(choice.spacing, self.system)) if choice.spacing else "",
                f"{choice.worst:.2f}",
                f"{choice.cost:,.0f}",
                polish(format_run(choice.depth, self.system)),
            )
            bad = {2: choice.worst > 1.0 + 1e-9, 4: not choice.fits}
            for i, cell in enumerate(cells):
                colour = t.accent if bad.get(i) else t.quiet if not choice.passes else t.ink
                painter.setPen(QColor(colour))
                painter.setFont(font(13, bold=now or bool(bad.get(i)), column=i in (2, 3)))
                self._cell(painter, stops, i, y + 15, cell)
        ring(painter, self, t)

    def _cell(
        self, painter: QPainter, stops: tuple[float, ...], i: int, y: float, text: str
    ) -> None:
        width = QFontMetricsF(painter.font()).horizontalAdvance(text)
        painter.drawText(QPointF(stops[i] if i == 0 else stops[i] - width, y), text)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        if step:
            self._hover = max(1, min(len(self.rows), max(self._hover, 0) + step))
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._hover > 0:
            self.held.emit(self.rows[self._hover - 1])
        else:
            super().keyPressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._hover = int(event.position().y() // self.ROW)
        self.update()

    def leaveEvent(self, event: object) -> None:
        self._hover = -1
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = int(event.position().y() // self.ROW) - 1
        if 0 <= row < len(self.rows):
            self.held.emit(self.rows[row])


def shortlist(sized: Sized, most: int) -> list[Choice]:
    """The choices worth showing: the present one, the cheapest that pass, then those that
    just fail."""
    now = [
        c
        for c in sized.choices
        if c.section == sized.size.section and abs(c.spacing - sized.size.spacing) < 0.1
    ]
    passing = [c for c in sized.choices if c.passes and c not in now]
    failing = sorted(
        (c for c in sized.choices if not c.passes and c not in now), key=lambda c: c.worst
    )
    weak = [c for c in failing if c.fits][:2]
    deep = [c for c in failing if not c.fits and c.worst <= 1.0][-1:] + [
        c for c in failing if not c.fits and c.worst <= 1.0
    ][:1]
    shown = list(dict.fromkeys(now + passing[: most - len(now) - 3] + weak + deep))
    return sorted(shown, key=lambda c: (c.cost, c.depth))[:most]


class Field(QLineEdit):
    """A typed value: Tab takes it as Enter does."""

    passed = Signal(int)
    """Tab (1) or Shift+Tab (-1) after something was typed."""

    def event(self, event: QEvent) -> bool:
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.KeyPress
            and self.isModified()
        ):
            by = {Qt.Key.Key_Tab: 1, Qt.Key.Key_Backtab: -1}.get(Qt.Key(event.key()), 0)
            if by:
                self.passed.emit(by)
                return True
        return super().event(event)


class Refusal(PlainLabel):
    """Why what was typed is not taken, under the field it was typed in, until something else is
    typed there."""

    def __init__(self, edit: QLineEdit, parent: QWidget | None = None) -> None:
        super().__init__("", parent)
        self.edit = edit
        self.setProperty("accent", True)
        self.setProperty("small", True)
        self.setWordWrap(True)
        self.hide()
        edit.textEdited.connect(lambda _: self.tell(""))

    def tell(self, why: str) -> None:
        """Say why, or nothing any more."""
        self.setText(polish(why))
        self.setVisible(bool(why))
        self.edit.setAccessibleDescription(why)
        self.edit.setProperty("wrong", bool(why))
        self.edit.style().unpolish(self.edit)
        self.edit.style().polish(self.edit)
