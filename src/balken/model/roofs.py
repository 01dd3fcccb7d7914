"""Records of roofs: how each side rises, what frames them, what is left out of them.

A side is named by the wall it lies along, or by its number from 1 where the roof has an outline of
its own.
"""

from typing import Annotated, Final, Literal, get_args

from msgspec import Meta

from balken.model.aims import Aim
from balken.model.names import HostName
from balken.model.record import (
    AreaLoad,
    Key,
    Name,
    Place,
    Record,
    SectionName,
    ServiceClass,
    Shift,
    Size,
    Spacing,
)

Rise = Annotated[float, Meta(ge=0.25, le=60.0)]
"""Rise in 12 of run (6 for 6 in 12)."""
Overhang = Annotated[float, Meta(ge=0, le=3000)]

SideKind = Literal["slope", "gable", "wall", "runs on"]
"""What the roof does at a side: it rises from it; it ends over it, upright, as a gable or the high
side of a shed; it ends against a higher wall; it runs on until it meets another roof in valleys."""
SIDE_WORDS: Final[dict[SideKind, str]] = {
    "slope": "slopes up from it",
    "gable": "gable",
    "wall": "against a wall",
    "runs on": "runs into another roof",
}

TrussKind = Literal[
    "king post",
    "king post with struts",
    "queen post",
    "Fink",
    "Howe",
    "Pratt",
    "fan",
    "double Fink",
    "double Howe",
    "mono",
    "attic",
]
TRUSS_KINDS: Final[tuple[TrussKind, ...]] = get_args(TrussKind)


JointNumber = Annotated[int, Meta(ge=1, le=200)]


class RoofBreak(Record, frozen=True):
    """Where a side goes on with another rise, as in a gambrel or a mansard: height over its plate,
    mm."""

    height: Size
    rise: Rise


class RoofSide(Record, frozen=True):
    """How one side differs from the rest of its roof; what is empty is as the roof's."""

    side: Key
    kind: SideKind = "slope"
    rise: Rise | None = None
    overhang: Overhang | None = None
    plate: Shift = 0.0
    """Of its plate over the roof's plate level, mm."""
    breaks: Annotated[tuple[RoofBreak, ...], Meta(max_length=5)] = ()


class RoofOpening(Record, frozen=True):
    """A skylight: ``at`` its middle in plan, ``size`` across the slope and up the slope, measured
    on the roof, mm."""

    id: Key
    at: Place
    size: tuple[Size, Size]
    use: Literal["skylight", "dormer", "chimney"] = "skylight"


RafterPart = Literal[
    "ridge",
    "hips",
    "valleys",
    "jacks",
    "purlins",
    "struts",
    "barge rafters",
    "lookouts",
    "collar ties",
    "ties",
    "fascia",
    "headers",
]
"""Kinds of pieces that can be left out, or cut from a section of their own."""
Pairs = Literal["none", "each", "every second", "by distance"]
"""Which pairs of rafters are tied."""


class Rafters(Record, frozen=True):
    """How a roof is framed with rafters."""

    ridge: Literal["board", "beam"] = "board"
    """A board carries nothing and the pairs lean together; a beam carries their upper ends to posts
    or walls."""
    layout: Literal["edge", "middle"] = "edge"
    """Rafters are set out from the first edge, or so that one stands in the middle."""
    begin: Shift = 0.0
    """How far the layout begins after the first edge, mm."""
    end_gap: Annotated[float, Meta(ge=0, le=2000)] = 0.0
    """An extra rafter stands in a last gap wider than this, mm; none where nothing."""
    least_clear: Annotated[float, Meta(ge=0, le=1000)] = 0.0
    hips: Literal["backed", "dropped"] = "backed"
    """The top edge is planed to both roof planes, or the hip is set lower so that its edges lie in
    them."""
    collar: Pairs = "none"
    ties: Pairs = "none"
    """Of what holds the feet of pairs together, beside the rafters, in the lower third."""
    tie_gap: Spacing = 1219.2
    """Between ties by distance, at most, mm (4 ft: IRC 2021 R802.4.6)."""
    tie_up: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    """Of the ties' underside over the plate, mm."""
    purlin_up: Annotated[float, Meta(ge=0, le=20000)] = 0.0
    """Height over the plate of a purlin under the rafters, mm; none where nothing."""
    strut_gap: Spacing = 1219.2
    """Between the struts that carry a purlin, at most, mm (4 ft: IRC 2021 R802.4.5)."""
    stagger: bool = False
    """Rafters on the two sides of a ridge stand beside one another, not head to head."""
    joints: Literal["mitred", "butt", "one through"] = "mitred"
    """Where ridges and hips meet, and fascia at corners: each cut to the half of the corner; the
    lesser butts on the greater; or one runs through and the next butts on it."""
    line_up: HostName | None = None
    """The floor or roof, such as ``floor:F2``, over whose joists or trusses the rafters stand."""
    fascia: SectionName | None = None
    """What runs along the eaves at the ends of the rafters; nothing where empty."""
    left_out: tuple[RafterPart, ...] = ()
    sections: Annotated[tuple[tuple[RafterPart, SectionName], ...], Meta(max_length=20)] = ()
    """What pieces of a kind are cut from, where not by calculation or as the rafters."""


