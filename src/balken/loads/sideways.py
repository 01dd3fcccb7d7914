"""What pushes a building sideways, storey by storey, and what each line of walls gets of it.

What the wind meets between the middles of two storeys goes into the floor or roof between them, which
hands it to the lines of walls that stand along the wind; what those hold goes on into the lines
below. Earthquake pushes at the same floors by what they weigh.
"""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, Literal, NamedTuple

import msgspec
from msgspec.structs import replace

from balken.framing.structure import Structure
from balken.geometry.plane import Point, dot, left
from balken.loads.codes.us import earthquake
from balken.loads.roof_wind import ground_height
from balken.loads.silhouette import Push, silhouette
from balken.model.names import whole
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall, direction_of, straightened, wall_length
from balken.model.wind import Earthquake
from balken.site.bodies import outer_sides, storey_outline

IN_LINE: Final = 1219.2
"""Walls that stand no farther out of line brace as one, mm (4 ft: IRC 2021 R602.10.1.2)."""
ONE_FLOOR: Final = 600.0
"""Tops of walls no farther apart in height carry one floor or roof, mm. Common practice, no
source."""
ALONG: Final = 0.97
"""Cosine within which a wall stands along the wind: some 15 degrees."""
FAR: Final = 1e9
"""Farther than any building, mm."""
PAST: Final = 3048.0
"""So far a floor or roof may reach past the last line of walls that braces it, mm (10 ft). Common
practice, no source."""
ACCIDENTAL: Final = 0.05
"""Of the width: how far what shakes may stand out of its middle (ASCE 7-16 12.8.4.2)."""


class Line(msgspec.Struct, frozen=True, gc=False):
    """Walls of one storey that brace it together, and what comes along them, N, not weighed."""

    walls: tuple[str, ...]
    at: float
    """Across the force, mm."""
    length: float
    """Of its walls with their openings taken off, mm."""
    wind: float = 0.0
    quake: float = 0.0


class Span(msgspec.Struct, frozen=True, gc=False):
    """A floor or roof between two lines of walls, or past the last one, as a beam on its side."""

    low: float
    high: float
    """Across the force, mm."""
    held: Literal["both", "low", "high"]
    """At which of its ends a line of walls holds it."""
    depth: float
    """Along the force, the least between its ends, mm."""
    wind: float
    """On it, N before any factor."""
    quake: float
    brought: tuple[tuple[float, float, float], ...] = ()
    """What lines of walls over it bring that stand on no line below: where, wind and earthquake."""

    def shear(self, *, quake: bool) -> float:
        """The greatest at an end of it, N."""
        even = self.quake if quake else self.wind
        if self.held != "both":
            return even + math.fsum(self._points(quake=quake).values())
        length = max(self.high - self.low, 1.0)
        at_low = sum(p * (self.high - x) / length for x, p in self._points(quake=quake).items())
        at_high = sum(p * (x - self.low) / length for x, p in self._points(quake=quake).items())
        return even / 2 + max(at_low, at_high)

    def moment(self, *, quake: bool) -> float:
        """The greatest, N mm: of what lies evenly and of what is brought, one over the other (safe)."""
        even, length = self.quake if quake else self.wind, max(self.high - self.low, 1.0)
        points = self._points(quake=quake)
        if self.held != "both":
            root = self.low if self.held == "low" else self.high
            return even * length / 2 + sum(p * abs(x - root) for x, p in points.items())
        return even * length / 8 + sum(
            p * (x - self.low) * (self.high - x) / length for x, p in points.items()
        )

    def _points(self, *, quake: bool) -> dict[float, float]:
        return {x: (e if quake else w) for x, w, e in self.brought}


class Storey(msgspec.Struct, frozen=True, gc=False):
    """A storey against forces one way or the other."""

    base: float
    top: float
    """Height of the floor or roof that pushes it, mm."""
    way: Point
    """Along which the forces act."""
    wind: float
    """All that comes to its top, from the storeys over it too, N."""
    quake: float
    lines: tuple[Line, ...]
    """Empty where no wall stands that way."""
    spans: tuple[Span, ...] = ()
    """Its floor or roof from line to line."""
    past: float = 0.0
    """Of the wind on this storey, what pushes farther past the last line than a floor or roof may
    reach, N."""


class Weight(NamedTuple):
    """Something heavy, N, at a height, mm."""

    force: float
    height: float


class _Level(NamedTuple):
    """A floor or roof that hands on, and the walls under it."""

    base: float
    top: float
    walls: tuple[Wall, ...]


