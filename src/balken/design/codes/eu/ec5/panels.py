"""Walls of panels against wind by EN 1995-1-1 9.2.4.2, method A: nails along the edges of oriented strand
board or plywood on timber."""

import math
from typing import Final

from balken.design.codes.eu.ec5.dowels import yield_moment
from balken.design.codes.eu.ec5.joints import GAMMA, NAIL_STRENGTH, embedding_of_nails, single_shear
from balken.design.codes.eu.ec5.values import Timber
from balken.design.codes.timber import Racked, Racking
from balken.design.lines import Line

ALONG_EDGES: Final = 1.2
"""On the resistance of nails along edges (9.2.4.2(5))."""
NARROWEST: Final = 4.0
"""A stretch narrower than a quarter of its height counts nothing (9.2.4.2(2))."""


def embedding_of_board(diameter: float, thickness: float) -> float:
    """f_h,k of oriented strand board or particle board round a nail, N/mm² (EN 1995-1-1 8.22)."""
    return 65 * math.pow(diameter, -0.7) * math.pow(thickness, 0.1)


def width_factor(height: float, width: float) -> float:
    """c_i: 1 from half the height on, less in proportion (EN 1995-1-1 9.21)."""
    return min(1.0, width / (height / 2))


def edge_nails(
    thick: float, diameter: float, length: float, timber: Timber, kmod: float
) -> tuple[float, float]:
    """What one nail along the edge of a board holds, N: F_f,Rk, and F_f,Rd with 1.2 (EN 1995-1-1 8.2.2,
    9.2.4.2(5), 9.2.3.1(2)).

    Args:
        thick: of the board, mm.
        diameter: of the nail, mm.
        length: of the nail, mm.
        timber: that it ends in.
        kmod: of the shortest load.
    """
    bearing = embedding_of_board(diameter, thick), embedding_of_nails(timber, diameter)
    bends = yield_moment(diameter, NAIL_STRENGTH)
    one = single_shear(bearing, (thick, length - thick), diameter, bends)
    return one, one * ALONG_EDGES * kmod / GAMMA


def racked(asked: Racking, timber: Timber, kmod: float, wind: float = 1.5) -> Racked:
    """What a stretch of wall holds along it, N, over the factor on the wind (γ_Q of EN 1990 table
    A1.2(B))."""
    if asked.quake:
        return Racked(why="earthquake is not checked by European codes here")
    if asked.height / asked.length > NARROWEST + 1e-9:
        return Racked(why="it is narrower than a quarter of its height")
    thick, diameter, length = asked.thick, asked.nail_diameter, asked.nail_length
    into = length - thick
    if into < 8 * diameter - 1e-6:
        return Racked(why=f"its nails reach {into:.0f} mm into the studs, less than 8 d")
    one, design = edge_nails(thick, diameter, length, timber, kmod)
    factor = width_factor(asked.height, asked.length)
    held = design * asked.length * factor / asked.edges * asked.faces
    lines = (
        Line(
            "Ff,Rk",
            one,
            "force",
            "EN 1995-1-1 8.2.2",
            f"{diameter:g} × {length:g} nail, board {thick:g}",
        ),
        Line("along edges", ALONG_EDGES, "factor", "EN 1995-1-1 9.2.4.2(5)"),
        Line("kmod", kmod, "factor", "EN 1995-1-1 table 3.1"),
        Line("Ff,Rd", design, "force"),
        Line("ci", factor, "factor", "EN 1995-1-1 9.21"),
        Line("s", asked.edges, "run"),
        Line("faces", asked.faces, "factor", "EN 1995-1-1 9.2.4.2(7)"),
        Line("Fv,Rd", held, "force", "EN 1995-1-1 9.20"),
    )
    return Racked(held / wind, lines, "EN 1995-1-1 9.2.4.2", counts=wind)
