"""The joints of a truss as a table: what each piece pulls or pushes there, and an estimate of the
plates."""

import msgspec
import numpy as np

from balken.design.truss_checks import TrussCheck
from balken.design.truss_forces import bends
from balken.framing import kinds


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
    bent = {
        n
        for chord in (kinds.TOP_CHORD, kinds.BOTTOM_CHORD)
        for n in bends(check.truss, check.truss.chord(chord))
    }
    axial = check.forces.axial[:, 0]
    found = []
    for n, at in enumerate(check.truss.joints):
        mine = [
            (i, 0 if p.start == n else 1)
            for i, p in enumerate(check.truss.pieces)
            if n in (p.start, p.end)
        ]
        pieces = tuple(
            (names[i], float(axial[:, i, e].max()), float(axial[:, i, e].min())) for i, e in mine
        )
        given = [np.abs(axial[:, i, e]) for i, e in mine if check.truss.pieces[i].kind is kinds.WEB]
        for chord in (kinds.TOP_CHORD, kinds.BOTTOM_CHORD):
            ends = [axial[:, i, e] for i, e in mine if check.truss.pieces[i].kind is chord]
            runs_through = len(ends) == 2 and n not in bent
            given += [np.abs(ends[0] - ends[1])] if runs_through else [np.abs(x) for x in ends]
        force = max((float(g.max()) for g in given), default=0.0)
        found.append(Joint(n + 1, at, pieces, force / strength))
    return tuple(found)
