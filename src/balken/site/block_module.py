"""Bringing block walls onto their module: the whole plan at once, so that closed outlines stay
closed.

Each straight run of wall faces across one direction is one unknown place. On the module every face
must lie at one common start plus whole modules (less a joint where it looks ahead, see
:mod:`balken.model.masonry`). The places that move least, with no length shorter than it was unless
asked, are found as a small integer programme (SciPy's HiGHS).
"""

import math
from collections.abc import Sequence
from itertools import product
from typing import Final

import msgspec
import numpy as np
from msgspec.structs import replace

from balken.geometry.plane import (
    EXACT,
    Point,
    add,
    cross,
    distance_to_segment,
    dot,
    left,
    rotate,
    sub,
)
from balken.model.edits.common import EditError, checked
from balken.model.edits.grids import move_lines
from balken.model.edits.walls import slide_walls
from balken.model.grids import grid_ends
from balken.model.masonry import SLACK, LengthKind, kind_between, nearest, off_by
from balken.model.named import named
from balken.model.project import Project, grid, wall_base, wall_top
from balken.model.walls import (
    Module,
    Opening,
    Wall,
    called,
    direction_of,
    reach,
    straightened,
    wall_length,
)
from balken.recall import remembered
from balken.site.bodies import outer_sides, storey_outline
from balken.units import format_length

ALIGNED: Final = 2.0
"""Faces this near lie in one line and stay so, mm."""
STARTS: Final = 12
"""So many starts of the module are tried, those first that leave most faces where they are."""


class ModuleLength(msgspec.Struct, frozen=True):
    """One length along a block wall: where it runs, what it is, and by how much it is off, mm."""

    wall: str
    kind: LengthKind
    start: Point
    end: Point
    length: float
    off: float
    opening: str = ""


class ModuleMend(msgspec.Struct, frozen=True):
    """What would bring a plan onto its module: the project then, and in words what could not be
    satisfied."""

    project: Project
    moved: int
    furthest: float
    unsatisfied: tuple[str, ...]


class _Face(msgspec.Struct):
    """A run of wall faces across one direction: its place, which way it looks, and the walls that
    lie in it."""

    at: float
    ahead: bool
    walls: list[str]
    spans: list[tuple[float, float]]


def block_walls(project: Project) -> dict[str, tuple[Wall, Module]]:
    """The walls with a block module, by their keys."""
    modules = {b.id: b.module for b in project.wall_build_ups if b.module}
    return {w.id: (w, modules[w.build_up]) for w in project.walls if w.build_up in modules}


def module_lengths(project: Project) -> tuple[ModuleLength, ...]:
    """Every length along the outer faces of block walls, and of the openings in them."""
    found: list[ModuleLength] = []
    chosen = block_walls(project)
    for base in dict.fromkeys(w.base for w, _ in chosen.values()):
        storey = tuple(w for w in project.walls if w.base == base)
        looks = _looks(storey)
        for wall in storey:
            if wall.id in chosen and not wall.bulge:
                found += _lengths(wall, chosen[wall.id][1], storey, looks)
    return tuple(found)


def _looks(storey: tuple[Wall, ...]) -> dict[str, int]:
    """For each wall the side of its line its measured face looks to: outwards where it
    stands outside."""
    plain = tuple(straightened(storey))
    outside = outer_sides(plain, storey_outline(plain))
    return {w.id: outside.get(w.id, -1 if w.side != "right" else 1) for w in storey}


def _face_of(wall: Wall, looks: dict[str, int]) -> float:
    high, low = reach(wall)
    return high if looks[wall.id] > 0 else low


