"""A second version of the architect's file brought in over the first: what moved, came or went,
item by item.

Walls are told apart by the architect's own identifier. What a person built on them stays; an item
that is taken changes just that wall, level or grid line.
"""

from collections.abc import Callable
from functools import partial
from typing import Final, Literal, NamedTuple

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import distance, dot
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.common import EditError, checked, fresh, fresh_many, with_
from balken.model.edits.levels import move_level
from balken.model.edits.walls import remove_walls
from balken.model.grids import Grid, grid_ends, grid_line, to_grid
from balken.model.names import HostName, Name, ThingName
from balken.model.project import Level, Project, grid, level, wall, wall_base, wall_top
from balken.model.walls import Opening, Wall, called, direction_of, wall_length
from balken.units import System, format_length, format_run

SAME: Final = 0.5
"""A difference smaller than this is none, mm."""
Sort = Literal["moved", "came", "went", "changed"]


class Difference(msgspec.Struct, frozen=True):
    """One thing that differs between what is here and the new version: words, and the edit that
    takes it."""

    sort: Sort
    what: str
    words: str
    take: Callable[[Project], Project]
    name: Name | None = None
    """What to look at in the project as it is; None for what is not there yet."""


def differences(project: Project, new: Project) -> tuple[Difference, ...]:
    """What differs, levels first, then grid lines, then walls."""
    return (*_levels(project, new), *_grids(project, new), *_walls(project, new))


def _levels(project: Project, new: Project) -> list[Difference]:
    found: list[Difference] = []
    here = {x.name: x for x in project.levels}
    for item in new.levels:
        old = here.get(item.name)
        if old is None:
            found.append(
                Difference(
                    "came",
                    f"level {item.name}",
                    f"new at {format_length(item.elevation, project.system)}",
                    partial(_add_level, item=item),
                )
            )
        elif abs(old.elevation - item.elevation) > SAME:
            by = item.elevation - old.elevation
            words = f"{'up' if by > 0 else 'down'} by {format_run(abs(by), project.system)}"
            found.append(
                Difference(
                    "moved",
                    f"level {item.name}",
                    words,
                    partial(move_level, key=old.id, elevation=item.elevation),
                    ThingName("level", old.id),
                )
            )
    return found


def _add_level(project: Project, item: Level) -> Project:
    key = fresh((x.id for x in project.levels), "L")
    return checked(project, levels=(*project.levels, replace(item, id=key)))


def _grids(project: Project, new: Project) -> list[Difference]:
    found: list[Difference] = []
    here = {(x.runs, x.label): (g, x) for g in project.grids for x in g.lines}
    there = {(x.runs, x.label): (g, x) for g in new.grids for x in g.lines}
    for name, (g, line) in there.items():
        if name not in here:
            found.append(
                Difference(
                    "came", f"grid line {line.label}", "new", partial(_add_line, g=g, key=line.id)
                )
            )
            continue
        of, old = here[name]
        away = max(distance(a, b) for a, b in zip(grid_ends(of, old), grid_ends(g, line)))
        if away > SAME:
            found.append(
                Difference(
                    "moved",
                    f"grid line {line.label}",
                    f"by {format_run(away, project.system)}",
                    partial(_put_line, key=of.id, line=old.id, g=g, new=line.id),
                    ThingName("grid", of.id, old.id),
                )
            )
    return found


def _in_frame(of: Grid, g: Grid, key: str) -> dict[str, float]:
    """Where a line of one grid lies in the frame of another that lies alike."""
    line = grid_line(g, key)
    if line.runs in ("ring", "ray"):
        return {"offset": line.offset, "start": line.start, "end": line.end}
    a, b = (to_grid(of, p) for p in grid_ends(g, line))
    across, along = (1, 0) if line.runs == "x" else (0, 1)
    low, high = sorted((a[along], b[along]))
    return {
        "offset": round((a[across] + b[across]) / 2, 6),
        "start": round(low, 6),
        "end": round(high, 6),
    }


def _put_line(project: Project, key: str, line: str, g: Grid, new: str) -> Project:
    of = grid(project, key)
    made = replace(of, lines=with_(of.lines, line, **_in_frame(of, g, new)))
    return checked(project, grids=tuple(made if x.id == key else x for x in project.grids))


def _add_line(project: Project, g: Grid, key: str) -> Project:
    if not project.grids:
        return checked(project, grids=(replace(g, lines=(grid_line(g, key),)),))
    of = project.grids[0]
    line = replace(
        grid_line(g, key), id=fresh((x.id for x in of.lines), "A"), **_in_frame(of, g, key)
    )
    return checked(
        project,
        grids=tuple(
            replace(x, lines=(*x.lines, line)) if x.id == of.id else x for x in project.grids
        ),
    )


def _walls(project: Project, new: Project) -> list[Difference]:
    here = {w.source: w for w in project.walls if w.source}
    there = {w.source: w for w in new.walls if w.source}
    found = [
        _wall_difference(project, new, here.get(source), item) for source, item in there.items()
    ]
    gone = [_gone_wall(project, old) for source, old in here.items() if source not in there]
    return [*(d for d in found if d is not None), *gone]


