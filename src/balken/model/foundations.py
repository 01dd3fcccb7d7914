"""Foundations as they were decided: what kind, of which parts, along what; and what the place asks
for.

Each kind needs its own parts and no others; :data:`PARTS` says which.
"""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.cases import NOTHING, Cases
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.record import (
    AreaLoad,
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
from balken.model.snow import GroundSnow
from balken.model.wind import Earthquake, Wind
from balken.units import FOOT, INCH, PCF, PSF, PSI, System

FoundationKind = Literal["strip", "basement", "slab", "slab edge", "grade beam"]
PlateSpecies = Literal[
    "SPF", "SPF-S", "HF", "DF-L", "DF-L(N)", "SP", "C14", "C16", "C18", "C24", "C30"
]
Part = Literal["footing", "wall", "slab", "edge", "beam", "sill"]

KIND_WORDS: Final[dict[FoundationKind, str]] = {
    "strip": "strip footing and wall",
    "basement": "full basement",
    "slab": "slab on grade",
    "slab edge": "slab with thickened edge",
    "grade beam": "grade beam",
}
PARTS: Final[dict[FoundationKind, tuple[Part, ...]]] = {
    "strip": ("footing", "wall", "sill"),
    "basement": ("footing", "wall", "slab", "sill"),
    "slab": ("slab",),
    "slab edge": ("slab", "edge", "sill"),
    "grade beam": ("beam", "sill"),
}
"""What each kind is made of; none can be placed before all of it is chosen."""

STEEPEST: Final = 0.1
"""A footing's bottom may slope no more than 1 in 10; beyond that it is stepped (IRC 2021
R403.1.5)."""
WITH_STEM: Final = ("strip", "basement")


class TopStep(Record, frozen=True):
    """Where the top of a foundation wall steps: from ``at`` along the wall over it on it lies ``down``
    under the run's top, mm."""

    at: Reach
    down: Reach


class RunPart(Record, frozen=True):
    """How a foundation differs under one wall; what is nothing is as everywhere."""

    wall: Key
    stem_thickness: Reach = 0.0
    footing_width: Reach = 0.0
    top_drop: Reach = 0.0
    """How far the wall's top lies below the others', where the floor changes, mm."""
    top_steps: Annotated[tuple[TopStep, ...], Meta(max_length=50)] = ()
    """Where its top steps further down, from the wall's start on, under a wall that stands on it."""


class RunSpan(Record, frozen=True):
    """A part of a wall that stands on a foundation, from ``start`` to ``end`` along its line,
    mm."""

    wall: Key
    start: Reach
    end: Reach


class Shelf(Record, frozen=True):
    """A change of a foundation wall's thickness at its top, ``depth`` high and ``width`` wide.

    A ledge is cut from the outer face and carries brick; a seat is cut from the inner face and
    takes the edge of a slab; a corbel stands out from the inner face. ``walls`` empty: all outside
    walls of the run.
    """

    kind: Literal["ledge", "seat", "corbel"]
    width: Size
    depth: Size
    walls: tuple[Key, ...] = ()


class Pocket(Record, frozen=True):
    """A hole from the inside in the top of a foundation wall for the end of a beam; ``at`` from the
    wall's start to its middle."""

    id: Key
    wall: Key
    at: Reach
    width: Size
    height: Size
    depth: Size


class HeldStep(Record, frozen=True):
    """A step of a footing that a person put or holds: where along its wall, and how far down it
    goes in the wall's way.

    ``drop`` is positive where the footing lies deeper beyond ``at`` than before it.
    """

    wall: Name
    at: Reach
    drop: Shift


class FoundationRun(Record, frozen=True):
    """A foundation along walls, parts of walls, or paths drawn freely.

    A stem spans from the level ``base`` (top of footing) to ``top`` (top of foundation); the
    footing lies under ``base``, down to the level ``bottom``, or as thick as ``footing_thickness``
    says. A slab's top is the level ``slab_level``, or ``top`` where that is empty; an edge or a
    grade beam hangs under its top. ``offset`` moves the outer face out of the wall's (negative:
    in).
    """

    id: Key
    name: Name
    walls: tuple[Key, ...]
    top: Key
    base: Link
    bottom: Link
    stem_thickness: Annotated[float, Meta(ge=0, le=3000)]
    footing_width: Annotated[float, Meta(ge=0, le=20000)]
    offset: Annotated[float, Meta(ge=-1000, le=1000)] = 0.0
    sill: SectionName = "2x6"
    kind: FoundationKind = "strip"
    paths: Annotated[
        tuple[Annotated[tuple[Place, ...], Meta(min_length=2, max_length=500)], ...],
        Meta(max_length=200),
    ] = ()
    """Drawn freely, where no wall is: the middle of what stands; closed where the last place is the
    first."""
    spans: Annotated[tuple[RunSpan, ...], Meta(max_length=2000)] = ()
    """Walls of which only a part stands on this foundation."""
    footing_thickness: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    footing_shift: Annotated[float, Meta(ge=-5000, le=5000)] = 0.0
    """How far the footing's middle lies out of the stem's, mm."""
    joint: Literal["flat", "keyed", "doweled"] = "flat"
    parts: Annotated[tuple[RunPart, ...], Meta(max_length=5000)] = ()
    shelves: Annotated[tuple[Shelf, ...], Meta(max_length=100)] = ()
    pockets: Annotated[tuple[Pocket, ...], Meta(max_length=1000)] = ()
    follow: Literal["level", "steps", "slope"] = "steps"
    """How the footing follows the ground."""
    steps: Annotated[tuple[HeldStep, ...], Meta(max_length=1000)] = ()
    blinding: Annotated[float, Meta(ge=0, le=500)] = 0.0
    slab_level: Link = ""
    slab_thickness: Annotated[float, Meta(ge=0, le=2000)] = 0.0
    edge_width: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    edge_depth: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    gasket: bool = True
    """A strip of foam under the sill."""
    bolt: Annotated[float, Meta(ge=6, le=50)] = 12.7
    """Diameter of the anchor bolts of its sills, mm."""
    bolts_apart: Annotated[float, Meta(ge=0, le=3000)] = 0.0
    """Between them, at most, mm; by the rule of IRC R403.1.6 (6 ft) where nothing."""
    loads: Cases = NOTHING
    """Typed load along it, besides what comes down from above: dead, live, roof live, snow,
    N/mm."""
    on_piers: bool = False
    """Of grade beams: they span between the piers under them, and the soil carries none of them."""


class StepRule(Record, frozen=True):
    """How footings step: rises on a module and within a limit, laps at least their rise and at
    least a minimum, mm.

    Common practice, no source; the slope from which a footing steps is IRC 2021 R403.1.5.
    """

    module: Annotated[float, Meta(ge=25, le=3000)] = 8 * INCH
    rise: Annotated[float, Meta(ge=25, le=10000)] = 24 * INCH
    lap: Annotated[float, Meta(ge=100, le=10000)] = 24 * INCH


class Carbon(Record, frozen=True):
    """Embodied carbon of what is built, kg a m³; nothing where it is not typed."""

    timber: Annotated[float, Meta(ge=0, le=1e5)] = 0.0
    glued: Annotated[float, Meta(ge=0, le=1e5)] = 0.0
    """Of glulam, LVL and other products of wood; as other timber where it is not typed."""
    concrete: Annotated[float, Meta(ge=0, le=1e5)] = 0.0
    steel: Annotated[float, Meta(ge=0, le=1e6)] = 0.0


class Site(Record, frozen=True):
    """What the place asks for. Presumptive soil bearing: IRC 2021 R401.4.1 (1500 psf for clay, the
    least)."""

    frost_depth: Reach = 36 * INCH
    soil_bearing: Annotated[float, Meta(gt=0, le=10)] = 1500 * PSF
    clearance: Reach = 6 * INCH
    wall_dead: AreaLoad | None = None
    """Weight of all walls on their face, N/mm²; of each wall's own layers where empty."""
    plates: PlateSpecies = "SPF"
    """What the plates of stud walls are cut from; what bears on them presses into it."""
    concrete: Annotated[float, Meta(gt=0, le=1e-4)] = 150 * PSF / FOOT
    """Weight of concrete, N/mm³."""
    steps: StepRule = StepRule()
    fluid: Annotated[float, Meta(ge=0, le=1e-4)] = 60 * PCF
    """Equivalent fluid weight of backfill, N/mm³ (IRC 2021 table R404.1.2(1): 30 to 60 pcf by soil
    class; clay)."""
    surcharge: AreaLoad = 0.0
    """On the ground beside walls that hold soil back, N/mm²: cars, stores, a building."""
    water: Reach | None = None
    """How far under the ground water stands, mm; None where it is drained away."""
    strength: Annotated[float, Meta(ge=10, le=100)] = 3000 * PSI
    """Of concrete, N/mm²: f'c, or fck."""
    steel: Annotated[float, Meta(ge=200, le=700)] = 60000 * PSI
    """Yield strength of bars, N/mm²."""
    place: Name = ""
    """What the site sheet was asked for."""
    snow: GroundSnow | None = None
    """On the ground; None where roofs have what is typed for each."""
    wind: Wind | None = None
    """None where it is not counted."""
    earthquake: Earthquake | None = None
    """None where it is not counted."""
    carbon: Carbon = Carbon()
    left_open: LeftOpen = RECOMMENDED
    """Values that codes leave to a country or a client."""
    roof_panels: Annotated[float, Meta(ge=0, le=100)] = 0.0
    """Thickness of the panels on roofs, mm; the usual one where empty."""
    blocked: bool = False
    """Whether all edges of the panels of floors and roofs are joined, on blocking or battens."""
    diaphragms: Literal["by areas", "stiff"] = "by areas"
    """How floors and roofs hand on what pushes them sideways: to each line of walls what lies
    nearest to it, or by how stiff the lines are."""


def walls_on(run: FoundationRun) -> tuple[str, ...]:
    """The walls that stand on a foundation, whole or in part."""
    return (*run.walls, *dict.fromkeys(s.wall for s in run.spans if s.wall not in run.walls))


def first_site(system: System) -> Site:
    """What a place asks for until it is typed; in a metric project round metric values,
    C25/30 and B500."""
    if system == "us":
        return Site()
    return Site(
        frost_depth=900.0,
        soil_bearing=0.075,
        clearance=150.0,
        concrete=24e-6,
        steps=StepRule(200.0, 600.0, 600.0),
        fluid=9.5e-6,
        strength=25.0,
        steel=500.0,
    )


class Chosen(Record, frozen=True):
    """Parts as they are chosen one by one, before a foundation is placed; None for what is not
    chosen yet.

    Widths with their thickness or depth, mm; a sill of no section was chosen not to be there.
    """

    footing: tuple[float, float] | None = None
    wall: float | None = None
    slab: float | None = None
    edge: tuple[float, float] | None = None
    beam: tuple[float, float] | None = None
    sill: str | None = None


PART_WORDS: Final[dict[Part, str]] = {
    "footing": "the footing",
    "wall": "the wall",
    "slab": "the slab",
    "edge": "the thickened edge",
    "beam": "the beam",
    "sill": "the sill plate (or that there is none)",
}


def parts_missing(kind: FoundationKind, chosen: Chosen) -> tuple[Part, ...]:
    """Which parts of a kind are not chosen yet."""
    return tuple(part for part in PARTS[kind] if getattr(chosen, part) is None)


def chosen_of(run: FoundationRun, footing_thickness: float) -> Chosen:
    """The parts an existing foundation is made of."""
    beam = (run.edge_width, run.edge_depth)
    return Chosen(
        (run.footing_width, footing_thickness) if run.kind in WITH_STEM else None,
        run.stem_thickness if run.kind in WITH_STEM else None,
        run.slab_thickness or None,
        beam if run.kind == "slab edge" else None,
        beam if run.kind == "grade beam" else None,
        run.sill,
    )


def faults_of(run: FoundationRun) -> tuple[str, ...]:
    """What of its kind's parts a foundation lacks, in words."""
    have: dict[Part, tuple[bool, str]] = {
        "footing": (run.footing_width > 0, "its footing has no width"),
        "wall": (run.stem_thickness > 0, "its wall has no thickness"),
        "slab": (run.slab_thickness > 0, "its slab has no thickness"),
        "edge": (
            run.edge_width > 0 and run.edge_depth > run.slab_thickness,
            "its edge is no deeper than its slab",
        ),
        "beam": (run.edge_width > 0 and run.edge_depth > 0, "its beam has no width or no depth"),
        "sill": (True, ""),
    }
    return tuple(words for part in PARTS[run.kind] for there, words in [have[part]] if not there)
