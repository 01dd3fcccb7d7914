"""Where foundations run in plan: lines under walls or along a path, flush with what stands on them,
and their pieces."""

from collections.abc import Mapping, Sequence
from itertools import combinations, pairwise

import numpy as np
from msgspec.structs import replace

from balken.geometry.plane import Point, Ring, add, distance, dot, left, simplify, sub, unit
from balken.model.foundations import FoundationRun
from balken.model.names import whole
from balken.model.walls import Wall, reach
from balken.recall import remembered_piece
from balken.site.bodies import Near, bodies, bodies_near, outer_sides, storey_outline

FAR = 1e12
"""No station along a line lies further out, mm."""
SLIVER = 100.0
"""Pieces of plan smaller than this are rounding, mm²."""
PATH = "path"
"""Pieces of a path drawn freely are called ``path~1``, ``path~2`` …"""


_PART = "~p"


def part_name(wall: str, number: int) -> str:
    """What the n-th part of a wall that stands on one run is called: the first as the wall,
    then ``W1~p2`` …"""
    return wall if number == 1 else f"{wall}{_PART}{number}"


def wall_of(line: str) -> str:
    """The wall along which places of a line are measured; pieces of curves and paths measure
    along themselves."""
    return line.split(_PART, 1)[0]


def path_lines(run: FoundationRun) -> tuple[Wall, ...]:
    """A run's free paths as lines; their thickness is that of what stands on them."""
    thickness = run.stem_thickness or run.edge_width or 200.0
    pairs = [pair for path in run.paths for pair in pairwise(path)]
    return tuple(
        Wall(f"{PATH}~{i}", PATH, a, b, thickness, "centre", "", "")
        for i, (a, b) in enumerate(pairs, 1)
    )


def flush_lines(
    walls: tuple[Wall, ...],
    thickness: float,
    offset: float = 0.0,
    outside: Mapping[str, int] | None = None,
    own: Mapping[str, float] | None = None,
) -> tuple[Wall, ...]:
    """Stems or plates under walls as lines, so that they mitre by the same rule as walls do.

    Under outside walls the outer face is flush with the wall's, moved out by ``offset``; under
    inside walls the line is centred. ``outside`` says which side of which walls is outside, where
    it is known already; ``own`` the thickness of walls that have another one.
    """
    if outside is None:
        outside = outer_sides(walls, storey_outline(walls))
    return tuple(
        _flush(w, (own or {}).get(whole(w.id), thickness), offset, outside.get(w.id) or 0)
        for w in walls
    )


@remembered_piece
def _flush(wall: Wall, thickness: float, offset: float, sign: int) -> Wall:
    normal = left(unit(sub(wall.end, wall.start)))
    faces = reach(wall)
    if not sign or whole(wall.id) == PATH:
        return _line(wall, normal, sum(faces) / 2, thickness, "centre")
    if sign > 0:
        return _line(wall, normal, faces[0] + offset, thickness, "right")
    return _line(wall, normal, faces[1] - offset, thickness, "left")


def _line(wall: Wall, normal: Point, shift: float, thickness: float, side: str) -> Wall:
    start, end = add(wall.start, normal, shift), add(wall.end, normal, shift)
    return replace(
        wall, start=start, end=end, thickness=thickness, side=side, shift=0.0, openings=()
    )


def widened(
    stems: tuple[Wall, ...],
    width: float,
    shift: float = 0.0,
    outside: Mapping[str, int] | None = None,
    own: Mapping[str, float] | None = None,
) -> tuple[Wall, ...]:
    """Lines centred on the stems with another width, moved out by ``shift`` where a side is
    outside."""
    return tuple(
        _widened(w, (own or {}).get(whole(w.id), width), shift * (outside or {}).get(w.id, 0))
        for w in stems
    )


@remembered_piece
def _widened(stem: Wall, width: float, out: float) -> Wall:
    normal = left(unit(sub(stem.end, stem.start)))
    return _line(stem, normal, sum(reach(stem)) / 2 + out, width, "centre")


def beside_face(
    stems: tuple[Wall, ...], width: float, outside: Mapping[str, int], *, outer: bool
) -> tuple[Wall, ...]:
    """Strips of a width along the outer or the inner face of stems, inside the stem
    (negative width: beyond it)."""
    found = []
    for stem in stems:
        normal = left(unit(sub(stem.end, stem.start)))
        far, near = reach(stem)
        sign = (outside.get(stem.id) or 1) * (1 if outer else -1)
        face = far if sign > 0 else near
        middle = face - sign * width / 2
        found.append(_line(stem, normal, middle, abs(width), "centre"))
    return tuple(found)


def pieces(
    lines: tuple[Wall, ...],
    own: frozenset[str] | None = None,
    near: Near | None = None,
) -> list[tuple[str, Ring]]:
    """Plan pieces per line, each point of plan counted once: earlier pieces keep what they
    cover.

    Args:
        lines: in the order in which they keep what they cover.
        own: only these lines are wanted; the others are there for the joints.
        near: the neighbours of the lines, where they are known.
    """
    shapes = bodies(lines) if near is None else bodies_near(lines, near)
    return _left_over([(line.id, shapes[line.id].ring) for line in lines], own)


