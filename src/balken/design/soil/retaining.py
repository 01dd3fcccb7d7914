"""Walls that hold soil back with nothing at their top: turning over, sliding, pressure under the
footing (statics of a rigid body; IBC 2021 1807.2). Per mm of wall; mm, N."""

from typing import Final

import msgspec

from balken.design.soil.pressure import Bearing, under_pad

SAFE: Final = 1.5
"""Against turning over and against sliding at least (IBC 2021 1807.2.3)."""


class Retaining(msgspec.Struct, frozen=True, gc=False):
    """A stem on a footing, soil behind it up to the stem's top. Lengths mm, weights N/mm³."""

    fill: float
    """Height of the soil above the footing."""
    stem: float
    footing: tuple[float, float]
    """Width and thickness."""
    toe: float
    """Of the footing in front of the stem."""
    fluid: float
    """Weight of the fluid that presses as the soil does."""
    soil: float
    concrete: float
    surcharge: float = 0.0
    """On the soil behind, N/mm²; it presses sideways by fluid over soil."""
    water: float = 0.0
    """Height of water above the bottom of the footing, mm."""


class Stability(msgspec.Struct, frozen=True, gc=False):
    """What comes of it."""

    weight: float
    """Less what water lifts."""
    push: float
    turning: float
    """About the toe, N mm."""
    holding: float

    @property
    def against_turning(self) -> float:
        """Safety."""
        return self.holding / self.turning

    def against_sliding(self, friction: float) -> float:
        """Safety; what is passive in front is left out."""
        return friction * self.weight / self.push


WATER: Final = 9.81e-6
"""N/mm³."""


def stability(w: Retaining) -> Stability:
    """Weights and pushes of the wall about its toe; soil on the toe and in front of it is left
    out."""
    wide, thick = w.footing
    heel = wide - w.toe - w.stem
    behind = wide - heel / 2
    weights = (
        (w.stem * w.fill * w.concrete, w.toe + w.stem / 2),
        (wide * thick * w.concrete, wide / 2),
        (heel * w.fill * w.soil, behind),
    )
    high = w.fill + thick
    sideways = (
        (w.fluid * high**2 / 2, high / 3),
        (w.surcharge * w.fluid / w.soil * high, high / 2),
        (WATER * w.water**2 / 2, w.water / 3),
    )
    # Water under the footing lifts it: all of its head at the heel, none at the toe.
    lift = WATER * w.water * wide / 2
    return Stability(
        sum(f for f, _ in weights) - lift,
        sum(f for f, _ in sideways),
        sum(f * arm for f, arm in sideways) + lift * 2 / 3 * wide,
        sum(f * arm for f, arm in weights),
    )


def pressure(w: Retaining) -> Bearing:
    """Under the footing.

    Raises:
        BalkenError: the wall turns over.
    """
    found = stability(w)
    wide = w.footing[0]
    at = (found.holding - found.turning) / found.weight
    return under_pad(found.weight, (found.weight * (wide / 2 - at), 0.0), (wide, 1.0))
