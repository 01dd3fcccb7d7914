"""Search-and-do: what a phrase can mean here, the best first."""

import re
from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from balken.fit.places import crossings
from balken.model.edits import move_level
from balken.model.edits.levels import copy_level
from balken.model.names import HostName, ThingName
from balken.model.walls import called
from balken.session.commands import commands
from balken.session.desk import Desk, level_of
from balken.units import LengthError, format_run, parse_length


class Offer(NamedTuple):
    """Something that is offered: words, a note at the right, and what it does."""

    words: str
    note: str
    act: Callable[[], object]


def offers(desk: Desk, text: str) -> list[Offer]:
    """What a text can mean, the best first."""
    wanted = _plain(text)
    found: list[tuple[float, Offer]] = []
    for offer in [*_levels_by(desk, text), *_commands(desk), *_places(desk)]:
        score = _score(wanted, _plain(offer.words))
        if score > 0 or offer.note == "as typed":
            found.append((10.0 if offer.note == "as typed" else score, offer))
    if wanted:
        found += [(s, o) for o in _members(desk) if (s := _score(wanted, _plain(o.words))) > 0]
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


def _commands(desk: Desk) -> list[Offer]:
    return [Offer(c.words, c.key, c.act) for c in commands(desk)]


def _places(desk: Desk) -> list[Offer]:
    project = desk.project
    found = [Offer(t.name, "tier", partial(desk.work_in, t.id)) for t in desk.tiers]
    found += [
        Offer(f"level {x.name}", "level", partial(desk.select, ThingName("level", x.id)))
        for x in project.levels
    ]
    found += [
        Offer(f"crossing {name}", "grid", partial(desk.show_place, p))
        for name, p in crossings(project)
    ]
    found += [
        Offer(called(w), "wall", partial(desk.select, HostName("wall", w.id)))
        for w in project.walls
    ]
    return found


def _members(desk: Desk) -> list[Offer]:
    members = desk.checked.structure.members
    return [Offer(f"{m.role} {m.mark}", m.section, partial(desk.select, m.id)) for m in members]


def _levels_by(desk: Desk, text: str) -> list[Offer]:
    """Read “Floor 2 +8 in” and “level −8 in”: move a level by a distance, or copy it."""
    match = re.fullmatch(r"\s*(?P<name>.*?)\s*(?P<by>[+\-−]\s*\d.*)", text)
    if not match:
        return []
    project = desk.project
    try:
        by = parse_length(match["by"].replace("−", "-"), project.system, negative=True)
    except LengthError:
        return []
    name = match["name"].strip().lower()
    chosen = level_of(desk.selection)
    found = []
    for x in project.levels:
        here = x.id == chosen if name in ("", "level") else x.name.lower().startswith(name)
        if not here:
            continue
        way, size = ("up" if by > 0 else "down"), format_run(abs(by), project.system)
        move = partial(move_level, key=x.id, elevation=x.elevation + by)
        copy = partial(copy_level, key=x.id, distance_up=by)
        words = f"{x.name} {way} by {size}"
        found.append(Offer(f"Move {words}", "as typed", partial(desk.edit, "move level", move)))
        found.append(Offer(f"Copy {words}", "as typed", partial(desk.edit, "copy level", copy)))
    return found
