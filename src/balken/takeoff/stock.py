"""How much stock a list of pieces needs at least: the linear program over all ways to cut a stock
piece, solved by adding ways as long as one helps (Gilmore and Gomory, 1961). Lengths mm."""

import math
import time
from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.progress import Tell, unheard

Numbers = np.ndarray[tuple[int, ...], np.dtype[np.float64]]

GAIN: Final = 1e-9
"""A way to cut that would help by less is none."""
MOST_ROUNDS: Final = 500


class Wanted(NamedTuple):
    """Equal pieces."""

    length: float
    times: int


class Ways(NamedTuple):
    """Ways to cut a stock piece, as counts of each piece, with what each costs, and the least sum of costs
    over fractional numbers of them: no cutting plan goes below it."""

    ways: list[Numbers]
    costs: list[float]
    bound: float


def least_stock(
    pieces: Sequence[Wanted], stock: Sequence[float], kerf: float, costs: Sequence[float]
) -> float:
    """The least sum of costs over fractional numbers of stock pieces: a bound that no cutting plan
    goes below.

    Args:
        pieces: what is wanted; each shorter than the longest stock.
        stock: lengths sold, mm.
        kerf: what a cut takes, mm; n pieces from one stock piece take n − 1 of them.
        costs: of a piece of each length: 1 counts pieces, its length counts length.
    """
    return ways_to_cut(pieces, stock, kerf, costs).bound


def ways_to_cut(
    pieces: Sequence[Wanted],
    stock: Sequence[float],
    kerf: float,
    costs: Sequence[float],
    until: float = math.inf,
    tell: Tell = unheard,
) -> Ways:
    """The ways to cut that help, as :func:`least_stock` asks for them.

    Where the time ends before all are found the bound is that of Farley (1990): what the pieces are worth,
    over what the best way brings for its cost.

    Args:
        pieces: what is wanted.
        stock: lengths sold, mm.
        kerf: what a cut takes, mm.
        costs: of a piece of each length.
        until: when to stop, by the monotonic clock.
        tell: takes in how far it is; what it raises ends the work.
    """
    from scipy.optimize import linprog

    # A kerf is bought with every piece, and one more is there with the stock.
    lengths = np.array([p.length + kerf for p in pieces])
    rooms = np.array(stock, float) + kerf
    ways, prices = _first_ways(lengths, rooms, costs)
    demand = np.array([p.times for p in pieces], float)
    bound = 0.0
    for n in range(MOST_ROUNDS):
        solved = linprog(prices, A_ub=-np.array(ways).T, b_ub=-demand, method="highs")
        worth = -solved.ineqlin.marginals
        tried = list(zip(_best_ways(lengths, worth, rooms), costs))
        better = [(way, cost) for way, cost in tried if worth @ way > cost + GAIN]
        if not better:
            return Ways(ways, prices, float(solved.fun))
        brings = max(float(worth @ way) / cost for way, cost in tried)
        bound = max(bound, float(solved.fun) / brings)
        ways += [w for w, _ in better]
        prices += [c for _, c in better]
        if time.monotonic() > until:
            break
        if n % 10 == 0:
            tell(f"{len(ways)} ways to cut, {bound / float(solved.fun):.1%} of the bound …")
    return Ways(ways, prices, bound)


def _first_ways(
    lengths: Numbers,
    rooms: Numbers,
    costs: Sequence[float],
) -> tuple[list[Numbers], list[float]]:
    """One way a piece: as many of it as the longest stock gives."""
    longest = int(rooms.argmax())
    ways: list[Numbers] = []
    for i, length in enumerate(lengths):
        way = np.zeros(len(lengths))
        way[i] = max(1, int((rooms[longest] + 1e-9) // length))
        ways.append(way)
    return ways, [float(costs[longest])] * len(ways)


STEP: Final = 0.1
"""Lengths are laid off in these steps where the best ways to cut are sought, mm."""


def _best_ways(lengths: Numbers, worth: Numbers, rooms: Numbers) -> list[Numbers]:
    """How many of each piece make the most of each room: unbounded knapsacks of all rooms in one table.

    Steps are rounded so that no way is missed; one that does not fit by a hair is sought again exactly.
    """
    sizes = np.floor(lengths / STEP + 1e-6).astype(int)
    places = np.floor(rooms / STEP + 1e-6).astype(int)
    most = np.zeros(int(places.max()) + 1)
    taken: list[tuple[int, int, NDArray[np.bool_]]] = []
    for i in (int(k) for k in np.argsort(-worth / lengths) if worth[k] > 0):
        times = 1
        # One, two, four … of a piece at a time: any number of it is a sum of these.
        while sizes[i] * times < len(most):
            shift, gain = sizes[i] * times, worth[i] * times
            with_it = most[:-shift] + gain
            better = with_it > most[shift:] + GAIN
            if better.any():
                most[shift:][better] = with_it[better]
                taken.append((i, times, better))
            times *= 2
    found = []
    for room, place in zip(rooms, places):
        way = _way_back(taken, sizes, int(place), len(lengths))
        fits = float(lengths @ way) <= float(room) + 1e-9
        found.append(way if fits else _best_way(lengths, worth, float(room)))
    return found


def _way_back(
    taken: Sequence[tuple[int, int, NDArray[np.bool_]]],
    sizes: NDArray[np.intp],
    place: int,
    count: int,
) -> Numbers:
    """What was taken to make the most of a room, from the last piece to the first."""
    way = np.zeros(count)
    for i, times, better in reversed(taken):
        shift = int(sizes[i]) * times
        if place >= shift and better[place - shift]:
            way[i] += times
            place -= shift
    return way


def _best_way(
    lengths: Numbers,
    worth: Numbers,
    room: float,
) -> Numbers:
    """How many of each piece make the most of one stock piece: an unbounded knapsack, branch and
    bound in the order of worth a length."""
    order = [int(i) for i in np.argsort(-worth / lengths) if worth[i] > 0]
    best, found = 0.0, [0] * len(lengths)
    counts = [0] * len(lengths)

    def search(k: int, left: float, value: float) -> None:
        nonlocal best, found
        if value > best + GAIN:
            best, found = value, counts.copy()
        if k == len(order) or value + left * worth[order[k]] / lengths[order[k]] <= best + GAIN:
            return
        i = order[k]
        for n in range(int((left + 1e-9) // lengths[i]), -1, -1):
            counts[i] = n
            search(k + 1, left - n * lengths[i], value + n * float(worth[i]))
        counts[i] = 0

    search(0, room, 0.0)
    return np.array(found, float)
