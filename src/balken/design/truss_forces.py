"""Forces in trusses, and what pushes rafters apart."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.analysis.frames import Form, Frames, solve_frames
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.trusses.shapes import Piece, Truss
from balken.geometry.plane import EXACT

FREE, PIN, ROLL = (False, False, False), (True, True, False), (False, True, False)


class JointForces(NamedTuple):
    """What comes out of trusses pinned at every joint, N: tension positive, reactions up."""

    pieces: NDArray[np.float64]
    """(trusses, pieces)."""
    reactions: NDArray[np.float64]
    """(trusses, 2): left, right."""


def pinned_forces(trusses: Sequence[Truss], down: Sequence[Sequence[float]]) -> JointForces:
    """The forces of trusses of one kind, pinned at every joint, under forces on their
    joints.

    The classic idealisation, for a second opinion and for handbook cases; real chords run through.

    Args:
        trusses: of one kind, of any size.
        down: force on each joint of each truss, N.

    Raises:
        UnstableError: the truss would fold.
    """
    first = trusses[0]
    left, right = first.bearings
    held = tuple(
        PIN if i == left else ROLL if i == right else FREE for i in range(len(first.joints))
    )
    form = Form(
        tuple((p.start, p.end) for p in first.pieces), ((True, True),) * len(first.pieces), held
    )
    nodes = np.array([t.joints for t in trusses])
    shape = (len(trusses), len(first.pieces))
    on_nodes = np.zeros((1, *nodes.shape[:2], 3))
    on_nodes[0, :, :, 1] = -np.array(down)
    stiff = np.ones(shape)
    bent = solve_frames(
        Frames(form, nodes, 1e8 * stiff, 1e12 * stiff, on_nodes, np.zeros((1, *shape, 2, 2)))
    )
    return JointForces(bent.ends[0, :, :, 3], bent.reactions[0][:, [left, right], 1])


class ChordLoads(NamedTuple):
    """What lies on a truss in one case, down, N per mm of span: on the top chord left and right of
    the apex, on the bottom chord."""

    left: float = 0.0
    right: float = 0.0
    bottom: float = 0.0
    near_apex: tuple[float, float] = (0.0, 0.0)
    """Left and right of the apex, over the stretch beside it that each truss has."""


class TrussForces(NamedTuple):
    """What comes out of trusses whose chords run through. Axes: cases, trusses, pieces or
    joints."""

    axial: NDArray[np.float64]
    """(C, F, M, 2): at the start and the end of each piece, N, tension positive."""
    moment: NDArray[np.float64]
    """(C, F, M, 3): at the start, the greatest in between by its size, at the end, N mm, sagging
    positive."""
    sag: NDArray[np.float64]
    """(C, F, N): of the joints, mm down."""
    reactions: NDArray[np.float64]
    """(C, F, 2): left and right, N up."""


def through(truss: Truss) -> Form:
    """The form of a truss with chords that run through: webs pinned at both ends, chords at
    their ends and the apex.

    A top chord that reaches out past a bearing runs through over it too; the tail's end is free.
    """
    left, right = truss.bearings
    breaks = {
        kinds.TOP_CHORD: _breaks_of_top(truss),
        kinds.BOTTOM_CHORD: _ends_of(truss.chord(kinds.BOTTOM_CHORD)),
    }
    pinned = []
    for piece in truss.pieces:
        mine = breaks.get(piece.kind, {piece.start, piece.end})
        pinned.append((piece.start in mine, piece.end in mine))
    held = [FREE] * len(truss.joints)
    held[right], held[left] = ROLL, PIN
    return Form(tuple((p.start, p.end) for p in truss.pieces), tuple(pinned), tuple(held))


def _ends_of(chord: Sequence[Piece]) -> set[int]:
    return {chord[0].start, chord[-1].end} if chord else set()


def _breaks_of_top(truss: Truss) -> set[int]:
    """The joints at which a top chord is cut: its bends and ends, but the ends of tails."""
    top, (left, right) = truss.chord(kinds.TOP_CHORD), truss.bearings
    if not top:
        return set()
    first, last = top[0], top[-1]
    tails = set()
    if first.end == left or truss.joints[first.end][0] <= truss.joints[left][0] + EXACT:
        tails.add(first.start)
    if last.start == right or truss.joints[last.start][0] >= truss.joints[right][0] - EXACT:
        tails.add(last.end)
    return (set(bends(truss, top)) | _ends_of(top)) - tails


def bends(truss: Truss, chord: Sequence[Piece]) -> set[int]:
    """The joints at which a chord changes its way: it is cut and plated there."""
    ways = [np.subtract(truss.joints[p.end], truss.joints[p.start]) for p in chord]
    return {
        p.end
        for p, a, b in zip(chord, ways, ways[1:])
        if abs(a[0] * b[1] - a[1] * b[0]) > 1e-6 * float(np.hypot(*a) * np.hypot(*b))
    }


def chord_forces(
    trusses: Sequence[Truss],
    ea: NDArray[np.float64],
    ei: NDArray[np.float64],
    cases: Sequence[ChordLoads],
    beside_apex: NDArray[np.float64] | None = None,
    more: NDArray[np.float64] | None = None,
) -> TrussForces:
    """Forces, moments and deflections of trusses of one kind with continuous chords, for all
    cases at once.

    Args:
        trusses: of one kind, of any size.
        ea: of each piece (trusses, pieces), N.
        ei: likewise, N mm².
        cases: what lies on all of them.
        beside_apex: how far a load beside the apex reaches on each truss, mm.
        more: further cases after those (E), each with its own load on each piece, at its start and
            end, down, N per mm of span: (E, trusses, pieces, 2).

    Raises:
        UnstableError: the truss would fold.
    """
    first = trusses[0]
    nodes = np.array([t.joints for t in trusses])
    start, end = np.array([(p.start, p.end) for p in first.pieces]).T
    run = nodes[:, end] - nodes[:, start]
    length = np.hypot(run[..., 0], run[..., 1])
    middle = nodes[:, first.apex, 0][:, None]
    on_left = (nodes[:, start, 0] + nodes[:, end, 0]) / 2 < middle
    top = np.array([p.kind is kinds.TOP_CHORD for p in first.pieces])
    low = np.array([p.kind is kinds.BOTTOM_CHORD for p in first.pieces])
    q = np.zeros((len(cases), *length.shape, 2, 2))
    for c, case in enumerate(cases):
        down = np.where(
            top, np.where(on_left, case.left, case.right), np.where(low, case.bottom, 0.0)
        )
        q[c, ..., 1] = -(down * np.abs(run[..., 0]) / length)[..., None]
        if any(case.near_apex) and beside_apex is not None:
            for of_side, size in ((on_left, case.near_apex[0]), (~on_left, case.near_apex[1])):
                share = _partly(
                    nodes[:, start, 0] - middle, nodes[:, end, 0] - middle, beside_apex[:, None]
                )
                on = np.where((top & of_side)[..., None], share, 0.0) * size
                q[c, ..., 1] -= on * (np.abs(run[..., 0]) / length)[..., None]
    if more is not None:
        lying = -more * (np.abs(run[..., 0]) / length)[None, ..., None]
        across = np.stack([np.zeros_like(lying), lying], axis=-1)
        q = np.concatenate([q, across])
    loads = np.zeros((len(q), *nodes.shape[:2], 3))
    bent = solve_frames(Frames(through(first), nodes, ea, ei, loads, q))
    square, to_end = (
        q[..., k, 1] * run[..., 0] / length for k in (0, 1)
    )  # across the piece, to its left
    ends = bent.ends
    at_start, at_end, shear = -ends[..., 2], ends[..., 5], ends[..., 1]
    with np.errstate(divide="ignore", invalid="ignore"):
        x = np.where(np.abs(square) > 0, -shear / square, 0.0)
    x = np.where((x > 0) & (x < length), x, length / 2)
    steep = (to_end - square) / length
    between = at_start + shear * x + square * x**2 / 2 + steep * x**3 / 6
    return TrussForces(
        np.stack([-ends[..., 0], ends[..., 3]], axis=-1),
        np.stack([at_start, between, at_end], axis=-1),
        -bent.moved[..., 1],
        bent.reactions[:, :, list(first.bearings), 1],
    )


def _partly(
    first: NDArray[np.float64], last: NDArray[np.float64], reach: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Intensities at start and end of pieces, (F, M, 2), that weigh the same and lie about the same
    middle as a load of 1 over that part of each that is no further than ``reach`` from the apex;
    ``first`` and ``last`` are measured from it."""
    low, high = np.minimum(np.abs(first), np.abs(last)), np.maximum(np.abs(first), np.abs(last))
    long = np.maximum(high - low, EXACT)
    share = np.clip((reach - low) / long, 0.0, 1.0)
    near, far = 4 * share - 3 * share**2, 3 * share**2 - 2 * share
    starts_near = np.abs(first) <= np.abs(last)
    return np.stack([np.where(starts_near, near, far), np.where(starts_near, far, near)], axis=-1)


def tie_force(load: float, span: float, rise: float, height: float = 0.0) -> float:
    """The tension in a rafter tie, in the unit of ``load`` times that of ``span``.

    A pair of rafters hinged at the ridge, with no ridge beam, on plates that give no push: moments
    about the ridge of one rafter give ``w L² / 8 = T (rise - height)`` (statics; the rule behind
    IRC 2021 table R802.5.2).

    Args:
        load: per length of span.
        span: between the plates.
        rise: of the ridge over the plates.
        height: of the tie over the plates.

    Raises:
        BalkenError: a tie at or above the ridge holds nothing.
    """
    if not 0 <= height < rise:
        raise BalkenError(
            f"a tie {height:g} over plates whose ridge rises {rise:g} holds nothing: set it lower"
        )
    return load * span**2 / (8 * (rise - height))
