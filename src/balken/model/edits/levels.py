"""Edits of levels: move, name, copy, add, hold, lock together, take away. What hangs on a level
follows it."""

from collections.abc import Iterable
from typing import Any, Final

from msgspec.structs import replace

from balken.geometry.plane import TOUCH
from balken.model.edits.common import EditError, checked, fresh, with_
from balken.model.project import Level, Project, Role, level
from balken.units import format_length

HIGHEST: Final = 1e6
_HOSTED: Final = {
    "walls": ("base", "top"),
    "runs": ("top", "base", "bottom"),
    "floors": ("level", "bears_on"),
    "roofs": ("plate",),
    "point_supports": ("base", "top"),
    "loads": ("level",),
    "backgrounds": ("level",),
}
"""Which fields of which records name a level."""
_WORDS: Final = {
    "walls": "wall",
    "runs": "foundation",
    "floors": "floor",
    "roofs": "roof",
    "point_supports": "support",
    "loads": "load",
    "backgrounds": "background",
}


def move_level(project: Project, key: str, elevation: float, *, hold: bool = True) -> Project:
    """Set a level's height, mm, and hold it there; levels that move with it go by as much, and all
    that hangs on them.

    Raises:
        EditError: a wall or footing between two levels would have no height left.
    """
    if not -HIGHEST <= elevation <= HIGHEST:
        raise EditError("A level lies within a kilometre of zero.")
    old = level(project, key)
    by = elevation - old.elevation
    along = moves_along(project, old)
    made = [replace(x, elevation=x.elevation + by) if x.id in along else x for x in project.levels]
    try:
        return checked(
            project,
            levels=tuple(replace(x, held=True) if hold and x.id == key else x for x in made),
        )
    except EditError as error:
        raise EditError(
            f"“{old.name}” cannot go to {format_length(elevation, project.system)}: {error}"
        ) from error


def moves_along(project: Project, item: Level) -> frozenset[str]:
    """What moves when a level does: itself, what is locked to it, and the plates of walls
    that stand on them and are not held: their studs keep their length."""
    together = {x.id for x in project.levels if x.lock and x.lock == item.lock} | {item.id}
    tops = {w.top for w in project.walls if w.base in together}
    plates = {x.id for x in project.levels if x.id in tops and x.role == "plate" and not x.held}
    return frozenset(together | plates)


def rename_level(project: Project, key: str, name: str) -> Project:
    """Give a level another name; it must be its own."""
    return checked(project, levels=with_(project.levels, key, name=_own_name(project, name, key)))


def _own_name(project: Project, name: str, key: str = "") -> str:
    name = name.strip()
    if not name:
        raise EditError("A level needs a name.")
    if any(item.name == name and item.id != key for item in project.levels):
        raise EditError(f"Another level is called “{name}” already.")
    return name[:200]


def add_level(
    project: Project, role: Role, name: str, elevation: float, *, held: bool = True
) -> Project:
    """Add a level."""
    if not -HIGHEST <= elevation <= HIGHEST:
        raise EditError("A level lies within a kilometre of zero.")
    key = fresh((x.id for x in project.levels), "L")
    return checked(
        project,
        levels=(*project.levels, Level(key, _own_name(project, name), role, elevation, held)),
    )


def copy_level(project: Project, key: str, distance_up: float, times: int = 1) -> Project:
    """Add levels with the same role at a distance above (negative: below) another, mm; each over
    the one before.

    Raises:
        EditError: the distance is nothing, or there are too many.
    """
    if abs(distance_up) < TOUCH:
        raise EditError("Copy a level by a distance other than zero.")
    if not 1 <= times <= 60:
        raise EditError("A level can be copied 1 to 60 times at once.")
    old = level(project, key)
    made: list[Level] = []
    for i in range(1, times + 1):
        there = (*project.levels, *made)
        stem = old.name.rstrip("0123456789")
        name = next(
            n
            for n in (f"{_spaced(stem)}{k}" for k in range(2, 10_000))
            if n not in {x.name for x in there}
        )
        elevation = old.elevation + i * distance_up
        made.append(Level(fresh((x.id for x in there), f"{old.id}-"), name, old.role, elevation))
    return checked(project, levels=(*project.levels, *made))


def _spaced(stem: str) -> str:
    return stem if stem.endswith((" ", "-")) else f"{stem} "


def set_level_role(project: Project, key: str, role: Role) -> Project:
    """Say what a level is."""
    return checked(project, levels=with_(project.levels, key, role=role))


def hold_level(project: Project, key: str, held: bool) -> Project:
    """Hold a level where it is, or let it follow from what is built up to it."""
    return checked(project, levels=with_(project.levels, key, held=held))


def lock_levels(project: Project, key: str, other: str) -> Project:
    """Lock two levels, so that they move together; groups they are in already become one.

    Raises:
        EditError: both are the same level.
    """
    a, b = level(project, key), level(project, other)
    if a.id == b.id:
        raise EditError("A level is locked to another one, not to itself.")
    words = {x.lock for x in (a, b) if x.lock}
    word = min(words) if words else fresh((x.lock for x in project.levels), "lock")
    joined = {x.id for x in project.levels if x.lock in words} | {a.id, b.id}
    return checked(
        project,
        levels=tuple(replace(x, lock=word) if x.id in joined else x for x in project.levels),
    )


def unlock_level(project: Project, key: str) -> Project:
    """Let a level move by itself again; a lock of one is none."""
    word = level(project, key).lock
    rest = [x.id for x in project.levels if x.lock == word and x.id != key]
    free = {key, *rest} if len(rest) == 1 else {key}
    return checked(
        project, levels=tuple(replace(x, lock="") if x.id in free else x for x in project.levels)
    )


def hanging(project: Project, key: str) -> list[str]:
    """What hangs on a level, in words: ``12 walls``, ``1 floor``."""
    found = []
    for kind, fields in _HOSTED.items():
        count = sum(1 for r in getattr(project, kind) if any(getattr(r, f) == key for f in fields))
        if count:
            word = _WORDS[kind]
            found.append(f"{count} {word if count == 1 else word + 's'}")
    return found


def remove_level(project: Project, key: str, to: str | None = None) -> Project:
    """Take a level away; what hangs on it goes over to another level.

    Raises:
        EditError: something hangs on it and no other level was named, or a wall would have no
            height there.
    """
    old = level(project, key)
    there = hanging(project, key)
    if to == key:
        raise EditError("What hangs on a level goes to another one when it is taken away.")
    made: dict[str, object] = {"levels": tuple(x for x in project.levels if x.id != key)}
    if there:
        if to is None:
            raise EditError(f"{', '.join(there)} hang on “{old.name}”. Say which level they go to.")
        for kind, fields in _HOSTED.items():
            made[kind] = tuple(_hung_on(r, fields, key, to) for r in getattr(project, kind))
    try:
        return checked(project, **made)
    except EditError as error:
        raise EditError(f"“{old.name}” cannot go that way: {error}") from error


def _hung_on(record: Any, fields: Iterable[str], key: str, to: str) -> Any:
    """A record that hangs on one level instead of another."""
    changed = {f: to for f in fields if getattr(record, f) == key}
    return replace(record, **changed) if changed else record
