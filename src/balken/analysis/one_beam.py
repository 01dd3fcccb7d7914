"""One beam put down in words - supports, hinges, loads - and many such beams sorted into batches of
one form."""

from collections.abc import Iterable, Sequence
from itertools import groupby
from typing import Final, NamedTuple

import msgspec
import numpy as np

from balken.analysis.beams import (
    Beams,
    Diagrams,
    Floats,
    Hold,
    Points,
    Solved,
    Spread,
    diagrams,
    solve,
)

SAME = 1e-6
"""Places on a beam nearer than this are one, mm."""


class LineLoad(msgspec.Struct, frozen=True, gc=False):
    """A load from ``low`` to ``high``, N/mm at both, in one load case."""

    case: int
    low: float
    high: float
    at_low: float
    at_high: float


class PointLoad(msgspec.Struct, frozen=True, gc=False):
    """A force, N, or a moment, N mm, at one place, in one load case."""

    case: int
    at: float
    force: float
    moment: float = 0.0


class Rest(msgspec.Struct, frozen=True, gc=False):
    """A support: where, how it holds, and how far it has settled in which case (none for no
    settlement), mm."""

    at: float
    hold: Hold = "pin"
    settled: float = 0.0
    settled_case: int = 0


class Row(NamedTuple):
    """Many forces side by side: where each stands (P), mm, in order, and how large it is per load
    case (C, P), N."""

    at: Floats
    forces: Floats


class Beam(msgspec.Struct, frozen=True, gc=False):
    """A beam from 0 to ``length``, mm, with its EI, N mm²; loads down are positive."""

    length: float
    ei: float
    rests: tuple[Rest, ...]
    lines: tuple[LineLoad, ...] = ()
    points: tuple[PointLoad, ...] = ()
    hinges: tuple[float, ...] = ()
    row: Row | None = None
    """Forces besides the single ones."""

    def forces(self) -> Iterable[PointLoad]:
        """All forces and moments one by one."""
        yield from self.points
        if self.row is not None:
            for case, k in zip(*np.nonzero(self.row.forces)):
                yield PointLoad(int(case), float(self.row.at[k]), float(self.row.forces[case, k]))


class Worked(NamedTuple):
    """A batch, which beams of the list are in it, what was solved and its diagrams."""

    order: tuple[int, ...]
    batch: Beams
    solved: Solved
    drawn: Diagrams


FEW: Final = 64
"""So few beams cost less when they are all filled up to the one with most loads than when they are
told apart."""

Form = tuple[tuple[Hold, ...], tuple[bool, ...]]


def _nodes(beam: Beam) -> tuple[tuple[float, ...], Form, tuple[Rest | None, ...]]:
    places: list[float] = []
    for x in sorted([0.0, beam.length, *(r.at for r in beam.rests), *beam.hinges]):
        if not places or x - places[-1] > SAME:
            places.append(x)
    rests = tuple(next((r for r in beam.rests if abs(r.at - x) <= SAME), None) for x in places)
    hinges = tuple(
        any(abs(h - x) <= SAME for h in beam.hinges) and 0 < i < len(places) - 1
        for i, x in enumerate(places)
    )
    return tuple(places), (tuple(r.hold if r else "free" for r in rests), hinges), rests


