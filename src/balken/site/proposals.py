"""Beginnings: the levels a structure needs under an architect's floors, and a first structure
between them.

Sizes proposed here are the trade's usual ones, each marked; every one can be changed afterwards.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Final, Literal

from msgspec.structs import replace

from balken.geometry.plane import (
    ANGLE,
    Point,
    Ring,
    box,
    distance,
    distance_to_segment,
    dot,
    edges,
    holds,
    middle_of,
    parallel,
    sub,
    unit,
)
from balken.model.catalogue import catalogue_of
from balken.model.edits.common import fresh
from balken.model.edits.floors import add_floor, bears_under, walls_under
from balken.model.edits.roofs import usual_roof
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import WITH_STEM, FoundationRun, walls_on
from balken.model.names import whole
from balken.model.project import Level, Project, level, levels_of
from balken.model.roofs import RoofSide
from balken.model.usual import USUAL, WOOD, limits
from balken.model.validity import validate
from balken.model.walls import Wall, direction_of
from balken.site.bodies import outer_sides, storey_outline, storey_walls

PARTLY: Final = 600.0
"""A wall that stands on the outline along more than this is an outside wall, mm."""
SAME_HEIGHT: Final = 10.0
"""Wall tops within this are one plate level, mm."""


def propose_levels(project: Project) -> Project:
    """Add the levels under the lowest floor: top of foundation, ground, top and bottom of footing.

    The top of foundation leaves room for sill, the deepest common joist (2x10) and subfloor below
    the floor, so that the column adds up. Levels whose role is there already are left alone.
    """
    floors = sorted((x for x in project.levels if x.role == "floor"), key=lambda x: x.elevation)
    if not floors:
        return project
    usual, sections = USUAL[project.system], catalogue_of(project.system).sections
    joist, sill = sections[usual.common_joist], sections[usual.ground.sill]
    lowest = floors[0].elevation
    foundation = round(lowest - usual.subfloor - joist.depth - sill.breadth, 6)
    ground = foundation - usual.ground.over_ground
    bottom = ground - project.site.frost_depth - usual.ground.under_frost
    thickness = usual.ground.footing[1]
    wanted = [
        Level("TF", "Top of foundation", "foundation_top", foundation, held=False),
        Level("GR", "Ground line", "ground", ground),
        Level("FT", "Top of footing", "footing_top", bottom + thickness),
        Level("FB", "Bottom of footing", "footing_bottom", bottom),
    ]
    roles = {x.role for x in project.levels}
    return validate(
        replace(project, levels=project.levels + tuple(x for x in wanted if x.role not in roles))
    )


def propose_structure(project: Project) -> tuple[Project, tuple[str, ...]]:
    """Add a foundation, a floor on every floor level, a ceiling and a roof where the walls allow
    it.

    Returns:
        The project, and one sentence for each thing that could not be proposed.
    """
    said: list[str] = []
    project = _propose_build_ups(propose_levels(project))
    project = _propose_foundation(project, said)
    project = _propose_floors(project, said)
    project = _propose_roof(project, said)
    return validate(project), tuple(said)


def floors_up(project: Project) -> list[Level]:
    """The floor levels that walls stand on, from the lowest up."""
    used = {w.base for w in project.walls}
    return sorted(
        (x for x in project.levels if x.role == "floor" and x.id in used), key=lambda x: x.elevation
    )


def _floor_limits(project: Project) -> dict[str, Any]:
    """How far floors may bend, by the code."""
    return limits(WOOD[project.code].floor)


def _propose_build_ups(project: Project) -> Project:
    usual, spacings = USUAL[project.system], catalogue_of(project.system).spacings
    wood = WOOD[project.code][:2]
    floor = BuildUp("joist-floor", "floor", *wood, usual.joists, spacings, usual.subfloor)
    ceiling = BuildUp("ceiling", "ceiling", *wood, usual.small, spacings)
    have = {b.id for b in project.build_ups}
    return replace(
        project,
        build_ups=project.build_ups + tuple(b for b in (floor, ceiling) if b.id not in have),
    )


def bearing_walls(walls: tuple[Wall, ...], outline: Ring) -> tuple[Wall, ...]:
    """The walls a floor bears on: the outside ones, and inside ones that cross most of the
    outline's length."""
    outside = outer_sides(walls, outline)
    x0, y0, x1, y1 = box(outline)
    enough = 0.7 * max(x1 - x0, y1 - y0)
    return tuple(
        wall
        for wall in walls
        if wall.id in outside
        or distance(wall.start, wall.end) >= enough
        or _partly_outside(wall, outline)
    )


