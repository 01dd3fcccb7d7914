"""Names that last: of what makes members, of each member, and of the other things a person can
point at.

A name is a value. It is written as text in the project file, in IFC and in the report only, and
read back from text only where such a file is read; everywhere else its parts are asked for.
"""

import re
from collections.abc import Iterable
from typing import Final, Literal

import msgspec

from balken.errors import BalkenError

HostKind = Literal["run", "floor", "roof", "beam", "bay", "support", "wall", "load"]
"""What makes members or carries them: a foundation run, a floor, a roof, a beam, a bay of beams, a
point support, a wall; and a drawn load, which comes to lie on them."""
ThingKind = Literal[
    "level",
    "grid",
    "opening",
    "step",
    "hole",
    "side",
    "skylight",
    "span",
    "walls",
    "beams",
    "ground",
    "reference",
    "storey",
    "build-up",
    "product",
    "section",
    "note",
    "dimension",
    "cloud",
    "view",
    "page",
]
"""What else can be pointed at: a level, a line of a grid, an opening of a wall, a step of a
footing, a hole in a floor, a side or a skylight of a roof, the direction a floor or roof spans in,
the walls of a storey, the beams of a level, what stands in the ground, a slab or roof of the
architect's; a storey to be copied, a build-up, a product, a section, a note, a dimension, a
cloud, a view on a sheet, a page of the slip by its title."""

HOST_KINDS: Final[frozenset[str]] = frozenset(HostKind.__args__)  # type: ignore[attr-defined]
LETTERED: Final = frozenset(
    {"joist", "trimmer", "header", "blocking", "squash block", "splice", "beam"}
)
"""Families whose pieces are told apart by letters right behind the row: ``07a``. All others set
them off: ``W201.15``."""
_SET_OFF: Final = "~~"
"""Between row and piece where they could be read otherwise."""
_LETTERS_LAST: Final = re.compile(r"(.*[^a-z])([a-z]+)")


class NameTextError(BalkenError):
    """Text that is no name."""


class _Written(msgspec.Struct, frozen=True, gc=False):
    """What all names share: they are put in order as they are written, whatever they name."""

    def __lt__(self, other: "_Written") -> bool:
        return str(self) < str(other)


class HostName(_Written, frozen=True, gc=False, cache_hash=True):
    """A record that makes members or carries them, by its kind and key: ``floor:F1``,
    ``wall:W3``."""

    kind: HostKind
    key: str

    @property
    def host(self) -> "HostName":
        """Itself: so that what something rests on, a member or a wall, can be asked for its
        host."""
        return self

    def __str__(self) -> str:
        return f"{self.kind}:{self.key}"


class MemberName(_Written, frozen=True, gc=False, cache_hash=True):
    """A member by its host, its family and its place in the layout: ``floor:F1/joist:07a``.

    ``row`` is the row, wall or side it stands in, ``piece`` its number or letter there. It does not
    change when its neighbours do, so that a change by hand survives every regeneration.
    """

    host: HostName
    family: str
    row: str
    piece: str = ""

    @property
    def place(self) -> str:
        """Row and piece as they are written."""
        plain = self.row + _mark(self.family, self.row, self.piece) + self.piece
        return (
            plain
            if _parted(self.family, plain) == (self.row, self.piece)
            else self.row + _SET_OFF + self.piece
        )

    def __str__(self) -> str:
        return f"{self.host}/{self.family}:{self.place}"


class ThingName(_Written, frozen=True, gc=False, cache_hash=True):
    """Something else a person can point at: ``level:L1``, ``opening:W3/O1``."""

    kind: ThingKind
    key: str
    part: str = ""

    def __str__(self) -> str:
        return f"{self.kind}:{self.key}/{self.part}" if self.part else f"{self.kind}:{self.key}"


Name = HostName | MemberName | ThingName
Rest = HostName | MemberName
"""What a member can rest on: another member, or a wall."""


def _mark(family: str, row: str, piece: str) -> str:
    """What stands between a row and its piece."""
    return "." if piece and not (family in LETTERED and piece.isalpha() and "." not in row) else ""


def _parted(family: str, place: str) -> tuple[str, str]:
    """The row and the piece that a place in a layout names."""
    if _SET_OFF in place:
        row, _, piece = place.rpartition(_SET_OFF)
    elif "." in place:
        row, _, piece = place.partition(".")
    elif family in LETTERED and (found := _LETTERS_LAST.fullmatch(place)):
        row, piece = found[1], found[2]
    else:
        row, piece = place, ""
    return row, piece


