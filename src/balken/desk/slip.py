"""The slip: the selected piece drawn, its checks as bars, other choices, and its fields."""

import math
from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from balken.design.lines import Check, format_value
from balken.design.sizing import Choice, Sized
from balken.desk.paint import Easel, polish
from balken.desk.plain import PlainLabel
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.marks import Drawing, extent
from balken.drawing.words import pretty
from balken.errors import BalkenError
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
            painter.drawText(QPointF(150 - width, y + 13), number)
            self._bar(painter, y, check.ratio, over)

    def _bar(self, painter: QPainter, y: float, ratio: float, over: bool) -> None:
        t = self.theme
        x, full = 160.0, self.width() - 160.0
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

    def _cell(
        self, painter: QPainter, stops: tuple[float, ...], i: int, y: float, text: str
    ) -> None:
        width = QFontMetricsF(painter.font()).horizontalAdvance(text)
        painter.drawText(QPointF(stops[i] if i == 0 else stops[i] - width, y), text)

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


class Slip(QScrollArea):
    """The column at the right; the window fills it anew for each selection."""

    def __init__(self, theme: Theme, say: Callable[[str], object]) -> None:
        super().__init__()
        self.theme, self.say = theme, say
        self.setFixedWidth(WIDTH)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Slip of the selected piece")
        self.open_check = -1
        self.clear()

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 600)

    def clear(self) -> None:
        """Begin an empty slip."""
        keep = self.verticalScrollBar().value()
        old = self.takeWidget()
        if old:  # it may be in the middle of the click that led here
            old.hide()
            old.deleteLater()
        body = QWidget()
        self.column = QVBoxLayout(body)
        self.column.setContentsMargins(PAD, 16, PAD, 16)
        self.column.setSpacing(4)
        self.setWidget(body)
        self._keep = keep

    def done(self) -> None:
        """Finish filling: laid out at once, for a view that takes long to draw would show it
        crushed till then."""
        self.column.addStretch(1)
        body = self.widget()
        for child in body.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly):
            # A layout shows what is put into it on the next pass only, and till then leaves it no room.
            child.show()
        body.show()
        QApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest)
        self.verticalScrollBar().setValue(self._keep)

    def title(self, mark: str, kind: str, right: str = "") -> None:
        """Write the head of the slip."""
        row = QHBoxLayout()
        name = PlainLabel(polish(mark))
        name.setFont(font(18, bold=True))
        name.setStyleSheet("font-size: 18px; font-weight: 600;")
        row.addWidget(name)
        row.addWidget(caption(kind, quiet=True), 1, Qt.AlignmentFlag.AlignBottom)
        if right:
            row.addWidget(caption(right, quiet=True), 0, Qt.AlignmentFlag.AlignBottom)
        self.column.addLayout(row)

    def line(self, text: str, **how: bool) -> QLabel:
        """Add a line of words."""
        label = caption(polish(text), **how)
        self.column.addWidget(label)
        return label

    def heading(self, text: str, right: str = "") -> None:
        """Add a heading between parts."""
        self.column.addSpacing(10)
        row = QHBoxLayout()
        row.addWidget(caption(text.upper(), caps=True), 1)
        if right:
            row.addWidget(caption(polish(right), quiet=True, small=True))
        self.column.addLayout(row)

    def fact(self, name: str, text: str) -> None:
        """Add a line of two columns."""
        grid = QGridLayout()
        grid.setColumnMinimumWidth(0, 92)
        grid.setColumnStretch(1, 1)
        grid.addWidget(caption(polish(name), quiet=True), 0, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(caption(polish(text)), 0, 1)
        self.column.addLayout(grid)

    def figure(self, drawing: Drawing) -> None:
        """Add a figure."""
        self.column.addSpacing(6)
        self.column.addWidget(Figure(self.theme, drawing))

    def checks(
        self, checks: tuple[Check, ...], system: System, again: Callable[[], object]
    ) -> None:
        """Add the bars, and the lines of the one that is open."""
        bars = Bars(self.theme, checks, self.open_check)

        def toggle(i: int) -> None:
            self.open_check = i
            again()

        bars.opened.connect(toggle)
        self.column.addWidget(bars)
        if 0 <= self.open_check < len(checks):
            self.heading(f"{checks[self.open_check].name}, step by step")
            self.column.addWidget(Lines(self.theme, checks[self.open_check], system))

    def choices(self, sized: Sized, system: System, hold: Callable[[Choice], object]) -> None:
        """Add the table of alternatives."""
        table = Choices(self.theme, sized, system)
        table.held.connect(hold)
        self.column.addWidget(table)

    def field(self, name: str, value: str, change: Callable[[str], object]) -> QLineEdit:
        """Add a typed field; what cannot be read is refused where it is typed, saying what is
        accepted."""
        edit = Field(value.replace("−", "-"))
        edit.setAccessibleName(name)
        edit.passed.connect(lambda by: self._pass_on(edit, by))

        def apply() -> None:
            if edit.text().strip() == value.replace("−", "-").strip():
                return
            try:
                refused = change(edit.text()) is False
            except BalkenError as error:
                refused = True
                self.say(str(error))
            if refused:
                edit.setProperty("wrong", True)
                edit.style().unpolish(edit)
                edit.style().polish(edit)

        edit.returnPressed.connect(apply)
        self._pair(name, edit)
        return edit

    def _pass_on(self, edit: QLineEdit, by: int) -> None:
        """Take what is typed, as Enter does, and go on to the field after it, or before it; what is
        refused stays."""
        names = [e.accessibleName() for e in self._fields()]
        here = self._fields().index(edit)
        edit.returnPressed.emit()
        if edit.property("wrong"):
            return
        wanted = names[(here + by) % len(names)]
        QTimer.singleShot(
            0, lambda: self._to_field(wanted)
        )  # a slip filled anew takes keys once it is shown

    def _to_field(self, name: str) -> None:
        found = next((e for e in self._fields() if e.accessibleName() == name), None)
        if found is not None:
            found.setFocus()
            found.selectAll()

    def _fields(self) -> list[QLineEdit]:
        """The fields of the slip as it is now, from the top."""
        return self.widget().findChildren(QLineEdit)

    def options(
        self,
        name: str,
        values: Sequence[tuple[str, Any]],
        current: Any,
        change: Callable[[Any], object],
    ) -> QComboBox:
        """Add a list to choose from."""
        box = QComboBox()
        box.setAccessibleName(name)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(6)
        for text, value in values:
            box.addItem(polish(text), value)
        here = next((i for i, (_, v) in enumerate(values) if v == current), 0)
        box.setCurrentIndex(here)
        box.activated.connect(lambda i: change(values[i][1]))
        self._pair(name, box)
        return box

    def button(self, text: str, act: Callable[[], object]) -> QPushButton:
        """Add something to do."""
        button = QPushButton(text)
        button.setProperty("act", True)
        button.clicked.connect(lambda: act())
        self.column.addWidget(button)
        return button

    def link(self, name: str, text: str, act: Callable[[], object]) -> QPushButton:
        """Add a line of two columns, the second to be clicked."""
        button = self._go(text, act)
        button.setAccessibleName(f"{name}: {text}" if name else text)
        self._pair(name, button)
        return button

    def _go(self, text: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(polish(text))
        button.setProperty("word", True)
        button.setProperty("go", True)
        button.setCursor(Qt.CursorShape.PointingHandCursor)
        button.clicked.connect(lambda: act())
        button.setAccessibleName(text)
        return button

    def links(self, words: Sequence[tuple[str, Callable[[], object]]]) -> None:
        """Add one line of words to be clicked."""
        row = QHBoxLayout()
        for text, act in words:
            row.addWidget(self._go(text, act))
        row.addStretch(1)
        self.column.addLayout(row)

    def _pair(self, name: str, widget: QWidget) -> None:
        row = QHBoxLayout()
        label = caption(name, quiet=True)
        label.setFixedWidth(112)
        row.addWidget(label)
        widget.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        row.addWidget(widget, 1)
        self.column.addLayout(row)
