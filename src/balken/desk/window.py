"""The window: one building, seen and changed from ladder, board, slip and fit list, which share one
selection."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QCloseEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from balken.desk import commands, slips
from balken.desk.board import Board
from balken.desk.file_work import FileWork
from balken.desk.fit_list import FitList
from balken.desk.hand import Hand
from balken.desk.ladder import Ladder
from balken.desk.looks import Looks, is_there
from balken.desk.names import host_behind, level_of, page, wall_behind
from balken.desk.shown import Shown, as_it_is
from balken.desk.slip import Slip
from balken.desk.spans_panel import SpansPanel
from balken.desk.strip import Strip
from balken.desk.theme import DARK, LIGHT, Theme, apply
from balken.desk.toolbox import Toolbox
from balken.desk.top_bar import TopBar
from balken.desk.words import Line, hairline
from balken.desk.work import LeftError, waited_for
from balken.drawing.section import wall_section
from balken.drawing.tiers import Tier, tiers
from balken.errors import BalkenError
from balken.exchange.ifc_in import other_buildings
from balken.fit.finding import Finding
from balken.framing.member import Member
from balken.model.edits.build_ups import Scope
from balken.model.names import HostName, Name, ThingName, keys_of
from balken.model.project import Project
from balken.recall import remembering
from balken.session.building import AtHand, Building, Worked
from balken.session.faults import Fault, fault_of, finding_of
from balken.session.veil import Veil, is_hidden

USUAL = (1280, 800)
LEAST = (900, 560)
"""Of the window, px."""
MOST_FAULTS = 5
"""So many faults are told of at once."""


class Window(QMainWindow):
    """The whole desk."""

    tells_of_unsaved = True
    """Whether unsaved work of other buildings is offered."""

    def __init__(self, building: Building, theme: Theme = LIGHT) -> None:
        super().__init__()
        self.theme = theme
        self.building = building
        self.shown: Shown = as_it_is(building)
        self.tiers: tuple[Tier, ...] = ()
        self.tier_id: Name | None = None
        self.selected: tuple[Name, ...] = ()
        """Names of what is selected, the one the slip is about first."""
        self.kept_walls: tuple[str, ...] = ()
        """Walls that were selected when a build-up was looked at."""
        self.scope: Scope = "all"
        """Which walls a change of a build-up reaches."""
        self.grids_along = True
        """Whether grid lines go along when block walls are brought onto their module."""
        self.veil = Veil()
        self.tools = Toolbox(self)
        self.view = "plan"
        self.hand = Hand(self)
        self.files = FileWork(self)
        building.keeping = True
        self.faults: tuple[Fault, ...] = ()
        """What went wrong inside the program since this building was shown."""
        self.setMinimumSize(*LEAST)
        self.resize(*self._room())
        self.looks = Looks(self)
        self._build()
        self._first_tier()
        self.refresh()

    def _room(self) -> tuple[int, int]:
        """The size the window opens with: no larger than the screen."""
        free = self.screen().availableGeometry()
        frame = 32  # of the window manager, round the window
        return max(LEAST[0], min(USUAL[0], free.width())), max(
            LEAST[1], min(USUAL[1], free.height() - frame)
        )

    # -- building the desk ----------------------------------------------------

    def _build(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply(app, self.theme)
        t = self.theme
        root = QWidget()
        column = QVBoxLayout(root)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.top = TopBar(self)
        column.addWidget(self.top)
        column.addWidget(hairline(t, across=True))
        row = QHBoxLayout()
        row.setSpacing(0)
        column.addLayout(row, 1)
        self.ladder = Ladder(t, self.say)
        self.ladder.setFixedWidth(236)
        self.ladder.tier_chosen.connect(self.work_in)
        self.ladder.level_chosen.connect(lambda k: self.select(ThingName("level", k)))
        self.ladder.level_moved.connect(self.hand.drag_level)
        row.addWidget(self.ladder)
        row.addWidget(hairline(t, across=False))
        middle = QVBoxLayout()
        middle.setSpacing(0)
        row.addLayout(middle, 1)
        self.line = Line(t)
        middle.addWidget(self.line)
        upper = QHBoxLayout()
        upper.setSpacing(0)
        middle.addLayout(upper, 1)
        self.strip = Strip(self)
        upper.addWidget(self.strip)
        upper.addWidget(hairline(t, across=False))
        self.board = Board(self)
        self.plan, self.space = self.board.plan, self.board.space
        self.upright, self.paper = self.board.upright, self.board.paper
        upper.addWidget(self.board, 1)
        middle.addWidget(hairline(t, across=True))
        self.fit = FitList(t)
        self.fit.setFixedHeight(150)
        self.fit.rows.looked.connect(self.look)
        self.fit.rows.mended.connect(self.mend)
        middle.addWidget(self.fit)
        row.addWidget(hairline(t, across=False))
        self.slip = Slip(t, self.say)
        self.slip.setStyleSheet(f"QScrollArea {{ background: {t.panel}; }}")
        row.addWidget(self.slip)
        old = self.takeCentralWidget()
        if old:
            old.hide()
            old.deleteLater()
        self.setCentralWidget(root)
        self.spans: SpansPanel | None = None

    # -- state ----------------------------------------------------------------

    def member(self) -> Member | None:
        """The selected member, if one is selected."""
        if not self.selection:
            return None
        return next(
            (m for m in self.building.checked.structure.members if m.id == self.selection), None
        )

    def current_tier(self) -> Tier | None:
        """The tier that is worked in."""
        return next((t for t in self.tiers if t.id == self.tier_id), None)

    def tier_of(self, host: Name | None) -> Tier | None:
        """The tier a host stands in."""
        return next((t for t in self.tiers if host and t.holds(host)), None)

    def _first_tier(self) -> None:
        self.tiers = tiers(self.building.checked)
        floors = [t.id for t in self.tiers if t.kind == "floor"]
        walls = [t.id for t in self.tiers if t.kind == "walls"]
        self.tier_id = next(iter([*floors[-1:], *walls[:1]]), None)

    @property
    def selection(self) -> Name | None:
        """The name the slip is about; None where nothing is selected."""
        return self.selected[0] if self.selected else None

    @selection.setter
    def selection(self, key: Name | None) -> None:
        self.selected = (key,) if key else ()

    def pick(self, key: Name | None, more: bool = False) -> None:
        """Take a click: select, or add to and take out of what is selected."""
        if not more:
            if not (key and key in self.selected and len(self.selected) > 1):
                self.select(key)
            return
        if key:
            rest = tuple(k for k in self.selected if k != key)
            self.select_many(rest if key in self.selected else (*self.selected, key))

    def select_many(self, keys: Sequence[Name], *, more: bool = False) -> None:
        """Select several things at once; ``more`` adds them."""
        self.slip.open_check = -1
        self.selected = tuple(dict.fromkeys((*self.selected, *keys) if more else keys))
        self.refresh()

    def select(self, key: Name | None) -> None:
        """Select a member, wall or level by its name; None for nothing."""
        if isinstance(key, ThingName) and (key.kind == "build-up" or key == page("build-ups")):
            self.kept_walls = tuple(keys_of(self.selected, "wall")) or self.kept_walls
        elif key is None or keys_of([key], "wall"):
            self.kept_walls = ()
        self.selection = key
        self.slip.open_check = -1
        holder = self.tier_of(host_behind(key))
        if holder and holder.id != self.tier_id:
            self.tier_id = holder.id
        if wall := wall_behind(key):
            base = next((w.base for w in self.building.project.walls if w.id == wall), "")
            tier = self.current_tier()
            if base and (tier is None or tier.walls_on != base or tier.kind == "ground"):
                self.tier_id = ThingName("walls", base)
        if (
            isinstance(key, HostName)
            and key.kind in ("floor", "roof")
            and holder
            and len(holder.hosts) == 1
        ):
            self.selection = None  # the one floor of its tier is the tier itself
        self.refresh()

    def work_in(self, tier_id: Name) -> None:
        """Work in a tier."""
        holder = self.tier_of(tier_id)
        self.tier_id, self.selection = holder.id if holder else tier_id, None
        if holder and holder.id != tier_id:
            self.selection = tier_id
        self.slip.open_check = -1
        if self.view in ("paper", "upright"):
            self.view = "plan"
        self.refresh()
        if self.tools.at_work:
            self.tools.leave()

    def next_tier(self, by: int) -> None:
        ids = [t.id for t in self.tiers]
        if self.tier_id in ids:
            self.work_in(ids[max(0, min(len(ids) - 1, ids.index(self.tier_id) + by))])

    def show_view(self, view: str) -> None:
        """Show plan, space or paper on the board."""
        self.view = view
        self.board.point("")
        self.refresh()
        self.board.stack.currentWidget().setFocus()

    def edit(
        self, words: str, change: Callable[[Project], Project], *, joined: bool = False
    ) -> bool:
        """Make an edit; where it cannot be made, say why and change nothing. Return whether it was
        made."""
        base = self.building.project
        try:
            worked = waited_for(lambda: self.building.worked_out(change), self.say, words)
            if (
                self.building.project is not base
            ):  # a drag came in meanwhile: the edit is of what is there now
                worked = self.building.worked_out(change)
        except LeftError:
            self.say(f"Left: {words}. Nothing was changed.")
            return False
        except BalkenError as error:
            self.say(str(error))
            return False
        except Exception as error:
            self.tell_fault(error, words)
            return False
        return self.adopt(words, worked, joined=joined)

    def adopt(self, words: str, worked: Worked, *, joined: bool = False) -> bool:
        """Make an edit that was worked out already, and show it; where it cannot be shown, nothing
        of it is made."""
        before = self.building.at_hand()
        self.building.adopt(words, worked, joined=joined)
        return self._shown_or_back(before, words)

    def _shown_or_back(self, before: AtHand, words: str) -> bool:
        """Show the building after a change; where that goes wrong, go back to what was at hand
        before."""
        self.say("")
        try:
            self._drop_lost()
            self.refresh()
        except Exception as error:
            self.building.go_back(before)
            self.selected = ()
            self.refresh()
            self.tell_fault(error, words)
            return False
        if self.building.unkept:
            self.say(self.building.unkept)
        return True

    def tell_fault(self, error: BaseException, doing: str = "") -> None:
        """Something that went wrong inside the program in the fit list; a report of it can be
        saved there."""
        self.faults = (fault_of(error, doing), *self.faults)[:MOST_FAULTS]
        self.fit.rows.show_findings(self._as_it_is())
        self.fit.update()
        self.say(finding_of(self.faults[0]).text)

    def _as_it_is(self) -> Shown:
        return as_it_is(self.building, tuple(finding_of(f) for f in self.faults))

    def finding(self, row: int) -> Finding:
        """What a line of the fit list tells."""
        return self._as_it_is().findings[row]

    def _drop_lost(self) -> None:
        """Forget selected walls, openings, grid lines and supports that are there no more."""
        self.selected = tuple(k for k in self.selected if is_there(self.building.project, k))

    def refresh(self) -> None:
        """Show the building as it is; a mend that was previewed is left."""
        self.fit.rows.armed = -1
        self._show(self._as_it_is())

    def _show(self, shown: Shown) -> None:
        with remembering(self.building.recall):
            self._show_all(shown)

    def _show_all(self, shown: Shown) -> None:
        self.shown = shown
        self.tiers = tiers(shown.checked)
        if self.current_tier() is None:
            self.tier_id = self.tiers[0].id if self.tiers else None
        self.setWindowTitle(f"{shown.project.name} – Balken")
        self.top.show_building()
        member = self.member()
        looked = member.host if member else self.selection
        seen = tuple(t for t in self.tiers if not is_hidden(self.veil, t.id))
        parts = tuple(
            p
            for p in wall_section(shown.checked, shown.findings, looked)
            if not p.tier or not is_hidden(self.veil, p.tier)
        )
        chosen_level = level_of(self.selection)
        self.ladder.show_building(shown, parts, self.tiers, self.tier_id, chosen_level)
        self.ladder.roofs_shown = not shown.project.roofs or any(t.kind == "roof" for t in seen)
        self.board.show_building(shown)
        self.fit.rows.show_findings(self._as_it_is())
        self.fit.update()
        if shown.project is self.building.project and not self.hand.follows:
            slips.fill(self)
            self.strip.fill()

    looked: tuple[Name, ...] = ()
    """What is pointed out without being selected."""

    def say(self, text: str) -> None:
        """Say something in the foot of the fit list."""
        self.fit.say(text)

    def undo(self) -> None:
        """Take back the last edit."""
        self.hand.settle()
        done = self.building.history.done
        self._step(
            self.building.undo,
            done[-1].before if done else None,
            "Taken back: {}.",
            "There is nothing to take back.",
        )
        self.tools.again()

    def redo(self) -> None:
        """Make the last undone edit again."""
        self.hand.settle()
        undone = self.building.history.undone
        ahead = undone[-1].after if undone else None
        self._step(self.building.redo, ahead, "Done again: {}.", "There is nothing to do again.")

    def _step(
        self, go: Callable[[], str | None], ahead: Project | None, done: str, nothing: str
    ) -> None:
        before = self.building.at_hand()
        try:
            if ahead is not None:
                waited_for(partial(self.building.look_ahead, ahead), self.say, "going there")
            words = go()
        except LeftError:
            self.say("Left as it is.")
            return
        except Exception as error:
            self.tell_fault(error, "undo or redo")
            return
        if self._shown_or_back(before, words or ""):
            self.say(done.format(words) if words else nothing)

    # -- findings -------------------------------------------------------------

    def look(self, row: int) -> None:
        """Show where a finding is."""
        finding = self.finding(row)
        self.fit.rows.chosen = row
        holder = self.tier_of(finding.host)
        if holder:
            self.tier_id = holder.id
        if self.view == "paper":
            self.view = "plan"
        self.looked = finding.members
        self.selection = finding.members[0] if len(finding.members) == 1 else None
        self.refresh()
        if finding.at and not finding.members:
            self.show_place(finding.at)
        self.say(finding.text)

    def mend(self, row: int) -> None:
        """Preview a mend; when it is previewed already, do it."""
        finding = self.finding(row)
        if finding.mend is None:
            return
        if finding.kind == "fault":
            self.files.save_report(self.faults[row])
            return
        rows = self.fit.rows
        if rows.armed == row:
            mend = finding.mend
            if self.edit(mend.text, mend.apply):
                self.say(f"{mend.text}: done. Ctrl+Z takes it back.")
            return
        try:
            checked, left = waited_for(
                partial(self.building.preview, finding.mend.apply), self.say, finding.mend.text
            )
        except LeftError:
            self.say(f"Left: {finding.mend.text}.")
            return
        except BalkenError as error:
            self.say(str(error))
            return
        except Exception as error:
            self.tell_fault(error, finding.mend.text)
            return
        rows.armed = row
        before, after = len(self.building.findings), len(left)
        rows.preview = f"{finding.mend.text}: leaves {after} of {before}"
        self._show(Shown(checked.project, checked, left))
        self.say("Shown as it would be. “do it” makes it so, Esc leaves it.")

    def preview_mend(self, words: str, change: Callable[[Project], Project]) -> None:
        """Show a building as an edit would leave it, without making the edit."""
        try:
            checked, left = self.building.preview(change)
        except BalkenError as error:
            self.say(str(error))
            return
        self._show(Shown(checked.project, checked, left))
        self.say(f"{words[:1].upper()}{words[1:]}: shown as it would be. Esc leaves it.")

    def next_finding(self) -> None:
        """Look at the next finding."""
        count = len(self._as_it_is().findings)
        if count:
            self.look((self.fit.rows.chosen + 1) % count)

    # -- looking --------------------------------------------------------------

    def fit_view(self) -> None:
        """Show everything on the board."""
        if self.view == "space":
            self.space.fit()
        elif self.view == "upright":
            self.upright.fit()
        else:
            self.plan.fit()

    def zoom(self, factor: float) -> None:
        """Zoom the plan about its middle, or about the pointer where it is on the board."""
        self.plan.zoom(factor)

    def measure(self) -> None:
        """Start or stop measuring."""
        self.tools.start("Measure")

    def show_place(self, p: tuple[float, float]) -> None:
        """Bring a place of the plan to the middle of the board."""
        if self.view != "plan":
            self.show_view("plan")
        shift = QPointF(self.plan.width() / 2, self.plan.height() / 2) - self.plan.to_pixel(p)
        self.plan.offset += shift
        self.plan.update()

    def quick_spans(self) -> None:
        """Open or close the panel of quick spans."""
        if self.spans:
            self.spans.deleteLater()
            self.spans = None
            return
        self.spans = SpansPanel(self.theme, self, self.building.project.system)
        self.spans.closed.connect(self.quick_spans)
        self._place_spans()
        self.spans.show()
        self.spans.raise_()
        self.spans.member.setFocus()

    def _place_spans(self) -> None:
        if self.spans:
            width, height = min(860, self.width() - 80), min(520, self.height() - 90)
            self.spans.setGeometry((self.width() - width) // 2, 58, width, height)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place_spans()

    def toggle_theme(self) -> None:
        """Change between light and dark."""
        self.theme = DARK if self.theme.name == "light" else LIGHT
        asked = self.line.asked
        scale, offset, size = self.plan.scale, self.plan.offset, self.plan.size()
        self.spans = None
        self._build()
        if asked is not None:
            self.line.ask(*asked)
        self.refresh()
        QApplication.processEvents()
        if self.plan.size() == size:
            self.plan.scale, self.plan.offset = scale, offset

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            if self.spans:
                self.quick_spans()
                return
            if self.files.reading:
                self.files.reading.leave()
                self.files.reading = None
            self.looked = ()
            self.say("")
            if self.tools.at_work:
                self.tools.leave()
                return
            self.select(None)
            return
        if self.tools.at_work and event.text().lower() == "x" and not self.tools.changing():
            self.hand.flip_side()
            return
        command = commands.command_for(self, event)
        if command:
            command.act()
            return
        super().keyPressEvent(event)

    def show_building(self, building: Building) -> None:
        """Show another building."""
        self.tools.leave()
        if building is not self.building:
            self.building.forget_journal()
        building.keeping = True
        self.faults = ()
        self.line.answered()
        self.building, self.selection, self.looked, self.veil = building, None, (), Veil()
        self.plan.unfit()
        self.board.point("")
        self.space.fit()
        self._first_tier()
        self.refresh()
        others = other_buildings(building.project)
        if others and building.source:
            self.files.offer_buildings(building.source, others)
        if building.project.notes:
            self.select(page("unread"))
            self.say(
                f"{len(building.project.notes)} things of the architect’s file did not come in;"
                " the slip lists them."
            )
        else:
            self.say("")
        self.files.offer_recovery()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.building.worth_keeping or self._closing:
            self.building.forget_journal()
            event.accept()
            return
        event.ignore()

        def go() -> None:
            self._closing = True
            self.close()

        self.files.leave(go)

    _closing = False
