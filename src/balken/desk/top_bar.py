"""The bar at the top: the building's name, search-and-do, and the steps of the work."""

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QWidget

from balken.desk.finder import Finder
from balken.desk.plain import PlainLabel
from balken.desk.words import StepWord

if TYPE_CHECKING:
    from balken.desk.window import Window

STEPS = (
    ("Ground", ("ground",)),
    ("Walls", ("walls",)),
    ("Floors", ("floor", "ceiling")),
    ("Roof", ("roof",)),
)


class TopBar(QWidget):
    """The top bar of one window."""

    def __init__(self, w: "Window") -> None:
        super().__init__()
        self.w, t = w, w.theme
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
        self.finder = Finder(w)
        row.addWidget(self.finder)
        row.addStretch(1)
        self.steps: dict[str, StepWord] = {}
        for word, kinds in STEPS:
            step = StepWord(t, word, partial(self._step, kinds))
            self.steps[word] = step
            row.addWidget(step)
        paper = StepWord(t, "Paper", lambda: w.show_view("paper"))
        self.steps["Paper"] = paper
        row.addWidget(paper)

    def show_building(self) -> None:
        """Show what the building is called, whether it is saved, and how much is open at each
        step."""
        w = self.w
        project = w.building.project
        self.name.setText(project.name)
        path = w.building.path
        state = "saved" if w.building.saved else "not saved"
        self.state.setText(f"{path.name}, {state}" if path else state)
        tier = w.current_tier()
        kinds = {t.id: t.kind for t in w.tiers}
        for word, group in STEPS:
            count = sum(
                f.host is not None and kinds.get(f.host) in group for f in w.building.findings
            )
            self.steps[word].set_count(count)
            self.steps[word].setChecked(
                w.view != "paper" and tier is not None and tier.kind in group
            )
        self.steps["Paper"].setChecked(w.view == "paper")

    def _step(self, kinds: tuple[str, ...]) -> None:
        ids = [t.id for t in self.w.tiers if t.kind in kinds]
        if not ids:
            self.w.say("There is nothing of that yet. Place it with the words at the left.")
            self.w.refresh()
            return
        here = ids.index(self.w.tier_id) + 1 if self.w.tier_id in ids else 0
        self.w.work_in(ids[here % len(ids)])
