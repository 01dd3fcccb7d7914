"""Wind by EN 1991-1-4:2005, recommended values: peak velocity pressure. Heights mm, speeds m/s,
pressures N/mm²."""

import math
from typing import Final, NamedTuple

from balken.model.wind import Terrain

AIR: Final = 1.25
"""kg/m³ (4.5)."""


class _Roughness(NamedTuple):
    length: float
    """z0, m."""
    lowest: float
    """z_min, m."""


_TERRAIN: Final[dict[Terrain, _Roughness]] = {
    "0": _Roughness(0.003, 1.0),
    "I": _Roughness(0.01, 1.0),
    "II": _Roughness(0.05, 2.0),
    "III": _Roughness(0.3, 5.0),
    "IV": _Roughness(1.0, 10.0),
}
"""EN 1991-1-4 table 4.1."""
OPEN: Final = _TERRAIN["II"].length
HIGHEST: Final = 200.0
"""m, up to which the profile holds (4.3.2)."""


def mean_speed(basic: float, height: float, terrain: Terrain, orography: float = 1.0) -> float:
    """v_m(z), m/s (EN 1991-1-4 4.3 to 4.5)."""
    z = max(height / 1000, _TERRAIN[terrain].lowest)
    kr = 0.19 * math.pow(_TERRAIN[terrain].length / OPEN, 0.07)
    return kr * math.log(z / _TERRAIN[terrain].length) * orography * basic


def turbulence(height: float, terrain: Terrain, orography: float = 1.0, ki: float = 1.0) -> float:
    """I_v(z) (EN 1991-1-4 4.7)."""
    z = max(height / 1000, _TERRAIN[terrain].lowest)
    return ki / (orography * math.log(z / _TERRAIN[terrain].length))


def peak_pressure(
    basic: float,
    height: float,
    terrain: Terrain,
    orography: float = 1.0,
    air: float = AIR,
    ki: float = 1.0,
) -> float:
    """q_p(z), N/mm² (EN 1991-1-4 4.8).

    Args:
        basic: v_b, with direction and season, m/s.
        height: z, mm.
        terrain: its category.
        orography: c_0.
        air: density, kg/m³.
        ki: of turbulence.
    """
    gust = 1 + 7 * turbulence(height, terrain, orography, ki)
    return gust * 0.5 * air * mean_speed(basic, height, terrain, orography) ** 2 * 1e-6
