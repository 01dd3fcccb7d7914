"""Text of a STEP file (ISO 10303-21) entity by entity, by the schemas that IfcOpenShell knows.

The library's own calls cost a tenth of a millisecond an entity, most of it on the way between two
languages; here an entity is one line of text. What is written is held against the library in tests.
"""

import math
from collections.abc import Callable, Sequence
from datetime import datetime
from functools import cache
from typing import Any, Final, NamedTuple

Ref = int
"""An entity by its number."""


class Typed(str):
    """A value that says its own type: ``IFCLABEL('post')``."""

    __slots__ = ()


class Kind(NamedTuple):
    """An entity of a schema: its word, its attributes and how each is written."""

    word: str
    places: dict[str, int]
    write: tuple[Callable[[Any], str], ...]
    derived: tuple[bool, ...]


class StepText:
    """A file being written."""

    def __init__(self, schema: str) -> None:
        self.schema = schema
        self.lines: list[str] = []

    def value(self, kind: str, value: Any) -> Typed:
        """A value that says its type, as a choice of types asks for."""
        found = kind_of(self.schema, kind)
        return Typed(f"{found.word}({found.write[0](value)})")

    def add(self, entity: str, *values: Any, **named: Any) -> Ref:
        """Write an entity by its values in the order of the schema, or by their names.

        Returns:
            Its number.

        Raises:
            KeyError: the schema does not know a name.
            ValueError: too many values, or a number that is none.
        """
        kind = kind_of(self.schema, entity)
        given: list[Any] = list(values)
        given += [None] * (len(kind.write) - len(given))
        for name, value in named.items():
            given[kind.places[name]] = value
        if len(given) > len(kind.write):
            raise ValueError(f"{entity} has {len(kind.write)} values, {len(given)} were given")
        parts = [
            "*" if derived else "$" if value is None else write(value)
            for value, write, derived in zip(given, kind.write, kind.derived)
        ]
        self.lines.append(f"#{len(self.lines) + 1}={kind.word}({','.join(parts)});")
        return len(self.lines)

    def text(self, name: str, when: str, program: str) -> str:
        """The whole file.

        Args:
            name: of the file, as it says itself.
            when: time stamp (ISO 8601); now where empty.
            program: what wrote it.
        """
        stamp = when or datetime.now().isoformat(timespec="seconds")
        view = "CoordinationView" if self.schema == "IFC2X3" else "DesignTransferView"
        head = (
            f"FILE_DESCRIPTION(('ViewDefinition [{view}]'),'2;1');",
            f"FILE_NAME({_string(name)},{_string(stamp)},(''),(''),"
            f"{_string(program)},{_string(program)},'');",
            f"FILE_SCHEMA(('{self.schema}'));",
        )
        return (
            "\n".join(
                ("ISO-10303-21;", "HEADER;", *head, "ENDSEC;", "DATA;", *self.lines, "ENDSEC;", "")
            )
            + "END-ISO-10303-21;\n"
        )


@cache
def _declaration(schema: str, entity: str) -> Any:
    from ifcopenshell import ifcopenshell_wrapper

    try:
        return ifcopenshell_wrapper.schema_by_name(schema).declaration_by_name(entity)
    except RuntimeError:
        return None


def known_in(schema: str, entity: str) -> bool:
    """Whether a schema has an entity."""
    return _declaration(schema, entity) is not None


@cache
def kind_of(schema: str, entity: str) -> Kind:
    """An entity, or a type of values, of a schema."""
    found = _declaration(schema, entity)
    word = entity.upper()
    if found.as_entity() is None:
        return Kind(word, {}, (_writer(found),), (False,))
    attributes = found.as_entity().all_attributes()
    return Kind(
        word,
        {a.name(): i for i, a in enumerate(attributes)},
        tuple(_writer(a.type_of_attribute()) for a in attributes),
        tuple(found.as_entity().derived()),
    )


@cache
def words_of(schema: str, entity: str, attribute: str) -> tuple[str, ...]:
    """The words of the enumeration that an attribute is of; none where there is no such attribute."""
    for a in _declaration(schema, entity).as_entity().all_attributes():
        if a.name() == attribute:
            return tuple(a.type_of_attribute().declared_type().enumeration_items())
    return ()


def _writer(kind: Any) -> Callable[[Any], str]:
    """How a value of a type is written."""
    match type(kind).__name__:
        case "simple_type":
            return _SIMPLE[kind.declared_type()]
        case "named_type" | "type_declaration":
            return _writer(kind.declared_type())
        case "aggregation_type":
            return _list_of(_writer(kind.type_of_element()))
        case "enumeration_type":
            return _word
        case _:
            return _reference


def _list_of(write: Callable[[Any], str]) -> Callable[[Any], str]:
    def of(values: Sequence[Any]) -> str:
        return f"({','.join([write(v) for v in values])})"

    return of


def _reference(value: Any) -> str:
    return value if isinstance(value, Typed) else f"#{value}"


def _word(value: str) -> str:
    return f".{value}."


def _real(value: float) -> str:
    number = float(value)
    if not math.isfinite(number):
        raise ValueError(f"{value} cannot be written as a number")
    text = repr(number)
    if "e" not in text:
        return text
    most, _, power = text.partition("e")
    return f"{most if '.' in most else most + '.'}E{power}"


def _integer(value: int) -> str:
    return str(int(value))


def _boolean(value: bool) -> str:
    return ".T." if value else ".F."


def _string(value: str) -> str:
    """Letters that are not of ASCII as ISO 10646 in two or four bytes (ISO 10303-21, 6.4.3)."""
    if value.isascii() and value.isprintable() and "'" not in value and "\\" not in value:
        return f"'{value}'"
    return f"'{''.join(map(_letter, value))}'"


def _letter(c: str) -> str:
    if c in "'\\":
        return c * 2
    if c.isascii() and c.isprintable():
        return c
    number = ord(c)
    return f"\\X2\\{number:04X}\\X0\\" if number < 0x10000 else f"\\X4\\{number:08X}\\X0\\"


_SIMPLE: Final[dict[str, Callable[[Any], str]]] = {
    "real": _real,
    "number": _real,
    "integer": _integer,
    "string": _string,
    "boolean": _boolean,
    "logical": _boolean,
}
