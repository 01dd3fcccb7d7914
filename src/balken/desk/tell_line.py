"""The line over the board in which a tool says what it wants next, and takes words."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from balken.desk.plain import PlainLabel
from balken.desk.theme import Theme
from balken.session.tools.asking import ToolRun


class TellLine(QWidget):
    """The tool's name, its question, and a field where it wants words."""

    def __init__(
        self,
        theme: Theme,
        answered: Callable[[], object],
        leave: Callable[[], object],
        said: Callable[[], str],
        over: QWidget,
    ) -> None:
        super().__init__(over)
        over.installEventFilter(self)
        self._answered, self._leave, self._said, self.over = answered, leave, said, over
        self.run: ToolRun | None = None
        self.setAutoFillBackground(True)
        self.setStyleSheet(
            f"TellLine {{ background: {theme.wash}; }} QLabel {{ background: transparent; }}"
        )
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 4, 12, 4)
        self.name = PlainLabel()
        self.name.setProperty("bold", True)
        self.words = PlainLabel()
        self.words.setWordWrap(True)
        self.entry = QLineEdit()
        self.entry.setAccessibleName("Answer for the tool")
        self.entry.setMinimumWidth(190)
        self.entry.returnPressed.connect(self._enter)
        self.entry.textEdited.connect(self._typed)
        self.entry.installEventFilter(self)
        row.addWidget(self.name)
        row.addSpacing(8)
        row.addWidget(self.words, 1)
        row.addWidget(self.entry)
        self.hide()

    def show_run(self, name: str, run: ToolRun | None) -> None:
        """Show what a tool asks; None hides the line."""
        self.run = run
        self._lie()
        self.raise_()
        self.setVisible(run is not None and run.ask is not None)
        if run is None or run.ask is None:
            return
        self.name.setText(name)
        self.words.setText(run.ask.words)
        text = run.ask.kind == "text"
        self.entry.setVisible(text)
        if text:
            self.entry.setText(run.typed[0])
            self.entry.setFocus()
            self.entry.selectAll()

    def _lie(self) -> None:
        """Lie across the top of the board, over the drawing, so that the drawing stays where it
        is."""
        self.setGeometry(0, 4, self.over.width(), 34)

    def _typed(self, text: str) -> None:
        if self.run is not None and self.run.ask is not None:
            self.run.typed[0] = text

    def _enter(self) -> None:
        run = self.run
        if run is None:
            return
        asked, said = run.ask, self._said()
        run.key("enter")
        self._answered()
        if run.ask is asked and self._said() != said:
            self.words.setText(self._said())  # why what was typed is not taken

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if (
            watched is self.entry
            and isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.KeyPress
            and event.key() == Qt.Key.Key_Escape
        ):
            self._leave()
            return True
        if event.type() == QEvent.Type.Resize and watched is self.over:
            self._lie()
        return super().eventFilter(watched, event)
