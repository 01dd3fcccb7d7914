"""Walls, what they are built up of, and the openings in them.

A build-up lists its layers from the outer face to the inner one. Its name is made from them, so
that a name can never disagree with a thickness.
"""

import math
from itertools import pairwise
from typing import Annotated, Final, Literal

from msgspec import Meta
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.geometry.plane import Point, add, distance, left, sub, unit
from balken.model.record import (
    Coordinate,
    Key,
    Link,
    Name,
    Place,
    Reach,
    Record,
    SectionName,
    Shift,
    Size,
)
from balken.model.wall_frames import SetStud, StudRule
from balken.units import System, format_run

LayerRole = Literal["core", "sheathing", "insulation", "cladding", "lining"]
LAYER_RANK: Final = {"core": 5, "sheathing": 4, "insulation": 3, "cladding": 2, "lining": 1}
"""Where walls meet, the layer with the higher rank runs on and the lower one stops at it."""

PlacedBy = Literal["outer face", "core outer", "core centre", "core inner", "inner face", "free"]
"""Which part of a build-up the wall's line marks; ``free`` where a file puts the line elsewhere."""

FLATTEST: Final = 10.0
"""A curved wall is built of straight pieces that miss the curve by no more than this, mm."""


class Layer(Record, frozen=True):
    """One layer of a wall; the core is what stands: studs, block, concrete."""

    material: Annotated[str, Meta(min_length=1, max_length=80)]
    thickness: Annotated[float, Meta(gt=0, le=2000)]
    role: LayerRole
    density: Annotated[float, Meta(ge=0, le=1e-3)] | None = None
    """Weight typed, N/mm³; None where it is that of the material's name."""
    solid: Annotated[float, Meta(gt=0, le=1)] = 1.0
    """How much of it is material and not hollow."""
    sheet: tuple[Reach, Reach] = (0.0, 0.0)
    """Width and length of its sheets, mm; usual ones where empty."""
    laid: Literal["", "upright", "lying"] = ""
    """How its sheets are laid; as usual of its role where empty."""


class Module(Record, frozen=True):
    """The block module of a masonry wall: lengths come in steps of ``length``, heights in steps of
    ``course``.

    Both count one joint with each unit: a 390 x 190 unit with a 10 mm joint makes 400 x 200, laid
    in half bond on a module of 200.
    """

    length: Annotated[float, Meta(gt=1, le=2000)]
    course: Annotated[float, Meta(gt=1, le=2000)]
    joint: Annotated[float, Meta(ge=0, le=50)]


class WallBuildUp(Record, frozen=True):
    """What a wall is made of, from the outside in."""

    id: Key
    layers: Annotated[tuple[Layer, ...], Meta(min_length=1, max_length=20)]
    module: Module | None = None
    studs: StudRule | None = None
    """How walls of it are framed; not framed where empty."""


Portal = Literal["", "start", "end", "both"]
"""At which side of an opening its header runs on over the panel beside it, as a portal frame."""


class Opening(Record, frozen=True):
    """A hole through all layers of a wall: ``at`` from the wall's start to its near edge, ``sill``
    above the base.

    ``width`` and ``height`` are the rough opening. ``unit`` is the size of the door or window set
    into it, where it is known: width and height, mm.
    """

    id: Key
    kind: Literal["door", "window", "opening"]
    at: Coordinate
    width: Size
    height: Size
    sill: Shift
    unit: tuple[Reach, Reach] = (0.0, 0.0)
    rise: Reach = 0.0
    """Of a round head: from where it springs to its crown, which is the top of the rough opening, mm."""
    lintel: Reach = 0.0
    """How deep the lintel of concrete over it is, mm, in a wall of masonry or concrete; 0 by rule."""
    portal: Portal = ""
    kings: Annotated[int, Meta(ge=0, le=4)] = 0
    """Studs from plate to plate at each side of it; by rule where nothing."""
    jacks: Annotated[int, Meta(ge=0, le=6)] = 0
    """Studs under each end of its header; by calculation where nothing."""
    sills: Annotated[int, Meta(ge=0, le=2)] = 0
    """Plates over one another at its sill; as its wall's where nothing."""
    header: SectionName = ""
    """What its header is cut from; as its wall's, or by calculation, where empty."""


