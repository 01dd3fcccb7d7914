"""Checks of beams, headers, trimmers and joists that carry more than their strip of floor: any
supports, any loads.

Demands are taken from the analysis with live load on every set of spans that makes them worst (ASCE
7-16, 4.3.3): at each place the loads that add to it count, those that take from it do not. One set
of array functions over members side by side, whatever they are made of.

Where a member sags its upper edge is held by what lies on it; where it hogs its lower edge is held
at its supports alone.
"""

from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np

from balken.analysis.beams import Floats
from balken.design.effects import Effects, Loaded
from balken.design.leaning import Push, push_check
from balken.design.lines import Check, Line
from balken.design.notches import Neck, bored_check, neck_check
from balken.design.seats import Seat
from balken.design.strength import BeamRules, Loading, Strength
from balken.framing.member import Member, apart
from balken.model.project import Bore

BENDING: Final = 0


def check_names(rules: BeamRules) -> tuple[str, ...]:
    """The checks that every member has, in the order of their ratios."""
    return ("Bending", "Shear", *rules.sags, "Bearing")


class Asked(msgspec.Struct, frozen=True, gc=False):
    """One member to be checked, with what it resists."""

    loaded: Loaded
    strength: Strength
    live_limit: float
    total_limit: float
    unbraced: float = 0.0
    """Of the upper edge, in compression where it sags, mm."""
    loading: Loading = "uniform"
    """How it is bent between the places where its upper edge is held."""
    seats: tuple[Seat, ...] = ()
    """What each of its supports takes."""
    camber: float = 0.0
    bores: tuple[Bore, ...] = ()
    neck: Neck | None = None
    push: Push | None = None

    @property
    def member(self) -> Member:
        """The member itself."""
        return self.loaded.member


class Answer(msgspec.Struct, frozen=True):
    """What came out for one member."""

    asked: Asked
    effects: Effects
    ratios: tuple[float, ...]
    """By :func:`check_names`."""
    governs: tuple[int, ...]
    """The combination that governs each, by its place in the effects' combinations."""
    extra: tuple[Check, ...] = ()
    """Checks that few members have: thrust, notches and holes, the birdsmouth under a tail."""

    @property
    def names(self) -> tuple[str, ...]:
        """Of the checks behind the ratios."""
        return check_names(self.asked.strength.rules)

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation and its check."""
        return max(
            [*zip(self.ratios, self.names), *((c.ratio, c.name) for c in self.extra)],
            key=lambda r: r[0],
        )

    def sag(self, name: str) -> float:
        """The greatest deflection under ``live`` or ``total`` load, mm."""
        return float(getattr(self.effects, name).max()) / self.asked.strength.ei


def stability_factor(a: Asked, duration: float, length: float, *, hogs: bool = False) -> float:
    """What buckling sideways leaves of a member in one combination; 1 where the edge in compression
    is held, or the piece is no deeper than wide.

    Args:
        a: the member.
        duration: what it makes of strength.
        length: effective, mm.
        hogs: whether its upper edge is in tension.
    """
    fb = np.array([[a.strength.fb_hogging if hogs else a.strength.fb]])
    return float(_stability([a], fb, np.array([[duration]]), np.array([[length]]))[0, 0, 0])


def _stability(asked: Sequence[Asked], fb: Floats, duration: Floats, length: Floats) -> Floats:
    """What buckling sideways leaves of members, (B, K, spans): of one code, for they stand in one
    building."""
    return _rules(asked).stability([a.strength for a in asked], fb, duration, length)


def _rules(asked: Sequence[Asked]) -> BeamRules:
    return asked[0].strength.rules


def hogging_lengths(a: Asked, effects: Effects) -> Floats:
    """Effective length of the lower edge of each span of a wood member, mm: overhangs by their own
    rows of the code's table, spans between supports by what it says of those it does not name."""
    depth = a.strength.depth
    return np.array(
        [
            a.strength.rules.effective_length(
                float(length), depth, _row_of(bool(out), bool(pointed))
            )
            for length, out, pointed in zip(effects.spans, effects.cantilever, effects.pointed)
        ]
    )


