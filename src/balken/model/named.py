"""Finding records by their key."""

from collections.abc import Iterable
from typing import Protocol, TypeVar

from balken.errors import BalkenError


class _Keyed(Protocol):
    @property
    def id(self) -> str: ...


_T = TypeVar("_T", bound=_Keyed)


class MissingError(BalkenError):
    """What is asked for was there before and is no more: taken away, or taken back."""


def named(items: Iterable[_T], key: str, what: str) -> _T:
    """The record with a key.

    Raises:
        MissingError: there is none; says of what kind it was.
    """
    for item in items:
        if item.id == key:
            return item
    raise MissingError(f"There is no {what} “{key}” any more.")
