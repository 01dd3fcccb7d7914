"""The board with several things at once: selecting, hiding, multi-edit, clipboard, drawings of
others, new versions."""

import time
from pathlib import Path

import ezdxf
import pytest
from desk_hands import Hands, choose, enter, field, press, words
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.slip_parts import Figure
from balken.desk.window import Window
from balken.desk.words import ToolWord
from balken.exchange.spots_csv import spots_csv
from balken.model.edits.grids import move_lines
from balken.model.edits.supports import crossings_of, put_supports, size_supports
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of, remove_walls
from balken.model.new import empty_building
from balken.model.project import FORMAT, Spot, level, wall
from balken.model.wall_catalogue import first_build_ups
from balken.session import files, others, sight
from balken.session.building import DEMO, Building, open_building
from balken.session.commands import commands
from balken.session.search.offers import offers
from balken.units import FOOT
from named import the

SHIFT = Qt.KeyboardModifier.ShiftModifier
CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def walls(window: Window) -> Window:
    """The bakehouse with the walls of the first floor on the board."""
    window.desk.work_in(the("walls:L1"))
    window.plan.setFocus()
    QApplication.processEvents()
    return window


def click(
    w: Window,
    qtbot: QtBot,
    p: tuple[float, float],
    held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
) -> None:
    at = w.plan.to_pixel(p).toPoint()
    qtbot.mouseClick(w.plan, Qt.MouseButton.LeftButton, held, at)


# -- selecting ----------------------------------------------------------------


def test_click_shift_click_and_click_again(walls: Window, qtbot: QtBot) -> None:
    click(walls, qtbot, (1000.0, 80.0))
    assert walls.desk.selected == (the("wall:W101"),)
    click(walls, qtbot, (80.0, 3000.0), SHIFT)
    click(walls, qtbot, (4 * FOOT + 1000.0, 80.0), SHIFT)
    assert set(walls.desk.selected) == {
        the("wall:W101"),
        the("wall:W104"),
        the("opening:W101/W101-1"),
    }
    click(walls, qtbot, (80.0, 3000.0), SHIFT)
    assert the("wall:W104") not in walls.desk.selected
    click(walls, qtbot, (5000.0, 2000.0))
    assert walls.desk.selected == ()


def test_a_box_to_the_right_takes_what_lies_in_it_and_to_the_left_what_it_touches(
    walls: Window, qtbot: QtBot
) -> None:
    hands = Hands(qtbot, walls.plan)
    a, b = walls.plan.to_pixel((-600.0, -600.0)), walls.plan.to_pixel((800.0, 9000.0))
    hands.drag((a.x(), a.y()), (b.x(), b.y()))
    assert the("wall:W104") in walls.desk.selected
    assert the("wall:W101") not in walls.desk.selected, "it reaches out of the box"
    hands.drag((b.x(), b.y()), (a.x(), a.y()))
    assert {the("wall:W101"), the("wall:W103"), the("wall:W104")} <= set(walls.desk.selected)
    assert the("grid:G1/A1") in walls.desk.selected
    walls.desk.select(the("wall:W102"))
    shifted = [walls.plan.keys_in(a, b)]
    walls.desk.select_many(shifted[0], more=True)
    assert walls.desk.selected[0] == the("wall:W102")