class Wall(Record, frozen=True):
    """An architect's wall from ``start`` to ``end``, its body on one side of that line (or
    centred), between levels.

    Where it has a build-up, the outside lies to the right of the line for ``side`` left, and to the
    left for right.
    """

    id: Key
    name: Name
    start: Place
    end: Place
    thickness: Annotated[float, Meta(gt=0, le=5000)]
    side: Literal["left", "right", "centre"]
    base: Key
    top: Key
    base_offset: Shift = 0.0
    top_offset: Shift = 0.0
    shift: Shift = 0.0
    """Of the body to the left of where ``side`` puts it: for lines that lie somewhere inside or
    outside their wall."""
    openings: tuple[Opening, ...] = ()
    source: Name = ""
    """GlobalId in the architect's file, empty for walls made here."""
    build_up: Link = ""
    by: PlacedBy = "free"
    lap: Reach = 0.0
    """How far the layers outside the core reach down below the wall's foot, mm."""
    bulge: Annotated[float, Meta(ge=-1.0, le=1.0)] = 0.0
    """Curve of the wall's line: the tangent of a quarter of the angle it turns through, to the left
    positive."""
    studs: StudRule | None = None
    """How its frame is made; as its build-up says where empty."""
    set_studs: Annotated[tuple[SetStud, ...], Meta(max_length=1000)] = ()
    """Studs that stand where a person set them, beside those of the layout."""
    slack: Annotated[tuple[Coordinate, ...], Meta(max_length=100)] = ()
    """Places along it, mm: the stretch between openings that each lies in is not to brace."""
    braces: bool | None = None
    """Whether it holds the building against wind and earthquake; outside walls do where empty."""


def wall_length(item: Wall) -> float:
    """The length along a wall's line, mm; along the curve where it is curved."""
    chord = math.hypot(item.end[0] - item.start[0], item.end[1] - item.start[1])
    if not item.bulge:
        return chord
    half = 2 * math.atan(abs(item.bulge))
    return chord * half / math.sin(half)


def along_by(item: Wall, by: float) -> Wall:
    """A wall with all that is measured from its start so much farther along, mm."""
    return replace(
        item,
        openings=tuple(replace(o, at=o.at + by) for o in item.openings),
        set_studs=tuple(replace(s, at=s.at + by) for s in item.set_studs),
        slack=tuple(x + by for x in item.slack),
    )


def called(item: Wall) -> str:
    """A wall's name with the word before it, where the name does not begin with it."""
    return item.name if item.name.startswith("wall") else f"wall {item.name}"


def direction_of(item: Wall) -> Point:
    """The unit direction from a wall's start to its end."""
    return unit(sub(item.end, item.start))


def reach(wall: Wall) -> tuple[float, float]:
    """How far a wall's body reaches to the left and to the right of its line, mm (right is
    negative)."""
    t, s = wall.thickness, wall.shift
    if wall.side == "left":
        return t + s, s
    if wall.side == "right":
        return s, s - t
    return t / 2 + s, s - t / 2


def thickness_of(build_up: WallBuildUp) -> float:
    """The sum of the layers, mm."""
    return round(sum(layer.thickness for layer in build_up.layers), 6)


def core_of(build_up: WallBuildUp) -> tuple[float, float]:
    """Where the core begins and ends, mm from the outer face.

    Raises:
        BalkenError: no layer is core.
    """
    from_face, begins, ends = 0.0, None, 0.0
    for layer in build_up.layers:
        if layer.role == "core":
            begins = from_face if begins is None else begins
            ends = from_face + layer.thickness
        from_face += layer.thickness
    if begins is None:
        raise BalkenError("A wall's build-up needs a core: the layer that stands.")
    return round(begins, 6), round(ends, 6)


def name_of(build_up: WallBuildUp, system: System) -> str:
    """What a build-up is called: its layers from the outside in, with their thicknesses."""
    parts = [f"{layer.material} {format_run(layer.thickness, system)}" for layer in build_up.layers]
    return f"{format_run(thickness_of(build_up), system)}: {', '.join(parts)}"


def short_name(build_up: WallBuildUp, system: System) -> str:
    """A short name: the core's material and the whole thickness."""
    core = next((x for x in build_up.layers if x.role == "core"), build_up.layers[0])
    return f"{core.material}, {format_run(thickness_of(build_up), system)}"


