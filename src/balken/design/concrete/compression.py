"""Which piers are short enough to stand without bars."""

import math
from typing import Final

SHORT: Final = 3.0
"""A pedestal is no higher than three times its least side (ACI 318-19 2.3); higher ones are columns
with bars."""


def is_short(height: float, least: float) -> bool:
    """Whether a pier is a pedestal, by its height and least side."""
    return height <= SHORT * least + 1e-6 and math.isfinite(height)
