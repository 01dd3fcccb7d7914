"""What of the building is looked at: selecting alike things, hiding, isolating, locking; copying and pasting."""

from typing import TYPE_CHECKING

import msgspec
from PySide6.QtWidgets import QApplication

from balken.model.edits.clipboard import Clip, clip_of
from balken.model.project import Project
from balken.session.tools import changing
from balken.session.veil import hide, hide_role, isolate, lock, lock_role, reveal, role_of, shows, unlock

if TYPE_CHECKING:
    from balken.desk.window import Window


def is_there(project: Project, key: str) -> bool:
    """Tell whether a wall, opening, grid line, support or level is there; of other names nothing is known here."""
    kind, _, name = key.partition(":")
    first, _, rest = name.partition("/")
    if kind in ("level", "storey"):
        return any(x.id == name for x in project.levels)
    if kind == "wall":
        return any(w.id == name for w in project.walls)
    if kind == "opening":
        return any(o.id == rest for w in project.walls if w.id == first for o in w.openings)
    if kind == "grid":
        return any(x.id == rest for g in project.grids if g.id == first for x in g.lines)
    if kind == "support":
        return any(s.id == first for s in project.point_supports)
    return True


class Looks:
    """The looking of one window."""

    def __init__(self, w: "Window") -> None:
        self.w = w

    # -- selecting ---------------------------------------------------------------------------------------------

    def alike(self) -> None:
        """Select everything like what is selected: walls of one build-up or thickness, openings of one kind and size,
        supports of one kind and size, grid lines that run one way, members of one role and section."""
        keys = [k for s in self.w.selected for k in self._like(s)]
        self.w.select_many(tuple(dict.fromkeys(keys)))
        self.w.say(f"{len(self.w.selected)} alike are selected.")

    def _like(self, key: str) -> list[str]:
        project = self.w.building.project
        kind, _, name = key.partition(":")
        first, _, rest = name.partition("/")
        if kind == "wall":
            one = next((w for w in project.walls if w.id == name), None)
            return [
                f"wall:{w.id}" for w in project.walls
                if one and (w.base, w.build_up, w.thickness) == (one.base, one.build_up, one.thickness)
            ]  # fmt: skip
        if kind == "opening":
            hole = next((o for w in project.walls if w.id == first for o in w.openings if o.id == rest), None)
            base = next((w.base for w in project.walls if w.id == first), "")
            return [
                f"opening:{w.id}/{o.id}" for w in project.walls for o in w.openings
                if hole and w.base == base and (o.kind, o.width, o.height) == (hole.kind, hole.width, hole.height)
            ]  # fmt: skip
        if kind == "support":
            item = next((s for s in project.point_supports if s.id == first), None)
            return [
                f"support:{s.id}/{s.kind}:1" for s in project.point_supports
                if item and (s.kind, s.size, s.base) == (item.kind, item.size, item.base)
            ]  # fmt: skip
        if kind == "grid":
            of = next(g for g in project.grids if g.id == first)
            runs = next(x.runs for x in of.lines if x.id == rest)
            return [f"grid:{first}/{x.id}" for x in of.lines if x.runs == runs]
        members = self.w.building.checked.structure.members
        m = next((m for m in members if m.id == key), None)
        return [x.id for x in members if m and (x.role, x.host, x.section) == (m.role, m.host, m.section)]

    def all_of(self, kind: str) -> None:
        """Select every wall, opening, support or grid line of the plan that is shown."""
        project, base = self.w.building.project, self.w.tools.base
        walls = [w for w in project.walls if w.base == base]
        found = {
            "wall": [f"wall:{w.id}" for w in walls],
            "opening": [f"opening:{w.id}/{o.id}" for w in walls for o in w.openings],
            "support": [m.id for m in self.w.building.checked.structure.members if m.host.startswith("support:")],
            "grid": [f"grid:{g.id}/{x.id}" for g in project.grids for x in g.lines],
        }[kind]
        self.w.select_many(tuple(k for k in found if shows(self.w.veil, k)))

    def whole_tier(self) -> None:
        """Select everything on the plan that is shown."""
        self.w.select_many(
            tuple(dict.fromkeys(m.key for m in self.w.plan.index.marks if not m.key.startswith("grid:")))
        )

    # -- hiding ------------------------------------------------------------------------------------------------

    def _set(self, veil: object, words: str) -> None:
        self.w.veil = veil  # type: ignore[assignment]
        self.w.refresh()
        self.w.say(words)

    def hide(self) -> None:
        """Hide what is selected."""
        if self.w.selected:
            keys = frozenset(self.w.selected)
            self.w.selection = ""
            self._set(hide(self.w.veil, keys), f"{len(keys)} hidden. Ctrl+Shift+H shows everything.")

    def isolate(self) -> None:
        """Show only what is selected."""
        if self.w.selected:
            self._set(isolate(self.w.veil, frozenset(self.w.selected)), "Only what is selected is shown.")

    def hide_kind(self, role: str) -> None:
        """Hide everything of a kind, or show it again."""
        self._set(hide_role(self.w.veil, role), f"All {role}s hidden." if role not in self.w.veil.roles else "")

    def hide_tier(self) -> None:
        """Hide everything that stands in this tier, walls among them."""
        tier = self.w.current_tier()
        if tier is None:
            return
        keys = frozenset(m.key for m in self.w.plan.index.marks if not m.key.startswith(("grid:", "opening:")))
        self.w.selection = ""
        self._set(hide(self.w.veil, keys | {tier.id}), f"{tier.name}: hidden.")

    def lock(self) -> None:
        """Put what is selected out of reach."""
        if self.w.selected:
            keys = frozenset(self.w.selected)
            self.w.selection = ""
            self._set(lock(self.w.veil, keys), f"{len(keys)} locked: seen, but not picked or dragged.")

    def lock_kind(self, role: str) -> None:
        """Put everything of a kind out of reach, or bring it back."""
        self._set(lock_role(self.w.veil, role), "")

    def lock_tier(self) -> None:
        """Put everything on this plan out of reach."""
        keys = frozenset(m.key for m in self.w.plan.index.marks if not m.key.startswith("grid:"))
        self.w.selection = ""
        self._set(lock(self.w.veil, keys), f"{len(keys)} locked: seen, but not picked or dragged.")

    def only_tier(self) -> None:
        """Show only what stands in this tier."""
        keys = frozenset(m.key for m in self.w.plan.index.marks if not m.key.startswith(("grid:", "opening:")))
        tier = self.w.current_tier()
        if tier is not None:
            self._set(isolate(self.w.veil, keys | {tier.id}), f"Only {tier.name} is shown.")

    def reveal(self) -> None:
        """Show everything again; where nothing is hidden, unlock."""
        veil = self.w.veil
        self._set(reveal(veil) if veil.hides else unlock(veil), "")

    def roles_here(self) -> list[str]:
        """Return the kinds of things on the plan that is shown, and those hidden."""
        there = {role_of(m.key) for m in self.w.plan.index.marks}
        return sorted(r for r in there | self.w.veil.roles if r not in ("reference",))

    # -- clipboard ---------------------------------------------------------------------------------------------

    def copy(self) -> None:
        """Put what is selected on the clipboard, for this or another project."""
        try:
            clip = clip_of(self.w.building.project, self.w.selected)
        except ValueError as error:
            self.w.say(str(error))
            return
        QApplication.clipboard().setText(msgspec.json.encode(clip).decode())
        self.w.say(
            f"{len(clip.walls) + len(clip.supports)} on the clipboard. Ctrl+V pastes them, here or in another project."
        )

    def paste(self) -> None:
        """Paste what is on the clipboard."""
        text = QApplication.clipboard().text()
        try:
            clip = read_clip(text)
        except ValueError as error:
            self.w.say(str(error))
            return
        self.w.tools.paste(changing.pasting(self.w.tools, clip))


LARGEST = 20_000_000


def read_clip(text: str) -> Clip:
    """Read a clip from the clipboard's text.

    Raises:
        ValueError: it is none; says so.
    """
    if len(text) > LARGEST or not text.lstrip().startswith("{"):
        raise ValueError("There is nothing on the clipboard that can be pasted here.")
    try:
        return msgspec.json.decode(text.encode(), type=Clip)
    except (msgspec.DecodeError, RecursionError) as error:
        raise ValueError(f"What is on the clipboard is no part of a building: {error}.") from error
