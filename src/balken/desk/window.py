"""The window: the desk of one building, shown by ladder, board, slip and fit list, which share one
selection."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any, TypeVar

from PySide6.QtCore import Qt
from PySide6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
)
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from balken.desk.board import Board
from balken.desk.fit_list import FitList
from balken.desk.keys_panel import KeysPanel
from balken.desk.ladder import Ladder
from balken.desk.menu import show_menu
from balken.desk.opening import LEAST, first_size
from balken.desk.slip import Slip
from balken.desk.spans_panel import SpansPanel
from balken.desk.strip import Strip
from balken.desk.theme import DARK, LIGHT, Theme, apply
from balken.desk.top_bar import TopBar
from balken.desk.words import Line, hairline
from balken.desk.work import run_apart, run_telling, waited_for
from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.names import Name
from balken.progress import Tell
from balken.session import acts, files
from balken.session.building import Building
from balken.session.commands import Command, changing, commands
from balken.session.desk import Desk
from balken.session.dragging import Drag
from balken.session.face import Answers, Errand, LeftError
from balken.session.setting import end_setting
from balken.session.things.register import THINGS

_T = TypeVar("_T")


class Window(QMainWindow):
    """The face of a desk."""

    def __init__(self, building: Building, theme: Theme = LIGHT) -> None:
        super().__init__()
        self.theme = theme
        self.desk = Desk(building, THINGS, self)
        self.drag = Drag(self.desk)
        self.over: SpansPanel | KeysPanel | None = None
        """The panel that lies over the board."""
        self._closing = False
        self.setAcceptDrops(True)
        self.setMinimumSize(*LEAST)
        self.resize(*first_size(self.screen()))
        self._build()
        self.desk.refresh()

    # -- building the desk ----------------------------------------------------

    def _build(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply(app, self.theme)
        t, desk = self.theme, self.desk
        self.top = TopBar(t, desk, self)
        self.ladder = Ladder(t, desk, self.drag)
        self.line = Line(t)
        self.strip = Strip(t, desk)
        self.board = Board(t, desk, self.drag)
        self.plan, self.space = self.board.plan, self.board.space
        self.upright, self.paper = self.board.upright, self.board.paper
        self.fit_list = FitList(t, desk)
        self.fit_list.setFixedHeight(150)
        self.slip = Slip(t, desk)
        self.slip.setStyleSheet(f"QScrollArea {{ background: {t.panel}; }}")
        old = self.takeCentralWidget()
        if old:
            old.hide()
            old.deleteLater()
        self.setCentralWidget(self._laid_out())
        self.over = None

    def _laid_out(self) -> QWidget:
        """Everything in its place: ladder, strip, board over fit list, slip."""
        t = self.theme
        root = QWidget()
        column, row = QVBoxLayout(root), QHBoxLayout()
        middle, upper = QVBoxLayout(), QHBoxLayout()
        for layout in (column, row, middle, upper):
            layout.setContentsMargins(0, 0, 0, 0)
            layout.setSpacing(0)
        column.addWidget(self.top)
        column.addWidget(hairline(t, across=True))
        column.addLayout(row, 1)
        row.addWidget(self.ladder)
        row.addWidget(hairline(t, across=False))
        row.addLayout(middle, 1)
        row.addWidget(hairline(t, across=False))
        row.addWidget(self.slip)
        middle.addWidget(self.line)
        middle.addLayout(upper, 1)
        middle.addWidget(hairline(t, across=True))
        middle.addWidget(self.fit_list)
        upper.addWidget(self.strip)
        upper.addWidget(hairline(t, across=False))
        upper.addWidget(self.board, 1)
        return root

    # -- what the desk asks of its face ---------------------------------------

    def show_desk(self) -> None:
        """Show the desk as it is now."""
        desk, shown = self.desk, self.desk.shown
        path = desk.building.path
        of = f"{path.name} – {shown.project.name}" if path else shown.project.name
        self.setWindowTitle(f"{of} – Balken")
        self.top.show_building()
        self.ladder.show_building()
        self.board.show_building(shown)
        for part, widget in self._parts():
            widget.setVisible(part not in desk.folded and not (part == "fit list" and desk.lists))
        self.show_findings()
        if shown.project is desk.project and not desk.follows:
            self._fill_slip()
            self.strip.fill()

    def _parts(self) -> tuple[tuple[str, QWidget], ...]:
        """What can be folded away."""
        return (
            ("ladder", self.ladder),
            ("strip", self.strip),
            ("slip", self.slip),
            ("fit list", self.fit_list),
        )

    def _fill_slip(self) -> None:
        """Fill the slip anew. Keys that were in a field of it go on to the board, not to whatever
        is next."""
        held = self.focusWidget()
        inside = held is not None and self.slip.isAncestorOf(held)
        self.slip.fill()
        if inside:
            self.board.current().setFocus()

    def show_findings(self) -> None:
        """Show the fit list alone."""
        self.fit_list.rows.show_findings()
        self.fit_list.update()

    def say(self, text: str) -> None:
        """Say something in the foot of the fit list."""
        self.fit_list.say(text)

    def ask(self, text: str, answers: Answers) -> None:
        """Ask something over the board."""
        if answers:
            self.line.ask(text, answers)
        else:
            self.line.answered()

    def wait(self, work: Callable[[], _T], words: str) -> _T:
        """Do work and wait for it, the window alive."""
        return waited_for(work, self.desk.say, words)

    def apart(
        self, work: Callable[[], Any], done: Callable[[Any], object], failed: Callable[[str], None]
    ) -> Errand:
        """Do work in another thread."""
        return run_apart(self, work, done, failed)

    def apart_telling(
        self,
        work: Callable[[Tell], Any],
        done: Callable[[Any], object],
        failed: Callable[[str], None],
    ) -> Errand:
        """Do work in another thread, and say how far it is."""
        return run_telling(self, work, done, failed, self.desk.say)

    def tool_asks(self) -> None:
        """Show what the tool at work wants, or that none is at work any more."""
        run, tell = self.desk.run, self.board.tell
        begun = self.plan.run is not run
        if begun:
            self.plan.start(run)
        in_entry = tell.entry.hasFocus()
        tell.show_run(self.desk.tool, run)
        asks_words = run is not None and run.ask is not None and run.ask.kind == "text"
        if (begun or in_entry) and not asks_words:
            self.plan.setFocus()
        self.plan.update()

    def thing_at(self, place: Point, kinds: tuple[str, ...]) -> Name | None:
        """What is drawn at a place of the plan."""
        return self.plan.key_at(place, kinds)

    def reach(self) -> float:
        """How near to a thing a place counts as on it, mm."""
        return self.plan.reach()

    def drawn(self) -> Sequence[Name]:
        """The names of what is drawn on the plan."""
        return self.plan.index.keys

    def fit(self) -> None:
        """Show everything in the view that is chosen."""
        view = self.board.current()
        if view is self.space:
            self.space.fit()
        elif view is self.upright:
            self.upright.fit()
        else:
            self.plan.fit()

    def begin_view(self) -> None:
        """Look at another building from where all of it is seen."""
        self.plan.unfit()
        self.board.point("")
        self.space.fit()

    def zoom(self, factor: float) -> None:
        """Zoom the plan about its middle."""
        self.plan.zoom(factor)

    def centre(self, place: Point) -> None:
        """Bring a place of the plan to the middle of the board."""
        self.plan.centre(place)

    def clip(self) -> str:
        """What is on the clipboard."""
        return QApplication.clipboard().text()

    def put_clip(self, text: str) -> None:
        """Put text on the clipboard."""
        QApplication.clipboard().setText(text)

    def file_to_open(self, title: str, kinds: str) -> Path | None:
        """Ask for a file that is there."""
        name, _ = QFileDialog.getOpenFileName(self, title, str(Path.home()), kinds)
        return Path(name) if name else None

    def file_to_write(self, title: str, start: str, kinds: str) -> Path | None:
        """Ask for the name of a file to write."""
        name, _ = QFileDialog.getSaveFileName(self, title, start, kinds)
        return Path(name) if name else None

    def folder(self, title: str) -> Path | None:
        """Ask for a folder."""
        name = QFileDialog.getExistingDirectory(self, title, str(Path.home()))
        return Path(name) if name else None

    def panel(self, name: str) -> None:
        """Open a panel, or close it."""
        acts: dict[str, Callable[[], object]] = {
            "find": self.top.finder.setFocus,
            "close": self.close,
            "next": self._next_part,
            "menu": self._menu,
            "spans": lambda: self._lay_over(SpansPanel),
            "keys": lambda: self._lay_over(KeysPanel),
            "print": self._print,
        }
        acts[name]()

    def _print(self) -> None:
        """Ask for a printer, and print the sheets that are wanted."""
        from balken.desk.printing import ask_printer, print_sheets

        try:
            sheets = self.wait(self.board.whole_set(), "Laying the sheets")
            wanted = ask_printer(self, self.desk.project.name, sheets)
            if wanted is None:
                self.desk.say("Nothing is printed.")
                return
            count = print_sheets(wanted, sheets)
        except (LeftError, BalkenError) as error:
            self.desk.say(str(error))
            return
        where = wanted.printer.outputFileName() or wanted.printer.printerName()
        self.desk.say(f"{count} sheet{'s' if count != 1 else ''} handed to {where}.")

    def _next_part(self) -> None:
        """Put the keys into the next part of the desk."""
        parts = [self.board.current(), self.slip, self.fit_list.rows, self.top.finder, self.ladder]
        shown = [p for p in parts if p.isVisible()]
        held = self.focusWidget()
        here = next((i for i, p in enumerate(shown) if held and _within(p, held)), -1)
        after = shown[(here + 1) % len(shown)]
        (self.slip.first() if after is self.slip else after).setFocus(Qt.FocusReason.TabFocusReason)

    def _menu(self) -> None:
        """What can be done with what is at hand, by key."""
        shown = self.board.current()
        show_menu(self.desk, self, shown.mapToGlobal(shown.rect().center()))

    def to_field(self, name: str) -> None:
        """Put the keys into a field of the slip."""
        self.slip.to_field(name)

    def change_theme(self) -> None:
        """Change between light and dark."""
        self.theme = DARK if self.theme.name == "light" else LIGHT
        asked = self.line.asked
        scale, offset, size = self.plan.scale, self.plan.offset, self.plan.size()
        self._build()
        if asked is not None:
            self.line.ask(*asked)
        self.desk.refresh()
        self.tool_asks()
        QApplication.processEvents()
        if self.plan.size() == size:
            self.plan.scale, self.plan.offset = scale, offset

    def _lay_over(self, kind: type[SpansPanel] | type[KeysPanel]) -> None:
        """Open a panel over the board, or close it."""
        before = self.over
        if before is not None:
            self.over = None
            before.hide()
            before.deleteLater()
            self.board.current().setFocus()
            if isinstance(before, kind):
                return
        self.over = kind(self.theme, self.desk, self)
        self.over.closed.connect(partial(self._lay_over, kind))
        self._place_over()
        self.over.show()
        self.over.raise_()
        self.over.setFocus()

    def _place_over(self) -> None:
        if self.over:
            width, height = min(880, self.width() - 80), min(560, self.height() - 90)
            self.over.setGeometry((self.width() - width) // 2, 58, width, height)

    # -- events ---------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place_over()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        desk = self.desk
        if event.key() == Qt.Key.Key_Escape:
            self._escape()
        elif desk.at_work and event.text().lower() == "x" and not changing(desk):
            acts.flip_side(desk)
        elif event.key() == Qt.Key.Key_Menu:
            self._menu()
        elif command := command_for(commands(desk), event):
            command.act()
        else:
            super().keyPressEvent(event)

    def _escape(self) -> None:
        """Leave what is nearest at hand: a panel, a file that is read, a tool, the selection."""
        desk = self.desk
        if self.over:
            self._lay_over(type(self.over))
            return
        if desk.under_way:
            desk.under_way.leave()
            desk.under_way = None
        desk.looked = ()
        desk.say("")
        if desk.at_work:
            desk.leave_tool()
        elif desk.setting is not None:
            end_setting(desk)
        else:
            desk.select(None)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Take the first file that is dropped."""
        local = [url.toLocalFile() for url in event.mimeData().urls() if url.isLocalFile()]
        if local:
            event.acceptProposedAction()
            files.open_any(self.desk, Path(local[0]))

    def closeEvent(self, event: QCloseEvent) -> None:
        building = self.desk.building
        if not building.worth_keeping or self._closing:
            building.forget_journal()
            event.accept()
            return
        event.ignore()

        def go() -> None:
            self._closing = True
            self.close()

        files.leave(self.desk, go)


def _within(part: QWidget, held: QWidget) -> bool:
    return part is held or part.isAncestorOf(held)


def command_for(known: Sequence[Command], event: QKeyEvent) -> Command | None:
    """What a key means now. Fields and views take their own keys first; what they leave
    comes here."""
    held = event.modifiers()
    plain = not held & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    shifted = bool(held & Qt.KeyboardModifier.ShiftModifier)
    pressed = QKeySequence(event.keyCombination())
    for command in known:
        if len(command.key) == 1:
            letter = event.text().lower() == command.key.lower()
            if plain and letter and not (shifted and command.key.isalpha()):
                return command
        elif command.key and QKeySequence(command.key) == pressed:
            return command
    return None
