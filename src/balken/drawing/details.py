"""Details: views of the model at a larger scale, cut off at a window, in which everything that is cut is
named with its size."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.drawing.cut import Gathered, View, Window
from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke
from balken.drawing.spread import spread
from balken.drawing.upright import upright_lines
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.parts import lines_in, polygons_in
from balken.geometry.plane import Point, Ring, box
from balken.model.names import HostName, MemberName
from balken.model.project import Project, column, wall_build_up
from balken.model.walls import called
from balken.units import System, format_length, format_run
from balken.works.building import Checked

TEXT: Final = 2.5
PACE: Final = 4.4
"""From one name to the next, mm of paper."""
AWAY: Final = 14.0
"""Names stand so far beside the drawing, mm of paper."""


class Place(NamedTuple):
    """What a detail shows."""

    key: str
    """The lasting name of the detail, as ``detail:W3``."""
    title: str
    view: View
    window: Window
    small: bool = False
    """Of one joint, at a larger scale than a wall from footing to eave."""


def detail_lines(checked: Checked, place: Place, all_of: Gathered | None = None) -> Drawing:
    """What is cut and seen in the window, at any scale."""
    lines = upright_lines(checked, place.view, all_of, place.window)
    return tuple(clipped_to(lines, place.window))


def clipped_to(marks: Sequence[Mark], window: Window) -> Iterator[Mark]:
    """Marks inside a window, cut off at its rim."""
    from shapely import LineString, Polygon
    from shapely import box as rectangle

    frame = rectangle(*window)
    for m in marks:
        if isinstance(m, Patch) and len(m.ring) > 2:
            for part in polygons_in(Polygon(m.ring).buffer(0).intersection(frame), 1.0):
                yield Patch(_ring(part.exterior.coords), m.fill, m.pen, m.key)
        elif isinstance(m, Stroke) and len(m.points) > 1:
            for line in lines_in(LineString(m.points).intersection(frame), 1.0):
                yield replace(m, points=tuple((x, z) for x, z in line.coords))


def _ring(coords: Sequence[tuple[float, ...]]) -> Ring:
    return tuple((p[0], p[1]) for p in list(coords)[:-1])


def detail_notes(checked: Checked, lines: Drawing, paper: float) -> Iterator[Mark]:
    """Names of all that is cut, in a column at the right with leaders; levels at the left."""
    system = checked.project.system
    named = list(_named(checked, lines))
    if not named:
        return
    x0, _, x1, _ = box([p for m in lines if isinstance(m, Patch) for p in m.ring])
    rows = spread([at[1] for at, _ in named], PACE * paper, -1e9, 1e9)
    for (at, words), row in zip(named, rows):
        foot = (x1 + AWAY * paper, row)
        yield Stroke((at, (x1 + 4 * paper, row), foot), "hair")
        yield Label(words, (foot[0] + paper, row - TEXT / 2 * paper), TEXT, "start")
    yield from _levels(checked.project, lines, x0, paper, system)


def _levels(
    project: Project, lines: Drawing, x0: float, paper: float, system: System
) -> Iterator[Mark]:
    _, low, _, high = box([p for m in lines if isinstance(m, Patch) for p in m.ring])
    levels = [x for x in column(project) if low - 1.0 <= x.elevation <= high + 1.0]
    rows = spread([x.elevation for x in levels], PACE * paper, -1e9, 1e9)
    for item, row in zip(levels, rows):
        z, end = item.elevation, x0 - AWAY * paper
        yield Stroke(((x0, z), (x0 - 4 * paper, z), (end, row)), "hair")
        words = f"{item.name}  {format_length(z, system)}"
        yield Label(words, (end - paper, row - TEXT / 2 * paper), TEXT, "end")


LEAST_SEEN: Final = 2000.0
"""What is seen of a piece behind is named from so much on, mm²."""


def _named(checked: Checked, lines: Drawing) -> list[tuple[Point, str]]:
    """A place on each thing that is cut, and on joists, rafters and rolled steel right behind, the highest of
    alike ones, and what it is called, from below up."""
    from shapely import Polygon, union_all

    by_id = {m.id: m for m in checked.structure.members}
    found: dict[str, Point] = {}
    layers: dict[HostName, list[Patch]] = {}
    before = union_all([Polygon(m.ring) for m in lines if isinstance(m, Patch) and m.pen == "cut"])
    for mark in lines:
        if not isinstance(mark, Patch) or mark.key is None:
            continue
        is_cut = mark.pen == "cut"
        if isinstance(mark.key, MemberName) and mark.key in by_id:
            m = by_id[mark.key]
            if is_cut:
                _keep(found, _called(checked, m), _middle(mark.ring))
            elif m.kind.spans or mark.fill == "steel":
                seen = list(polygons_in(Polygon(mark.ring).difference(before), LEAST_SEEN))
                if seen:
                    spot = max(seen, key=lambda p: p.area).representative_point()
                    _keep(found, _called(checked, m), (spot.x, spot.y))
        elif isinstance(mark.key, HostName) and mark.key.kind == "wall" and is_cut:
            layers.setdefault(mark.key, []).append(mark)
    for host, patches in layers.items():
        for words, at in _layers(checked.project, host, patches):
            _keep(found, words, at)
    return sorted(((at, words) for words, at in found.items()), key=lambda n: (n[0][1], n[1]))


def _called(checked: Checked, m: Member) -> str:
    """What a piece is named in a detail: by its section, panels by their thickness."""
    if m.kind is kinds.SUBFLOOR:
        low, high = m.solid.bounds()
        return f"{format_run(high[2] - low[2], checked.project.system)} {m.role}, {m.material}"
    return f"{pretty(m.section)} {m.role}, {m.material}"


def _keep(found: dict[str, Point], words: str, at: Point) -> None:
    if words not in found or at[1] > found[words][1]:
        found[words] = at


def _middle(ring: Ring) -> Point:
    x0, z0, x1, z1 = box(ring)
    return (x0 + x1) / 2, (z0 + z1) / 2


def _layers(
    project: Project, host: HostName, patches: Sequence[Patch]
) -> Iterator[tuple[str, Point]]:
    """The layers of a wall from the outside in, each named where it is cut; of a wall without layers the
    wall."""
    item = next((w for w in project.walls if w.id == host.key), None)
    body = wall_build_up(project, item) if item is not None else None
    ordered = sorted(patches, key=lambda p: box(p.ring)[0])
    if body is None or len(ordered) != len(body.layers):
        if item is not None:
            yield called(item), _middle(ordered[0].ring)
        return
    for layer, patch in zip(body.layers, ordered):
        yield f"{layer.material} {format_run(layer.thickness, project.system)}", _middle(patch.ring)
