"""Upright views: the four elevations and a section, with level lines and grid lines.

Horizontal places run along the view's right-hand direction from the building's origin, heights are
the building's, mm.
"""

import math
from typing import Final, Literal

import msgspec

from balken.drawing.kinds import DRAWN
from balken.drawing.marks import Disc, Drawing, Fill, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.wall_figure import LAYER_FILLS
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, add, cross, distance, dot, left, rotate, sub, unit
from balken.geometry.slices import slices
from balken.geometry.solid import Extrusion, Vector, hull, upright
from balken.geometry.trim import Mesh
from balken.model.grids import grid_ends
from balken.model.names import HostName, Name, ThingName, whole
from balken.model.project import Project, column, wall_base, wall_top
from balken.model.walls import Wall, direction_of, layer_bands, reach, straightened
from balken.site.bodies import bodies, layer_rings, lie_of
from balken.site.ground import ground_along, surface_of
from balken.units import format_length
from balken.works.building import Checked

Side = Literal["south", "east", "north", "west"]
SIDES: Final[tuple[Side, ...]] = ("south", "east", "north", "west")
_TURNS: Final = {"south": 0.0, "east": math.pi / 2, "north": math.pi, "west": -math.pi / 2}
BEYOND: Final = 1200.0
"""Level and grid lines reach this far past the building, mm."""


class View(msgspec.Struct, frozen=True):
    """A direction of looking: ``right`` and ``ahead`` in plan; ``cut`` is a place the cutting plane
    goes through."""

    right: Point
    ahead: Point
    cut: Point | None = None

    def along(self, p: Point) -> float:
        """How far to the right a place of the plan lies."""
        return dot(p, self.right)

    def deep(self, p: Point) -> float:
        """How far ahead a place lies: of the cutting plane, where there is one."""
        return dot(sub(p, self.cut) if self.cut else p, self.ahead)

    def place(self, along: float, deep: float) -> Point:
        """The place in plan that lies so far to the right and so far ahead."""
        ahead = deep + (dot(self.cut, self.ahead) if self.cut else 0.0)
        return add(add((0.0, 0.0), self.right, along), self.ahead, ahead)


def looking(project: Project, side: Side, cut: Point | None = None) -> View:
    """The view of a building from one of its own sides; with a place, cut there."""
    turn = lie_of(project, straightened(project.walls)) + _TURNS[side]
    right = rotate((1.0, 0.0), turn)
    return View(right, left(right), cut)


class _Part(msgspec.Struct, frozen=True):
    solid: Extrusion
    fill: Fill
    key: Name
    buried: bool = False
    """Concrete: what of it lies under the ground is hidden."""
    mesh: Mesh | None = None
    """What is left of it where it gave way to others."""


def upright_view(checked: Checked, view: View, paper: float = 50.0) -> Drawing:
    """An elevation, or a section where the view is cut; ``paper`` is mm of building to a mm
    of paper."""
    project = checked.project
    parts = _parts(checked)
    seen: list[tuple[float, tuple[Mark, ...]]] = []
    cut: list[Mark] = []
    for part in parts:
        near = min(view.deep((p[0], p[1])) for p in _points(part.solid))
        far = max(view.deep((p[0], p[1])) for p in _points(part.solid))
        if view.cut is not None and near < -1e-6 < 1e-6 < far:
            rings = (
                _slices(part.solid, view)
                if part.mesh is None
                else slices(part.mesh, view.deep, view.along)
            )
            cut += [Patch(ring, part.fill, "cut", part.key) for ring in rings]
        elif (view.cut is None or near >= -1e-6) and not part.buried:
            seen.append((far, _seen(part, view)))
    profile = _profile(project, view, parts)
    front = _foremost([p for p in parts if p.buried and _behind(p, view)], view)
    nearest = min(
        (view.deep((p[0], p[1])) for part in front for p in _points(part.solid)), default=0.0
    )
    seen.append((nearest, tuple(_buried(front, view, profile))))
    seen.sort(key=lambda s: -s[0])
    marks: list[Mark] = [m for _, group in seen for m in group]
    marks += _openings(project, view)
    marks += cut
    marks += [Stroke(profile, "cut")] if profile else []
    marks += _levels(project, view, parts, paper)
    marks += _grids(project, view, parts, paper)
    return tuple(marks)


def _points(solid: Extrusion) -> list[Vector]:
    return solid.points()


def _parts(checked: Checked) -> list[_Part]:
    project = checked.project
    found = []
    for m in checked.structure.members:
        if not DRAWN[m.kind].covers:
            mesh = checked.structure.concrete.meshes.get(m.id)
            found.append(_Part(m.solid, _fill(m), m.id, m.kind.concrete > 0, mesh))
    for base in dict.fromkeys(w.base for w in project.walls):
        found += _wall_parts(project, tuple(w for w in project.walls if w.base == base))
    found += [_Part(g.solid, "wall", HostName("wall", g.wall)) for g in checked.structure.gables]
    return found


def _fill(m: Member) -> Fill:
    if m.material == "concrete":
        return "concrete"
    return "timber"


