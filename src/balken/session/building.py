"""One open building: the only place where a project changes. The window and the tests drive it
alike."""

from collections.abc import Callable
from pathlib import Path
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.exchange.files import FileConflict, FileError, short
from balken.exchange.native import SUFFIX, load, save
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.model.edits import set_site
from balken.model.kept import with_template
from balken.model.project import Project
from balken.model.wind import Earthquake, Wind
from balken.progress import Tell, unheard
from balken.recall import Recall, remembering
from balken.session.history import History, record, redo, undo
from balken.session.journal import Journal, Left, digest_of, forget, left_for, new_identity
from balken.site.proposals import propose_structure
from balken.units import MPH
from balken.works.building import Checked, work_out
from balken.works.column import follow
from balken.works.settling import settle

WORKING_OUT = "Framing it, and sizing what carries …"
DEMO = Path(__file__).parents[1] / "demo" / "bakehouse-architect.ifc"


class Worked(NamedTuple):
    """A project with what follows from it."""

    project: Project
    checked: Checked
    findings: tuple[Finding, ...]


class AtHand(NamedTuple):
    """A building at a moment, to go back to where a change cannot be shown."""

    worked: Worked
    history: History


class Building:
    """An open building with everything that follows from it, kept up to date by every edit."""

    def __init__(
        self,
        project: Project,
        path: Path | None = None,
        *,
        keeping: bool = False,
        identity: str = "",
    ) -> None:
        self.recall = Recall()
        self.path = path
        self.identity = identity or project.identity or new_identity()
        """Of the project, kept with its file; what is shown and edited carries none."""
        project = replace(project, identity="") if project.identity else project
        self.keeping = keeping
        """Whether every edit is written down, so that a killed program loses nothing."""
        self.unkept = ""
        """Why edits cannot be written down, where they cannot."""
        self._journal: Journal | None = None
        self.stands = digest_of(path)
        """Digest of the file as it was read or written last."""
        self.source: Path | None = None
        """The architect's file it was begun from, while it has no file of its own."""
        self.history = History()
        self._saved: Project | None = project if path else None
        self._set(project)

    def _set(self, project: Project) -> None:
        self._take(self._worked(project))

    def _worked(self, project: Project) -> "Worked":
        checked = work_out(project, self.recall)
        return Worked(project, checked, findings(checked, self.recall))

    def _take(self, worked: "Worked") -> None:
        self.project, self.checked, self.findings = worked.project, worked.checked, worked.findings

    project: Project
    checked: Checked
    findings: tuple[Finding, ...]

    @property
    def saved(self) -> bool:
        """Whether the file holds what is shown."""
        return self._saved == self.project

    @property
    def worth_keeping(self) -> bool:
        """Whether closing it now would lose something."""
        return not self.saved and bool(self.path or self.history.done or self.history.undone)

    def edit(
        self, words: str, change: Callable[[Project], Project], *, joined: bool = False
    ) -> None:
        """Make an edit; nothing changes where it raises.

        Args:
            words: what the edit is called in undo.
            change: the edit.
            joined: one step with the last edit of the same words, as while dragging.
        """
        self.adopt(words, self.worked_out(change), joined=joined)

    def worked_out(self, change: Callable[[Project], Project]) -> "Worked":
        """What an edit gives, worked out, without making it; may be asked from another
        thread."""
        with remembering(self.recall):
            after = follow(change(self.project))
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
        self._write_down(words, before)

    def at_hand(self) -> AtHand:
        """The building as it is now, to go back to."""
        return AtHand(Worked(self.project, self.checked, self.findings), self.history)

    def go_back(self, before: AtHand) -> None:
        """Go back to how the building was, its history with it."""
        after = self.project
        self._take(before.worked)
        self.history = before.history
        self._write_down("go back", after)

    def preview(self, change: Callable[[Project], Project]) -> tuple[Checked, tuple[Finding, ...]]:
        """What an edit would give, without making it."""
        worked = self.worked_out(change)
        return worked.checked, worked.findings

    def look_ahead(self, project: Project) -> None:
        """Work a project out that comes next, so that going there is one look; may be asked from
        another thread."""
        self._worked(project)

    def undo(self) -> str | None:
        """Take back the last edit; return its words, None where there is none."""
        found = undo(self.history)
        if found is None:
            return None
        before = self.project
        worked = self._worked(found[1].before)  # where it raises, nothing was taken back
        self.history, step = found
        self._take(worked)
        self._write_down(f"take back: {step.words}", before)
        return step.words

    def redo(self) -> str | None:
        """Make the last undone edit again; return its words, None where there is none."""
        found = redo(self.history)
        if found is None:
            return None
        before = self.project
        worked = self._worked(found[1].after)
        self.history, step = found
        self._take(worked)
        self._write_down(f"do again: {step.words}", before)
        return step.words

    def save(self, path: Path | None = None, *, over: bool = False) -> Path:
        """Save to a path, or where it came from.

        Args:
            path: a new place; the one it has where empty.
            over: whether somebody said that another file may be written over.

        Raises:
            FileConflict: a file is there that was not this building's, or was changed by others
                since it was read.
            FileError: it has no path yet, or cannot be written; the old file stays whole.
        """
        target = path or self.path
        if target is None:
            raise FileError("This building has no file yet. Choose a name for it.")
        target = with_suffix(target)
        if not over:
            self._refuse_conflict(target)
        save(replace(self.project, identity=self.identity), target)
        self.path, self._saved, self.stands = target, self.project, digest_of(target)
        self.forget_journal()
        for left in left_for(target):
            forget(left)
        return target

    def _refuse_conflict(self, target: Path) -> None:
        stands = digest_of(target)
        if not stands:
            return
        if self.path is None or target.resolve() != self.path.resolve():
            raise FileConflict(f"There is a file {short(target)} already. Write over it?")
        if stands != self.stands:
            raise FileConflict(
                f"{short(target)} was changed by somebody else since it was opened here. Write"
                " over what they saved?"
            )

    def _write_down(self, words: str, before: Project) -> None:
        """Write an edit to the journal; one that leads back to what is saved leaves none."""
        if not self.keeping:
            return
        try:
            if self.saved:
                self.forget_journal()
                return
            if self._journal is not None and self._journal.too_long:
                self.forget_journal()
            if self._journal is None:
                self._journal = Journal.begin(before, self.identity, self.path)
            self._journal.add(words, self.project)
            self.unkept = ""
        except FileError as error:
            self.forget_journal()
            self.unkept = str(error)

    def take_up(self, left: Left) -> None:
        """Go on with what a killed program left behind, written down anew before that is
        dropped."""
        self.keeping = True
        self._journal = Journal.begin(self.project, self.identity, self.path)
        self._journal.note("take up unsaved work")
        forget(left)

    def forget_journal(self) -> None:
        """Drop the journal: everything in it is saved, or was given up."""
        if self._journal is not None:
            self._journal.drop()
            self._journal = None


