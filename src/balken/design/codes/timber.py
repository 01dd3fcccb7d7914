"""What a code says of timber and of what stands in its place, under one face: those who check ask it,
and know neither the one nor the other."""

from collections.abc import Callable
from typing import NamedTuple

from balken.analysis.simple import Floats
from balken.design.lines import Check, Line
from balken.design.spanning import Batch, Results
from balken.design.strength import BeamRules, Strength
from balken.design.under import Under
from balken.design.worth import Worth
from balken.loads.cases import Sums
from balken.loads.codes.drift import Drift
from balken.model.fasteners import Dowels
from balken.model.record import ServiceClass
from balken.model.sections import Product, Section
from balken.model.uses import Category


class SpanRules(NamedTuple):
    """Joists and rafters side by side."""

    names: tuple[str, ...]
    """Of the checks, in the order of their results."""
    check: Callable[[Batch], Results]
    explain: Callable[[Batch, Results, int], tuple[Check, ...]]


Held = tuple[float, tuple[Line, ...], str]
"""What a piece resists, N, how it was found, and the clause."""


class PostRules(NamedTuple):
    """Posts and struts, held at both ends."""

    missing: Callable[[str, Section], str]
    """What is missing for a material and section to be checked; empty where nothing is."""
    held: Callable[[str, Section, float, float], Held]
    """What a material and section resist over a length, mm, by duration."""
    slenderest: float
    """Length over the lesser side of wood at most; infinite where the code has no limit."""
    slender_clause: str


class InFrame(NamedTuple):
    """Pieces of trusses: stresses and what they resist, N/mm²; axes cases, trusses, pieces unless
    said."""

    pull: Floats
    push: Floats
    bent_at_ends: Floats
    bent_between: Floats
    bending: Floats
    """What they resist in bending, with all factors."""
    pressed: Floats
    """Along the grain, without what buckling takes."""
    pulled: Floats
    duration: Floats
    """(cases, 1, 1)."""
    slender: Floats
    """Effective length over depth in the plane of the truss."""
    across: Floats
    """Effective length over breadth out of it."""
    e_min: Floats
    characteristic: Floats


class SnowOnTruss(NamedTuple):
    """One way in which snow lies."""

    words: str
    sides: tuple[float, float]
    """How much of it left and right of the ridge."""
    drift: tuple[float, float]
    """And of the drift beside the ridge."""


class TrussRules(NamedTuple):
    """Pieces of trusses."""

    used: Callable[[InFrame], Floats]
    slenderest: float
    """Effective length over breadth of a web, before it is held between its ends."""
    clauses: tuple[str, str, str]
    """Of the sum, of the strengths along the grain, and of sharing."""
    share_symbol: str
    snows: tuple["SnowOnTruss", ...]
    """How snow may lie: evenly first."""
    drift: Callable[[float, float, float], Drift | None]
    """Beside a ridge, by the snow on the roof, its slope, and the way from ridge to eave, mm."""


class Contact(NamedTuple):
    """Where a member lies on something, mm."""

    length: float
    to_end: float
    """From the middle of it to the nearer end of the member."""
    depth: float
    """Of the member."""
    to_next: float = float("inf")
    """From its edge to the next load that stands at one place."""


class SillBolt(NamedTuple):
    """One anchor bolt through a sill into concrete, pushed across the grain of the sill by earth."""

    held: float
    """N, with all factors."""
    push_factor: float
    """On what earth pushes."""
    lines: tuple[Line, ...]
    clause: str


class Lap(NamedTuple):
    """Two pieces of wood that lie side by side and are joined across. mm."""

    side: float
    """Thickness of the piece that fasteners are put in through."""
    main: float
    """Of the one they end in."""
    species: str
    grade: str
    angle: float
    """The greatest between force and grain, degrees."""
    ea: float
    """E A of the lesser piece, N."""
    duration: float = 1.0
    """C_D, or kmod."""
    deck: float = 0.0
    """What lies between them and takes of the fastener's length."""


class Joined(NamedTuple):
    """What a joint holds, N, and how that was found; or why it cannot be reckoned."""

    held: float = 0.0
    lines: tuple[Line, ...] = ()
    clause: str = ""
    why: str = ""


