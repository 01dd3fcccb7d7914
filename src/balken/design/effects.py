"""What loads do to beams, headers, trimmers and joists that carry more than their strip of floor:
any supports, any loads.

Live load stands on every set of spans that makes an effect worst (ASCE 7-16, 4.3.3): at each place
the loads that add to it count, those that take from it do not. Members side by side are solved
together, whatever they are made of.
"""

from collections.abc import Sequence
from itertools import pairwise

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.analysis.beams import Floats, Pair, UnstableError, peaks_between
from balken.analysis.one_beam import Beam, Worked, at_places, work
from balken.framing.member import Member, apart
from balken.geometry.plane import TOUCH
from balken.loads.cases import Combination, Sums
from balken.loads.parcels import Parcel, laid_on
from balken.loads.statics import beam_of, span_marks
from balken.model.cases import CASE_COUNT, DEAD, Cases
from balken.recall import remembered_each


class Loaded(msgspec.Struct, frozen=True, gc=False):
    """One member with all it carries: what its moments and shears follow from, whatever it is made
    of."""

    member: Member
    area: Cases
    parcels: tuple[Parcel, ...]
    sums: Sums
    """What it is held against."""


class Effects(msgspec.Struct, frozen=True):
    """What the loads do to a member, per combination (K) and span: N mm, N; deflections times EI, N
    mm³."""

    combinations: tuple[Combination, ...]
    sagging: Floats
    """(K, spans)."""
    hogging: Floats
    """(K, spans)."""
    ends: Floats
    """(K, spans, 2): hogging at the two ends of each span."""
    shear: Floats
    live: Floats
    """(K, spans): under what the first limit of deflection is held against."""
    total: Floats
    """(K, spans): and the second."""
    reaction: Floats
    """(K, supports): the greatest."""
    lifting: Floats
    """(supports): the least under any combination; negative where it lifts off."""
    spans: Floats
    cantilever: NDArray[np.bool_]
    pointed: NDArray[np.bool_]
    """(spans): whether anything stands on it at one place."""


class Diagram(msgspec.Struct, frozen=True):
    """What is drawn along a member: stations, and the least and greatest shear, moment and
    deflection there."""

    x: tuple[float, ...]
    shear: tuple[tuple[float, float], ...]
    moment: tuple[tuple[float, float], ...]
    sag: tuple[tuple[float, float], ...]


@remembered_each
def effects_of(loaded: Sequence[Loaded]) -> list[Effects | None]:
    """Work out what loads do to members, side by side; None for one that cannot stand."""
    found: dict[int, Effects] = {}
    groups: dict[tuple[int, tuple[int, ...], Sums], list[int]] = {}
    for i, one in enumerate(loaded):
        key = (len(span_marks(one.member)) - 1, tuple(_cases(one)), one.sums)
        groups.setdefault(key, []).append(i)
    for (spans, cases, sums), group in groups.items():
        for worked, mine in _worked([loaded[i] for i in group], spans, max(cases) + 1):
            for i, made in zip(
                mine, _effects(worked, [loaded[group[i]] for i in mine], spans, sums.among(cases))
            ):
                found[group[i]] = made
    return [found.get(i) for i in range(len(loaded))]


def _worked(group: list[Loaded], spans: int, cases: int) -> list[tuple[Worked, tuple[int, ...]]]:
    """Solve a group for its first cases with EI = 1; where one of them cannot stand, each by
    itself."""
    made = [beam_of(a.member, a.area, a.parcels, by_span=True)[0] for a in group]
    try:
        return [(w, w.order) for w in work(made, cases * spans)]
    except UnstableError:
        return [(w, (i,)) for i, b in enumerate(made) for w in _alone(b, cases * spans)]


def diagram_of(one: Loaded, ei: float) -> Diagram | None:
    """What is drawn along one member of a stiffness, N mm²; None where it cannot stand."""
    spans = len(span_marks(one.member)) - 1
    cases = _cases(one)
    for worked, _ in _worked([one], spans, max(cases) + 1):
        d = worked.drawn
        moments, shears = np.stack(d.moment, axis=-1), np.stack(d.shear, axis=-1)
        combos = one.sums.among(cases)
        return _diagram(d.x, moments, shears, d.sag / ei, combos, spans)
    return None


class AtPlaces(msgspec.Struct, frozen=True):
    """What loads do at a few places of one member, per combination (K) and place (P): N mm, N."""

    sagging: Floats
    hogging: Floats
    shear: Floats