class Trusses(Record, frozen=True):
    """How a roof is framed with trusses."""

    kind: TrussKind = "Fink"
    bottom_rise: Annotated[float, Meta(ge=0, le=10000)] = 0.0
    """Of the bottom chord's middle: scissors, mm."""
    bottom_dead: AreaLoad = 0.00048
    bottom_live: AreaLoad = 0.00048
    """On the bottom chord, on plan, N/mm²."""
    uplift: AreaLoad = 0.0
    """Of the wind, on the plan, N/mm²."""
    studs: Annotated[float, Meta(ge=0, le=2000)] = 609.6
    """Between the studs of gable trusses, mm; none where nothing."""
    plate_strength: Annotated[float, Meta(gt=0, le=20)] = 1.4
    """What a pair of plates holds per area of one, N/mm², for the estimate of their size."""
    chords: tuple[SectionName, ...] = ()
    webs: tuple[SectionName, ...] = ()
    """What chords and webs may be cut from; the smallest that passes is taken, for all trusses of a
    kind alike."""
    hip_setback: Annotated[float, Meta(ge=0, le=20000)] = 0.0
    """How far inside a hip end the girder stands that the jacks hang on, mm; by the span where
    nothing."""
    panels: Annotated[int, Meta(ge=0, le=12)] = 0
    """Of each stretch of the top chord, with posts and braces; as the shape has them where
    nothing."""
    moved: Annotated[tuple[tuple[JointNumber, Shift], ...], Meta(max_length=60)] = ()
    """Joints by their number on the drawing, and how far each stands along its chord from where the
    shape has it, mm."""
    bearing: Literal["bottom chord", "top chord"] = "bottom chord"
    """What lies on the plate: the bottom chord, or the top chord, with the bottom chord hung inside
    the walls."""
    hang: Annotated[float, Meta(ge=0, le=3000)] = 300.0
    """How far the underside of the bottom chord lies under the plate where the top chord bears,
    mm."""
    camber: Annotated[float, Meta(ge=0, le=100)] = 0.0
    """Built into the bottom chord's middle, upward, mm."""


class RoofArea(Record, frozen=True):
    """A roof over the outline of ``walls`` (or its own ``corners``), on the level ``plate``.

    ``dead`` lies on the slope; ``live`` and ``snow`` on the horizontal. ``section`` and ``spacing``
    are empty where they come out by calculation. ``seat`` is the level cut of the birdsmouth, as
    wide as the plate where empty; ``heel`` the plumb height of the roof over the plate at the outer
    face of the wall, which follows from the seat where empty.
    """

    id: Key
    name: Name
    plate: Key
    walls: tuple[Key, ...]
    rise: Rise
    overhang: Overhang
    species: Name
    grade: Name
    sizes: tuple[SectionName, ...]
    spacings: tuple[Spacing, ...]
    dead: AreaLoad
    live: AreaLoad
    snow: AreaLoad
    """Typed; not looked at where it comes from the site."""
    section: SectionName | None = None
    spacing: Spacing | None = None
    seat: Annotated[float, Meta(gt=0, le=1000)] | None = None
    heel: Annotated[float, Meta(gt=0, le=3000)] | None = None
    live_limit: Annotated[float, Meta(ge=100, le=2000)] = 180.0
    total_limit: Annotated[float, Meta(ge=100, le=2000)] = 120.0
    rake: Overhang | None = None
    """Overhang at gables; as at the eaves where empty."""
    sides: Annotated[tuple[RoofSide, ...], Meta(max_length=200)] = ()
    corners: Annotated[tuple[Place, ...], Meta(max_length=500)] = ()
    courts: Annotated[
        tuple[Annotated[tuple[Place, ...], Meta(min_length=3, max_length=200)], ...],
        Meta(max_length=20),
    ] = ()
    """Courtyards it leaves open: the outer faces of the walls round each. Their sides are named
    ``c1.2``: the first courtyard's second side."""
    top: Annotated[float, Meta(gt=0, le=50000)] | None = None
    """Height over the plate at which it is cut off flat, mm."""
    ridge: Size | None = None
    """Height of the ridge over the plate where it is held, mm: the pitch of every side without its
    own then follows."""
    eave_cut: Literal["plumb", "square"] = "plumb"
    soffit: Literal["open", "level", "sloped"] = "open"
    framing: Literal["rafters", "trusses"] = "rafters"
    rafters: Rafters = Rafters()
    trusses: Trusses = Trusses()
    openings: Annotated[tuple[RoofOpening, ...], Meta(max_length=100)] = ()
    snow_from: Literal["typed", "site"] = "typed"
    aim: Aim = "cost"
    """What its rafters are chosen for, where they come out by calculation."""
    pressed: AreaLoad | None = None
    """By wind from above, on the plan, N/mm²; by the wind of the site where empty."""
    uplift: AreaLoad | None = None
    """Of wind, on the plan, N/mm²; by the wind of the site where empty."""
    service: ServiceClass | None = None
    """Of the air round it; the usual one of its kind where empty."""


def side_of(roof: RoofArea, *names: str) -> RoofSide:
    """What is said of a side by any of its names; as the rest of the roof where nothing
    is."""
    return next((s for s in roof.sides if s.side in names), RoofSide(names[0]))


def overhang_of(roof: RoofArea, side: RoofSide) -> float:
    """How far a roof reaches out at a side, mm."""
    if side.kind in ("wall", "runs on"):
        return 0.0
    if side.overhang is not None:
        return side.overhang
    return roof.rake if side.kind == "gable" and roof.rake is not None else roof.overhang