def test_more_like_this_by_kind_and_everything(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W101"))
    qtbot.keyClick(walls.plan, Qt.Key.Key_Z)
    assert set(walls.desk.selected) == {the(f"wall:W10{i}") for i in range(1, 5)}, (
        "those of one build-up on one level"
    )
    walls.desk.select(the("opening:W101/W101-2"))
    sight.select_alike(walls.desk)
    assert len(walls.desk.selected) == 3, "three doors of one size"
    walls.desk.select(the("grid:G1/A1"))
    sight.select_alike(walls.desk)
    assert len(walls.desk.selected) == 3
    walls.desk.select(the("floor:F2/joist:09a"))
    sight.select_alike(walls.desk)
    assert len(walls.desk.selected) > 30
    walls.desk.work_in(the("walls:L1"))
    sight.select_all_of(walls.desk, "opening")
    assert len(walls.desk.selected) == 8
    qtbot.keyClick(walls.plan, Qt.Key.Key_A, CTRL)
    assert len(walls.desk.selected) == 5 + 8


# -- editing several ----------------------------------------------------------


def test_fields_of_several_walls(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select_many((the("wall:W101"), the("wall:W102"), the("wall:W105")))
    assert "3 selected" in words(walls)
    assert field(walls, "lapped down").text() == '0"'
    assert "various" in {b.currentText() for b in walls.slip.findChildren(QComboBox)}, (
        "their build-ups differ"
    )
    enter(qtbot, walls, "lapped down", '10"')
    assert [wall(walls.desk.building.project, k).lap for k in ("W101", "W102", "W105")] == [
        254.0
    ] * 3
    choose(walls, "built up of", "2x4 studs, 4½")
    assert (
        len({wall(walls.desk.building.project, k).build_up for k in ("W101", "W102", "W105")}) == 1
    )
    walls.desk.select_many((the("opening:W101/W101-1"), the("opening:W101/W101-3")))
    assert field(walls, "sill").text() == "various"
    enter(qtbot, walls, "sill", "2'")
    assert {
        o.sill for o in wall(walls.desk.building.project, "W101").openings if o.kind == "window"
    } == {2 * FOOT}
    enter(qtbot, walls, "sill", "9'")
    assert "above the top" in walls.fit_list.said
    walls.desk.undo()
    walls.desk.select_many((the("wall:W101"), the("opening:W102/W102-1"), the("grid:G1/A1")))
    assert "Fields stand under each kind" in words(walls)


def test_a_width_typed_for_several_posts_leaves_their_depths(walls: Window, qtbot: QtBot) -> None:
    walls.desk.edit("posts", lambda p: put_supports(p, "post", crossings_of(p)[:2]))
    a, b = (s.id for s in walls.desk.building.project.point_supports)
    walls.desk.edit("deeper", lambda p: size_supports(p, [b], depth=200.0))
    walls.desk.select_many((the(f"support:{a}"), the(f"support:{b}")))
    assert field(walls, "depth").text() == "various"
    enter(qtbot, walls, "width", '4"')
    assert [s.size for s in walls.desk.building.project.point_supports] == [
        (101.6, 139.7),
        (101.6, 200.0),
    ]
    enter(qtbot, walls, "turned by", "nan")
    assert "no angle" in walls.fit_list.said
    enter(qtbot, walls, "turned by", "30°")
    assert {s.turn for s in walls.desk.building.project.point_supports} == {30.0}


def test_several_are_dragged_together_as_one_step(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select_many((the("wall:W101"), the("wall:W103")))
    before = walls.desk.building.project
    a = walls.plan.to_pixel((1000.0, 80.0))
    Hands(qtbot, walls.plan).drag((a.x(), a.y()), (a.x(), a.y() - 30))
    after = walls.desk.building.project
    by = wall(after, "W101").start[1] - wall(before, "W101").start[1]
    assert by > 100.0
    assert wall(after, "W103").start[1] - wall(before, "W103").start[1] == pytest.approx(by)
    assert len(walls.desk.building.history.done) == 1
    walls.desk.undo()
    assert walls.desk.building.project == before


def test_an_opening_is_dragged_along_its_wall_and_typed(walls: Window, qtbot: QtBot) -> None:
    hole = wall(walls.desk.building.project, "W101").openings[1]
    a = walls.plan.to_pixel((hole.at + 300.0, 60.0))
    hands = Hands(qtbot, walls.plan)
    hands.drag((a.x(), a.y()), (a.x() - 12, a.y() + 7))
    moved = wall(walls.desk.building.project, "W101").openings[1]
    assert moved.at < hole.at - 100.0
    assert (moved.sill, moved.width) == (hole.sill, hole.width)
    walls.desk.undo()
    hands.hold((a.x(), a.y()), (a.x() + 12, a.y()))
    qtbot.keyClicks(walls.plan, '6"')
    qtbot.keyClick(walls.plan, Qt.Key.Key_Return)
    assert wall(walls.desk.building.project, "W101").openings[1].at == pytest.approx(
        hole.at + 152.4
    )


def test_a_grid_line_is_dragged_with_the_walls_on_it(walls: Window, qtbot: QtBot) -> None:
    head = next(
        m for m in walls.plan.index.marks if m.key == the("grid:G1/A7") and hasattr(m, "centre")
    )
    a = walls.plan.to_pixel(head.centre)
    before = walls.desk.building.project
    Hands(qtbot, walls.plan).drag((a.x(), a.y()), (a.x() + 25, a.y()))
    after = walls.desk.building.project
    line = next(x for x in after.grids[0].lines if x.id == "A7")
    by = line.offset - next(x for x in before.grids[0].lines if x.id == "A7").offset
    assert by > 100.0
    assert wall(after, "W102").start[0] - wall(before, "W102").start[0] == pytest.approx(by)
    walls.desk.select(the("grid:G1/A7"))
    choose(walls, "place", "held")
    Hands(qtbot, walls.plan).drag((a.x() + 25, a.y()), (a.x(), a.y()))
    assert "Line 4 is held" in walls.fit_list.said


def test_the_plan_answers_a_drag_before_the_rest(walls: Window, qtbot: QtBot) -> None:
    """The picture is not painted anew for a move of the pointer: only the selection over it is."""
    walls.desk.select(the("wall:W103"))
    a = walls.plan.to_pixel((6000.0, 26 * FOOT - 60.0))
    Hands(qtbot, walls.plan).hold((a.x(), a.y()), (a.x(), a.y() - 12), 2)
    walls.plan.repaint()
    pictures: list[float] = []
    walls.plan._paint_picture = lambda: pictures.append(time.perf_counter())  # type: ignore[method-assign]
    walls.plan._vector = (0.0, 500.0)
    walls.plan.repaint()
    del walls.plan._paint_picture
    assert pictures == []


# -- out of sight, out of reach -----------------------------------------------


def test_hidden_things_are_always_said_and_come_back(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W101"))
    qtbot.keyClick(walls.plan, Qt.Key.Key_H)
    assert walls.board.veil_word.isVisible()
    assert walls.board.veil_word.text() == "1 hidden · show all"
    assert walls.plan.key_at((1000.0, 80.0)) != the("wall:W101")
    walls.board.veil_word.click()
    assert not walls.board.veil_word.isVisible()
    walls.desk.select(the("wall:W102"))
    qtbot.keyClick(walls.plan, Qt.Key.Key_D)
    assert {m.key for m in walls.plan.index.marks if str(m.key).startswith("wall:")} == {
        the("wall:W102")
    }
    qtbot.keyClick(walls.plan, Qt.Key.Key_H, CTRL | SHIFT)
    assert walls.plan.key_at((1000.0, 80.0)) == the("wall:W101")
    sight.hide_kind(walls.desk, "opening")
    assert "all openings hidden" in walls.board.veil_word.text()
    sight.show_everything(walls.desk)
    sight.hide_tier(walls.desk)
    assert not [m for m in walls.plan.index.marks if str(m.key).startswith("wall:")]
    sight.show_everything(walls.desk)
    walls.desk.show_view("space")
    sight.hide_kind(walls.desk, "rafter")
    assert not walls.desk.building.project.changes, "hiding changes nothing of the building"


def test_locked_things_are_seen_but_not_taken(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W101"))
    sight.lock_selected(walls.desk)
    click(walls, qtbot, (1000.0, 80.0))
    assert the("wall:W101") not in walls.desk.selected
    assert walls.board.veil_word.text() == "1 locked · unlock"
    walls.board.veil_word.click()
    click(walls, qtbot, (1000.0, 80.0))
    assert walls.desk.selected == (the("wall:W101"),)


def test_kinds_and_tiers_are_locked_as_one(walls: Window, qtbot: QtBot) -> None:
    sight.lock_kind(walls.desk, "wall")
    assert walls.board.veil_word.text() == "all walls locked · unlock"
    click(walls, qtbot, (1000.0, 80.0))
    assert not walls.desk.selected
    sight.lock_kind(walls.desk, "wall")
    assert not walls.board.veil_word.isVisible()
    sight.lock_tier(walls.desk)
    before = walls.desk.building.project
    at = [walls.plan.to_pixel(p) for p in ((1000.0, 80.0), (1000.0, 1500.0))]
    Hands(qtbot, walls.plan).drag((at[0].x(), at[0].y()), (at[1].x(), at[1].y()))
    assert walls.desk.building.project.walls == before.walls, "what is locked is not dragged"
    sight.show_everything(walls.desk)
    click(walls, qtbot, (1000.0, 80.0))
    assert walls.desk.selected == (the("wall:W101"),)


def named(w: Window) -> set[str]:
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    names = {b.accessibleName() for b in w.findChildren(ToolWord) if b.toolTip()}
    return {n for n in names if n.startswith(("Undo", "Redo"))}


def test_undo_and_redo_name_what_they_do(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W103"))
    enter(qtbot, walls, "name", "back")
    assert named(walls) == {"Undo: rename wall", "Redo"}
    qtbot.keyClick(walls.plan, Qt.Key.Key_Z, CTRL)
    assert named(walls) == {"Undo", "Redo: rename wall"}
    assert "rename wall" in walls.fit_list.said


def test_a_wall_is_set_over_another_flush_and_moved_in(walls: Window, qtbot: QtBot) -> None:
    walls.desk.edit(
        "clear the storey", lambda p: remove_walls(p, [w.id for w in p.walls if w.base == "L2"])
    )
    walls.desk.select(the("wall:W101"))
    press(walls, "Set it there")
    over = next(w for w in walls.desk.building.project.walls if w.base == "L2")
    below = wall(walls.desk.building.project, "W101")
    assert (over.start, over.end, over.top) == (below.start, below.end, "P2")
    walls.desk.undo()
    walls.desk.select(the("wall:W101"))
    enter(qtbot, walls, "moved out by", '-6"')
    over = next(w for w in walls.desk.building.project.walls if w.base == "L2")
    assert over.start[1] - below.start[1] == pytest.approx(152.4), (
        "a minus sets it in, towards the north"
    )
    field(walls, "moved out by").setText("far")
    press(walls, "Set it there")
    assert "not a length" in walls.fit_list.said


def test_the_module_mend_can_leave_the_grid_alone(qtbot: QtBot) -> None:
    from buildings import block_hall

    w = Window(Building(block_hall()))
    qtbot.addWidget(w)
    w.show()
    w.desk.select(the("page:module"))
    assert "off" in words(w)
    choose(w, "grid lines", "stay")
    press(w, "Do it")
    lines = {x.label: x.offset for x in w.desk.building.project.grids[0].lines}
    assert (lines["3"], lines["B"]) == (9130.0, 6410.0)
    w.desk.undo()
    choose(w, "grid lines", "go along")
    press(w, "Do it")
    lines = {x.label: x.offset for x in w.desk.building.project.grids[0].lines}
    assert (lines["3"], lines["B"]) == (9190.0, 6590.0), "n × 200 − 10, and no shorter than before"
    w._closing = True


# -- clipboard and what is taken away -----------------------------------------


def test_copy_and_paste_into_another_project(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select_many((the("wall:W101"), the("wall:W102")))
    qtbot.keyClick(walls.plan, Qt.Key.Key_C, CTRL)
    other = Window(Building(empty_building("Other", "us")))
    qtbot.addWidget(other)
    other.show()
    sight.paste(other.desk)
    assert other.desk.tool == "Paste"
    click(other, qtbot, (2000.0, 1000.0))
    assert len(other.desk.building.project.walls) == 2
    assert len(other.desk.selected) == 2
    QApplication.clipboard().setText("not a clip")
    sight.paste(other.desk)
    assert "nothing on the clipboard" in other.fit_list.said
    QApplication.clipboard().setText('{"balken_clip": 1}')
    sight.paste(other.desk)
    assert "no part of a building" in other.fit_list.said
    other._closing = True


def test_delete_takes_what_is_selected_away(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select_many((the("opening:W101/W101-1"), the("opening:W101/W101-2")))
    qtbot.keyClick(walls.plan, Qt.Key.Key_Delete)
    assert len(wall(walls.desk.building.project, "W101").openings) == 1
    assert "2 openings: taken away" in walls.fit_list.said
    walls.desk.undo()
    walls.desk.select(the("wall:W105"))
    qtbot.keyClick(walls.plan, Qt.Key.Key_Delete)
    assert len(walls.desk.building.project.walls) == 9
    assert walls.desk.selected == ()


def test_flip_and_join(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W105"))
    side = wall(walls.desk.building.project, "W105").side
    qtbot.keyClick(walls.plan, Qt.Key.Key_X)
    assert wall(walls.desk.building.project, "W105").side != side
    walls.desk.select(the("wall:W102"))
    qtbot.keyClick(walls.plan, Qt.Key.Key_S)
    click(walls, qtbot, (36 * FOOT - 60.0, 6000.0))
    click(walls, qtbot, (36 * FOOT - 60.0, 6000.0))
    assert len(walls.desk.building.project.walls) == 11
    new = walls.desk.building.project.walls[2].id
    walls.desk.select_many((the("wall:W102"), the(f"wall:{new}")))
    qtbot.keyClick(walls.plan, Qt.Key.Key_J, SHIFT)
    assert len(walls.desk.building.project.walls) == 10


# -- slips --------------------------------------------------------------------


def test_the_slip_of_a_level(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("level:TF"))
    assert "it adds up" in words(window)
    choose(window, "moves with", "Ground line")
    project = window.desk.building.project
    assert level(project, "TF").lock == level(project, "GR").lock != ""
    choose(window, "moves with", "nothing")
    choose(window, "place", "held")
    assert level(window.desk.building.project, "TF").held
    enter(qtbot, window, "copy up by", "-8\" 1' x 2")
    made = [x for x in window.desk.building.project.levels if x.role == "foundation_top"]
    assert len(made) == 4
    enter(qtbot, window, "copy up by", "up")
    assert "not a length" in window.fit_list.said
    window.desk.select(the("level:L2"))
    press(window, "Take the level away")
    assert all(x.id != "L2" for x in window.desk.building.project.levels)
    assert wall(window.desk.building.project, "W201").base == "P1", (
        "what hung on it goes to the nearest"
    )
    qtbot.keyClick(window, Qt.Key.Key_L, SHIFT)
    assert str(window.desk.selection).startswith("level:")
    assert not [
        x
        for x in window.desk.building.project.walls
        if window.desk.selection.key in (x.base, x.top)
    ]
    press(window, "Take the level away")
    assert window.desk.selection is None


def test_keys_go_on_to_the_board_after_a_field(walls: Window, qtbot: QtBot) -> None:
    before = walls.desk.building.project
    walls.desk.select(the("wall:W101"))
    QApplication.processEvents()
    edit = field(walls, "length")
    edit.setFocus()
    edit.setText("0")
    qtbot.keyClick(edit, Qt.Key.Key_Return)
    assert walls.focusWidget() is edit, "what was refused can be mended where it stands"
    edit.setText("35'")
    qtbot.keyClick(edit, Qt.Key.Key_Return)
    assert walls.focusWidget() is walls.plan
    assert walls.desk.building.project != before
    qtbot.keyClick(walls.focusWidget(), Qt.Key.Key_Z, CTRL)
    assert walls.desk.building.project == before
    QApplication.processEvents()
    field(walls, "name").setFocus()
    qtbot.keyClick(field(walls, "name"), Qt.Key.Key_Escape)
    assert walls.focusWidget() is walls.plan


def test_tab_takes_what_is_typed_and_goes_on(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("wall:W101"))
    QApplication.processEvents()
    edit = field(walls, "name")
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClicks(edit, "front")
    qtbot.keyClick(edit, Qt.Key.Key_Tab)
    assert wall(walls.desk.building.project, "W101").name == "front"
    qtbot.waitUntil(lambda: isinstance(walls.focusWidget(), QLineEdit), timeout=5_000)
    after = walls.focusWidget()
    assert isinstance(after, QLineEdit)
    assert after.accessibleName() == "length"
    qtbot.keyClicks(after, "0")
    qtbot.keyClick(after, Qt.Key.Key_Backtab)
    assert "no length" in walls.fit_list.said
    assert walls.focusWidget() is after, "what was refused can be mended where it stands"


def test_studs_typed_bring_the_plate_along(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("level:P2"))
    assert field(window, "studs").text() == '92 5/8"'
    enter(qtbot, window, "studs", "8'-8 5/8\"")
    project = window.desk.building.project
    assert level(project, "P2").elevation - level(project, "L2").elevation == pytest.approx(
        (104.625 + 4.5) * 25.4
    )
    enter(qtbot, window, "studs", "-1")
    assert "below zero" in window.fit_list.said


def test_changing_a_build_up_says_how_many_and_asks_which(walls: Window, qtbot: QtBot) -> None:
    key = wall(walls.desk.building.project, "W101").build_up
    walls.desk.select_many((the("wall:W101"),))
    walls.desk.select(the(f"build-up:{key}"))
    assert "8 walls" in words(walls)
    assert walls.slip.findChild(Figure) is not None
    choose(walls, "reaches", "only the 1 wall")
    fields = [e for e in walls.slip.findChildren(QLineEdit) if e.accessibleName() == "thickness"]
    fields[1].setText('7 1/4"')
    qtbot.keyClick(fields[1], Qt.Key.Key_Return)
    thick = [
        w.id for w in walls.desk.building.project.walls if w.thickness == pytest.approx(8.25 * 25.4)
    ]
    assert thick == ["W101"]
    assert len(walls.desk.building.project.wall_build_ups) == 3
    walls.desk.select(the("page:build-ups"))
    assert "1 wall" in words(walls)
    choices = [b for b in walls.slip.findChildren(QPushButton) if b.text() == "take"]
    count = len(choices)
    choices[0].click()
    assert len(walls.desk.building.project.wall_build_ups) == 4
    walls.desk.select(the("page:build-ups"))
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert len([b for b in walls.slip.findChildren(QPushButton) if b.text() == "take"]) == count - 1
    walls.desk.select(the(f"build-up:{key}"))
    roles = [b for b in walls.slip.findChildren(QComboBox) if b.accessibleName() == "is"]
    roles[1].setCurrentIndex(roles[1].findText("lining"))
    roles[1].activated.emit(roles[1].currentIndex())
    assert "needs a core" in walls.fit_list.said


def test_the_slip_of_an_opening(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("opening:W101/W101-3"))
    enter(qtbot, walls, "from end", "1'")
    hole = wall(walls.desk.building.project, "W101").openings[2]
    assert hole.at + hole.width == pytest.approx(35 * FOOT)
    enter(qtbot, walls, "head", "7'")
    hole = wall(walls.desk.building.project, "W101").openings[2]
    assert hole.sill + hole.height == pytest.approx(7 * FOOT)
    enter(qtbot, walls, "copy by", "-20'")
    assert "lie over" in walls.fit_list.said
    enter(qtbot, walls, "rough width", "40'")
    assert "past the end" in walls.fit_list.said
    assert field(walls, "rough width").property("wrong") is True


def test_the_slip_of_a_grid_line(walls: Window, qtbot: QtBot) -> None:
    walls.desk.select(the("grid:G1/A5"))
    enter(qtbot, walls, "label", "A")
    assert "called “A” already" in walls.fit_list.said
    enter(qtbot, walls, "label", "1.A")
    enter(qtbot, walls, "from line 1", "12'")
    line = next(x for x in walls.desk.building.project.grids[0].lines if x.label == "1.A")
    assert line.offset == pytest.approx(12 * FOOT)
    enter(qtbot, walls, "labels", "P1")
    assert [x.label for x in walls.desk.building.project.grids[0].lines if x.runs == "y"] == [
        "P1",
        "P2",
        "P3",
        "P4",
    ]
    enter(qtbot, walls, "overall at", "14")
    assert walls.desk.building.project.grids[0].overall == 14.0
    assert offers(walls.desk, "A/P2")[0].words == "crossing A/P2"
    press(walls, "Hold all the others")
    assert sum(x.held for x in walls.desk.building.project.grids[0].lines) == 3


def test_posts_at_every_crossing_then_some_away_by_area(walls: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(walls.plan, Qt.Key.Key_P)
    assert walls.desk.tool == "Posts, pads"
    press(walls, "Put them")
    assert len(walls.desk.building.project.point_supports) == 12
    qtbot.keyClick(walls.plan, Qt.Key.Key_P)
    choose(walls, "where", "an area")
    choose(walls, "do", "take away")
    click(walls, qtbot, (-800.0, -800.0))
    click(walls, qtbot, (20 * FOOT, 800.0))
    assert len(walls.desk.building.project.point_supports) == 10
    qtbot.keyClick(walls.plan, Qt.Key.Key_Escape)
    sight.select_all_of(walls.desk, "support")
    assert len(walls.desk.selected) == 10
    enter(qtbot, walls, "width", '7 1/4"')
    enter(qtbot, walls, "top above it", '-6"')
    assert [s.size[0] for s in walls.desk.building.project.point_supports] == pytest.approx(
        [184.15] * 10
    )
    assert {s.top_offset for s in walls.desk.building.project.point_supports} == {-152.4}
    walls.desk.select(the("support:C3/post:1"))
    assert "at A/3" in words(walls)


def test_block_walls_in_the_window(qtbot: QtBot) -> None:
    body = first_build_ups("metric")[2]
    project = replace(empty_building("Block", "metric"), wall_build_ups=(body,))
    project = draw_walls(
        project,
        WallKind("L1", "P1", build_up=body.id),
        rectangle_of((0, 0), (8930, 5910)),
        closed=True,
    )
    w = Window(Building(project))
    qtbot.addWidget(w)
    w.show()
    assert any(f.kind == "module" for f in w.desk.building.findings)
    w.desk.select(the("page:module"))
    assert "4 of 4 off" in words(w)
    press(w, "Show it")
    assert w.desk.building.project == project, "shown, not done"
    press(w, "Do it")
    assert not [f for f in w.desk.building.findings if f.kind == "module"]
    assert "0 of 4 off" in words(w)
    w.desk.undo()
    assert w.desk.building.project == project
    w._closing = True


# -- drawings and heights of others, new versions -----------------------------


def test_a_dxf_without_unit_is_asked_about_and_traced(
    walls: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    made = ezdxf.new("R2010")
    made.header["$INSUNITS"] = 0
    for ring in (
        [(0, 30), (9, 30), (9, 36), (0, 36)],
        [(0.2, 30.2), (8.8, 30.2), (8.8, 35.8), (0.2, 35.8)],
    ):
        made.modelspace().add_lwpolyline(ring, close=True, dxfattribs={"layer": "WALLS"})
    path = tmp_path / "old.dxf"
    made.saveas(path)
    others.lay_under(walls.desk, path)
    qtbot.waitUntil(lambda: walls.line.isVisible(), timeout=10_000)
    next(b for b in walls.line.findChildren(QPushButton) if b.text() == "metres").click()
    qtbot.waitUntil(lambda: bool(walls.desk.building.project.backgrounds), timeout=10_000)
    assert walls.desk.selection == the("page:sources")
    press(walls, "Walls from its pairs of lines")
    assert len(walls.desk.building.project.walls) == 14
    next(b for b in walls.slip.findChildren(QPushButton) if b.text().startswith("shown")).click()
    assert not walls.desk.building.project.backgrounds[0].layers[0].shown
    bad = tmp_path / "bad.dxf"
    bad.write_bytes(b"AC1015....")
    others.lay_under(walls.desk, bad)
    qtbot.waitUntil(lambda: "DWG" in walls.fit_list.said, timeout=10_000)


def test_heights_of_the_ground_from_file_and_instrument(
    window: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    path = tmp_path / "h.csv"
    path.write_text(
        spots_csv(
            (Spot((0.0, 0.0), -500.0), Spot((9000.0, 0.0), -600.0), Spot((0.0, 9000.0), -700.0))
        )
        + "1,2\n"
    )
    others.read_heights(window.desk, path)
    assert len(window.desk.building.project.spots) == 3
    assert "line 5" in window.fit_list.said
    enter(qtbot, window, "one more", "10', 4', -2'")
    assert window.desk.building.project.spots[-1] == Spot((3048.0, 1219.2), -609.6)
    enter(qtbot, window, "one more", "10', 4'")
    assert "is no height" in window.fit_list.said
    others.read_heights(window.desk, tmp_path / "none.csv")
    assert "no file" in window.fit_list.said
    others.survey_ground(window.desk)
    assert len(window.desk.building.project.spots) > 20
    window.desk.work_in(the("run:G1"))
    assert not window.grab().isNull()


def test_a_new_version_item_by_item(window: Window, qtbot: QtBot) -> None:
    from balken.exchange.ifc_in import take

    new = take(DEMO)
    new = move_lines(new, "G1", ["A7"], FOOT)
    others.compare_with(window.desk, new)
    assert window.desk.selection == the("page:update")
    count = len(window.desk.comparing.open)
    assert count == 9
    assert "GRID LINE 4" in words(window)
    assert "along by" not in words(window), "doors and windows stay where they are in the building"
    before = window.desk.building.project
    next(b for b in window.slip.findChildren(QPushButton) if b.text() == "take").click()
    assert len(window.desk.comparing.open) == count - 1
    next(b for b in window.slip.findChildren(QPushButton) if b.text() == "leave").click()
    assert len(window.desk.comparing.open) == count - 2
    window.desk.undo()
    assert window.desk.building.project == before
    press(window, "Take everything")
    assert window.desk.building.project.floors == before.floors
    press(window, "Done")
    assert window.desk.selection is None
    others.compare_with(window.desk, take(DEMO))
    assert "WALL SOUTH 2" in words(window), "the first file differs from what was taken over"


def test_every_view_of_everything_is_drawn(window: Window, qtbot: QtBot) -> None:
    """Upright views and the section, in both themes, with posts and ground."""
    window.desk.edit("posts", lambda p: put_supports(p, "post", crossings_of(p)))
    others.survey_ground(window.desk)
    for word in ("south", "east", "north", "west", "section"):
        window.desk.show_view("upright")
        window.upright.show_word(word)
        window.desk.refresh()
        assert window.upright.lines
        assert not window.grab().isNull()
    assert window.upright.side == "east", "across the building first"
    before = window.board.scale.text()
    qtbot.keyClick(window.upright, Qt.Key.Key_Right)
    assert " in from the east" in before
    assert window.board.scale.text() != before, "arrows move the cut"
    window.upright.show_word("south")
    at = window.upright._to_pixel((3000.0, 1000.0))
    Hands(qtbot, window.upright).click(at.x(), at.y())
    assert window.desk.selection == the("wall:W101") or str(window.desk.selection).startswith(
        "opening:W101"
    )
    qtbot.keyClick(window, Qt.Key.Key_D, CTRL)
    window.desk.show_view("space")
    qtbot.waitUntil(lambda: window.space.ready)
    window.space.grab()
    assert {label for label, _, _ in window.space._scene.labels} == {
        "A",
        "B",
        "C",
        "1",
        "2",
        "3",
        "4",
    }


def test_a_tool_is_left_by_escape_and_begun_again_by_undo(walls: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(walls.plan, Qt.Key.Key_W)
    assert walls.board.tell.isVisible()
    click(walls, qtbot, (20_000.0, 1000.0))
    click(walls, qtbot, (23_000.0, 1000.0))
    assert len(walls.desk.building.project.walls) == 11
    qtbot.keyClick(walls.plan, Qt.Key.Key_Z, CTRL)
    assert len(walls.desk.building.project.walls) == 10
    assert walls.desk.at_work
    qtbot.keyClick(walls.plan, Qt.Key.Key_X)
    assert walls.desk.kit.outside == "left"
    qtbot.keyClick(walls.plan, Qt.Key.Key_Escape)
    assert not walls.desk.at_work
    assert not walls.board.tell.isVisible()


def test_typed_words_can_be_left_by_escape(walls: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(walls.plan, Qt.Key.Key_U)
    assert walls.board.tell.entry.isVisible()
    qtbot.keyClicks(walls.board.tell.entry, "0")
    qtbot.keyClick(walls.board.tell.entry, Qt.Key.Key_Return)
    assert "no width" in walls.fit_list.said
    assert walls.desk.at_work
    qtbot.keyClick(walls.board.tell.entry, Qt.Key.Key_Escape)
    assert not walls.desk.at_work


def test_panning_shifts_the_picture_and_zooming_stretches_it(walls: Window, qtbot: QtBot) -> None:
    walls.plan.repaint()
    painted = walls.plan._painted
    walls.plan.offset += QPointF(30, 10)
    walls.plan.repaint()
    assert walls.plan._painted == painted, "the picture is not painted anew"
    walls.plan.zoom(1.3)
    walls.plan.repaint()
    assert walls.plan._painted == painted
    qtbot.wait(250)
    walls.plan.repaint()
    assert walls.plan._painted[0] == pytest.approx(walls.plan.scale), "once the hand rests, it is"
    qtbot.keyPress(walls.plan, Qt.Key.Key_Space)
    before = QPointF(walls.plan.offset)
    Hands(qtbot, walls.plan).drag((200, 200), (240, 220))
    qtbot.keyRelease(walls.plan, Qt.Key.Key_Space)
    assert walls.plan.offset == before + QPointF(40, 20)
    scale = walls.plan.scale
    qtbot.keyClick(walls.plan, Qt.Key.Key_Equal, CTRL)
    assert walls.plan.scale == pytest.approx(scale * 1.25)


def test_every_key_is_one_commands_alone(walls: Window) -> None:
    for select in (None, the("wall:W101"), the("grid:G1/A1"), the("opening:W101/W101-1")):
        walls.desk.select(select)
        keys = [c.key for c in commands(walls.desk) if c.key and c.key != "Ctrl+="]
        twice = {k for k in keys if keys.count(k) > 1}
        assert not twice, twice


def test_a_project_of_old_format_opens_in_the_window(window: Window) -> None:
    """As an earlier version of the program wrote it."""
    old = Path(__file__).parents[1] / "exchange" / "formats" / "format-5.balken"
    files.show_building(window.desk, open_building(old))
    assert window.desk.building.project.format == FORMAT
    assert window.desk.building.checked.structure.members