def at_some_places(
    one: Loaded, places: Sequence[float], combinations: Sequence[Combination]
) -> AtPlaces | None:
    """What loads do at places along one member, mm from its start; None where it cannot stand."""
    spans = len(span_marks(one.member)) - 1
    cases = _cases(one)
    for worked, _ in _worked([one], spans, max(cases) + 1):
        d = at_places(worked, np.array([sorted(places)]))
        rows = []
        for combo in combinations:
            factors = _by_case(combo.factors, spans)
            ends = [_envelope(m, factors) for m in (*d.moment, *d.shear)]
            sagging = np.maximum(ends[0][1], ends[1][1])[0]
            hogging = np.maximum(-ends[0][0], -ends[1][0])[0]
            shear = np.maximum.reduce([v for low, high in ends[2:] for v in (-low, high)])[0]
            rows.append((np.maximum(sagging, 0.0), np.maximum(hogging, 0.0), shear))
        return AtPlaces(*(np.stack([r[i] for r in rows]) for i in range(3)))
    return None


def _alone(beam: Beam, cases: int) -> list[Worked]:
    try:
        return list(work([beam], cases))
    except UnstableError:
        return []


def _cases(one: Loaded) -> list[int]:
    """The cases that are not nothing."""
    own = one.area * one.member.carrier.area + one.member.carrier.line * one.member.carrier.reach
    there = [any(amounts) for amounts in zip(own, *(p.forces for p in one.parcels))]
    return [c for c in range(CASE_COUNT) if c == DEAD or there[c]]


def _effects(
    worked: Worked, group: list[Loaded], spans: int, combos: tuple[Combination, ...]
) -> list[Effects]:
    d = worked.drawn
    held = [i for i, h in enumerate(worked.batch.holds) if h != "free"]
    marks = np.array([span_marks(a.member) for a in group])
    rows: list[tuple[Floats, ...]] = []
    for combo in combos:
        factors = _by_case(combo.factors, spans)
        low_v, high_v = (_envelope(v, factors) for v in d.shear)
        low_r, high_r = _envelope(worked.solved.reaction[:, :, held], factors)
        sagging, hogging = _peaks_by_span(d.x, d.moment, (d.shear[0], d.shear[1]), factors, marks)
        first, second = (
            np.maximum(*_peaks_by_span(d.x, (d.sag, d.sag), d.slope, _by_case(cases, spans), marks))
            for cases in (combo.first_sag, combo.second_sag)
        )
        shear = np.maximum(*(np.maximum(h, -low).max(axis=1) for low, h in (low_v, high_v)))
        rows.append(
            (
                sagging,
                hogging,
                _over_supports(d.x, d.moment, factors, marks),
                shear,
                first,
                second,
                high_r,
                low_r,
            )
        )
    columns = [np.stack([row[c] for row in rows], axis=1) for c in range(8)]
    least = columns[7].min(axis=1)
    return [
        Effects(
            combos,
            columns[0][i],
            columns[1][i],
            columns[2][i],
            columns[3][i],
            columns[4][i],
            columns[5][i],
            columns[6][i],
            least[i],
            np.diff(marks[i]),
            _overhangs(one.member, spans),
            _pointed(one, marks[i]),
        )
        for i, one in enumerate(group)
    ]


def _by_case(cases: Cases, spans: int) -> Floats:
    """Factors of the columns that were solved: the dead load whole, every other case span by
    span."""
    dead, *others = cases
    return np.array([dead, *[0.0] * (spans - 1), *(f for f in others for _ in range(spans))])


def _overhangs(member: Member, spans: int) -> NDArray[np.bool_]:
    """Which spans of a member are overhangs: those before the first and after the last
    support."""
    rests = apart(member.carrier.supports)
    marks = span_marks(member)
    return np.array(
        [marks[s] < rests[0].at - 1e-6 or marks[s] > rests[-1].at - 1e-6 for s in range(spans)]
    )


def _pointed(one: Loaded, marks: Floats) -> NDArray[np.bool_]:
    """On which spans of a member something stands at one place."""
    at = laid_on(one.member, one.parcels).at
    return np.array([bool(((at > a - TOUCH) & (at < b + TOUCH)).any()) for a, b in pairwise(marks)])


