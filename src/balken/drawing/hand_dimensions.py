"""Dimensions that a person drew on a plan, and clouds round what a revision changed. They measure what they
hold on to as it is now; what is gone is told where its string stood."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from msgspec.structs import replace
from shapely import Point as Spot
from shapely import Polygon

from balken.drawing.dimensions import chain
from balken.drawing.marks import Label, Mark, Stroke, readable, rectangle
from balken.drawing.tiers import Tier
from balken.geometry.plane import Point, add, distance, dot, left, rotate, sub, unit
from balken.model.attached import held_places
from balken.model.names import ThingName
from balken.model.paper import Cloud, HandDimension
from balken.model.project import Project, level
from balken.model.walls import arc_of
from balken.units import format_length
from balken.works.building import Checked

TEXT: Final = 2.5
GONE: Final = "what this measured is gone"
BOW: Final = 6.0
"""The bows of a cloud are about so long, mm of paper."""
HIGH: Final = 2.2
"""The triangle of a height mark, mm of paper."""


def hand_dimensions(checked: Checked, tier: Tier, turn: float, paper: float) -> Iterator[Mark]:
    """All dimensions by hand on the plan of a tier, at so many mm of building to a mm of paper; ``turn`` is
    how the building lies, radians."""
    for item in checked.project.paper.dimensions:
        if item.view == f"plan:{tier.id}":
            key = ThingName("dimension", item.id)
            for mark in _marks(checked, tier, item, turn, paper):
                yield replace(mark, key=key)


def _marks(
    checked: Checked, tier: Tier, item: HandDimension, turn: float, paper: float
) -> Iterator[Mark]:
    project = checked.project
    places = held_places(project, item.holds)
    there = [p for p in places if p is not None]
    if len(there) < len(places):
        yield Label(GONE, item.at, TEXT, quiet=True)
    elif item.kind == "radius":
        yield from _radius(project, item, paper)
    elif item.kind == "level":
        yield from _height(checked, tier, there[0], item.at, paper)
    else:
        out = _out(there, item.at, turn, aligned=item.kind == "aligned")
        away = dot(item.at, out) - max(dot(p, out) for p in there)
        yield from chain(there, out, away, paper, project.system)


def _out(places: Sequence[Point], at: Point, turn: float, *, aligned: bool) -> Point:
    """The way from what is measured to its string: square to its ends, or along the building where the string
    stands farther out."""
    if aligned:
        side = left(unit(sub(places[-1], places[0])))
        return side if dot(sub(at, places[0]), side) >= 0 else (-side[0], -side[1])
    local = [rotate(p, -turn) for p in places]
    x, y = rotate(at, -turn)
    low = [min(p[k] for p in local) for k in (0, 1)]
    high = [max(p[k] for p in local) for k in (0, 1)]
    past = [max(low[k] - v, v - high[k]) for k, v in enumerate((x, y))]
    wide = [high[k] - low[k] for k in (0, 1)]
    # A string that stands over none of its places runs along what it measures most of.
    across = 0 if wide[0] < 1.0 or (wide[1] >= 1.0 and past[0] > past[1]) else 1
    middle = (low[across] + high[across]) / 2
    sign = 1.0 if (x, y)[across] >= middle else -1.0
    return rotate(((sign, 0.0), (0.0, sign))[across], turn)


def _radius(project: Project, item: HandDimension, paper: float) -> Iterator[Mark]:
    """From the centre of a curved wall's line towards where the words stand."""
    wall = next((w for w in project.walls if w.id == item.holds[0].key), None)
    if wall is None or not wall.bulge:
        yield Label(GONE, item.at, TEXT, quiet=True)
        return
    centre, radius, _, _ = arc_of(wall.start, wall.end, wall.bulge)
    way = unit(sub(item.at, centre))
    radius = abs(radius)
    foot = add(centre, way, radius)
    yield Stroke((centre, foot), "hair")
    tick = 1.2 * paper
    yield Stroke((add(centre, (1.0, 0.0), -tick), add(centre, (1.0, 0.0), tick)), "seen")
    yield Stroke((add(centre, (0.0, 1.0), -tick), add(centre, (0.0, 1.0), tick)), "seen")
    turned = readable(way)
    angle = math.degrees(math.atan2(turned[1], turned[0]))
    middle = add(centre, way, radius / 2)
    words = f"R {format_length(radius, project.system)}"
    yield Label(words, add(middle, left(turned), 1.0 * paper), TEXT, angle=angle)


def _height(checked: Checked, tier: Tier, place: Point, at: Point, paper: float) -> Iterator[Mark]:
    """A triangle at the place, a leader, and how high what lies there is."""
    high = height_at(checked, tier, place)
    words = format_length(high, checked.project.system)
    tip = place
    wings = [
        add(add(tip, (1.0, 0.0), s * HIGH / 2 * paper), (0.0, 1.0), HIGH * paper) for s in (-1, 1)
    ]
    yield Stroke((tip, wings[0], wings[1], tip), "seen")
    yield Stroke((tip, at), "hair")
    plus = "+" if high > 0 else ""
    yield Label(plus + words, add(at, (0.0, 1.0), 0.8 * paper), TEXT, "start")


def height_at(checked: Checked, tier: Tier, place: Point) -> float:
    """How high the top of what a plan shows lies at a place, mm: of its pieces, else of the level its walls
    stand on."""
    spot = Spot(place)
    tops = [
        m.solid.top()
        for m in checked.structure.members
        if tier.holds(m.host) and Polygon(m.solid.plan()).distance(spot) < 1.0
    ]
    if tops and tier.kind != "walls":
        return max(tops)
    return level(checked.project, tier.walls_on).elevation if tier.walls_on else tier.low


def clouds(project: Project, view: str, paper: float) -> Iterator[Mark]:
    """The clouds on a plan, each with the mark of its revision."""
    for cloud in project.paper.clouds:
        if cloud.view == view:
            yield from _cloud(cloud, paper)


def _cloud(cloud: Cloud, paper: float) -> Iterator[Mark]:
    key = ThingName("cloud", cloud.id)
    (ax, ay), (bx, by) = cloud.start, cloud.end
    ring = rectangle(min(ax, bx), min(ay, by), max(ax, bx), max(ay, by))
    for a, b in zip(ring, (*ring[1:], ring[0])):
        bows = max(1, round(distance(a, b) / (BOW * paper)))
        for n in range(bows):
            p = add(a, sub(b, a), n / bows)
            q = add(a, sub(b, a), (n + 1) / bows)
            yield Stroke(tuple(_bow(p, q)), "seen", key)
    if cloud.mark:
        x, y = ring[2][0] + 5.0 * paper, ring[2][1] + 3.0 * paper
        side = 3.4 * paper
        corners = ((x - side, y - side), (x + side, y - side), (x, y + side))
        yield Stroke((*corners, corners[0]), "seen", key)
        at = (x, y - 0.8 * side)
        yield Label(cloud.mark, at, TEXT, bold=True, key=key)


def _bow(p: Point, q: Point) -> Iterator[Point]:
    """Half a turn from one place to another, outwards of a ring that runs counter-clockwise."""
    steps = 8
    middle = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
    for k in range(steps + 1):
        yield add(middle, rotate(sub(p, middle), math.pi * k / steps), 1.0)
