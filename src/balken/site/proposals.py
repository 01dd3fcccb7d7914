"""Beginnings: the levels a structure needs under an architect's floors, and a first structure
between them.

Sizes proposed here are the trade's usual ones, each marked; every one can be changed afterwards.
"""

from itertools import pairwise
from typing import Final, Literal

from msgspec.structs import replace

from balken.geometry.plane import ANGLE, Ring, box, distance, dot, edges, parallel, sub, unit
from balken.model.catalogue import catalogue_of
from balken.model.edits.roofs import usual_roof
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import FoundationRun
from balken.model.names import whole
from balken.model.project import Level, Project, level, levels_of
from balken.model.roofs import RoofSide
from balken.model.usual import USUAL
from balken.model.validity import validate
from balken.model.walls import Wall, direction_of
from balken.site.bodies import outer_sides, storey_outline, storey_walls

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


def _floors_up(project: Project) -> list[Level]:
    used = {w.base for w in project.walls}
    return sorted(
        (x for x in project.levels if x.role == "floor" and x.id in used), key=lambda x: x.elevation
    )


def _propose_build_ups(project: Project) -> Project:
    usual, spacings = USUAL[project.system], catalogue_of(project.system).spacings
    wood = (usual.species, usual.grade)
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
    found = []
    for wall in walls:
        length = ((wall.end[0] - wall.start[0]) ** 2 + (wall.end[1] - wall.start[1]) ** 2) ** 0.5
        if wall.id in outside or length >= enough:
            found.append(wall)
    return tuple(found)


def _propose_foundation(project: Project, said: list[str]) -> Project:
    floors = _floors_up(project)
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
    floors = _floors_up(project)
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
    walls, loads = project.runs[0].walls, USUAL[project.system].floor
    return FloorArea("F1", lowest.name, lowest.id, foundation.id, walls, "joist-floor", *loads)


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
    for number, (below, above) in enumerate(pairwise(_floors_up(project)), 1):
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
    above = [x.elevation for x in _floors_up(project) if x.elevation > base.elevation]
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
    outline = storey_outline(walls)
    plate = _plate_over(project, below)
    if outline is None or plate is None:
        said.append(
            f"The walls on {below.name} enclose nothing or reach no plate, so {above.name} got no"
            " joists."
        )
        return None
    bearing = tuple(w.id for w in bearing_walls(walls, outline))
    return FloorArea(key, above.name, above.id, plate.id, bearing, "joist-floor", *loads)


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
        live_limit=240.0,
        total_limit=180.0,
    )


def _propose_roof(project: Project, said: list[str]) -> Project:
    floors = _floors_up(project)
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
