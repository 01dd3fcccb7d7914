"""The plates on the walls of a storey, as strips that members bear on."""

from balken.framing.ground.lines import flush_lines
from balken.framing.member import Strip
from balken.geometry.plane import (
    Ring,
)
from balken.model.catalogue import catalogue_of
from balken.model.names import HostName
from balken.model.walls import Wall
from balken.recall import remembered
from balken.site.bodies import bodies, outer_sides, storey_outline
from balken.units import System


def plate_width(wall: Wall, system: System) -> float:
    """The widest plate of dressed lumber no wider than a wall, mm."""
    widths = sorted({s.depth for s in catalogue_of(system).sections.values() if s.nominal[0] == 2})
    return max((w for w in widths if w <= wall.thickness + 0.5), default=widths[0])


Plates = tuple[Ring, tuple[Strip, ...], float]
"""The outline of a storey's walls, their plates as strips, and the width of the outer ones."""


@remembered
def plates_of(
    walls: tuple[Wall, ...], system: System, outline: Ring | None = None
) -> Plates | None:
    """The outline of a storey's walls (or the one given), their plates as strips, and the
    width of the outer plates."""
    outline = storey_outline(walls) if outline is None else outline
    if outline is None:
        return None
    outside = outer_sides(walls, outline)
    widths = [plate_width(wall, system) for wall in walls]
    flush = {width: flush_lines(walls, width, outside=outside) for width in set(widths)}
    lines = tuple(flush[width][i] for i, width in enumerate(widths))
    strips = tuple(
        Strip(HostName("wall", k), body.ring, k in outside) for k, body in bodies(lines).items()
    )
    return (
        outline,
        strips,
        max((w for wall, w in zip(walls, widths) if wall.id in outside), default=max(widths)),
    )
