"""Painting a sheet with Qt, in the black on white of paper: on the screen and on a printer."""

from collections.abc import Callable
from functools import partial
from typing import Final

import msgspec
from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter

from balken.desk.paint import Easel
from balken.desk.theme import LIGHT, Theme
from balken.drawing.paper.records import Placed, Sheet
from balken.geometry.plane import Point

WHITE: Final[Theme] = msgspec.structs.replace(
    LIGHT,
    paper="#FFFFFF",
    ink="#000000",
    quiet="#555555",
    timber="#EDEDED",
    grain="#000000",
    concrete="#E0E0E0",
    wall="#EDEDED",
    panel_wood="#E0E0E0",
    accent="#000000",
)
"""Of one colour."""
TINTED: Final[Theme] = msgspec.structs.replace(
    WHITE,
    timber="#F5E3BA",
    grain="#8B6C3C",
    concrete="#D9DEDB",
    wall="#F0EBDB",
    panel_wood="#EDD6A8",
    accent="#9E3D22",
)
"""In the colours of materials."""


def paint_sheet(
    painter: QPainter,
    sheet: Sheet,
    scale: float,
    x0: float,
    y0: float,
    *,
    far: bool = False,
) -> None:
    """Paint a sheet at so many px a mm, its upper left corner at a place.

    Args:
        painter: at work.
        sheet: laid.
        scale: px a mm.
        x0: of its upper left corner, px.
        y0: likewise.
        far: seen from so far that fine lines would only be grey.
    """

    def page(p: Point) -> QPointF:
        return QPointF(x0 + p[0] * scale, y0 + (sheet.height - p[1]) * scale)

    theme = TINTED if sheet.colour else WHITE
    for view in sheet.views:
        at = partial(on_paper, view, page)
        Easel(painter, theme, at, scale, 0.35, far=far).paint(view.drawing)
    Easel(painter, theme, page, scale, 0.35, far=far).paint(sheet.block)


def on_paper(view: Placed, page: Callable[[Point], QPointF], p: Point) -> QPointF:
    """A place of a view on the paper."""
    return page((view.origin[0] + p[0] / view.scale, view.origin[1] + p[1] / view.scale))
