"""What a kind of member is: everything that holds of all its members, said once."""

import msgspec

from balken.framing.kinds.ifc import IfcClass
from balken.model.roofs import RafterPart


class MemberKind(msgspec.Struct, frozen=True, eq=False):
    """A kind of member. What is not said of it does not hold."""

    role: str
    """The word of the trade, by which files and lists call it."""
    ifc: IfcClass
    letter: str = ""
    """In the marks of its members, where several kinds of one host are counted together."""
    concrete: int = 0
    """Of concrete, its place among what keeps its body where two meet: the lower goes first; 0 for
    what is not of concrete. Walls go through slabs and stop inside footings; a slab ends at the
    edge it is thickened by; blinding lies under everything."""
    why_no_check: str = ""
    """Why nothing of it is checked: it rests all along, or carries nothing that the way of loads
    gives it (``docs/rules.md``)."""

    spans: bool = False
    """Side by side with its like, it carries an area."""
    carries: bool = False
    """It carries others besides."""
    of_truss: bool = False
    of_wall: bool = False
    """Of the frame of a wall, which carries as a whole."""
    in_floor: bool = False
    """Of a joist floor, what a post may stand on."""
    strip: bool = False
    """A strip of concrete on the soil."""
    on_soil: bool = False
    """It hands its load to the soil."""
    under_walls: bool = False
    """Of a foundation, what walls stand on."""
    under_posts: bool = False
    """What the foot of a post is tied to."""
    holds_posts: bool = False
    """Of a foundation, what a post may stand on for good."""
    carries_posts: int = 0
    """Above the foundation, what a post may stand on: the lower number the surer; 0 for none."""
    upright: bool = False
    """A post or a pier."""
    anywhere: bool = False
    """It stands on what any foundation gives; others on that of their own host alone."""
    at_one_place: bool = False
    """It brings its load to one place; all else comes in rows."""
    hard: bool = False
    """Wood that bears on it needs 3 in (IRC 2021 R502.6)."""
    held_all_along: bool = False
    """Sheathing holds its upper edge sideways all along (NDS 4.4.1.2)."""
    holds_sideways: bool = False
    """Where it lies or hangs on a beam it holds the beam's upper edge sideways, since it is itself
    held in a floor or roof (NDS 3.3.3.3; AISC 360 appendix 6). The weight of a wall, and a post,
    hold nothing."""

    movable: bool = False
    """Level and cut square: it can be moved freely by hand."""
    slides: bool = False
    """Of a wall, moved along it by hand, or up and down where it lies."""
    by_row: bool = False
    """Moved sideways, its whole row goes along."""
    removable: bool = False
    """It can be taken away by hand."""
    part: RafterPart | None = None
    """Of a rafter roof, among which pieces it is left out or cut from a section of its own."""

    @property
    def flows(self) -> bool:
        """Whether load goes on from it to what it rests on."""
        return self.spans or self.carries or self.role == "bottom chord"
