"""What a slip says, row by row. The window paints the rows; a test reads them and types into them
without a window."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import Any

import msgspec

from balken.design.effects import Diagram
from balken.design.lines import Check
from balken.design.sizing import Choice, Sized
from balken.drawing.marks import Drawing
from balken.errors import BalkenError
from balken.framing.member import Member
from balken.framing.trusses.placing import PlacedTruss

Act = Callable[[], object]
"""What is done when a word is clicked."""


class Title(msgspec.Struct, frozen=True):
    """The head of a slip: what it is called, what kind of thing it is, and a word at the right."""

    mark: str
    kind: str = ""
    right: str = ""


class Line(msgspec.Struct, frozen=True):
    """A line of words."""

    text: str
    quiet: bool = False
    bold: bool = False
    small: bool = False


class Heading(msgspec.Struct, frozen=True):
    """A heading between parts, with a word at the right."""

    text: str
    right: str = ""


class Fact(msgspec.Struct, frozen=True):
    """A name and what stands beside it."""

    name: str
    text: str


class Figure(msgspec.Struct, frozen=True):
    """A drawing."""

    drawing: Drawing


class BeamFigure(msgspec.Struct, frozen=True):
    """A member that carries others, with the values along it."""

    drawing: Drawing
    member: Member
    diagram: Diagram


class TrussFigure(msgspec.Struct, frozen=True):
    """A truss whose joints can be moved: ``put`` takes a joint's number, from 1, and where along
    its chord it goes, mm."""

    drawing: Drawing
    truss: PlacedTruss
    put: Callable[[int, float], object]


class Checks(msgspec.Struct, frozen=True):
    """Checks as bars; one that is opened shows its lines."""

    checks: tuple[Check, ...]


class Sizes(msgspec.Struct, frozen=True):
    """Other sections and spacings; ``hold`` takes the one that is clicked."""

    sized: Sized
    hold: Callable[[Choice], object]


class Options(msgspec.Struct, frozen=True):
    """One of several to choose: the words and value of each, the value now, and what choosing
    does."""

    name: str
    values: Sequence[tuple[str, Any]]
    now: Any
    choose: Callable[[Any], object]


class Field(msgspec.Struct, frozen=True):
    """Something that is typed: its name, what stands there now, and what typing does."""

    name: str
    value: str
    typed: Callable[[str], object]
    """Takes the text. Raises a BalkenError, or gives False, where it is refused."""
    example: str = ""
    """What stands there while nothing is typed."""
    heard: Callable[[str], object] | None = None
    """Takes each letter as it is typed, where a button further down needs it."""


class Button(msgspec.Struct, frozen=True):
    """Something to do."""

    text: str
    press: Act


class Link(msgspec.Struct, frozen=True):
    """A name, and beside it words to be clicked."""

    name: str
    text: str
    press: Act


class Links(msgspec.Struct, frozen=True):
    """One line of words to be clicked."""

    words: Sequence[tuple[str, Act]]


Row = (
    Title
    | Line
    | Heading
    | Fact
    | Figure
    | BeamFigure
    | TrussFigure
    | Checks
    | Sizes
    | Options
    | Field
    | Button
    | Link
    | Links
)
Rows = Iterator[Row]


def offered(values: Sequence[tuple[str, Any]], now: Any) -> Sequence[tuple[str, Any]]:
    """Values to choose from, headed by “various” where the things they are for differ (``now``
    None); choosing that changes nothing."""
    return values if now is not None else [("various", None), *values]


def unless_none(choose: Callable[[Any], object]) -> Callable[[Any], object]:
    """A choice that does nothing where “various” is chosen."""
    return lambda value: None if value is None else choose(value)


class Refused(msgspec.Struct, frozen=True):
    """What was typed and not taken, and why."""

    text: str
    why: str


def type_into(field: Field, text: str, said: Callable[[], str] = lambda: "") -> Refused | None:
    """Type into a field and press Enter; what is refused, or None where it was taken.

    Args:
        field: where it is typed.
        text: what is typed.
        said: what was said last, where an edit was refused in words.
    """
    if text.strip() == field.value.replace("−", "-").strip():
        return None
    try:
        refused = field.typed(text) is False
    except BalkenError as error:
        return Refused(text, str(error))
    return Refused(text, said()) if refused else None


def field_of(rows: Iterable[Row], name: str) -> Field:
    """The field of a name among the rows of a slip.

    Raises:
        LookupError: none is called so.
    """
    for row in rows:
        if isinstance(row, Field) and row.name == name:
            return row
    raise LookupError(f"No field is called {name}.")
