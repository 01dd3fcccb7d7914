"""Adjustment factors of NDS-2018. Lengths mm, stresses N/mm²; factors have no unit."""

import math
from typing import Final, Literal

from balken.design.codes.us.nds.values import Reference, is_timber
from balken.design.strength import Loading
from balken.design.worth import Worth
from balken.errors import BalkenError
from balken.units import INCH, PSI

REPETITIVE: Final = 1.15
"""C_r for three or more members 2 to 4 in thick at 24 in or less, joined by decking (NDS 4.3.9)."""
REPETITIVE_SPACING: Final = 24 * INCH
REPETITIVE_COUNT: Final = 3
"""So many members side by side, or plies that share a load, help each other (NDS 4.3.9)."""
THICKEST_REPETITIVE: Final = 4 * INCH
"""Of dimension lumber, the only kind that C_r is for, mm."""
_WIDTHS: Final = (4, 5, 6, 8, 10, 12)
_CF_FB: Final = {
    "thin": (1.5, 1.4, 1.3, 1.2, 1.1, 1.0, 0.9),
    "thick": (1.5, 1.4, 1.3, 1.3, 1.2, 1.1, 1.0),
}
_CF_FT: Final = (1.5, 1.4, 1.3, 1.2, 1.1, 1.0, 0.9)
_CF_FC: Final = (1.15, 1.1, 1.1, 1.05, 1.0, 1.0, 0.9)

Stress = Literal["fb", "ft", "fc"]


class Adjusted(Worth, frozen=True, gc=False, kw_only=True):
    """Values after the factors that do not depend on load: F′ without C_D, C_L and C_r, with the
    factors used."""

    cf: float
    wet: tuple[float, float, float, float]
    """C_M on Fb, Fv, Fc⊥, E."""
    incised: tuple[float, float]
    """C_i on strength and on E."""
    reference: Reference
    bears_on: str = ""
    """Where the bearing value comes from, when what lies underneath is softer than the member."""


def size_factor(stress: Stress, species: str, grade: str, nominal: tuple[int, int]) -> float:
    """C_F (NDS 4.3.6; Supplement tables 4A, 4B, 4D, adjustment factors)."""
    thickness, width = nominal
    if is_timber(nominal):
        depth = width - 0.5
        return (12 / depth) ** (1 / 9) if depth > 12 and stress == "fb" else 1.0
    if species == "SP":
        factor = 0.9 if width > 12 else 1.0
        thick = stress == "fb" and thickness >= 4 and width >= 8
        return factor * (1.1 if thick else 1.0)
    if grade in _CF_BY_GRADE:
        return _by_grade(grade, stress, nominal)
    if grade == "Stud" and width <= 6:
        return _CF_STUD[stress] if width <= 4 else 1.0
    place = next((i for i, w in enumerate(_WIDTHS) if width <= w), len(_WIDTHS))
    bending = _CF_FB["thick" if thickness >= 4 else "thin"]
    return {"fb": bending, "ft": _CF_FT, "fc": _CF_FC}[stress][place]


_CF_STUD: Final[dict[Stress, float]] = {"fb": 1.1, "ft": 1.1, "fc": 1.05}
"""Stud, to 4 in wide (NDS Supplement table 4A)."""


_CF_BY_GRADE: Final = ("Construction", "Standard", "Utility")
"""Grades whose factor does not go by width."""


def _by_grade(grade: str, stress: Stress, nominal: tuple[int, int]) -> float:
    """Construction and Standard have none; Utility only 2 and 3 in wide (NDS Supplement table
    4A)."""
    thickness, width = nominal
    if grade != "Utility" or width > 3 or thickness >= 4:
        return 1.0
    return {"fb": 0.4, "ft": 0.4, "fc": 0.6}[stress]


def adjusted(
    reference: Reference,
    species: str,
    grade: str,
    nominal: tuple[int, int],
    *,
    wet: bool = False,
    incised: bool = False,
) -> Adjusted:
    """Apply size, wet service and incising (NDS 4.3.3, 4.3.6, 4.3.8).

    Wet service spares Fb when Fb C_F ≤ 1,150 psi and Fc when Fc C_F ≤ 750 psi (table 4A).
    """
    cf = size_factor("fb", species, grade, nominal)
    cf_c = size_factor("fc", species, grade, nominal)
    cm = (1.0, 1.0, 1.0, 1.0)
    cm_c = 1.0
    if wet and is_timber(nominal):
        cm, cm_c = (1.0, 1.0, 0.67, 1.0), 0.91
    elif wet:
        cm = (1.0 if reference.fb * cf <= 1150 * PSI + 1e-9 else 0.85, 0.97, 0.67, 0.9)
        cm_c = 1.0 if reference.fc * cf_c <= 750 * PSI + 1e-9 else 0.8
    ci = (0.8, 0.95) if incised else (1.0, 1.0)
    return Adjusted(
        fb=reference.fb * cf * cm[0] * ci[0],
        fv=reference.fv * cm[1] * ci[0],
        fc_perp=reference.fc_perp * cm[2],
        fc=reference.fc * cf_c * cm_c * ci[0],
        e=reference.e * cm[3] * ci[1],
        e_min=reference.e_min * cm[3] * ci[1],
        ft=reference.ft * size_factor("ft", species, grade, nominal) * ci[0],
        cf=cf,
        wet=cm,
        incised=ci,
        reference=reference,
    )


