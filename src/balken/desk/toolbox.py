"""The tools of one window: which there are, when, by which key; starting one, and what it leaves
behind."""

import math
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from balken.desk.tell_line import TellLine
from balken.geometry.plane import distance_to_segment
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.walls import top_over
from balken.model.names import HostName, Name, kind_of
from balken.model.project import Project, column
from balken.model.wall_catalogue import first_build_ups
from balken.session.snapping import SnapField, snap_field
from balken.session.tools import (
    beams,
    changing,
    floors,
    foundations,
    grids,
    openings,
    roofs,
    supports,
    walls,
)
from balken.session.tools.asking import Bench, Kit, Tool, ToolRun
from balken.site.bodies import lie_of, storey_walls

if TYPE_CHECKING:
    from balken.desk.window import Window

NEAREST = 60.0
CATCH_PX = 8.0
"""A wall is caught this near to its face where nothing of it is drawn, mm and px."""


class ToolKind(NamedTuple):
    """A tool: its name, key, the kinds of tiers it belongs to (empty for all), whether it changes
    what is selected."""

    name: str
    key: str
    tiers: tuple[str, ...]
    changes: tuple[str, ...] = ()
    """Kinds of things it changes; a tool without any places something."""


PLACING = (
    ToolKind("Wall", "W", ("walls",)),
    ToolKind("Opening", "O", ("walls",)),
    ToolKind("Posts, pads", "P", ("walls", "ground", "floor")),
    ToolKind("Foundation", "G", ("walls", "ground")),
    ToolKind("Floor", "Shift+F", ("floor", "walls")),
    ToolKind("Opening in floor", "O", ("floor",)),
    ToolKind("Cut floor", "K", ("floor",)),
    ToolKind("Joist", "E", ("floor",)),
    ToolKind("Beam", "Shift+B", ("floor", "walls")),
    ToolKind("Beam bays", "Shift+Y", ("floor", "walls")),
    ToolKind("Roof", "Shift+R", ("walls", "roof")),
    ToolKind("Skylight", "O", ("roof",)),
    ToolKind("Courtyard", "K", ("roof",)),
    ToolKind("Step", "S", ("ground",)),
    ToolKind("Ground height", "", ("ground", "walls")),
    ToolKind("Grid", "U", ()),
    ToolKind("Rings, rays", "", ()),
    ToolKind("Corner", "K", ("walls",)),
    ToolKind("Trim, extend", "E", ("walls",)),
)
CHANGING = (
    ToolKind("Move", "V", (), ("wall", "support", "grid", "opening", "beam", "bay")),
    ToolKind("Copy", "C", (), ("wall", "support", "opening")),
    ToolKind("Turn", "Q", (), ("wall", "support")),
    ToolKind("Mirror", "I", (), ("wall", "support")),
    ToolKind("Row, ring", "Y", (), ("wall", "support", "opening")),
    ToolKind("Offset", "B", (), ("wall",)),
    ToolKind("Align", "A", (), ("wall",)),
    ToolKind("Split", "S", (), ("wall",)),
    ToolKind("Line beside", "L", (), ("grid",)),
)
MEASURE = ToolKind("Measure", "M", ())


