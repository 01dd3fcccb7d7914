"""Slips of walls, openings, wall build-ups, a storey that is copied, and the block module."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace

from balken.desk.names import page
from balken.desk.slip_many import level_options, various
from balken.drawing.wall_figure import build_up_figure, opening_figure, wall_figure
from balken.errors import BalkenError
from balken.model.cases import CASE_NAMES, CASE_WORDS
from balken.model.edits.build_ups import (
    add_build_up,
    change_build_up,
    remove_build_up,
    walls_with,
    with_layer,
)
from balken.model.edits.openings import copy_opening, find_opening, mirror_opening, set_opening
from balken.model.edits.walls import (
    move_wall,
    offset_walls,
    set_build_up_of,
    set_length,
    set_walls,
    top_over,
)
from balken.model.masonry import SLACK
from balken.model.names import HostName, ThingName
from balken.model.project import Project, column, level, wall, wall_build_up, wall_top
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import (
    LAYER_RANK,
    Layer,
    Module,
    PlacedBy,
    Wall,
    WallBuildUp,
    called,
    name_of,
    outside_of,
    short_name,
    wall_length,
)
from balken.recall import remembered
from balken.site.block_module import mend_module, module_lengths, off_heights, words_of
from balken.site.storeys import copy_storey
from balken.units import format_force, format_length, format_run, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

PLACES: tuple[PlacedBy, ...] = (
    "outer face",
    "core outer",
    "core centre",
    "core inner",
    "inner face",
)
MOST = 40


def storey(w: "Window", base: str) -> None:
    """Fill the slip for the walls on a level."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    walls = [x for x in project.walls if x.base == base]
    openings = sum(len(x.openings) for x in walls)
    slip.line(
        f"{len(walls)} walls · {openings} openings ·"
        f" {format_length(sum(wall_length(x) for x in walls), system)} in all"
    )
    if not walls:
        slip.line(
            "Nothing stands here yet. W draws walls: click or type a length, Tab, an angle.",
            quiet=True,
        )
        slip.line("U makes a grid from typed bays.", quiet=True)
    else:
        slip.line(
            "Click a wall to see it; drag it square to itself, or drag and type a distance.",
            quiet=True,
        )
    _used(w, walls)
    if walls:
        copying(w, base)
        slip.heading("Walls")
    for x in walls[:MOST]:
        slip.fact(
            x.name,
            f"{format_length(wall_length(x), system)}, {format_run(x.thickness, system)} thick",
        )
    if len(walls) > MOST:
        slip.line(f"and {len(walls) - MOST} more", quiet=True)


def _used(w: "Window", walls: list[Wall]) -> None:
    project = w.building.project
    w.slip.heading("Built up of")
    for body in project.wall_build_ups:
        count = sum(x.build_up == body.id for x in walls)
        w.slip.link(
            short_name(body, project.system),
            f"{count} here",
            partial(w.select, ThingName("build-up", body.id)),
        )
    plain = sum(not x.build_up for x in walls)
    if plain:
        w.slip.fact("plain", f"{plain} walls whose layers are not known")
    w.slip.button("Build-ups", lambda: w.select(page("build-ups")))


def copying(w: "Window", base: str) -> None:
    """Offer to copy a storey's walls to another level."""
    project, system = w.building.project, w.building.project.system
    others = [
        (x.name, x.id)
        for x in column(project)
        if x.id != base and x.role in ("floor", "slab", "footing_top")
    ]
    w.slip.heading("Copy this storey")
    if not others:
        w.slip.line("There is no other floor. Copy the level first.", quiet=True)
        return
    up = next(
        (x for x in others if level(project, x[1]).elevation > level(project, base).elevation),
        others[0],
    )
    chosen: dict[str, Any] = {"to": up[1], "out": 0.0, "openings": True}
    w.slip.options("to level", others, up[1], lambda v: chosen.__setitem__("to", v))

    def out(text: str) -> bool:
        chosen["out"] = parse_length(text, system, negative=True)
        return True

    field = w.slip.field("moved out by", format_run(0.0, system), out)
    field.textEdited.connect(lambda t: _quietly(out, t))
    ways = [("with doors and windows", True), ("without", False)]
    w.slip.options("openings", ways, True, lambda v: chosen.__setitem__("openings", v))

    def go() -> None:
        change = partial(
            copy_storey,
            base=base,
            to=chosen["to"],
            outwards=chosen["out"],
            openings=chosen["openings"],
        )
        if w.edit("copy storey", change):
            w.work_in(ThingName("walls", str(chosen["to"])))

    w.slip.button("Copy the walls", go)