_BY_DEPTH: Final[dict[Loading, tuple[float, float]]] = {
    "uniform": (2.06, 1.63),
    "middle": (1.80, 1.37),
    "cantilever uniform": (1.33, 0.90),
    "cantilever end": (1.87, 1.44),
    "other": (2.06, 1.63),
}
"""ℓe over ℓu where ℓu/d is under 7; and from there on, with 3 d added."""
_OF_LENGTH: Final[dict[Loading, float]] = {
    "held 1": 1.11,
    "held 2": 1.68,
    "held 3": 1.54,
    "held 4": 1.68,
    "held 5": 1.73,
    "held 6": 1.78,
    "held 7": 1.84,
    "end moments": 1.84,
}
LONG: Final = 14.3
"""Loads that table 3.3.3 does not name have ℓe = 1.84 ℓu where ℓu/d is over this (its footnote
1)."""


def effective_length(unbraced: float, depth: float, loading: Loading = "uniform") -> float:
    """Effective length of a bending member between places held sideways, mm (NDS-2018 table 3.3.3,
    from memory).

    Args:
        unbraced: ℓu, mm.
        depth: d, mm.
        loading: the row of the table; ``other`` for what it does not name.
    """
    if loading in _OF_LENGTH:
        return _OF_LENGTH[loading] * unbraced
    short, long = _BY_DEPTH[loading]
    if unbraced / depth < 7:
        return short * unbraced
    if loading == "other" and unbraced / depth > LONG:
        return 1.84 * unbraced
    return long * unbraced + 3 * depth


def depth_factor(depth: float, exponent: float) -> float:
    """C_V of structural composite lumber, (12 in / d)^x, no more than 1 (NDS-2018 8.3.6; the
    exponent is the maker's)."""
    return min(1.0, math.pow(12 * INCH / depth, exponent))


def beam_stability(
    breadth: float,
    depth: float,
    unbraced: float,
    fb_star: float,
    e_min: float,
    loading: Loading = "uniform",
) -> float:
    """C_L of a piece whose edge in compression is held every ``unbraced`` mm (NDS 3.3.3).

    ``fb_star`` is Fb with all factors but C_L, C_V and C_fu; ``e_min`` is E′min for bending
    sideways (of glulam Ey,min).

    Raises:
        BalkenError: slenderness ratio over 50 (NDS 3.3.3.7).
    """
    if unbraced <= 0 or depth <= breadth:
        return 1.0
    slenderness = math.sqrt(effective_length(unbraced, depth, loading) * depth / breadth**2)
    if slenderness > 50:
        raise BalkenError(
            f"the slenderness ratio of the beam is {slenderness:.1f}; NDS 3.3.3.7 allows 50"
        )
    ratio = 1.20 * e_min / slenderness**2 / fb_star
    middle = (1 + ratio) / 1.9
    return middle - math.sqrt(middle**2 - ratio / 0.95)


def volume_factor(
    breadth: float, depth: float, length: float, *, southern_pine: bool = False
) -> float:
    """C_V of glued laminated timber (NDS 5.3.6): ``length`` between points of zero
    moment."""
    power = 1 / 20 if southern_pine else 1 / 10
    ratio = (21 * 12 * INCH / length) * (12 * INCH / depth) * (5.125 * INCH / breadth)
    return float(min(1.0, ratio**power))


def bearing_area_factor(length: float, to_end: float) -> float:
    """C_b for a bearing of a length, at a distance from the end of the member (NDS
    3.10.4)."""
    if length >= 6 * INCH or to_end <= 3 * INCH:
        return 1.0
    return (length + 0.375 * INCH) / length


def bearing_at_angle(fc_star: float, fc_perp: float, angle: float) -> float:
    """F′θ between grain (0) and square to it (π/2), radians: the Hankinson formula of NDS
    3.10.3."""
    return fc_star * fc_perp / (fc_star * math.sin(angle) ** 2 + fc_perp * math.cos(angle) ** 2)
