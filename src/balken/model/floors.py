"""Records of floors: what they are built up of, where they lie, what is left out of them."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.aims import Aim
from balken.model.record import (
    AreaLoad,
    Key,
    Link,
    Name,
    Place,
    Reach,
    Record,
    SectionName,
    ServiceClass,
    Shift,
    Spacing,
    Turn,
)
from balken.model.uses import FloorUse

FloorKind = Literal["joists", "slab"]
Rule = Literal["exact", "maximum", "equal", "clear", "count"]
RULE_WORDS: Final[dict[Rule, str]] = {
    "exact": "at exactly",
    "maximum": "at most, all alike",
    "equal": "nearest, all alike",
    "clear": "clear between them",
    "count": "so many",
}
Blocking = Literal["none", "bearings", "bearings and middle"]


class BuildUp(Record, frozen=True):
    """What a floor or ceiling is made of; sizes and spacings are what sizing may choose from.

    Sizes name lumber or products of any kind that spans. A slab has a thickness instead, and no
    sizes.
    """

    id: Key
    use: Literal["floor", "ceiling"]
    species: Name
    grade: Name
    sizes: tuple[SectionName, ...]
    spacings: tuple[Spacing, ...]
    subfloor: Annotated[float, Meta(ge=0, le=500)] = 0.0
    kind: FloorKind = "joists"
    slab: Annotated[float, Meta(ge=0, le=2000)] = 0.0
    """Thickness of a solid slab, mm."""
    ceiling: Annotated[float, Meta(ge=0, le=500)] = 0.0
    """Board under the joists, mm."""
    insulation: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    """Between the joists, mm; it gives way to them."""
    rule: Rule = "exact"
    """How the spacing is kept."""
    end_gap: Annotated[float, Meta(ge=0, le=2000)] = 0.0
    """An extra joist stands in a last gap wider than this, mm; none where nothing."""
    least_clear: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    """Clear distance kept between joists, mm."""
    blocking: Blocking = "none"
    bridging: Literal["none", "crossed"] = "none"
    """Rows of crossed boards between joists, 8 ft apart at most (IRC 2021 R502.7.1)."""
    lap: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    """How far joists run past each other over a beam, mm; nothing where they butt."""
    splice: Annotated[float, Meta(ge=0, le=3000)] = 0.0
    """Length of the board nailed beside joists that butt over a bearing, mm; none where nothing."""


class FloorOpening(Record, frozen=True):
    """What is left out of a floor: a rectangle by its middle, size and turn, or any outline by its
    corners.

    With ``wall``, the place is measured along that wall from its start, and away from it to the
    left.
    """

    id: Key
    use: Literal["stair", "shaft", "chimney", "atrium"]
    at: Place = (0.0, 0.0)
    size: tuple[Reach, Reach] = (0.0, 0.0)
    turn: Turn = 0.0
    corners: Annotated[tuple[Place, ...], Meta(max_length=200)] = ()
    wall: Link = ""
    clear: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    """Kept clear all round: 50 mm (2 in) round a chimney (IRC 2021 R1001.11)."""


class FloorEdge(Record, frozen=True):
    """How one side of a floor differs: along which wall, how far out it reaches (in where
    negative), what carries it."""

    wall: Key
    out: Shift = 0.0
    ledger: bool = False
    """Joists hang on a ledger at the wall's inner face instead of lying on it."""


class FloorCut(Record, frozen=True):
    """A line across a floor; only what lies to its left belongs to the area. On a grid line where
    one is named, the side being that of ``start`` to ``end`` along it."""

    start: Place
    end: Place
    grid: Link = ""
    line: Link = ""
    other_side: bool = False


class FloorArea(Record, frozen=True):
    """A floor over the outline of ``walls``, bearing at the level ``bears_on``, with its top at the
    level ``level``.

    ``section`` and ``spacing`` are empty where they come out by calculation, and typed where a
    person holds them.
    """

    id: Key
    name: Name
    level: Key
    bears_on: Key
    walls: tuple[Key, ...]
    build_up: Key
    dead: AreaLoad
    live: AreaLoad
    span: Literal["short", "long", "x", "y", "turned"] = "short"
    section: SectionName | None = None
    spacing: Spacing | None = None
    live_limit: Annotated[float, Meta(ge=100, le=2000)] = 360.0
    total_limit: Annotated[float, Meta(ge=100, le=2000)] = 240.0
    aim: Aim = "cost"
    """What its joists are chosen for, where they come out by calculation."""
    turn: Turn = 0.0
    """Direction of the joists where ``span`` is ``turned``, degrees from x to the left."""
    start: Shift = 0.0
    """How far the layout begins after the first edge, mm."""
    room: Place | None = None
    """A place in the room it fills, where it fills one of several inside the walls."""
    corners: Annotated[tuple[Place, ...], Meta(max_length=500)] = ()
    """An outline of its own: inside the walls' where there are both."""
    edge: Shift = 0.0
    """How far its edge reaches out past the walls, in where negative, mm."""
    edges: Annotated[tuple[FloorEdge, ...], Meta(max_length=200)] = ()
    cuts: Annotated[tuple[FloorCut, ...], Meta(max_length=20)] = ()
    openings: Annotated[tuple[FloorOpening, ...], Meta(max_length=100)] = ()
    use: FloorUse = "rooms"
    """What live load stands on it, and how long."""
    dead_from: Literal["typed", "layers"] = "typed"
    """Whether its dead load is typed, or is what its build-up weighs."""
    finishes: AreaLoad = 0.0
    """Of what lies on or hangs under its layers, where it weighs what they do, N/mm²."""
    partitions: AreaLoad | None = None
    """An allowance for partitions, N/mm²: walls that stand on its joists and carry nothing then
    weigh nothing more. None where they weigh what they do, as they stand."""
    walk: Reach = 0.0
    """How far one joist may sag under a person, 1 kN in its middle, mm: what the code has where
    nothing is typed."""
    service: ServiceClass | None = None
    """Of the air round it; the usual one of its kind where empty."""
