"""What a code says of concrete in the ground, under one face: those who check ask it, and know
neither the one nor the other."""

from collections.abc import Callable
from typing import Literal, NamedTuple

from balken.design.concrete.bars import Bar
from balken.design.lines import Check, Line
from balken.geometry.plane import Point
from balken.loads.cases import Combination
from balken.model.foundations import Site

Sides = tuple[float, float]


class PlainStrips(NamedTuple):
    """Strips without bars under a wall."""

    projection: str
    """The clause that holds its reach past the wall to its thickness."""
    bending: Callable[[float, float, float, str, Site], Check]
    """By net pressure, N/mm², reach and thickness, mm, combination, site."""


class Punched(NamedTuple):
    """What punches through a pad. N, mm."""

    load: float
    combo: str
    sides: Sides
    column: Sides
    depth: float
    share: float
    """Of steel in the section."""
    fc: float
    off: Point
    """Of the column from the pad's middle."""
    base: tuple[Line, ...]
    """The lines its calculation begins with."""


class Pads(NamedTuple):
    """Pads with bars both ways. Sizes mm, forces N."""

    name: str
    turns: str
    """The clause of one that turns over."""
    cover: float
    most_apart: Callable[[float], float]
    """Bars, by the pad's thickness."""
    face_moment: Callable[[float, Sides, float], float]
    steel_for: Callable[[float, float, float, float, float], float]
    """By moment, width, depth, fc and fy."""
    least_steel: Callable[[float, float, float, float, float], float]
    """By width, thickness, depth, fc and fy."""
    in_band: Callable[[float, float], float]
    """By how much bars along a side are raised, by the sides along and across."""
    development: Callable[[Bar, float, float], float]
    one_way: Callable[[float, Sides, float, float, float, float], tuple[float, float]]
    """Force and what resists it, by load, sides, column, depth, steel and fc."""
    bending_clause: str
    shear_clause: str
    shear_step: Callable[[float], Line]
    punching: Callable[["Punched"], tuple[Check, ...]]


class EarthWalls(NamedTuple):
    """Basement walls against soil, per mm of their length. N, mm."""

    factor: float
    """Of earth pressure."""
    inside: float
    """Cover of bars on the inner face."""
    outside: float
    """And on the face to the soil."""
    plain_bending: Callable[[float, float, float], float]
    """The utilisation without bars, by moment, thickness and fc."""
    plain_clause: str
    steel_for: Callable[[float, float, float, float], float]
    """By moment, depth, fc and fy."""
    least_steel: Callable[[float, float, float, float], float]
    """By thickness, depth, fc and fy."""
    most_apart: Callable[[float], float]
    barred_clause: str
    plain_shear: Callable[[float, float], float]
    """By thickness and fc."""
    plain_shear_clause: str
    barred_shear: Callable[[float, float, float], float]
    """By depth, steel and fc."""
    barred_shear_clause: str
    shear_symbol: str
    stands: "Standing"


class Standing(NamedTuple):
    """Walls against soil that nothing props at their top."""

    turning: float
    """By how much what turns a wall over is raised."""
    sliding: float
    clause: str
    friction: float
    """Of concrete on soil of which nothing is known."""
    friction_clause: str
    slab_bears: Callable[[float], float]
    """What the edge of a slab bears, N/mm², by fc."""
    slab_clause: str


Column = Literal["interior", "edge", "corner"]
"""Where in a slab a column stands."""


class SlabDepth(NamedTuple):
    """How thick a solid slab is at least, so that its sag need not be worked out."""

    of_span: float
    """Span over depth at most."""
    of_cantilever: float
    by_steel: Callable[[float], float]
    """By how much it is thicker for its steel, by fy."""
    under_bars: float
    """What of its thickness is no depth: cover and half a bar, mm."""
    steel_clause: str
    clause: str
    least: Callable[[float, float, float, float], float]
    """Bars of a slab per mm, mm², by thickness, depth, fc and fy."""
    bending_clause: str
    shear_clause: str
    punching: Callable[[Column, tuple[float, float], float, float, float], float]
    """What holds round a column, N, by its place, its sides (square to the edge and along it), depth,
    share of bars and fc."""
    punching_clause: str


class OnGround(NamedTuple):
    """Slabs of plain concrete on the ground."""

    flexure: Callable[[float], float]
    """What they take in bending, N/mm², by fc."""
    elastic: Callable[[float], float]
    """E, N/mm², by fc."""
    punching: Callable[[float, Sides, float, float], float]
    """The utilisation round a foot, by force, its sides, thickness and fc."""
    flexure_clause: str
    punching_clause: str


class Stirrups(NamedTuple):
    """The stirrups that a beam may need. N, mm."""

    wanted: bool
    """Whether a beam must have them though its concrete alone resists the shear."""
    least: float
    """Of all their legs, mm² per mm of beam."""
    apart: float
    """The most."""
    held: Callable[[float], float]
    """Shear that the beam resists with so much of all their legs, mm² per mm of beam."""
    clause: str


class ConcreteBeams(NamedTuple):
    """Beams of concrete that span: between piers, over openings. N, mm."""

    least: Callable[[float, float, float, float], float]
    """Steel, by width, depth, fc and fy."""
    shear: Callable[[float, float, float, float], float]
    """What they resist without stirrups, by width, depth, steel and fc."""
    stirrups: Callable[[float, float, float, float, float], Stirrups]
    """By width, depth, fc, fy and shear."""
    none_to: float
    """Lintels whose clear span is no longer need no least stirrups where their concrete resists the
    shear; 0 where spans have no say in it."""
    cover: float
    """Of bars in beams that do not lie on soil."""
    deep: float
    """A clear span of so many depths or fewer is a deep beam's: no more of its depth is counted."""
    moment_clause: str
    bending_clause: str
    least_clause: str
    shear_clause: str


class BarDetails(NamedTuple):
    """How long bars lap and hold, mm, by bar, fc and fy; to hold also by the share of their strength
    that is asked of them."""

    straight: Callable[[Bar, float, float, float], float]
    lap: Callable[[Bar, float, float], float]
    hook: Callable[[Bar, float, float, float, bool], float]
    """Also by whether they are far apart and well covered."""
    straight_clause: str
    lap_clause: str
    hook_clause: str


class GroundCode(NamedTuple):
    """All of it."""

    service: tuple[Combination, ...]
    """The combinations that the pressure on soil is held against."""
    strength: tuple[Combination, ...]
    """Those that concrete is held against."""
    soil: str
    """The clause of what soil bears."""
    compression: Callable[[float, float, float, float], tuple[float, str, str]]
    """What a plain wall or pier resists, N, its symbol and clause, by fc, area, height and
    thickness."""
    strips: PlainStrips
    pads: Pads
    walls: EarthWalls
    slabs: SlabDepth
    on_ground: OnGround
    beams: ConcreteBeams
    details: BarDetails
