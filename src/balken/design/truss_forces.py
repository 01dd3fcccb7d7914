"""Forces in trusses, and what pushes rafters apart."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.analysis.frames import Form, Frames, solve_frames
from balken.framing.truss_shapes import Truss

FREE, PIN, ROLL = (False, False, False), (True, True, False), (False, True, False)


class JointForces(NamedTuple):
    """What comes out of trusses pinned at every joint, N: tension positive, reactions up."""

    pieces: NDArray[np.float64]
    """(trusses, pieces)."""
    reactions: NDArray[np.float64]
    """(trusses, 2): left, right."""


def pinned_forces(trusses: Sequence[Truss], down: Sequence[Sequence[float]]) -> JointForces:
    """Return the forces of trusses of one kind, pinned at every joint, under forces on their joints.

    The classic idealisation, for a second opinion and for handbook cases; real chords run through.

    Args:
        trusses: of one kind, of any size.
        down: force on each joint of each truss, N.

    Raises:
        UnstableError: the truss would fold.
    """
    first = trusses[0]
    left, right = first.bearings
    held = tuple(PIN if i == left else ROLL if i == right else FREE for i in range(len(first.joints)))
    form = Form(tuple((p.start, p.end) for p in first.pieces), ((True, True),) * len(first.pieces), held)
    nodes = np.array([t.joints for t in trusses])
    shape = (len(trusses), len(first.pieces))
    on_nodes = np.zeros((1, *nodes.shape[:2], 3))
    on_nodes[0, :, :, 1] = -np.array(down)
    stiff = np.ones(shape)
    bent = solve_frames(Frames(form, nodes, 1e8 * stiff, 1e12 * stiff, on_nodes, np.zeros((1, *shape, 2, 2))))
    return JointForces(bent.ends[0, :, :, 3], bent.reactions[0][:, [left, right], 1])


def tie_force(load: float, span: float, rise: float, height: float = 0.0) -> float:
    """Return the tension in a rafter tie, in the unit of ``load`` times that of ``span``.

    A pair of rafters hinged at the ridge, with no ridge beam, on plates that give no push: moments about the ridge of one
    rafter give ``w L² / 8 = T (rise - height)`` (statics; the rule behind IRC 2021 table R802.5.2).

    Args:
        load: per length of span.
        span: between the plates.
        rise: of the ridge over the plates.
        height: of the tie over the plates.

    Raises:
        ValueError: a tie at or above the ridge holds nothing.
    """
    if not 0 <= height < rise:
        raise ValueError(f"a tie {height:g} over plates whose ridge rises {rise:g} holds nothing: set it lower")
    return load * span**2 / (8 * (rise - height))
