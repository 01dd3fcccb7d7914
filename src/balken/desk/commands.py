"""Everything that can be done at the desk, by key and by name."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QKeySequence

if TYPE_CHECKING:
    from balken.desk.window import Window


class Command(NamedTuple):
    """Something to do: words for search-and-do, a key, and the doing."""

    words: str
    key: str
    act: Callable[[], object]


def commands(w: "Window") -> list[Command]:
    """Return everything that can be done now, for keys and for search-and-do."""
    found = [
        Command("Undo", "Ctrl+Z", w.undo), Command("Redo", "Ctrl+Y", w.redo), Command("Redo", "Ctrl+Shift+Z", w.redo),
        Command("Save", "Ctrl+S", w.files.save), Command("Save as", "Ctrl+Shift+S", w.files.save_as),
        Command("Open a project or an architect’s file", "Ctrl+O", w.files.open_dialog),
        Command("Write sheets, cutting list and structure", "Ctrl+E", w.files.issue_dialog),
        Command("Quick spans", "Ctrl+K", w.quick_spans),
        Command("Light or dark", "Ctrl+D", w.toggle_theme),
        Command("Find or do", "Ctrl+F", w.finder.setFocus), Command("Find or do", "/", w.finder.setFocus),
        Command("Plan", "1", lambda: w.show_view("plan")),
        Command("In space", "2", lambda: w.show_view("space")),
        Command("Paper: sheets", "3", lambda: w.show_view("paper")),
        Command("Fit in view", "F", w.fit_view), Command("Measure", "M", w.measure),
        Command("Next tier up", "PgUp", lambda: w.next_tier(1)),
        Command("Next tier down", "PgDown", lambda: w.next_tier(-1)),
        Command("Next finding", "N", w.next_finding),
        Command("Open the demo building", "", w.files.open_demo),
        Command("What did not come in", "", lambda: w.select("unread")),
    ]  # fmt: skip
    found += [Command(words, key, act) for words, key, act in placing(w)]
    return found


def placing(w: "Window") -> list[tuple[str, str, Callable[[], object]]]:
    """Return what can be placed or changed in this tier."""
    project = w.building.project
    tier = w.current_tier()
    found: list[tuple[str, str, Callable[[], object]]] = []
    if not project.runs:
        found.append(("Foundation", "G", lambda: w.hand.place("foundation")))
    floors = sum(1 for x in project.levels if x.role == "floor" and any(wall.base == x.id for wall in project.walls))
    if len(project.floors) < floors + 1:
        found.append(("Joist floors", "J", lambda: w.hand.place("floors")))
    if not project.roofs:
        found.append(("Gable roof", "R", lambda: w.hand.place("roof")))
    if tier and tier.kind in ("floor", "ceiling"):
        found.append(("Turn joists", "T", partial(w.hand.turn, tier.id)))
    if tier and tier.kind == "roof":
        found += [
            ("Turn ridge", "T", partial(w.hand.turn, tier.id)), ("Steeper", "+", partial(w.hand.pitch, 1.0)),
            ("Flatter", "-", partial(w.hand.pitch, -1.0)),
        ]  # fmt: skip
    if w.member() or (tier and tier.kind != "walls"):
        found.append(("Take away", "Del", w.hand.take_away))
    return found


def command_for(w: "Window", event: QKeyEvent) -> Command | None:
    """Return what a key means now. Fields and views take their own keys first; what they leave comes here."""
    plain = not event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    pressed = QKeySequence(event.keyCombination())
    for command in commands(w):
        if len(command.key) == 1:
            if plain and event.text().lower() == command.key.lower():
                return command
        elif command.key and QKeySequence(command.key) == pressed:
            return command
    return None
