"""A roof of rafters that runs on over another: valley plates flat on the roof below, the ridge
carried on between them, and jacks from it down to the plates. What lies on them lies on the roof
below, which is framed as if they were not there."""

import math
from collections.abc import Iterable, Iterator, Sequence
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.layout import to_local, to_plan
from balken.framing.member import Member
from balken.framing.roofs.parts import is_there
from balken.framing.roofs.rafters import main_run
from balken.framing.roofs.shape import RoofShape
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    box,
    cross,
    crossings,
    distance,
    dot,
    edges,
    left,
    sub,
    unit,
)
from balken.geometry.roof_planes import Face
from balken.geometry.solid import Extrusion, Vector, bevelled_profile, cross3, side_profile
from balken.model.names import HostName, MemberName
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.recall import remembered

SHEATHING: Final = 12.0
"""Boards on the roof below, mm (about ½ in; common practice, no source)."""
SHORTEST: Final = 150.0
"""A jack whose run is shorter is left out, mm."""
STEEP: Final = 0.2
"""A plate is cut along a line that it crosses at no less (sine of the angle); else square."""
SAME: Final = 1.0
"""Two planes meet where their heights differ by no more, mm."""


class Valley(NamedTuple):
    """Where a plane of the upper roof meets one of the roof below: from its low end to its high
    end, in plan."""

    upper: Face
    lower: Face
    low: Point
    high: Point


@remembered
def over_framed(
    roof: RoofArea,
    shape: RoofShape,
    seen: tuple[Face, ...],
    others: tuple[Face, ...],
    cut: tuple[Section, Section, Section],
    spacing: float,
) -> list[Member]:
    """What of a roof of rafters lies on the roofs it runs on to.

    Args:
        roof: the roof that runs on.
        shape: its shape as it runs on.
        seen: what is seen of its planes.
        others: the planes it runs on to.
        cut: what valley plates, ridge and jacks are cut from.
        spacing: of the jacks, mm.
    """
    angle = main_run(shape)
    x0, _, x1, _ = box([to_local(p, angle) for p in shape.ring])
    valleys = [w for f in seen for v in _valleys(f, others) for w in _past(v, (x0, x1), angle)]
    if not valleys:
        return []
    section, board, _ = cut
    found = list(_plates(roof, valleys, section, angle))
    far0, far1 = _farthest(valleys, angle)
    jacks = 0
    for end, start, step, far in (("a", x1, spacing, far1), ("b", x0, -spacing, far0)):
        crest = _crest(seen, angle, start, step) if (far - start) * step > 0 else None
        if crest is not None:
            steep = max(f.pitch for f in seen)
            found += _ridge(roof, others, (section, board), (angle, *crest), steep, end)
        places = [(angle, x) for x in _places(start, step, far)]
        made = _jack_rows(roof, seen, valleys, cut, places, jacks)
        jacks += len(made)
        found += made
    return [m for m in found if is_there(roof, m)]


def _farthest(valleys: list[Valley], angle: float) -> tuple[float, float]:
    """From where to where valleys reach along the roof's run."""
    x0, _, x1, _ = box([to_local(p, angle) for v in valleys for p in (v.low, v.high)])
    return x0, x1


def _plates(
    roof: RoofArea, valleys: list[Valley], section: Section, angle: float
) -> Iterator[Member]:
    """The plates along all valleys; where two come together lies the ridge."""
    along = sub(to_plan((1.0, 0.0), angle), to_plan((0.0, 0.0), angle))
    for n, v in enumerate(valleys, 1):
        at_ridge = sum(distance(v.high, w.high) < SAME for w in valleys) > 1
        yield from _plate(roof, v, section, along, n, at_ridge=at_ridge)


def _places(start: float, step: float, end: float) -> Iterator[float]:
    """Where jacks stand past the last rafters of the walls."""
    x = start + step
    while (end - x) * step > 0:
        yield x
        x += step


def _jack_rows(
    roof: RoofArea,
    seen: Sequence[Face],
    valleys: list[Valley],
    cut: tuple[Section, Section, Section],
    places: list[tuple[float, float]],
    before: int,
) -> list[Member]:
    """The jacks at some places across; so many have their numbers before."""
    section, board, jack = cut
    found: list[Member] = []
    for place in places:
        wide = (board.breadth, section.breadth)
        found += _jacks(roof, seen, valleys, jack, place, wide, before + len(found))
    return found


