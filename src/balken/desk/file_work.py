"""Files from the window: opening, saving, issuing, and what a killed program left behind."""

from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from balken.desk.names import page
from balken.desk.work import Errand, run_apart
from balken.errors import BalkenError
from balken.exchange.dxf_in import UNIT_WORDS, TracedFile, background, read_dxf
from balken.exchange.files import FileConflict, FileError, write_atomic
from balken.exchange.ifc_in import take
from balken.exchange.instrument import MadeUpGround, SimulatedInstrument, survey
from balken.exchange.issue import issue
from balken.exchange.native import SUFFIX
from balken.exchange.spots_csv import read_spots
from balken.model.edits.bring import Difference, differences
from balken.model.edits.others import add_background, set_spots
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.session.building import Building, open_building, with_suffix
from balken.session.demo import shown_demo
from balken.session.faults import Fault, report_of
from balken.session.ferry_hall import ferry_hall
from balken.session.journal import Left, forget, is_open_elsewhere, left_for, left_without_file
from balken.site.bodies import storey_outline, storey_walls

if TYPE_CHECKING:
    from balken.desk.window import Window


OPENED = f"Projects and architects’ files (*{SUFFIX} *.ifc);;All files (*)"
"""The kinds of files that can be opened, as the file dialog wants them."""


class Update:
    """A new version of the architect's file that is being compared: what is open, and what was
    left."""

    def __init__(self, new: Project) -> None:
        self.new = new
        self.left: set[tuple[str, str]] = set()
        self.open: tuple[Difference, ...] = ()
        self.seen = 0

    def renew(self, project: Project) -> None:
        """Compare again after an edit."""
        found = tuple(
            d for d in differences(project, self.new) if (d.what, d.words) not in self.left
        )
        self.open, self.seen = found, max(self.seen, len(found))


def words_of_left(left: Left) -> str:
    """What a killed program left behind, in words."""
    when = datetime.fromisoformat(left.last).strftime("%Y-%m-%d %H:%M")
    edits = "1 edit" if left.edits == 1 else f"{left.edits} edits"
    return f"There is unsaved work on “{left.head.name}”: {edits}, the last of {when}."


