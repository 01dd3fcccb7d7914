"""Snow by ASCE 7-16 chapter 7. Lengths mm, loads N/mm² of plan, slopes rise over run."""

import math
from typing import Final, Literal, NamedTuple

from balken.loads.codes.drift import Drift
from balken.units import FOOT, PCF, PSF

FLAT: Final = 0.7
"""7.3-1."""
COLD: Final = 1.1
UNHEATED: Final = 1.2
"""C_t from which roofs count as cold (7.4.2), and that of unheated ones."""
NO_SNOW_AT: Final = 70.0
"""Degrees from which a roof keeps none (figure 7.4-1)."""
_SLIDES_FROM: Final = ((COLD - 1e-9, 30.0, 5.0), (UNHEATED - 1e-9, 37.5, 10.0))
"""Up to which C_t, and from which slope snow begins to slide off other and off slippery roofs,
degrees."""
_COLDEST: Final = (45.0, 15.0)

GENTLEST: Final = 0.5 / 12
STEEPEST: Final = 7.0 / 12
"""Hip and gable roofs outside half on 12 to 7 on 12 need no unbalanced snow (7.6.1)."""
WINDWARD: Final = 0.3
"""Of the balanced snow that stays on the windward side."""
NARROW: Final = 20 * FOOT
"""Eave to ridge up to which simple rafters have a rule of their own (7.6.1)."""
LEAST_FETCH: Final = 20 * FOOT
HEAVIEST: Final = 30 * PCF
LOW_GROUND: Final = 20 * PSF
"""Ground snow up to which rain falls on the snow of gentle roofs (7.10), and up to which the least
load of low roofs is I_s p_g (7.3.4)."""
RAIN: Final = 5 * PSF
LOW_SLOPE: Final = 15.0
"""Degrees under which gable, hip and shed roofs are low (7.3.4)."""
SLIDING_REACH: Final = 15 * FOOT
"""Of the lower roof, over which what slides lies (7.9)."""


def flat(
    ground: float, exposure: float = 1.0, thermal: float = 1.0, importance: float = 1.0
) -> float:
    """p_f (ASCE 7-16 7.3-1)."""
    return FLAT * exposure * thermal * importance * ground


def least_on_low_roof(ground: float, importance: float = 1.0) -> float:
    """p_m of a low-sloped roof, balanced and alone (7.3.4)."""
    return importance * min(ground, LOW_GROUND)


def slope_factor(angle: float, thermal: float, *, slippery: bool = False) -> float:
    """C_s of a roof (ASCE 7-16 7.4, figure 7.4-1).

    Args:
        angle: degrees.
        thermal: C_t.
        slippery: unobstructed and slippery; of a warm roof only with the insulation or ventilation
            that 7.4.1 asks for.
    """
    rough, smooth = next((r for limit, *r in _SLIDES_FROM if thermal < limit), _COLDEST)
    begin = smooth if slippery else rough
    return min(1.0, max(0.0, (NO_SNOW_AT - angle) / (NO_SNOW_AT - begin)))


def height_of_drift(fetch: float, ground: float, importance: float = 1.0) -> float:
    """Height of a drift, mm: (0.43 ∛ℓu ⁴√(pg + 10) − 1.5) √I_s in feet and psf (ASCE 7-16 figure
    7.6-1), ℓu no less than 20 ft."""
    feet = max(fetch, LEAST_FETCH) / FOOT
    high = 0.43 * math.pow(feet, 1 / 3) * math.pow(ground / PSF + 10, 0.25) - 1.5
    return max(0.0, high) * math.sqrt(importance) * FOOT


def density(ground: float) -> float:
    """Weight of snow, N/mm³: 0.13 pg + 14 pcf, no more than 30 (ASCE 7-16 7.7-1)."""
    return min(HEAVIEST, (0.13 * ground / PSF + 14) * PCF)


class Unbalanced(NamedTuple):
    """Snow on a hip or gable roof that the wind has carried over the ridge."""

    windward: float
    leeward: float
    """All over the leeward side."""
    drift: float
    """Beside it, from the ridge down."""
    reach: float
    """Of the drift in plan, mm."""