class _Here(NamedTuple):
    """What pushes at one level."""

    pushes: Sequence[Push]
    low: float
    high: float
    ends: tuple[float, float]
    """Of the floor or roof across the force, mm."""
    shakes: float

    def wind(self, a: float = -FAR, b: float = FAR) -> float:
        """Of the wind between two places across, N: on walls from half a storey up and down, on
        roofs all."""
        return math.fsum(
            p.force(self.low, self.high, a, b) if p.plate is None else p.force(-FAR, FAR, a, b)
            for p in self.pushes
        )

    def quake(self, a: float, b: float) -> float:
        """Of the earthquake, by area, N."""
        first, last = self.ends
        return self.shakes * max(0.0, min(b, last) - max(a, first)) / max(last - first, 1.0)


def storeys(
    project: Project, structure: Structure, weights: Sequence[Weight]
) -> tuple[Storey, ...]:
    """What wind and earthquake ask of every storey both ways, from the top down; nothing where
    neither is typed.

    Args:
        project: with the wind and the earthquake of its site.
        structure: its roofs as they are framed.
        weights: of what shakes.
    """
    levels = _levels(project)
    if not levels or (project.site.wind is None and project.site.earthquake is None):
        return ()
    ground = ground_height(project.levels)
    shaken = _shaken(project, [x.top - ground for x in levels], weights, ground)
    walls = [w for x in levels for w in x.walls]
    found: list[Storey] = []
    for way in _ways(walls):
        pushes = silhouette(project, structure, walls, way)
        found += _one_way(project, levels, way, pushes, shaken)
    return tuple(found)


def _levels(project: Project) -> list[_Level]:
    """The storeys over the ground, the highest first: walls by what they stand on, as high as most
    of them are."""
    ground = ground_height(project.levels)
    standing = [w for w in straightened(project.walls) if wall_top(project, w) > ground + ONE_FLOOR]
    groups: list[list[Wall]] = []
    for w in sorted(standing, key=lambda w: (-wall_base(project, w), w.id)):
        if groups and wall_base(project, groups[-1][0]) - wall_base(project, w) <= ONE_FLOOR:
            groups[-1].append(w)
        else:
            groups.append([w])
    return [_level(project, group, standing, ground) for group in groups]


def _level(
    project: Project, walls: Sequence[Wall], standing: Sequence[Wall], ground: float
) -> _Level:
    """A storey of the walls that begin there, and of those that pass its middle from below."""
    by_top: dict[float, float] = {}
    for w in walls:
        top = round(wall_top(project, w), 3)
        by_top[top] = by_top.get(top, 0.0) + wall_length(w)
    usual = max(by_top, key=lambda top: (by_top[top], top))
    base = min(max(ground, min(wall_base(project, w) for w in walls)), usual)
    middle = (base + usual) / 2
    passing = (w for w in standing if wall_base(project, w) < middle < wall_top(project, w))
    return _Level(base, usual, tuple(passing))


def _ways(walls: Sequence[Wall]) -> tuple[Point, Point]:
    """Along the longest wall, and across it."""
    longest = max(walls, key=lambda w: (round(wall_length(w), 3), w.id))
    x, y = direction_of(longest)
    way = (abs(x), abs(y)) if x * y >= 0 else (abs(x), -abs(y))
    return way, left(way)


def _one_way(
    project: Project,
    levels: Sequence[_Level],
    way: Point,
    pushes: Sequence[Push],
    shaken: Sequence[float],
) -> list[Storey]:
    """The storeys against forces one way, what stands higher handing on to what stands below."""
    across = left(way)
    between = [(over.base + over.top) / 2 for over in levels]

    def nearest(height: float) -> _Level:
        return min(levels, key=lambda x: abs(x.top - height))

    # The wind on the lower half of the lowest walls goes straight into the foundation.
    found: list[Storey] = []
    above: tuple[Line, ...] = ()
    wind = quake = 0.0
    for level, high, low, shakes in zip(levels, [FAR, *between], between, shaken):
        mine = [p for p in pushes if p.plate is None or nearest(p.plate) is level]
        here = _Here(mine, low, high, _ends(level, across), shakes)
        lines = _handed_down(_lines(level, way), above)
        spans = tuple(_spans(level, way, lines, here, above))
        spread = _by_stiffness if project.site.diaphragms == "stiff" else _by_areas
        lines = spread(lines, here, _lines(level, across))
        wind, quake = wind + here.wind(), quake + shakes
        past = _past(lines, here)
        found.append(Storey(level.base, level.top, way, wind, quake, lines, spans, past))
        above = lines
    return found


