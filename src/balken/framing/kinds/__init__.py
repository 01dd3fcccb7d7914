"""The register of all kinds of members, each said in a file by its family."""

from collections.abc import Callable
from typing import Final

from balken.framing.kinds import beams, floors, ground, roofs, trusses
from balken.framing.kinds.beams import BEAM, POST
from balken.framing.kinds.floors import (
    BLOCKING,
    CEILING_JOIST,
    FLOOR_SLAB,
    HEADER,
    JOIST,
    LEDGER,
    RIM,
    SPLICE,
    SQUASH_BLOCK,
    SUBFLOOR,
    TRIMMER,
)
from balken.framing.kinds.ground import (
    BLINDING,
    CORBEL,
    EDGE,
    FOOTING,
    GRADE_BEAM,
    LINK,
    PAD,
    PIER,
    SILL,
    SLAB,
    STEM,
)
from balken.framing.kinds.kind import MemberKind
from balken.framing.kinds.roofs import (
    BARGE_RAFTER,
    COLLAR_TIE,
    FASCIA,
    HIP,
    LOOKOUT,
    PURLIN,
    RAFTER,
    RIDGE,
    RIDGE_BEAM,
    STRUT,
    TIE,
    VALLEY,
    VALLEY_PLATE,
)
from balken.framing.kinds.trusses import BOTTOM_CHORD, OF_TRUSS, STUD, TOP_CHORD, WEB
from balken.model.names import Rest, family_of

_ALL: Final = tuple(
    kind
    for family in (ground, floors, beams, roofs, trusses)
    for kind in vars(family).values()
    if isinstance(kind, MemberKind)
)
KINDS: Final[dict[str, MemberKind]] = {kind.role: kind for kind in _ALL}
"""Every kind by its word."""
CONCRETE: Final = tuple(sorted((k for k in _ALL if k.concrete), key=lambda k: k.concrete))
"""Kinds of concrete, those that keep their body before others first."""


def those(holds: Callable[[MemberKind], object]) -> tuple[MemberKind, ...]:
    """The kinds of which something holds."""
    return tuple(kind for kind in _ALL if holds(kind))


def named(name: Rest | None) -> MemberKind | None:
    """The kind whose word stands in a member's name; None of walls, and of jacks, which have words
    of their own."""
    return KINDS.get(family_of(name))


__all__ = [
    "BARGE_RAFTER",
    "BEAM",
    "BLINDING",
    "BLOCKING",
    "BOTTOM_CHORD",
    "CEILING_JOIST",
    "COLLAR_TIE",
    "CONCRETE",
    "CORBEL",
    "EDGE",
    "FASCIA",
    "FLOOR_SLAB",
    "FOOTING",
    "GRADE_BEAM",
    "HEADER",
    "HIP",
    "JOIST",
    "KINDS",
    "LEDGER",
    "LINK",
    "LOOKOUT",
    "OF_TRUSS",
    "PAD",
    "PIER",
    "POST",
    "PURLIN",
    "RAFTER",
    "RIDGE",
    "RIDGE_BEAM",
    "RIM",
    "SILL",
    "SLAB",
    "SPLICE",
    "SQUASH_BLOCK",
    "STEM",
    "STRUT",
    "STUD",
    "SUBFLOOR",
    "TIE",
    "TOP_CHORD",
    "TRIMMER",
    "VALLEY",
    "VALLEY_PLATE",
    "WEB",
    "MemberKind",
    "named",
    "those",
]
