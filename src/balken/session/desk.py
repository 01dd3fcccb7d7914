"""The desk: one open building and what a person does with it. What is selected, which tier is
worked in, which tool is in hand, what is hidden; edits, undo, and what is said.

It knows no window: a :class:`~balken.session.face.Face` shows it, and tests and the command line
work at it with nobody in front.
"""

from collections.abc import Callable, Mapping, Sequence
from functools import partial

import msgspec

from balken.drawing.tiers import Tier, tiers
from balken.errors import BalkenError
from balken.exchange.price_service import MadeUpPrices, PriceService
from balken.exchange.site_service import MadeUpService, SiteService
from balken.fit.variants import Outcome
from balken.fit.whole_sizing import Whole
from balken.framing.member import Member
from balken.geometry.plane import Point
from balken.loads.ways import LoadWays, rest_of, sits_on, way_down, ways_of
from balken.model.edits.bring import Difference
from balken.model.edits.build_ups import Scope, add_build_up
from balken.model.edits.foundations import given_up
from balken.model.edits.walls import top_over
from balken.model.names import HostName, MemberName, Name, ThingName, keys_of, kind_of
from balken.model.project import Project, column
from balken.model.wall_catalogue import first_build_ups
from balken.recall import remembering
from balken.session.building import AtHand, Building, Worked
from balken.session.face import Answers, Errand, Face, LeftError, Nobody
from balken.session.faults import Fault, fault_of, finding_of
from balken.session.rows import Rows
from balken.session.shown import Shown, as_it_is
from balken.session.snapping import SnapField, snap_field
from balken.session.toolbox import TOOLS, turn_of, wall_at
from balken.session.tools.asking import Kit, Tool, ToolRun
from balken.session.veil import Veil
from balken.takeoff.compared import Earlier
from balken.takeoff.setting import Setting
from balken.units import System
from balken.works.building import Checked
from balken.works.told_sizes import sizes_told

MOST_FAULTS = 5
"""So many faults are told of at once."""
NEAREST = 60.0
"""A wall is caught this near to its face where nothing of it is drawn, mm."""


class Pull(msgspec.Struct, frozen=True):
    """How something is dragged: where it was grabbed on the plan, and how far, mm."""

    at: Point
    by: Point
    up: float = 0.0
    """In an elevation, mm."""


class DragWay(msgspec.Struct, frozen=True):
    """How something can be dragged: along one direction, or, where that is None, any way."""

    along: Point | None = None


class Comparison(msgspec.Struct, frozen=True):
    """A new version of the architect's file that is being compared: what is open, what was left,
    and how much there was at most."""

    new: Project
    left: frozenset[tuple[str, str]] = frozenset()
    open: tuple[Difference, ...] = ()
    seen: int = 0


def _no_name(project: Project, name: Name) -> str:
    return ""


class Thing(msgspec.Struct, frozen=True):
    """What the desk knows of a kind of thing. One file of ``session/things`` says it of each."""

    kind: str
    word: str
    """What people call it: “grid line”."""
    slip: Callable[["Desk", Name], Rows]
    """What its slip says."""
    there: Callable[[Project, Name], bool] = lambda project, name: True
    """Whether it is there, or still."""
    called: Callable[[Project, Name], str] = _no_name
    """What people call one of them; empty where it is not there."""
    tier: Callable[[Project, Name], Name | None] = lambda project, name: None
    """What is worked in when it is chosen: the walls of a level, or what has a tier of its own."""
    alike: Callable[[Checked, Name], Sequence[Name]] = lambda checked, name: ()
    """Everything like it."""
    here: Callable[["Desk"], Sequence[Name]] | None = None
    """All of them on the plan that is shown; None where they are not chosen by kind."""
    ways: Callable[[Checked, Name, Point], DragWay | None] = lambda checked, name, at: None
    """How it can be dragged from a place; None where it cannot."""
    moved: Callable[[Checked, Project, Name, Pull], Project] | None = None
    """The project with it dragged, from what was there before; None where it cannot be."""
    several: Callable[["Desk", tuple[Name, ...]], Rows] | None = None
    """The fields that several of them share; None where they are shown one by one."""
    take_away: Callable[["Desk", Name], object] | None = None
    """Take one away; None where none can be."""


