"""A roof over an outline of many corners as roofs over rectangles, those that stand out running on
to the largest."""

from collections.abc import Sequence
from typing import Final

from msgspec.structs import replace

from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Bearings
from balken.framing.roofs.shape import RoofShape, side_names
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance,
    distance_to_ring,
    distance_to_segment,
    edges,
    holds,
    left,
    sub,
    unit,
)
from balken.geometry.rectangles import Cell, rectangles_of
from balken.model.beams import BeamEnd
from balken.model.edits.beams import put_beam
from balken.model.edits.roofs import add_roof, set_roof
from balken.model.edits.supports import put_support
from balken.model.named import named
from balken.model.project import Project, level
from balken.model.roofs import RoofArea, RoofOpening, RoofSide

OPEN: Final = 600.0
"""Where a wing opens into the main part over no more than this, nothing is put under the roof,
mm."""
STEP: Final = 50.0
"""Walls are sought so far apart along a line, mm."""
OWN: Final = ("id", "name", "plate", "walls", "corners", "sides", "openings")
"""What a wing does not take over from the roof it was part of."""


def can_divide(shape: RoofShape) -> bool:
    """Whether a roof can be divided: right-angled, without a courtyard, no rectangle already,
    and every wing long enough for its ridge to run on under that of what it stands out from."""
    cells = rectangles_of(shape.ring) if len(shape.rings) == 1 and len(shape.ring) > 4 else ()
    return (
        len(cells) > 1
        and all(_runs_under(cell, cells[:n]) for n, cell in enumerate(cells) if n)
        and _walled(cells, shape.ring)
    )


def _walled(cells: Sequence[Cell], outline: Ring) -> bool:
    """Whether every side lies on the outline, but for where one part opens into another."""
    from shapely import LineString, Polygon, union_all

    open_sides = [LineString(edges(c.ring)[c.onto]) for c in cells if c.onto is not None]
    known = union_all([Polygon(outline).exterior, *open_sides]).buffer(TOUCH)
    return all(
        LineString(side).difference(known).length < TOUCH for c in cells for side in edges(c.ring)
    )


def _runs_under(wing: Cell, earlier: Sequence[Cell]) -> bool:
    """Whether a wing is no wider than the part it lies on, and at least half as long as wide:
    a roof over a wider one would rise over that part, one over a shorter one would be but its
    slope."""
    assert wing.onto is not None
    sides = edges(wing.ring)
    a, b = sides[wing.onto]
    wide, long = distance(a, b), distance(*sides[(wing.onto + 1) % 4])
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    under = min(
        earlier,
        key=lambda cell: min(distance_to_segment(middle, *side) for side in edges(cell.ring)),
    )
    return long >= wide / 2 and wide <= min(distance(*side) for side in edges(under.ring)) + TOUCH


def divided(project: Project, key: str, shape: RoofShape) -> Project:
    """A project with one roof as several over rectangles; the same where its outline cannot
    be divided.

    Each side rises as the side that lay there did. Where a wing opens into the main part a beam is
    put at the plates, for what spans across there.
    """
    if not can_divide(shape):
        return project
    cells = rectangles_of(shape.ring)
    roof = named(project.roofs, key, "roof")
    rings = [tuple((round(x, 3), round(y, 3)) for x, y in cell.ring) for cell in cells]
    inner = bearings_of_roof(project, roof)
    rest, *lights = _shared_out(roof.openings, rings)
    project = set_roof(project, key, corners=rings[0], sides=(), openings=rest)
    project = _with_sides(project, key, shape, None)
    for n, cell in enumerate(cells[1:], 1):
        number = f" {n}" if len(cells) > 2 else ""
        name = f"{roof.name}, wing{number}"
        project = _with_wing(project, roof, shape, cell, (name, rings[n], lights[n - 1]))
        if inner is not None and cell.onto is not None:
            project = _across(project, roof.plate, inner, edges(rings[n])[cell.onto])
    return project


def _shared_out(
    openings: tuple[RoofOpening, ...], rings: Sequence[Ring]
) -> list[tuple[RoofOpening, ...]]:
    """The openings in each part of a roof; those in no wing stay with the main part."""
    wings = [tuple(o for o in openings if holds(ring, o.at)) for ring in rings[1:]]
    taken = {o for mine in wings for o in mine}
    return [tuple(o for o in openings if o not in taken), *wings]


def _with_wing(
    project: Project,
    roof: RoofArea,
    shape: RoofShape,
    cell: Cell,
    wing: tuple[str, Ring, tuple[RoofOpening, ...]],
) -> Project:
    """A project with one wing more: its name, outline and openings; the rest as of the roof it
    was part of."""
    name, ring, lights = wing
    fields = {f: getattr(roof, f) for f in roof.__struct_fields__ if f not in OWN}
    project, made = add_roof(
        project,
        roof.plate,
        roof.walls,
        corners=ring,
        name=name,
        openings=lights,
        **fields,
    )
    return _with_sides(project, made, shape, cell.onto)


def _with_sides(project: Project, key: str, shape: RoofShape, onto: int | None) -> Project:
    """Let each side of a roof rise as what lay there does, and one run on into the roof it lies
    on."""
    bearings = bearings_of_roof(project, named(project.roofs, key, "roof"))
    if bearings is None:
        return project
    known = {f"old {e.name}": e.rule for e in shape.edges}
    there = side_names(bearings.outline, [(f"old {e.name}", e.a, e.b) for e in shape.edges])
    sides = []
    for n, along in enumerate(there):
        name = bearings.sides[n] if bearings.sides else str(n + 1)
        old = known.get(along)
        if n == onto:
            sides.append(RoofSide(name, "runs on"))
        elif old is not None and replace(old, side=name) != RoofSide(name):
            sides.append(replace(old, side=name))
    return set_roof(project, key, sides=tuple(sorted(sides, key=lambda s: s.side)))


def _across(project: Project, plate: str, inner: Bearings, side: tuple[Point, Point]) -> Project:
    """Put a beam on posts where a wing opens into the main part: under the line between them, where
    no wall carries."""
    a, b = side  # with the wing to its left
    way, length = unit(sub(b, a)), distance(a, b)
    under = -inner.width / 2
    free = [
        s * STEP
        for s in range(int(length / STEP) + 1)
        if all(
            distance_to_ring(_at(a, way, s * STEP, under), strip.ring) > 0 for strip in inner.strips
        )
    ]
    if not free or free[-1] - free[0] < OPEN:
        return project
    ends = (max(0.0, free[0] - inner.width), min(length, free[-1] + inner.width))
    start, end = (_at(a, way, at, under) for at in ends)
    project = put_beam(project, plate, BeamEnd(at=start), BeamEnd(at=end))[0]
    base = min(
        (w.base for w in project.walls if w.top == plate),
        key=lambda key: level(project, key).elevation,
    )
    for at, inward in zip(ends, (inner.width / 2, -inner.width / 2)):
        project = put_support(
            project, "post", _at(a, way, at + inward, under), base=base, top=plate
        )
    return project


def _at(a: Point, way: Point, along: float, aside: float) -> Point:
    """A place along a line and to the left of it."""
    x, y = add(add(a, way, along), left(way), aside)
    return round(x, 3), round(y, 3)
