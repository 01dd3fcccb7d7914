"""Floors and ceilings as hosts: joists or a slab on what bears them."""

import math

import msgspec

from balken.framing.by_hand import by_hand
from balken.framing.floors.joists import frame_floor
from balken.framing.floors.slabs import frame_slab
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of, depth_allowed
from balken.framing.member import Bearings, Framed, Size, unframed
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName
from balken.model.project import AddedMember, Change, Project, changes_on
from balken.model.sections import Product
from balken.recall import remembered
from balken.units import System


class Site(msgspec.Struct, frozen=True):
    """What one floor is framed from. ``bearings`` is None where its walls enclose nothing."""

    floor: FloorArea
    build_up: BuildUp
    bearings: Bearings | None
    allowed: float
    """The depth its joists may have, mm; infinite where a level follows from it."""
    changes: tuple[Change, ...]
    added: tuple[AddedMember, ...]
    system: System
    products: tuple[Product, ...]

    @property
    def host(self) -> HostName:
        """The name its members bear."""
        return HostName("floor", self.floor.id)


def site(project: Project, floor: FloorArea) -> Site:
    """What a floor is framed from."""
    host = HostName("floor", floor.id)
    bearings = bearings_of_floor(project, floor)
    return Site(
        floor,
        build_up_of(project, floor),
        bearings,
        depth_allowed(project, floor, bearings.height) if bearings else math.inf,
        changes_on(project, host),
        tuple(a for a in project.added if a.host == host),
        project.system,
        project.products,
    )


def frame(site: Site, size: Size | None) -> Framed:
    """The members of a floor; ``size`` is None where its spacing sets nothing out."""
    if site.bearings is None:
        return unframed(f"the walls of {site.floor.name} enclose nothing")
    if site.build_up.kind == "slab":
        return frame_slab(site.floor, site.build_up, site.bearings)
    if size is None:
        return unframed(
            f"the joists of {site.floor.name} cannot be set out: its spacing is too small"
        )
    return _joists(site, site.bearings, size)


@remembered
def _joists(site: Site, bearings: Bearings, size: Size) -> Framed:
    sections = sections_of(site.system, site.products) | catalogue_of(site.system).boards
    framed = frame_floor(
        site.floor, site.build_up, bearings, size, sections, site.changes, site.added
    )
    return by_hand(framed, site.changes, site.added, bearings.strips, sections)
