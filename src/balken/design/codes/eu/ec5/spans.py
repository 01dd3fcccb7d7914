"""Joists and rafters on two supports by EN 1995-1-1, with a tail past one and a thrust along them:
all checks as one array function, and the lines of one member.

The edge in compression is held all along by sheathing, so that kcrit is 1 (6.3.3(5)); tails are held
at the plate alone. Bearing is asked with kc,90 of 1.
"""

import math
from typing import Final, NamedTuple

import numpy as np

from balken.analysis import simple
from balken.analysis.simple import Floats
from balken.design.codes.eu.ec5 import bearing, bending
from balken.design.codes.eu.ec5 import vibration as floors
from balken.design.codes.eu.ec5.factors import gamma_clause, kcr, kmod_clause
from balken.design.codes.eu.ec5.worth import DesignTimber
from balken.design.lines import Check, Line
from balken.design.spanning import Batch, Results
from balken.loads.cases import Combination
from balken.loads.parcels import rows_of
from balken.model.cases import DEAD

AT_ONCE: Final = "Deflection at once"
FINAL: Final = "Final deflection"
VIBRATION: Final = "Vibration"
SOFTEST: Final = 4.0
"""a, how far one joist alone may sag under 1 kN, mm, where nothing is typed: the end of the code's
range, since what its neighbours take is left out (EN 1995-1-1 figure 7.2)."""
NAMES: Final = (
    "Bending",
    "Shear",
    AT_ONCE,
    FINAL,
    "Bearing",
    "Tail",
    "Tail deflection",
    "Thrust and bending",
    VIBRATION,
)


def check(batch: Batch) -> Results:
    """Check bending (EN 1995-1-1 6.1.6), shear (6.1.7), deflection (7.2) and bearing (6.1.5) of
    every member."""
    breadth = np.array([s.breadth for s in batch.sections])
    depth = np.array([s.depth for s in batch.sections])
    inertia = breadth * depth**3 / 12
    fb = np.array([v.fb for v in batch.values]) * batch.repetitive
    fv = np.array([v.fv for v in batch.values])
    e = np.array([v.e for v in batch.values])
    fcp = np.array([v.fc_perp for v in batch.values])
    cos = 1 / np.hypot(1.0, batch.slope)
    combos = batch.combinations
    factors = rows_of([c.factors for c in combos])
    kmod = np.array([c.duration for c in combos])[:, None]
    w = factors @ batch.line
    bent = simple.moment(w, batch.span) / (breadth * depth**2 / 6) / (fb * kmod)
    cut = 1.5 * simple.shear(w, batch.span) * cos / (breadth * depth) / (fv * kmod)
    first, second = (
        simple.deflection(rows_of(rows) @ batch.line, batch.span, e, inertia) / cos
        for rows in ([c.first_sag for c in combos], [c.second_sag for c in combos])
    )
    touch = np.array([_touch(float(b)) for b in batch.bearing])
    with np.errstate(divide="ignore"):
        pressed = (factors @ batch.reaction) / (breadth * np.maximum(touch, 1e-9)) / (fcp * kmod)
    stack = np.stack(
        [
            bent,
            cut,
            first * batch.live_limit / batch.span,
            second * batch.total_limit / batch.span,
            pressed,
            *_tails(batch, w, bent, fb * kmod, fv * kmod, kmod),
            np.broadcast_to(_vibration(batch, e * inertia), w.shape),
        ]
    )
    return Results(stack.max(axis=1), stack.argmax(axis=1))


class Shaken(NamedTuple):
    """How one floor answers a walking person."""

    f1: float
    """Hz."""
    sag: float
    """Under 1 kN on one joist, mm."""
    limit: float
    velocity: float
    """Over its limit."""

    @property
    def ratio(self) -> float:
        """The worst of the three (EN 1995-1-1 7.3.3)."""
        return max(floors.SLOWEST / self.f1, self.sag / self.limit, self.velocity)


def shaken(batch: Batch, i: int, stiffness: float) -> Shaken:
    """How the floor of one joist answers a walking person.

    Args:
        batch: with floors.
        i: which member.
        stiffness: EI of one joist, N mm².
    """
    walked = batch.walked
    assert walked is not None, "asked of floors only"
    span, line = float(batch.span[i]), float(batch.line[DEAD, i])
    mass = max(line, LEAST_DEAD) / GRAVITY * 1000  # kg a metre of one joist
    f1 = math.pi / (2 * (span / 1000) ** 2) * math.sqrt(stiffness * 1e-6 / mass)
    gap = float(batch.spacing[i]) / 1000 if batch.spacing is not None else 0.6
    limit = float(walked.limit[i]) or SOFTEST
    velocity = floors.impulse_velocity(
        span / 1000,
        float(walked.width[i]) / 1000,
        stiffness * 1e-6 / gap,
        max(float(walked.deck[i]) * 1e-3, 1.0),
        mass / gap,
        f1,
    )
    allowed = floors.velocity_limit(floors.b_of(limit), f1)
    return Shaken(f1, floors.sag_under_a_person(span, stiffness), limit, velocity / allowed)


