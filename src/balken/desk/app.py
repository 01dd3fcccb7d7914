"""Starting the window."""

import gc
import os
import sys
import traceback
from collections.abc import Callable
from functools import partial
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from balken.progress import Tell
    from balken.session.building import Building
    from balken.session.desk import Desk

NO_SCREEN = """balken: there is no screen to open a window on (neither DISPLAY nor WAYLAND_DISPLAY is set).
  ./balken check FILE and ./balken issue FILE --to FOLDER work without one."""


def has_screen() -> bool:
    """Whether a window can open."""
    return bool(
        os.environ.get("DISPLAY")
        or os.environ.get("WAYLAND_DISPLAY")
        or os.environ.get("QT_QPA_PLATFORM")
    )


def rest_collector() -> None:
    """Let the search for dead cycles come seldom: it would walk the whole building in the middle of
    a drag.

    Records are freed when nothing points to them any more; only cycles wait.
    """
    gc.freeze()
    gc.set_threshold(50_000, 50, 100)


def run(file: Path | None, *, demo: str = "") -> int:
    """Open the window with a file, with the demo building of a name, or with the start page; return
    the exit code.

    What paints first knows nothing of buildings: the program's other rooms are brought in behind
    it.
    """
    if not has_screen():
        print(NO_SCREEN, file=sys.stderr)
        return 2
    from PySide6.QtWidgets import QApplication

    from balken.desk.theme import LIGHT, apply, load_fonts

    rest_collector()
    app = QApplication(["balken"])
    app.setApplicationName("Balken")
    load_fonts()
    apply(app, LIGHT)
    on_screen = OnScreen()
    sys.excepthook = on_screen.unforeseen
    if demo or file is not None:
        on_screen.opening(file.name if file else f"the {demo}", partial(_brought, file, demo))
    else:
        on_screen.start_page()
    return int(app.exec())


def _brought(file: Path | None, demo: str, tell: "Tell") -> "Building":
    """The building that was asked for, read and worked out.

    Raises:
        FileError: its file cannot be read.
    """
    tell("Bringing in the program …")
    from balken.session.beginning import demo_building
    from balken.session.building import WORKING_OUT, open_building

    if file is not None:
        return open_building(file, tell=tell)
    tell(WORKING_OUT)
    return demo_building(demo)


class OnScreen:
    """What is on the screen: the start page, a building on its way, or the desk with one."""

    def __init__(self) -> None:
        self.widget: QWidget | None = None
        self.desk: Desk | None = None

    def start_page(self) -> None:
        """Show the ways to begin."""
        from balken.desk.start_page import StartPage
        from balken.desk.theme import LIGHT

        self._stand(StartPage(LIGHT, self.begin))

    def opening(self, name: str, bring: Callable[["Tell"], "Building"]) -> None:
        """Show that a building is on its way, and then the desk with it.

        Args:
            name: what is opened.
            bring: brings the building, in another thread; is given what tells how far it is.
        """
        from balken.desk.opening import Opening
        from balken.desk.theme import LIGHT
        from balken.desk.work import run_telling

        opening = Opening(name, LIGHT)
        self._stand(opening)
        errand = run_telling(opening, bring, self.begin, self._give_up, opening.reach)
        opening.closed.connect(errand.leave)

    def begin(self, building: "Building") -> None:
        """Show the desk with a building."""
        from balken.desk.window import Window
        from balken.session.files import offer_recovery

        window = Window(building)
        if self.widget is not None:
            window.setGeometry(self.widget.geometry())
        self.desk = window.desk
        self._stand(window)
        offer_recovery(window.desk)

    def _stand(self, widget: "QWidget") -> None:
        """Show a widget in the place of the one that stands there."""
        before, self.widget = self.widget, widget
        widget.show()
        if before is not None:
            before.close()
            before.deleteLater()

    def _give_up(self, why: str) -> None:
        """Nothing came: say why, and end."""
        from PySide6.QtWidgets import QApplication

        print(f"balken: {why}", file=sys.stderr)
        QApplication.exit(2)

    def unforeseen(
        self, kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        """What nobody foresaw in the fit list, with a report, and go on; no edit was left half
        made."""
        traceback.print_exception(kind, error, trace)
        if self.desk is not None:
            self.desk.tell_fault(error)
