"""Bending members on two supports under uniform load, with a tail past one and a thrust along them:
all checks as one array function, and the lines of one member.

The same function serves one slip, a whole building and a batch of candidates: every field is an
array over members.
"""

import math
from typing import Final

import numpy as np

from balken.analysis import simple
from balken.analysis.simple import Floats
from balken.design.codes.us.nds.columns import C_SAWN
from balken.design.codes.us.nds.factors import (
    REPETITIVE,
    REPETITIVE_COUNT,
    REPETITIVE_SPACING,
    THICKEST_REPETITIVE,
    Adjusted,
    effective_length,
)
from balken.design.lines import Check, Line
from balken.design.spanning import CHECKS, Batch, Results
from balken.loads.cases import Combination
from balken.loads.parcels import rows_of
from balken.model.sections import Section

DEEPEST_FREE: Final = 5
"""Nominal depth over breadth up to which a sawn piece needs one edge held, and no more (NDS-2018
4.4.1.2)."""


def check(batch: Batch) -> Results:
    """Check bending (NDS 3.3), shear (3.4), deflection (3.5) and bearing (3.10) of every member.

    Shear takes the whole reaction; deflection is immediate, on the plan span, with the slope's
    factor 1/cos(slope); the edge in compression is held all along by sheathing (C_L = 1, NDS
    4.4.1.2).
    """
    breadth = np.array([s.breadth for s in batch.sections])
    depth = np.array([s.depth for s in batch.sections])
    fb = np.array([v.fb for v in batch.values]) * batch.repetitive
    fv = np.array([v.fv for v in batch.values])
    e = np.array([v.e for v in batch.values])
    fcp = np.array([v.fc_perp for v in batch.values])
    cos = 1 / np.hypot(1.0, batch.slope)
    factors = rows_of([c.factors for c in batch.combinations])
    duration = np.array([c.duration for c in batch.combinations])[:, None]
    w = factors @ batch.line
    bending = simple.moment(w, batch.span) / (breadth * depth**2 / 6) / (fb * duration)
    shear = 1.5 * simple.shear(w, batch.span) * cos / (breadth * depth) / (fv * duration)
    lasting = rows_of([c.second_sag for c in batch.combinations]) @ batch.line
    sag = simple.deflection(lasting, batch.span, e, breadth * depth**3 / 12) / cos
    total = sag * batch.total_limit / batch.span
    live = rows_of([c.first_sag for c in batch.combinations]) @ batch.line
    live_sag = simple.deflection(live, batch.span, e, breadth * depth**3 / 12) / cos
    live_ratio = live_sag * batch.live_limit / batch.span
    with np.errstate(divide="ignore"):
        pressed = (factors @ batch.reaction) / (breadth * np.maximum(batch.bearing, 1e-9)) / fcp
    rest = _tails(batch, w, (live, lasting), bending, fb * duration, fv * duration, duration)
    walked = under_a_person(batch, e * breadth * depth**3 / 12)
    person = np.broadcast_to(walked, bending.shape)
    stack = np.stack([bending, shear, live_ratio, total, pressed, *rest, person])
    return Results(stack.max(axis=1), stack.argmax(axis=1))


def under_a_person(batch: Batch, stiffness: Floats) -> Floats:
    """Sag of one joist under 1 kN over what was typed; nothing where nothing was: the code has no
    limit."""
    if batch.walked is None:
        return np.zeros(len(batch.sections))
    sag = 1000.0 * batch.span**3 / (48 * stiffness)
    limit = batch.walked.limit
    found: Floats = np.where(limit > 0, sag / np.where(limit > 0, limit, 1.0), 0.0)
    return found


