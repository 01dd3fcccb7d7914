"""Levels that were proposed, brought to the depth of what came out."""

import msgspec

from balken.framing.hosts.floor_bearing import bed_of_floor
from balken.framing.hosts.heights import build_up_of, depth_between
from balken.geometry.plane import TOUCH
from balken.model.catalogue import sections_of
from balken.model.names import HostName
from balken.model.project import Project
from balken.site.proposals import PLATE_UNDER
from balken.works.sizes import sizes_of


def settle(project: Project) -> Project:
    """Bring proposed levels to the depth of the joists that came out, so that the column adds up.

    For a building just begun from an architect's file: everything from the top of foundation down
    moves together, and so does each plate that was proposed under a floor. Levels of the
    architect's stay.
    """
    sizes = sizes_of(project)
    shifts: dict[str, float] = {}
    below = {"foundation_top", "ground", "footing_top", "footing_bottom", "slab"}
    for floor in project.floors:
        sized = sizes.get(HostName("floor", floor.id))
        bed = bed_of_floor(project, floor)
        if sized is None or bed is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = sections_of(project.system, project.products)[sized.size.section].depth
        shift = depth_between(project, floor, bed.height) - depth
        if abs(shift) < TOUCH:
            continue
        if any(r.top == floor.bears_on for r in project.runs):
            shifts.update(
                {x.id: shift for x in project.levels if x.role in below and x.id not in shifts}
            )
        elif floor.bears_on.startswith(PLATE_UNDER):
            shifts[floor.bears_on] = shift
    levels = tuple(
        msgspec.structs.replace(x, elevation=round(x.elevation + shifts[x.id], 6))
        if x.id in shifts
        else x
        for x in project.levels
    )
    return msgspec.structs.replace(project, levels=levels)
