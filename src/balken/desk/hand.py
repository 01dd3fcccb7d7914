"""What the hand does to the building: dragging, placing, turning, taking away."""

from collections.abc import Callable
from functools import partial
from math import atan2, degrees, hypot, radians
from typing import TYPE_CHECKING, Final

from PySide6.QtCore import QCoreApplication, QThreadPool

from balken.desk.ladder import RIDGE
from balken.desk.names import by_kind, label_of, level_of
from balken.desk.work import Errand, run_apart
from balken.errors import BalkenError
from balken.framing.hosts.runs import Step
from balken.geometry.plane import Point, direction_or, dot, left, rotate
from balken.model.edits import (
    add_level,
    change_member,
    move_level,
    move_wall,
    remove_host,
    set_floor,
    set_roof,
)
from balken.model.edits.beams import remove_beams
from balken.model.edits.floors import move_hole, remove_opening
from balken.model.edits.foundations import hold_step, let_step_go, move_ground
from balken.model.edits.grids import move_lines
from balken.model.edits.hosts import remove_member
from balken.model.edits.roofs import (
    hip_or_gable,
    move_roof_opening,
    remove_roof_opening,
    set_side,
    turn_ridge,
)
from balken.model.edits.transform import move, remove
from balken.model.edits.walls import flip_walls, join_walls
from balken.model.grids import grid_line
from balken.model.names import (
    HostName,
    MemberName,
    Name,
    ThingName,
    hosts_in,
    keys_of,
    kind_of,
    things_of,
)
from balken.model.new import STOREY_HEIGHT
from balken.model.project import Change, Project, column, grid, level, wall
from balken.model.roofs import overhang_of, side_of
from balken.model.walls import direction_of
from balken.session.building import Worked
from balken.site.proposals import Placeable, place

if TYPE_CHECKING:
    from balken.desk.window import Window


