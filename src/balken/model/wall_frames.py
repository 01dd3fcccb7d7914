"""How a wall of studs is framed: a rule of its build-up, or of the wall itself."""

from typing import Annotated, Literal

from msgspec import Meta

from balken.model.record import Coordinate, Key, Name, Record, SectionName
from balken.units import INCH

HeaderKind = Literal["built up", "solid", "box", "flat"]
LetIn = Literal["", "board", "strap"]
"""What stiffens studs along their wall where panels do not: a board let into them, or a strap of
steel nailed on, slantwise."""


class Panels(Record, frozen=True):
    """Panels nailed to studs, that hold a wall against wind and earthquake."""

    panel: Name
    """As tables call it: 7/16 of an inch, OSB 12."""
    nail: Name
    thick: Annotated[float, Meta(gt=0, le=50)]
    nail_diameter: Annotated[float, Meta(ge=1.5, le=8)]
    nail_length: Annotated[float, Meta(ge=20, le=150)]
    edges: Annotated[float, Meta(ge=38, le=300)]
    """Between nails along the panels' edges, mm."""
    faces: Literal[1, 2] = 1


class SetStud(Record, frozen=True):
    """A stud that a person set: its middle along the wall, mm."""

    id: Key
    at: Coordinate


class StudRule(Record, frozen=True):
    """Studs, plates and what goes round openings. Lengths mm."""

    framed: bool = True
    """No for a wall of a framed build-up that is left as it is."""
    section: SectionName = ""
    """Of studs and plates; the widest that the stud layer takes where empty."""
    species: Name = ""
    grade: Name = ""
    """The usual wood of the code where empty."""
    spacing: Annotated[float, Meta(ge=200, le=1250)] = 16 * INCH
    begins: Literal["start", "end", "under joists"] = "start"
    """At which end of the wall the layout begins; or a stud under each joist, rafter or truss that bears
    on it."""
    top_plates: Literal[1, 2] = 2
    corner: Literal["three studs", "two studs"] = "three studs"
    """Two with a clip, or a third that backs the lining."""
    end_studs: Annotated[int, Meta(ge=1, le=4)] = 1
    """Side by side at both ends of the wall, as one post that panels push and pull."""
    header: HeaderKind = "built up"
    """Of one piece where solid; a box of two plates and panels nailed to them; flat where nothing is carried:
    one plate on its flat."""
    header_section: SectionName = ""
    """Held by a person; by calculation where empty."""
    sills: Literal[1, 2] = 1
    let_in: LetIn = ""
    batts: Name = ""
    """What is laid between the studs, as mineral wool; nothing where empty."""
    panels: Panels | None = None
    """That hold it against what pushes along it; none where empty."""
    lift_length: Annotated[float, Meta(ge=0, le=20000)] = 0.0
    """The longest panel that can be lifted, mm; the wall is framed where it stands where both are
    nothing."""
    lift_weight: Annotated[float, Meta(ge=0, le=1e5)] = 0.0
    """And the heaviest, N."""
    blocking: Annotated[float, Meta(ge=0, le=3000)] = 0.0
    """Rows of blocks so far over one another at most; none where nothing, but against fire in walls
    over 10 ft (IRC 2021 R302.11)."""
