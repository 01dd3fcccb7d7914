"""Straight beams on any number of supports, many at once: stiffness in, reactions and diagrams out.

Beams of one *form* (the same number of nodes, held and hinged alike) are solved in one stack. Nodes
are only where a beam is held, hinged, ends, or changes its stiffness; loads stand anywhere and need
no node, so that a beam under thirty joists is still a small matrix. Everything is exact for bending
(Euler-Bernoulli); shear strain is left out.

Loads and deflections down are positive, moments positive where they sag. Lengths mm, forces N,
moments N mm, EI N mm². Arrays are named by their axes: C load cases, B beams, N nodes, L spread
loads, P point loads, S stations.
"""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.errors import BalkenError

Floats = NDArray[np.float64]
Hold = Literal["free", "pin", "fix"]

_GAUSS = np.array([-math.sqrt(0.6), 0.0, math.sqrt(0.6)]), np.array([5.0, 8.0, 5.0]) / 9
"""Three points integrate up to the fifth degree exactly: a linear load times a cubic shape needs
the fourth."""
STEPS = 24
"""A diagram has at least so many steps; between them it is followed by cubics that are exact for
moments."""
STEPS_A_SPAN = 12
"""And at least so many from node to node: where each load may stand on each span or not, which of
them add changes on the way."""


class UnstableError(BalkenError):
    """A beam that would fall or turn: too few supports, or a hinge too many."""


class Spread(msgspec.Struct, frozen=True):
    """Loads from ``low`` to ``high`` (B, L), with their intensity at both (C, B, L), N/mm, straight
    in between."""

    low: Floats
    high: Floats
    at_low: Floats
    at_high: Floats


class Points(msgspec.Struct, frozen=True):
    """Forces and moments (C, B, P) at places (B, P); a moment is positive where it turns from +x to
    down."""

    at: Floats
    force: Floats
    moment: Floats


class Beams(msgspec.Struct, frozen=True):
    """Beams of one form with their loads."""

    nodes: Floats
    """(B, N), ascending, mm."""
    ei: Floats
    """(B, N - 1) or anything that broadcasts to it."""
    holds: tuple[Hold, ...]
    hinges: tuple[bool, ...]
    """Where the beam may fold; never at its ends."""
    spread: Spread
    points: Points
    settled: Floats
    """How far the supports go down, (C, B, N), mm."""


class Solved(NamedTuple):
    """What comes out of the stiffness: deflection down and slope left and right of each node, and
    the reactions."""

    sag: Floats
    slope: Floats
    """(C, B, N - 1): at the start of each piece between nodes."""
    reaction: Floats
    """(C, B, N), up positive, N."""
    fixing: Floats
    """(C, B, N): moment taken by a fixed support, acting on the beam as a point moment does, N
    mm."""


class Diagrams(NamedTuple):
    """Along each beam: stations (B, S), and per case (C, B, S) shear and moment just before and
    just after, and sag."""

    x: Floats
    shear: tuple[Floats, Floats]
    moment: tuple[Floats, Floats]
    sag: Floats
    slope: tuple[Floats, Floats]


def _numbers(holds: Sequence[Hold], hinges: Sequence[bool]) -> tuple[list[list[int]], int]:
    """Number the unknowns: per piece its four (sag and slope at both ends); a hinge has two
    slopes."""
    count = 0
    sag, right, left = [], [], []
    for hinge in hinges:
        sag.append(count)
        left.append(count + 1)
        right.append(count + 2 if hinge else count + 1)
        count += 3 if hinge else 2
    return [[sag[i], right[i], sag[i + 1], left[i + 1]] for i in range(len(holds) - 1)], count


