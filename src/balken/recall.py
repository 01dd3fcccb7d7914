"""Remembering what followed from the same records, so that an edit re-makes only what it touches.

Functions marked here are pure and are asked with frozen arguments. Whoever works things out opens
a :class:`Recall` of its own with :func:`remembering`; while it is open in a thread, the marked
functions answer from it what they were asked before. Without one nothing is remembered, and the
same comes out, only slower.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from functools import wraps
from typing import Any, Concatenate, Final, ParamSpec, TypeVar

_P = ParamSpec("_P")
_T = TypeVar("_T")
_Item = TypeVar("_Item")

_MISSING: Final = object()


class Pieces:
    """Many small results by their question. What was not asked for while half as many others as it
    may hold came in is dropped.

    Asking is one look into a dict, which threads may do at once; at worst two of them work the same
    out.
    """

    def __init__(self, limit: int) -> None:
        self._young: dict[Any, Any] = {}
        self._old: dict[Any, Any] = {}
        self._limit = limit // 2

    def find(self, key: Any) -> Any:
        """The result that is kept for a question, or :data:`_MISSING`."""
        found = self._young.get(key, _MISSING)
        if found is _MISSING:
            found = self._old.get(key, _MISSING)
            if found is not _MISSING:
                self.keep(key, found)
        return found

    def keep(self, key: Any, made: Any) -> None:
        """Keep a result."""
        self._young[key] = made
        if len(self._young) > self._limit:
            self._old, self._young = self._young, {}


class Recall:
    """What is remembered: whole results, the least used dropped first, and many small pieces."""

    def __init__(self, limit: int = 2048, pieces: int = 20_000) -> None:
        self._kept: OrderedDict[Any, Any] = OrderedDict()
        self._limit = limit
        self._door = threading.Lock()
        self.pieces = Pieces(pieces)

    def find(self, key: Any) -> Any:
        """The result that is kept for a question, or :data:`_MISSING`."""
        with self._door:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        return _MISSING

    def keep(self, key: Any, made: Any) -> None:
        """Keep a result. Several threads may; at worst two of them worked the same out."""
        with self._door:
            self._kept[key] = made
            if len(self._kept) > self._limit:
                self._kept.popitem(last=False)


_OPEN: ContextVar[Recall | None] = ContextVar("open recall", default=None)


@contextmanager
def remembering(recall: Recall | None = None) -> Iterator[Recall]:
    """Let the marked functions remember in this thread, until left. Without a recall of its own
    what is open already goes on; where nothing is, a new one serves for the while."""
    opened = recall or _OPEN.get() or Recall()
    token = _OPEN.set(opened)
    try:
        yield opened
    finally:
        _OPEN.reset(token)


def remembered(function: Callable[_P, _T]) -> Callable[_P, _T]:
    """A function whose results are remembered: as large as the frame of a floor."""

    @wraps(function)
    def asked(*args: _P.args, **named: _P.kwargs) -> _T:
        return _answer(_OPEN.get(), function, *args, **named)

    return asked


def remembered_of_one(function: Callable[[_Item], _T]) -> Callable[[_Item], _T]:
    """A function of one large record, such as a whole building worked out, whose result is remembered for
    that very record until it is asked for another: such records are not compared field by field, and
    no more than one is held."""

    @wraps(function)
    def asked(record: _Item) -> _T:
        recall = _OPEN.get()
        if recall is None:
            return function(record)
        found = recall.find((function,))
        if found is _MISSING or found[0] is not record:
            found = (record, function(record))
            recall.keep((function,), found)
        return found[1]  # type: ignore[no-any-return]

    return asked


def remembered_piece(function: Callable[_P, _T]) -> Callable[_P, _T]:
    """A function whose results are small, no larger than an outline or a part: many more of them
    are remembered."""

    @wraps(function)
    def asked(*args: _P.args, **named: _P.kwargs) -> _T:
        recall = _OPEN.get()
        return _answer(recall and recall.pieces, function, *args, **named)

    return asked


def _answer(
    store: Recall | Pieces | None, function: Callable[_P, _T], *args: _P.args, **named: _P.kwargs
) -> _T:
    """What a function answers, from the store where it was asked the same before."""
    if store is None:
        return function(*args, **named)
    key = (function, args, *named.items()) if named else (function, args)
    found = store.find(key)
    if found is _MISSING:
        found = function(*args, **named)
        store.keep(key, found)
    return found  # type: ignore[no-any-return]


def remembered_each(
    function: Callable[Concatenate[list[_Item], _P], list[_T]],
) -> Callable[Concatenate[Sequence[_Item], _P], list[_T]]:
    """A function that answers for each of its items, in their order: those not remembered are
    worked out together, in one call. What else it is given does not change what comes out."""

    @wraps(function)
    def asked(items: Sequence[_Item], /, *args: _P.args, **named: _P.kwargs) -> list[_T]:
        recall = _OPEN.get()
        if recall is None:
            return function(list(items), *args, **named)
        pieces = recall.pieces
        found = [pieces.find((function, item)) for item in items]
        missing: dict[Any, list[int]] = {}
        for i, one in enumerate(found):
            if one is _MISSING:
                missing.setdefault(items[i], []).append(i)
        if missing:
            for places, made in zip(missing.values(), function(list(missing), *args, **named)):
                for i in places:
                    found[i] = made
                pieces.keep((function, items[places[0]]), made)
        return found

    return asked
