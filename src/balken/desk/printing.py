"""Printing the set: each sheet on a page of its own size, or all made smaller to the paper that is chosen."""

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QMarginsF, QSizeF
from PySide6.QtGui import QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QRadioButton, QVBoxLayout, QWidget

from balken.desk.sheet_painting import paint_sheet
from balken.drawing.paper.records import Sheet
from balken.errors import BalkenError
from balken.units import INCH


class Wanted(NamedTuple):
    """Where sheets are printed, and whether each has a page of its own size."""

    printer: QPrinter
    own_size: bool


def ask_printer(parent: QWidget, name: str, sheets: Sequence[Sheet]) -> Wanted | None:
    """Ask where to print the sheets of a project by its name, which, and on what; None where it was left.

    The dialog knows standard papers alone and puts the usual one in place of any other, so that it is asked
    on a page of its own whether that paper is meant.
    """
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setDocName(name)
    printer.setFullPage(True)
    dialog = QPrintDialog(printer, parent)
    dialog.setOption(QPrintDialog.PrintDialogOption.PrintPageRange)
    dialog.setMinMax(1, len(sheets))
    dialog.setFromTo(1, len(sheets))
    own, tab = _size_tab()
    dialog.setOptionTabs([tab])
    agreed = dialog.exec() == QPrintDialog.DialogCode.Accepted
    return Wanted(printer, own.isChecked()) if agreed else None


def _size_tab() -> tuple[QRadioButton, QWidget]:
    """The page of the dialog that asks for the size."""
    tab = QWidget()
    tab.setWindowTitle("Size")
    own = QRadioButton("Each sheet on a page of its own size")
    smaller = QRadioButton("All made smaller to the paper that is chosen")
    own.setChecked(True)
    column = QVBoxLayout(tab)
    for choice in (own, smaller):
        column.addWidget(choice)
    column.addStretch(1)
    return own, tab


def print_sheets(wanted: Wanted, sheets: Sequence[Sheet]) -> int:
    """Print the sheets that are asked for; return how many.

    Raises:
        BalkenError: the printer, or the file it writes, takes nothing.
    """
    printer, own_size = wanted
    first, last = printer.fromPage() or 1, printer.toPage() or len(sheets)
    asked = sheets[first - 1 : last]
    if own_size:
        _turn_to(printer, asked[0])
    painter = QPainter()
    if not painter.begin(printer):
        where = printer.outputFileName() or printer.printerName()
        raise BalkenError(f"Nothing is printed: {where} takes no pages. Choose another.")
    for n, sheet in enumerate(asked):
        if n:
            if own_size:
                _turn_to(printer, sheet)
            printer.newPage()
        _paint(painter, printer, sheet)
    painter.end()
    return len(asked)


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
