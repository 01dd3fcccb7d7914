"""The panels that framed walls are lifted in: their length, weight and middle, and in which order they are
set, storey by storey, from one corner round the outside and then the walls inside."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.hosts.walls import rule_of, skin_of
from balken.framing.member import Member
from balken.geometry.plane import Point, distance, dot, sub
from balken.model.catalogue import sections_of, weight_of
from balken.model.names import HostName, Name
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall, called, direction_of
from balken.recall import remembered_of_one
from balken.site.bodies import outer_sides, storey_outline
from balken.works.building import Checked

JOINT: Final = "lift"
"""Begins the rows of the two studs at each joint."""
SET_LATER: Final = "2"
"""The row of the cap plate, which ties panels that stand."""


class LiftedPanel(NamedTuple):
    """One of them."""

    mark: str
    """By the order in which it is set: the storey and a number."""
    wall: str
    name: str
    """Of the wall, in words."""
    low: float
    high: float
    """Along the wall, mm."""
    weight: float
    """Of wood and sheathing, N."""
    middle: Point
    """Of its weight: along the wall and over its foot, mm."""
    pieces: tuple[Name, ...]

    @property
    def length(self) -> float:
        """mm."""
        return self.high - self.low


@remembered_of_one
def panels_of(checked: Checked) -> tuple[LiftedPanel, ...]:
    """All panels in the order in which they are set; none of walls framed in their place."""
    project = checked.built
    found: list[LiftedPanel] = []
    bases = sorted({w.base for w in project.walls}, key=lambda b: (_height(project, b), b))
    storey = 0
    for base in bases:
        walls = [w for w in project.walls if w.base == base and _is_lifted(project, w)]
        if not walls:
            continue
        storey += 1
        bare = [p for w in in_order(walls) for p in _panels(checked, w)]
        found += [p._replace(mark=f"{storey}-{n}") for n, p in enumerate(bare, 1)]
    return tuple(found)


def _height(project: Project, base: str) -> float:
    return next(x.elevation for x in project.levels if x.id == base)


def _is_lifted(project: Project, item: Wall) -> bool:
    rule = rule_of(project, item)
    return rule is not None and bool(rule.lift_length or rule.lift_weight)


def in_order(walls: Sequence[Wall]) -> list[Wall]:
    """Walls in the order in which they are set: round the outside, each beside the last so that it is held
    by it, then those inside, the nearest to a wall that stands first."""
    outside = outer_sides(tuple(walls), storey_outline(tuple(walls)))
    left = sorted(walls, key=lambda w: (w.id not in outside, w.id))
    found: list[Wall] = []
    while left:
        first = [w for w in left if w.id in outside] or left
        nearest = min(first, key=lambda w: (_away(w, found), w.id)) if found else first[0]
        found.append(nearest)
        left.remove(nearest)
    return found


def _away(item: Wall, standing: Sequence[Wall]) -> float:
    """How far a wall is from the last that was set, then from any that stands, mm."""
    last = standing[-1]
    ends = (item.start, item.end)
    to_last = min(distance(p, q) for p in ends for q in (last.start, last.end))
    to_any = min(distance(p, q) for w in standing for p in ends for q in (w.start, w.end))
    return round(min(to_last, to_any + 1.0), 1)


def _panels(checked: Checked, item: Wall) -> Iterator[LiftedPanel]:
    host = HostName("wall", item.id)
    pieces = [
        m
        for m in checked.structure.in_host(
            host, *kinds.those(lambda k: k.of_wall and not k.concrete)
        )
        if not (m.kind is kinds.TOP_PLATE and m.id.row == SET_LATER)
    ]
    if not pieces:
        return
    way = direction_of(item)
    spots = {m.id: _spot(m, item, way) for m in pieces}
    studs = [(spots[m.id][0], m) for m in pieces if m.kind is kinds.WALL_STUD]
    joints = _joints([(x, m) for x, m in studs if m.id.row.startswith(JOINT)])
    ends = [_reach(m, item, way) for m in pieces]
    places = [min(a for a, _ in ends), *joints, max(b for _, b in ends)]
    skin = skin_of(checked.built, item)
    foot = wall_base(checked.built, item)
    tall = wall_top(checked.built, item) - foot
    sections = sections_of(checked.project.system, checked.project.products)
    for low, high in pairwise(places):
        mine = [m for m in pieces if low <= spots[m.id][0] < high]
        parts = [(weight_of(sections[m.section]) * m.length, spots[m.id]) for m in mine]
        holes = sum(
            (min(high, o.at + o.width) - max(low, o.at)) * o.height
            for o in item.openings
            if o.at < high and o.at + o.width > low
        )
        parts.append((skin * ((high - low) * tall - holes), ((low + high) / 2, foot + tall / 2)))
        weight = sum(w for w, _ in parts)
        middle = (
            sum(w * at[0] for w, at in parts) / weight,
            sum(w * at[1] for w, at in parts) / weight - foot,
        )
        names = tuple(m.id for m in mine)
        yield LiftedPanel("", item.id, called(item), low, high, weight, middle, names)


def _joints(beside: Sequence[tuple[float, Member]]) -> list[float]:
    """The joints between the two studs at each."""
    by_row: dict[str, list[float]] = {}
    for x, m in beside:
        by_row.setdefault(m.id.row, []).append(x)
    return sorted(sum(xs) / len(xs) for xs in by_row.values())


def _spot(m: Member, item: Wall, way: Point) -> Point:
    """The middle of a piece: along its wall, and its height."""
    x = (m.start[0] + m.end[0]) / 2, (m.start[1] + m.end[1]) / 2
    return dot(sub(x, item.start), way), (m.start[2] + m.end[2]) / 2


def _reach(m: Member, item: Wall, way: Point) -> tuple[float, float]:
    base = dot(sub(m.solid.origin[:2], item.start), way)
    xs = [base + x for x, _ in m.solid.outline]
    return min(xs), max(xs)
