"""Bending by EN 1995-1-1: 6.1.6, and 6.3.3 where the edge in compression may buckle sideways.
Lengths mm, N, N/mm²."""

import math
from typing import Final, Literal

Loading = Literal["uniform", "middle", "moment", "cantilever uniform", "cantilever end"]
_OF_SPAN: Final[dict[Loading, float]] = {
    "uniform": 0.9,
    "middle": 0.8,
    "moment": 1.0,
    "cantilever uniform": 0.5,
    "cantilever end": 0.8,
}
"""EN 1995-1-1 table 6.1."""
Edge = Literal["compression", "middle", "tension"]
_OF_DEPTH: Final[dict[Edge, float]] = {"compression": 2.0, "middle": 0.0, "tension": -0.5}


def effective_length(span: float, depth: float, loading: Loading, edge: Edge) -> float:
    """Effective length between places held sideways and against twisting, mm (EN 1995-1-1 table
    6.1 with its note).

    Args:
        span: between them, mm.
        depth: mm.
        loading: how it is bent.
        edge: where the load sits: on the edge in compression it adds two depths, on that in
            tension it takes off half a one; a moment has none.
    """
    added = 0.0 if loading == "moment" else _OF_DEPTH[edge] * depth
    return max(0.0, _OF_SPAN[loading] * span + added)


def kcrit(breadth: float, depth: float, length: float, fm: float, e_05: float) -> float:
    """What buckling sideways leaves of the bending strength of a rectangle of softwood (EN 1995-1-1
    6.32 to 6.34).

    Args:
        breadth: mm.
        depth: mm.
        length: effective, mm; nothing where the edge in compression is held all along.
        fm: characteristic, N/mm².
        e_05: N/mm².
    """
    if length <= 0:
        return 1.0
    critical = 0.78 * breadth**2 / (depth * length) * e_05
    slender = math.sqrt(fm / critical)
    if slender <= 0.75:
        return 1.0
    return 1.56 - 0.75 * slender if slender <= 1.4 else 1 / slender**2