def _shapes(t: Floats, h: Floats) -> tuple[Floats, Floats]:
    """The four beam shapes at ``t`` (0 to 1) of a piece of length ``h``, and their slopes;
    last axis 4."""
    n = np.stack(
        [1 - 3 * t**2 + 2 * t**3, h * t * (1 - t) ** 2, 3 * t**2 - 2 * t**3, h * (t**3 - t**2)],
        axis=-1,
    )
    d = np.stack(
        [(6 * t**2 - 6 * t) / h, 1 - 4 * t + 3 * t**2, (6 * t - 6 * t**2) / h, 3 * t**2 - 2 * t],
        axis=-1,
    )
    return n, d


def _piece(h: Floats, ei: Floats) -> Floats:
    """The stiffness of each piece, (B, 4, 4)."""
    k = np.empty((*h.shape, 4, 4))
    a, b, c = 12 * ei / h**3, 6 * ei / h**2, ei / h
    k[..., 0, :] = np.stack([a, b, -a, b], axis=-1)
    k[..., 1, :] = np.stack([b, 4 * c, -b, 2 * c], axis=-1)
    k[..., 2, :] = np.stack([-a, -b, a, -b], axis=-1)
    k[..., 3, :] = np.stack([b, 2 * c, -b, 4 * c], axis=-1)
    return k


def _nodal(beams: Beams) -> Floats:
    """What the loads on each piece between nodes give to its four unknowns, (N - 1, C, B,
    4)."""
    x0, x1 = beams.nodes[:, :-1].T[..., None], beams.nodes[:, 1:].T[..., None]  # (N - 1, B, 1)
    h = x1 - x0
    spread, points = beams.spread, beams.points
    found = np.zeros((len(h), *beams.settled.shape[:2], 4))
    if spread.low.shape[1]:
        low, high = np.clip(spread.low, x0, x1), np.clip(spread.high, x0, x1)
        half = (high - low) / 2
        steep = (spread.at_high - spread.at_low) / np.maximum(spread.high - spread.low, 1e-12)
        for place, weight in zip(*_GAUSS):
            x = (low + high) / 2 + place * half  # (N - 1, B, L)
            shape, _ = _shapes((x - x0) / h, h)
            q = spread.at_low[None] + steep[None] * (x - spread.low)[:, None]  # (N - 1, C, B, L)
            found += _put_on(q, shape * (weight * half)[..., None])
    if points.at.shape[1]:
        mine = (points.at >= x0) & (points.at < x1)
        mine[-1] |= points.at >= x1[-1]
        shape, slope = _shapes(
            np.where(mine, (points.at - x0) / h, 0.0), np.broadcast_to(h, mine.shape)
        )
        found += _put_on(points.force[None], shape * mine[..., None])
        if points.moment.any():
            found += _put_on(points.moment[None], slope * mine[..., None])
    return found


def _put_on(loads: Floats, shapes: Floats) -> Floats:
    """The sum of loads (N - 1 or 1, C, B, L) by their shapes (N - 1, B, L, 4), (N - 1, C, B,
    4)."""
    return np.swapaxes(_summed(np.swapaxes(loads, 1, 2), shapes), 1, 2)


def _summed(loads: Floats, shapes: Floats) -> Floats:
    """The sum of loads (…, C, L) by their shapes (…, L, S), (…, C, S), one load after the
    other.

    A product of matrices would add in an order that depends on how many there are: a beam would
    come out otherwise, in its last digit, beside one with more loads.
    """
    each = (loads[..., k, None] * shapes[..., None, k, :] for k in range(loads.shape[-1]))
    first = next(each)
    for more in each:
        first += more
    return first


