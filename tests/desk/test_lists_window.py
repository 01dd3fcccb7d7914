"""Lists in the window: opened by key, chosen and filtered by typing, put in order by a click on a heading; a
line selects its pieces everywhere, and what is selected elsewhere stands out in the list."""

import csv
import io
from pathlib import Path

import openpyxl
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.list_panel import ListPanel
from balken.desk.window import Window
from balken.framing import kinds
from balken.model.names import HostName, MemberName
from balken.session.building import Building
from balken.session.desk import page
from balken.takeoff.lists import LISTS, TITLES
from buildings import house


@pytest.fixture
def window(qtbot: QtBot) -> Window:
    shown = Window(Building(house()))
    qtbot.addWidget(shown)
    shown.resize(1280, 800)
    shown.show()
    shown.plan.setFocus()
    qtbot.keyClick(shown.plan, Qt.Key.Key_5)
    return shown


@pytest.fixture
def lists(window: Window) -> ListPanel:
    return window.board.lists


def choose(lists: ListPanel, word: str) -> None:
    lists.which.setCurrentIndex(lists.which.findText(word))


def click_line(qtbot: QtBot, lists: ListPanel, row: int, held: Qt.KeyboardModifier) -> None:
    place = lists.table.visualRect(lists.model.index(row, 0)).center()
    qtbot.mouseClick(lists.table.viewport(), Qt.MouseButton.LeftButton, held, place)


def cells(lists: ListPanel, column: int) -> list[str]:
    return [lists.model.index(r, column).data() for r in range(lists.model.rowCount())]


NONE = Qt.KeyboardModifier.NoModifier


def test_the_key_opens_and_closes_them(window: Window, lists: ListPanel, qtbot: QtBot) -> None:
    assert lists.isVisible()
    assert not window.fit_list.isVisible(), "the lists take its room"
    assert lists.model.rowCount() == len(window.desk.checked.structure.members)
    qtbot.keyClick(window.plan, Qt.Key.Key_5)
    assert not lists.isVisible()
    assert window.fit_list.isVisible()
    qtbot.keyClick(window.plan, Qt.Key.Key_5)
    qtbot.keyClick(window.plan, Qt.Key.Key_3)
    assert not lists.isVisible(), "paper has all the room"


def test_every_list_there_is_can_be_chosen(window: Window, lists: ListPanel) -> None:
    assert list(TITLES) == list(LISTS)
    for key, word in TITLES.items():
        choose(lists, word)
        assert lists.model.rowCount() == len(LISTS[key](window.desk.checked).rows)
        assert not lists.refusal.isVisible()


def test_typing_filters_and_a_fault_is_told(window: Window, lists: ListPanel, qtbot: QtBot) -> None:
    qtbot.keyClicks(lists.filter, "role=joist")
    joists = window.desk.checked.structure.of(kinds.JOIST)
    assert lists.model.rowCount() == len(joists)
    assert f"{len(joists)} lines" in lists.sums.text()
    lists.filter.clear()
    qtbot.keyClicks(lists.filter, "colour=red")
    assert lists.refusal.isVisible()
    assert "mark, role" in lists.refusal.text()
    assert lists.model.rowCount() == len(window.desk.checked.structure.members)
    lists.filter.clear()
    assert not lists.refusal.isVisible()


