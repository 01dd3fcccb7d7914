"""Wind by ASCE 7-16: velocity pressure of chapter 26, components and cladding of chapter 30 on low
buildings. Lengths mm, pressures N/mm²."""

import math
from typing import Final, Literal, NamedTuple

from balken.model.wind import Exposure
from balken.units import FOOT, MPH, PSF


class _Terrain(NamedTuple):
    alpha: float
    gradient: float
    """z_g, mm."""


_TERRAIN: Final[dict[Exposure, _Terrain]] = {
    "B": _Terrain(7.0, 1200 * FOOT),
    "C": _Terrain(9.5, 900 * FOOT),
    "D": _Terrain(11.5, 700 * FOOT),
}
"""Table 26.11-1."""
LOWEST: Final = 15 * FOOT
"""Under it the pressure stays as it is (table 26.10-1, note 1)."""
DIRECTIONALITY: Final = 0.85
"""K_d of buildings (table 26.6-1)."""
ENCLOSED: Final = 0.18
"""GC_pi of enclosed buildings, both ways (table 26.13-1)."""
PARTLY_OPEN: Final = 0.55
"""GC_pi of partially enclosed buildings."""
LEAST_CLADDING: Final = 16 * PSF
"""30.2.2."""
HIGHEST: Final = 60 * FOOT
"""Mean roof height up to which a building is low (30.3)."""


def exposure_factor(height: float, exposure: Exposure) -> float:
    """K_z at a height (ASCE 7-16 table 26.10-1)."""
    terrain = _TERRAIN[exposure]
    at = min(max(height, LOWEST), terrain.gradient)
    return 2.01 * math.pow(at / terrain.gradient, 2 / terrain.alpha)


def elevation_factor(ground: float) -> float:
    """K_e of a place so far above the sea, mm (ASCE 7-16 table 26.9-1)."""
    return math.exp(-0.0000362 * ground / FOOT)


def velocity_pressure(
    speed: float, kz: float, kzt: float = 1.0, kd: float = DIRECTIONALITY, ke: float = 1.0
) -> float:
    """q_z = 0.00256 K_z K_zt K_d K_e V² psf (ASCE 7-16 26.10-1); ``speed`` in mm/s."""
    return 0.00256 * kz * kzt * kd * ke * (speed / MPH) ** 2 * PSF


Zone = Literal[4, 5]
_WALLS: Final[dict[tuple[Zone, str], tuple[float, float]]] = {
    (4, "out"): (1.1, 0.8),
    (5, "out"): (1.4, 0.8),
    (4, "in"): (1.0, 0.7),
    (5, "in"): (1.0, 0.7),
}
"""GC_p of walls at 10 ft² and at 500 ft² (figure 30.3-1)."""
FLAT_ROOF: Final = 10.0
"""Degrees up to which the values of walls are less by a tenth (figure 30.3-1, note 5)."""


def effective_area(length: float, spacing: float) -> float:
    """Of a member that spans: its length times the greater of spacing and a third of the length,
    mm² (ASCE 7-16 26.2)."""
    return length * max(spacing, length / 3)


def wall_coefficient(
    zone: Zone, way: Literal["in", "out"], area: float, roof_angle: float
) -> float:
    """GC_p of a wall of a low building, its amount (ASCE 7-16 figure 30.3-1).

    Args:
        zone: 5 by the corners, 4 between.
        way: pressed in or sucked out.
        area: effective, mm².
        roof_angle: degrees.
    """
    small, large = _WALLS[zone, way]
    logarithm = math.log10(min(500.0, max(10.0, area / FOOT**2)) / 10)
    found = small - (small - large) * logarithm / math.log10(50)
    return 0.9 * found if roof_angle <= FLAT_ROOF + 1e-9 else found


def cladding_pressure(qh: float, coefficient: float, inside: float = ENCLOSED) -> float:
    """Design pressure on a component, no less than 16 psf, N/mm² (ASCE 7-16 30.3-1, 30.2.2).

    Args:
        qh: at mean roof height, N/mm².
        coefficient: amount of GC_p.
        inside: amount of GC_pi, which works the same way.
    """
    return max(LEAST_CLADDING, qh * (abs(coefficient) + inside))


def zone_width(least_side: float, roof_height: float) -> float:
    """a of the figures of chapter 30, mm: a tenth of the least side or 0.4 h, whichever is less, no
    less than 4 % of that side or 3 ft."""
    return max(min(0.1 * least_side, 0.4 * roof_height), 0.04 * least_side, 3 * FOOT)


def uplift_at_end(
    qh: float, coefficient: float, dead: float, span: float, overhang: float, spacing: float
) -> float:
    """Uplift at one end of a truss or a pair of rafters under 0.6 D + 0.6 W, N; negative where the
    roof's weight holds it (ASCE 7-16 30.3-1, 2.4.1 no. 7).

    Args:
        qh: N/mm².
        coefficient: GC_p of the whole roof, its amount, up.
        dead: of the roof, N/mm² of plan.
        span: between bearings, mm.
        overhang: past the bearing in plan, mm.
        spacing: mm.
    """
    up = cladding_pressure(qh, coefficient)
    return (0.6 * up - 0.6 * dead) * (span / 2 + overhang) * spacing
