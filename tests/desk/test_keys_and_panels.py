"""Everything by keyboard: where keys go is seen, parts fold, pieces are stepped through, and what
can be done is told by menu and by F1."""

import time
from itertools import combinations
from typing import Any

import pytest
from desk_hands import Hands
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QTimer, QUrl
from PySide6.QtGui import QColor, QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QMenu, QWidget
from pytestqt.qtbot import QtBot

from balken.desk.chooser import Chooser
from balken.desk.keys_panel import KeysPanel
from balken.desk.menu import menu_of
from balken.desk.slip_parts import Choices
from balken.desk.theme import LIGHT
from balken.desk.window import Window
from balken.session.building import Building
from balken.session.commands import commands
from balken.session.demo import shown_demo
from balken.session.keys import keys_at_hand
from named import the

SHIFT = Qt.KeyboardModifier.ShiftModifier
PARTS = {
    Qt.Key.Key_F2: "ladder",
    Qt.Key.Key_F3: "strip",
    Qt.Key.Key_F4: "slip",
    Qt.Key.Key_F5: "fit_list",
}


def inked(widget: QWidget, x: int, y: int) -> bool:
    """Whether the ring of the focus is drawn at a pixel."""
    return bool(QColor(widget.grab().toImage().pixel(x, y)) == QColor(LIGHT.accent))


def test_where_keys_go_is_seen_in_every_part(window: Window, qtbot: QtBot) -> None:
    window.activateWindow()
    window.desk.select(the("floor:F2/joist:14a"))
    seen: list[QWidget] = []
    for _ in range(6):
        qtbot.keyClick(window, Qt.Key.Key_F6)
        QApplication.processEvents()
        held = window.focusWidget()
        assert held is not None
        seen.append(held)
    assert window.plan in seen
    assert window.ladder in seen
    assert window.fit_list.rows in seen
    assert window.top.finder in seen
    for view in (window.plan, window.ladder, window.fit_list.rows):
        view.setFocus()
        QApplication.processEvents()
        with_ring = view.grab().toImage()
        window.top.finder.setFocus()
        QApplication.processEvents()
        assert with_ring != view.grab().toImage(), view.accessibleName()


def test_the_active_step_is_told_apart_from_the_one_that_takes_keys(window: Window) -> None:
    window.activateWindow()
    active, other = window.top.steps["Floors"], window.top.steps["Roof"]
    other.setFocus()
    QApplication.processEvents()
    focused = other.grab().toImage()
    window.plan.setFocus()
    QApplication.processEvents()
    plain = other.grab().toImage()
    assert focused != plain, "a ring shows where keys go"
    assert active.isChecked()
    assert not other.isChecked()


@pytest.mark.parametrize("key", PARTS)
def test_parts_fold_away_and_the_plan_takes_their_room(
    window: Window, qtbot: QtBot, key: Qt.Key
) -> None:
    part = getattr(window, PARTS[key])
    before, scale = window.plan.size(), window.plan.scale
    assert part.isVisible()
    qtbot.keyClick(window.plan, key)
    QApplication.processEvents()
    assert not part.isVisible()
    grown = window.plan.size()
    assert grown.width() * grown.height() > before.width() * before.height()
    assert window.plan.scale >= scale, "nothing was zoomed: the plan fills its new room"
    qtbot.keyClick(window.plan, key)
    QApplication.processEvents()
    assert part.isVisible()
    assert window.plan.size() == before


@pytest.mark.parametrize(("width", "height"), [(1024, 668), (1280, 800), (2560, 1400)])
def test_nothing_is_cut_at_any_size(window: Window, width: int, height: int) -> None:
    window.resize(width, height)
    QApplication.processEvents()
    for part in (window.ladder, window.strip, window.board, window.slip, window.fit_list):
        place = part.mapTo(window, QPoint(0, 0))
        assert place.x() >= 0
        assert place.x() + part.width() <= window.width(), part
        assert place.y() + part.height() <= window.height(), part
    for word in ("Open", "Save", "Issue"):
        found = [
            w for w in window.strip.findChildren(QWidget) if w.accessibleName().startswith(word)
        ]
        assert found
        place = found[0].mapTo(window, QPoint(0, 0))
        assert place.y() + found[0].height() <= window.height(), word
    assert window.board.scale.text() == f"1 : {window.plan.ratio()}"


