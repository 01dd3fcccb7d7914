"""What dimensions and marks by hand hold on to: a place of the building that moves with a wall, an opening, a
post, a beam or a grid, so that what is measured stays what was meant."""

from collections.abc import Iterator
from typing import Final

from msgspec.structs import replace

from balken.geometry.plane import Point, add, distance, sub
from balken.model.beams import BeamEnd
from balken.model.grids import grid_crossings
from balken.model.paper import Hold
from balken.model.project import Project
from balken.model.supports import spots_of
from balken.model.walls import Wall, direction_of

NEAR: Final = 900.0
"""A place is held by what lies no further from it, mm: the corner of a thick wall by its end."""
Held = tuple[Hold, Point]
"""What can be held on to, and where it lies now."""


def hold_at(project: Project, base: str, place: Point) -> Hold:
    """What a place of the plan of a storey is held by: the nearest end of a wall, jamb, post, end of a beam
    or crossing of a grid; the place itself where none is near.

    Args:
        project: the building.
        base: the level of its walls.
        place: mm.
    """
    near = ((distance(at, place), n, hold, at) for n, (hold, at) in enumerate(_held(project, base)))
    away, _, hold, at = min(near, default=(NEAR + 1.0, 0, Hold(), place), key=lambda x: x[:2])
    if away > NEAR:
        return Hold(by=place)
    return Hold(hold.kind, hold.key, hold.part, sub(place, at))


def held_places(project: Project, holds: tuple[Hold, ...]) -> list[Point | None]:
    """Where held places lie now, mm; None for what is held by something that is gone."""
    there = {replace(h, by=(0.0, 0.0)): at for h, at in _all_held(project)}
    return [_place(h, there) for h in holds]


def _place(hold: Hold, there: dict[Hold, Point]) -> Point | None:
    if not hold.kind:
        return hold.by
    at = there.get(replace(hold, by=(0.0, 0.0)))
    return add(at, hold.by, 1.0) if at is not None else None


def _all_held(project: Project) -> Iterator[Held]:
    for w in project.walls:
        yield from _of_wall(w)
    yield from _of_others(project)


def _held(project: Project, base: str) -> Iterator[Held]:
    """Of the walls of one storey, and of what is shown on every plan."""
    for w in project.walls:
        if w.base == base:
            yield from _of_wall(w)
    yield from _of_others(project)


def _of_wall(item: Wall) -> Iterator[Held]:
    yield Hold("wall", item.id, "start"), item.start
    yield Hold("wall", item.id, "end"), item.end
    if not item.bulge:
        way = direction_of(item)
        for o in item.openings:
            yield Hold("opening", item.id, f"{o.id} start"), add(item.start, way, o.at)
            yield Hold("opening", item.id, f"{o.id} end"), add(item.start, way, o.at + o.width)


def _of_others(project: Project) -> Iterator[Held]:
    for grid in project.grids:
        for a, b, at in grid_crossings(grid):
            yield Hold("grid", grid.id, f"{a.id} {b.id}"), at
    for support, spot, _ in spots_of(project):
        yield Hold("support", support.id, ""), spot
    for beam in project.beams:
        for part, end in (("start", beam.start), ("end", beam.end)):
            if _is_free(end):
                yield Hold("beam", beam.id, part), end.at


def _is_free(end: BeamEnd) -> bool:
    """Whether an end of a beam lies where it was put; one on a grid is held by the grid."""
    return not end.grid
