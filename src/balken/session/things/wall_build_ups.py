"""Build-ups of walls: all of them, and the layers of one."""

from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.wall_figure import build_up_figure
from balken.errors import BalkenError
from balken.model.edits.build_ups import (
    add_build_up,
    change_build_up,
    remove_build_up,
    walls_with,
    with_layer,
)
from balken.model.names import HostName, Name, ThingName, as_thing
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import LAYER_RANK, Layer, Module, WallBuildUp, name_of, short_name
from balken.session.desk import Desk, Thing, page
from balken.session.rows import Button, Field, Figure, Heading, Line, Link, Options, Rows, Title
from balken.session.things import stud_rows
from balken.takeoff.sheets import SHEETED, USUAL
from balken.units import format_length, format_run, parse_length


def build_ups(desk: Desk) -> Rows:
    """Fill the slip with all build-ups of walls."""
    project, system = desk.project, desk.system
    yield Title("Wall build-ups", "", str(len(project.wall_build_ups)))
    yield Line(
        "A build-up is called by its layers, from the outside in. Changing one asks which walls it"
        " changes.",
        quiet=True,
    )
    for body in project.wall_build_ups:
        yield Heading(short_name(body, system), walls_counted(len(walls_with(project, body.id))))
        yield Line(name_of(body, system), quiet=True)
        yield Button("Look at its layers", partial(desk.select, ThingName("build-up", body.id)))
    there = {(b.layers, b.module) for b in project.wall_build_ups}
    new = [b for b in first_build_ups(system) if (b.layers, b.module) not in there]
    if new:
        yield Heading("Take in")
        for body in new:
            yield Link(short_name(body, system), "take", partial(_take, desk, body))


def walls_counted(n: int) -> str:
    """So many walls, in words."""
    return "1 wall" if n == 1 else f"{n} walls"


def _take(desk: Desk, body: WallBuildUp) -> None:
    desk.edit("take a wall build-up", lambda p: add_build_up(p, body.layers, body.module)[0])
    desk.refresh()


def _one(desk: Desk, name: Name) -> Rows:
    """One build-up: its layers, and which walls a change reaches."""
    key = as_thing(name).key
    project, system = desk.project, desk.system
    body = next((b for b in project.wall_build_ups if b.id == key), None)
    if body is None:
        yield from build_ups(desk)
        return
    touched = walls_with(project, key)
    yield Title(short_name(body, system), "build-up")
    yield Line(name_of(body, system), quiet=True)
    yield Figure(build_up_figure(body, system))
    if touched:
        here = tuple(HostName("wall", k) for k in touched)
        yield Link("", f"select its {walls_counted(len(touched))}", lambda: desk.select_many(here))
    yield Heading("A change reaches", walls_counted(len(touched)))
    mine = tuple(k for k in desk.kept_walls if k in touched)
    scopes: list[tuple[str, Any]] = [(f"all {walls_counted(len(touched))}", "all")]
    if mine and len(mine) < len(touched):
        scopes.append((f"only the {walls_counted(len(mine))} selected before", "these"))
    scopes.append(("none: it makes a copy", "copy"))
    if desk.scope not in [s for _, s in scopes]:
        desk.scope = "all"
    yield Options("reaches", scopes, desk.scope, lambda v: setattr(desk, "scope", v))

    def change(layers: tuple[Layer, ...], module: Module | None) -> object:
        keys = mine if desk.scope == "these" else ()
        before = {b.id for b in desk.project.wall_build_ups}
        edit = partial(
            change_build_up, key=key, layers=layers, module=module, scope=desk.scope, walls=keys
        )
        made = desk.edit("change build-up", edit)
        new = [b.id for b in desk.project.wall_build_ups if b.id not in before]
        if made and new:
            desk.select(ThingName("build-up", new[-1]))
        return made

    for i, layer in enumerate(body.layers):
        yield from _layer(desk, body, i, layer, lambda layers: change(layers, body.module))
    yield Heading("Another layer, inside")
    yield Field(
        "material",
        "",
        lambda t: change(
            (*body.layers, Layer(t.strip()[:80], 12.7 if system == "us" else 12.5, "lining")),
            body.module,
        ),
    )
    yield from stud_rows.of_build_up(desk, body)
    yield from _module(desk, body, change)
    yield Button("All build-ups", lambda: desk.select(page("build-ups")))
    if not touched:
        yield Button(
            "Take it out of the list",
            lambda: desk.edit("drop build-up", partial(remove_build_up, key=key)),
        )


def _layer(
    desk: Desk,
    body: WallBuildUp,
    i: int,
    layer: Layer,
    change: Callable[[tuple[Layer, ...]], object],
) -> Rows:
    system = desk.system
    where = "outermost" if i == 0 else "innermost" if i == len(body.layers) - 1 else ""
    yield Heading(f"Layer {i + 1}", where)
    yield Field(
        "material",
        layer.material,
        lambda t: change(with_layer(body, i, replace(layer, material=t.strip()[:80]))),
    )
    yield Field(
        "thickness",
        format_run(layer.thickness, system),
        lambda t: change(with_layer(body, i, replace(layer, thickness=parse_length(t, system)))),
    )
    roles = [(r, r) for r in LAYER_RANK]
    yield Options(
        "is", roles, layer.role, lambda v: change(with_layer(body, i, replace(layer, role=v)))
    )
    if layer.role in SHEETED:
        yield from _sheets(desk, body, i, layer, change)
    if len(body.layers) > 1:
        yield Link("", "take this layer out", lambda: change(with_layer(body, i, None)))


def _sheets(
    desk: Desk,
    body: WallBuildUp,
    i: int,
    layer: Layer,
    change: Callable[[tuple[Layer, ...]], object],
) -> Rows:
    """The sheets of a layer: their size and how they are laid."""
    system = desk.system
    usual = USUAL[system]
    now = layer.sheet if all(layer.sheet) else (usual.width, usual.length)

    def size(text: str) -> object:
        width, _, length = text.lower().replace("×", "x").partition("x")
        if not length:
            raise BalkenError(f"Write width x length, such as {SIZES[system]}.")
        typed = parse_length(width, system), parse_length(length, system)
        return change(with_layer(body, i, replace(layer, sheet=typed)))

    words = " × ".join(format_length(x, system) for x in now)
    yield Field("sheets", words, size, example=f"width x length, {SIZES[system]}")
    ways: list[tuple[str, Any]] = [("as usual", ""), ("upright", "upright"), ("lying", "lying")]
    yield Options(
        "laid", ways, layer.laid, lambda v: change(with_layer(body, i, replace(layer, laid=v)))
    )


SIZES = {"us": "4' x 9'", "metric": "1250 x 2800"}


def _module(
    desk: Desk, body: WallBuildUp, change: Callable[[tuple[Layer, ...], Module | None], object]
) -> Rows:
    system = desk.system
    yield Heading("Block module")
    first = (
        Module(200.0, 200.0, 10.0)
        if system == "metric"
        else Module(8 * 25.4, 8 * 25.4, 0.375 * 25.4)
    )
    ways = [("none", False), ("laid in blocks", True)]
    yield Options(
        "laid", ways, body.module is not None, lambda v: change(body.layers, first if v else None)
    )
    if body.module is None:
        return
    module = body.module

    def typed(field: str) -> Callable[[str], object]:
        return lambda t: change(body.layers, replace(module, **{field: parse_length(t, system)}))

    for field in ("length", "course", "joint"):
        yield Field(field, format_run(getattr(module, field), system), typed(field))


BUILD_UP = Thing("build-up", "build-up of walls", _one)
