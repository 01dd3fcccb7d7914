"""Timber by EN 1995-1-1 with combinations by EN 1990, and steel by EN 1993-1-1, under the face that all
codes share. Recommended values."""

import math
from functools import cache, partial
from typing import Final

import numpy as np
from msgspec.structs import replace

from balken.analysis.simple import Floats
from balken.design.codes.eu import ec3, strengths
from balken.design.codes.eu.ec5 import (
    bearing,
    columns,
    combinations,
    decks,
    dowels,
    joints,
    panels,
    spans,
)
from balken.design.codes.eu.ec5.factors import (
    KSYS,
    gamma_clause,
    gamma_m,
    kmod,
    kmod_clause,
)
from balken.design.codes.eu.ec5.values import SOFTWOOD_CLASSES, Material, timber
from balken.design.codes.eu.ec5.worth import (
    NO_CLASS,
    DesignTimber,
    timber_of,
    timber_of_product,
    worth_of,
    worth_of_product,
)
from balken.design.codes.timber import (
    Contact,
    Decked,
    Decking,
    Held,
    InFrame,
    Joined,
    Lap,
    PostRules,
    Racked,
    Racking,
    SillBolt,
    SnowOnTruss,
    SpanRules,
    TimberCode,
    TrussRules,
)
from balken.design.lines import Line
from balken.design.strength import Strength
from balken.design.under import Under
from balken.design.worth import Worth
from balken.loads.codes.drift import Drift
from balken.model.catalogue import SOFTWOOD, STRENGTH_CLASSES
from balken.model.fasteners import Dowels
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.record import ServiceClass
from balken.model.sections import STEEL, Section

MOST_APART: Final = 1200.0
"""Like members that a floor or roof joins share load up to this spacing, mm (EN 1995-1-1 6.6(3) says
it of trusses)."""
SEVERAL: Final = 3
SLENDEREST_WEB: Final = 50.0
"""Effective length over breadth of a web, before it is held between its ends (common practice; the
code has no limit)."""
PLAIN_CONCRETE: Final = 0.8 / 1.5
"""α_cc,pl over γ_C (EN 1992-1-1 12.3.1)."""
MASONRY: Final = 2.5 / 2.5
"""f_k of 2.5 N/mm², as weak as usual blocks in usual mortar come, over γ_M of 2.5 (EN 1996-1-1 2.4.3,
3.6.1.2; common practice), N/mm²."""


def _uplift(by: LeftOpen, service: ServiceClass) -> tuple[str, float, float, float]:
    """0.9 of what is permanent against 1.5 of the wind (EN 1990 table A1.2(A))."""
    lasts = kmod(service, "instantaneous", by)
    return f"{by.holding:g}G + {by.variable:g}W up", by.holding, by.variable, lasts


def _strength(
    by: LeftOpen,
    section: Section,
    species: str,
    grade: str,
    span: float,
    unbraced: float,
    in_row: bool,
) -> Strength | None:
    return strengths.strength_of(section, species, grade, span, unbraced, in_row=in_row, by=by)


def _shared(count: int, breadth: float, spacing: float) -> float:
    """ksys of members side by side; plies nailed together have none (EN 1995-1-1 6.6)."""
    return KSYS if count >= SEVERAL and 0 < spacing <= MOST_APART + 1.0 else 1.0


def _on(value: Worth, under: Under) -> Worth:
    """Values whose bearing is limited by a softer support."""
    if under.stress >= value.fc_perp or not isinstance(value, DesignTimber):
        return value
    words = f"{under.what} under it, {under.clause}"
    return replace(value, fc_perp=under.stress, bears_on=words)


def _contact(contact: Contact, section: Section) -> float:
    """Effective contact times kc,90 (EN 1995-1-1 6.1.5)."""
    beyond = (max(0.0, contact.to_end - contact.length / 2), math.inf)
    length = bearing.contact_length(contact.length, beyond, contact.to_next)
    product = timber_of_product(section.product) if section.product is not None else None
    material: Material = "solid timber" if product is None else product.material
    factor = bearing.kc90(material, "discrete", contact.depth, contact.length, contact.to_next)
    return factor * length


