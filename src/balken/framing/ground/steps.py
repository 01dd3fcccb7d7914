"""Steps of a footing: the fewest that keep it under the frost, as high as they may be.

A footing runs level between steps. Its course is cut into cells about a module long; for each cell
it is known how deep the bottom must lie at least; and nowhere may it lie deeper than that by a
whole greatest step, laps and corners aside, or one deep trench would be the course with the fewest
steps. Dynamic programming over cells, depth and the length since the last step finds the course
with the least number of steps and, among those, with the least digging. What a person holds stands;
the rest is solved round it.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Final, NamedTuple

import msgspec

MOST_STATES: Final = 150_000
"""A search over more depths of cells than this is left: the ground is beyond any rule of steps, and
is followed as it falls."""


class Course(msgspec.Struct, frozen=True):
    """The course of a footing: its depth in modules under the nominal bottom, for each cell.

    ``strained``: the ground falls faster than steps within the limits can follow, so the limits
    gave way.
    """

    depths: tuple[int, ...]
    strained: bool = False


class _Cells(NamedTuple):
    """The cells of a course in the order they are walked."""

    order: list[int]
    """The number of each as it was asked."""
    needed: list[int]
    size: list[float]
    long: list[int]
    may: list[bool]
    held: dict[int, int]


def solve_course(
    needed: tuple[int, ...],
    lengths: tuple[float, ...],
    may_step: tuple[bool, ...],
    held: Mapping[int, int],
    *,
    most: int,
    apart: int,
    closed: bool,
    counts: tuple[int, ...] = (),
) -> Course:
    """The course with the fewest steps.

    Args:
        needed: least depth of each cell, modules; never below zero.
        lengths: of the cells, mm: among courses of equal steps, the one with the least depth times
            length is taken.
        may_step: for each cell, whether a step may stand where it begins.
        held: steps a person holds: cell that begins behind the step, and by how many modules it
            goes down there.
        most: greatest rise of one step, modules.
        apart: least number of modules between two steps.
        closed: whether the last cell meets the first.
        counts: how many modules long each cell counts as; one each where left out.
    """
    n = len(needed)
    if not any(needed) and not held:
        return Course((0,) * n)
    counts = counts or (1,) * n
    shift = _start(needed, may_step, counts, apart) if closed else 0
    order = [(i + shift) % n for i in range(n)]
    cells = _Cells(
        order,
        [needed[i] for i in order],
        [lengths[i] for i in order],
        [counts[i] for i in order],
        [may_step[i] for i in order],
        {(i - shift) % n: rise for i, rise in held.items()},
    )
    starts: list[tuple[int | None, int]] = _starts(cells, apart) if closed else [(None, 0)]
    most, deepest = max(1, most), max(needed) + _spare(cells)
    # Where the rules cannot be kept, steps may be as high and as near as they must.
    for limit, gap in ((most, max(1, apart)), (max(most, deepest), 1)):
        for high in _ceilings(needed, may_step, limit, gap, closed=closed):
            room = 1 if limit <= most else limit
            if _is_too_much(cells, high, len(starts) * room):
                break
            depths = _cheapest(cells, high, starts, limit, gap)
            if depths is not None:
                return Course(depths, limit > most)
    return Course(tuple(_together(needed, may_step, closed=closed)), True)


def _spare(cells: _Cells) -> int:
    """By how much steps that are held may deepen the course."""
    return sum(abs(rise) for rise in cells.held.values())


def _starts(cells: _Cells, apart: int) -> list[tuple[int | None, int]]:
    """How a ring may begin: at which depth, and how many modules before its first cell lie as deep.

    The deepest place keeps its depth, or a held step makes it deeper still. How many of its last
    cells lie as deep matters only where a step may follow soon after the first.
    """
    soon = _soon(cells.may, cells.long, apart) or any(
        sum(cells.long[:i]) < apart for i in cells.held
    )
    ages = range(max(1, apart) if soon else 1)
    peak = max(cells.needed)
    return [(k, age) for k in range(peak, peak + _spare(cells) + 1) for age in ages]


def _bounds(cells: _Cells, high: Sequence[int]) -> list[tuple[int, int]]:
    """The least and the greatest depth of each cell under a ceiling."""
    spare = _spare(cells)
    deepest = max(cells.needed) + spare
    return [(low, min(high[i] + spare, deepest)) for i, low in zip(cells.order, cells.needed)]


def _is_too_much(cells: _Cells, high: Sequence[int], ways: int) -> bool:
    return ways * sum(b - a + 1 for a, b in _bounds(cells, high)) > MOST_STATES


def _cheapest(
    cells: _Cells,
    high: Sequence[int],
    starts: list[tuple[int | None, int]],
    limit: int,
    gap: int,
) -> tuple[int, ...] | None:
    """The depths of the course that costs least under a ceiling, as they were asked; None where
    none keeps the rules."""
    bounds = _bounds(cells, high)
    tried = [
        _walk(bounds, cells.size, cells.long, cells.may, cells.held, limit, gap, k, age)
        for k, age in starts
        if age < gap
    ]
    best = min((t for t in tried if t), key=lambda t: t[0], default=None)
    if best is None:
        return None
    placed = dict(zip(cells.order, best[1]))
    return tuple(placed[i] for i in range(len(placed)))


def _soon(may: Sequence[bool], long: Sequence[int], apart: int) -> bool:
    """Whether a step may follow the first cell before its plateau is long enough."""
    done = 0
    for k in range(1, len(may)):
        done += long[k - 1]
        if done >= apart:
            return False
        if may[k]:
            return True
    return False


def _start(
    needed: tuple[int, ...], may_step: tuple[bool, ...], counts: tuple[int, ...], apart: int
) -> int:
    """Where a ring is best cut open: at a deepest cell, behind which no step may follow soon
    where there is such."""
    n, peak = len(needed), max(needed)

    def steps_soon(i: int) -> bool:
        return _soon(may_step[i:] + may_step[:i], counts[i:] + counts[:i], apart)

    return min((i for i in range(n) if needed[i] == peak), key=lambda i: (steps_soon(i), i))


def _ceilings(
    needed: tuple[int, ...], may_step: tuple[bool, ...], most: int, apart: int, *, closed: bool
) -> Iterator[list[int]]:
    """How deep each cell may lie, from the tightest to none: the depth needed near it, and
    less than one greatest step.

    Near is everything that no step parts from it; where that leaves no course, as far as two steps
    stand apart, and further.
    """
    n = len(needed)
    together = _together(needed, may_step, closed=closed)

    def at(cover: list[int], i: int) -> int:
        return cover[i % n] if closed else cover[min(max(i, 0), n - 1)]

    cover, window = together, 0
    while True:
        yield [k + most - 1 for k in cover]
        if window >= n:
            return
        if not window:
            cover, window = (
                [max(at(together, i + k) for k in range(-apart, apart + 1)) for i in range(n)],
                apart,
            )
        else:  # two windows side by side make one twice as wide
            cover, window = (
                [max(at(cover, i - window), at(cover, i + window)) for i in range(n)],
                2 * window,
            )


def _together(needed: tuple[int, ...], may_step: tuple[bool, ...], *, closed: bool) -> list[int]:
    """The depth each cell needs with all that no step parts from it."""
    blocks: list[list[int]] = []
    for i in range(len(needed)):
        if i == 0 or may_step[i]:
            blocks.append([])
        blocks[-1].append(i)
    if closed and len(blocks) > 1 and not may_step[0]:
        blocks[0] = blocks.pop() + blocks[0]
    together = [0] * len(needed)
    for block in blocks:
        deepest = max(needed[k] for k in block)
        for i in block:
            together[i] = deepest
    return together


State = tuple[int, int]
"""Age and depth of a cell: the age counts how many modules lie as deep since the last step, no more
than matter."""


def _walk(
    bounds: list[tuple[int, int]],
    size: list[float],
    long: list[int],
    may: list[bool],
    held: Mapping[int, int],
    most: int,
    gap: int,
    first: int | None,
    age: int,
) -> tuple[float, list[int]] | None:
    """Go through the cells once; None where no course keeps the rules.

    Args:
        bounds: least and greatest depth of each cell.
        size: lengths of the cells.
        long: how many modules each cell counts as.
        may: whether a step may stand where a cell begins.
        held: steps held.
        most: greatest rise.
        gap: least number of cells between steps.
        first: the depth a ring begins with; None for a course with two ends.
        age: how many modules of the first plateau of a ring lie before its first cell: so many at
            its end must lie as deep.
    """
    oldest = gap - 1
    step_cost = 1.0 + sum(size) * (max(high for _, high in bounds) + 1)
    low, high = bounds[0]
    begins = range(low, high + 1) if first is None else range(first, first + 1)
    cost: dict[State, float] = {
        (oldest if first is None else min(age + long[0] - 1, oldest), k): size[0] * k
        for k in begins
        if low <= k <= high
    }
    came: list[dict[State, State]] = [{}]
    for i in range(1, len(bounds)):
        low, high = bounds[i]
        young_age = min(long[i] - 1, oldest)
        new: dict[State, float] = {}
        back: dict[State, State] = {}
        for state, value in cost.items():
            old, depth = state
            if i in held:
                reached = [(young_age, depth + held[i], step_cost)]
            else:
                reached = [(min(old + long[i], oldest), depth, 0.0)]
                if may[i] and old == oldest:
                    reached += [
                        (young_age, k, step_cost)
                        for k in range(depth - most, depth + most + 1)
                        if k != depth
                    ]
            for young, k, more in reached:
                if low <= k <= high:
                    total = value + more + size[i] * k
                    if total < new.get((young, k), math.inf):
                        new[young, k], back[young, k] = total, state
        cost = new
        came.append(back)
        if not cost:
            return None
    end = min(_ends(cost, held, may, most, oldest, step_cost, first, age), default=None)
    if end is None:
        return None
    total, state = end
    depths = []
    for back in reversed(came):
        depths.append(state[1])
        state = back.get(state, state)
    return total, depths[::-1]


def _ends(
    cost: Mapping[State, float],
    held: Mapping[int, int],
    may: list[bool],
    most: int,
    oldest: int,
    step_cost: float,
    first: int | None,
    age: int,
) -> Iterator[tuple[float, State]]:
    """Every way to end with its cost; in a ring the last cell lies as deep as the first, or
    a step closes it."""
    for state, value in cost.items():
        old, depth = state
        if first is None:
            yield value, state
        elif 0 in held:
            if depth == first - held[0] and age == 0:
                yield value + step_cost, state
        elif depth == first:
            if old >= age - 1:
                yield value, state
        elif may[0] and age == 0 and old == oldest and abs(depth - first) <= most:
            yield value + step_cost, state


def modules_deep(depth: float, module: float) -> int:
    """How many whole modules reach down by a depth, mm; a hair over a module is rounding."""
    return max(0, math.ceil(depth / module - 1e-6))