def _partly_outside(wall: Wall, outline: Ring) -> bool:
    """Whether a wall is an outside wall along a part of it only, as one is that a wing begins
    at."""
    along = direction_of(wall)
    for a, b in edges(outline):
        if parallel(unit(sub(b, a)), along):
            low, high = sorted(dot(sub(p, wall.start), along) for p in (a, b))
            shared = min(high, distance(wall.start, wall.end)) - max(low, 0.0)
            off = distance_to_segment(a, wall.start, wall.end)
            near = min(off, distance_to_segment(b, wall.start, wall.end))
            if shared > PARTLY and near < wall.thickness:
                return True
    return False


def _propose_foundation(project: Project, said: list[str]) -> Project:
    floors = floors_up(project)
    roles = {x.role: x.id for x in project.levels}
    if (
        not floors
        or project.runs
        or not {"foundation_top", "footing_top", "footing_bottom"} <= set(roles)
    ):
        return project
    walls = storey_walls(project, floors[0].id)
    outline = storey_outline(walls)
    if outline is None:
        said.append(
            f"The walls on {floors[0].name} enclose nothing, so no foundation was proposed."
        )
        return project
    usual = USUAL[project.system].ground
    run = FoundationRun(
        "G1",
        "G1",
        tuple(w.id for w in bearing_walls(walls, outline)),
        roles["foundation_top"],
        roles["footing_top"],
        roles["footing_bottom"],
        usual.stem,
        usual.footing[0],
        sill=usual.sill,
    )
    return replace(project, runs=(run,))


def _propose_floors(project: Project, said: list[str]) -> Project:
    """Add the floors and the ceiling that are missing; what is there already stays as it is."""
    project = _propose_plates(project)
    floors = floors_up(project)
    if not floors:
        return project
    loads = USUAL[project.system].floor
    wanted = [
        _lowest_floor(project, floors[0]),
        *(
            _floor_over(project, below, above, f"F{number}", loads, said)
            for number, (below, above) in enumerate(pairwise(floors), 2)
        ),
        _ceiling_over(project, floors[-1]),
    ]
    there = {(f.level, f.bears_on) for f in project.floors}
    keys = {f.id for f in project.floors}
    made = [f for f in wanted if f and (f.level, f.bears_on) not in there and f.id not in keys]
    return replace(project, floors=project.floors + tuple(made))


def _lowest_floor(project: Project, lowest: Level) -> FloorArea | None:
    """The floor on the foundation, where there is one."""
    foundation = next(iter(levels_of(project.levels, "foundation_top")), None)
    if foundation is None or not project.runs:
        return None
    standing = dict.fromkeys(k for r in project.runs if r.kind in WITH_STEM for k in walls_on(r))
    walls, loads = tuple(standing), USUAL[project.system].floor
    return FloorArea(
        "F1",
        lowest.name,
        lowest.id,
        foundation.id,
        walls,
        "joist-floor",
        *loads,
        **limits(WOOD[project.code].floor),
    )


Placeable = Literal["foundation", "floors", "roof"]


def place(project: Project, kind: Placeable) -> tuple[Project, tuple[str, ...]]:
    """Add what is missing of one kind: the foundation, the joist floors and ceiling, or the roof.

    Returns:
        The project, and one sentence for each thing that could not be placed.
    """
    said: list[str] = []
    project = _propose_build_ups(propose_levels(project))
    step = {"foundation": _propose_foundation, "floors": _propose_floors, "roof": _propose_roof}[
        kind
    ]
    return validate(step(project, said)), tuple(said)


PLATE_UNDER: Final = "PU"
"""Plates proposed under a floor carry this in front of their number; :func:`settle` may still move
them."""


def _propose_plates(project: Project) -> Project:
    """Add a plate level under each floor whose walls below were drawn up to the floor itself.

    Architects often draw walls from floor to floor; the joists need their depth, so the walls must
    end under them.
    """
    usual = USUAL[project.system]
    depth = usual.subfloor + catalogue_of(project.system).sections[usual.common_joist].depth
    made: list[Level] = []
    names = {x.name for x in project.levels}
    keys = {x.id for x in project.levels}
    for number, (below, above) in enumerate(pairwise(floors_up(project)), 1):
        key = f"{PLATE_UNDER}{number}"
        if key in keys or not _needs_plate(project, below, above, depth):
            continue
        name = next(n for n in (f"Plate {k}" for k in range(number, 10_000)) if n not in names)
        names.add(name)
        made.append(Level(key, name, "plate", round(above.elevation - depth, 6), held=False))
    return replace(project, levels=project.levels + tuple(made))