def from_outer(build_up: WallBuildUp, by: PlacedBy) -> float:
    """How far inside the outer face a wall's line lies, mm.

    Raises:
        BalkenError: ``by`` is free, or the build-up has no core.
    """
    begins, ends = core_of(build_up)
    places = {
        "outer face": 0.0,
        "core outer": begins,
        "core centre": (begins + ends) / 2,
        "core inner": ends,
        "inner face": thickness_of(build_up),
    }
    if by not in places:
        raise BalkenError(f"A wall cannot be placed by “{by}”.")
    return places[by]


def built(
    wall: Wall, build_up: WallBuildUp, by: PlacedBy, *, outside: Literal["left", "right"]
) -> Wall:
    """A wall with a build-up, its line where it was and its body placed about it."""
    inset = from_outer(build_up, by)
    side: Literal["left", "right"] = "left" if outside == "right" else "right"
    shift = -inset if side == "left" else inset
    return replace(
        wall,
        build_up=build_up.id,
        by=by,
        thickness=thickness_of(build_up),
        side=side,
        shift=round(shift, 6) + 0.0,
    )


def outside_of(wall: Wall) -> Literal["left", "right"]:
    """The side of a wall's line its outer face looks to."""
    return "left" if wall.side == "right" else "right"


def layer_bands(wall: Wall, build_up: WallBuildUp) -> list[tuple[Layer, float, float]]:
    """Each layer with how far its outer and its inner face lie to the left of the wall's
    line, mm."""
    far, near = reach(wall)
    outer, sign = (near, 1.0) if wall.side != "right" else (far, -1.0)
    found, done = [], 0.0
    for layer in build_up.layers:
        found.append((layer, outer + sign * done, outer + sign * (done + layer.thickness)))
        done += layer.thickness
    return found


def arc_of(start: Point, end: Point, bulge: float) -> tuple[Point, float, float, float]:
    """Centre, radius (signed: positive where it turns left), and the angles of start and
    end, radians."""
    chord = distance(start, end)
    radius = chord * (1 + bulge * bulge) / (4 * bulge)
    middle = ((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
    # The centre lies off the chord's middle, to the left for a left turn of less than half a
    # circle.
    away = radius - bulge * chord / 2
    centre = add(middle, left(unit(sub(end, start))), away)
    a = math.atan2(start[1] - centre[1], start[0] - centre[0])
    turn = 4 * math.atan(bulge)
    return centre, radius, a, a + turn


def arc_points(start: Point, end: Point, bulge: float, deviation: float = FLATTEST) -> list[Point]:
    """Points along an arc, ends included, no further from it between them than
    ``deviation``, mm."""
    if not bulge:
        return [start, end]
    centre, radius, a, b = arc_of(start, end, bulge)
    r = abs(radius)
    step = 2 * math.acos(max(0.0, 1 - min(deviation, r) / r)) or 0.1
    count = max(2, math.ceil(abs(b - a) / step))
    angles = [a + (b - a) * i / count for i in range(count + 1)]
    points = [(centre[0] + r * math.cos(t), centre[1] + r * math.sin(t)) for t in angles]
    return [start, *points[1:-1], end]


def arc_middle(item: Wall) -> Point:
    """The place half way along a wall, on its curve where it is curved."""
    if not item.bulge:
        return ((item.start[0] + item.end[0]) / 2, (item.start[1] + item.end[1]) / 2)
    centre, radius, a, b = arc_of(item.start, item.end, item.bulge)
    t = (a + b) / 2
    return (centre[0] + abs(radius) * math.cos(t), centre[1] + abs(radius) * math.sin(t))


def straightened(walls: tuple[Wall, ...]) -> tuple[Wall, ...]:
    """Walls with each curved one as straight pieces, named ``W5~1``, ``W5~2`` …; that is how
    they are framed."""
    if not any(w.bulge for w in walls):
        return walls
    found: list[Wall] = []
    for wall in walls:
        if not wall.bulge:
            found.append(wall)
            continue
        points = arc_points(wall.start, wall.end, wall.bulge)
        found += [
            replace(wall, id=f"{wall.id}~{i}", start=a, end=b, bulge=0.0, openings=())
            for i, (a, b) in enumerate(pairwise(points), 1)
        ]
    return tuple(found)