def _row_of(overhang: bool, pointed: bool) -> Loading:
    if not overhang:
        return "other"
    return "cantilever end" if pointed else "cantilever uniform"


def sagging_length(a: Asked) -> float:
    """Effective length of the upper edge of a wood member, mm; nothing where it is held all
    along."""
    if a.unbraced <= 0:
        return 0.0
    return a.strength.rules.effective_length(a.unbraced, a.strength.depth, a.loading)


def steel_hogging(a: Asked, effects: Effects) -> Floats:
    """Allowable hogging moments of a steel member, (K, spans), N mm: its lower flange is held at
    supports alone; the factor for the shape of the moment is 1 of an overhang, and elsewhere from
    the moments at both ends of the span."""
    lateral = a.strength.lateral
    assert lateral is not None, "a steel member has its lateral values"
    gradient = a.strength.rules.gradient
    found = np.empty(effects.hogging.shape)
    for k, ends in enumerate(effects.ends):
        for s, length in enumerate(effects.spans):
            low, high = sorted(ends[s])
            cb = 1.0 if effects.cantilever[s] else gradient(float(high), float(low))
            found[k, s] = lateral.allowable(float(length), cb)
    return found


def judge(a: Asked, effects: Effects) -> Answer:
    """Hold what loads do to a member against what it resists."""
    return judge_all([a], [effects])[0]


def judge_all(asked: Sequence[Asked], effects: Sequence[Effects]) -> list[Answer]:
    """Hold what loads do to members against what they resist, side by side where they are of one
    form."""
    groups: dict[tuple[int, int, int], list[int]] = {}
    for i, e in enumerate(effects):
        groups.setdefault((*e.live.shape, e.reaction.shape[1]), []).append(i)
    found: dict[int, Answer] = {}
    for group in groups.values():
        ratios = _ratios([asked[i] for i in group], [effects[i] for i in group])
        bending = ratios[BENDING].tolist()
        most, governs = ratios.max(axis=2).T.tolist(), ratios.argmax(axis=2).T.tolist()
        for i, worst, by, bent in zip(group, most, governs, bending):
            found[i] = Answer(
                asked[i], effects[i], tuple(worst), tuple(by), _extra(asked[i], effects[i], bent)
            )
    return [found[i] for i in range(len(asked))]


def _extra(a: Asked, effects: Effects, bending: list[float]) -> tuple[Check, ...]:
    """Checks that few members have."""
    found: list[Check | None] = []
    if a.push is not None:
        found.append(push_check(a.push, a.strength.rules, effects, bending))
    if a.neck is not None:
        found.append(neck_check(a.neck, a.strength, effects))
    if a.bores:
        found.append(bored_check(a.bores, a.loaded, a.strength, effects))
    return tuple(c for c in found if c is not None)


def _ratios(asked: list[Asked], effects: list[Effects]) -> Floats:
    """Utilisations of members of one form, (checks, B, K)."""
    cd = np.array(
        [
            [c.duration if a.strength.duration else 1.0 for c in e.combinations]
            for a, e in zip(asked, effects)
        ]
    )
    shear, ei, live_limit, total_limit, camber = (
        np.array(v)[:, None] for v in zip(*(_terms(a) for a in asked))
    )
    force = np.stack([e.shear for e in effects])
    spans, cantilever = (
        np.stack([e.spans for e in effects]),
        np.stack([e.cantilever for e in effects]),
    )
    # A cantilever may sag as much as a span of twice its length (IBC 2021 table 1604.3, note i).
    lengths = (spans * np.where(cantilever, 2.0, 1.0))[:, None]
    raised = np.where(cantilever, 0.0, camber)[:, None]
    stiff = ei[..., None]
    live = (np.stack([e.live for e in effects]) / stiff * live_limit[..., None] / lengths).max(
        axis=2
    )
    sag = np.maximum(np.stack([e.total for e in effects]) / stiff - raised, 0.0)
    total = (sag * total_limit[..., None] / lengths).max(axis=2)
    bending = _bending(asked, effects, cd)
    return np.stack([bending, force / (shear * cd), live, total, _bearing(asked, effects, cd)])


