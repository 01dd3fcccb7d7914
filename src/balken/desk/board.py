"""The board: plan, upright views, the building in space and paper, one at a time, with what is said
about it."""

from datetime import datetime
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from balken.desk.paint import polish
from balken.desk.paper_view import PaperView
from balken.desk.plain import PlainLabel
from balken.desk.plan_view import PlanView
from balken.desk.shown import Shown
from balken.desk.space_view import SpaceView
from balken.desk.tell_line import TellLine
from balken.desk.upright_view import UprightView
from balken.drawing.plan import plan, plan_notes
from balken.drawing.sheet import title_of
from balken.drawing.sheet_set import pages_of
from balken.drawing.tiers import Tier
from balken.session.veil import is_locked, veiled, words_of

if TYPE_CHECKING:
    from balken.desk.window import Window

VIEWS = (("plan", "plan"), ("upright", "upright"), ("in space", "space"), ("paper", "paper"))


class Board(QWidget):
    """The board of one window."""

    def __init__(self, w: "Window") -> None:
        super().__init__()
        self.w, t = w, w.theme
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
        self.veil_word.clicked.connect(w.looks.reveal)
        self.veil_word.hide()
        head.addWidget(self.veil_word)
        head.addStretch(1)
        self.view_words: dict[str, QPushButton] = {}
        for word, name in VIEWS:
            button = QPushButton(word)
            button.setProperty("word", True)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=name: w.show_view(n))
            self.view_words[name] = button
            head.addWidget(button)
        column.addLayout(head)
        self.stack = QStackedWidget()
        self.tell = TellLine(t, w.tools.after, w.tools.leave, self.stack)
        self.plan = PlanView(t, w.say)
        self.plan.picked.connect(w.pick)
        self.plan.boxed.connect(lambda keys, more: w.select_many(keys, more=more))
        self.plan.dragged.connect(w.hand.drag)
        self.plan.moved.connect(self.point)
        self.plan.answered.connect(w.tools.after)
        self.plan.locked = lambda key: is_locked(w.veil, key)
        self.plan.field = w.tools.field
        self.space = SpaceView(t)
        self.space.picked.connect(w.pick)
        self.upright = UprightView(t)
        self.upright.picked.connect(w.pick)
        self.upright.turned.connect(self._turned)
        self.paper = PaperView(t)
        for view in (self.plan, self.space, self.upright, self.paper):
            self.stack.addWidget(view)
        column.addWidget(self.stack, 1)
        self.foot = PlainLabel()
        self.foot.setProperty("quiet", True)
        self.foot.setContentsMargins(16, 0, 16, 6)
        column.addWidget(self.foot)

    def _turned(self, words: str) -> None:
        self.w.refresh()
        if words:
            self.w.say(words)

    def show_building(self, shown: Shown) -> None:
        """Show a building in the view that is chosen, without what is out of sight."""
        w = self.w
        tier = w.current_tier()
        chosen = frozenset(x for x in (*w.selected, *w.looked) if x)
        self._show_words()
        self.stack.setCurrentIndex({"plan": 0, "space": 1, "upright": 2, "paper": 3}[w.view])
        w.slip.setVisible(w.view != "paper")
        if w.view == "paper":
            date = datetime.now().strftime("%Y-%m-%d")
            self.paper.show_pages(pages_of(shown.checked, shown.findings, date))
            self.title.setText("Sheets")
            self.scale.setText("wheel or arrows turn the page")
            return
        if tier is None:
            self.title.setText("Nothing to show yet")
            return
        shown = shown._replace(checked=veiled(shown.checked, w.veil))
        if w.view == "upright":
            self.upright.show_building(shown, chosen)
            self.title.setText(self.upright.title())
            self.scale.setText(polish(self.upright.caption()))
            return
        if w.view == "space":
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
            button.setChecked(name == self.w.view)
        words = words_of(self.w.veil)
        self.veil_word.setText(f"{words} · show all" if self.w.veil.hides else f"{words} · unlock")
        self.veil_word.setVisible(bool(words))

    def _below(self, tier: Tier) -> Tier | None:
        """The tier underneath that shows faintly: the walls a floor lies on, the foundation
        under walls."""
        lower = [t for t in self.w.tiers if t.low < tier.low - 1 and t.kind in ("walls", "ground")]
        return lower[-1] if lower and tier.kind == "walls" else None

    def point(self, text: str) -> None:
        """Say where the pointer is and what lies there."""
        self.foot.setText(polish(text))
