"""The records of a project: intent only, never what follows from it. Walls, grids and foundations
have files of their own."""

from collections.abc import Iterable, Sequence
from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.beams import Beam, BeamBay
from balken.model.cases import NOTHING, Cases
from balken.model.drawn_loads import DrawnLoad
from balken.model.fasteners import Fastener
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import FoundationRun, Site
from balken.model.grids import Grid
from balken.model.named import named
from balken.model.names import HostKind, HostName, MemberName
from balken.model.paper import Paper
from balken.model.prices import Estimate
from balken.model.record import (
    Code,
    Key,
    Link,
    Load,
    Move,
    Name,
    Place,
    Reach,
    Record,
    SectionName,
    ServiceClass,
    Shift,
    Size,
    Turn,
)
from balken.model.roofs import RoofArea
from balken.model.sections import Product
from balken.model.stock import StockRule
from balken.model.walls import Wall, WallBuildUp
from balken.units import System

FORMAT: Final = 8
"""The version of the project file; :mod:`balken.exchange.native` steps older ones up."""

Role = Literal[
    "ground", "footing_bottom", "footing_top", "slab", "foundation_top", "floor", "plate", "ridge"
]

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


class Level(Record, frozen=True):
    """A height in the column of the building. Floors are measured to the top of the subfloor."""

    id: Key
    name: Name
    role: Role
    elevation: Shift
    held: bool = True
    """A held level stays; one that is not held follows from what is built up to it."""
    lock: Name = ""
    """Levels with the same word here move together; empty for none."""


class Change(Record, frozen=True):
    """A change by hand against a member's lasting name; it survives every regeneration."""

    member: MemberName
    section: SectionName | None = None
    removed: bool = False
    shift: Move = 0.0
    """Moved sideways along the layout, mm."""
    along: Move = 0.0
    """Moved along itself, mm."""
    up: Move = 0.0
    """Moved up, mm."""
    turn: Turn = 0.0
    """Turned in plan about its middle, degrees to the left."""
    longer: tuple[Move, Move] = (0.0, 0.0)
    """Made longer at its start and its end, shorter where negative, mm."""


class AddedMember(Record, frozen=True):
    """A piece added by hand to what a host makes: a joist of a floor, from one place to another, in
    plan."""

    id: Key
    host: HostName
    """Like ``floor:F1``."""
    start: Place
    end: Place
    section: SectionName | None = None
    """As the host's others where empty."""


class Bore(Record, frozen=True):
    """A hole through a piece, or a notch in its edge, for pipes and wires."""

    id: Key
    member: MemberName
    kind: Literal["hole", "notch"]
    at: Shift
    """Along the piece from its start, to the middle, mm."""
    size: Size
    """Width of a hole, depth of a notch, mm."""
    up: Reach = 0.0
    """Of a hole's middle over the underside, mm."""


class PointSupport(Record, frozen=True):
    """A post, pad or pier that stands on one spot, between two levels.

    ``at`` is measured from the crossing of the two grid lines it stands on, or from the origin
    where it stands free. A pad's top is its ``top`` level; a round one has its first size as
    diameter.
    """

    id: Key
    kind: Literal["post", "pad", "pier"]
    size: tuple[Size, Size]
    base: Key
    top: Key
    at: Place = (0.0, 0.0)
    grid: Link = ""
    lines: tuple[Link, Link] = ("", "")
    round: bool = False
    turn: Turn = 0.0
    base_offset: Shift = 0.0
    top_offset: Shift = 0.0
    thickness: Reach = 0.0
    """Of a pad, hung below its top level; nothing for what lies between its two levels."""
    loads: Cases = NOTHING
    """Typed load of what stands on it, N; a typed dead load has the post's own weight in it."""
    uplift: Reach = 0.0
    """Wind that lifts it, N."""
    moments: tuple[Load, Load] = (0.0, 0.0)
    """Of the dead load, tilting it along its width and along its depth, N mm."""
    section: SectionName = ""
    """Of a post, a section of the catalogue or a typed product; its size then follows."""
    species: Name = ""
    grade: Name = ""
    """Of sawn lumber; a product brings its own values."""
    tied: bool = True
    """A post's top goes to the underside of what lies on it, its foot to the top of what it stands
    on, where near."""
    service: ServiceClass | None = None
    """Of the air round it; the usual one of its kind where empty."""
    group: Name = ""
    """Posts, or pads, of one size, for the worst of them; alone where empty."""


class Spot(Record, frozen=True):
    """A measured height of the ground."""

    at: Place
    height: Shift


class TracedLayer(Record, frozen=True):
    """One layer of a background drawing: lines to trace and snap to."""

    name: Name
    lines: Annotated[
        tuple[Annotated[tuple[Place, ...], Meta(min_length=2, max_length=2000)], ...],
        Meta(max_length=50000),
    ]
    shown: bool = True


class Background(Record, frozen=True):
    """A drawing of others laid under a level's plan."""

    id: Key
    name: Name
    layers: Annotated[tuple[TracedLayer, ...], Meta(max_length=1000)]
    level: Link = ""
    """The level whose plan it lies under; empty for every plan."""


