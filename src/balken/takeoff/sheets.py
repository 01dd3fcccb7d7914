"""The panels, boards and batts of framed walls: each layer in sheets, how many are whole and how many are
cut, and from how many they come."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.hosts.walls import foot_floors, rule_of
from balken.framing.member import Member
from balken.framing.roofs.gables import GableWall
from balken.framing.walls.sheets import (
    Laid,
    Piece,
    Rect,
    Size,
    Skin,
    lay_batts,
    lay_sheets,
    sheets_needed,
)
from balken.geometry.plane import Point, dot, sub
from balken.model.names import HostName
from balken.model.project import Project, wall_base, wall_build_up, wall_top
from balken.model.walls import Layer, LayerRole, Wall, called, direction_of
from balken.recall import remembered_of_one
from balken.site.bodies import layer_rings
from balken.units import FOOT, System
from balken.works.building import Checked

SHEETED: Final[frozenset[LayerRole]] = frozenset(["sheathing", "lining", "insulation"])
"""Layers that come in sheets; cladding is sold by its area."""
USUAL: Final[dict[System, Size]] = {
    "us": Size(4 * FOOT, 8 * FOOT),
    "metric": Size(1250.0, 2500.0),
}
"""Common practice, no source."""
LYING: Final[frozenset[LayerRole]] = frozenset(["lining"])
"""Boards are laid across the studs, panels along them (common practice, no source)."""


class OnWall(NamedTuple):
    """One layer of a wall in pieces."""

    wall: str
    name: str
    """Of the wall, in words."""
    layer: int
    """From the outside, counted from 0; −1 for what lies between the studs."""
    material: str
    thickness: float
    size: Size
    """Of its sheets; of batts nothing."""
    laid: Laid
    pieces: tuple[Piece, ...]
    sheets: int
    """Bought; of batts one for each bay."""

    @property
    def whole(self) -> int:
        """Sheets that are not cut."""
        return sum(p.whole for p in self.pieces)

    @property
    def area(self) -> float:
        """On the wall, mm²."""
        return sum(p.area for p in self.pieces)


@remembered_of_one
def sheets_of(checked: Checked) -> tuple[OnWall, ...]:
    """All layers of all framed walls, wall by wall from the outside in."""
    return tuple(layer for item in checked.built.walls for layer in sheets_on(checked, item))


def sheets_on(checked: Checked, item: Wall) -> list[OnWall]:
    """The layers of one framed wall."""
    project = checked.built
    body, rule = wall_build_up(project, item), rule_of(project, item)
    studs = checked.structure.in_host(HostName("wall", item.id), kinds.WALL_STUD)
    if rule is None or not studs:
        return []
    found = []
    if body is not None:
        rings = _rings(project, item)
        for n, layer in enumerate(body.layers):
            if layer.role in SHEETED and n < len(rings):
                found.append(_layer(checked, item, n, layer, rings[n]))
    if rule.batts:
        found.append(_batts(checked, item, studs[0].solid.depth, rule.batts))
    return found


def _rings(project: Project, item: Wall) -> list[tuple[str, tuple[Point, ...]]]:
    walls = tuple(w for w in project.walls if w.base == item.base and not w.bulge)
    return layer_rings(walls, {b.id: b for b in project.wall_build_ups}).get(item.id, [])


def _layer(
    checked: Checked, item: Wall, n: int, layer: Layer, ring: tuple[str, tuple[Point, ...]]
) -> OnWall:
    project, way = checked.built, direction_of(item)
    rule = rule_of(project, item)
    assert rule is not None, "it is framed"
    places = [dot(sub(p, item.start), way) for p in ring[1]]
    size = Size(*layer.sheet) if all(layer.sheet) else USUAL[project.system]
    laid: Laid = layer.laid or ("lying" if layer.role in LYING else "upright")
    frame = _frame_ends(checked, item)
    backwards = rule.begins == "end"
    lap = item.lap if layer.role == "sheathing" else 0.0
    outline = _outline(checked, item, min(places), max(places), lap, rises=layer.role != "lining")
    skin = Skin(
        outline,
        _holes(item, wall_base(project, item)),
        size,
        laid,
        frame[1] if backwards else frame[0],
        backwards,
        rule.spacing,
    )
    pieces = lay_sheets(skin)
    sheets = sheets_needed(pieces, size, laid)
    name = called(item)
    return OnWall(item.id, name, n, layer.material, layer.thickness, size, laid, pieces, sheets)


def _batts(checked: Checked, item: Wall, depth: float, material: str) -> OnWall:
    low, high = _frame_ends(checked, item)
    outline = _outline(checked, item, low, high, 0.0, rises=False)
    wood = [
        _rect(m, item) for m in checked.structure.in_host(HostName("wall", item.id), *_full_depth())
    ]
    pieces = lay_batts(outline, _holes(item, wall_base(checked.built, item)), wood)
    nothing = Size(0.0, 0.0)
    count = len(pieces)
    return OnWall(item.id, called(item), -1, material, depth, nothing, "upright", pieces, count)


def _full_depth() -> tuple[kinds.MemberKind, ...]:
    """What fills the depth of the studs, so that nothing lies before or behind it."""
    return kinds.those(lambda k: k.of_wall and not k.concrete)


def _rect(m: Member, item: Wall) -> Rect:
    base = dot(sub(m.solid.origin[:2], item.start), direction_of(item))
    xs, zs = [base + x for x, _ in m.solid.outline], [z for _, z in m.solid.outline]
    return min(xs), min(zs), max(xs), max(zs)


def _frame_ends(checked: Checked, item: Wall) -> tuple[float, float]:
    """From where to where along the wall its studs stand."""
    host = HostName("wall", item.id)
    rects = [_rect(m, item) for m in checked.structure.in_host(host, kinds.WALL_STUD)]
    return min(r[0] for r in rects), max(r[2] for r in rects)


def _outline(
    checked: Checked, item: Wall, low: float, high: float, lap: float, *, rises: bool
) -> tuple[Point, ...]:
    """The face of a wall: its foot with its steps, its top, and what rises over it to a roof."""
    from shapely import Polygon, box, union_all

    project = checked.built
    foot, top = wall_base(project, item), wall_top(project, item)
    floors = foot_floors(project, item)
    ends = [(a, b, up) for a, b, up in floors]
    ends[0] = (min(low, ends[0][0]), *ends[0][1:])
    ends[-1] = (ends[-1][0], max(high, ends[-1][1]), ends[-1][2])
    parts = [
        box(max(a, low), foot + up - lap, min(b, high), top)
        for a, b, up in ends
        if min(b, high) - max(a, low) > 0
    ]
    if rises:
        parts += [Polygon(ring) for ring in _gables(checked, item)]
    whole = union_all(parts)
    largest = max(getattr(whole, "geoms", [whole]), key=lambda g: g.area)
    return tuple((x, z) for x, z in list(largest.exterior.coords)[:-1])


def _gables(checked: Checked, item: Wall) -> Iterator[list[Point]]:
    for gable in checked.structure.gables:
        if gable.wall == item.id:
            yield _along_wall(gable, item)


def _along_wall(gable: GableWall, item: Wall) -> list[Point]:
    way = direction_of(item)
    offset = dot(sub(gable.start, item.start), way)
    sign = 1.0 if dot(gable.way, way) > 0 else -1.0
    return [(offset + sign * s, z) for s, z in gable.ring]


def _holes(item: Wall, foot: float) -> tuple[Rect, ...]:
    return tuple(
        (o.at, foot + max(0.0, o.sill), o.at + o.width, foot + o.sill + o.height)
        for o in item.openings
    )


class DeckPanels(NamedTuple):
    """The panels of one deck: its net area, mm², and how many sheets that takes."""

    member: Member
    area: float
    size: Size
    sheets: int


def deck_panels(checked: Checked) -> list[DeckPanels]:
    """The panels that decks are laid of, openings left out: as many sheets as their area takes and a
    twentieth more, since they are laid staggered (common practice, no source)."""
    size = USUAL[checked.project.system]
    found = []
    for m in checked.structure.of(kinds.SUBFLOOR):
        area = checked.structure.volume(m) / m.solid.depth
        count = math.ceil(area * LAID_MORE / (size.width * size.length))
        found.append(DeckPanels(m, area, size, count))
    return found


LAID_MORE: Final = 1.05
