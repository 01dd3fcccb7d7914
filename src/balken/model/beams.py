"""Records of beams, and of bays that are filled with beams at a spacing."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.aims import Aim
from balken.model.cases import NOTHING, Cases
from balken.model.floors import Rule
from balken.model.record import (
    Key,
    Link,
    Name,
    Place,
    Record,
    SectionName,
    ServiceClass,
    Shift,
    Spacing,
    Turn,
)

BeamSet = Literal["under", "flush", "level", "on"]
SET_WORDS: Final[dict[BeamSet, str]] = {
    "under": "under the joists",
    "flush": "flush with the joists",
    "level": "with its top at the level",
    "on": "with its underside at the level",
}


class BeamEnd(Record, frozen=True):
    """Where an end of a beam lies: at a crossing of grid lines, or free; ``at`` is measured from
    the crossing."""

    at: Place = (0.0, 0.0)
    grid: Link = ""
    lines: tuple[Link, Link] = ("", "")


class BeamKind(Record, frozen=True):
    """What a beam is cut from and how it is set."""

    section: SectionName | None = None
    """Held by a person; empty where it comes out by calculation from ``sizes``."""
    sizes: tuple[SectionName, ...] = ()
    species: Name = ""
    grade: Name = ""
    """Of sawn lumber; products bring their own values."""
    set: BeamSet = "under"
    offset: Shift = 0.0
    """Of its top, up from where its set puts it, mm."""
    camber: Annotated[float, Meta(ge=-500, le=500)] = 0.0
    """Up in the middle, mm."""
    braced: Annotated[float, Meta(ge=0, le=1e5)] | None = None
    """Distance between places where its top is held sideways, mm; by what lies on it where
    empty."""
    live_limit: Annotated[float, Meta(ge=100, le=2000)] = 360.0
    total_limit: Annotated[float, Meta(ge=100, le=2000)] = 240.0
    service: ServiceClass | None = None
    """Of the air round it; the usual one of its kind where empty."""
    aim: Aim = "cost"
    """What it is chosen for, where its section comes out by calculation."""
    group: Name = ""
    """Beams that are cut from one section, for the worst of them; alone where empty."""


class Beam(Record, frozen=True):
    """One beam under the floor at ``level``."""

    id: Key
    level: Key
    start: BeamEnd
    end: BeamEnd
    kind: BeamKind = BeamKind()
    out: tuple[Shift, Shift] = (0.0, 0.0)
    """How far it reaches past its two ends: a cantilever, or short of them where negative, mm."""
    through: bool = True
    """In one piece over its inner supports; else cut over each."""
    hinges: Annotated[tuple[Shift, ...], Meta(max_length=20)] = ()
    """From its start, mm."""
    loads: Cases = NOTHING
    """Typed along it: dead, live, roof live, snow, N/mm."""


class BeamBay(Record, frozen=True):
    """Beams side by side in a bay: between two grid lines each way, or inside any outline."""

    id: Key
    level: Key
    kind: BeamKind = BeamKind()
    grid: Link = ""
    first: tuple[Link, Link] = ("", "")
    second: tuple[Link, Link] = ("", "")
    corners: Annotated[tuple[Place, ...], Meta(max_length=100)] = ()
    along: Annotated[int, Meta(ge=0, le=99)] = 0
    """The side of the outline the beams run along; on a grid 0 runs along the first pair of lines,
    1 along the second."""
    turn: Turn = 0.0
    """Turned from that side, degrees."""
    rule: Rule = "maximum"
    spacing: Spacing = 1200.0
    """Also the clear distance where the rule keeps one."""
    count: Annotated[int, Meta(ge=0, le=1000)] = 0
    begin: Shift = 0.0
    """From the side to the first beam, mm; a whole spacing where nothing."""
    dead: Annotated[float, Meta(ge=0, le=0.1)] = 0.0
    live: Annotated[float, Meta(ge=0, le=0.1)] = 0.0
    """Loads on the bay, N/mm², where no floor area lies on its beams."""


MOST_IN_BAY: Final = 400
"""More beams in a bay are a slip of the finger."""