def _wall_parts(project: Project, walls: tuple[Wall, ...]) -> list[_Part]:
    """Walls, layer by layer where they are known; layers outside the core reach down by the
    wall's lap."""
    pieces = straightened(walls)
    rings = layer_rings(pieces, {b.id: b for b in project.wall_build_ups})
    build_ups = {b.id: b for b in project.wall_build_ups}
    found = []
    for piece, body in zip(pieces, bodies(pieces).values()):
        low, high = wall_base(project, piece), wall_top(project, piece)
        if piece.id not in rings:
            found.append(
                _Part(
                    upright(body.ring, low - piece.lap, high),
                    "wall",
                    HostName("wall", whole(piece.id)),
                )
            )
            continue
        outside = True
        for (layer, _, _), (role, ring) in zip(
            layer_bands(piece, build_ups[piece.build_up]), rings[piece.id]
        ):
            outside = outside and layer.role != "core"
            foot = low - piece.lap if outside else low
            found.append(
                _Part(
                    upright(ring, foot, high), LAYER_FILLS[role], HostName("wall", whole(piece.id))
                )
            )
    return found


def _seen(part: _Part, view: View) -> tuple[Mark, ...]:
    outline = hull([(view.along((p[0], p[1])), p[2]) for p in _points(part.solid)])
    fill: Fill = "wall" if part.fill in ("board", "insulation", "panel") else part.fill
    return (Patch(outline, fill, "seen", part.key),)


def _slices(solid: Extrusion, view: View) -> list[Ring]:
    """The outlines in which a plane cuts a body."""
    near, far = solid.faces()

    def side(p: Vector) -> float:
        return view.deep((p[0], p[1]))

    def between(a: Vector, b: Vector) -> Point:
        t = side(a) / (side(a) - side(b))
        x, y, z = (a[i] + t * (b[i] - a[i]) for i in range(3))
        return view.along((x, y)), z

    if all((side(a) > 0) != (side(b) > 0) for a, b in zip(near, far)):
        return [tuple(between(a, b) for a, b in zip(near, far))]
    if abs(solid.normal[2]) > 0.999:
        low, high = sorted((near[0][2], far[0][2]))
        crossed = []
        for a, b in zip(near, [*near[1:], near[0]]):
            if (side(a) > 0) != (side(b) > 0):
                crossed.append(between(a, b)[0])
        crossed.sort()
        return [
            rectangle(a, low, b, high) for a, b in zip(crossed[::2], crossed[1::2]) if b - a > 0.1
        ]
    edges = [*zip(near, [*near[1:], near[0]]), *zip(far, [*far[1:], far[0]]), *zip(near, far)]
    points = [between(a, b) for a, b in edges if (side(a) > 0) != (side(b) > 0)]
    outline = hull(points)
    return [outline] if len(outline) > 2 else []


def _openings(project: Project, view: View) -> list[Mark]:
    """Doors and windows of walls that look at the viewer, and those that are cut."""
    found: list[Mark] = []
    for wall in project.walls:
        if wall.bulge or not wall.openings:
            continue
        way = direction_of(wall)
        middle = ((wall.start[0] + wall.end[0]) / 2, (wall.start[1] + wall.end[1]) / 2)
        faces_us = abs(dot(way, view.right)) > 0.7 and _is_front(project, wall, view)
        is_cut = view.cut is not None and abs(dot(way, view.ahead)) > 0.7
        foot = wall_base(project, wall)
        for hole in wall.openings:
            key = ThingName("opening", wall.id, hole.id)
            low, high = foot + hole.sill, foot + hole.sill + hole.height
            a, b = add(wall.start, way, hole.at), add(wall.start, way, hole.at + hole.width)
            if faces_us and (view.cut is None or view.deep(middle) > 0):
                x0, x1 = sorted((view.along(a), view.along(b)))
                found.append(Patch(rectangle(x0, low, x1, high), "paper", "seen", key))
                if hole.kind == "window":
                    found.append(
                        Stroke(((x0, (low + high) / 2), (x1, (low + high) / 2)), "beyond", key)
                    )
            elif is_cut and (view.deep(a) > 0) != (view.deep(b) > 0):
                x = view.along(add(a, way, -view.deep(a) / dot(way, view.ahead)))
                near, far = (x + s * _sign(way, view) for s in reach(wall))
                found.append(
                    Patch(rectangle(min(near, far), low, max(near, far), high), "paper", "cut", key)
                )
    return found


def _sign(way: Point, view: View) -> float:
    return 1.0 if dot(left(way), view.right) > 0 else -1.0


def _is_front(project: Project, wall: Wall, view: View) -> bool:
    """Whether no other wall of the storey stands before the middle of a wall."""
    middle = ((wall.start[0] + wall.end[0]) / 2, (wall.start[1] + wall.end[1]) / 2)
    for other in project.walls:
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


def _span(parts: list[_Part], project: Project, view: View) -> tuple[float, float, float, float]:
    points = [(view.along((p[0], p[1])), p[2]) for part in parts for p in _points(part.solid)]
    points += (
        [(view.along(p), 0.0) for g in project.grids for x in g.lines for p in grid_ends(g, x)]
        if not points
        else []
    )
    xs = [p[0] for p in points] or [0.0, 8000.0]
    zs = [p[1] for p in points] + [x.elevation for x in project.levels]
    return min(xs), min(zs or [0.0]), max(xs), max(zs or [3000.0])


