"""Simple spans under uniform load, in closed form (any text on statics; AWC Design Aid 6, case 1).

All functions take floats or NumPy arrays that broadcast: load ``w`` N/mm, span mm, ``e`` N/mm²,
``inertia`` mm⁴.
"""

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Number = TypeVar("Number", float, Floats)


def moment(w: Number, span: Number) -> Number:
    """The greatest moment, N mm: w L² / 8."""
    return w * span**2 / 8


def shear(w: Number, span: Number) -> Number:
    """The reaction at each end, N: w L / 2."""
    return w * span / 2


def deflection(w: Number, span: Number, e: Number, inertia: Number) -> Number:
    """The deflection at the middle, mm: 5 w L⁴ / (384 E I)."""
    return 5 * w * span**4 / (384 * e * inertia)


def reactions(
    total: Number, low: Number, high: Number, first: Number, last: Number
) -> tuple[Number, Number]:
    """The two reactions of a load spread evenly from ``low`` to ``high`` on supports at
    ``first`` and ``last``.

    The load may reach past the supports; a reaction may then point down (negative).
    """
    share = ((low + high) / 2 - first) / (last - first)
    return total * (1 - share), total * share
