"""What the hand does to the building: dragging, placing, turning, taking away."""

from functools import partial
from typing import TYPE_CHECKING

from balken.model.edits import change_member, move_level, move_wall, remove_host, set_floor, set_roof
from balken.model.project import Project, level
from balken.model.start import Placeable, place

if TYPE_CHECKING:
    from balken.desk.window import Window


class Hand:
    """The hand of one window: what it holds while it drags."""

    def __init__(self, w: "Window") -> None:
        self.w = w
        self.follows = False
        """While something is dragged, ladder and board follow at once; the slip waits for the hand to let go."""
        self._dragged: Project | None = None
        self._in_drag = False

    def drag_level(self, key: str, elevation: float, goes_on: bool) -> None:
        """Follow a level that is dragged; one step of undo for the whole drag."""
        words = f"move {level(self.w.building.project, key).name}"
        self.follows = goes_on
        if self.w.edit(words, partial(move_level, key=key, elevation=elevation), joined=self._dragged is not None):
            self.w.selection = f"level:{key}"
        self._dragged = self.w.building.project if goes_on else None
        if not goes_on:
            self.w.refresh()

    def drag_wall(self, key: str, by: float, goes_on: bool) -> None:
        """Follow a wall that is dragged from where it was grabbed."""
        if self._dragged is None:
            self._dragged = self.w.building.project
        base = self._dragged
        name = key.removeprefix("wall:")
        words = f"move wall {name}"
        self.follows = goes_on
        done = self.w.building.history.done
        joined = self._in_drag and bool(done) and done[-1].words == words
        self._in_drag = self.w.edit(words, lambda _: move_wall(base, name, by), joined=joined) or self._in_drag
        if not goes_on:
            self._dragged, self._in_drag = None, False
            self.w.refresh()

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
                t for t in self.w.tiers if t.kind == {"foundation": "ground", "floors": "floor", "roof": "roof"}[kind]
            ]
            if new and len(self.w.tiers) > before:
                self.w.work_in(new[0].id)
            self.w.say(" ".join(said))

    def turn(self, host: str) -> None:
        """Turn the joists of a floor, or the ridge of a roof, a quarter."""
        kind, key = host.split(":", 1)
        sized = next((m for m in self.w.building.checked.structure.members if m.host == host and m.area > 0), None)
        if sized is None:
            return
        along_x = abs(sized.end[0] - sized.start[0]) > abs(sized.end[1] - sized.start[1])
        if kind == "floor":
            self.w.edit("turn the joists", partial(set_floor, key=key, span="y" if along_x else "x"))
        else:
            self.w.edit("turn the ridge", partial(set_roof, key=key, ridge="x" if along_x else "y"))

    def pitch(self, by: float) -> None:
        """Make the roof of the tier steeper or flatter, in 12."""
        tier = self.w.current_tier()
        roof = next((r for r in self.w.building.project.roofs if tier and f"roof:{r.id}" == tier.id), None)
        if roof:
            self.w.edit("pitch", partial(set_roof, key=roof.id, rise=max(1.0, min(36.0, roof.rise + by))))

    def take_away(self) -> None:
        """Take the selected member away, or the whole of the tier where none is selected."""
        member, tier = self.w.member(), self.w.current_tier()
        if member and member.role in ("joist", "ceiling joist", "rafter", "rim", "footing", "stem", "sill"):
            mark = member.mark
            if self.w.edit(f"take {mark} away", partial(change_member, member=member.id, removed=True)):
                self.w.select("")
                self.w.say(f"{mark} is taken away; its neighbours carry its share. Ctrl+Z brings it back.")
        elif not member and tier and tier.kind != "walls":
            name = tier.name
            if self.w.edit(f"take {name} away", partial(remove_host, host=tier.id)):
                self.w.say(f"{name}: taken away. Ctrl+Z brings it back.")