def _tails(
    batch: Batch,
    w: Floats,
    sagging: tuple[Floats, Floats],
    bending: Floats,
    fb: Floats,
    fv: Floats,
    duration: Floats,
) -> tuple[Floats, Floats, Floats]:
    """Tails as cantilevers over the birdsmouth (NDS 3.3, 3.4.3), their deflection with nothing on
    the span beside them, and thrust with bending (3.9.2); per combination and member.

    ``sagging`` is what the two limits of deflection are held against."""
    none = np.zeros_like(w)
    if batch.tails is None:
        return none, none, none
    reach, neck, push, length = (
        batch.tails.reach,
        batch.tails.neck,
        batch.tails.push,
        batch.tails.length,
    )
    breadth = np.array([s.breadth for s in batch.sections])
    depth = np.array([s.depth for s in batch.sections])
    e = np.array([v.e for v in batch.values])
    e_min = np.array([v.e_min for v in batch.values])
    fc = np.array([v.fc for v in batch.values]) * duration
    cos = 1 / np.hypot(1.0, batch.slope)
    with np.errstate(divide="ignore", invalid="ignore"):
        stress = w * reach**2 / 2 / (breadth * neck**2 / 6)
        # One edge held by sheathing is enough up to 5 to 1 (NDS 4.4.1.2); deeper tails by 3.3.3,
        # their lower edge free.
        free = np.array([s.nominal[1] > DEEPEST_FREE * s.nominal[0] for s in batch.sections])
        held = np.array(
            [
                effective_length(float(r), float(d), "cantilever uniform")
                for r, d in zip(reach / cos, depth)
            ]
        )
        held = np.where(free, held, 0.0)
        bent = stress / (fb * _stability(held, breadth, depth, e_min, fb))
        cut = 1.5 * w * reach * cos / (breadth * neck) / fv
        tail = np.where(reach > 0, np.where(neck > 0, np.maximum(bent, cut), np.inf), 0.0)
        inertia = breadth * depth**3 / 12

        def sag(q: Floats, limit: Floats) -> Floats:
            tip = q * reach**3 * (4 * batch.span + 3 * reach) / (24 * e * inertia) / cos
            return np.where(reach > 0, tip * limit / (2 * np.where(reach > 0, reach, 1.0)), 0.0)

        sags = np.maximum(sag(sagging[0], batch.live_limit), sag(sagging[1], batch.total_limit))
        slender = length / depth
        euler = 0.822 * e_min / slender**2
        pressed = push * np.maximum(simple.shear(w, batch.span), 0.0) / (breadth * depth)
        ratio = euler / fc
        middle = (1 + ratio) / (2 * C_SAWN)
        allowed = fc * (middle - np.sqrt(np.maximum(middle**2 - ratio / C_SAWN, 0.0)))
        both = (pressed / allowed) ** 2 + bending / (1 - pressed / euler)
        both = np.where(pressed >= euler, np.inf, both)
    return tail, sags, np.where(push > 0, both, 0.0)


def _stability(length: Floats, breadth: Floats, depth: Floats, e_min: Floats, fb: Floats) -> Floats:
    """C_L for effective lengths (NDS 3.3.3.8); ``fb`` with C_D, per combination and member."""
    slender2 = np.where(length > 0, length * depth / breadth**2, 1.0)
    ratio = 1.20 * e_min / slender2 / fb
    middle = (1 + ratio) / 1.9
    found = middle - np.sqrt(np.maximum(middle**2 - ratio / 0.95, 0.0))
    return np.where((length <= 0) | (depth <= breadth), 1.0, np.where(slender2 > 2500, 1e-9, found))


def _of_lumber(batch: Batch, i: int) -> Adjusted:
    """The values of one member."""
    value = batch.values[i]
    assert isinstance(value, Adjusted), "wood of another code"
    return value


def explain(batch: Batch, results: Results, i: int) -> tuple[Check, ...]:
    """The checks of one member with every line, in the order of :data:`CHECKS`."""
    section, value, span = batch.sections[i], _of_lumber(batch, i), float(batch.span[i])
    cos = 1 / math.hypot(1.0, float(batch.slope[i]))
    found = []
    for k, name in enumerate(CHECKS):
        if not _applies(batch, name, i):
            continue
        combination = batch.combinations[int(results.governs[k, i])]
        w = float(np.dot(list(combination.factors), batch.line[:, i]))
        live = float(np.dot(list(combination.first_sag), batch.line[:, i]))
        lasting = float(np.dot(list(combination.second_sag), batch.line[:, i]))
        reaction = float(np.dot(list(combination.factors), batch.reaction[:, i]))
        match name:
            case "Bending":
                lines, clause = (
                    _bending(section, value, float(batch.repetitive[i]), combination, w, span),
                    "NDS 3.3",
                )
            case "Shear":
                lines, clause = _shear(section, value, combination, w, span, cos), "NDS 3.4"
            case "Live deflection":
                lines, clause = (
                    _sag("live", section, value, live, span, float(batch.live_limit[i]), cos),
                    "NDS 3.5",
                )
            case "Total deflection":
                limit = float(batch.total_limit[i])
                lines = _sag("total", section, value, lasting, span, limit, cos)
                lines, clause = (*_creep(combination), *lines), "NDS 3.5"
            case "Bearing":
                lines, clause = (
                    _pressed(section, value, reaction, float(batch.bearing[i])),
                    "NDS 3.10",
                )
            case "Under a person":
                lines, clause = _person(batch, i, section, value), "typed"
            case "Thrust and bending":
                bent = float(results.ratios[0, i])
                lines, clause = _thrust(batch, i, combination, w, bent), "NDS 3.9.2"
            case _:
                lines, clause = (
                    _tail(batch, i, combination, w),
                    "NDS 3.3" if name == "Tail" else "NDS 3.5",
                )
        found.append(Check(name, float(results.ratios[k, i]), combination.name, clause, lines))
    return tuple(found)


