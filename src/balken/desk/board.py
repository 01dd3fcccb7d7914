"""The board: plan, upright views, the building in space and paper, one at a time, with what is said
about it."""

from collections.abc import Callable
from datetime import datetime
from functools import partial

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QFontMetricsF, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from balken.desk.list_panel import ListPanel
from balken.desk.menu import show_menu
from balken.desk.paint import polish
from balken.desk.paper_view import PaperView
from balken.desk.plain import PlainLabel, ShortLabel
from balken.desk.plan_view import PlanView
from balken.desk.space_view import SpaceView
from balken.desk.tell_line import TellLine
from balken.desk.theme import Theme, font
from balken.desk.upright_view import UprightView
from balken.drawing.book.book import as_pages, book_pages
from balken.drawing.book.cutting import cutting_pages
from balken.drawing.drawn_over import Over, laid_over, over_marks
from balken.drawing.paper.records import Sheet
from balken.drawing.paper.views import title_of
from balken.drawing.plan import plan, plan_notes
from balken.drawing.reserve import reserve_marks
from balken.drawing.sheet_set import Page, pages_of
from balken.drawing.tiers import Tier
from balken.fit.finding import Finding
from balken.model.names import Name
from balken.session import sight
from balken.session.desk import Desk
from balken.session.dragging import Drag, ways_of
from balken.session.shown import Shown
from balken.session.things.views import drag_view
from balken.session.things.wall_pieces import set_stud_at
from balken.session.veil import is_locked, veiled, words_of
from balken.units import format_force
from balken.works.building import Checked

ABOUT = {
    "ground": ("step", "run", "support"),
    "walls": ("load", "opening", "wall", "support"),
    "floor": ("load", "hole", "floor", "beam", "bay", "support"),
    "ceiling": ("load", "hole", "floor", "beam", "bay"),
    "roof": ("load", "skylight", "roof", "side"),
}
"""What each kind of tier is about."""
NARROW = 480
"""On a board less wide, px, title and scale stand under the words for the views."""
VIEWS = (("plan", "plan"), ("upright", "upright"), ("in space", "space"), ("paper", "paper"))


