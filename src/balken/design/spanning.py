"""Members side by side on two supports, with a tail past one and a thrust along them, as every code
is asked about them: each field an array over members, so that one slip, a whole building and a batch
of candidates are the same work."""

import msgspec
import numpy as np

from balken.analysis.simple import Floats
from balken.design.worth import Worth
from balken.loads.cases import Combination
from balken.model.sections import Section

CHECKS = (
    "Bending",
    "Shear",
    "Live deflection",
    "Total deflection",
    "Bearing",
    "Tail",
    "Tail deflection",
    "Thrust and bending",
    "Under a person",
)


class Batch(msgspec.Struct, frozen=True):
    """Members side by side. Arrays over members unless said; loads are (cases, members), N/mm and
    N."""

    sections: tuple[Section, ...]
    values: tuple[Worth, ...]
    repetitive: Floats
    span: Floats
    """In plan, mm."""
    line: Floats
    """Uniform load per mm of plan."""
    reaction: Floats
    """The greater end reaction."""
    bearing: Floats
    """The shorter bearing, mm."""
    live_limit: Floats
    total_limit: Floats
    slope: Floats
    combinations: tuple[Combination, ...]
    tails: "Tails | None" = None
    walked: "Walked | None" = None
    spacing: Floats | None = None
    """Between members, mm, where floors ask."""


class Walked(msgspec.Struct, frozen=True):
    """What floors that people walk on have besides: arrays over members."""

    limit: Floats
    """Sag of one joist under 1 kN at most, mm; nothing where the code's holds."""
    width: Floats
    """Of the floor across its joists, mm."""
    deck: Floats
    """EI of the deck along the floor's width, N mm² a mm."""


class Tails(msgspec.Struct, frozen=True):
    """What rafters have besides a span: a tail past the plate, cut into by the birdsmouth, and a
    thrust along them."""

    reach: Floats
    """Past the plate, in plan, mm; nothing where there is none."""
    neck: Floats
    """Depth the birdsmouth leaves over the plate, mm."""
    push: Floats
    """Thrust over the end reaction at the head; nothing where a beam holds the head up."""
    length: Floats
    """Along the slope between supports, mm."""


class Results(msgspec.Struct, frozen=True):
    """Utilisations (checks, members) and which combination governs each (index into the batch's
    combinations)."""

    ratios: Floats
    governs: np.ndarray[tuple[int, ...], np.dtype[np.int64]]

    @property
    def worst(self) -> Floats:
        """The greatest utilisation of each member."""
        found: Floats = self.ratios.max(axis=0)
        return found
