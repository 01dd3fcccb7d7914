"""Levels that were proposed, brought to the depth of what came out."""

from collections.abc import Iterator
from typing import Final

import msgspec

from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of, depth_between
from balken.geometry.plane import TOUCH
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.model.project import Project, levels_of
from balken.site.proposals import PLATE_UNDER
from balken.works.sizes import sizes_of

BELOW: Final = ("foundation_top", "ground", "footing_top", "footing_bottom", "slab")
"""What moves together under a building just begun."""


def settle(project: Project) -> Project:
    """Bring proposed levels to the depth of the joists that came out, so that the column adds up.

    For a building just begun from an architect's file: everything from the top of foundation down
    moves together, and so does each plate that was proposed under a floor. Levels of the
    architect's stay.
    """
    shifts: dict[str, float] = {}
    for floor, shift in _shifts(project):
        if any(r.top == floor.bears_on for r in project.runs):
            shifts = {x.id: shift for x in levels_of(project.levels, *BELOW)} | shifts
        elif floor.bears_on.startswith(PLATE_UNDER):
            shifts[floor.bears_on] = shift
    levels = tuple(
        msgspec.structs.replace(x, elevation=round(x.elevation + shifts.get(x.id, 0.0), 6))
        if x.id in shifts
        else x
        for x in project.levels
    )
    return msgspec.structs.replace(project, levels=levels)


def _shifts(project: Project) -> Iterator[tuple[FloorArea, float]]:
    """By how much what each floor bears on is to rise so that its joists fill their height, mm."""
    sizes = sizes_of(project)
    for floor in project.floors:
        sized = sizes.get(HostName("floor", floor.id))
        bearings = bearings_of_floor(project, floor)
        if sized is None or bearings is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = sections_of(project.system, project.products)[sized.size.section].depth
        shift = depth_between(project, floor, bearings.height) - depth
        if abs(shift) >= TOUCH:
            yield floor, shift
