"""A simulated saw behind the list a real one would take: it cuts boards one by one, loses its kerf at each
cut, and tells what was cut, what is left, what it could not cut, and how long it took."""

from collections import Counter
from collections.abc import Sequence
from itertools import groupby
from typing import Final, NamedTuple

from balken.exchange.saw_csv import Done, Order

SETTING: Final = 25.0
"""To bring a board up, s."""
CUTTING: Final = 8.0
"""For a cut, s."""
WAY: Final = 400.0
"""How fast a board is moved, mm/s."""
EXACT: Final = 0.1
"""A board may be short of its pieces by what their lengths are rounded to, mm."""


class Sawn(NamedTuple):
    """What a saw did."""

    done: tuple[Done, ...]
    seconds: float


def saw(orders: Sequence[Order], keep: float = 600.0) -> Sawn:
    """Cut the boards of a list, in its order.

    Args:
        orders: the cuts.
        keep: offcuts this long are kept, mm; shorter ones are waste.
    """
    done: list[Done] = []
    seconds = 0.0
    for _, group in groupby(orders, key=lambda o: o.board):
        cuts = list(group)
        made, left, took = _board(cuts)
        done += made
        seconds += took
        first = cuts[0]
        if left > EXACT:
            state = "offcut" if left >= keep else "waste"
            done.append(Done(first.board, first.section, first.material, "", left, state))
    return Sawn(tuple(done), seconds)


def _board(cuts: Sequence[Order]) -> tuple[list[Done], float, float]:
    """The pieces of a board, what is left of it, and how long it took."""
    first = cuts[0]
    left, seconds = first.length - 2 * first.trim, SETTING
    seconds += 2 * CUTTING if first.trim else 0.0
    done = []
    for o in cuts:
        why = _why_not(o, first, left)
        if why:
            done.append(Done(o.board, o.section, o.material, o.mark, o.cut, "open", why))
            continue
        done.append(Done(o.board, o.section, o.material, o.mark, o.cut, "cut"))
        seconds += CUTTING + o.cut / WAY
        left = max(0.0, left - o.cut - o.kerf)
    return done, left, seconds


def _why_not(o: Order, first: Order, left: float) -> str:
    """Why a piece cannot be cut from what is left of a board; empty where it can."""
    if (o.section, o.material, o.length) != (first.section, first.material, first.length):
        return "the board is named with another section, material or length above"
    if o.cut <= 0:
        return "it has no length"
    if o.cut > left + EXACT:
        return f"{o.cut - left:.1f} mm more than is left of the board"
    return ""


def summed(sawn: Sawn) -> str:
    """What was done, in a line."""
    counts = Counter(x.state for x in sawn.done)
    kept = sum(x.length for x in sawn.done if x.state == "offcut") / 1000.0
    lost = sum(x.length for x in sawn.done if x.state == "waste") / 1000.0
    boards = len({x.board for x in sawn.done})
    return (
        f"{counts['cut']} pieces cut from {boards} boards in {sawn.seconds / 60:.0f} min, {counts['open']}"
        f" open; {counts['offcut']} offcuts kept ({kept:.1f} m), {lost:.1f} m waste."
    )
