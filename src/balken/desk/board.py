"""The board: plan, upright views, the building in space and paper, one at a time, with what is said
about it."""

from datetime import datetime
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from balken.desk.paint import polish
from balken.desk.paper_view import PaperView
from balken.desk.plain import PlainLabel
from balken.desk.plan_view import PlanView
from balken.desk.space_view import SpaceView
from balken.desk.tell_line import TellLine
from balken.desk.theme import Theme
from balken.desk.upright_view import UprightView
from balken.drawing.plan import plan, plan_notes
from balken.drawing.sheet import title_of
from balken.drawing.sheet_set import pages_of
from balken.drawing.tiers import Tier
from balken.session import sight
from balken.session.desk import Desk
from balken.session.dragging import Drag, ways_of
from balken.session.shown import Shown
from balken.session.veil import is_locked, veiled, words_of

VIEWS = (("plan", "plan"), ("upright", "upright"), ("in space", "space"), ("paper", "paper"))


class Board(QWidget):
    """The board of a desk."""

    def __init__(self, theme: Theme, desk: Desk, drag: Drag) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        t = theme
        self.setAttribute(
            Qt.WidgetAttribute.WA_StyledBackground
        )  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {t.paper};")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        head = QHBoxLayout()
        head.setContentsMargins(16, 8, 12, 0)
        self.title = PlainLabel()
        self.title.setStyleSheet("font-size: 15px; font-weight: 600;")
        self.scale = PlainLabel()
        self.scale.setProperty("quiet", True)
        head.addWidget(self.title)
        head.addSpacing(10)
        head.addWidget(self.scale)
        head.addSpacing(10)
        self.veil_word = QPushButton()
        self.veil_word.setProperty("word", True)
        self.veil_word.setProperty("veil", True)
        self.veil_word.clicked.connect(lambda: sight.show_everything(desk))
        self.veil_word.hide()
        head.addWidget(self.veil_word)
        head.addStretch(1)
        self.view_words: dict[str, QPushButton] = {}
        for word, name in VIEWS:
            button = QPushButton(word)
            button.setProperty("word", True)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=name: self._look_at(n))
            self.view_words[name] = button
            head.addWidget(button)
        column.addLayout(head)
        self.stack = QStackedWidget()
        self.tell = TellLine(t, desk.after, desk.leave_tool, lambda: desk.said, self.stack)
        self.plan = PlanView(t, desk.say)
        self.plan.picked.connect(desk.pick)
        self.plan.boxed.connect(lambda names, more: desk.select_many(names, more=more))
        self.plan.dragged.connect(drag.drag)
        self.plan.moved.connect(self.point)
        self.plan.answered.connect(desk.after)
        self.plan.locked = lambda name: is_locked(desk.veil, name)
        self.plan.field = desk.field
        self.plan.ways = partial(ways_of, desk)
        self.plan.called = lambda name: desk.thing(name).called(desk.project, name)
        self.plan.applied = lambda: drag.applied
        self.space = SpaceView(t)
        self.space.picked.connect(desk.pick)
        self.upright = UprightView(t)
        self.upright.picked.connect(desk.pick)
        self.upright.turned.connect(self._turned)
        self.paper = PaperView(t)
        for view in (self.plan, self.space, self.upright, self.paper):
            self.stack.addWidget(view)
        column.addWidget(self.stack, 1)
        self.foot = PlainLabel()
        self.foot.setProperty("quiet", True)
        self.foot.setContentsMargins(16, 0, 16, 6)
        column.addWidget(self.foot)

    def current(self) -> QWidget:
        """The view that is shown."""
        found = self.stack.currentWidget()
        assert found is not None, "the stack is filled when it is made"
        return found

    def _look_at(self, view: str) -> None:
        self.desk.show_view(view)
        self.point("")
        self.current().setFocus()

    def _turned(self, words: str) -> None:
        self.desk.refresh()
        if words:
            self.desk.say(words)

    def show_building(self, shown: Shown) -> None:
        """Show a building in the view that is chosen, without what is out of sight."""
        desk = self.desk
        tier = desk.current_tier()
        chosen = frozenset((*desk.selected, *desk.looked))
        self._show_words()
        self.stack.setCurrentIndex({"plan": 0, "space": 1, "upright": 2, "paper": 3}[desk.view])
        if desk.view == "paper":
            date = datetime.now().strftime("%Y-%m-%d")
            self.paper.show_pages(pages_of(shown.checked, shown.findings, date))
            self.title.setText("Sheets")
            self.scale.setText("wheel or arrows turn the page")
            return
        if tier is None:
            self.title.setText("Nothing to show yet")
            return
        shown = shown._replace(checked=veiled(shown.checked, desk.veil))
        if desk.view == "upright":
            self.upright.show_building(shown, chosen)
            self.title.setText(self.upright.title())
            self.scale.setText(polish(self.upright.caption()))
            return
        if desk.view == "space":
            self.space.show_building(shown, chosen)
            self.title.setText("Structure in space")
            self.scale.setText("drag turns, right drag moves")
            return
        below = self._below(tier)
        self.plan.show_plan(
            shown,
            plan(shown.checked, tier),
            plan(shown.checked, below) if below else (),
            partial(plan_notes, shown.checked, tier),
            chosen,
        )
        self.title.setText(title_of(tier).replace(" plan", ""))
        self.scale.setText(f"plan · {self.plan.caption()}")

    def _show_words(self) -> None:
        for name, button in self.view_words.items():
            button.setChecked(name == self.desk.view)
        words = words_of(self.desk.veil)
        self.veil_word.setText(
            f"{words} · show all" if self.desk.veil.hides else f"{words} · unlock"
        )
        self.veil_word.setVisible(bool(words))

    def _below(self, tier: Tier) -> Tier | None:
        """The tier underneath that shows faintly: the walls a floor lies on, the foundation
        under walls."""
        lower = [
            t for t in self.desk.tiers if t.low < tier.low - 1 and t.kind in ("walls", "ground")
        ]
        return lower[-1] if lower and tier.kind == "walls" else None

    def point(self, text: str) -> None:
        """Say where the pointer is and what lies there."""
        self.foot.setText(polish(text))
