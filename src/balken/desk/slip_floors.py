"""The slip of floors: what they are built up of, how their joists run, their edges, openings and
panels."""

from collections.abc import Callable
from functools import partial
from math import atan2, degrees
from typing import TYPE_CHECKING, Any

from balken.desk.slip_many import level_options
from balken.drawing.floor_words import build_up_name, floor_depth
from balken.drawing.panel_figure import panel_figure
from balken.drawing.tiers import Tier
from balken.drawing.words import pretty
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.floors.panels import lay_panels
from balken.geometry.plane import add, dot, left, sub, unit
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.edits import set_floor
from balken.model.edits.common import checked
from balken.model.edits.floors import (
    Scope,
    change_floor_build_up,
    copy_floor,
    first_build_up,
    floors_with,
    remove_opening,
    set_floor_edge,
    set_opening,
)
from balken.model.edits.hosts import remove_host
from balken.model.floors import RULE_WORDS, BuildUp, FloorArea, FloorEdge
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.model.sections import BY_CAPACITY
from balken.model.walls import called
from balken.units import format_area_load, format_run, parse_angle, parse_area_load, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

USES = (("stair", "stair"), ("shaft", "shaft"), ("chimney", "chimney"), ("open space", "atrium"))


def parts_of_tier(w: "Window", tier: Tier) -> list[FloorArea]:
    """The floors that lie in a tier."""
    hosts = set(tier.hosts)
    return [f for f in w.building.project.floors if HostName("floor", f.id) in hosts]


def list_of(w: "Window", floors: list[FloorArea]) -> None:
    """Add the list of floors of a level, to go to each."""
    w.slip.heading("Floors here", str(len(floors)))
    for floor in floors:
        w.slip.link(floor.id, floor.name, partial(w.select, HostName("floor", floor.id)))
        w.slip.line(build_up_name(w.building.checked, floor), quiet=True, small=True)


def fields(w: "Window", floor: FloorArea) -> None:
    """Add the fields of one floor."""
    _layout(w, floor)
    build_up(w, floor)
    _openings(w, floor)
    _edges(w, floor)
    _panels(w, floor)
    slip = w.slip
    slip.heading("This floor")
    slip.field(
        "name",
        floor.name,
        lambda t: w.edit(
            "name of floor", partial(set_floor, key=floor.id, name=t.strip() or floor.name)
        ),
    )
    level_options(
        w,
        "top at",
        floor.level,
        lambda v: w.edit("level of floor", partial(set_floor, key=floor.id, level=v)),
    )
    level_options(
        w,
        "bears on",
        floor.bears_on,
        lambda v: w.edit("bearing of floor", partial(set_floor, key=floor.id, bears_on=v)),
    )
    others = [
        (x.name, x.id)
        for x in w.building.project.levels
        if x.role == "floor" and x.id != floor.level
    ]
    if others:
        slip.options(
            "copy to",
            [("another level …", ""), *others],
            "",
            lambda v: (
                w.edit("copy a floor", lambda p: copy_floor(p, floor.id, v)[0]) if v else None
            ),
        )
    slip.button(
        "Take away this floor",
        lambda: w.edit("take a floor away", partial(remove_host, host=HostName("floor", floor.id))),
    )


