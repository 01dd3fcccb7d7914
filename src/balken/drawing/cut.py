"""The one way to cut and see what stands in a building: members, walls and gables as bodies, looked
at from a side, cut by an upright plane, or seen from above.

Elevation, section, ladder and plan draw what comes out of here.
"""

from collections.abc import Sequence
from typing import Final, NamedTuple

import msgspec
import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.drawing.kinds import DRAWN
from balken.drawing.marks import Fill, Patch, Pen
from balken.drawing.wall_figure import LAYER_FILLS
from balken.framing.member import Member
from balken.framing.rolled import is_rolled, shape_of
from balken.geometry.plane import Point, Ring, add, distance, dot, sub
from balken.geometry.slices import slices
from balken.geometry.solid import Extrusion, Vector, hull, upright
from balken.geometry.trim import Mesh
from balken.model.catalogue import sections_of
from balken.model.names import HostName, Name, whole
from balken.model.project import Project, wall_base, wall_top
from balken.model.sections import Section
from balken.model.walls import Wall, WallBuildUp, layer_bands, straightened
from balken.site.bodies import bodies, layer_rings
from balken.works.building import Checked

MASSIVE: Final = ("concrete", "block", "brick", "masonry", "stone")
"""Words in the material of a core that tell that nothing fills it."""
Floats = NDArray[np.float64]
EDGE: Final = 1e-6
"""What reaches no further through a plane is not cut by it, mm."""
UPRIGHT: Final = 0.999
"""A body whose axis rises so steeply stands upright."""
ALONG: Final = 1e-6
"""A body whose axis runs no farther into a plane, of its length, is cut along it."""
BEHIND: Final = 0.01
"""What stays whole is drawn so far behind a cut, mm."""
LEAST_WIDTH: Final = 0.1
"""Narrower strips of a cut are not drawn, mm."""


class View(msgspec.Struct, frozen=True):
    """A direction of looking: ``right`` and ``ahead`` in plan; ``cut`` is a place the cutting plane
    goes through."""

    right: Point
    ahead: Point
    cut: Point | None = None
    depth: float = 0.0
    """How far what lies behind is shown, mm; all where nothing."""

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


class Body(msgspec.Struct, frozen=True):
    """What can be cut and seen: its solid, how it is filled, and what it is called."""

    solid: Extrusion
    fill: Fill
    key: Name
    buried: bool = False
    """Concrete: what of it lies under the ground is hidden."""
    mesh: Mesh | None = None
    """What is left of it where it gave way to others."""
    rolled: bool = False
    """Its solid is a rolled section along its axis."""

    def depths(self, view: View) -> tuple[float, float]:
        """How far ahead its nearest and its farthest point lie, mm."""
        deep = [view.deep((x, y)) for x, y, _ in self.solid.points()]
        return min(deep), max(deep)

    def is_cut(self, view: View) -> bool:
        """Whether the view cuts it: its plane goes through it, and it is one that is cut that way."""
        near, far = self.depths(view)
        through = view.cut is not None and near < -EDGE < EDGE < far
        return through and not self.stays_whole(view)

    def stays_whole(self, view: View) -> bool:
        """Whether it is drawn whole though a plane goes through it: a rolled beam that lies along the plane,
        so that its flanges are seen (shafts, ribs and the like are not cut along: ISO 128-44 4.1, from
        memory). Posts are cut: they may stand in a wall."""
        way = self.solid.normal
        lies = abs(way[2]) < UPRIGHT and abs(dot(way[:2], view.ahead)) < ALONG
        return self.rolled and lies

    def moved(self, view: View, by: float) -> "Body":
        """The same so much farther ahead, mm."""
        (x, y), z = add(self.solid.origin[:2], view.ahead, by), self.solid.origin[2]
        return replace(self, solid=replace(self.solid, origin=(x, y, z)))


