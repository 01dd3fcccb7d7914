"""A skylight, dormer or chimney in a roof."""

from functools import partial
from typing import Any

from balken.model.edits.roofs import move_roof_opening, remove_roof_opening, set_roof_opening
from balken.model.names import HostName, Name, as_thing
from balken.model.project import Project
from balken.model.roofs import RoofArea, RoofOpening
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Options, Rows, Title
from balken.session.things.roof_sides import roof_of
from balken.units import format_length, format_run, parse_length
from balken.works.building import Checked


def _slip(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing)
    key, opening = name.key, name.part
    found = _found(desk.project, name)
    if found is None:
        yield Title("Skylight", "", "gone")
        return
    roof, item = found
    system = desk.system
    yield Title(f"{item.use.capitalize()} {item.id}", f"in roof {roof.name}", "")

    def put(**what: Any) -> object:
        return desk.edit("skylight", partial(set_roof_opening, key=key, opening=opening, **what))

    yield Options(
        "for", [(x, x) for x in ("skylight", "dormer", "chimney")], item.use, lambda v: put(use=v)
    )

    yield Field(
        "across the slope",
        format_run(item.size[0], system),
        lambda t: put(size=(parse_length(t, system), item.size[1])),
    )
    yield Field(
        "up the slope",
        format_run(item.size[1], system),
        lambda t: put(size=(item.size[0], parse_length(t, system))),
    )
    yield Field(
        "middle, east",
        format_length(item.at[0], system),
        lambda t: put(at=(parse_length(t, system), item.at[1])),
    )
    yield Field(
        "middle, north",
        format_length(item.at[1], system),
        lambda t: put(at=(item.at[0], parse_length(t, system))),
    )
    yield Button("Take it away", lambda: _take_away(desk, name))


def _found(project: Project, name: Name) -> tuple[RoofArea, RoofOpening] | None:
    roof = roof_of(project, name)
    item = next((o for o in roof.openings if o.id == as_thing(name).part), None) if roof else None
    return (roof, item) if roof and item else None


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    return f"{found[1].use} {found[1].id} of roof {found[0].name}" if found else ""


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_roof_opening(base, as_thing(name).key, as_thing(name).part, pull.by)


def _take_away(desk: Desk, name: Name) -> None:
    thing = as_thing(name)
    change = partial(remove_roof_opening, key=thing.key, opening=thing.part)
    if desk.edit("take the skylight away", change):
        desk.select(HostName("roof", thing.key))


SKYLIGHT = Thing(
    "skylight",
    "skylight",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=lambda project, name: HostName("roof", as_thing(name).key),
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
