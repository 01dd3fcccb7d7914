"""The window for tests: driven under a virtual screen with the mouse and keys a person would
use."""

from collections.abc import Iterator

import pytest
from PySide6.QtCore import QEvent
from PySide6.QtPrintSupport import QPrintDialog
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from balken.desk.theme import LIGHT, apply, load_fonts
from balken.desk.window import Window
from balken.model.project import Project
from balken.session.building import Building


@pytest.fixture(autouse=True)
def no_printer(monkeypatch: pytest.MonkeyPatch) -> None:
    """The dialog of printers is left again: it would wait for a person."""
    monkeypatch.setattr(QPrintDialog, "exec", lambda _: QPrintDialog.DialogCode.Rejected)


@pytest.fixture
def window(qtbot: QtBot, qapp: QApplication, demo: Project) -> Iterator[Window]:
    # Windows of earlier tests are deleted for good; a change of theme would dress every one of them
    # again.
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    load_fonts()
    apply(qapp, LIGHT)
    made = Window(Building(demo))
    qtbot.addWidget(made)
    made.show()
    qapp.processEvents()
    yield made
    made._closing = True
    made.close()