def _applies(batch: Batch, name: str, i: int) -> bool:
    if name.startswith("Tail"):
        return batch.tails is not None and bool(batch.tails.reach[i] > 0)
    if name == "Under a person":
        return batch.walked is not None and bool(batch.walked.limit[i] > 0)
    return name != "Thrust and bending" or (
        batch.tails is not None and bool(batch.tails.push[i] > 0)
    )


def _person(batch: Batch, i: int, section: Section, value: Adjusted) -> tuple[Line, ...]:
    assert batch.walked is not None, "asked of floors only"
    sag = 1000.0 * float(batch.span[i]) ** 3 / (48 * value.e * section.inertia)
    return (
        Line("F", 1000.0, "force", how="in the middle, on one joist alone"),
        Line("Δ", sag, "run", how="F ℓ³ / (48 E I)"),
        Line("limit", float(batch.walked.limit[i]), "run", how="typed"),
    )


def _tail(batch: Batch, i: int, combination: Combination, w: float) -> tuple[Line, ...]:
    assert batch.tails is not None, "asked of members with tails only"
    reach, neck = float(batch.tails.reach[i]), float(batch.tails.neck[i])
    value = _of_lumber(batch, i)
    return (
        Line("w", w, "line load", how=combination.name),
        Line("a", reach, "length", how="past the plate, in plan"),
        Line("M", w * reach**2 / 2, "moment", how="w a² / 2"),
        Line("d net", neck, "run", "NDS 3.2.3.1", "over the birdsmouth: d − seat · sin θ"),
        Line("Fb", value.reference.fb, "stress", value.reference.table),
        Line("CD", combination.duration, "factor", "NDS 2.3.2"),
        Line("Cr", float(batch.repetitive[i]), "factor", "NDS 4.3.9"),
    )


def _thrust(
    batch: Batch, i: int, combination: Combination, w: float, bent: float
) -> tuple[Line, ...]:
    assert batch.tails is not None, "asked of members with thrust only"
    section, value = batch.sections[i], _of_lumber(batch, i)
    force = float(batch.tails.push[i]) * simple.shear(w, float(batch.span[i]))
    return (
        Line("R", simple.shear(w, float(batch.span[i])), "force", how="which its head would need"),
        Line("P", force, "force", how="R / sin θ, along it, at its middle"),
        Line("fc", force / section.area, "stress", "NDS 3.6.3"),
        Line("Fc*", value.fc * combination.duration, "stress", "NDS 3.7.1"),
        Line(
            "ℓe / d",
            float(batch.tails.length[i]) / section.depth,
            "factor",
            "NDS 3.7.1.3",
            "in the roof's plane held",
        ),
        Line("fb / Fb′", bent, "factor", "NDS 3.3"),
    )


