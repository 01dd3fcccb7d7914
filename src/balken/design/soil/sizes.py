"""The sizes that soil asks of strips and pads."""

import math

from balken.errors import BalkenError
from balken.model.foundations import STEEPEST


def strip_width(
    line_load: float, bearing: float, thickness: float = 0.0, weight: float = 0.0
) -> float:
    """The width a strip needs so that the soil bears it and its own weight, mm.

    Args:
        line_load: what comes down, N/mm; with the strip's own weight in it where ``thickness`` is
            zero.
        bearing: of the soil, N/mm².
        thickness: of the strip, mm.
        weight: of concrete, N/mm³.

    Raises:
        BalkenError: the strip's own weight alone is more than the soil bears.
    """
    return line_load / _left_over(bearing, thickness, weight)


def pad_side(load: float, bearing: float, thickness: float = 0.0, weight: float = 0.0) -> float:
    """The side of a square pad so that the soil bears a load in N and the pad's own weight,
    mm."""
    return math.sqrt(load / _left_over(bearing, thickness, weight))


def width_under_post(
    line_load: float,
    post: tuple[float, float],
    heights: tuple[float, float],
    bearing: float,
    weight: float,
) -> float:
    """The width a strip needs where a post stands on its wall, mm: the post's load goes out 1:1
    both ways along the wall through stem and footing (statics; common practice, no source).

    Args:
        line_load: of the wall, without the footing, N/mm.
        post: load, N, and length along the wall, mm.
        heights: of the stem and of the footing, mm.
        bearing: of the soil, N/mm².
        weight: of concrete, N/mm³.
    """
    load, length = post
    spread = load / (length + 2 * sum(heights))
    return (line_load + spread) / _left_over(bearing, heights[1], weight)


def _left_over(bearing: float, thickness: float, weight: float) -> float:
    net = bearing - thickness * weight
    if net <= 0:
        raise BalkenError(
            "The concrete alone is heavier than the soil bears: make it thinner, or find better"
            " soil."
        )
    return net


def rounded_up(size: float, module: float) -> float:
    """A size brought up to the next whole module, mm; what is on it to a hair stays."""
    return math.ceil(size / module - 1e-6) * module


def must_step(fall: float, over: float) -> bool:
    """Whether ground that falls by so much over such a length needs a stepped footing, both in
    one unit."""
    return abs(fall) > STEEPEST * over * (1 + 1e-9)