def butted(lines: tuple[Wall, ...], near: Near | None = None) -> list[tuple[str, Ring]]:
    """Plan pieces cut square: at a corner the earlier piece runs through and the later one
    butts."""
    shapes = bodies(lines) if near is None else bodies_near(lines, near)
    squares: list[tuple[str, Ring]] = []
    for line in lines:
        direction = unit(sub(line.end, line.start))
        normal = left(direction)
        along = [dot(sub(c, line.start), direction) for c in shapes[line.id].corners]
        low, high = reach(line)[::-1]
        corners = [(min(along), low), (max(along), low), (max(along), high), (min(along), high)]
        squares.append(
            (line.id, tuple(add(add(line.start, direction, s), normal, t) for s, t in corners))
        )
    return _left_over(squares, None)


def _left_over(rings: list[tuple[str, Ring]], own: frozenset[str] | None) -> list[tuple[str, Ring]]:
    """What each ring keeps beside those before it."""
    from shapely import STRtree, box

    if not rings:
        return []
    corners = np.array([ring for _, ring in rings])  # (n, 4, 2): all are four-cornered
    low, high = corners.min(axis=1), corners.max(axis=1)
    tree = STRtree(box(low[:, 0], low[:, 1], high[:, 0], high[:, 1]))
    before: dict[int, list[int]] = {}
    for i, k in zip(*tree.query(tree.geometries, predicate="intersects").tolist()):
        if k < i:
            before.setdefault(i, []).append(k)
    found: list[tuple[str, Ring]] = []
    for i, (key, ring) in enumerate(rings):
        if own is None or key in own:
            found += [
                (key, part)
                for part in _minus(ring, tuple(rings[k][1] for k in sorted(before.get(i, []))))
            ]
    return found


@remembered_piece
def _minus(ring: Ring, others: tuple[Ring, ...]) -> list[Ring]:
    """What is left of a ring outside others, the largest part first."""
    from shapely import polygons, union_all

    rest = polygons(ring).buffer(0)
    if others:
        rest = rest.difference(union_all([polygons(r).buffer(0) for r in others]))
    return [
        simplify([(round(x, 6), round(y, 6)) for x, y in part.exterior.coords[:-1]], 0.05)
        for part in sorted(getattr(rest, "geoms", [rest]), key=lambda g: -g.area)
        if part.area > SLIVER
    ]


def clipped(ring: Ring, line: Wall, low: float, high: float) -> Ring:
    """The part of a convex ring between two stations of a line, mm from its start; may be
    empty."""
    if low <= -FAR and high >= FAR:
        return ring
    way = unit(sub(line.end, line.start))
    for sign, limit in ((1.0, low), (-1.0, -high)):
        if limit > -FAR:
            sides = [sign * dot(sub(p, line.start), way) - limit for p in ring]
            ring = _kept(ring, sides)
    return ring


def _kept(ring: Ring, sides: Sequence[float]) -> Ring:
    """What of a convex ring lies on the side where its corners count zero or more."""
    kept: list[Point] = []
    following = zip((*ring[1:], *ring[:1]), (*sides[1:], *sides[:1]))
    for a, s, (b, t) in zip(ring, sides, following):
        if s >= 0:
            kept.append(a)
        if (s > 0) != (t > 0) and s != t:
            share = s / (s - t)
            if 0 < share < 1:
                kept.append((a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])))
    return tuple(kept)


End = tuple[int, bool]
"""An end of a line: its number, and whether it is where the line starts."""


def ends_of(line: Wall, ring: Ring) -> tuple[tuple[Point, Point], float]:
    """Both ends of a piece on the middle of its line, and its length, mm."""
    direction = unit(sub(line.end, line.start))
    middle = sum(reach(line)) / 2
    along = [dot(sub(p, line.start), direction) for p in ring]
    origin = add(line.start, left(direction), middle)
    return (add(origin, direction, min(along)), add(origin, direction, max(along))), max(
        along
    ) - min(along)


def chains(lines: tuple[Wall, ...]) -> list[tuple[list[tuple[Wall, bool]], bool]]:
    """Lines in the order in which their ends meet: each chain with, per line, whether it
    runs the line's own way, and whether the chain closes."""
    partner = _meeting_ends(lines)
    found: list[tuple[list[tuple[Wall, bool]], bool]] = []
    done: set[int] = set()
    both = [(i, at_start) for i in range(len(lines)) for at_start in (True, False)]
    free = [end for end in both if end not in partner]
    for first in (*free, *both[::2]):
        if first[0] not in done:
            chain = _chain(first, partner)
            done.update(i for i, _ in chain)
            closed = first in partner and len(chain) > 1
            found.append(([(lines[i], forward) for i, forward in chain], closed))
    return found


def _meeting_ends(lines: tuple[Wall, ...]) -> dict[End, End]:
    """The ends that meet, each with its nearest: none meets two others."""
    places = {(i, s): w.start if s else w.end for i, w in enumerate(lines) for s in (True, False)}
    near: list[tuple[float, End, End]] = []
    for one, other in combinations(places, 2):
        apart = distance(places[one], places[other])
        thick = max(lines[one[0]].thickness, lines[other[0]].thickness)
        if one[0] != other[0] and apart <= 1.5 * thick:
            near.append((apart, one, other))
    partner: dict[End, End] = {}
    for _, one, other in sorted(near):
        if one not in partner and other not in partner:
            partner[one], partner[other] = other, one
    return partner


def _chain(first: End, partner: dict[End, End]) -> list[End]:
    """The lines that hang together from one end on, each with whether it is walked its own
    way."""
    chain: dict[int, bool] = {}
    end: End | None = first
    while end is not None and end[0] not in chain:
        line, forward = end
        chain[line] = forward
        end = partner.get((line, not forward))
    return list(chain.items())
