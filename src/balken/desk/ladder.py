"""The ladder: the section of the building to scale, with every level as a line that can be dragged
or typed."""

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QColor,
    QFocusEvent,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QLineEdit, QWidget

from balken.desk.paint import Easel, polish
from balken.desk.slip_parts import Refusal
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.marks import Patch
from balken.drawing.section import SectionPart, wall_section
from balken.drawing.spread import spread
from balken.drawing.tiers import Tier
from balken.fit.finding import Finding
from balken.model.names import ThingName
from balken.model.project import Level, column, level
from balken.session.desk import Desk, level_of
from balken.session.dragging import RIDGE, Drag
from balken.session.toolbox import WHOLE
from balken.session.veil import is_hidden
from balken.units import LengthError, format_length, format_run, parse_length

WIDTH = 236
NAMES_END, LINE, LINE_END, HEIGHTS = 110.0, 116.0, 180.0, 186.0
"""Across the ladder: names stand up to the first, lines lie between the next two, heights begin at
the last; leaders go between, px."""
MIDDLE = 130.0
"""The outer face of the wall is drawn here, px."""
GRAB = 6.0
"""A level line can be grabbed this near, px."""
NARROW = 5.0
"""In a narrow tier a line is grabbed within this share of its height only, one part in so many, so
that the tier can be taken too."""
ROW = 15.0
"""Least distance between the words of two levels, px."""
TOP, BOTTOM, HEAD, FOOT = 64, 48, 44.0, 36.0
"""The section keeps off the edges by the first two, words by the others, px."""
HINT = "PgUp PgDn tiers · ↑ ↓ levels"


class Word(NamedTuple):
    """What stands beside a height: the level it belongs to, a name and a number."""

    key: str
    """Of a level, or of the ridge; empty for what cannot be taken."""
    z: float
    name: str
    number: str
    quiet: bool = False
    wrong: bool = False


