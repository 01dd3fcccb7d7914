"""An opening in a floor."""

from functools import partial
from math import atan2, degrees
from typing import Any

from balken.geometry.plane import add, dot, left, sub, unit
from balken.model.edits.floors import move_hole, remove_opening, set_opening
from balken.model.floors import FloorArea, FloorOpening
from balken.model.names import HostName, Name, as_thing
from balken.model.project import Project
from balken.model.walls import called
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Links, Options, Rows, Title
from balken.units import format_run, parse_angle, parse_length
from balken.works.building import Checked

USES = (("stair", "stair"), ("shaft", "shaft"), ("chimney", "chimney"), ("open space", "atrium"))


def _slip(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing)
    project, system = desk.project, desk.system
    key, hole = name.key, name.part
    found = _found(project, name)
    if found is None:
        yield Title("Opening", "", "gone")
        return
    floor, item = found
    yield Title(item.id, f"{item.use} opening", floor.name)

    def edit(words: str, **values: Any) -> object:
        return desk.edit(words, partial(set_opening, key=key, opening=hole, **values))

    yield Options("is for", list(USES), item.use, lambda v: edit("use of opening", use=v))
    if not item.corners:
        for i, word in enumerate(("length", "width")):

            def sized(t: str, i: int = i) -> object:
                value = parse_length(t, system)
                return edit(
                    "size of opening",
                    size=(value, item.size[1]) if i == 0 else (item.size[0], value),
                )

            yield Field(word, format_run(item.size[i], system), sized)
    walls: list[tuple[str, Any]] = [("the origin", "")] + [
        (called(x), x.id) for x in project.walls if not x.bulge
    ]
    yield Options(
        "measured from",
        walls,
        item.wall,
        lambda v: desk.edit("tie an opening", partial(_tie, key=key, hole=hole, wall=v)),
    )
    for i, word in enumerate(("along it", "away from it") if item.wall else ("east", "north")):

        def placed(t: str, i: int = i) -> object:
            value = parse_length(t, system, negative=True)
            return edit(
                "place of opening", at=(value, item.at[1]) if i == 0 else (item.at[0], value)
            )

        yield Field(word, format_run(item.at[i], system), placed)
    yield Field("turned", f"{item.turn:g}", lambda t: edit("turn an opening", turn=parse_angle(t)))
    yield Field(
        "kept clear",
        format_run(item.clear, system),
        lambda t: edit("clear of opening", clear=parse_length(t, system)),
    )
    yield Button(
        "Close the opening",
        lambda: desk.edit("close an opening", partial(remove_opening, key=key, opening=hole)),
    )
    yield Links([("To the floor", lambda: desk.select(HostName("floor", key)))])


def _tie(project: Project, key: str, hole: str, wall: str) -> Project:
    """Measure an opening from a wall, or from the origin again; it stays where it is."""
    floor = next(f for f in project.floors if f.id == key)
    item = next(o for o in floor.openings if o.id == hole)
    by_id = {w.id: w for w in project.walls}
    at, turn = item.at, item.turn
    if item.wall:
        old = by_id[item.wall]
        way = unit(sub(old.end, old.start))
        at = add(add(old.start, way, at[0]), left(way), at[1])
        turn += _angle(way)
    if wall:
        way = unit(sub(by_id[wall].end, by_id[wall].start))
        off = sub(at, by_id[wall].start)
        at = (dot(off, way), dot(off, left(way)))
        turn -= _angle(way)
    turn = (turn + 180) % 360 - 180
    return set_opening(
        project, key, hole, wall=wall, at=(round(at[0], 6), round(at[1], 6)), turn=round(turn, 9)
    )


def _angle(way: tuple[float, float]) -> float:
    return degrees(atan2(way[1], way[0]))


def _found(project: Project, name: Name) -> tuple[FloorArea, FloorOpening] | None:
    thing = as_thing(name)
    return next(
        (
            (f, o)
            for f in project.floors
            if f.id == thing.key
            for o in f.openings
            if o.id == thing.part
        ),
        None,
    )


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    return f"{found[1].use} opening {found[1].id} of {found[0].name}" if found else ""


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_hole(base, as_thing(name).key, as_thing(name).part, pull.by)


def _take_away(desk: Desk, name: Name) -> None:
    thing = as_thing(name)
    change = partial(remove_opening, key=thing.key, opening=thing.part)
    if desk.edit("close an opening", change):
        desk.select(HostName("floor", thing.key))


HOLE = Thing(
    "hole",
    "opening in a floor",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=lambda project, name: HostName("floor", as_thing(name).key),
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
