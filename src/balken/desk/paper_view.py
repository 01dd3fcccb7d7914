"""Paper: the sheets as they will be printed, with a list of them at the left. A sheet is read at any zoom;
what is clicked on it is chosen everywhere. Sheets are laid apart from the window."""

from collections.abc import Callable
from functools import partial
from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from balken.desk.paint import Easel, ring
from balken.desk.pick_index import PickIndex
from balken.desk.sheet_painting import on_paper, paint_sheet
from balken.desk.theme import SMALL_PX, Theme, font
from balken.desk.work import Errand, run_apart
from balken.drawing.paper.fitting import UNDER
from balken.drawing.paper.records import Sheet
from balken.drawing.sheet_set import Page
from balken.geometry.plane import Point
from balken.model.names import Name, ThingName

Pages = tuple[Page, ...]
LIST: Final = 176.0
"""Width of the list of sheets, px."""
ROW: Final = 62.0
"""Height of a row of it, px."""
SMALL: Final = (78, 52)
"""Of the picture of a sheet in it, px."""
FOOT: Final = 30.0
"""For words under a sheet, px."""
PICK: Final = 6.0
"""A line is caught this near, px."""
NEAREST: Final = 12.0
"""No sheet is looked at larger than so many px a mm."""


class PaperView(QWidget):
    """One sheet at a time beside the list; page keys and arrows turn, the wheel looks nearer."""

    picked = Signal(object, bool)
    view_moved = Signal(str, float, float)
    """Which view was dragged on its sheet, and how far to the right and up, mm of paper."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.pages: Pages = ()
        self.page = 0
        self.laid: dict[int, Sheet] = {}
        """Of the building as it is now, by page."""
        self.before: Sheet | None = None
        """What was looked at last: shown until the next is laid."""
        self.chosen: frozenset[Name] = frozenset()
        self.fault = ""
        self.first_row = 0
        self.wanted = ""
        """What the number of the page to look at begins with, as soon as there are pages."""
        self._make: Callable[[], Pages] | None = None
        """Makes the pages of the building as it is now, where those shown are of an earlier one."""
        self._errand: Errand | None = None
        self._zoom, self._middle = 1.0, QPointF(0.5, 0.5)
        self._pan: QPointF | None = None
        self._moved = False
        self._held: ThingName | None = None
        """The view that is in the hand."""
        self._held_by = QPointF(0, 0)
        self._small: dict[int, QPixmap] = {}
        self._index: tuple[Sheet, list[PickIndex]] | None = None
        self._drawing = QTimer(self)
        self._drawing.setInterval(30)
        self._drawing.timeout.connect(self._draw_small)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Sheets")

    def sizeHint(self) -> QSize:
        return QSize(620, 560)

    @property
    def sheet(self) -> Sheet | None:
        """The sheet that is looked at; None while it is being laid."""
        return self.laid.get(self.page) if self._make is None else None

    # -- what is laid ------------------------------------------------------------------------------

    def show_set(self, make: Callable[[], Pages]) -> None:
        """Show the set that is made by ``make``, apart from the window, from the page looked at. What was
        there stays to be looked at meanwhile; of several asked for at once only the last is made."""
        self._make = make
        self._go_on()

    def show_pages(self, pages: Pages) -> None:
        """Show pages that are there."""
        self.pages, self.laid, self.fault, self._make = pages, {}, "", None
        self._small.clear()
        if self.wanted:
            begins, self.wanted = self.wanted, ""
            found = (n for n, page in enumerate(pages) if page.number.startswith(begins))
            self.page = next(found, self.page)
        self.page = min(self.page, max(0, len(pages) - 1))
        self._show_row()
        self._go_on()

    def look_at(self, begins: str) -> None:
        """Look at the first page whose number begins like this."""
        self.wanted = begins
        if self._make is None and self.pages:
            self.show_pages(self.pages)

    def turn(self, by: int) -> None:
        """Turn pages."""
        if self.pages:
            self.page = max(0, min(len(self.pages) - 1, self.page + by))
            self._show_row()
            self._fit()
            self._go_on()

    def _go_on(self) -> None:
        """Make the set, or lay the sheet that is looked at, one at a time."""
        self.update()
        if self._errand is not None:
            return
        if self._make is not None:
            make = self._make
            self._errand = run_apart(self, make, partial(self._made, make), self._failed)
        elif self.pages and self.sheet is None:
            asked = self.pages, self.page
            self._errand = run_apart(
                self, self.pages[self.page].lay, partial(self._have, asked), self._failed
            )

    def _made(self, make: Callable[[], Pages], pages: Pages) -> None:
        self._errand = None
        if self._make is make:
            self.show_pages(pages)
        else:
            self._go_on()

    def _have(self, asked: tuple[Pages, int], sheet: Sheet) -> None:
        self._errand = None
        if asked[0] is self.pages:
            self.laid[asked[1]] = sheet
        self.before = sheet
        self._go_on()

    def _failed(self, fault: str) -> None:
        self._errand, self.fault, self._make = None, fault, None
        self.update()

    def _draw_small(self) -> None:
        """Draw the small picture of one more sheet of those that are laid with the set."""
        rows = self._rows_shown()
        missing = next((n for n in rows if n not in self._small and self._is_quick(n)), None)
        if missing is None:
            self._drawing.stop()
            return
        sheet = self.laid.get(missing) or self.pages[missing].lay()
        ratio = self.devicePixelRatioF()
        picture = QPixmap(int(SMALL[0] * ratio), int(SMALL[1] * ratio))
        picture.fill(QColor("#FFFFFF"))
        painter = QPainter(picture)
        scale = min(picture.width() / sheet.width, picture.height() / sheet.height)
        paint_sheet(painter, sheet, scale, 0.0, 0.0, far=True)
        painter.end()
        picture.setDevicePixelRatio(ratio)
        self._small[missing] = picture
        self.update()

    def _is_quick(self, n: int) -> bool:
        """Whether a page is there as soon as it is asked for: sheets are, the book is laid page by page."""
        return n in self.laid or self.pages[n].number.startswith("S")

    # -- where things lie --------------------------------------------------------------------------

    def _fit(self) -> None:
        self._zoom, self._middle = 1.0, QPointF(0.5, 0.5)

    def _room(self) -> QRectF:
        return QRectF(LIST, 0, self.width() - LIST, self.height() - FOOT)

    def _scale(self, sheet: Sheet) -> float:
        """px to a mm of paper."""
        room = self._room()
        whole = min((room.width() - 40) / sheet.width, (room.height() - 24) / sheet.height)
        return min(NEAREST, max(0.1, whole) * self._zoom)

    def _corner(self, sheet: Sheet) -> QPointF:
        """Where the upper left corner of the sheet lies, px."""
        room, scale = self._room(), self._scale(sheet)
        return QPointF(
            room.center().x() - self._middle.x() * sheet.width * scale,
            room.center().y() - self._middle.y() * sheet.height * scale,
        )

    def _on_sheet(self, sheet: Sheet, p: QPointF) -> Point:
        """A place of the window in mm of paper."""
        corner, scale = self._corner(sheet), self._scale(sheet)
        return (p.x() - corner.x()) / scale, sheet.height - (p.y() - corner.y()) / scale

    def _rows_shown(self) -> range:
        count = int((self.height() - FOOT) // ROW) + 1
        return range(self.first_row, min(len(self.pages), self.first_row + count))

    # -- painting ----------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.panel))
        sheet = self.sheet or self.before
        if sheet is not None and self.pages:
            painter.save()
            painter.setClipRect(self._room())
            corner, scale = self._corner(sheet), self._scale(sheet)
            size = QRectF(corner.x(), corner.y(), sheet.width * scale, sheet.height * scale)
            painter.fillRect(size, QColor("#FFFFFF"))
            painter.setPen(QPen(QColor(self.theme.hairline), 1))
            painter.drawRect(size)
            paint_sheet(painter, sheet, scale, corner.x(), corner.y())
            self._light(painter, sheet, scale, corner)
            painter.restore()
        self._list(painter)
        self._foot(painter)
        ring(painter, self, self.theme)

    def _light(self, painter: QPainter, sheet: Sheet, scale: float, corner: QPointF) -> None:
        """What is chosen, on the sheet."""
        if not self.chosen:
            return

        def page(p: Point) -> QPointF:
            return QPointF(corner.x() + p[0] * scale, corner.y() + (sheet.height - p[1]) * scale)

        for view, index in zip(sheet.views, self._indexes(sheet)):
            name = ThingName("view", view.key)
            if name in self.chosen:
                x0, y0, x1, y1 = view.box
                by = self._held_by if self._held == name else QPointF(0, 0)
                painter.setPen(QPen(QColor(self.theme.accent), 1.6))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(page((x0, y1)), page((x1, y0))).translated(by))
            Easel(painter, self.theme, partial(on_paper, view, page), scale).choose(
                index.of(self.chosen)
            )

    def _list(self, painter: QPainter) -> None:
        """The sheets, with small pictures."""
        painter.fillRect(QRectF(0, 0, LIST, self.height()), QColor(self.theme.strip))
        for k, n in enumerate(self._rows_shown()):
            y, page = k * ROW, self.pages[n]
            if n == self.page:
                painter.fillRect(QRectF(0, y, LIST, ROW), QColor(self.theme.wash))
            box = QRectF(8, y + 5, *SMALL)
            painter.fillRect(box, QColor("#FFFFFF"))
            if n in self._small:
                painter.drawPixmap(box.topLeft(), self._small[n])
            painter.setPen(QPen(QColor(self.theme.hairline), 1))
            painter.drawRect(box)
            painter.setPen(QColor(self.theme.accent if n == self.page else self.theme.ink))
            painter.setFont(font(13, bold=n == self.page))
            painter.drawText(QPointF(94, y + 18), page.number)
            painter.setPen(QColor(self.theme.quiet))
            painter.setFont(font(SMALL_PX))
            words = QRectF(94, y + 22, LIST - 98, ROW - 24)
            painter.drawText(words, Qt.TextFlag.TextWordWrap, page.title)

    def _foot(self, painter: QPainter) -> None:
        painter.setFont(font(SMALL_PX + 1))
        painter.setPen(QColor(self.theme.ink))
        room = QRectF(LIST + 8, self.height() - FOOT, self.width() - LIST - 16, FOOT)
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter, self._words())

    def _words(self) -> str:
        if self.fault:
            return self.fault
        if self._make is not None or not self.pages:
            return "The sheets are being laid …"
        sheet, page = self.sheet, self.pages[self.page]
        if sheet is None:
            return f"{page.number}  {page.title}   is being laid …"
        parts = (f"{sheet.number}  {sheet.title}", sheet.scale_text, sheet.paper)
        return "   ".join(p for p in parts if p)

    # -- hands -------------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._drawing.start()

    def wheelEvent(self, event: QWheelEvent) -> None:
        step = event.angleDelta().y()
        if event.position().x() < LIST:
            most = max(0, len(self.pages) - int((self.height() - FOOT) // ROW))
            self.first_row = max(0, min(most, self.first_row + (-1 if step > 0 else 1)))
            self._drawing.start()
            self.update()
            return
        sheet = self.sheet or self.before
        if sheet is None:
            return
        at = self._on_sheet(sheet, event.position())
        self._zoom = max(1.0, min(40.0, self._zoom * 1.0015**step))
        if self._zoom == 1.0:
            self._fit()
        else:  # what lies under the pointer stays there
            after = self._on_sheet(sheet, event.position())
            self._middle += QPointF(
                (at[0] - after[0]) / sheet.width, -(at[1] - after[1]) / sheet.height
            )
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        p = event.position()
        if p.x() < LIST:
            n = self.first_row + int(p.y() // ROW)
            if n < len(self.pages):
                self.turn(n - self.page)
            return
        self._pan, self._moved = p, False
        view = self._title_at(p)
        self._held = view if view is not None and view in self.chosen else None
        self._held_by = QPointF(0, 0)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        sheet = self.sheet or self.before
        if self._pan is None or sheet is None:
            return
        step = event.position() - self._pan
        if self._moved or step.manhattanLength() > 4:
            self._moved = True
            scale = self._scale(sheet)
            if self._held is not None:
                self._held_by += step
                self._pan = event.position()
                self.update()
                return
            self._middle -= QPointF(
                step.x() / (sheet.width * scale), step.y() / (sheet.height * scale)
            )
            self._pan = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        clicked, self._pan = self._pan is not None and not self._moved, None
        sheet = self.sheet
        held, self._held = self._held, None
        if held is not None and self._moved and sheet is not None:
            scale = self._scale(sheet)
            self.view_moved.emit(held.key, self._held_by.x() / scale, -self._held_by.y() / scale)
            return
        if clicked and sheet is not None:
            more = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.picked.emit(self._named_at(sheet, event.position()), more)

    def _indexes(self, sheet: Sheet) -> list[PickIndex]:
        if self._index is None or self._index[0] is not sheet:
            self._index = sheet, [PickIndex(v.drawing) for v in sheet.views]
        return self._index[1]

    def _named_at(self, sheet: Sheet, p: QPointF) -> Name | None:
        """What lies at a place of the window, in whichever view is there."""
        title = self._title_at(p)
        if title is not None:
            return title
        x, y = self._on_sheet(sheet, p)
        for view, index in zip(sheet.views, self._indexes(sheet)):
            x0, y0, x1, y1 = view.box
            if x0 <= x <= x1 and y0 <= y <= y1:
                place = (x - view.origin[0]) * view.scale, (y - view.origin[1]) * view.scale
                return index.at(place, PICK / self._scale(sheet) * view.scale)
        return None

    def _title_at(self, p: QPointF) -> ThingName | None:
        """The view whose title lies at a place of the window."""
        sheet = self.sheet
        if sheet is None:
            return None
        x, y = self._on_sheet(sheet, p)
        for view in sheet.views:
            x0, y0, x1, _ = view.box
            if x0 <= x <= x1 and y0 <= y <= y0 + UNDER - 3.0:
                return ThingName("view", view.key)
        return None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps: dict[int, int] = {
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: 1,
            Qt.Key.Key_PageDown: 1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Up: -1,
            Qt.Key.Key_PageUp: -1,
            Qt.Key.Key_Home: -10_000,
            Qt.Key.Key_End: 10_000,
        }
        step = steps.get(event.key())
        if step:
            self.turn(step)
            return
        super().keyPressEvent(event)

    def _show_row(self) -> None:
        """Keep the page that is looked at among the rows that are shown."""
        most = max(1, int((self.height() - FOOT) // ROW))
        if self.page < self.first_row:
            self.first_row = self.page
        elif self.page >= self.first_row + most:
            self.first_row = self.page - most + 1
        self._drawing.start()
