"""Edits: plain functions from a project to the next. Each checks what it is given and returns a valid project."""

import re
from collections.abc import Iterable
from typing import Any, Final, TypeVar

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, distance, distance_to_segment, left, parallel, sub, unit
from balken.model.catalogue import catalogue_of
from balken.model.project import (
    Change,
    FloorArea,
    FoundationRun,
    GableRoof,
    Level,
    Project,
    Record,
    Site,
    Wall,
    level,
    wall,
)
from balken.model.validity import validate
from balken.model.walls import stacked
from balken.units import format_length

HIGHEST: Final = 1e6
_R = TypeVar("_R", bound=Record)


class EditError(ValueError):
    """An edit that cannot be made; its text says what stands in the way."""


def _with(records: Iterable[_R], key: str, **fields: Any) -> tuple[_R, ...]:
    return tuple(replace(r, **fields) if getattr(r, "id", None) == key else r for r in records)


def _checked(project: Project, **fields: Any) -> Project:
    try:
        # Records check their limits when they are read; an edit passes through the same gate.
        return validate(msgspec.convert(msgspec.to_builtins(replace(project, **fields)), Project))
    except msgspec.ValidationError as error:
        raise EditError(_in_words(str(error))) from error
    except ValueError as error:
        raise EditError(str(error)) from error


_LIMIT: Final = re.compile(r"Expected `\w+` (?P<sign>[<>]=?) (?P<limit>[-\d.e+]+) - at `\$.*\.(?P<field>\w+)`")
_PURE_NUMBERS: Final = ("rise", "live_limit", "total_limit")
"""Fields without a unit, whose limit can be said as it stands."""


def _in_words(fault: str) -> str:
    """Say a limit of a record as a sentence about the field that was typed."""
    found = _LIMIT.match(fault)
    if not found:
        return fault
    field = found["field"].replace("_", " ")
    limit = float(found["limit"])
    if found["sign"].startswith(">"):
        if limit == 0:
            return f"The {field} must be {'more than zero' if found['sign'] == '>' else 'zero or more'}."
        bound = f": at least {limit:g}" if found["field"] in _PURE_NUMBERS else ""
        return f"This {field} is too small{bound}."
    bound = f": at most {limit:g}" if found["field"] in _PURE_NUMBERS else ""
    return f"This {field} is too large{bound}."


def move_level(project: Project, key: str, elevation: float) -> Project:
    """Set a level's height, mm; walls and members hosted there follow.

    Raises:
        EditError: a wall or footing between two levels would have no height left.
    """
    if not -HIGHEST <= elevation <= HIGHEST:
        raise EditError("A level lies within a kilometre of zero.")
    old = level(project, key)
    moved = _checked(project, levels=_with(project.levels, key, elevation=elevation))
    for run in moved.runs:
        heights = [level(moved, k).elevation for k in (run.bottom, run.base, run.top)]
        if heights[1] - heights[0] < TOUCH or heights[2] - heights[1] < TOUCH:
            raise EditError(
                f"“{old.name}” cannot go to {format_length(elevation, project.system)}: foundation {run.name} runs from"
                " bottom of footing up through top of footing to top of foundation, and would have no height left."
            )
    return moved


def rename_level(project: Project, key: str, name: str) -> Project:
    """Give a level another name; it must be its own."""
    name = name.strip()
    if not name:
        raise EditError("A level needs a name.")
    if any(item.name == name and item.id != key for item in project.levels):
        raise EditError(f"Another level is called “{name}” already.")
    return _checked(project, levels=_with(project.levels, key, name=name[:200]))


def copy_level(project: Project, key: str, distance_up: float) -> Project:
    """Add a level with the same role at a distance above (negative: below) another, mm."""
    if abs(distance_up) < TOUCH:
        raise EditError("Copy a level by a distance other than zero.")
    old = level(project, key)
    names = {item.name for item in project.levels}
    number = next(n for n in range(2, 10_000) if f"{old.name} {n}" not in names)
    keys = {item.id for item in project.levels}
    new = Level(
        next(k for k in (f"{old.id}-{n}" for n in range(2, 10_000)) if k not in keys),
        f"{old.name} {number}",
        old.role,
        old.elevation + distance_up,
    )
    return _checked(project, levels=(*project.levels, new))


