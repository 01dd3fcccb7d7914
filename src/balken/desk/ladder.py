"""The ladder: the section of the building to scale, with every level as a line that can be dragged
or typed."""

import math
from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
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
from balken.desk.theme import SMALL_PX, Theme, font
from balken.drawing.marks import Patch
from balken.drawing.section import SectionPart
from balken.drawing.tiers import Tier
from balken.fit.finding import Finding
from balken.model.names import Name
from balken.model.project import Level, column
from balken.session.dragging import RIDGE
from balken.session.shown import Shown
from balken.units import LengthError, format_length, format_run, parse_length

SECTION = (0.5, 0.72)
"""Where across the ladder the section is drawn, as shares of its width."""
GRAB = 6
"""A level line can be grabbed this near, px."""
ROW = 15.0
"""Least distance between the words of two levels, px."""
TOP, BOTTOM = 64, 40


class Ladder(QWidget):
    """Every level at true height, and between them what fills the building."""

    tier_chosen = Signal(object)
    level_chosen = Signal(str)
    level_moved = Signal(str, float, bool)
    """Level, new height, whether the drag still goes on."""

    def __init__(self, theme: Theme, say: Callable[[str], None]) -> None:
        super().__init__()
        self.theme, self.say = theme, say
        self.building: Shown | None = None
        self.parts: tuple[SectionPart, ...] = ()
        self.tiers: tuple[Tier, ...] = ()
        self.tier: Name | None = None
        self.level = ""
        self._drag: tuple[str, float, float] | None = None
        self._hover = ""
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Ladder of levels")
        self.entry = QLineEdit(self)
        self.entry.setAccessibleName("Height of the level")
        self.entry.hide()
        self.entry.returnPressed.connect(self._typed)
        self.entry.textEdited.connect(lambda: self._wrong(False))

    def sizeHint(self) -> QSize:
        return QSize(236, 600)

    def show_building(
        self,
        building: Shown,
        parts: tuple[SectionPart, ...],
        tiers: tuple[Tier, ...],
        tier: Name | None,
        level: str,
    ) -> None:
        """Show a building; called after every edit."""
        self.building, self.parts, self.tiers, self.tier, self.level = (
            building,
            parts,
            tiers,
            tier,
            level,
        )
        self.update()

    roofs_shown = True
    """Whether any roof is in sight."""

    # -- places ---------------------------------------------------------------

    def _range(self) -> tuple[float, float]:
        heights = [x.elevation for x in self.building.project.levels] if self.building else [0.0]
        heights += [t.high for t in self.tiers] + [t.low for t in self.tiers]
        low, high = min(heights), max(heights)
        return low, max(high, low + 1000)

    def scale(self) -> float:
        """Px per mm."""
        low, high = self._frozen if self._drag else self._range()
        return (self.height() - TOP - BOTTOM) / (high - low)

    _frozen: tuple[float, float] = (0.0, 1.0)

    def y_of(self, z: float) -> float:
        """The pixel row of a height."""
        low, _ = self._frozen if self._drag else self._range()
        return self.height() - BOTTOM - (z - low) * self.scale()

    def z_of(self, y: float) -> float:
        """The height at a pixel row."""
        low, _ = self._frozen if self._drag else self._range()
        return low + (self.height() - BOTTOM - y) / self.scale()

    def _to_pixel(self, p: tuple[float, float]) -> QPointF:
        return QPointF(self.width() * 0.52 + p[0] * self.scale(), self.y_of(p[1]))

    def _words(self) -> list[tuple[Level, float]]:
        """Where the words of each level stand, pushed apart so that all can be read."""
        if not self.building:
            return []
        levels = list(reversed(column(self.building.project)))
        ys = [self.y_of(x.elevation) - 4 for x in levels]
        for _ in range(40):
            moved = False
            for i in range(len(ys) - 1):
                if ys[i + 1] - ys[i] < ROW - 0.01:
                    push = (ROW - (ys[i + 1] - ys[i])) / 2
                    ys[i] -= push
                    ys[i + 1] += push
                    moved = True
            if not moved:
                break
        return list(zip(levels, ys))

    # -- painting -------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        t = self.theme
        painter.fillRect(self.rect(), QColor(t.panel))
        if not self.building:
            return
        self._band(painter)
        easel = Easel(painter, t, self._to_pixel, 3.2)
        chosen = [p.mark for p in self.parts]
        easel.paint(tuple(chosen))
        self._head(painter)
        self._ridge(painter)
        self._levels(painter)
        self._misfits(painter)

    def _head(self, painter: QPainter) -> None:
        t = self.theme
        painter.setFont(font(SMALL_PX, bold=True))
        painter.setPen(QColor(t.quiet))
        painter.drawText(QPointF(14, 24), "LADDER")
        painter.setFont(font(SMALL_PX))
        dots_per_mm = self.logicalDpiY() / 25.4
        scale = round(dots_per_mm / self.scale() / 5) * 5
        text = f"1 : {scale}"
        painter.drawText(
            QPointF(self.width() - 14 - QFontMetricsF(painter.font()).horizontalAdvance(text), 24),
            text,
        )

    def _band(self, painter: QPainter) -> None:
        tier = next((x for x in self.tiers if x.id == self.tier), None)
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

    def _levels(self, painter: QPainter) -> None:
        t = self.theme
        system = self.building.project.system
        normal, bold = font(12), font(12, bold=True)
        self._locks(painter)
        for level, y in self._words():
            line = self.y_of(level.elevation)
            if not level.held:
                self._follows(painter, line)
            on = level.id in (self.level, self._hover)
            ink = QPen(QColor(t.accent if on else t.quiet), 1.4 if on else 1.0)
            ink.setDashPattern([10, 3, 2, 3])
            painter.setPen(ink)
            painter.drawLine(QPointF(10, line), QPointF(self.width() - 10, line))
            painter.setFont(bold if on else normal)
            painter.setPen(QColor(t.accent if on else t.ink))
            name = QFontMetricsF(painter.font()).elidedText(
                level.name, Qt.TextElideMode.ElideRight, self.width() * 0.50
            )
            self._text(painter, 12, y, name)
            text = polish(format_length(level.elevation, system))
            painter.setFont(bold if on else normal)
            painter.setPen(QColor(t.accent if on else t.quiet))
            width = QFontMetricsF(painter.font()).horizontalAdvance(text)
            self._text(painter, self.width() - 12 - width, y, text)

    def _follows(self, painter: QPainter, y: float) -> None:
        """An open ring on the line of a level that follows from what is built up to it."""
        painter.setPen(QPen(QColor(self.theme.ink), 1.2))
        painter.setBrush(QColor(self.theme.panel))
        painter.drawEllipse(QPointF(7, y), 3.2, 3.2)

    def _locks(self, painter: QPainter) -> None:
        """A bar at the right that joins levels which move together."""
        groups: dict[str, list[float]] = {}
        for level in self.building.project.levels if self.building else ():
            if level.lock:
                groups.setdefault(level.lock, []).append(self.y_of(level.elevation))
        painter.setPen(QPen(QColor(self.theme.ink), 1.6))
        for i, ys in enumerate(groups.values()):
            x = self.width() - 4.0 - 3.0 * i
            painter.drawLine(QPointF(x, min(ys)), QPointF(x, max(ys)))
            for y in ys:
                painter.drawLine(QPointF(x - 4, y), QPointF(x, y))

    def _top(self) -> float | None:
        """The height of the highest roof; None where there is none, or roofs are out of
        sight."""
        if not self.roofs_shown:
            return None
        shapes = self.building.checked.structure.roofs.values() if self.building else ()
        return max((s.roof.top for s in shapes), default=None)

    def _at_ridge(self, x: float, y: float) -> bool:
        top = self._top()
        if top is None:
            return False
        line = self.y_of(top)
        return abs(line - y) <= GRAB or (
            line - 16 <= y <= line and (x < self.width() * 0.5 or x > self.width() * 0.72)
        )

    def _ridge(self, painter: QPainter) -> None:
        """The top of the roof follows from the pitch, until it is dragged: then the pitch follows
        from it."""
        top = self._top()
        if top is None:
            return
        y = self.y_of(top)
        ink = QPen(QColor(self.theme.quiet), 1.0)
        ink.setDashPattern([2, 3])
        painter.setPen(ink)
        painter.drawLine(QPointF(10, y), QPointF(self.width() - 10, y))
        painter.setFont(font(12))
        painter.setPen(QColor(self.theme.quiet))
        self._text(painter, 12, y - 4, "Top of ridge")
        text = polish(format_length(top, self.building.project.system))
        self._text(
            painter,
            self.width() - 12 - QFontMetricsF(painter.font()).horizontalAdvance(text),
            y - 4,
            text,
        )
        shapes = list(self.building.checked.structure.roofs.values()) if self.building else []
        if shapes:
            heel = polish(f"heel {format_run(shapes[0].heel, self.building.project.system)}")
            self._text(painter, 12, self.y_of(shapes[0].edges[0].plate + shapes[0].heel) - 5, heel)

    def _text(self, painter: QPainter, x: float, y: float, text: str) -> None:
        metrics = QFontMetricsF(painter.font())
        ground = QColor(self.theme.panel)
        ground.setAlpha(215)
        painter.fillRect(
            QRectF(
                x - 2,
                y - metrics.ascent() + 1,
                metrics.horizontalAdvance(text) + 4,
                metrics.height() - 3,
            ),
            ground,
        )
        painter.drawText(QPointF(x, y), text)

    def _misfits(self, painter: QPainter) -> None:
        system = self.building.project.system
        painter.setFont(font(12, bold=True))
        for finding in self._shown():
            low, high = finding.height or (0.0, 0.0)
            x = self.width() * 0.52 - 6
            painter.setPen(QPen(QColor(self.theme.accent), 1.2))
            for z in (low, high):
                painter.drawLine(QPointF(x - 8, self.y_of(z)), QPointF(x + 4, self.y_of(z)))
            text = polish(f"{finding.kind} {format_run(finding.amount, system)}")
            painter.setPen(QColor(self.theme.accent))
            self._text(painter, x + 24, self.y_of(low) + 14, text)

    def _shown(self) -> list[Finding]:
        found = self.building.findings if self.building else ()
        return [f for f in found if f.height and f.kind in ("gap", "overlap")]

    # -- hands ----------------------------------------------------------------

    def _level_at(self, x: float, y: float) -> Level | None:
        for level, word in self._words():
            if word - 12 <= y <= word + 3 and (x < self.width() * 0.5 or x > self.width() * 0.72):
                return level
        near = sorted(
            ((abs(self.y_of(level.elevation) - y), level.id, level) for level, _ in self._words()),
            key=lambda n: n[:2],
        )
        return near[0][2] if near and near[0][0] <= self._grab(x, y) else None

    def _grab(self, x: float, y: float) -> float:
        """How near to its line a level is taken, px: less where the section is drawn and a
        narrow tier lies between two lines, so that the tier can be taken there."""
        if not SECTION[0] <= x / self.width() <= SECTION[1]:
            return GRAB
        tier = self._tier_at(y)
        high = abs(self.y_of(tier.high) - self.y_of(tier.low)) if tier else math.inf
        return min(GRAB, max(1.0, high / 5))

    def _tier_at(self, y: float) -> Tier | None:
        """The thinnest tier at a pixel row: joists lie inside the height of nothing else."""
        z = self.z_of(y)
        inside = [t for t in self.tiers if t.low - 1 <= z <= t.high + 1]
        return min(inside, key=lambda t: t.high - t.low, default=None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x, y = event.position().x(), event.position().y()
        self.entry.hide()
        top = self._top()
        if top is not None and self._at_ridge(x, y):
            self._frozen = self._range()
            self._drag = (RIDGE, y, top)
            return
        level = self._level_at(x, y)
        if level:
            self._frozen = self._range()
            self._drag = (level.id, y, level.elevation)
            self.level_chosen.emit(level.id)
            return
        tier = self._tier_at(y)
        if tier is not None:
            self.tier_chosen.emit(tier.id)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        x, y = event.position().x(), event.position().y()
        if self._drag is None:
            level = self._level_at(x, y)
            self._hover = level.id if level else ""
            taken = level is not None or self._at_ridge(x, y)
            self.setCursor(Qt.CursorShape.SizeVerCursor if taken else Qt.CursorShape.ArrowCursor)
            self.update()
            return
        key, start, height = self._drag
        if abs(y - start) < 3:
            return
        raw = height + (start - y) / self.scale()
        step = 25.4 / 8 if self.building.project.system == "us" else 5.0
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            step /= 2
        self.level_moved.emit(key, round(raw / step) * step, True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag:
            key = self._drag[0]
            moved = abs(event.position().y() - self._drag[1]) >= 3
            self._drag = None
            if moved and key == RIDGE:
                self.level_moved.emit(key, self._top() or 0.0, False)
            elif moved:
                item = next(x for x in self.building.project.levels if x.id == key)
                self.level_moved.emit(key, item.elevation, False)
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._drag = None
        level = self._level_at(event.position().x(), event.position().y())
        if level:
            self.type_height(level.id)

    def type_height(self, key: str) -> None:
        """Open the field for a level's height."""
        for level, y in self._words():
            if level.id == key:
                self.level = key
                self.entry.setText(
                    format_length(level.elevation, self.building.project.system).replace("−", "-")
                )
                self.entry.setGeometry(self.width() - 112, int(y) - 17, 102, 24)
                self.entry.show()
                self.entry.setFocus()
                self.entry.selectAll()

    def _wrong(self, wrong: bool) -> None:
        self.entry.setProperty("wrong", wrong)
        self.entry.style().unpolish(self.entry)
        self.entry.style().polish(self.entry)

    def _typed(self) -> None:
        try:
            value = parse_length(self.entry.text(), self.building.project.system, negative=True)
        except LengthError as error:
            self._wrong(True)
            self.say(str(error))
            return
        self.entry.hide()
        self.setFocus()
        self.level_moved.emit(self.level, value, False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key == Qt.Key.Key_Escape and self.entry.isVisible():
            self.entry.hide()
            self.setFocus()
            return
        names = [level.id for level, _ in self._words()]
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and names:
            if event.modifiers() & Qt.KeyboardModifier.ControlModifier and self.level:
                step = (25.4 if self.building.project.system == "us" else 10.0) * (
                    1 if key == Qt.Key.Key_Up else -1
                )
                item = next(x for x in self.building.project.levels if x.id == self.level)
                self.level_moved.emit(self.level, item.elevation + step, False)
                return
            here = names.index(self.level) if self.level in names else 0
            there = here + (-1 if key == Qt.Key.Key_Up else 1)
            self.level_chosen.emit(names[max(0, min(len(names) - 1, there))])
            return
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.level:
            self.type_height(self.level)
            return
        super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Step through the tiers."""
        ids = [t.id for t in self.tiers]
        if self.tier in ids:
            there = ids.index(self.tier) + (1 if event.angleDelta().y() > 0 else -1)
            if 0 <= there < len(ids):
                self.tier_chosen.emit(ids[there])