def with_suffix(path: Path) -> Path:
    """A path with the ending of project files."""
    return path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)


def open_building(path: Path, building: str = "", tell: Tell = unheard) -> Building:
    """Open a project file, or begin a building from an architect's IFC file; ``building`` names one
    of several in it, and ``tell`` takes in how far it is.

    Raises:
        FileError: it cannot be read.
    """
    if path.suffix.lower() == ".ifc":
        project, _ = begin(path, building=building, tell=tell)
        tell(WORKING_OUT)
        begun = Building(project)
        begun.source = path
        return begun
    tell(f"Reading {path.name} …")
    project = load(path)
    tell(WORKING_OUT)
    return Building(project, path)


MEASURED: Final = {"us": "in feet and inches", "metric": "in millimetres"}


def begin(
    architect: Path,
    *,
    structure: bool = True,
    building: str = "",
    template: Project | None = None,
    tell: Tell = unheard,
) -> tuple[Project, tuple[str, ...]]:
    """Begin a building from an architect's file, with a first structure between its levels.

    Returns:
        The project, and a sentence for each thing that could not be proposed.

    Raises:
        FileError: the file cannot be read.
    """
    from balken.exchange.ifc_in import take

    tell(f"Reading {architect.name} …")
    project = take(architect, building)
    if template is not None:
        if template.system != project.system:
            raise FileError(
                f"The template is {MEASURED[template.system]}, {architect.name} is"
                f" {MEASURED[project.system]}: its sections are not sold there."
            )
        project = with_template(project, template)
    if not structure:
        return project, ()
    tell(f"Placing a first structure between {len(project.walls):,} walls …")
    project, said = propose_structure(project)
    return settle(project), said


DEMO_WIND: Final = Wind(115 * MPH, exposure="B", zones=(1.0, 1.3, 1.6))
DEMO_SHAKES: Final = Earthquake(sds=0.3, sd1=0.12)


def demo_project() -> Project:
    """The invented demo building, in a made-up wind."""
    return set_site(begin(DEMO)[0], wind=DEMO_WIND, earthquake=DEMO_SHAKES)
