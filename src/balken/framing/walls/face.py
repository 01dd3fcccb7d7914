"""A wall's frame in its own elevation before and after it is laid out: what is asked, and the pieces. Flat
and without wood: lengths along the wall and heights over its foot, mm."""

from itertools import pairwise
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.model.wall_frames import StudRule
from balken.model.walls import Portal
from balken.units import FOOT

SLIGHT: Final = 0.01
"""Pieces that overlap by less than this touch, mm."""
LEAST: Final = 12.0
"""A shorter piece is left out: shims fill it, mm (common practice, no source)."""
AT_FLOOR: Final = 60.0
"""An opening that begins lower than this goes down to the floor, mm."""
STOCK: Final = 16 * FOOT
"""Plates are sold no longer (common practice, no source): 4.88 m."""
OFFSET: Final = 4 * FOOT
"""Joints of two plates over one another lie this far apart at the least (2 ft by IRC 2021 R602.3.2; 4 ft
by common practice)."""
FIRE: Final = 10 * FOOT
"""Higher walls are blocked against fire (IRC 2021 R302.11)."""


class Hole(NamedTuple):
    """A rough opening in the elevation of a wall, and what is over it."""

    key: str
    low: float
    high: float
    sill: float
    head: float
    depth: float
    """Of its header."""
    jacks: int = 1
    kings: int = 1
    sills: int = 1
    portal: Portal = ""
    runs_on: tuple[float, float] = (0.0, 0.0)
    """How far its header runs on past the outside of its jacks, over the panels at its sides."""


class Meets(NamedTuple):
    """What happens at one end of a wall's frame."""

    cap: float = 0.0
    """How much further than the studs its cap plate runs, less than nothing where another laps over
    it."""
    backed: float = 0.0
    """How wide the wall is that ends at its corner, and wants a stud behind its lining."""


class Moved(NamedTuple):
    """What a person changed of one piece: its family, row and piece, and how far it went along the wall
    and up, mm."""

    family: str
    row: str
    piece: str
    along: float
    up: float


class Lift(NamedTuple):
    """What of a wall can be lifted in one, and what it weighs."""

    longest: float
    """mm; nothing where that is no matter."""
    heaviest: float
    """N; nothing where that is no matter."""
    depth: float
    """Of its studs, mm."""
    wood: float
    """Weight of wood, N/mm³."""
    skin: float
    """Of the sheets that are lifted with it, N/mm²."""

    def carries(self, length: float, weight: float) -> bool:
        """Whether a panel can be lifted."""
        short = not self.longest or length <= self.longest + SLIGHT
        return short and (not self.heaviest or weight <= self.heaviest)


class Face(NamedTuple):
    """A wall's frame before it is laid out."""

    low: float
    high: float
    tall: float
    """From its foot to the top of its plates."""
    thick: float
    """Of studs and plates."""
    rule: StudRule
    holes: tuple[Hole, ...] = ()
    start: Meets = Meets()
    end: Meets = Meets()
    tees: tuple[tuple[float, float, bool], ...] = ()
    """Walls that end at its side: where their middle is, how wide they are, and whether their cap plates
    lap over its own."""
    points: tuple[tuple[str, float, int], ...] = ()
    """What bears on it at one place: the name of it, where, and how many studs stand under it."""
    steps: tuple[tuple[float, float], ...] = ()
    """Where its foot steps, from its start on, and how high it lies from there over the wall's own."""
    set_by_hand: tuple[tuple[str, float], ...] = ()
    """Studs that were set by hand: their rows and middles."""
    moved: tuple[Moved, ...] = ()
    lift: Lift | None = None
    above: tuple[float, ...] = ()
    """The middles of joists, rafters or trusses over it that its studs stand under."""

    @property
    def under(self) -> float:
        """The underside of its top plates."""
        return self.tall - self.rule.top_plates * self.thick

    def floors(self) -> tuple[tuple[float, float, float], ...]:
        """The stretches of its foot: from, to, and how high each lies."""
        inside = [(x, up) for x, up in self.steps if self.low < x < self.high]
        begins = [up for x, up in self.steps if x <= self.low]
        places = [self.low, *(x for x, _ in inside), self.high]
        heights = [begins[-1] if begins else 0.0, *(up for _, up in inside)]
        return tuple((a, b, up) for (a, b), up in zip(pairwise(places), heights))

    def foot(self, low: float, high: float) -> float:
        """The top of the bottom plate under a piece, or of the higher one where it stands on two."""
        there = [up for a, b, up in self.floors() if a < high - SLIGHT and low < b - SLIGHT]
        return max(there, default=0.0) + self.thick


class Stick(NamedTuple):
    """One piece in the elevation."""

    kind: MemberKind
    row: str
    piece: str
    low: float
    high: float
    bottom: float
    top: float

    @property
    def stands(self) -> bool:
        """Whether it stands upright."""
        return self.kind in UPRIGHT


UPRIGHT: Final = (kinds.WALL_STUD, kinds.KING, kinds.JACK, kinds.CRIPPLE)


class Lack(NamedTuple):
    """What cannot be framed: about which opening, in words, and by how much, mm."""

    hole: str
    words: str
    short: float
    too_much: bool = False
    """Whether that is over what may be, not what is lacking."""


class LaidOut(NamedTuple):
    """The pieces of a wall and what could not be done."""

    sticks: tuple[Stick, ...]
    lacks: tuple[Lack, ...]
    holes: tuple[Hole, ...] = ()
    """The openings that could be framed, as they are."""