class FileWork:
    """The file work of one window."""

    def __init__(self, w: "Window") -> None:
        self.w = w
        self.reading: Errand | None = None
        self.update: Update | None = None

    def save(self) -> bool:
        """Save; ask for a name where there is none. Return whether it was saved."""
        if self.w.building.path is None:
            return self.save_as()
        return self.save_to(self.w.building.path)

    def save_as(self) -> bool:
        """Ask for a name and save. A file that the dialog did not ask about, since the ending is
        added to its name, is not written over unasked."""
        start = str(self.w.building.path or Path.home() / f"{self.w.building.project.name}{SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(
            self.w, "Save the project", start, f"Projects (*{SUFFIX})"
        )
        return bool(name) and self.save_to(Path(name), over=with_suffix(Path(name)) == Path(name))

    def save_to(self, path: Path, *, over: bool = False) -> bool:
        """Save to a path; what goes wrong is said. Return whether it was saved."""
        try:
            target = self.w.building.save(path, over=over)
        except FileConflict as conflict:
            answers: list[tuple[str, Callable[[], object]]] = [
                ("Write over it", partial(self.save_to, path, over=True)),
                ("Save as …", self.save_as),
                ("Leave it", lambda: None),
            ]
            self.w.line.ask(str(conflict), answers)
            return False
        except FileError as error:
            self.w.say(str(error))
            return False
        self.w.refresh()
        self.w.say(f"Saved as {target}.")
        return True

    def open_dialog(self) -> None:
        """Ask for a file and open it."""
        name, _ = QFileDialog.getOpenFileName(self.w, "Open", str(Path.home()), OPENED)
        if name:
            self.leave(lambda: self.open_path(Path(name)))

    def open_path(self, path: Path, building: str = "") -> None:
        """Open a file apart from the window, which stays as it is until the file has been read
        whole."""
        self.w.say(f"Reading {path.name} …  Esc leaves it.")
        self.reading = run_apart(
            self.w, partial(open_building, path, building), self.w.show_building, self.w.say
        )

    def offer_buildings(self, path: Path, others: tuple[str, ...]) -> None:
        """Say that a file holds other buildings too, and offer to read one of them instead."""
        answers: list[tuple[str, Callable[[], object]]] = [
            (name[:24], partial(self.open_path, path, name)) for name in others[:4]
        ]
        text = (
            f"{path.name} holds {len(others) + 1} buildings; this is"
            f" {self.w.building.project.name}."
        )
        self.w.line.ask(text, [*answers, ("Stay with it", lambda: None)])

    def open_demo(self) -> None:
        """Open the demo building."""
        self.leave(partial(self._open_made, shown_demo))

    def open_ferry_hall(self) -> None:
        """Open the second demo building."""
        self.leave(partial(self._open_made, ferry_hall))

    def _open_made(self, make: Callable[[], Project]) -> None:
        """Open a building that is made by the program, apart from the window."""
        self.w.say("Working it out …  Esc leaves it.")
        self.reading = run_apart(self.w, lambda: Building(make()), self.w.show_building, self.w.say)

    def offer_recovery(self) -> None:
        """Offer what a killed program left behind: of this building's own file, or of one that was
        never saved. What is not answered stays where it is."""
        building = self.w.building
        if building.path is not None:
            if is_open_elsewhere(building.path):
                self.w.say(
                    f"{building.path.name} is open in another window too, which has unsaved work."
                )
            mine = [x for x in left_for(building.path) if x.project != building.project]
            if mine:
                self._offer(mine[-1])
        elif not building.source and not building.history.done and self.w.tells_of_unsaved:
            never = left_without_file()
            if never:
                self._offer_other(never[-1])

    def _offer(self, left: Left) -> None:
        other = self.w.building.identity != left.head.identity
        if other:  # another project was put in the place of the file it belongs to
            self._offer_other(left)
            return

        def take() -> None:
            if self.w.edit("take unsaved work", lambda _: left.project):
                forget(left)

        changed = (
            "" if left.head.stands == self.w.building.stands else " Its file was changed since."
        )
        self.w.line.ask(
            f"{words_of_left(left)} It belongs to {left.head.file}.{changed}",
            [("Take it", take), ("Drop it", partial(forget, left)), ("Later", lambda: None)],
        )

    def _offer_other(self, left: Left) -> None:
        """Offer to open unsaved work as a building of its own."""

        def take() -> None:
            building = Building(left.project, identity=left.head.identity)
            try:
                building.take_up(left)
            except FileError as error:
                self.w.say(str(error))
                return
            self.w.show_building(building)

        where = f"It was begun from {left.head.file}." if left.head.file else "It was never saved."
        answers: list[tuple[str, Callable[[], object]]] = [
            ("Open it", partial(self.leave, take)),
            ("Drop it", partial(forget, left)),
            ("Later", lambda: None),
        ]
        self.w.line.ask(f"{words_of_left(left)} {where}", answers)

    def save_report(self, fault: Fault) -> None:
        """Ask for a name and save what is known of something that went wrong inside the program."""
        start = str(Path.home() / "balken-report.txt")
        name, _ = QFileDialog.getSaveFileName(self.w, "Save the report", start, "Text (*.txt)")
        if not name:
            return
        try:
            write_atomic(Path(name), report_of(fault, self.w.building.project).encode())
        except FileError as error:
            self.w.say(str(error))
            return
        self.w.say(f"Saved as {name}.")

    # -- what comes from others -----------------------------------------------

    def background_dialog(self) -> None:
        """Ask for a DXF drawing and lay it under the plan."""
        name, _ = QFileDialog.getOpenFileName(
            self.w, "Drawing to trace", str(Path.home()), "DXF drawings (*.dxf)"
        )
        if name:
            self.lay_under(Path(name))

    def lay_under(self, path: Path) -> None:
        """Lay a DXF drawing under the plan; where it does not say its unit, ask."""
        self.w.say(f"Reading {path.name} …  Esc leaves it.")
        self.reading = run_apart(
            self.w, partial(read_dxf, path), partial(self._laid, path), self.w.say
        )

    def _laid(self, path: Path, traced: TracedFile) -> None:
        if traced.unit is None:
            answers: list[tuple[str, Callable[[], object]]] = [
                (word, partial(self._lay_in, path, unit)) for word, unit in UNIT_WORDS.items()
            ]
            self.w.say("")
            self.w.line.ask(
                f"{path.name} does not say its unit. Its numbers are",
                [*answers, ("Leave it", lambda: None)],
            )
            return
        self._add(path, traced)

    def _lay_in(self, path: Path, unit: float) -> None:
        self.reading = run_apart(
            self.w, partial(read_dxf, path, unit), partial(self._add, path), self.w.say
        )

    def _add(self, path: Path, traced: TracedFile) -> None:
        if not traced.layers:
            self.w.say(f"{path.name} holds no lines to trace. {'; '.join(traced.left_out[:3])}")
            return
        if self.w.edit(
            "lay a drawing under", partial(add_background, drawing=background(traced, path.name))
        ):
            self.w.select(page("sources"))
            self.w.plan.fit()
            left = f" Left out: {'; '.join(traced.left_out[:4])}." if traced.left_out else ""
            self.w.say(
                f"{path.name}: {sum(len(x.lines) for x in traced.layers)} lines on"
                f" {len(traced.layers)} layers.{left}"
            )

    def spots_dialog(self) -> None:
        """Ask for a file of heights and read it."""
        name, _ = QFileDialog.getOpenFileName(
            self.w, "Heights of the ground", str(Path.home()), "CSV (*.csv *.txt)"
        )
        if name:
            self.read_heights(Path(name))

    def read_heights(self, path: Path) -> None:
        """Take heights of the ground from a file, instead of those there are."""
        try:
            found = read_spots(path, self.w.building.project.system)
        except FileError as error:
            self.w.say(str(error))
            return
        if self.w.edit("read heights", partial(set_spots, spots=found.spots)):
            self.w.select(page("sources"))
            left = f" Left out: {'; '.join(found.left_out[:3])}." if found.left_out else ""
            self.w.say(f"{len(found.spots)} heights.{left}")

    def survey(self) -> None:
        """Walk round the building with the simulated instrument and take what it measures."""
        project = self.w.building.project
        outline = storey_outline(storey_walls(project, self.w.tools.base))
        if outline is None:
            self.w.say("The walls here enclose nothing, so there is no outline to walk round.")
            return
        ground = next((x.elevation for x in project.levels if x.role == "ground"), -600.0)
        spots = survey(SimulatedInstrument(MadeUpGround(height=ground - 150.0)), outline)
        if self.w.edit("survey the ground", partial(set_spots, spots=spots)):
            self.w.select(page("sources"))
            self.w.say(f"{len(spots)} heights measured, each within about {3 * 5} mm.")

    # -- a new version of the architect's file --------------------------------

    def update_dialog(self) -> None:
        """Ask for the new version of the architect's file and compare it with what is here."""
        name, _ = QFileDialog.getOpenFileName(
            self.w, "New version", str(Path.home()), "IFC (*.ifc)"
        )
        if name:
            self.compare(Path(name))

    def compare(self, path: Path) -> None:
        """Compare a new version of the architect's file with what is here."""
        self.w.say(f"Reading {path.name} …  Esc leaves it.")
        self.reading = run_apart(self.w, partial(take, path), self._compared, self.w.say)

    def _compared(self, new: Project) -> None:
        self.update = Update(new)
        self.update.renew(self.w.building.project)
        self.w.say(f"{len(self.update.open)} differences.")
        self.w.select(page("update"))

    def take_one(self, item: Difference) -> bool:
        """Take one difference over."""
        made = self.w.edit(f"take {item.what} of the new version", item.take)
        self._renew()
        return made

    def take_all(self) -> None:
        """Take every difference over as one edit, levels first; what cannot be taken is said and
        stays open."""
        assert self.update is not None
        items, refused = self.update.open, []

        def change(project: Project) -> Project:
            for item in items:
                try:
                    project = item.take(project)
                except BalkenError as error:
                    refused.append(f"{item.what}: {error}")
            return project

        self.w.edit("take the new version", change)
        self._renew()
        if refused:
            self.w.say("; ".join(dict.fromkeys(refused)))

    def leave_one(self, item: Difference) -> None:
        """Leave one difference as it is here."""
        assert self.update is not None
        self.update.left.add((item.what, item.words))
        self._renew()

    def look_at(self, item: Difference) -> None:
        """Show where a difference is; the list stays."""
        base = next(
            (x.base for x in self.w.building.project.walls if item.name == HostName("wall", x.id)),
            "",
        )
        if base:
            self.w.tier_id = ThingName("walls", base)
        self.w.select(item.name)
        self.w.looked = (item.name,) if item.name else ()
        self.w.select(page("update"))

    def _renew(self) -> None:
        if self.update is not None:
            self.update.renew(self.w.building.project)
            self.w.select(page("update"))

    def end_update(self) -> None:
        """Leave the comparison."""
        self.update = None
        self.w.say("")
        self.w.looked = ()
        self.w.select(None)

    def issue_dialog(self) -> None:
        """Ask for a folder and write everything into it."""
        name = QFileDialog.getExistingDirectory(
            self.w, "Folder for sheets, lists and structure", str(Path.home())
        )
        if name:
            self.issue_to(Path(name))

    def issue_to(self, folder: Path) -> None:
        """Write sheets, cutting list, structure and project into a folder, apart from the
        window."""
        now = datetime.now()
        self.w.say(f"Writing into {folder} …")
        checked, found = self.w.building.checked, self.w.building.findings
        run_apart(
            self.w,
            partial(
                issue,
                checked,
                found,
                folder,
                date=now.strftime("%Y-%m-%d"),
                when=now.strftime("%Y-%m-%dT%H:%M:%S"),
            ),
            lambda files: self.w.say(f"Written: {', '.join(f.name for f in files)}."),
            self.w.say,
        )

    def leave(self, go: Callable[[], object]) -> None:
        """Ask about unsaved work before leaving a building."""
        if not self.w.building.worth_keeping:
            self.w.building.forget_journal()
            go()
            return

        def drop() -> None:
            self.w.building.forget_journal()
            go()

        def keep() -> None:
            if self.save():
                go()

        answers: list[tuple[str, Callable[[], object]]] = [
            ("Save and go on", keep),
            ("Leave it", drop),
        ]
        self.w.line.ask(
            f"{self.w.building.project.name} is not saved.", [*answers, ("Stay", lambda: None)]
        )
