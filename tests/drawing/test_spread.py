"""Words pushed apart: against SciPy's isotonic regression, which the placing is one of."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import isotonic_regression

from balken.drawing.spread import spread

PLACES = st.lists(st.floats(0, 700), min_size=1, max_size=25).map(sorted)


@given(PLACES)
def test_places_are_the_nearest_that_keep_apart(wanted: list[float]) -> None:
    least = 15.0
    shift = least * np.arange(len(wanted))
    best = isotonic_regression(np.array(wanted) - shift).x + shift
    assert spread(wanted, least, -1e6, 1e6) == pytest.approx(best.tolist(), abs=1e-6)


@given(PLACES)
def test_all_lie_between_the_bounds_and_keep_apart(wanted: list[float]) -> None:
    found = spread(wanted, 15.0, 40.0, 660.0)
    assert min(found) >= 40.0 - 1e-9
    assert max(found) <= 660.0 + 1e-9
    assert all(b - a >= 15.0 - 1e-9 for a, b in itertools.pairwise(found))


def test_what_has_room_stays_where_it_is() -> None:
    assert spread([10.0, 100.0, 300.0], 15.0, 0.0, 400.0) == [10.0, 100.0, 300.0]
    assert spread([100.0, 100.0], 20.0, 0.0, 400.0) == [90.0, 110.0]
    assert spread([], 15.0, 0.0, 10.0) == []
