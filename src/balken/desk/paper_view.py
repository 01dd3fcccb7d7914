"""Paper: the sheets as they will be printed. Only the one that is looked at is laid, apart from the
window."""

from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
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
from PySide6.QtWidgets import QWidget

from balken.desk.paint import Easel, ring
from balken.desk.theme import LIGHT, SMALL_PX, Theme, font
from balken.desk.work import Errand, run_apart
from balken.drawing.sheet import Sheet
from balken.drawing.sheet_set import Page

NUMBERS, BESIDE = 30, 24
"""So many numbers of sheets at most under one, with so much room left and right of them, px."""


class PaperView(QWidget):
    """One sheet at a time; wheel or page keys turn."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.pages: tuple[Page, ...] = ()
        self.page = 0
        self.laid: dict[int, Sheet] = {}
        """Of the building as it is now, by page."""
        self.before: Sheet | None = None
        """What was looked at last: shown until the next is laid."""
        self.fault = ""
        self._errand: Errand | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Sheets")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    @property
    def sheet(self) -> Sheet | None:
        """The sheet that is looked at; None while it is being laid."""
        return self.laid.get(self.page)

    def show_pages(self, pages: tuple[Page, ...]) -> None:
        """Show the sheets of a building, from the one looked at."""
        self.pages, self.laid, self.fault = pages, {}, ""
        self.page = min(self.page, max(0, len(pages) - 1))
        self._lay()

    def look_at(self, begins: str) -> None:
        """Look at the first page whose number begins like this."""
        found = (n for n, page in enumerate(self.pages) if page.number.startswith(begins))
        self.turn(next(found, self.page) - self.page)

    def turn(self, by: int) -> None:
        """Turn pages."""
        if self.pages:
            self.page = max(0, min(len(self.pages) - 1, self.page + by))
            self._lay()

    def _lay(self) -> None:
        """Lay the sheet that is looked at, one at a time: what is asked for meanwhile waits, and
        only the last of it."""
        self.update()
        if self.pages and self.sheet is None and self._errand is None:
            asked = self.pages, self.page
            self._errand = run_apart(
                self, self.pages[self.page].lay, partial(self._have, asked), self._failed
            )

    def _have(self, asked: tuple[tuple[Page, ...], int], sheet: Sheet) -> None:
        self._errand = None
        if asked[0] is self.pages:
            self.laid[asked[1]] = sheet
        self.before = sheet
        self._lay()

    def _failed(self, fault: str) -> None:
        self._errand, self.fault = None, fault
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.panel))
        sheet = self.sheet or self.before
        if not self.pages or sheet is None:
            self._foot(painter)
            return
        scale = min((self.width() - 48) / sheet.width, (self.height() - 84) / sheet.height)
        x0, y0 = (
            (self.width() - sheet.width * scale) / 2,
            (self.height() - 40 - sheet.height * scale) / 2,
        )
        box = QRectF(x0, y0, sheet.width * scale, sheet.height * scale)
        painter.fillRect(box, QColor("#FFFFFF"))
        painter.setPen(QPen(QColor(self.theme.hairline), 1))
        painter.drawRect(box)

        def page(p: tuple[float, float]) -> QPointF:
            return QPointF(x0 + p[0] * scale, y0 + (sheet.height - p[1]) * scale)

        def plan(p: tuple[float, float]) -> QPointF:
            return page(
                (sheet.origin[0] + p[0] / sheet.scale, sheet.origin[1] + p[1] / sheet.scale)
            )

        paper = _white()
        Easel(painter, paper, plan, scale, 0.35).paint(sheet.drawing)
        Easel(painter, paper, page, scale, 0.35).paint(sheet.block)
        self._foot(painter)
        ring(painter, self, self.theme)

    def _foot(self, painter: QPainter) -> None:
        painter.setFont(font(SMALL_PX + 1))
        names = self._numbers()
        painter.setPen(QColor(self.theme.ink))
        text = self._words() if self.pages else ""
        painter.drawText(
            QRectF(24, self.height() - 62, self.width() - 48, 20),
            Qt.AlignmentFlag.AlignCenter,
            text,
        )
        painter.setPen(QColor(self.theme.quiet))
        painter.drawText(
            QRectF(24, self.height() - 40, self.width() - 48, 20),
            Qt.AlignmentFlag.AlignCenter,
            names,
        )

    def _numbers(self) -> str:
        """The numbers of the sheets, those about the one looked at where there are more than
        fit."""
        widest = QFontMetricsF(font(SMALL_PX + 1)).horizontalAdvance("[S88]   ")
        most = min(NUMBERS, max(1, int((self.width() - 2 * BESIDE) / widest) - 1))
        first = max(0, min(self.page - most // 2, len(self.pages) - most))
        some = list(enumerate(self.pages))[first : first + most]
        names = [f"[{p.number}]" if i == self.page else p.number for i, p in some]
        more = (["…"] if first else [], ["…"] if first + most < len(self.pages) else [])
        return "   ".join([*more[0], *names, *more[1]])

    def _words(self) -> str:
        sheet, page = self.sheet, self.pages[self.page]
        if sheet is None:
            return self.fault or f"{page.title}   is being laid …"
        return f"{sheet.title}   {sheet.scale_text}   {sheet.paper}"

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.turn(-1 if event.angleDelta().y() > 0 else 1)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self.turn(1 if event.position().x() > self.width() / 2 else -1)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: 1,
            Qt.Key.Key_PageDown: 1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Up: -1,
            Qt.Key.Key_PageUp: -1,
        }
        step = steps.get(event.key())
        if step:
            self.turn(step)
            return
        super().keyPressEvent(event)


def _white() -> Theme:
    import msgspec

    return msgspec.structs.replace(
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
