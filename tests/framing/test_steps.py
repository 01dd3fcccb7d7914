"""Steps of footings: fewest by trying everything, always under the frost, never past their
limits."""

import itertools
import math
from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.framing.ground.steps import _ceilings, modules_deep, solve_course


def turns(depths: tuple[int, ...], closed: bool) -> list[int]:
    """Where the course steps: the cells that begin behind a step."""
    return [i for i in range(0 if closed else 1, len(depths)) if depths[i] != depths[i - 1]]


def allowed(
    need: tuple[int, ...],
    high: list[int],
    may: tuple[bool, ...],
    most: int,
    apart: int,
    closed: bool,
) -> Iterator[tuple[int, ...]]:
    for course in itertools.product(range(max(need) + 1), repeat=len(need)):
        at = turns(course, closed)
        gaps = [b - a for a, b in itertools.pairwise(at)]
        if closed and len(at) > 1:
            gaps.append(at[0] + len(need) - at[-1])
        if (
            all(n <= k <= h for n, k, h in zip(need, course, high))
            and all(may[i] and abs(course[i] - course[i - 1]) <= most for i in at)
            and all(g >= apart for g in gaps)
        ):
            yield course


@given(
    st.lists(st.tuples(st.integers(0, 2), st.booleans()), min_size=1, max_size=6),
    st.integers(1, 2),
    st.integers(1, 3),
    st.booleans(),
)
def test_fewest_steps_then_least_digging(
    cells: list[tuple[int, bool]], most: int, apart: int, closed: bool
) -> None:
    """Against every course there is, by brute force."""
    need, may = tuple(n for n, _ in cells), tuple(m for _, m in cells)
    found = solve_course(need, (1.0,) * len(need), may, {}, most=most, apart=apart, closed=closed)
    best = None
    for high in _ceilings(need, may, most, apart, closed=closed):
        ways = list(allowed(need, high, may, most, apart, closed))
        if ways:
            best = min((len(turns(w, closed)), sum(w)) for w in ways)
            break
    if best is None:
        assert found.strained
    else:
        assert (len(turns(found.depths, closed)), sum(found.depths)) == best


def test_an_even_slope_steps_as_often_as_the_limit_makes_it() -> None:
    """Ground that falls six modules, steps of three at most: two steps, and nowhere three modules
    too deep."""
    need = tuple(math.ceil(6 * i / 59) for i in range(60))
    found = solve_course(need, (200.0,) * 60, (True,) * 60, {}, most=3, apart=3, closed=False)
    assert not found.strained
    at = turns(found.depths, closed=False)
    rises = [found.depths[i] - found.depths[i - 1] for i in at]
    assert len(rises) == 2
    assert all(0 < r <= 3 for r in rises)
    assert all(0 <= k - n < 3 for k, n in zip(found.depths, need))


def test_a_held_step_stands_and_the_rest_goes_round_it() -> None:
    need = tuple(math.ceil(6 * i / 59) for i in range(60))
    free = solve_course(need, (200.0,) * 60, (True,) * 60, {}, most=3, apart=3, closed=False)
    held = solve_course(need, (200.0,) * 60, (True,) * 60, {5: 2}, most=3, apart=3, closed=False)
    assert turns(free.depths, closed=False)[0] != 5
    assert held.depths[5] - held.depths[4] == 2
    assert all(k >= n for k, n in zip(held.depths, need))


def test_a_held_step_in_a_ring_comes_back_up_elsewhere() -> None:
    """Flat ground, a ring, one step down held: somewhere the footing steps up again."""
    found = solve_course(
        (0,) * 24, (200.0,) * 24, (True,) * 24, {7: 1}, most=3, apart=3, closed=True
    )
    assert found.depths[7] - found.depths[6] == 1
    assert len(turns(found.depths, closed=True)) == 2
    assert min(found.depths) == 0


def test_ground_too_steep_for_the_rule_is_followed_and_said() -> None:
    need = (0, 0, 0, 9, 9, 9)
    found = solve_course(need, (200.0,) * 6, (True,) * 6, {}, most=2, apart=2, closed=False)
    flat = solve_course(need, (200.0,) * 6, (False,) * 6, {}, most=2, apart=2, closed=False)
    assert all(k >= n for k, n in zip(found.depths, need))
    assert set(flat.depths) == {9}, "where nothing may step, all of it lies as deep as the deepest"


@pytest.mark.parametrize(
    ("depth", "modules"), [(0.0, 0), (-300.0, 0), (203.2, 1), (203.3, 2), (406.4, 2)]
)
def test_depth_in_modules_of_eight_inches(depth: float, modules: int) -> None:
    assert modules_deep(depth, 203.2) == modules
