"""What is painted over the picture of a plan with every move: amounts of what is lit, a tool's ghost, the box
that selects, words at the pointer."""

from collections.abc import Callable, Mapping
from typing import Final

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from balken.desk.paint import Easel, polish
from balken.desk.pick_index import PickIndex
from balken.desk.theme import SMALL_PX, Theme, font
from balken.geometry.plane import Point
from balken.model.names import Name
from balken.session.tools.asking import ToolRun

MOST_AMOUNTS: Final = 24
"""More amounts than this would only cover the plan; the slip lists them."""

ToPixel = Callable[[Point], QPointF]


def paint_amounts(
    painter: QPainter, theme: Theme, to_pixel: ToPixel, index: PickIndex, lit: Mapping[Name, str]
) -> None:
    """The amounts of what is lit, where there is room."""
    painter.setFont(font(SMALL_PX, bold=True))
    painter.setPen(QColor(theme.accent))
    shown = [n for n in lit if index.of([n])]
    taken: list[QRectF] = []
    for name in shown if len(shown) <= MOST_AMOUNTS else ():
        amount = lit[name]
        boxes = [index.middle(mark) for mark in index.of([name])[:1]]
        width = painter.fontMetrics().horizontalAdvance(amount)
        for at in map(to_pixel, boxes):
            box = QRectF(at.x() - width / 2 - 3, at.y() - 8, width + 6, 16)
            if amount and not any(box.intersects(other) for other in taken):
                taken.append(box)
                painter.fillRect(box, QColor(theme.wash))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, amount)


def paint_tool(
    painter: QPainter, easel: Easel, theme: Theme, to_pixel: ToPixel, run: ToolRun
) -> str:
    """The ghost of a tool and what it has caught.

    Returns:
        What it says at the pointer; empty where nothing.
    """
    easel.ghost(run.ghost())
    if run.ask is None or run.ask.kind == "text":
        return ""
    at = to_pixel(run.place())
    if run.caught.word and not any(run.typed):
        painter.setPen(QPen(QColor(theme.accent), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(at.x() - 4.5, at.y() - 4.5, 9, 9))
    if run.ask.anchor is not None:
        painter.setPen(QPen(QColor(theme.accent), 1.0))
        painter.drawEllipse(to_pixel(run.ask.anchor), 2.5, 2.5)
    words = run.readout()
    return polish(words) if words else ""


def paint_box(painter: QPainter, theme: Theme, a: QPointF, b: QPointF) -> None:
    """The box that selects: dashed where it takes everything it touches."""
    ink = QPen(QColor(theme.accent), 1.2)
    if b.x() < a.x():
        ink.setDashPattern([4, 3])
    painter.setPen(ink)
    wash = QColor(theme.wash)
    wash.setAlpha(90)
    painter.setBrush(wash)
    painter.drawRect(QRectF(a, b).normalized())


def paint_tag(painter: QPainter, theme: Theme, at: QPointF, text: str, board: float) -> None:
    """Words at a pixel, kept on a board so wide."""
    painter.setFont(font(13, bold=True))
    width = painter.fontMetrics().horizontalAdvance(text)
    at = QPointF(max(6.0, min(at.x(), board - width - 12.0)), max(20.0, at.y()))
    painter.fillRect(int(at.x()) - 5, int(at.y()) - 15, width + 10, 21, QColor(theme.wash))
    painter.setPen(QColor(theme.accent))
    painter.drawText(at, text)