def _quietly(read: Callable[[str], object], text: str) -> None:
    try:
        read(text)
    except BalkenError:
        return  # said when Enter is pressed


def one_wall(w: "Window", key: str) -> None:
    """Fill the slip for one wall."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    item = wall(project, key)
    slip.title(item.name, "wall")
    body = wall_build_up(project, item)
    slip.line(
        name_of(body, system)
        if body
        else f"{format_run(item.thickness, system)} thick, layers not known"
    )
    slip.figure(wall_figure(project, item))
    keys = (key,)

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_walls, keys=keys, **fields))

    slip.field("name", item.name, lambda t: edit("rename wall", name=t.strip()[:200] or item.name))
    if not item.bulge:
        slip.field(
            "length",
            format_length(wall_length(item), system),
            lambda t: w.edit(
                "length of wall", partial(set_length, key=key, length=parse_length(t, system))
            ),
        )
    build_up_options(
        w, item.build_up, lambda v: w.edit("build-up of wall", partial(_give, keys=keys, chosen=v))
    )
    if body is None:
        slip.field(
            "thickness",
            format_run(item.thickness, system),
            lambda t: edit("thickness", thickness=parse_length(t, system)),
        )
    else:
        places = [(p, p) for p in PLACES]

        def by(v: PlacedBy) -> object:
            return w.edit(
                "place wall by", partial(set_build_up_of, keys=keys, build_up=item.build_up, by=v)
            )

        slip.options("line marks", places, item.by, by)
    slip.heading("Levels")
    level_options(w, "stands on", item.base, lambda v: edit("base of wall", base=v))
    level_options(w, "reaches", item.top, lambda v: edit("top of wall", top=v))
    for name, field in (("foot above it", "base_offset"), ("top above it", "top_offset")):
        slip.field(name, format_run(getattr(item, field), system), partial(_offset, w, keys, field))
    slip.field(
        "lapped down",
        format_run(item.lap, system),
        lambda t: edit("lap", lap=parse_length(t, system)),
    )
    slip.heading("Place")

    def move(text: str) -> object:
        by_ = parse_length(text, system, negative=True)
        return w.edit(f"move {called(item)}", partial(move_wall, key=key, by=by_))

    slip.field("to its left by", format_run(0.0, system), move)
    slip.line("Walls over and under it move along; a minus moves it right.", quiet=True, small=True)
    _over(w, item)
    _facts(w, item)


def _over(w: "Window", item: Wall) -> None:
    """Offer to set a wall over (or under) this one: flush, or moved out or in."""
    project = w.building.project
    floors = [
        (x.name, x.id)
        for x in column(project)
        if x.role in ("floor", "slab", "footing_top") and x.id != item.base
    ]
    if not floors or item.bulge:
        return
    w.slip.heading("One over or under it")
    up = next(
        (f for f in floors if level(project, f[1]).elevation > level(project, item.base).elevation),
        floors[0],
    )
    chosen = {"on": up[1]}
    w.slip.options("stands on", floors, up[1], lambda v: chosen.__setitem__("on", v))

    def go(text: str) -> object:
        by = parse_length(text, project.system, negative=True)
        out = -by if outside_of(item) == "right" else by
        base = chosen["on"]
        change = partial(
            offset_walls, keys=(item.id,), by=out, base=base, top=top_over(project, base)
        )
        return w.edit("set a wall over another", change)

    field = w.slip.field("moved out by", format_run(0.0, project.system), go)
    w.slip.button("Set it there", lambda: _said(w, go, field.text()))


def _said(w: "Window", act: Callable[[str], object], text: str) -> None:
    try:
        act(text)
    except BalkenError as error:
        w.say(str(error))


def _offset(w: "Window", keys: tuple[str, ...], field: str, text: str) -> object:
    value = parse_length(text, w.building.project.system, negative=True)
    return w.edit(field.replace("_", " "), lambda p: set_walls(p, keys, **{field: value}))


def _facts(w: "Window", item: Wall) -> None:
    slip, project, system = w.slip, w.building.project, w.building.project.system
    slip.heading("Facts")
    slip.fact("outer face", f"looks {outside_of(item)} along the wall; X turns it")
    slip.fact("top at", format_length(wall_top(project, item), system))
    taken = w.building.checked.path.onto.get(HostName("wall", item.id))
    if taken:
        slip.fact(
            "takes over",
            ", ".join(
                f"{format_force(f, system)} {CASE_WORDS[c]}"
                for c, f in zip(CASE_NAMES, taken)
                if f > 1
            ),
        )
    for hole in item.openings:
        size = f"{format_length(hole.width, system)} × {format_length(hole.height, system)}"
        slip.link(
            hole.kind,
            f"{size}, sill {format_run(hole.sill, system)}",
            partial(w.select, ThingName("opening", item.id, hole.id)),
        )
    if item.source:
        slip.fact("architect’s id", item.source)


def build_up_options(w: "Window", now: str | None, change: Callable[[Any], object]) -> None:
    """Offer the project's build-ups and those of the catalogue that it lacks; ``now`` None where
    walls differ in theirs."""
    project = w.building.project
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
    w.slip.options("built up of", values, now or "", lambda v: change(v) if v else None)


def _give(project: Project, keys: tuple[str, ...], chosen: str | WallBuildUp) -> Project:
    if isinstance(chosen, WallBuildUp):
        project, chosen = add_build_up(project, chosen.layers, chosen.module)
    return set_build_up_of(project, keys, chosen)


def several_walls(w: "Window", keys: tuple[str, ...]) -> None:
    """Add the fields that selected walls share."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    walls = [wall(project, k) for k in keys]

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_walls, keys=keys, **fields))

    build_up_options(
        w,
        various(x.build_up for x in walls),
        lambda v: w.edit("build-up of walls", partial(_give, keys=keys, chosen=v)),
    )
    level_options(
        w, "stand on", various(x.base for x in walls), lambda v: edit("base of walls", base=v)
    )
    level_options(w, "reach", various(x.top for x in walls), lambda v: edit("top of walls", top=v))
    for name, field in (("feet above it", "base_offset"), ("tops above it", "top_offset")):
        value = various(getattr(x, field) for x in walls)
        slip.field(
            name,
            "various" if value is None else format_run(value, system),
            partial(_offset, w, keys, field),
        )
    lap = various(x.lap for x in walls)
    slip.field(
        "lapped down",
        "various" if lap is None else format_run(lap, system),
        lambda t: edit("lap", lap=parse_length(t, system)),
    )
    slip.fact("in all", format_length(sum(wall_length(x) for x in walls), system))


