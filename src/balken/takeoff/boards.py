"""Cutting plans: which pieces come out of which board. A plan is there at once - pieces into the board with
the least room for them, longest first, and each board then as short as it can be bought - and can be refined
by the linear program over ways to cut, in whole boards. Lengths mm."""

import math
import time
from bisect import bisect_left, insort
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from typing import Final, NamedTuple

import numpy as np

from balken.progress import Tell, unheard
from balken.takeoff.stock import Wanted, least_stock, ways_to_cut

FITS: Final = 1e-6
"""A piece may be longer than the room for it by this, mm."""
SAME: Final = 0.05
"""Pieces that differ by less are cut alike in a refined plan, mm."""
GAP: Final = 0.001
"""A refined plan this near to the bound is not refined further."""


class Cut(NamedTuple):
    """A piece to be cut from a board: its length with what its end cuts take, and its mark."""

    length: float
    mark: str


class Saw(NamedTuple):
    """What can be bought and what is lost: lengths sold, shortest first, the kerf, and what is cut off both
    ends of a board."""

    lengths: tuple[float, ...]
    kerf: float = 0.0
    trim: float = 0.0

    def room(self, board: float) -> float:
        """Of a board, where each piece takes its length and a kerf: n pieces need n - 1 kerfs."""
        return board - 2 * self.trim + self.kerf

    def used(self, cuts: Sequence[Cut]) -> float:
        """What pieces take of the room of a board."""
        return sum(c.length + self.kerf for c in cuts)


class Board(NamedTuple):
    """A board with what is cut from it, in order."""

    length: float
    cuts: tuple[Cut, ...]
    at_hand: bool = False
    """It is an offcut and need not be bought."""

    def rest(self, saw: Saw) -> float:
        """What is left at its end, mm."""
        return max(0.0, saw.room(self.length) - saw.used(self.cuts) - saw.kerf)


class Alike(NamedTuple):
    """Boards that are cut alike: one of them, how many they are, and the marks of all their pieces."""

    board: Board
    times: int
    marks: tuple[str, ...]


def alike_boards(boards: Sequence[Board]) -> list[Alike]:
    """Boards by how they are cut, the longest first."""
    found: dict[tuple[float, bool, tuple[float, ...]], list[Board]] = {}
    for board in boards:
        key = (board.length, board.at_hand, tuple(round(c.length, 1) for c in board.cuts))
        found.setdefault(key, []).append(board)
    groups = sorted(found.items(), key=lambda x: (-x[0][0], x[0][2], x[0][1]))
    return [
        Alike(same[0], len(same), tuple(dict.fromkeys(c.mark for b in same for c in b.cuts)))
        for _, same in groups
    ]


class Plan(NamedTuple):
    """Boards for the pieces of one section and material."""

    boards: tuple[Board, ...]
    open: tuple[Cut, ...]
    """Pieces longer than anything sold."""
    bound: float
    """No plan buys less, mm in all: what the pieces take, until :func:`bound_of` is asked for."""

    @property
    def bought(self) -> float:
        """The length of all boards that are bought, mm."""
        return sum(b.length for b in self.boards if not b.at_hand)


def cutting_plan(cuts: Sequence[Cut], saw: Saw, offcuts: Sequence[float] = ()) -> Plan:
    """The plan that is there at once.

    Args:
        cuts: the pieces.
        saw: what they are cut from.
        offcuts: lengths at hand, that are cut up first.
    """
    longest = saw.room(saw.lengths[-1]) - saw.kerf if saw.lengths else 0.0
    longest = max([longest, *(saw.room(x) - saw.kerf for x in offcuts)])
    open_ = tuple(c for c in cuts if c.length > longest + FITS)
    left = sorted(
        (c for c in cuts if c.length <= longest + FITS), key=lambda c: (-c.length, c.mark)
    )
    boards, left = _from_offcuts(left, saw, offcuts)
    boards += _bought(left, saw)
    return Plan(tuple(boards), open_, _by_room(left, saw))


def _from_offcuts(
    cuts: Sequence[Cut], saw: Saw, offcuts: Sequence[float]
) -> tuple[list[Board], list[Cut]]:
    """Offcuts cut up, the shortest first, each for the longest pieces that fit; and what is left to cut."""
    left, boards = list(cuts), list[Board]()
    for length in sorted(offcuts):
        room, mine = saw.room(length), list[Cut]()
        for cut in left:
            if cut.length + saw.kerf <= room + FITS:
                mine.append(cut)
                room -= cut.length + saw.kerf
        if mine:
            boards.append(Board(length, tuple(mine), at_hand=True))
            taken = Counter(mine)
            left = [c for c in left if not _took(taken, c)]
    return boards, left


def _took(taken: Counter[Cut], cut: Cut) -> bool:
    if taken[cut] > 0:
        taken[cut] -= 1
        return True
    return False


