"""What a person decides about the set of sheets: paper, title block, revisions, sections and notes."""

from typing import Annotated, Literal

from msgspec import Meta

from balken.model.record import Key, Name, Place, Reach, Record, Shift

PaperSize = Literal[
    "",
    "A4",
    "A3",
    "A2",
    "A1",
    "A0",
    "ANSI A",
    "ANSI B",
    "ANSI C",
    "ANSI D",
    "ANSI E",
    "ARCH A",
    "ARCH B",
    "ARCH C",
    "ARCH D",
    "ARCH E",
]
"""ISO 216, ANSI/ASME Y14.1; empty for the smallest that holds the plans."""
Words = Annotated[str, Meta(max_length=300)]


class TitleBlock(Record, frozen=True):
    """What stands in the title block beside the name of the project; empty where nothing does."""

    firm: Words = ""
    client: Words = ""
    address: Words = ""
    job: Name = ""
    drawn: Name = ""
    seen: Name = ""
    """Who looked it through."""


class Revision(Record, frozen=True):
    """A row of the table of revisions."""

    mark: Name
    date: Name
    words: Words


class Jog(Record, frozen=True):
    """Where a section steps: so far along its line, mm, it goes on so far ahead of it, or behind where less
    than nothing."""

    at: Reach
    ahead: Shift


class SectionLine(Record, frozen=True):
    """Where the building is cut: a line on the plan, looking to the left of its way, and how far what lies
    behind it is shown, mm; all where nothing."""

    id: Key
    start: Place
    end: Place
    depth: Reach = 0.0
    jogs: Annotated[tuple[Jog, ...], Meta(max_length=10)] = ()


class SheetNote(Record, frozen=True):
    """Words by hand on a view, at a place of what it shows, with a leader to another."""

    id: Key
    view: Name
    """The lasting name of the view, as ``plan:F1``."""
    words: Annotated[str, Meta(min_length=1, max_length=300)]
    at: Place
    to: Place | None = None


class Hold(Record, frozen=True):
    """A place of the plan, by what it moves with."""

    kind: Literal["", "wall", "opening", "grid", "support", "beam"] = ""
    key: Name = ""
    part: Name = ""
    """Of it: an end, a jamb, a crossing of lines."""
    by: Place = (0.0, 0.0)
    """How far it lies from there, mm; where it lies, where nothing holds it."""


DimensionKind = Literal["linear", "aligned", "radius", "level"]


class HandDimension(Record, frozen=True):
    """A dimension that a person drew on a plan: along the building, as its places lie, the radius of a curved
    wall, or how high something lies."""

    id: Key
    view: Name
    kind: DimensionKind
    holds: Annotated[tuple[Hold, ...], Meta(min_length=1, max_length=60)]
    at: Place
    """Where its string or its words stand."""


class Cloud(Record, frozen=True):
    """A cloud round what a revision changed, on a plan."""

    id: Key
    view: Name
    mark: Name
    """Of the revision."""
    start: Place
    end: Place
    """Two corners of it."""


class LaidView(Record, frozen=True):
    """What a person decided of a view on its sheet."""

    key: Name
    """Its lasting name, as ``plan:F1``."""
    by: Place = (0.0, 0.0)
    """How far it was moved from where it lies by itself, to the right and up, mm of paper."""
    scale: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    """So many mm of building to one of paper; by itself where nothing."""


class Paper(Record, frozen=True):
    """All of it."""

    size: PaperSize = ""
    colour: bool = False
    """Sheets in the colours of materials; of one colour where not."""
    block: TitleBlock = TitleBlock()
    revisions: Annotated[tuple[Revision, ...], Meta(max_length=40)] = ()
    sections: Annotated[tuple[SectionLine, ...], Meta(max_length=40)] = ()
    notes: Annotated[tuple[SheetNote, ...], Meta(max_length=500)] = ()
    dimensions: Annotated[tuple[HandDimension, ...], Meta(max_length=1000)] = ()
    clouds: Annotated[tuple[Cloud, ...], Meta(max_length=200)] = ()
    views: Annotated[tuple[LaidView, ...], Meta(max_length=500)] = ()
    general: Annotated[tuple[Words, ...], Meta(max_length=60)] = ()
    """General notes besides those that follow from the project."""
