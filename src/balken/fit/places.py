"""Naming a place in the building the way people on site do: by grid crossing, or by distance."""

from balken.geometry.plane import Point, distance, meet, sub, unit
from balken.model.grids import grid_ends
from balken.model.project import Project
from balken.units import format_length

NEAR = 1500.0
"""A crossing further away than this names nothing, mm."""


def crossings(project: Project) -> list[tuple[str, Point]]:
    """Return every crossing of grid lines that run different ways, named as ``B/3``."""
    found = []
    for grid in project.grids:
        lines = [(line, *grid_ends(grid, line)) for line in grid.lines]
        for a, p, q in (x for x in lines if x[0].runs == "x"):
            for b, r, s in (x for x in lines if x[0].runs == "y"):
                point = meet(p, unit(sub(q, p)), r, unit(sub(s, r)))
                if point:
                    found.append((f"{a.label}/{b.label}", point))
    return found


def place_name(project: Project, point: Point) -> str:
    """Return ``at B/3`` near a crossing, ``7'-2" from B/3`` further off, else the distances from the origin."""
    known = crossings(project)
    if known:
        name, spot = min(known, key=lambda item: distance(item[1], point))
        away = distance(spot, point)
        if away < NEAR / 5:
            return f"at {name}"
        return f"{format_length(away, project.system)} from {name}"
    x, y = (format_length(v, project.system) for v in point)
    return f"{x} east and {y} north of the origin"
