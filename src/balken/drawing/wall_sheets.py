"""The panels and boards of one wall as they are laid, layer by layer: whole sheets and cut ones, with their
names, and what is cut from what. Lengths along the wall and heights, mm."""

from collections.abc import Iterator
from typing import Final

from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke
from balken.drawing.wall_elevation import Seen, along_at, strings_of
from balken.framing import kinds
from balken.geometry.plane import Point
from balken.model.names import HostName
from balken.model.project import wall
from balken.model.walls import Wall, called
from balken.takeoff.sheets import OnWall, sheets_on
from balken.units import System, format_area, format_length, format_run
from balken.works.building import Checked

TEXT: Final = 2.5
UNDER: Final = 54.0
"""The words stand so far under a wall, past its strings, mm of paper."""
FILLS: Final[dict[bool, Fill]] = {True: "board", False: "panel"}
"""Of whole sheets, and of cut ones."""


def layers_seen(checked: Checked, item: Wall, seen: Seen) -> list[OnWall]:
    """The layers of sheets on one side of a wall, the outermost on that side first."""
    found = [layer for layer in sheets_on(checked, item) if layer.layer >= 0]
    if not found:
        return []
    body = {b.id: b for b in checked.built.wall_build_ups}[item.build_up]
    core = next((n for n, x in enumerate(body.layers) if x.role == "core"), len(body.layers))
    outside = [x for x in found if x.layer < core]
    inside = [x for x in found if x.layer > core]
    return outside if seen == "outside" else inside[::-1]


def sheets_drawing(checked: Checked, host: HostName, paper: float, seen: Seen) -> Drawing:
    """The outermost layer of sheets on one side of a wall, over its studs.

    Args:
        checked: the building.
        host: the wall.
        paper: mm of building for one of paper.
        seen: from which side.
    """
    item = wall(checked.project, host.key)
    layers = layers_seen(checked, item, seen)
    system = checked.project.system
    if not layers:
        words = f"{called(item)} has no sheets {seen}"
        return (Label(words, (0.0, 0.0), 3.2, bold=True),)
    layer = layers[0]
    marks: list[Mark] = []
    for piece in layer.pieces:
        outer, *holes = (_seen_ring(ring, item, seen) for ring in piece.outlines)
        marks.append(Patch(outer, FILLS[piece.whole], "seen"))
        marks += [Patch(hole, "paper", "seen") for hole in holes]
    marks += _studs(checked, host, item, seen)
    for piece in layer.pieces:
        x0, z0, x1, z1 = piece.box
        wide = (x1 - x0) / paper
        if wide > len(piece.name) * TEXT * 0.7:
            middle = ((x0 + x1) / 2, (z0 + z1) / 2) if piece.whole else piece.spot
            at = (_x(item, seen, middle[0]), middle[1] - TEXT / 2 * paper)
            marks.append(Label(piece.name, at, TEXT, bold=piece.whole, boxed=True))
    marks += strings_of(checked, host, paper, seen)
    low = min(p.box[1] for p in layer.pieces)
    across = sum(_x(item, seen, x) for x in _ends(layer)) / 2
    words = f"{called(item)}, seen from {seen}"
    marks.append(Label(words, (across, low - UNDER * paper), 3.2, bold=True))
    marks.append(Label(sheet_words(layer, system), (across, low - (UNDER + 5) * paper), TEXT))
    return tuple(marks)


def _ends(layer: OnWall) -> tuple[float, float]:
    return min(p.box[0] for p in layer.pieces), max(p.box[2] for p in layer.pieces)


def _x(item: Wall, seen: Seen, along: float) -> float:
    return along_at(item, seen, along)  # turning it twice leads back


def _seen_ring(ring: tuple[Point, ...], item: Wall, seen: Seen) -> tuple[Point, ...]:
    return tuple((_x(item, seen, x), z) for x, z in ring)


def _studs(checked: Checked, host: HostName, item: Wall, seen: Seen) -> Iterator[Mark]:
    """The middles of studs behind the sheets."""
    for m in checked.structure.in_host(host, kinds.WALL_STUD, kinds.KING, kinds.JACK):
        along = (m.start[0] - item.start[0], m.start[1] - item.start[1])
        way = (item.end[0] - item.start[0], item.end[1] - item.start[1])
        length = (way[0] ** 2 + way[1] ** 2) ** 0.5
        x = _x(item, seen, (along[0] * way[0] + along[1] * way[1]) / length)
        yield Stroke(((x, m.start[2]), (x, m.end[2])), "hidden")


def sheet_words(layer: OnWall, system: System) -> str:
    """What a layer comes to: its material, sheets, whole and cut pieces, and area."""
    area = format_area(layer.area, system)
    if layer.layer < 0:
        return (
            f"{layer.material} {format_run(layer.thickness, system)}: {layer.sheets} bays, {area}"
        )
    size = f"{format_length(layer.size.width, system)} × {format_length(layer.size.length, system)}"
    cut = len(layer.pieces) - layer.whole
    return (
        f"{layer.material} {format_run(layer.thickness, system)}: {layer.sheets} sheets {size},"
        f" {layer.whole} whole, {cut} cut pieces, {area}"
    )