def solve(beams: Beams) -> Solved:
    """Solve every beam of a batch for every case at once.

    Raises:
        UnstableError: a beam of this form cannot stand.
    """
    pieces, count = _numbers(beams.holds, beams.hinges)
    n_beams, n_nodes = beams.nodes.shape
    cases = beams.settled.shape[0]
    h = np.diff(beams.nodes, axis=1)
    ei = np.broadcast_to(beams.ei, h.shape)
    k = np.zeros((n_beams, count, count))
    f = np.zeros((cases, n_beams, count))
    nodal, stiff = _nodal(beams), _piece(h, ei)
    for i, numbers in enumerate(pieces):
        k[:, np.array(numbers)[:, None], numbers] += stiff[:, i]
        f[:, :, numbers] += nodal[i]
    sag_at = [pieces[i][0] for i in range(n_nodes - 1)] + [pieces[-1][2]]
    left_at = [pieces[0][1]] + [p[3] for p in pieces]
    held = [sag_at[i] for i, hold in enumerate(beams.holds) if hold != "free"]
    fixed = held + [left_at[i] for i, hold in enumerate(beams.holds) if hold == "fix"]
    free = [i for i in range(count) if i not in fixed]
    u = np.zeros_like(f)
    for i, hold in enumerate(beams.holds):
        if hold != "free":
            u[:, :, sag_at[i]] = beams.settled[:, :, i]
    rest = f - _pushes(k, u)
    if free:
        inner = k[:, np.array(free)[:, None], free]
        # Without hinges two supports hold any beam.
        if (any(beams.hinges) or len(held) < 2) and not _stable(inner):
            raise UnstableError(
                "the beam has too few supports for its hinges: it would turn or fall"
            )
        u[:, :, free] = np.linalg.solve(inner, rest[:, :, free].transpose(1, 2, 0)).transpose(
            2, 0, 1
        )
    pushed = _pushes(k, u) - f
    reaction = np.zeros((cases, n_beams, n_nodes))
    fixing = np.zeros_like(reaction)
    for i, hold in enumerate(beams.holds):
        if hold != "free":
            reaction[:, :, i] = -pushed[:, :, sag_at[i]]
        if hold == "fix":
            fixing[:, :, i] = pushed[:, :, left_at[i]]
    return Solved(
        u[:, :, sag_at], np.stack([u[:, :, p[1]] for p in pieces], axis=-1), reaction, fixing
    )


def _pushes(stiffness: Floats, moved: Floats) -> Floats:
    """The forces (C, B, N) of stiffnesses (B, N, N) that are symmetric, moved (C, B, N)."""
    return _summed(moved.transpose(1, 0, 2), stiffness).transpose(1, 0, 2)


def _stable(stiffness: Floats) -> bool:
    """Whether beams can stand."""
    # Turning by a radian and going down by a millimetre are of unlike size: scale before judging
    # what is stiff.
    size = np.sqrt(np.einsum("bii->bi", stiffness))
    scaled = (
        stiffness
        / np.where(size > 0, size, 1.0)[:, :, None]
        / np.where(size > 0, size, 1.0)[:, None, :]
    )
    return bool(np.all(size > 0) and np.linalg.cond(scaled).max() <= 1e13)