def _bought(cuts: Sequence[Cut], saw: Saw) -> list[Board]:
    """The best of the plans into boards of each length that holds the longest piece."""
    if not cuts:
        return []
    holding = [x for x in saw.lengths if saw.room(x) - saw.kerf >= cuts[0].length - FITS]
    plans = [_shortened(best_fit(cuts, saw, x), saw) for x in holding]
    if len({round(c.length / SAME) for c in cuts}) <= MANY_TO_FILL:
        plans.append(_shortened(filled_one_by_one(cuts, saw), saw))
    return min(plans, key=lambda boards: sum(b.length for b in boards))


def best_fit(cuts: Sequence[Cut], saw: Saw, length: float) -> list[Board]:
    """Pieces, longest first, each into the board with the least room that takes it, all of one length."""
    rooms: list[tuple[float, int]] = []
    found: list[list[Cut]] = []
    for cut in cuts:
        need = cut.length + saw.kerf - FITS
        k = bisect_left(rooms, (need, -1))
        if k == len(rooms):
            room, n = saw.room(length), len(found)
            found.append([])
        else:
            room, n = rooms.pop(k)
        found[n].append(cut)
        insort(rooms, (room - cut.length - saw.kerf, n))
    return [Board(length, tuple(mine)) for mine in found]


