"""A load that was drawn: what it is, where, and how much."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any, Final

from balken.drawing.load_marks import SHOW
from balken.loads.drawn import size_of
from balken.model.cases import CASE_WORDS, PRESSING
from balken.model.drawn_loads import DrawnLoad, Shape
from balken.model.edits.drawn_loads import move_load, remove_load, set_load
from balken.model.names import HostName, Name, ThingName, as_host
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Fact, Field, Heading, Line, Options, Rows, Title
from balken.session.things.fields import level_options
from balken.session.things.load_way import load_way
from balken.units import (
    System,
    format_force,
    format_length,
    parse_area_load,
    parse_force,
    parse_length,
    parse_line_load,
)
from balken.works.building import Checked

READ: Final[dict[Shape, Callable[[str, System], float]]] = {
    "point": parse_force,
    "line": parse_line_load,
    "area": parse_area_load,
}


def case_options(now: str, choose: Callable[[Any], object]) -> Options:
    """What causes a load, one of the cases that press."""
    return Options("is", [(CASE_WORDS[c], c) for c in PRESSING], now, choose)


def _slip(desk: Desk, name: Name) -> Rows:
    item = _found(desk.project, name)
    if item is None:
        yield Title("Load", "", "gone")
        return
    system = desk.system
    yield Title(item.name, f"{item.shape} load", item.id)
    put = partial(_put, desk, item)
    yield Field("called", item.name, lambda t: put(name=t.strip() or item.name))
    yield case_options(item.case, lambda v: put(case=v))
    yield Field(
        "amount",
        SHOW[item.shape](item.amount, system),
        lambda t: put(amount=READ[item.shape](t, system)),
    )
    yield Fact("in all", format_force(item.amount * size_of(item), system))
    yield level_options(desk.project, "lies on", item.level, lambda v: put(level=v))
    yield Heading("Where")
    yield from _places(desk, item)
    yield from _onto(desk, item)
    yield Button("Take it away", partial(_take_away, desk, name))


def _put(desk: Desk, item: DrawnLoad, **fields: Any) -> object:
    return desk.edit("load", partial(set_load, key=item.id, **fields))


def _places(desk: Desk, item: DrawnLoad) -> Rows:
    for n, place in enumerate(item.places):
        for axis, word in enumerate(("east", "north")):

            def move(text: str, n: int = n, axis: int = axis) -> object:
                spot = list(item.places[n])
                spot[axis] = parse_length(text, desk.system, negative=True)
                places = (*item.places[:n], (spot[0], spot[1]), *item.places[n + 1 :])
                return _put(desk, item, places=places)

            which = "" if len(item.places) == 1 else f"{n + 1}, "
            yield Field(f"{which}{word}", format_length(place[axis], desk.system), move)


def _onto(desk: Desk, item: DrawnLoad) -> Rows:
    """Who takes it over, down to the soil."""
    name = HostName("load", item.id)
    if not any(source == name for source, _, _ in desk.checked.path.handed):
        yield Line("Nothing lies under it here that takes it over.", quiet=True)
    yield from load_way(desk, name)


def _found(project: Project, name: Name) -> DrawnLoad | None:
    return next((x for x in project.loads if x.id == as_host(name).key), None)


def _called(project: Project, name: Name) -> str:
    item = _found(project, name)
    return item.name if item else ""


def _tier(project: Project, name: Name) -> Name | None:
    """The floor or roof it lies on, else the walls that stand on its level."""
    item = _found(project, name)
    if item is None:
        return None
    floors = (HostName("floor", f.id) for f in project.floors if f.level == item.level)
    roofs = (HostName("roof", r.id) for r in project.roofs if r.plate == item.level)
    return next(floors, None) or next(roofs, None) or ThingName("walls", item.level)


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    one = _found(checked.project, name)
    return [HostName("load", x.id) for x in checked.project.loads if one and x.case == one.case]


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_load(base, as_host(name).key, pull.by)


def _take_away(desk: Desk, name: Name) -> None:
    if desk.edit("take the load away", partial(remove_load, key=as_host(name).key)):
        desk.select(None)


LOAD = Thing(
    "load",
    "load",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=_tier,
    alike=_alike,
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
