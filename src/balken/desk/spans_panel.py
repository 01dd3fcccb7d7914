"""Quick spans: the question asked ten times a day, answered while it is typed."""

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from balken.design.codes.us.nds.values import NoValueError
from balken.design.spans import SpanFound, find_span, span_table, usual_sections
from balken.desk.chooser import Chooser
from balken.desk.paint import polish
from balken.desk.plain import PlainLabel, emptied
from balken.desk.slip_parts import Bars, Lines, caption
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.words import pretty
from balken.exchange.span_text import SpanError, read_question, table_words
from balken.model.catalogue import GRADES, SPECIES, catalogue_of
from balken.session.desk import Desk
from balken.units import System, format_length, format_run


class SpanTable(QWidget):
    """Spans by size and spacing: engineered above, tables below in quiet."""

    ROW = 36

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.rows: list[list[SpanFound | None]] = []
        self.system: System = "us"
        self.chosen = ("", 0.0)
        self.setAccessibleName("Table of spans")

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self.rows:
            return
        painter = QPainter(self)
        t = self.theme
        columns = len(self.rows[0])
        width = (self.width() - 70) / columns
        for c, spacing in enumerate(catalogue_of(self.system).spacings[:columns]):
            painter.setFont(font(SMALL_PX))
            painter.setPen(QColor(t.quiet))
            self._right(painter, 70 + (c + 1) * width, 14, polish(format_run(spacing, self.system)))
        for r, row in enumerate(self.rows):
            y = 24 + r * self.ROW
            first = next((f for f in row if f), None)
            if first is None:
                continue
            painter.setFont(font(13, bold=True))
            painter.setPen(QColor(t.ink))
            painter.drawText(QPointF(0, y + 15), pretty(first.asked.section.name))
            for c, found in enumerate(row):
                if found is None:
                    continue
                now = (found.asked.section.name, round(found.asked.spacing)) == (
                    self.chosen[0],
                    round(self.chosen[1]),
                )
                x = 70 + (c + 1) * width
                if now:
                    painter.fillRect(
                        int(x - width + 8), y - 1, int(width - 2), self.ROW - 2, QColor(t.wash)
                    )
                painter.setFont(font(13, bold=now))
                painter.setPen(QColor(t.accent if now else t.ink))
                self._right(
                    painter, x, y + 14, polish(format_length(found.engineered, self.system))
                )
                painter.setFont(font(SMALL_PX))
                painter.setPen(QColor(t.quiet))
                self._right(
                    painter,
                    x,
                    y + 28,
                    polish(format_length(found.table, self.system)) if found.table else "–",
                )

    def _right(self, painter: QPainter, x: float, y: float, text: str) -> None:
        painter.drawText(
            QPointF(x - QFontMetricsF(painter.font()).horizontalAdvance(text), y), text
        )


