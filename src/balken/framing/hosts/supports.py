"""Posts, pads and piers as hosts: one body each, on one spot between two levels."""

import msgspec

from balken.framing.beams.supports import frame_support
from balken.framing.member import Framed, framed_of
from balken.geometry.plane import Point
from balken.model.project import PointSupport, Project
from balken.model.record import Code
from balken.model.sections import Product
from balken.model.supports import heights_at, spots_of
from balken.units import System


class Standing(msgspec.Struct, frozen=True):
    """A point support on its spot, turned, between two heights, mm."""

    item: PointSupport
    spot: Point
    turn: float
    between: tuple[float, float]


class Site(msgspec.Struct, frozen=True):
    """What all point supports are framed from."""

    standing: tuple[Standing, ...]
    code: Code
    system: System
    products: tuple[Product, ...]


def site(project: Project) -> Site:
    """What the point supports that stand somewhere are framed from."""
    levels = {x.id: x.elevation for x in project.levels}
    standing = tuple(
        Standing(item, spot, turn, heights_at(levels, item))
        for item, spot, turn in spots_of(project)
    )
    return Site(standing, project.code, project.system, project.products)


def frame(site: Site) -> Framed:
    """All point supports, between their own heights: they are fitted to what they meet later."""
    return framed_of(
        frame_support(s.item, s.spot, s.turn, s.between, site.code, site.system, site.products)
        for s in site.standing
    )
