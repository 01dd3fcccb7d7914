"""Wood columns by NDS-2018: 3.7 solid, 15.3 built up of plies, 3.9 with bending. Lengths mm, N,
N/mm²."""

import math
from typing import Final

from balken.design.lines import Line

C_SAWN: Final = 0.8
C_GLUED: Final = 0.9
"""c of sawn lumber, and of glued laminated timber and composite lumber (NDS 3.7.1.5)."""
K_NAILED: Final = 0.6
K_BOLTED: Final = 0.75
"""K_f about the axis across which plies may slip, nailed by 15.3.3 and bolted by 15.3.4 (NDS
15.3.2)."""
SLENDEREST: Final = 50.0
"""Slenderness of a column at most (NDS 3.7.1.4)."""


def stability(
    fc_star: float, e_min: float, slenderness: float, c: float = C_SAWN, kf: float = 1.0
) -> float:
    """C_P (NDS 3.7-1, 15.3-1).

    Args:
        fc_star: Fc with all factors but C_P.
        e_min: E′min.
        slenderness: effective length over depth; 0 where it is held all along.
        c: for the material.
        kf: for built-up columns about their weak axis.
    """
    if slenderness <= 0:
        return 1.0
    euler = 0.822 * e_min / slenderness**2
    middle = (1 + euler / fc_star) / (2 * c)
    return kf * (middle - math.sqrt(middle**2 - euler / fc_star / c))


def allowable(
    breadth: float,
    depth: float,
    fc_star: float,
    e_min: float | tuple[float, float],
    lengths: tuple[float, float],
    c: float = C_SAWN,
    plies: int = 1,
    kf: float = K_NAILED,
) -> tuple[float, tuple[Line, ...]]:
    """The allowable axial load and how it was found.

    Args:
        breadth: of all plies together.
        depth: of a ply, or of the piece.
        fc_star: Fc with all factors but C_P.
        e_min: E′min; of glulam for buckling in the direction of the depth and of the breadth.
        lengths: effective, for buckling in the direction of the depth and of the breadth; 0 where
            held all along.
        c: for the material.
        plies: of a built-up column; those slip when it buckles in the direction of its breadth. NDS
            15.3 is written for two to five sawn plies; of LVL it is taken by analogy.
        kf: how plies are joined: nailed, or bolted.
    """
    stiff, limp = e_min if isinstance(e_min, tuple) else (e_min, e_min)
    ratios = (lengths[0] / depth, lengths[1] / breadth)
    slip = kf if plies > 1 else 1.0
    cps = (stability(fc_star, stiff, ratios[0], c), stability(fc_star, limp, ratios[1], c, slip))
    weak = cps[1] <= cps[0]
    cp = min(cps)
    area = breadth * depth
    lines = (
        Line("ℓe / d", max(ratios) if not weak else ratios[1], "factor", "NDS 3.7.1.3"),
        Line("Fc*", fc_star, "stress", "NDS 3.7.1"),
        Line("E′min", limp if weak else stiff, "stress"),
        Line("c", c, "factor", "NDS 3.7.1.5"),
        *((Line("Kf", slip, "factor", "NDS 15.3.2", _JOINED[kf]),) if plies > 1 and weak else ()),
        Line("CP", cp, "factor", "NDS 3.7-1"),
        Line("Fc′", fc_star * cp, "stress", "NDS 4.3.1"),
        Line("A", area, "steel", how="b d"),
    )
    return fc_star * cp * area, lines


_JOINED: Final = {K_NAILED: "plies nailed by 15.3.3", K_BOLTED: "plies bolted by 15.3.4"}


def slenderness(breadth: float, depth: float, length: float) -> float:
    """ℓe / d of a column held at both ends, about its weaker axis (NDS 3.7.1.3)."""
    return length / min(breadth, depth)


def with_bending(
    fc: float, fc_allowed: float, fb: float, fb_allowed: float, e_min: float, slenderness: float
) -> float:
    """The interaction of compression and bending about one axis (NDS 3.9-3).

    Args:
        fc: compression stress.
        fc_allowed: F′c.
        fb: bending stress.
        fb_allowed: F′b.
        e_min: E′min.
        slenderness: effective length over depth in the plane of bending.
    """
    euler = 0.822 * e_min / slenderness**2
    if fc >= euler:
        return math.inf
    return (fc / fc_allowed) ** 2 + fb / (fb_allowed * (1 - fc / euler))