GRAVITY: Final = 9.81
LEAST_DEAD: Final = 0.05
"""A floor weighs something, N/mm of a joist."""


def _vibration(batch: Batch, stiffness: Floats) -> Floats:
    if batch.walked is None:
        return np.zeros(len(batch.sections))
    return np.array(
        [
            shaken(batch, i, float(s)).ratio if batch.span[i] > 0 else 0.0
            for i, s in enumerate(stiffness)
        ]
    )


def _touch(length: float) -> float:
    """Contact of a joist or rafter that ends with its bearing: it goes on past it to one side."""
    return bearing.contact_length(length, (0.0, math.inf), math.inf) if length > 0 else 0.0


def _tails(
    batch: Batch, w: Floats, bent: Floats, fb: Floats, fv: Floats, kmod: Floats
) -> tuple[Floats, Floats, Floats]:
    """Tails as cantilevers over the birdsmouth (6.1.6, 6.1.7), their deflection with nothing on the
    span beside them, and thrust with bending (6.23); per combination and member."""
    none = np.zeros_like(w)
    if batch.tails is None:
        return none, none, none
    reach, neck = batch.tails.reach, batch.tails.neck
    breadth = np.array([s.breadth for s in batch.sections])
    depth = np.array([s.depth for s in batch.sections])
    cos = 1 / np.hypot(1.0, batch.slope)
    held = np.array(
        [
            _kcrit_of_tail(batch, i, float(r / c)) if r > 0 else 1.0
            for i, (r, c) in enumerate(zip(reach, cos))
        ]
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        over = w * reach**2 / 2 / (breadth * neck**2 / 6) / (fb * held)
        sheared = 1.5 * w * reach * cos / (breadth * neck) / fv
    tail = np.where(reach > 0, np.where(neck > 0, np.maximum(over, sheared), np.inf), 0.0)
    stiff = np.array([v.e for v in batch.values]) * breadth * depth**3 / 12
    combos = batch.combinations
    first, second = (
        rows_of(rows) @ batch.line
        for rows in ([c.first_sag for c in combos], [c.second_sag for c in combos])
    )

    def sag(q: Floats, limit: Floats) -> Floats:
        tip = q * reach**3 * (4 * batch.span + 3 * reach) / (24 * stiff) / cos
        return np.where(reach > 0, tip * limit / (2 * np.where(reach > 0, reach, 1.0)), 0.0)

    sags = np.maximum(sag(first, batch.live_limit), sag(second, batch.total_limit))
    return tail, sags, _thrust_ratio(batch, w, bent, kmod)


def _kcrit_of_tail(batch: Batch, i: int, reach: float) -> float:
    """kcrit of a tail whose lower edge is held at the plate alone."""
    of, section = _of_class(batch, i).timber, batch.sections[i]
    length = bending.effective_length(reach, section.depth, "cantilever uniform", "middle")
    return bending.kcrit(section.breadth, section.depth, length, of.fm, of.e_05)


def _thrust_ratio(batch: Batch, w: Floats, bent: Floats, kmod: Floats) -> Floats:
    """Thrust with bending about the strong axis (EN 1995-1-1 6.23, 6.19)."""
    assert batch.tails is not None, "asked of members with thrust only"
    push = batch.tails.push
    breadth = np.array([s.breadth for s in batch.sections])
    depth = np.array([s.depth for s in batch.sections])
    fc, e_05, char = (
        np.array(v) for v in zip(*((v.fc, v.e_min, v.characteristic) for v in batch.values))
    )
    pressed = push * np.maximum(simple.shear(w, batch.span), 0.0) / (breadth * depth) / (fc * kmod)
    relative = batch.tails.length * math.sqrt(12) / depth / math.pi * np.sqrt(char / e_05)
    both = np.where(relative <= 0.3, pressed**2, pressed / kc_of(relative, 0.2)) + bent
    found: Floats = np.where(push > 0, both, 0.0)
    return found


def kc_of(relative: Floats, beta: float) -> Floats:
    """kc of many pieces for their relative slenderness (EN 1995-1-1 6.25 to 6.28)."""
    k = 0.5 * (1 + beta * (relative - 0.3) + relative**2)
    found: Floats = np.where(
        relative <= 0.3, 1.0, 1 / (k + np.sqrt(np.maximum(k**2 - relative**2, 0.0)))
    )
    return found


def explain(batch: Batch, results: Results, i: int) -> tuple[Check, ...]:
    """The checks of one member with every line, in the order of :data:`NAMES`."""
    found = []
    for k, name in enumerate(NAMES):
        if not _applies(batch, name, i):
            continue
        combo = batch.combinations[int(results.governs[k, i])]
        lines, clause = _LINES[name](batch, results, i, combo)
        found.append(Check(name, float(results.ratios[k, i]), combo.name, clause, lines))
    return tuple(found)


def _applies(batch: Batch, name: str, i: int) -> bool:
    if name.startswith("Tail"):
        return batch.tails is not None and bool(batch.tails.reach[i] > 0)
    if name == VIBRATION:
        return batch.walked is not None
    return name != "Thrust and bending" or (
        batch.tails is not None and bool(batch.tails.push[i] > 0)
    )


Explained = tuple[tuple[Line, ...], str]


def _of_class(batch: Batch, i: int) -> DesignTimber:
    """The values of one member."""
    value = batch.values[i]
    assert isinstance(value, DesignTimber), "wood of another code"
    return value


def _load(batch: Batch, i: int, combo: Combination) -> float:
    return float(np.dot(list(combo.factors), batch.line[:, i]))


def _design(
    symbol: str, value: float, strength: DesignTimber, combo: Combination
) -> tuple[Line, ...]:
    """How a characteristic strength becomes that of the design."""
    return (
        Line(f"{symbol},k", value, "stress", strength.timber.table, strength.timber.name),
        Line("kmod", combo.duration, "factor", kmod_clause(strength.by)),
        Line("γM", strength.gamma_m, "factor", gamma_clause(strength.timber.material, strength.by)),
    )


def _bending_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    section, value, span = batch.sections[i], _of_class(batch, i), float(batch.span[i])
    w, ksys = _load(batch, i, combo), float(batch.repetitive[i])
    moment = simple.moment(w, span)
    lines = (
        Line("q", w, "line load", how=combo.name),
        Line("ℓ", span, "length", how="clear + half bearings"),
        Line("M", moment, "moment", how="q ℓ² / 8"),
        Line("W", section.modulus, "modulus", how="b h² / 6"),
        Line("σm", moment / section.modulus, "stress", how="M / W"),
        *_design("fm", value.timber.fm, value, combo),
        Line("kh", value.kh, "factor", "EN 1995-1-1 3.2(3)"),
        Line("ksys", ksys, "factor", "EN 1995-1-1 6.6"),
        Line("kcrit", 1.0, "factor", "EN 1995-1-1 6.3.3(5)"),
        Line("fm,d", value.fb * ksys * combo.duration, "stress", "EN 1995-1-1 2.4.1"),
    )
    return lines, "EN 1995-1-1 6.1.6"


def _shear_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    section, value = batch.sections[i], _of_class(batch, i)
    cos = 1 / math.hypot(1.0, float(batch.slope[i]))
    force = simple.shear(_load(batch, i, combo), float(batch.span[i])) * cos
    cracks = kcr(value.timber)
    lines = (
        Line("V", force, "force", how="whole reaction"),
        Line("kcr", cracks, "factor", "EN 1995-1-1 6.1.7(2)"),
        Line("τ", 1.5 * force / (cracks * section.area), "stress", how="3 V / (2 kcr b h)"),
        *_design("fv", value.timber.fv, value, combo),
        Line("fv,d", value.fv / cracks * combo.duration, "stress", "EN 1995-1-1 2.4.1"),
    )
    return lines, "EN 1995-1-1 6.1.7"


def _sag_lines(batch: Batch, i: int, load: float, limit: float, word: str) -> Explained:
    section, value, span = batch.sections[i], _of_class(batch, i), float(batch.span[i])
    cos = 1 / math.hypot(1.0, float(batch.slope[i]))
    sag = simple.deflection(load, span, value.e, section.inertia) / cos
    lines = (
        Line("q", load, "line load", how=word),
        Line("E0,mean", value.e, "stress", value.timber.table),
        Line("I", section.inertia, "inertia", how="b h³ / 12"),
        Line("w", sag, "run", how="5 q ℓ⁴ / (384 E I)"),
        Line("ℓ/w", span / sag if sag > 0 else math.inf, "factor"),
        Line("limit ℓ/", limit, "factor", "EN 1995-1-1 table 7.2"),
    )
    return lines, "EN 1995-1-1 7.2"


def _first_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    load = float(np.dot(list(combo.first_sag), batch.line[:, i]))
    return _sag_lines(batch, i, load, float(batch.live_limit[i]), "characteristic, at once")


def _second_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    load = float(np.dot(list(combo.second_sag), batch.line[:, i]))
    words = "each load with 1 + ψ2 kdef, 2.2.3"
    return _sag_lines(batch, i, load, float(batch.total_limit[i]), words)


def _bearing_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    section, value = batch.sections[i], _of_class(batch, i)
    reaction = float(np.dot(list(combo.factors), batch.reaction[:, i]))
    touch = _touch(float(batch.bearing[i]))
    stress = reaction / (section.breadth * touch) if touch > 0 else math.inf
    lines = (
        Line("R", reaction, "force"),
        Line("ℓef", touch, "run", "EN 1995-1-1 6.1.5(1)"),
        Line("σc,90", stress, "stress", how="R / (b ℓef)"),
        Line("kc,90", 1.0, "factor", "EN 1995-1-1 6.1.5(2)", value.bears_on),
        *_design("fc,90", value.fc_perp * value.gamma_m, value, combo),
        Line("fc,90,d", value.fc_perp * combo.duration, "stress", "EN 1995-1-1 2.4.1"),
    )
    return lines, "EN 1995-1-1 6.1.5"


def _tail_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    assert batch.tails is not None, "asked of members with tails only"
    reach, w = float(batch.tails.reach[i]), _load(batch, i, combo)
    value = _of_class(batch, i)
    lines = (
        Line("q", w, "line load", how=combo.name),
        Line("a", reach, "length", how="past the plate, in plan"),
        Line("M", w * reach**2 / 2, "moment", how="q a² / 2"),
        Line("h net", float(batch.tails.neck[i]), "run", how="over the birdsmouth"),
        *_design("fm", value.timber.fm, value, combo),
    )
    return lines, "EN 1995-1-1 6.1.6"


def _thrust_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    assert batch.tails is not None, "asked of members with thrust only"
    section, value, w = batch.sections[i], _of_class(batch, i), _load(batch, i, combo)
    reaction = simple.shear(w, float(batch.span[i]))
    force = float(batch.tails.push[i]) * reaction
    slender = float(batch.tails.length[i]) * math.sqrt(12) / section.depth
    relative = slender / math.pi * math.sqrt(value.characteristic / value.e_min)
    lines = (
        Line("R", reaction, "force", how="which its head would need"),
        Line("N", force, "force", how="R / sin θ, along it, at its middle"),
        Line("σc", force / section.area, "stress"),
        Line("λrel", relative, "factor", "EN 1995-1-1 6.21", "in the roof's plane held"),
        Line("kc", float(kc_of(np.array(relative), 0.2)), "factor", "EN 1995-1-1 6.25"),
        *_design("fc", value.characteristic, value, combo),
        Line("bending", float(results.ratios[0, i]), "factor", how="utilisation by itself"),
    )
    return lines, "EN 1995-1-1 6.3.2"


def _vibration_lines(batch: Batch, results: Results, i: int, combo: Combination) -> Explained:
    value, section = _of_class(batch, i), batch.sections[i]
    found = shaken(batch, i, value.e * section.inertia)
    words = "typed" if batch.walked is not None and batch.walked.limit[i] else "figure 7.2, softest"
    lines = (
        Line("f1", found.f1, "factor", "EN 1995-1-1 7.5", "Hz, of the joists alone"),
        Line("f1 at least", floors.SLOWEST, "factor", "EN 1995-1-1 7.3.3(1)"),
        Line("w", found.sag, "run", "EN 1995-1-1 7.3", "one joist under 1 kN, nothing shared"),
        Line("a", found.limit, "run", how=words),
        Line("v / limit", found.velocity, "factor", "EN 1995-1-1 7.4, 7.6", "ζ 0.01"),
    )
    return lines, "EN 1995-1-1 7.3.3"


_LINES: Final = {
    "Bending": _bending_lines,
    "Shear": _shear_lines,
    AT_ONCE: _first_lines,
    FINAL: _second_lines,
    "Bearing": _bearing_lines,
    "Tail": _tail_lines,
    "Tail deflection": _second_lines,
    "Thrust and bending": _thrust_lines,
    VIBRATION: _vibration_lines,
}
