"""Edits of floors: placing them, what they are built up of, their edges, cuts and openings."""

from collections.abc import Sequence
from typing import Any, Literal

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, distance, dot, left, sub, unit
from balken.model.catalogue import catalogue_of
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.floors import BuildUp, FloorArea, FloorCut, FloorEdge, FloorOpening
from balken.model.named import named
from balken.model.project import Project, column, level
from balken.model.usual import USUAL, WOOD, limits
from balken.units import INCH

Scope = Literal["all", "these", "copy"]
CHIMNEY_CLEAR = 2 * INCH
"""Between wood and a chimney (IRC 2021 R1001.11, 2 in at an inside chimney), mm."""


def first_build_up(project: Project, kind: Literal["joists", "slab"] = "joists") -> BuildUp:
    """A usual build-up to begin with: common practice, no source."""
    usual, key = USUAL[project.system], fresh((b.id for b in project.build_ups), "U")
    wood = WOOD[project.code][:2]
    if kind == "slab":
        return BuildUp(key, "floor", *wood, (), (), kind="slab", slab=usual.floor_slab)
    spacings = catalogue_of(project.system).spacings
    return BuildUp(key, "floor", *wood, usual.joists, spacings, usual.subfloor)


def bears_under(project: Project, top: str) -> str:
    """The level a floor with its top at a level usually bears on: the plate or foundation
    next under it.

    Raises:
        EditError: no level lies under it.
    """
    here = level(project, top).elevation
    under = [x for x in column(project) if x.elevation < here - TOUCH]
    fitting = [x for x in under if x.role in ("plate", "foundation_top")]
    found = (fitting or under)[-1:]
    if not found:
        raise EditError(f"No level lies under {level(project, top).name}; a floor bears on one.")
    return found[0].id


def add_floor(
    project: Project, top: str, walls: Sequence[str] = (), **fields: Any
) -> tuple[Project, str]:
    """Add a floor with its top at a level; return the project and the floor's key.

    What is not said is usual: its bearing level, the first build-up there is, 10 and 40 psf.

    Raises:
        EditError: it has neither walls nor corners, or there is no level for it to bear on.
    """
    known(FloorArea, fields)
    if not walls and len(fields.get("corners", ())) < 3:
        raise EditError(
            "A floor follows walls, or has an outline of its own with three corners or more."
        )
    key = fresh((f.id for f in project.floors), "F")
    if "build_up" not in fields:
        there = next((b for b in project.build_ups if b.use == "floor"), None)
        if there is None:
            there = first_build_up(project)
            project = checked(project, build_ups=(*project.build_ups, there))
        fields["build_up"] = there.id
    usual = {
        "name": f"{level(project, top).name} {key}",
        "bears_on": fields.get("bears_on") or bears_under(project, top),
        **USUAL[project.system].floor._asdict(),
        **limits(WOOD[project.code].floor),
    }
    made = FloorArea(id=key, level=top, walls=tuple(walls), **{**usual, **fields})
    return checked(project, floors=(*project.floors, made)), key


def walls_under(project: Project, bears_on: str) -> tuple[str, ...]:
    """The walls a floor that bears on a level lies on: those that end there, else those that
    begin just over it."""
    ends = tuple(w.id for w in project.walls if w.top == bears_on)
    if ends:
        return ends
    low = level(project, bears_on).elevation + TOUCH
    bases = {w.base for w in project.walls}
    first = next((x.id for x in column(project) if x.elevation > low and x.id in bases), "")
    return tuple(w.id for w in project.walls if w.base == first)


def floors_with(project: Project, build_up: str) -> tuple[str, ...]:
    """The floors that are built up so."""
    return tuple(f.id for f in project.floors if f.build_up == build_up)


def change_floor_build_up(
    project: Project, key: str, scope: Scope, floors: Sequence[str] = (), **fields: Any
) -> tuple[Project, str]:
    """Change what floors are built up of; return the project and the key of the build-up that now
    says so.

    Args:
        project: the building.
        key: the build-up.
        scope: ``all`` floors that have it follow; ``these`` get one of their own; ``copy`` only
            adds one.
        floors: for ``these``.
        fields: of :class:`BuildUp`.

    Raises:
        EditError: there is no such field, or what comes out is no build-up.
    """
    known(BuildUp, fields)
    old = named(project.build_ups, key, "build-up")
    if scope == "all":
        return checked(project, build_ups=with_(project.build_ups, key, **fields)), key
    made = replace(old, id=fresh((b.id for b in project.build_ups), "U"), **fields)
    same = next((b for b in project.build_ups if replace(b, id=made.id) == made), None)
    if same is None:
        project = checked(project, build_ups=(*project.build_ups, made))
    new = same.id if same else made.id
    if scope == "these":
        project = checked(
            project,
            floors=tuple(replace(f, build_up=new) if f.id in floors else f for f in project.floors),
        )
    return project, new


def build_floor_otherwise(project: Project, key: str, **fields: Any) -> Project:
    """Build one floor up otherwise than before; others that were built up alike stay."""
    body = named(project.floors, key, "floor").build_up
    scope: Scope = "all" if floors_with(project, body) == (key,) else "these"
    return change_floor_build_up(project, body, scope, (key,), **fields)[0]


def remove_floor_build_up(project: Project, key: str) -> Project:
    """Take a build-up out of the list.

    Raises:
        EditError: floors are built so.
    """
    count = len(floors_with(project, key))
    if count:
        raise EditError(
            f"{count} {'floor is' if count == 1 else 'floors are'} built up so; give them another"
            " one first."
        )
    return checked(project, build_ups=tuple(b for b in project.build_ups if b.id != key))