class Hand:
    """The hand of one window: what it holds while it drags."""

    def __init__(self, w: "Window") -> None:
        self.w = w
        self.follows = False
        """While something is dragged, ladder and board follow at once; the slip waits for the hand
        to let go."""
        self._dragged: Project | None = None
        self._in_drag = False
        self._wanted: tuple[Name, Point] | None = None
        self._errand: Errand | None = None
        self._step_held: Step | None = None
        """The step in the hand, as it was when it was grabbed."""
        self._roof_held: HostName | None = None
        """The roof whose ridge is in the hand."""

    def drag_level(self, key: str, elevation: float, goes_on: bool) -> None:
        """Follow a level that is dragged, or the ridge of the highest roof; one step of undo for
        the whole drag."""
        if key == RIDGE:
            self._drag_ridge(elevation, goes_on)
            return
        words = f"move {level(self.w.building.project, key).name}"
        self.follows = goes_on
        if self.w.edit(
            words,
            partial(_moved_level, key=key, elevation=elevation),
            joined=self._dragged is not None,
        ):
            self.w.selection = ThingName("level", key)
        self._dragged = self.w.building.project if goes_on else None
        if not goes_on:
            self.w.refresh()

    def _drag_ridge(self, height: float, goes_on: bool) -> None:
        """Hold the ridge of the highest roof at a height; its pitch follows."""
        shapes = self.w.building.checked.structure.roofs
        if self._dragged is None:
            self._roof_held = max(shapes, key=lambda h: shapes[h].roof.top, default=None)
        roof = next(
            (r for r in self.w.building.project.roofs if HostName("roof", r.id) == self._roof_held),
            None,
        )
        if roof is None:
            return
        over = round(height - level(self.w.building.project, roof.plate).elevation, 3)
        self.follows = goes_on
        self.w.edit(
            "ridge height",
            partial(set_roof, key=roof.id, ridge=over),
            joined=self._dragged is not None,
        )
        self._dragged = self.w.building.project if goes_on else None
        if not goes_on:
            self.w.refresh()

    def drag(self, key: Name, vector: Point, goes_on: bool) -> None:
        """Follow what is dragged from where it was grabbed.

        The plan shows it at once. What follows from it is worked out apart from the window, always
        for the latest place, and taken over when it is there; letting go waits for the last of it.
        """
        if self._dragged is None:
            self._dragged = self.w.building.project
            steps = self.w.building.checked.structure.steps
            self._step_held = next((s for s in steps if s.key == key), None)
        self._wanted = (key, vector)
        if goes_on:
            self._send()
            return
        self.settle()
        self._take_in(self._work(self._dragged, key, vector), key, vector, goes_on=False)
        self._dragged, self._in_drag = None, False

    def _work(self, base: Project, key: Name, vector: Point) -> Worked | str:
        """What a drag gives, or why it cannot be."""
        try:
            return self.w.building.worked_out(lambda _: self._moved(base, key, vector))
        except BalkenError as error:
            return str(error)

    def _send(self) -> None:
        """Work the latest place of the drag out in another thread, unless one is under way."""
        base = self._dragged
        if self._errand is not None or base is None:
            return
        assert self._wanted is not None, "a drag says what it wants first"
        key, vector = self._wanted

        def done(found: Worked | str) -> None:
            if self._errand is None:
                return  # it was waited for meanwhile
            self._errand = None
            self._take_in(found, key, vector, goes_on=True)
            if self._dragged is not None and self._wanted != (key, vector):
                self._send()

        self._errand = run_apart(self.w, partial(self._work, base, key, vector), done, self.w.say)

    def settle(self) -> None:
        """Wait for what is being worked out, and take it in."""
        if self._errand is not None:
            QThreadPool.globalInstance().waitForDone()
            QCoreApplication.sendPostedEvents(self._errand)
            self._errand = None

    def _take_in(self, found: Worked | str, key: Name, vector: Point, *, goes_on: bool) -> None:
        if isinstance(found, str):
            self.w.say(found)
        elif self._dragged is not None:
            self.follows = goes_on
            words = f"move {label_of(self._dragged, key).split(',')[0]}"
            done = self.w.building.history.done
            joined = self._in_drag and bool(done) and done[-1].words == words
            self.w.adopt(words, found, joined=joined)
            self._in_drag = True
            self.w.plan.applied = vector
        if not goes_on:
            self.follows = False
            said = self.w.fit.said
            self.w.refresh()
            self.w.say(said)

    def _moved(self, base: Project, key: Name, vector: Point) -> Project:
        """The project with a thing, or all that is selected with it, moved by a vector."""
        chosen = self.w.selected
        if key in chosen and len(chosen) > 1 and kind_of(key) != "opening":
            return move(base, chosen, vector)
        if isinstance(key, ThingName):
            return self._thing_moved(base, key, vector)
        if isinstance(key, HostName) and key.kind == "wall":
            return move_wall(base, key.key, dot(vector, left(direction_of(wall(base, key.key)))))
        if isinstance(key, MemberName) and key.host.kind in ("floor", "bay"):
            return self._piece_moved(base, key, vector)
        return move(base, (key,), vector)

    def _thing_moved(self, base: Project, thing: ThingName, vector: Point) -> Project:
        """Move what is no member and no host of members."""
        moves: dict[str, Callable[[], Project]] = {
            "grid": lambda: self._line_moved(base, thing, vector),
            "step": lambda: self._step_moved(base, vector),
            "span": lambda: joists_along(base, thing.key, vector),
            "hole": lambda: move_hole(base, thing.key, thing.part, vector),
            "skylight": lambda: move_roof_opening(base, thing.key, thing.part, vector),
            "side": lambda: self._side_moved(base, thing, vector),
        }
        return moves[thing.kind]() if thing.kind in moves else move(base, (thing,), vector)

    def _line_moved(self, base: Project, thing: ThingName, vector: Point) -> Project:
        """Move a grid line across itself, a ring by how far its radius is dragged."""
        of = grid(base, thing.key)
        runs = grid_line(of, thing.part).runs
        x, y = rotate(vector, -radians(of.angle))
        if runs == "ring":
            a, b = self.w.plan.grabbed(of.origin, vector)
            return move_lines(base, of.id, [thing.part], b - a)
        return move_lines(base, of.id, [thing.part], y if runs == "x" else x)

    def _piece_moved(self, base: Project, key: MemberName, vector: Point) -> Project:
        """Move one piece by hand: across itself as its layout does, and along itself."""
        item = next((m for m in self.w.building.checked.structure.members if m.id == key), None)
        if item is None:
            return base
        way = direction_or((item.end[0] - item.start[0], item.end[1] - item.start[1]), (1.0, 0.0))
        old = next((c for c in base.changes if c.member == key), Change(key))
        across, along = dot(vector, left(way)), dot(vector, way)
        if item.kind.by_row:  # rows are set out along +x with the pieces along +y
            across = -across
        # A hand that means to go sideways is not meant to slip along.
        if abs(along) < abs(across) / 3:
            along = 0.0
        return change_member(
            base, key, shift=round(old.shift + across, 3), along=round(old.along + along, 3)
        )

    def _side_moved(self, base: Project, of: ThingName, vector: Point) -> Project:
        """Let a side of a roof reach out further by what its eave is dragged."""
        key, side = of.key, of.part
        out = self.w.plan.out_of(of)
        edge = next(
            (
                e
                for e in self.w.building.checked.structure.roofs[HostName("roof", key)].edges
                if e.name == side
            ),
            None,
        )
        if out is None or edge is None:
            return base
        roof = next(r for r in base.roofs if r.id == key)
        now = overhang_of(roof, side_of(roof, side))
        return set_side(base, key, side, overhang=round(max(0.0, now + dot(vector, out)), 3))

    def _step_moved(self, base: Project, vector: Point) -> Project:
        """Hold a step where it is dragged to."""
        step = self._step_held
        if step is None:
            return base
        a, b = step.across
        way = direction_or((b[1] - a[1], a[0] - b[0]), (1.0, 0.0))
        at = step.at + dot(vector, way)
        return hold_step(base, step.run, step.line, at, step.drop, instead=step.at)

    def _lose_step(self, key: ThingName) -> None:
        """Let a held step go; one by calculation is there because the ground asks for it."""
        step = next((s for s in self.w.building.checked.structure.steps if s.key == key), None)
        if step is None or not step.held:
            self.w.say(
                "This step is not held: the ground asks for it. Move it, or change the rule of"
                " steps."
            )
        elif self.w.edit(
            "let step go", partial(let_step_go, key=step.run, wall=step.line, at=step.at)
        ):
            self.w.select(HostName("run", step.run))

    def place(self, kind: Placeable) -> None:
        """Place what is missing of a kind, and work in its tier."""
        said: list[str] = []

        def change(project: Project) -> Project:
            after, words = place(project, kind)
            said.extend(words)
            return after

        before = len(self.w.tiers)
        if self.w.edit(f"place {kind}", change):
            new = [
                t
                for t in self.w.tiers
                if t.kind == {"foundation": "ground", "floors": "floor", "roof": "roof"}[kind]
            ]
            if new and len(self.w.tiers) > before:
                self.w.work_in(new[0].id)
            self.w.say(" ".join(said))

    def add_level(self) -> None:
        """Add a level a storey above the selected one, or above the highest floor, and work on it
        in the slip."""
        project = self.w.building.project
        chosen = level_of(self.w.selection)
        floors = [x for x in column(project) if x.role == "floor"]
        known = [level(project, chosen)] if chosen else floors or list(column(project))
        below = known[-1] if known else None
        height = (below.elevation if below else 0.0) + STOREY_HEIGHT[project.system]
        names = {x.name for x in project.levels}
        name = next(n for n in (f"Level {k}" for k in range(1, 10_000)) if n not in names)
        before = {x.id for x in project.levels}
        if self.w.edit("add level", partial(add_level, role="floor", name=name, elevation=height)):
            new = next(x.id for x in self.w.building.project.levels if x.id not in before)
            self.w.select(ThingName("level", new))

    def flip(self) -> None:
        """Turn the selected walls inside out; while walls are drawn, the side they lie on."""
        keys = tuple(keys_of(self.w.selected, "wall"))
        self.w.edit("flip walls", partial(flip_walls, keys=keys))

    def flip_side(self) -> None:
        """Let new walls lie on the other side of their line."""
        self.w.tools.set_kit(outside="left" if self.w.tools.kit.outside == "right" else "right")
        self.w.refresh()

    def join(self) -> None:
        """Make one wall of the two that are selected."""
        a, b = keys_of(self.w.selected, "wall")
        if self.w.edit("join walls", partial(join_walls, key=a, other=b)):
            self.w.select(HostName("wall", a))

    def turn(self, host: HostName) -> None:
        """Turn the joists of a floor, or the ridge of a roof, a quarter."""
        key = host.key
        sized = next(
            (
                m
                for m in self.w.building.checked.structure.members
                if m.host == host and m.carrier.area > 0
            ),
            None,
        )
        if sized is None:
            return
        along_x = abs(sized.end[0] - sized.start[0]) > abs(sized.end[1] - sized.start[1])
        if host.kind == "floor":
            self.w.edit(
                "turn the joists", partial(set_floor, key=key, span="y" if along_x else "x")
            )
        else:
            shape = self.w.building.checked.structure.roofs.get(host)
            names = [e.name for e in shape.edges] if shape else []
            self.w.edit("turn the ridge", partial(turn_ridge, key=key, sides=names))

    def hip_or_gable(self) -> None:
        """Turn the selected side of a roof from hip to gable, or back."""
        for side in things_of(self.w.selected[:1], "side"):
            self.w.edit("hip or gable", partial(hip_or_gable, key=side.key, side=side.part))

    def pitch(self, by: float) -> None:
        """Make the roof of the tier steeper or flatter, in 12."""
        tier = self.w.current_tier()
        roof = next(
            (
                r
                for r in self.w.building.project.roofs
                if tier and HostName("roof", r.id) == tier.id
            ),
            None,
        )
        if roof:
            self.w.edit(
                "pitch",
                partial(
                    set_roof, key=roof.id, rise=max(1.0, min(36.0, roof.rise + by)), ridge=None
                ),
            )

    def take_away(self) -> None:
        """Take the selected member away, or the whole of the tier where none is selected."""
        member, tier = self.w.member(), self.w.current_tier()
        if {kind_of(k) for k in self.w.selected} & {"wall", "opening", "grid", "support"}:
            words = commands_words(self.w.selected)
            if self.w.edit(f"take {words} away", partial(remove, names=self.w.selected)):
                self.w.select(None)
                self.w.say(f"{words}: taken away. Ctrl+Z brings it back.")
            return
        if isinstance(self.w.selection, ThingName) and self._thing_taken(self.w.selection):
            return
        if member and member.host.kind == "beam":
            if self.w.edit(
                f"take beam {member.mark} away", partial(remove_beams, hosts=(member.host,))
            ):
                self.w.select(None)
                self.w.say(f"Beam {member.mark} is taken away. Ctrl+Z brings it back.")
            return
        if member and member.kind.removable:
            mark = member.mark
            if self.w.edit(f"take {mark} away", partial(remove_member, member=member.id)):
                self.w.select(None)
                self.w.say(
                    f"{mark} is taken away; its neighbours carry its share. Ctrl+Z brings it back."
                )
        elif not member and tier and tier.kind != "walls":
            chosen = hosts_in(
                [self.w.selection] if self.w.selection else [], "run", "floor", "roof"
            )
            host = chosen[0] if chosen else tier.host
            if host is None:
                return
            of_several = host.kind == "run" and len(tier.hosts) > 1
            name = f"foundation {host.key}" if of_several else tier.name
            if self.w.edit(f"take {name} away", partial(remove_host, host=host)):
                self.w.select(None)
                self.w.say(f"{name}: taken away. Ctrl+Z brings it back.")

    def _thing_taken(self, thing: ThingName) -> bool:
        """Take a step, a hole of a floor or a skylight away; return whether it was one of them."""
        if thing.kind == "step":
            self._lose_step(thing)
        elif thing.kind == "hole":
            if self.w.edit(
                "close an opening", partial(remove_opening, key=thing.key, opening=thing.part)
            ):
                self.w.select(HostName("floor", thing.key))
        elif thing.kind == "skylight":
            change = partial(remove_roof_opening, key=thing.key, opening=thing.part)
            if self.w.edit("take the skylight away", change):
                self.w.select(HostName("roof", thing.key))
        return thing.kind in ("step", "hole", "skylight")


