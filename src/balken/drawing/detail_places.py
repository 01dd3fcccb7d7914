"""Which details a set has: a wall on each foundation from footing to eave, the first step of each footing,
each kind of beam on each kind of post, the heel of each roof, the edge of each floor's first opening."""

from collections.abc import Iterator
from itertools import combinations
from typing import Final

from balken.drawing.cut import Gathered, View, Window, parts_in, rings_cut
from balken.drawing.details import Place
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member, Support
from balken.geometry.plane import Point, add, distance, left, middle_of, sub, unit
from balken.model.foundations import walls_on
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.walls import Wall, called, direction_of, outside_of, wall_length
from balken.site.bodies import outer_sides, storey_outline
from balken.units import format_length
from balken.works.building import Checked

OUTSIDE: Final = 900.0
INSIDE: Final = 1500.0
"""So much beside the wall's line is shown, mm."""
DEEP: Final = 250.0
"""And so much behind the cut."""
OVER: Final = 900.0
"""Over the highest cut of the wall and under the lowest, mm."""
AROUND: Final = 500.0
"""Round a joint, mm."""
STEP: Final = 20.0
"""Footings whose undersides lie further apart step, mm."""
MEET: Final = 700.0
"""They step where they come this near to each other in plan, mm."""


def places_of(checked: Checked, all_of: Gathered) -> Iterator[Place]:
    """All details of a building, those of whole walls first.

    Args:
        checked: the building.
        all_of: its bodies.
    """
    for item, at in detailed_walls(checked.project):
        yield _wall_section(all_of, item, at)
    yield from _footing_steps(checked)
    yield from _beams_on_posts(checked)
    yield from _heels(checked)
    yield from _trimmers(checked)


# -- walls from footing to eave ----------------------------------------------------------------------


def detailed_walls(project: Project) -> list[tuple[Wall, float]]:
    """One wall on each foundation with where it is cut: the longest outside wall, beside its middle, off
    openings, mm along it."""
    found: list[Wall] = []
    for run in project.runs:
        mine = set(walls_on(run))
        walls = [w for w in project.walls if w.id in mine and not w.bulge]
        by_base = tuple(w for w in project.walls if walls and w.base == walls[0].base)
        outside = outer_sides(by_base, storey_outline(by_base)) if by_base else {}
        outer = [w for w in walls if w.id in outside] or walls
        if not outer:
            continue
        longest = max(outer, key=lambda w: (round(wall_length(w), 3), w.id))
        if longest not in found:
            found.append(longest)
    return [(w, _free(w)) for w in found]


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


def _wall_section(all_of: Gathered, item: Wall, at: float) -> Place:
    """Across a wall, its outside at the left."""
    way = direction_of(item)
    out = left(way) if outside_of(item) == "left" else (-left(way)[0], -left(way)[1])
    right = (-out[0], -out[1])
    cut = add(item.start, way, at)
    view = View(right, left(right), cut, DEEP)
    window = _window(all_of, view, view.along(cut))
    return Place(f"detail:{item.id}", f"Wall section, {called(item)}", view, window)


def _window(all_of: Gathered, view: View, middle: float) -> Window:
    """The part that is shown of a wall: all that is cut of it."""
    near = [
        ring
        for part in parts_in(all_of, view)
        if part.is_cut
        for ring in rings_cut(part.body, view)
        if any(middle - OUTSIDE < x < middle + INSIDE / 3 for x, _ in ring)
    ]
    heights = [z for ring in near for x, z in ring if middle - OUTSIDE < x < middle + INSIDE]
    low, high = min(heights, default=0.0), max(heights, default=3000.0)
    return middle - OUTSIDE, low - OVER / 3, middle + INSIDE, high + OVER / 3


# -- joints ------------------------------------------------------------------------------------------


def _low(m: Member) -> float:
    return m.solid.bounds()[0][2]


def _footing_steps(checked: Checked) -> Iterator[Place]:
    """The first step of the footing of each foundation, cut along it."""
    by_host: dict[HostName, list[Member]] = {}
    for m in checked.structure.of(kinds.FOOTING):
        by_host.setdefault(m.host, []).append(m)
    for host, footings in by_host.items():
        step = next((pair for pair in combinations(footings, 2) if _steps(*pair)), None)
        if step is None:
            continue
        lower, upper = sorted(step, key=_low)
        at, way = _joint(lower, upper)
        view = View(way, left(way), at, DEEP)
        x = view.along(at)
        window = (x - 2 * AROUND, _low(lower) - 200.0, x + 2 * AROUND, _low(upper) + 2 * AROUND)
        rise = format_length(_low(upper) - _low(lower), checked.project.system)
        title = f"Step of footing {host.key}, {rise} up"
        yield Place(f"step:{host.key}", title, view, window, small=True)


