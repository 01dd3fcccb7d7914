"""Painting drawings with Qt: the same marks the PDF writer prints, in the colours of the desk."""

from collections.abc import Callable, Iterable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from balken.desk.theme import Theme, font
from balken.drawing.marks import DASHES, PEN_WIDTH, Disc, Drawing, Label, Mark, Patch, Stroke
from balken.geometry.plane import Point
from balken.model.names import Name

SMALLEST = 9.0
"""Fonts smaller than this are rounded too coarsely by the screen, px."""
ToPixel = Callable[[Point], QPointF]


class Easel:
    """A painter with a frame: where places go in pixels, and how many pixels a mm of paper
    takes."""

    def __init__(
        self,
        painter: QPainter,
        theme: Theme,
        to_pixel: ToPixel,
        mm_px: float,
        thinnest: float = 1.0,
        *,
        far: bool = False,
    ) -> None:
        self.painter, self.theme, self.to_pixel, self.mm_px = painter, theme, to_pixel, mm_px
        self.thinnest = thinnest
        self.far = far
        """Seen from so far that fine lines, hatches and soft edges would only be grey."""
        self._pens: dict[tuple[str, bool], QPen] = {}
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, not far)

    def paint(
        self, drawing: Drawing, chosen: frozenset[Name] = frozenset(), *, faint: bool = False
    ) -> None:
        """Paint marks; those whose key is chosen stand out."""
        self.painter.setOpacity(0.35 if faint else 1.0)
        late = []
        for mark in drawing:
            key = getattr(mark, "key", "")
            if key and key in chosen:
                late.append(mark)
                continue
            self.one(mark)
        for mark in late:
            self.one(mark, chosen=True)
        self.painter.setOpacity(1.0)

    def ghost(self, drawing: Drawing) -> None:
        """Paint what is not there yet: its lines in the accent, nothing filled."""
        for mark in drawing:
            if isinstance(mark, Stroke):
                ink = QPen(self.pen(mark.pen))
                ink.setColor(QColor(self.theme.accent))
                ink.setWidthF(min(1.6, ink.widthF()))
                self.painter.setPen(ink)
                self.painter.setBrush(Qt.BrushStyle.NoBrush)
                self.painter.drawPolyline(QPolygonF([self.to_pixel(p) for p in mark.points]))
            else:
                self.one(mark, chosen=True)

    def choose(self, marks: Iterable[Mark]) -> None:
        """Paint what is selected once more: a wash over its body, its lines in the accent; what
        lies in it stays seen."""
        wash = QColor(self.theme.accent)
        wash.setAlpha(52)
        for mark in marks:
            if not isinstance(mark, Patch):
                self.one(mark, chosen=True)
                continue
            polygon = QPolygonF([self.to_pixel(p) for p in mark.ring])
            solid = mark.fill in ("timber", "steel", "end grain")
            self.painter.setPen(
                self.pen("seen" if mark.pen in ("none", "beyond", "hair") else mark.pen, True)
            )
            self.painter.setBrush(QColor(self.theme.accent) if solid else wash)
            self.painter.drawPolygon(polygon)

    def light(self, marks: Iterable[Mark]) -> None:
        """Paint once more, between quiet and selected, what hands its load on to what is selected
        or takes it."""
        wash = QColor(self.theme.lit)
        wash.setAlpha(120)
        pen = QPen(QColor(self.theme.lit), 1.6)
        for mark in marks:
            self.painter.setPen(pen)
            if isinstance(mark, Patch):
                self.painter.setBrush(wash)
                self.painter.drawPolygon(QPolygonF([self.to_pixel(p) for p in mark.ring]))
            elif isinstance(mark, Stroke):
                self.painter.setBrush(Qt.BrushStyle.NoBrush)
                self.painter.drawPolyline(QPolygonF([self.to_pixel(p) for p in mark.points]))

    def one(self, mark: object, *, chosen: bool = False) -> None:
        """Paint one mark."""
        if isinstance(mark, Patch):
            self._patch(mark, chosen)
        elif isinstance(mark, Stroke):
            self.painter.setPen(self.pen(mark.pen, chosen))
            self.painter.setBrush(Qt.BrushStyle.NoBrush)
            self.painter.drawPolyline(QPolygonF([self.to_pixel(p) for p in mark.points]))
        elif isinstance(mark, Disc):
            self.painter.setPen(self.pen(mark.pen, chosen))
            self.painter.setBrush(QColor(self.theme.paper))
            r = mark.radius * self.mm_px
            self.painter.drawEllipse(self.to_pixel(mark.centre), r, r)
        elif isinstance(mark, Label):
            self._label(mark, chosen)

    def pen(self, name: str, chosen: bool = False) -> QPen:
        """The pen of a line kind."""
        made = self._pens.get((name, chosen))
        if made is None:
            made = self._pens[name, chosen] = self._made(name, chosen)
        return made

    def _made(self, name: str, chosen: bool) -> QPen:
        if name == "none":
            return QPen(Qt.PenStyle.NoPen)
        quiet = name in ("hair", "beyond", "centre")
        colour = self.theme.accent if chosen else self.theme.quiet if quiet else self.theme.ink
        ink = QPen(
            QColor(colour),
            max(self.thinnest, PEN_WIDTH[name] * self.mm_px * (1.0 if not chosen else 1.4)),
        )
        ink.setCapStyle(Qt.PenCapStyle.FlatCap)
        ink.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
        if name in DASHES:
            ink.setDashPattern([d * self.mm_px / ink.widthF() for d in DASHES[name]])
        return ink

    def _patch(self, mark: Patch, chosen: bool) -> None:
        polygon = QPolygonF([self.to_pixel(p) for p in mark.ring])
        ink = self.pen(mark.pen, chosen)
        if mark.fill in ("board", "insulation") and mark.pen != "none":
            ink = QPen(ink)
            ink.setColor(QColor(self.theme.quiet))
        if mark.fill in ("timber", "panel") and not chosen and mark.pen != "none":
            ink = QPen(ink)
            ink.setColor(QColor(self.theme.grain))
        fills = {
            "timber": self.theme.timber,
            "steel": self.theme.steel,
            "end grain": self.theme.timber,
            "panel": self.theme.panel_wood,
            "concrete": self.theme.concrete,
            "wall": self.theme.wall,
            "paper": self.theme.paper,
            "ink": self.theme.ink,
            "shade": self.theme.strip,
            "insulation": self.theme.paper,
            "mark": self.theme.wash,
            "block": self.theme.wall,
            "board": self.theme.field,
        }
        painter = self.painter
        fill = fills.get(mark.fill)
        if chosen and mark.fill in ("timber", "steel", "wall", "concrete", "panel", "block"):
            fill = self.theme.wash if mark.fill != "timber" else self.theme.accent
        painter.setPen(Qt.PenStyle.NoPen)
        if fill:
            painter.setBrush(QColor(fill))
            painter.drawPolygon(polygon)
        if self.far:
            pass
        elif mark.fill == "concrete":
            self._stipple(polygon)
        elif mark.fill in ("earth", "misfit", "block"):
            colour = {
                "earth": self.theme.earth,
                "misfit": self.theme.accent,
                "block": self.theme.stipple,
            }[mark.fill]
            brush = QBrush(QColor(colour), Qt.BrushStyle.BDiagPattern)
            painter.setBrush(brush)
            painter.drawPolygon(polygon)
        elif mark.fill == "end grain":
            painter.setPen(QPen(QColor(self.theme.grain), 1.0))
            box = polygon.boundingRect()
            if min(box.width(), box.height()) > 3:
                painter.drawLine(box.topLeft(), box.bottomRight())
                painter.drawLine(box.topRight(), box.bottomLeft())
        elif mark.fill == "insulation":
            self._zigzag(polygon)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(ink)
        painter.drawPolygon(polygon)

    def _stipple(self, polygon: QPolygonF) -> None:
        """Concrete: dots scattered by a fixed rule, so that a drawing always looks the same."""
        painter = self.painter
        path = QPainterPath()
        path.addPolygon(polygon)
        box = polygon.boundingRect()
        step = 7.0
        if box.width() * box.height() > 600_000:
            return
        painter.save()
        painter.setClipPath(path, Qt.ClipOperation.IntersectClip)
        painter.setPen(QPen(QColor(self.theme.stipple), 1.2))
        points = []
        for i in range(int(box.left() // step), int(box.right() // step) + 1):
            for j in range(int(box.top() // step), int(box.bottom() // step) + 1):
                h = (i * 73856093 ^ j * 19349663) & 0xFFFF
                points.append(
                    QPointF(i * step + (h & 0xFF) / 255 * step, j * step + (h >> 8) / 255 * step)
                )
        painter.drawPoints(QPolygonF(points))
        painter.restore()

    def _zigzag(self, polygon: QPolygonF) -> None:
        """Insulation: a zigzag between the long sides of its outline, however it is turned."""
        if polygon.size() < 4:
            return
        a, b, c, d = (polygon.at(i) for i in range(4))
        if _length(b - a) < _length(d - a):
            a, b, c, d = d, a, b, c
        long, wide = _length(b - a), _length(d - a)
        if wide < 4 or long < 4:
            return
        count = max(2, min(400, int(long / max(5.0, wide * 0.55))))
        self.painter.setPen(QPen(QColor(self.theme.hairline), 1.0))
        points = []
        for i in range(count + 1):
            low, high = a + (b - a) * (i / count), d + (c - d) * (i / count)
            points.append(low + (high - low) * (0.12 if i % 2 else 0.88))
        self.painter.drawPolyline(QPolygonF(points))

    def _label(self, mark: Label, chosen: bool) -> None:
        painter = self.painter
        wanted = mark.size * self.mm_px
        # Tiny words are drawn large and shrunk, so that they keep their width.
        drawn = wanted if wanted >= SMALLEST else 4 * SMALLEST
        used = font(drawn, bold=mark.bold)
        painter.setFont(used)
        metrics = QFontMetricsF(used)
        text = polish(mark.text)
        width = metrics.horizontalAdvance(text)
        shift = {"middle": -width / 2, "start": 0.0, "end": -width}[mark.anchor]
        painter.save()
        painter.translate(self.to_pixel(mark.at))
        painter.rotate(-mark.angle)
        if drawn != wanted:
            painter.scale(wanted / drawn, wanted / drawn)
        if mark.boxed:
            painter.fillRect(
                QRectF(shift - 4, -metrics.ascent() - 2, width + 8, metrics.height() + 5),
                QColor(self.theme.paper),
            )
        colour = self.theme.accent if chosen else self.theme.quiet if mark.quiet else self.theme.ink
        painter.setPen(QColor(colour))
        painter.drawText(QPointF(shift, 0.0), text)
        painter.restore()


def _length(v: QPointF) -> float:
    return float((v.x() ** 2 + v.y() ** 2) ** 0.5)


_FRACTIONS = {"1/2": "½", "1/4": "¼", "3/4": "¾", "1/8": "⅛", "3/8": "⅜", "5/8": "⅝", "7/8": "⅞"}


def polish(text: str) -> str:
    """Write common fractions with the signs of print: 12'-6 1/2" becomes 12'-6½"."""
    for plain, sign in _FRACTIONS.items():
        text = _swap(text, plain, sign)
    return text


def _swap(text: str, plain: str, sign: str) -> str:
    import re

    joined = re.sub(rf"(?<=\d) {re.escape(plain)}(?![\d/])", sign, text)
    return re.sub(rf"(?<![\d/]){re.escape(plain)}(?![\d/])", sign, joined)


def ring(painter: QPainter, widget: QWidget, theme: Theme) -> None:
    """A ring round a widget that takes keys, so that it is seen where they go."""
    if widget.hasFocus():
        painter.resetTransform()
        painter.setPen(QPen(QColor(theme.accent), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(widget.rect()).adjusted(1.5, 1.5, -1.5, -1.5))