def _chosen(values: Floats, factors: Floats, sign: float, by: Floats) -> Floats:
    """Sum of a result over the dead load and those other columns that add to another result
    (``by``) with a sign: what they bring when each variable load may stand on each span or not."""
    shape = (-1,) + (1,) * (values.ndim - 1)
    f = factors[: len(values)].reshape(shape)
    counts = f * sign * by > 0
    counts[0] = True
    # One column after the other: how an array lies in memory must not change the last digit.
    first, *more = f * values * counts
    found: Floats = first
    for column in more:
        found = found + column
    return found


def _envelope(values: Floats, factors: Floats) -> tuple[Floats, Floats]:
    """The least and the greatest of a result when each variable load may stand on each span or
    not."""
    return _chosen(values, factors, -1.0, values), _chosen(values, factors, 1.0, values)


def _peaks_by_span(
    x: Floats, values: Pair, grows: Pair, factors: Floats, marks: Floats
) -> tuple[Floats, Floats]:
    """The greatest of a result within each span and of its opposite, (B, spans), followed by cubics
    between stations.

    Args:
        x: stations (B, S).
        values: just before and just after each, by columns (C, B, S).
        grows: how fast they grow there, likewise.
        factors: of the columns.
        marks: where spans begin and end (B, spans + 1).
    """
    before, after = values[0][..., 1:], values[1][..., :-1]
    grown, growing = grows[0][..., 1:], grows[1][..., :-1]
    middle = before + after
    found = []
    for sign in (1.0, -1.0):
        # Within a gap the same loads count all along, those that add to the middle of it; at
        # stations those that add there.
        curve = [sign * _chosen(v, factors, sign, middle) for v in (after, before, growing, grown)]
        high, _ = peaks_between(x, *curve)
        ends = [sign * _chosen(v, factors, sign, v) for v in (after, before)]
        found.append(_by_span(x, np.maximum.reduce([high, *ends]), marks))
    return found[0], found[1]


def _by_span(x: Floats, values: Floats, marks: Floats) -> Floats:
    """The greatest value of the gaps within each span, none under nothing, (B, spans)."""
    middle = (x[:, :-1] + x[:, 1:]) / 2
    inside = (middle[:, None] >= marks[:, :-1, None]) & (middle[:, None] <= marks[:, 1:, None])
    # What reaches just past a bearing belongs to the span beside it.
    inside[:, 0] |= middle < marks[:, :1]
    inside[:, -1] |= middle > marks[:, -1:]
    found: Floats = np.where(inside, values[:, None], 0.0).max(axis=2)
    return np.maximum(found, 0.0)


def _over_supports(x: Floats, moments: Pair, factors: Floats, marks: Floats) -> Floats:
    """Hogging at both ends of each span, (B, spans, 2); nothing where it sags there."""
    before, after = (-_chosen(m, factors, -1.0, m) for m in moments)
    beams = np.arange(len(x))
    ends = []
    for k in range(marks.shape[1]):
        at = np.abs(x - marks[:, k, None]).argmin(axis=1)
        ends.append(np.maximum(0.0, np.maximum(before[beams, at], after[beams, at])))
    whole = np.stack(ends, axis=1)
    return np.stack([whole[:, :-1], whole[:, 1:]], axis=2)


def _diagram(
    x: Floats,
    moments: Floats,
    shears: Floats,
    sags: Floats,
    combos: Sequence[Combination],
    spans: int,
) -> Diagram:
    """The envelope over all combinations along one member."""
    lows: dict[str, Floats] = {}
    highs: dict[str, Floats] = {}
    for combo in combos:
        strong, sag = (_by_case(c, spans) for c in (combo.factors, combo.second_sag))
        for name, values, factors in (
            ("m", moments, strong),
            ("v", shears, strong),
            ("s", sags[..., None], sag),
        ):
            low, high = _envelope(values[:, 0], factors)
            lows[name] = np.minimum(lows[name], low) if name in lows else low
            highs[name] = np.maximum(highs[name], high) if name in highs else high
    stations = [float(v) for v in x[0] for _ in range(2)]

    def pairs(name: str) -> tuple[tuple[float, float], ...]:
        low = np.repeat(lows[name], 2, axis=1) if lows[name].shape[1] == 1 else lows[name]
        high = np.repeat(highs[name], 2, axis=1) if highs[name].shape[1] == 1 else highs[name]
        return tuple(zip(low.ravel().tolist(), high.ravel().tolist()))

    return Diagram(tuple(stations), pairs("v"), pairs("m"), pairs("s"))
