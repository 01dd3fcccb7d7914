"""How a wall of studs is framed: a rule of its build-up, or of the wall itself."""

from typing import Annotated, Literal

from msgspec import Meta

from balken.model.record import Name, Record, SectionName
from balken.units import INCH

HeaderKind = Literal["built up", "flat"]


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
    begins: Literal["start", "end"] = "start"
    """At which end of the wall the layout begins."""
    top_plates: Literal[1, 2] = 2
    corner: Literal["three studs", "two studs"] = "three studs"
    """Two with a clip, or a third that backs the lining."""
    header: HeaderKind = "built up"
    """Flat where nothing is carried: one plate on its flat."""
    header_section: SectionName = ""
    """Held by a person; by calculation where empty."""
    sills: Literal[1, 2] = 1
    blocking: Annotated[float, Meta(ge=0, le=3000)] = 0.0
    """Rows of blocks so far over one another at most; none where nothing, but against fire in walls
    over 10 ft (IRC 2021 R302.11)."""