class Racking(NamedTuple):
    """A stretch of wall between openings that stands against what pushes along it. mm."""

    panel: str
    """As the table of the code calls it."""
    nail: str
    thick: float
    nail_diameter: float
    nail_length: float
    edges: float
    """Between nails along the panels' edges."""
    faces: int
    species: str
    grade: str
    height: float
    length: float
    quake: bool = False


class Racked(NamedTuple):
    """What a stretch of wall holds, N of the load before any factor; or why it counts nothing."""

    held: float = 0.0
    lines: tuple[Line, ...] = ()
    clause: str = ""
    why: str = ""
    stiff: float = 0.0
    """G_a, N/mm; nothing where the code has none."""
    counts: float = 1.0
    """The factor on the load."""


class Decking(NamedTuple):
    """The panels of a floor or roof that hands on what pushes it, as a beam on its side. mm."""

    thick: float
    blocked: bool
    """Whether all edges of the panels are joined, on blocking or battens."""
    species: str
    grade: str
    length: float
    """Between the lines of walls that hold it."""
    depth: float
    """Along the push."""
    quake: bool = False


class Decked(NamedTuple):
    """What such a deck holds along an edge, N/mm of the load before any factor; or why it counts
    nothing."""

    held: float = 0.0
    lines: tuple[Line, ...] = ()
    clause: str = ""
    why: str = ""
    counts: float = 1.0
    """The factor on the load."""


class TimberCode(NamedTuple):
    """All of it."""

    name: str
    basis: str
    """What a calculation names as what it is by."""
    sums: Callable[[ServiceClass, Category], Sums]
    """Of what comes down on timber, in a service class, by what floors are used for."""
    elastic: Callable[[Category], Sums]
    """And on what does not creep."""
    uplift: Callable[[ServiceClass], tuple[str, float, float, float]]
    """What wind that lifts is held against: name, factors of dead load and wind, duration."""
    worth: Callable[[str, str, Section], Worth | None]
    """By species, grade and section; None where there are no values by stress."""
    product_worth: Callable[[Product], Worth | None]
    """Of glulam and composite lumber."""
    shared: Callable[[int, float, float], float]
    """What pieces are stronger by in a row: so many, of a breadth, so far apart, mm."""
    strength: Callable[[Section, str, str, float, float, bool], Strength | None]
    """By section, species, grade, longest span, unbraced length, and whether in a row."""
    rules: BeamRules
    on: Callable[[Worth, Under], Worth]
    """Values whose bearing is limited by what is softer under it."""
    bearing_by_duration: bool
    """Whether duration counts for what presses across the grain."""
    bearing_clause: str
    contact: Callable[[Contact, Section], float]
    """The length of a bearing that counts, with all that makes it worth more, mm."""
    web: Callable[[Section, float, float], tuple[float, str]]
    """What the web of a rolled I takes over a bearing, N, and the clause: by its length and the way
    from its middle to the end, mm."""
    spans: SpanRules
    posts: PostRules
    trusses: TrussRules
    tension_clauses: tuple[str, str]
    """Of a piece pulled along its grain, and of what it resists."""
    table: str
    """Where values of sawn wood stand."""
    concrete: Callable[[float], tuple[float, str]]
    """What concrete of a strength takes from a bearing, N/mm², and the clause."""
    masonry: tuple[float, str]
    """What masonry of unknown strength takes from a bearing, N/mm², and the clause."""
    sill: tuple[str, str]
    """Species and grade of sills on foundations."""
    sill_bolt: Callable[[float, float], "SillBolt"]
    """By diameter and the sill's thickness, mm."""
    racked: Callable[[Racking], Racked]
    """What a wall of panels holds along it."""
    decked: Callable[[Decking], Decked]
    """What the panels of a floor or roof hold."""
    on_studs: Callable[[Section, float, bool], tuple[float, str]]
    """What bending of a stud under wind is worth more by, and the clause: by its section, the spacing,
    mm, and whether panels outside and boards inside hold it."""
    joined: Callable[[Dowels, Lap], Joined]
    """What nails, screws or bolts between two pieces of wood hold."""
    plates: Callable[[str], tuple[str, str]]
    """Species and grade of the plates of walls, by what was typed for the site."""
