"""Steps of a footing: the fewest that keep it under the frost, as high as they may be.

A footing runs level between steps. Its course is cut into cells about a module long; for each cell it is known how deep the
bottom must lie at least; and nowhere may it lie deeper than that by a whole greatest step, laps and corners aside, or one deep
trench would be the course with the fewest steps. Dynamic programming over cells, depth and the length since the last step
finds the course with the least number of steps and, among those, with the least digging. What a person holds stands; the
rest is solved round it.
"""

import math
from collections.abc import Iterator, Mapping
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

FAR: Final = 1e30
DEEPEST: Final = 400
"""So many modules deep a footing may go at most."""


class Course(msgspec.Struct, frozen=True):
    """The course of a footing: its depth in modules under the nominal bottom, for each cell.

    ``strained``: the ground falls faster than steps within the limits can follow, so the limits gave way.
    """

    depths: tuple[int, ...]
    strained: bool = False


def solve_course(
    needed: tuple[int, ...],
    lengths: tuple[float, ...],
    may_step: tuple[bool, ...],
    held: Mapping[int, int],
    *,
    most: int,
    apart: int,
    closed: bool,
) -> Course:
    """Return the course with the fewest steps.

    Args:
        needed: least depth of each cell, modules; never below zero.
        lengths: of the cells, mm: among courses of equal steps, the one with the least depth times length is taken.
        may_step: for each cell, whether a step may stand where it begins.
        held: steps a person holds: cell that begins behind the step, and by how many modules it goes down there.
        most: greatest rise of one step, modules.
        apart: least number of cells between two steps.
        closed: whether the last cell meets the first.
    """
    n = len(needed)
    if not n:
        return Course(())
    peak = max(needed)
    if peak == 0 and not held:
        return Course((0,) * n)
    shift = max(range(n), key=lambda i: (needed[i], -i)) if closed else 0
    order = [(i + shift) % n for i in range(n)]
    back = {(i - shift) % n: rise for i, rise in held.items()}
    need = np.array([needed[i] for i in order])
    size = np.array([lengths[i] for i in order])
    may = [may_step[i] for i in order]
    spare = sum(abs(r) for r in held.values())
    deepest = min(DEEPEST, peak + spare)
    # In a ring the deepest place keeps its depth, or a held step makes it deeper still.
    depths_first = tuple(range(peak, deepest + 1)) if closed else (None,)
    for limit, gap in ((max(1, most), max(1, apart)), (max(most, deepest, 1), 1)):
        for high in _ceilings(needed, may_step, limit, gap, closed=closed):
            top = np.array([high[i] for i in order]) + spare
            tried = [
                _walk(need, top, size, may, back, limit, gap, deepest, first, age)
                for first in depths_first
                for age in (range(gap) if closed else (gap - 1,))
            ]
            best = min((t for t in tried if t), key=lambda t: t[0], default=None)
            if best:
                depths = [0] * n
                for i, k in zip(order, best[1].tolist()):
                    depths[i] = k
                return Course(tuple(depths), limit > max(1, most))
    return Course(tuple([peak] * n), True)


def _ceilings(
    needed: tuple[int, ...], may_step: tuple[bool, ...], most: int, apart: int, *, closed: bool
) -> Iterator[list[int]]:
    """Return how deep each cell may lie, from the tightest to none: the depth needed near it, and less than one greatest step.

    Near is everything that no step parts from it; where that leaves no course, as far as two steps stand apart, and further.
    """
    n = len(needed)
    blocks: list[list[int]] = []
    for i in range(n):
        if i == 0 or may_step[i]:
            blocks.append([])
        blocks[-1].append(i)
    if closed and len(blocks) > 1 and not may_step[0]:
        blocks[0] = blocks.pop() + blocks[0]
    together = [0] * n
    for block in blocks:
        for i in block:
            together[i] = max(needed[k] for k in block)
    window = 0
    while True:
        places = [range(i - window, i + window + 1) for i in range(n)]
        yield [max(together[k % n] for k in place if closed or 0 <= k < n) + most - 1 for place in places]
        if window >= n:
            return
        window = max(apart, 2 * window)