class Gathered(NamedTuple):
    """Bodies with their corners, so that all are measured from a side at once."""

    bodies: tuple[Body, ...]
    corners: NDArray[np.float64]
    """Of all bodies, n by 3."""
    first: NDArray[np.int64]
    """Where the corners of each body begin."""

    def reach(self, direction: Vector, start: float = 0.0) -> tuple[Floats, Floats]:
        """How far each body reaches along a direction, from and to, mm."""
        if not self.bodies:
            return np.zeros(0), np.zeros(0)
        along = self.corners @ np.array(direction) - start
        return np.minimum.reduceat(along, self.first), np.maximum.reduceat(along, self.first)


def gathered(bodies: Sequence[Body]) -> Gathered:
    """Bodies with all their corners."""
    corners = [b.solid.points() for b in bodies]
    counts = [len(c) for c in corners]
    first = np.cumsum([0, *counts[:-1]]) if counts else np.zeros(0)
    flat = np.array([p for c in corners for p in c], dtype=float).reshape(-1, 3)
    return Gathered(tuple(bodies), flat, first.astype(np.int64))


Window = tuple[float, float, float, float]
"""What of a view is shown: from, to along it and up, mm; x0, z0, x1, z1."""


class Part(NamedTuple):
    """A body as a view has it."""

    body: Body
    near: float
    far: float
    """How far ahead it reaches, mm."""
    is_cut: bool
    box: Window
    """And along the view and up."""


def parts_in(all_of: Gathered, view: View, window: Window | None = None) -> tuple[Part, ...]:
    """What of bodies a view cuts or has behind its cut.

    Args:
        all_of: the bodies.
        view: from where.
        window: what is shown, along the view and up; all where None.
    """
    start = dot(view.cut, view.ahead) if view.cut else 0.0
    bodies = list(all_of.bodies)
    near, far = all_of.reach((*view.ahead, 0.0), start)
    cut = np.full(len(near), False)
    kept = np.full(len(near), True)
    if view.cut is not None:
        through = (near < -EDGE) & (far > EDGE)
        whole = [i for i in np.flatnonzero(through).tolist() if bodies[i].stays_whole(view)]
        for i in whole:
            bodies[i] = bodies[i].moved(view, BEHIND - float(near[i]))
            near[i], far[i] = BEHIND, far[i] - near[i]
        cut = (near < -EDGE) & (far > EDGE)
        behind = near >= -EDGE
        kept = cut | (behind & (near <= view.depth) if view.depth else behind)
    left, right = all_of.reach((*view.right, 0.0))
    low, high = all_of.reach((0.0, 0.0, 1.0))
    if window is not None:
        x0, z0, x1, z1 = window
        kept &= (left <= x1) & (right >= x0) & (low <= z1) & (high >= z0)
    boxes = np.column_stack([left, low, right, high]).tolist()
    return tuple(
        Part(bodies[i], float(near[i]), float(far[i]), bool(cut[i]), tuple(boxes[i]))
        for i in np.flatnonzero(kept)
    )


def bodies_of(checked: Checked) -> list[Body]:
    """All bodies of a building: members, walls, gables."""
    project = checked.project
    found = [body_of(checked, m) for m in checked.structure.members]
    for base in dict.fromkeys(w.base for w in project.walls):
        found += wall_bodies(project, tuple(w for w in project.walls if w.base == base))
    gables = checked.structure.gables
    return found + [Body(g.solid, "wall", HostName("wall", g.wall)) for g in gables]


def body_of(checked: Checked, m: Member) -> Body:
    """A member as a body; concrete as what it leaves of other concrete."""
    mesh = checked.structure.concrete.meshes.get(m.id)
    fill: Fill = "concrete" if m.material == "concrete" else "timber"
    if DRAWN[m.kind].fill == "panel":
        fill = "panel"
    section = sections_of(checked.project.system, checked.project.products).get(m.section)
    if is_rolled(section):
        fill = "steel"
    shape = shape_of(m, section)
    return Body(shape, fill, m.id, m.kind.concrete > 0, mesh, shape is not m.solid)


def wall_bodies(project: Project, walls: tuple[Wall, ...]) -> list[Body]:
    """The walls of a storey, layer by layer where they are known."""
    pieces = straightened(walls)
    build_ups = {b.id: b for b in project.wall_build_ups}
    rings = layer_rings(pieces, build_ups)
    found = []
    for piece, body in zip(pieces, bodies(pieces).values()):
        between = wall_base(project, piece), wall_top(project, piece)
        if piece.id in rings:
            found += _layers(piece, build_ups[piece.build_up], rings[piece.id], between)
        else:
            solid = upright(body.ring, between[0] - piece.lap, between[1])
            found.append(Body(solid, "wall", HostName("wall", whole(piece.id))))
    return found


