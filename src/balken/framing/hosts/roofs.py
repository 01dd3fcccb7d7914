"""Roofs as hosts: the rafters or trusses of each, on its plates, under its planes."""

from balken.framing import kinds
from balken.framing.hosts.roof_shapes import Shapes
from balken.framing.hosts.roof_sites import Site
from balken.framing.layout import LayoutError
from balken.framing.member import Bearings, Framed, Size, unframed
from balken.framing.roofs.gables import GableWall, gables_of
from balken.framing.roofs.rafter_roof import frame_rafters
from balken.framing.roofs.shape import RoofShape
from balken.framing.trusses.members import frame_trusses
from balken.geometry.plane import Point
from balken.model.catalogue import sections_of
from balken.model.names import HostName
from balken.recall import remembered, remembered_piece


def frame(
    sites: tuple[Site, ...],
    shapes: Shapes,
    sizes: dict[HostName, Size],
    floors: dict[HostName, Framed],
) -> dict[HostName, Framed]:
    """The members of each roof, without what is framed over other roofs.

    A roof that lines up with a floor or another roof is framed after it.
    """
    found: dict[HostName, Framed] = {}
    for item in sorted(sites, key=lambda s: s.roof.rafters.line_up is not None):
        shape = shapes.framed.get(item.host)
        if shape is not None and item.bearings is not None:
            onto = (floors | found).get(item.roof.rafters.line_up)  # type: ignore[arg-type]
            over = joist_lines(onto) if onto else ()
            found[item.host] = _frame(item, shape, item.bearings, sizes[item.host], over)
    return {s.host: found.get(s.host) or unframed(shapes.faults[s.host]) for s in sites}


@remembered
def _frame(
    site: Site,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    over: tuple[tuple[Point, Point], ...],
) -> Framed:
    sections = sections_of(site.system, ())
    what = (site.roof, shape, bearings, size, sections, site.system, site.changes)
    try:
        if site.roof.framing == "trusses":
            return frame_trusses(*what)
        return frame_rafters(*what, over)
    except LayoutError as error:
        return unframed(str(error))


@remembered_piece
def joist_lines(framed: Framed) -> tuple[tuple[Point, Point], ...]:
    """The lines in plan of the joists, rafters or trusses that a host gave."""
    rows = (kinds.JOIST, kinds.CEILING_JOIST, kinds.RAFTER, kinds.BOTTOM_CHORD)
    mine = [m.carrier for m in framed.members if m.kind in rows and m.carrier.supports]
    return tuple(sorted({(c.start[:2], c.end[:2]) for c in mine}))


def gables(
    sites: tuple[Site, ...], shapes: dict[HostName, RoofShape], sizes: dict[HostName, Size]
) -> tuple[GableWall, ...]:
    """What of walls rises over their top to roofs of rafters."""
    return tuple(
        gable
        for item in sites
        if item.roof.framing == "rafters" and item.host in shapes
        for gable in _gables(item, shapes[item.host], sizes[item.host])
    )


def _gables(site: Site, shape: RoofShape, size: Size) -> tuple[GableWall, ...]:
    named = {e.name for e in shape.edges}
    depth = sections_of(site.system, ())[size.section].depth
    return tuple(gables_of(shape, depth, tuple(t for t in site.tops if t[0] in named)))
