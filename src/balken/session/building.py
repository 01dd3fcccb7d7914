"""One open building: the only place where a project changes. The window and the tests drive it alike."""

import hashlib
import os
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from balken.design.building import Checked, settle, work_out
from balken.design.column import follow
from balken.exchange.files import FileError, write_atomic
from balken.exchange.ifc_in import take
from balken.exchange.native import SUFFIX, from_text, load, save, to_text
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.model.memo import Memo
from balken.model.project import Project
from balken.model.start import propose_structure
from balken.session.history import History, record, redo, undo

DEMO = Path(__file__).parents[1] / "demo" / "bakehouse-architect.ifc"


class Worked(NamedTuple):
    """A project with what follows from it."""

    project: Project
    checked: Checked
    findings: tuple[Finding, ...]


class Building:
    """An open building with everything that follows from it, kept up to date by every edit."""

    def __init__(self, project: Project, path: Path | None = None, journal: Path | None = None) -> None:
        self.memo = Memo()
        self.path = path
        self.journal = journal
        self.source: Path | None = None
        """The architect's file it was begun from, while it has no file of its own."""
        self.history = History()
        self._saved: Project | None = project if path else None
        self._set(project)

    def _set(self, project: Project) -> None:
        self._take(self._worked(project))

    def _worked(self, project: Project) -> "Worked":
        checked = work_out(project, self.memo)
        return Worked(project, checked, findings(checked, self.memo))

    def _take(self, worked: "Worked") -> None:
        self.project, self.checked, self.findings = worked.project, worked.checked, worked.findings

    project: Project
    checked: Checked
    findings: tuple[Finding, ...]

    @property
    def saved(self) -> bool:
        """Whether the file holds what is shown."""
        return self._saved == self.project

    def edit(self, words: str, change: Callable[[Project], Project], *, joined: bool = False) -> None:
        """Make an edit; nothing changes where it raises.

        Args:
            words: what the edit is called in undo.
            change: the edit.
            joined: one step with the last edit of the same words, as while dragging.
        """
        self.adopt(words, self.worked_out(change), joined=joined)

    def worked_out(self, change: Callable[[Project], Project]) -> "Worked":
        """Return what an edit gives, worked out, without making it; may be asked from another thread."""
        after = follow(change(self.project), self.memo)
        if after == self.project:
            return Worked(self.project, self.checked, self.findings)
        return self._worked(after)

    def adopt(self, words: str, worked: "Worked", *, joined: bool = False) -> None:
        """Make an edit that was worked out already."""
        before = self.project
        if worked.project == before:
            return
        self._take(worked)
        self.history = record(self.history, words, before, worked.project, joined=joined)

    def preview(self, change: Callable[[Project], Project]) -> tuple[Checked, tuple[Finding, ...]]:
        """Return what an edit would give, without making it."""
        worked = self.worked_out(change)
        return worked.checked, worked.findings

    def undo(self) -> str | None:
        """Take back the last edit; return its words, None where there is none."""
        found = undo(self.history)
        if found is None:
            return None
        self.history, step = found
        self._set(step.before)
        return step.words

    def redo(self) -> str | None:
        """Make the last undone edit again; return its words, None where there is none."""
        found = redo(self.history)
        if found is None:
            return None
        self.history, step = found
        self._set(step.after)
        return step.words

    def save(self, path: Path | None = None) -> Path:
        """Save to a path, or where it came from.

        Raises:
            FileError: it has no path yet, or cannot be written; the old file stays whole.
        """
        target = path or self.path
        if target is None:
            raise FileError("This building has no file yet. Choose a name for it.")
        if target.suffix != SUFFIX:
            target = target.with_name(target.name + SUFFIX)
        save(self.project, target)
        self.path, self._saved = target, self.project
        self.forget_journal()
        return target

    def keep_journal(self) -> None:
        """Write what is not saved yet beside the settings, so that a killed program loses nothing."""
        if self.journal and not self.saved and self.history.done:
            self.journal.parent.mkdir(parents=True, exist_ok=True)
            write_atomic(self.journal, to_text(self.project))

    def forget_journal(self) -> None:
        """Drop the journal: everything in it is saved, or was given up."""
        if self.journal:
            self.journal.unlink(missing_ok=True)


def open_building(path: Path, journal: Path | None = None, building: str = "") -> Building:
    """Open a project file, or begin a building from an architect's IFC file; ``building`` names one of several in it.

    Raises:
        FileError: it cannot be read.
    """
    if path.suffix.lower() == ".ifc":
        project, _ = begin(path, building=building)
        begun = Building(project, None, journal)
        begun.source = path
        return begun
    return Building(load(path), path, journal)


def begin(architect: Path, *, structure: bool = True, building: str = "") -> tuple[Project, tuple[str, ...]]:
    """Begin a building from an architect's file, with a first structure between its levels.

    Returns:
        The project, and a sentence for each thing that could not be proposed.

    Raises:
        FileError: the file cannot be read.
    """
    project = take(architect, building)
    if not structure:
        return project, ()
    project, said = propose_structure(project)
    return settle(project), said


def demo_project() -> Project:
    """Return the invented demo building."""
    return begin(DEMO)[0]


def journal_path(path: Path | None) -> Path:
    """Return where the journal of a building is kept, by its file name; one for a building without a file."""
    from platformdirs import user_state_path

    key = hashlib.sha256(str(path.resolve() if path else "unnamed").encode()).hexdigest()[:16]
    base = os.environ.get("BALKEN_STATE")
    folder = Path(base) if base else user_state_path("balken")
    return folder / f"{key}{SUFFIX}"


def recover(journal: Path) -> Project | None:
    """Return what a killed program left behind, or None."""
    try:
        return from_text(journal.read_bytes(), journal.name)
    except (OSError, FileError):
        return None
