"""Studs, kings and jacks under what comes down on them and the wind on their face: compression with
bending about the strong axis (NDS-2018 3.9.2; EN 1995-1-1 6.3.2), sag under wind, slenderness, and the
plate they press on.

Sheathing holds them in the plane of the wall; across it they stand from plate to plate.
"""

import math
from functools import lru_cache
from typing import Final, NamedTuple

from balken.design.codes.timber import TimberCode
from balken.design.lines import Check, Line
from balken.design.strength import Pushed
from balken.design.under import Under
from balken.design.worth import Worth
from balken.loads.cases import Combination, Sums
from balken.model.cases import CASE_NAMES, Cases
from balken.model.sections import Section

SAG_UNDER_WIND: Final = 120.0
"""Height over sag of a wall with brittle or flexible linings, at the least (IBC table 1604.3: flexible
finishes; common practice elsewhere)."""
OF_WIND: Final = 0.42
"""Of the wind on components for sag, US (IBC table 1604.3, footnote f)."""


WIND: Final = CASE_NAMES.index("wind")


class Cut(NamedTuple):
    """A hole or notch in a stud, mm."""

    name: str
    notch: bool
    size: float
    off: float
    """Of a hole's middle from that of the stud."""


class Stud(NamedTuple):
    """A stud, or several side by side, from plate to plate. mm, N, N/mm²."""

    section: Section
    pieces: int
    height: float
    worth: Worth
    forces: Cases
    """What comes down on it."""
    wind: float
    """On its face, N/mm along it, before any factor."""
    bends_more: float
    """On its bending strength: C_r, the stud factor, or k_sys."""
    bends_clause: str
    plate: Under
    """What its foot presses on."""
    cuts: tuple[Cut, ...] = ()


def stud_checks(timber: TimberCode, sums: Sums, of_wind: float, stud: Stud) -> tuple[Check, ...]:
    """The checks of a stud: the worst combination of each.

    Args:
        timber: what the code says.
        sums: its combinations.
        of_wind: what of the wind its sag is held against.
        stud: the piece.
    """
    found = [_pressed(timber, sums, stud), _bearing(timber, sums, stud)]
    if stud.wind > 0:
        found.append(_sag(stud, of_wind))
    found += [_left_by(timber, sums, stud, cut) for cut in stud.cuts]
    slender = stud.height / stud.section.depth
    if slender > timber.posts.slenderest:
        lines = (Line("ℓe / d", slender, "factor", timber.posts.slender_clause),)
        ratio = slender / timber.posts.slenderest
        found.append(Check("Slenderness", ratio, "–", timber.posts.slender_clause, lines))
    return tuple(found)


def _pressed(timber: TimberCode, sums: Sums, stud: Stud) -> Check:
    """Compression along the grain with the wind's bending, in the worst combination."""
    section, worth, rules = stud.section, stud.worth, timber.rules
    area = section.breadth * stud.pieces * section.depth
    modulus = section.breadth * stud.pieces * section.depth**2 / 6
    moment = stud.wind * stud.height**2 / 8
    worst = (-1.0, 0.0, 0.0, sums.every[0])
    for c in _those_that_differ(sums, stud):
        force = max(0.0, stud.forces.weighed(c.factors))
        bent = c.factors.wind * moment / modulus
        held = worth.fb * c.duration * stud.bends_more
        piece = Pushed(
            force / area,
            worth.fc,
            worth.characteristic,
            worth.e_min,
            stud.height / section.depth,
            bent / held,
            c.duration,
        )
        ratio = rules.pushed(piece) if force > 0 else bent / held
        if ratio > worst[0]:
            worst = (ratio, force, bent, c)
    ratio, force, bent, c = worst
    lines = (
        Line("P", force, "force", how=c.name),
        Line("fc", force / area, "stress", how="P / A"),
        Line("M", c.factors.wind * moment, "moment", how="w h² / 8, wind on its face"),
        Line("fb", bent, "stress", how="M / S"),
        Line("h / d", stud.height / section.depth, "factor"),
        Line(rules.duration_symbol, c.duration, "factor", rules.duration_clause),
        Line("on Fb", stud.bends_more, "factor", stud.bends_clause),
    )
    return Check("Compression and wind", ratio, c.name, rules.pushed_clauses[0], lines)


