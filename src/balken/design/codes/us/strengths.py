"""What pieces resist by US codes: sawn lumber, glulam and LVL by NDS-2018, products by the capacities
their makers publish, steel by AISC 360-16."""

from collections.abc import Sequence
from typing import Final

import numpy as np

from balken.analysis.beams import Floats
from balken.design.boxes import as_strength
from balken.design.codes.us import aisc
from balken.design.codes.us.box_headers import box_strength
from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.factors import (
    REPETITIVE,
    REPETITIVE_COUNT,
    THICKEST_REPETITIVE,
    Adjusted,
    adjusted,
    depth_factor,
    effective_length,
    volume_factor,
)
from balken.design.codes.us.nds.notches import net_shear
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Line
from balken.design.strength import BeamRules, Clauses, Pushed, Strength
from balken.model.sections import BY_CAPACITY, STEEL, Section, hogging_stress, weak_e_min

REPETITIVE_LVL: Final = 1.04
"""C_r of structural composite lumber (NDS 8.3.7)."""


def stability(pieces: Sequence[Strength], fb: Floats, duration: Floats, length: Floats) -> Floats:
    """C_L of members (NDS 3.3.3); slenderness over 50 leaves nothing."""
    e_min, breadth, depth = (
        np.array(v)[:, None] for v in zip(*((s.e_min, s.breadth, s.depth) for s in pieces))
    )
    bends = (fb > 0) & (length > 0) & (depth > breadth)
    slender2 = np.where(bends, length * depth / np.where(bends, breadth, 1.0) ** 2, 1.0)
    ratio = (1.20 * e_min / slender2)[:, None] / (np.where(fb > 0, fb, 1.0) * duration)[:, :, None]
    middle = (1 + ratio) / 1.9
    found: Floats = middle - np.sqrt(np.maximum(middle**2 - ratio / 0.95, 0.0))
    found = np.where((slender2 > 2500)[:, None], 1e-9, found)
    return np.where(bends[:, None], found, 1.0)


def pushed(piece: Pushed) -> float:
    """Thrust with bending about the strong axis (NDS-2018 3.9-3)."""
    star = piece.fc * piece.duration
    allowed = star * columns.stability(star, piece.e_min, piece.slender)
    return columns.with_bending(
        piece.stress, allowed, piece.bending, 1.0, piece.e_min, piece.slender
    )


RULES: Final = BeamRules(
    effective_length,
    "NDS table 3.3.3",
    stability,
    "CL",
    "NDS 3.3.3",
    aisc.gradient_factor,
    "AISC 360 F1",
    "CD",
    "NDS 2.3.2",
    ("Live deflection", "Total deflection"),
    net_shear,
    ("NDS 3.2.3", "NDS 3.4.3.2"),
    "NDS 3.3, 3.2.3.1",
    pushed,
    ("NDS 3.9.2", "NDS 3.7.1"),
)
WOOD: Final = Clauses("NDS 3.3", "NDS 3.4", "NDS 3.5", "IRC R301.7", "NDS 3.10", "NDS 3.4.3")
BOX: Final = WOOD._replace(bending="NDS 4.3", shear="SDPWS 4.3.3")
ROLLED: Final = Clauses("AISC 360 F", "AISC 360 G", "IBC 1604.3", "IRC R301.7", "AISC 360 J10")


def strength_of(
    section: Section,
    species: str,
    grade: str,
    span: float,
    unbraced: float = 0.0,
    *,
    repetitive: bool = False,
) -> Strength | None:
    """What a piece resists; None where there are no values for it.

    Args:
        section: what it is cut from.
        species: of sawn lumber.
        grade: of sawn lumber.
        span: the longest, for the volume factor of glulam, mm.
        unbraced: of its upper edge, for steel, mm; wood is reduced where it is checked.
        repetitive: one of three or more in a row, 24 in apart at most, that share a load (NDS
            4.3.9).
    """
    if section.family in STEEL:
        return _steel(section, unbraced)
    if section.family in BY_CAPACITY:
        return _by_capacity(section)
    if section.box is not None:
        box = box_strength(section, species, grade, span)
        return as_strength(section, box, RULES, BOX, lasts=False) if box is not None else None
    if section.product:
        return _by_stress(section, span)
    try:
        value = adjusted(
            reference(species, grade, section.nominal), species, grade, section.nominal
        )
    except NoValueError:
        return None
    return _sawn(section, value, repetitive)