def _wall_difference(
    project: Project, new: Project, old: Wall | None, item: Wall
) -> Difference | None:
    """What is new or other of one wall; None where nothing is."""
    if old is None:
        length = format_length(wall_length(item), project.system)
        words = f"new on {level(new, item.base).name}, {length} long"
        return Difference("came", called(item), words, partial(_add_wall, new=new, item=item))
    words = _how(project, old, new, item)
    if not words:
        return None
    sort: Sort = "moved" if words.startswith("by ") else "changed"
    put = partial(_put_wall, new=new, key=old.id, item=item)
    return Difference(sort, called(old), words, put, HostName("wall", old.id))


def _gone_wall(project: Project, old: Wall) -> Difference:
    words = f"no longer there, on {level(project, old.base).name}"
    remove = partial(remove_walls, keys=[old.id])
    return Difference("went", called(old), words, remove, HostName("wall", old.id))


def _how(project: Project, old: Wall, new: Project, item: Wall) -> str:
    """In words how a wall differs; empty where it does not."""
    system = project.system
    parts = []
    away = max(distance(old.start, item.start), distance(old.end, item.end))
    if away > SAME:
        parts.append(f"by {format_run(away, system)}")
    if abs(old.thickness - item.thickness) > SAME:
        parts.append(
            f"{format_run(item.thickness, system)} thick instead of"
            f" {format_run(old.thickness, system)}"
        )
    tall = [_height_between(new, project, old), wall_top(new, item) - wall_base(new, item)]
    if abs(tall[0] - tall[1]) > SAME:
        parts.append(
            f"{format_length(tall[1], system)} high instead of {format_length(tall[0], system)}"
        )
    return ", ".join([*parts, *_openings(old, item, system)])


def _height_between(new: Project, project: Project, old: Wall) -> float:
    """How high a wall would be between the levels of the new version: what those do is said
    once, for each level."""
    heights = {x.name: x.elevation for x in new.levels}

    def at(key: str) -> float:
        item = level(project, key)
        return heights.get(item.name, item.elevation)

    return at(old.top) + old.top_offset - at(old.base) - old.base_offset


def _openings(old: Wall, item: Wall, system: System) -> list[str]:
    """In words which openings of a wall moved, went or came."""
    gone, came = _placed(old), _placed(item)
    gone, came = gone - came, came - gone
    words = []
    for hole in sorted(gone):
        same = [
            x
            for x in came
            if (x.kind, x.width, x.height, x.sill)
            == (hole.kind, hole.width, hole.height, hole.sill)
        ]
        near = min(same, key=lambda x: (abs(x.at - hole.at), x.at), default=None)
        if near is None:
            words.append(f"{hole.kind} {format_length(hole.width, system)} gone")
        else:
            came = came - {near}
            words.append(f"{hole.kind} along by {format_run(abs(near.at - hole.at), system)}")
    return words + [f"{x.kind} {format_length(x.width, system)} new" for x in sorted(came)]


class _Placed(NamedTuple):
    """An opening by where it is in the building, to 0.1 mm: a wall's start that moves along it
    moves none of them."""

    kind: str
    at: float
    width: float
    height: float
    sill: float


def _placed(item: Wall) -> frozenset[_Placed]:
    start = dot(item.start, direction_of(item)) if not item.bulge else 0.0
    return frozenset(
        _Placed(
            o.kind, round(o.at + start, 1), round(o.width, 1), round(o.height, 1), round(o.sill, 1)
        )
        for o in item.openings
    )


def _matching(project: Project, new: Project, key: str) -> str:
    """The level here that a level of the new version is: by name, else by height.

    Raises:
        EditError: there is none; take that level first.
    """
    item = level(new, key)
    same = next((x for x in project.levels if x.name == item.name), None)
    same = same or next(
        (x for x in project.levels if abs(x.elevation - item.elevation) < 10.0), None
    )
    if same is None:
        raise EditError(f"There is no level “{item.name}” here yet. Take that level first.")
    return same.id


def _put_wall(project: Project, new: Project, key: str, item: Wall) -> Project:
    """Let a wall be as in the new version; its key, its levels and what stands on it stay."""
    old = wall(project, key)
    tops = item.top_offset if old.top == _matching(project, new, item.top) else old.top_offset
    made = replace(
        old,
        start=item.start,
        end=item.end,
        openings=_holes(key, item),
        base_offset=item.base_offset,
        top_offset=tops,
    )
    if abs(old.thickness - item.thickness) > SAME:
        project, name = _body(project, new, item)
        made = replace(
            made,
            thickness=item.thickness,
            side=item.side,
            shift=item.shift,
            build_up=name,
            by=item.by if name else "free",
        )
    return checked(project, walls=tuple(made if w.id == key else w for w in project.walls))


def _body(project: Project, new: Project, item: Wall) -> tuple[Project, str]:
    """The project with the build-up of a new wall, and its key here; empty where its layers
    are not known."""
    body = next((b for b in new.wall_build_ups if b.id == item.build_up), None)
    return add_build_up(project, body.layers, body.module) if body else (project, "")


def _holes(key: str, item: Wall) -> tuple[Opening, ...]:
    return tuple(replace(o, id=f"{key}-{i}") for i, o in enumerate(item.openings, 1))


def _add_wall(project: Project, new: Project, item: Wall) -> Project:
    key = fresh_many((w.id for w in project.walls), "W", 1)[0]
    project, name = _body(project, new, item)
    made = replace(
        item,
        id=key,
        base=_matching(project, new, item.base),
        top=_matching(project, new, item.top),
        openings=_holes(key, item),
        build_up=name,
    )
    return checked(project, walls=(*project.walls, made))
