"""Checks of beams, headers, trimmers and joists that carry more than their strip of floor: any supports, any loads.

Demands are taken from the analysis with live load on every set of spans that makes them worst (ASCE 7-16, 4.3.3): at each
place the loads that add to it count, those that take from it do not. One set of array functions over members side by
side, whatever they are made of.
"""

from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np

from balken.analysis.beams import Floats, UnstableError, greatest_moment, greatest_sag
from balken.analysis.one_beam import Beam, Worked, work
from balken.design.nds.factors import effective_length
from balken.design.steps import Check, Step
from balken.design.strength import Strength
from balken.framing.member import Member
from balken.loads.cases import CASES, COMBINATIONS, Combination
from balken.loads.parcels import Cases, Parcel
from balken.loads.statics import apart, beam_of, span_marks

BEAM_CHECKS: Final = ("Bending", "Shear", "Live deflection", "Total deflection", "Bearing")


class Asked(msgspec.Struct, frozen=True):
    """One member to be checked, with all it carries."""

    member: Member
    area: Cases
    parcels: tuple[Parcel, ...]
    strength: Strength
    live_limit: float
    total_limit: float
    unbraced: float = 0.0
    """Of the edge in compression where it sags, mm."""
    soft: tuple[float, ...] = ()
    """Bearing stress allowed by what lies under each support, N/mm²; infinite where it is no softer."""
    camber: float = 0.0


class Demand(msgspec.Struct, frozen=True):
    """What the loads ask of one member, per combination (K): N mm, N, mm."""

    sagging: Floats
    hogging: Floats
    shear: Floats
    live: Floats
    """Deflection under all but the dead load, as a share of the limit."""
    total: Floats
    reaction: Floats
    """(K, supports): the greatest."""
    lifting: float
    """The least reaction of any support under any combination; negative where it lifts off."""
    sag: tuple[float, float]
    """Greatest deflection under live and under all load, mm."""