def unbalanced(
    ground: float,
    balanced: float,
    slope: float,
    width: float,
    importance: float = 1.0,
    *,
    simple_rafters: bool = False,
) -> Unbalanced | None:
    """Unbalanced snow of a hip or gable roof; None where the clause asks for none (ASCE 7-16
    7.6.1).

    Args:
        ground: p_g, N/mm².
        balanced: p_s, N/mm².
        slope: rise over run.
        width: W from eave to ridge in plan, mm.
        importance: I_s.
        simple_rafters: prismatic members on two supports, eave and ridge.
    """
    if ground <= 0 or not GENTLEST - 1e-9 <= slope <= STEEPEST + 1e-9:
        return None
    if simple_rafters and width <= NARROW + 1e-6:
        return Unbalanced(0.0, importance * ground, 0.0, 0.0)
    high, spread = height_of_drift(width, ground, importance), math.sqrt(1 / slope)
    reach = min(width, 8 / 3 * high * spread)
    return Unbalanced(WINDWARD * balanced, balanced, high * density(ground) / spread, reach)


def drift_on(balanced: float, slope: float, width: float) -> Drift | None:
    """The drift beside a ridge, where only the snow on the roof is known: that on the ground follows
    from it with C_e, C_t and I_s of 1; None where the clause asks for none (ASCE 7-16 7.6.1).

    Args:
        balanced: snow on the roof, N/mm² of plan.
        slope: rise over run.
        width: from eave to ridge in plan, mm.
    """
    found = unbalanced(balanced / FLAT, balanced, slope, width)
    return None if found is None else Drift(found.drift, found.reach)


class StepDrift(NamedTuple):
    """A wedge of snow on a lower roof against a higher one, beside the balanced snow."""

    kind: Literal["leeward", "windward"]
    height: float
    """Of the wedge at the wall, mm."""
    load: float
    """At the wall, N/mm²."""
    width: float
    """In plan, mm."""


def drift_at_step(
    ground: float,
    balanced: float,
    upper: float,
    lower: float,
    step: float,
    importance: float = 1.0,
) -> StepDrift | None:
    """The greater of the leeward and the windward drift at a step of roofs; None where the snow
    fills the step to less than a fifth free (ASCE 7-16 7.7.1).

    Args:
        ground: p_g, N/mm².
        balanced: on the lower roof, N/mm².
        upper: length of the upper roof across the step, mm: snow blown off it.
        lower: length of the lower roof across the step, mm: snow blown against the wall.
        step: from the lower roof to the upper eave or parapet, mm.
        importance: I_s.
    """
    if ground <= 0 or step <= 0:
        return None
    gamma = density(ground)
    buried = balanced / gamma
    free = step - buried
    if free <= 0 or (buried > 0 and free / buried < 0.2):
        return None
    lee = height_of_drift(upper, ground, importance)
    wind = 0.75 * height_of_drift(lower, ground, importance)
    kind: Literal["leeward", "windward"] = "leeward" if lee >= wind else "windward"
    wanted = max(lee, wind)
    width = 4 * wanted if wanted <= free else min(4 * wanted**2 / free, 8 * free)
    high = min(wanted, free)
    return StepDrift(kind, high, high * gamma, width)


def sliding(flat_upper: float, width: float, slope: float, *, slippery: bool = False) -> float:
    """Snow that slides from a sloped roof onto a lower one, N per mm of eave: 0.4 p_f W over 15 ft
    of it (ASCE 7-16 7.9); nothing where the upper roof is too gentle.

    Args:
        flat_upper: p_f of the upper roof, N/mm².
        width: from its ridge to its eave in plan, mm.
        slope: rise over run: slippery roofs over a quarter on 12 let go, others over 2 on 12.
        slippery: the upper roof.
    """
    least = 0.25 / 12 if slippery else 2 / 12
    return 0.4 * flat_upper * width if slope > least + 1e-9 else 0.0


def rain_on_snow(ground: float, angle: float, width: float) -> float:
    """Rain that falls on the balanced snow of a gentle roof (ASCE 7-16 7.10), N/mm².

    Args:
        ground: p_g.
        angle: of the roof, degrees.
        width: from ridge to eave in plan, mm.
    """
    gentle = angle < width / FOOT / 50
    return RAIN if 0 < ground <= LOW_GROUND + 1e-12 and gentle else 0.0
