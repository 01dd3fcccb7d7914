"""Closed forms against numerical integration and the values of handbooks."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.analysis import simple


def test_handbook_case() -> None:
    # AWC Design Aid 6, case 1 (simple beam, uniform load), worked: w = 2 N/mm, L = 4000 mm, E =
    # 11000, I = 4e7.
    assert simple.moment(2.0, 4000.0) == pytest.approx(4e6)
    assert simple.shear(2.0, 4000.0) == pytest.approx(4000.0)
    assert simple.deflection(2.0, 4000.0, 11000.0, 4e7) == pytest.approx(15.1515, abs=1e-4)


@given(st.floats(0.1, 20), st.floats(500, 9000), st.floats(1e6, 1e9))
def test_deflection_by_integrating_the_moment_twice(w: float, span: float, inertia: float) -> None:
    e = 11000.0
    x = np.linspace(0, span, 2001)
    curvature = w * x * (span - x) / 2 / (e * inertia)
    h = x[1] - x[0]
    angle = np.concatenate([[0], np.cumsum((curvature[1:] + curvature[:-1]) / 2 * h)])
    bent = np.concatenate([[0], np.cumsum((angle[1:] + angle[:-1]) / 2 * h)])
    bent -= bent[-1] * x / span
    assert simple.deflection(w, span, e, inertia) == pytest.approx(-bent.min(), rel=1e-4)


@given(
    st.floats(1, 1e5),
    st.floats(-2000, 0),
    st.floats(3000, 9000),
    st.floats(10, 400),
    st.floats(2000, 2900),
)
def test_reactions_balance(
    total: float, low: float, high: float, first: float, last: float
) -> None:
    a, b = simple.reactions(total, low, high, first, last)
    assert a + b == pytest.approx(total)
    assert a * first + b * last == pytest.approx(total * (low + high) / 2, rel=1e-9, abs=1e-6)


def test_arrays_give_what_numbers_give() -> None:
    w, span = np.array([1.0, 2.0]), np.array([3000.0, 4000.0])
    assert simple.moment(w, span).tolist() == [
        simple.moment(1.0, 3000.0),
        simple.moment(2.0, 4000.0),
    ]
