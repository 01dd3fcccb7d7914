"""A person at the desk, come from the first page, with mouse and keys."""

from collections.abc import Iterator

from desk_hands import Hands
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.start_page import StartPage
from balken.desk.theme import LIGHT, apply, load_fonts
from balken.desk.window import Window
from balken.session.building import Building


class Person:
    """Someone at the desk: types into the board and into fields of the slip, chooses from lists,
    clicks."""

    def __init__(self, qtbot: QtBot, w: Window) -> None:
        self.qtbot, self.w = qtbot, w
        self.acts = 0
        """Keys pressed, things typed, chosen and clicked so far."""
        self.board = Hands(qtbot, w.plan)

    def key(self, key: Qt.Key, held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        self.acts += 1
        self.qtbot.keyClick(self.w.focusWidget() or self.w, key, held)

    def type(self, *cells: str) -> None:
        """Type cells with Tab between them, then Enter, into whatever has the keys."""
        for i, cell in enumerate(cells):
            self.acts += 1
            if i:
                self.key(Qt.Key.Key_Tab)
            target = self.w.focusWidget()
            if isinstance(target, QLineEdit):
                target.selectAll()
            self.qtbot.keyClicks(target or self.w.plan, cell)
        self.key(Qt.Key.Key_Return)

    def field(self, name: str, text: str) -> None:
        self.acts += 1
        edit = next(e for e in self.w.slip.findChildren(QLineEdit) if e.accessibleName() == name)
        edit.setFocus()
        edit.selectAll()
        self.qtbot.keyClicks(edit, text)
        self.qtbot.keyClick(edit, Qt.Key.Key_Return)

    def choose(self, name: str, text: str) -> None:
        self.acts += 1
        box = next(b for b in self.w.slip.findChildren(QComboBox) if b.accessibleName() == name)
        index = next(i for i in range(box.count()) if box.itemText(i).startswith(text))
        box.setCurrentIndex(index)
        box.activated.emit(index)
        self.w.plan.setFocus()

    def press(self, text: str) -> None:
        self.acts += 1
        button = next(b for b in self.w.slip.findChildren(QPushButton) if b.text() == text)
        button.click()

    def point_at(self, place: tuple[float, float]) -> None:
        at = self.w.plan.to_pixel(place)
        self.board.move(at.x(), at.y())

    def click(self, place: tuple[float, float], *, more: bool = False) -> None:
        """Click a place of the plan."""
        self.acts += 1
        at = self.w.plan.to_pixel(place).toPoint()
        held = Qt.KeyboardModifier.ShiftModifier if more else Qt.KeyboardModifier.NoModifier
        self.board.move(at.x(), at.y())
        self.qtbot.mouseClick(self.w.plan, Qt.MouseButton.LeftButton, held, at)
        QApplication.processEvents()

    def find(self, phrase: str) -> None:
        """Type a phrase into search-and-do, and Enter."""
        finder = self.w.top.finder
        self.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
        self.acts += 1
        finder.setFocus()
        finder.clear()
        self.qtbot.keyClicks(finder, phrase)
        self.key(Qt.Key.Key_Return)
        QApplication.processEvents()

    def tier(self, name: str) -> None:
        """Click a tier on the ladder."""
        self.acts += 1
        ladder = self.w.ladder
        tier = next(t for t in self.w.desk.tiers if t.name == name)
        rows = range(int(ladder.y_of(tier.high)), int(ladder.y_of(tier.low)) + 1)
        y = next(y for y in rows if ladder.tier_at(y) == tier and not ladder.taken_at(150.0, y))
        Hands(self.qtbot, ladder).click(150, y)
        QApplication.processEvents()
        self.w.plan.setFocus()


def begun_from_nothing(qtbot: QtBot, qapp: QApplication, system: str) -> Iterator[Person]:
    """Someone before an empty sheet, come from the first page."""
    load_fonts()
    apply(qapp, LIGHT)
    begun: list[Building] = []
    page = StartPage(LIGHT, begun.append)
    qtbot.addWidget(page)
    page.system.setCurrentIndex(page.system.findData(system))
    page.what.setCurrentIndex(page.what.findData("empty"))
    page._make()
    w = Window(begun[0])
    qtbot.addWidget(w)
    w.show()
    w.plan.setFocus()
    qapp.processEvents()
    yield Person(qtbot, w)
    w._closing = True
    w.close()