def copy_floor(
    project: Project, key: str, to: str, build_up: str | None = None
) -> tuple[Project, str]:
    """Copy a floor to another level, over the walls that end where it bears there; return the
    project and its key.

    Openings and edges go along where their walls do not change; a place measured along a wall
    becomes a place in plan.

    Raises:
        EditError: the floor lies there already, or nothing lies under that level.
    """
    old = named(project.floors, key, "floor")
    if to == old.level:
        raise EditError("The floor lies at this level already; choose another.")
    bears = bears_under(project, to)
    walls = walls_under(project, bears) if old.walls else ()
    holes = tuple(
        replace(o, wall="", at=_in_plan(project, o)) if o.wall and o.wall not in walls else o
        for o in old.openings
    )
    fields = {
        "bears_on": bears,
        "build_up": build_up or old.build_up,
        "dead": old.dead,
        "live": old.live,
        "span": old.span,
        "turn": old.turn,
        "start": old.start,
        "section": None if build_up else old.section,
        "spacing": old.spacing,
        "corners": old.corners,
        "room": old.room,
        "edge": old.edge,
        "openings": holes,
        "cuts": old.cuts,
        "edges": tuple(e for e in old.edges if e.wall in walls),
    }
    return add_floor(project, to, walls, **fields)


def _in_plan(project: Project, item: FloorOpening) -> Point:
    wall = named(project.walls, item.wall, "wall")
    way = unit(sub(wall.end, wall.start))
    return add(add(wall.start, way, item.at[0]), left(way), item.at[1])


def add_opening(project: Project, key: str, use: str, **fields: Any) -> tuple[Project, str]:
    """Leave an opening out of a floor; return the project and the opening's key.

    Raises:
        EditError: it has no size.
    """
    known(FloorOpening, fields)
    old = named(project.floors, key, "floor")
    size, corners = fields.get("size", (0.0, 0.0)), fields.get("corners", ())
    if len(corners) < 3 and min(size) < TOUCH:
        raise EditError("An opening needs a length and a width.")
    fields.setdefault("clear", CHIMNEY_CLEAR if use == "chimney" else 0.0)
    name = fresh((o.id for o in old.openings), "O")
    made = FloorOpening(id=name, use=use, **fields)  # type: ignore[arg-type]
    return checked(project, floors=with_(project.floors, key, openings=(*old.openings, made))), name


def set_opening(project: Project, key: str, opening: str, **fields: Any) -> Project:
    """Change an opening of a floor."""
    known(FloorOpening, fields)
    old = named(project.floors, key, "floor")
    return checked(
        project, floors=with_(project.floors, key, openings=with_(old.openings, opening, **fields))
    )


def move_hole(project: Project, key: str, opening: str, by: Point) -> Project:
    """Move an opening of a floor by a vector in plan; one tied to a wall keeps its tie."""
    old = named(project.floors, key, "floor")
    item = named(old.openings, opening, "opening")
    if item.wall:
        wall = named(project.walls, item.wall, "wall")
        way = unit(sub(wall.end, wall.start))
        by = (dot(by, way), dot(by, left(way)))
    at = (round(item.at[0] + by[0], 6), round(item.at[1] + by[1], 6))
    return set_opening(project, key, opening, at=at)


def remove_opening(project: Project, key: str, opening: str) -> Project:
    """Close an opening of a floor."""
    old = named(project.floors, key, "floor")
    return checked(
        project,
        floors=with_(
            project.floors, key, openings=tuple(o for o in old.openings if o.id != opening)
        ),
    )


def set_floor_edge(
    project: Project, key: str, wall: str, *, out: float | None = None, ledger: bool | None = None
) -> Project:
    """Say how far a floor reaches past one of its walls, and whether it hangs on a ledger there."""
    old = named(project.floors, key, "floor")
    now = next((e for e in old.edges if e.wall == wall), FloorEdge(wall))
    new = replace(
        now, out=now.out if out is None else out, ledger=now.ledger if ledger is None else ledger
    )
    rest = tuple(e for e in old.edges if e.wall != wall)
    edges = rest if new == FloorEdge(wall) else (*rest, new)
    return checked(project, floors=with_(project.floors, key, edges=edges))


def cut_floor(
    project: Project,
    key: str,
    start: Point,
    end: Point,
    *,
    grid: str = "",
    line: str = "",
    **other: Any,
) -> tuple[Project, str]:
    """Cut a floor in two along a line, or along a grid line; return the project and the key of the
    part to the right.

    Both parts keep what the whole had; ``other`` are fields of the new part: its direction,
    spacing, build-up.

    Raises:
        EditError: the line has no length.
    """
    known(FloorArea, other)
    old = named(project.floors, key, "floor")
    if not grid and distance(start, end) < TOUCH:
        raise EditError("A line to cut along needs two places that lie apart.")
    cut = FloorCut(start, end, grid, line)
    back = FloorCut(end, start, grid, line, other_side=bool(grid))
    new = fresh((f.id for f in project.floors), "F")
    kept = replace(old, cuts=(*old.cuts, cut))
    name = f"{level(project, old.level).name} {new}"
    made = replace(old, **{"id": new, "name": name, "cuts": (*old.cuts, back), **other})
    floors = tuple(kept if f.id == key else f for f in project.floors)
    return checked(project, floors=(*floors, made)), new
