"""The whole building is sized by its key, apart from the window, and the slip says what changed."""

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.model.edits import set_site
from balken.model.project import Project


def heavy(project: Project) -> Project:
    return replace(project, roofs=tuple(replace(r, snow=4 * r.snow) for r in project.roofs))


def words_of(window: Window) -> str:
    return " ".join(x.text() for x in window.slip.findChildren(QLabel))


def test_size_the_whole_building_by_its_key(window: Window, qtbot: QtBot) -> None:
    assert window.desk.edit("poor soil", lambda p: set_site(p, soil_bearing=0.035))
    assert window.desk.edit("more snow", heavy)
    before = window.desk.project
    qtbot.keyClick(window, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: window.desk.whole is not None, timeout=60_000)
    assert window.desk.project != before
    said = words_of(window)
    assert "Whole building" in said
    assert "rafters" in said, "what changed at once with the snow is told too"
    assert "footing" in said
    window.desk.undo()
    assert window.desk.project == before, "one step back"


def test_escape_leaves_the_sizing_and_nothing_changes(window: Window, qtbot: QtBot) -> None:
    window.desk.edit("more snow", heavy)
    before = window.desk.project
    qtbot.keyClick(window, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    qtbot.wait(1500)
    assert window.desk.project == before
    assert window.desk.whole is None