def _valleys(face: Face, others: Sequence[Face]) -> Iterable[Valley]:
    """The sides of a face along which it meets a plane of another roof, whichever lies
    there."""
    for a, b in zip(face.outline, [*face.outline[1:], face.outline[0]]):
        if distance(a, b) < SHORTEST:
            continue
        for other in others:
            if (
                all(abs(other.height(p) - face.height(p)) < SAME for p in (a, b))
                and other.pitch > 1e-6
            ):
                low, high = sorted((a, b), key=face.height)
                yield Valley(face, other, low, high)
                break


def _past(v: Valley, walls: tuple[float, float], angle: float) -> Iterable[Valley]:
    """What of a valley lies past the walls of the upper roof, whose last rafters stand
    there."""
    low, high = to_local(v.low, angle), to_local(v.high, angle)
    end = walls[1] if high[0] > walls[1] else walls[0]
    if (high[0] > walls[1]) == (high[0] < walls[0]):
        return
    if (low[0] - end) * (high[0] - end) < 0:
        t = (end - low[0]) / (high[0] - low[0])
        low = (end, low[1] + t * (high[1] - low[1]))
    yield v._replace(low=to_plan(low, angle))


def _crest(
    seen: Sequence[Face], angle: float, start: float, step: float
) -> tuple[float, float, float, float] | None:
    """The ridge past a line across: where it begins and ends along the roof's run, its place
    across, its height."""
    best: tuple[float, float, float, float] | None = None
    for face, a, b in _shared_sides(seen):
        (xa, ya), (xb, yb) = to_local(a, angle), to_local(b, angle)
        if abs(yb - ya) > SAME or abs(face.height(a) - face.height(b)) > SAME:
            continue
        first, last = (xa, xb) if (xb - xa) * step > 0 else (xb, xa)
        first = max(first, start) if step > 0 else min(first, start)
        if (last - first) * step > 0 and (best is None or face.height(a) > best[3]):
            best = (first, last, ya, face.height(a))
    return best


def _shared_sides(seen: Sequence[Face]) -> Iterator[tuple[Face, Point, Point]]:
    """The sides at which planes meet another of theirs."""
    for face in seen:
        others = [g for g in seen if g is not face]
        for a, b in edges(face.outline):
            if any(all(abs(g.height(p) - face.height(p)) < SAME for p in (a, b)) for g in others):
                yield face, a, b


def _lift(face: Face, thick: float = 0.0) -> float:
    """How much higher, plumb, the top of what lies on a roof is than the roof: the boards,
    and a plate on them."""
    return (SHEATHING + thick) * math.hypot(1.0, face.pitch)


def _axes(face: Face, way: Point, across: Point) -> tuple[Vector, Vector, Vector]:
    """Unit vectors in a plane: over a direction in plan, square to that towards ``across``,
    and up from the plane."""
    a, b, _ = face.plane
    along = _unit3((way[0], way[1], a * way[0] + b * way[1]))
    up = _unit3((-a, -b, 1.0))
    inward = cross3(up, along)
    if inward[0] * across[0] + inward[1] * across[1] < 0:
        inward = (-inward[0], -inward[1], -inward[2])
    return along, inward, up


def _unit3(v: Vector) -> Vector:
    size = math.sqrt(sum(c * c for c in v))
    return v[0] / size, v[1] / size, v[2] / size


def _plate(
    roof: RoofArea, v: Valley, section: Section, ridge: Point, n: int, *, at_ridge: bool
) -> Iterable[Member]:
    """The plate along a valley: flat on the boards of the roof below, its upper outer edge
    under the upper plane.

    Args:
        roof: the upper roof.
        v: the valley.
        section: of the plate.
        ridge: direction of the upper roof's ridge.
        n: its number.
        at_ridge: the valley goes up to the ridge.
    """
    way = unit(sub(v.high, v.low))
    across, gain = _towards_upper(v, way)
    if gain < 1e-3:
        return
    along, inward, up = _axes(v.lower, way, across)
    start = add(v.low, across, _lift(v.lower, section.breadth) / gain)
    origin = (*start, v.lower.height(start) + _lift(v.lower))
    first, last = _plate_ends(v, section.depth, (start, along, inward), ridge, at_ridge=at_ridge)
    if min(last) - max(first) < SHORTEST:
        return
    wide = section.depth
    ring: Ring = ((first[0], 0.0), (last[0], 0.0), (last[1], wide), (first[1], wide))
    length = max(last) - min(first)
    end = add(start, way, distance(v.low, v.high))
    host = HostName("roof", roof.id)
    yield Member(
        MemberName(host, "valley plate", str(n)),
        f"{roof.id}-Y{n:02d}",
        kinds.VALLEY_PLATE,
        host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        _laid_down(origin, (along, inward, up), ring, section.breadth),
        (*start, origin[2]),
        (*end, v.lower.height(end) + _lift(v.lower)),
        length,
        length,
        ("square", "to the other plate"),
    )