def _behind(part: _Part, view: View) -> bool:
    """Whether a part is seen from the front, or lies behind the cut."""
    depths = [view.deep((p[0], p[1])) for p in _points(part.solid)]
    return view.cut is None or min(depths) >= -1e-6


HIDDEN_BY: Final = 1500.0
"""Concrete this far behind other concrete is left out of an elevation, mm: only the near footings
are of interest."""


def _foremost(parts: list[_Part], view: View) -> list[_Part]:
    """The concrete nearest to the viewer: of what lies one behind the other, the front
    one."""
    boxes = []
    for part in parts:
        points = [(p[0], p[1]) for p in _points(part.solid)]
        alongs, depths = [view.along(p) for p in points], [view.deep(p) for p in points]
        boxes.append((min(alongs), max(alongs), min(depths)))
    kept = []
    for part, (a, b, near) in zip(parts, boxes):
        before = [(c, d) for c, d, front in boxes if front < near - HIDDEN_BY]
        covered = sum(max(0.0, min(b, d) - max(a, c)) for c, d in before)
        if covered < 0.5 * (b - a):
            kept.append(part)
    return kept


def _profile(project: Project, view: View, parts: list[_Part]) -> tuple[Point, ...]:
    """The line of the ground: where the view is cut; else along the front of the building,
    by the heights measured."""
    level = next((x for x in project.levels if x.role == "ground"), None)
    if not parts or (level is None and not project.spots):
        return ()
    x0, _, x1, _ = _span(parts, project, view)
    low, high = x0 - BEYOND, x1 + BEYOND
    if not project.spots:
        assert level is not None
        return ((low, level.elevation), (high, level.elevation))
    deep = (
        0.0
        if view.cut is not None
        else min(view.deep((p[0], p[1])) for part in parts for p in _points(part.solid))
    )
    a, b = view.place(low, deep), view.place(high, deep)
    stations, heights = ground_along(surface_of(project.spots), a, b)
    return tuple((low + s, h) for s, h in zip(stations, heights))


def _buried(parts: list[_Part], view: View, profile: tuple[Point, ...]) -> list[Mark]:
    """Draw concrete as one body: seen over the ground, its outline hidden under it."""
    from shapely import LineString, Polygon, union_all

    if not parts:
        return []
    shapes = [
        Polygon(hull([(view.along((p[0], p[1])), p[2]) for p in _points(part.solid)]))
        for part in parts
    ]
    body = union_all([g.buffer(0.5, join_style="mitre") for g in shapes]).buffer(
        -0.5, join_style="mitre"
    )
    found: list[Mark] = []
    low = body.bounds[1] - 1000.0
    under = (
        Polygon([*profile, (profile[-1][0], low), (profile[0][0], low)]).buffer(0)
        if len(profile) > 1
        else Polygon()
    )
    for part, shape in zip(parts, shapes):
        above = shape.difference(under)
        for piece in getattr(above, "geoms", [above]):
            if piece.geom_type == "Polygon" and piece.area > 1.0:
                found.append(Patch(tuple(piece.exterior.coords[:-1]), "concrete", "none", part.key))
        found.append(Patch(tuple(shape.exterior.coords[:-1]), "none", "none", part.key))
    over = body.difference(under)
    for piece in getattr(over, "geoms", [over]):
        if piece.geom_type == "Polygon" and piece.area > 1.0:
            found.append(Stroke(tuple(piece.exterior.coords), "seen"))
    rings = [
        r
        for g in getattr(body, "geoms", [body])
        if not g.is_empty
        for r in (g.exterior, *g.interiors)
    ]
    for ring in rings:
        hidden = LineString(ring.coords).intersection(under)
        for line in getattr(hidden, "geoms", [hidden]):
            if line.geom_type == "LineString" and line.length > 1.0:
                found.append(Stroke(tuple(line.coords), "hidden"))
    return found


def _levels(project: Project, view: View, parts: list[_Part], paper: float) -> list[Mark]:
    x0, _, x1, _ = _span(parts, project, view)
    found: list[Mark] = []
    end = x1 + BEYOND
    last = -math.inf
    for level in column(project):
        z = level.elevation
        found.append(Stroke(((x0 - BEYOND, z), (end, z)), "centre", ThingName("level", level.id)))
        row = max(z + 0.6 * paper, last + 3.4 * paper)
        last = row
        text = f"{level.name}  {format_length(z, project.system)}"
        found.append(
            Label(
                text,
                (end + 1.5 * paper, row - 1.2 * paper),
                2.4,
                "start",
                key=ThingName("level", level.id),
            )
        )
    return found


def _grids(project: Project, view: View, parts: list[_Part], paper: float) -> list[Mark]:
    """The lines that run towards the viewer as upright centre lines, with their heads over
    the building."""
    _, z0, _, z1 = _span(parts, project, view)
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
