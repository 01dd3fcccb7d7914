"""Wind on the face of a wall, for its studs: as components in zones (ASCE 7-16 figure 30.3-1), and by the
faces of EN 1991-1-4 table 7.1. N/mm²."""

from typing import Final

from balken.framing.structure import Structure
from balken.loads.codes.us import wind as us
from balken.loads.roof_wind import ground_height
from balken.loads.wind import WIND
from balken.model.project import Project, wall_top
from balken.model.walls import Wall
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.units import PSF

PARTITION: Final = 5 * PSF
"""On walls inside a building, in place of the wind (IBC 1607.15)."""
CPE: Final = (1.4, 0.3)
"""Suction of zone A for small areas and pressure inside, the greatest of table 7.1 (from memory)."""


def pressure_on_wall(
    project: Project,
    structure: Structure,
    item: Wall,
    height: float,
    face: float,
    *,
    outside: bool,
) -> float:
    """What wind does to the face of a wall as a component, N/mm²; nothing where no wind is typed.

    Args:
        project: with its site.
        structure: for the height of its roofs.
        item: the wall.
        height: of the stud, mm.
        face: how wide a strip it holds, mm.
        outside: whether the wall is one of :func:`outside_walls`.
    """
    wind = project.site.wind
    if wind is None:
        return 0.0
    if not outside:
        return PARTITION
    top = max((wall_top(project, w) for w in project.walls), default=wall_top(project, item))
    roofs = [s.roof.top for s in structure.roofs.values()]
    mean = (top + max(roofs, default=top)) / 2
    q = WIND[project.code].pressure(wind, mean - ground_height(project.levels))
    if project.code == "eu":
        return q * sum(CPE)
    inside = us.ENCLOSED if wind.enclosed else us.PARTLY_OPEN
    area = us.effective_area(height, face)
    worst = max(us.wall_coefficient(5, way, area, 20.0) for way in ("in", "out"))
    return us.cladding_pressure(q, worst, inside)


def outside_walls(project: Project, base: str) -> frozenset[str]:
    """The walls on a level that stand at the outside of their storey."""
    walls = storey_walls(project, base)
    return frozenset(outer_sides(walls, storey_outline(walls)))
