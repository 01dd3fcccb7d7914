"""Work shared out to processes of its own, for commands: one core does not wait for another.

A process is forked, which knows all that this one does; only what it made comes back, and what it
remembered on the way is gone with it. So a command says that it ends with what is made
(:func:`on_all_cores`). Elsewhere, on one core, and where another thread runs, whose locks a forked process
would wait for, the works are done here one after the other, and the same comes out.
"""

import multiprocessing
import os
import pickle
import threading
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from multiprocessing.connection import Connection
from typing import Any, Final, TypeVar

_T = TypeVar("_T")

_SHARED: ContextVar[bool] = ContextVar("on all cores", default=False)


@contextmanager
def on_all_cores() -> Iterator[None]:
    """Let works be shared out in this thread, until left."""
    token = _SHARED.set(True)
    try:
        yield
    finally:
        _SHARED.reset(token)


MOST: Final = 8
"""No more processes than this: each holds what it makes until all is done."""


def side_by_side(works: Sequence[Callable[[], _T]]) -> list[_T]:
    """What each of some works makes, in their order. Works do not hang on one another, and what they make
    can be pickled; the longest should come first, which is done here.

    What a process could not do, since it was ended or an error was raised in it, is done here.
    """
    count = min(_cores(), MOST, len(works))
    if count < 2 or not _may_fork():
        return [work() for work in works]
    context = multiprocessing.get_context("fork")
    waiting = context.SimpleQueue()
    for n in (*range(1, len(works)), *([None] * count)):
        waiting.put(n)
    done: dict[int, _T] = {}
    helpers = []
    try:
        for _ in range(count - 1):
            ours, theirs = context.Pipe(duplex=False)
            helper = context.Process(target=_help, args=(works, waiting, theirs), daemon=True)
            helper.start()
            theirs.close()
            helpers.append((helper, ours))
        done[0] = works[0]()
        while (n := waiting.get()) is not None:
            done[n] = works[n]()
        for helper, ours in helpers:
            done |= _received(ours)
            helper.join()
    finally:
        for helper, ours in helpers:
            ours.close()
            if helper.is_alive():
                helper.terminate()
                helper.join()
        waiting.close()
    return [done[n] if n in done else work() for n, work in enumerate(works)]


def _help(works: Sequence[Callable[[], Any]], waiting: Any, back: Connection) -> None:
    """What a process does: works until none waits; then it hands back what it made."""
    done = {}
    try:
        while (n := waiting.get()) is not None:
            done[n] = works[n]()
    except Exception:  # raised once more, and told, where the work is done again
        pass
    back.send_bytes(pickle.dumps(done, protocol=pickle.HIGHEST_PROTOCOL))
    back.close()
    os._exit(0)  # what closes at the end of a program is closed by the one that opened it


def _received(ours: Connection) -> dict[int, Any]:
    """What a process made; nothing where it was ended."""
    try:
        found: dict[int, Any] = pickle.loads(ours.recv_bytes())  # of our own process
    except (EOFError, OSError):
        return {}
    return found


def _cores() -> int:
    """How many cores this program may use."""
    return len(os.sched_getaffinity(0))


def _may_fork() -> bool:
    """Whether works may be shared out, and no other thread runs; what was forked does not fork again."""
    alone = threading.active_count() == 1 and multiprocessing.parent_process() is None
    return _SHARED.get() and alone
