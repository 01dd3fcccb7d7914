"""Everything that can be done at the desk, by key and by name."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

from balken.desk.names import page
from balken.model.names import ThingName, hosts_in, keys_of, kind_of

if TYPE_CHECKING:
    from balken.desk.window import Window


class Command(NamedTuple):
    """Something to do: words for search-and-do, a key, and the doing."""

    words: str
    key: str
    act: Callable[[], object]


def commands(w: "Window") -> list[Command]:
    """Everything that can be done now, for keys and for search-and-do."""
    found = [
        Command("Undo", "Ctrl+Z", w.undo),
        Command("Redo", "Ctrl+Y", w.redo),
        Command("Redo", "Ctrl+Shift+Z", w.redo),
        Command("Save", "Ctrl+S", w.files.save),
        Command("Save as", "Ctrl+Shift+S", w.files.save_as),
        Command("Open a project or an architect’s file", "Ctrl+O", w.files.open_dialog),
        Command("Issue: write sheets, cutting list and structure", "Ctrl+E", w.files.issue_dialog),
        Command("Quick spans", "Ctrl+K", w.quick_spans),
        Command("Light or dark", "Ctrl+D", w.toggle_theme),
        Command("Find or do", "Ctrl+F", w.top.finder.setFocus),
        Command("Find or do", "/", w.top.finder.setFocus),
        Command("Plan", "1", lambda: w.show_view("plan")),
        Command("In space", "2", lambda: w.show_view("space")),
        Command("Paper: sheets", "3", lambda: w.show_view("paper")),
        Command("Upright: elevations and section", "4", lambda: w.show_view("upright")),
        Command("Zoom in", "Ctrl++", lambda: w.zoom(1.25)),
        Command("Zoom in", "Ctrl+=", lambda: w.zoom(1.25)),
        Command("Zoom out", "Ctrl+-", lambda: w.zoom(0.8)),
        Command("Select everything on this plan", "Ctrl+A", w.looks.whole_tier),
        Command("Select all walls here", "", lambda: w.looks.all_of("wall")),
        Command("Select all doors and windows here", "", lambda: w.looks.all_of("opening")),
        Command("Select all posts, pads and piers", "", lambda: w.looks.all_of("support")),
        Command("Select all grid lines", "", lambda: w.looks.all_of("grid")),
        Command("Show everything, unlock", "Ctrl+Shift+H", w.looks.reveal),
        Command("Hide everything of this tier", "", w.looks.hide_tier),
        Command("Show only this tier", "", w.looks.only_tier),
        Command("Lock everything of this tier", "", w.looks.lock_tier),
        Command("Paste", "Ctrl+V", w.looks.paste),
        Command("Levels: add one", "Shift+L", w.hand.add_level),
        Command("Changed by hand", "", lambda: w.select(page("by hand"))),
        Command("Products: values typed from their maker", "", lambda: w.select(page("products"))),
        Command("Wall build-ups", "", lambda: w.select(page("build-ups"))),
        Command("Background drawing (DXF)", "", w.files.background_dialog),
        Command("Heights of the ground (CSV)", "", w.files.spots_dialog),
        Command("Survey the ground with the simulated instrument", "", w.files.survey),
        Command("New version of the architect’s file", "", w.files.update_dialog),
        Command(
            "Copy this storey’s walls to another level",
            "",
            lambda: w.select(ThingName("storey", w.tools.base)),
        ),
        Command("Bring block walls onto the module", "", lambda: w.select(page("module"))),
        Command("Ground and drawings of others", "", lambda: w.select(page("sources"))),
        Command("Fit in view", "F", w.fit_view),
        Command("Measure", "M", w.measure),
        Command("Next tier up", "PgUp", lambda: w.next_tier(1)),
        Command("Next tier down", "PgDown", lambda: w.next_tier(-1)),
        Command("Next finding", "N", w.next_finding),
        Command("Open the demo building", "", w.files.open_demo),
        Command("Open the second demo building: the ferry hall", "", w.files.open_ferry_hall),
        Command("What did not come in", "", lambda: w.select(page("unread"))),
    ]
    words = [*w.tools.changing(), *about_selected(w), *w.tools.placing(), *placing(w)]
    found += [Command(text, key, act) for text, key, act in words]
    for role in w.looks.roles_here():
        found.append(Command(f"Hide all {role}s", "", partial(w.looks.hide_kind, role)))
        found.append(Command(f"Lock all {role}s", "", partial(w.looks.lock_kind, role)))
    return found


def about_selected(w: "Window") -> list[tuple[str, str, Callable[[], object]]]:
    """What can be done with what is selected, whatever it is."""
    kind = kind_of(w.selection) if w.selection else ""
    if kind == "side":
        return [("Hip or gable", "Y", w.hand.hip_or_gable)]
    if kind == "skylight":
        return [("Take away", "Del", w.hand.take_away)]
    if kind in ("step", "run") and w.member() is None:
        return [("Let it go" if kind == "step" else "Take away", "Del", w.hand.take_away)]
    if not w.selected or (w.member() is None and not _things(w)):
        return []
    found: list[tuple[str, str, Callable[[], object]]] = []
    walls = keys_of(w.selected, "wall")
    if walls:
        found.append(("Flip", "X", w.hand.flip))
        if len(walls) == 2:
            found.append(("Join", "Shift+J", w.hand.join))
    found += [
        ("All alike", "Z", w.looks.alike),
        ("Hide", "H", w.looks.hide),
        ("Only this", "D", w.looks.isolate),
        ("Lock", "", w.looks.lock),
        ("Take away", "Del", w.hand.take_away),
    ]
    if hosts_in(w.selected, "wall", "support"):
        found.append(("Clip", "Ctrl+C", w.looks.copy))
    return found


def _things(w: "Window") -> bool:
    return any(
        kind_of(k) in ("wall", "opening", "grid", "support", "hole", "floor") for k in w.selected
    )


def placing(w: "Window") -> list[tuple[str, str, Callable[[], object]]]:
    """What can be placed or changed in this tier."""
    project = w.building.project
    tier = w.current_tier()
    found: list[tuple[str, str, Callable[[], object]]] = []
    if not project.runs:
        found.append(("First foundation", "Shift+G", lambda: w.hand.place("foundation")))
    floors = sum(
        1
        for x in project.levels
        if x.role == "floor" and any(wall.base == x.id for wall in project.walls)
    )
    if len(project.floors) < floors + 1:
        found.append(("Joist floors", "J", lambda: w.hand.place("floors")))
    if not project.roofs:
        found.append(("First roof", "R", lambda: w.hand.place("roof")))
    if tier and tier.host and tier.kind in ("floor", "ceiling"):
        found.append(("Turn joists", "T", partial(w.hand.turn, tier.host)))
    if tier and tier.host and tier.kind == "roof":
        found += [
            ("Turn ridge", "T", partial(w.hand.turn, tier.host)),
            ("Steeper", "+", partial(w.hand.pitch, 1.0)),
            ("Flatter", "-", partial(w.hand.pitch, -1.0)),
        ]
    if tier and tier.kind != "walls" and not w.selected:
        found.append(("Take away", "Del", w.hand.take_away))
    return found


def command_for(w: "Window", event: QKeyEvent) -> Command | None:
    """What a key means now. Fields and views take their own keys first; what they leave
    comes here."""
    held = event.modifiers()
    plain = not held & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    shifted = bool(held & Qt.KeyboardModifier.ShiftModifier)
    pressed = QKeySequence(event.keyCombination())
    for command in commands(w):
        if len(command.key) == 1:
            if (
                plain
                and event.text().lower() == command.key.lower()
                and not (shifted and command.key.isalpha())
            ):
                return command
        elif command.key and QKeySequence(command.key) == pressed:
            return command
    return None
