"""What is drawn on a plan by hand: a dimension, and a cloud round what a revision changed."""

from functools import partial
from typing import Any, Final

from balken.model.edits.paper_marks import (
    drop_cloud,
    drop_dimension,
    move_cloud,
    move_dimension,
    set_cloud,
    set_dimension,
)
from balken.model.names import Name, as_thing
from balken.model.paper import Cloud, DimensionKind, HandDimension
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Fact, Field, Line, Options, Rows, Title
from balken.works.building import Checked

CALLED: Final[dict[DimensionKind, str]] = {
    "linear": "String along the building",
    "aligned": "String as its places lie",
    "radius": "Radius",
    "level": "Height",
}
RUNS: Final[list[tuple[str, DimensionKind]]] = [
    ("along the building", "linear"),
    ("as its places lie", "aligned"),
]


def _dimension(project: Project, name: Name) -> HandDimension | None:
    return next((d for d in project.paper.dimensions if d.id == as_thing(name).key), None)


def _dimension_slip(desk: Desk, name: Name) -> Rows:
    item = _dimension(desk.project, name)
    if item is None:
        return
    yield Title(CALLED[item.kind], "drawn by hand, on its plan and its sheet")
    if item.kind in ("linear", "aligned"):
        yield Options(
            "runs",
            RUNS,
            item.kind,
            lambda v: desk.edit("turn string", partial(set_dimension, key=item.id, kind=v)),
        )
    for hold in item.holds:
        words = f"{hold.key} {hold.part}".strip() if hold.kind else "a place of the plan"
        yield Fact(f"holds {hold.kind}".strip(), words)
    yield Line(
        "It measures what it holds as it is. Drag its string to where there is room.", quiet=True
    )
    yield Button("Take it away", lambda: _take_dimension(desk, name))


def _take_dimension(desk: Desk, name: Name) -> None:
    if desk.edit("take the dimension away", partial(drop_dimension, key=as_thing(name).key)):
        desk.select(None)


def _dimension_called(project: Project, name: Name) -> str:
    item = _dimension(project, name)
    return CALLED[item.kind].lower() if item else ""


def _dimension_moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_dimension(base, as_thing(name).key, pull.by)


DIMENSION = Thing(
    "dimension",
    "dimension",
    _dimension_slip,
    there=lambda project, name: _dimension(project, name) is not None,
    called=_dimension_called,
    ways=lambda checked, name, at: DragWay(),
    moved=_dimension_moved,
    take_away=_take_dimension,
)


def _cloud(project: Project, name: Name) -> Cloud | None:
    return next((c for c in project.paper.clouds if c.id == as_thing(name).key), None)


def _cloud_slip(desk: Desk, name: Name) -> Rows:
    item = _cloud(desk.project, name)
    if item is None:
        return

    def put(**fields: Any) -> object:
        return desk.edit("cloud", partial(set_cloud, key=item.id, **fields))

    yield Title("Cloud", "round what a revision changed")
    yield Field("revision", item.mark, lambda t: put(mark=t.strip()))
    yield Line("Revisions are on the page of the set of sheets.", quiet=True)
    yield Button("Take it away", lambda: _take_cloud(desk, name))


def _take_cloud(desk: Desk, name: Name) -> None:
    if desk.edit("take the cloud away", partial(drop_cloud, key=as_thing(name).key)):
        desk.select(None)


def _cloud_called(project: Project, name: Name) -> str:
    item = _cloud(project, name)
    return f"cloud of revision {item.mark}".strip() if item else ""


def _cloud_moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_cloud(base, as_thing(name).key, pull.by)


CLOUD = Thing(
    "cloud",
    "cloud",
    _cloud_slip,
    there=lambda project, name: _cloud(project, name) is not None,
    called=_cloud_called,
    ways=lambda checked, name, at: DragWay(),
    moved=_cloud_moved,
    take_away=_take_cloud,
)