def _lengths(
    wall: Wall, module: Module, storey: tuple[Wall, ...], looks: dict[str, int]
) -> list[ModuleLength]:
    way = direction_of(wall)
    ends: list[tuple[float, bool]] = []
    for at, forward in ((wall.start, False), (wall.end, True)):
        ends.append(_end_face(wall, at, forward, storey, looks))
    (a, back), (b, ahead) = ends
    face = add(wall.start, left(way), _face_of(wall, looks))

    def length(low: float, high: float, kind: LengthKind, name: str = "") -> ModuleLength:
        p, q = add(face, way, low), add(face, way, high)
        return ModuleLength(wall.id, kind, p, q, high - low, off_by(high - low, kind, module), name)

    found = [length(a, b, kind_between(not back, ahead))]
    edge, edge_back = a, not back
    for hole in sorted(wall.openings, key=lambda o: o.at):
        name = f"{wall.id}/{hole.id}"
        found.append(length(hole.at, hole.at + hole.width, "opening", name))
        if (
            hole.at - edge > SLACK
        ):  # the pier before it, from the wall's end or from the opening before
            found.append(length(edge, hole.at, kind_between(edge_back, True), name))
        edge, edge_back = max(edge, hole.at + hole.width), True
    if wall.openings and b - edge > SLACK:
        found.append(length(edge, b, kind_between(True, ahead), f"{wall.id}/end"))
    return found


def _end_face(
    wall: Wall, at: Point, forward: bool, storey: tuple[Wall, ...], looks: dict[str, int]
) -> tuple[float, bool]:
    """Where a wall ends along it, and whether the face there looks ahead along the wall.

    At a corner that is the outer face of the wall it meets; at a tee the face that looks back at
    this wall.
    """
    way = direction_of(wall)
    found = ((wall_length(wall) if forward else 0.0), forward)
    for other in storey:
        near = max(other.thickness, wall.thickness) + 1.0
        if not _meets_square(wall, other, at, near):
            continue
        normal = left(direction_of(other))
        is_corner = min(math.dist(at, other.start), math.dist(at, other.end)) <= near
        if is_corner:
            lateral = _face_of(other, looks)
            ahead = dot(normal, way) * looks[other.id] > 0
        else:
            high, low = reach(other)
            ahead = not forward
            lateral = high if (dot(normal, way) > 0) == ahead else low
        found = dot(add(sub(other.start, wall.start), normal, lateral), way), ahead
        if is_corner:
            return found
    return found


def _meets_square(wall: Wall, other: Wall, at: Point, near: float) -> bool:
    """Whether another wall runs square to one past a place."""
    if other.id == wall.id or other.bulge:
        return False
    square = abs(dot(direction_of(other), direction_of(wall))) <= 0.02
    return square and distance_to_segment(at, other.start, other.end) <= near


class _Moving:
    """A building whose walls are brought onto the module: what moved, and what stays off."""

    def __init__(self, project: Project, unsatisfied: list[str], *, grids: bool) -> None:
        self.before, self.after, self.grids = project, project, grids
        self.unsatisfied = unsatisfied
        self.moved: set[str] = set()
        self.furthest = 0.0

    def shift(self, face: _Face, by: float, turn: float) -> None:
        """Move the walls of a face, or note why they stay."""
        try:
            self.after = _shift(self.after, face.walls, rotate((by, 0.0), turn), self.grids)
        except EditError as error:
            name = _name(self.before, face.walls[0])
            self.unsatisfied.append(f"wall {name} stays: {error}")
        else:
            self.moved |= set(face.walls)
            self.furthest = max(self.furthest, abs(by))

    def onto(self, faces: list[_Face], module: Module, turn: float, *, grow: bool) -> None:
        """Move faces across a direction onto a module, those that move most first."""
        shifts = _solve(faces, _pairs(faces), module, grow)
        if shifts is None:
            walls = {_name(self.before, k) for f in faces for k in f.walls}
            names = ", ".join(sorted(walls)[:6])
            self.unsatisfied.append(
                f"no places on the module leave every length of {names} as long as it was"
            )
            return
        for face, by in sorted(zip(faces, shifts), key=lambda x: -abs(x[1])):
            if abs(by) > EXACT:
                self.shift(face, by, turn)


