"""Files from the window: opening, saving, issuing, and what a killed program left behind."""

from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from balken.desk.work import Errand, run_apart
from balken.exchange.files import FileError
from balken.exchange.issue import issue
from balken.exchange.native import SUFFIX
from balken.session.building import Building, demo_project, journal_path, open_building, recover

if TYPE_CHECKING:
    from balken.desk.window import Window


OPENED = f"Projects and architects’ files (*{SUFFIX} *.ifc);;All files (*)"
"""The kinds of files that can be opened, as the file dialog wants them."""


class FileWork:
    """The file work of one window."""

    def __init__(self, w: "Window") -> None:
        self.w = w
        self.reading: Errand | None = None

    def save(self) -> bool:
        """Save; ask for a name where there is none. Return whether it was saved."""
        if self.w.building.path is None:
            return self.save_as()
        return self.save_to(self.w.building.path)

    def save_as(self) -> bool:
        """Ask for a name and save."""
        start = str(self.w.building.path or Path.home() / f"{self.w.building.project.name}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self.w, "Save the project", start, f"Projects (*{SUFFIX})")
        return bool(name) and self.save_to(Path(name))

    def save_to(self, path: Path) -> bool:
        """Save to a path; what goes wrong is said. Return whether it was saved."""
        try:
            target = self.w.building.save(path)
        except FileError as error:
            self.w.say(str(error))
            return False
        self.w.building.journal = journal_path(target)
        self.w.refresh()
        self.w.say(f"Saved as {target}.")
        return True

    def open_dialog(self) -> None:
        """Ask for a file and open it."""
        name, _ = QFileDialog.getOpenFileName(self.w, "Open", str(Path.home()), OPENED)
        if name:
            self.leave(lambda: self.open_path(Path(name)))

    def open_path(self, path: Path) -> None:
        """Open a file apart from the window, which stays as it is until the file has been read whole."""
        self.w.say(f"Reading {path.name} …  Esc leaves it.")
        self.reading = run_apart(
            self.w, partial(open_building, path, journal_path(path)), self.w.show_building, self.w.say
        )

    def open_demo(self) -> None:
        """Open the demo building."""
        self.leave(lambda: self.w.show_building(Building(demo_project(), None, None)))

    def offer_recovery(self) -> None:
        """Offer what a killed program left behind."""
        journal = self.w.building.journal
        kept = recover(journal) if journal else None
        if kept is None or kept == self.w.building.project:
            return

        def take() -> None:
            self.w.edit("take unsaved work", lambda _: kept)

        self.w.line.ask(
            "This building has unsaved work from a session that ended without closing.",
            [("Take it", take), ("Drop it", self.w.building.forget_journal)],
        )

    def keep_journal(self) -> None:
        try:
            self.w.building.keep_journal()
        except FileError as error:
            self.w.say(str(error))

    def issue_dialog(self) -> None:
        """Ask for a folder and write everything into it."""
        name = QFileDialog.getExistingDirectory(self.w, "Folder for sheets, lists and structure", str(Path.home()))
        if name:
            self.w.issue_to(Path(name))

    def issue_to(self, folder: Path) -> None:
        """Write sheets, cutting list, structure and project into a folder, apart from the window."""
        now = datetime.now()
        self.w.say(f"Writing into {folder} …")
        checked, found = self.w.building.checked, self.w.building.findings
        run_apart(
            self.w, partial(issue, checked, found, folder, date=now.strftime("%Y-%m-%d"), when=now.strftime("%Y-%m-%dT%H:%M:%S")),
            lambda files: self.w.say(f"Written: {', '.join(f.name for f in files)}."), self.w.say,
        )  # fmt: skip

    def leave(self, go: Callable[[], object]) -> None:
        """Ask about unsaved work before leaving a building."""
        if self.w.building.saved or not self.w.building.history.done:
            go()
            return

        def drop() -> None:
            self.w.building.forget_journal()
            go()

        def keep() -> None:
            if self.save():
                go()

        answers: list[tuple[str, Callable[[], object]]] = [("Save and go on", keep), ("Leave it", drop)]
        self.w.line.ask(f"{self.w.building.project.name} is not saved.", [*answers, ("Stay", lambda: None)])
