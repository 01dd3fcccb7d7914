"""Snow that wind heaps up on a lower roof against a higher one, and that slides down onto it: beside
what lies evenly, as areas with amounts. Lengths mm, loads N/mm² of plan."""

import math
from collections.abc import Callable, Iterator
from typing import Any, Final, NamedTuple

import shapely

from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.geometry.plane import Point, add, dot, edges, left, sub, unit
from balken.geometry.roof_planes import Face
from balken.loads.codes.eu import snow as eu
from balken.loads.codes.us import snow as us
from balken.loads.heaped import Heap, strips_from
from balken.loads.roof_snow import flattest
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.record import Code
from balken.model.roofs import RoofArea
from balken.model.snow import GroundSnow
from balken.units import FOOT

STEP: Final = 300.0
"""A roof that lies less than this under another is no lower roof, mm."""
BESIDE: Final = 350.0
"""Roofs whose walls lie this near stand against each other, mm."""
SHORTEST: Final = 500.0
"""Along less than this nothing gathers, mm."""
SLIDES_OVER: Final = 15 * FOOT
"""What slides lies over this much of the lower roof, mm (ASCE 7-16 7.9)."""


class _Step(NamedTuple):
    """A lower roof against a higher one."""

    snow: GroundSnow
    balanced: float
    """On the lower roof."""
    height: float
    upper: float
    """Length of the higher roof across the step."""
    lower: float
    flat_upper: float
    """What lies evenly on the higher roof if it were flat."""
    angle: float
    """Of the slope that falls towards the step, degrees; nothing where none does."""
    run: float
    """Of that slope in plan."""
    lower_angle: float


Profile = tuple[Callable[[float], float], float]
"""What lies at a distance from the wall, and how far it reaches."""


def _us(step: _Step) -> Profile:
    """The greater of drift and sliding at every place: they need not come together (ASCE 7-16 7.7.1,
    7.9)."""
    found = us.drift_at_step(
        step.snow.ground,
        step.balanced,
        step.upper,
        step.lower,
        step.height,
        step.snow.importance,
    )
    load, width = (found.load, found.width) if found else (0.0, 0.0)
    slope = math.tan(math.radians(step.angle))
    per_eave = us.sliding(step.flat_upper, step.run, slope, slippery=step.snow.slides)
    slides = per_eave / SLIDES_OVER

    def at(x: float) -> float:
        drift = load * (1 - x / width) if x < width else 0.0
        return max(drift, slides if x < SLIDES_OVER else 0.0)

    return at, max(width, SLIDES_OVER if slides else 0.0)


def _eu(step: _Step) -> Profile:
    """μ_s + μ_w at the wall, straight down to what lies evenly (EN 1991-1-3 5.3.6)."""
    snow, length = step.snow, eu.drift_length(step.height)
    slides = eu.sliding_shape(step.angle, step.run, length)
    shape = eu.step_shape(snow.ground, step.height, step.upper, step.lower, slides)

    def at(x: float) -> float:
        here = eu.step_shape_at(x, shape, length)
        whole = eu.on_roof(snow.ground, here, snow.exposure, snow.thermal)
        return max(0.0, whole - step.balanced)

    return at, length


RULES: Final[dict[Code, Callable[[_Step], Profile]]] = {"us": _us, "eu": _eu}
CLAUSES: Final[dict[Code, str]] = {"us": "ASCE 7-16 7.7.1, 7.9", "eu": "EN 1991-1-3 5.3.6"}


def step_heaps(project: Project, structure: Structure) -> tuple[Heap, ...]:
    """All such snow on roofs that take theirs from the ground of the site: where it was typed for a
    roof it is taken as it stands."""
    if project.site.snow is None:
        return ()
    records = {HostName("roof", r.id): r for r in project.roofs}
    found: list[Heap] = []
    for low, high, edge in steps(project, structure):
        if records[low].snow_from == "site":
            found += _heaped(project, structure, records, (low, high), edge)
    return tuple(found)


def steps(
    project: Project, structure: Structure
) -> Iterator[tuple[HostName, HostName, tuple[Point, Point]]]:
    """Every lower roof, the higher one beside it, and the line they share, the lower one to its
    left."""
    roofs = {
        h: structure.roofs[h]
        for r in project.roofs
        if (h := HostName("roof", r.id)) in structure.roofs
    }
    for low, under in roofs.items():
        for high, over in roofs.items():
            if _plate(over) - _plate(under) >= STEP:
                near = shapely.Polygon(over.ring).buffer(BESIDE, join_style="mitre")
                for a, b in edges(under.ring):
                    shared = shapely.intersection(near, shapely.LineString([a, b]))
                    if shared.length >= SHORTEST:
                        yield low, high, _ends(shared, a, b)


def _plate(shape: RoofShape) -> float:
    return min(e.plate for e in shape.edges)


def _ends(shared: Any, a: Point, b: Point) -> tuple[Point, Point]:
    """The ends of what two roofs share of an edge, in the edge's way."""
    way = unit(sub(b, a))
    places = [tuple(p) for g in getattr(shared, "geoms", [shared]) for p in g.coords]
    along = sorted(dot(sub((p[0], p[1]), a), way) for p in places)
    return add(a, way, along[0]), add(a, way, along[-1])


def _heaped(
    project: Project,
    structure: Structure,
    records: dict[HostName, RoofArea],
    pair: tuple[HostName, HostName],
    edge: tuple[Point, Point],
) -> Iterator[Heap]:
    low, high = pair
    under, over = structure.roofs[low], structure.roofs[high]
    snow = project.site.snow
    assert snow is not None, "asked for where there is snow on the ground"
    inward = left(unit(sub(edge[1], edge[0])))
    middle = ((edge[0][0] + edge[1][0]) / 2, (edge[0][1] + edge[1][1]) / 2)
    slope = _falls_to(over, inward)
    record = records[low]
    step = _Step(
        snow,
        record.snow,
        _plate(over) - _height_at(under, add(middle, inward, 10.0)),
        _extent(over, inward),
        _extent(under, inward),
        us.flat(snow.ground, snow.exposure, snow.thermal, snow.importance),
        math.degrees(math.atan(slope.pitch)) if slope else 0.0,
        _run(slope, inward) if slope else 0.0,
        flattest(record),
    )
    if step.height < STEP:
        return
    at, reach = RULES[project.code](step)
    reach = min(reach, step.lower)
    strips = tuple(strips_from(shapely.Polygon(under.eaves), edge, inward, at, reach))
    if strips:
        yield Heap(low, high, edge, at(0.0), reach, strips)


def _height_at(shape: RoofShape, p: Point) -> float:
    """The height of a roof over a place; of its plate where no plane lies there."""
    here = shapely.Point(p)
    heights = [
        f.height(p) for f in shape.roof.faces if shapely.Polygon(f.outline).distance(here) < 20.0
    ]
    return max(heights, default=_plate(shape))


def _extent(shape: RoofShape, way: Point) -> float:
    places = [dot(p, way) for p in shape.ring]
    return max(places) - min(places)


def _falls_to(shape: RoofShape, way: Point) -> Face | None:
    """The plane of a roof that falls the way of a step most; None where none does."""
    falls = [
        (f, -(f.plane[0] * way[0] + f.plane[1] * way[1]))
        for f in shape.roof.faces
        if f.pitch > 1e-6
    ]
    found = [(f, by) for f, by in falls if by > 0.9 * f.pitch]
    return max(found, key=lambda x: x[1])[0] if found else None


def _run(face: Face, way: Point) -> float:
    places = [dot(p, way) for p in face.outline]
    return max(places) - min(places)