def one_opening(w: "Window", name: ThingName) -> None:
    """Fill the slip for one opening."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    item, hole = find_opening(project, name)
    slip.title(hole.kind.capitalize(), f"in {called(item)}")
    slip.figure(opening_figure(project, item, hole.id))

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_opening, name=name, **fields))

    def length(
        words: str, make: Callable[[float], dict[str, Any]], *, negative: bool = False
    ) -> Callable[[str], object]:
        return lambda t: edit(words, **make(parse_length(t, system, negative=negative)))

    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    slip.options("is a", kinds, hole.kind, lambda v: edit("kind of opening", kind=v))
    rest = wall_length(item) - hole.at - hole.width
    slip.field(
        "from start", format_length(hole.at, system), length("move opening", lambda v: {"at": v})
    )
    slip.field(
        "from end",
        format_length(rest, system),
        length("move opening", lambda v: {"at": wall_length(item) - v - hole.width}),
    )
    if hole.unit[0] > 0 and hole.unit[1] > 0:
        slip.heading("Door or window")
        slip.field(
            "width",
            format_run(hole.unit[0], system),
            length("width", lambda v: {"unit": (v, hole.unit[1])}),
        )
        slip.field(
            "height",
            format_run(hole.unit[1], system),
            length("height", lambda v: {"unit": (hole.unit[0], v)}),
        )
    slip.heading("Rough opening")
    slip.field(
        "rough width", format_run(hole.width, system), length("rough width", lambda v: {"width": v})
    )
    slip.field(
        "rough height",
        format_run(hole.height, system),
        length("rough height", lambda v: {"height": v}),
    )
    slip.field(
        "sill", format_run(hole.sill, system), length("sill", lambda v: {"sill": v}, negative=True)
    )
    slip.field(
        "head",
        format_run(hole.sill + hole.height, system),
        length("head", lambda v: {"sill": v - hole.height}),
    )
    slip.heading("Again")

    def copy(text: str) -> object:
        by = parse_length(text, system, negative=True)
        return w.edit("copy opening", partial(copy_opening, name=name, by=by))

    slip.field("copy by", format_run(0.0, system), copy)
    slip.button(
        "Mirror about the wall’s middle",
        lambda: w.edit("mirror opening", partial(mirror_opening, name=name)),
    )


def several_openings(w: "Window", names: tuple[ThingName, ...]) -> None:
    """Add the fields that selected openings share."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    holes = [find_opening(project, n)[1] for n in names]

    def change(words: str, field: str, text: str) -> object:
        value = parse_length(text, system, negative=field == "sill")
        return w.edit(words, lambda p: _each(p, names, **{field: value}))

    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    kind = various(h.kind for h in holes)
    slip.options(
        "are",
        kinds if kind else [("various", ""), *kinds],
        kind or "",
        lambda v: w.edit("kind of openings", lambda p: _each(p, names, kind=v)) if v else None,
    )
    for word, field in (("rough width", "width"), ("rough height", "height"), ("sill", "sill")):
        value = various(getattr(h, field) for h in holes)
        slip.field(
            word,
            "various" if value is None else format_run(value, system),
            partial(change, word, field),
        )


