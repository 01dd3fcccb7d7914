"""Wind on single rafters as components: harder by the eaves, ridges and rakes of a roof, hardest in its
corners (ASCE 7-16 30.3; EN 1991-1-4 7.2). Lengths mm, pressures N/mm² of plan.

Beside what lifts the roof as a whole, each rafter is held against the mean of the zones it lies in.
"""

from collections.abc import Callable
from typing import Any, Final, NamedTuple

import shapely

from balken.framing import kinds
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings, Member
from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.geometry.plane import box
from balken.loads.codes.eu import roof_zones as eu
from balken.loads.codes.us import wind as us
from balken.loads.roof_snow import flattest
from balken.loads.roof_wind import mean_height
from balken.loads.wind import WIND
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.record import Code
from balken.model.roofs import RoofArea
from balken.model.wind import Wind

SAMPLES: Final = 24
"""A rafter is looked at in so many places along it."""


class Zones(NamedTuple):
    """What lifts the parts of a roof."""

    inner: float
    edge: float
    corner: float
    """N/mm² of plan, what works from inside included."""
    wide: float
    """Of the zone along the edges, mm."""
    long: float
    """Of a corner, along the edge, mm."""


class _Roof(NamedTuple):
    """What zones follow from."""

    wind: Wind
    pressure: float
    angle: float
    least: float
    """The lesser side of the building, mm."""
    greatest: float
    height: float
    area: float
    """Effective, of its rafters, mm²."""


def _us(roof: _Roof) -> Zones | None:
    """By coefficients typed from figure 30.3-2; none until they are."""
    if roof.wind.zones is None:
        return None
    inside = us.ENCLOSED if roof.wind.enclosed else us.PARTLY_OPEN
    pressures = [us.cladding_pressure(roof.pressure, c, inside) for c in roof.wind.zones]
    wide = us.zone_width(roof.least, roof.height)
    return Zones(pressures[0], pressures[1], pressures[2], wide, wide)


def _eu(roof: _Roof) -> Zones | None:
    """c_pe of zones H, G and F (tables 7.4a, 7.4b), as typed or recommended; e / 10 by the edge, and e / 4
    of it at a corner, e the lesser of b and 2 h."""
    outside = roof.wind.zones or eu.coefficients(roof.angle, roof.area)
    inside = 0.2 if roof.wind.enclosed else 0.72
    inner, edge, corner = (roof.pressure * (c + inside) for c in outside)
    e = min(roof.greatest, 2 * roof.height)
    return Zones(inner, edge, corner, e / 10, e / 4)


RULES: Final[dict[Code, Callable[[_Roof], Zones | None]]] = {"us": _us, "eu": _eu}
CLAUSES: Final[dict[Code, str]] = {"us": "ASCE 7-16 30.3.2", "eu": "EN 1991-1-4 7.2.5"}


def zones_of(project: Project, roof: RoofArea, bearings: Bearings, area: float) -> Zones | None:
    """The zones of a roof under the site's wind; None where no wind is typed, or no coefficients.

    Args:
        project: with its site.
        roof: the roof.
        bearings: what it lies on.
        area: effective, of one of its rafters, mm².
    """
    wind = project.site.wind
    if wind is None:
        return None
    x0, y0, x1, y1 = box(bearings.outline)
    height = mean_height(project, roof, bearings)
    sides = sorted((x1 - x0, y1 - y0))
    pressure = WIND[project.code].pressure(wind, height)
    return RULES[project.code](
        _Roof(wind, pressure, flattest(roof), sides[0], sides[1], height, area)
    )


def effective_area(rafter: Member) -> float:
    """Length in plan times the greater of its strip and a third of the length, mm² (ASCE 7-16 26.2; as
    loaded area of EN 1991-1-4 7.2.1)."""
    return us.effective_area(rafter.run, rafter.carrier.area / max(rafter.run, 1.0))


def component_shares(project: Project, structure: Structure) -> dict[MemberName, float]:
    """By how much more than the whole roof's wind each rafter is lifted by the zones it lies in; those
    that are not are left out."""
    found: dict[MemberName, float] = {}
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        shape, bearings = structure.roofs.get(host), bearings_of_roof(project, roof)
        rafters = [m for m in structure.of(kinds.RAFTER) if m.host == host and m.carrier.area > 0]
        if shape is None or bearings is None or not rafters or not roof.uplift:
            continue
        area = min(effective_area(m) for m in rafters)
        zones = zones_of(project, roof, bearings, area)
        if zones is None:
            continue
        lies = _Lies(shape, zones)
        for m in rafters:
            share = lies.mean_lift(m) / roof.uplift
            if share > 1.0 + 1e-9:
                found[m.id] = share
    return found


class _Lies:
    """Where the zones of a roof lie: along its eaves and rakes, its ridges and hips."""

    def __init__(self, shape: RoofShape, zones: Zones) -> None:
        self._zones = zones
        self._edge = shapely.Polygon(shape.eaves).exterior
        self._corners = shapely.MultiPoint(list(self._edge.coords))
        faces = [shapely.Polygon(f.outline) for f in shape.roof.faces]
        inside = [f.exterior for f in faces]
        self._ridges: Any = shapely.union_all(inside) if len(inside) > 1 else None

    def mean_lift(self, m: Member) -> float:
        """The mean of what lifts a rafter along it, N/mm²."""
        (ax, ay, _), (bx, by, _) = m.start, m.end
        shares = [(i + 0.5) / SAMPLES for i in range(SAMPLES)]
        lifts = [self._at(ax + t * (bx - ax), ay + t * (by - ay)) for t in shares]
        return sum(lifts) / SAMPLES

    def _at(self, x: float, y: float) -> float:
        zones, spot = self._zones, shapely.Point(x, y)
        by_edge = self._edge.distance(spot) <= zones.wide
        if by_edge and self._corners.distance(spot) <= zones.long:
            return zones.corner
        by_ridge = self._ridges is not None and self._ridges.distance(spot) <= zones.wide
        return zones.edge if by_edge or by_ridge else zones.inner
