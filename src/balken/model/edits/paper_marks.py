"""Edits of what is drawn on plans by hand besides notes: dimensions and clouds round revisions."""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, distance
from balken.model.attached import hold_at
from balken.model.edits.common import EditError, fresh, known
from balken.model.edits.paper import set_paper
from balken.model.paper import Cloud, DimensionKind, HandDimension, Hold
from balken.model.project import Project


def add_dimension(
    project: Project, view: str, kind: DimensionKind, holds: Sequence[Hold], at: Point
) -> tuple[Project, str]:
    """Draw a dimension on a plan; return the project and its key.

    Args:
        project: the building.
        view: the lasting name of the plan.
        kind: of it.
        holds: what it measures.
        at: where its string or words stand, mm.

    Raises:
        EditError: a string between fewer than two places.
    """
    if kind in ("linear", "aligned") and len(holds) < 2:
        raise EditError("A string measures between two places at the least.")
    key = fresh((d.id for d in project.paper.dimensions), "M")
    made = HandDimension(key, view, kind, tuple(holds), at)
    return set_paper(project, dimensions=(*project.paper.dimensions, made)), key


def measured_between(
    project: Project, view: str, base: str, places: Sequence[Point], at: Point
) -> Project:
    """Draw a string between places, each of which holds on to what is near.

    Raises:
        EditError: there are fewer than two, or two are one.
    """
    for a, b in pairwise(places):
        if distance(a, b) < TOUCH:
            raise EditError("Two places of the string are one: click what lies apart.")
    holds = [hold_at(project, base, p) for p in places]
    return add_dimension(project, view, "linear", holds, at)[0]


def set_dimension(project: Project, key: str, **fields: Any) -> Project:
    """Change a dimension."""
    known(HandDimension, fields)
    rows = tuple(replace(d, **fields) if d.id == key else d for d in project.paper.dimensions)
    return set_paper(project, dimensions=rows)


def move_dimension(project: Project, key: str, by: Point) -> Project:
    """Move the string or the words of a dimension, mm; what it measures stays."""
    old = next(d for d in project.paper.dimensions if d.id == key)
    return set_dimension(project, key, at=add(old.at, by, 1.0))


def drop_dimension(project: Project, key: str) -> Project:
    """Take a dimension away."""
    rows = tuple(d for d in project.paper.dimensions if d.id != key)
    return set_paper(project, dimensions=rows)


def add_cloud(project: Project, view: str, start: Point, end: Point) -> tuple[Project, str]:
    """Draw a cloud round what the last revision changed; return the project and its key.

    Raises:
        EditError: it has no size.
    """
    if min(abs(end[0] - start[0]), abs(end[1] - start[1])) < TOUCH:
        raise EditError("A cloud needs two corners that lie apart both ways.")
    last = project.paper.revisions[-1].mark if project.paper.revisions else ""
    key = fresh((c.id for c in project.paper.clouds), "V")
    made = Cloud(key, view, last, start, end)
    return set_paper(project, clouds=(*project.paper.clouds, made)), key


def set_cloud(project: Project, key: str, **fields: Any) -> Project:
    """Change a cloud."""
    known(Cloud, fields)
    rows = tuple(replace(c, **fields) if c.id == key else c for c in project.paper.clouds)
    return set_paper(project, clouds=rows)


def move_cloud(project: Project, key: str, by: Point) -> Project:
    """Move a cloud, mm."""
    old = next(c for c in project.paper.clouds if c.id == key)
    return set_cloud(project, key, start=add(old.start, by, 1.0), end=add(old.end, by, 1.0))


def drop_cloud(project: Project, key: str) -> Project:
    """Take a cloud away."""
    return set_paper(project, clouds=tuple(c for c in project.paper.clouds if c.id != key))
