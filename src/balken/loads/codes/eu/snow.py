"""Snow by EN 1991-1-3:2003, recommended values. Loads N/mm² of plan, lengths mm, angles degrees."""

from typing import Final

GUARDED: Final = 0.8
"""μ1 is no less where snow cannot slide off (5.3.2(2), 5.3.3(3))."""
SNOW_WEIGHT: Final = 2.0e-6
"""γ of snow, N/mm³ (5.3.6(1))."""
DRIFT_LEAST: Final = 0.8
DRIFT_MOST: Final = 4.0
"""μ_w (5.3.6(1), note 1)."""
SHORTEST: Final = 5_000.0
LONGEST: Final = 15_000.0
"""ℓ_s, mm (5.3.6(1), note 2)."""
SLIDES_FROM: Final = 15.0
"""Upper roofs steeper than this let snow slide onto lower ones (5.3.6(1))."""


def mu1(angle: float, *, guarded: bool = False) -> float:
    """μ1 of a roof (EN 1991-1-3 table 5.2).

    Args:
        angle: degrees.
        guarded: with snow fences, a parapet, or anything else that keeps snow from sliding off.
    """
    free = 0.8 if angle <= 30 else max(0.0, 0.8 * (60 - angle) / 30)
    return max(GUARDED, free) if guarded else free


def mu2(angle: float) -> float:
    """μ2 of valleys and multi-span roofs (EN 1991-1-3 table 5.2); of roofs of 60° and more the
    clause says nothing, and 1.6 stands."""
    return 0.8 + 0.8 * angle / 30 if angle <= 30 else 1.6


def on_roof(ground: float, shape: float, exposure: float = 1.0, thermal: float = 1.0) -> float:
    """s = μ C_e C_t s_k (EN 1991-1-3 5.1)."""
    return shape * exposure * thermal * ground


def drifted_shapes(left: float, right: float) -> tuple[tuple[float, float], ...]:
    """μ on both sides of a pitched roof: undrifted, and with half on one side (EN 1991-1-3 figure
    5.3).

    Args:
        left: μ1 of the left side.
        right: μ1 of the right side.
    """
    return ((left, right), (left / 2, right), (left, right / 2))


def drift_length(step: float) -> float:
    """ℓ_s = 2 h of a drift against a taller building, mm (EN 1991-1-3 5.3.6)."""
    return min(LONGEST, max(SHORTEST, 2 * step))


def step_shape(
    ground: float, step: float, upper: float, lower: float, sliding: float = 0.0
) -> float:
    """μ at the wall of a taller building: μ_s + μ_w (EN 1991-1-3 5.8, 5.9).

    Args:
        ground: s_k, N/mm².
        step: h, mm.
        upper: b1, mm.
        lower: b2, mm.
        sliding: μ_s; nothing where the upper roof is not over 15°.
    """
    blown = min((upper + lower) / (2 * step), SNOW_WEIGHT * step / ground)
    return sliding + min(DRIFT_MOST, max(DRIFT_LEAST, blown))


def step_shape_at(at: float, at_wall: float, length: float) -> float:
    """μ so far from the wall, mm: straight from the wall down to 0.8 at ℓ_s."""
    if at >= length:
        return mu1(0.0)
    return at_wall + (mu1(0.0) - at_wall) * at / length


def sliding_shape(upper_angle: float, upper_plan: float, length: float) -> float:
    """μ_s: half of the snow on the upper slope beside the wall, in a triangle over ℓ_s (EN 1991-1-3
    5.3.6(1)).

    Args:
        upper_angle: of the upper slope, degrees.
        upper_plan: of the upper slope in plan, mm.
        length: ℓ_s, mm.
    """
    if upper_angle <= SLIDES_FROM:
        return 0.0
    return mu1(upper_angle) * upper_plan / 2 * 2 / length
