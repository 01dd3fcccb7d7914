"""Upright views: the four elevations and a section, with level lines and grid lines.

Horizontal places run along the view's right-hand direction from the building's origin, heights are
the building's, mm.
"""

import math
from collections.abc import Iterator, Sequence
from typing import Any, Final, Literal, NamedTuple

from balken.drawing.cut import (
    Body,
    Gathered,
    Part,
    View,
    Window,
    bodies_of,
    gathered,
    outline_seen,
    parts_in,
    rings_cut,
)
from balken.drawing.marks import Disc, Drawing, Fill, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.seen import lines_of, sight_of, strokes_of
from balken.drawing.spread import spread
from balken.geometry.parts import lines_in, polygons_in
from balken.geometry.plane import (
    Point,
    add,
    cross,
    distance,
    dot,
    left,
    middle_of,
    rotate,
    sub,
    unit,
)
from balken.model.grids import grid_ends
from balken.model.names import HostName, ThingName
from balken.model.project import Level, Project, Spot, column, levels_of
from balken.model.walls import Opening, Wall, direction_of, reach, straightened
from balken.recall import remembered
from balken.site.bodies import lie_of
from balken.site.ground import ground_along, surface_of
from balken.units import format_length
from balken.works.building import Checked

Side = Literal["south", "east", "north", "west"]
SIDES: Final[tuple[Side, ...]] = ("south", "east", "north", "west")
_TURNS: Final = {"south": 0.0, "east": math.pi / 2, "north": math.pi, "west": -math.pi / 2}
BEYOND: Final = 1200.0
"""Level and grid lines reach this far past the building, mm."""


def looking(project: Project, side: Side, cut: Point | None = None) -> View:
    """The view of a building from one of its own sides; with a place, cut there."""
    turn = lie_of(project, straightened(project.walls)) + _TURNS[side]
    right = rotate((1.0, 0.0), turn)
    return View(right, left(right), cut)


def upright_view(checked: Checked, view: View, paper: float = 50.0) -> Drawing:
    """An elevation, or a section where the view is cut; ``paper`` is mm of building to a mm
    of paper."""
    return (*upright_lines(checked, view), *upright_notes(checked, view, paper))


def upright_lines(
    checked: Checked, view: View, all_of: Gathered | None = None, window: Window | None = None
) -> Drawing:
    """What is seen and cut, at any scale: bodies filled, their edges without what others hide, doors and
    windows, what is cut, and the line of the ground.

    Args:
        checked: the building.
        view: from where.
        all_of: its bodies, where they are gathered already.
        window: what is to be shown, along the view and up; all where None.
    """
    project = checked.project
    parts = parts_in(all_of or gathered(bodies_of(checked)), view, window)
    return drawn_upright(parts, view, Outside(project.walls, project.levels, project.spots))


class Outside(NamedTuple):
    """What besides its bodies an upright view shows of a building: openings and the ground."""

    walls: tuple[Wall, ...]
    levels: tuple[Level, ...]
    spots: tuple[Spot, ...]


@remembered
def drawn_upright(parts: tuple[Part, ...], view: View, outside: Outside) -> Drawing:
    """The lines of an upright view; an edit that changes nothing of it does not draw it again."""
    fills: list[tuple[float, tuple[Mark, ...]]] = []
    cut: list[Mark] = []
    layers: list[Mark] = []  # of walls: plates, studs and posts stand in them
    edges = _edges(parts, view)
    shown = {m.key for m in edges}
    for part in parts:
        if part.is_cut:
            body = part.body
            into = layers if isinstance(body.key, HostName) else cut
            into += [Patch(ring, body.fill, "cut", body.key) for ring in rings_cut(body, view)]
        elif not part.body.buried and (part.body.key in shown or part.body.fill != "timber"):
            # A board of which no edge is seen lies behind others.
            fills.append((part.far, _filled(part.body, view)))
    profile = _profile(outside, view, parts)
    front = _foremost([p for p in parts if p.body.buried and not p.is_cut])
    fills.append((_nearest(front), tuple(_buried(front, view, profile))))
    fills.sort(key=lambda s: -s[0])
    return (
        *(m for _, group in fills for m in group),
        *edges,
        *_openings(outside, view),
        *layers,
        *cut,
        *([Stroke(profile, "cut")] if profile else []),
    )


def upright_notes(
    checked: Checked, view: View, paper: float, all_of: Gathered | None = None
) -> Drawing:
    """Lines of levels and grids with their words, at a scale."""
    parts = parts_in(all_of or gathered(bodies_of(checked)), view)
    places = [view.along(p) for p in _grid_places(checked.project)]
    span = _span(parts, checked.project.levels, places)
    return (
        *_levels(checked.project, span, paper),
        *_grids(checked.project, view, span, paper),
    )


