"""What lasts longer than people wait without wondering says what it does, and can be left."""

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt, QThreadPool, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.session.building import DEMO

pytestmark = pytest.mark.forgetful


def slowly(work: Callable[..., Any], seconds: float) -> Callable[..., Any]:
    """The same, later."""

    def late(*args: Any) -> Any:
        time.sleep(seconds)
        return work(*args)

    return late


def named(name: str) -> Callable[..., Any]:
    """An edit that gives the building a name."""
    return lambda p: replace(p, name=name)


def test_an_edit_that_lasts_says_so_and_is_made(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(
        window.desk.building, "worked_out", slowly(window.desk.building.worked_out, 0.7)
    )
    said: list[str] = []
    QTimer.singleShot(450, lambda: said.append(window.fit_list.said))
    QTimer.singleShot(400, lambda: QTest.keyClick(window, Qt.Key.Key_F))  # other keys wait
    assert window.desk.edit("give it a name", named("Later"))
    assert said == ["Working out: give it a name …  Esc leaves it."]
    assert window.desk.building.project.name == "Later"


def test_escape_leaves_an_edit_and_nothing_of_it_is_made(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = window.desk.building.worked_out
    before = window.desk.building.project
    monkeypatch.setattr(window.desk.building, "worked_out", slowly(real, 3.0))
    QTimer.singleShot(400, lambda: QTest.keyClick(window, Qt.Key.Key_Escape))
    begun = time.monotonic()
    assert not window.desk.edit("give it a name", named("Never"))
    assert time.monotonic() - begun < 2.5
    assert window.desk.building.project is before
    assert "Left: give it a name" in window.fit_list.said
    monkeypatch.setattr(window.desk.building, "worked_out", real)
    assert window.desk.edit("give it a name", named("After all"))
    assert window.desk.building.project.name == "After all"


def test_undo_that_lasts_can_be_left(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert window.desk.edit("give it a name", named("One"))
    monkeypatch.setattr(
        window.desk.building, "look_ahead", slowly(window.desk.building.look_ahead, 3.0)
    )
    QTimer.singleShot(400, lambda: QTest.keyClick(window, Qt.Key.Key_Escape))
    window.desk.undo()
    assert window.desk.building.project.name == "One"
    monkeypatch.undo()
    window.desk.undo()
    assert window.desk.building.project.name == "Bakehouse"


def test_what_goes_wrong_apart_is_told_as_ever(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(_: object) -> object:
        time.sleep(0.5)
        raise RuntimeError("late and wrong")

    assert not window.desk.edit("break it", broken)  # type: ignore[arg-type]
    assert "late and wrong" in window.desk.faults[0].what


@pytest.fixture
def told(window: Window, monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Everything that the foot of the fit list says."""
    said: list[str] = []
    real = window.say

    def say(words: str) -> None:
        said.append(words)
        real(words)

    monkeypatch.setattr(window, "say", say)
    return said


def issue_by_key(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, folder: Path
) -> None:
    """Press the key of Issue and choose a folder."""
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(folder))
    qtbot.keyClick(window, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)


def test_issuing_says_view_by_view_how_far_it_is(
    window: Window,
    told: list[str],
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    issue_by_key(window, qtbot, monkeypatch, tmp_path)
    qtbot.waitUntil(lambda: "Written" in window.fit_list.said, timeout=60_000)
    plans = [words for words in told if words.startswith("Plans, ")]
    count = len({words.split(": ", 1)[1] for words in plans})
    assert count > 5
    assert plans[-1].startswith(f"Plans, {count} of {count}: ")
    assert all(words.endswith("Esc leaves it.") for words in plans)


def test_escape_leaves_issuing_and_no_file_is_written(
    window: Window,
    told: list[str],
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    issue_by_key(window, qtbot, monkeypatch, tmp_path)
    qtbot.waitUntil(lambda: any(words.startswith("Plans, ") for words in told), timeout=60_000)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    QThreadPool.globalInstance().waitForDone()
    qtbot.wait(50)
    assert not list(tmp_path.iterdir())
    assert "Plans" not in window.fit_list.said
    assert window.desk.faults == ()


def test_a_file_that_is_read_says_what_is_done_with_it(
    window: Window, told: list[str], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(DEMO), ""))
    before = window.desk.building
    qtbot.keyClick(window, Qt.Key.Key_O, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: window.desk.building is not before, timeout=60_000)
    said = " ".join(told)
    for step in ("Reading bakehouse-architect.ifc", "a first structure between", "sizing what"):
        assert step in said
