"""Lintels over openings in walls of block, brick and concrete: cast in place as wide as the core, in whole
courses, bearing at both sides of the opening."""

import math
from collections.abc import Iterable
from typing import Final

import msgspec

from balken.framing import kinds
from balken.framing.hosts.walls import band_of, rule_of
from balken.framing.member import Framed, Member, Support, carrying, framed_of
from balken.framing.walls.face import Lack
from balken.geometry.plane import Point, add, left
from balken.geometry.solid import side_profile
from balken.model.cases import Cases
from balken.model.names import HostName, MemberName
from balken.model.project import Project, changes_on, wall_base, wall_build_up, wall_top
from balken.model.walls import Opening, Wall, direction_of, wall_length
from balken.recall import remembered
from balken.site.wall_weights import is_masonry
from balken.units import INCH, System, format_run

BEARING: Final[dict[System, float]] = {"us": 8 * INCH, "metric": 200.0}
"""A lintel bears by half a block at each side where there is room, mm (common practice, no source)."""
LEAST: Final = 4 * INCH
"""And never by less (TMS 402-16 5.2.1.3, from memory), mm."""
COURSE: Final[dict[System, float]] = {"us": 8 * INCH, "metric": 200.0}
"""Of walls whose core has no module, mm."""
SHARE: Final = 10.0
"""A lintel that nobody has given a depth has a tenth of its span, in whole courses (common practice, no
source): its check says whether that is enough."""
OVER: Final = 600.0
"""A lintel reaches so far over its opening, mm."""
SLIGHT: Final = 0.01
"""mm."""


class Site(msgspec.Struct, frozen=True):
    """What the lintels of one wall are framed from. mm."""

    wall: Wall
    band: tuple[float, float]
    """How far the faces of its core lie to the left of its line."""
    foot: float
    tall: float
    course: float
    joint: float
    away: frozenset[MemberName]
    """Taken away by hand."""
    system: System

    @property
    def host(self) -> HostName:
        """The name its members bear."""
        return HostName("wall", self.wall.id)


def sites_of(project: Project) -> tuple[Site, ...]:
    """Straight walls of masonry and concrete that have openings."""
    return tuple(_site(project, w) for w in project.walls if _wants_lintels(project, w))


def _wants_lintels(project: Project, wall: Wall) -> bool:
    body = wall_build_up(project, wall)
    solid = body is not None and is_masonry(body) and rule_of(project, wall) is None
    return solid and bool(wall.openings) and not wall.bulge


def _site(project: Project, wall: Wall) -> Site:
    band, foot, body = (
        band_of(project, wall),
        wall_base(project, wall),
        wall_build_up(project, wall),
    )
    module = body.module if body else None
    changes = changes_on(project, HostName("wall", wall.id))
    return Site(
        wall,
        (band.near, band.far),
        foot,
        wall_top(project, wall) - foot,
        module.course if module else COURSE[project.system],
        module.joint if module else 0.0,
        frozenset(c.member for c in changes if c.removed),
        project.system,
    )


def frame(site: Site) -> tuple[Framed, tuple[Lack, ...]]:
    """The lintels of a wall, and the openings over which none finds room."""
    return _framed(site)


@remembered
def _framed(site: Site) -> tuple[Framed, tuple[Lack, ...]]:
    members: list[Member] = []
    lacks: list[Lack] = []
    for hole in site.wall.openings:
        head = hole.sill + hole.height
        if head >= site.tall - SLIGHT:
            continue  # nothing of the wall lies over it
        low, high = _seats(site, hole)
        short = LEAST - min(low, high)
        if short > SLIGHT:
            lacks.append(
                Lack(hole.id, "has too little wall beside it for its lintel to bear", short)
            )
            continue
        room = site.tall - head
        if hole.lintel - room > SLIGHT:
            words = "has no room for a lintel of the depth that is typed"
            lacks.append(Lack(hole.id, words, hole.lintel - room))
            continue
        members.append(_lintel(site, hole, (low, high), min(room, _depth(site, hole))))
    return framed_of(m for m in members if m.id not in site.away), tuple(lacks)


def _seats(site: Site, hole: Opening) -> tuple[float, float]:
    """How far the wall bears a lintel at both sides of an opening: half of what stands between two."""
    full, length = BEARING[site.system], wall_length(site.wall)
    before, after = hole.at, length - hole.at - hole.width
    for other in site.wall.openings:
        if other.id == hole.id or not _share_heights(hole, other):
            continue
        if other.at >= hole.at:
            after = min(after, (other.at - hole.at - hole.width) / 2)
        else:
            before = min(before, (hole.at - other.at - other.width) / 2)
    return min(full, before), min(full, after)


def _share_heights(one: Opening, two: Opening) -> bool:
    """Whether one opening, or the lintel over it, may lie beside another."""
    return min(one.sill + one.height, two.sill + two.height) + OVER > max(one.sill, two.sill)


def _depth(site: Site, hole: Opening) -> float:
    """As typed, else whole courses without the joint under the lowest."""
    if hole.lintel:
        return hole.lintel
    courses = max(1, math.ceil(hole.width / SHARE / site.course - SLIGHT))
    return courses * site.course - site.joint


def _lintel(site: Site, hole: Opening, seats: tuple[float, float], depth: float) -> Member:
    item, way = site.wall, direction_of(site.wall)
    middle = add(item.start, left(way), sum(site.band) / 2)
    wide = site.band[1] - site.band[0]
    low, high = hole.at - seats[0], hole.at + hole.width + seats[1]
    bottom = site.foot + hole.sill + hole.height
    ring = ((low, bottom), (high, bottom), (high, bottom + depth), (low, bottom + depth))
    axis = bottom + depth / 2
    (ax, ay), (bx, by) = add(middle, way, low), add(middle, way, high)
    name = MemberName(site.host, kinds.LINTEL.role, hole.id, "")
    row = hole.id.removeprefix(f"{item.id}-")
    made = Member(
        name,
        f"{item.id}-L{row}",
        kinds.LINTEL,
        site.host,
        item.base,
        f"{format_run(wide, site.system)} × {format_run(depth, site.system)}",
        "concrete",
        side_profile(middle, way, ring, wide),
        (ax, ay, axis),
        (bx, by, axis),
        high - low,
        high - low,
        ("square", "square"),
    )
    return carrying(made, _supports(site.host, middle, way, low, high, seats), line=Cases())


def _supports(
    host: HostName,
    middle: Point,
    way: Point,
    low: float,
    high: float,
    seats: tuple[float, float],
) -> tuple[Support, ...]:
    """The wall at both sides of the opening."""
    length = high - low
    places = (seats[0] / 2, length - seats[1] / 2)
    return tuple(
        Support(x, seat, host, add(middle, way, low + x)) for x, seat in zip(places, seats)
    )


Lintels = dict[HostName, tuple[Framed, tuple[Lack, ...]]]
"""By wall its lintels, and what finds no room."""


def frame_all(sites: Iterable[Site]) -> Lintels:
    """The lintels of all walls, each by itself."""
    return {s.host: frame(s) for s in sites}
