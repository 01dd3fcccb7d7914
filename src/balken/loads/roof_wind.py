"""Wind that lifts roofs and presses on them, from the wind of the site. N/mm² of plan."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from msgspec.structs import replace

from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings
from balken.geometry.plane import box
from balken.loads.roof_snow import flattest, steepest
from balken.loads.wind import WIND
from balken.model.project import Level, Project, levels_of
from balken.model.roofs import RoofArea


def ground_height(levels: Sequence[Level]) -> float:
    """How high the ground lies: its level, or the lowest top of a foundation, or nothing, mm."""
    heights = [x.elevation for x in levels_of(levels, "ground")] or [
        x.elevation for x in levels_of(levels, "foundation_top")
    ]
    return min(heights, default=0.0)


class OnRoof(NamedTuple):
    """What wind does to a roof, N/mm² of plan."""

    lifts: float
    presses: float


def wind_on_roof(project: Project, roof: RoofArea, bearings: Bearings) -> OnRoof:
    """What lifts and what presses a roof, each taken as even all over it.

    What lifts it lifts its eaves as much as the wind does, which works more on what reaches past the
    walls. The height is that of the middle of the roof, the length in the wind the lesser side: the
    greatest of all directions. The flattest pitch is lifted most, the steepest pressed most.
    """
    wind, rules = project.site.wind, WIND[project.code]
    if wind is None:
        return OnRoof(0.0, 0.0)
    x0, y0, x1, y1 = box(bearings.outline)
    least, angle = min(x1 - x0, y1 - y0), flattest(roof)
    half, height = least / 2, mean_height(project, roof, bearings)
    pressure, slender = rules.pressure(wind, height), height / least
    over = rules.roof_uplift(pressure, angle, slender, enclosed=wind.enclosed)
    past = rules.overhang_uplift(pressure, angle, slender)
    out = _farthest_out(roof)
    lifts = (over * half**2 + past * (2 * out * half + out**2)) / (half + out) ** 2
    presses = rules.roof_pressure(pressure, steepest(roof), slender, enclosed=wind.enclosed)
    return OnRoof(lifts, presses)


def mean_height(project: Project, roof: RoofArea, bearings: Bearings) -> float:
    """The height of the middle of a roof over the ground, mm."""
    x0, y0, x1, y1 = box(bearings.outline)
    rise = min(x1 - x0, y1 - y0) / 2 * math.tan(math.radians(flattest(roof))) / 2
    return bearings.height - ground_height(project.levels) + rise


def _farthest_out(roof: RoofArea) -> float:
    """How far a roof reaches past its walls where it does so most, mm."""
    outs = [roof.overhang, roof.rake or 0.0]
    return max(outs + [s.overhang for s in roof.sides if s.overhang is not None])


def with_wind_of_site(project: Project) -> Project:
    """A project whose roofs have what the site's wind does to them, where it is not typed; the same
    where no wind is typed."""
    if project.site.wind is None:
        return project
    return replace(project, roofs=tuple(_blown(project, r) for r in project.roofs))


def _blown(project: Project, roof: RoofArea) -> RoofArea:
    bearings = bearings_of_roof(project, roof)
    if bearings is not None:
        found = wind_on_roof(project, roof, bearings)
        lifts = found.lifts if roof.uplift is None else roof.uplift
        presses = found.presses if roof.pressed is None else roof.pressed
        roof = replace(roof, uplift=round(lifts, 9), pressed=round(presses, 9))
    if roof.uplift is not None and roof.framing == "trusses" and not roof.trusses.uplift:
        roof = replace(roof, trusses=replace(roof.trusses, uplift=roof.uplift))
    return roof