def _layout(w: "Window", floor: FloorArea) -> None:
    slip, system = w.slip, w.building.project.system
    body = next(b for b in w.building.project.build_ups if b.id == floor.build_up)

    def edit(words: str, **values: Any) -> object:
        return w.edit(words, partial(set_floor, key=floor.id, **values))

    if body.kind == "joists":
        slip.heading("Held by hand")
        sections: list[tuple[str, Any]] = [("by calculation", None)]
        sections += [(pretty(n), n) for n in joist_sections(w)]
        slip.options("section", sections, floor.section, lambda v: edit("hold section", section=v))
        gaps: list[tuple[str, Any]] = [("by calculation", None)]
        gaps += [(format_run(s, system), s) for s in catalogue_of(system).spacings]
        if floor.spacing and all(abs(floor.spacing - s) > 0.1 for _, s in gaps[1:]):
            gaps.append((format_run(floor.spacing, system), floor.spacing))
        slip.options("spacing", gaps, floor.spacing, lambda v: edit("hold spacing", spacing=v))
        slip.field(
            "other spacing",
            "" if floor.spacing is None else format_run(floor.spacing, system),
            lambda t: edit("hold spacing", spacing=parse_length(t, system) if t.strip() else None),
        )
        ways = [
            ("across the short way", "short"),
            ("along the long way", "long"),
            ("along x", "x"),
            ("along y", "y"),
            ("turned by an angle", "turned"),
        ]
        slip.options("joists run", ways, floor.span, lambda v: edit("turn the joists", span=v))
        if floor.span == "turned":
            slip.field(
                "angle", f"{floor.turn:g}", lambda t: edit("turn the joists", turn=parse_angle(t))
            )
        slip.field(
            "begins after",
            format_run(floor.start, system),
            lambda t: edit("start of layout", start=parse_length(t, system, negative=True)),
        )
    slip.heading("Loads")
    slip.field(
        "live load",
        format_area_load(floor.live, system),
        lambda t: edit("live load", live=parse_area_load(t, system)),
    )
    slip.field(
        "dead load",
        format_area_load(floor.dead, system),
        lambda t: edit("dead load", dead=parse_area_load(t, system)),
    )


def joist_sections(w: "Window") -> list[str]:
    """The sections joists can be cut from."""
    sections = sections_of(w.building.project.system, w.building.project.products)
    return [
        n
        for n, s in sections.items()
        if s.plies == 1
        and (
            (s.family == "sawn" and s.nominal[0] <= 4)
            or s.family == "lvl"
            or s.family in BY_CAPACITY
        )
    ]


def build_up(w: "Window", floor: FloorArea) -> None:
    """Add the build-up of a floor; changing it asks how far the change goes."""
    slip, project = w.slip, w.building.project
    system = project.system
    body = next(b for b in project.build_ups if b.id == floor.build_up)
    count = len(floors_with(project, body.id))
    slip.heading("Build-up", f"{floor_depth(w.building.checked, floor)} deep")
    slip.line(build_up_name(w.building.checked, floor), bold=True)
    others: list[tuple[str, Any]] = [
        (_short(w, b), b.id) for b in project.build_ups if b.use == body.use
    ]
    if body.use == "floor":
        others += [("joists (new)", "joists"), ("solid slab (new)", "slab")]
    slip.options(
        "built up as",
        others,
        body.id,
        lambda v: w.edit("build-up of floor", partial(_give, key=floor.id, chosen=v)),
    )
    scope: Scope = getattr(w, "build_up_scope", "all")
    words = "all floors with it" if count == 1 else f"all {count} floors with it"
    scopes = [(words, "all"), ("only this one", "these"), ("a copy, for none yet", "copy")]
    slip.options("a change touches", scopes, scope, lambda v: setattr(w, "build_up_scope", v))
    if count > 1:
        names = ", ".join(f.name for f in project.floors if f.build_up == body.id)
        slip.line(f"{count} floors are built up so: {names}.", quiet=True, small=True)

    def change(words_: str, **values: Any) -> object:
        scope_: Scope = getattr(w, "build_up_scope", "all")
        return w.edit(
            words_, lambda p: change_floor_build_up(p, body.id, scope_, (floor.id,), **values)[0]
        )

    def length(name: str, field: str) -> None:
        slip.field(
            name,
            format_run(getattr(body, field), system),
            lambda t: change(f"{name} of build-up", **{field: parse_length(t, system)}),
        )

    if body.kind == "slab":
        length("slab", "slab")
        return
    for name, field in (
        ("subfloor", "subfloor"),
        ("ceiling", "ceiling"),
        ("insulation", "insulation"),
    ):
        length(name, field)
    rules = [(text, key) for key, text in RULE_WORDS.items() if key not in ("count",)]
    slip.options("spacing kept", rules, body.rule, lambda v: change("rule of spacing", rule=v))
    blocks = [
        ("none", "none"),
        ("over bearings", "bearings"),
        ("and at mid-span", "bearings and middle"),
    ]
    slip.options("blocking", blocks, body.blocking, lambda v: change("blocking", blocking=v))
    (board,) = catalogue_of(system).boards
    rows = [("none", "none"), (f"crossed, {pretty(board)}", "crossed")]
    slip.options("bridging", rows, body.bridging, lambda v: change("bridging", bridging=v))
    for name, field in (
        ("lap over beams", "lap"),
        ("splice if butted", "splice"),
        ("gap for one more", "end_gap"),
        ("least clear", "least_clear"),
    ):
        length(name, field)
    slip.field(
        "offered sizes",
        ", ".join(body.sizes),
        lambda t: change("sizes offered", sizes=_sizes(w, t)),
    )


