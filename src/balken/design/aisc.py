"""Steel by AISC 360-16, allowable strength design: rolled I and hollow sections in bending, shear and compression.

From memory, chapter and equation named at each step. Lengths mm, N, N/mm².
"""

import math
from typing import Final

from balken.design.steps import Step
from balken.model.sections import STEEL_E, Product, Section

E: Final = STEEL_E
BENDING: Final = 1.67
"""Ω_b (F1)."""
COMPRESSION: Final = 1.67
"""Ω_c (E1)."""
SHEAR_ROLLED: Final = 1.50
"""Ω_v of rolled I whose web is stocky (G2.1a)."""
SHEAR: Final = 1.67
"""Ω_v of others (G1)."""


def moment(section: Section, unbraced: float) -> tuple[float, tuple[Step, ...]]:
    """Return the allowable moment about the strong axis, N mm: F2 and F3 for I, F7 for hollow sections.

    Args:
        section: a steel section.
        unbraced: length of the compression flange between places where it is held sideways, mm.
    """
    item = _product(section)
    plastic = item.fy * section.plastic
    steps = [Step("Z", section.plastic, "modulus"), Step("Fy", item.fy, "stress", item.id)]
    steps.append(Step("Mp", plastic, "moment", "AISC 360 F2-1", "Fy Z"))
    if item.family == "steel hollow":
        nominal = plastic
    else:
        nominal = min(_lateral(section, item, plastic, unbraced, steps), _flange(section, item, plastic, steps))
    steps.append(Step("Ω", BENDING, "factor", "AISC 360 F1"))
    return nominal / BENDING, tuple(steps)


def _lateral(section: Section, item: Product, plastic: float, unbraced: float, steps: list[Step]) -> float:
    """Lateral-torsional buckling with C_b = 1 (F2-2 to F2-8)."""
    ry = math.sqrt(section.weak_inertia / section.area)
    lp = 1.76 * ry * math.sqrt(E / item.fy)
    if unbraced <= lp:
        return plastic
    height = section.depth - item.flange
    torsion = (2 * item.breadth * item.flange**3 + height * item.web**3) / 3
    rts = math.sqrt(math.sqrt(section.weak_inertia * section.weak_inertia * height**2 / 4) / section.modulus)
    ratio = torsion / (section.modulus * height)
    lr = 1.95 * rts * E / (0.7 * item.fy) * math.sqrt(ratio + math.sqrt(ratio**2 + 6.76 * (0.7 * item.fy / E) ** 2))
    steps += [
        Step("Lb", unbraced, "length"),
        Step("Lp", lp, "length", "AISC 360 F2-5"),
        Step("Lr", lr, "length", "AISC 360 F2-6"),
    ]
    elastic = 0.7 * item.fy * section.modulus
    if unbraced <= lr:
        return min(plastic, plastic - (plastic - elastic) * (unbraced - lp) / (lr - lp))
    slender = (unbraced / rts) ** 2
    stress = math.pi**2 * E / slender * math.sqrt(1 + 0.078 * ratio * slender)
    return min(plastic, stress * section.modulus)


def _flange(section: Section, item: Product, plastic: float, steps: list[Step]) -> float:
    """Local buckling of a flange that is not compact (F3-1)."""
    slender = item.breadth / (2 * item.flange)
    compact, limit = 0.38 * math.sqrt(E / item.fy), 1.0 * math.sqrt(E / item.fy)
    if slender <= compact:
        return plastic
    steps.append(Step("bf / 2 tf", slender, "factor", "AISC 360 F3-1"))
    share = min(1.0, (slender - compact) / (limit - compact))
    return plastic - (plastic - 0.7 * item.fy * section.modulus) * share


def shear(section: Section) -> tuple[float, tuple[Step, ...]]:
    """Return the allowable shear, N (G2-1 for I, G4-1 for hollow sections)."""
    item = _product(section)
    if item.family == "steel i":
        area = item.depth * item.web
        stocky = (item.depth - 2 * item.flange) / item.web <= 2.24 * math.sqrt(E / item.fy)
        omega = SHEAR_ROLLED if stocky else SHEAR
    else:
        area, omega = 2 * (item.depth - 3 * item.web) * item.web, SHEAR
    steps = (
        Step("Aw", area, "steel"), Step("Vn", 0.6 * item.fy * area, "force", "AISC 360 G2-1", "0.6 Fy Aw"),
        Step("Ω", omega, "factor", "AISC 360 G"),
    )  # fmt: skip
    return 0.6 * item.fy * area / omega, steps


def compression(section: Section, length: float) -> tuple[float, tuple[Step, ...]]:
    """Return the allowable compression of a column held at both ends, N (E3-1 to E3-4, K = 1)."""
    item = _product(section)
    r = math.sqrt(min(section.inertia, section.weak_inertia) / section.area)
    slender = length / r
    euler = math.pi**2 * E / slender**2 if slender > 0 else math.inf
    stress = 0.658 ** (item.fy / euler) * item.fy if item.fy / euler <= 2.25 else 0.877 * euler
    steps = (
        Step("Lc", length, "length", "AISC 360 E2", "K = 1"), Step("r", r, "run"),
        Step("Lc / r", slender, "factor"), Step("Fe", euler, "stress", "AISC 360 E3-4"),
        Step("Fcr", stress, "stress", "AISC 360 E3-2"), Step("A", section.area, "steel"),
        Step("Ω", COMPRESSION, "factor", "AISC 360 E1"),
    )  # fmt: skip
    return stress * section.area / COMPRESSION, steps


def _product(section: Section) -> Product:
    assert section.product is not None, f"{section.name} is no product"
    return section.product