def _needs_plate(project: Project, below: Level, above: Level, depth: float) -> bool:
    """Whether walls reach up to a floor itself, no plate is there, and there is room for one."""
    to_floor = any(w.top == above.id for w in project.walls if w.base == below.id)
    room = above.elevation - below.elevation > 2 * depth
    return to_floor and room and _plate_over(project, below) is None


def _plate_over(project: Project, base: Level) -> Level | None:
    """The plate level that most walls standing on a floor reach, else one between that floor
    and the next."""
    tops = [w.top for w in project.walls if w.base == base.id]
    plates = levels_of([level(project, k) for k in tops], "plate")
    if plates:
        return max(plates, key=lambda x: (tops.count(x.id), -x.elevation))
    above = [x.elevation for x in floors_up(project) if x.elevation > base.elevation]
    if not above:
        return None
    room = (
        x for x in levels_of(project.levels, "plate") if base.elevation < x.elevation < min(above)
    )
    return max(room, key=lambda x: x.elevation, default=None)


def _floor_over(
    project: Project,
    below: Level,
    above: Level,
    key: str,
    loads: tuple[float, float],
    said: list[str],
) -> FloorArea | None:
    walls = storey_walls(project, below.id)
    upper = storey_outline(storey_walls(project, above.id))
    if upper is not None:  # a wing of one storey is no room for the floor over it
        walls = tuple(w for w in walls if _in(upper, w))
    outline = storey_outline(walls)
    plate = _plate_over(project, below)
    if outline is None or plate is None:
        said.append(
            f"The walls on {below.name} enclose nothing or reach no plate, so {above.name} got no"
            " joists."
        )
        return None
    bearing = tuple(w.id for w in bearing_walls(walls, outline))
    return FloorArea(
        key,
        above.name,
        above.id,
        plate.id,
        bearing,
        "joist-floor",
        *loads,
        **limits(WOOD[project.code].floor),
    )


def _ceiling_over(project: Project, top: Level) -> FloorArea | None:
    walls = storey_walls(project, top.id)
    outline = storey_outline(walls)
    plate = _plate_over(project, top)
    if outline is None or plate is None:
        return None
    bearing = tuple(w.id for w in bearing_walls(walls, outline))
    dead, live = USUAL[project.system].ceiling
    return FloorArea(
        "C1",
        "Ceiling",
        plate.id,
        plate.id,
        bearing,
        "ceiling",
        dead,
        live,
        **limits(WOOD[project.code].ceiling),
    )


def _propose_roof(project: Project, said: list[str]) -> Project:
    floors = floors_up(project)
    if project.roofs or not floors:
        return project
    walls = storey_walls(project, floors[-1].id)
    outline = storey_outline(walls)
    plate = _plate_over(project, floors[-1])
    if outline is None or plate is None:
        said.append(
            f"The walls on {floors[-1].name} enclose nothing or reach no plate, so no roof was"
            " proposed."
        )
        return project
    outside = outer_sides(walls, outline)
    sides = tuple(RoofSide(key, "gable") for key in _gable_walls(walls, outline))
    mine = tuple(w.id for w in walls if w.id in outside)
    roof = usual_roof(project, "R1", plate.id, mine, sides=sides, rake=0.0)
    return replace(project, roofs=(roof,))


def _gable_walls(walls: tuple[Wall, ...], outline: Ring) -> tuple[str, ...]:
    """The outside walls at the narrow ends of a rectangle; none of any other outline, which
    gets hips all round."""
    if not is_rectangle(outline):
        return ()
    a, b = max(edges(outline), key=lambda e: distance(*e))
    outside = outer_sides(walls, outline)
    return tuple(
        dict.fromkeys(
            whole(w.id)
            for w in walls
            if w.id in outside and not parallel(direction_of(w), unit(sub(b, a)))
        )
    )


def is_rectangle(outline: Ring) -> bool:
    """Whether an outline is a rectangle, at any turn."""
    if len(outline) != 4:
        return False
    sides = [unit(sub(b, a)) for a, b in edges(outline)]
    return all(abs(dot(a, b)) < ANGLE for a, b in pairwise(sides))


# -- for one part of a storey -------------------------------------------------


