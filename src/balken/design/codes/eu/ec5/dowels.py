"""Bolts sideways by EN 1995-1-1 8.2 and 8.5, softwood. Lengths mm, N, N/mm²."""

import math
from typing import Final

from balken.design.codes.eu.ec5.values import Timber

BOLT_STRENGTH: Final = 400.0
"""f_u,k of bolts of class 4.6."""
ACROSS: Final = 90.0


def embedding(timber: Timber, diameter: float, angle: float) -> float:
    """f_h,k of timber round a bolt up to 30 mm (EN 1995-1-1 8.31 to 8.33).

    Args:
        timber: softwood, or glulam of it.
        diameter: mm.
        angle: between force and grain, degrees.
    """
    along = 0.082 * (1 - 0.01 * diameter) * timber.density
    k90 = 1.35 + 0.015 * diameter
    turned = math.radians(angle)
    return along / (k90 * math.sin(turned) ** 2 + math.cos(turned) ** 2)


def yield_moment(diameter: float, strength: float = BOLT_STRENGTH) -> float:
    """M_y,Rk of a bolt, N mm (EN 1995-1-1 8.30)."""
    return 0.3 * strength * math.pow(diameter, 2.6)


def on_thick_plate(bearing: float, wood: float, diameter: float, bends: float) -> float:
    """F_v,Rk of one bolt in single shear through wood, held fast on the other side as by a thick
    steel plate, N; the rope effect is left out (EN 1995-1-1 8.10 c to e).

    Args:
        bearing: f_h,k, N/mm².
        wood: its thickness, mm.
        diameter: mm.
        bends: M_y,Rk, N mm.
    """
    full = bearing * wood * diameter
    root = math.sqrt(2 + 4 * bends / (bearing * diameter * wood**2)) - 1
    return min(full, full * root, 2.3 * math.sqrt(bends * bearing * diameter))


def sill_bolt(timber: Timber, diameter: float, sill: float) -> float:
    """F_v,Rk of an anchor bolt through a sill into concrete, pushed across its grain, N: the concrete
    holds the bolt fast, as a thick plate does (common practice)."""
    bearing = embedding(timber, diameter, ACROSS)
    return on_thick_plate(bearing, sill, diameter, yield_moment(diameter))