class SpansPanel(QFrame):
    """The panel over the board."""

    closed = Signal()

    def __init__(self, theme: Theme, desk: Desk, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme, self.system = theme, desk.system
        system = desk.system
        self.setStyleSheet(
            f"SpansPanel {{ background: {theme.strip}; border: 1px solid {theme.hairline}; }}"
        )
        self.setAccessibleName("Quick spans")
        outer = QHBoxLayout(self)
        outer.setContentsMargins(22, 18, 22, 18)
        outer.setSpacing(28)
        left = QVBoxLayout()
        left.setSpacing(8)
        outer.addLayout(left)
        head = PlainLabel("Quick spans")
        head.setStyleSheet("font-size: 18px; font-weight: 600;")
        left.addWidget(head)
        self.grid = QGridLayout()
        self.grid.setSpacing(6)
        left.addLayout(self.grid)
        us = system == "us"
        self.member = self._list(
            "member", [("joist", "joist"), ("ceiling joist", "ceiling-joist"), ("rafter", "rafter")]
        )
        self.species = self._list("species", [(f"{k}  {v}", k) for k, v in SPECIES.items()])
        self.grade = self._list("grade", [(g, g) for g in GRADES["DF-L"]], "No.2")
        names = [s.name for s in catalogue_of(system).sections.values() if s.nominal[0] <= 4]
        self.section = self._list(
            "size", [(pretty(n), n) for n in names], "2x10" if us else "38x235"
        )
        self.spacing = self._text("spacing", '16"' if us else "400")
        self.live = self._text("live load", "40 psf" if us else "1.9 kPa")
        self.snow = self._text("or snow", "")
        self.dead = self._text("dead load", "10 psf" if us else "0.5 kPa")
        self.limit = self._text("live limit ℓ/", "360")
        self.total = self._text("total limit ℓ/", "240")
        self.wet = self._list("service", [("dry", False), ("wet", True)])
        self.message = caption("", quiet=True)
        left.addWidget(self.message)
        left.addStretch(1)
        close = QPushButton("Close  Esc")
        close.setProperty("act", True)
        close.clicked.connect(self.closed.emit)
        left.addWidget(close)
        right = QVBoxLayout()
        right.setSpacing(8)
        outer.addLayout(right, 1)
        self.answer = PlainLabel()
        self.answer.setStyleSheet("font-size: 26px; font-weight: 600;")
        self.beside = caption("", quiet=True)
        right.addWidget(self.answer)
        right.addWidget(self.beside)
        self.detail = QVBoxLayout()
        self.detail.setSpacing(6)
        right.addLayout(self.detail)
        self.table = SpanTable(theme)
        right.addSpacing(14)
        right.addWidget(caption("ENGINEERED SPANS, WITH THE TABLES’ BELOW", caps=True))
        right.addWidget(self.table)
        right.addStretch(1)
        self.open_check = -1
        self.setFocusProxy(self.member)
        self._member_changed()

    def _list(self, name: str, values: list[tuple[str, object]], now: object = None) -> QComboBox:
        box = Chooser(self.theme)
        box.setAccessibleName(name)
        for text, value in values:
            box.addItem(text, value)
        if now is not None:
            box.setCurrentIndex(box.findData(now))
        box.activated.connect(
            lambda _: self._member_changed() if box in (self.member, self.species) else self.work()
        )
        self._place(name, box)
        return box

    def _text(self, name: str, value: str) -> QLineEdit:
        edit = QLineEdit(value)
        edit.setAccessibleName(name)
        edit.textEdited.connect(lambda _: self.work())
        self._place(name, edit)
        return edit

    def _place(self, name: str, widget: QWidget) -> None:
        row = self.grid.rowCount()
        self.grid.addWidget(caption(name, quiet=True), row, 0)
        widget.setFixedWidth(168)
        self.grid.addWidget(widget, row, 1)

    def _member_changed(self) -> None:
        member = self.member.currentData()
        grades = GRADES[self.species.currentData()]
        if [self.grade.itemData(i) for i in range(self.grade.count())] != list(grades):
            now = self.grade.currentData()
            self.grade.clear()
            for g in grades:
                self.grade.addItem(g, g)
            self.grade.setCurrentIndex(
                max(0, self.grade.findData(now if now in grades else "No.2"))
            )
        if getattr(self, "_last", "joist") != member:
            us = self.system == "us"
            loads = {
                "joist": ("40 psf", "10 psf", "1.9 kPa", "0.5 kPa", "360", "240"),
                "ceiling-joist": ("10 psf", "5 psf", "0.5 kPa", "0.25 kPa", "240", "180"),
                "rafter": ("20 psf", "10 psf", "1.0 kPa", "0.5 kPa", "180", "120"),
            }[member]
            self.live.setText(loads[0 if us else 2])
            self.dead.setText(loads[1 if us else 3])
            self.limit.setText(loads[4])
            self.total.setText(loads[5])
            self.snow.clear()
        self._last = member
        self.snow.setEnabled(member == "rafter")
        self.work()

    def work(self) -> None:
        """Answer what is typed now."""
        try:
            asked, _, _ = read_question(
                member=self.member.currentData(),
                species=self.species.currentData(),
                grade=self.grade.currentData(),
                size=self.section.currentData(),
                spacing=self.spacing.text(),
                live=None if self.snow.text() else self.live.text(),
                snow=self.snow.text() or None,
                dead=self.dead.text(),
                limit=_number(self.limit.text(), "live limit"),
                total_limit=_number(self.total.text() or "0", "total limit"),
                wet=bool(self.wet.currentData()),
                incised=False,
                units=self.system,
            )
            found = find_span(asked)
        except (SpanError, NoValueError) as error:
            self.message.setText(polish(str(error)))
            self.answer.setText("–")
            self.beside.setText("")
            self._clear()
            return
        self.message.setText("")
        self.answer.setText(polish(format_length(found.engineered, self.system)))
        bearing = polish(format_run(found.bearing_needed, self.system))
        self.beside.setText(
            polish(
                f"{found.governing} governs. Tables: {table_words(found)}. Bearing needed"
                f" {bearing}."
            )
        )
        self._clear()
        bars = Bars(self.theme, found.checks, self.open_check)
        bars.opened.connect(self._open)
        self.detail.addWidget(bars)
        if 0 <= self.open_check < len(found.checks):
            self.detail.addWidget(Lines(self.theme, found.checks[self.open_check], self.system))
        self.table.system, self.table.chosen = self.system, (asked.section.name, asked.spacing)
        sections = usual_sections(self.system, asked.member)
        self.table.rows = span_table(asked, sections, catalogue_of(self.system).spacings)
        self.table.setFixedHeight(26 + SpanTable.ROW * len(sections))
        self.table.setVisible(self.open_check < 0)
        self.table.update()

    def _open(self, i: int) -> None:
        self.open_check = i
        self.work()

    def _clear(self) -> None:
        emptied(self.detail)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.closed.emit()
            return
        super().keyPressEvent(event)


def _number(text: str, name: str) -> float:
    try:
        return float(text.strip())
    except ValueError:
        raise SpanError(
            f"“{text}” is no number for the {name}: type the n of span / n, such as 360."
        ) from None