def move_wall(project: Project, key: str, by: float, *, stack: bool = True) -> Project:
    """Move a wall square to itself, mm to its left; ends of walls that meet it stretch along.

    Args:
        project: the building.
        key: the wall.
        by: distance to the left of the wall's line (negative: right).
        stack: move the walls that stand over and under it as well.
    """
    chosen = wall(project, key)
    direction = unit(sub(chosen.end, chosen.start))
    shift = (left(direction)[0] * by, left(direction)[1] * by)
    moving = {chosen.id} | ({w.id for w in stacked(project, chosen)} if stack else set())
    walls = tuple(_moved(w, moving, project, shift) for w in project.walls)
    return _checked(project, walls=walls)


def _moved(item: Wall, moving: set[str], project: Project, shift: Point) -> Wall:
    if item.id in moving:
        return replace(item, start=add(item.start, shift), end=add(item.end, shift))
    ends = [item.start, item.end]
    for i, end in enumerate(ends):
        for other in project.walls:
            if other.id not in moving or other.base != item.base:
                continue
            reach = max(other.thickness, item.thickness) + TOUCH
            square = not parallel(unit(sub(item.end, item.start)), unit(sub(other.end, other.start)))
            if square and distance_to_segment(end, other.start, other.end) <= reach:
                ends[i] = add(end, shift)
                break
    if distance(*ends) < TOUCH:
        raise EditError(f"Wall “{item.name}” would have no length left.")
    return _keep_openings(item, replace(item, start=ends[0], end=ends[1]))


def _keep_openings(old: Wall, new: Wall) -> Wall:
    """Leave openings where they are in the building when a wall's start moves."""
    direction = unit(sub(new.end, new.start))
    slide = sub(old.start, new.start)
    by = slide[0] * direction[0] + slide[1] * direction[1]
    if abs(by) < TOUCH / 100:
        return new
    return replace(new, openings=tuple(replace(o, at=o.at + by) for o in old.openings))


def set_floor(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a floor area; ``section=None`` and ``spacing=None`` give them back to the calculation."""
    _known(FloorArea, fields)
    return _checked(project, floors=_with(project.floors, key, **fields))


def set_roof(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a gable roof."""
    _known(GableRoof, fields)
    return _checked(project, roofs=_with(project.roofs, key, **fields))


def set_wall_tops(project: Project, keys: tuple[str, ...], top: str) -> Project:
    """Let walls end at a level."""
    walls = tuple(replace(w, top=top, top_offset=0.0) if w.id in keys else w for w in project.walls)
    return _checked(project, walls=walls)


def set_run(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a foundation run."""
    _known(FoundationRun, fields)
    return _checked(project, runs=_with(project.runs, key, **fields))


def set_site(project: Project, **fields: Any) -> Project:
    """Change what the place asks for."""
    _known(Site, fields)
    return _checked(project, site=replace(project.site, **fields))


def remove_host(project: Project, host: str) -> Project:
    """Take a foundation run, floor area or roof away, and the changes by hand on its members with it."""
    kind, key = host.split(":", 1)
    field = {"run": "runs", "floor": "floors", "roof": "roofs"}.get(kind)
    if field is None or all(r.id != key for r in getattr(project, field)):
        raise EditError(f"There is no “{host}” to take away.")
    rest = tuple(r for r in getattr(project, field) if r.id != key)
    changes = tuple(c for c in project.changes if not c.member.startswith(f"{host}/"))
    return _checked(project, **{field: rest, "changes": changes})


def _known(kind: type[Record], fields: dict[str, Any]) -> None:
    unknown = set(fields) - set(kind.__struct_fields__)
    if unknown:
        raise EditError(f"{kind.__name__} has no field “{sorted(unknown)[0]}”.")


def change_member(project: Project, member: str, **fields: Any) -> Project:
    """Change a member by hand: ``section``, ``removed`` or ``shift``. A change that changes nothing is dropped."""
    if fields.get("section") is not None and fields["section"] not in catalogue_of(project.system).sections:
        raise EditError(f"There is no section “{fields['section']}” in this catalogue.")
    old = next((c for c in project.changes if c.member == member), Change(member))
    new = replace(old, **fields)
    others = tuple(c for c in project.changes if c.member != member)
    kept = () if new == Change(member) else (new,)
    return _checked(project, changes=tuple(sorted(others + kept, key=lambda c: c.member)))


def drop_change(project: Project, member: str) -> Project:
    """Forget what was changed by hand on a member."""
    return _checked(project, changes=tuple(c for c in project.changes if c.member != member))