def _web(section: Section, length: float, to_end: float) -> tuple[float, str]:
    return ec3.web_bearing(section, length, to_end), "EN 1993-1-5 6"


def _missing(material: str, section: Section) -> str:
    """What is missing for a post to be checked; empty where nothing is."""
    if section.family in STEEL:
        slender = ec3.class_in_compression(section) >= ec3.SLENDER
        words = f"{section.name} has plates of class 4, which are not reckoned"
        return words if slender else ""
    species, _, grade = material.partition(" ")
    found = timber_of(species, grade, section)
    if found is None:
        return NO_CLASS
    return "" if found.fc else f"{found.name} has no compression strength: type its Fc"


def _held(by: LeftOpen, material: str, section: Section, length: float, duration: float) -> Held:
    """What a post resists, N (EN 1995-1-1 6.3.2; EN 1993-1-1 6.3.1)."""
    if section.family in STEEL:
        force, relative, curve = ec3.post(section, length)
        area = Line("A", section.area, "steel")
        slender = Line("λ", relative, "factor", "EN 1993-1-1 6.3.1.2", f"curve {curve}")
        return force, (area, slender), "EN 1993-1-1 6.3.1"
    species, _, grade = material.partition(" ")
    of = timber_of(species, grade, section)
    assert of is not None, "asked of what has values"
    # Plies nailed together are taken to buckle each for itself: annex C asks for more than nails say.
    ply = section.breadth / section.plies
    ratio = max(columns.slenderness(length, section.depth), columns.slenderness(length, ply))
    factor, gamma = columns.kc(ratio, of), gamma_m(of.material, by)
    strength = of.fc * duration / gamma
    lines = (
        Line("λrel", columns.relative_slenderness(ratio, of), "factor", "EN 1995-1-1 6.21"),
        Line("kc", factor, "factor", "EN 1995-1-1 6.25"),
        Line("fc,0,k", of.fc, "stress", of.table, of.name),
        Line("γM", gamma, "factor", gamma_clause(of.material, by)),
        Line("A", section.area, "steel", how="b h"),
    )
    return factor * strength * section.area, lines, "EN 1995-1-1 6.3.2"


def used_in_frame(p: InFrame) -> Floats:
    """Utilisation of pieces of trusses: EN 1995-1-1 6.2.3 in tension, 6.2.4 and 6.3.2 in
    compression, with the moments at their ends and between."""
    slender = np.maximum(p.slender, p.across) * math.sqrt(12)
    relative = slender / math.pi * np.sqrt(p.characteristic / p.e_min)
    pressed = p.push / p.pressed
    at_ends, between = p.bent_at_ends / p.bending, p.bent_between / p.bending
    buckling = np.where(
        relative <= columns.STOCKY,
        pressed**2 + between,
        pressed / spans.kc_of(relative, 0.2) + between,
    )
    pushed = np.maximum(buckling, pressed**2 + at_ends)
    bent = np.maximum(at_ends, between)
    pulled = np.where(p.pull > 0, p.pull / p.pulled + bent, bent)
    found: Floats = np.where(
        p.push > 0, np.maximum(np.where(p.pull > 0, pulled, 0.0), pushed), pulled
    )
    return found


def _no_drift(balanced: float, slope: float, width: float) -> Drift | None:
    """EN 1991-1-3 5.3.3 has half the snow on one side, and no drift beside the ridge."""
    return None


def _concrete(strength: float) -> tuple[float, str]:
    return PLAIN_CONCRETE * strength, "EN 1992-1-1 12.6"


SILL: Final = (SOFTWOOD, "C24")


def _sill_bolt(by: LeftOpen, diameter: float, sill: float) -> SillBolt:
    """What earth pushes is permanent: γ_G on it (EN 1990 table A1.2(B))."""
    of = timber(SILL[1])
    factor = kmod(2, "permanent", by)
    whole = dowels.sill_bolt(of, diameter, sill)
    held = whole * factor / gamma_m(of.material, by)
    lines = (
        Line("d", diameter, "run"),
        Line("Fv,Rk", whole, "force", "EN 1995-1-1 8.2.3", f"across the grain of a {of.name} sill"),
        Line("kmod", factor, "factor", kmod_clause(by)),
        Line("Fv,Rd", held, "force", "EN 1995-1-1 2.4.3"),
    )
    return SillBolt(held, by.permanent, lines, "EN 1995-1-1 8.2.3")


