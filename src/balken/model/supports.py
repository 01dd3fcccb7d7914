"""Where posts, pads and piers stand: at crossings of grid lines, or free."""

import math
from collections.abc import Mapping, Sequence

from balken.geometry.plane import Point, Ring, add, rotate
from balken.model.grids import crossing, grid_line
from balken.model.project import PointSupport, Project, grid


def spot_of(project: Project, item: PointSupport) -> Point | None:
    """Where a support stands in the plan; None where its grid lines no longer cross."""
    if not item.grid:
        return item.at
    of = grid(project, item.grid)
    point = crossing(of, grid_line(of, item.lines[0]), grid_line(of, item.lines[1]))
    return add(point, item.at) if point else None


def spots_of(
    project: Project, items: Sequence[PointSupport] | None = None
) -> list[tuple[PointSupport, Point, float]]:
    """Every support (or those of some) that stands somewhere, with its spot and its turn in
    the plan, degrees."""
    grids = {g.id: (g, {x.id: x for x in g.lines}) for g in project.grids}
    known: dict[
        tuple[str, tuple[str, ...]], Point | None
    ] = {}  # a post and its pad stand at one crossing
    found = []
    for item in project.point_supports if items is None else items:
        if not item.grid:
            found.append((item, item.at, item.turn))
            continue
        of, lines = grids[item.grid]
        place = (item.grid, item.lines)
        if place not in known:
            known[place] = crossing(of, lines[item.lines[0]], lines[item.lines[1]])
        point = known[place]
        if point:
            found.append((item, add(point, item.at), item.turn + of.angle))
    return found


def footprint(project: Project, item: PointSupport) -> Ring | None:
    """A support's outline in plan, a round one with 24 corners; None where it stands
    nowhere."""
    spot = spot_of(project, item)
    if spot is None:
        return None
    return outline_at(
        item, spot, item.turn + (grid(project, item.grid).angle if item.grid else 0.0)
    )


def outline_at(item: PointSupport, spot: Point, degrees: float) -> Ring:
    """The outline of a support at a spot, turned."""
    turn = math.radians(degrees)
    if item.round:
        r = item.size[0] / 2
        ring = [(r * math.cos(math.pi * k / 12), r * math.sin(math.pi * k / 12)) for k in range(24)]
    else:
        x, y = item.size[0] / 2, item.size[1] / 2
        ring = [(-x, -y), (x, -y), (x, y), (-x, y)]
    return tuple(add(spot, rotate(p, turn)) for p in ring)


def heights(project: Project, item: PointSupport) -> tuple[float, float]:
    """A support's foot and top, mm; a pad with a thickness of its own hangs under its
    top."""
    return heights_at({x.id: x.elevation for x in project.levels}, item)


def heights_at(levels: Mapping[str, float], item: PointSupport) -> tuple[float, float]:
    """A support's foot and top by the heights of levels, mm."""
    top = levels[item.top] + item.top_offset
    if item.kind == "pad" and item.thickness:
        return top - item.thickness, top
    return levels[item.base] + item.base_offset, top