def _bending(asked: list[Asked], effects: list[Effects], cd: Floats) -> Floats:
    """Worst bending of any span, sagging or hogging, (B, K)."""
    sagging, hogging = (
        np.stack([getattr(e, name) for e in effects]) for name in ("sagging", "hogging")
    )
    moment, fb, fb_hogging, cv = (
        np.array(v)[:, None]
        for v in zip(
            *(
                (a.strength.moment, a.strength.fb, a.strength.fb_hogging, a.strength.cv)
                for a in asked
            )
        )
    )
    down = np.minimum(
        _stability(asked, fb, cd, np.array([[sagging_length(a)] for a in asked])), cv[..., None]
    )
    ratio = (sagging / (moment * cd)[..., None] / down).max(axis=2)
    lengths = np.stack([hogging_lengths(a, e) for a, e in zip(asked, effects)])
    up = np.minimum(_stability(asked, fb_hogging, cd, lengths), cv[..., None])
    weaker = np.where(fb > 0, fb_hogging / np.where(fb > 0, fb, 1.0), 1.0)
    allowed = (moment * weaker * cd)[..., None] * up
    steel = [i for i, a in enumerate(asked) if a.strength.lateral is not None]
    for i in steel:
        allowed[i] = steel_hogging(asked[i], effects[i])
    found: Floats = np.maximum(ratio, (hogging / allowed).max(axis=2))
    return found


def _terms(a: Asked) -> tuple[float, ...]:
    return a.strength.shear, a.strength.ei, a.live_limit, a.total_limit, a.camber


def _bearing(asked: list[Asked], effects: list[Effects], cd: Floats) -> Floats:
    """The worst bearing of any support, (B, K); one that bears on nothing is a finding of
    its own."""
    count = effects[0].reaction.shape[1]
    holds = np.array(
        [[*(s.holds for s in a.seats), *[np.inf] * (count - len(a.seats))] for a in asked]
    )
    lasting = np.array(
        [[*(s.lasting for s in a.seats), *[False] * (count - len(a.seats))] for a in asked]
    )
    end = np.array([a.strength.end for a in asked])
    lasts = np.where(lasting[:, None], cd[..., None], 1.0)
    held = np.minimum(holds[:, None] * lasts, end[:, None, None] * cd[..., None])
    reaction = np.stack([e.reaction for e in effects])
    found: Floats = np.where(reaction > 0, reaction / held, 0.0).max(axis=2)
    return found


def explain_answer(answer: Answer) -> tuple[Check, ...]:
    """The checks of one member with their lines."""
    found = []
    for k, name in enumerate(answer.names):
        g = answer.governs[k]
        combo = answer.effects.combinations[g]
        lines, clause = _STEPS[k](
            answer, g, combo.duration if answer.asked.strength.duration else 1.0
        )
        found.append(Check(name, answer.ratios[k], combo.name, clause, lines))
    return (*found, *answer.extra)


Explained = tuple[tuple[Line, ...], str]


def _duration(s: Strength, cd: float) -> tuple[Line, ...]:
    rules = s.rules
    step = Line(rules.duration_symbol, cd, "factor", rules.duration_clause)
    return (step,) if s.duration else ()