def _sawn(section: Section, value: Adjusted, repetitive: bool) -> Strength:
    dimension = section.breadth / section.plies <= THICKEST_REPETITIVE
    cr = REPETITIVE if dimension and (repetitive or section.plies >= REPETITIVE_COUNT) else 1.0
    fb = value.fb * cr
    table = value.reference.table
    return Strength(
        RULES,
        WOOD,
        fb * section.modulus,
        value.fv * section.area / 1.5,
        value.e * section.inertia,
        value.fc_perp * section.breadth,
        fb=fb,
        fb_hogging=fb,
        e_min=value.e_min,
        breadth=section.breadth,
        depth=section.depth,
        moment_lines=(
            Line("S", section.modulus, "modulus", how="b d² / 6"),
            Line("Fb", value.reference.fb, "stress", table),
            Line("CF", value.cf, "factor", "NDS 4.3.6"),
            Line("Cr", cr, "factor", "NDS 4.3.9"),
        ),
        shear_lines=(
            Line("A", section.area, "steel", how="b d"),
            Line("Fv", value.reference.fv, "stress", table),
        ),
        stiff_lines=(
            Line("E", value.reference.e, "stress", table),
            Line("I", section.inertia, "inertia", how="b d³ / 12"),
        ),
        bearing_lines=(
            Line("Fc perp", value.reference.fc_perp, "stress", table),
            Line("b", section.breadth, "run"),
        ),
    )


def _by_stress(section: Section, span: float) -> Strength:
    item = section.product
    assert item is not None, f"{section.name} is no product"
    glulam = item.family == "glulam"
    if glulam:
        cv = volume_factor(section.breadth, section.depth, span, southern_pine=item.southern_pine)
    else:
        cv = depth_factor(section.depth, item.depth_exponent) if item.family == "lvl" else 1.0
    cr = REPETITIVE_LVL if item.family == "lvl" and section.plies >= REPETITIVE_COUNT else 1.0
    fb = item.fb * cr
    source = item.id
    lines = [
        Line("S", section.modulus, "modulus", how="b d² / 6"),
        Line("Fb", item.fb, "stress", source),
    ]
    if glulam:
        lines.append(Line("CV", cv, "factor", "NDS 5.3.6"))
    else:
        how = f"(12 in / d)^{item.depth_exponent:g}"
        lines += [Line("CV", cv, "factor", "NDS 8.3.6", how), Line("Cr", cr, "factor", "NDS 8.3.7")]
    return Strength(
        RULES,
        WOOD,
        fb * section.modulus,
        item.fv * section.area / 1.5,
        item.e * section.inertia,
        item.fc_perp * section.breadth,
        fb=fb,
        fb_hogging=hogging_stress(item) * cr,
        e_min=weak_e_min(item),
        breadth=section.breadth,
        depth=section.depth,
        cv=cv,
        moment_lines=tuple(lines),
        shear_lines=(
            Line("A", section.area, "steel", how="b d"),
            Line("Fv", item.fv, "stress", source),
        ),
        stiff_lines=(
            Line("E", item.e, "stress", source),
            Line("I", section.inertia, "inertia", how="b d³ / 12"),
        ),
        bearing_lines=(
            Line("Fc perp", item.fc_perp, "stress", source),
            Line("b", section.breadth, "run"),
        ),
    )


def _by_capacity(section: Section) -> Strength:
    item = section.product
    assert item is not None
    n = section.plies
    return Strength(
        RULES,
        WOOD,
        item.moment * n,
        item.shear * n,
        item.stiffness * n,
        end=item.reaction * n,
        breadth=section.breadth,
        depth=section.depth,
        moment_lines=(Line("Mr", item.moment * n, "moment", item.id, "published"),),
        shear_lines=(Line("Vr", item.shear * n, "force", item.id, "published"),),
        stiff_lines=(
            Line("E I", item.stiffness * n / 1e9, "factor", item.id, "published, 10⁹ N mm²"),
        ),
        bearing_lines=(Line("Rr", item.reaction * n, "force", item.id, "published"),),
    )


def _steel(section: Section, unbraced: float) -> Strength:
    lateral = aisc.lateral_of(section)
    moment, moment_lines = aisc.moment(section, unbraced)
    shear, shear_lines = aisc.shear(section)
    return Strength(
        RULES,
        ROLLED,
        moment,
        shear,
        aisc.E * section.inertia,
        duration=False,
        breadth=section.breadth,
        depth=section.depth,
        lateral=lateral,
        moment_lines=moment_lines,
        shear_lines=shear_lines,
        stiff_lines=(
            Line("E", aisc.E, "stress", "AISC 360 A3"),
            Line("I", section.inertia, "inertia"),
        ),
    )
