"""Every command, by its key where it has one, else by the finder: none is a word without anything
behind it."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from balken.desk.spans_panel import SpansPanel
from balken.desk.window import Window
from balken.session import files
from balken.session.building import AtHand, Building
from balken.session.commands import Command, commands
from balken.session.search.offers import offers
from balken.session.veil import Veil
from buildings import house
from named import the

PLACES = ("", the("wall:W11"), "ground")
"""What is selected, or which kind of tier is worked in, when all commands are tried."""


PLAIN = house()


@pytest.fixture(autouse=True)
def dialogs(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Dialogs are opened and left again; each tells that it was there."""
    seen: list[str] = []

    def left(kind: str, answer: object) -> object:
        def opened(*_: object) -> object:
            seen.append(kind)
            return answer

        return opened

    monkeypatch.setattr(QFileDialog, "getOpenFileName", left("open", ("", "")))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", left("save", ("", "")))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", left("folder", ""))
    return seen


def go(window: Window, place: str, begun: Building) -> None:
    """Begin from a known state: the building as it was, nothing in hand, nothing hidden."""
    desk = window.desk
    desk.leave_tool()
    if desk.building is not begun:
        files.show_building(desk, begun)
    if begun.project is not PLAIN:
        begun.go_back(STATES[begun])
    desk.veil, desk.folded, desk.view = Veil(), frozenset(), "plan"
    if window.over:
        window.panel("spans" if isinstance(window.over, SpansPanel) else "keys")
    tier = next((t for t in desk.tiers if t.kind == place), None)
    if tier is not None:
        desk.work_in(tier.id)
    desk.select(None if tier is not None or not place else place)  # type: ignore[arg-type]
    QApplication.processEvents()


STATES: dict[Building, AtHand] = {}
"""Each building as it was begun."""


def begun() -> Building:
    """A plain house."""
    made = Building(PLAIN)
    STATES[made] = made.at_hand()
    return made


def do(window: Window, command: Command, qtbot: QtBot) -> None:
    """Give a command as a person would."""
    window.setFocus()
    if command.key:
        pressed = QKeySequence(command.key)[0]
        QTest.keyClick(window, pressed.key(), pressed.keyboardModifiers())
        return
    finder = window.top.finder
    qtbot.keyClicks(finder, command.words.encode("ascii", "ignore").decode())
    finder.look()
    row = next(i for i, o in enumerate(finder.list.rows) if o.words == command.words)
    for _ in range(row):
        qtbot.keyClick(finder, Qt.Key.Key_Down)
    qtbot.keyClick(finder, Qt.Key.Key_Return)


@pytest.mark.long
@pytest.mark.parametrize("place", PLACES)
def test_every_command_does_something_or_says_why_not(
    window: Window, qtbot: QtBot, place: str
) -> None:
    house_ = begun()
    go(window, "", house_)
    always = {c.words for c in commands(window.desk) if not c.key}
    go(window, place, house_)
    known = [(c.words, c.key) for c in commands(window.desk)]
    assert len(known) > 45
    # What has no key is found by its words; where it is there always, one place is enough.
    names = [(w, key) for w, key in known if key or not place or w not in always]
    for words, key in names:
        go(window, place, house_)
        here = next((c for c in commands(window.desk) if (c.words, c.key) == (words, key)), None)
        if here is None:
            continue
        do(window, here, qtbot)
        if words.startswith("Open the"):
            qtbot.waitUntil(lambda: window.desk.building.project is not PLAIN, timeout=60_000)
        QApplication.processEvents()
        assert window.desk.faults == (), (words, window.desk.faults[0].trace)
        if window.desk.at_work:
            QTest.keyClick(window.plan, Qt.Key.Key_Escape)
        menu = QApplication.activePopupWidget()
        if menu is not None:
            menu.close()
        window.line.answered()


def test_dialogs_open_by_their_keys(window: Window, qtbot: QtBot, dialogs: list[str]) -> None:
    for key, kind in ((Qt.Key.Key_O, "open"), (Qt.Key.Key_E, "folder"), (Qt.Key.Key_S, "save")):
        qtbot.keyClick(window, key, Qt.KeyboardModifier.ControlModifier)
        assert dialogs.pop() == kind
    qtbot.keyClick(
        window,
        Qt.Key.Key_S,
        Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier,
    )
    assert dialogs.pop() == "save"


@pytest.mark.parametrize("words", ["open", "save", "issue", "undo", "redo"])
def test_file_words_are_found_whatever_is_selected(window: Window, words: str) -> None:
    house_ = begun()
    for place in PLACES[:2]:
        go(window, place, house_)
        assert offers(window.desk, words)[0].words.lower().startswith(words)
