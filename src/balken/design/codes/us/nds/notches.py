"""What holes and notches leave of the shear a piece resists (NDS-2018 3.4.3.2)."""

from typing import Final

from balken.design.strength import Cut, Strength

END: Final = 1.0
"""A notch belongs to the end of a span where it lies nearer to a support than this many depths."""


def net_shear(piece: Strength, cut: Cut) -> float:
    """What a hole or notch leaves of the shear a piece resists, as a share (NDS-2018 3.4.3.2).

    A notch at an end, in the edge that is in tension: (dₙ / d)·(dₙ / d)². A hole, or a notch away
    from the ends: net depth over depth.
    """
    left = max(0.0, cut.depth - cut.size) / cut.depth
    return left**3 if cut.notch and cut.to_support <= END * cut.depth else left


def shear_over_pressed_notch(breadth: float, depth: float, left: float, past: float) -> float:
    """What a notch in the edge in compression at an end leaves of the area that shear works on,
    mm²: b (d − (d − dₙ) e / dₙ) (NDS-2018 3.4.3.2(e)).

    Args:
        breadth: mm.
        depth: of the whole, mm.
        left: dₙ under the notch, mm.
        past: e, how far the notch runs past the inner edge of the support, mm; no more than dₙ
            counts, and beyond that the piece is as shallow as dₙ.
    """
    if past > left:
        return breadth * left
    return breadth * (depth - (depth - left) / left * past)
