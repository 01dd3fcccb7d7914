"""The fit list: one line a finding; look shows it, mend shows what would change, and then does
it."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from balken.desk.paint import polish, ring
from balken.desk.plain import plain_tip
from balken.desk.theme import SMALL_PX, Theme, font
from balken.fit.finding import KIND_WORDS, Finding, amount_text
from balken.session import mending
from balken.session.desk import Desk
from balken.units import format_force

ROW = 30
MOST_SPOKEN = 20
"""So many findings are read out to assistive tools at once."""


class FitRows(QWidget):
    """The lines of the fit list."""

    def __init__(self, theme: Theme, desk: Desk) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self.findings: tuple[Finding, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self._hover: tuple[int, str] = (-1, "")

    def sizeHint(self) -> QSize:
        return QSize(600, max(ROW, ROW * len(self.findings)))

    def show_findings(self) -> None:
        """Show the findings of the building as it is, whatever is previewed."""
        self.findings = self.desk.as_it_is().findings
        if self.desk.row >= len(self.findings):
            self.desk.row = -1
        self.setMinimumHeight(ROW * max(1, len(self.findings)))
        words = "; ".join(f.text for f in self.findings[:MOST_SPOKEN])
        self.setAccessibleName("Fit list: " + (words or "everything fits"))
        self.update()

    def _zones(self) -> tuple[float, float]:
        return self.width() - 112.0, self.width() - 62.0

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = self.theme
        if not self.findings:
            painter.setFont(font(13))
            painter.setPen(QColor(t.quiet))
            painter.drawText(QPointF(14, 18), "Everything fits.")
            return
        first, last = event.rect().top() // ROW, event.rect().bottom() // ROW
        for i in range(max(0, first), min(len(self.findings), last + 1)):
            self._row(painter, i, self.findings[i])
        ring(painter, self, self.theme)

    def _row(self, painter: QPainter, i: int, f: Finding) -> None:
        t, y = self.theme, i * ROW
        if i == self.desk.row or i == self.desk.armed:
            painter.fillRect(QRectF(6, y, self.width() - 12, ROW - 2), QColor(t.wash))
        self._sign(painter, f.kind, 16, y + 9)
        painter.setFont(font(13, bold=True))
        painter.setPen(QColor(t.ink))
        painter.drawText(QPointF(36, y + 18), KIND_WORDS[f.kind])
        painter.setPen(QColor(t.accent))
        amount = polish(amount_text(self.desk.project, f)) if f.measure != "count" else ""
        metrics = QFontMetricsF(painter.font())
        painter.drawText(QPointF(168 - metrics.horizontalAdvance(amount), y + 18), amount)
        painter.setFont(font(13))
        painter.setPen(QColor(t.ink))
        look, mend = self._zones()
        room = look - 190
        half = room * 0.46
        metrics = QFontMetricsF(painter.font())
        painter.drawText(
            QPointF(182, y + 18),
            metrics.elidedText(polish(f.place), Qt.TextElideMode.ElideRight, half - 8),
        )
        advice = (
            self.desk.preview
            if i == self.desk.armed
            else (f.mend.text if f.mend else f.text.split(". ")[-1])
        )
        painter.setPen(QColor(t.accent if i == self.desk.armed else t.quiet))
        painter.drawText(
            QPointF(182 + half, y + 18),
            metrics.elidedText(polish(advice), Qt.TextElideMode.ElideRight, room - half - 4),
        )
        for zone, word in ((look, "look"), (mend, "do it" if i == self.desk.armed else "mend")):
            if word != "look" and f.mend is None:
                continue
            painter.setFont(font(13, bold=self._hover == (i, word)))
            painter.setPen(QColor(t.accent))
            painter.drawText(QPointF(zone, y + 18), word)

    def _sign(self, painter: QPainter, kind: str, x: float, y: float) -> None:
        """A small sign per kind that reads without colour: hatched, full, open, half."""
        t = self.theme
        box = QRectF(x, y, 10, 10)
        painter.setPen(QPen(QColor(t.accent), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if kind in ("gap", "overlap"):
            painter.drawRect(box)
            painter.drawLine(box.bottomLeft(), box.topRight())
        elif kind in ("over", "unsupported", "load path"):
            painter.fillRect(box, QColor(t.accent))
        else:
            painter.drawRect(box)

    def _at(self, x: float, y: float) -> tuple[int, str]:
        row = int(y // ROW)
        if not 0 <= row < len(self.findings):
            return -1, ""
        look, mend = self._zones()
        if x >= mend - 6 and self.findings[row].mend:
            return row, "do it" if row == self.desk.armed else "mend"
        return row, "look" if look - 6 <= x < mend - 6 else "row"

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._hover = self._at(event.position().x(), event.position().y())
        link = self._hover[1] in ("look", "mend", "do it")
        self.setCursor(Qt.CursorShape.PointingHandCursor if link else Qt.CursorShape.ArrowCursor)
        row = self._hover[0]
        self.setToolTip(plain_tip(polish(self.findings[row].text)) if row >= 0 else "")
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row, zone = self._at(event.position().x(), event.position().y())
        if row < 0:
            return
        self.desk.row = row
        if zone in ("mend", "do it"):
            mending.mend(self.desk, row)
        else:
            mending.look(self.desk, row)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        step = steps.get(event.key())
        if step and self.findings:
            self.desk.row = max(0, min(len(self.findings) - 1, self.desk.row + step))
            mending.look(self.desk, self.desk.row)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.desk.row >= 0:
            mending.mend(self.desk, self.desk.row)
        else:
            super().keyPressEvent(event)


class FitList(QWidget):
    """Heading, lines and the foot of the fit list."""

    def __init__(self, theme: Theme, desk: Desk) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self.rows = FitRows(theme, desk)
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.setWidget(self.rows)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 32, 0, 28)
        layout.addWidget(self.area)
        self.said = ""

    def sizeHint(self) -> QSize:
        return QSize(600, 168)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        t = self.theme
        painter.fillRect(self.rect(), QColor(t.strip))
        painter.setFont(font(SMALL_PX, bold=True))
        painter.setPen(QColor(t.quiet))
        painter.drawText(QPointF(14, 21), "FIT LIST")
        painter.setFont(font(12))
        n = len(self.rows.findings)
        words = (
            "nothing open"
            if not n
            else "1 finding on this building"
            if n == 1
            else f"{n} findings on this building"
        )
        painter.drawText(QPointF(72, 21), words)
        path = self.desk.checked.path
        system = self.desk.system
        applied, soil = sum(path.applied), sum(path.soil_total)
        closed = "Load path closed" if abs(applied - soil) < 1.0 else "Load path open"
        foot = (
            f"{closed}: {format_force(applied, system)} applied, {format_force(soil, system)} into"
            " the soil"
        )
        painter.drawText(QPointF(14, self.height() - 10), self.said or foot)

    def say(self, text: str) -> None:
        """Show a message in the foot."""
        self.said = polish(text)
        self.update()