def _spans(
    level: _Level, way: Point, lines: Sequence[Line], here: _Here, above: Sequence[Line]
) -> Iterator[Span]:
    """A storey's floor or roof between its lines and past the last ones."""
    if not lines:
        return
    deep = _Depths(level, way)
    places = [x.at for x in lines]
    stray = [x for x in above if min(abs(x.at - at) for at in places) > IN_LINE]
    ends: list[tuple[float, float, Literal["both", "low", "high"]]] = [
        (here.ends[0], places[0], "high"),
        *((a, b, "both") for a, b in pairwise(places)),
        (places[-1], here.ends[1], "low"),
    ]
    for low, high, held in ends:
        if high - low <= IN_LINE / 2:
            continue
        brought = tuple((x.at, x.wind, x.quake) for x in stray if low < x.at <= high)
        wind = here.wind(*_reach_of(low, high, held))
        yield Span(low, high, held, deep.least(low, high), wind, here.quake(low, high), brought)


def _reach_of(low: float, high: float, held: str) -> tuple[float, float]:
    """What wind meets past the last line pushes its floor too."""
    return (low if held != "high" else -FAR, high if held != "low" else FAR)


class _Depths:
    """How deep a storey is along a force, place by place across."""

    def __init__(self, level: _Level, way: Point) -> None:
        self._way, self._across = way, left(way)
        ring = storey_outline(level.walls)
        corners = ring or [p for w in level.walls for p in (w.start, w.end)]
        self._flat = [(dot(p, self._across), dot(p, way)) for p in corners]
        self._closed = ring is not None

    def least(self, low: float, high: float) -> float:
        """The least between two places, mm: a little inside them and in between."""
        if not self._closed:
            return max(y for _, y in self._flat) - min(y for _, y in self._flat)
        from shapely import LineString, Polygon

        shape, bounds = Polygon(self._flat).buffer(0), FAR / 1e3
        found = []
        for k in range(1, SLICES + 1):
            x = low + (high - low) * (k - 0.5) / SLICES
            cut = shape.intersection(LineString([(x, -bounds), (x, bounds)]))
            if cut.length > 0:
                found.append(cut.length)
        return min(found, default=0.0)


SLICES: Final = 16
"""A floor is measured at so many places."""


def _past(lines: Sequence[Line], here: _Here) -> float:
    if not lines:
        return 0.0
    before = here.wind(-FAR, lines[0].at - PAST)
    return before + here.wind(lines[-1].at + PAST, FAR)


def _ends(level: _Level, across: Point) -> tuple[float, float]:
    places = [dot(p, across) for w in level.walls for p in (w.start, w.end)]
    return min(places), max(places)


def _lines(level: _Level, way: Point) -> tuple[Line, ...]:
    """The walls of a storey that brace it one way, in lines."""
    across = left(way)
    outside = outer_sides(level.walls, storey_outline(level.walls))
    bracing = [
        (dot(w.start, across) / 2 + dot(w.end, across) / 2, w)
        for w in level.walls
        if abs(dot(direction_of(w), way)) > ALONG and _braces(w, outside)
    ]
    groups: list[list[tuple[float, Wall]]] = []
    for at, w in sorted(bracing, key=lambda b: (b[0], b[1].id)):
        if groups and at - groups[-1][0][0] <= IN_LINE:
            groups[-1].append((at, w))
        else:
            groups.append([(at, w)])
    return tuple(_line(group) for group in groups)


def _braces(w: Wall, outside: dict[str, int]) -> bool:
    return w.id in outside if w.braces is None else w.braces


def _line(group: Sequence[tuple[float, Wall]]) -> Line:
    lengths = [max(0.0, wall_length(w) - sum(o.width for o in w.openings)) for _, w in group]
    at = math.fsum(a for a, _ in group) / len(group)
    walls = dict.fromkeys(whole(w.id) for _, w in group)
    return Line(tuple(walls), at, math.fsum(lengths))


def _handed_down(lines: tuple[Line, ...], above: Sequence[Line]) -> tuple[Line, ...]:
    """Give each line what the lines over it bring: the one under it, or the two beside it by how
    near they stand."""
    if not lines:
        return ()
    wind, quake = [0.0] * len(lines), [0.0] * len(lines)
    for over in above:
        for n, share in _shares([x.at for x in lines], over.at):
            wind[n] += share * over.wind
            quake[n] += share * over.quake
    return tuple(replace(x, wind=w, quake=q) for x, w, q in zip(lines, wind, quake))