class Answer(msgspec.Struct, frozen=True):
    """What came out for one member."""

    asked: Asked
    demand: Demand
    ratios: tuple[float, ...]
    """By :data:`BEAM_CHECKS`."""
    governs: tuple[int, ...]
    """The combination that governs each, by its place in ``combinations``."""
    combinations: tuple[Combination, ...]

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation and its check."""
        i = max(range(len(self.ratios)), key=lambda k: self.ratios[k])
        return self.ratios[i], BEAM_CHECKS[i]


class Diagram(msgspec.Struct, frozen=True):
    """What is drawn along a member: stations, and the least and greatest shear, moment and deflection there."""

    x: tuple[float, ...]
    shear: tuple[tuple[float, float], ...]
    moment: tuple[tuple[float, float], ...]
    sag: tuple[tuple[float, float], ...]


def answers(asked: Sequence[Asked]) -> list[Answer | None]:
    """Check members side by side; None for one that cannot stand."""
    found: dict[int, Answer] = {}
    groups: dict[tuple[int, tuple[int, ...]], list[int]] = {}
    for i, one in enumerate(asked):
        groups.setdefault((len(span_marks(one.member)) - 1, tuple(_loaded(one))), []).append(i)
    for (spans, loaded), group in groups.items():
        for worked, mine in _worked([asked[i] for i in group], spans):
            for i, answer in zip(mine, _answers(worked, [asked[group[i]] for i in mine], spans, loaded)):
                found[group[i]] = answer
    return [found.get(i) for i in range(len(asked))]


def _worked(group: list[Asked], spans: int) -> list[tuple[Worked, tuple[int, ...]]]:
    """Solve a group; where one of them cannot stand, each by itself."""
    made = [beam_of(a.member, a.area, a.parcels, a.strength.ei, by_span=True)[0] for a in group]
    cases = len(CASES) * spans
    try:
        return [(w, w.order) for w in work(made, cases)]
    except UnstableError:
        return [(w, (i,)) for i, b in enumerate(made) for w in _alone(b, cases)]


def diagram_of(one: Asked) -> "Diagram | None":
    """Return what is drawn along one member; None where it cannot stand."""
    spans = len(span_marks(one.member)) - 1
    for worked, _ in _worked([one], spans):
        d = worked.drawn
        moments, shears = np.stack(d.moment, axis=-1), np.stack(d.shear, axis=-1)
        return _diagram(0, d.x, moments, shears, d.sag, combinations_for_cases(_loaded(one)), spans)
    return None


def _alone(beam: Beam, cases: int) -> list[Worked]:
    try:
        return list(work([beam], cases))
    except UnstableError:
        return []


def _loaded(one: Asked) -> list[int]:
    """Return the cases that are not nothing."""
    sums = np.array(one.area) * one.member.area + np.array(one.member.line) * one.member.length
    for p in one.parcels:
        sums = sums + np.abs(np.array(p.forces))
    return [c for c in range(len(CASES)) if c == 0 or sums[c] != 0]


def combinations_for_cases(loaded: Sequence[int]) -> tuple[Combination, ...]:
    """Return the combinations whose loads are all there, one of each sum."""
    found = []
    for c in COMBINATIONS:
        if all(not f or i in loaded for i, f in enumerate(c.factors)):
            found.append(c)
    return tuple(found)


def _answers(worked: Worked, group: list[Asked], spans: int, loaded: tuple[int, ...]) -> list[Answer]:
    combos = combinations_for_cases(loaded)
    d = worked.drawn
    moments = np.stack(d.moment, axis=-1)
    shears = np.stack(d.shear, axis=-1)
    reactions = worked.solved.reaction
    held = [i for i, h in enumerate(worked.batch.holds) if h != "free"]
    marks = np.array([span_marks(a.member) for a in group])
    cantilever = _overhangs(group, spans)
    per_combo = []
    exact = _whole_peaks(worked, spans, combos) if spans == 1 else None
    for k, combo in enumerate(combos):
        low_m, high_m = _envelope(moments, combo, spans)
        low_v, high_v = _envelope(shears, combo, spans)
        low_s, high_s = _envelope(d.sag, combo, spans)
        live = msgspec.structs.replace(combo, factors=(0.0, *combo.factors[1:]))
        low_l, high_l = _envelope(d.sag, live, spans)
        low_r, high_r = _envelope(reactions[:, :, held], combo, spans)
        sagging = high_m.max(axis=(1, 2)) if exact is None else exact[k][0]
        hogging = (-low_m).max(axis=(1, 2)) if exact is None else exact[k][1]
        sag_by_span = _by_span(d.x, np.maximum(high_s, -low_s), marks, exact[k][2] if exact else None)
        live_by_span = _by_span(d.x, np.maximum(high_l, -low_l), marks, exact[k][3] if exact else None)
        per_combo.append(
            (sagging, hogging, np.maximum(high_v, -low_v).max(axis=(1, 2)), live_by_span, sag_by_span, high_r, low_r)
        )
    found = []
    for i, a in enumerate(group):
        lengths = np.diff(marks[i]) * np.where(cantilever, 2.0, 1.0)
        camber = np.where(cantilever, 0.0, a.camber)
        total = np.stack([np.maximum(row[4][i] - camber, 0.0) for row in per_combo])
        live_sag = np.stack([row[3][i] for row in per_combo])
        demand = Demand(
            np.array([row[0][i] for row in per_combo]), np.array([row[1][i] for row in per_combo]),
            np.array([row[2][i] for row in per_combo]), (live_sag * a.live_limit / lengths).max(axis=1),
            (total * a.total_limit / lengths).max(axis=1), np.stack([row[5][i] for row in per_combo]),
            float(min(row[6][i].min() for row in per_combo)), (float(live_sag.max()), float(total.max())),
        )  # fmt: skip
        ratios, governs = _ratios(a, demand, combos)
        found.append(Answer(a, demand, ratios, governs, combos))
    return found


def _overhangs(group: list[Asked], spans: int) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Tell which spans of a form are overhangs: those before the first and after the last support."""
    rests = apart(group[0].member.supports)
    marks = span_marks(group[0].member)
    return np.array([marks[s] < rests[0].at - 1e-6 or marks[s] > rests[-1].at - 1e-6 for s in range(spans)])