def test_view_words_stay_at_one_place_in_all_views(window: Window, qtbot: QtBot) -> None:
    places = []
    for view in ("plan", "upright", "space", "paper"):
        window.board.view_words[view].click()
        QApplication.processEvents()
        assert window.desk.view == view
        places.append(
            [
                window.board.view_words[v].mapTo(window, QPoint(0, 0))
                for v in window.board.view_words
            ]
        )
    assert all(p == places[0] for p in places)


def test_the_scale_that_is_told_is_the_true_one(window: Window, qtbot: QtBot) -> None:
    for _ in range(3):
        qtbot.keyClick(window, Qt.Key.Key_Plus, Qt.KeyboardModifier.ControlModifier)
        told = int(window.board.scale.text().split(":")[1])
        dots = window.plan.logicalDpiX() / 25.4
        assert told == pytest.approx(dots / window.plan.scale, abs=2.6)


def test_pieces_are_stepped_through_by_key(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    marks = []
    for _ in range(4):
        qtbot.keyClick(window.plan, Qt.Key.Key_Period)
        member = window.desk.member()
        assert member is not None
        marks.append(member.mark)
    assert marks == sorted(set(marks))
    qtbot.keyClick(window.plan, Qt.Key.Key_Comma)
    assert window.desk.member().mark == marks[-2]


def actions(menu: QMenu) -> list[str]:
    return [a.text().split("\t")[0] for a in menu.actions() if a.text() and a.isEnabled()]


def test_a_click_with_the_right_button_tells_what_can_be_done(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    at = window.plan.to_pixel((1000.0, 80.0)).toPoint()
    qtbot.mouseClick(window.plan, Qt.MouseButton.RightButton, pos=at)
    assert window.desk.selected == (the("wall:W101"),)
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    assert menu.actions()[0].text().startswith("wall south 1")
    assert {"Move", "Flip", "Take away", "Hide"} <= set(actions(menu))
    menu.close()
    before = QPointF(window.plan.offset)
    qtbot.mousePress(window.plan, Qt.MouseButton.RightButton, pos=at)
    Hands(qtbot, window.plan).move(at.x() + 40, at.y())
    qtbot.mouseRelease(window.plan, Qt.MouseButton.RightButton, pos=at + QPoint(40, 0))
    assert QApplication.activePopupWidget() is None, "a drag moves the plan"
    assert window.plan.offset != before


@pytest.mark.parametrize("key", [(Qt.Key.Key_F10, SHIFT), (Qt.Key.Key_Menu, None)])
def test_the_menu_comes_by_key_and_does_what_it_says(
    window: Window, qtbot: QtBot, key: tuple[Qt.Key, Any]
) -> None:
    window.desk.select(the("wall:W105"))
    qtbot.keyClick(window.plan, key[0], key[1] or Qt.KeyboardModifier.NoModifier)
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    away = next(a for a in menu.actions() if a.text().startswith("Take away"))
    menu.close()
    away.trigger()
    assert "W105" not in {w.id for w in window.desk.project.walls}


def test_the_menu_where_nothing_is_selected_offers_what_can_be_placed(window: Window) -> None:
    window.desk.work_in(the("walls:L1"))
    menu = menu_of(window.desk, window)
    assert {"Wall", "Opening", "Foundation"} <= set(actions(menu))


def test_f1_shows_the_keys_of_what_is_at_hand(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    qtbot.keyClick(window.plan, Qt.Key.Key_F1)
    panel = window.over
    assert isinstance(panel, KeysPanel)
    assert "W: Wall" in panel.accessibleDescription()
    qtbot.keyClick(panel, Qt.Key.Key_Escape)
    assert window.over is None
    qtbot.keyClick(window.plan, "?")
    assert isinstance(window.over, KeysPanel)
    qtbot.keyClick(window.over, Qt.Key.Key_F1)
    assert window.over is None


def test_every_key_of_every_command_is_told(window: Window) -> None:
    for tier in [t.id for t in window.desk.tiers]:
        window.desk.work_in(tier)
        told = {key for _, keys in keys_at_hand(window.desk) for key, _ in keys}
        assert {c.key for c in commands(window.desk) if c.key} <= told


def test_the_table_of_choices_is_gone_through_by_keys(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    table = window.slip.findChildren(Choices)[0]
    wanted = table.rows[0]
    qtbot.keyClick(table, Qt.Key.Key_Down)
    qtbot.keyClick(table, Qt.Key.Key_Return)
    floor = next(f for f in window.desk.project.floors if f.id == "F2")
    assert (floor.section, floor.spacing) == (wanted.section, wanted.spacing)


def test_choices_have_a_sign_and_the_wheel_chooses_nothing(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    boxes = window.slip.findChildren(QComboBox)
    assert boxes
    assert all(isinstance(b, Chooser) for b in boxes)


def test_the_last_click_made_while_waiting_is_made_after_it(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    real = window.desk.building.worked_out

    def late(change: Any) -> Any:
        time.sleep(0.8)
        return real(change)

    monkeypatch.setattr(window.desk.building, "worked_out", late)
    first = window.plan.to_pixel((80.0, 3000.0)).toPoint()
    last = window.plan.to_pixel((1000.0, 80.0)).toPoint()
    for after, at in ((350, first), (500, last)):
        QTimer.singleShot(
            after, lambda at=at: QTest.mouseClick(window.plan, Qt.MouseButton.LeftButton, pos=at)
        )
    from msgspec.structs import replace

    assert window.desk.edit("name it", lambda p: replace(p, name="Later"))
    QApplication.processEvents()
    QApplication.processEvents()
    assert window.desk.selected == (the("wall:W101"),)


def test_a_file_dropped_on_the_window_is_opened(
    window: Window, qtbot: QtBot, tmp_path: Any
) -> None:
    from balken.exchange.native import save

    path = tmp_path / "dropped.balken"
    save(shown_demo(), path)

    def drop(name: Any) -> None:
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(name))])
        event = QDropEvent(
            QPointF(300, 300),
            Qt.DropAction.CopyAction,
            data,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        assert window.acceptDrops()
        window.dropEvent(event)

    drop(path)
    qtbot.waitUntil(lambda: window.desk.building.path == path, timeout=30_000)
    assert window.windowTitle().startswith("dropped.balken")
    drop(tmp_path / "letter.odt")
    assert "nothing that is read here" in window.desk.said
    window.desk.select(the("page:recent"))
    assert "dropped.balken" in {
        b.text() for b in window.slip.findChildren(QWidget) if hasattr(b, "text")
    }


def test_the_window_opens_within_small_and_large_screens(qtbot: QtBot) -> None:
    made = Window(Building(shown_demo()))
    qtbot.addWidget(made)
    made.show()
    QApplication.processEvents()
    free = made.screen().availableGeometry()
    assert made.width() <= max(900, free.width())
    made._closing = True


@pytest.mark.parametrize("view", ["plan", "upright", "space", "paper"])
def test_on_a_narrow_board_the_words_for_the_views_stay_whole(qtbot: QtBot, view: str) -> None:
    made = Window(Building(shown_demo()))
    qtbot.addWidget(made)
    made.resize(1280, 800)
    made.show()
    made.desk.show_view(view)
    QApplication.processEvents()
    wide = {name: word.geometry() for name, word in made.board.view_words.items()}
    made.resize(1024, 700)
    QApplication.processEvents()
    narrow = {name: word.geometry() for name, word in made.board.view_words.items()}
    assert narrow == wide, "at one place in every size"
    boxes = list(narrow.values())
    assert not any(a.intersects(b) for a, b in combinations(boxes, 2))
    assert all(made.board.rect().contains(box) for box in boxes)
    for label in (made.board.title, made.board.scale):
        assert not any(label.geometry().intersects(box) for box in boxes)
    assert made.board.title.fontMetrics().horizontalAdvance(made.board.title.text()) <= (
        made.board.title.contentsRect().width()
    ), "and the title whole under them"
    made._closing = True
