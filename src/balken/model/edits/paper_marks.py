"""Edits of what is drawn on plans by hand besides notes: dimensions and clouds round revisions."""

from collections.abc import Sequence
from itertools import pairwise

from balken.geometry.plane import TOUCH, Point, distance
from balken.model.attached import hold_at
from balken.model.edits.common import EditError, fresh
from balken.model.edits.paper_rows import add_row
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
    return add_row(project, "dimensions", made), key


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
    return add_row(project, "clouds", made), key
