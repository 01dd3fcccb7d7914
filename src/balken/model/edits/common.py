"""What every edit shares: it checks what it is given and returns a valid project, or says what
stands in the way."""

import re
from collections.abc import Iterable
from typing import Any, Final, TypeVar

import msgspec
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.model.project import Project
from balken.model.record import Record
from balken.model.validity import validate
from balken.units import format_length

_R = TypeVar("_R", bound=Record)


class EditError(BalkenError):
    """An edit that cannot be made; its text says what stands in the way."""


def with_(records: Iterable[_R], key: str, **fields: Any) -> tuple[_R, ...]:
    """Records with fields of one of them changed."""
    return tuple(replace(r, **fields) if getattr(r, "id", None) == key else r for r in records)


def checked(project: Project, **fields: Any) -> Project:
    """A project with fields changed, once it passes the same gate as a file.

    Raises:
        EditError: a record breaks a limit, or the project contradicts itself.
    """
    try:
        made = {name: _gate(getattr(project, name), value) for name, value in fields.items()}
        return validate(replace(project, **made))
    except msgspec.ValidationError as error:
        raise EditError(_in_words(str(error))) from error
    except BalkenError as error:
        raise EditError(_spoken(str(error))) from error


def _gate(old: Any, new: Any) -> Any:
    """Read new records as if from a file, since records check their limits when they are read; old
    ones passed it."""
    if not isinstance(new, tuple):
        return msgspec.convert(msgspec.to_builtins(new), type(new))
    passed = {id(item) for item in old}
    return tuple(
        item if id(item) in passed else msgspec.convert(msgspec.to_builtins(item), type(item))
        for item in new
    )


_PLACE: Final = re.compile(
    r"\$\.(?P<kind>\w+)(\[\d+\])?(\.(?P<part>\w+)(\[\d+\])?)?:?\s*(?P<rest>.*)", re.DOTALL
)
_SPOKEN: Final = {
    "levels": "Level",
    "grids": "Grid",
    "lines": "Grid line",
    "walls": "Wall",
    "openings": "Opening",
    "runs": "Foundation",
    "floors": "Floor",
    "roofs": "Roof",
    "point_supports": "Support",
    "wall_build_ups": "Build-up",
    "changes": "Change",
    "backgrounds": "Background",
}


def _spoken(fault: str) -> str:
    """A fault with the place in a file said as the thing it is: people edit walls, not lines
    of a file."""
    found = _PLACE.fullmatch(fault)
    if not found:
        return fault
    word = _SPOKEN.get(found["part"] or "") or _SPOKEN.get(found["kind"])
    return f"{word} {found['rest']}" if word else found["rest"]


_LIMIT: Final = re.compile(
    r"Expected `\w+` (?P<sign>[<>]=?) (?P<limit>[-\d.e+]+) - at `\$.*?\.?(?P<field>\w+)[\]\d\[.]*`"
)
_PURE_NUMBERS: Final = ("rise", "live_limit", "total_limit")
"""Fields without a unit, whose limit can be said as it stands."""


_LENGTHS: Final = (
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
)
"""Fields in mm, whose limit is said in both measures."""


_FIELD_WORDS: Final = {"longer": "change of length", "along": "move", "up": "move"}


def _bound(field: str, limit: float) -> str:
    """A limit as it is said; empty where its unit is not known here."""
    if field in _LENGTHS:
        return f"{limit:g} mm, {format_length(limit, 'us')}"
    return f"{limit:g}" if field in _PURE_NUMBERS else ""


def _in_words(fault: str) -> str:
    """Say a limit of a record as a sentence about the field that was typed."""
    found = _LIMIT.match(fault)
    if not found:
        return fault
    field = _FIELD_WORDS.get(found["field"], found["field"].replace("_", " "))
    limit = float(found["limit"])
    if found["sign"].startswith(">") and limit == 0:
        return (
            f"The {field} must be {'more than zero' if found['sign'] == '>' else 'zero or more'}."
        )
    said = _bound(found["field"], limit)
    if found["sign"].startswith(">"):
        return f"This {field} is too small{said and f': at least {said}'}."
    return f"This {field} is too large{said and f': at most {said}'}."


def known(kind: type[Record], fields: dict[str, Any]) -> None:
    """Refuse a field a kind of record does not have.

    Raises:
        EditError: there is such a field.
    """
    unknown = set(fields) - set(kind.__struct_fields__)
    if unknown:
        raise EditError(f"{kind.__name__} has no field “{sorted(unknown)[0]}”.")


def fresh(keys: Iterable[str], stem: str) -> str:
    """The first of ``stem1``, ``stem2`` … that is no key yet."""
    taken = set(keys)
    return next(k for k in (f"{stem}{n}" for n in range(1, 1_000_000)) if k not in taken)


def fresh_many(keys: Iterable[str], stem: str, count: int) -> list[str]:
    """As many new keys as are asked for."""
    found: list[str] = []
    taken, n = set(keys), 0
    while len(found) < count:
        n += 1
        if f"{stem}{n}" not in taken:
            found.append(f"{stem}{n}")
    return found
