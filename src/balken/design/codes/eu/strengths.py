"""What pieces resist by European codes: timber of a strength class by EN 1995-1-1, rolled steel by EN
1993-1-1, products by what was typed, which counts as characteristic."""

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from balken.analysis.beams import Floats
from balken.design.boxes import as_strength
from balken.design.codes.eu import ec3
from balken.design.codes.eu.box_headers import box_strength
from balken.design.codes.eu.ec5 import bending, columns, shear
from balken.design.codes.eu.ec5.factors import KSYS, gamma_clause, kcr
from balken.design.codes.eu.ec5.spans import AT_ONCE, FINAL, kc_of
from balken.design.codes.eu.ec5.worth import DesignTimber, design_timber, timber_of
from balken.design.lines import Kind, Line
from balken.design.strength import BeamRules, Clauses, Cut, Loading, Pushed, Strength
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.sections import BY_CAPACITY, STEEL, Section


def effective_length(unbraced: float, depth: float, loading: Loading) -> float:
    """Effective length between places held sideways, mm (EN 1995-1-1 table 6.1): loads sit on the
    edge in compression, but for overhangs, where their place is left out of account; what the table
    does not name is as if the moment were the same all along."""
    if loading == "uniform":
        return bending.effective_length(unbraced, depth, "uniform", "compression")
    if loading == "middle":
        return bending.effective_length(unbraced, depth, "middle", "compression")
    if loading == "cantilever uniform":
        return bending.effective_length(unbraced, depth, "cantilever uniform", "middle")
    if loading == "cantilever end":
        return bending.effective_length(unbraced, depth, "cantilever end", "middle")
    return unbraced


def stability(pieces: Sequence[Strength], fb: Floats, duration: Floats, length: Floats) -> Floats:
    """kcrit of members (EN 1995-1-1 6.32 to 6.34): of the characteristic strength, so that duration
    does not count."""
    e_05, breadth, depth, fm = (
        np.array(v)[:, None]
        for v in zip(*((s.e_min, s.breadth, s.depth, max(s.fm, 1e-9)) for s in pieces))
    )
    bends = (fb > 0) & (length > 0) & (depth > breadth)
    critical = 0.78 * breadth**2 / (depth * np.where(bends, length, 1.0)) * e_05
    slender = np.sqrt(fm / np.where(bends, critical, 1.0))
    factor = np.where(slender <= 1.4, 1.56 - 0.75 * slender, 1 / np.maximum(slender, 1e-9) ** 2)
    found = np.where(slender <= 0.75, 1.0, factor)
    found = np.where(bends, found, 1.0)
    return np.repeat(found[:, None], duration.shape[1], axis=1)


def net_shear(piece: Strength, cut: Cut) -> float:
    """What a hole or notch leaves of the shear a piece resists, as a share: of a notch at a support
    hef / h with kv (EN 1995-1-1 6.5.2); elsewhere, and of holes, the net depth."""
    left = max(0.0, cut.depth - cut.size) / cut.depth
    if not cut.notch or cut.to_support > cut.depth or left <= 0:
        return left
    material = "glulam" if piece.glued else "solid timber"
    kv = shear.notch_factor(material, cut.depth, left * cut.depth, cut.to_support)  # type: ignore[arg-type]
    return left * kv


def pushed(piece: Pushed) -> float:
    """Thrust with bending about the strong axis (EN 1995-1-1 6.23, 6.19)."""
    strength = piece.fc * piece.duration
    relative = (
        piece.slender * math.sqrt(12) / math.pi * math.sqrt(piece.characteristic / piece.e_min)
    )
    pressed = piece.stress / strength
    if relative <= columns.STOCKY:
        return pressed**2 + piece.bending
    return pressed / float(kc_of(np.array(relative), 0.2)) + piece.bending


def gradient(larger: float, smaller: float) -> float:
    """C1 of a stretch whose moment runs straight from one end to the other, both bending it alike:
    1.88 − 1.40 ψ + 0.52 ψ² (a usual approximation of the elastic theory behind EN 1993-1-1)."""
    if larger <= 0:
        return 1.0
    psi = min(1.0, max(0.0, smaller / larger))
    return 1.88 - 1.40 * psi + 0.52 * psi**2


RULES: Final = BeamRules(
    effective_length,
    "EN 1995-1-1 table 6.1",
    stability,
    "kcrit",
    "EN 1995-1-1 6.3.3",
    gradient,
    "EN 1993-1-1 6.3.2",
    "kmod",
    "EN 1995-1-1 table 3.1",
    (AT_ONCE, FINAL),
    net_shear,
    ("EN 1995-1-1 6.1.6", "EN 1995-1-1 6.5.2"),
    "EN 1995-1-1 6.1.6",
    pushed,
    ("EN 1995-1-1 6.3.2", "EN 1995-1-1 2.4.1"),
)
WOOD: Final = Clauses(
    "EN 1995-1-1 6.1.6",
    "EN 1995-1-1 6.1.7",
    "EN 1995-1-1 7.2",
    "EN 1995-1-1 table 7.2",
    "EN 1995-1-1 6.1.5",
    "EN 1995-1-1 6.1.7",
)
BOX: Final = WOOD._replace(bending="EN 1995-1-1 6.1.2", shear="EN 1995-1-1 9.1.1")
ROLLED: Final = Clauses(
    "EN 1993-1-1 6.3.2",
    "EN 1993-1-1 6.2.6",
    "EN 1990 6.5.3",
    "EN 1993-1-1 7.2",
    "EN 1993-1-5 6",
)