def _bending_lines(answer: Answer, g: int, cd: float) -> Explained:
    a, s, e = answer.asked, answer.asked.strength, answer.effects
    clause, rules = s.clauses.bending, s.rules
    k = int(e.hogging[g].argmax())
    hogs = _hogging_governs(answer, g, cd)
    moment = float(e.hogging[g, k] if hogs else e.sagging[g].max())
    first = Line("M", moment, "moment", how="hogging" if hogs else "sagging")
    if s.lateral is not None:
        if not hogs:
            return (first, *s.moment_lines, Line("M allowed", s.moment, "moment")), clause
        held = steel_hogging(a, e)[g, k]
        length = Line(
            "Lb",
            float(e.spans[k]),
            "length",
            rules.steel_length_clause,
            "lower flange held at supports alone",
        )
        return (
            first,
            *s.moment_lines[:3],
            length,
            Line("M allowed", float(held), "moment"),
        ), clause
    length_e = float(hogging_lengths(a, e)[k]) if hogs else sagging_length(a)
    cl = stability_factor(a, cd, length_e, hogs=hogs)
    weaker = s.fb_hogging / s.fb if hogs and s.fb else 1.0
    layup = (
        (Line("Fb−", s.fb_hogging, "stress", "NDS Supp. 5A", "upper edge in tension"),)
        if weaker < 1
        else ()
    )
    held_at = (Line("ℓe", length_e, "length", rules.length_clause),) if length_e else ()
    step = Line(rules.stability_symbol, cl, "factor", rules.stability_clause)
    factor = (*held_at, step) if s.fb else ()
    lines = (
        first,
        *s.moment_lines,
        *layup,
        *_duration(s, cd),
        *factor,
        Line("M allowed", s.moment * weaker * cd * min(cl, s.cv), "moment"),
    )
    return lines, clause


def _hogging_governs(answer: Answer, g: int, cd: float) -> bool:
    """Whether it is hogging that governs bending."""
    a, s, e = answer.asked, answer.asked.strength, answer.effects
    cl = stability_factor(a, cd, sagging_length(a))
    sags = float(e.sagging[g].max()) / (s.moment * cd * min(cl, s.cv))
    return answer.ratios[BENDING] > sags * (1 + 1e-9)


def _shear_lines(answer: Answer, g: int, cd: float) -> Explained:
    s = answer.asked.strength
    lines = (
        Line(
            "V",
            float(answer.effects.shear[g]),
            "force",
            s.clauses.reaction,
            "whole reaction",
        ),
        *s.shear_lines,
        *_duration(s, cd),
        Line("V allowed", s.shear * cd, "force"),
    )
    return lines, s.clauses.shear


def _live_lines(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    lines = (
        Line("Δ live", answer.sag("live"), "run", how="from the analysis"),
        *a.strength.stiff_lines,
        Line("limit ℓ/", a.live_limit, "factor", a.strength.clauses.limit),
    )
    return lines, a.strength.clauses.sag


def _total_lines(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    camber = (Line("camber", a.camber, "run"),) if a.camber else ()
    lines = (
        Line("Δ total", answer.sag("total"), "run", how="from the analysis"),
        *camber,
        *a.strength.stiff_lines,
        Line("limit ℓ/", a.total_limit, "factor", a.strength.clauses.limit),
    )
    return lines, a.strength.clauses.sag


def _bearing_lines(answer: Answer, g: int, cd: float) -> Explained:
    a = answer.asked
    reaction = answer.effects.reaction[g]
    if not a.seats:
        return (), a.strength.clauses.bearing
    i = max(
        range(len(a.seats)),
        key=lambda k: reaction[k] / a.seats[k].holds if a.seats[k].holds > 0 else 0.0,
    )
    seat = a.seats[i]
    lines = (
        Line("R", float(reaction[i]), "force"),
        Line("ℓb", apart(a.member.carrier.supports)[i].length, "run"),
        *a.strength.bearing_lines,
        *seat.lines,
        *((Line("R allowed", seat.holds, "force"),) if seat.holds < float("inf") else ()),
    )
    return lines, seat.clause


_STEPS: Final = (
    _bending_lines,
    _shear_lines,
    _live_lines,
    _total_lines,
    _bearing_lines,
)
