"""The records of a project: intent only, never what follows from it. All lengths mm, loads N/mm²; x east, y north, z up.

The field limits are part of the records, so that a file, an edit and a test meet the same ones.
"""

from collections.abc import Sequence
from typing import Annotated, Final, Literal

import msgspec
from msgspec import Meta

from balken.geometry.plane import Point
from balken.units import FOOT, INCH, PSF, System

FORMAT: Final = 1
"""The version of the project file; :mod:`balken.exchange.native` steps older ones up."""

Key = Annotated[str, Meta(min_length=1, max_length=80, pattern=r"^[^/\s:]+$")]
"""The lasting short name of a record: no spaces, slashes or colons, since member names are built from it."""
Name = Annotated[str, Meta(max_length=200)]
Coordinate = Annotated[float, Meta(ge=-1e9, le=1e9)]
Size = Annotated[float, Meta(gt=0, le=1e6)]
"""A length that must be there: more than nothing, at most a kilometre."""
Reach = Annotated[float, Meta(ge=0, le=1e6)]
"""A length that may be nothing."""
Shift = Annotated[float, Meta(ge=-1e6, le=1e6)]
AreaLoad = Annotated[float, Meta(ge=0, le=0.1)]
"""N/mm², at most 100 kN/m²."""
Place = tuple[Coordinate, Coordinate]
SectionName = Annotated[str, Meta(max_length=40)]

Role = Literal["ground", "footing_bottom", "footing_top", "slab", "foundation_top", "floor", "plate", "ridge"]

ROLE_WORDS: Final[dict[str, str]] = {
    "ground": "ground",
    "footing_bottom": "bottom of footing",
    "footing_top": "top of footing",
    "slab": "basement slab",
    "foundation_top": "top of foundation",
    "floor": "floor",
    "plate": "plate",
    "ridge": "ridge",
}


class Record(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=False):
    """Base of every record: frozen, hashable, strict about unknown fields."""


class Level(Record, frozen=True):
    """A height in the column of the building. Floors are measured to the top of the subfloor."""

    id: Key
    name: Name
    role: Role
    elevation: Shift


class GridLine(Record, frozen=True):
    """One line of a grid: runs along the grid's ``x`` or ``y`` at ``offset`` from the origin, between two extents."""

    id: Key
    label: Annotated[str, Meta(min_length=1, max_length=20)]
    runs: Literal["x", "y"]
    offset: Coordinate
    start: Coordinate
    end: Coordinate


class Grid(Record, frozen=True):
    """Straight lines both ways about an origin; ``angle`` in degrees turns the whole to the left."""

    id: Key
    origin: Place
    angle: Annotated[float, Meta(ge=-360, le=360)]
    lines: tuple[GridLine, ...]


class Opening(Record, frozen=True):
    """A hole through all layers of a wall: ``at`` from the wall's start to its near edge, ``sill`` above the base."""

    id: Key
    kind: Literal["door", "window", "opening"]
    at: Coordinate
    width: Size
    height: Size
    sill: Shift


class Wall(Record, frozen=True):
    """An architect's wall from ``start`` to ``end``, its body on one side of that line (or centred), between levels."""

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
    """Of the body to the left of where ``side`` puts it: for lines that lie somewhere inside or outside their wall."""
    openings: tuple[Opening, ...] = ()
    source: Name = ""
    """GlobalId in the architect's file, empty for walls made here."""


class FoundationRun(Record, frozen=True):
    """A strip footing and stem wall under a set of walls, with its sill plate.

    The stem spans from the level ``base`` (top of footing) to the level ``top`` (top of foundation); the footing lies
    between ``bottom`` and ``base``. ``offset`` moves the stem's outer face out of the wall's (negative: in).
    """

    id: Key
    name: Name
    walls: tuple[Key, ...]
    top: Key
    base: Key
    bottom: Key
    stem_thickness: Annotated[float, Meta(gt=0, le=3000)]
    footing_width: Annotated[float, Meta(gt=0, le=20000)]
    offset: Annotated[float, Meta(ge=-1000, le=1000)] = 0.0
    sill: SectionName = "2x6"


class BuildUp(Record, frozen=True):
    """What a joist floor or ceiling is made of; sizes and spacings are what sizing may choose from."""

    id: Key
    use: Literal["floor", "ceiling"]
    species: Name
    grade: Name
    sizes: tuple[SectionName, ...]
    spacings: tuple[Size, ...]
    subfloor: Annotated[float, Meta(ge=0, le=500)] = 0.0


class FloorArea(Record, frozen=True):
    """Joists over the outline of ``walls``, bearing at the level ``bears_on``, with its top at the level ``level``.

    ``section`` and ``spacing`` are empty where they come out by calculation, and typed where a person holds them.
    """

    id: Key
    name: Name
    level: Key
    bears_on: Key
    walls: tuple[Key, ...]
    build_up: Key
    dead: AreaLoad
    live: AreaLoad
    span: Literal["short", "x", "y"] = "short"
    section: SectionName | None = None
    spacing: Size | None = None
    live_limit: Annotated[float, Meta(ge=100, le=2000)] = 360.0
    total_limit: Annotated[float, Meta(ge=100, le=2000)] = 240.0


