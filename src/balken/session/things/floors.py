"""A floor: how its joists run, its loads, openings and panels."""

import math
from functools import partial
from typing import Any, Final

from balken.drawing.floor_words import build_up_name
from balken.drawing.panel_figure import panel_figure
from balken.drawing.tiers import Tier
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.floors.panels import lay_panels
from balken.geometry.plane import Point
from balken.model.catalogue import catalogue_of
from balken.model.edits import set_floor
from balken.model.edits.floors import copy_floor
from balken.model.edits.hosts import remove_host
from balken.model.floors import FloorArea
from balken.model.names import HostName, ThingName, as_host, as_thing
from balken.model.project import Project
from balken.model.uses import USES
from balken.session.desk import Desk, DragWay, Thing
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
from balken.session.things.fields import level_options
from balken.session.things.floor_build_ups import build_up, joist_sections
from balken.session.things.floor_edges import edges
from balken.session.things.members import (
    alike_members,
    called_member,
    piece_moved,
    piece_ways,
    slip_or,
    take_away,
    tier_of,
)
from balken.session.things.sized import summary
from balken.session.things.wood import Edit, air_row, limit_rows
from balken.site.floor_weights import floor_dead
from balken.units import System, format_area_load, format_run, parse_angle, parse_length
from balken.units.quantity import parse_area_load


def parts_of_tier(desk: Desk, tier: Tier) -> list[FloorArea]:
    """The floors that lie in a tier."""
    hosts = set(tier.hosts)
    return [f for f in desk.project.floors if HostName("floor", f.id) in hosts]


def list_of(desk: Desk, floors: list[FloorArea]) -> Rows:
    """Add the list of floors of a level, to go to each."""
    yield Heading("Floors here", str(len(floors)))
    for floor in floors:
        yield Link(floor.id, floor.name, partial(desk.select, HostName("floor", floor.id)))
        yield Line(build_up_name(desk.checked, floor), quiet=True, small=True)


def fields(desk: Desk, floor: FloorArea) -> Rows:
    """Add the fields of one floor."""
    yield from _layout(desk, floor)
    yield from build_up(desk, floor)
    yield from _openings(desk, floor)
    yield from edges(desk, floor)
    yield from _panels(desk, floor)
    yield Heading("This floor")
    yield Field(
        "name",
        floor.name,
        lambda t: desk.edit(
            "name of floor", partial(set_floor, key=floor.id, name=t.strip() or floor.name)
        ),
    )
    yield level_options(
        desk.project,
        "top at",
        floor.level,
        lambda v: desk.edit("level of floor", partial(set_floor, key=floor.id, level=v)),
    )
    yield level_options(
        desk.project,
        "bears on",
        floor.bears_on,
        lambda v: desk.edit("bearing of floor", partial(set_floor, key=floor.id, bears_on=v)),
    )
    others = [
        (x.name, x.id) for x in desk.project.levels if x.role == "floor" and x.id != floor.level
    ]
    if others:
        yield Options(
            "copy to",
            [("another level …", ""), *others],
            "",
            lambda v: (
                desk.edit("copy a floor", lambda p: copy_floor(p, floor.id, v)[0]) if v else None
            ),
        )
    yield Button(
        "Take away this floor",
        lambda: desk.edit(
            "take a floor away", partial(remove_host, host=HostName("floor", floor.id))
        ),
    )


