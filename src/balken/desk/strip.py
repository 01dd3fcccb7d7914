"""The strip beside the board: the words for everything that can be done now, each with its key."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from balken.desk.plain import PlainLabel, emptied
from balken.desk.theme import Theme
from balken.desk.words import ToolWord
from balken.session.commands import (
    Command,
    about_selected,
    changing,
    filing,
    looking,
    placing,
    undoing,
)
from balken.session.desk import Desk


class Strip(QWidget):
    """The strip of a desk: tools that come and go with what is selected, and under them what is
    always there."""

    def __init__(self, theme: Theme, desk: Desk) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self.setFixedWidth(138)
        self.setAutoFillBackground(True)
        self.setAttribute(
            Qt.WidgetAttribute.WA_StyledBackground
        )  # a widget of ours paints none by itself
        self.setStyleSheet(f"background: {theme.strip};")
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
        emptied(self.tools)
        emptied(self.foot)
        desk = self.desk
        changes = changing(desk)
        for title, words in (
            ("CHANGE", changes),
            ("PLACE", placing(desk) if not changes else []),
            ("SELECTED", about_selected(desk)),
        ):
            if words:
                _heading(self.tools, title)
                for command in words:
                    self.tools.addWidget(self._tool_word(command))
                self.tools.addSpacing(8)
        _heading(self.tools, "LOOK")
        for command in looking(desk):
            self.tools.addWidget(self._tool_word(command))
        self.tools.addStretch(1)
        self._fill_foot()

    def _fill_foot(self) -> None:
        history = self.desk.building.history
        for command, edits in zip(undoing(self.desk), (history.done, history.undone)):
            word = ToolWord(self.theme, command)
            word.setEnabled(bool(edits))
            word.name(f"{command.words}: {edits[-1].words}" if edits else command.words)
            self.foot.addWidget(word)
        _heading(self.foot, "FILE")
        for command in filing(self.desk):
            self.foot.addWidget(ToolWord(self.theme, command))

    def _tool_word(self, command: Command) -> ToolWord:
        """A word of the strip that shows whether its tool is at work."""
        word = ToolWord(self.theme, command)
        word.setCheckable(True)
        word.setChecked(self.desk.at_work and self.desk.tool == command.words)
        return word


def _heading(column: QVBoxLayout, text: str) -> None:
    label = PlainLabel(text)
    label.setProperty("caps", True)
    label.setContentsMargins(12, 4, 0, 4)
    column.addWidget(label)