class GableRoof(Record, frozen=True):
    """Two planes meeting at a ridge over the rectangle of ``walls``, on the level ``plate``.

    ``dead`` lies on the slope; ``live`` and ``snow`` on the horizontal. ``seat`` is the level cut of the birdsmouth,
    as wide as the plate where empty.
    """

    id: Key
    name: Name
    plate: Key
    walls: tuple[Key, ...]
    rise: Annotated[float, Meta(ge=1.0, le=36.0)]
    """Rise in 12 of run (6 for 6 in 12)."""
    overhang: Annotated[float, Meta(ge=0, le=3000)]
    species: Name
    grade: Name
    sizes: tuple[SectionName, ...]
    spacings: tuple[Size, ...]
    dead: AreaLoad
    live: AreaLoad
    snow: AreaLoad
    ridge: Literal["long", "x", "y"] = "long"
    section: SectionName | None = None
    spacing: Size | None = None
    seat: Annotated[float, Meta(gt=0, le=1000)] | None = None
    live_limit: Annotated[float, Meta(ge=100, le=2000)] = 180.0
    total_limit: Annotated[float, Meta(ge=100, le=2000)] = 120.0


class Site(Record, frozen=True):
    """What the place asks for. Presumptive soil bearing: IRC 2021 R401.4.1 (1500 psf for clay, the least)."""

    frost_depth: Reach = 36 * INCH
    soil_bearing: Annotated[float, Meta(gt=0, le=10)] = 1500 * PSF
    clearance: Reach = 6 * INCH
    wall_dead: AreaLoad = 12 * PSF
    concrete: Annotated[float, Meta(gt=0, le=1e-4)] = 150 * PSF / FOOT
    """Weight of concrete, N/mm³."""


class Change(Record, frozen=True):
    """A change by hand against a member's lasting name; it survives every regeneration."""

    member: Name
    section: SectionName | None = None
    removed: bool = False
    shift: Shift = 0.0
    """Moved sideways along the layout, mm."""


class ReadNote(Record, frozen=True):
    """Something in an architect's file that did not come in, and why."""

    source: Name
    what: Name
    why: Annotated[str, Meta(max_length=500)]


class Project(Record, frozen=True):
    """A building: everything a person decided, and nothing that follows from it."""

    format: int
    name: Name
    system: System
    levels: Annotated[tuple[Level, ...], Meta(max_length=200)] = ()
    grids: Annotated[tuple[Grid, ...], Meta(max_length=20)] = ()
    walls: Annotated[tuple[Wall, ...], Meta(max_length=5000)] = ()
    runs: Annotated[tuple[FoundationRun, ...], Meta(max_length=500)] = ()
    build_ups: Annotated[tuple[BuildUp, ...], Meta(max_length=200)] = ()
    floors: Annotated[tuple[FloorArea, ...], Meta(max_length=500)] = ()
    roofs: Annotated[tuple[GableRoof, ...], Meta(max_length=100)] = ()
    site: Site = Site()
    changes: Annotated[tuple[Change, ...], Meta(max_length=100000)] = ()
    notes: Annotated[tuple[ReadNote, ...], Meta(max_length=20000)] = ()


def level(project: Project, key: str) -> Level:
    """Return a level by its key; a valid project has every level that its records name."""
    return next(item for item in project.levels if item.id == key)


def wall(project: Project, key: str) -> Wall:
    """Return a wall by its key."""
    return next(item for item in project.walls if item.id == key)


def host_record(project: Project, host: str) -> FoundationRun | FloorArea | GableRoof:
    """Return the record behind a host's name (``run:G1``, ``floor:F1``, ``roof:R1``).

    Raises:
        StopIteration: there is none.
    """
    kind, key = host.split(":", 1)
    records: dict[str, Sequence[FoundationRun | FloorArea | GableRoof]]
    records = {"run": project.runs, "floor": project.floors, "roof": project.roofs}
    return next(r for r in records[kind] if r.id == key)


def column(project: Project) -> tuple[Level, ...]:
    """Return the levels from the lowest up."""
    return tuple(sorted(project.levels, key=lambda item: (item.elevation, item.id)))


def wall_base(project: Project, item: Wall) -> float:
    """Return the height of a wall's foot, mm."""
    return level(project, item.base).elevation + item.base_offset


def wall_top(project: Project, item: Wall) -> float:
    """Return the height of a wall's top, mm."""
    return level(project, item.top).elevation + item.top_offset


def wall_length(item: Wall) -> float:
    """Return the length along a wall's line, mm."""
    return float(((item.end[0] - item.start[0]) ** 2 + (item.end[1] - item.start[1]) ** 2) ** 0.5)


def grid_ends(grid: Grid, line: GridLine) -> tuple[Point, Point]:
    """Return both ends of a grid line in the plan of the building."""
    from math import cos, radians, sin

    c, s = cos(radians(grid.angle)), sin(radians(grid.angle))
    ends = [(line.start, line.offset), (line.end, line.offset)]
    if line.runs == "y":
        ends = [(b, a) for a, b in ends]
    (x0, y0), (x1, y1) = [(grid.origin[0] + c * x - s * y, grid.origin[1] + s * x + c * y) for x, y in ends]
    return (x0, y0), (x1, y1)
