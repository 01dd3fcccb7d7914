"""The sites of a project: what each of its hosts is framed from. Framing reads nothing else."""

from functools import partial

import msgspec

from balken.framing.ground.bolting import Doors
from balken.framing.hosts import beams, floors, lintels, roof_sites, runs, supports, walls
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_records


class Sites(msgspec.Struct, frozen=True):
    """What all hosts are framed from, in the order of the project."""

    runs: tuple[runs.Site, ...]
    supports: supports.Site
    beams: beams.Site
    floors: tuple[floors.Site, ...]
    roofs: tuple[roof_sites.Site, ...]
    walls: tuple[walls.Site, ...]
    lintels: tuple[lintels.Site, ...]
    away: frozenset[MemberName]
    """Members taken away by hand."""
    orphans: frozenset[MemberName]
    """Members changed by hand whose host is no longer there."""

    @property
    def doors(self) -> Doors:
        """The doors in walls that stand on sills."""
        found: dict[tuple[HostName, str], list[tuple[tuple[float, float], tuple[float, float]]]]
        found = {}
        for site in self.runs:
            for wall, a, b in site.doors:
                found.setdefault((site.host, wall), []).append((a, b))
        return {key: tuple(doors) for key, doors in found.items()}

    @property
    def bolts_apart(self) -> dict[HostName, float]:
        """How far apart the bolts of each run stand at most, mm; 0 where nothing is typed."""
        return {site.host: site.run.bolts_apart for site in self.runs}


def sites_of(project: Project) -> Sites:
    """What the hosts of a valid project are framed from."""
    placed = (r for r in project.runs if r.walls or r.spans or r.paths)
    site_of = partial(runs.site, project)
    hosts = host_records(project)
    return Sites(
        tuple(map(site_of, placed)),
        supports.site(project),
        beams.site(project),
        tuple(map(partial(floors.site, project), project.floors)),
        tuple(map(partial(roof_sites.site, project), project.roofs)),
        walls.sites_of_walls(project),
        lintels.sites_of(project),
        frozenset(c.member for c in project.changes if c.removed),
        frozenset(c.member for c in project.changes if c.member.host not in hosts),
    )