class Board(QWidget):
    """The board of a desk."""

    def __init__(self, theme: Theme, desk: Desk, drag: Drag) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self._planned: tuple[Checked, Tier, Tier | None, bool, Over | None] | None = None
        self._laid_over: tuple[tuple[Checked, Checked], Over] | None = None
        """What the plan was drawn of."""
        t = theme
        self.setAttribute(
            Qt.WidgetAttribute.WA_StyledBackground
        )  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {t.paper};")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        head = QHBoxLayout()
        head.setContentsMargins(8, 8, 12, 0)
        head.setSpacing(2)
        self.title = ShortLabel(least=200)
        self.title.setStyleSheet("font-size: 15px; font-weight: 600;")
        self.scale = ShortLabel()
        self.scale.setProperty("quiet", True)
        self.veil_word = QPushButton()
        self.veil_word.setProperty("word", True)
        self.veil_word.setProperty("veil", True)
        self.veil_word.clicked.connect(lambda: sight.show_everything(desk))
        self.veil_word.hide()
        self.view_words = {name: self._view_word(word, name) for word, name in VIEWS}
        for word_ in self.view_words.values():
            head.addWidget(word_)
        self.list_word = self._view_word("lists", "lists")
        self.list_word.clicked.disconnect()
        self.list_word.clicked.connect(lambda: desk.turn_lists())
        head.addWidget(self.list_word)
        head.addStretch(1)
        self.head, self.under_head = head, QHBoxLayout()
        self.under_head.setContentsMargins(14, 0, 12, 0)
        self.under_head.setSpacing(2)
        self.under_head.addStretch(1)
        column.addLayout(head)
        column.addLayout(self.under_head)
        self.narrow: bool | None = None
        self._lay_title(narrow=False)
        self.stack = QStackedWidget()
        self.tell = TellLine(t, desk.after, desk.leave_tool, lambda: desk.said, self.stack)
        self.plan = PlanView(t, desk.say)
        self.plan.picked.connect(self._picked)
        self.plan.boxed.connect(lambda names, more: desk.select_many(names, more=more))
        self.plan.dragged.connect(drag.drag)
        self.plan.moved.connect(self.point)
        self.plan.scaled.connect(self._tell_scale)
        self.plan.asked.connect(self._menu)
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
        self.upright.dragged.connect(drag.drag)
        self.upright.ways = partial(ways_of, desk)
        self.upright.stud_set.connect(partial(set_stud_at, desk))
        self.paper = PaperView(t)
        self.paper.picked.connect(desk.pick)
        self.paper.view_moved.connect(partial(drag_view, desk))
        self._papered: tuple[Checked, tuple[Finding, ...]] | None = None
        """What the sheets that are shown are of."""
        for view in (self.plan, self.space, self.upright, self.paper):
            self.stack.addWidget(view)
        column.addWidget(self.stack, 3)
        self.lists = ListPanel(t, desk)
        self.lists.hide()
        column.addWidget(self.lists, 2)
        self.foot = PlainLabel()
        self.foot.setProperty("quiet", True)
        self.foot.setContentsMargins(16, 0, 16, 6)
        column.addWidget(self.foot)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay_title(narrow=self.width() < NARROW)

    def _lay_title(self, *, narrow: bool) -> None:
        """Put title and scale after the words for the views, or under them where the board is
        narrow."""
        if narrow == self.narrow:
            return
        self.narrow = narrow
        row, at = (self.under_head, 0) if narrow else (self.head, len(VIEWS) + 1)
        for i, item in enumerate((self.title, self.scale, self.veil_word)):
            row.insertWidget(at + i, item)
        self.title.setContentsMargins(0 if narrow else 10, 0, 8, 0)
        self.scale.setContentsMargins(0, 0, 8, 0)

    def _view_word(self, word: str, name: str) -> QPushButton:
        """The word for a view, always at the same place: as wide as it is when it is bold."""
        button = QPushButton(word)
        button.setProperty("word", True)
        button.setCheckable(True)
        button.setFixedWidth(int(QFontMetricsF(font(13, bold=True)).horizontalAdvance(word)) + 18)
        button.clicked.connect(lambda _=False, n=name: self._look_at(n))
        return button

    def current(self) -> QWidget:
        """The view that is shown."""
        found = self.stack.currentWidget()
        assert found is not None, "the stack is filled when it is made"
        return found

    def _look_at(self, view: str) -> None:
        self.desk.show_view(view)
        self.point("")
        self.current().setFocus()

    def _picked(self, name: Name | None, more: bool) -> None:
        """Take a click on the plan, with all that lies there."""
        self.desk.stack = self.plan.stacked
        self.desk.pick(name, more)

    def _menu(self, place: QPoint) -> None:
        show_menu(self.desk, self, place)

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
        self.lists.setVisible(desk.lists and desk.view != "paper")
        if self.lists.isVisibleTo(self):
            self.lists.show_list()
        self.stack.setCurrentIndex({"plan": 0, "space": 1, "upright": 2, "paper": 3}[desk.view])
        if desk.view == "paper":
            date = datetime.now().strftime("%Y-%m-%d")
            self.paper.chosen = chosen
            if desk.paper_from:
                self.paper.look_at(desk.paper_from)
                desk.paper_from = ""
            now = (shown.checked, shown.findings)
            before = self._papered
            if before is None or before[0] is not now[0] or before[1] != now[1]:
                self._papered = now
                self.paper.show_set(partial(_whole_set, *now, date))
            self.paper.update()
            self.title.setText("Sheets and calculation")
            self.scale.setText("arrows turn, the wheel looks nearer")
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
            self.space.show_building(
                shown, chosen, frozenset(desk.lit), reserve=desk.reserve, over=self._over(shown)
            )
            self.title.setText("Reserve in space" if desk.reserve else "Structure in space")
            self.scale.setText("drag turns, right drag moves")
            if desk.setting is not None:
                n, steps = desk.setting.number, desk.setting.steps
                self.title.setText(f"Step {n + 1} of {len(steps)}")
                self.scale.setText(polish(steps[n].stage.words))
            return
        self._show_plan(shown, tier, chosen)
        title = title_of(tier).replace(" plan", "")
        asked = "what wind asks, how far used" if tier.kind == "walls" else "how far used"
        self.title.setText(f"{title}: {asked}" if desk.reserve else title)
        self._tell_scale()

    def _show_plan(self, shown: Shown, tier: Tier, chosen: frozenset[Name]) -> None:
        """Show the plan of a tier; where only what is selected is other, nothing is drawn anew."""
        desk, below = self.desk, self._below(tier)
        self.plan.prefers = ABOUT[tier.kind]
        lit = {name: polish(format_force(n, desk.system)) for name, n in desk.lit.items()}
        over = self._over(shown)
        now = (shown.checked, tier, below, desk.reserve, over)
        before, self._planned = self._planned, now
        if before is not None and before[0] is now[0] and before[1:] == now[1:]:
            self.plan.choose(chosen, lit)
            return
        bars = reserve_marks(shown.checked, tier) if desk.reserve else ()
        laid = over_marks(over, shown.checked, tier) if over else ()
        self.plan.show_plan(
            shown,
            (*plan(shown.checked, tier), *bars, *laid),
            plan(shown.checked, below) if below else (),
            partial(plan_notes, shown.checked, tier, reserve=desk.reserve),
            chosen,
            lit,
        )

    def _over(self, shown: Shown) -> Over | None:
        """What is drawn of the version that is compared with; worked out once for both."""
        earlier = self.desk.earlier if self.desk.drawn_over else None
        if earlier is None:
            self._laid_over = None
            return None
        key = (earlier.checked, shown.checked)
        if self._laid_over is None or any(a is not b for a, b in zip(self._laid_over[0], key)):
            self._laid_over = (key, laid_over(*key))
        return self._laid_over[1]

    def _tell_scale(self) -> None:
        """The scale that is shown, when it is shown."""
        if self.desk.view == "plan":
            self.scale.setText(f"1 : {self.plan.ratio()}")

    def _show_words(self) -> None:
        for name, button in self.view_words.items():
            button.setChecked(name == self.desk.view)
        self.list_word.setChecked(self.desk.lists and self.desk.view != "paper")
        words = "" if self.desk.setting else words_of(self.desk.veil)
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

    def whole_set(self) -> Callable[[], list[Sheet]]:
        """Lays all sheets of the building as it is now, and its calculation book."""
        building, date = self.desk.building, datetime.now().strftime("%Y-%m-%d")
        checked, found = self.desk.checked, building.findings
        return lambda: [page.lay() for page in _whole_set(checked, found, date)]

    def point(self, text: str) -> None:
        """Say where the pointer is and what lies there."""
        self.foot.setText(polish(text))


def _whole_set(checked: Checked, findings: tuple[Finding, ...], date: str) -> tuple[Page, ...]:
    """The sheets, the calculation book, and the boards to cut."""
    boards = as_pages(cutting_pages(checked, date))
    return (*pages_of(checked, findings, date), *book_pages(checked, findings, date), *boards)