def _edges(parts: Sequence[Part], view: View) -> list[Mark]:
    """The edges that are seen, of concrete none: it is drawn as one body."""
    sight = sight_of(view)
    bodies = [p.body for p in parts]
    found = strokes_of(bodies, lines_of(bodies, sight, view), sight)
    buried = {b.key for b in bodies if b.buried}
    return [m for m in found if m.key not in buried]


def _nearest(parts: Sequence[Part]) -> float:
    """How far ahead the nearest of some bodies lies, mm."""
    return min((part.near for part in parts), default=0.0)


def _filled(body: Body, view: View) -> tuple[Mark, ...]:
    is_wall = isinstance(body.key, HostName) and body.key.kind == "wall"
    fill: Fill = "wall" if is_wall else body.fill
    return (Patch(outline_seen(body, view), fill, "none", body.key),)


def _openings(outside: Outside, view: View) -> list[Mark]:
    """Doors and windows of walls that look at the viewer, and those that are cut."""
    found: list[Mark] = []
    heights = {x.id: x.elevation for x in outside.levels}
    for wall in (w for w in outside.walls if w.openings and not w.bulge):
        way = direction_of(wall)
        foot = heights[wall.base] + wall.base_offset
        if _looks_at_us(outside.walls, wall, view):
            found += [m for hole in wall.openings for m in _in_view(wall, hole, foot, view)]
        elif view.cut is not None and abs(dot(way, view.ahead)) > 0.7:
            found += [m for hole in wall.openings for m in _opening_cut(wall, hole, foot, view)]
    return found


def _looks_at_us(walls: Sequence[Wall], wall: Wall, view: View) -> bool:
    """Whether a wall faces the viewer, before the others of its storey and behind the cut."""
    if abs(dot(direction_of(wall), view.right)) <= 0.7 or not _is_front(walls, wall, view):
        return False
    return view.cut is None or view.deep(middle_of(wall.start, wall.end)) > 0


def _in_view(wall: Wall, hole: Opening, foot: float, view: View) -> Iterator[Mark]:
    """An opening that looks at the viewer."""
    way, key = direction_of(wall), ThingName("opening", wall.id, hole.id)
    low, high = foot + hole.sill, foot + hole.sill + hole.height
    ends = (add(wall.start, way, at) for at in (hole.at, hole.at + hole.width))
    x0, x1 = sorted(view.along(p) for p in ends)
    yield Patch(rectangle(x0, low, x1, high), "paper", "seen", key)
    if hole.kind == "window":
        yield Stroke(((x0, (low + high) / 2), (x1, (low + high) / 2)), "beyond", key)


def _opening_cut(wall: Wall, hole: Opening, foot: float, view: View) -> Iterator[Mark]:
    """An opening that the plane goes through."""
    way, key = direction_of(wall), ThingName("opening", wall.id, hole.id)
    a, b = (add(wall.start, way, at) for at in (hole.at, hole.at + hole.width))
    if (view.deep(a) > 0) == (view.deep(b) > 0):
        return
    low, high = foot + hole.sill, foot + hole.sill + hole.height
    x = view.along(add(a, way, -view.deep(a) / dot(way, view.ahead)))
    near, far = sorted(x + s * _sign(way, view) for s in reach(wall))
    yield Patch(rectangle(near, low, far, high), "paper", "cut", key)


def _sign(way: Point, view: View) -> float:
    return 1.0 if dot(left(way), view.right) > 0 else -1.0


def _is_front(walls: Sequence[Wall], wall: Wall, view: View) -> bool:
    """Whether no other wall of the storey stands before the middle of a wall."""
    middle = ((wall.start[0] + wall.end[0]) / 2, (wall.start[1] + wall.end[1]) / 2)
    for other in walls:
        if other.base != wall.base or other.id == wall.id or other.bulge:
            continue
        if abs(cross(direction_of(other), view.right)) > 0.3:
            continue
        spans = sorted((view.along(other.start), view.along(other.end)))
        depth = view.deep(other.start)
        before = depth < view.deep(middle) - 1.0 and (view.cut is None or depth > 0)
        if before and spans[0] <= view.along(middle) <= spans[1]:
            return False
    return True


Span = tuple[float, float, float, float]
"""What is shown: from, to along the view and up, mm; x0, z0, x1, z1."""


def _span(parts: Sequence[Part], levels: Sequence[Level], grids: Sequence[float] = ()) -> Span:
    """The box round what is shown, levels with it; where nothing is, round the places of grids along the
    view."""
    xs = [x for p in parts for x in (p.box[0], p.box[2])] or list(grids) or [0.0, 8000.0]
    zs = [z for p in parts for z in (p.box[1], p.box[3])] + [x.elevation for x in levels]
    zs = zs or [0.0, 3000.0]
    return min(xs), min(zs), max(xs), max(zs)


def _grid_places(project: Project) -> Iterator[Point]:
    """The ends of all grid lines."""
    for g in project.grids:
        for line in g.lines:
            yield from grid_ends(g, line)