def _racked(by: LeftOpen, asked: Racking) -> Racked:
    """In service class 2: sheathing outside."""
    if asked.species != SOFTWOOD or asked.grade not in SOFTWOOD_CLASSES:
        return Racked(why=NO_CLASS)
    return panels.racked(asked, timber(asked.grade), kmod(2, "instantaneous", by), by.variable)


def _decked(by: LeftOpen, asked: Decking) -> Decked:
    """In service class 2: under roofing."""
    if asked.species != SOFTWOOD or asked.grade not in SOFTWOOD_CLASSES:
        return Decked(why=NO_CLASS)
    return decks.decked(asked, timber(asked.grade), kmod(2, "instantaneous", by), by.variable)


def _on_studs(section: Section, spacing: float, sheathed: bool) -> tuple[float, str]:
    """k_sys of studs in a row that sheathing joins (EN 1995-1-1 6.6)."""
    return (_shared(SEVERAL, section.breadth, spacing) if sheathed else 1.0), "EN 1995-1-1 6.6"


def _joined(dowels: Dowels, lap: Lap) -> Joined:
    """Of two pieces of one strength class."""
    known = lap.species == SOFTWOOD and lap.grade in SOFTWOOD_CLASSES
    if not known:
        return Joined(why=NO_CLASS)
    return joints.joined(dowels, lap, timber(lap.grade))


def _plates(species: str) -> tuple[str, str]:
    """Plates of walls are of the class that was typed, else of the softest that is usual."""
    return SOFTWOOD, species if species in STRENGTH_CLASSES else "C16"


TIMBER: Final = TimberCode(
    "EN 1995-1-1",
    "EN 1990, EN 1995-1-1, EN 1993-1-1, recommended values",
    combinations.sums,
    combinations.elastic,
    partial(_uplift, RECOMMENDED),
    worth_of,
    worth_of_product,
    _shared,
    partial(_strength, RECOMMENDED),
    strengths.RULES,
    _on,
    True,
    "EN 1995-1-1 6.1.5",
    _contact,
    _web,
    SpanRules(spans.NAMES, spans.check, spans.explain),
    PostRules(_missing, partial(_held, RECOMMENDED), math.inf, ""),
    TrussRules(
        used_in_frame,
        SLENDEREST_WEB,
        ("EN 1995-1-1 6.2.3, 6.3.2", "EN 338 table 1", "EN 1995-1-1 6.6"),
        "ksys",
        (
            SnowOnTruss("", (1.0, 1.0), (0.0, 0.0)),
            SnowOnTruss(" drifted", (1.0, 0.5), (0.0, 0.0)),
            SnowOnTruss(" drifted", (0.5, 1.0), (0.0, 0.0)),
        ),
        _no_drift,
    ),
    ("EN 1995-1-1 6.1.2", "EN 1995-1-1 2.4.1"),
    "EN 338 table 1",
    _concrete,
    (MASONRY, "EN 1996-1-1 6.1.3"),
    SILL,
    partial(_sill_bolt, RECOMMENDED),
    partial(_racked, RECOMMENDED),
    partial(_decked, RECOMMENDED),
    _on_studs,
    _joined,
    _plates,
)


@cache
def timber_by(by: LeftOpen) -> TimberCode:
    """The same by the values of a country."""
    if by == RECOMMENDED:
        return TIMBER
    return TIMBER._replace(
        basis=TIMBER.basis.replace("recommended values", "values typed for the country"),
        sums=partial(combinations.sums, by=by),
        elastic=partial(combinations.elastic, by=by),
        uplift=partial(_uplift, by),
        worth=partial(worth_of, by=by),
        product_worth=partial(worth_of_product, by=by),
        strength=partial(_strength, by),
        rules=TIMBER.rules._replace(duration_clause=kmod_clause(by)),
        posts=TIMBER.posts._replace(held=partial(_held, by)),
        sill_bolt=partial(_sill_bolt, by),
        racked=partial(_racked, by),
        decked=partial(_decked, by),
    )