def _envelope(values: Floats, combo: Combination, spans: int) -> tuple[Floats, Floats]:
    """Return the least and the greatest of a result when each variable load may stand on each span or not."""
    low = combo.factors[0] * values[0]
    high = low.copy()
    for case, factor in enumerate(combo.factors[1:], 1):
        if factor:
            part = factor * values[case * spans : (case + 1) * spans]
            low = low + np.minimum(part, 0.0).sum(axis=0)
            high = high + np.maximum(part, 0.0).sum(axis=0)
    return low, high


def _whole_peaks(
    worked: Worked, spans: int, combos: Sequence[Combination]
) -> list[tuple[Floats, Floats, Floats, Floats]]:
    """Return per combination the exact greatest moments and deflections of beams of one span: no pattern changes them."""
    d = worked.drawn
    found = []
    for combo in combos:
        factors = np.array(combo.factors)
        live = factors.copy()
        live[0] = 0.0

        def mixed(f: Floats) -> object:
            def mix(v: Floats) -> Floats:
                out: Floats = np.einsum("c,cbs->bs", f, v[: len(CASES)])[None]
                return out

            return type(d)(
                d.x, (mix(d.shear[0]), mix(d.shear[1])), (mix(d.moment[0]), mix(d.moment[1])), mix(d.sag),
                (mix(d.slope[0]), mix(d.slope[1])),
            )  # fmt: skip

        whole, part = mixed(factors), mixed(live)
        found.append(
            (
                greatest_moment(whole)[0], greatest_moment(whole, -1)[0],  # type: ignore[arg-type]
                np.maximum(greatest_sag(whole), greatest_sag(whole, -1))[0],  # type: ignore[arg-type]
                np.maximum(greatest_sag(part), greatest_sag(part, -1))[0],  # type: ignore[arg-type]
            )
        )  # fmt: skip
    return found


def _by_span(x: Floats, values: Floats, marks: Floats, whole: Floats | None) -> Floats:
    """Return the greatest value within each span, (B, spans); ``whole`` where it is known exactly for one span."""
    if whole is not None:
        return whole[:, None]
    found = []
    for s in range(marks.shape[1] - 1):
        inside = (x >= marks[:, s, None] - 1e-6) & (x <= marks[:, s + 1, None] + 1e-6)
        found.append(np.where(inside, values, 0.0).max(axis=1))
    return np.stack(found, axis=1)


def stability_factor(a: Asked, duration: float, unbraced: float) -> float:
    """Return C_L (NDS 3.3.3) for one combination; 1 where the edge in compression is held, or the piece is no deeper than
    wide. Slenderness over 50 leaves nothing."""
    s = a.strength
    if not s.fb or unbraced <= 0 or s.depth <= s.breadth:
        return 1.0
    slender2 = effective_length(unbraced, s.depth) * s.depth / s.breadth**2
    if slender2 > 2500:
        return 1e-9
    ratio = 1.20 * s.e_min / slender2 / (s.fb * duration)
    middle = (1 + ratio) / 1.9
    return float(middle - (middle**2 - ratio / 0.95) ** 0.5)


def _ratios(a: Asked, demand: Demand, combos: Sequence[Combination]) -> tuple[tuple[float, ...], tuple[int, ...]]:
    s = a.strength
    cd = np.array([c.duration if s.duration else 1.0 for c in combos])
    longest = float(np.diff(span_marks(a.member)).max())
    down = np.array([min(stability_factor(a, d, a.unbraced), s.cv) for d in cd])
    up = np.array([min(stability_factor(a, d, longest), s.cv) for d in cd])
    bending = np.maximum(demand.sagging / (s.moment * cd * down), demand.hogging / (s.moment * cd * up))
    shear = demand.shear / (s.shear * cd)
    bearing = np.zeros(len(combos))
    rests = apart(a.member.supports)
    for i, rest in enumerate(rests):
        soft = a.soft[i] * s.breadth if i < len(a.soft) else np.inf
        held = min(s.bearing, soft) * rest.length
        limit = np.minimum(held, s.end * cd) if rest.on else np.inf
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = np.where(demand.reaction[:, i] > 0, demand.reaction[:, i] / limit, 0.0)
        bearing = np.maximum(bearing, np.nan_to_num(ratio, nan=0.0, posinf=99.0))
    stack = np.stack([bending, shear, demand.live, demand.total, bearing])
    return tuple(stack.max(axis=1).tolist()), tuple(stack.argmax(axis=1).tolist())


