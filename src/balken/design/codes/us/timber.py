"""Timber by NDS-2018 with combinations by ASCE 7-16, under the face that all codes share."""

from functools import cache, partial
from typing import Final

import numpy as np
from msgspec.structs import replace

from balken.analysis.simple import Floats
from balken.design.codes.timber import (
    Contact,
    Held,
    InFrame,
    PostRules,
    SillBolt,
    SnowOnTruss,
    SpanRules,
    TimberCode,
    TrussRules,
)
from balken.design.codes.us import aisc, decks, panels, sdpws, strengths
from balken.design.codes.us.nds import bending, columns, creep, dowels, joints
from balken.design.codes.us.nds.factors import Adjusted, adjusted
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import Line
from balken.design.spanning import CHECKS
from balken.design.strength import Strength
from balken.design.under import Under
from balken.design.worth import Worth
from balken.framing.ground.anchors import EMBEDDED
from balken.loads.cases import Sums
from balken.loads.codes.us.combinations import GRAVITY
from balken.loads.codes.us.snow import WINDWARD, drift_on
from balken.model.left_open import LeftOpen, LongTerm
from balken.model.record import ServiceClass
from balken.model.sections import BY_STRESS, STEEL, Product, Section, weak_e_min
from balken.model.uses import Category
from balken.units import INCH, PSI

MASONRY: Final = 0.33 * 1500 * PSI
"""Allowable bearing of masonry, 0.33 f'm with f'm of 1,500 psi (TMS 402-16 8.2.4 and table 2, from
memory), N/mm²."""
CONCRETE: Final = 0.35
"""Allowable bearing of concrete over f'c: φ 0.85 f'c with φ 0.65 (ACI 318-19 22.8.3.2), over a load
factor of 1.6."""
BUCKLES: Final = 99.0
"""Utilisation of a piece pushed harder than its Euler stress."""


_SUMS: Final = Sums(GRAVITY)


def _sums(service: ServiceClass, on_floors: Category) -> Sums:
    """Moisture and use change no combination here."""
    return _SUMS


def _elastic(on_floors: Category) -> Sums:
    return _SUMS


def _crept(long_term: LongTerm, service: ServiceClass, on_floors: Category) -> Sums:
    """The same, whose second limit of deflection holds dead load times K_cr: 2 of wood that is built
    in or used wet (NDS-2018 3.5.2)."""
    return crept(creep.SEASONED if long_term == "seasoned" and service != WET else creep.UNSEASONED)


WET: Final = 3
"""The service class of wood open to the weather."""


@cache
def crept(kcr: float) -> Sums:
    """Combinations whose lasting sag is K_cr of the dead load's and what else comes (NDS-2018
    3.5-1)."""
    found = []
    for c in GRAVITY:
        lasting = replace(c.factors, dead=creep.total(c.factors.dead, 0.0, kcr))
        found.append(replace(c, sags=(c.first_sag, lasting)))
    return Sums(tuple(found))


def _uplift(service: ServiceClass) -> tuple[str, float, float, float]:
    """ASCE 7-16 2.4.1 no. 7; C_D of wind (NDS table 2.3.2)."""
    return "0.6D + 0.6W up", 0.6, 0.6, 1.6


def _worth(species: str, grade: str, section: Section) -> Worth | None:
    if section.product is not None:
        return _of_product(section.product)
    nominal = section.nominal if section.box is None else section.box.nominal
    try:
        return adjusted(reference(species, grade, nominal), species, grade, nominal)
    except NoValueError:
        return None


def _of_product(item: Product) -> Worth | None:
    if item.family not in BY_STRESS:
        return None
    return Worth(item.fb, item.fv, item.fc_perp, item.fc, item.e, item.e_min)


def _strength(
    section: Section, species: str, grade: str, span: float, unbraced: float, in_row: bool
) -> Strength | None:
    return strengths.strength_of(section, species, grade, span, unbraced, repetitive=in_row)


def _missing(material: str, section: Section) -> str:
    """What is missing for a post to be checked; empty where nothing is."""
    if section.family in STEEL:
        return ""
    item = section.product
    if item is not None:
        return "" if item.fc else f"{item.id} has no compression stress: type its Fc"
    species, _, grade = material.partition(" ")
    try:
        reference(species, grade, section.nominal)
    except NoValueError as error:
        return f"{error}"
    return ""


def _held(material: str, section: Section, length: float, duration: float) -> Held:
    """What a post resists, N (NDS 3.7, 15.3; AISC 360 E)."""
    if section.family in STEEL:
        return (*aisc.compression(section, length), "AISC 360 E3, E7")
    item, species, grade = section.product, *material.partition(" ")[::2]
    found = _worth(species, grade, section)
    assert found is not None, "asked of what has values"
    glued = item is not None and item.family in ("glulam", "lvl")
    load, lines = columns.allowable(
        section.breadth,
        section.depth,
        found.fc * duration,
        (found.e_min, weak_e_min(item) if item else found.e_min),
        (length, length),
        columns.C_GLUED if glued else columns.C_SAWN,
        plies=section.plies,
    )
    return load, lines, "NDS 15.3" if section.plies > 1 else "NDS 3.7"


