"""The keys of what is at hand, over the board."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from balken.desk.plain import PlainLabel
from balken.desk.slip_parts import caption
from balken.desk.theme import Theme
from balken.session.desk import Desk
from balken.session.keys import Keys, keys_at_hand

COLUMNS = 3


class KeysPanel(QFrame):
    """Keys in columns; Esc, F1 or a click closes it."""

    closed = Signal()

    def __init__(self, theme: Theme, desk: Desk, parent: QWidget) -> None:
        super().__init__(parent)
        self.setStyleSheet(
            f"KeysPanel {{ background: {theme.strip}; border: 1px solid {theme.hairline}; }}"
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        groups = keys_at_hand(desk)
        self.setAccessibleName("Keys of what is at hand")
        spoken = "; ".join(f"{key}: {words}" for _, keys in groups for key, words in keys)
        self.setAccessibleDescription(spoken)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(22, 16, 12, 14)
        head = PlainLabel("Keys of what is at hand")
        head.setStyleSheet("font-size: 18px; font-weight: 600;")
        outer.addWidget(head)
        body = QWidget()
        row = QHBoxLayout(body)
        row.setContentsMargins(0, 8, 0, 0)
        row.setSpacing(28)
        for column in _in_columns(groups):
            row.addLayout(self._column(column), 1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(body)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        outer.addWidget(area, 1)
        outer.addWidget(caption("Esc closes", quiet=True, small=True))

    def _column(self, groups: list[Keys]) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(3)
        for heading, keys in groups:
            column.addWidget(caption(heading.upper(), caps=True))
            grid = QGridLayout()
            grid.setColumnMinimumWidth(0, 92)
            grid.setColumnStretch(1, 1)
            grid.setVerticalSpacing(2)
            for i, (key, words) in enumerate(keys):
                grid.addWidget(caption(key, bold=True), i, 0, Qt.AlignmentFlag.AlignTop)
                grid.addWidget(caption(words), i, 1)
            column.addLayout(grid)
            column.addSpacing(10)
        column.addStretch(1)
        return column

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F1) or event.text() == "?":
            self.closed.emit()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: object) -> None:
        self.closed.emit()


def _in_columns(groups: list[Keys]) -> list[list[Keys]]:
    """Groups dealt out so that the columns come out about alike."""
    columns: list[list[Keys]] = [[] for _ in range(COLUMNS)]
    heights = [0] * COLUMNS
    for group in groups:
        least = heights.index(min(heights))
        columns[least].append(group)
        heights[least] += len(group[1]) + 2
    return columns
