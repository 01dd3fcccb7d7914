"""Naming a place in the building the way people on site do: by grid crossing, or by distance."""

import math

from balken.geometry.plane import Point, distance
from balken.model.grids import Grid, GridLine, crossing, grid_crossings, to_grid
from balken.model.project import Project
from balken.units import format_length

NEAR = 1500.0
"""A crossing further away than this names nothing, mm."""


def crossings(project: Project) -> list[tuple[str, Point]]:
    """Every crossing of grid lines that run different ways, named as ``B/3``."""
    found = []
    for grid in project.grids:
        found += [(f"{a.label}/{b.label}", point) for a, b, point in grid_crossings(grid)]
    return found


def place_name(project: Project, point: Point) -> str:
    """Return ``at B/3`` near a crossing, ``7'-2" from B/3`` further off, else the distances from
    the origin."""
    known = [found for g in project.grids if (found := _nearest(g, point))]
    if known:
        name, spot = min(known, key=lambda item: distance(item[1], point))
        away = distance(spot, point)
        if away < NEAR / 5:
            return f"at {name}"
        return f"{format_length(away, project.system)} from {name}"
    x, y = (format_length(v, project.system) for v in point)
    return f"{x} east and {y} north of the origin"


def _nearest(grid: Grid, point: Point) -> tuple[str, Point] | None:
    """The crossing of a grid nearest to a place: of the line nearest each way."""
    x, y = to_grid(grid, point)
    radius, turn = math.hypot(x, y), math.degrees(math.atan2(y, x))
    best: dict[str, GridLine] = {}
    away: dict[str, float] = {}
    for line in grid.lines:
        off = {
            "x": y - line.offset,
            "y": x - line.offset,
            "ring": radius - line.offset,
            "ray": math.remainder(turn - line.offset, 360.0),
        }[line.runs]
        if abs(off) < away.get(line.runs, math.inf):
            best[line.runs], away[line.runs] = line, abs(off)
    for a, b in (("x", "y"), ("ring", "ray")):
        if a in best and b in best:
            spot = crossing(grid, best[a], best[b])
            if spot:
                return f"{best[a].label}/{best[b].label}", spot
    return None
