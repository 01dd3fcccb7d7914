"""The plan of a roof's planes: eaves, ridges, hips and valleys, which way each plane falls, how high its
lines lie, and how much roof drains over each eave."""

import math
from collections.abc import Iterable, Iterator, Sequence
from typing import Final

from shapely import Point as Spot
from shapely import Polygon

from balken.drawing.dimensions import Frame, chain, grid_marks, grid_strings, grown
from balken.drawing.floor_plan import crossed
from balken.drawing.marks import Drawing, Label, Mark, Pen, Stroke, readable
from balken.drawing.placing import placed
from balken.drawing.plan import plan_frame, walls_faint, walls_reaching
from balken.drawing.roof_plan import openings_of, roof_notes
from balken.drawing.tiers import Tier
from balken.geometry.plane import Point, add, distance, left, middle_of, sub, unit
from balken.geometry.roof_lines import RoofLine, roof_lines
from balken.geometry.roof_planes import Face, Roof
from balken.model.names import HostName, ThingName
from balken.units import FOOT, System, format_length
from balken.works.building import Checked

PENS: Final[dict[str, Pen]] = {
    "ridge": "cut",
    "eave": "seen",
    "rake": "seen",
    "top": "seen",
    "hip": "seen",
    "valley": "hidden",
    "break": "beyond",
}
TEXT: Final = 2.5
NAMED: Final = 900.0
"""Shorter lines are not named, mm."""
AT: Final = 1.0
"""A place this near to a line lies on it, mm."""


def roof_planes_lines(checked: Checked, tier: Tier) -> Drawing:
    """The lines of the planes of a tier of roofs over its walls."""
    marks: list[Mark] = list(walls_faint(walls_reaching(checked.project, tier)))
    for line in lines_of_roofs(checked, tier.hosts):
        marks.append(Stroke((line.start[:2], line.end[:2]), PENS[line.kind]))
    for host, item in openings_of(checked, tier.hosts):
        marks += crossed(item.ring, ThingName("skylight", host.key, item.key))
    return tuple(marks)


def faces_of(checked: Checked, hosts: Iterable[HostName]) -> tuple[Face, ...]:
    """All planes that are seen of some roofs."""
    return tuple(f for h in hosts for f in checked.structure.seen.get(h, ()))


def lines_of_roofs(checked: Checked, hosts: Iterable[HostName]) -> tuple[RoofLine, ...]:
    """The lines of their planes."""
    return roof_lines(Roof(faces_of(checked, hosts), 0.0))


def roof_planes_notes(checked: Checked, tier: Tier, paper: float) -> Drawing:
    """Grid, strings, slopes, heights and what drains where, at so many mm of building to one of paper."""
    frame = plan_frame(checked, tier)
    if frame is None:
        return ()
    system, faces = checked.project.system, faces_of(checked, tier.hosts)
    lines = lines_of_roofs(checked, tier.hosts)
    around = _round(frame, lines)
    marks: list[Mark] = []
    for grid in checked.project.grids:
        marks += grid_marks(grid, around, paper, around)
        marks += grid_strings(grid, around, paper, system)
    a, b, c, _ = around.corners
    down = (-frame.up[0], -frame.up[1])
    marks += chain([a, b], down, 10 * paper, paper, system, words="over the eaves")
    marks += chain([b, c], frame.right, 10 * paper, paper, system, words="over the eaves")
    marks += roof_notes(checked, tier.hosts, paper, marks)
    marks += _names(checked, lines, paper)
    marks += _drainage(checked, faces, lines, paper)
    return placed(tuple(marks), paper)


def _round(frame: Frame, lines: Sequence[RoofLine]) -> Frame:
    """The frame of a plan with the eaves in it."""
    corners = [frame.local(c) for c in frame.corners]
    low = [min(c[k] for c in corners) for k in (0, 1)]
    high = [max(c[k] for c in corners) for k in (0, 1)]
    places = [frame.local(p[:2]) for x in lines for p in (x.start, x.end)]
    out = [low[k] - p[k] for p in places for k in (0, 1)]
    out += [p[k] - high[k] for p in places for k in (0, 1)]
    return grown(frame, max([0.0, *out]))