def _those_that_differ(sums: Sums, stud: Stud) -> tuple[Combination, ...]:
    """The combinations of loads that are there: any other is one of them with less."""
    there = [i for i, force in enumerate(stud.forces) if force > 0]
    return _among(sums, (*there, WIND) if stud.wind > 0 else tuple(there))


@lru_cache(256)
def _among(sums: Sums, there: tuple[int, ...]) -> tuple[Combination, ...]:
    return sums.among(there)


def _left_by(timber: TimberCode, sums: Sums, stud: Stud, cut: Cut) -> Check:
    """Of what a hole or notch leaves: compression on it without buckling, beside all of the wind's
    bending, wherever it lies (NDS-2018 3.1.2, 3.6.3, 3.2.3; EN 1995-1-1 5.2)."""
    section, worth, depth = stud.section, stud.worth, stud.section.depth
    left = depth - cut.size
    area = section.breadth * stud.pieces * left
    edge = depth / 2 + abs(cut.off)
    if cut.notch or left <= 0:
        modulus = section.breadth * stud.pieces * left**2 / 6
    else:
        inertia = (depth**3 - cut.size**3) / 12 - cut.size * cut.off**2
        modulus = section.breadth * stud.pieces * inertia / edge
    moment = stud.wind * stud.height**2 / 8
    worst = (-1.0, 0.0, sums.every[0])
    for c in _those_that_differ(sums, stud):
        force = max(0.0, stud.forces.weighed(c.factors))
        if area <= 0 or modulus <= 0:
            worst = (math.inf, force, c)
            break
        bent = c.factors.wind * moment / modulus / (worth.fb * c.duration * stud.bends_more)
        ratio = force / area / (worth.fc * c.duration) + bent
        worst = max(worst, (ratio, force, c), key=lambda w: w[0])
    ratio, force, c = worst
    lines = (
        Line("P", force, "force", how=c.name),
        Line("left", max(0.0, left), "run", how="d less the cut"),
        Line("M", c.factors.wind * moment, "moment", how="at mid height"),
    )
    clause = timber.rules.pushed_clauses[0]
    return Check(f"At {cut.name}", ratio, c.name, clause, lines)


def _bearing(timber: TimberCode, sums: Sums, stud: Stud) -> Check:
    """Of the foot on its plate, across the plate's grain."""
    area = stud.section.breadth * stud.pieces * stud.section.depth
    found = []
    for c in _those_that_differ(sums, stud):
        force = max(0.0, stud.forces.weighed(c.factors))
        held = stud.plate.stress * (c.duration if timber.bearing_by_duration else 1.0)
        found.append((force / area / held, c.name, force, held))
    ratio, name, force, held = max(found, key=lambda f: f[:2])
    lines = (
        Line("P", force, "force", how=name),
        Line("A", area, "steel", how="b d"),
        Line("held", held, "stress", stud.plate.clause, stud.plate.what),
    )
    return Check("Bearing on the plate", ratio, name, timber.bearing_clause, lines)


def _sag(stud: Stud, of_wind: float) -> Check:
    line = of_wind * stud.wind
    inertia = stud.section.breadth * stud.pieces * stud.section.depth**3 / 12
    sag = 5 * line * stud.height**4 / (384 * stud.worth.e * inertia)
    lines = (
        Line("w", line, "line load", how=f"{of_wind:g} W"),
        Line("Δ", sag, "run", how="5 w h⁴ / (384 E I)"),
        Line("limit h/", SAG_UNDER_WIND, "factor", "IBC table 1604.3"),
    )
    ratio = sag * SAG_UNDER_WIND / stud.height
    return Check("Sag under wind", ratio if math.isfinite(ratio) else 0.0, "W", "IBC 1604.3", lines)
