"""The soil against basement walls, what props them, and the bolts that hold their tops."""

from itertools import pairwise
from typing import Final

import shapely

from balken.design.basement_walls import SOIL, Backfill, EarthWall, earth_checks
from balken.design.lines import Check
from balken.design.soil.pressure import Beside
from balken.framing import kinds
from balken.framing.ground.anchors import APART
from balken.framing.hosts.runs import heights_of, surface_under
from balken.framing.member import Member, Part
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Point, direction_or, dot, sub
from balken.loads.path import LoadPath
from balken.model.cases import NOTHING
from balken.model.floors import FloorArea
from balken.model.foundations import walls_on
from balken.model.names import HostName
from balken.model.project import Project, level
from balken.recall import remembered_piece
from balken.site.ground import heights_at
from balken.units import INCH
from balken.works.records import run_of
from balken.works.terms import terms_of

MOST_OPEN: Final = 48 * INCH
"""A wall spans sideways past a stretch of its top that nothing holds, so long at most: joists at 24
in and a double spacing at an opening; common practice, no source."""


def backfill_of(project: Project, structure: Structure, member: Member) -> Backfill | None:
    """The soil against a piece of basement wall; None for walls with soil on both sides."""
    run = run_of(project, member)
    if run.kind != "basement" or member.kind is not kinds.STEM:
        return None
    ground = _ground_beside(project, member)
    if ground is None:
        return None
    _, base, _, slab = heights_of(project, run)
    low, high = member.solid.bounds()
    foot = max(low[2], slab if run.slab_thickness else base)
    fill = min(ground, high[2]) - foot
    if fill <= 1.0:
        return None
    beside = _beside(project, ground, foot)
    on = set(walls_on(run))
    floor = next((f for f in project.floors if f.bears_on == run.top and on & set(f.walls)), None)
    if floor is None:
        return Backfill(high[2] - foot, fill, False, "", member.length, beside)
    there, gap = _props(structure, member, floor)
    return Backfill(high[2] - foot, fill, there, level(project, floor.level).name, gap, beside)


def _beside(project: Project, ground: float, foot: float) -> Beside:
    """What the site says presses besides the soil: the share of a surcharge that soil passes on
    sideways, as it does of its own weight; and water."""
    site = project.site
    even = site.surcharge * site.fluid / SOIL
    return Beside(even, 0.0 if site.water is None else max(0.0, ground - site.water - foot))


def _props(structure: Structure, member: Member, floor: FloorArea) -> tuple[bool, float]:
    """Whether a floor props the top of a wall, and the longest stretch of it that nothing holds,
    mm.

    Joists prop it that end on it. Joists that run along it do not, nor does the edge of a stair.
    """
    host = HostName("floor", floor.id)
    if any(m.host == host for m in structure.of(kinds.FLOOR_SLAB)):
        return True, 0.0
    start = (member.start[0], member.start[1])
    way = direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0))
    shape = shapely.Polygon(member.solid.plan()).buffer(BESIDE)
    places = [0.0, member.length]
    found = False
    for part in structure.parts:
        for run_host, spot, along in _ends_on_foundation(part):
            across = abs(way[0] * along[1] - way[1] * along[0])
            if run_host == member.host and across > STEEP and shape.contains(shapely.Point(spot)):
                places.append(min(member.length, max(0.0, dot(sub(spot, start), way))))
                found = True
    if not found:
        return False, member.length
    places.sort()
    gap = max(b - a for a, b in pairwise(places))
    return gap <= MOST_OPEN + 1.0, gap


BESIDE: Final = 60.0
"""A joist's end this near to a wall is on it, mm."""


STEEP: Final = 0.7
"""Joists within 45° of a wall's line run along it."""


@remembered_piece
def _ends_on_foundation(part: Part) -> tuple[tuple[HostName, Point, Point], ...]:
    """Where joists of a part end on a foundation: its host, the place, and the joist's
    direction."""
    found = []
    for m in part.members:
        if m.kind is kinds.JOIST and len(m.carrier.supports) > 1:
            way = direction_or(sub(m.end[:2], m.start[:2]), (1.0, 0.0))
            found += [
                (s.on.host, s.point, way)
                for s in (m.carrier.supports[0], m.carrier.supports[-1])
                if s.on is not None and s.on.host.kind == "run"
            ]
    return tuple(found)


def _ground_beside(project: Project, member: Member) -> float | None:
    surface = surface_under(project)
    if surface is not None:
        import numpy as np

        return float(heights_at(surface, np.array(member.solid.plan(), dtype=float)).max())
    return next((x.elevation for x in project.levels if x.role == "ground"), None)


def widest_bolts(structure: Structure, member: Member) -> float:
    """The widest distance between anchor bolts of the sills on a piece of wall, mm; that of the
    rule where none was placed."""
    shape = shapely.Polygon(member.solid.plan()).buffer(TOUCH)
    gaps = [
        b - a
        for m in structure.of(kinds.SILL)
        if m.host == member.host
        and m.id in structure.bolts
        and shape.intersects(shapely.Polygon(m.solid.plan()))
        for a, b in pairwise(structure.bolts[m.id].at)
    ]
    return max(gaps, default=APART)


def checks_of_wall(
    project: Project, structure: Structure, path: LoadPath, member: Member
) -> tuple[Check, ...]:
    """The checks of a basement wall against its backfill; none of other walls."""
    soil = backfill_of(project, structure, member)
    if soil is None:
        return ()
    run = run_of(project, member)
    bottom, base, *_ = heights_of(project, run)
    wall = EarthWall(
        member,
        run,
        soil,
        base - bottom,
        _ground_beside(project, member),
        widest_bolts(structure, member),
        path.onto.get(member.id, NOTHING).dead,
    )
    return earth_checks(terms_of(project), wall)
