"""Checks of beams, headers, trimmers and joists that carry more than their strip of floor: any supports, any loads.

Demands are taken from the analysis with live load on every set of spans that makes them worst (ASCE 7-16, 4.3.3): at each
place the loads that add to it count, those that take from it do not. One set of array functions over members side by
side, whatever they are made of.
"""

from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.analysis.beams import Diagrams, Floats, UnstableError, extreme_moments, extreme_sags
from balken.analysis.one_beam import Beam, Worked, work
from balken.design.nds.factors import effective_length
from balken.design.steps import Check, Step
from balken.design.strength import Strength
from balken.framing.member import Member
from balken.loads.cases import CASES, COMBINATIONS, Combination
from balken.loads.parcels import Cases, Parcel
from balken.loads.statics import apart, beam_of, span_marks
from balken.model.memo import Memo

BEAM_CHECKS: Final = ("Bending", "Shear", "Live deflection", "Total deflection", "Bearing")


class Loaded(msgspec.Struct, frozen=True, gc=False):
    """One member with all it carries: what its moments and shears follow from, whatever it is made of."""

    member: Member
    area: Cases
    parcels: tuple[Parcel, ...]


class Asked(msgspec.Struct, frozen=True, gc=False):
    """One member to be checked, with what it resists."""

    loaded: Loaded
    strength: Strength
    live_limit: float
    total_limit: float
    unbraced: float = 0.0
    """Of the edge in compression where it sags, mm."""
    soft: tuple[float, ...] = ()
    """Bearing stress allowed by what lies under each support, N/mm²; infinite where it is no softer."""
    camber: float = 0.0

    @property
    def member(self) -> Member:
        """The member itself."""
        return self.loaded.member


class Effects(msgspec.Struct, frozen=True):
    """What the loads do to a member, per combination (K) and span: N mm, N; deflections times EI, N mm³."""

    combinations: tuple[Combination, ...]
    sagging: Floats
    hogging: Floats
    shear: Floats
    live: Floats
    """(K, spans): under all but the dead load."""
    total: Floats
    reaction: Floats
    """(K, supports): the greatest."""
    lifting: Floats
    """(supports): the least under any combination; negative where it lifts off."""
    spans: Floats
    cantilever: NDArray[np.bool_]