def _towards_upper(v: Valley, way: Point) -> tuple[Point, float]:
    """The direction across a valley in which the upper roof lies over the lower, and how fast it
    rises over it."""
    a, b = (v.upper.plane[i] - v.lower.plane[i] for i in (0, 1))
    across = left(way)
    gain = a * across[0] + b * across[1]
    return (across, gain) if gain >= 0 else ((-across[0], -across[1]), -gain)


def _plate_ends(
    v: Valley,
    wide: float,
    lies: tuple[Point, Vector, Vector],
    ridge: Point,
    *,
    at_ridge: bool,
) -> tuple[list[float], list[float]]:
    """Where the two edges of a plate begin and end along it: from the last rafters of the walls; at
    the top two plates come together under the ridge, each cut off along it."""
    start, along, inward = lies
    way, size = unit(sub(v.high, v.low)), 1.0 / math.hypot(along[0], along[1])
    length = distance(v.low, v.high) * size
    flat = (inward[0], inward[1])

    def cut(n: Point, p: Point) -> list[float]:
        """Where an upright plane square to ``n`` through a place cuts the two edges."""
        return [-dot(n, add(sub(start, p), flat, t)) * size / dot(n, way) for t in (0.0, wide)]

    across = left(ridge)
    first = cut(ridge, v.low) if abs(dot(ridge, way)) > STEEP else [0.0, 0.0]
    comes_together = at_ridge and abs(dot(across, way)) > STEEP
    return first, cut(across, v.high) if comes_together else [length, length]


def _laid_down(
    origin: Vector, axes: tuple[Vector, Vector, Vector], ring: Ring, thick: float
) -> Extrusion:
    """A plate under its upper face: an extrusion grows along its normal, which may point up or
    down."""
    along, inward, up = axes
    body = Extrusion(origin, along, inward, ring, thick)
    if sum(p * q for p, q in zip(body.normal, up)) >= 0:
        return body
    x, y, z = (o + thick * c for o, c in zip(origin, up))
    return Extrusion((x, y, z), along, inward, ring, thick)


Line = tuple[float, float, float, float, float]
"""Of a ridge: the turn of the roof, where it begins and ends in that frame, its place across, its
height."""


def _ridge(
    roof: RoofArea,
    others: Sequence[Face],
    cut: tuple[Section, Section],
    line: Line,
    steep: float,
    letter: str,
) -> Iterable[Member]:
    """The ridge carried on from the walls: its foot cut to the plates that come together
    under it."""
    plate, section = cut
    angle, x, end, y, height = line
    start, far = to_plan((x, y), angle), to_plan((end, y), angle)
    way, length = unit(sub(far, start)), distance(start, far)
    below = _under(others, far)
    if below is None or length < SHORTEST:
        return
    rise = dot((below.plane[0], below.plane[1]), way)
    base = below.height(start) + _lift(below, plate.breadth)
    if rise < 1e-3:
        return
    top = height - section.breadth / 2 * steep  # its edges lie in the planes
    bottom = top - section.depth
    ring: Ring = (
        (0.0, bottom),
        ((bottom - base) / rise, bottom),
        ((top - base) / rise, top),
        (0.0, top),
    )
    if ring[1][0] < TOUCH:
        ring = ((0.0, base), ring[2], ring[3])
    long = ring[-2][0]
    host = HostName("roof", roof.id)
    tip = add(start, way, long)
    yield Member(
        MemberName(host, "ridge", f"over {letter}"),
        f"{roof.id}-BV{letter}",
        kinds.RIDGE,
        host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        side_profile(start, way, ring, section.breadth),
        (*start, top - section.depth / 2),
        (*tip, top - section.depth / 2),
        long,
        long,
        ("square", "sloped to the roof"),
    )


