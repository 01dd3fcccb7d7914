"""Wind that lifts roofs, from the wind of the site. N/mm² of plan."""

import math
from collections.abc import Sequence

from msgspec.structs import replace

from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings
from balken.geometry.plane import box
from balken.loads.roof_snow import flattest
from balken.loads.wind import WIND
from balken.model.project import Level, Project, levels_of
from balken.model.roofs import RoofArea


def ground_height(levels: Sequence[Level]) -> float:
    """How high the ground lies: its level, or the lowest top of a foundation, or nothing, mm."""
    heights = [x.elevation for x in levels_of(levels, "ground")] or [
        x.elevation for x in levels_of(levels, "foundation_top")
    ]
    return min(heights, default=0.0)


def uplift_by_wind(project: Project, roof: RoofArea, bearings: Bearings) -> float:
    """What lifts a roof, taken as even all over it, N/mm² of plan: so much as lifts its eaves like
    the wind does, which works more on what reaches past the walls.

    The height is that of the middle of the roof, the pitch its flattest, and the length in the wind
    the lesser side: the greatest suction of all directions.
    """
    wind, rules = project.site.wind, WIND[project.code]
    if wind is None:
        return 0.0
    x0, y0, x1, y1 = box(bearings.outline)
    least, angle = min(x1 - x0, y1 - y0), flattest(roof)
    half = least / 2
    rise = half * math.tan(math.radians(angle)) / 2
    height = bearings.height - ground_height(project.levels) + rise
    pressure, slender = rules.pressure(wind, height), height / least
    over = rules.roof_uplift(pressure, angle, slender, enclosed=wind.enclosed)
    past = rules.overhang_uplift(pressure, angle, slender)
    out = roof.overhang
    return (over * half**2 + past * (2 * out * half + out**2)) / (half + out) ** 2


def with_wind_of_site(project: Project) -> Project:
    """A project whose roofs without a typed uplift have that of the site's wind; the same where no
    wind is typed."""
    if project.site.wind is None:
        return project
    return replace(project, roofs=tuple(_lifted(project, r) for r in project.roofs))


def _lifted(project: Project, roof: RoofArea) -> RoofArea:
    bearings = bearings_of_roof(project, roof) if roof.uplift is None else None
    if bearings is not None:
        roof = replace(roof, uplift=round(uplift_by_wind(project, roof, bearings), 9))
    if roof.uplift is not None and roof.framing == "trusses" and not roof.trusses.uplift:
        roof = replace(roof, trusses=replace(roof.trusses, uplift=roof.uplift))
    return roof