@remembered
def off_lengths(project: Project) -> tuple[ModuleLength, ...]:
    """The lengths that are off their module."""
    return tuple(x for x in module_lengths(project) if abs(x.off) > SLACK)


def off_heights(project: Project) -> list[tuple[Wall, float]]:
    """Block walls whose height is no whole number of courses, and by how much it is over,
    mm."""
    found = []
    for wall, module in block_walls(project).values():
        height = wall_top(project, wall) - wall_base(project, wall)
        over = math.remainder(height, module.course)
        if abs(over) > SLACK:
            found.append((wall, over))
    return found


def mend_module(project: Project, *, grow: bool = True, grids: bool = True) -> ModuleMend:
    """Bring all block walls and their openings onto the module.

    Args:
        project: the building.
        grow: no length becomes shorter than it was; otherwise the nearest.
        grids: take along the grid lines that stand on walls that move.

    Returns:
        The project as it would be, how many walls move, by how much at most, and what stays off and
        why.
    """
    chosen = block_walls(project)
    curved = {key: w for key, (w, _) in chosen.items() if w.bulge}
    unsatisfied = [f"{called(w)} is curved" for w in curved.values()]
    moving = _Moving(project, unsatisfied, grids=grids)
    modules = dict.fromkeys(m for _, m in chosen.values())
    for turn, module in product(_turns(chosen), modules):
        faces = _faces(project, chosen, turn, module)
        if len(faces) > 1:
            moving.onto(faces, module, turn, grow=grow)
    after, closed = _openings(moving.after, unsatisfied, grow)
    left_over = {x.wall for x in off_lengths(after)} - set(curved)
    for key in sorted(left_over):
        if not any(_name(project, key) in text for text in unsatisfied):
            why = "its openings stand where they cannot move"
            if _askew(chosen, key):
                why = "it runs askew to the others"
            unsatisfied.append(f"wall {_name(project, key)} stays off the module: {why}")
    return ModuleMend(after, len(moving.moved | closed), moving.furthest, tuple(unsatisfied))


def bring_onto_module(project: Project, *, grow: bool = True, grids: bool = True) -> Project:
    """The edit of :func:`mend_module`: everything that can be brought onto the module."""
    return mend_module(project, grow=grow, grids=grids).project


def _name(project: Project, key: str) -> str:
    return named(project.walls, key, "wall").name


def _turns(chosen: dict[str, tuple[Wall, Module]]) -> list[float]:
    """The two directions across which most block walls run, radians; askew walls belong to
    neither."""
    totals: dict[float, float] = {}
    for wall, _ in chosen.values():
        if not wall.bulge:
            way = direction_of(wall)
            lean = round(math.atan2(way[1], way[0]) % (math.pi / 2), 4) % round(math.pi / 2, 4)
            totals[lean] = totals.get(lean, 0.0) + wall_length(wall)
    if not totals:
        return []
    best = max(totals, key=lambda k: (totals[k], -k))
    exact = (
        next(
            math.atan2(*direction_of(w)[::-1]) % (math.pi / 2)
            for w, _ in chosen.values()
            if not w.bulge and abs(math.atan2(*direction_of(w)[::-1]) % (math.pi / 2) - best) < 1e-3
        )
        if best
        else 0.0
    )
    return [exact, exact + math.pi / 2]


def _askew(chosen: dict[str, tuple[Wall, Module]], key: str) -> bool:
    turns = _turns(chosen)
    way = direction_of(chosen[key][0])
    return all(abs(cross(way, (math.cos(t), math.sin(t)))) > 1e-3 for t in turns)


def _faces(
    project: Project, chosen: dict[str, tuple[Wall, Module]], turn: float, module: Module
) -> list[_Face]:
    """The faces across a direction, those in one line together, on every storey."""
    across = (math.cos(turn), math.sin(turn))
    mine = {k for k, (w, of) in chosen.items() if of == module and not w.bulge}
    found: list[_Face] = []
    for base in dict.fromkeys(w.base for w, _ in chosen.values()):
        storey = tuple(w for w in project.walls if w.base == base)
        looks = _looks(storey)
        for wall in (w for w in storey if w.id in mine):
            if abs(dot(direction_of(wall), across)) <= 1e-3:
                _add_face(found, wall, across, looks)
    return sorted(found, key=lambda f: f.at)