def _layout(desk: Desk, floor: FloorArea) -> Rows:
    system = desk.system
    body = next(b for b in desk.project.build_ups if b.id == floor.build_up)

    def edit(words: str, **values: Any) -> object:
        return desk.edit(words, partial(set_floor, key=floor.id, **values))

    if body.kind == "joists":
        yield Heading("Held by hand")
        sections: list[tuple[str, Any]] = [("by calculation", None)]
        sections += [(pretty(n), n) for n in joist_sections(desk)]
        yield Options("section", sections, floor.section, lambda v: edit("hold section", section=v))
        gaps: list[tuple[str, Any]] = [("by calculation", None)]
        gaps += [(format_run(s, system), s) for s in catalogue_of(system).spacings]
        if floor.spacing and all(abs(floor.spacing - s) > 0.1 for _, s in gaps[1:]):
            gaps.append((format_run(floor.spacing, system), floor.spacing))
        yield Options("spacing", gaps, floor.spacing, lambda v: edit("hold spacing", spacing=v))
        yield Field(
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
        yield Options("joists run", ways, floor.span, lambda v: edit("turn the joists", span=v))
        if floor.span == "turned":
            yield Field(
                "angle", f"{floor.turn:g}", lambda t: edit("turn the joists", turn=parse_angle(t))
            )
        yield Field(
            "begins after",
            format_run(floor.start, system),
            lambda t: edit("start of layout", start=parse_length(t, system, negative=True)),
        )
        yield from air_row(desk, floor, edit)
        yield from limit_rows(desk, floor, edit)
        yield Field(
            "sag under a person",
            format_run(floor.walk, system) if floor.walk else "by the code",
            lambda t: edit("limit under a person", walk=_walk(t, system)),
        )
    yield Heading("Loads")
    uses = USES[desk.project.code]
    yield Options(
        "used as",
        [(f"{use}, {format_area_load(u.live, system)}", use) for use, u in uses.items()],
        floor.use,
        lambda v: edit("use of floor", use=v, live=uses[v].live),
    )
    yield Field(
        "live load",
        format_area_load(floor.live, system),
        lambda t: edit("live load", live=parse_area_load(t, system)),
    )
    yield from _dead(desk, floor, edit)


STAND: Final = "as they stand"
"""What stands in the field of partitions where no allowance is made for them."""


def _dead(desk: Desk, floor: FloorArea, edit: Edit) -> Rows:
    """The dead load, typed or of the layers, and how partitions count."""
    system = desk.system
    ways = [("typed", "typed"), ("what is built", "layers")]
    yield Options("dead load is", ways, floor.dead_from, lambda v: edit("dead load", dead_from=v))
    if floor.dead_from == "typed":
        yield Field(
            "dead load",
            format_area_load(floor.dead, system),
            lambda t: edit("dead load", dead=parse_area_load(t, system)),
        )
    else:
        whole = format_area_load(floor_dead(desk.project, floor), system)
        yield Fact("dead load", f"{whole}, of its layers")
        yield Field(
            "finishes",
            format_area_load(floor.finishes, system),
            lambda t: edit("finishes", finishes=parse_area_load(t, system)),
        )

    def partitions(text: str) -> object:
        stand = text.strip().lower() in ("", STAND)
        return edit("partitions", partitions=None if stand else parse_area_load(text, system))

    yield Field(
        "partitions",
        STAND if floor.partitions is None else format_area_load(floor.partitions, system),
        partitions,
        example="an allowance",
    )
    if floor.partitions is not None and floor.dead_from == "typed":
        yield Line("The typed dead load has this allowance in it.", quiet=True, small=True)


def _walk(text: str, system: System) -> float:
    """A limit of sag under 1 kN; nothing where it is left to the code."""
    return 0.0 if text.strip().lower() in ("", "by the code") else parse_length(text, system)


def _openings(desk: Desk, floor: FloorArea) -> Rows:
    yield Heading("Openings", str(len(floor.openings)))
    for item in floor.openings:
        size = (
            " × ".join(format_run(s, desk.system) for s in item.size)
            if not item.corners
            else "free outline"
        )
        yield Link(
            item.id,
            f"{item.use}, {size}",
            partial(desk.select, ThingName("hole", floor.id, item.id)),
        )
    if not floor.openings:
        yield Line("The word “Opening in floor” leaves one out.", quiet=True, small=True)


def _panels(desk: Desk, floor: FloorArea) -> Rows:
    """Add how many panels the subfloor takes."""
    checked = desk.checked
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
    laid = lay_panels(panel, joist, desk.system)
    yield Heading("Subfloor panels", f"{laid.sheets} sheets")
    yield Figure(panel_figure(laid))
    yield Fact("laid", f"{laid.whole} whole, {laid.cut} cut, staggered by half a sheet")
    yield Fact("waste", f"{laid.waste:.0%} of what is bought")


def floor_slip(desk: Desk, floor: FloorArea) -> Rows:
    """What a floor is framed of, and its fields."""
    yield from summary(desk, HostName("floor", floor.id))
    yield from fields(desk, floor)


def _one(desk: Desk, key: str) -> Rows:
    floor = next((f for f in desk.project.floors if f.id == key), None)
    if floor is None:
        yield Title("Floor", "", "gone")
        return
    yield Title(floor.name, "floor", floor.id)
    yield from floor_slip(desk, floor)


TURNS: Final = 15.0
"""A dragged direction is caught at every so many degrees."""
DRAGGED: Final = 300.0
"""A shorter drag gives no direction, mm."""


def joists_along(project: Project, key: str, vector: Point) -> Project:
    """Let the joists of a floor run the way the symbol is dragged, caught at 15 degrees; along the
    axes by their names."""
    if math.hypot(*vector) < DRAGGED:
        return project
    angle = round(math.degrees(math.atan2(vector[1], vector[0])) / TURNS) * TURNS % 180.0
    if angle % 90.0 == 0.0:
        return set_floor(project, key, span="x" if angle == 0.0 else "y")
    return set_floor(project, key, span="turned", turn=angle)


FLOOR = Thing(
    "floor",
    "floor",
    slip_or(_one),
    there=lambda project, name: any(f.id == as_host(name).key for f in project.floors),
    called=called_member,
    tier=tier_of,
    alike=alike_members,
    ways=piece_ways,
    moved=piece_moved,
    take_away=take_away,
)
SPAN = Thing(
    "span",
    "direction of joists",
    lambda desk, name: _one(desk, as_thing(name).key),
    there=lambda project, name: any(f.id == as_thing(name).key for f in project.floors),
    called=lambda project, name: f"direction of {as_thing(name).part} {as_thing(name).key}",
    tier=lambda project, name: HostName("floor", as_thing(name).key),
    ways=lambda checked, name, at: DragWay(),
    moved=lambda checked, base, name, pull: joists_along(base, as_thing(name).key, pull.by),
)