def filled_one_by_one(cuts: Sequence[Cut], saw: Saw) -> list[Board]:
    """The longest piece left with those that fill a board with it best, of the length that wastes the least;
    cut so again as often as there are pieces for it."""
    piles: dict[int, list[Cut]] = {}
    for cut in sorted(cuts, key=lambda c: (-c.length, c.mark), reverse=True):
        piles.setdefault(round(cut.length / SAME), []).append(cut)
    found: list[Board] = []
    while piles:  # the last of each pile is the longest of pieces that differ by a hair
        first = max(piles)
        best: tuple[float, float, Counter[int]] | None = None
        for length in saw.lengths:
            room = saw.room(length) - piles[first][-1].length - saw.kerf
            if room >= -FITS:
                way = _best_filling(piles, first, room, saw.kerf)
                used = sum(n * (piles[k][-1].length + saw.kerf) for k, n in way.items())
                lost = (room - used) / length
                if best is None or lost < best[0] - FITS:
                    best = (lost, length, way + Counter([first]))
        if best is None:
            raise ValueError("A piece is longer than anything sold.")
        _, length, way = best
        for _ in range(min(len(piles[k]) // n for k, n in way.items())):
            found.append(
                Board(length, tuple(piles[k].pop() for k, n in way.items() for _ in range(n)))
            )
        piles = {k: pile for k, pile in piles.items() if pile}
    return found


MANY_TO_FILL: Final = 120
"""With more different lengths boards are not filled one by one: it takes too long to be there at once."""
MOST_TRIED: Final = 500
"""So many ways to fill a board are tried."""


def _best_filling(
    piles: dict[int, list[Cut]], first: int, room: float, kerf: float
) -> Counter[int]:
    """Which pieces fill what a first one leaves of a board best: longer ones tried first."""
    sizes = [
        (k, piles[k][-1].length + kerf, len(piles[k]) - (k == first)) for k in sorted(piles)[::-1]
    ]
    best, found, tried = -1.0, Counter[int](), 0
    way: list[tuple[int, int]] = []

    def search(n: int, used: float) -> None:
        nonlocal best, found, tried
        tried += 1
        if used > best + FITS:
            best, found = used, Counter(dict(way))
        if n == len(sizes) or tried > MOST_TRIED or room - best < FITS:
            return
        k, size, there = sizes[n]
        for count in range(min(there, int((room - used + FITS) // size)), -1, -1):
            if count:
                way.append((k, count))
            search(n + 1, used + count * size)
            if count:
                way.pop()

    search(0, 0.0)
    return found


def longest_first(cuts: Sequence[Cut], saw: Saw) -> list[Board]:
    """The plan a yard makes by eye, for comparison: the longest board sold, each piece into the first board
    that takes it."""
    rooms: list[float] = []
    found: list[list[Cut]] = []
    for cut in sorted(cuts, key=lambda c: -c.length):
        need = cut.length + saw.kerf
        n = next((i for i, room in enumerate(rooms) if room >= need - FITS), len(rooms))
        if n == len(rooms):
            rooms.append(saw.room(saw.lengths[-1]))
            found.append([])
        rooms[n] -= need
        found[n].append(cut)
    return [Board(saw.lengths[-1], tuple(mine)) for mine in found]


def _shortened(boards: Sequence[Board], saw: Saw) -> list[Board]:
    """Each board as short as its pieces let it be bought, the longest piece cut first."""
    found = []
    for b in boards:
        cuts = tuple(sorted(b.cuts, key=lambda c: (-c.length, c.mark)))
        found.append(Board(_shortest(cuts, saw), cuts))
    return found


def _shortest(cuts: Sequence[Cut], saw: Saw) -> float:
    used = saw.used(cuts)
    return next(x for x in saw.lengths if saw.room(x) >= used - FITS)


def bound_of(plan: Plan, saw: Saw) -> float:
    """What no plan of the same pieces goes below, mm: by the linear program where pieces repeat, else what
    they take."""
    cuts = [c for b in plan.boards if not b.at_hand for c in b.cuts]
    wanted = _wanted(cuts, min)
    if not wanted:
        return 0.0
    if len(wanted) > MANY:
        return _by_room(cuts, saw)
    lengths = [x - 2 * saw.trim for x in saw.lengths]
    return max(_by_room(cuts, saw), least_stock(wanted, lengths, saw.kerf, saw.lengths))


MANY: Final = 40
"""With more different lengths the linear program takes seconds, and pieces fill boards nearly whole."""


def _by_room(cuts: Sequence[Cut], saw: Saw) -> float:
    """Pieces as if they could be laid end to end over boards of the most useful length."""
    return saw.used(cuts) * min((x / saw.room(x) for x in saw.lengths), default=0.0)


def _wanted(cuts: Sequence[Cut], of: Callable[[Iterable[float]], float] = max) -> list[Wanted]:
    """Pieces that are cut alike together, by the longest of each: a way that holds it holds all. For a bound
    by the shortest."""
    alike: dict[int, list[float]] = {}
    for c in cuts:
        alike.setdefault(round(c.length / SAME), []).append(c.length)
    return [Wanted(of(mine), len(mine)) for _, mine in sorted(alike.items(), reverse=True)]


def refined(plan: Plan, saw: Saw, seconds: float = 10.0, tell: Tell = unheard) -> Plan:
    """A plan with as little bought as can be found in a time; the same where none is better.

    Args:
        plan: that is there.
        saw: as it was made with.
        seconds: at most, about.
        tell: takes in how far it is; what it raises ends the work.
    """
    boards = [b for b in plan.boards if not b.at_hand]
    cuts = [c for b in boards for c in b.cuts]
    if not cuts or plan.bought <= plan.bound * (1 + GAP):
        return plan
    until = time.monotonic() + seconds
    wanted = _wanted(cuts)
    tell(f"Ways to cut {len(wanted)} lengths …")
    rooms = [x - 2 * saw.trim for x in saw.lengths]
    found = ways_to_cut(wanted, rooms, saw.kerf, saw.lengths, until, tell)
    tell("Whole boards …")
    ways = [*found.ways, *(_way_of(b, wanted) for b in boards)]
    costs = [*found.costs, *(b.length for b in boards)]
    times = _whole(ways, costs, wanted, max(1.0, until - time.monotonic()))
    least = _wanted(cuts, min)
    shortest = found if least == wanted else ways_to_cut(least, rooms, saw.kerf, saw.lengths, until)
    bound = max(plan.bound, shortest.bound)
    made = [] if times is None else _boards_of(ways, times, wanted, cuts)
    # A board there was may just hold its own pieces, and not all that are cut like them.
    if not made or any(saw.used(b.cuts) > saw.room(saw.lengths[-1]) + FITS for b in made):
        return plan._replace(bound=bound)
    better = _shortened(made, saw)
    kept = tuple(b for b in plan.boards if b.at_hand)
    new = Plan((*kept, *better), plan.open, bound)
    return new if new.bought < plan.bought - FITS else plan._replace(bound=bound)


def _way_of(
    board: Board, wanted: Sequence[Wanted]
) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    counts = Counter(round(c.length / SAME) for c in board.cuts)
    return np.array([counts[round(w.length / SAME)] for w in wanted], float)


def _whole(
    ways: Sequence[np.ndarray[tuple[int, ...], np.dtype[np.float64]]],
    costs: Sequence[float],
    wanted: Sequence[Wanted],
    seconds: float,
) -> list[int] | None:
    """How often each way is cut, in whole boards, at the least cost found; None where none was."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    demand = np.array([w.times for w in wanted], float)
    solved = milp(
        np.array(costs),
        constraints=LinearConstraint(np.array(ways).T, lb=demand),
        integrality=np.ones(len(ways)),
        bounds=Bounds(0, np.inf),
        options={"time_limit": seconds, "mip_rel_gap": GAP},
    )
    return None if solved.x is None else [round(x) for x in solved.x]


def _boards_of(
    ways: Sequence[np.ndarray[tuple[int, ...], np.dtype[np.float64]]],
    times: Sequence[int],
    wanted: Sequence[Wanted],
    cuts: Sequence[Cut],
) -> list[Board]:
    """Pieces dealt out to ways; what a way has beyond what is wanted stays in the board."""
    left: dict[int, list[Cut]] = {}
    for cut in sorted(cuts, key=lambda c: c.mark, reverse=True):
        left.setdefault(round(cut.length / SAME), []).append(cut)
    found: list[Board] = []
    for way, count in zip(ways, times):
        for _ in range(count):
            mine: list[Cut] = []
            for w, n in zip(wanted, way):
                pile = left[round(w.length / SAME)]
                mine += [pile.pop() for _ in range(min(int(n), len(pile)))]
            if mine:
                found.append(Board(math.inf, tuple(mine)))
    return found
