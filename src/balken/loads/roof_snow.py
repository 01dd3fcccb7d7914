"""Snow on roofs that follows from the snow on the ground, by each code. N/mm² of plan."""

import math
from collections.abc import Callable
from typing import Final

from msgspec.structs import replace

from balken.loads.codes.eu import snow as eu
from balken.loads.codes.us import snow as us
from balken.model.foundations import Site
from balken.model.project import Project
from balken.model.record import Code
from balken.model.roofs import RoofArea
from balken.model.snow import GroundSnow


def _rises(roof: RoofArea) -> list[float]:
    """The pitches of all its sides, over 12."""
    rises = [roof.rise, *(s.rise for s in roof.sides if s.rise is not None)]
    return rises + [b.rise for s in roof.sides for b in s.breaks]


def flattest(roof: RoofArea) -> float:
    """The angle of a roof's flattest side, which keeps most snow, degrees."""
    return math.degrees(math.atan(min(_rises(roof)) / 12))


def steepest(roof: RoofArea) -> float:
    """The angle of a roof's steepest side, which wind presses most, degrees."""
    return math.degrees(math.atan(max(_rises(roof)) / 12))


def _us(snow: GroundSnow, angle: float) -> float:
    """p_s, on low roofs no less than p_m (ASCE 7-16 7.3, 7.3.4, 7.4)."""
    whole = us.flat(snow.ground, snow.exposure, snow.thermal, snow.importance)
    sloped = whole * us.slope_factor(angle, snow.thermal, slippery=snow.slides)
    if angle >= us.LOW_SLOPE:
        return sloped
    return max(sloped, us.least_on_low_roof(snow.ground, snow.importance))


def _eu(snow: GroundSnow, angle: float) -> float:
    """μ1 C_e C_t s_k (EN 1991-1-3 5.1, table 5.2)."""
    shape = eu.mu1(angle, guarded=snow.guarded)
    return eu.on_roof(snow.ground, shape, snow.exposure, snow.thermal)


ON_ROOF: Final[dict[Code, Callable[[GroundSnow, float], float]]] = {"us": _us, "eu": _eu}
CLAUSE: Final[dict[Code, str]] = {"us": "ASCE 7-16 7.3, 7.4", "eu": "EN 1991-1-3 5.2"}


def with_snow_of_site(project: Project) -> Project:
    """A project whose roofs that take their snow from the site have it; the same where none does."""
    snow = project.site.snow
    if snow is None or all(r.snow_from == "typed" for r in project.roofs):
        return project
    lies = ON_ROOF[project.code]
    roofs = (
        replace(r, snow=round(lies(snow, flattest(r)) + _rain(project, r), 9))
        if r.snow_from == "site"
        else r
        for r in project.roofs
    )
    return replace(project, roofs=tuple(roofs))


def _rain(project: Project, roof: RoofArea) -> float:
    """Rain on the snow of a gentle roof, N/mm² (ASCE 7-16 7.10): its way from ridge to eave is taken
    as the longest side of the walls under it, so that it comes on rather too soon."""
    snow = project.site.snow
    walls = [w for w in project.walls if w.id in roof.walls]
    if project.code != "us" or snow is None or not walls:
        return 0.0
    places = [p for w in walls for p in (w.start, w.end)]
    wide = max(max(p[k] for p in places) - min(p[k] for p in places) for k in (0, 1))
    return us.rain_on_snow(snow.ground, flattest(roof), wide)


def leeward(code: Code, site: Site, roof: RoofArea, slopes: int, width: float) -> float:
    """How much heavier the snow on one side of a ridge may be than what lies evenly, for rafters: of a
    wide roof the drift beside the ridge is taken all over (ASCE 7-16 7.6.1).

    1 where the code asks for none, and where the snow of the roof was typed: it is taken as it stands.
    EN 1991-1-3 5.3.3 has half on one side, and never more on the other.

    Args:
        code: by which.
        site: with the snow on its ground.
        roof: with the snow that lies evenly.
        slopes: how many of its sides rise: one alone has no ridge.
        width: from eave to ridge in plan, mm.
    """
    snow = site.snow
    if code != "us" or slopes < 2 or roof.snow <= 0 or snow is None or roof.snow_from == "typed":
        return 1.0
    found = us.unbalanced(
        snow.ground, roof.snow, roof.rise / 12, width, snow.importance, simple_rafters=True
    )
    if found is None:
        return 1.0
    return max(1.0, round((found.leeward + found.drift) / roof.snow, 6))
