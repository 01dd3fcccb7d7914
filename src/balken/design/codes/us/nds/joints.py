"""Nails, screws and bolts that join wood to wood in single shear, with all factors (NDS-2018 11.3,
12.1, 12.3)."""

import math
from bisect import bisect_left
from typing import Final

from balken.design.codes.timber import Joined, Lap
from balken.design.codes.us.nds.dowels import (
    BOLT_YIELD,
    GRAVITY,
    THICK,
    Side,
    bearing_across,
    bearing_along,
    bearing_of_nails,
    single_shear,
)
from balken.design.lines import Line
from balken.model.fasteners import DowelKind, Dowels
from balken.units import INCH, LB, PSI

YIELDS: Final[dict[DowelKind, tuple[tuple[float, float], ...]]] = {
    "nails": ((0.142, 100), (0.177, 90), (0.236, 80), (0.273, 70), (math.inf, 60)),
    "screws": ((0.142, 100), (0.177, 90), (0.236, 80), (0.273, 70), (0.344, 60), (math.inf, 45)),
}
"""F_yb in ksi up to a diameter in inches (NDS-2018 table I1)."""
LEAST_IN_MAIN: Final = 6.0
"""Least penetration of nails and wood screws, in diameters (NDS-2018 12.1.5.5, 12.1.6.4)."""
WHOLE: Final = 10.0
"""From so many diameters on the tip counts (NDS-2018 12.3.5.3)."""
TIP: Final = 2.0
"""Length of a tip in diameters; half of it does not bear."""


def yields(dowels: Dowels) -> float:
    """F_yb, N/mm² (NDS-2018 table I1)."""
    if dowels.kind == "bolts":
        return BOLT_YIELD
    inches = dowels.diameter / INCH
    steps = YIELDS[dowels.kind]
    return steps[bisect_left([most for most, _ in steps], inches - 1e-9)][1] * 1000 * PSI


def bearing(gravity: float, diameter: float, angle: float) -> float:
    """F_e at an angle to the grain, degrees, N/mm² (NDS-2018 12.3.3, 12.3-11)."""
    if diameter < THICK - 1e-9:
        return bearing_of_nails(gravity)
    along, across = bearing_along(gravity), bearing_across(gravity, diameter)
    turned = math.radians(angle)
    return along * across / (along * math.sin(turned) ** 2 + across * math.cos(turned) ** 2)


def group_action(count: int, apart: float, diameter: float, ea: tuple[float, float]) -> float:
    """C_g of bolts in one row (NDS-2018 11.3-1), wood to wood; 1 of one, and under a quarter of an
    inch.

    Args:
        count: in the row.
        apart: along it, mm.
        diameter: mm.
        ea: E A of the main and the side member, N.
    """
    if count < 2 or diameter < THICK - 1e-9:
        return 1.0
    slip = 180_000 * math.pow(diameter / INCH, 1.5) * LB / INCH
    u = 1 + slip * apart / 2 * (1 / ea[0] + 1 / ea[1])
    m = u - math.sqrt(u**2 - 1)
    r = min(ea) / max(ea)
    row = (
        m * (1 - m ** (2 * count)) / (count * ((1 + r * m**count) * (1 + m) - 1 + m ** (2 * count)))
    )
    return row * (1 + r) / (1 - m)


def joined(dowels: Dowels, lap: Lap) -> Joined:
    """Z′ of a joint, N: Z C_D C_g for each, wood dry, with edge distances, end distances and spacings
    in full (C_Δ = 1, NDS 12.5)."""
    gravity = GRAVITY.get(lap.species)
    if gravity is None:
        return Joined(why=f"there is no specific gravity for {lap.species} (NDS table 12.3.3A)")
    d = dowels.diameter
    into = min(dowels.length - lap.side - lap.deck, lap.main)
    least = lap.main if dowels.kind == "bolts" else LEAST_IN_MAIN * d
    if into < least - 1e-6:
        return Joined(
            why=f"they reach {max(into, 0.0):.0f} mm into the second piece, less than {least:.0f} mm"
        )
    sharp = (
        dowels.kind != "bolts"
        and dowels.length - lap.side - lap.deck <= lap.main
        and into < WHOLE * d
    )
    bears = into - TIP * d / 2 if sharp else into
    fe = bearing(gravity, d, lap.angle)
    one = single_shear(d, yields(dowels), Side(fe, bears), Side(fe, lap.side), lap.angle)
    group = group_action(dowels.count, 4 * d, d, (lap.ea, lap.ea))
    lines = (
        Line("D", d, "run"),
        Line("Fyb", yields(dowels), "stress", "NDS table I1"),
        Line("G", gravity, "factor", "NDS table 12.3.3A", lap.species),
        Line("Fe", fe, "stress", "NDS 12.3.3"),
        Line("ℓs", lap.side, "run"),
        Line("ℓm", bears, "run", "NDS 12.3.5", "less half the tip" if sharp else ""),
        Line("Z", one, "force", "NDS 12.3.1", "edges, ends and spacings by NDS 12.5"),
        Line("CD", lap.duration, "factor", "NDS 2.3.2"),
        *((Line("Cg", group, "factor", "NDS 11.3.6"),) if group < 1 else ()),
        Line("n", dowels.count, "factor"),
    )
    return Joined(one * lap.duration * group * dowels.count, lines, "NDS 12.3.1")