def _steps(a: Member, b: Member) -> bool:
    """Whether two footings in one line meet at different heights."""
    if abs(_low(a) - _low(b)) < STEP:
        return False
    ways = [unit(sub(m.end[:2], m.start[:2])) for m in (a, b)]
    in_line = abs(ways[0][0] * ways[1][1] - ways[0][1] * ways[1][0]) < 0.01
    return in_line and _apart(a, b) < MEET


def _apart(a: Member, b: Member) -> float:
    return min(distance(p[:2], q[:2]) for p in (a.start, a.end) for q in (b.start, b.end))


def _joint(a: Member, b: Member) -> tuple[Point, Point]:
    """Where two pieces meet, and which way the first runs there."""
    pairs = [(p[:2], q[:2]) for p in (a.start, a.end) for q in (b.start, b.end)]
    p, q = min(pairs, key=lambda ends: distance(*ends))
    return middle_of(p, q), unit(sub(a.end[:2], a.start[:2]))


def _beams_on_posts(checked: Checked) -> Iterator[Place]:
    """The first of each section of beam on each section of post, cut along the beam."""
    posts = {m.id: m for m in checked.structure.of(kinds.POST)}
    told: set[tuple[str, str]] = set()
    for beam in checked.structure.of(kinds.BEAM):
        for support in beam.carrier.supports:
            post = posts.get(support.on) if isinstance(support.on, MemberName) else None
            if post is None or (beam.section, post.section) in told:
                continue
            told.add((beam.section, post.section))
            way = unit(sub(beam.end[:2], beam.start[:2]))
            view = View(way, left(way), support.point, DEEP)
            title = f"{pretty(beam.section)} on {pretty(post.section)}"
            x, low, high = view.along(support.point), _low(beam), beam.solid.top()
            window = (x - AROUND, low - AROUND, x + AROUND, high + 0.6 * AROUND)
            yield Place(f"seat:{beam.mark}/{post.mark}", title, view, window, small=True)


def _heels(checked: Checked) -> Iterator[Place]:
    """Where a rafter or truss of each roof bears on its wall, cut along it, its eave at the left: one in the
    middle of its row, off the gables."""
    rows: dict[HostName, list[tuple[Member, Support]]] = {}
    for m in checked.structure.of(kinds.RAFTER, kinds.BOTTOM_CHORD):
        first = next(iter(m.carrier.supports), None)
        if first is not None and _on_wall(first.on) and m.run >= 4 * AROUND:
            rows.setdefault(m.host, []).append((m, first))
    for row in rows.values():
        longest = max(round(m.run) for m, _ in row)
        whole = [(m, first) for m, first in row if round(m.run) == longest]
        m, first = whole[len(whole) // 2]
        way = unit(sub(m.end[:2], m.start[:2]))
        view = View(way, left(way), first.point, DEEP / 2)
        x, z = view.along(first.point), _low(m)
        window = (x - 1.6 * AROUND, z - AROUND, x + 2 * AROUND, z + 1.8 * AROUND)
        yield Place(f"heel:{m.host.key}", f"Heel of {m.mark}", view, window, small=True)


def _on_wall(on: object) -> bool:
    """Whether something bears on a wall, or on a plate of one."""
    host = on.host if isinstance(on, MemberName) else on
    return isinstance(host, HostName) and host.kind == "wall"


def _trimmers(checked: Checked) -> Iterator[Place]:
    """The edge of the first opening of each floor: its header, cut across, and what hangs on it."""
    told: set[HostName] = set()
    for header in checked.structure.of(kinds.HEADER):
        if header.host in told or header.host.kind != "floor":
            continue
        told.add(header.host)
        along = unit(sub(header.end[:2], header.start[:2]))
        middle = middle_of(header.start[:2], header.end[:2])
        right = left(along)
        view = View(right, left(right), middle, header.run)
        x, low, high = view.along(middle), _low(header), header.solid.top()
        window = (x - AROUND, low - 0.6 * AROUND, x + AROUND, high + 0.6 * AROUND)
        title = f"Opening of floor {header.host.key}, header and trimmer"
        yield Place(f"trimmer:{header.host.key}", title, view, window, small=True)
