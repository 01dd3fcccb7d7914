"""Shear walls of wood panels by SDPWS-2015 4.3, allowable stress. Lengths mm, N, N/mm."""

from typing import Final

from balken.errors import BalkenError
from balken.units import FOOT, INCH, LB, PSI

ALLOWABLE: Final = 2.0
"""Nominal unit shear over what is allowed (4.3.3)."""
SQUATTEST: Final = 2.0
"""Height over length up to which panels have their whole strength (4.3.4.2)."""
SLENDEREST: Final = 3.5
"""And up to which they count at all (table 4.3.4)."""
KIP_PER_INCH: Final = 1000 * LB / INCH


def species_factor(gravity: float) -> float:
    """1 − (0.5 − G) ≤ 1 on unit shears of panels on framing of other wood than Douglas Fir-Larch
    and Southern Pine (SDPWS-2015 table 4.3A, note 3)."""
    return min(1.0, 1 - (0.5 - gravity))


def slenderness_factor(height: float, length: float) -> float:
    """What a slender wall of wood structural panels keeps of its strength, 1.25 − 0.125 h / b
    (SDPWS-2015 4.3.4.2).

    Raises:
        BalkenError: more slender than 3.5 to 1; it does not count.
    """
    slender = height / length
    if slender > SLENDEREST + 1e-9:
        raise BalkenError(
            f"The wall is {slender:.2f} times as high as long; as a shear wall of wood panels it may"
            f" be {SLENDEREST:g} times (SDPWS table 4.3.4)."
        )
    return 1.0 if slender <= SQUATTEST else 1.25 - 0.125 * slender


def allowable_unit_shear(nominal: float, gravity: float, height: float, length: float) -> float:
    """Allowable unit shear of a wall, N/mm (SDPWS-2015 4.3.3, 4.3.4.2).

    Args:
        nominal: v_w or v_s of table 4.3A, N/mm.
        gravity: of the framing.
        height: of the wall, mm.
        length: of the wall, mm.
    """
    return nominal / ALLOWABLE * species_factor(gravity) * slenderness_factor(height, length)


def hold_down(force: float, height: float, length: float, dead: float) -> float:
    """What pulls up at one end of a wall, N; nothing where its load holds it (SDPWS-2015 4.3-7 with
    0.6 D of ASCE 7-16 2.4.1).

    Args:
        force: at its top, already in allowable stress terms, N.
        height: mm.
        length: between the posts at its ends, mm.
        dead: on the wall and of it, N/mm.
    """
    return max(0.0, force * height / length - 0.6 * dead * length / 2)


def deflection(
    unit_shear: float,
    height: float,
    length: float,
    post: tuple[float, float],
    ga: float,
    elongation: float,
) -> float:
    """How far the top of a wall goes sideways, mm (SDPWS-2015 4.3-1, three terms).

    Args:
        unit_shear: v, N/mm.
        height: mm.
        length: mm.
        post: E, N/mm², and area, mm², of what stands at its ends.
        ga: apparent stiffness of table 4.3A, N/mm (1 kip/in is 175 N/mm).
        elongation: of the hold-down under the load, mm.
    """
    e, area = post
    plf, feet = unit_shear / (LB / FOOT), FOOT
    bending = 8 * plf * (height / feet) ** 3 / (e / PSI * area / INCH**2 * length / feet)
    shear = plf * height / feet / (1000 * ga / KIP_PER_INCH)
    return (bending + shear) * INCH + elongation * height / length


_STUDS: Final = ((3.5, 1.5), (5.5, 1.35), (7.25, 1.25), (9.25, 1.2), (11.25, 1.15))
"""Depth, in, and the factor of SDPWS-2015 table 3.1.1.1."""


def stud_factor(depth: float) -> float:
    """On F_b of studs 16 in apart at most, sheathed with panels and boards on both faces, that wind
    bends flatwise to the wall: in place of C_r (SDPWS-2015 3.1.1.1); 1.15 for any other depth."""
    return next((f for d, f in _STUDS if abs(d * INCH - depth) < 1.0), 1.15)
