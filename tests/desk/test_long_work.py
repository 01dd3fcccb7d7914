"""What lasts longer than people wait without wondering says what it does, and can be left."""

import time
from collections.abc import Callable
from typing import Any

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt, QTimer
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from balken.desk.window import Window


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
