"""A wall: its slip, alone and with others; how it is moved and taken away."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from balken.drawing.wall_elevation import frame_figure, pieces_of
from balken.drawing.wall_figure import wall_figure
from balken.drawing.wall_sheets import sheet_words
from balken.errors import BalkenError
from balken.geometry.plane import Point, dot, left
from balken.model.cases import CASE_NAMES, CASE_WORDS
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.walls import (
    move_wall,
    offset_walls,
    set_build_up_of,
    set_length,
    set_walls,
    top_over,
)
from balken.model.names import HostName, MemberName, Name, ThingName, as_host, keys_of
from balken.model.project import Project, column, level, wall, wall_build_up, wall_top
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import (
    PlacedBy,
    Wall,
    WallBuildUp,
    called,
    direction_of,
    name_of,
    outside_of,
    short_name,
    wall_length,
)
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import (
    Button,
    Fact,
    Field,
    Figure,
    Heading,
    Line,
    Link,
    Options,
    Rows,
    Title,
)
from balken.session.things import stud_rows
from balken.session.things.fields import level_options, various
from balken.session.things.load_way import load_way
from balken.session.things.members import (
    alike_members,
    called_member,
    piece_moved,
    piece_ways,
    slip_or,
    take_away,
)
from balken.session.things.site_wind import wall_rows
from balken.session.things.wall_opinions import opinion_rows
from balken.takeoff.lifts import panels_of
from balken.takeoff.sheets import sheets_on
from balken.units import format_force, format_length, format_run, parse_length
from balken.works.building import Checked

PLACES: tuple[PlacedBy, ...] = (
    "outer face",
    "core outer",
    "core centre",
    "core inner",
    "inner face",
)


def _one(desk: Desk, key: str) -> Rows:
    project, system = desk.project, desk.system
    item = wall(project, key)
    yield Title(item.name, "wall")
    body = wall_build_up(project, item)
    yield Line(
        name_of(body, system)
        if body
        else f"{format_run(item.thickness, system)} thick, layers not known"
    )
    host = HostName("wall", key)
    framed = bool(pieces_of(desk.checked, host))
    yield Figure(frame_figure(desk.checked, host) if framed else wall_figure(project, item))
    keys = (key,)

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_walls, keys=keys, **fields))

    yield Field("name", item.name, lambda t: edit("rename wall", name=t.strip()[:200] or item.name))
    if not item.bulge:
        yield Field(
            "length",
            format_length(wall_length(item), system),
            lambda t: desk.edit(
                "length of wall", partial(set_length, key=key, length=parse_length(t, system))
            ),
        )
    yield build_up_options(
        desk,
        item.build_up,
        lambda v: desk.edit("build-up of wall", partial(_give, keys=keys, chosen=v)),
    )
    if body is None:
        yield Field(
            "thickness",
            format_run(item.thickness, system),
            lambda t: edit("thickness", thickness=parse_length(t, system)),
        )
    else:
        places = [(p, p) for p in PLACES]

        def by(v: PlacedBy) -> object:
            return desk.edit(
                "place wall by", partial(set_build_up_of, keys=keys, build_up=item.build_up, by=v)
            )

        yield Options("line marks", places, item.by, by)
    yield Heading("Levels")
    yield level_options(
        desk.project, "stands on", item.base, lambda v: edit("base of wall", base=v)
    )
    yield level_options(desk.project, "reaches", item.top, lambda v: edit("top of wall", top=v))
    for words, field in (("foot above it", "base_offset"), ("top above it", "top_offset")):
        yield Field(
            words, format_run(getattr(item, field), system), partial(_offset, desk, keys, field)
        )
    yield Field(
        "lapped down",
        format_run(item.lap, system),
        lambda t: edit("lap", lap=parse_length(t, system)),
    )
    yield from stud_rows.of_wall(desk, item)
    yield Heading("Place")

    def move(text: str) -> object:
        by_ = parse_length(text, system, negative=True)
        return desk.edit(f"move {called(item)}", partial(move_wall, key=key, by=by_))

    yield Field("to its left by", format_run(0.0, system), move)
    yield Line(
        "Walls over and under it move along; a minus moves it right.", quiet=True, small=True
    )
    ways = [("by rule: outside walls do", None), ("yes", True), ("no", False)]
    yield Options("braces", ways, item.braces, lambda v: edit("whether a wall braces", braces=v))
    yield from _over(desk, item)
    yield from _facts(desk, item)


def _panels(desk: Desk, item: Wall) -> Rows:
    """The panels a wall is lifted in, by the order in which they are set."""
    system = desk.system
    mine = [p for p in panels_of(desk.checked) if p.wall == item.id]
    if not mine:
        return
    yield Heading("Lifted in panels", "in order of setting")
    for p in mine:
        along, up = (format_length(x, system) for x in (p.middle[0] - p.low, p.middle[1]))
        words = f"{format_length(p.length, system)}, {format_force(p.weight, system)}"
        yield Fact(p.mark, f"{words}; its middle {along} along, {up} up")


def _over(desk: Desk, item: Wall) -> Rows:
    """Offer to set a wall over (or under) this one: flush, or moved out or in."""
    project = desk.project
    floors = [
        (x.name, x.id)
        for x in column(project)
        if x.role in ("floor", "slab", "footing_top") and x.id != item.base
    ]
    if not floors or item.bulge:
        return
    yield Heading("One over or under it")
    up = next(
        (f for f in floors if level(project, f[1]).elevation > level(project, item.base).elevation),
        floors[0],
    )
    chosen = {"on": up[1], "by": format_run(0.0, project.system)}
    yield Options("stands on", floors, up[1], lambda v: chosen.__setitem__("on", v))

    def go(text: str) -> object:
        by = parse_length(text, project.system, negative=True)
        out = -by if outside_of(item) == "right" else by
        base = chosen["on"]
        change = partial(
            offset_walls, keys=(item.id,), by=out, base=base, top=top_over(project, base)
        )
        return desk.edit("set a wall over another", change)

    yield Field("moved out by", chosen["by"], go, heard=partial(chosen.__setitem__, "by"))
    yield Button("Set it there", lambda: _said(desk, go, chosen["by"]))


def _said(desk: Desk, act: Callable[[str], object], text: str) -> None:
    try:
        act(text)
    except BalkenError as error:
        desk.say(str(error))


def _offset(desk: Desk, keys: tuple[str, ...], field: str, text: str) -> object:
    value = parse_length(text, desk.system, negative=True)
    return desk.edit(field.replace("_", " "), lambda p: set_walls(p, keys, **{field: value}))


def _facts(desk: Desk, item: Wall) -> Rows:
    project, system = desk.project, desk.system
    yield Heading("Facts")
    yield Fact("outer face", f"looks {outside_of(item)} along the wall; X turns it")
    yield Fact("top at", format_length(wall_top(project, item), system))
    taken = desk.checked.path.onto.get(HostName("wall", item.id))
    if taken:
        yield Fact(
            "takes over",
            ", ".join(
                f"{format_force(f, system)} {CASE_WORDS[c]}"
                for c, f in zip(CASE_NAMES, taken)
                if abs(f) > 1
            ),
        )
    yield from load_way(desk, HostName("wall", item.id))
    yield from wall_rows(desk, item.id)
    yield from opinion_rows(desk, item.id)
    yield from _panels(desk, item)
    layers = sheets_on(desk.checked, item)
    if layers:
        yield Heading("Sheets and what lies between studs")
    for layer in layers:
        yield Line(f"{sheet_words(layer, system)}.", small=True)
    for hole in item.openings:
        size = f"{format_length(hole.width, system)} × {format_length(hole.height, system)}"
        yield Link(
            hole.kind,
            f"{size}, sill {format_run(hole.sill, system)}",
            partial(desk.select, ThingName("opening", item.id, hole.id)),
        )
    if item.source:
        yield Fact("architect’s id", item.source)


def build_up_options(desk: Desk, now: str | None, change: Callable[[Any], object]) -> Options:
    """Offer the project's build-ups and those of the catalogue that it lacks; ``now`` None where
    walls differ in theirs."""
    project = desk.project
    values: list[tuple[str, Any]] = [
        (short_name(b, project.system), b.id) for b in project.wall_build_ups
    ]
    there = {(b.layers, b.module) for b in project.wall_build_ups}
    values += [
        (f"{short_name(b, project.system)} (new)", b)
        for b in first_build_ups(project.system)
        if (b.layers, b.module) not in there
    ]
    if not now:
        values = [("various" if now is None else "layers not known", ""), *values]
    return Options("built up of", values, now or "", lambda v: change(v) if v else None)


def _give(project: Project, keys: tuple[str, ...], chosen: str | WallBuildUp) -> Project:
    if isinstance(chosen, WallBuildUp):
        project, chosen = add_build_up(project, chosen.layers, chosen.module)
    return set_build_up_of(project, keys, chosen)


def _several(desk: Desk, names: tuple[Name, ...]) -> Rows:
    """The fields that selected walls share."""
    keys = tuple(keys_of(names, "wall"))
    project, system = desk.project, desk.system
    walls = [wall(project, k) for k in keys]

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_walls, keys=keys, **fields))

    yield build_up_options(
        desk,
        various(x.build_up for x in walls),
        lambda v: desk.edit("build-up of walls", partial(_give, keys=keys, chosen=v)),
    )
    yield level_options(
        desk.project,
        "stand on",
        various(x.base for x in walls),
        lambda v: edit("base of walls", base=v),
    )
    yield level_options(
        desk.project, "reach", various(x.top for x in walls), lambda v: edit("top of walls", top=v)
    )
    for name, field in (("feet above it", "base_offset"), ("tops above it", "top_offset")):
        value = various(getattr(x, field) for x in walls)
        yield Field(
            name,
            "various" if value is None else format_run(value, system),
            partial(_offset, desk, keys, field),
        )
    lap = various(x.lap for x in walls)
    yield Field(
        "lapped down",
        "various" if lap is None else format_run(lap, system),
        lambda t: edit("lap", lap=parse_length(t, system)),
    )
    yield Fact("in all", format_length(sum(wall_length(x) for x in walls), system))


def _found(project: Project, name: Name) -> Wall | None:
    return next((w for w in project.walls if w.id == as_host(name).key), None)


def _called(project: Project, name: Name) -> str:
    if isinstance(name, MemberName):
        return called_member(project, name)
    found = _found(project, name)
    return f"{called(found)}, {format_run(found.thickness, project.system)}" if found else ""


def walls_on_base(project: Project, name: Name) -> Name | None:
    """The walls of the level that a wall, or an opening of it, stands on."""
    key = name.key if isinstance(name, ThingName) else as_host(name).key
    return next((ThingName("walls", w.base) for w in project.walls if w.id == key), None)


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    """Walls of one level and build-up, or thickness; of a piece those like it in its wall."""
    if isinstance(name, MemberName):
        return alike_members(checked, name)
    one = _found(checked.project, name)
    return [
        HostName("wall", w.id)
        for w in checked.project.walls
        if one and (w.base, w.build_up, w.thickness) == (one.base, one.build_up, one.thickness)
    ]


def _here(desk: Desk) -> Sequence[Name]:
    return [HostName("wall", w.id) for w in desk.project.walls if w.base == desk.base]


def _across(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """A wall is dragged square to itself; its pieces go with it, some of which go along it by
    themselves."""
    if isinstance(name, MemberName):
        return piece_ways(checked, name, at)
    return DragWay(left(direction_of(wall(checked.project, as_host(name).key))))


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    if isinstance(name, MemberName):
        return piece_moved(checked, base, name, pull)
    key = as_host(name).key
    return move_wall(base, key, dot(pull.by, left(direction_of(wall(base, key)))))


WALL = Thing(
    "wall",
    "wall",
    slip_or(_one),
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=walls_on_base,
    alike=_alike,
    here=_here,
    ways=_across,
    moved=_moved,
    several=_several,
    take_away=take_away,
)