def _part_walls(project: Project, base: str, walls: Sequence[str]) -> tuple[Wall, ...]:
    return tuple(w for w in storey_walls(project, base) if whole(w.id) in walls)


def with_foundation_under(project: Project, base: str, walls: Sequence[str]) -> Project:
    """The usual strip footing under the walls of a part of the lowest storey; the project as it is
    where there is no room for one."""
    project = propose_levels(project)
    roles = {x.role: x.id for x in project.levels}
    mine = _part_walls(project, base, walls)
    outline = storey_outline(mine)
    if outline is None or not {"foundation_top", "footing_top", "footing_bottom"} <= set(roles):
        return project
    usual, key = USUAL[project.system].ground, fresh((r.id for r in project.runs), "G")
    run = FoundationRun(
        key,
        key,
        tuple(dict.fromkeys(whole(w.id) for w in bearing_walls(mine, outline))),
        roles["foundation_top"],
        roles["footing_top"],
        roles["footing_bottom"],
        usual.stem,
        usual.footing[0],
        sill=usual.sill,
    )
    return validate(replace(project, runs=(*project.runs, run)))


def with_floor_over(project: Project, base: str, ring: Ring) -> Project:
    """A joist floor on a level, on what stands inside an outline below it: the walls of the storey
    below, or the foundation; the project as it is where there is nothing to lie on."""
    project = _propose_plates(_propose_build_ups(project))
    item, below = level(project, base), None
    for x in floors_up(project):
        below = x if x.elevation < item.elevation - SAME_HEIGHT else below
    if below is None:
        return _on_foundation(project, item, ring)
    plate = _plate_over(project, below)
    walls = tuple(w for w in storey_walls(project, below.id) if _in(ring, w))
    outline = storey_outline(walls)
    if plate is None or outline is None:
        return project
    bearing = tuple(dict.fromkeys(whole(w.id) for w in bearing_walls(walls, outline)))
    key = fresh((f.id for f in project.floors), "F")
    loads = USUAL[project.system].floor
    made = FloorArea(
        key,
        item.name,
        base,
        plate.id,
        bearing,
        "joist-floor",
        *loads,
        **limits(WOOD[project.code].floor),
    )
    return validate(replace(project, floors=(*project.floors, made)))


def with_floor_in(project: Project, base: str, room: Point) -> Project:
    """A joist floor on a level in the room round a place, beside floors that are there.

    Raises:
        EditError: nothing lies under that level for it to bear on.
    """
    project = _propose_build_ups(project)
    walls = walls_under(project, bears_under(project, base))
    return add_floor(project, base, walls, room=room)[0]


def _on_foundation(project: Project, item: Level, ring: Ring) -> Project:
    """A joist floor on the foundation walls under a part of the lowest storey."""
    top = next(iter(levels_of(project.levels, "foundation_top")), None)
    inside = {whole(w.id) for w in storey_walls(project, item.id) if _in(ring, w)}
    run = next((r for r in project.runs if inside & set(walls_on(r)) and r.kind in WITH_STEM), None)
    if top is None or run is None:
        return project
    key, loads = fresh((f.id for f in project.floors), "F"), USUAL[project.system].floor
    walls = tuple(k for k in walls_on(run) if k in inside)
    made = FloorArea(
        key,
        item.name,
        item.id,
        top.id,
        walls,
        "joist-floor",
        *loads,
        **limits(WOOD[project.code].floor),
    )
    return validate(replace(project, floors=(*project.floors, made)))


def _in(ring: Ring, wall: Wall) -> bool:
    """Whether a wall stands in an outline, its middle counts."""
    middle = middle_of(wall.start, wall.end)
    return holds(ring, middle) or any(
        distance_to_segment(middle, *edge) < wall.thickness for edge in edges(ring)
    )


def with_roof_over(project: Project, base: str, walls: Sequence[str]) -> Project:
    """The usual roof over the walls of a part of a storey; the project as it is where they reach
    no plate."""
    mine, plate = _part_walls(project, base, walls), _plate_over(project, level(project, base))
    outline = storey_outline(mine)
    if outline is None or plate is None:
        return project
    outside = outer_sides(mine, outline)
    sides = tuple(RoofSide(key, "gable") for key in _gable_walls(mine, outline))
    keys = tuple(dict.fromkeys(whole(w.id) for w in mine if w.id in outside))
    key = fresh((r.id for r in project.roofs), "R")
    roof = usual_roof(project, key, plate.id, keys, sides=sides, rake=0.0)
    return validate(replace(project, roofs=(*project.roofs, roof)))