def _layers(
    piece: Wall,
    build_up: WallBuildUp,
    rings: list[tuple[str, Ring]],
    between: tuple[float, float],
) -> list[Body]:
    """The layers of a wall; those outside the core reach down by its lap."""
    low, high = between
    found, outside = [], True
    for (layer, _, _), (role, ring) in zip(layer_bands(piece, build_up), rings):
        outside = outside and layer.role != "core"
        foot = low - piece.lap if outside else low
        fill = _core_fill(build_up) if role == "core" else LAYER_FILLS[role]
        found.append(Body(upright(ring, foot, high), fill, HostName("wall", whole(piece.id))))
    return found


def _core_fill(build_up: WallBuildUp) -> Fill:
    if build_up.module:
        return "block"
    core = next(layer for layer in build_up.layers if layer.role == "core")
    is_massive = any(word in core.material.lower() for word in MASSIVE)
    return "concrete" if is_massive else LAYER_FILLS["core"]


def outline_seen(body: Body, view: View) -> Ring:
    """The outline in which a body is seen."""
    return hull([(view.along((x, y)), z) for x, y, z in body.solid.points()])


def rings_cut(body: Body, view: View) -> list[Ring]:
    """The outlines in which the view's plane cuts a body."""
    if body.mesh is not None:
        return slices(body.mesh, view.deep, view.along)
    return _slices(body.solid, view)


def from_above(m: Member, pen: Pen | None = None, section: Section | None = None) -> Patch:
    """A member as a plan shows it, with the line of its kind or the one given; what is cut from a rolled
    section in its own shape."""
    drawn = DRAWN[m.kind]
    fill: Fill = "steel" if is_rolled(section) else drawn.fill
    return Patch(shape_of(m, section).plan(), fill, pen or drawn.pen, m.id)


def _slices(solid: Extrusion, view: View) -> list[Ring]:
    near, far = solid.faces()
    pairs = list(zip(near, far))
    if all(_crosses(view, a, b) for a, b in pairs):  # right through its length
        return [tuple(_between(view, a, b) for a, b in pairs)]
    if abs(dot(solid.normal[:2], view.ahead)) < ALONG:
        return _strips(near, far, view)
    edges = [*zip(near, [*near[1:], near[0]]), *zip(far, [*far[1:], far[0]]), *pairs]
    outline = hull([_between(view, a, b) for a, b in edges if _crosses(view, a, b)])
    return [outline] if len(outline) > 2 else []


def _strips(near: Sequence[Vector], far: Sequence[Vector], view: View) -> list[Ring]:
    """What is cut of a body along it: it may lie on several sides of a hollow."""
    sides = zip(zip(near, far), zip([*near[1:], near[0]], [*far[1:], far[0]]))
    crossed = [
        (_between(view, a, b), _between(view, c, d))
        for (a, c), (b, d) in sides
        if _crosses(view, a, b)
    ]
    if not crossed:
        return []
    # They lie on one line: in the order of the way it goes most.
    spread = [max(c) - min(c) for c in zip(*(near for near, _ in crossed))]
    crossed.sort(key=lambda c: c[0][spread.index(max(spread))])
    return [
        (a, b, d, c)
        for (a, c), (b, d) in zip(crossed[::2], crossed[1::2])
        if distance(a, b) > LEAST_WIDTH
    ]


def _crosses(view: View, a: Vector, b: Vector) -> bool:
    return (view.deep(a[:2]) > 0) != (view.deep(b[:2]) > 0)


def _between(view: View, a: Vector, b: Vector) -> Point:
    """Where the line from one point to another goes through the view's plane."""
    t = view.deep(a[:2]) / (view.deep(a[:2]) - view.deep(b[:2]))
    x, y, z = (a[i] + t * (b[i] - a[i]) for i in range(3))
    return view.along((x, y)), z