def _add_face(found: list[_Face], wall: Wall, across: Point, looks: dict[str, int]) -> None:
    """Add a wall's face to the one it lies in line with, or as a new one."""
    normal = left(direction_of(wall))
    at = dot(add(wall.start, normal, _face_of(wall, looks)), across)
    ahead = dot(normal, across) * looks[wall.id] > 0
    low, high = sorted((dot(wall.start, left(across)), dot(wall.end, left(across))))
    same = next((f for f in found if abs(f.at - at) < ALIGNED and f.ahead == ahead), None)
    if same is None:
        found.append(_Face(at, ahead, [wall.id], [(low, high)]))
    else:
        same.walls.append(wall.id)
        same.spans.append((low, high))


def _pairs(faces: Sequence[_Face]) -> list[tuple[int, int]]:
    """Neighbours that lie beside each other over some length, so that a length runs between
    them."""
    found = []
    for i, a in enumerate(faces):
        for k in range(i + 1, len(faces)):
            b = faces[k]
            if any(min(p[1], q[1]) - max(p[0], q[0]) > -1000.0 for p in a.spans for q in b.spans):
                found.append((i, k))
    return found


def _solve(
    faces: Sequence[_Face], pairs: Sequence[tuple[int, int]], module: Module, grow: bool
) -> list[float] | None:
    """How far each face moves; None where no places on the module serve."""
    rest = [(f.at + (module.joint if f.ahead else 0.0)) % module.length for f in faces]
    counts: dict[float, int] = {}
    for value in rest:
        counts[round(value, 3) % module.length] = counts.get(round(value, 3) % module.length, 0) + 1
    starts = sorted(counts, key=lambda v: (-counts[v], v))[:STARTS]
    best: tuple[float, float, list[float]] | None = None
    for start in starts:
        shifts = _places(faces, pairs, module, grow, start)
        if shifts is not None:
            cost = (round(sum(abs(s) for s in shifts), 3), start, shifts)
            if best is None or cost[:2] < best[:2]:
                best = cost
    return best[2] if best else None


