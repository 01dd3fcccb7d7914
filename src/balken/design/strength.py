"""What one piece resists, whatever it is made of: the same few numbers for wood by stress, wood by
capacity, and steel.

Checks of beams are one set of array functions over these numbers
(:mod:`balken.design.beam_checks`); where they come from is told by their lines.
"""

import math
from typing import Final

import msgspec

from balken.design.codes.us import aisc
from balken.design.codes.us.nds.factors import (
    REPETITIVE,
    REPETITIVE_COUNT,
    THICKEST_REPETITIVE,
    Adjusted,
    adjusted,
    depth_factor,
    volume_factor,
)
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Line
from balken.model.sections import BY_CAPACITY, STEEL, Section, hogging_stress, weak_e_min

REPETITIVE_LVL: Final = 1.04
"""C_r of structural composite lumber (NDS 8.3.7)."""


class Strength(msgspec.Struct, frozen=True):
    """What a bending member resists, without C_D. Lengths mm, N, N/mm²."""

    moment: float
    """Where it sags; of steel with its upper flange held as it is."""
    shear: float
    ei: float
    bearing: float = math.inf
    """Per mm of bearing length, N/mm."""
    end: float = math.inf
    """Reaction an end resists whatever its bearing, N: of products by capacity."""
    duration: bool = True
    """Whether C_D applies."""
    fb: float = 0.0
    """Fb with all factors but C_D, C_L and C_V, where wood is checked by stress."""
    fb_hogging: float = 0.0
    """The same where its upper edge is in tension: less for glulam of an unbalanced layup."""
    e_min: float = 0.0
    """For bending sideways: of glulam Ey,min (NDS Supp. 5A)."""
    breadth: float = 0.0
    depth: float = 0.0
    cv: float = 1.0
    """C_V of glulam, or the depth factor of LVL: the lesser of it and C_L counts (NDS 5.3.6,
    8.3.6)."""
    lateral: aisc.Lateral | None = None
    """Of steel: what its moment follows from for any unbraced length."""
    code: str = "NDS"
    moment_lines: tuple[Line, ...] = ()
    shear_lines: tuple[Line, ...] = ()
    stiff_lines: tuple[Line, ...] = ()
    bearing_lines: tuple[Line, ...] = ()


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
        moment,
        shear,
        aisc.E * section.inertia,
        duration=False,
        breadth=section.breadth,
        depth=section.depth,
        lateral=lateral,
        code="AISC 360",
        moment_lines=moment_lines,
        shear_lines=shear_lines,
        stiff_lines=(
            Line("E", aisc.E, "stress", "AISC 360 A3"),
            Line("I", section.inertia, "inertia"),
        ),
    )
