"""Dragging: things on the plan, levels and the ridge on the ladder. The picture follows at once;
what follows from it is worked out apart, always for the latest place."""

from functools import partial
from typing import Final

from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.edits import move_level
from balken.model.edits.foundations import move_ground
from balken.model.edits.roofs import set_roof
from balken.model.edits.transform import move
from balken.model.names import HostName, Name, ThingName, kind_of
from balken.model.project import Project, level
from balken.session.building import Worked
from balken.session.desk import Desk, DragWay, Pull
from balken.session.face import Errand

RIDGE: Final = "~ridge"
"""In place of a level's key where the top of the roof is dragged; no key of a level holds a
tilde."""
TOGETHER = ("wall", "support", "grid")
"""Kinds of things that are dragged any way where several are selected."""


def ways_of(desk: Desk, name: Name, at: Point) -> DragWay | None:
    """How a thing can be dragged from a place; None where it cannot."""
    if len(desk.selected) > 1 and name in desk.selected and kind_of(name) in TOGETHER:
        return DragWay()
    return desk.thing(name).ways(desk.checked, name, at)


class Drag:
    """What the hand holds while it drags."""

    def __init__(self, desk: Desk) -> None:
        self.desk = desk
        desk.settle = self.settle
        self.applied: Point = (0.0, 0.0)
        """How much of the drag is shown already, mm."""
        self._from: Worked | None = None
        """The building when the drag began."""
        self._in_drag = False
        self._wanted: tuple[Name, Pull] | None = None
        self._errand: Errand | None = None
        self._roof_held: HostName | None = None
        """The roof whose ridge is in the hand."""

    def drag_level(self, key: str, elevation: float, goes_on: bool) -> None:
        """Follow a level that is dragged, or the ridge of the highest roof; one step of undo for
        the whole drag."""
        desk = self.desk
        joined = self._from is not None
        if not joined:
            self._hold()
        desk.follows = goes_on
        if key == RIDGE:
            self._drag_ridge(elevation, joined)
        else:
            words = f"move {level(desk.project, key).name}"
            move = partial(_moved_level, key=key, elevation=elevation)
            if desk.edit(words, move, joined=joined):
                desk.selection = ThingName("level", key)
        if not goes_on:
            self._from = None
            said = desk.said
            desk.refresh()
            desk.say(said)

    def _hold(self) -> None:
        desk = self.desk
        self._from = desk.building.at_hand().worked
        shapes = desk.checked.structure.roofs
        self._roof_held = max(shapes, key=lambda h: shapes[h].roof.top, default=None)

    def _drag_ridge(self, height: float, joined: bool) -> None:
        """Hold the ridge of the highest roof at a height; its pitch follows."""
        project = self.desk.project
        roof = next((r for r in project.roofs if HostName("roof", r.id) == self._roof_held), None)
        if roof is None:
            return
        over = round(height - level(project, roof.plate).elevation, 3)
        self.desk.edit("ridge height", partial(set_roof, key=roof.id, ridge=over), joined=joined)

    def drag(self, name: Name, pull: Pull, goes_on: bool) -> None:
        """Follow what is dragged from where it was grabbed; letting go waits for the last of it."""
        if self._from is None:
            self._hold()
        self._wanted = (name, pull)
        if goes_on:
            self._send()
            return
        self.settle()
        assert self._from is not None, "held above"
        self._take_in(self._work(self._from, name, pull), name, pull, goes_on=False)
        self._from, self._in_drag, self.applied = None, False, (0.0, 0.0)

    def drag_now(self, name: Name, pull: Pull) -> None:
        """One step of a drag that goes on, worked out at once."""
        if self._from is None:
            self._hold()
        assert self._from is not None, "held above"
        self._take_in(self._work(self._from, name, pull), name, pull, goes_on=True)

    def _work(self, base: Worked, name: Name, pull: Pull) -> Worked | str:
        """What a drag gives, or why it cannot be."""
        try:
            return self.desk.building.worked_out(lambda _: self._moved(base, name, pull))
        except BalkenError as error:
            return str(error)

    def _moved(self, base: Worked, name: Name, pull: Pull) -> Project:
        """The project with a thing, or all that is selected with it, moved."""
        chosen = self.desk.selected
        if name in chosen and len(chosen) > 1 and kind_of(name) != "opening":
            return move(base.project, chosen, pull.by)
        moved = self.desk.thing(name).moved
        return moved(base.checked, base.project, name, pull) if moved else base.project

    def _send(self) -> None:
        """Work the latest place of the drag out apart, unless one is under way."""
        base = self._from
        if self._errand is not None or base is None or self._wanted is None:
            return
        name, pull = self._wanted

        def done(found: Worked | str) -> None:
            if self._errand is None:
                return  # it was waited for meanwhile
            self._errand = None
            self._take_in(found, name, pull, goes_on=True)
            if self._from is not None and self._wanted != (name, pull):
                self._send()

        face = self.desk.face
        self._errand = face.apart(partial(self._work, base, name, pull), done, self.desk.say)

    def settle(self) -> None:
        """Wait for what is being worked out, and take it in."""
        if self._errand is not None:
            self._errand.settle()
            self._errand = None

    def _take_in(self, found: Worked | str, name: Name, pull: Pull, *, goes_on: bool) -> None:
        desk = self.desk
        if isinstance(found, str):
            desk.say(found)
        elif self._from is not None:
            desk.follows = goes_on
            called = desk.thing(name).called(self._from.project, name)
            words = f"move {called.split(',')[0]}"
            done = desk.building.history.done
            joined = self._in_drag and bool(done) and done[-1].words == words
            desk.adopt(words, found, joined=joined)
            self._in_drag = True
            self.applied = pull.by
        if not goes_on:
            desk.follows = False
            said = desk.said
            desk.refresh()
            desk.say(said)


def _moved_level(project: Project, key: str, elevation: float) -> Project:
    """Move a level; the ground takes its measured heights with it."""
    if level(project, key).role == "ground" and project.spots:
        return move_ground(project, key, elevation)
    return move_level(project, key, elevation)
