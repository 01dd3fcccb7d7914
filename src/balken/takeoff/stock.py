"""How much stock a list of pieces needs at least: the linear program over all ways to cut a stock
piece, solved by adding ways as long as one helps (Gilmore and Gomory, 1961). Lengths mm."""

from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np

Numbers = np.ndarray[tuple[int, ...], np.dtype[np.float64]]

GAIN: Final = 1e-9
"""A way to cut that would help by less is none."""
MOST_ROUNDS: Final = 500


class Wanted(NamedTuple):
    """Equal pieces."""

    length: float
    times: int


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
    from scipy.optimize import linprog

    # A kerf is bought with every piece, and one more is there with the stock.
    lengths = np.array([p.length + kerf for p in pieces])
    rooms = np.array(stock, float) + kerf
    ways, prices = _first_ways(lengths, rooms, costs)
    demand = np.array([p.times for p in pieces], float)
    for _ in range(MOST_ROUNDS):
        solved = linprog(prices, A_ub=-np.array(ways).T, b_ub=-demand, method="highs")
        worth = -solved.ineqlin.marginals
        better = [
            (way, cost)
            for room, cost in zip(rooms, costs)
            for way in [_best_way(lengths, worth, float(room))]
            if worth @ way > cost + GAIN
        ]
        if not better:
            return float(solved.fun)
        ways += [w for w, _ in better]
        prices += [c for _, c in better]
    return float(solved.fun)


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
