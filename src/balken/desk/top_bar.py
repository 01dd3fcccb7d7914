"""The bar at the top: the building's name, search-and-do, and the steps of the work."""

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QWidget

from balken.desk.finder import Finder
from balken.desk.plain import PlainLabel
from balken.desk.theme import Theme
from balken.desk.words import StepWord
from balken.session.desk import Desk

STEPS = (
    ("Ground", ("ground",)),
    ("Walls", ("walls",)),
    ("Floors", ("floor", "ceiling")),
    ("Roof", ("roof",)),
)


class TopBar(QWidget):
    """The top bar of a desk; ``over`` is what the finder lists its offers on."""

    def __init__(self, theme: Theme, desk: Desk, over: QWidget) -> None:
        super().__init__()
        self.desk, t = desk, theme
        self.setFixedHeight(38)
        self.setAttribute(
            Qt.WidgetAttribute.WA_StyledBackground
        )  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {t.strip};")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 14, 0)
        self.name = PlainLabel()
        self.name.setStyleSheet("font-size: 15px; font-weight: 600;")
        self.state = PlainLabel()
        self.state.setProperty("quiet", True)
        row.addWidget(self.name)
        row.addSpacing(6)
        row.addWidget(self.state)
        row.addStretch(1)
        self.finder = Finder(theme, desk, over)
        row.addWidget(self.finder)
        row.addStretch(1)
        self.steps: dict[str, StepWord] = {}
        for word, kinds in STEPS:
            step = StepWord(t, word, partial(self._step, kinds))
            self.steps[word] = step
            row.addWidget(step)
        paper = StepWord(t, "Paper", partial(desk.show_view, "paper"))
        self.steps["Paper"] = paper
        row.addWidget(paper)

    def show_building(self) -> None:
        """Show what the building is called, whether it is saved, and how much is open at each
        step."""
        desk = self.desk
        project = desk.project
        self.name.setText(project.name)
        path = desk.building.path
        state = "saved" if desk.building.saved else "not saved"
        self.state.setText(f"{path.name}, {state}" if path else state)
        tier = desk.current_tier()
        kinds = {t.id: t.kind for t in desk.tiers}
        for word, group in STEPS:
            count = sum(
                f.host is not None and kinds.get(f.host) in group for f in desk.building.findings
            )
            self.steps[word].set_count(count)
            self.steps[word].setChecked(
                desk.view != "paper" and tier is not None and tier.kind in group
            )
        self.steps["Paper"].setChecked(desk.view == "paper")

    def _step(self, kinds: tuple[str, ...]) -> None:
        ids = [t.id for t in self.desk.tiers if t.kind in kinds]
        if not ids:
            self.desk.say("There is nothing of that yet. Place it with the words at the left.")
            self.desk.refresh()
            return
        here = ids.index(self.desk.tier_id) + 1 if self.desk.tier_id in ids else 0
        self.desk.work_in(ids[here % len(ids)])