def strength_of(
    section: Section,
    species: str,
    grade: str,
    span: float,
    unbraced: float,
    *,
    in_row: bool,
    by: LeftOpen = RECOMMENDED,
) -> Strength | None:
    """What a piece resists; None where there are no values for it.

    Args:
        section: what it is cut from.
        species: of sawn timber.
        grade: of sawn timber, its strength class.
        span: the longest, for the slip in box headers, mm.
        unbraced: of its upper edge, for steel, mm; timber is reduced where it is checked.
        in_row: one of several like it, joined by what shares load between them (EN 1995-1-1 6.6).
        by: the values of a country.
    """
    if section.family in STEEL:
        return _steel(section, unbraced)
    if section.family in BY_CAPACITY:
        return _by_capacity(section)
    if section.box is not None:
        box = box_strength(section, species, grade, span, by)
        return as_strength(section, box, RULES, BOX, lasts=True) if box is not None else None
    found = timber_of(species, grade, section)
    if found is None:
        return None
    return _timber(section, design_timber(found, section, by), KSYS if in_row else 1.0)


CAPACITY_GAMMA: Final = 1.3
"""γM on the capacities of wood I-joists and open-web trusses, which are taken as characteristic: no
less than of solid timber (EN 1995-1-1 2.4.1; common practice)."""


def _by_capacity(section: Section) -> Strength:
    item = section.product
    assert item is not None, f"{section.name} is no product"
    n, gamma = section.plies, CAPACITY_GAMMA

    def lines(symbol: str, value: float, kind: Kind) -> tuple[Line, ...]:
        return (
            Line(symbol, value * n, kind, item.id, "typed, characteristic"),
            Line("γM", gamma, "factor", "EN 1995-1-1 2.4.1"),
        )

    return Strength(
        RULES,
        WOOD,
        item.moment * n / gamma,
        item.shear * n / gamma,
        item.stiffness * n,
        end=item.reaction * n / gamma,
        breadth=section.breadth,
        depth=section.depth,
        moment_lines=lines("Mk", item.moment, "moment"),
        shear_lines=lines("Vk", item.shear, "force"),
        stiff_lines=(Line("E I", item.stiffness * n / 1e9, "factor", item.id, "typed, 10⁹ N mm²"),),
        bearing_lines=lines("Rk", item.reaction, "force"),
    )


def _timber(section: Section, value: DesignTimber, ksys: float) -> Strength:
    of, gamma = value.timber, value.gamma_m
    fb = value.fb * ksys
    return Strength(
        RULES,
        WOOD,
        fb * section.modulus,
        value.fv * section.area / 1.5,
        value.e * section.inertia,
        value.fc_perp * section.breadth,
        bearing_by_duration=True,
        fb=fb,
        fb_hogging=fb,
        e_min=value.e_min,
        fm=of.fm,
        glued=of.material == "glulam",
        breadth=section.breadth,
        depth=section.depth,
        moment_lines=(
            Line("W", section.modulus, "modulus", how="b h² / 6"),
            Line("fm,k", of.fm, "stress", of.table, of.name),
            Line("kh", value.kh, "factor", "EN 1995-1-1 3.2, 3.3"),
            Line("ksys", ksys, "factor", "EN 1995-1-1 6.6"),
            Line("γM", gamma, "factor", gamma_clause(of.material, value.by)),
        ),
        shear_lines=(
            Line("A", section.area, "steel", how="b h"),
            Line("kcr", kcr(of), "factor", "EN 1995-1-1 6.1.7(2)"),
            Line("fv,k", of.fv, "stress", of.table, of.name),
            Line("γM", gamma, "factor", gamma_clause(of.material, value.by)),
        ),
        stiff_lines=(
            Line("E0,mean", value.e, "stress", of.table, of.name),
            Line("I", section.inertia, "inertia", how="b h³ / 12"),
        ),
        bearing_lines=(
            Line("fc,90,k", of.fc_perp, "stress", of.table, of.name),
            Line("γM", gamma, "factor", gamma_clause(of.material, value.by)),
            Line("b", section.breadth, "run"),
        ),
    )


def _steel(section: Section, unbraced: float) -> Strength | None:
    rolled = ec3.rolled(section)
    if rolled is None:
        return None
    moment = rolled.allowable(unbraced)
    resists = rolled.shear()
    return Strength(
        RULES,
        ROLLED,
        moment,
        resists,
        ec3.E * section.inertia,
        duration=False,
        breadth=section.breadth,
        depth=section.depth,
        lateral=rolled,
        moment_lines=(
            Line("W", rolled.modulus, "modulus", "EN 1993-1-1 6.2.5", rolled.words),
            Line("fy", rolled.fy, "stress", section.name),
            Line("Lb", unbraced, "length", "EN 1993-1-1 6.3.2"),
        ),
        shear_lines=(
            Line("Av", rolled.shear_area, "steel", "EN 1993-1-1 6.2.6(3)"),
            Line("fy", rolled.fy, "stress", section.name),
        ),
        stiff_lines=(
            Line("E", ec3.E, "stress", "EN 1993-1-1 3.2.6"),
            Line("I", section.inertia, "inertia"),
        ),
    )
