"""Boards let into studs, or straps nailed on them, slantwise from plate to plate: where they find room
(IRC 2021 R602.10.4, method LIB). They are asked for and drawn; how much they hold no code here says, so
that they count nothing among what braces by calculation."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from balken.framing.hosts.walls import rule_of
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall
from balken.units import FOOT
from balken.works.bracing import between_openings

FLATTEST: Final = 45.0
STEEPEST: Final = 60.0
"""To the floor, degrees (IRC 2021 table R602.10.4)."""
APART: Final = 20 * FOOT
"""From one to the next (IRC 2021 R602.10.2.2)."""


class Brace(NamedTuple):
    """One of them: from, to along its wall, and its length, mm. It rises towards the wall's middle."""

    low: float
    high: float
    length: float
    rises: bool
    """With the wall's line."""


class LetIn(NamedTuple):
    """Those of a wall; or how much is lacking where none finds room, mm."""

    braces: tuple[Brace, ...]
    short: float = 0.0


def let_in_of(project: Project, item: Wall) -> LetIn:
    """The braces let into a wall: one in the first and the last stretch that have room, and others no
    more than 20 ft from one another; nothing where none are asked for."""
    rule = rule_of(project, item)
    if rule is None or not rule.let_in:
        return LetIn(())
    tall = wall_top(project, item) - wall_base(project, item)
    least, most = tall / math.tan(math.radians(STEEPEST)), tall / math.tan(math.radians(FLATTEST))
    stretches = list(between_openings(item))
    fits = [s for s in stretches if s[1] - s[0] >= least]
    if not fits:
        longest = max((b - a for a, b in stretches), default=0.0)
        return LetIn((), least - longest)
    return LetIn(tuple(_placed(fits, tall, most)))


def _placed(fits: Sequence[tuple[float, float]], tall: float, most: float) -> Iterator[Brace]:
    """One at the beginning of each stretch that lies far enough from the last, and in long ones more; one
    that falls the other way at the end of the wall."""
    past = -math.inf
    for low, high in fits:
        wide, at = min(most, high - low), low
        while at + wide <= high:
            if at - past >= APART / 2:
                yield Brace(at, at + wide, math.hypot(wide, tall), rises=True)
                past = at + wide
            at += APART
    low, high = fits[-1]
    wide = min(most, high - low)
    if high - wide > past:
        yield Brace(high - wide, high, math.hypot(wide, tall), rises=False)
