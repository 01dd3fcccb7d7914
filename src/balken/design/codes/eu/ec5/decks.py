"""Floors and roofs of panels as diaphragms by EN 1995-1-1 9.2.3.2: fasteners along the edges, where all
edges are joined, and the span is two to six times the width."""

from typing import Final

from balken.design.codes.eu.ec5.panels import edge_nails
from balken.design.codes.eu.ec5.values import Timber
from balken.design.codes.timber import Decked, Decking
from balken.design.lines import Line

NAILS: Final = ((15.0, 2.8, 63.0), (99.0, 3.1, 75.0))
"""Up to which thickness of panels, and the nails, mm (common practice, no source)."""
APART: Final = 150.0
"""Between nails along the edges (EN 1995-1-1 9.2.3.2(4))."""
LONGEST: Final = 6.0
"""Span over width (EN 1995-1-1 9.2.3.2(1))."""


def decked(asked: Decking, timber: Timber, kmod: float, wind: float) -> Decked:
    """What a diaphragm holds, N/mm, over the factor on the wind."""
    if asked.quake:
        return Decked(why="earthquake is not checked by European codes here")
    if not asked.blocked:
        return Decked(
            why="the edges of its panels are not joined on battens (EN 1995-1-1 9.2.3.2(4))"
        )
    if asked.length / asked.depth > LONGEST + 1e-9:
        return Decked(why="it spans more than six times its width (EN 1995-1-1 9.2.3.2(1))")
    _, diameter, length = next(n for n in NAILS if asked.thick <= n[0])
    one, design = edge_nails(asked.thick, diameter, length, timber, kmod)
    held = design / APART
    words = f"{diameter:g} × {length:g} nail, board {asked.thick:g}"
    lines = (
        Line("Ff,Rk", one, "force", "EN 1995-1-1 8.2.2", words),
        Line("kmod", kmod, "factor", "EN 1995-1-1 table 3.1"),
        Line("Ff,Rd", design, "force", "EN 1995-1-1 9.2.3.1(2)", "1.2 along edges"),
        Line("s", APART, "run", "EN 1995-1-1 9.2.3.2(4)"),
        Line("v Rd", held, "line load"),
    )
    return Decked(held / wind, lines, "EN 1995-1-1 9.2.3.2", counts=wind)