def _diagram(
    i: int, x: Floats, moments: Floats, shears: Floats, sags: Floats, combos: Sequence[Combination], spans: int
) -> Diagram:
    """Return the envelope over all combinations along one member."""
    lows: dict[str, Floats] = {}
    highs: dict[str, Floats] = {}
    for combo in combos:
        for name, values in (("m", moments), ("v", shears), ("s", sags[..., None])):
            low, high = _envelope(values[:, i], combo, spans)
            lows[name] = np.minimum(lows[name], low) if name in lows else low
            highs[name] = np.maximum(highs[name], high) if name in highs else high
    stations = [float(v) for v in x[i] for _ in range(2)]

    def pairs(name: str) -> tuple[tuple[float, float], ...]:
        low = np.repeat(lows[name], 2, axis=1) if lows[name].shape[1] == 1 else lows[name]
        high = np.repeat(highs[name], 2, axis=1) if highs[name].shape[1] == 1 else highs[name]
        return tuple(zip(low.ravel().tolist(), high.ravel().tolist()))

    return Diagram(tuple(stations), pairs("v"), pairs("m"), pairs("s"))


def explain_answer(answer: Answer) -> tuple[Check, ...]:
    """Return the checks of one member with their steps."""
    a, demand, s = answer.asked, answer.demand, answer.asked.strength
    found = []
    longest = float(np.diff(span_marks(a.member)).max())
    for k, name in enumerate(BEAM_CHECKS):
        g = answer.governs[k]
        combo = answer.combinations[g]
        cd = combo.duration if s.duration else 1.0
        duration = (Step("CD", cd, "factor", "NDS 2.3.2"),) if s.duration else ()
        if name == "Bending":
            hogs = demand.hogging[g] > demand.sagging[g]
            m = float(max(demand.hogging[g], demand.sagging[g]))
            cl = stability_factor(a, cd, longest if hogs else a.unbraced)
            held = (Step("CL", cl, "factor", "NDS 3.3.3"),) if s.fb else ()
            steps = (
                Step("M", m, "moment", how="hogging" if hogs else "sagging"), *s.moment_steps, *duration, *held,
                Step("M allowed", s.moment * cd * min(cl, s.cv), "moment"),
            )  # fmt: skip
            clause = "NDS 3.3" if s.code == "NDS" else "AISC 360 F"
        elif name == "Shear":
            steps = (
                Step("V", float(demand.shear[g]), "force", "NDS 3.4.3" if s.code == "NDS" else "", "whole reaction"),
                *s.shear_steps, *duration, Step("V allowed", s.shear * cd, "force"),
            )  # fmt: skip
            clause = "NDS 3.4" if s.code == "NDS" else "AISC 360 G"
        elif "deflection" in name:
            live = name.startswith("Live")
            limit = a.live_limit if live else a.total_limit
            camber = (Step("camber", a.camber, "run"),) if a.camber and not live else ()
            steps = (
                Step("Δ", demand.sag[0 if live else 1], "run", "NDS 3.5" if s.code == "NDS" else "", "from the analysis"),
                *camber, *s.stiff_steps, Step("limit ℓ/", limit, "factor", "IRC R301.7"),
            )  # fmt: skip
            clause = "NDS 3.5" if s.code == "NDS" else "IBC 1604.3"
        else:
            steps, clause = _bearing_steps(a, demand, g), "NDS 3.10"
        found.append(Check(name, answer.ratios[k], combo.name, clause, steps))
    return tuple(found)


def _bearing_steps(a: Asked, demand: Demand, g: int) -> tuple[Step, ...]:
    rests = apart(a.member.supports)
    i = int(demand.reaction[g].argmax())
    soft = a.soft[i] if i < len(a.soft) else float("inf")
    softer = (Step("under it", soft, "stress", "NDS 4.3.1"),) if soft < float("inf") else ()
    return (
        Step("R", float(demand.reaction[g, i]), "force"), Step("ℓb", rests[i].length, "run"), *a.strength.bearing_steps, *softer,
    )  # fmt: skip
