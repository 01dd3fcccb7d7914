"""The register of all kinds of members, each said in a file by its family: ``kinds.JOIST`` is what
``kinds/floors.py`` says of joists."""

from collections.abc import Callable
from typing import Final

from balken.framing.kinds import beams, floors, ground, roofs, trusses, walls
from balken.framing.kinds.beams import *
from balken.framing.kinds.floors import *
from balken.framing.kinds.ground import *
from balken.framing.kinds.kind import MemberKind as MemberKind
from balken.framing.kinds.roofs import *
from balken.framing.kinds.trusses import *
from balken.framing.kinds.walls import *
from balken.model.names import Rest, family_of

_ALL: Final = tuple(
    kind
    for family in (ground, floors, walls, beams, roofs, trusses)
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
