"""Wind on low buildings as a whole by EN 1991-1-4:2005 chapter 7: walls of table 7.1, duopitch roofs of
tables 7.4a and 7.4b, external pressures c_pe,10. From memory."""

from typing import Final

import numpy as np

INSIDE: Final = 0.2
"""c_pi where openings are not counted one by one (7.2.9(6), note 2)."""
OPEN_INSIDE: Final = 0.9 * 0.8
"""With one dominant face, of 3 times the other openings: 0.9 c_pe of it (7.2.9(5))."""
TOGETHER: Final = 0.85
"""Faces to windward and to leeward are not pressed at once, up to h / d = 1 (7.2.2(3))."""
_SLENDER: Final = (0.25, 1.0, 5.0)
_D: Final = (0.7, 0.8, 0.8)
_E: Final = (0.3, 0.5, 0.7)
"""c_pe,10 of the faces D and E, amounts, by h / d (table 7.1)."""
UNDER_EAVES: Final = 0.8
"""Pressure under an overhang: that of the wall below it (7.2.1(3))."""
_ANGLES: Final = (5.0, 15.0, 30.0, 45.0, 60.0, 75.0)
_G_ACROSS: Final = (1.2, 0.8, 0.5, 0.0, 0.0, 0.0)
_H_ACROSS: Final = (0.6, 0.3, 0.2, 0.0, 0.0, 0.0)
_I_ACROSS: Final = (0.6, 0.4, 0.4, 0.2, 0.2, 0.2)
"""Amounts of suction of zones G, H and I, wind across the ridge (table 7.4a)."""
_G_ALONG: Final = (1.3, 1.3, 1.4, 1.4, 1.2, 1.2)
_H_ALONG: Final = (0.7, 0.6, 0.8, 0.9, 0.8, 0.8)
"""Amounts of suction of zones G and H, wind along the ridge (table 7.4b)."""
_H_PRESSED: Final = (0.0, 0.2, 0.4, 0.6, 0.7, 0.8)
_I_WITH_IT: Final = (0.6, 0.4, 0.4, 0.2, 0.2, 0.2)
"""Pressure of zone H, and suction to leeward beside it (table 7.4a)."""
EDGE: Final = 0.2
"""The share of zone G in the first e / 2 by an edge, e / 10 wide: the sheathing spreads it over so
many rafters. Common practice, no source."""


def _at(values: tuple[float, ...], angle: float) -> float:
    return float(np.interp(angle, _ANGLES, values))


def inside(*, enclosed: bool) -> float:
    """c_pi that works from inside upward."""
    return INSIDE if enclosed else OPEN_INSIDE


def roof_lift(angle: float) -> float:
    """The greatest suction on a roof by its edge, whichever way the wind blows: an amount of
    c_pe,10."""
    along = EDGE * _at(_G_ALONG, angle) + (1 - EDGE) * _at(_H_ALONG, angle)
    across = EDGE * _at(_G_ACROSS, angle) + (1 - EDGE) * _at(_H_ACROSS, angle)
    return max(along, across, _at(_I_ACROSS, angle))


def roof_uplift(qp: float, angle: float, slender: float, *, enclosed: bool) -> float:
    """What lifts a roof over rooms, N/mm² (5.1, 5.2); the tables do not ask how slender it is."""
    del slender
    return qp * (roof_lift(angle) + inside(enclosed=enclosed))


SUCKED_INSIDE: Final = 0.3
"""c_pi that works from inside downward (7.2.9(6), note 2)."""


def roof_pressure(qp: float, angle: float, slender: float, *, enclosed: bool) -> float:
    """What presses on a roof, N/mm²: zone H to windward, with suction inside (table 7.4a)."""
    del slender
    within = SUCKED_INSIDE if enclosed else OPEN_INSIDE
    return qp * (_at(_H_PRESSED, angle) + within)


def overhang_uplift(qp: float, angle: float, slender: float) -> float:
    """What lifts a roof outside the walls, N/mm² (7.2.1(3))."""
    del slender
    return qp * (roof_lift(angle) + UNDER_EAVES)


def wall_push(qp: float, height: float, along: float, across: float) -> float:
    """What the walls to windward and to leeward push together, N/mm² (7.2.2; 5.3).

    Args:
        qp: at the reference height, N/mm².
        height: of the building, mm.
        along: d, its length in the wind, mm.
        across: its width across the wind, mm: the table does not ask.
    """
    del across
    slender = height / along
    both = float(np.interp(slender, _SLENDER, _D)) + float(np.interp(slender, _SLENDER, _E))
    apart = float(np.interp(slender, (1.0, 5.0), (TOGETHER, 1.0)))
    return qp * apart * both


def roof_side_push(qp: float, angle: float, slender: float) -> float:
    """What a roof pushes sideways on its upright projection, N/mm²: its slope to windward pressed,
    the other sucked."""
    del slender
    return qp * (_at(_H_PRESSED, angle) + _at(_I_WITH_IT, angle))