def page(title: str) -> ThingName:
    """The name of a page of the slip that is about no single thing."""
    return ThingName("page", title)


BOOK = "C"
"""What the numbers of the calculation book's pages begin with."""


class Desk:
    """One open building at work."""

    def __init__(
        self, building: Building, things: Mapping[str, Thing], face: Face | None = None
    ) -> None:
        self.things = things
        """What is known of each kind of thing, by its kind."""
        self.face: Face = face or Nobody()
        self.building = building
        self.shown: Shown = as_it_is(building)
        """The building as it is, or as a mend would leave it."""
        self.tiers: tuple[Tier, ...] = ()
        self.tier_id: Name | None = None
        self.view = "plan"
        """What the board shows: ``plan``, ``upright``, ``space`` or ``paper``."""
        self.outcomes: tuple[Outcome, ...] = ()
        """What variants of the whole building came to."""
        self.compared: HostName | None = None
        """What the page of choices compares sizes for."""
        self.reserve = False
        """Whether plan and space show how far everything is used."""
        self.paper_from = ""
        """What the number of the page to be looked at next begins with; empty where it stays."""
        self.selected: tuple[Name, ...] = ()
        """Names of what is selected, the one the slip is about first."""
        self.earlier: Earlier | None = None
        """The version that the building is compared with."""
        self.drawn_over = True
        """Whether plan and space show that version over the building."""
        self.setting: Setting | None = None
        """The step of setting that is looked at."""
        self.lists = False
        """Whether the lists stand under what the board shows."""
        self.folded: frozenset[str] = frozenset()
        """Parts of the desk that are folded away: ``ladder``, ``strip``, ``slip``, ``fit list``."""
        self.looked: tuple[Name, ...] = ()
        """What is pointed out without being selected."""
        self.lit: dict[Name, float] = {}
        """What sits on what is selected, and what carries it, N."""
        self.stack: tuple[Name, ...] = ()
        """What lay at the place that was clicked, the nearest to the eye first."""
        self._load_ways: tuple[Checked, LoadWays] | None = None
        self.veil = Veil()
        self.said = ""
        """What was said last."""
        self.faults: tuple[Fault, ...] = ()
        """What went wrong inside the program since this building was shown."""
        self.sizes_then = sizes_told(building.checked)
        """Every size as it was when the building was opened, or sized the last time."""
        self.site_service: SiteService = MadeUpService()
        self.price_service: PriceService = MadeUpPrices()
        """Knows what places ask for."""
        self.whole: Whole | None = None
        """What sizing the whole building came to last."""
        self.row = -1
        """The line of the fit list that is looked at."""
        self.armed = -1
        """The line of the fit list whose mend is previewed."""
        self.preview = ""
        """What that mend would do, in words."""
        self.open_check = -1
        """The check of the slip whose lines are shown."""
        self.follows = False
        """While something is dragged, ladder and board follow at once; the slip waits for the hand
        to let go."""
        self.kept_walls: tuple[str, ...] = ()
        """Walls that were selected when a build-up was looked at."""
        self.scope: Scope = "all"
        """Which walls a change of a build-up reaches."""
        self.floor_scope: Scope = "all"
        """Which floors a change of their build-up reaches."""
        self.grids_along = True
        """Whether grid lines go along when block walls are brought onto their module."""
        self.kit = Kit()
        self.tool = ""
        """The name of the tool at work."""
        self.run: ToolRun | None = None
        self.tops: dict[str, str] = {}
        """The level that new walls reach, per level they stand on, where a person chose one."""
        self._field: tuple[Project, str, SnapField] | None = None
        self.settle: Callable[[], object] = lambda: None
        """Waits for what a drag is about to bring; set by who drags."""
        self.under_way: Errand | None = None
        """Long work that Escape leaves, as a file that is read."""
        self.comparing: Comparison | None = None
        """A new version of the architect's file."""
        self.tells_of_unsaved = True
        """Whether unsaved work of other buildings is offered."""
        building.keeping = True
        self._first_tier()

    # -- what is there --------------------------------------------------------

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self.building.project

    @property
    def checked(self) -> Checked:
        """Everything that follows from it."""
        return self.building.checked

    @property
    def system(self) -> System:
        """The project's system of measure."""
        return self.project.system

    def thing(self, name: Name) -> Thing:
        """What is known of the kind of thing that a name names."""
        return self.things[kind_of(name)]

    def members_of(self, host: HostName) -> list[Member]:
        """The members of a host."""
        return [m for m in self.checked.structure.members if m.host == host]

    def member(self) -> Member | None:
        """The selected member, if one is selected."""
        if not isinstance(self.selection, MemberName):
            return None
        return next((m for m in self.checked.structure.members if m.id == self.selection), None)

    def current_tier(self) -> Tier | None:
        """The tier that is worked in."""
        return next((t for t in self.tiers if t.id == self.tier_id), None)

    def tier_of(self, host: Name | None) -> Tier | None:
        """The tier a host stands in."""
        return next((t for t in self.tiers if host and t.holds(host)), None)

    def _first_tier(self) -> None:
        self.tiers = tiers(self.checked)
        floors = [t.id for t in self.tiers if t.kind == "floor"]
        walls = [t.id for t in self.tiers if t.kind == "walls"]
        self.tier_id = next(iter([*floors[-1:], *walls[:1]]), None)

    # -- what is selected -----------------------------------------------------

    @property
    def selection(self) -> Name | None:
        """The name the slip is about; None where nothing is selected."""
        return self.selected[0] if self.selected else None

    @selection.setter
    def selection(self, name: Name | None) -> None:
        self.selected = (name,) if name else ()

    @property
    def chosen(self) -> tuple[Name, ...]:
        """What is selected, as tools ask for it."""
        return self.selected

    def pick(self, name: Name | None, more: bool = False) -> None:
        """Take a click: select, or add to and take out of what is selected."""
        if more and name:
            rest = tuple(k for k in self.selected if k != name)
            self.select_many(rest if name in self.selected else (*self.selected, name))
        elif not more and (len(self.selected) < 2 or name not in self.selected):
            self.select(name)

    def select_many(self, names: Sequence[Name], *, more: bool = False) -> None:
        """Select several things at once; ``more`` adds them."""
        self.open_check = -1
        self.selected = tuple(dict.fromkeys((*self.selected, *names) if more else names))
        self.refresh()

    def select_rows(self, names: Sequence[Name]) -> None:
        """Select what a line of a list stands for, and look at the tier of the first."""
        if names:
            self._go_where_it_shows(names[0])
        self.select_many(names)

    def select(self, name: Name | None) -> None:
        """Select a thing by its name; None for nothing. Its tier is worked in."""
        if isinstance(name, ThingName) and (name.kind == "build-up" or name == page("build-ups")):
            self.kept_walls = tuple(keys_of(self.selected, "wall")) or self.kept_walls
        elif name is None or keys_of([name], "wall"):
            self.kept_walls = ()
        self.selection = name
        self.open_check = -1
        if name not in self.stack:
            self.stack = ()
        if name is not None:
            self._go_where_it_shows(name)
        self.refresh()

    def _go_where_it_shows(self, name: Name) -> None:
        """Work in the tier of a thing. Walls show over the floor they stand on too."""
        where = self.thing(name).tier(self.project, name)
        holder, here = self.tier_of(where), self.current_tier()
        if where is None or holder is None:
            return
        if kind_of(where) == "walls":
            over = here is not None and here.kind != "ground" and here.walls_on == holder.walls_on
            self.tier_id = self.tier_id if over else holder.id
            return
        self.tier_id = holder.id
        if name == where and kind_of(name) in ("floor", "roof") and len(holder.hosts) == 1:
            self.selection = None  # the one floor of its tier is the tier itself

    def work_in(self, tier_id: Name) -> None:
        """Work in a tier."""
        holder = self.tier_of(tier_id)
        self.tier_id = holder.id if holder else tier_id
        self.selection = tier_id if holder and holder.id != tier_id else None
        self.open_check = -1
        if self.view in ("paper", "upright"):
            self.view = "plan"
        self._drop_tool()
        self.refresh()

    def next_tier(self, by: int) -> None:
        """Work in the tier above, or below."""
        ids = [t.id for t in self.tiers]
        if self.tier_id in ids:
            there = max(0, min(len(ids) - 1, ids.index(self.tier_id) + by))
            self.work_in(ids[there])
            self.say(f"Working in {self.tiers[there].name}.")

    def show_view(self, view: str) -> None:
        """Look at plan, upright views, space or paper."""
        self.view = view
        self.refresh()

    def turn_reserve(self) -> None:
        """Show how far everything is used, with the worst of each kind on the slip; once more ends
        it."""
        self.reserve = not self.reserve
        if self.reserve:
            if self.view not in ("plan", "space"):
                self.view = "plan"
            self.select(page("reserve"))
        else:
            self.select(None)
        self.refresh()

    def turn_lists(self) -> None:
        """Show the lists under the board; once more ends it."""
        self.lists = not self.lists
        if self.lists and self.view == "paper":
            self.view = "plan"
        self.refresh()

    def show_book(self) -> None:
        """Look at the calculation book, on paper after the sheets."""
        self.paper_from = BOOK
        self.show_view("paper")

    def fold(self, part: str) -> None:
        """Fold a part of the desk away, or open it again."""
        self.folded = self.folded ^ {part}
        self.refresh()
        words = "folded away" if part in self.folded else "open again"
        self.say(f"The {part} is {words}; the same key turns it.")

    def show_place(self, place: Point) -> None:
        """Look at a place of the plan."""
        if self.view != "plan":
            self.show_view("plan")
        self.face.centre(place)

    # -- showing and saying ---------------------------------------------------

    def say(self, text: str) -> None:
        """Say something in the foot of the fit list."""
        self.said = text
        self.face.say(text)

    def ask(self, text: str, answers: Answers) -> None:
        """Ask a question over the board."""
        self.face.ask(text, answers)

    def as_it_is(self) -> Shown:
        """The building as it stands, with what went wrong inside the program."""
        return as_it_is(self.building, tuple(finding_of(f) for f in self.faults))

    def refresh(self) -> None:
        """Show the building as it is; a mend that was previewed is left."""
        self.armed = -1
        self.show(self.as_it_is())

    def show(self, shown: Shown) -> None:
        """Show a building as it is, or as it would be."""
        with remembering(self.building.recall):
            self.shown = shown
            self.tiers = tiers(shown.checked)
            self.lit = self._lit()
            if self.current_tier() is None:
                self.tier_id = self.tiers[0].id if self.tiers else None
            self.face.show_desk()

    def load_ways(self) -> LoadWays:
        """Who hands what load to whom in the building that is shown."""
        checked = self.shown.checked
        if self._load_ways is None or self._load_ways[0] is not checked:
            self._load_ways = (checked, ways_of(checked.path))
        return self._load_ways[1]

    def _lit(self) -> dict[Name, float]:
        """What sits on the one thing that is selected, and what carries it; nothing while it is
        dragged."""
        rest = rest_of(self.selection)
        if rest is None or len(self.selected) != 1 or self.follows:
            return {}
        ways = self.load_ways()
        both = (sits_on(ways, rest), way_down(ways, rest))
        return {name: force for found in both for name, force in found.items()}

    def show_building(self, building: Building) -> None:
        """Show another building."""
        self.earlier = self.setting = None
        self.leave_tool()
        if building is not self.building:
            self.building.forget_journal()
        building.keeping = True
        self.faults = ()
        self.ask("", ())
        self.building, self.selection, self.looked, self.veil = building, None, (), Veil()
        self.sizes_then, self.whole = sizes_told(building.checked), None
        self.face.begin_view()
        self._first_tier()
        self.refresh()

    # -- edits ----------------------------------------------------------------

    def edit(
        self, words: str, change: Callable[[Project], Project], *, joined: bool = False
    ) -> bool:
        """Make an edit; where it cannot be made, say why and change nothing. Return whether it was
        made."""
        base = self.project
        try:
            worked = self.face.wait(partial(self.building.worked_out, change), words)
            if self.project is not base:  # a drag came in meanwhile: the edit is of what is there
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

    def _drop_lost(self) -> None:
        """Forget of what is selected what is there no more."""
        self.selected = tuple(k for k in self.selected if self.thing(k).there(self.project, k))

    def undo(self) -> None:
        """Take back the last edit."""
        self.settle()
        done = self.building.history.done
        self._step(
            self.building.undo,
            done[-1].before if done else None,
            "Taken back: {}.",
            "There is nothing to take back.",
        )
        self.again()

    def redo(self) -> None:
        """Make the last undone edit again."""
        self.settle()
        undone = self.building.history.undone
        ahead = undone[-1].after if undone else None
        self._step(self.building.redo, ahead, "Done again: {}.", "There is nothing to do again.")

    def _step(
        self, go: Callable[[], str | None], ahead: Project | None, done: str, nothing: str
    ) -> None:
        before = self.building.at_hand()
        try:
            if ahead is not None:
                self.face.wait(partial(self.building.look_ahead, ahead), "going there")
            words = go()
        except LeftError:
            self.say("Left as it is.")
            return
        except Exception as error:
            self.tell_fault(error, "undo or redo")
            return
        if self._shown_or_back(before, words or ""):
            self.say(done.format(words) if words else nothing)

    def tell_fault(self, error: BaseException, doing: str = "") -> None:
        """Something that went wrong inside the program in the fit list; a report of it can be
        saved there."""
        self.faults = (fault_of(error, doing), *self.faults)[:MOST_FAULTS]
        self.face.show_findings()
        self.say(finding_of(self.faults[0]).text)

    # -- where tools work: a bench --------------------------------------------

    @property
    def base(self) -> str:
        """The level new walls stand on: that of the tier, else the lowest floor."""
        tier = self.current_tier()
        if tier and tier.walls_on:
            return tier.walls_on
        floors = [x.id for x in column(self.project) if x.role == "floor"]
        return (floors or [x.id for x in column(self.project)] or [""])[0]

    @property
    def top(self) -> str:
        """The level new walls reach."""
        return self.tops.get(self.base) or top_over(self.project, self.base)

    @property
    def floor_level(self) -> str:
        """The level whose floor is made here: that of the tier, else the next floor over the
        storey."""
        tier = self.current_tier()
        if tier and tier.kind == "floor":
            if kind_of(tier.id) == "beams":
                return tier.key
            return next((f.level for f in self.project.floors if f.id == tier.key), "")
        up = column(self.project)
        here = next((x.elevation for x in up if x.id == self.base), 0.0)
        return next((x.id for x in up if x.role == "floor" and x.elevation > here + 1.0), "")

    @property
    def view_key(self) -> str:
        """The lasting name of the plan that is shown, on sheets too; empty where none is."""
        return f"plan:{self.tier_id}" if self.tier_id is not None else ""

    @property
    def load_level(self) -> str:
        """The level that loads are drawn on here: of the floor or roof of the tier, else what the
        storey stands on."""
        tier = self.current_tier()
        if tier and tier.kind == "roof":
            return next((r.plate for r in self.project.roofs if r.id == tier.key), "")
        if tier and tier.kind in ("floor", "ceiling"):
            floor = next((f.level for f in self.project.floors if f.id == tier.key), "")
            return floor or self.floor_level
        return self.base

    def thing_at(self, p: Point, kinds: tuple[str, ...] = ()) -> Name | None:
        """The name of what lies at a place; of the kinds that are asked for, whatever else
        lies over it."""
        found = self.face.thing_at(p, kinds)
        if found is None and "wall" in kinds:
            return wall_at(self.project, self.base, p, max(NEAREST, self.face.reach()))
        return found

    def field(self) -> SnapField | None:
        """What the pointer can catch on the plan that is shown."""
        project, base = self.project, self.base
        if self._field is None or self._field[0] is not project or self._field[1] != base:
            self._field = (project, base, snap_field(project, base, turn_of(project, base)))
        return self._field[2]

    # -- the tool in hand -----------------------------------------------------

    @property
    def at_work(self) -> bool:
        """Whether a tool is at work."""
        return self.run is not None

    def start(self, name: str) -> None:
        """Begin a tool; the same tool again leaves it."""
        if self.at_work and self.tool == name:
            self.leave_tool()
            return
        self.view = "plan"
        self._drop_tool()
        if name != "Wall" or self._ready_for_walls():
            self.begin(name, TOOLS[name].begin(self))

    def begin(self, name: str, tool: Tool) -> None:
        """Begin a tool that is made already."""
        self._drop_tool()
        self.tool = name
        run = ToolRun(tool, self, self._tool_edit, self.say, self.select_many)
        run.lie(turn_of(self.project, self.base))
        self.run = run
        self.after()
        if self.at_work:
            self.refresh()

    def _tool_edit(self, words: str, change: Callable[[Project], Project]) -> bool:
        before = self.project
        made = self.edit(words, change)
        if made and self.project is before:
            self.say("That changes nothing: it is so already.")
        elif made and (lost := given_up(before, self.project)):
            self.say(lost)
        return made

    def after(self) -> None:
        """Look at what a tool wants after it was given something."""
        if self.run is not None and self.run.done:
            self.leave_tool()
        else:
            self.face.tool_asks()

    def leave_tool(self) -> None:
        """Leave the tool that is at work."""
        if self.run is not None:
            self._drop_tool()
            self.refresh()

    def _drop_tool(self) -> None:
        if self.run is not None:
            self.run.leave()
            self.run, self.tool = None, ""
            self.face.tool_asks()

    def again(self) -> None:
        """Begin the tool at work anew, after its settings or the project under it changed."""
        if self.tool in TOOLS:
            name = self.tool
            self._drop_tool()
            self.start(name)

    def go_on(self) -> None:
        """Press Enter for the tool."""
        if self.run is not None:
            self.run.key("enter")
            self.after()

    def set_kit(self, *, again: bool = False, **fields: object) -> None:
        """Change what the tools remember; where it changes what is asked, the tool begins anew."""
        self.kit = msgspec.structs.replace(self.kit, **fields)
        if again:
            self.again()
        self.refresh()

    def _ready_for_walls(self) -> bool:
        """Give new walls something they are built of, where nothing was chosen yet."""
        if not self.base or self.top == self.base:
            self.say(
                "A wall needs a level to stand on and one above it to reach. Add a level first."
            )
            return False
        known = {b.id for b in self.project.wall_build_ups}
        if self.kit.build_up in known or self.kit.thickness > 0:
            return True
        body = first_build_ups(self.system)[0]
        taken = self.edit(
            "take a wall build-up", lambda p: add_build_up(p, body.layers, body.module)[0]
        )
        if taken:
            self.kit = msgspec.structs.replace(
                self.kit, build_up=add_build_up(self.project, body.layers, body.module)[1]
            )
        return taken


def by_kind(names: Sequence[Name]) -> dict[str, list[Name]]:
    """What is selected by its kind, in the order in which the kinds come."""
    found: dict[str, list[Name]] = {}
    for name in names:
        found.setdefault(kind_of(name), []).append(name)
    return found


def level_of(name: Name | None) -> str:
    """The key of a level that is named; empty for everything else."""
    return name.key if isinstance(name, ThingName) and name.kind == "level" else ""
