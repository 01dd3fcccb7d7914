"""The joints of a truss as a table: what each piece pulls or pushes there, and an estimate of the
plates."""

import msgspec
import numpy as np

from balken.analysis.beams import Floats
from balken.design.truss_checks import TrussCheck
from balken.design.truss_forces import bends
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.trusses.shapes import Truss


class Joint(msgspec.Struct, frozen=True, gc=False):
    """One joint: its number from 1, where it lies, and the pieces with their greatest pull and push
    there, N."""

    number: int
    at: tuple[float, float]
    pieces: tuple[tuple[str, float, float], ...]
    plate: float
    """Area of the plate on each face, an estimate: the greatest force that a piece gives to the
    plates, over a typed strength per area of both plates, mm²."""


def names_of(check: TrussCheck) -> list[str]:
    """The short names of the pieces between joints: T1, B2, W3, each counted from the
    left."""
    counts: dict[str, int] = {}
    found = []
    for p in check.truss.pieces:
        letter = p.kind.letter
        counts[letter] = counts.get(letter, 0) + 1
        found.append(f"{letter}{counts[letter]}")
    return found


def joints_of(check: TrussCheck, strength: float) -> tuple[Joint, ...]:
    """The joints of a truss.

    A chord that runs through gives the plates only the difference of its forces on both sides.

    Args:
        check: what came out for the truss.
        strength: of a pair of plates per area of one, N/mm².
    """
    names = names_of(check)
    chords = [check.truss.chord(kind) for kind in (kinds.TOP_CHORD, kinds.BOTTOM_CHORD)]
    bent = {n for chord in chords for n in bends(check.truss, chord)}
    axial = check.forces.axial[:, 0]
    found = []
    for n, at in enumerate(check.truss.joints):
        mine = _ends_at(check.truss, n)
        pieces = tuple(
            (names[i], float(axial[:, i, e].max()), float(axial[:, i, e].min())) for i, e in mine
        )
        given = _given_to_plates(check, mine, runs_through=n not in bent)
        force = max((float(g.max()) for g in given), default=0.0)
        found.append(Joint(n + 1, at, pieces, force / strength))
    return tuple(found)


def _ends_at(truss: Truss, joint: int) -> list[tuple[int, int]]:
    """The pieces that end at a joint, each with which of its ends."""
    return [
        (i, 0 if p.start == joint else 1)
        for i, p in enumerate(truss.pieces)
        if joint in (p.start, p.end)
    ]


def _given_to_plates(
    check: TrussCheck, mine: list[tuple[int, int]], *, runs_through: bool
) -> list[Floats]:
    """The forces that pieces give the plates of a joint, by case."""
    axial = check.forces.axial[:, 0]
    by_kind: dict[MemberKind, list[Floats]] = {}
    for i, e in mine:
        by_kind.setdefault(check.truss.pieces[i].kind, []).append(axial[:, i, e])
    given: list[Floats] = []
    for kind, ends in by_kind.items():
        if kind is not kinds.WEB and len(ends) == 2 and runs_through:
            given.append(np.abs(ends[0] - ends[1]))
        else:
            given += [np.abs(x) for x in ends]
    return given
