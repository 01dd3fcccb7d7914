"""Remembering what followed from the same records, so that an edit re-makes only what it touches.

An explicit object that the caller owns: no global state, and a run without one works the same, only
slower.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from typing import Any, Final, TypeVar

_T = TypeVar("_T")


_MISSING: Final = object()


class SmallMemo:
    """Many small results by their arguments. What was not asked for while half as many others as it
    may hold came in is dropped.

    Asking is one look into a dict, which threads may do at once; at worst two of them work the same
    out.
    """

    def __init__(self, limit: int) -> None:
        self._young: dict[Any, Any] = {}
        self._old: dict[Any, Any] = {}
        self._limit = limit // 2

    def __call__(self, function: Callable[..., _T], *args: Any) -> _T:
        """Return ``function(*args)``, from memory where the same was asked before. Arguments must
        be hashable."""
        key = (function, args)
        found = self._young.get(key, _MISSING)
        if found is _MISSING:
            found = self._old.get(key, _MISSING)
            if found is _MISSING:
                found = function(*args)
            self._keep(key, found)
        return found  # type: ignore[no-any-return]

    def each(
        self, function: Callable[..., list[_T]], items: Sequence[Any], rest: tuple[Any, ...]
    ) -> list[_T]:
        """See :meth:`Memo.each`."""
        young, old = self._young, self._old
        keys = [(function, item) for item in items]
        found = [young.get(key, _MISSING) for key in keys]
        missing: dict[Any, list[int]] = {}
        for i, one in enumerate(found):
            if one is _MISSING:
                kept = found[i] = old.get(keys[i], _MISSING)
                if kept is _MISSING:
                    missing.setdefault(items[i], []).append(i)
                else:
                    self._keep(keys[i], kept)
        if missing:
            for places, made in zip(missing.values(), function(list(missing), *rest)):
                for i in places:
                    found[i] = made
                self._keep(keys[places[0]], made)
        return found

    def _keep(self, key: Any, made: Any) -> None:
        self._young[key] = made
        if len(self._young) > self._limit:
            self._old, self._young = self._young, {}


class Memo:
    """Results of pure functions by their frozen arguments, the least used dropped first."""

    def __init__(self, limit: int = 2048, small: int = 20_000) -> None:
        self._kept: OrderedDict[Any, Any] = OrderedDict()
        self._limit = limit
        self._door = threading.Lock()
        self.small = SmallMemo(small)
        """Where results no larger than an outline are remembered: many more of them than whole
        floors."""

    def __call__(self, function: Callable[..., _T], *args: Any) -> _T:
        """Return ``function(*args)``, from memory where the same was asked before. Arguments must
        be hashable.

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
        """Return ``function``'s result for each item; those not remembered are worked out together,
        in one call.

        Items must be hashable; the function is given the list of them (and ``rest``, which does not
        change what comes out) and returns one result an item, in their order.
        """
        return self.small.each(function, items, rest)
