"""The limits that fields of records have, and what is said where a value breaks one."""

import math
import operator
from collections.abc import Callable, Iterator
from typing import Any, Final, NamedTuple

from msgspec import inspect

from balken.units import format_length

LENGTHS: Final = frozenset(
    [
        "heel",
        "ridge",
        "overhang",
        "rake",
        "seat",
        "tie_up",
        "tie_gap",
        "purlin_up",
        "strut_gap",
        "end_gap",
        "least_clear",
        "hang",
        "camber",
        "hip_setback",
        "bottom_rise",
        "studs",
        "spacing",
        "shift",
        "along",
        "up",
        "longer",
        "size",
        "width",
        "depth",
        "height",
        "diameter",
        "length",
        "apart",
    ]
)
"""Fields in mm, whose limit is said in both measures."""
PURE_NUMBERS: Final = frozenset(
    [
        "rise",
        "live_limit",
        "total_limit",
        "permanent",
        "holding",
        "variable",
        "solid_timber",
        "glulam",
        "lvl",
        "psi_floors",
        "psi_snow",
        "psi_wind",
        "kmod_dry",
        "kmod_wet",
        "sds",
        "sd1",
        "s1",
        "response",
        "importance",
        "topography",
    ]
)
"""Fields without a unit, whose limit is said as it stands."""
WORDS: Final = {
    "longer": "change of length",
    "along": "move",
    "up": "move",
    "permanent": "γG",
    "holding": "γG of what holds down",
    "variable": "γQ",
    "solid_timber": "γM of solid timber",
    "glulam": "γM of glulam",
    "lvl": "γM of LVL",
    "psi_floors": "ψ of floors",
    "psi_snow": "ψ of snow",
    "psi_wind": "ψ of wind",
    "kmod_dry": "kmod",
    "kmod_wet": "kmod",
    "sds": "SDS",
    "sd1": "SD1",
    "s1": "S1",
    "response": "R",
    "importance": "importance factor",
    "holds": "force that a fastener holds",
    "topography": "factor of the ground’s shape",
}
"""What fields are called where their name does not say it."""


class Broken(NamedTuple):
    """A field whose value is beyond a limit: below the least or above the most it may be."""

    field: str
    limit: float
    is_low: bool
    is_open: bool
    """The limit itself is not allowed."""

    def sentence(self) -> str:
        """What is said of it to the person who typed it."""
        name = WORDS.get(self.field, self.field.replace("_", " "))
        if self.is_low and self.limit == 0:
            return f"The {name} must be {'more than zero' if self.is_open else 'zero or more'}."
        said = _bound(self.field, self.limit)
        if self.is_low:
            return f"This {name} is too small{said and f': at least {said}'}."
        return f"This {name} is too large{said and f': at most {said}'}."


def first_broken(record: Any) -> Broken | None:
    """The first field of a record, or of one within it, whose number breaks its limit."""
    return next(_broken(record, inspect.type_info(type(record)), ""), None)


def _bound(field: str, limit: float) -> str:
    """A limit as it is said; empty where its unit is not known here."""
    if field in LENGTHS:
        return f"{limit:g} mm, {format_length(limit, 'us')}"
    return f"{limit:g}" if field in PURE_NUMBERS else ""


def _broken(value: Any, kind: inspect.Type, field: str) -> Iterator[Broken]:
    walk = _WALKS.get(type(kind))
    if walk is not None:
        yield from walk(value, kind, field)


def _in_record(value: Any, kind: Any, _: str) -> Iterator[Broken]:
    for field in kind.fields:
        yield from _broken(getattr(value, field.name), field.type, field.name)


def _in_tuple(value: Any, kind: Any, field: str) -> Iterator[Broken]:
    for item in value:
        yield from _broken(item, kind.item_type, field)


def _in_fixed_tuple(value: Any, kind: Any, field: str) -> Iterator[Broken]:
    for item, its_kind in zip(value, kind.item_types):
        yield from _broken(item, its_kind, field)


def _in_either(value: Any, kind: Any, field: str) -> Iterator[Broken]:
    """One of several types: None has no limits, and records are told apart by their class."""
    for one in kind.types:
        if value is not None and isinstance(value, getattr(one, "cls", type(value))):
            yield from _broken(value, one, field)


def _number(value: Any, kind: Any, field: str) -> Iterator[Broken]:
    if not isinstance(value, int | float) or not math.isfinite(value):
        return
    for limit, is_beyond, is_low, is_open in (
        (kind.ge, operator.lt, True, False),
        (kind.gt, operator.le, True, True),
        (kind.le, operator.gt, False, False),
        (kind.lt, operator.ge, False, True),
    ):
        if limit is not None and is_beyond(value, limit):
            yield Broken(field, limit, is_low, is_open)


def _in_metadata(value: Any, kind: Any, field: str) -> Iterator[Broken]:
    yield from _broken(value, kind.type, field)


_WALKS: Final[dict[type, Callable[[Any, Any, str], Iterator[Broken]]]] = {
    inspect.StructType: _in_record,
    inspect.VarTupleType: _in_tuple,
    inspect.TupleType: _in_fixed_tuple,
    inspect.UnionType: _in_either,
    inspect.FloatType: _number,
    inspect.IntType: _number,
    inspect.Metadata: _in_metadata,
}