def _sizes(w: "Window", text: str) -> tuple[str, ...]:
    known = set(joist_sections(w))
    names = tuple(x.strip() for x in text.replace(";", ",").split(",") if x.strip())
    wrong = [n for n in names if n not in known]
    if wrong or not names:
        raise BalkenError(
            f"“{wrong[0] if wrong else text}” is no section joists are cut from here; such as"
            f" {', '.join(sorted(known)[:4])}."
        )
    return names


def _short(w: "Window", body: BuildUp) -> str:
    system = w.building.project.system
    if body.kind == "slab":
        return f"{body.id}: slab {format_run(body.slab, system)}"
    return f"{body.id}: {' or '.join(body.sizes[:3])}" + (" …" if len(body.sizes) > 3 else "")


def _give(project: Project, key: str, chosen: str) -> Project:
    if chosen in ("joists", "slab"):
        made = first_build_up(project, chosen)  # type: ignore[arg-type]
        project = checked(project, build_ups=(*project.build_ups, made))
        chosen = made.id
    return set_floor(project, key, build_up=chosen, section=None)


def _openings(w: "Window", floor: FloorArea) -> None:
    w.slip.heading("Openings", str(len(floor.openings)))
    for item in floor.openings:
        size = (
            " × ".join(format_run(s, w.building.project.system) for s in item.size)
            if not item.corners
            else "free outline"
        )
        w.slip.link(
            item.id, f"{item.use}, {size}", partial(w.select, ThingName("hole", floor.id, item.id))
        )
    if not floor.openings:
        w.slip.line("The word “Opening in floor” leaves one out.", quiet=True, small=True)


def one_hole(w: "Window", name: ThingName) -> None:
    """Fill the slip for one opening of a floor."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    key, hole = name.key, name.part
    floor = next((f for f in project.floors if f.id == key), None)
    item = next((o for o in floor.openings if o.id == hole), None) if floor else None
    if floor is None or item is None:
        slip.title("Opening", "", "gone")
        return
    slip.title(item.id, f"{item.use} opening", floor.name)

    def edit(words: str, **values: Any) -> object:
        return w.edit(words, partial(set_opening, key=key, opening=hole, **values))

    slip.options("is for", list(USES), item.use, lambda v: edit("use of opening", use=v))
    if not item.corners:
        for i, word in enumerate(("length", "width")):

            def sized(t: str, i: int = i) -> object:
                value = parse_length(t, system)
                return edit(
                    "size of opening",
                    size=(value, item.size[1]) if i == 0 else (item.size[0], value),
                )

            slip.field(word, format_run(item.size[i], system), sized)
    walls: list[tuple[str, Any]] = [("the origin", "")] + [
        (called(x), x.id) for x in project.walls if not x.bulge
    ]
    slip.options(
        "measured from",
        walls,
        item.wall,
        lambda v: w.edit("tie an opening", partial(_tie, key=key, hole=hole, wall=v)),
    )
    for i, word in enumerate(("along it", "away from it") if item.wall else ("east", "north")):

        def placed(t: str, i: int = i) -> object:
            value = parse_length(t, system, negative=True)
            return edit(
                "place of opening", at=(value, item.at[1]) if i == 0 else (item.at[0], value)
            )

        slip.field(word, format_run(item.at[i], system), placed)
    slip.field("turned", f"{item.turn:g}", lambda t: edit("turn an opening", turn=parse_angle(t)))
    slip.field(
        "kept clear",
        format_run(item.clear, system),
        lambda t: edit("clear of opening", clear=parse_length(t, system)),
    )
    slip.button(
        "Close the opening",
        lambda: w.edit("close an opening", partial(remove_opening, key=key, opening=hole)),
    )
    slip.links([("To the floor", lambda: w.select(HostName("floor", key)))])


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


def _edges(w: "Window", floor: FloorArea) -> None:
    """Add how far the floor reaches, all round and along single walls, and where it hangs on a
    ledger."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    slip.heading("Edge")
    slip.field(
        "out past walls",
        format_run(floor.edge, system),
        lambda t: w.edit(
            "edge of floor",
            partial(set_floor, key=floor.id, edge=parse_length(t, system, negative=True)),
        ),
    )
    names = {x.id: called(x) for x in project.walls}
    for edge in floor.edges:
        _edge(w, floor, edge, names.get(edge.wall, edge.wall))
    free = [
        (names[k], k) for k in floor.walls if k in names and all(e.wall != k for e in floor.edges)
    ]
    if free:
        reach = 24 * 25.4 if system == "us" else 600.0
        words = f"cantilever {format_run(reach, system)} at"
        slip.options(
            words,
            [("a wall …", ""), *free],
            "",
            lambda v: (
                w.edit("cantilever", lambda p: set_floor_edge(p, floor.id, v, out=reach))
                if v
                else None
            ),
        )
        slip.options(
            "ledger at",
            [("a wall …", ""), *free],
            "",
            lambda v: (
                w.edit("ledger", lambda p: set_floor_edge(p, floor.id, v, ledger=True))
                if v
                else None
            ),
        )


