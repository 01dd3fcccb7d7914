"""The walls of a storey: what they are built up of, and copying them to another level."""

from functools import partial
from typing import Any

from balken.model.names import Name, ThingName, as_thing
from balken.model.project import Project, column, level
from balken.model.walls import Wall, short_name, wall_length
from balken.session.desk import Desk, Thing, page
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Options, Rows, Title
from balken.site.storeys import copy_storey
from balken.units import format_length, format_run, parse_length

MOST = 40


def storey(desk: Desk, base: str) -> Rows:
    """Fill the slip for the walls on a level."""
    project, system = desk.project, desk.system
    walls = [x for x in project.walls if x.base == base]
    openings = sum(len(x.openings) for x in walls)
    yield Line(
        f"{len(walls)} walls · {openings} openings ·"
        f" {format_length(sum(wall_length(x) for x in walls), system)} in all"
    )
    if not walls:
        yield Line(
            "Nothing stands here yet. W draws walls: click or type a length, Tab, an angle.",
            quiet=True,
        )
        yield Line("U makes a grid from typed bays.", quiet=True)
    else:
        yield Line(
            "Click a wall to see it; drag it square to itself, or drag and type a distance.",
            quiet=True,
        )
    yield from _used(desk, walls)
    if walls:
        yield from copying(desk, base)
        yield Heading("Walls")
    for x in walls[:MOST]:
        yield Fact(
            x.name,
            f"{format_length(wall_length(x), system)}, {format_run(x.thickness, system)} thick",
        )
    if len(walls) > MOST:
        yield Line(f"and {len(walls) - MOST} more", quiet=True)


def _used(desk: Desk, walls: list[Wall]) -> Rows:
    project = desk.project
    yield Heading("Built up of")
    for body in project.wall_build_ups:
        count = sum(x.build_up == body.id for x in walls)
        yield Link(
            short_name(body, project.system),
            f"{count} here",
            partial(desk.select, ThingName("build-up", body.id)),
        )
    plain = sum(not x.build_up for x in walls)
    if plain:
        yield Fact("plain", f"{plain} walls whose layers are not known")
    yield Button("Build-ups", lambda: desk.select(page("build-ups")))


def copying(desk: Desk, base: str) -> Rows:
    """Offer to copy a storey's walls to another level."""
    project, system = desk.project, desk.system
    others = [
        (x.name, x.id)
        for x in column(project)
        if x.id != base and x.role in ("floor", "slab", "footing_top")
    ]
    yield Heading("Copy this storey")
    if not others:
        yield Line("There is no other floor. Copy the level first.", quiet=True)
        return
    up = next(
        (x for x in others if level(project, x[1]).elevation > level(project, base).elevation),
        others[0],
    )
    chosen: dict[str, Any] = {"to": up[1], "out": format_run(0.0, system), "openings": True}
    yield Options("to level", others, up[1], lambda v: chosen.__setitem__("to", v))

    def out(text: str) -> None:
        parse_length(text, system, negative=True)
        chosen["out"] = text

    yield Field("moved out by", chosen["out"], out, heard=partial(chosen.__setitem__, "out"))
    ways = [("with doors and windows", True), ("without", False)]
    yield Options("openings", ways, True, lambda v: chosen.__setitem__("openings", v))

    def copy(project: Project) -> Project:
        return copy_storey(
            project,
            base=base,
            to=chosen["to"],
            outwards=parse_length(chosen["out"], system, negative=True),
            openings=chosen["openings"],
        )

    def go() -> None:
        if desk.edit("copy storey", copy):
            desk.work_in(ThingName("walls", str(chosen["to"])))

    yield Button("Copy the walls", go)


def _page(desk: Desk, name: Name) -> Rows:
    base = as_thing(name).key
    yield Title("Copy a storey", level(desk.project, base).name)
    yield from copying(desk, base)


def _is_level(project: Project, name: Name) -> bool:
    return any(x.id == as_thing(name).key for x in project.levels)


STOREY = Thing("storey", "storey", _page, there=_is_level)
