"""Remembering what followed from the same records, so that an edit re-makes only what it touches.

An explicit object that the caller owns: no global state, and a run without one works the same, only slower.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

_T = TypeVar("_T")


class SmallMemo:
    """Many small results by their arguments, the oldest half dropped when there are too many.

    Asking is one look into a dict, which threads may do at once; at worst two of them work the same out.
    """

    def __init__(self, limit: int) -> None:
        self._kept: dict[Any, Any] = {}
        self._limit = limit

    def __call__(self, function: Callable[..., _T], *args: Any) -> _T:
        """Return ``function(*args)``, from memory where the same was asked before. Arguments must be hashable."""
        key = (function, args)
        found: _T
        try:
            found = self._kept[key]
        except KeyError:
            found = self._kept[key] = function(*args)
            if len(self._kept) > self._limit:
                self._kept = dict(list(self._kept.items())[self._limit // 2 :])
        return found


class Memo:
    """Results of pure functions by their frozen arguments, the least used dropped first."""

    def __init__(self, limit: int = 2048, small: int = 20_000) -> None:
        self._kept: OrderedDict[Any, Any] = OrderedDict()
        self._limit = limit
        self._door = threading.Lock()
        self.small = SmallMemo(small)
        """Where results no larger than an outline are remembered: many more of them than whole floors."""

    def __call__(self, function: Callable[..., _T], *args: Any) -> _T:
        """Return ``function(*args)``, from memory where the same was asked before. Arguments must be hashable.

        Several threads may ask; at worst two of them work the same out.
        """
        key = (function, *args)
        with self._door:
            if key in self._kept:
                self._kept.move_to_end(key)
                found: _T = self._kept[key]
                return found
        made = function(*args)
        with self._door:
            self._kept[key] = made
            if len(self._kept) > self._limit:
                self._kept.popitem(last=False)
        return made
