"""What roofs are framed from."""

import msgspec

from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings
from balken.model.names import HostName
from balken.model.project import Change, Project, changes_on, wall_top
from balken.model.roofs import RoofArea
from balken.units import System


class Site(msgspec.Struct, frozen=True):
    """What one roof is framed from. ``bearings`` is None where nothing encloses it; ``tops`` are the
    top, mm, and thickness of its walls."""

    roof: RoofArea
    bearings: Bearings | None
    changes: tuple[Change, ...]
    tops: tuple[tuple[str, float, float], ...]
    system: System

    @property
    def host(self) -> HostName:
        """The name its members bear."""
        return HostName("roof", self.roof.id)


def site(project: Project, roof: RoofArea) -> Site:
    """What a roof is framed from."""
    mine = set(roof.walls)
    return Site(
        roof,
        bearings_of_roof(project, roof),
        changes_on(project, HostName("roof", roof.id)),
        tuple((w.id, wall_top(project, w), w.thickness) for w in project.walls if w.id in mine),
        project.system,
    )
