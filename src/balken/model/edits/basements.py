"""The levels a full basement stands between: a storey under the top of its walls, not where strips
lie."""

from typing import Final

from balken.model.edits.levels import add_level
from balken.model.project import Level, Project, column
from balken.units import INCH

LEAST_ROOM: Final = 80 * INCH
"""Under joists over a basement nobody lives in, mm (IRC 2021 R305.1.1: 6 ft 8 in; R305.1 asks 7 ft
where people live)."""
USUAL_ROOM: Final = {"us": 96 * INCH, "metric": 2400.0}
"""From the slab to the top of the walls, mm; common practice, no source."""
BED: Final = 0.5
"""A slab lies on the footing where its underside meets the footing's top, to this, mm."""


def basement_levels(
    project: Project, top: Level, slab_thickness: float, base: str = "", slab: str = ""
) -> tuple[Project, str, str]:
    """A project with the levels a basement needs, and the keys of its footing's top and of
    its slab.

    Levels that are there serve where people can stand between slab and top, and the footing lies
    under the slab; else they are added.

    Args:
        project: to be placed in.
        top: of its walls.
        slab_thickness: mm.
        base: the level of its footing's top where it is chosen.
        slab: the level of its slab where it is chosen.
    """
    if not slab:
        project, slab = _slab(project, top, slab_thickness, base)
    if not base:
        under = next(x.elevation for x in project.levels if x.id == slab) - slab_thickness
        there = next(
            (
                x
                for x in project.levels
                if x.role == "footing_top" and abs(x.elevation - under) < BED
            ),
            None,
        )
        if there is None:
            project = add_level(project, "footing_top", "Basement footing", under)
            there = project.levels[-1]
        base = there.id
    return project, base, slab


def _slab(project: Project, top: Level, thickness: float, base: str) -> tuple[Project, str]:
    if base:
        height = next(x.elevation for x in project.levels if x.id == base) + thickness
    else:
        height = top.elevation - USUAL_ROOM[project.system]
    for x in column(project):
        fits = (
            abs(x.elevation - height) < BED if base else top.elevation - x.elevation >= LEAST_ROOM
        )
        if x.role == "slab" and fits:
            return project, x.id
    project = add_level(project, "slab", "Basement slab", height)
    return project, project.levels[-1].id
