"""What every edit shares: it checks what it is given and returns a valid project, or says what
stands in the way."""

import re
from collections.abc import Iterable
from typing import Any, Final, TypeVar

import msgspec
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.model.limits import first_broken
from balken.model.project import Project
from balken.model.record import Record
from balken.model.validity import validate

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
        raise EditError(_refusal(fields) or str(error)) from error
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


def _refusal(fields: dict[str, Any]) -> str:
    """What is said of the first number among new fields that breaks its limit."""
    items = [item for value in fields.values() for item in _items(value)]
    found = next((broken for item in items if (broken := first_broken(item))), None)
    return found.sentence() if found else ""


def _items(value: Any) -> tuple[Any, ...]:
    return value if isinstance(value, tuple) else (value,)


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
    "loads": "Load",
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