def _under(others: Sequence[Face], p: Point) -> Face | None:
    """The plane under a place, of those that lie there the highest; beside them the
    nearest."""
    from shapely import Point as Spot
    from shapely import Polygon

    spot = Spot(p)
    near = [
        (round(Polygon(f.outline, f.holes).distance(spot)), -f.height(p), n)
        for n, f in enumerate(others)
        if f.pitch > 1e-6
    ]
    return others[min(near)[2]] if near else None


def _jacks(
    roof: RoofArea,
    seen: Sequence[Face],
    valleys: Sequence[Valley],
    section: Section,
    place: tuple[float, float],
    boards: tuple[float, float],
    n: int,
) -> Iterable[Member]:
    """The jacks on a line across, from the ridge to the plate of a valley on either side."""
    angle, x = place
    for face in seen:
        outline = [to_local(p, angle) for p in face.outline]
        ys = crossings(outline, x)
        if len(ys) < 2:
            continue
        ends = sorted((to_plan((x, y), angle) for y in (ys[0], ys[-1])), key=face.height)
        valley = next((v for v in valleys if v.upper is face and _on(v, ends[0])), None)
        if valley is not None:
            made = _jack(roof, valley, ends[0], ends[1], section, boards, n + 1)
            if made is not None:
                n += 1
                yield made


def _on(v: Valley, p: Point) -> bool:
    """Whether a place lies on a valley."""
    way = sub(v.high, v.low)
    t = dot(sub(p, v.low), way) / dot(way, way)
    return -1e-6 <= t <= 1 + 1e-6 and abs(cross(unit(way), sub(p, v.low))) < SAME


def _jack(
    roof: RoofArea,
    v: Valley,
    foot: Point,
    head: Point,
    section: Section,
    boards: tuple[float, float],
    n: int,
) -> Member | None:
    """A jack between a plate and the ridge: its foot lies on the plate, bevelled by the
    slope of the roof below."""
    way, run = unit(sub(head, foot)), distance(foot, head) - boards[0] / 2
    right = (way[1], -way[0])
    slope = dot((v.upper.plane[0], v.upper.plane[1]), way)
    rise = dot((v.lower.plane[0], v.lower.plane[1]), way)
    tilt = dot((v.lower.plane[0], v.lower.plane[1]), right)
    if slope - rise < 1e-3:
        return None
    plumb = section.depth * math.hypot(1.0, slope)
    z = v.upper.height(foot)
    lift = _lift(v.lower, boards[1])
    rings = []
    for off in (-section.breadth / 2, section.breadth / 2):
        base = z + lift + tilt * off  # of the plate's top, over where the planes meet

        def meets(top: float, base: float = base) -> float:
            return (base - top) / (slope - rise)

        a, b = meets(z), meets(z - plumb)
        if b >= run or a >= run - TOUCH:
            return None
        rings.append(
            (
                off,
                (
                    (b, base + rise * b),
                    (run, z - plumb + slope * run),
                    (run, z + slope * run),
                    (a, base + rise * a),
                ),
            )
        )
    low = max(meets_at[0] for meets_at in (r[1][3] for r in rings))
    if run - low < SHORTEST:
        return None
    first = sum(r[1][3][0] for r in rings) / 2
    start, end = add(foot, way, first), add(foot, way, run)
    length = (run - first) * math.hypot(1.0, slope)
    host, pitch = HostName("roof", roof.id), math.degrees(math.atan(slope))
    lies = math.degrees(math.atan(slope) - math.atan(rise))
    bevel = math.degrees(math.atan(abs(tilt)))
    cuts = (
        f"to the roof below, {lies:.1f}° to its edge, bevelled {bevel:.1f}°",
        f"plumb {pitch:.1f}°",
    )
    return Member(
        MemberName(host, "valley jack", f"over {n:02d}"),
        f"{roof.id}-J{n:02d}",
        kinds.RAFTER,
        host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        bevelled_profile(foot, way, tuple(rings)),
        (*start, z + slope * first - plumb / 2),
        (*end, z + slope * run - plumb / 2),
        length,
        length + plumb,
        cuts,
        slope=slope,
    )