def _each(project: Project, names: tuple[ThingName, ...], **fields: Any) -> Project:
    for name in names:
        project = set_opening(project, name, **fields)
    return project


# -- build-ups ----------------------------------------------------------------


def build_ups(w: "Window") -> None:
    """Fill the slip with all build-ups of walls."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    slip.title("Wall build-ups", "", str(len(project.wall_build_ups)))
    slip.line(
        "A build-up is called by its layers, from the outside in. Changing one asks which walls it"
        " changes.",
        quiet=True,
    )
    for body in project.wall_build_ups:
        slip.heading(short_name(body, system), _count(len(walls_with(project, body.id))))
        slip.line(name_of(body, system), quiet=True)
        slip.button("Look at its layers", partial(w.select, ThingName("build-up", body.id)))
    there = {(b.layers, b.module) for b in project.wall_build_ups}
    new = [b for b in first_build_ups(system) if (b.layers, b.module) not in there]
    if new:
        slip.heading("Take in")
        for body in new:
            slip.link(short_name(body, system), "take", partial(_take, w, body))


def _count(n: int) -> str:
    return "1 wall" if n == 1 else f"{n} walls"


def _take(w: "Window", body: WallBuildUp) -> None:
    w.edit("take a wall build-up", lambda p: add_build_up(p, body.layers, body.module)[0])
    w.refresh()


def build_up(w: "Window", key: str) -> None:
    """Fill the slip for one build-up: its layers, and which walls a change reaches."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    body = next((b for b in project.wall_build_ups if b.id == key), None)
    if body is None:
        build_ups(w)
        return
    touched = walls_with(project, key)
    slip.title(short_name(body, system), "build-up")
    slip.line(name_of(body, system), quiet=True)
    slip.figure(build_up_figure(body, system))
    if touched:
        here = tuple(HostName("wall", k) for k in touched)
        slip.link("", f"select its {_count(len(touched))}", lambda: w.select_many(here))
    slip.heading("A change reaches", _count(len(touched)))
    mine = tuple(k for k in w.kept_walls if k in touched)
    scopes: list[tuple[str, Any]] = [(f"all {_count(len(touched))}", "all")]
    if mine and len(mine) < len(touched):
        scopes.append((f"only the {_count(len(mine))} selected before", "these"))
    scopes.append(("none: it makes a copy", "copy"))
    if w.scope not in [s for _, s in scopes]:
        w.scope = "all"
    slip.options("reaches", scopes, w.scope, lambda v: setattr(w, "scope", v))

    def change(layers: tuple[Layer, ...], module: Module | None) -> object:
        keys = mine if w.scope == "these" else ()
        before = {b.id for b in w.building.project.wall_build_ups}
        edit = partial(
            change_build_up, key=key, layers=layers, module=module, scope=w.scope, walls=keys
        )
        made = w.edit("change build-up", edit)
        new = [b.id for b in w.building.project.wall_build_ups if b.id not in before]
        if made and new:
            w.select(ThingName("build-up", new[-1]))
        return made

    for i, layer in enumerate(body.layers):
        _layer(w, body, i, layer, lambda layers: change(layers, body.module))
    slip.heading("Another layer, inside")
    slip.field(
        "material",
        "",
        lambda t: change(
            (*body.layers, Layer(t.strip()[:80], 12.7 if system == "us" else 12.5, "lining")),
            body.module,
        ),
    )
    _module(w, body, change)
    slip.button("All build-ups", lambda: w.select(page("build-ups")))
    if not touched:
        slip.button(
            "Take it out of the list",
            lambda: w.edit("drop build-up", partial(remove_build_up, key=key)),
        )


