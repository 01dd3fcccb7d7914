"""What is framed over other roofs where a roof runs on to them: jacks between valleys, or sets of
valley frames."""

from balken.framing.hosts.roof_shapes import Shapes
from balken.framing.hosts.roof_sites import Site
from balken.framing.member import Member, Size
from balken.framing.roofs.over_framing import over_framed
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.shape import RoofShape
from balken.framing.roofs.sticks import boards_for
from balken.framing.trusses.valley_sets import VALLEY_FRAME, valley_set
from balken.geometry.roof_planes import Face
from balken.model.catalogue import sections_of
from balken.model.names import HostName
from balken.model.roofs import RafterPart
from balken.model.sections import Section

Seen = dict[HostName, tuple[Face, ...]]
"""What is seen of the planes of each roof, by its host's name."""


def frame(
    sites: tuple[Site, ...], shapes: Shapes, seen: Seen, sizes: dict[HostName, Size]
) -> list[tuple[Member, ...]]:
    """What of each roof that runs on is framed over the others."""
    found = []
    for item in sites:
        shape = shapes.onward.get(item.host)
        others = shapes.beside(item.host)
        if shape is not None and shape.runs_on and others:
            framed = _rafters if item.roof.framing == "rafters" else _valley_frames
            found.append(framed(item, shape, seen[item.host], others, sizes[item.host]))
    return found


def _rafters(
    site: Site, shape: RoofShape, seen: tuple[Face, ...], others: tuple[Face, ...], size: Size
) -> tuple[Member, ...]:
    sections = sections_of(site.system, ())
    section = sections[size.section]
    board = boards_for(section, max(f.pitch for f in shape.roof.faces), sections)[0]
    usual: dict[RafterPart, Section] = {"valleys": section, "ridge": board, "jacks": section}
    valley, ridge, jack = (cut_from(site.roof, part, s, sections) for part, s in usual.items())
    return tuple(over_framed(site.roof, shape, seen, others, (valley, ridge, jack), size.spacing))


def _valley_frames(
    site: Site, shape: RoofShape, seen: tuple[Face, ...], others: tuple[Face, ...], size: Size
) -> tuple[Member, ...]:
    sections = sections_of(site.system, ())
    section = sections[dict(size.cut).get((VALLEY_FRAME, ""), size.section)]
    return tuple(valley_set(site.roof, shape, seen, others, section, size.spacing))
