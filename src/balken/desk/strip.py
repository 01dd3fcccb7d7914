"""The strip beside the board: the words for everything that can be done now, each with its key."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from balken.desk import commands
from balken.desk.plain import PlainLabel
from balken.desk.words import ToolWord

if TYPE_CHECKING:
    from balken.desk.window import Window


class Strip(QWidget):
    """The strip of one window: tools that come and go with what is selected, and under them what is
    always there."""

    def __init__(self, w: "Window") -> None:
        super().__init__()
        self.w = w
        self.setFixedWidth(124)
        self.setAutoFillBackground(True)
        self.setAttribute(
            Qt.WidgetAttribute.WA_StyledBackground
        )  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {w.theme.strip};")
        self.tools, self.foot = QVBoxLayout(), QVBoxLayout()
        held = QWidget()
        held.setLayout(self.tools)
        scroll = QScrollArea()
        scroll.setWidget(held)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 12, 0, 8)
        whole.setSpacing(6)
        whole.addWidget(scroll, 1)
        whole.addLayout(self.foot)
        for column in (self.tools, self.foot):
            column.setContentsMargins(0, 0, 0, 0)
            column.setSpacing(2)

    def fill(self) -> None:
        """Show what can be done now."""
        _empty(self.tools)
        _empty(self.foot)
        w = self.w
        changing = w.tools.changing()
        placing = [*w.tools.placing(), *commands.placing(w)] if not changing else []
        for title, words in (
            ("CHANGE", changing),
            ("PLACE", placing),
            ("SELECTED", commands.about_selected(w)),
        ):
            if words:
                _heading(self.tools, title)
                for text, key, act in words:
                    self.tools.addWidget(self._tool_word(text, key, act))
                self.tools.addSpacing(8)
        _heading(self.tools, "LOOK")
        self.tools.addWidget(self._tool_word("Measure", "M", w.measure))
        for text, key, act in (
            ("Fit in view", "F", w.fit_view),
            ("Next finding", "N", w.next_finding),
            ("Spans", "Ctrl+K", w.quick_spans),
        ):
            self.tools.addWidget(ToolWord(w.theme, text, key, act))
        self.tools.addStretch(1)
        self._fill_foot()

    def _fill_foot(self) -> None:
        w, history = self.w, self.w.building.history
        for text, key, act, edits in (
            ("Undo", "Ctrl+Z", w.undo, history.done),
            ("Redo", "Ctrl+Y", w.redo, history.undone),
        ):
            word = ToolWord(w.theme, text, key, act)
            word.setEnabled(bool(edits))
            word.name(f"{text}: {edits[-1].words}" if edits else text)
            self.foot.addWidget(word)
        _heading(self.foot, "FILE")
        self.foot.addWidget(ToolWord(w.theme, "Open", "Ctrl+O", w.files.open_dialog))
        self.foot.addWidget(ToolWord(w.theme, "Save", "Ctrl+S", w.files.save))
        self.foot.addWidget(ToolWord(w.theme, "Issue", "Ctrl+E", w.files.issue_dialog))

    def _tool_word(self, text: str, key: str, act: Callable[[], object]) -> ToolWord:
        """A word of the strip that shows whether its tool is at work."""
        word = ToolWord(self.w.theme, text, key, act)
        word.setCheckable(True)
        word.setChecked(self.w.tools.at_work and self.w.tools.name == text)
        return word


def _heading(column: QVBoxLayout, text: str) -> None:
    label = PlainLabel(text)
    label.setProperty("caps", True)
    label.setContentsMargins(12, 4, 0, 4)
    column.addWidget(label)


def _empty(column: QVBoxLayout) -> None:
    while column.count():
        item = column.takeAt(0)
        widget = item.widget() if item is not None else None
        if widget is not None:
            widget.hide()
            widget.deleteLater()
