"""Walls that carry nothing but themselves may stand on a floor: their weight goes down through the
joists under them.

The joists' own checks leave this weight out; a floor's dead load includes an allowance for
partitions (common practice, no source).
"""

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import Point
from balken.model.names import HostName
from balken.model.project import Project

NEAR = 800.0
"""A joist further away than this is not under a wall, mm: more than the widest spacing."""


class Joists(msgspec.Struct, frozen=True):
    """The joists of the floors on one level, or the rafters over one, with their ends side by
    side."""

    members: tuple[Member, ...]
    starts: NDArray[np.float64]
    ends: NDArray[np.float64]

    def under(self, spot: Point) -> Member | None:
        """The joist nearest to a place, if one is near."""
        along = self.ends - self.starts
        p = np.array(spot)
        t = np.clip(((p - self.starts) * along).sum(axis=1) / (along**2).sum(axis=1), 0.0, 1.0)
        away = np.linalg.norm(self.starts + t[:, None] * along - p, axis=1)
        nearest = int(away.argmin())
        return self.members[nearest] if away[nearest] <= NEAR else None


def joists_by_level(project: Project, structure: Structure) -> dict[str, Joists]:
    """The joists of every floor by the level the floor makes."""
    levels = {HostName("floor", f.id): f.level for f in project.floors}
    return _by_level(levels, structure.of(kinds.JOIST))


def rafters_by_plate(project: Project, structure: Structure) -> dict[str, Joists]:
    """The rafters and trusses of every roof by the level of its plates."""
    plates = {HostName("roof", r.id): r.plate for r in project.roofs}
    trusses = [m for m in structure.members if m.kind.of_truss and m.carrier.area > 0]
    return _by_level(plates, [*structure.of(kinds.RAFTER), *trusses])


def _by_level(levels: dict[HostName, str], members: list[Member]) -> dict[str, Joists]:
    by_level: dict[str, list[Member]] = {}
    for m in members:
        if len(m.carrier.supports) > 1:
            by_level.setdefault(levels[m.host], []).append(m)
    return {
        key: Joists(
            tuple(ms), np.array([m.start[:2] for m in ms]), np.array([m.end[:2] for m in ms])
        )
        for key, ms in by_level.items()
    }
