"""What lumber is cut from: lengths at hand, what a cut takes, and offcuts that were kept."""

from typing import Annotated

from msgspec import Meta

from balken.model.record import Name, Reach, Record, SectionName, Size

Lengths = Annotated[tuple[Size, ...], Meta(max_length=40)]


class StockLengths(Record, frozen=True):
    """The lengths in which one section can be bought, mm."""

    section: SectionName
    lengths: Lengths


class Offcut(Record, frozen=True):
    """Pieces at hand that are left from other work; ``length`` mm."""

    section: SectionName
    material: Name
    length: Size
    count: Annotated[int, Meta(ge=1, le=10000)] = 1


class StockRule(Record, frozen=True):
    """How lumber is bought and cut. Lengths mm."""

    lengths: Lengths = ()
    """That can be bought; those of the catalogue where empty."""
    of_sections: Annotated[tuple[StockLengths, ...], Meta(max_length=500)] = ()
    """And of sections that come in others."""
    kerf: Annotated[float, Meta(ge=0, le=20)] = 3.2
    """What the saw takes at a cut."""
    trim: Annotated[float, Meta(ge=0, le=300)] = 0.0
    """What is cut off both ends of a board before it is used."""
    keep: Reach = 600.0
    """Offcuts this long are kept for later, shorter ones are waste."""
    sawn: Annotated[tuple[Name, ...], Meta(max_length=50000)] = ()
    """Marks of pieces that the saw has told as cut."""
    refined: bool = False
    """Whether boards are sought by the linear program over ways to cut, which takes seconds."""
    offcuts: Annotated[tuple[Offcut, ...], Meta(max_length=2000)] = ()
    """At hand: they are cut up before anything is bought."""