def test_a_click_on_a_heading_puts_in_order(lists: ListPanel, qtbot: QtBot) -> None:
    lists.filter.setText("role=joist")
    heads = lists.table.horizontalHeader()
    n = [c.key for c in lists.model.lines.columns].index("mark")
    before = cells(lists, n)

    def click() -> list[str]:
        at = QPoint(heads.sectionViewportPosition(n) + 8, heads.height() // 2)
        qtbot.mouseClick(heads.viewport(), Qt.MouseButton.LeftButton, NONE, at)
        return cells(lists, n)

    up, down, again = click(), click(), click()
    assert up == down[::-1]
    assert again == before


def test_groups_stand_under_their_sums(window: Window, lists: ListPanel) -> None:
    choose(lists, "Lumber")
    lists.group.setCurrentIndex(lists.group.findText("by section"))
    heads = [x for x in lists.model.lines.lines if x.is_group]
    sections = {r.cells[0] for r in LISTS["lumber"](window.desk.checked).rows}
    assert len(heads) == len(sections)
    assert lists.model.rowCount() == lists.model.lines.number + len(heads)


def test_a_line_selects_its_piece_and_the_plan_goes_there(
    window: Window, lists: ListPanel, qtbot: QtBot
) -> None:
    lists.filter.setText("role=joist")
    click_line(qtbot, lists, 2, NONE)
    name = lists.model.lines.lines[2].names[0]
    assert window.desk.selected == (name,)
    assert isinstance(name, MemberName)
    tier = window.desk.current_tier()
    assert tier is not None
    assert tier.holds(name.host)
    click_line(qtbot, lists, 3, Qt.KeyboardModifier.ControlModifier)
    assert len(window.desk.selected) == 2
    assert {i.row() for i in lists.table.selectionModel().selectedRows()} == {2, 3}


def test_keys_of_the_desk_work_from_the_list(
    window: Window, lists: ListPanel, qtbot: QtBot
) -> None:
    lists.filter.setText("role=joist")
    before = lists.model.rowCount()
    click_line(qtbot, lists, 2, NONE)
    qtbot.keyClick(lists.table, Qt.Key.Key_Down)
    assert lists.table.selectionModel().selectedRows()[0].row() == 3
    qtbot.keyClick(lists.table, Qt.Key.Key_Delete)
    assert lists.model.rowCount() < before
    qtbot.keyClick(lists.table, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert lists.model.rowCount() == before
    qtbot.keyClick(lists.table, Qt.Key.Key_5)
    assert not lists.isVisible()


def test_a_table_that_is_refused_is_said_and_no_fault(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """By the buttons of the slip, as a person presses them."""
    bad = tmp_path / "bad.csv"
    bad.write_text("item,unit,price\n2x6,ft,cheap\n")
    monkeypatch.setattr(window, "file_to_open", lambda *_: bad)
    for title, text, words in (
        ("cost", "Take prices from a table …", "cheap"),
        ("cutting", "Read what the saw told …", "no column"),
    ):
        window.desk.select(page(title))
        button = next(b for b in window.slip.findChildren(QPushButton) if b.text() == text)
        qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
        assert words in window.desk.said
        assert window.desk.faults == ()


def test_a_line_of_many_selects_them_all(window: Window, lists: ListPanel, qtbot: QtBot) -> None:
    choose(lists, "Lumber")
    lists.filter.setText("role=joist")
    click_line(qtbot, lists, 0, NONE)
    line = lists.model.lines.lines[0]
    assert len(line.names) > 1
    assert window.desk.selected == line.names


def test_what_is_selected_elsewhere_stands_out(window: Window, lists: ListPanel) -> None:
    joist = window.desk.checked.structure.of(kinds.JOIST)[5]
    window.desk.select(joist.id)
    (chosen,) = lists.table.selectionModel().selectedRows()
    assert lists.model.lines.lines[chosen.row()].names == (joist.id,)
    window.desk.select(HostName("wall", window.desk.project.walls[0].id))
    assert not lists.table.selectionModel().selectedRows()


def test_an_edit_is_in_the_list_at_once(window: Window, lists: ListPanel, qtbot: QtBot) -> None:
    before = lists.model.rowCount()
    joist = window.desk.checked.structure.of(kinds.JOIST)[5]
    window.desk.select(joist.id)
    qtbot.keyClick(window.plan, Qt.Key.Key_Delete)
    assert lists.model.rowCount() == len(window.desk.checked.structure.members) < before
    assert not any(joist.id in line.names for line in lists.model.lines.lines)
    qtbot.keyClick(window.plan, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert lists.model.rowCount() == before


def test_lists_are_saved_as_they_are_looked_at(
    window: Window, lists: ListPanel, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    lists.filter.setText("role=joist")
    for name in ("joists.csv", "lists.xlsx"):
        monkeypatch.setattr(window, "file_to_write", lambda *_, n=name: tmp_path / n)
        lists._save()
    rows = list(csv.reader(io.StringIO((tmp_path / "joists.csv").read_text())))
    assert len(rows) == lists.model.rowCount() + 1
    book = openpyxl.load_workbook(tmp_path / "lists.xlsx")
    assert book.sheetnames[0] == "Pieces"
    monkeypatch.setattr(window, "file_to_write", lambda *_: tmp_path / "no folder" / "x.csv")
    lists._save()
    assert "no folder" in window.desk.said
    monkeypatch.setattr(window, "file_to_write", lambda *_: None)
    lists._save()


def test_many_pieces_have_a_slip_of_their_own(
    window: Window, lists: ListPanel, qtbot: QtBot
) -> None:
    """Not that of the wall or floor they belong to, as often as there are pieces."""
    choose(lists, "Lumber")
    lists.filter.setText("role=joist")
    click_line(qtbot, lists, 0, NONE)
    names = window.desk.selected
    joists = [m for m in window.desk.checked.structure.members if m.id in names]
    texts = [x.text() for x in window.slip.findChildren(QLabel)]
    assert f"{len(joists)} pieces" in texts
    assert any(t.startswith(f"{len(joists)} of 2") for t in texts)