class Toolbox(Bench):
    """The bench of a window's tools."""

    def __init__(self, w: "Window") -> None:
        self.w = w
        self.kit = Kit()
        self.name = ""
        self.tops: dict[str, str] = {}
        """The level that new walls reach, per level they stand on, where a person chose one."""
        self._run: ToolRun | None = None
        self._field: tuple[Project, str, SnapField] | None = None

    # -- where tools work -----------------------------------------------------

    @property
    def project(self) -> Project:
        """The project as it is now."""
        return self.w.building.project

    @property
    def base(self) -> str:
        """The level new walls stand on: that of the tier, else the lowest floor."""
        tier = self.w.current_tier()
        if tier and tier.walls_on:
            return tier.walls_on
        floors = [x.id for x in column(self.project) if x.role == "floor"]
        return (floors or [x.id for x in column(self.project)] or [""])[0]

    @property
    def floor_level(self) -> str:
        """The level whose floor is made here: that of the tier, else the next floor over the
        storey."""
        tier = self.w.current_tier()
        if tier and tier.kind == "floor":
            key = tier.key
            return (
                key
                if kind_of(tier.id) == "beams"
                else next((f.level for f in self.project.floors if f.id == key), "")
            )
        up = column(self.project)
        here = next((x.elevation for x in up if x.id == self.base), 0.0)
        return next((x.id for x in up if x.role == "floor" and x.elevation > here + 1.0), "")

    @property
    def top(self) -> str:
        """The level new walls reach."""
        return self.tops.get(self.base) or top_over(self.project, self.base)

    @property
    def chosen(self) -> tuple[Name, ...]:
        """What is selected."""
        return tuple(self.w.selected)

    def thing_at(self, p: tuple[float, float], kinds: tuple[str, ...] = ()) -> Name | None:
        """The name of what lies at a place; of the kinds that are asked for, whatever else
        lies over it."""
        key = self.w.plan.key_at(p, kinds)
        return key or (self._wall_at(p) if "wall" in kinds else None)

    def _wall_at(self, p: tuple[float, float]) -> HostName | None:
        """The wall of the storey that is worked on at a place, where its plan shows none, as
        in the ground."""
        reach = max(NEAREST, CATCH_PX / self.w.plan.scale)
        near = [
            (max(0.0, distance_to_segment(p, w.start, w.end) - w.thickness), w.id)
            for w in storey_walls(self.project, self.base)
        ]
        away, key = min(near, default=(math.inf, ""))
        return HostName("wall", key) if away <= reach else None

    def field(self) -> SnapField | None:
        """What the pointer can catch on the plan that is shown."""
        project, base = self.project, self.base
        if self._field is None or self._field[0] is not project or self._field[1] != base:
            self._field = (project, base, snap_field(project, base, self.turn()))
        return self._field[2]

    def turn(self) -> float:
        """How the building lies, radians."""
        return lie_of(self.project, storey_walls(self.project, self.base))

    # -- starting and leaving -------------------------------------------------

    @property
    def at_work(self) -> bool:
        """Whether a tool is at work."""
        return self._run is not None

    def start(self, name: str) -> None:
        """Begin a tool; the same tool again leaves it."""
        if self.at_work and self.name == name:
            self.leave()
            return
        if self.w.view != "plan":
            self.w.view = "plan"
        self.leave()
        if name == "Wall" and not self._ready_for_walls():
            return
        self.name = name
        self._begin(self._tool(name))

    def _begin(self, tool: Tool) -> None:
        w = self.w
        run = ToolRun(tool, self, self._edit, w.say, w.select_many)
        run.lie(self.turn())
        self._run = run
        w.plan.start(run)
        self.after()
        if self.at_work:
            w.refresh()
            if run.ask is not None and run.ask.kind != "text":
                w.plan.setFocus()

    def _edit(self, words: str, change: Callable[[Project], Project]) -> bool:
        before = self.project
        made = self.w.edit(words, change)
        if made and self.project is before:
            self.w.say("That changes nothing: it is so already.")
        return made

    def paste(self, tool: Tool) -> None:
        """Begin a tool that was made elsewhere."""
        self.leave()
        self.name = "Paste"
        self._begin(tool)

    def after(self) -> None:
        """Look at what a tool wants after it was given something."""
        run = self._run
        if run is None:
            return
        if run.done:
            self.leave()
            return
        tell: TellLine = self.w.board.tell
        tell.show_run(self.name, run)
        if run.ask is not None and run.ask.kind != "text" and tell.entry.hasFocus():
            self.w.plan.setFocus()
        self.w.plan.update()

    def leave(self) -> None:
        """Leave the tool that is at work."""
        if self._run is None:
            return
        self._run.leave()
        self._run = None
        self.name = ""
        self.w.plan.start(None)
        self.w.board.tell.show_run("", None)
        self.w.plan.setFocus()
        self.w.refresh()

    def again(self) -> None:
        """Begin the tool at work anew, after its settings or the project under it changed."""
        if self.at_work:
            name = self.name
            self.leave()
            self.start(name)

    def go_on(self) -> None:
        """Press Enter for the tool."""
        if self._run is not None:
            self._run.key("enter")
            self.after()

    def _ready_for_walls(self) -> bool:
        """Give new walls something they are built of, where nothing was chosen yet."""
        if not self.base or self.top == self.base:
            self.w.say(
                "A wall needs a level to stand on and one above it to reach. Add a level first."
            )
            return False
        known = {b.id for b in self.project.wall_build_ups}
        if self.kit.build_up not in known and self.kit.thickness <= 0:
            made: list[str] = []
            body = first_build_ups(self.project.system)[0]

            def take(project: Project) -> Project:
                after, key = add_build_up(project, body.layers, body.module)
                made.append(key)
                return after

            if not self.w.edit("take a wall build-up", take):
                return False
            self.set_kit(build_up=made[-1])
        return True

    def set_kit(self, **fields: object) -> None:
        """Change what the tools remember."""
        import msgspec

        self.kit = msgspec.structs.replace(self.kit, **fields)
        self.w.plan.update()

    def _tool(self, name: str) -> Tool:
        w, keys = self.w, self.w.selected
        made: dict[str, Callable[[], Tool]] = {
            "Wall": lambda: walls.draw(self, self.turn(), w.plan.step),
            "Opening": lambda: openings.place(self, w.plan.step),
            "Posts, pads": lambda: supports.place(self),
            "Floor": lambda: floors.place(self),
            "Opening in floor": lambda: floors.opening(self),
            "Cut floor": lambda: floors.cut(self),
            "Joist": lambda: floors.joist(self),
            "Beam": lambda: beams.place(self),
            "Beam bays": lambda: beams.bays(self),
            "Roof": lambda: roofs.place(self),
            "Skylight": lambda: roofs.skylight(self),
            "Courtyard": lambda: roofs.court(self),
            "Foundation": lambda: foundations.place(self),
            "Step": lambda: foundations.steps(self),
            "Ground height": lambda: foundations.heights(self),
            "Grid": lambda: grids.straight(self),
            "Rings, rays": lambda: grids.radial(self),
            "Line beside": lambda: grids.line_beside(self, keys),
            "Corner": lambda: walls.corner(self),
            "Trim, extend": lambda: walls.tee(self),
            "Split": lambda: walls.split(self),
            "Offset": lambda: walls.offset(self, keys),
            "Move": lambda: changing.moving(self, keys),
            "Copy": lambda: changing.moving(self, keys, copying=True),
            "Turn": lambda: changing.turning(self, keys),
            "Mirror": lambda: changing.mirroring(self, keys),
            "Row, ring": lambda: changing.array(self, keys),
            "Align": lambda: changing.aligning(self, keys),
            "Measure": lambda: changing.measuring(self),
        }
        return made[name]()

    # -- what there is --------------------------------------------------------

    def placing(self) -> list[tuple[str, str, Callable[[], object]]]:
        """The tools that place something in this tier."""
        tier = self.w.current_tier()
        kind = tier.kind if tier else ""
        return [
            (t.name, t.key, partial(self.start, t.name))
            for t in PLACING
            if not t.tiers or kind in t.tiers
        ]

    def changing(self) -> list[tuple[str, str, Callable[[], object]]]:
        """The tools that change what is selected."""
        kinds = {kind_of(k) for k in self.w.selected}
        return [
            (t.name, t.key, partial(self.start, t.name)) for t in CHANGING if kinds & set(t.changes)
        ]
