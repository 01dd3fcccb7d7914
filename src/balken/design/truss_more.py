"""What lies on single trusses beside the even load of their roof: drawn loads and heaped snow, as loads
on their top chords."""

from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.framing import kinds
from balken.framing.trusses.shapes import Truss
from balken.model.cases import Cases

Floats = NDArray[np.float64]
More = tuple[tuple[float, Cases], ...]
"""How far along a truss, mm, and N per case."""
CASES: Final = ("dead", "live", "roof_live", "snow")
"""What may be drawn, in the order of the arrays."""


class OnChords(NamedTuple):
    """Loads on the pieces of trusses of one form. Axes: cases (E), trusses, pieces."""

    lying: Floats
    """At the start and the end of each piece, down, N per mm of span: (E, F, M, 2); each piece's as
    heavy as what stands on it, about the same middle."""
    bends: Floats
    """By how much what stands at single places bends a piece more than that, at most, N mm: (E, F,
    M)."""


def on_chords(trusses: Sequence[Truss], more: Sequence[More]) -> OnChords:
    """Loads as they lie on the top chords of trusses of one form."""
    pieces = trusses[0].pieces
    lying = np.zeros((len(CASES), len(trusses), len(pieces), 2))
    bends = np.zeros(lying.shape[:3])
    for f, (truss, mine) in enumerate(zip(trusses, more)):
        for m, there in _by_piece(truss, mine).items():
            start, end = (truss.joints[j][0] for j in (pieces[m].start, pieces[m].end))
            for c, case in enumerate(CASES):
                loads = [((x - start) / (end - start), getattr(q, case)) for x, q in there]
                loads = [(t, p) for t, p in loads if p]
                lying[c, f, m] = _as_heavy(loads, abs(end - start))
                bends[c, f, m] = _bends_more(loads, lying[c, f, m], abs(end - start))
    return OnChords(lying, bends)


def _by_piece(truss: Truss, more: More) -> dict[int, list[tuple[float, Cases]]]:
    """What stands on each piece of a top chord; what lies past its ends, on its last."""
    top = [m for m, p in enumerate(truss.pieces) if p.kind is kinds.TOP_CHORD]
    reach = {
        m: sorted(truss.joints[j][0] for j in (truss.pieces[m].start, truss.pieces[m].end))
        for m in top
    }
    top = [m for m in top if reach[m][1] - reach[m][0] > 1.0]
    found: dict[int, list[tuple[float, Cases]]] = {}
    for x, forces in more:
        m = min(top, key=lambda m: max(reach[m][0] - x, x - reach[m][1], 0.0))
        found.setdefault(m, []).append((min(max(x, reach[m][0]), reach[m][1]), forces))
    return found


def _as_heavy(loads: Sequence[tuple[float, float]], long: float) -> tuple[float, float]:
    """Intensities at start and end that weigh as much as forces at shares of a length and lie about
    the same middle (statics)."""
    near = sum(p * (4 - 6 * t) for t, p in loads) / long
    return near, sum(p * (6 * t - 2) for t, p in loads) / long


def _bends_more(loads: Sequence[tuple[float, float]], lying: Floats, long: float) -> float:
    """The greatest moment of forces on a piece that is hinged at its ends, over that of the even load
    which stands for them; nothing where it is less."""
    most = 0.0
    for x, _ in loads:
        standing = sum(p * long * min(x, t) * (1 - max(x, t)) for t, p in loads)
        # A load from q0 to q1: M = L² x (1 - x) ((2 q0 + q1) / 6 - (q0 - q1) x / 6).
        q0, q1 = lying
        even = long**2 * x * (1 - x) * ((2 * q0 + q1) - (q0 - q1) * x) / 6
        most = max(most, standing - even)
    return most
