"""A storey on another: its walls copied to a level, flush with those below, out or in."""

from msgspec.structs import replace

from balken.geometry.plane import (
    EXACT,
    TOUCH,
)
from balken.model.edits.common import EditError, checked, fresh_many
from balken.model.edits.walls import move_wall
from balken.model.project import Level, Project, level, wall_base, wall_top
from balken.model.walls import Wall


def copy_storey(
    project: Project, base: str, to: str, *, outwards: float = 0.0, openings: bool = True
) -> Project:
    """Copy the walls that stand on a level to another one, at their own height.

    Args:
        project: the building.
        base: the level the walls stand on.
        to: the level the copies stand on.
        outwards: of outside walls, mm: flush at zero, out positive, in negative.
        openings: take doors and windows along.

    Raises:
        EditError: there are no walls to copy, or some stand there already.
    """
    chosen = _to_copy(project, base, to)
    keys = fresh_many((w.id for w in project.walls), "W", len(chosen))
    foot = level(project, to).elevation
    highest = max(wall_top(project, w) - wall_base(project, w) for w in chosen)
    project = _with_plate(project, foot, foot + highest)
    made = [_copy(project, w, key, to, openings=openings) for w, key in zip(chosen, keys)]
    copied = checked(project, walls=project.walls + tuple(made))
    return _outwards(copied, to, outwards) if abs(outwards) > TOUCH / 1000 else copied


def _to_copy(project: Project, base: str, to: str) -> list[Wall]:
    """The walls of a level that do not stand on another already."""
    chosen = [w for w in project.walls if w.base == base]
    if not chosen:
        raise EditError(f"No walls stand on “{level(project, base).name}”.")
    if base == to:
        raise EditError("The walls stand on that level already; choose another one.")
    lines = {(w.start, w.end) for w in project.walls if w.base == to}
    chosen = [w for w in chosen if (w.start, w.end) not in lines]
    if not chosen:
        raise EditError(f"The same walls stand on “{level(project, to).name}” already.")
    return chosen


def _copy(project: Project, w: Wall, key: str, to: str, *, openings: bool) -> Wall:
    """A wall on another level, as high as it is."""
    item = level(project, to)
    height = wall_top(project, w) - wall_base(project, w)
    head = item.elevation + w.base_offset + height
    top = _top_for(project, head, item.elevation)
    offset = head - level(project, top).elevation
    holes = w.openings if openings else ()
    return replace(
        w,
        id=key,
        name=f"{w.name} ({item.name})"[:200],
        base=to,
        top=top,
        top_offset=offset if abs(offset) > EXACT else 0.0,
        openings=tuple(replace(o, id=f"{key}-{i}") for i, o in enumerate(holes, 1)),
        source="",
    )


def _with_plate(project: Project, foot: float, height: float) -> Project:
    """Add a plate level for a storey that has no level over it yet."""
    if any(x.elevation > foot + TOUCH for x in project.levels):
        return project
    names = {x.name for x in project.levels}
    number = sum(x.role == "plate" for x in project.levels) + 1
    name = next(n for n in (f"Plate {k}" for k in range(number, 10_000)) if n not in names)
    key = fresh_many((x.id for x in project.levels), "P", 1)[0]
    return checked(project, levels=(*project.levels, Level(key, name, "plate", round(height, 6))))


def _top_for(project: Project, height: float, foot: float) -> str:
    above = [x for x in project.levels if x.elevation > foot + TOUCH]
    return min(above, key=lambda x: (abs(x.elevation - height), x.id)).id


def _outwards(project: Project, base: str, by: float) -> Project:
    from balken.site.bodies import outer_sides, storey_outline

    walls = tuple(w for w in project.walls if w.base == base and not w.bulge)
    sides = outer_sides(walls, storey_outline(walls))
    for key, sign in sides.items():
        project = move_wall(project, key, by * sign, stack=False)
    return project
