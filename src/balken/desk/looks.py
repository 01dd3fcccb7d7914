"""What of the building is looked at: selecting alike things, hiding, isolating, locking; copying
and pasting."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

import msgspec
from PySide6.QtWidgets import QApplication

from balken.errors import BalkenError
from balken.model.edits.clipboard import Clip, clip_of
from balken.model.names import HostName, MemberName, Name, ThingName, kind_of
from balken.model.project import PointSupport, Project
from balken.model.walls import Wall
from balken.session.tools import changing
from balken.session.veil import (
    hide,
    hide_role,
    isolate,
    lock,
    lock_role,
    reveal,
    role_of,
    shows,
    unlock,
)

if TYPE_CHECKING:
    from balken.desk.window import Window


def is_there(project: Project, name: Name) -> bool:
    """Whether a wall, opening, grid line, support or level is there; of other names nothing is
    known here."""
    if not isinstance(name, ThingName):
        there: dict[str, Sequence[Wall | PointSupport]] = {
            "wall": project.walls,
            "support": project.point_supports,
        }
        return (
            any(x.id == name.host.key for x in there[name.host.kind])
            if name.host.kind in there
            else True
        )
    if name.kind in ("level", "storey"):
        return any(x.id == name.key for x in project.levels)
    if name.kind == "opening":
        return any(o.id == name.part for w in project.walls if w.id == name.key for o in w.openings)
    if name.kind == "grid":
        return any(x.id == name.part for g in project.grids if g.id == name.key for x in g.lines)
    return True


def _walls_like(project: Project, key: str) -> list[Name]:
    one = next((w for w in project.walls if w.id == key), None)
    return [
        HostName("wall", w.id)
        for w in project.walls
        if one and (w.base, w.build_up, w.thickness) == (one.base, one.build_up, one.thickness)
    ]


def _supports_like(project: Project, key: str) -> list[Name]:
    one = next((s for s in project.point_supports if s.id == key), None)
    return [
        MemberName(HostName("support", s.id), s.kind, "1")
        for s in project.point_supports
        if one and (s.kind, s.size, s.base) == (one.kind, one.size, one.base)
    ]


def _openings_like(project: Project, name: ThingName) -> list[Name]:
    hole = next(
        (o for w in project.walls if w.id == name.key for o in w.openings if o.id == name.part),
        None,
    )
    base = next((w.base for w in project.walls if w.id == name.key), "")
    return [
        ThingName("opening", w.id, o.id)
        for w in project.walls
        for o in w.openings
        if hole
        and w.base == base
        and (o.kind, o.width, o.height) == (hole.kind, hole.width, hole.height)
    ]


def _lines_like(project: Project, name: ThingName) -> list[Name]:
    of = next(g for g in project.grids if g.id == name.key)
    runs = next(x.runs for x in of.lines if x.id == name.part)
    return [ThingName("grid", of.id, x.id) for x in of.lines if x.runs == runs]


class Looks:
    """The looking of one window."""

    def __init__(self, w: "Window") -> None:
        self.w = w

    # -- selecting ------------------------------------------------------------

    def alike(self) -> None:
        """Select everything like what is selected: walls of one build-up or thickness, openings of
        one kind and size, supports of one kind and size, grid lines that run one way, members of
        one role and section."""
        keys = [k for s in self.w.selected for k in self._like(s)]
        self.w.select_many(tuple(dict.fromkeys(keys)))
        self.w.say(f"{len(self.w.selected)} alike are selected.")

    def _like(self, name: Name) -> Sequence[Name]:
        project = self.w.building.project
        if isinstance(name, ThingName):
            like = {"opening": _openings_like, "grid": _lines_like}.get(name.kind)
            return like(project, name) if like else ()
        like_host = {"wall": _walls_like, "support": _supports_like}.get(name.host.kind)
        if like_host:
            return like_host(project, name.host.key)
        members = self.w.building.checked.structure.members
        m = next((m for m in members if m.id == name), None)
        return [
            x.id
            for x in members
            if m and (x.role, x.host, x.section) == (m.role, m.host, m.section)
        ]

    def all_of(self, kind: str) -> None:
        """Select every wall, opening, support or grid line of the plan that is shown."""
        project, base = self.w.building.project, self.w.tools.base
        walls = [w for w in project.walls if w.base == base]
        found: dict[str, list[Name]] = {
            "wall": [HostName("wall", w.id) for w in walls],
            "opening": [ThingName("opening", w.id, o.id) for w in walls for o in w.openings],
            "support": [
                m.id for m in self.w.building.checked.structure.members if m.host.kind == "support"
            ],
            "grid": [ThingName("grid", g.id, x.id) for g in project.grids for x in g.lines],
        }
        self.w.select_many(tuple(k for k in found[kind] if shows(self.w.veil, k)))

    def whole_tier(self) -> None:
        """Select everything on the plan that is shown."""
        self.w.select_many(tuple(dict.fromkeys(self._on_plan("grid"))))

    def _on_plan(self, *but: str) -> list[Name]:
        """What can be picked on the plan that is shown, but for some kinds."""
        return [k for k in self.w.plan.index.keys if kind_of(k) not in but]

    # -- hiding ---------------------------------------------------------------

    def _set(self, veil: object, words: str) -> None:
        self.w.veil = veil  # type: ignore[assignment]
        self.w.refresh()
        self.w.say(words)

    def hide(self) -> None:
        """Hide what is selected."""
        if self.w.selected:
            keys = frozenset(self.w.selected)
            self.w.selection = None
            self._set(
                hide(self.w.veil, keys), f"{len(keys)} hidden. Ctrl+Shift+H shows everything."
            )

    def isolate(self) -> None:
        """Show only what is selected."""
        if self.w.selected:
            self._set(
                isolate(self.w.veil, frozenset(self.w.selected)), "Only what is selected is shown."
            )

    def hide_kind(self, role: str) -> None:
        """Hide everything of a kind, or show it again."""
        self._set(
            hide_role(self.w.veil, role),
            f"All {role}s hidden." if role not in self.w.veil.roles else "",
        )

    def hide_tier(self) -> None:
        """Hide everything that stands in this tier, walls among them."""
        tier = self.w.current_tier()
        if tier is None:
            return
        keys = frozenset(self._on_plan("grid", "opening"))
        self.w.selection = None
        self._set(hide(self.w.veil, keys | {tier.id}), f"{tier.name}: hidden.")

    def lock(self) -> None:
        """Put what is selected out of reach."""
        if self.w.selected:
            keys = frozenset(self.w.selected)
            self.w.selection = None
            self._set(
                lock(self.w.veil, keys), f"{len(keys)} locked: seen, but not picked or dragged."
            )

    def lock_kind(self, role: str) -> None:
        """Put everything of a kind out of reach, or bring it back."""
        self._set(lock_role(self.w.veil, role), "")

    def lock_tier(self) -> None:
        """Put everything on this plan out of reach."""
        keys = frozenset(self._on_plan("grid"))
        self.w.selection = None
        self._set(lock(self.w.veil, keys), f"{len(keys)} locked: seen, but not picked or dragged.")

    def only_tier(self) -> None:
        """Show only what stands in this tier."""
        keys = frozenset(self._on_plan("grid", "opening"))
        tier = self.w.current_tier()
        if tier is not None:
            self._set(isolate(self.w.veil, keys | {tier.id}), f"Only {tier.name} is shown.")

    def reveal(self) -> None:
        """Show everything again; where nothing is hidden, unlock."""
        veil = self.w.veil
        self._set(reveal(veil) if veil.hides else unlock(veil), "")

    def roles_here(self) -> list[str]:
        """The kinds of things on the plan that is shown, and those hidden."""
        there = {role_of(k) for k in self.w.plan.index.keys}
        return sorted(r for r in there | self.w.veil.roles if r not in ("reference",))

    # -- clipboard ------------------------------------------------------------

    def copy(self) -> None:
        """Put what is selected on the clipboard, for this or another project."""
        try:
            clip = clip_of(self.w.building.project, self.w.selected)
        except BalkenError as error:
            self.w.say(str(error))
            return
        QApplication.clipboard().setText(msgspec.json.encode(clip).decode())
        self.w.say(
            f"{len(clip.walls) + len(clip.supports)} on the clipboard. Ctrl+V pastes them, here or"
            " in another project."
        )

    def paste(self) -> None:
        """Paste what is on the clipboard."""
        text = QApplication.clipboard().text()
        try:
            clip = read_clip(text)
        except BalkenError as error:
            self.w.say(str(error))
            return
        self.w.tools.paste(changing.pasting(self.w.tools, clip))


LARGEST = 20_000_000


def read_clip(text: str) -> Clip:
    """Read a clip from the clipboard's text.

    Raises:
        BalkenError: it is none; says so.
    """
    if len(text) > LARGEST or not text.lstrip().startswith("{"):
        raise BalkenError("There is nothing on the clipboard that can be pasted here.")
    try:
        return msgspec.json.decode(text.encode(), type=Clip)
    except (msgspec.DecodeError, RecursionError) as error:
        raise BalkenError(f"What is on the clipboard is no part of a building: {error}.") from error