def _edge(w: "Window", floor: FloorArea, edge: FloorEdge, name: str) -> None:
    slip, system = w.slip, w.building.project.system

    def change(words: str, **values: Any) -> object:
        return w.edit(words, partial(set_floor_edge, key=floor.id, wall=edge.wall, **values))

    slip.field(
        f"at {name}",
        format_run(edge.out, system),
        lambda t: change("edge of floor", out=parse_length(t, system, negative=True)),
    )
    hung: list[tuple[str, Any]] = [("lie on the wall", False), ("hang on a ledger", True)]
    slip.options("joists there", hung, edge.ledger, lambda v: change("ledger", ledger=v))


def _panels(w: "Window", floor: FloorArea) -> None:
    """Add how many panels the subfloor takes."""
    checked = w.building.checked
    panel = next(
        (
            m
            for m in checked.structure.members
            if m.host == HostName("floor", floor.id) and m.kind is kinds.SUBFLOOR
        ),
        None,
    )
    joist = next(
        (
            m
            for m in checked.structure.members
            if m.host == HostName("floor", floor.id) and m.kind is kinds.JOIST
        ),
        None,
    )
    if panel is None or joist is None:
        return
    laid = lay_panels(panel, joist, w.building.project.system)
    w.slip.heading("Subfloor panels", f"{laid.sheets} sheets")
    w.slip.figure(panel_figure(laid))
    w.slip.fact("laid", f"{laid.whole} whole, {laid.cut} cut, staggered by half a sheet")
    w.slip.fact("waste", f"{laid.waste:.0%} of what is bought")


def tool_fields(w: "Window", put: Callable[..., object]) -> None:
    """Add what the floor tools remember."""
    from balken.session.tools.floors import FROM, HOLES

    slip, system, kit = w.slip, w.building.project.system, w.tools.kit
    if w.tools.name == "Floor":
        slip.options(
            "over", [(x, x) for x in FROM], kit.floor_from, lambda v: put(again=True, floor_from=v)
        )
        ups: list[tuple[str, Any]] = [("the first there is", "")]
        ups += [(_short(w, b), b.id) for b in w.building.project.build_ups if b.use == "floor"]
        slip.options("built up as", ups, kit.floor_build_up, lambda v: put(floor_build_up=v))
        slip.field(
            "out past walls",
            format_run(kit.edge, system),
            lambda t: put(edge=parse_length(t, system, negative=True)),
        )
        return
    slip.options(
        "is for",
        [(text.removeprefix("a ").removeprefix("an "), k) for k, text in HOLES.items()],
        kit.hole,
        lambda v: put(again=True, hole=v),
    )
    for i, word in enumerate(("length", "width")):

        def sized(t: str, i: int = i) -> object:
            value = parse_length(t, system) if t.strip() else 0.0
            size = (value, kit.hole_size[1]) if i == 0 else (kit.hole_size[0], value)
            return put(again=True, hole_size=size)

        slip.field(word, format_run(kit.hole_size[i], system), sized)
    slip.line(
        "With a length and a width one click places it; without, click two corners.",
        quiet=True,
        small=True,
    )
