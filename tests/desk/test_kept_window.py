"""What is kept and looked at in the window: steps of setting by key and button, two versions drawn over one
another, prices typed and asked, catalogues and templates by the dialogs."""

from pathlib import Path

import pytest
from desk_hands import enter
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.start_page import StartPage
from balken.desk.theme import LIGHT
from balken.desk.window import Window
from balken.exchange.native import load
from balken.exchange.price_service import MadeUpPrices
from balken.model.edits.hosts import set_floor
from balken.model.names import HostName
from balken.session import sight
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import page
from balken.takeoff.compared import Earlier
from balken.takeoff.setting import steps_of
from balken.works.building import work_out
from buildings import house

ALT = Qt.KeyboardModifier.AltModifier


@pytest.fixture
def window(qtbot: QtBot) -> Window:
    shown = Window(Building(house()))
    qtbot.addWidget(shown)
    shown.resize(1280, 800)
    shown.show()
    shown.plan.setFocus()
    return shown


def press(qtbot: QtBot, window: Window, text: str) -> None:
    button = next(b for b in window.slip.findChildren(QPushButton) if b.text() == text)
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)


def test_the_building_is_set_step_by_step(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    steps = steps_of(desk.checked)
    qtbot.keyClick(window.plan, Qt.Key.Key_Period, ALT)
    assert desk.view == "space"
    assert window.board.title.text() == f"Step 1 of {len(steps)}"
    assert desk.veil.only == {m.id for m in steps[0].stage.members}
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    there = {m.id for s in steps[:2] for m in s.stage.members}
    assert desk.veil.only == there
    assert set(desk.selected) == {m.id for m in steps[1].stage.members}
    assert steps[1].stage.words in desk.said
    qtbot.keyClick(window, Qt.Key.Key_Comma, ALT)
    qtbot.keyClick(window, Qt.Key.Key_Comma, ALT)
    assert not desk.veil.hides, "before the first all is there"
    assert desk.setting is None


def test_showing_everything_ends_it(window: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    held = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(window, Qt.Key.Key_H, held)
    assert window.desk.setting is None
    assert window.board.title.text() == "Structure in space"
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert window.desk.setting is None
    assert not window.desk.veil.hides


def test_what_was_hidden_before_is_hidden_after(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    wall = HostName("wall", desk.project.walls[0].id)
    sight.hide_these(desk, frozenset([wall]))
    sight.lock_these(desk, frozenset([wall]))
    before = desk.veil
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert desk.veil == before


def test_after_the_last_step_all_is_there(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    for _ in range(len(steps_of(desk.checked)) + 1):
        qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    assert desk.setting is None
    assert not desk.veil.hides
    assert desk.said == "All is set."


def test_steps_by_the_words_of_the_list(window: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(window.plan, Qt.Key.Key_5)
    lists = window.board.lists
    assert not lists.next.isVisible(), "other lists have no steps"
    lists.which.setCurrentIndex(lists.which.findText("Order of setting"))
    assert lists.next.isVisible()
    qtbot.mouseClick(lists.next, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(lists.next, Qt.MouseButton.LeftButton)
    assert window.board.title.text().startswith("Step 2 ")
    qtbot.mouseClick(lists.before, Qt.MouseButton.LeftButton)
    assert window.board.title.text().startswith("Step 1 ")


def test_an_edit_while_steps_are_looked_at_goes_on_with_them(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    floor = desk.project.floors[0]
    desk.edit("joists", lambda p: set_floor(p, floor.id, spacing=304.8))
    qtbot.keyClick(window, Qt.Key.Key_Period, ALT)
    assert desk.setting is not None
    assert desk.setting.checked is desk.checked
    assert desk.setting.number == 1


def test_two_versions_are_drawn_over_one_another(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    tier = next(t for t in desk.tiers if t.kind == "floor")
    floor = next(f for f in desk.project.floors if tier.holds(HostName("floor", f.id)))
    desk.earlier = Earlier("tender", work_out(desk.project))
    desk.edit("joists", lambda p: set_floor(p, floor.id, spacing=304.8))
    desk.tier_id = tier.id
    desk.select(page("versions"))
    over = window.board._over(desk.shown)
    assert over is not None
    assert over.came or over.gone
    planned = window.board._planned
    assert planned is not None
    assert planned[-1] is over
    press(qtbot, window, "Draw the later one alone")
    assert window.board._over(desk.shown) is None
    press(qtbot, window, "Draw both over one another")
    desk.show_view("space")
    qtbot.waitUntil(lambda: window.space.ready, timeout=20_000)
    press(qtbot, window, "Compare no more")
    assert desk.earlier is None


def test_prices_are_typed_changed_and_forgotten(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    desk.select(page("catalogue"))
    enter(qtbot, window, "one more", "concrete = 140 / m3")
    (price,) = desk.project.estimate.prices
    assert (price.item, price.unit, price.price) == ("concrete", "m3", 140.0)
    enter(qtbot, window, "concrete", "150.5 / cu yd, 0.4 h")
    (price,) = desk.project.estimate.prices
    assert (price.unit, price.price, price.hours) == ("cu yd", 150.5, 0.4)
    enter(qtbot, window, "concrete", "160")
    assert desk.project.estimate.prices[0].hours == 0.4, "what is not said stays"
    before = desk.project
    for wrong in ("dear", "-3 / m3", "4 / barrel", "1e99"):
        enter(qtbot, window, "concrete", wrong)
        assert desk.project == before, wrong
    enter(qtbot, window, "concrete", "")
    assert desk.project.estimate.prices == ()
    desk.undo()
    assert desk.project == before
    assert desk.faults == ()


def test_the_price_service_is_asked_and_says_what_it_lacks(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    desk.select(page("cost"))
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "prices taken" in desk.said, timeout=10_000)
    first = {p.item: p.price for p in desk.project.estimate.prices}
    assert first
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "changed" in desk.said, timeout=10_000)
    desk.price_service = MadeUpPrices("nothing")
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "does not answer" in desk.said, timeout=10_000)
    desk.price_service = MadeUpPrices("nonsense")
    before = desk.project
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "cannot be meant" in desk.said, timeout=10_000)
    assert desk.project == before
    assert desk.faults == ()


def test_a_price_that_was_typed_is_not_the_services_to_change(window: Window, qtbot: QtBot) -> None:
    """Agreed with a yard, it stays when the service is asked, typed anew or over what the service told."""
    desk = window.desk
    desk.select(page("catalogue"))
    enter(qtbot, window, "one more", "concrete = 120 / m3")
    desk.select(page("cost"))
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "prices taken" in desk.said, timeout=10_000)
    assert "1 of yours stay as typed" in desk.said
    told = next(p.item for p in desk.project.estimate.prices if p.date)
    desk.select(page("catalogue"))
    enter(qtbot, window, told, "7")
    desk.select(page("cost"))
    press(qtbot, window, "Ask the price service")
    qtbot.waitUntil(lambda: "2 of yours stay as typed" in desk.said, timeout=10_000)
    prices = {p.item: p.price for p in desk.project.estimate.prices}
    assert (prices["concrete"], prices[told]) == (120.0, 7.0)


def test_a_service_that_hangs_is_left_with_esc(window: Window, qtbot: QtBot) -> None:
    desk = window.desk
    desk.price_service = MadeUpPrices(delay=2.0)
    desk.select(page("cost"))
    press(qtbot, window, "Ask the price service")
    assert "Asking" in desk.said
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    qtbot.wait(2500)
    assert desk.project.estimate.prices == ()


def test_a_catalogue_goes_out_and_comes_in_by_the_dialogs(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk = window.desk
    desk.select(page("catalogue"))
    enter(qtbot, window, "one more", "concrete = 140 / m3")
    kept = desk.project
    for text, name in (
        ("Write all to a file …", "c"),
        ("prices", "p.csv"),
        ("build-ups of walls", "w.csv"),
    ):
        monkeypatch.setattr(
            QFileDialog, "getSaveFileName", lambda *_, n=name: (str(tmp_path / n), "")
        )
        press(qtbot, window, text)
    assert {p.name for p in tmp_path.iterdir()} >= {"c.json", "p.csv", "w.csv"}
    desk.undo()
    for name in ("c.json", "p.csv"):
        monkeypatch.setattr(
            QFileDialog, "getOpenFileName", lambda *_, n=name: (str(tmp_path / n), "")
        )
        press(qtbot, window, "Take from a file …")
        assert desk.project == kept, name
    bad = tmp_path / "bad.json"
    bad.write_text("{}")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(bad), ""))
    press(qtbot, window, "Take from a file …")
    assert "is no catalogue" in desk.said
    assert desk.faults == ()


def do(qtbot: QtBot, window: Window, words: str) -> None:
    qtbot.keyClick(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(window.top.finder, words)
    qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)


def test_a_template_is_saved_and_begun_with(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "ours"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    do(qtbot, window, "save as a template")
    saved = tmp_path / "ours.balken"
    assert load(saved).walls == ()
    levels = window.desk.project.levels
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(saved), ""))
    do(qtbot, window, "begin with a template")
    qtbot.waitUntil(lambda: window.desk.project.walls == (), timeout=10_000)
    assert window.desk.project.levels == levels
    assert window.desk.building.path is None, "saving it does not write over the template"


def test_the_first_page_begins_with_a_template(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from balken.exchange.native import save

    path = tmp_path / "ours.balken"
    save(shown_demo(), path)
    begun: list[Building] = []
    start = StartPage(LIGHT, begun.append)
    qtbot.addWidget(start)
    start.show()
    start.what.setCurrentIndex(start.what.findData("template"))
    start.what.activated.emit(start.what.currentIndex())
    assert not start.length.isEnabled()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    button = next(b for b in start.findChildren(QPushButton) if b.text() == "Begin")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert begun[0].project.levels == shown_demo().levels
    assert begun[0].project.walls == ()
    path.write_text("no project")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert len(begun) == 1, "what is wrong with it is said on the page"


def test_a_mend_says_what_it_costs(window: Window) -> None:
    from balken.session.mending import mend

    desk = window.desk
    mends = [i for i, f in enumerate(desk.as_it_is().findings) if f.mend is not None]
    for row in mends:
        mend(desk, row)
        assert desk.preview.startswith(desk.as_it_is().findings[row].mend.text)  # type: ignore[union-attr]
        assert "leaves" in desk.preview


@pytest.mark.parametrize(
    ("words", "ends"),
    [
        ("write the structure ifc2x3", ".ifc"),
        ("structure to be looked at gltf", ".glb"),
        ("plans by layer dxf", ".dxf"),
        ("bars, supports and loads", "-loads.csv"),
    ],
)
def test_single_parts_are_written_by_their_words(
    window: Window,
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    words: str,
    ends: str,
) -> None:
    folder = tmp_path / "out"
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(folder))
    do(qtbot, window, words)
    qtbot.waitUntil(lambda: "Written" in window.desk.said, timeout=30_000)
    names = [p.name for p in folder.iterdir()]
    assert any(n.endswith(ends) for n in names), names
    assert any(n.endswith("-manifest.json") for n in names)
    if ends == ".ifc":
        text = next(p for p in folder.iterdir() if p.suffix == ".ifc").read_text()
        assert "FILE_SCHEMA(('IFC2X3'))" in text