def _places(
    faces: Sequence[_Face],
    pairs: Sequence[tuple[int, int]],
    module: Module,
    grow: bool,
    start: float,
) -> list[float] | None:
    """Solve for one start of the module: whole numbers k so that faces lie at start + k·M, moving
    least in sum."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    n, m = len(faces), module.length
    at = np.array([f.at for f in faces])
    home = np.array([start - (module.joint if f.ahead else 0.0) for f in faces])
    near = np.round((at - home) / m)
    # Unknowns: the whole number beside the nearest one, and the size of each move.
    cost = np.concatenate([np.zeros(n), np.ones(n)])
    rows, low, high = [], [], []
    for i in range(n):
        for sign in (1.0, -1.0):
            row = np.zeros(2 * n)
            row[i], row[n + i] = sign * m, -1.0
            rows.append(row)
            low.append(-np.inf)
            high.append(sign * (at[i] - home[i] - near[i] * m))
    for i, k in pairs:
        row = np.zeros(2 * n)
        row[k], row[i] = m, -m
        gap = at[k] - at[i]
        now = (home[k] + near[k] * m) - (home[i] + near[i] * m)
        least = gap - SLACK if grow else min(gap, m) * 0.5
        rows.append(row)
        low.append(least - now)
        high.append(np.inf)
    bounds = Bounds(
        np.concatenate([np.full(n, -50.0), np.zeros(n)]),
        np.concatenate([np.full(n, 50.0), np.full(n, np.inf)]),
    )
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), low, high),
        bounds=bounds,
        integrality=np.concatenate([np.ones(n), np.zeros(n)]),
        options={"time_limit": 5.0},
    )
    if found.x is None:
        return None
    places = home + (near + np.round(found.x[:n])) * m
    return [round(float(s), 6) if abs(s) > 1e-6 else 0.0 for s in places - at]


def _shift(project: Project, walls: Sequence[str], by: Point, grids: bool) -> Project:
    lines = _lines_on(project, walls) if grids else []
    project = slide_walls(project, walls, by)
    for g, line, runs_x in lines:
        of = grid(project, g)
        x, y = rotate(by, -math.radians(of.angle))
        project = move_lines(project, g, [line], y if runs_x else x, walls=False)
    return project


def _lines_on(project: Project, walls: Sequence[str]) -> list[tuple[str, str, bool]]:
    """The grid lines that lie in the bodies of walls and are not held."""
    chosen = [w for w in project.walls if w.id in walls]
    return [
        (g.id, line.id, line.runs == "x")
        for g in project.grids
        for line in g.lines
        if line.runs in ("x", "y") and not line.held
        if any(_lies_in(grid_ends(g, line), w) for w in chosen)
    ]


def _lies_in(ends: tuple[Point, Point], wall: Wall) -> bool:
    """Whether a line lies in the body of a wall, or of its prolongation."""
    high, low = reach(wall)
    off = [cross(direction_of(wall), sub(p, wall.start)) for p in ends]
    return all(low - 1.0 <= v <= high + 1.0 for v in off)


def _openings(project: Project, unsatisfied: list[str], grow: bool) -> tuple[Project, set[str]]:
    """Bring openings onto the module of their walls: width first, then the near edge, in order
    along the wall."""
    touched: set[str] = set()
    for key, (_, module) in block_walls(project).items():
        wall = named(project.walls, key, "wall")
        if not wall.openings or wall.bulge:
            continue
        storey = tuple(w for w in project.walls if w.base == wall.base)
        looks = _looks(storey)
        a, looks_ahead = _end_face(wall, wall.start, False, storey, looks)
        b, _ = _end_face(wall, wall.end, True, storey, looks)
        pier: LengthKind = kind_between(not looks_ahead, True)
        made = _modular_openings(wall, module, a, b, pier, grow)
        if made is None:
            unsatisfied.append(
                f"the openings of {called(wall)} find no place on the module between its ends"
            )
            continue
        if made != wall.openings:
            touched.add(key)
            project = checked(
                project,
                walls=tuple(replace(w, openings=made) if w.id == key else w for w in project.walls),
            )
    return project, touched


def _modular_openings(
    wall: Wall, module: Module, a: float, b: float, pier: LengthKind, grow: bool
) -> tuple[Opening, ...] | None:
    made: list[Opening] = []
    edge = -math.inf
    for hole in sorted(wall.openings, key=lambda o: o.at):
        width = nearest(hole.width, "opening", module, grow=grow)
        middle = hole.at + hole.width / 2
        at = a + nearest(max(1.0, middle - width / 2 - a), pier, module)
        while at < edge + module.length - 2 * module.joint:
            at += module.length
        if at + width > b + SLACK or at + width > wall_length(wall) + SLACK or at < -SLACK:
            return None
        made.append(
            replace(hole, at=round(at, 6), width=round(width, 6))
            if abs(at - hole.at) > 1e-6 or width != hole.width
            else hole
        )
        edge = at + width
    return tuple(made)


def words_of(project: Project, item: ModuleLength) -> str:
    """A length with its fault in words."""
    kinds = {"outside": "outside length", "opening": "opening", "between": "length"}
    what = kinds[item.kind]
    over = "over" if item.off > 0 else "short of"
    target = item.length - item.off
    return (
        f"{what} {format_length(item.length, project.system)} is"
        f" {format_length(abs(item.off), project.system)} {over}"
        f" {format_length(target, project.system)}"
    )
