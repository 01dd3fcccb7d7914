"""Dimensions by hand in the window: by key, mouse and Delete."""

from desk_hands import Hands
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.model.edits.paper import add_section, add_sheet_note
from balken.model.edits.paper_marks import add_cloud
from balken.model.names import ThingName


def test_a_string_of_dimensions_is_drawn_by_key_and_mouse(window: Window, qtbot: QtBot) -> None:
    """Shift+S; two corners of the bakehouse, Enter, then where the string stands; it is chosen by a click on
    its line and taken away by Delete."""
    window.desk.work_in(ThingName("walls", "L1"))
    QApplication.processEvents()
    south = next(w for w in window.desk.project.walls if w.id == "W101")
    qtbot.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ShiftModifier)
    assert window.desk.tool == "Dimension"
    hands = Hands(qtbot, window.plan)
    for place in (south.start, south.end):
        at = window.plan.to_pixel(place)
        hands.move(at.x(), at.y())
        hands.click(at.x(), at.y())
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    stands = window.plan.to_pixel((south.start[0] + 3000.0, south.start[1] + 2000.0))
    hands.move(stands.x(), stands.y())
    hands.click(stands.x(), stands.y())
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    (item,) = window.desk.project.paper.dimensions
    assert {h.kind for h in item.holds} <= {"wall", "grid"}
    line = window.plan.to_pixel((south.start[0] + 1000.0, south.start[1] + 2000.0))
    hands.click(line.x(), line.y())
    assert window.desk.selection == ThingName("dimension", item.id)
    window.plan.setFocus()
    qtbot.keyClick(window.plan, Qt.Key.Key_Delete)
    assert not window.desk.project.paper.dimensions
    qtbot.keyClick(window.plan, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.project.paper.dimensions == (item,)


def test_delete_takes_away_whatever_is_drawn_on_a_plan(window: Window, qtbot: QtBot) -> None:
    """Sections, notes and clouds by their key too."""
    desk = window.desk
    desk.work_in(ThingName("walls", "L1"))
    desk.edit("a section", lambda p: add_section(p, (0.0, 0.0), (9000.0, 0.0))[0])
    (letter,) = (s.id for s in desk.project.paper.sections)
    desk.edit("a note", lambda p: add_sheet_note(p, "plan:walls:L1", "here", (0.0, 0.0))[0])
    desk.edit("a cloud", lambda p: add_cloud(p, "plan:walls:L1", (0.0, 0.0), (900.0, 900.0))[0])
    for name in (ThingName("note", "T1"), ThingName("cloud", "V1"), ThingName("section", letter)):
        desk.select(name)
        QApplication.processEvents()
        window.plan.setFocus()
        qtbot.keyClick(window.plan, Qt.Key.Key_Delete)
    paper = desk.project.paper
    assert (paper.notes, paper.clouds, paper.sections) == ((), (), ())