def stations(beams: Beams) -> Floats:
    """Where diagrams are worked out, (B, S): every node, every load's ends, and steps in
    between.

    Each beam has the stations it would have alone, whatever stands beside it; at its end it waits
    for the others.
    """
    marks = np.concatenate(
        [beams.nodes, beams.spread.low, beams.spread.high, beams.points.at], axis=1
    )
    marks = np.sort(np.clip(marks, beams.nodes[:, :1], beams.nodes[:, -1:]), axis=1)
    gaps = np.diff(marks, axis=1)
    real = np.maximum((gaps > 1e-6).sum(axis=1), 1)
    wanted = max(STEPS, STEPS_A_SPAN * (beams.nodes.shape[1] - 1))
    steps = np.where(real < wanted, np.maximum(2, -(-wanted // real)), 1)[:, None]
    # Gaps of no length go to the end.
    order = np.argsort(gaps <= 0, axis=1, kind="stable")
    there = np.take_along_axis(gaps, order, axis=1) > 0
    start = np.where(there, np.take_along_axis(marks[:, :-1], order, axis=1), marks[:, -1:])
    edges = np.concatenate([start, marks[:, -1:]], axis=1)
    station = np.arange(int((there.sum(axis=1) * steps[:, 0]).max()) + 1)[None]
    gap = np.minimum(station // steps, edges.shape[1] - 1)
    low = np.take_along_axis(edges, gap, axis=1)
    high = np.take_along_axis(edges, np.minimum(gap + 1, edges.shape[1] - 1), axis=1)
    found: Floats = low + (high - low) * (station % steps / steps)
    return found


Pair = tuple[Floats, Floats]
"""What is just before and just after each station."""


def _forces(beams: Beams, solved: Solved, x: Floats) -> tuple[Pair, Pair]:
    """Shear and moment (C, B, S) at places (B, S), just before and just after what acts
    there."""
    at = np.concatenate([beams.nodes, beams.points.at], axis=1)
    force = np.concatenate([-solved.reaction, beams.points.force], axis=2).transpose(1, 0, 2)
    moment = np.concatenate([solved.fixing, beams.points.moment], axis=2).transpose(1, 0, 2)
    arm = x[:, None, :] - at[:, :, None]
    passed = [(arm > 1e-9).astype(float), (arm >= -1e-9).astype(float)]
    v = [_summed(-force, p) for p in passed]
    m = _summed(-force, np.maximum(arm, 0.0))
    spread = beams.spread
    if spread.low.shape[1]:
        run = (spread.high - spread.low)[:, :, None]
        reach = x[:, None, :] - spread.low[:, :, None]
        t = np.clip(reach, 0.0, run)
        half = t**2 / 2
        q = spread.at_low.transpose(1, 0, 2)
        laid, bent = _summed(q, t), _summed(q, t * reach - half)
        steep = spread.at_high - spread.at_low
        if steep.any():
            grow = steep.transpose(1, 0, 2) / np.maximum(run.transpose(0, 2, 1), 1e-12)
            laid += _summed(grow, half)
            bent += _summed(grow, half * reach - t**3 / 3)
        v = [one - laid for one in v]
        m -= bent
    ms = [m + _summed(moment, p) for p in passed] if moment.any() else [m, m]
    (v0, v1), (m0, m1) = ([one.transpose(1, 0, 2) for one in both] for both in (v, ms))
    return (v0, v1), (m0, m1)


def diagrams(beams: Beams, solved: Solved, x: Floats | None = None) -> Diagrams:
    """Shear, moment, slope and deflection along the beams, at given stations or at
    :func:`stations`."""
    x = stations(beams) if x is None else x
    shear, moment = _forces(beams, solved, x)
    gap = np.diff(x, axis=1)
    ei = np.broadcast_to(beams.ei, (len(x), beams.nodes.shape[1] - 1))
    piece = np.clip(
        (x[:, :-1, None] + gap[:, :, None] / 2 > beams.nodes[:, None, 1:-1]).sum(axis=2),
        0,
        ei.shape[1] - 1,
    )
    bend = 1 / np.take_along_axis(ei, piece, axis=1)
    # Between stations the moment is a cubic that its ends and the shears there give; it is added up
    # exactly.
    m0, m1, v0, v1 = moment[1][..., :-1], moment[0][..., 1:], shear[1][..., :-1], shear[0][..., 1:]
    turned = -bend * gap * ((m0 + m1) / 2 + gap / 12 * (v0 - v1))
    moved = -bend * gap**2 * (7 * m0 / 20 + 3 * m1 / 20 + gap * (v0 / 20 - v1 / 30))
    # From node to node the slope and the deflection are added up afresh, so that rounding does not
    # travel.
    node = np.minimum(
        (x[:, :, None] >= beams.nodes[:, None, :] - 1e-9).sum(axis=2) - 1, beams.nodes.shape[1] - 2
    )
    fresh = np.diff(node, axis=1, prepend=-1) > 0
    begun = np.maximum.accumulate(np.where(fresh, np.arange(x.shape[1]), 0), axis=1)
    turns = _added_up(turned)
    slope = np.take_along_axis(solved.slope, node[None], axis=2) - np.take_along_axis(
        turns, begun[None], axis=2
    )
    going = slope + turns
    coming = np.concatenate(
        [np.zeros_like(turns[..., :1]), slope[..., :-1] + turns[..., 1:]], axis=2
    )
    sinks = _added_up(going[..., :-1] * gap + moved)
    sag = (
        np.take_along_axis(solved.sag, node[None], axis=2)
        - np.take_along_axis(sinks, begun[None], axis=2)
        + sinks
    )
    return Diagrams(x, shear, moment, sag, (coming, going))


def _added_up(steps: Floats) -> Floats:
    """The sum of the steps before each station, from nothing."""
    return np.concatenate([np.zeros_like(steps[..., :1]), np.cumsum(steps, axis=2)], axis=2)


def peaks(
    x: Floats, start: Floats, end: Floats, grow_start: Floats, grow_end: Floats
) -> tuple[Floats, Floats]:
    """The greatest and the least value over cubics through stations: what moments are,
    exactly, and deflections nearly.

    Args:
        x: stations (B, S).
        start: value just after each station but the last, (..., B, S - 1).
        end: value just before each station but the first, likewise.
        grow_start: how fast it grows at the start.
        grow_end: how fast it grows at the end.

    Returns:
        (..., B) of each.
    """
    high, low = peaks_between(x, start, end, grow_start, grow_end)
    return high.max(axis=-1), low.min(axis=-1)


def peaks_between(
    x: Floats, start: Floats, end: Floats, grow_start: Floats, grow_end: Floats
) -> tuple[Floats, Floats]:
    """The same as :func:`peaks` for each gap between stations, (..., B, S - 1)."""
    h = np.diff(x, axis=1)
    a = 3 * (grow_start + grow_end) * h - 6 * (end - start)
    b = 2 * (3 * (end - start) - (2 * grow_start + grow_end) * h)
    c = grow_start * h
    high, low = np.maximum(start, end), np.minimum(start, end)
    with np.errstate(divide="ignore", invalid="ignore"):
        root = np.sqrt(b**2 - 4 * a * c)
        for t in (-c / b, (-b + root) / (2 * a), (-b - root) / (2 * a)):
            t = np.where((t > 0) & (t < 1), t, 0.0)
            value = start + t * (c + t * (b / 2 + t * (a / 3)))
            high, low = np.maximum(high, value), np.minimum(low, value)
    return high, low


def extreme_moments(d: Diagrams) -> tuple[Floats, Floats]:
    """The greatest (sagging) and the least (hogging) moment of each beam and case, (C, B), N
    mm."""
    before, after = d.moment
    return peaks(d.x, after[..., :-1], before[..., 1:], d.shear[1][..., :-1], d.shear[0][..., 1:])


def extreme_sags(d: Diagrams) -> tuple[Floats, Floats]:
    """The greatest deflection down and the least (up where negative) of each beam and case,
    (C, B), mm."""
    coming, going = d.slope
    return peaks(d.x, d.sag[..., :-1], d.sag[..., 1:], going[..., :-1], coming[..., 1:])


def greatest_moment(d: Diagrams, sign: float = 1.0) -> Floats:
    """The greatest sagging (or with ``sign`` -1, hogging) moment of each beam and case, (C,
    B), N mm."""
    high, low = extreme_moments(d)
    return high if sign > 0 else -low


def greatest_sag(d: Diagrams, sign: float = 1.0) -> Floats:
    """The greatest deflection down (or with ``sign`` -1, up) of each beam and case, (C, B),
    mm."""
    high, low = extreme_sags(d)
    return high if sign > 0 else -low


def greatest_shear(d: Diagrams) -> Floats:
    """The greatest shear of each beam and case without its sign, (C, B), N."""
    found: Floats = np.maximum(np.abs(d.shear[0]), np.abs(d.shear[1])).max(axis=-1)
    return found
