"""Files, faults and what a killed program left, by the keys, words and mouse a person would use."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from desk_hands import Hands, answer
from msgspec.structs import replace
from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QScreen
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from balken.desk.window import LEAST, Window
from balken.desk.words import ToolWord
from balken.fit.finding import KIND_WORDS
from balken.model.project import Project
from balken.session import files
from balken.session.building import Building, open_building
from balken.session.demo import shown_demo
from balken.session.journal import left_for
from named import the

ISSUED = {
    "bakehouse-as-issued.balken",
    "bakehouse-boards.csv",
    "bakehouse-concrete.csv",
    "bakehouse-cutting.pdf",
    "bakehouse-lists.xlsx",
    "bakehouse-manifest.json",
    "bakehouse-order.csv",
    "bakehouse-cutting-list.csv",
    "bakehouse-sheets.pdf",
    "bakehouse-structure.ifc",
    "bakehouse-calculation.pdf",
}


@pytest.mark.parametrize("way", ["key", "word", "finder"])
def test_issue_by_its_key_its_word_and_the_finder(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, way: str
) -> None:
    folder = tmp_path / "out"
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(folder))
    if way == "key":
        qtbot.keyClick(window, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    elif way == "word":
        word = next(x for x in window.strip.findChildren(ToolWord) if x.text() == "Issue")
        qtbot.mouseClick(word, Qt.MouseButton.LeftButton)
    else:
        qtbot.keyClick(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
        qtbot.keyClicks(window.top.finder, "issue")
        qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: "Written" in window.fit_list.said, timeout=60_000)
    assert set(os.listdir(folder)) == ISSUED
    assert window.desk.faults == ()


def test_open_save_and_issue_stay_when_a_wall_is_selected(window: Window) -> None:
    for key in (None, the("wall:W103")):
        window.desk.select(key)
        QApplication.processEvents()
        words = {w.text(): w for w in window.strip.findChildren(ToolWord) if w.isVisible()}
        for word in ("Open", "Save", "Issue"):
            bottom = words[word].mapTo(window, words[word].rect().bottomLeft()).y()
            assert bottom <= window.height(), f"{word} is below the window's edge"


def test_a_fault_in_an_edit_changes_nothing_and_can_be_reported(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    before, done = window.desk.building.project, window.desk.building.history.done

    def broken(project: Project) -> Project:
        raise ZeroDivisionError("of a kind nobody foresaw")

    assert not window.desk.edit("break it", broken)
    assert window.desk.building.project is before
    assert window.desk.building.history.done == done
    row = next(i for i, f in enumerate(window.fit_list.rows.findings) if f.kind == "fault")
    assert KIND_WORDS["fault"] == "Fault"
    target = tmp_path / "report.txt"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    _, mend = window.fit_list.rows._zones()
    Hands(qtbot, window.fit_list.rows).click(mend + 8, row * 30 + 14)
    report = target.read_text()
    assert "ZeroDivisionError: of a kind nobody foresaw" in report
    assert '"name": "Bakehouse"' in report
    assert window.desk.edit("name it", lambda p: replace(p, name="Still usable")), (
        "the program goes on"
    )
    assert window.desk.building.project.name == "Still usable"


def test_an_edit_that_cannot_be_shown_is_taken_back_whole(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = window.desk.building.project
    real, times = window.board.show_building, []

    def once(*args: object) -> None:
        times.append(args)
        if len(times) == 1:
            raise RuntimeError("it cannot be drawn")
        real(*args)  # type: ignore[arg-type]

    monkeypatch.setattr(window.board, "show_building", once)
    assert not window.desk.edit("name it", lambda p: replace(p, name="Half made"))
    assert window.desk.building.project == before
    assert window.desk.shown.project.name == before.name
    assert window.desk.faults[0].doing == "name it"


LEFT = """
import os, sys
from pathlib import Path
from msgspec.structs import replace
from balken.session.building import open_building
b = open_building(Path(sys.argv[1])); b.keeping = True
b.edit("name it", lambda p: replace(p, name="Kept"))
os._exit(9)
"""


def killed_with_work(path: Path) -> None:
    """Another window on a file does an edit and is killed."""
    done = subprocess.run(
        [sys.executable, "-c", LEFT, str(path)],
        env={**os.environ, "PYTHONPATH": "src"},
        check=False,
    )
    assert done.returncode == 9


@pytest.fixture
def left(qtbot: QtBot, tmp_path: Path) -> Window:
    """A window on a file whose last program was killed before it saved, and a neighbour's window
    that was not."""
    mine, other = tmp_path / "mine.balken", tmp_path / "other.balken"
    Building(shown_demo()).save(mine)
    Building(shown_demo()).save(other)
    killed_with_work(mine)
    beside = Window(open_building(other))
    qtbot.addWidget(beside)
    beside.show()
    files.offer_recovery(beside.desk)
    assert not beside.line.isVisible() or "unsaved work" not in str(beside.line.asked), (
        "another building is not offered it"
    )
    beside._closing = True
    beside.close()
    window = Window(open_building(mine))
    qtbot.addWidget(window)
    window.show()
    files.offer_recovery(window.desk)
    return window


def test_lost_work_is_offered_to_its_own_file_and_taken_as_an_edit(
    left: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    assert left.line.asked is not None
    assert "1 edit" in left.line.asked[0]
    assert "mine.balken" in left.line.asked[0]
    qtbot.mouseClick(answer(left, "Take it"), Qt.MouseButton.LeftButton)
    assert left.desk.building.project.name == "Kept"
    left.desk.undo()
    assert left.desk.building.project.name == "Bakehouse"
    left._closing = True


def test_an_offer_not_answered_is_kept_through_edits_and_a_change_of_theme(
    left: Window, tmp_path: Path
) -> None:
    path = tmp_path / "mine.balken"
    left.change_theme()
    assert left.line.asked is not None
    assert "1 edit" in left.line.asked[0]
    left.desk.edit("steeper", lambda p: replace(p, name="Another"))
    assert any(x.project.name == "Kept" for x in left_for(path)), "the edit has not overwritten it"
    left._closing = True


@pytest.mark.parametrize("tier", [the("floor:F2"), the("floor:C1")])
def test_a_click_on_a_narrow_band_of_the_ladder_takes_the_tier(
    window: Window, qtbot: QtBot, tier: str
) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    ladder = window.ladder
    here = next(t for t in window.desk.tiers if t.id == tier)
    y = (ladder.y_of(here.low) + ladder.y_of(here.high)) / 2
    Hands(qtbot, ladder).click(ladder.width() * 0.6, y)
    assert window.desk.tier_id == tier


def test_the_window_is_no_larger_than_the_screen(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QScreen, "availableGeometry", lambda _: QRect(0, 0, 1024, 700))
    made = Window(Building(shown_demo()))
    qtbot.addWidget(made)
    made.show()
    QApplication.processEvents()
    assert made.width() <= 1024
    assert made.height() <= 700
    assert LEAST[0] <= 1024
    made._closing = True


def test_along_chosen_walls_under_what_lies_over_them(window: Window, qtbot: QtBot) -> None:
    """A wall can be picked where a strip lies on it; where just such a strip stands already, that
    is said."""
    window.desk.work_in(next(t.id for t in window.desk.tiers if t.kind == "ground"))
    window.desk.set_kit(along="along chosen walls")
    qtbot.keyClick(window, Qt.Key.Key_G)
    QApplication.processEvents()
    assert window.desk.at_work
    spot = window.plan.to_pixel(
        (5000.0, 80.0)
    )  # on the south wall, with its stem and its footing over it
    before = window.desk.building.project
    Hands(qtbot, window.plan).click(spot.x(), spot.y())
    QApplication.processEvents()
    assert window.desk.building.project != before
    placed = [r.walls for r in window.desk.building.project.runs if r not in before.runs]
    assert ("W101",) in placed, (
        "the wall was picked under its stem, and has a foundation of its own"
    )