def _stable(star: Floats, e_min: Floats, slender: Floats) -> Floats:
    """C_P of many pieces (NDS 3.7-1)."""
    with np.errstate(divide="ignore"):
        ratio = 0.822 * e_min / np.maximum(slender, 1e-9) ** 2 / star
    middle = (1 + ratio) / (2 * columns.C_SAWN)
    found: Floats = middle - np.sqrt(np.maximum(middle**2 - ratio / columns.C_SAWN, 0.0))
    return found


def used_in_frame(p: InFrame) -> Floats:
    """Utilisation of pieces of trusses: NDS 3.9.1 in tension, 3.9.2 in compression, with the moments
    at their ends and between."""
    fc = p.pressed * _stable(p.pressed, p.e_min, np.maximum(p.slender, p.across))
    euler = 0.822 * p.e_min / p.slender**2
    with np.errstate(divide="ignore", invalid="ignore"):
        between = (p.push / fc) ** 2 + p.bent_between / (p.bending * (1 - p.push / euler))
    ends = (p.push / p.pressed) ** 2 + p.bent_at_ends / p.bending
    pushed = np.where(p.push >= euler, BUCKLES, np.maximum(np.maximum(between, ends), p.push / fc))
    bent = np.maximum(p.bent_between, p.bent_at_ends) / p.bending
    ratios = np.where(p.pull > 0, p.pull / p.pulled + bent, bent)
    found: Floats = np.where(
        p.push > 0, np.maximum(np.where(p.pull > 0, ratios, 0.0), pushed), ratios
    )
    return found


def _on(value: Worth, under: Under) -> Worth:
    """Values whose bearing is limited by a softer support (NDS 3.10.2)."""
    if under.stress >= value.fc_perp or not isinstance(value, Adjusted):
        return value
    softer = replace(value.reference, fc_perp=under.stress)
    words = f"{under.clause}, {under.what} under it"
    return replace(value, fc_perp=under.stress, reference=softer, bears_on=words)


def _contact(contact: Contact, section: Section) -> float:
    """The bearing as it is: C_b is left out, as safe."""
    return contact.length


def _web(section: Section, bearing: float, to_end: float) -> tuple[float, str]:
    return aisc.web_bearing(section, bearing, to_end), "AISC 360 J10"


EARTH: Final = 0.9
"""C_D of earth, which always presses (NDS-2018 table 2.3.2)."""
SILL: Final = ("HF", "No.2")


def _sill_bolt(diameter: float, sill: float) -> SillBolt:
    held = dowels.sill_bolt(diameter, sill, dowels.GRAVITY[SILL[0]], EMBEDDED) * EARTH
    lines = (
        Line("D", diameter, "run"),
        Line("CD", EARTH, "factor", "NDS 2.3.2"),
        Line(
            "Z′", held, "force", "NDS 12.3.1", f"of one bolt across the grain of a {SILL[0]} sill"
        ),
    )
    return SillBolt(held, 1.0, lines, "NDS 12.3.1, IRC R404.1")


def _on_studs(section: Section, spacing: float, sheathed: bool) -> tuple[float, str]:
    """The stud factor of sheathed studs up to 16 in apart, else C_r up to 24 in (SDPWS-2015 3.1.1.1;
    NDS-2018 4.3.9)."""
    if sheathed and spacing <= STUDS_APART:
        return sdpws.stud_factor(section.depth), "SDPWS 3.1.1.1"
    return bending.repetitive(SEVERAL, section.breadth, spacing), "NDS 4.3.9"


STUDS_APART: Final = 16 * INCH + 1.0
SEVERAL: Final = 3


def _plates(species: str) -> tuple[str, str]:
    return species, "No.2"


def _concrete(strength: float) -> tuple[float, str]:
    return CONCRETE * strength, "ACI 318-19 22.8"


TIMBER: Final = TimberCode(
    "NDS-2018",
    "ANSI/AWC NDS-2018, allowable stress design",
    _sums,
    _elastic,
    _uplift,
    _worth,
    _of_product,
    bending.repetitive,
    _strength,
    strengths.RULES,
    _on,
    False,  # NDS 2.3.2: not on compression across the grain
    "NDS 3.10.2",
    _contact,
    _web,
    SpanRules(CHECKS, bending.check, bending.explain),
    PostRules(_missing, _held, columns.SLENDEREST, "NDS 3.7.1.4"),
    TrussRules(
        used_in_frame,
        columns.SLENDEREST,
        ("NDS 3.9.1, 3.9.2", "NDS Supp. 4A, CF", "NDS 4.3.9"),
        "Cr",
        (
            SnowOnTruss("", (1.0, 1.0), (0.0, 0.0)),
            SnowOnTruss(" unbalanced", (1.0, WINDWARD), (1.0, 0.0)),
            SnowOnTruss(" unbalanced", (WINDWARD, 1.0), (0.0, 1.0)),
        ),
        drift_on,
    ),
    ("NDS 3.8.1", "NDS 4.3, Supp. 4A"),
    "NDS Supp. 4A",
    _concrete,
    (MASONRY, "TMS 402 8.2.4"),
    SILL,
    _sill_bolt,
    panels.racked,
    decks.decked,
    _on_studs,
    joints.joined,
    _plates,
)


@cache
def timber_by(by: LeftOpen) -> TimberCode:
    """The same with the sag that stays, where a client asks for it."""
    if by.long_term == "at once":
        return TIMBER
    return TIMBER._replace(
        basis=f"{TIMBER.basis}; long-term sag by NDS 3.5.2", sums=partial(_crept, by.long_term)
    )
