"""Printing from the window: the key, the dialog, pages of the sheets' own sizes or made smaller."""

import re
from pathlib import Path

import pytest
from PySide6.QtCore import QMarginsF, Qt, QTimer
from PySide6.QtGui import QPageLayout, QPageSize
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton, QRadioButton
from pytestqt.qtbot import QtBot

from balken.desk.window import Window

MM = 25.4 / 72
Key, Modifier = Qt.Key, Qt.KeyboardModifier


REAL = QPrintDialog.exec


def pages_in(path: Path) -> list[tuple[float, float]]:
    """The sizes of the pages of a PDF, mm."""
    boxes = re.findall(rb"/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)", path.read_bytes())
    return [(float(w) * MM, float(h) * MM) for w, h in boxes]


def print_by_key(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, path: Path, *, half: bool
) -> None:
    """Press the key, and let a person print into a file: all, or the second sheet on a smaller paper."""

    def agreed(dialog: QPrintDialog) -> int:
        printer = dialog.printer()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(path))
        if half:
            printer.setPageLayout(
                QPageLayout(
                    QPageSize(QPageSize.PageSizeId.A3),
                    QPageLayout.Orientation.Landscape,
                    QMarginsF(0, 0, 0, 0),
                )
            )
            printer.setFromTo(2, 2)
            smaller = next(
                x for x in dialog.findChildren(QRadioButton) if x.text().startswith("All made")
            )
            smaller.setChecked(True)
        return QPrintDialog.DialogCode.Accepted

    monkeypatch.setattr(QPrintDialog, "exec", agreed)
    qtbot.keyClick(window, Key.Key_P, Modifier.ControlModifier)


def test_all_sheets_have_pages_of_their_own_size(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    sheets = window.board.whole_set()()
    print_by_key(window, qtbot, monkeypatch, tmp_path / "set.pdf", half=False)
    pages = pages_in(tmp_path / "set.pdf")
    assert len(pages) == len(sheets)
    for page, sheet in zip(pages, sheets):
        assert page == pytest.approx((sheet.width, sheet.height), abs=0.5)
    assert window.fit_list.said.startswith(f"{len(sheets)} sheets handed to ")


def test_by_the_dialog_itself_sheets_keep_their_sizes(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A person types where, and clicks on Print: the dialog knows no paper like these."""
    monkeypatch.setattr(QPrintDialog, "exec", REAL)
    path = tmp_path / "set.pdf"

    def typed_and_clicked() -> None:
        dialog = QApplication.activeModalWidget()
        assert dialog is not None
        seen = [x for x in dialog.findChildren(QLineEdit) if x.text().endswith(".pdf")]
        assert Path(seen[0].text()).name == "Bakehouse.pdf"
        seen[0].setText(str(path))
        (button,) = (x for x in dialog.findChildren(QPushButton) if x.text() == "&Print")
        qtbot.mouseClick(button, Qt.MouseButton.LeftButton)

    sheets = window.board.whole_set()()
    waiting = QTimer()
    waiting.setInterval(50)
    waiting.timeout.connect(
        lambda: (waiting.stop(), typed_and_clicked()) if QApplication.activeModalWidget() else None
    )
    waiting.start()
    qtbot.keyClick(window, Key.Key_P, Modifier.ControlModifier)
    for page, sheet in zip(pages_in(path), sheets, strict=True):
        assert page == pytest.approx((sheet.width, sheet.height), abs=0.5)


def test_one_sheet_is_made_smaller_to_the_paper_that_is_chosen(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    print_by_key(window, qtbot, monkeypatch, tmp_path / "half.pdf", half=True)
    (page,) = pages_in(tmp_path / "half.pdf")
    assert page == pytest.approx((420.0, 297.0), abs=0.5)


def test_what_is_left_prints_nothing(window: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(window, Key.Key_P, Modifier.ControlModifier)
    assert window.fit_list.said == "Nothing is printed."


def test_a_place_that_cannot_be_written_to_is_told(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    print_by_key(window, qtbot, monkeypatch, tmp_path / "no such folder" / "set.pdf", half=False)
    assert "takes no pages" in window.fit_list.said
