"""Plane frames and trusses, many of one form at once.

Axes x to the right, y up, turning left (counter-clockwise) positive; lengths mm, forces N, moments
N mm, E A in N, E I in N mm². Arrays by axes: C load cases, F frames, N nodes, M members. Bending by
Euler-Bernoulli; shear strain is left out.
"""

from typing import NamedTuple

import msgspec
import numpy as np

from balken.analysis.beams import Floats, UnstableError


class Form(msgspec.Struct, frozen=True):
    """What frames of a batch share: who joins whom, which ends are pinned, what is held (x, y,
    turn)."""

    members: tuple[tuple[int, int], ...]
    pinned: tuple[tuple[bool, bool], ...]
    held: tuple[tuple[bool, bool, bool], ...]
    """Per node. A node where every member is pinned turns with none of them and is held against
    turning by itself."""


class Frames(msgspec.Struct, frozen=True):
    """Frames of one form with their loads."""

    form: Form
    nodes: Floats
    """(F, N, 2)."""
    ea: Floats
    ei: Floats
    """(F, M) each."""
    on_nodes: Floats
    """(C, F, N, 3): forces in x and y, and moment."""
    on_members: Floats
    """(C, F, M, 2, 2): load per length of member at start and end, along x and y of the frame."""


class Bent(NamedTuple):
    """What comes out."""

    moved: Floats
    """(C, F, N, 3)."""
    ends: Floats
    """(C, F, M, 6): forces on the member's two ends along it, square to it (to its left), and
    moment."""
    reactions: Floats
    """(C, F, N, 3); zero where nothing is held."""


def _turned(nodes: Floats, form: Form) -> tuple[Floats, Floats]:
    """Lengths (F, M) and the matrices that turn frame axes into member axes, (F, M, 6,
    6)."""
    start, end = np.array(form.members).T
    way = nodes[:, end] - nodes[:, start]
    length = np.hypot(way[..., 0], way[..., 1])
    c, s = way[..., 0] / length, way[..., 1] / length
    t = np.zeros((*length.shape, 6, 6))
    for i in (0, 3):
        t[..., i, i], t[..., i, i + 1] = c, s
        t[..., i + 1, i], t[..., i + 1, i + 1] = -s, c
        t[..., i + 2, i + 2] = 1
    return length, t


def _stiff(length: Floats, ea: Floats, ei: Floats) -> Floats:
    k = np.zeros((*length.shape, 6, 6))
    axial = ea / length
    k[..., 0, 0] = k[..., 3, 3] = axial
    k[..., 0, 3] = k[..., 3, 0] = -axial
    a, b, c = 12 * ei / length**3, 6 * ei / length**2, ei / length
    for i, row in zip(
        (1, 2, 4, 5), ((a, b, -a, b), (b, 4 * c, -b, 2 * c), (-a, -b, a, -b), (b, 2 * c, -b, 4 * c))
    ):
        for j, value in zip((1, 2, 4, 5), row):
            k[..., i, j] = value
    return k


def _fixed_ends(q: Floats, length: Floats) -> Floats:
    """The forces that a load (C, F, M, 2, 2: end, member axis) needs at two fixed ends, (C,
    F, M, 6)."""
    a, b = q[..., 0, :], q[..., 1, :]
    h = length
    found = np.zeros((*a.shape[:-1], 6))
    found[..., 0] = -(2 * a[..., 0] + b[..., 0]) * h / 6
    found[..., 3] = -(a[..., 0] + 2 * b[..., 0]) * h / 6
    found[..., 1] = -(7 * a[..., 1] + 3 * b[..., 1]) * h / 20
    found[..., 4] = -(3 * a[..., 1] + 7 * b[..., 1]) * h / 20
    found[..., 2] = -(3 * a[..., 1] + 2 * b[..., 1]) * h**2 / 60
    found[..., 5] = (2 * a[..., 1] + 3 * b[..., 1]) * h**2 / 60
    return found


def _released(k: Floats, f: Floats, pinned: tuple[tuple[bool, bool], ...]) -> None:
    """Take the moments of pinned ends out of stiffness and fixed-end forces, in place (static
    condensation)."""
    for m, (start, end) in enumerate(pinned):
        for i in [2] * start + [5] * end:
            pivot = k[:, m, i, i].copy()
            if not np.all(pivot > 0):
                continue  # the other end's pin has taken this one's stiffness already
            row = k[:, m, i, :].copy()
            f[:, :, m] -= f[:, :, m, i, None] * (row / pivot[:, None])
            k[:, m] -= row[:, :, None] * row[:, None, :] / pivot[:, None, None]
            k[:, m, i, :] = k[:, m, :, i] = 0.0


def solve_frames(frames: Frames) -> Bent:
    """Solve every frame of a batch for every case at once.

    Raises:
        UnstableError: frames of this form cannot stand.
    """
    form = frames.form
    n = frames.nodes.shape[1]
    length, t = _turned(frames.nodes, form)
    local = _stiff(length, frames.ea, frames.ei)
    load = frames.on_members @ t[..., :2, :2].swapaxes(-1, -2)
    fixed = _fixed_ends(load, length)
    _released(local, fixed, form.pinned)
    whole = np.zeros((len(frames.nodes), 3 * n, 3 * n))
    f = frames.on_nodes.reshape(*frames.on_nodes.shape[:2], 3 * n).astype(float)
    k = t.swapaxes(-1, -2) @ local @ t
    from_loads = (fixed[..., None, :] @ t)[..., 0, :]
    places = [[3 * a, 3 * a + 1, 3 * a + 2, 3 * b, 3 * b + 1, 3 * b + 2] for a, b in form.members]
    for m, numbers in enumerate(places):
        whole[:, np.array(numbers)[:, None], numbers] += k[:, m]
        f[:, :, numbers] -= from_loads[:, :, m]
    stiff = np.abs(np.einsum("fii->fi", whole)).max(axis=0) > 0
    free = [i for i in range(3 * n) if stiff[i] and not form.held[i // 3][i % 3]]
    u = np.zeros_like(f)
    inner = whole[:, np.array(free)[:, None], free]
    size = np.sqrt(np.einsum("fii->fi", inner))
    if np.linalg.cond(inner / size[:, :, None] / size[:, None, :]).max() > 1e13:
        raise UnstableError(
            "the frame has too few supports or members: it would turn, slide or fold"
        )
    u[:, :, free] = np.linalg.solve(inner, f[:, :, free].transpose(1, 2, 0)).transpose(2, 0, 1)
    moved = (t @ u[:, :, np.array(places)][..., None])[..., 0]
    ends = (local @ moved[..., None])[..., 0] + fixed
    pushed = (whole @ u[..., None])[..., 0] - f
    held = np.array(form.held).reshape(-1)
    shape = (*f.shape[:2], n, 3)
    return Bent(u.reshape(shape), ends, (pushed * held).reshape(shape))
