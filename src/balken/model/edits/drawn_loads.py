"""Edits of loads that were drawn on a floor or a roof."""

from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from balken.geometry.plane import Point, add
from balken.model.drawn_loads import Case, DrawnLoad, Shape
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.project import Project


def draw_load(
    project: Project,
    shape: Shape,
    level: str,
    places: Sequence[Point],
    case: Case,
    amount: float,
    name: str = "",
) -> tuple[Project, str]:
    """Draw a load on what spans under a level; return the project and the load's key.

    Raises:
        EditError: the load is nothing, or its places make no such shape.
    """
    if amount <= 0:
        raise EditError("A load of nothing presses on nothing. Type how much it is.")
    key = fresh((x.id for x in project.loads), "L")
    at = tuple((round(x, 3), round(y, 3)) for x, y in places)
    made = DrawnLoad(key, name or f"load {key}", shape, level, at, case, amount)
    return checked(project, loads=(*project.loads, made)), key


def set_load(project: Project, key: str, **fields: Any) -> Project:
    """Change a drawn load: any field of :class:`DrawnLoad`."""
    known(DrawnLoad, fields)
    return checked(project, loads=with_(project.loads, key, **fields))


def move_load(project: Project, key: str, by: Point) -> Project:
    """Move a drawn load by a vector, mm."""
    loads = tuple(
        replace(x, places=tuple(add(p, by) for p in x.places)) if x.id == key else x
        for x in project.loads
    )
    return checked(project, loads=loads)


def remove_load(project: Project, key: str) -> Project:
    """Take a drawn load away."""
    return checked(project, loads=tuple(x for x in project.loads if x.id != key))
