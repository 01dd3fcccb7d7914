"""What of the building is looked at: selecting alike things, hiding, isolating, locking; copying
and pasting."""

import msgspec

from balken.errors import BalkenError
from balken.model.edits.clipboard import Clip, clip_of
from balken.model.names import MemberName, Name, kind_of
from balken.session.desk import Desk
from balken.session.tools import changing
from balken.session.veil import (
    Names,
    Veil,
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


def select_alike(desk: Desk) -> None:
    """Select everything like what is selected: walls of one build-up or thickness, openings of
    one kind and size, supports of one kind and size, grid lines that run one way, members of
    one role and section."""
    like = [k for name in desk.selected for k in desk.thing(name).alike(desk.checked, name)]
    desk.select_many(tuple(dict.fromkeys(like)))
    desk.say(f"{len(desk.selected)} alike are selected.")


def step_piece(desk: Desk, by: int) -> None:
    """Select the next piece of the same floor, roof or foundation, or the one before; where none
    is selected, the first of the tier."""
    name, tier = desk.selection, desk.current_tier()
    host = name.host if isinstance(name, MemberName) else tier.host if tier else None
    pieces = sorted(desk.members_of(host), key=lambda m: m.mark) if host else []
    if not pieces:
        desk.say("There is no piece here to step to.")
        return
    keys = [m.id for m in pieces]
    here = keys.index(name) + by if name in keys else 0
    desk.select(keys[here % len(keys)])


def select_all_of(desk: Desk, kind: str) -> None:
    """Select every wall, opening, support or grid line of the plan that is shown."""
    here = desk.things[kind].here
    found = here(desk) if here else ()
    desk.select_many(tuple(k for k in found if shows(desk.veil, k)))


def select_whole_tier(desk: Desk) -> None:
    """Select everything on the plan that is shown."""
    desk.select_many(tuple(dict.fromkeys(_on_plan(desk, "grid"))))


def _on_plan(desk: Desk, *but: str) -> list[Name]:
    """What can be picked on the plan that is shown, but for some kinds."""
    return [k for k in desk.face.drawn() if kind_of(k) not in but]


# -- hiding -------------------------------------------------------------------


def _set(desk: Desk, veil: Veil, words: str) -> None:
    desk.veil, desk.setting = veil, None
    desk.refresh()
    desk.say(words)


def hide_selected(desk: Desk) -> None:
    """Hide what is selected."""
    if desk.selected:
        hide_these(desk, frozenset(desk.selected))


def hide_these(desk: Desk, names: Names) -> None:
    """Hide some things."""
    desk.selection = None
    words = f"{len(names)} hidden. Ctrl+Shift+H shows everything."
    _set(desk, hide(desk.veil, names), words)


def show_only_selected(desk: Desk) -> None:
    """Show only what is selected."""
    if desk.selected:
        _set(desk, isolate(desk.veil, frozenset(desk.selected)), "Only what is selected is shown.")


def show_only(desk: Desk, names: Names) -> None:
    """Show only some things."""
    _set(
        desk, isolate(desk.veil, names), f"Only {len(names)} shown. Ctrl+Shift+H shows everything."
    )


def hide_kind(desk: Desk, role: str) -> None:
    """Hide everything of a kind, or show it again."""
    words = f"All {role}s hidden." if role not in desk.veil.roles else ""
    _set(desk, hide_role(desk.veil, role), words)


def hide_tier(desk: Desk) -> None:
    """Hide everything that stands in this tier, walls among them."""
    tier = desk.current_tier()
    if tier is None:
        return
    names = frozenset(_on_plan(desk, "grid", "opening"))
    desk.selection = None
    _set(desk, hide(desk.veil, names | {tier.id}), f"{tier.name}: hidden.")


def lock_selected(desk: Desk) -> None:
    """Put what is selected out of reach."""
    if desk.selected:
        lock_these(desk, frozenset(desk.selected))


def lock_tier(desk: Desk) -> None:
    """Put everything on this plan out of reach."""
    lock_these(desk, frozenset(_on_plan(desk, "grid")))


def lock_these(desk: Desk, names: Names) -> None:
    """Put some things out of reach."""
    desk.selection = None
    words = f"{len(names)} locked: seen, but not picked or dragged."
    _set(desk, lock(desk.veil, names), words)


def lock_kind(desk: Desk, role: str) -> None:
    """Put everything of a kind out of reach, or bring it back."""
    _set(desk, lock_role(desk.veil, role), "")


def show_only_tier(desk: Desk) -> None:
    """Show only what stands in this tier."""
    tier = desk.current_tier()
    if tier is not None:
        names = frozenset(_on_plan(desk, "grid", "opening"))
        _set(desk, isolate(desk.veil, names | {tier.id}), f"Only {tier.name} is shown.")


def show_everything(desk: Desk) -> None:
    """Show everything again; where nothing is hidden, unlock."""
    _set(desk, reveal(desk.veil) if desk.veil.hides else unlock(desk.veil), "")


def roles_here(desk: Desk) -> list[str]:
    """The kinds of things there are in the building, and those hidden."""
    there = {role_of(m.id) for m in desk.checked.structure.members}
    there |= {"wall"} if desk.project.walls else set()
    there |= {"opening"} if any(w.openings for w in desk.project.walls) else set()
    there |= {"grid"} if desk.project.grids else set()
    return sorted(there | desk.veil.roles)


# -- clipboard ----------------------------------------------------------------


def copy_selected(desk: Desk) -> None:
    """Put what is selected on the clipboard, for this or another project."""
    try:
        clip = clip_of(desk.project, desk.selected)
    except BalkenError as error:
        desk.say(str(error))
        return
    desk.face.put_clip(msgspec.json.encode(clip).decode())
    desk.say(
        f"{len(clip.walls) + len(clip.supports)} on the clipboard. Ctrl+V pastes them, here or"
        " in another project."
    )


def paste(desk: Desk) -> None:
    """Paste what is on the clipboard."""
    try:
        clip = read_clip(desk.face.clip())
    except BalkenError as error:
        desk.say(str(error))
        return
    desk.begin("Paste", changing.pasting(desk, clip))


LARGEST = 20_000_000
"""A clip is no longer than this, letters."""


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
