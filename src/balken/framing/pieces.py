"""Level pieces - joists, rims, beams, blocks - made from a line in plan and two heights, and where
they bear."""

from collections.abc import Callable, Sequence
from typing import Any, Final

import msgspec

from balken.framing.kinds import MemberKind
from balken.framing.member import RESTS, Carrier, Member, Strip, Support
from balken.geometry.plane import (
    EXACT,
    TOUCH,
    Point,
    Ring,
    add,
    box,
    distance,
    distance_to_ring,
    holds,
    sub,
    unit,
)
from balken.geometry.solid import side_profile
from balken.model.cases import NOTHING, Cases
from balken.model.names import HostName, MemberName, Rest
from balken.recall import remembered_each

LEAST_BEARING: Final = 0.5
"""A bearing shorter than this is a touch, mm."""
HANGER_SEAT = 51.0
"""Length of the seat of a joist hanger, mm (2 in; common practice, no source)."""


class Cut(msgspec.Struct, frozen=True, gc=False):
    """What a piece is cut from."""

    section: str
    material: str
    breadth: float


def level_piece(
    name: MemberName,
    mark: str,
    kind: MemberKind,
    host: HostName,
    level: str,
    cut: Cut,
    a: Point,
    b: Point,
    bottom: float,
    top: float,
    supports: tuple[Support, ...] = (),
    area: float = 0.0,
    carries: tuple[float, float] = (0.0, 0.0),
    *,
    touched: bool = False,
    line: Cases = NOTHING,
    hinges: tuple[float, ...] = (),
) -> Member:
    """A square-cut piece along a line in plan, between two heights, mm."""
    length = distance(a, b)
    profile: Ring = ((0.0, bottom), (length, bottom), (length, top), (0.0, top))
    middle = (bottom + top) / 2
    start, end = (*a, middle), (*b, middle)
    analysed = bool(supports) or area > 0 or bool(line)
    return Member(
        name,
        mark,
        kind,
        host,
        level,
        cut.section,
        cut.material,
        side_profile(a, unit(sub(b, a)), profile, cut.breadth),
        start,
        end,
        length,
        length,
        ("square", "square"),
        touched=touched,
        carrier=Carrier(start, end, length, 0.0, supports, area, carries, line, hinges)
        if analysed
        else RESTS,
    )


def ring_of(m: Member) -> Ring:
    """A member's outline in plan; of level pieces without looking at their corners."""
    if m.slope or m.material == "concrete" or m.solid.v != (0.0, 0.0, 1.0):
        return m.solid.plan()
    (ax, ay, _), (bx, by, _) = m.start, m.end
    length = m.length or 1.0
    nx, ny = -(by - ay) / length * m.solid.depth / 2, (bx - ax) / length * m.solid.depth / 2
    return (ax - nx, ay - ny), (bx - nx, by - ny), (bx + nx, by + ny), (ax + nx, ay + ny)


def polygons_of(members: Sequence[Member]) -> Any:
    """The outlines of members in plan as an array of polygons."""
    import numpy as np

    found = np.empty(len(members), dtype=object)
    found[:] = _polygons(members)
    return found


@remembered_each
def _polygons(members: Sequence[Member]) -> list[Any]:
    """The outlines of members as polygons; rings of four corners are made all at once."""
    import numpy as np
    import shapely

    rings = [ring_of(m) for m in members]
    four = [i for i, ring in enumerate(rings) if len(ring) == 4]
    made = iter(shapely.polygons(np.array([rings[i] for i in four]))) if four else iter(())
    return [next(made) if len(ring) == 4 else shapely.Polygon(ring) for ring in rings]


def near_spots(
    spots: Sequence[Point], members: Sequence[Member], reach: float
) -> list[list[Member]]:
    """For each place in plan the members within a reach of it, in any height, in their
    order."""
    found: list[list[Member]] = [[] for _ in spots]
    if spots and members:
        import numpy as np
        import shapely

        tree = shapely.STRtree(polygons_of(members))
        which, hits = tree.query(shapely.points(spots), predicate="dwithin", distance=reach)
        order = np.lexsort((hits, which))
        for i, k in zip(which[order].tolist(), hits[order].tolist()):
            found[i].append(members[k])
    return found


def strip_under(point: Point, strips: tuple[Strip, ...]) -> Rest | None:
    """The plate or beam under a place."""
    for strip in strips:
        x0, y0, x1, y1 = box(strip.ring)
        near = x0 - TOUCH < point[0] < x1 + TOUCH and y0 - TOUCH < point[1] < y1 + TOUCH
        if near and (holds(strip.ring, point) or distance_to_ring(point, strip.ring) < TOUCH):
            return strip.on
    return None


Over = tuple[Rest, float, float, bool]
"""A bearing on a line: its name, from, to along the line, mm, and whether the piece hangs on it."""


def bearings_on(a: Point, b: Point, strips: tuple[Strip, ...], reach: float = 0.0) -> list[Over]:
    """The strips that a line crosses, with where it meets and leaves each, mm from ``a``;
    sorted along it.

    ``reach`` looks so far past both ends.
    """
    way, length = unit(sub(b, a)), distance(a, b)
    found = []
    for strip in strips:
        marks = [
            t for t in _crossed(a, way, strip.ring) if -reach - EXACT <= t <= length + reach + EXACT
        ]
        if holds(strip.ring, add(a, way, -reach)):
            marks.append(-reach)
        if holds(strip.ring, add(a, way, length + reach)):
            marks.append(length + reach)
        if len(marks) > 1 and max(marks) - min(marks) > TOUCH / 2:
            found.append((strip.on, min(marks), max(marks), strip.hung))
    return sorted(found, key=lambda o: (o[1], o[0]))


def _crossed(a: Point, way: Point, ring: Ring) -> list[float]:
    (ax, ay), (wx, wy) = a, way
    found = []
    sides = [(wx * (y - ay) - wy * (x - ax), wx * (x - ax) + wy * (y - ay)) for x, y in ring]
    for (left_p, along_p), (left_q, along_q) in zip(sides, [*sides[1:], sides[0]]):
        if (left_p <= 0) != (left_q <= 0):
            found.append(along_p + (along_q - along_p) * left_p / (left_p - left_q))
    return found


def end_supports(
    reached: list[Over], start: float, end: float, place: Callable[[float], Point]
) -> tuple[Support, ...]:
    """The two supports of a piece from ``start`` to ``end``: the first and the last bearing
    it reaches.

    A hung end has its seat inside the piece's end. An end that reaches nothing gets a support
    without a name.
    """
    inside = [(on, max(lo, start), min(hi, end), hung) for on, lo, hi, hung in reached]
    usable = [o for o in inside if o[3] or o[2] - o[1] > LEAST_BEARING]
    middle = (start + end) / 2
    first = next((o for o in usable if (o[1] + o[2]) / 2 < middle), None)
    last = next(
        (o for o in reversed(usable) if (o[1] + o[2]) / 2 > middle and o is not first), None
    )
    return (
        _end_support(first, start, start, HANGER_SEAT / 2, place),
        _end_support(last, end, start, -HANGER_SEAT / 2, place),
    )


def _end_support(
    found: Over | None,
    end: float,
    start: float,
    inward: float,
    place: Callable[[float], Point],
) -> Support:
    """What holds one end of a piece; a hanger holds it a little inward of the end."""
    if found is None:
        return Support(end - start, 0.0, None, place(end))
    on, low, high, hung = found
    if hung:
        seat = end + inward
        return Support(seat - start, HANGER_SEAT, on, place(seat), hung=True)
    at = (low + high) / 2
    return Support(at - start, high - low, on, place(at))