def _walk(
    need: NDArray[np.intp],
    high: NDArray[np.intp],
    size: NDArray[np.float64],
    may: list[bool],
    held: Mapping[int, int],
    most: int,
    gap: int,
    deepest: int,
    first: int | None,
    age: int,
) -> tuple[float, NDArray[np.intp]] | None:  # fmt: skip
    """Go through the cells once; None where no course keeps the rules.

    ``first`` is the depth a ring begins with, and ``age`` how many of its last cells must lie as deep, as if they came before.
    """
    n, k = len(need), np.arange(deepest + 1)
    step_cost = 1.0 + float(size.sum()) * (deepest + 1)
    cost = np.full((gap, deepest + 1), FAR)
    begins = (k >= need[0]) & (k <= high[0]) if first is None else (k == first)
    cost[age, begins] = size[0] * k[begins]
    moves = np.zeros((n, gap, deepest + 1), dtype=np.int32)  # where each state came from: age * (deepest + 1) + depth
    width = deepest + 1
    for i in range(1, n):
        new = np.full_like(cost, FAR)
        if i in held:
            rise = held[i]
            ages = cost.argmin(axis=0)
            source = k - rise
            there = (source >= 0) & (source <= deepest)
            old = source[there]
            new[0, there] = np.minimum(cost[ages[old], old] + step_cost, FAR)
            moves[i, 0, there] = ages[old] * width + old
        else:
            for before in range(gap - 1):
                new[before + 1] = cost[before]
                moves[i, before + 1] = before * width + k
            stays = cost[gap - 1] < new[gap - 1]
            new[gap - 1] = np.where(stays, cost[gap - 1], new[gap - 1])
            moves[i, gap - 1] = np.where(stays, (gap - 1) * width + k, moves[i, gap - 1])
            if may[i]:
                _step(new, moves[i], cost[gap - 1] + step_cost, most, gap, width)
        new += np.where((k >= need[i]) & (k <= high[i]), size[i] * k, FAR)
        cost = np.minimum(new, FAR)
    ends = cost
    if first is not None:
        ends = np.where((k == first) & (np.arange(gap)[:, None] >= age - 1), cost, FAR)
        if 0 in held:
            ends = np.where(k == first - held[0], cost.min(axis=0) + step_cost, FAR)[None, :]
        elif may[0] and age == 0:  # the ring may close with a step
            closing = (k != first) & (abs(k - first) <= most)
            ends[gap - 1] = np.where(closing, cost[gap - 1] + step_cost, ends[gap - 1])
    if ends.min() >= FAR:
        return None
    state = int(ends.argmin())
    if first is not None and 0 in held:
        state += int(cost[:, state].argmin()) * width
    depths = np.zeros(n, dtype=np.intp)
    total = float(ends.min())
    for i in range(n - 1, -1, -1):
        old_age, depth = divmod(state, width)
        depths[i] = depth
        state = int(moves[i, old_age, depth])
    return total, depths


def _step(
    new: NDArray[np.float64], moves: NDArray[np.int32], old: NDArray[np.float64], most: int, gap: int, width: int
) -> None:
    """Let every depth be reached by a step from any other within the greatest rise."""
    for rise in range(1, min(most, width - 1) + 1):
        for to, source in ((slice(rise, None), slice(None, -rise)), (slice(None, -rise), slice(rise, None))):
            # Where two steps may follow at once, one cell is one plateau, and the newest state is also the oldest.
            better = old[source] < new[0, to]
            new[0, to] = np.where(better, old[source], new[0, to])
            came = (gap - 1) * width + np.arange(width)[source]
            moves[0, to] = np.where(better, came, moves[0, to])


def modules_deep(depth: float, module: float) -> int:
    """Return how many whole modules reach down by a depth, mm; a hair over a module is rounding."""
    return max(0, math.ceil(depth / module - 1e-6))
