"""Starting the window."""

import gc
import os
import sys
import traceback
from pathlib import Path
from types import TracebackType

from balken.session import files

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
    the exit code."""
    if not has_screen():
        print(NO_SCREEN, file=sys.stderr)
        return 2
    from PySide6.QtWidgets import QApplication

    from balken.desk.start_page import StartPage
    from balken.desk.theme import LIGHT, apply, load_fonts
    from balken.desk.window import Window
    from balken.exchange.files import FileError
    from balken.session.building import Building, open_building
    from balken.session.demo import shown_demo
    from balken.session.ferry_hall import ferry_hall

    rest_collector()
    app = QApplication(["balken"])
    app.setApplicationName("Balken")
    load_fonts()
    apply(app, LIGHT)
    open_windows: list[object] = []

    def begin(building: Building) -> None:
        window = Window(building)
        window.show()
        files.offer_recovery(window.desk)
        open_windows[:] = [window]

    def unforeseen(
        kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        """What nobody foresaw in the fit list, with a report, and go on; no edit was left half
        made."""
        traceback.print_exception(kind, error, trace)
        for window in open_windows:
            if isinstance(window, Window):
                window.desk.tell_fault(error)

    sys.excepthook = unforeseen
    if demo:
        begin(Building(ferry_hall() if demo == "ferry hall" else shown_demo()))
    elif file is not None:
        try:
            begin(open_building(file))
        except FileError as error:
            print(f"balken: {error}", file=sys.stderr)
            return 2
    else:
        page = StartPage(LIGHT, begin)
        page.show()
        open_windows.append(page)
    return int(app.exec())