def host_name(text: str) -> HostName:
    """The host that a text names.

    Raises:
        NameTextError: it names none.
    """
    kind, colon, key = text.partition(":")
    if not colon or not key or kind not in HOST_KINDS or "/" in key:
        raise NameTextError(f"“{text}” names nothing that makes members, as floor:F1 does.")
    return HostName(kind, key)  # type: ignore[arg-type]


def member_name(text: str) -> MemberName:
    """The member that a text names.

    Raises:
        NameTextError: it names none.
    """
    host, slash, rest = text.partition("/")
    family, colon, place = rest.partition(":")
    if not slash or not colon or not family or not place:
        raise NameTextError(f"“{text}” is no name of a member, as floor:F1/joist:07a is.")
    return MemberName(host_name(host), family, *_parted(family, place))


def piece_letters(number: int) -> str:
    """The letters of a piece by its place in a row, without end: a, b … z, aa, ab …"""
    found = ""
    number += 1
    while number:
        number, rest = divmod(number - 1, 26)
        found = chr(97 + rest) + found
    return found


def whole(name: str) -> str:
    """The key of the wall that a straight piece of a curved one belongs to."""
    return name.partition("~")[0]


_BY_HAND: Final = "+"
"""Begins the row of a piece that was added by hand."""


def added_row(key: str) -> str:
    """The row of a piece that was added by hand, by the key of its record."""
    return _BY_HAND + key


def added_key(name: MemberName) -> str:
    """The key of the record of a piece that was added by hand; empty for all that the layout
    makes."""
    return name.row.removeprefix(_BY_HAND) if name.row.startswith(_BY_HAND) else ""


def step_part(line: str, at: float) -> str:
    """What tells a step of a footing apart: the line it stands on, and how far along, mm."""
    return f"{line}@{at:.1f}"


def step_line(part: str) -> str:
    """The line that a step of a footing stands on."""
    return part.partition("@")[0]


def keys_of(names: Iterable[Name], kind: HostKind) -> list[str]:
    """The keys of the records of a kind that are named, or that named members belong to, in their
    order."""
    hosts = [n.host for n in names if not isinstance(n, ThingName)]
    return [h.key for h in hosts if h.kind == kind]


def hosts_in(names: Iterable[Name], *kinds: HostKind) -> list[HostName]:
    """The hosts of some kinds that are named, or that named members belong to, in their order."""
    hosts = [n.host for n in names if not isinstance(n, ThingName)]
    return [h for h in hosts if h.kind in kinds]


def things_of(names: Iterable[Name], kind: ThingKind) -> list[ThingName]:
    """The things of a kind that are named, in their order."""
    return [n for n in names if isinstance(n, ThingName) and n.kind == kind]


def whole_of(rest: Rest) -> Rest:
    """What something rests on, of a straight piece of a curved wall the wall."""
    return HostName(rest.kind, whole(rest.key)) if isinstance(rest, HostName) else rest


def wall_below(rest: Rest | None) -> str:
    """The key of the wall that something rests on, or whose foundation it rests on; empty where it
    is neither."""
    if isinstance(rest, MemberName):
        return whole(rest.row) if rest.host.kind == "run" else ""
    return wall_key(rest)


def kind_of(name: Name) -> str:
    """The kind of thing a name names: of a member that of its host."""
    return name.host.kind if isinstance(name, MemberName) else name.kind


def in_words(name: Name | None) -> str:
    """What a name is called where nothing better is known: ``floor F1``; empty for none."""
    return str(name).replace(":", " ") if name is not None else ""


def family_of(rest: Rest | None) -> str:
    """The family of the member that something rests on; empty where it rests on none."""
    return rest.family if isinstance(rest, MemberName) else ""


def wall_key(rest: Rest | None) -> str:
    """The key of the wall that something rests on; empty where it rests on something else."""
    return whole(rest.key) if isinstance(rest, HostName) and rest.kind == "wall" else ""


def as_thing(name: Name) -> ThingName:
    """A name where only a thing that is no member and makes none can be named."""
    assert isinstance(name, ThingName), f"{name} is a name of another sort"
    return name


def as_host(name: Name) -> HostName:
    """The host that is named, or that a named member belongs to, where only those can be."""
    assert not isinstance(name, ThingName), f"{name} is a name of another sort"
    return name.host