def _names(checked: Checked, lines: Sequence[RoofLine], paper: float) -> Iterator[Mark]:
    """What each line is, with its height where it is level and its length where it slopes."""
    system = checked.project.system
    for line in lines:
        a, b = line.start[:2], line.end[:2]
        if distance(a, b) < NAMED or line.kind in ("rake", "break", "top"):
            continue
        sloped = line.kind in ("hip", "valley")
        measure = line.length if sloped else line.start[2]
        words = f"{line.kind} {format_length(measure, system)}"
        words += " long" if sloped else ""
        way = readable(unit(sub(b, a)))
        at = add(middle_of(a, b), left(way), 1.2 * paper)
        angle = math.degrees(math.atan2(way[1], way[0]))
        yield Label(words, at, TEXT, angle=angle, boxed=True, quiet=True)


def _drainage(
    checked: Checked, faces: Sequence[Face], lines: Sequence[RoofLine], paper: float
) -> Iterator[Mark]:
    """How much roof, in plan, drains over each eave; beside it, outside."""
    system = checked.project.system
    for line, area in drained(faces, lines):
        a, b = line.start[:2], line.end[:2]
        if distance(a, b) < NAMED or area <= 0:
            continue
        way = unit(sub(b, a))
        out = _outwards(faces[line.faces[0]], middle_of(a, b), way)
        turned = readable(way)
        angle = math.degrees(math.atan2(turned[1], turned[0]))
        at = add(middle_of(a, b), out, 4.5 * paper)
        words = f"drains {_whole_area(area, system)}"
        yield Label(words, add(at, left(turned), -TEXT / 3 * paper), TEXT, angle=angle, boxed=True)


def _whole_area(area: float, system: System) -> str:
    """An area as gutters are chosen by it: to a square foot, or a tenth of a square metre."""
    return f"{area / FOOT**2:.0f} ft²" if system == "us" else f"{area / 1e6:.1f} m²"


def _outwards(face: Face, at: Point, way: Point) -> Point:
    """The way out over an eave: away from its plane."""
    side = left(way)
    inside = Polygon(face.outline).contains(Spot(add(at, side, 10.0)))
    return (-side[0], -side[1]) if inside else side


def drained(faces: Sequence[Face], lines: Sequence[RoofLine]) -> list[tuple[RoofLine, float]]:
    """Each eave with the area of roof in plan that drains over it, mm²: a plane over its own eaves, in
    shares of their lengths; one that ends over another plane, with that plane."""
    eaves = [x for x in lines if x.kind == "eave"]
    onto = {n: _eaves_of(n, eaves) for n in range(len(faces))}
    area = dict.fromkeys(eaves, 0.0)
    for n, face in enumerate(faces):
        whole = Polygon(face.outline, face.holes).area
        mine = onto[n] or onto.get(_below(n, faces, onto), [])
        long = sum(x.length for x in mine)
        for x in mine:
            area[x] += whole * x.length / long
    return list(area.items())


def _eaves_of(n: int, eaves: Sequence[RoofLine]) -> list[RoofLine]:
    return [x for x in eaves if x.faces == (n,)]


def _below(n: int, faces: Sequence[Face], onto: dict[int, list[RoofLine]]) -> int:
    """The plane that one without an eave ends over: the one its lowest corner lies on; itself where
    there is none."""
    face = faces[n]
    lowest = min(face.outline, key=face.height)
    spot = Spot(lowest)
    there = [
        k
        for k, other in enumerate(faces)
        if k != n and onto[k] and Polygon(other.outline).distance(spot) < AT
    ]
    return min(there, key=lambda k: abs(faces[k].height(lowest) - face.height(lowest)), default=n)


__all__ = ["drained", "faces_of", "lines_of_roofs", "roof_planes_lines", "roof_planes_notes"]
