"""Deflection with creep by EN 1995-1-1 2.2.3 and 7.2. Lengths mm."""

from collections.abc import Sequence
from typing import Final, NamedTuple

INSTANT_LIMIT: Final = 300.0
"""w_inst on two supports, ℓ over (EN 1995-1-1 table 7.2: 300 to 500)."""
NET_LIMIT: Final = 250.0
"""w_net,fin, ℓ over (250 to 350)."""
FINAL_LIMIT: Final = 150.0
"""w_fin, ℓ over (150 to 300)."""


class Sag(NamedTuple):
    """What one variable load sags a member by at once, mm, and how much of it counts."""

    at_once: float
    psi_0: float
    """Beside another that leads."""
    psi_2: float
    """That stays, for creep."""


def instant(permanent: float, leading: float, beside: Sequence[Sag] = ()) -> float:
    """w_inst in the characteristic combination, mm (EN 1995-1-1 2.2.3(2))."""
    return permanent + leading + sum(s.psi_0 * s.at_once for s in beside)


def final(permanent: float, leading: Sag, beside: Sequence[Sag], kdef: float) -> float:
    """w_fin, mm: creep on what is permanent and on what stays of the rest (EN 1995-1-1 2.2 to 2.5).

    Args:
        permanent: sag by it at once, mm.
        leading: the variable load that leads.
        beside: the others.
        kdef: of the material in its service class.
    """
    crept = permanent * (1 + kdef) + leading.at_once * (1 + leading.psi_2 * kdef)
    return crept + sum(s.at_once * (s.psi_0 + s.psi_2 * kdef) for s in beside)
