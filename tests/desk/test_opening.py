"""What is on the screen while a building is on its way."""

import os
import subprocess
import sys
import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot
from shiboken6 import isValid

from balken.desk import app
from balken.desk.opening import Opening
from balken.desk.start_page import StartPage
from balken.desk.theme import LIGHT
from balken.desk.window import Window
from balken.exchange.files import FileError
from balken.exchange.native import save
from balken.session import recent
from balken.session.beginning import empty_sheet
from balken.session.building import Building

SRC = Path(app.__file__).parents[2]


@pytest.mark.parametrize("name", ["opening", "start_page", "app"])
def test_what_paints_first_brings_in_no_other_room(name: str) -> None:
    """Each room costs a part of the start: they come in behind the first paint."""
    code = f"import balken.desk.{name}, sys; print(*sys.modules)"
    told = subprocess.run(
        [sys.executable, "-P", "-c", code],
        env={"PYTHONPATH": str(SRC)},
        capture_output=True,
        text=True,
        check=True,
    )
    brought = told.stdout.split()
    rooms = ("works", "framing", "design", "loads", "fit", "site", "analysis")
    assert not [m for m in brought if m in ("numpy", "shapely", "scipy", "ifcopenshell")]
    assert not [m for m in brought if m.startswith(tuple(f"balken.{x}" for x in rooms))]


def test_a_building_comes_in_behind_its_frame(qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "shed.balken"
    save(empty_sheet("metric").project, path)
    told: list[str] = []

    def bring(tell: Callable[[str], object]) -> Building:
        tell("half way")
        return app._brought(path, "", told.append)

    on_screen = app.OnScreen()
    on_screen.opening("shed.balken", bring)
    frame = on_screen.widget
    assert isinstance(frame, Opening)
    assert frame.windowTitle() == "shed.balken – Balken"
    qtbot.waitUntil(lambda: on_screen.desk is not None, timeout=20_000)
    assert frame.doing == "half way"
    assert told == [
        "Bringing in the program …",
        "Reading shed.balken …",
        "Framing it, and sizing what carries …",
    ]
    window = on_screen.widget
    assert isinstance(window, Window)
    qtbot.addWidget(window)
    assert window.isVisible()
    assert not isValid(frame) or not frame.isVisible()
    assert window.desk.building.path == path
    window._closing = True


def test_the_start_page_gives_way_to_the_building_begun_in_it(qtbot: QtBot) -> None:
    on_screen = app.OnScreen()
    on_screen.start_page()
    page = on_screen.widget
    assert isinstance(page, StartPage)
    qtbot.waitUntil(lambda: bool(page.section.drawing), timeout=30_000)
    page.what.setCurrentIndex(page.what.findData("empty"))
    begin = next(b for b in page.findChildren(QPushButton) if b.text() == "Begin")
    qtbot.mouseClick(begin, Qt.MouseButton.LeftButton)
    window = on_screen.widget
    assert isinstance(window, Window)
    qtbot.addWidget(window)
    assert not page.isVisible()
    window._closing = True


def test_the_start_page_offers_the_files_that_were_open_lately(
    qtbot: QtBot, tmp_path: Path
) -> None:
    path = tmp_path / "shed.balken"
    save(empty_sheet("metric").project, path)
    recent.remember(path)
    begun: list[Building] = []
    page = StartPage(LIGHT, begun.append)
    qtbot.addWidget(page)
    page.show()
    qtbot.waitUntil(lambda: bool(page.section.drawing), timeout=30_000)
    word = next(b for b in page.findChildren(QPushButton) if b.text() == "shed.balken")
    qtbot.mouseClick(word, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(begun), timeout=20_000)
    assert begun[0].path == path


def test_a_file_that_cannot_be_read_ends_the_program_with_why(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    codes: list[int] = []
    monkeypatch.setattr(QApplication, "exit", codes.append)

    def bring(tell: Callable[[str], object]) -> Building:
        raise FileError("shed.balken is empty.")

    on_screen = app.OnScreen()
    on_screen.opening("shed.balken", bring)
    qtbot.waitUntil(lambda: bool(codes), timeout=5_000)
    assert on_screen.widget is not None
    qtbot.addWidget(on_screen.widget)
    assert codes == [2]
    assert "shed.balken is empty." in capsys.readouterr().err


def test_escape_gives_an_opening_up(qtbot: QtBot) -> None:
    on, ended = threading.Event(), threading.Event()

    def bring(tell: Callable[[str], object]) -> Building:
        tell("first")
        on.wait(5)
        try:
            tell("second")
        finally:
            ended.set()
        return empty_sheet("us")

    on_screen = app.OnScreen()
    on_screen.opening("shed.balken", bring)
    frame = on_screen.widget
    assert isinstance(frame, Opening)
    qtbot.addWidget(frame)
    qtbot.waitUntil(lambda: frame.doing == "first", timeout=5_000)
    assert not frame.grab().isNull()
    qtbot.keyClick(frame, Qt.Key.Key_Escape)
    assert not isValid(frame) or not frame.isVisible()
    on.set()
    assert ended.wait(5)
    QApplication.processEvents()
    assert on_screen.desk is None
    assert frame.doing == "first"


@pytest.mark.parametrize("name", ["nowhere.balken", "."])
def test_the_command_tells_of_a_file_that_is_none(name: str, tmp_path: Path) -> None:
    """With a screen too."""
    done = subprocess.run(
        [sys.executable, "-P", "-m", "balken", "open", str(tmp_path / name)],
        env={**os.environ, "PYTHONPATH": str(SRC)},
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert done.returncode == 2
    assert done.stderr.startswith("balken: ")