class Answer(msgspec.Struct, frozen=True):
    """What came out for one member."""

    asked: Asked
    effects: Effects
    ratios: tuple[float, ...]
    """By :data:`BEAM_CHECKS`."""
    governs: tuple[int, ...]
    """The combination that governs each, by its place in the effects' combinations."""

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation and its check."""
        i = max(range(len(self.ratios)), key=lambda k: self.ratios[k])
        return self.ratios[i], BEAM_CHECKS[i]

    def sag(self, name: str) -> float:
        """Return the greatest deflection under ``live`` or ``total`` load, mm."""
        return float(getattr(self.effects, name).max()) / self.asked.strength.ei


class Diagram(msgspec.Struct, frozen=True):
    """What is drawn along a member: stations, and the least and greatest shear, moment and deflection there."""

    x: tuple[float, ...]
    shear: tuple[tuple[float, float], ...]
    moment: tuple[tuple[float, float], ...]
    sag: tuple[tuple[float, float], ...]


def effects_of(loaded: Sequence[Loaded], memo: Memo) -> list[Effects | None]:
    """Work out what loads do to members, side by side; None for one that cannot stand."""
    found: dict[int, Effects] = {}
    groups: dict[tuple[int, tuple[int, ...]], list[int]] = {}
    for i, one in enumerate(loaded):
        groups.setdefault((len(span_marks(one.member)) - 1, tuple(_cases(one))), []).append(i)
    for (spans, cases), group in groups.items():
        for worked, mine in _worked([loaded[i] for i in group], spans, max(cases) + 1, memo):
            for i, made in zip(mine, _effects(worked, [loaded[group[i]] for i in mine], spans, cases)):
                found[group[i]] = made
    return [found.get(i) for i in range(len(loaded))]


def _worked(group: list[Loaded], spans: int, cases: int, memo: Memo) -> list[tuple[Worked, tuple[int, ...]]]:
    """Solve a group for its first cases with EI = 1; where one of them cannot stand, each by itself."""
    made = [beam_of(a.member, a.area, a.parcels, memo, by_span=True)[0] for a in group]
    try:
        return [(w, w.order) for w in work(made, cases * spans)]
    except UnstableError:
        return [(w, (i,)) for i, b in enumerate(made) for w in _alone(b, cases * spans)]


def diagram_of(one: Asked) -> Diagram | None:
    """Return what is drawn along one member; None where it cannot stand."""
    spans = len(span_marks(one.member)) - 1
    cases = _cases(one.loaded)
    for worked, _ in _worked([one.loaded], spans, max(cases) + 1, Memo()):
        d = worked.drawn
        moments, shears = np.stack(d.moment, axis=-1), np.stack(d.shear, axis=-1)
        combos = combinations_for_cases(cases)
        return _diagram(d.x, moments, shears, d.sag / one.strength.ei, combos, spans)
    return None


def _alone(beam: Beam, cases: int) -> list[Worked]:
    try:
        return list(work([beam], cases))
    except UnstableError:
        return []


def _cases(one: Loaded) -> list[int]:
    """Return the cases that are not nothing."""
    own = [a * one.member.area + q * one.member.reach for a, q in zip(one.area, one.member.line)]
    return [c for c in range(len(CASES)) if c == 0 or own[c] or any(p.forces[c] for p in one.parcels)]


def combinations_for_cases(loaded: Sequence[int]) -> tuple[Combination, ...]:
    """Return the combinations whose loads are all there, one of each sum."""
    found = []
    for c in COMBINATIONS:
        if all(not f or i in loaded for i, f in enumerate(c.factors)):
            found.append(c)
    return tuple(found)


def _effects(worked: Worked, group: list[Loaded], spans: int, loaded: tuple[int, ...]) -> list[Effects]:
    combos = combinations_for_cases(loaded)
    d = worked.drawn
    moments = np.stack(d.moment, axis=-1)
    shears = np.stack(d.shear, axis=-1)
    held = [i for i, h in enumerate(worked.batch.holds) if h != "free"]
    marks = np.array([span_marks(a.member) for a in group])
    exact = _whole_peaks(worked, combos) if spans == 1 else None
    rows: list[tuple[Floats, ...]] = []
    for k, combo in enumerate(combos):
        low_m, high_m = _envelope(moments, combo, spans)
        low_v, high_v = _envelope(shears, combo, spans)
        low_s, high_s = _envelope(d.sag, combo, spans)
        live = msgspec.structs.replace(combo, factors=(0.0, *combo.factors[1:]))
        low_l, high_l = _envelope(d.sag, live, spans)
        low_r, high_r = _envelope(worked.solved.reaction[:, :, held], combo, spans)
        sagging = high_m.max(axis=(1, 2)) if exact is None else exact[0][k]
        hogging = (-low_m).max(axis=(1, 2)) if exact is None else exact[1][k]
        sag = _by_span(d.x, np.maximum(high_s, -low_s), marks, exact[2][k] if exact else None)
        live_sag = _by_span(d.x, np.maximum(high_l, -low_l), marks, exact[3][k] if exact else None)
        rows.append((sagging, hogging, np.maximum(high_v, -low_v).max(axis=(1, 2)), live_sag, sag, high_r, low_r))
    columns = [np.stack([row[c] for row in rows], axis=1) for c in range(7)]
    least = columns[6].min(axis=1)
    found = []
    for i in range(len(group)):
        sag, hog, v, live, whole, r = (c[i] for c in columns[:6])
        found.append(
            Effects(
                combos, sag, hog, v, live, whole, r, least[i], np.diff(marks[i]), _overhangs(group[i].member, spans)
            )
        )
    return found


def _overhangs(member: Member, spans: int) -> NDArray[np.bool_]:
    """Tell which spans of a member are overhangs: those before the first and after the last support."""
    rests = apart(member.supports)
    marks = span_marks(member)
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


def _whole_peaks(worked: Worked, combos: Sequence[Combination]) -> tuple[Floats, Floats, Floats, Floats]:
    """Return the exact greatest moments, sagging and hogging, and deflections, total and live, of beams of one span, per
    combination (K, B): no pattern changes them."""
    d = worked.drawn
    factors = np.array([c.factors for c in combos])[:, : len(d.sag)]
    live = factors.copy()
    live[:, 0] = 0.0

    def mixed(f: Floats) -> Diagrams:
        def mix(v: Floats) -> Floats:
            out: Floats = np.tensordot(f, v, 1)
            return out

        return Diagrams(
            d.x, (mix(d.shear[0]), mix(d.shear[1])), (mix(d.moment[0]), mix(d.moment[1])), mix(d.sag),
            (mix(d.slope[0]), mix(d.slope[1])),
        )  # fmt: skip

    whole = mixed(factors)
    (sagging, hogging), total = extreme_moments(whole), extreme_sags(whole)
    part = extreme_sags(mixed(live))
    return sagging, -hogging, np.maximum(total[0], -total[1]), np.maximum(part[0], -part[1])


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
    return float(_stability([a], np.array([[duration]]), np.array([unbraced]))[0, 0])


def _stability(asked: Sequence[Asked], duration: Floats, unbraced: Floats) -> Floats:
    """Return C_L of members (B) for the durations of their combinations (B, K)."""
    fb, e_min, breadth, depth = (
        np.array(v)
        for v in zip(*((a.strength.fb, a.strength.e_min, a.strength.breadth, a.strength.depth) for a in asked))
    )
    bends = (fb > 0) & (unbraced > 0) & (depth > breadth)
    length = np.array([effective_length(u, d) if there else 0.0 for u, d, there in zip(unbraced, depth, bends)])
    slender2 = np.where(bends, length * depth / np.where(bends, breadth, 1.0) ** 2, 1.0)
    ratio = (1.20 * e_min / slender2)[:, None] / (np.where(bends, fb, 1.0)[:, None] * duration)
    middle = (1 + ratio) / 1.9
    found: Floats = middle - np.sqrt(np.maximum(middle**2 - ratio / 0.95, 0.0))
    found = np.where((slender2 > 2500)[:, None], 1e-9, found)
    return np.where(bends[:, None], found, 1.0)


def judge(a: Asked, effects: Effects) -> Answer:
    """Hold what loads do to a member against what it resists."""
    return judge_all([a], [effects])[0]


def judge_all(asked: Sequence[Asked], effects: Sequence[Effects]) -> list[Answer]:
    """Hold what loads do to members against what they resist, side by side where they are of one form."""
    groups: dict[tuple[int, int, int], list[int]] = {}
    for i, e in enumerate(effects):
        groups.setdefault((*e.live.shape, e.reaction.shape[1]), []).append(i)
    found: dict[int, Answer] = {}
    for group in groups.values():
        ratios = _ratios([asked[i] for i in group], [effects[i] for i in group])
        most, governs = ratios.max(axis=2).T.tolist(), ratios.argmax(axis=2).T.tolist()
        for i, worst, by in zip(group, most, governs):
            found[i] = Answer(asked[i], effects[i], tuple(worst), tuple(by))
    return [found[i] for i in range(len(asked))]


def _ratios(asked: list[Asked], effects: list[Effects]) -> Floats:
    """Return utilisations of members of one form, (checks, B, K)."""
    cd = np.array(
        [[c.duration if a.strength.duration else 1.0 for c in e.combinations] for a, e in zip(asked, effects)]
    )
    moment, shear, ei, cv, live_limit, total_limit, camber, unbraced = (
        np.array(v)[:, None] for v in zip(*(_terms(a) for a in asked))
    )
    sagging, hogging, force = (
        np.stack([getattr(e, name) for e in effects]) for name in ("sagging", "hogging", "shear")
    )
    spans, cantilever = np.stack([e.spans for e in effects]), np.stack([e.cantilever for e in effects])
    down = np.minimum(_stability(asked, cd, unbraced[:, 0]), cv)
    up = np.minimum(_stability(asked, cd, spans.max(axis=1)), cv)
    bending = np.maximum(sagging / (moment * cd * down), hogging / (moment * cd * up))
    # A cantilever may sag as much as a span of twice its length (IBC 2021 table 1604.3, note i).
    lengths = (spans * np.where(cantilever, 2.0, 1.0))[:, None]
    raised = np.where(cantilever, 0.0, camber)[:, None]
    stiff = ei[..., None]
    live = (np.stack([e.live for e in effects]) / stiff * live_limit[..., None] / lengths).max(axis=2)
    sag = np.maximum(np.stack([e.total for e in effects]) / stiff - raised, 0.0)
    total = (sag * total_limit[..., None] / lengths).max(axis=2)
    return np.stack([bending, force / (shear * cd), live, total, _bearing(asked, effects, cd)])


def _terms(a: Asked) -> tuple[float, ...]:
    s = a.strength
    return s.moment, s.shear, s.ei, s.cv, a.live_limit, a.total_limit, a.camber, a.unbraced


def _bearing(asked: list[Asked], effects: list[Effects], cd: Floats) -> Floats:
    """Return the worst bearing of any support, (B, K); one that bears on nothing is a finding of its own."""
    rests = [apart(a.member.supports) for a in asked]
    length = np.array([[r.length for r in mine] for mine in rests])
    there = np.array([[bool(r.on) for r in mine] for mine in rests])
    soft = np.array([[*a.soft, *[np.inf] * (len(mine) - len(a.soft))] for a, mine in zip(asked, rests)])
    breadth, own, end = (
        np.array(v) for v in zip(*((a.strength.breadth, a.strength.bearing, a.strength.end) for a in asked))
    )
    hard = np.isinf(soft)
    stress = np.minimum(own[:, None], np.where(hard, np.inf, np.where(hard, 0.0, soft) * breadth[:, None]))
    held = np.minimum((stress * np.maximum(length, 1e-9))[:, None], end[:, None, None] * cd[..., None])
    reaction = np.stack([e.reaction for e in effects])
    found: Floats = np.where(there[:, None] & (reaction > 0), reaction / held, 0.0).max(axis=2)
    return found


def _diagram(
    x: Floats, moments: Floats, shears: Floats, sags: Floats, combos: Sequence[Combination], spans: int
) -> Diagram:
    """Return the envelope over all combinations along one member."""
    lows: dict[str, Floats] = {}
    highs: dict[str, Floats] = {}
    for combo in combos:
        for name, values in (("m", moments), ("v", shears), ("s", sags[..., None])):
            low, high = _envelope(values[:, 0], combo, spans)
            lows[name] = np.minimum(lows[name], low) if name in lows else low
            highs[name] = np.maximum(highs[name], high) if name in highs else high
    stations = [float(v) for v in x[0] for _ in range(2)]

    def pairs(name: str) -> tuple[tuple[float, float], ...]:
        low = np.repeat(lows[name], 2, axis=1) if lows[name].shape[1] == 1 else lows[name]
        high = np.repeat(highs[name], 2, axis=1) if highs[name].shape[1] == 1 else highs[name]
        return tuple(zip(low.ravel().tolist(), high.ravel().tolist()))

    return Diagram(tuple(stations), pairs("v"), pairs("m"), pairs("s"))


def explain_answer(answer: Answer) -> tuple[Check, ...]:
    """Return the checks of one member with their steps."""
    found = []
    for k, name in enumerate(BEAM_CHECKS):
        g = answer.governs[k]
        combo = answer.effects.combinations[g]
        steps, clause = _STEPS[k](answer, g, combo.duration if answer.asked.strength.duration else 1.0)
        found.append(Check(name, answer.ratios[k], combo.name, clause, steps))
    return tuple(found)


Explained = tuple[tuple[Step, ...], str]


def _duration(s: Strength, cd: float) -> tuple[Step, ...]:
    return (Step("CD", cd, "factor", "NDS 2.3.2"),) if s.duration else ()


def _bending_steps(answer: Answer, g: int, cd: float) -> Explained:
    a, s, e = answer.asked, answer.asked.strength, answer.effects
    hogs = bool(e.hogging[g] > e.sagging[g])
    cl = stability_factor(a, cd, float(e.spans.max()) if hogs else a.unbraced)
    held = (Step("CL", cl, "factor", "NDS 3.3.3"),) if s.fb else ()
    steps = (
        Step("M", float(max(e.hogging[g], e.sagging[g])), "moment", how="hogging" if hogs else "sagging"), *s.moment_steps,
        *_duration(s, cd), *held, Step("M allowed", s.moment * cd * min(cl, s.cv), "moment"),
    )  # fmt: skip
    return steps, "NDS 3.3" if s.code == "NDS" else "AISC 360 F"


def _shear_steps(answer: Answer, g: int, cd: float) -> Explained:
    s = answer.asked.strength
    nds = s.code == "NDS"
    steps = (
        Step("V", float(answer.effects.shear[g]), "force", "NDS 3.4.3" if nds else "", "whole reaction"), *s.shear_steps,
        *_duration(s, cd), Step("V allowed", s.shear * cd, "force"),
    )  # fmt: skip
    return steps, "NDS 3.4" if nds else "AISC 360 G"


def _live_steps(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    steps = (
        Step("Δ live", answer.sag("live"), "run", how="from the analysis"), *a.strength.stiff_steps,
        Step("limit ℓ/", a.live_limit, "factor", "IRC R301.7"),
    )  # fmt: skip
    return steps, "NDS 3.5" if a.strength.code == "NDS" else "IBC 1604.3"


def _total_steps(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    camber = (Step("camber", a.camber, "run"),) if a.camber else ()
    steps = (
        Step("Δ total", answer.sag("total"), "run", how="from the analysis"), *camber, *a.strength.stiff_steps,
        Step("limit ℓ/", a.total_limit, "factor", "IRC R301.7"),
    )  # fmt: skip
    return steps, "NDS 3.5" if a.strength.code == "NDS" else "IBC 1604.3"


def _bearing_steps(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    rests = apart(a.member.supports)
    i = int(answer.effects.reaction[g].argmax())
    soft = a.soft[i] if i < len(a.soft) else float("inf")
    softer = (Step("under it", soft, "stress", "NDS 4.3.1"),) if soft < float("inf") else ()
    steps = (
        Step("R", float(answer.effects.reaction[g, i]), "force"), Step("ℓb", rests[i].length, "run"),
        *a.strength.bearing_steps, *softer,
    )  # fmt: skip
    return steps, "NDS 3.10"


_STEPS: Final = (_bending_steps, _shear_steps, _live_steps, _total_steps, _bearing_steps)
