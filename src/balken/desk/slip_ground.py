"""The slip of foundations: all of them, one with its parts, a step, and how one differs under a
single wall."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any, Final, get_args

from msgspec.structs import replace

from balken.design.codes.us.irc_soil import SOIL_CLASSES
from balken.design.footing_loads import wall_over
from balken.drawing.figure import figure
from balken.drawing.foundation_figure import run_figure
from balken.drawing.foundation_words import sizes_of
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.ground.anchors import APART, EMBEDDED
from balken.framing.hosts.runs import Step, heights_of
from balken.framing.member import Member
from balken.model.cases import CASE_NAMES, CASE_WORDS, Cases
from balken.model.edits import set_run, set_site
from balken.model.edits.foundations import (
    add_pocket,
    add_shelf,
    hold_step,
    let_step_go,
    remove_pocket,
    remove_shelf,
    set_part,
)
from balken.model.edits.hosts import set_code
from balken.model.edits.supports import set_supports
from balken.model.foundations import (
    KIND_WORDS,
    WITH_STEM,
    FoundationRun,
    PlateSpecies,
    RunPart,
    Shelf,
    StepRule,
    walls_on,
)
from balken.model.names import HostName, ThingName, whole
from balken.model.project import PointSupport, Project, column
from balken.model.walls import called
from balken.units import (
    PCF,
    System,
    format_area_load,
    format_force,
    format_length,
    format_line_load,
    format_moment,
    format_run,
    format_volume,
    parse_area_load,
    parse_force,
    parse_length,
    parse_line_load,
    parse_moment,
    parse_number,
)
from balken.works.building import checks_of, worst_of
from balken.works.pads import propose_pad
from balken.works.strips import proposed_width

if TYPE_CHECKING:
    from balken.desk.window import Window

BY_LAYERS: Final = "by their layers"
"""What stands in the field of the weight of walls where none is typed."""

SHELF_WORDS = {"ledge": "ledge for brick", "seat": "seat for a slab", "corbel": "corbel"}


def fill_tier(w: "Window") -> None:
    """Fill the slip for the foundations of a building: the one there is, or the list of them."""
    runs = w.building.project.runs
    if len(runs) == 1:
        one(w, runs[0].id)
        return
    slip, system = w.slip, w.building.project.system
    slip.title("Foundation", "")
    structure = w.building.checked.structure
    volume = sum(structure.volume(m) for m in structure.members if m.material == "concrete")
    slip.line(
        f"{len(runs)} foundations · {format_volume(volume, system)} of concrete, counted once"
    )
    for run in runs:
        slip.link(run.name, KIND_WORDS[run.kind], partial(w.select, HostName("run", run.id)))
        slip.line(sizes_of(run, w.building.project), quiet=True, small=True)
    _into_soil(w)
    _site(w)
    _points(w)


def one(w: "Window", key: str) -> None:
    """Fill the slip for one foundation."""
    project, checked = w.building.project, w.building.checked
    slip, system = w.slip, project.system
    run = next((r for r in project.runs if r.id == key), None)
    if run is None:
        return
    mine = [m for m in checked.structure.members if m.host == HostName("run", key)]
    if len(project.runs) > 1:
        slip.title(run.name, KIND_WORDS[run.kind])
    else:
        slip.title("Foundation", run.name)
    volume = sum(checked.structure.volume(m) for m in mine if m.material == "concrete")
    slip.line(
        f"{sizes_of(run, project).capitalize()} · {format_volume(volume, system)} of concrete"
    )
    bottom, base, _, _ = heights_of(project, run)
    slip.figure(run_figure(project, run, base - bottom))
    _, _, name = worst_of(checked, HostName("run", run.id))
    worst = next((m for m in mine if m.id == name), None)
    if worst:
        words = {"footing": "Most pressed footing", "stem": "Most pressed wall"}
        slip.heading(words.get(worst.role, "Most used"), worst.mark)
        slip.figure(figure(checked, worst))
        slip.checks(checks_of(checked, worst), system, partial(_again, w))
    if run.kind in WITH_STEM:
        _proposal(w, run)
    _into_soil(w)
    anchors = sum(
        len(b.at) for k, b in checked.structure.bolts.items() if k.host == HostName("run", key)
    )
    if anchors:
        slip.fact(
            "anchors",
            f"{anchors} bolts {format_run(run.bolt, system)}, {format_length(EMBEDDED, system)}"
            " into the concrete",
        )
    _parts(w, run)
    if run.kind in WITH_STEM:
        _following(w, run)
        _shelves(w, run)
    _typed_loads(w, run)
    _site(w)


def _again(w: "Window") -> None:
    from balken.desk import slips

    slips.fill(w)


def _into_soil(w: "Window") -> None:
    slip, system = w.slip, w.building.project.system
    slip.heading("Into the soil")
    for case, force in zip(CASE_NAMES, w.building.checked.path.soil_total):
        slip.fact(CASE_WORDS[case], format_force(force, system))


def _proposal(w: "Window", run: FoundationRun) -> None:
    checked = w.building.checked
    system = checked.project.system
    wanted = proposed_width(checked.project, checked.structure, checked.path, run)
    if wanted is None or abs(wanted.size - run.footing_width) < 0.5:
        return
    w.slip.line(
        f"{format_run(wanted.size, system)} would do: {wanted.why}.", quiet=True, small=True
    )
    w.slip.button(
        f"Make the footing {format_run(wanted.size, system)} wide",
        lambda: w.edit(
            "width of the footing",
            partial(set_run, key=run.id, footing_width=round(wanted.size, 6)),
        ),
    )


def _parts(w: "Window", run: FoundationRun) -> None:
    slip, project = w.slip, w.building.project
    system = project.system
    slip.heading("Sizes")

    def field(name: str, key: str, *, negative: bool = False, value: float | None = None) -> None:
        def change(text: str) -> object:
            size = parse_length(text, system, negative=negative)
            return w.edit(key.replace("_", " "), lambda p: set_run(p, run.id, **{key: size}))

        slip.field(name, format_run(getattr(run, key) if value is None else value, system), change)

    levels = [(x.name, x.id) for x in reversed(column(project))]

    def level_of(name: str, key: str, *, empty: str = "") -> None:
        values = [(empty, ""), *levels] if empty else levels
        words = f"level of foundation {run.name}"
        slip.options(
            name,
            values,
            getattr(run, key),
            lambda v: w.edit(words, lambda p: set_run(p, run.id, **{key: v})),
        )

    if run.kind in WITH_STEM:
        level_of("wall begins at", "base")
        level_of("wall ends at", "top")
        level_of("footing under", "bottom")
        field("footing width", "footing_width")
        bottom, base, _, _ = heights_of(project, run)
        field("footing thickness", "footing_thickness", value=base - bottom)
        field("footing moved out", "footing_shift", negative=True)
        field("stem thickness", "stem_thickness")
        joints = [("flat", "flat"), ("keyed", "keyed"), ("doweled", "doweled")]
        slip.options(
            "joint",
            joints,
            run.joint,
            lambda v: w.edit("joint", partial(set_run, key=run.id, joint=v)),
        )
    else:
        level_of("top at", "top")
    if run.kind in ("basement", "slab", "slab edge"):
        field("slab thickness", "slab_thickness")
        if run.kind == "basement":
            level_of("slab at", "slab_level", empty="top of footing")
    if run.kind in ("slab edge", "grade beam"):
        word = "edge" if run.kind == "slab edge" else "beam"
        field(f"{word} width", "edge_width")
        field(f"{word} depth", "edge_depth")
    field("face moved out", "offset", negative=True)
    field("blinding under it", "blinding")
    sills = [("none", ""), *((s.replace("x", "×"), s) for s in sill_sections(project.system))]
    slip.options(
        "sill plate",
        sills,
        run.sill,
        lambda v: w.edit("sill plate", partial(set_run, key=run.id, sill=v)),
    )
    if run.sill:
        field("anchor bolts", "bolt")
        _bolts_apart(w, run)
    gasket = [("yes", True), ("no", False)]
    slip.options(
        "gasket under it",
        gasket,
        run.gasket,
        lambda v: w.edit("gasket", partial(set_run, key=run.id, gasket=v)),
    )


def _bolts_apart(w: "Window", run: FoundationRun) -> None:
    """A field for how far apart the bolts are; emptied, they go by the rule."""
    system = w.building.project.system

    def change(text: str) -> object:
        apart = 0.0 if text.strip().lower() in ("", "by the rule") else parse_length(text, system)
        return w.edit("anchor bolts", partial(set_run, key=run.id, bolts_apart=apart))

    shown = format_run(run.bolts_apart, system) if run.bolts_apart else "by the rule"
    w.slip.field("bolts apart", shown, change)
    if not run.bolts_apart:
        w.slip.line(
            f"The rule: {format_run(APART, system)} at most (IRC R403.1.6).", quiet=True, small=True
        )


def sill_sections(system: str) -> tuple[str, ...]:
    """The plates sills are made of."""
    return ("2x4", "2x6", "2x8") if system == "us" else ("38x89", "38x140", "38x184")


def _following(w: "Window", run: FoundationRun) -> None:
    slip, project = w.slip, w.building.project
    system, structure = project.system, w.building.checked.structure
    slip.heading("Following the ground")
    ways = [("in steps", "steps"), ("sloped, 1 in 10 at most", "slope"), ("level", "level")]
    slip.options(
        "footing",
        ways,
        run.follow,
        lambda v: w.edit("follow the ground", partial(set_run, key=run.id, follow=v)),
    )
    mine = [s for s in structure.steps if s.run == run.id]
    names = {x.id: called(x) for x in project.walls}
    if run.follow == "steps":
        held = sum(s.held for s in mine)
        slip.line(
            f"{len(mine)} steps, {held} of them held. Drag one on the plan, or click it.",
            quiet=True,
            small=True,
        )
        for s in mine:
            words = (
                f"{format_run(abs(s.drop), system)} at"
                f" {format_length(s.at, system)}{', held' if s.held else ''}"
            )
            slip.link(names.get(whole(s.line), "path"), words, partial(w.select, s.key))
        if held:
            slip.button(
                "Let all held steps go",
                lambda: w.edit("let steps go", partial(set_run, key=run.id, steps=())),
            )
        rule = project.site.steps

        def rule_of(field: str) -> Callable[[str], object]:
            def change(text: str) -> object:
                sizes: dict[str, Any] = {f: getattr(rule, f) for f in ("module", "rise", "lap")}
                sizes[field] = parse_length(text, system)
                return w.edit("rule of steps", partial(set_site, steps=StepRule(**sizes)))

            return change

        slip.field("rises by", format_run(rule.module, system), rule_of("module"))
        slip.field("at most", format_run(rule.rise, system), rule_of("rise"))
        slip.field("laps at least", format_run(rule.lap, system), rule_of("lap"))


def _shelves(w: "Window", run: FoundationRun) -> None:
    slip, project = w.slip, w.building.project
    system = project.system
    slip.heading("Top of the wall")
    names = {x.id: called(x) for x in project.walls}
    for number, s in enumerate(run.shelves):
        words = f"{format_run(s.width, system)} × {format_run(s.depth, system)}"
        on = "all outside walls" if not s.walls else ", ".join(names.get(k, k) for k in s.walls[:2])
        lose = partial(w.edit, "take shelf away", partial(remove_shelf, key=run.id, number=number))
        slip.link(SHELF_WORDS[s.kind], f"{words} · take away", lose)
        slip.line(f"on {on}", quiet=True, small=True)
    for pocket in run.pockets:
        size = " × ".join(
            format_run(x, system) for x in (pocket.width, pocket.height, pocket.depth)
        )
        words = f"{size} · fill"
        fill = partial(w.edit, "fill pocket", partial(remove_pocket, key=run.id, pocket=pocket.id))
        slip.link("pocket", words, fill)
        place = f"{format_length(pocket.at, system)} along {names.get(pocket.wall, pocket.wall)}"
        slip.line(place, quiet=True, small=True)

    def add(kind: str) -> Callable[[str], object]:
        def change(text: str) -> object:
            width, _, depth = text.lower().replace("×", "x").partition("x")
            if not depth:
                raise BalkenError(f"Write width x depth, such as {_example(system)}.")
            sizes = parse_length(width, system), parse_length(depth, system)
            shelf = Shelf(kind, *sizes)  # type: ignore[arg-type]
            return w.edit(f"add {SHELF_WORDS[kind]}", partial(add_shelf, key=run.id, shelf=shelf))

        return change

    for kind, words in SHELF_WORDS.items():
        slip.field(f"add {words}", "", add(kind)).setPlaceholderText(
            f"width x depth, {_example(system)}"
        )


def _example(system: str) -> str:
    return '5" x 8"' if system == "us" else "120 x 200"


def _typed_loads(w: "Window", run: FoundationRun) -> None:
    """Loads typed along a foundation, besides those of the building."""
    w.slip.heading("Typed load along it")
    _load_fields(w, run.loads, parse_line_load, format_line_load, partial(set_run, key=run.id))


def _load_fields(
    w: "Window",
    loads: Cases,
    read: Callable[[str, System], float],
    show: Callable[[float, System], str],
    put: Callable[..., Project],
) -> None:
    """A field for the load of each case; `put` takes the project and all the loads anew."""
    system = w.building.project.system
    for case, amount in zip(CASE_NAMES, loads):

        def change(text: str, case: str = case) -> object:
            changed = replace(loads, **{case: read(text, system)})
            return w.edit("typed load", partial(put, loads=changed))

        w.slip.field(CASE_WORDS[case], show(amount, system), change)


CODE_WORDS: Final[dict[str, str]] = {"ACI 318, IRC": "us", "EN 1992, EN 1997": "eu"}


def _site(w: "Window") -> None:
    slip, system, site = w.slip, w.building.project.system, w.building.project.site
    slip.heading("Site")
    slip.options(
        "concrete by",
        list(CODE_WORDS.items()),
        w.building.project.code,
        lambda v: w.edit("code", partial(set_code, code=v)),
    )
    slip.field(
        "frost depth",
        format_length(site.frost_depth, system),
        lambda t: w.edit("frost depth", partial(set_site, frost_depth=parse_length(t, system))),
    )
    slip.field(
        "above the ground",
        format_run(site.clearance, system),
        lambda t: w.edit("clearance", partial(set_site, clearance=parse_length(t, system))),
    )
    now = next(
        (
            q
            for q in SOIL_CLASSES.values()
            if abs(q.bearing - site.soil_bearing) < 1e-9 and abs(q.fluid - site.fluid) < 1e-12
        ),
        None,
    )
    soils = [("typed", None), *SOIL_CLASSES.items()]
    slip.options(
        "soil",
        soils,
        now,
        lambda q: (
            w.edit("soil", partial(set_site, soil_bearing=q.bearing, fluid=q.fluid)) if q else None
        ),
    )
    slip.field(
        "soil bearing",
        format_area_load(site.soil_bearing, system),
        lambda t: w.edit("soil bearing", partial(set_site, soil_bearing=_bearing(t, w))),
    )

    def fluid(text: str) -> object:
        plain = text.lower().replace("pcf", "").replace("kn/m³", "").replace("kn/m3", "").strip()
        value = parse_number(plain) * (PCF if system == "us" else 1e-6)
        return w.edit("weight of backfill", partial(set_site, fluid=value))

    shown = f"{site.fluid / PCF:.0f} pcf" if system == "us" else f"{site.fluid * 1e6:.1f} kN/m³"
    slip.field("backfill as a fluid", shown, fluid)
    species = [(x, x) for x in get_args(PlateSpecies)]
    slip.options(
        "plates of walls",
        species,
        site.plates,
        lambda v: w.edit("plates of walls", partial(set_site, plates=v)),
    )
    _wall_weight(w)


def _wall_weight(w: "Window") -> None:
    """A field for what all walls weigh; emptied, each weighs what its layers do."""
    system, typed = w.building.project.system, w.building.project.site.wall_dead

    def change(text: str) -> object:
        layers = text.strip().lower() in ("", BY_LAYERS)
        return w.edit(
            "weight of walls",
            partial(set_site, wall_dead=None if layers else parse_area_load(text, system)),
        )

    w.slip.field(
        "walls weigh", BY_LAYERS if typed is None else format_area_load(typed, system), change
    )


def _bearing(text: str, w: "Window") -> float:
    value = parse_area_load(text, w.building.project.system)
    if value <= 0:
        raise BalkenError("Soil that bears nothing carries no building; type more than zero.")
    return value


def _points(w: "Window") -> None:
    there = w.building.project.point_supports
    for kind in ("pad", "pier", "post"):
        count = sum(s.kind == kind for s in there)
        if count:
            w.slip.fact(f"{kind}s", str(count))


def points_alone(w: "Window") -> None:
    """Fill the slip where only pads and piers stand in the ground yet."""
    w.slip.title("Foundation", "")
    _points(w)
    w.slip.line(
        "P puts posts, pads and piers at crossings. No foundation wall is placed yet: G places"
        " one.",
        quiet=True,
    )
    _site(w)


def step(w: "Window", name: ThingName) -> None:
    """Fill the slip for one step of a footing."""
    found: Step | None = next(
        (s for s in w.building.checked.structure.steps if s.key == name), None
    )
    project, system, slip = w.building.project, w.building.project.system, w.slip
    if found is None:
        slip.title("Step", "")
        slip.line("This step is solved away: the ground asks for none here any more.", quiet=True)
        return
    s = found
    names = {x.id: called(x) for x in project.walls}
    slip.title("Step", f"footing {s.run} under {names.get(whole(s.line), 'a path')}")
    rule = project.site.steps
    slip.line(
        f"{format_run(abs(s.drop), system)} {'down' if s.drop > 0 else 'up'} in the wall’s way,"
        f" lap {format_run(max(rule.lap, abs(s.drop)), system)}"
    )
    slip.line(
        "Held by hand: the others are solved round it."
        if s.held
        else "By calculation; moving it holds it.",
        quiet=True,
    )

    def put(at: float, drop: float) -> object:
        made = w.edit(
            "hold step",
            partial(
                hold_step,
                key=s.run,
                wall=s.line,
                at=at,
                drop=drop,
                instead=s.at if s.held else None,
            ),
        )
        if made:
            near = [
                x
                for x in w.building.checked.structure.steps
                if x.run == s.run and x.line == s.line and abs(x.at - at) < 1
            ]
            w.select(near[0].key if near else HostName("run", s.run))
        return made

    slip.field(
        "from the wall’s start",
        format_length(s.at, system),
        lambda t: put(parse_length(t, system), s.drop),
    )
    slip.field(
        "goes down",
        format_run(s.drop, system),
        lambda t: put(s.at, parse_length(t, system, negative=True)),
    )
    if s.held:
        slip.button(
            "Let it go",
            lambda: w.edit("let step go", partial(let_step_go, key=s.run, wall=s.line, at=s.at)),
        )
    else:
        slip.button("Hold it here", lambda: put(s.at, s.drop))
    slip.link("part of", f"foundation {s.run}", partial(w.select, HostName("run", s.run)))


def under_wall(w: "Window", m: Member) -> None:
    """Add to a member's slip how its foundation differs under its wall, and what can be cut into it
    there."""
    project, system, slip = w.building.project, w.building.project.system, w.slip
    run = next((r for r in project.runs if HostName("run", r.id) == m.host), None)
    key = wall_over(m)
    if run is None:
        return
    slip.link("part of", f"foundation {run.name}", partial(w.select, HostName("run", run.id)))
    if key not in walls_on(run) or run.kind not in WITH_STEM:
        return
    part = next((p for p in run.parts if p.wall == key), RunPart(key))
    slip.heading("Under this wall only")

    def field(name: str, field_: str, now: float) -> None:
        def change(text: str) -> object:
            value = parse_length(text, system)
            return w.edit(f"{name} here", lambda p: set_part(p, run.id, key, **{field_: value}))

        slip.field(name, format_run(now, system), change)

    field("stem thickness", "stem_thickness", part.stem_thickness or run.stem_thickness)
    field("footing width", "footing_width", part.footing_width or run.footing_width)
    field("top lowered by", "top_drop", part.top_drop)
    if m.kind is kinds.STEM:

        def pocket(text: str) -> object:
            sizes = [parse_length(t, system) for t in text.lower().replace("×", "x").split("x")]
            if len(sizes) != 4:
                raise BalkenError(
                    "Write where from the wall’s start, width, height and depth: " + _pocket(system)
                )
            at, width, height, depth = sizes
            return w.edit(
                "pocket for a beam",
                partial(add_pocket, key=run.id, wall=key, at=at, size=(width, height, depth)),
            )

        slip.field("add a pocket", "", pocket).setPlaceholderText(_pocket(system))


def _pocket(system: str) -> str:
    return '6\' x 6" x 10" x 4"' if system == "us" else "1800 x 150 x 250 x 100"


def pad(w: "Window", key: str) -> None:
    """Add a pad's figure, its checks, and the size that would do."""
    checked, slip = w.building.checked, w.slip
    m = next((x for x in checked.structure.members if x.host == HostName("support", key)), None)
    if m is None:
        return
    system = checked.project.system
    slip.figure(figure(checked, m))
    checks = checks_of(checked, m)
    slip.heading("Checks", checks[0].combination)
    slip.checks(checks, system, partial(_again, w))
    size = propose_pad(checked.project, checked.structure, checked.path, m)
    if size is None:
        slip.line(
            "No square pad within reach would pass: the soil is too weak for this load.", quiet=True
        )
        return
    side, thick = (round(v, 6) for v in size)
    words = f"Make it {format_run(side, system)} square, {format_run(thick, system)} thick"
    change = partial(set_supports, keys=[key], size=(side, side), thickness=thick, round=False)
    slip.button(words, lambda: w.edit(f"size of pad {key}", change))


def typed_on(w: "Window", item: PointSupport) -> None:
    """Add the loads typed on a post, pad or pier; until beams bring their own, they stand for what
    comes down there."""
    slip, system = w.slip, w.building.project.system
    slip.heading("Typed load on it")
    _load_fields(w, item.loads, parse_force, format_force, partial(set_supports, keys=[item.id]))
    if item.kind != "pad":
        return
    slip.field(
        "uplift",
        format_force(item.uplift, system),
        lambda t: w.edit(
            "uplift", partial(set_supports, keys=[item.id], uplift=parse_force(t, system))
        ),
    )
    for i, name in enumerate(("moment along width", "moment along depth")):

        def tilt(text: str, i: int = i) -> object:
            value = parse_moment(text, system)
            moments = tuple(value if k == i else q for k, q in enumerate(item.moments))
            return w.edit("moment", partial(set_supports, keys=[item.id], moments=moments))

        slip.field(name, format_moment(item.moments[i], system), tilt)
