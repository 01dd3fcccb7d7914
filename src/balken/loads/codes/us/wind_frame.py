"""Wind on low buildings as a whole by the directional procedure of ASCE 7-16 chapter 27: walls, and
roofs of any pitch. Coefficients of figure 27.3-1, from memory."""

from collections.abc import Mapping
from typing import Final

import numpy as np

from balken.loads.codes.us.wind import ENCLOSED, PARTLY_OPEN
from balken.units import PSF

GUST: Final = 0.85
"""G of rigid buildings (26.11.1)."""
WINDWARD: Final = 0.8
"""C_p of the wall the wind meets; also under an overhang (27.3.3)."""
LEAST_ON_WALLS: Final = 16 * PSF
LEAST_ON_ROOFS: Final = 8 * PSF
"""On the upright projection of walls, and of roofs (27.1.5)."""

_LEEWARD: Final = ((1.0, 2.0, 4.0), (0.5, 0.3, 0.2))
"""L / B, and the amount of C_p of the wall to leeward."""
_LOW, _MIDDLE, _HIGH = 0.25, 0.5, 1.0
"""h / L of the three rows of the figure."""
_ANGLES: Final = (10.0, 15.0, 20.0, 25.0, 30.0, 35.0, 45.0, 60.0)
_LIFTED: Final = {
    _LOW: (0.7, 0.5, 0.3, 0.2, 0.2, 0.0, 0.0, 0.0),
    _MIDDLE: (0.9, 0.7, 0.4, 0.3, 0.2, 0.2, 0.0, 0.0),
    _HIGH: (1.3, 1.0, 0.7, 0.5, 0.3, 0.2, 0.0, 0.0),
}
"""What sucks on the slope to windward, its amount."""
_PRESSED: Final = {
    _LOW: (0.0, 0.0, 0.2, 0.3, 0.3, 0.4, 0.4, 0.6),
    _MIDDLE: (0.0, 0.0, 0.0, 0.2, 0.2, 0.3, 0.4, 0.6),
    _HIGH: (0.0, 0.0, 0.0, 0.0, 0.2, 0.2, 0.3, 0.6),
}
"""What presses on it in the other case of the figure; its lesser suction is left out."""
_BEHIND: Final = {
    _LOW: (0.3, 0.5, 0.6, 0.6, 0.6, 0.6, 0.6, 0.6),
    _MIDDLE: (0.5, 0.5, 0.6, 0.6, 0.6, 0.6, 0.6, 0.6),
    _HIGH: (0.7, 0.6, 0.6, 0.6, 0.6, 0.6, 0.6, 0.6),
}
"""What sucks on the slope to leeward, its amount."""
_ALONG: Final = ((0.5, 1.0), (0.9, 1.3))
"""h / L, and the amount of C_p within h of the edge, of wind along the ridge and on flat roofs."""


def inside(*, enclosed: bool) -> float:
    """GC_pi, its amount (ASCE 7-16 table 26.13-1)."""
    return ENCLOSED if enclosed else PARTLY_OPEN


def leeward_wall(along: float, across: float) -> float:
    """Amount of C_p of the wall to leeward, of a building so long in the wind and so wide across
    it (figure 27.3-1)."""
    return float(np.interp(along / across, *_LEEWARD))


def _by(table: Mapping[float, tuple[float, ...]], angle: float, slender: float) -> float:
    """A value of the figure between its angles and its rows."""
    at = min(max(angle, _ANGLES[0]), _ANGLES[-1])
    rows = [float(np.interp(at, _ANGLES, row)) for row in table.values()]
    return float(np.interp(slender, tuple(table), rows))


def roof_lift(angle: float, slender: float) -> float:
    """The greatest suction on a roof, whichever way the wind blows, as an amount of C_p.

    Args:
        angle: of the roof, degrees.
        slender: mean roof height over the length in the wind.
    """
    along = float(np.interp(slender, *_ALONG))
    across = max(_by(_LIFTED, angle, slender), _by(_BEHIND, angle, slender))
    return max(along, across)


def roof_push(angle: float, slender: float) -> float:
    """What both slopes of a roof together push sideways on their upright projection, as C_p: the
    slope to windward pressed, the one to leeward sucked."""
    return _by(_PRESSED, angle, slender) + _by(_BEHIND, angle, slender)


def roof_uplift(qh: float, angle: float, slender: float, *, enclosed: bool) -> float:
    """What lifts a roof over rooms, N/mm² (27.3-1, with pressure from inside)."""
    return qh * (GUST * roof_lift(angle, slender) + inside(enclosed=enclosed))


def roof_pressure(qh: float, angle: float, slender: float, *, enclosed: bool) -> float:
    """What presses on a roof, N/mm²: its slope to windward, with suction inside (27.3-1)."""
    return qh * (GUST * _by(_PRESSED, angle, slender) + inside(enclosed=enclosed))


def overhang_uplift(qh: float, angle: float, slender: float) -> float:
    """What lifts a roof outside the walls: sucked from above and pressed from below, N/mm²
    (27.3.3)."""
    return qh * GUST * (roof_lift(angle, slender) + WINDWARD)


def wall_push(qh: float, height: float, along: float, across: float) -> float:
    """What both walls together push sideways, N/mm²; the pressure inside works on both alike. No
    less than 16 psf (27.3-1, 27.1.5).

    Args:
        qh: at mean roof height, N/mm²; lower down it is less to windward, which is left out.
        height: of the building, mm: this code does not ask.
        along: length of the building in the wind, mm.
        across: its width across the wind, mm.
    """
    del height
    return max(GUST * qh * (WINDWARD + leeward_wall(along, across)), LEAST_ON_WALLS)


def roof_side_push(qh: float, angle: float, slender: float) -> float:
    """What a roof pushes sideways on its upright projection, N/mm², no less than 8 psf (27.1.5)."""
    return max(qh * GUST * roof_push(angle, slender), LEAST_ON_ROOFS)
