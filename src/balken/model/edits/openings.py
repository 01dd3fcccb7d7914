"""Edits of doors, windows and plain openings in walls."""

from collections.abc import Iterable
from typing import Any, Final, Literal

from msgspec.structs import replace

from balken.geometry.plane import TOUCH
from balken.model.edits.common import EditError, checked, fresh, fresh_many, known
from balken.model.names import ThingName
from balken.model.project import Project, wall, wall_base, wall_top
from balken.model.walls import Opening, Wall, wall_length
from balken.units import INCH, format_length

OpeningKind = Literal["door", "window", "opening"]
ROOM: Final = {
    "us": {
        "door": (2 * INCH, 2.5 * INCH),
        "window": (0.5 * INCH, 0.5 * INCH),
        "opening": (0.0, 0.0),
    },
    "metric": {"door": (50.0, 60.0), "window": (15.0, 15.0), "opening": (0.0, 0.0)},
}
"""How much wider and higher a rough opening is than the door or window in it; common practice, no
source."""
FIRST: Final = {
    "us": {
        "door": (36 * INCH, 80 * INCH, 0.0),
        "window": (36 * INCH, 48 * INCH, 36 * INCH),
        "opening": (48 * INCH, 80 * INCH, 0.0),
    },
    "metric": {
        "door": (900.0, 2050.0, 0.0),
        "window": (900.0, 1200.0, 900.0),
        "opening": (1200.0, 2050.0, 0.0),
    },
}
"""First sizes: width and height of the unit, and the sill of the rough opening; common practice, no
source."""


def rough(kind: OpeningKind, unit: tuple[float, float], system: str) -> tuple[float, float]:
    """The rough opening for a door or window of a size, mm."""
    room = ROOM[system][kind]
    return unit[0] + room[0], unit[1] + room[1]


def add_opening(project: Project, key: str, opening: Opening) -> Project:
    """Put an opening into a wall; its key is chosen here.

    Raises:
        EditError: it would lie outside the wall or over another opening; says by how much.
    """
    item = wall(project, key)
    new = replace(opening, id=fresh((o.id for o in item.openings), f"{key}-"))
    return _with_openings(project, item, (*item.openings, new), {new.id})


def _with_openings(
    project: Project, item: Wall, made: Iterable[Opening], touched: set[str]
) -> Project:
    holes = tuple(sorted(made, key=lambda o: (o.at, o.sill)))
    for hole in holes:
        if hole.id in touched:
            _fits(project, item, hole, holes)
    return checked(
        project,
        walls=tuple(replace(w, openings=holes) if w.id == item.id else w for w in project.walls),
    )


def _fits(project: Project, item: Wall, hole: Opening, others: Iterable[Opening]) -> None:
    length, height = wall_length(item), wall_top(project, item) - wall_base(project, item)

    def say(mm: float) -> str:
        return format_length(mm, project.system)

    if item.bulge:
        raise EditError(f"Wall “{item.name}” is curved; openings go into straight walls.")
    over = max(-hole.at, hole.at + hole.width - length)
    if over > TOUCH / 10:
        raise EditError(
            f"The {hole.kind} would reach {say(over)} past the end of wall “{item.name}”, which is"
            f" {say(length)} long."
        )
    high = max(-hole.sill, hole.sill + hole.height - height)
    if high > TOUCH / 10:
        where = (
            "above the top" if hole.sill + hole.height - height >= -hole.sill else "below the foot"
        )
        raise EditError(
            f"The {hole.kind} would reach {say(high)} {where} of wall “{item.name}”, {say(height)}"
            " high."
        )
    for other in others:
        if other.id == hole.id:
            continue
        wide = min(hole.at + hole.width, other.at + other.width) - max(hole.at, other.at)
        tall = min(hole.sill + hole.height, other.sill + other.height) - max(hole.sill, other.sill)
        if wide > TOUCH / 10 and tall > TOUCH / 10:
            raise EditError(
                f"The {hole.kind} would lie over the {other.kind} at {say(other.at)} in wall"
                f" “{item.name}” by {say(wide)}."
            )


def find_opening(project: Project, name: ThingName) -> tuple[Wall, Opening]:
    """The wall and the opening behind a name.

    Raises:
        EditError: there is none.
    """
    for item in project.walls:
        if item.id == name.key:
            for opening in item.openings:
                if opening.id == name.part:
                    return item, opening
    raise EditError(f"There is no opening “{name.part}” in wall “{name.key}”.")


def set_opening(project: Project, name: ThingName, **fields: Any) -> Project:
    """Change fields of an opening; a new unit size brings its rough opening along, about the same
    middle."""
    known(Opening, fields)
    item, old = find_opening(project, name)
    if "unit" in fields or "kind" in fields:
        kind, unit = fields.get("kind", old.kind), fields.get("unit", old.unit)
        if unit[0] > 0 and unit[1] > 0:
            width, height = rough(kind, unit, project.system)
            fields = {
                "at": old.at + (old.width - width) / 2,
                "width": width,
                "height": height,
                **fields,
            }
    new = replace(old, **fields)
    return _with_openings(
        project, item, [new if o.id == old.id else o for o in item.openings], {old.id}
    )


def frame_openings(project: Project, key: str, openings: Iterable[str], **fields: Any) -> Project:
    """Change how openings of one wall are framed that go under one header, by their keys."""
    for opening in openings:
        project = set_opening(project, ThingName("opening", key, opening), **fields)
    return project


def move_opening(project: Project, name: ThingName, by: float) -> Project:
    """Move an opening along its wall, mm away from the wall's start."""
    _, old = find_opening(project, name)
    return set_opening(project, name, at=round(old.at + by, 6))


def copy_opening(
    project: Project, name: ThingName, by: float, times: int = 1, *, to: str = ""
) -> Project:
    """Copy an opening along its wall, each ``by`` mm from the last; or once into another wall at
    the same distance.

    Raises:
        EditError: a copy would lie outside or over another.
    """
    item, old = find_opening(project, name)
    if not 1 <= times <= 200:
        raise EditError("An opening can be copied 1 to 200 times at once.")
    if to and to != item.id:
        return add_opening(project, to, replace(old, at=round(old.at + by, 6)))
    if abs(by) < TOUCH:
        raise EditError("Copy an opening by a distance other than zero.")
    keys = fresh_many((o.id for o in item.openings), f"{item.id}-", times)
    made = [replace(old, id=k, at=round(old.at + by * i, 6)) for i, k in enumerate(keys, 1)]
    return _with_openings(project, item, [*item.openings, *made], set(keys))


def mirror_opening(
    project: Project, name: ThingName, about: float | None = None, *, keep: bool = True
) -> Project:
    """Mirror an opening along its wall about a distance from the wall's start (its middle when left
    out).

    Args:
        project: the building.
        name: the opening.
        about: mm from the wall's start.
        keep: leave the first one there too.
    """
    item, old = find_opening(project, name)
    axis = wall_length(item) / 2 if about is None else about
    at = round(2 * axis - old.at - old.width, 6)
    if not keep:
        return set_opening(project, name, at=at)
    return add_opening(project, item.id, replace(old, at=at))


def remove_openings(project: Project, names: Iterable[ThingName]) -> Project:
    """Close openings."""
    gone = set(names)
    return checked(
        project,
        walls=tuple(
            replace(w, openings=rest)
            if len(
                rest := tuple(o for o in w.openings if ThingName("opening", w.id, o.id) not in gone)
            )
            < len(w.openings)
            else w
            for w in project.walls
        ),
    )
