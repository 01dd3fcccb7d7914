"""A view on a sheet: its scale, and how far it was moved from where it lay by itself."""

from functools import partial
from typing import Any

from balken.drawing.paper.sizes import SCALES
from balken.model.edits.paper import lay_again, lay_view
from balken.model.names import Name, as_thing
from balken.model.paper import LaidView
from balken.model.project import Project
from balken.session.desk import Desk, Thing
from balken.session.rows import Button, Field, Line, Options, Rows, Title
from balken.units import parse_length

AS_IT_LAY = "0"


def _slip(desk: Desk, name: Name) -> Rows:
    key = as_thing(name).key
    now = laid_by_hand(desk.project, key)

    def put(**fields: Any) -> object:
        return desk.edit("view on a sheet", partial(lay_view, key=key, **fields))

    yield Title("View", "on a sheet")
    yield Line("Drag it by its title. Others on the sheet stay.", quiet=True)
    scales: list[tuple[str, float]] = [("by itself", 0.0)]
    scales += [(s.words, s.ratio) for s in SCALES[desk.system]]
    yield Options("scale", scales, now.scale, lambda v: put(scale=v))
    for word, axis in (("moved right, mm", 0), ("moved up, mm", 1)):
        yield Field(word, f"{now.by[axis]:g}", partial(_moved_by, desk, key, axis))
    if now != LaidView(key):
        yield Button(
            "As it lay by itself", lambda: desk.edit("view as it lay", partial(lay_again, key=key))
        )


def _moved_by(desk: Desk, key: str, axis: int, text: str) -> object:
    by = list(laid_by_hand(desk.project, key).by)
    by[axis] = parse_length(text, "metric", negative=True)
    return desk.edit("move a view", partial(lay_view, key=key, by=(by[0], by[1])))


def laid_by_hand(project: Project, key: str) -> LaidView:
    """What a person decided of a view; nothing where nothing was."""
    return next((v for v in project.paper.views if v.key == key), LaidView(key))


def drag_view(desk: Desk, key: str, right: float, up: float) -> object:
    """Move a view on its sheet further, mm of paper."""
    x, y = laid_by_hand(desk.project, key).by
    by = (round(x + right, 1), round(y + up, 1))
    return desk.edit("move a view", partial(lay_view, key=key, by=by))


def _take_back(desk: Desk, name: Name) -> None:
    desk.edit("view as it lay", partial(lay_again, key=as_thing(name).key))


VIEW = Thing(
    "view",
    "view",
    _slip,
    called=lambda project, name: f"view {as_thing(name).key}",
    take_away=_take_back,
)
