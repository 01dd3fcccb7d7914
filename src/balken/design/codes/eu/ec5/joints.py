"""Nails, screws and bolts that join timber to timber in single shear (EN 1995-1-1 8.2.2, 8.3.1, 8.5.1,
8.7.1), characteristic values without the rope effect, which is left out as safe."""

import math
from typing import Final

from balken.design.codes.eu.ec5.dowels import embedding, yield_moment
from balken.design.codes.eu.ec5.values import Timber
from balken.design.codes.timber import Joined, Lap
from balken.design.lines import Line
from balken.model.fasteners import Dowels

GAMMA: Final = 1.30
"""γ_M of connections (EN 1995-1-1 table 2.3)."""
NAIL_STRENGTH: Final = 600.0
"""f_u of nails, N/mm² (EN 1995-1-1 8.3.1.1(4))."""
LEAST_IN_MAIN: Final = 8.0
"""Pointside penetration of smooth nails, in diameters (EN 1995-1-1 8.3.1.2(1))."""
THREAD: Final = 1.1
"""Effective diameter of a screw over that at its root (EN 1995-1-1 8.7.1(3))."""
AS_NAILS: Final = 6.0
"""Screws up to this diameter count as nails, mm (EN 1995-1-1 8.7.1(5))."""


def embedding_of_nails(timber: Timber, diameter: float) -> float:
    """f_h,k round a nail up to 8 mm without a hole bored for it, N/mm² (EN 1995-1-1 8.15)."""
    return 0.082 * timber.density * math.pow(diameter, -0.3)


def thinnest(timber: Timber, diameter: float) -> float:
    """How thick timber is at least that is nailed without boring, mm (EN 1995-1-1 8.18)."""
    return max(7 * diameter, (13 * diameter - 30) * timber.density / 400)


def single_shear(
    bearing: tuple[float, float], wood: tuple[float, float], diameter: float, bends: float
) -> float:
    """F_v,Rk of one fastener, N (EN 1995-1-1 8.6 a to f).

    Args:
        bearing: f_h,k of the first and the second timber, N/mm².
        wood: thickness of the first, and how far it goes into the second, mm.
        diameter: mm.
        bends: M_y,Rk, N mm.
    """
    (h1, h2), (t1, t2), d = bearing, wood, diameter
    b, r = h2 / h1, t2 / t1
    both = math.sqrt(b + 2 * b**2 * (1 + r + r**2) + b**3 * r**2) - b * (1 + r)

    first = math.sqrt(2 * b * (1 + b) + 4 * b * (2 + b) * bends / (h1 * d * t1**2)) - b
    second = math.sqrt(2 * b**2 * (1 + b) + 4 * b * (1 + 2 * b) * bends / (h1 * d * t2**2)) - b
    return min(
        h1 * t1 * d,
        h2 * t2 * d,
        h1 * t1 * d / (1 + b) * both,
        1.05 * h1 * t1 * d / (2 + b) * first,
        1.05 * h1 * t2 * d / (1 + 2 * b) * second,
        1.15 * math.sqrt(2 * b / (1 + b)) * math.sqrt(2 * bends * h1 * d),
    )


def in_row(count: int) -> float:
    """n_ef of bolts in a row along the grain, 5 d apart (EN 1995-1-1 8.34)."""
    return min(float(count), math.pow(count, 0.9) * math.pow(5 / 13, 0.25))


def joined(dowels: Dowels, lap: Lap, timber: Timber) -> Joined:
    """F_v,Rd of a joint, N, with edge distances, end distances and spacings in full (tables 8.2 and
    8.4); nails staggered across the grain (8.3.1.1(8))."""
    d = dowels.diameter * (THREAD if dowels.kind == "screws" else 1.0)
    nailed = dowels.kind == "nails" or (dowels.kind == "screws" and d <= AS_NAILS)
    into = min(dowels.length - lap.side - lap.deck, lap.main)
    why = _why_not(dowels, lap, timber, d, nailed)
    if why:
        return Joined(why=why)
    h = embedding_of_nails(timber, d) if nailed else embedding(timber, d, lap.angle)
    bends = yield_moment(d, NAIL_STRENGTH) if dowels.kind == "nails" else yield_moment(d)
    one = single_shear((h, h), (lap.side, into), d, bends)
    count = float(dowels.count) if nailed else in_row(dowels.count)
    held = one * lap.duration / GAMMA * count
    lines = (
        Line("d", d, "run", "", "1.1 times the root" if dowels.kind == "screws" else ""),
        Line("ρk", timber.density, "factor", timber.table, f"{timber.name}, kg/m³"),
        Line("fh,k", h, "stress", "EN 1995-1-1 8.3.1.1" if nailed else "EN 1995-1-1 8.5.1.1"),
        Line("My,Rk", bends, "moment", "EN 1995-1-1 8.3.1.1(4), 8.5.1.1(1)"),
        Line("t1", lap.side, "run"),
        Line("t2", into, "run"),
        Line("Fv,Rk", one, "force", "EN 1995-1-1 8.2.2", "rope effect left out"),
        Line("kmod", lap.duration, "factor", "EN 1995-1-1 table 3.1"),
        Line("γM", GAMMA, "factor", "EN 1995-1-1 table 2.3"),
        Line("nef", count, "factor", "" if nailed else "EN 1995-1-1 8.34"),
    )
    return Joined(held, lines, "EN 1995-1-1 8.2.2")


def _why_not(dowels: Dowels, lap: Lap, timber: Timber, d: float, nailed: bool) -> str:
    """Which condition of the clauses a joint does not keep; empty where all are kept."""
    into = min(dowels.length - lap.side - lap.deck, lap.main)
    least = lap.main if dowels.kind == "bolts" else LEAST_IN_MAIN * d
    if not timber.density:
        return f"{timber.name} has no density"
    if into < least - 1e-6:
        return f"they reach {max(into, 0.0):.0f} mm into the second piece, less than {least:.0f} mm"
    thin = thinnest(timber, d)
    if nailed and min(lap.side, lap.main) < thin - 1e-6:
        return f"without boring the pieces are {thin:.0f} mm thick at least"
    if nailed and d > 8:
        return "nails over 8 mm are bored for: type what they hold"
    return ""
