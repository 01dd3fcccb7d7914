"""The strip beside the board: the words for everything that can be done now, each with its key."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from balken.desk import commands
from balken.desk.plain import PlainLabel
from balken.desk.words import ToolWord

if TYPE_CHECKING:
    from balken.desk.window import Window


class Strip(QWidget):
    """The strip of one window."""

    def __init__(self, w: "Window") -> None:
        super().__init__()
        self.w = w
        self.setFixedWidth(124)
        self.setAutoFillBackground(True)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {w.theme.strip};")
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 12, 0, 8)
        self.column.setSpacing(2)

    def fill(self) -> None:
        """Show what can be done now."""
        w = self.w
        while self.column.count():
            item = self.column.takeAt(0)
            if item.widget():
                item.widget().hide()
                item.widget().deleteLater()
        t = w.theme

        def heading(text: str) -> None:
            label = PlainLabel(text)
            label.setProperty("caps", True)
            label.setContentsMargins(12, 0, 0, 4)
            self.column.addWidget(label)

        changing = w.tools.changing()
        placing = [*w.tools.placing(), *commands.placing(w)] if not changing else []
        for title, words in (("CHANGE", changing), ("PLACE", placing), ("SELECTED", commands.about_selected(w))):
            if words:
                heading(title)
                for text, key, act in words:
                    self.column.addWidget(self._tool_word(text, key, act))
                self.column.addSpacing(8)
        heading("LOOK")
        self.column.addWidget(self._tool_word("Measure", "M", w.measure))
        self.column.addWidget(ToolWord(t, "Fit in view", "F", w.fit_view))
        self.column.addWidget(ToolWord(t, "Next finding", "N", w.next_finding))
        self.column.addWidget(ToolWord(t, "Spans", "Ctrl+K", w.quick_spans))
        self.column.addStretch(1)
        done, undone = w.building.history.done, w.building.history.undone
        undo = ToolWord(t, "Undo", "Ctrl+Z", w.undo)
        undo.setEnabled(bool(done))
        undo.name(f"Undo: {done[-1].words}" if done else "Undo")
        redo = ToolWord(t, "Redo", "Ctrl+Y", w.redo)
        redo.setEnabled(bool(undone))
        redo.name(f"Redo: {undone[-1].words}" if undone else "Redo")
        self.column.addWidget(undo)
        self.column.addWidget(redo)
        if not changing:
            self.column.addSpacing(6)
            heading("FILE")
            self.column.addWidget(ToolWord(t, "Open", "Ctrl+O", w.files.open_dialog))
            self.column.addWidget(ToolWord(t, "Save", "Ctrl+S", w.files.save))
            self.column.addWidget(ToolWord(t, "Issue", "Ctrl+E", w.files.issue_dialog))

    def _tool_word(self, text: str, key: str, act: Callable[[], object]) -> ToolWord:
        """Return a word of the strip that shows whether its tool is at work."""
        word = ToolWord(self.w.theme, text, key, act)
        word.setCheckable(True)
        word.setChecked(self.w.tools.at_work and self.w.tools.name == text)
        return word