def _layer(
    w: "Window",
    body: WallBuildUp,
    i: int,
    layer: Layer,
    change: Callable[[tuple[Layer, ...]], object],
) -> None:
    slip, system = w.slip, w.building.project.system
    where = "outermost" if i == 0 else "innermost" if i == len(body.layers) - 1 else ""
    slip.heading(f"Layer {i + 1}", where)
    slip.field(
        "material",
        layer.material,
        lambda t: change(with_layer(body, i, replace(layer, material=t.strip()[:80]))),
    )
    slip.field(
        "thickness",
        format_run(layer.thickness, system),
        lambda t: change(with_layer(body, i, replace(layer, thickness=parse_length(t, system)))),
    )
    roles = [(r, r) for r in LAYER_RANK]
    slip.options(
        "is", roles, layer.role, lambda v: change(with_layer(body, i, replace(layer, role=v)))
    )
    if len(body.layers) > 1:
        slip.link("", "take this layer out", lambda: change(with_layer(body, i, None)))


def _module(
    w: "Window", body: WallBuildUp, change: Callable[[tuple[Layer, ...], Module | None], object]
) -> None:
    slip, system = w.slip, w.building.project.system
    slip.heading("Block module")
    first = (
        Module(200.0, 200.0, 10.0)
        if system == "metric"
        else Module(8 * 25.4, 8 * 25.4, 0.375 * 25.4)
    )
    ways = [("none", False), ("laid in blocks", True)]
    slip.options(
        "laid", ways, body.module is not None, lambda v: change(body.layers, first if v else None)
    )
    if body.module is None:
        return
    module = body.module

    def typed(field: str) -> Callable[[str], object]:
        return lambda t: change(body.layers, replace(module, **{field: parse_length(t, system)}))

    for field in ("length", "course", "joint"):
        slip.field(field, format_run(getattr(module, field), system), typed(field))


# -- the block module ---------------------------------------------------------


def module(w: "Window") -> None:
    """Fill the slip with the lengths of block walls that are off the module, and the mend of the
    whole plan."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    lengths = module_lengths(project)
    off = [x for x in lengths if abs(x.off) > SLACK]
    slip.title("Block module", "", f"{len(off)} of {len(lengths)} off")
    if not lengths:
        slip.line("No wall is laid in blocks. Give walls a block build-up first.", quiet=True)
        return
    along = w.grids_along

    def grids(v: bool) -> None:
        w.grids_along = v
        w.refresh()

    slip.options("grid lines", [("go along", True), ("stay where they are", False)], along, grids)
    for words, grow in (("No length becomes shorter", True), ("To the nearest lengths", False)):
        mend = _mended(project, grow, along)
        slip.heading(words)
        slip.line(
            f"{_count(mend.moved)} would change, by {format_run(mend.furthest, system)} at most."
        )
        for text in mend.unsatisfied[:8]:
            slip.line(f"{text[:1].upper()}{text[1:]}.", quiet=True)
        change = partial(_mend, grow=grow, grids=along)
        slip.button("Show it", partial(w.preview_mend, words, change))
        slip.button("Do it", partial(w.edit, "bring walls onto the module", change))
    heights = off_heights(project)[:MOST]
    if heights:
        slip.heading("Off the courses")
    for item, over in heights:
        slip.fact(
            item.name,
            f"height {format_run(abs(over), system)} {'over' if over > 0 else 'short of'} whole"
            " courses",
        )
    slip.heading("Off the module")
    for x in off[:MOST]:
        slip.fact(wall(project, x.wall).name, words_of(project, x))


@remembered
def _mended(project: Project, grow: bool, grids: bool) -> Any:
    return mend_module(project, grow=grow, grids=grids)


def _mend(project: Project, grow: bool, grids: bool) -> Project:
    return mend_module(project, grow=grow, grids=grids).project
