"""Details: views of the model at a larger scale. A wall from its footing to the eave, everything that is cut
named with its size."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from balken.drawing.cut import View, bodies_of, rings_cut
from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke
from balken.drawing.spread import spread
from balken.drawing.upright import upright_lines
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.parts import lines_in, polygons_in
from balken.geometry.plane import Point, Ring, add, box, left
from balken.model.foundations import walls_on
from balken.model.names import HostName, MemberName
from balken.model.project import Project, column, wall_build_up
from balken.model.walls import Wall, called, direction_of, outside_of, wall_length
from balken.site.bodies import outer_sides, storey_outline
from balken.units import System, format_length, format_run
from balken.works.building import Checked

OUTSIDE: Final = 900.0
INSIDE: Final = 1500.0
"""So much beside the wall's line is shown, mm."""
DEEP: Final = 250.0
"""And so much behind the cut."""
OVER: Final = 900.0
"""Over the highest cut of the wall and under the lowest, mm."""
TEXT: Final = 2.5
PACE: Final = 4.4
"""From one name to the next, mm of paper."""
AWAY: Final = 14.0
"""Names stand so far beside the drawing, mm of paper."""


class Place(NamedTuple):
    """Where a wall is cut."""

    wall: Wall
    at: float
    """Along it, mm."""

    @property
    def key(self) -> str:
        """The lasting name of the detail."""
        return f"detail:{self.wall.id}"


def detailed_walls(project: Project) -> list[Place]:
    """One wall on each foundation: the longest outside wall, cut beside its middle, off openings."""
    found: list[Place] = []
    for run in project.runs:
        mine = set(walls_on(run))
        walls = [w for w in project.walls if w.id in mine and not w.bulge]
        by_base = tuple(w for w in project.walls if walls and w.base == walls[0].base)
        outside = outer_sides(by_base, storey_outline(by_base)) if by_base else {}
        outer = [w for w in walls if w.id in outside] or walls
        if not outer:
            continue
        longest = max(outer, key=lambda w: (round(wall_length(w), 3), w.id))
        if all(p.wall.id != longest.id for p in found):
            found.append(Place(longest, _free(longest)))
    return found


def _free(item: Wall) -> float:
    """A place along a wall between openings: in the middle of the widest stretch, off a stud."""
    ends = [
        0.0,
        *(x for o in sorted(item.openings, key=lambda o: o.at) for x in (o.at, o.at + o.width)),
    ]
    ends.append(wall_length(item))
    stretches = list(zip(ends[::2], ends[1::2]))
    low, high = max(stretches, key=lambda s: s[1] - s[0])
    return (low + high) / 2 + 120.0


def view_at(place: Place) -> View:
    """Across a wall, its outside at the left."""
    item = place.wall
    way = direction_of(item)
    out = left(way) if outside_of(item) == "left" else (-left(way)[0], -left(way)[1])
    right = (-out[0], -out[1])
    cut = add(item.start, way, place.at)
    return View(right, left(right), cut, DEEP)


def detail_title(place: Place) -> str:
    """What it is called."""
    return f"Wall section, {called(place.wall)}"


def detail_lines(checked: Checked, place: Place) -> Drawing:
    """What is cut and seen near the wall, at any scale."""
    view = view_at(place)
    window = _window(checked, place, view)
    return tuple(_clipped(upright_lines(checked, view), window))


def _window(checked: Checked, place: Place, view: View) -> tuple[float, float, float, float]:
    """The part that is shown: to the right and up."""
    middle = view.along(add(place.wall.start, direction_of(place.wall), place.at))
    near = [
        ring
        for body in bodies_of(checked)
        if body.is_cut(view)
        for ring in rings_cut(body, view)
        if any(middle - OUTSIDE < x < middle + INSIDE / 3 for x, _ in ring)
    ]
    heights = [z for ring in near for x, z in ring if middle - OUTSIDE < x < middle + INSIDE]
    low, high = min(heights, default=0.0), max(heights, default=3000.0)
    return middle - OUTSIDE, low - OVER / 3, middle + INSIDE, high + OVER / 3


def _clipped(marks: Sequence[Mark], window: tuple[float, float, float, float]) -> Iterator[Mark]:
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
                yield Stroke(tuple((x, z) for x, z in line.coords), m.pen, m.key)


def _ring(coords: Sequence[tuple[float, ...]]) -> Ring:
    return tuple((p[0], p[1]) for p in list(coords)[:-1])


def detail_notes(checked: Checked, place: Place, lines: Drawing, paper: float) -> Iterator[Mark]:
    """Names of all that is cut, in a column at the right with leaders; levels at the left."""
    system = checked.project.system
    named = list(_named(checked, place, lines))
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


def _named(checked: Checked, place: Place, lines: Drawing) -> list[tuple[Point, str]]:
    """A place on each thing that is cut, and on joists and rafters right behind, the highest of alike ones,
    and what it is called, from below up."""
    by_id = {m.id: m for m in checked.structure.members}
    found: dict[str, Point] = {}
    layers: dict[HostName, list[Patch]] = {}
    for mark in lines:
        if not isinstance(mark, Patch) or mark.key is None:
            continue
        is_cut = mark.pen == "cut"
        if isinstance(mark.key, MemberName) and mark.key in by_id:
            m = by_id[mark.key]
            if is_cut or m.kind.spans:
                _keep(found, _called(checked, m), _middle(mark.ring))
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
