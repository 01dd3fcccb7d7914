"""The shapes of all roofs together: as each is framed, and as those run on that meet others."""

from typing import NamedTuple

from balken.framing.hosts.roof_sites import Site
from balken.framing.member import Bearings, Size
from balken.framing.roofs.shape import RoofShape, seen_faces, shape_of, without
from balken.geometry.plane import box
from balken.geometry.roof_front import RoofError
from balken.geometry.roof_planes import Face
from balken.model.catalogue import catalogue_of
from balken.model.names import HostName
from balken.model.roofs import RoofArea
from balken.recall import remembered


class Shapes(NamedTuple):
    """Shapes by the names of their hosts: ``framed`` ends where another roof runs on to it,
    ``onward`` is without such ends; and why the other roofs have none."""

    framed: dict[HostName, RoofShape]
    onward: dict[HostName, RoofShape]
    faults: dict[HostName, str]

    def beside(self, host: HostName) -> tuple[Face, ...]:
        """The planes of all roofs but one."""
        others = [shape for name, shape in self.onward.items() if name != host]
        return tuple(face for shape in others for face in shape.roof.faces)


def shapes_of(sites: tuple[Site, ...], sizes: dict[HostName, Size]) -> Shapes:
    """The shapes of all roofs that have one."""
    found = {s.host: _shape(s, sizes.get(s.host), 0.0) for s in sites}
    shapes = {host: made for host, made in found.items() if isinstance(made, RoofShape)}
    faults = {host: made for host, made in found.items() if isinstance(made, str)}
    reach = _reach(sites)
    if not reach:
        return Shapes(shapes, shapes, faults)
    framed = {host: without_others(shapes, host) for host in shapes}
    by_host = {s.host: s for s in sites}
    onward = {h: _onward(by_host[h], sizes[h], reach, shape) for h, shape in shapes.items()}
    return Shapes(framed, onward, faults)


def _onward(site: Site, size: Size, reach: float, shape: RoofShape) -> RoofShape:
    """A shape as it runs on, where it does."""
    made = _shape(site, size, reach) if shape.runs_on else shape
    return made if isinstance(made, RoofShape) else shape


def without_others(shapes: dict[HostName, RoofShape], host: HostName) -> RoofShape:
    """A shape without what of it would hang into another roof that runs on to it.

    Of two that both run on, to one another or to a third, each ends at the walls of the other.
    """
    mine = shapes[host]
    rings = tuple(
        other.ring if mine.runs_on else other.eaves
        for name, other in shapes.items()
        if other.runs_on and name != host
    )
    return without(mine, rings) if rings else mine


def _reach(sites: tuple[Site, ...]) -> float:
    """How far a roof may run on until it has met any other, mm; 0 where none does."""
    runs_on = any(side.kind == "runs on" for s in sites for side in s.roof.sides)
    points = [p for s in sites if s.bearings is not None for p in s.bearings.outline]
    if not runs_on or len(sites) < 2 or not points:
        return 0.0
    x0, y0, x1, y1 = box(points)
    return max(x1 - x0, y1 - y0)


def _shape(site: Site, size: Size | None, reach: float) -> RoofShape | str:
    """The shape of a roof that may run on so far, mm, or in a sentence why it has none."""
    if site.bearings is None:
        return f"the walls of roof {site.roof.name} enclose nothing"
    if size is None:
        return f"nothing spans under roof {site.roof.name}, or its spacing is too small"
    depth = catalogue_of(site.system).sections[size.section].depth
    made = shape_or_fault(site.roof, site.bearings, depth, reach)
    return f"roof {site.roof.name}: {made}" if isinstance(made, str) else made


@remembered
def shape_or_fault(
    roof: RoofArea, bearings: Bearings, depth: float, reach: float
) -> RoofShape | str:
    """The shape of a roof, or in a sentence why it has none.

    Args:
        roof: the roof.
        bearings: what it lies on.
        depth: of its rafters, mm.
        reach: how far a side that runs on goes past its wall, mm.
    """
    try:
        return shape_of(roof, bearings, depth, reach)
    except RoofError as error:
        return str(error)


@remembered
def seen_of(shapes: tuple[RoofShape, ...]) -> list[tuple[Face, ...]]:
    """What is seen of the planes of each roof where they run into one another."""
    return [tuple(faces) for faces in seen_faces(shapes)]