class Ladder(QWidget):
    """Every level at true height, and between them what fills the building."""

    def __init__(self, theme: Theme, desk: Desk, drag: Drag) -> None:
        super().__init__()
        self.theme, self.desk, self.drag = theme, desk, drag
        self.parts: tuple[SectionPart, ...] = ()
        self._frozen: tuple[float, float] | None = None
        """The heights that are shown, while something is dragged."""
        self._held: tuple[str, float, float] | None = None
        """What is dragged, from which pixel row and height."""
        self._hover = ""
        self._typing = ""
        """The level whose height is typed."""
        self.setFixedWidth(WIDTH)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleDescription(HINT)
        self.entry = QLineEdit(self)
        self.entry.setAccessibleName("Height of the level")
        self.entry.hide()
        self.entry.returnPressed.connect(self._typed)
        self.refusal = Refusal(self.entry, self)
        self.refusal.setStyleSheet(f"background: {theme.panel}; padding: 2px 4px;")

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 600)

    def show_building(self) -> None:
        """Show the building as the desk shows it; called after every edit."""
        desk, shown = self.desk, self.desk.shown
        member = desk.member()
        looked = member.host if member else desk.selection
        self.parts = tuple(
            p
            for p in wall_section(shown.checked, shown.findings, looked)
            if not p.tier or not is_hidden(desk.veil, p.tier)
        )
        tier = desk.current_tier()
        self.setAccessibleName(f"Ladder of levels; working in {tier.name if tier else 'nothing'}")
        self.update()

    # -- places ---------------------------------------------------------------

    @property
    def chosen(self) -> str:
        """The key of the level that is selected."""
        return level_of(self.desk.selection)

    def _range(self) -> tuple[float, float]:
        """The heights that are shown, mm."""
        if self._frozen is not None:
            return self._frozen
        heights = [x.elevation for x in self.desk.shown.project.levels] or [0.0]
        heights += [z for t in self.desk.tiers for z in (t.low, t.high)]
        low, high = min(heights), max(heights)
        return low, max(high, low + 1000)

    def scale(self) -> float:
        """Px per mm."""
        low, high = self._range()
        return (self.height() - TOP - BOTTOM) / (high - low)

    def y_of(self, z: float) -> float:
        """The pixel row of a height."""
        return self.height() - BOTTOM - (z - self._range()[0]) * self.scale()

    def z_of(self, y: float) -> float:
        """The height at a pixel row."""
        return self._range()[0] + (self.height() - BOTTOM - y) / self.scale()

    def _to_pixel(self, p: tuple[float, float]) -> QPointF:
        return QPointF(MIDDLE + p[0] * self.scale(), self.y_of(p[1]))

    def words(self) -> list[tuple[Word, float]]:
        """Everything that stands beside a height, and the pixel row it stands at, from the top;
        none nearer to another than can be read."""
        found = sorted(self._all_words(), key=lambda w: (-w.z, w.key))
        rows = spread([self.y_of(w.z) for w in found], ROW, HEAD, self.height() - FOOT)
        return list(zip(found, rows))

    def _all_words(self) -> list[Word]:
        shown = self.desk.shown
        system = shown.project.system
        found = [
            Word(x.id, x.elevation, x.name, format_length(x.elevation, system))
            for x in shown.project.levels
        ]
        top, shapes = self.ridge(), list(shown.checked.structure.roofs.values())
        if top is not None and shapes:
            heel = shapes[0].edges[0].plate + shapes[0].heel
            found.append(Word(RIDGE, top, "Top of ridge", format_length(top, system), quiet=True))
            found.append(Word("", heel, f"heel {format_run(shapes[0].heel, system)}", "", True))
        for misfit in self._misfits():
            low, high = misfit.height or (0.0, 0.0)
            text = f"{misfit.kind} {format_run(misfit.amount, system)}"
            found.append(Word("", (low + high) / 2, "", text, wrong=True))
        return found

    def ridge(self) -> float | None:
        """The height of the highest roof, mm; None where there is none, or roofs are out of
        sight."""
        shown, veil = self.desk.shown, self.desk.veil
        roofs = [t for t in self.desk.tiers if t.kind == "roof" and not is_hidden(veil, t.id)]
        if shown.project.roofs and not roofs:
            return None
        return max((s.roof.top for s in shown.checked.structure.roofs.values()), default=None)

    def _misfits(self) -> list[Finding]:
        found = self.desk.shown.findings
        return [f for f in found if f.height and f.kind in ("gap", "overlap")]

    # -- painting -------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.panel))
        self._band(painter)
        painter.save()
        painter.setClipRect(QRectF(NAMES_END - 4, 0, LINE_END - NAMES_END + 6, self.height()))
        Easel(painter, self.theme, self._to_pixel, 3.2).paint(tuple(p.mark for p in self.parts))
        painter.restore()
        self._frame(painter)
        self._locks(painter)
        for word, y in self.words():
            self._line(painter, word)
            self._leaders(painter, word, y)
            self._word(painter, word, y)

    def _frame(self, painter: QPainter) -> None:
        """The head, the foot, and a ring round all where keys go to the ladder."""
        t = self.theme
        dots_per_mm = self.logicalDpiY() / 25.4
        painter.setPen(QColor(t.quiet))
        painter.setFont(font(SMALL_PX, bold=True))
        painter.drawText(QPointF(14, 24), "LADDER")
        painter.setFont(font(SMALL_PX))
        scale = f"1 : {round(dots_per_mm / self.scale() / 5) * 5}"
        self._right(painter, self.width() - 14, 24, scale)
        painter.drawText(QPointF(14, self.height() - 12), HINT)
        if self.hasFocus():
            painter.setPen(QPen(QColor(t.accent), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(2.5, 2.5, -2.5, -2.5))

    def _right(self, painter: QPainter, x: float, y: float, text: str) -> None:
        """Write text that ends at a place."""
        width = QFontMetricsF(painter.font()).horizontalAdvance(text)
        painter.drawText(QPointF(x - width, y), text)

    def _band(self, painter: QPainter) -> None:
        """A wash over the tier that is worked in."""
        tier = self.desk.current_tier()
        if tier is None:
            return
        drawn = [
            z
            for p in self.parts
            if p.tier == tier.id and isinstance(p.mark, Patch)
            for _, z in p.mark.ring
        ]
        high = min(tier.high, max(drawn, default=tier.high))  # a roof is drawn at its eaves only
        top, bottom = self.y_of(high), self.y_of(tier.low)
        wash = QColor(self.theme.wash)
        wash.setAlpha(150)
        painter.fillRect(QRectF(0, top, self.width(), bottom - top), wash)
        painter.fillRect(QRectF(0, top, 4, max(3.0, bottom - top)), QColor(self.theme.accent))

    def _line(self, painter: QPainter, word: Word) -> None:
        """The line of a level across the section; a level that follows from what is built has an
        open ring at its end."""
        t, y = self.theme, self.y_of(word.z)
        if word.wrong:
            painter.setPen(QPen(QColor(t.accent), 1.2))
            painter.drawLine(QPointF(LINE_END - 8, y), QPointF(LINE_END, y))
            return
        if not word.key:
            return
        on = word.key in (self.chosen, self._hover)
        ink = QPen(QColor(t.accent if on else t.quiet), 1.4 if on else 1.0)
        ink.setDashPattern([2, 3] if word.quiet else [10, 3, 2, 3])
        painter.setPen(ink)
        painter.drawLine(QPointF(LINE, y), QPointF(LINE_END, y))
        if word.key != RIDGE and not level(self.desk.shown.project, word.key).held:
            painter.setPen(QPen(QColor(t.ink), 1.2))
            painter.setBrush(QColor(t.panel))
            painter.drawEllipse(QPointF(LINE, y), 3.2, 3.2)

    def _leaders(self, painter: QPainter, word: Word, y: float) -> None:
        """From the line to its words, where those had to give way."""
        line = self.y_of(word.z)
        painter.setPen(QPen(QColor(self.theme.quiet), 0.8))
        if word.name and (word.key or abs(line - y) > 1.0):
            painter.drawLine(QPointF(NAMES_END, y), QPointF(LINE, line))
        if word.number:
            painter.drawLine(QPointF(LINE_END, line), QPointF(HEIGHTS - 2, y))

    def _word(self, painter: QPainter, word: Word, y: float) -> None:
        t = self.theme
        on = bool(word.key) and word.key in (self.chosen, self._hover)
        painter.setFont(font(12, bold=on or word.wrong))
        metrics = QFontMetricsF(painter.font())
        base = y + metrics.capHeight() / 2
        accent = on or word.wrong
        painter.setPen(QColor(t.accent if accent else t.quiet if word.quiet else t.ink))
        name = metrics.elidedText(polish(word.name), Qt.TextElideMode.ElideRight, NAMES_END - 14)
        painter.drawText(QPointF(12, base), name)
        painter.setPen(QColor(t.accent if accent else t.quiet))
        painter.setFont(font(SMALL_PX, bold=on or word.wrong))
        self._right(painter, self.width() - 5, base, polish(word.number))

    def _locks(self, painter: QPainter) -> None:
        """A bar at the right that joins levels which move together."""
        groups: dict[str, list[float]] = {}
        for item in self.desk.shown.project.levels:
            if item.lock:
                groups.setdefault(item.lock, []).append(self.y_of(item.elevation))
        painter.setPen(QPen(QColor(self.theme.ink), 1.6))
        for i, ys in enumerate(groups.values()):
            x = LINE_END - 3.0 * i
            painter.drawLine(QPointF(x, min(ys)), QPointF(x, max(ys)))
            for y in ys:
                painter.drawLine(QPointF(x - 4, y), QPointF(x, y))

    # -- hands ----------------------------------------------------------------

    def taken_at(self, x: float, y: float) -> str:
        """The key of the level, or the ridge, that is taken at a pixel: by its name, its height or
        its line; empty where a tier is."""
        words = self.words()
        if not LINE <= x <= LINE_END:
            beside = [w.key for w, row in words if w.key and abs(row - y) <= ROW / 2]
            return next((k for k in beside if self._is_word(k, x)), "")
        near = sorted((abs(self.y_of(w.z) - y), w.key) for w, _ in words if w.key)
        return near[0][1] if near and near[0][0] <= self._grab(y) else ""

    def _is_word(self, key: str, x: float) -> bool:
        """Whether the name or the height of a level stands at a place across."""
        word = next(w for w, _ in self.words() if w.key == key)
        metrics = QFontMetricsF(font(12))
        name_end = min(NAMES_END, 14 + metrics.horizontalAdvance(polish(word.name)))
        number = self.width() - 9 - metrics.horizontalAdvance(polish(word.number))
        return x <= name_end or x >= number

    def _grab(self, y: float) -> float:
        """How near to its line a level is taken, px: less in a narrow tier."""
        tier = self.tier_at(y)
        high = abs(self.y_of(tier.high) - self.y_of(tier.low)) if tier else NARROW * GRAB
        return min(GRAB, max(1.0, high / NARROW))

    def tier_at(self, y: float) -> Tier | None:
        """The thinnest tier at a pixel row: joists lie inside the height of nothing else."""
        z = self.z_of(y)
        inside = [t for t in self.desk.tiers if t.low - 1 <= z <= t.high + 1]
        return min(inside, key=lambda t: t.high - t.low, default=None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x, y = event.position().x(), event.position().y()
        self.entry.hide()
        self.refusal.tell("")
        key = self.taken_at(x, y)
        if key:
            self._frozen = self._range()
            self._held = (key, y, self._height_of(key))
            if key != RIDGE:
                self.desk.select(ThingName("level", key))
        elif tier := self.tier_at(y):
            self.desk.work_in(tier.id)

    def _height_of(self, key: str) -> float:
        if key == RIDGE:
            return self.ridge() or 0.0
        return level(self.desk.project, key).elevation

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        x, y = event.position().x(), event.position().y()
        if self._held is None:
            self._hover = self.taken_at(x, y)
            shape = Qt.CursorShape.SizeVerCursor if self._hover else Qt.CursorShape.ArrowCursor
            self.setCursor(shape)
            self.update()
            return
        key, start, height = self._held
        if abs(y - start) < 3:
            return
        raw = height + (start - y) / self.scale()
        step = WHOLE[self.desk.system] / (8 if self.desk.system == "us" else 2)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            step /= 2
        self.drag.drag_level(key, round(raw / step) * step, True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            return
        key, start, _ = self._held
        self._held = self._frozen = None
        if abs(event.position().y() - start) >= 3:
            self.drag.drag_level(key, self._height_of(key), False)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._held = self._frozen = None
        key = self.taken_at(event.position().x(), event.position().y())
        if key and key != RIDGE:
            self.type_height(key)

    def type_height(self, key: str) -> None:
        """Open the field for a level's height."""
        row = next(y for w, y in self.words() if w.key == key)
        self._typing = key
        text = format_length(self._height_of(key), self.desk.system)
        self.entry.setText(text.replace("−", "-"))
        self.entry.setGeometry(self.width() - 112, int(row) - 12, 106, 24)
        self.entry.show()
        self.entry.setFocus()
        self.entry.selectAll()

    def _typed(self) -> None:
        try:
            value = parse_length(self.entry.text(), self.desk.system, negative=True)
        except LengthError as error:
            self.desk.say(str(error))
            self.refusal.setGeometry(12, self.entry.geometry().bottom() + 2, WIDTH - 18, 62)
            self.refusal.tell(str(error))
            self.refusal.raise_()
            return
        self._leave_entry()
        self.drag.drag_level(self._typing, value, False)

    def _leave_entry(self) -> None:
        self.entry.hide()
        self.refusal.tell("")
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        by = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(key), 0)
        if key == Qt.Key.Key_Escape and self.entry.isVisible():
            self._leave_entry()
        elif by and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self._nudge(by)
        elif by:
            self._step(by, column(self.desk.shown.project))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.chosen:
            self.type_height(self.chosen)
        else:
            super().keyPressEvent(event)

    def _nudge(self, by: int) -> None:
        """Move the chosen level by an inch, or by 10 mm."""
        if self.chosen:
            height = self._height_of(self.chosen) + by * WHOLE[self.desk.system]
            self.drag.drag_level(self.chosen, height, False)

    def _step(self, by: int, levels: Sequence[Level]) -> None:
        """Choose the level above, or below."""
        keys = [x.id for x in levels]
        if keys:
            here = keys.index(self.chosen) if self.chosen in keys else len(keys) - (by > 0)
            there = max(0, min(len(keys) - 1, here + by))
            self.desk.select(ThingName("level", keys[there]))

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.desk.say("Page up and page down step through the tiers, arrows through the levels.")
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Step through the tiers."""
        self.desk.next_tier(1 if event.angleDelta().y() > 0 else -1)