def _shares(places: Sequence[float], at: float) -> list[tuple[int, float]]:
    """How much of what stands at a place goes to each of some lines in order."""
    nearest = min(range(len(places)), key=lambda n: abs(places[n] - at))
    if abs(places[nearest] - at) <= IN_LINE or not places[0] < at < places[-1]:
        return [(nearest, 1.0)]
    right = next(n for n, place in enumerate(places) if place > at)
    share = (at - places[right - 1]) / (places[right] - places[right - 1])
    return [(right - 1, 1 - share), (right, share)]


def _by_areas(lines: tuple[Line, ...], here: _Here, others: Sequence[Line]) -> tuple[Line, ...]:
    """To each line what pushes up to half way to the next; to the outermost, to the end."""
    del others
    between = [(a.at + b.at) / 2 for a, b in pairwise(lines)]
    strips = zip([-FAR, *between], [*between, FAR])
    return tuple(
        replace(x, wind=x.wind + here.wind(a, b), quake=x.quake + here.quake(a, b))
        for x, (a, b) in zip(lines, strips)
    )


def _by_stiffness(lines: tuple[Line, ...], here: _Here, others: Sequence[Line]) -> tuple[Line, ...]:
    """To each line by the length of its walls, and by how far it stands from the middle of all where
    the push does not meet that: the lines across take part in the turning."""
    whole = math.fsum(x.length for x in lines)
    if whole <= 0:
        return _by_areas(lines, here, others)
    middle = math.fsum(x.length * x.at for x in lines) / whole
    crosswise = math.fsum(x.length for x in others)
    other = math.fsum(x.length * x.at for x in others) / crosswise if crosswise else 0.0
    turning = math.fsum(x.length * (x.at - middle) ** 2 for x in lines)
    turning += math.fsum(x.length * (x.at - other) ** 2 for x in others)
    first, last = here.ends
    wind_out = _centre(here) - middle
    shake_out = (first + last) / 2 - middle
    astray = ACCIDENTAL * (last - first)

    def share(force: float, out: float, by_chance: float, x: Line) -> float:
        if turning <= 0:
            return force * x.length / whole
        arm = x.length * (x.at - middle) / turning
        # Walls that would be relieved by the turning are not.
        turned = max(0.0, *((out + chance) * arm for chance in (-by_chance, by_chance)))
        return force * (x.length / whole + turned)

    wind = here.wind()
    return tuple(
        replace(
            x,
            wind=x.wind + share(wind, wind_out, 0.0, x),
            quake=x.quake + share(here.shakes, shake_out, astray, x),
        )
        for x in lines
    )


def _centre(here: _Here) -> float:
    """Where the wind pushes, across, mm: by a hundred strips."""
    first, last = here.ends
    wide = (last - first) / 100
    strips = [(first + (n + 0.5) * wide, n) for n in range(100)]
    forces = [here.wind(first + n * wide, first + (n + 1) * wide) for _, n in strips]
    whole = math.fsum(forces)
    if whole <= 0:
        return (first + last) / 2
    return math.fsum(f * at for f, (at, _) in zip(forces, strips)) / whole


def redundancy(sds: float, sd1: float) -> float:
    """ρ: 1.3 from seismic design category D up, whose limits of risk category II these are (ASCE
    7-16 12.3.4.2, tables 11.6-1 and 11.6-2)."""
    return 1.3 if sds >= 0.5 or sd1 >= 0.2 else 1.0


def _shaken(
    project: Project, tops: Sequence[float], weights: Sequence[Weight], ground: float
) -> list[float]:
    """What earthquake pushes at each floor, N, ρ in it (ASCE 7-16 12.8); nothing where none is
    typed."""
    shake = project.site.earthquake
    if shake is None:
        return [0.0] * len(tops)
    heavy = [0.0] * len(tops)
    for w in weights:
        if w.height > ground + tops[-1] / 2:  # what is lower shakes with the ground
            nearest = min(range(len(tops)), key=lambda n: abs(tops[n] + ground - w.height))
            heavy[nearest] += w.force
    return earthquake_at(shake, tops, heavy)


def earthquake_at(
    shake: Earthquake, heights: Sequence[float], weights: Sequence[float]
) -> list[float]:
    """The equivalent lateral force at each floor, N (ASCE 7-16 12.8.1 to 12.8.3, 12.3.4).

    Args:
        shake: of the place.
        heights: of the floors over the base, mm.
        weights: at each, N.
    """
    whole, high = math.fsum(weights), max(heights)
    if whole <= 0:
        return [0.0] * len(heights)
    shaking = earthquake.Shaking(shake.sds, shake.sd1, shake.s1)
    shear = earthquake.base_shear(shaking, whole, high, shake.response, shake.importance)
    shear *= redundancy(shake.sds, shake.sd1)
    period = earthquake.period(high)
    return list(earthquake.level_forces(shear, weights, heights, period))
