"""Where a wall is divided into panels that can be lifted: over studs, off openings, no longer and no heavier
than may be. Lengths along the wall, mm, weights N."""

from bisect import bisect_right
from collections.abc import Sequence
from itertools import accumulate
from typing import Final, NamedTuple

from balken.framing.walls.face import SLIGHT, Face, Lack, Stick

SHORTEST: Final = 600.0
"""No panel is made shorter where it can be helped, mm (common practice, no source)."""


class Divided(NamedTuple):
    """Where a wall is divided, and what could not be done."""

    joints: tuple[float, ...]
    lacks: tuple[Lack, ...]


def divide(
    face: Face,
    sticks: Sequence[Stick],
    taken: Sequence[tuple[float, float]],
    places: Sequence[float],
) -> Divided:
    """The joints between the panels of a wall, the longest that can be lifted first.

    Args:
        face: the wall, with what can be lifted.
        sticks: its pieces as one panel.
        taken: the room of openings with what goes round them, where no joint may be.
        places: the middles of the studs of its layout.
    """
    lift = face.lift
    if lift is None:
        return Divided((), ())
    weigh = _Weights(face, sticks)
    t = face.thick
    clear = [x for x in places if all(x + t <= a + SLIGHT or x - t >= b - SLIGHT for a, b in taken)]
    joints: list[float] = []
    lacks: list[Lack] = []
    at = face.low
    while not lift.carries(face.high - at, weigh.between(at, face.high)):
        ahead = [x for x in clear if x > at + 2 * t + SLIGHT and x < face.high - 2 * t]
        fits = [x for x in ahead if lift.carries(x - at, weigh.between(at, x))]
        if not ahead:
            over = max(face.high - at - lift.longest, 0.0) if lift.longest else 0.0
            lacks.append(
                Lack("its last panel", "cannot be lifted in one, and no stud divides it", over)
            )
            break
        if fits:
            best = max(fits)
            if face.high - best < SHORTEST:  # a short rest goes with the panel before it
                best = max((x for x in fits if face.high - x >= SHORTEST), default=best)
        else:
            best = min(ahead)
            over = max(best - at - lift.longest, 0.0) if lift.longest else 0.0
            lacks.append(
                Lack(f"panel {len(joints) + 1}", "cannot be divided so that it can be lifted", over)
            )
        joints.append(best)
        at = best
    return Divided(tuple(joints), tuple(lacks))


class _Weights:
    """What a wall weighs up to each place along it."""

    def __init__(self, face: Face, sticks: Sequence[Stick]) -> None:
        assert face.lift is not None, "asked of walls that are lifted"
        deep = face.lift.wood * face.lift.depth
        short = 2 * face.thick
        standing = sorted((_middle(s), _face_of(s) * deep) for s in sticks if _long(s) <= short)
        self._places = [x for x, _ in standing]
        self._sums = [0.0, *accumulate(w for _, w in standing)]
        self._lying = [(s.low, s.high, _face_of(s) * deep) for s in sticks if _long(s) > short]
        self._stud = face.thick * face.tall * deep
        """A panel has a stud of its own at a joint."""
        self._skin = face.lift.skin * face.tall

    def between(self, low: float, high: float) -> float:
        """Of what stands there, of plates and headers in part, and of the sheets on it, N."""
        upright = (
            self._sums[bisect_right(self._places, high)]
            - self._sums[bisect_right(self._places, low)]
        )
        lying = sum(w * max(0.0, min(high, b) - max(low, a)) / (b - a) for a, b, w in self._lying)
        return upright + self._stud + lying + self._skin * (high - low)


def _middle(s: Stick) -> float:
    return (s.low + s.high) / 2


def _long(s: Stick) -> float:
    return s.high - s.low


def _face_of(s: Stick) -> float:
    return (s.high - s.low) * (s.top - s.bottom)