HIDDEN_BY: Final = 1500.0
"""Concrete this far behind other concrete is left out of an elevation, mm: only the near footings
are of interest."""


def _foremost(parts: Sequence[Part]) -> list[Part]:
    """The concrete nearest to the viewer: of what lies one behind the other, the front
    one."""
    boxes = [(part.box[0], part.box[2], part.near) for part in parts]
    kept = []
    for part, (a, b, near) in zip(parts, boxes):
        before = [(c, d) for c, d, front in boxes if front < near - HIDDEN_BY]
        covered = sum(max(0.0, min(b, d) - max(a, c)) for c, d in before)
        if covered < 0.5 * (b - a):
            kept.append(part)
    return kept


def _profile(outside: Outside, view: View, parts: Sequence[Part]) -> tuple[Point, ...]:
    """The line of the ground: where the view is cut; else along the front of the building,
    by the heights measured."""
    grounds = levels_of(outside.levels, "ground")
    if not parts or not (grounds or outside.spots):
        return ()
    x0, _, x1, _ = _span(parts, outside.levels)
    low, high = x0 - BEYOND, x1 + BEYOND
    if not outside.spots:
        return ((low, grounds[0].elevation), (high, grounds[0].elevation))
    deep = 0.0 if view.cut is not None else _nearest(parts)
    a, b = view.place(low, deep), view.place(high, deep)
    stations, heights = ground_along(surface_of(outside.spots), a, b)
    return tuple((low + s, h) for s, h in zip(stations, heights))


def _buried(parts: Sequence[Part], view: View, profile: tuple[Point, ...]) -> list[Mark]:
    """Draw concrete as one body: seen over the ground, its outline hidden under it."""
    from shapely import LineString, Polygon, union_all

    if not parts:
        return []
    shapes = [Polygon(outline_seen(part.body, view)) for part in parts]
    grown = union_all([g.buffer(0.5, join_style="mitre") for g in shapes])
    body = grown.buffer(-0.5, join_style="mitre")
    under = _under(profile, body.bounds[1] - 1000.0)
    found: list[Mark] = []
    for part, shape in zip(parts, shapes):
        key = part.body.key
        for piece in polygons_in(shape.difference(under), 1.0):
            found.append(Patch(tuple(piece.exterior.coords[:-1]), "concrete", "none", key))
        found.append(Patch(tuple(shape.exterior.coords[:-1]), "none", "none", key))
    for piece in polygons_in(body.difference(under), 1.0):
        found.append(Stroke(tuple(piece.exterior.coords), "seen"))
    rings = [r for g in polygons_in(body) for r in (g.exterior, *g.interiors)]
    for ring in rings:
        hidden = lines_in(LineString(ring.coords).intersection(under), 1.0)
        found += [Stroke(tuple(line.coords), "hidden") for line in hidden]
    return found


def _under(profile: tuple[Point, ...], low: float) -> Any:
    """The ground under its line, down to a depth; nothing where there is no line."""
    from shapely import Polygon

    if len(profile) < 2:
        return Polygon()
    return Polygon([*profile, (profile[-1][0], low), (profile[0][0], low)]).buffer(0)


LEVEL_PACE, LEADER = 3.4, 4.0
"""From one level's words to the next, and how far they stand from the ends of its line, mm on
paper."""


def _levels(project: Project, span: Span, paper: float) -> list[Mark]:
    x0, _, x1, _ = span
    found: list[Mark] = []
    end = x1 + BEYOND
    levels = column(project)
    rows = spread([x.elevation for x in levels], LEVEL_PACE * paper, -math.inf, math.inf)
    for level, row in zip(levels, rows):
        z, key = level.elevation, ThingName("level", level.id)
        found.append(Stroke(((x0 - BEYOND, z), (end, z)), "centre", key))
        foot = (end + LEADER * paper, row)
        found.append(Stroke(((end, z), foot), "hair", key))
        text = f"{level.name}  {format_length(z, project.system)}"
        found.append(Label(text, (foot[0] + paper, row - 0.8 * paper), 2.5, "start", key=key))
    return found


def _grids(project: Project, view: View, span: Span, paper: float) -> list[Mark]:
    """The lines that run towards the viewer as upright centre lines, with their heads over
    the building."""
    _, z0, _, z1 = span
    found: list[Mark] = []
    for g in project.grids:
        for line in g.lines:
            a, b = grid_ends(g, line)
            if (
                line.runs == "ring"
                or distance(a, b) < 1.0
                or abs(cross(unit(sub(b, a)), view.ahead)) > 1e-3
            ):
                continue
            x, top, key = view.along(a), z1 + 6 * paper, ThingName("grid", g.id, line.id)
            found += [
                Stroke(((x, z0 - 3 * paper), (x, top)), "centre", key),
                Disc((x, top + 2.6 * paper), 2.6, "seen", key),
                Label(line.label, (x, top + 1.7 * paper), 2.6, bold=True, key=key),
            ]
    return found