def _bending(
    section: Section, value: Adjusted, cr: float, combination: Combination, w: float, span: float
) -> tuple[Line, ...]:
    m = simple.moment(w, span)
    return (
        Line("w", w, "line load", how=combination.name),
        Line("ℓ", span, "length", "NDS 3.2.1", "clear + half bearings"),
        Line("M", m, "moment", how="w ℓ² / 8"),
        Line("S", section.modulus, "modulus", how="b d² / 6"),
        Line("fb", m / section.modulus, "stress", "NDS 3.3.2", "M / S"),
        Line("Fb", value.reference.fb, "stress", value.reference.table),
        Line("CD", combination.duration, "factor", "NDS 2.3.2"),
        *_service(value.wet[0], value.incised[0]),
        Line("CL", 1.0, "factor", "NDS 4.4.1"),
        Line("CF", value.cf, "factor", "NDS 4.3.6"),
        Line("Cr", cr, "factor", "NDS 4.3.9"),
        Line("Fb′", value.fb * cr * combination.duration, "stress", "NDS 4.3.1"),
    )


def _service(wet: float, incised: float) -> tuple[Line, ...]:
    found = []
    if wet != 1.0:
        found.append(Line("CM", wet, "factor", "NDS 4.3.3"))
    if incised != 1.0:
        found.append(Line("Ci", incised, "factor", "NDS 4.3.8"))
    return tuple(found)


def _shear(
    section: Section, value: Adjusted, combination: Combination, w: float, span: float, cos: float
) -> tuple[Line, ...]:
    v = simple.shear(w, span) * cos
    return (
        Line(
            "V",
            v,
            "force",
            "NDS 3.4.3",
            "w ℓ / 2" + (" · cos(slope)" if cos < 1 else "") + ", whole reaction",
        ),
        Line("fv", 1.5 * v / section.area, "stress", "NDS 3.4.2", "3 V / (2 b d)"),
        Line("Fv", value.reference.fv, "stress", value.reference.table),
        Line("CD", combination.duration, "factor", "NDS 2.3.2"),
        *_service(value.wet[1], value.incised[0]),
        Line("Fv′", value.fv * combination.duration, "stress", "NDS 4.3.1"),
    )


def _sag(
    word: str, section: Section, value: Adjusted, w: float, span: float, limit: float, cos: float
) -> tuple[Line, ...]:
    sag = simple.deflection(w, span, value.e, section.inertia) / cos
    return (
        Line(f"w {word}", w, "line load"),
        Line("E′", value.e, "stress", value.reference.table),
        Line("I", section.inertia, "inertia", how="b d³ / 12"),
        Line(
            "Δ", sag, "run", "NDS 3.5", "5 w ℓ⁴ / (384 E′ I)" + (" / cos(slope)" if cos < 1 else "")
        ),
        Line("ℓ/Δ", span / sag if sag > 0 else math.inf, "factor"),
        Line("limit ℓ/", limit, "factor", "IRC R301.7"),
    )


def _creep(combination: Combination) -> tuple[Line, ...]:
    """How much longer what stays goes on sagging, where that is asked for."""
    if combination.sags is None:
        return ()
    return (Line("Kcr", combination.second_sag.dead, "factor", "NDS 3.5.2", "on dead load"),)


def _pressed(
    section: Section, value: Adjusted, reaction: float, bearing: float
) -> tuple[Line, ...]:
    stress = reaction / (section.breadth * bearing) if bearing > 0 else math.inf
    return (
        Line("R", reaction, "force"),
        Line("ℓb", bearing, "run"),
        Line("fc perp", stress, "stress", "NDS 3.10.2", "R / (b ℓb)"),
        Line("Fc perp", value.reference.fc_perp, "stress", value.bears_on or value.reference.table),
        *_service(value.wet[2], 1.0),
        Line("Cb", 1.0, "factor", "NDS 3.10.4"),
        Line("Fc perp′", value.fc_perp, "stress", "NDS 4.3.1"),
    )


def repetitive(count: int, breadth: float, spacing: float) -> float:
    """C_r (NDS 4.3.9): 1.15 for three or more pieces of dimension lumber, 24 in apart at most; else
    1.

    Args:
        count: members side by side, joined by a floor or roof that spreads load between them.
        breadth: of one, mm; timbers do not qualify.
        spacing: between their middles, mm.
    """
    helped = (
        count >= REPETITIVE_COUNT
        and breadth <= THICKEST_REPETITIVE
        and spacing <= REPETITIVE_SPACING + SPACING_TOLERANCE
    )
    return REPETITIVE if helped else 1.0


SPACING_TOLERANCE: Final = 1.0
"""Spacings are laid out to a millimetre: 610 mm stands for 24 in."""
