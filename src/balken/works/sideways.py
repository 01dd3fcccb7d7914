"""What wind and earthquake ask of the storeys of a building that was worked out."""

from collections.abc import Iterable
from typing import Final

from balken.framing import kinds
from balken.framing.structure import Structure
from balken.loads.path import loads_on_areas
from balken.loads.sideways import Storey, Weight, storeys
from balken.model.names import HostName
from balken.model.project import Project, level, wall_base, wall_top
from balken.model.walls import wall_length
from balken.site.wall_weights import wall_dead
from balken.units import PSF

HEAVY_SNOW: Final = 30 * PSF
"""Snow on a roof over which a fifth of it shakes with the roof (ASCE 7-16 12.7.2, 4)."""


def sideways_of(project: Project, structure: Structure) -> tuple[Storey, ...]:
    """The storeys of a building with what pushes them, both ways."""
    shaken = project.site.earthquake is not None
    return storeys(project, structure, list(_weights(project, structure)) if shaken else ())


def _weights(project: Project, structure: Structure) -> Iterable[Weight]:
    """What shakes: the dead load of floors and roofs, beams, walls half up and half down, and a fifth
    of heavy snow (ASCE 7-16 12.7.2)."""
    heights = {HostName("floor", f.id): level(project, f.level).elevation for f in project.floors}
    heights |= {HostName("roof", r.id): level(project, r.plate).elevation for r in project.roofs}
    for on in loads_on_areas(project, structure):
        heavy = on.plan > 0 and on.forces.snow / on.plan > HEAVY_SNOW
        weight = on.forces.dead + (0.2 * on.forces.snow if heavy else 0.0)
        yield Weight(weight, heights[on.host])
    for m in structure.of(kinds.BEAM):
        yield Weight(m.carrier.line.dead * m.carrier.length, m.end[2])
    for w in project.walls:
        base, top = wall_base(project, w), wall_top(project, w)
        half = wall_dead(project, w) * wall_length(w) * (top - base) / 2
        yield Weight(half, base)
        yield Weight(half, top)
