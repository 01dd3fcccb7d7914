"""Remembering what followed from the same records, so that an edit re-makes only what it touches.

An explicit object that the caller owns: no global state, and a run without one works the same, only slower.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from typing import Any, TypeVar

_T = TypeVar("_T")


class SmallMemo:
    """Many small results by their arguments, the oldest half dropped when there are too many.

    Asking is one look into a dict, which threads may do at once; at worst two of them work the same out.
    """

    def __init__(self, limit: int) -> None:
        self.kept: dict[Any, Any] = {}
        self._limit = limit

    def __call__(self, function: Callable[..., _T], *args: Any) -> _T:
        """Return ``function(*args)``, from memory where the same was asked before. Arguments must be hashable."""
        key = (function, args)
        found: _T
        try:
            found = self.kept[key]
        except KeyError:
            found = function(*args)
            self.keep(key, found)
        return found

    def keep(self, key: Any, made: Any) -> None:
        """Remember a result."""
        self.kept[key] = made
        if len(self.kept) > self._limit:
            self.kept = dict(list(self.kept.items())[self._limit // 2 :])


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

    def each(self, function: Callable[..., list[_T]], items: Sequence[Any], *rest: Any) -> list[_T]:
        """Return ``function``'s result for each item; those not remembered are worked out together, in one call.

        Items must be hashable; the function is given the list of them (and ``rest``, which does not change what comes out)
        and returns one result an item, in their order.
        """
        kept = self.small.kept
        found = {item: kept[function, item] for item in items if (function, item) in kept}
        missing = [item for item in dict.fromkeys(items) if item not in found]
        if missing:
            for item, made in zip(missing, function(missing, *rest)):
                found[item] = made
                self.small.keep((function, item), made)
        return [found[item] for item in items]
