"""Printing the set: each sheet on a page of its own size, or all made smaller to the paper that is chosen."""

from collections.abc import Sequence

from PySide6.QtCore import QMarginsF, QSizeF
from PySide6.QtGui import QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QWidget

from balken.desk.sheet_painting import paint_sheet
from balken.drawing.paper.records import Sheet
from balken.errors import BalkenError
from balken.units import INCH


def ask_printer(parent: QWidget, sheets: Sequence[Sheet]) -> QPrinter | None:
    """Ask where to print, which sheets, and on what; None where it was left."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setDocName(sheets[0].title)
    printer.setFullPage(True)
    _turn_to(printer, sheets[0])
    dialog = QPrintDialog(printer, parent)
    dialog.setOption(QPrintDialog.PrintDialogOption.PrintPageRange)
    dialog.setMinMax(1, len(sheets))
    dialog.setFromTo(1, len(sheets))
    return printer if dialog.exec() == QPrintDialog.DialogCode.Accepted else None


def print_sheets(printer: QPrinter, sheets: Sequence[Sheet]) -> int:
    """Print the sheets that are asked for; return how many.

    Raises:
        BalkenError: the printer, or the file it writes, takes nothing.
    """
    first, last = printer.fromPage() or 1, printer.toPage() or len(sheets)
    wanted = sheets[first - 1 : last]
    chosen = printer.pageLayout().pageSize()
    own_size = chosen.isEquivalentTo(_size(sheets[0])) or not chosen.isValid()
    if own_size:
        _turn_to(printer, wanted[0])
    painter = QPainter()
    if not painter.begin(printer):
        where = printer.outputFileName() or printer.printerName()
        raise BalkenError(f"Nothing is printed: {where} takes no pages. Choose another.")
    for n, sheet in enumerate(wanted):
        if n:
            if own_size:
                _turn_to(printer, sheet)
            printer.newPage()
        _paint(painter, printer, sheet)
    painter.end()
    return len(wanted)


def _paint(painter: QPainter, printer: QPrinter, sheet: Sheet) -> None:
    """A sheet on a page, no larger than it is."""
    dots = printer.resolution() / INCH
    page = printer.pageLayout().fullRectPixels(printer.resolution())
    scale = min(dots, page.width() / sheet.width, page.height() / sheet.height)
    left = (page.width() - sheet.width * scale) / 2
    paint_sheet(painter, sheet, scale, left, (page.height() - sheet.height * scale) / 2)


def _size(sheet: Sheet) -> QPageSize:
    """Sizes of paper are told upright."""
    low, high = sorted((sheet.width, sheet.height))
    return QPageSize(QSizeF(low, high), QPageSize.Unit.Millimeter, sheet.paper)


def _turn_to(printer: QPrinter, sheet: Sheet) -> None:
    wide = sheet.width > sheet.height
    way = QPageLayout.Orientation.Landscape if wide else QPageLayout.Orientation.Portrait
    printer.setPageLayout(QPageLayout(_size(sheet), way, QMarginsF(0, 0, 0, 0)))
