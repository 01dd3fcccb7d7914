"""What one piece resists, whatever it is made of and by whichever code: the same few numbers for
wood by stress, wood by capacity, and steel.

Checks of beams are one set of array functions over these numbers
(:mod:`balken.design.beam_checks`); where they come from is told by their lines, and what a code
makes of them stands in its rules.
"""

import math
from collections.abc import Callable, Sequence
from typing import Literal, NamedTuple, Protocol

import msgspec

from balken.analysis.beams import Floats
from balken.design.lines import Line

Loading = Literal[
    "uniform",
    "middle",
    "held 1",
    "held 2",
    "held 3",
    "held 4",
    "held 5",
    "held 6",
    "held 7",
    "end moments",
    "cantilever uniform",
    "cantilever end",
    "other",
]
"""How a stretch between places held sideways is bent: ``held n`` is a simple span under n equal
loads at equal distances, held under each (seven stand for more)."""


class Lateral(Protocol):
    """What the moment of a steel section follows from, for any length between places held
    sideways."""

    def allowable(self, unbraced: float, cb: float = 1.0) -> float:
        """Moment it resists, N mm.

        Args:
            unbraced: of the flange in compression, mm.
            cb: for the shape of the moment between; 1 is safe.
        """


class Clauses(NamedTuple):
    """Where the checks of a piece stand."""

    bending: str
    shear: str
    sag: str
    limit: str
    """Of the limits of deflection."""
    bearing: str
    reaction: str = ""
    """That the whole reaction counts as shear."""


class Cut(NamedTuple):
    """A hole or notch in a piece, mm."""

    notch: bool
    size: float
    """Of a hole its diameter, of a notch its depth."""
    to_support: float
    """From its middle to the nearest support."""
    depth: float
    """Of the piece."""


class Pushed(NamedTuple):
    """A piece in compression and bending about its strong axis, held along the other: N, N/mm²."""

    stress: float
    """Along the grain."""
    fc: float
    """What it resists, without duration."""
    characteristic: float
    """Of the strength along the grain, where a code takes slenderness from it."""
    e_min: float
    slender: float
    """Effective length over depth."""
    bending: float
    """Utilisation in bending alone."""
    duration: float


class BeamRules(NamedTuple):
    """What a code makes of bending members."""

    effective_length: Callable[[float, float, Loading], float]
    """By unbraced length, depth and how it is bent, mm."""
    length_clause: str
    stability: Callable[[Sequence["Strength"], Floats, Floats, Floats], Floats]
    """What is left of bending strengths, (B, K, spans), by the pieces, their strength as it is asked
    for (B, 1), duration (B, K) and effective lengths (B, spans)."""
    stability_symbol: str
    stability_clause: str
    gradient: Callable[[float, float], float]
    """Of steel, by the greater and the lesser moment at the ends of a stretch."""
    steel_length_clause: str
    duration_symbol: str
    duration_clause: str
    sags: tuple[str, str]
    """What the two limits of deflection are called."""
    net_shear: Callable[["Strength", Cut], float]
    """What a hole or notch leaves of the shear a piece resists, as a share."""
    net_clauses: tuple[str, str]
    """Of bending and of shear past holes and notches."""
    neck_clause: str
    """Of a tail over its birdsmouth."""
    pushed: Callable[["Pushed"], float]
    """Utilisation of thrust with bending."""
    pushed_clauses: tuple[str, str]
    """Of the sum, and of the strength along the grain."""


class Strength(msgspec.Struct, frozen=True):
    """What a bending member resists, without what duration makes of it. Lengths mm, N, N/mm²."""

    rules: BeamRules
    clauses: Clauses
    moment: float
    """Where it sags; of steel with its upper flange held as it is."""
    shear: float
    ei: float
    bearing: float = math.inf
    """Per mm of bearing length, N/mm."""
    end: float = math.inf
    """Reaction an end resists whatever its bearing, N: of products by capacity."""
    duration: bool = True
    """Whether duration counts."""
    bearing_by_duration: bool = False
    """Whether it counts for bearing too."""
    fb: float = 0.0
    """In bending with all factors but duration, stability and volume, where wood is checked by
    stress."""
    fb_hogging: float = 0.0
    """The same where its upper edge is in tension: less for glulam of an unbalanced layup."""
    e_min: float = 0.0
    """For bending sideways."""
    fm: float = 0.0
    """Characteristic in bending, where a code takes slenderness from it."""
    glued: bool = False
    """Of glued laminated timber."""
    breadth: float = 0.0
    depth: float = 0.0
    cv: float = 1.0
    """Of volume or depth: the lesser of it and that of stability counts."""
    lateral: Lateral | None = None
    """Of steel: what its moment follows from for any unbraced length."""
    moment_lines: tuple[Line, ...] = ()
    shear_lines: tuple[Line, ...] = ()
    stiff_lines: tuple[Line, ...] = ()
    bearing_lines: tuple[Line, ...] = ()