class Reference(Record, frozen=True):
    """A slab or roof of the architect's, shown but not built: its outline in plan and its
    heights."""

    id: Key
    name: Name
    kind: Literal["slab", "roof"]
    outline: Annotated[tuple[Place, ...], Meta(min_length=3, max_length=2000)]
    bottom: Shift
    top: Shift
    source: Name = ""


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
    """The measure of length it is drawn in."""
    code: Code
    """What its members are held to."""
    levels: Annotated[tuple[Level, ...], Meta(max_length=200)] = ()
    grids: Annotated[tuple[Grid, ...], Meta(max_length=50)] = ()
    walls: Annotated[tuple[Wall, ...], Meta(max_length=5000)] = ()
    runs: Annotated[tuple[FoundationRun, ...], Meta(max_length=500)] = ()
    build_ups: Annotated[tuple[BuildUp, ...], Meta(max_length=200)] = ()
    floors: Annotated[tuple[FloorArea, ...], Meta(max_length=500)] = ()
    roofs: Annotated[tuple[RoofArea, ...], Meta(max_length=100)] = ()
    site: Site = Site()
    changes: Annotated[tuple[Change, ...], Meta(max_length=100000)] = ()
    notes: Annotated[tuple[ReadNote, ...], Meta(max_length=20000)] = ()
    wall_build_ups: Annotated[tuple[WallBuildUp, ...], Meta(max_length=500)] = ()
    point_supports: Annotated[tuple[PointSupport, ...], Meta(max_length=20000)] = ()
    spots: Annotated[tuple[Spot, ...], Meta(max_length=20000)] = ()
    backgrounds: Annotated[tuple[Background, ...], Meta(max_length=20)] = ()
    references: Annotated[tuple[Reference, ...], Meta(max_length=2000)] = ()
    products: Annotated[tuple[Product, ...], Meta(max_length=500)] = ()
    beams: Annotated[tuple[Beam, ...], Meta(max_length=5000)] = ()
    bays: Annotated[tuple[BeamBay, ...], Meta(max_length=1000)] = ()
    added: Annotated[tuple[AddedMember, ...], Meta(max_length=20000)] = ()
    bores: Annotated[tuple[Bore, ...], Meta(max_length=20000)] = ()
    fasteners: Annotated[tuple[Fastener, ...], Meta(max_length=20)] = ()
    """What is chosen for each use; none where only the demand is told."""
    loads: Annotated[tuple[DrawnLoad, ...], Meta(max_length=2000)] = ()
    paper: Paper = Paper()
    stock: StockRule = StockRule()
    estimate: Estimate = Estimate()
    identity: Annotated[str, Meta(max_length=64)] = ""
    """Lasting, of the project as saved: by it unsaved work finds back to its own file; empty until
    it was saved."""


def level(project: Project, key: str) -> Level:
    """A level by its key; a valid project has every level that its records name."""
    return named(project.levels, key, "level")


def wall(project: Project, key: str) -> Wall:
    """A wall by its key."""
    return named(project.walls, key, "wall")


def grid(project: Project, key: str) -> Grid:
    """A grid by its key."""
    return named(project.grids, key, "grid")


def wall_build_up(project: Project, item: Wall) -> WallBuildUp | None:
    """What a wall is built up of; None where only its thickness is known."""
    return next((b for b in project.wall_build_ups if b.id == item.build_up), None)


Host = FoundationRun | FloorArea | RoofArea | Beam | BeamBay | Wall


def hosts_by_kind(project: Project) -> dict[HostKind, Sequence[Host]]:
    """The records that make members and take changes by hand, by their kind."""
    return {
        "run": project.runs,
        "floor": project.floors,
        "roof": project.roofs,
        "beam": project.beams,
        "bay": project.bays,
        "wall": project.walls,
    }


def host_record(project: Project, host: HostName) -> Host:
    """The record behind a host's name.

    Raises:
        MissingError: there is none.
    """
    return named(hosts_by_kind(project)[host.kind], host.key, host.kind)


def host_records(project: Project) -> dict[HostName, Host]:
    """The records behind all hosts' names: for those who ask for many."""
    return {
        HostName(kind, item.id): item
        for kind, items in hosts_by_kind(project).items()
        for item in items
    }


def column(project: Project) -> tuple[Level, ...]:
    """The levels from the lowest up."""
    return tuple(sorted(project.levels, key=lambda item: (item.elevation, item.id)))


def wall_base(project: Project, item: Wall) -> float:
    """The height of a wall's foot, mm."""
    return level(project, item.base).elevation + item.base_offset


def changes_on(project: Project, host: HostName) -> tuple[Change, ...]:
    """The changes by hand on the members of one host."""
    return tuple(c for c in project.changes if c.member.host == host)


def wall_top(project: Project, item: Wall) -> float:
    """The height of a wall's top, mm."""
    return level(project, item.top).elevation + item.top_offset


def levels_of(levels: Iterable[Level], *roles: Role) -> list[Level]:
    """Those of some levels that have one of these roles, in their order."""
    return [x for x in levels if x.role in roles]