TURNS: Final = 15.0
"""A dragged direction is caught at every so many degrees."""
DRAGGED: Final = 300.0
"""A shorter drag gives no direction, mm."""


def joists_along(project: Project, key: str, vector: Point) -> Project:
    """Let the joists of a floor run the way the symbol is dragged, caught at 15 degrees; along the
    axes by their names."""
    if hypot(*vector) < DRAGGED:
        return project
    angle = round(degrees(atan2(vector[1], vector[0])) / TURNS) * TURNS % 180.0
    if angle % 90.0 == 0.0:
        return set_floor(project, key, span="x" if angle == 0.0 else "y")
    return set_floor(project, key, span="turned", turn=angle)


def commands_words(keys: tuple[Name, ...]) -> str:
    """What is selected in words: ``3 walls, 1 opening``."""
    found = []
    for kind, names in by_kind(keys).items():
        word = {"grid": "grid line"}.get(kind, kind)
        found.append(f"{len(names)} {word if len(names) == 1 else word + 's'}")
    return ", ".join(found)


def _moved_level(project: Project, key: str, elevation: float) -> Project:
    """Move a level; the ground takes its measured heights with it."""
    if level(project, key).role == "ground" and project.spots:
        return move_ground(project, key, elevation)
    return move_level(project, key, elevation)