def batch_of(beams: Sequence[Beam], cases: int) -> Beams:
    """Put beams of one form side by side; shorter lists of loads are filled up with nothing."""
    found = [_nodes(b) for b in beams]
    # What stands at one place in several cases is one load with several sizes: fewer of them make
    # smaller arrays.
    spots = [_places(b.points) for b in beams]
    runs = [_stretches(b.lines) for b in beams]
    n_lines, n_points = max(len(r) for r in runs), max(len(s) for s in spots)
    n_row = max(len(b.row.at) if b.row else 0 for b in beams)
    row_at, row = np.zeros((len(beams), n_row)), np.zeros((cases, len(beams), n_row))
    lines = [[[0.0] * n_lines for _ in beams] for _ in range(2 + 2 * cases)]
    points = [[[0.0] * n_points for _ in beams] for _ in range(1 + 2 * cases)]
    settled = np.zeros((cases, len(beams), len(found[0][0])))
    for i, beam in enumerate(beams):
        for (a, b), k in runs[i].items():
            lines[0][i][k], lines[1][i][k] = a, b
        for line in beam.lines:
            k = runs[i][line.low, line.high]
            lines[2 + line.case][i][k] += line.at_low
            lines[2 + cases + line.case][i][k] += line.at_high
        for x, k in spots[i].items():
            points[0][i][k] = x
        for point in beam.points:
            k = spots[i][point.at]
            points[1 + point.case][i][k] += point.force
            points[1 + cases + point.case][i][k] += point.moment
        if beam.row is not None:
            n = len(beam.row.at)
            row_at[i, :n], row[:, i, :n] = beam.row.at, beam.row.forces[:cases]
        for k, rest in enumerate(found[i][2]):
            if rest and rest.settled:
                settled[rest.settled_case, i, k] = rest.settled
    holds, hinges = found[0][1]
    q = np.array(lines).reshape(2 + 2 * cases, len(beams), n_lines)
    p = np.array(points).reshape(1 + 2 * cases, len(beams), n_points)
    return Beams(
        np.array([f[0] for f in found]),
        np.array([[b.ei] for b in beams]),
        holds,
        hinges,
        Spread(q[0], q[1], q[2 : 2 + cases], q[2 + cases :]),
        Points(
            np.concatenate([p[0], row_at], axis=1),
            np.concatenate([p[1 : 1 + cases], row], axis=2),
            np.concatenate([p[1 + cases :], np.zeros_like(row)], axis=2),
        ),
        settled,
    )


def _count(beam: Beam) -> int:
    return len(beam.points) + (len(beam.row.at) if beam.row else 0)


def _places(points: Sequence[PointLoad]) -> dict[float, int]:
    """Number the places where point loads stand."""
    found: dict[float, int] = {}
    for point in points:
        found.setdefault(point.at, len(found))
    return found


def _stretches(lines: Sequence[LineLoad]) -> dict[tuple[float, float], int]:
    """Number the stretches over which loads are spread."""
    found: dict[tuple[float, float], int] = {}
    for line in lines:
        found.setdefault((line.low, line.high), len(found))
    return found


def work(beams: Sequence[Beam], cases: int) -> Iterable[Worked]:
    """Solve a list of beams, sorted by form; each batch tells which of the list it holds.

    Raises:
        UnstableError: a beam cannot stand.
    """
    # Of many, beams with few loads are not put beside beams with many: they would be filled up with
    # nothing.
    many = len(beams) > FEW
    forms = [
        (
            _nodes(b)[1],
            _count(b).bit_length() if many else 0,
            len(b.lines).bit_length() if many else 0,
        )
        for b in beams
    ]

    def form(i: int) -> tuple[Form, int, int]:
        return forms[i]

    for _, group in groupby(sorted(range(len(beams)), key=form), key=form):
        order = tuple(group)
        batch = batch_of([beams[i] for i in order], cases)
        solved = solve(batch)
        yield Worked(order, batch, solved, diagrams(batch, solved))


def at_places(worked: Worked, places: Floats) -> Diagrams:
    """The diagrams of a batch at given places (B, S): what stands under a pointer."""
    own = worked.drawn.x
    x = np.concatenate([own, places], axis=1)
    order = np.argsort(x, axis=1, kind="stable")
    d = diagrams(worked.batch, worked.solved, np.take_along_axis(x, order, axis=1))
    back = np.argsort(order, axis=1)[:, own.shape[1] :]

    def pick(values: Floats) -> Floats:
        return np.take_along_axis(values, np.broadcast_to(back, (len(values), *back.shape)), axis=2)

    pairs = [(pick(before), pick(after)) for before, after in (d.shear, d.moment, d.slope)]
    return Diagrams(places, pairs[0], pairs[1], pick(d.sag), pairs[2])
