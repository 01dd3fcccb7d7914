"""Search-and-do: one field that finds commands, members, levels and grid crossings, and does what
was asked."""

import re
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem

from balken.desk.commands import commands
from balken.desk.names import level_of
from balken.desk.paint import polish
from balken.fit.places import crossings
from balken.model.edits import copy_level, move_level
from balken.model.names import HostName, ThingName
from balken.model.walls import called
from balken.units import LengthError, format_run, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

SHOWN = 10


class Offer(NamedTuple):
    """Something the field offers: words, a note at the right, and what it does."""

    words: str
    note: str
    act: Callable[[], object]


class Finder(QLineEdit):
    """The field and the list under it."""

    def __init__(self, window: "Window") -> None:
        super().__init__()
        self.window_ = window
        self.setPlaceholderText("Find or do: “joist 14”, “Floor 2 +8 in”, “B/3”, “sheets”")
        self.setAccessibleName("Find or do")
        self.setFixedWidth(330)
        self.list = QListWidget(window)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.hide()
        self.list.itemClicked.connect(lambda item: self._do(self.list.row(item)))
        self.offers: list[Offer] = []
        self.textEdited.connect(lambda _: self.look())

    def look(self) -> None:
        """Show what matches."""
        self.offers = offers(self.window_, self.text())[:SHOWN]
        self.list.clear()
        for offer in self.offers:
            self.list.addItem(QListWidgetItem(polish(f"{offer.words}    {offer.note}".rstrip())))
        if not self.offers:
            self.list.addItem(QListWidgetItem("Nothing is called that."))
        self.list.setCurrentRow(0)
        place = self.mapTo(self.window_, QPoint(0, self.height() + 4))
        self.list.setGeometry(
            place.x(), place.y(), max(self.width(), 420), 10 + 27 * max(1, len(self.offers))
        )
        self.list.raise_()
        self.list.show()

    def _do(self, row: int) -> None:
        if 0 <= row < len(self.offers):
            offer = self.offers[row]
            self.list.hide()
            self.clear()
            self.window_.setFocus()
            offer.act()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            if not self.list.isVisible():
                self.look()
                return
            step = 1 if key == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(
                max(0, min(len(self.offers) - 1, self.list.currentRow() + step))
            )
            return
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._do(self.list.currentRow())
            return
        if key == Qt.Key.Key_Escape:
            self.list.hide()
            self.clear()
            self.window_.setFocus()
            return
        super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.list.hide()


def offers(window: "Window", text: str) -> list[Offer]:
    """What a text can mean, the best first."""
    wanted = _plain(text)
    found: list[tuple[float, Offer]] = []
    for offer in [*_levels_by(window, text), *_commands(window), *_places(window)]:
        score = _score(wanted, _plain(offer.words))
        if score > 0 or offer.note == "as typed":
            found.append((10.0 if offer.note == "as typed" else score, offer))
    if wanted:
        found += [(s, o) for o in _members(window) if (s := _score(wanted, _plain(o.words))) > 0]
    found.sort(key=lambda item: -item[0])
    return [offer for _, offer in found]


def _plain(text: str) -> str:
    return " ".join(re.findall(r"[a-z0-9/]+", text.lower()))


def _score(wanted: str, words: str) -> float:
    """All typed words must begin a word of what is offered; earlier and fuller matches count
    more."""
    if not wanted:
        return 0.5
    parts = words.split()
    total = 0.0
    for piece in wanted.split():
        hits = [
            i for i, part in enumerate(parts) if part.startswith(piece) or part.lstrip("0") == piece
        ]
        inside = [i for i, part in enumerate(parts) if len(piece) > 1 and piece in part]
        if hits:
            full = (
                parts[hits[0]].lstrip("0abcdefghijklmnopqrstuvwxyz") == piece
                or parts[hits[0]] == piece
            )
            total += 2.0 - 0.1 * hits[0] + (0.5 if full else 0.0)
        elif inside:
            total += 0.6
        else:
            return 0.0
    return total / len(wanted.split())


def _commands(window: "Window") -> list[Offer]:
    return [Offer(c.words, c.key, c.act) for c in commands(window)]


def _places(window: "Window") -> list[Offer]:
    project = window.building.project
    found = [Offer(t.name, "tier", partial(window.work_in, t.id)) for t in window.tiers]
    found += [
        Offer(f"level {x.name}", "level", partial(window.select, ThingName("level", x.id)))
        for x in project.levels
    ]
    found += [
        Offer(f"crossing {name}", "grid", partial(window.show_place, p))
        for name, p in crossings(project)
    ]
    found += [
        Offer(called(w), "wall", partial(window.select, HostName("wall", w.id)))
        for w in project.walls
    ]
    return found


def _members(window: "Window") -> list[Offer]:
    members = window.building.checked.structure.members
    return [Offer(f"{m.role} {m.mark}", m.section, partial(window.select, m.id)) for m in members]


def _levels_by(window: "Window", text: str) -> list[Offer]:
    """Read “Floor 2 +8 in” and “level −8 in”: move a level by a distance, or copy it."""
    match = re.fullmatch(r"\s*(?P<name>.*?)\s*(?P<by>[+\-−]\s*\d.*)", text)
    if not match:
        return []
    project = window.building.project
    try:
        by = parse_length(match["by"].replace("−", "-"), project.system, negative=True)
    except LengthError:
        return []
    name = match["name"].strip().lower()
    chosen = level_of(window.selection)
    found = []
    for x in project.levels:
        here = x.id == chosen if name in ("", "level") else x.name.lower().startswith(name)
        if not here:
            continue
        way, size = ("up" if by > 0 else "down"), format_run(abs(by), project.system)
        move = partial(move_level, key=x.id, elevation=x.elevation + by)
        copy = partial(copy_level, key=x.id, distance_up=by)
        words = f"{x.name} {way} by {size}"
        found.append(Offer(f"Move {words}", "as typed", partial(window.edit, "move level", move)))
        found.append(Offer(f"Copy {words}", "as typed", partial(window.edit, "copy level", copy)))
    return found
