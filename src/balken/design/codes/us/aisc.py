"""Steel by AISC 360-16, allowable strength design: rolled I and hollow sections in bending, shear,
compression, and where they bear.

From memory, chapter and equation named at each line. Lengths mm, N, N/mm².
"""

import math
from typing import Final

import msgspec

from balken.design.lines import Line
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
YIELDING: Final = 1.50
"""Ω of a web that yields under a bearing (J10.2)."""
CRIPPLING: Final = 2.00
"""Ω of a web that cripples (J10.3)."""
SLENDEREST: Final = 200.0
"""L_c / r of columns should not be over this (E2, user note): advice, no limit."""


class Lateral(msgspec.Struct, frozen=True, gc=False):
    """What the moment of a steel section follows from for any unbraced length: N mm, mm, N/mm²."""

    plastic: float
    """M_p, or what local buckling leaves of it (F2.1, F3, F5, F7.2, F8)."""
    elastic: float
    """0.7 Fy Sx."""
    lp: float
    lr: float
    """Both infinite for hollow sections, which do not buckle sideways."""
    modulus: float
    rts: float
    ratio: float
    """J c / (Sx h0)."""

    def allowable(self, unbraced: float, cb: float = 1.0) -> float:
        """Allowable moment, N mm (F2-2 to F2-4).

        Args:
            unbraced: of the flange in compression, between places where it is held sideways, mm.
            cb: for the shape of the moment between them (F1-1); 1 is safe.
        """
        if unbraced <= self.lp:
            return self.plastic / BENDING
        if unbraced <= self.lr:
            drop = (self.plastic - self.elastic) * (unbraced - self.lp) / (self.lr - self.lp)
            return min(self.plastic, cb * (self.plastic - drop)) / BENDING
        slender = (unbraced / self.rts) ** 2
        stress = cb * math.pi**2 * E / slender * math.sqrt(1 + 0.078 * self.ratio * slender)
        return min(self.plastic, stress * self.modulus) / BENDING


def gradient_factor(larger: float, smaller: float) -> float:
    """C_b of a stretch whose moment runs straight from one end to the other, both bending it alike
    (F1-1).

    A load on the stretch itself that bends it the other way only helps.

    Args:
        larger: moment at one end, not less than the other.
        smaller: moment at the other end, nothing or more.
    """
    if larger <= 0:
        return 1.0
    r = min(1.0, max(0.0, smaller / larger))
    return 12.5 / (7.5 + 5.0 * r)


def lateral_of(section: Section) -> Lateral:
    """What the moment of a steel section about its strong axis follows from."""
    item = _product(section)
    plastic = _after_local_buckling(section, item)
    if item.family == "steel hollow":
        return Lateral(plastic, plastic, math.inf, math.inf, section.modulus, 1.0, 1.0)
    ry = math.sqrt(section.weak_inertia / section.area)
    height = section.depth - item.flange
    torsion = (2 * item.breadth * item.flange**3 + height * item.web**3) / 3
    rts = math.sqrt(section.weak_inertia * height / 2 / section.modulus)
    return lateral_from(
        plastic, item.fy, section.modulus, ry, rts, torsion / (section.modulus * height)
    )


def lateral_from(
    plastic: float, fy: float, modulus: float, ry: float, rts: float, ratio: float
) -> Lateral:
    """What the moment of an I follows from (F2-5, F2-6).

    Args:
        plastic: M_p, or what local buckling leaves of it, N mm.
        fy: yield stress, N/mm².
        modulus: S_x, mm³.
        ry: radius of gyration about the weak axis, mm.
        rts: effective radius of gyration, mm.
        ratio: J c / (S_x h0).
    """
    lp = 1.76 * ry * math.sqrt(E / fy)
    lr = (
        1.95
        * rts
        * E
        / (0.7 * fy)
        * math.sqrt(ratio + math.sqrt(ratio**2 + 6.76 * (0.7 * fy / E) ** 2))
    )
    return Lateral(plastic, min(plastic, 0.7 * fy * modulus), lp, lr, modulus, rts, ratio)


def moment(section: Section, unbraced: float) -> tuple[float, tuple[Line, ...]]:
    """The allowable moment about the strong axis, N mm: F2, F3 and F5 for I, F7 and F8 for
    hollow sections.

    Args:
        section: a steel section.
        unbraced: length of the compression flange between places where it is held sideways, mm.
    """
    item = _product(section)
    found = lateral_of(section)
    whole = item.fy * section.plastic
    lines = [
        Line("Z", section.plastic, "modulus"),
        Line("Fy", item.fy, "stress", item.id),
        Line("Mp", whole, "moment", "AISC 360 F2-1", "Fy Z"),
    ]
    if found.plastic < whole:
        lines.append(
            Line(
                "Mn, local", found.plastic, "moment", _LOCAL[item.family], "its plates are slender"
            )
        )
    if unbraced > found.lp:
        lines += [
            Line("Lb", unbraced, "length"),
            Line("Lp", found.lp, "length", "AISC 360 F2-5"),
            Line("Lr", found.lr, "length", "AISC 360 F2-6"),
        ]
    lines.append(Line("Ω", BENDING, "factor", "AISC 360 F1"))
    return found.allowable(unbraced), tuple(lines)


_LOCAL: Final = {"steel i": "AISC 360 F3, F5", "steel hollow": "AISC 360 F7, F8"}


def _after_local_buckling(section: Section, item: Product) -> float:
    """M_p, or what plates that are not compact leave of it, N mm."""
    whole = item.fy * section.plastic
    yields = item.fy * section.modulus
    root = math.sqrt(E / item.fy)
    if item.family == "steel i":
        return min(_flange_of_i(section, item, whole, root), _web_of_i(section, item, whole, root))
    if item.round:
        slender = item.depth / item.web
        if slender <= 0.07 * E / item.fy:
            return whole
        if slender <= 0.31 * E / item.fy:  # F8-2
            return min(whole, (0.021 * E / slender + item.fy) * section.modulus)
        return min(whole, 0.33 * E / slender * section.modulus)  # F8-3
    flat = (item.breadth - 3 * item.web) / item.web
    side = (item.depth - 3 * item.web) / item.web
    flange = web = whole
    if flat > 1.12 * root:
        flange = whole - (whole - yields) * (3.57 * flat / root - 4.0)  # F7-2
    if flat > 1.40 * root:
        # F7-3: the flange by its effective width (F7-4), the modulus as if both flanges gave way
        # alike.
        wide = min(1.0, 1.92 * root / flat * (1 - 0.38 / flat * root))
        lost = 2 * (1 - wide) * flat * item.web * item.web * (item.depth / 2) ** 2
        flange = item.fy * max(0.0, section.inertia - lost) / (item.depth / 2)
    if side > 2.42 * root:
        web = whole - (whole - yields) * (0.305 * side / root - 0.738)  # F7-6
    return max(0.0, min(whole, flange, web))


def _flange_of_i(section: Section, item: Product, whole: float, root: float) -> float:
    """What local buckling of its flanges leaves of an I (F3-1, F3-2)."""
    slender = item.breadth / (2 * item.flange)
    compact, limit = 0.38 * root, 1.0 * root
    if slender <= compact:
        return whole
    if slender <= limit:
        return whole - (whole - 0.7 * item.fy * section.modulus) * (slender - compact) / (
            limit - compact
        )
    kc = min(0.76, max(0.35, 4 / math.sqrt(_web_of(item) / item.web)))
    return 0.9 * E * kc * section.modulus / slender**2


def _web_of_i(section: Section, item: Product, whole: float, root: float) -> float:
    """What a web that is not compact leaves of an I: no more than the yield moment (F4), less where
    it is slender (F5-6)."""
    slender = _web_of(item) / item.web
    yields = item.fy * section.modulus
    if slender <= 3.76 * root:
        return whole
    if slender <= 5.70 * root:
        return yields
    share = min(10.0, _web_of(item) * item.web / (item.breadth * item.flange))
    return yields * min(1.0, 1 - share / (1200 + 300 * share) * (slender - 5.70 * root))


def _web_of(item: Product) -> float:
    """Clear height of the web of an I between its fillets, mm (B4.1b)."""
    return item.depth - 2 * item.flange - 2 * item.radius


def shear(section: Section) -> tuple[float, tuple[Line, ...]]:
    """The allowable shear, N (G2-1 for I, G4-1 for square and rectangular, G5-1 for round
    hollow sections)."""
    item = _product(section)
    root = math.sqrt(E / item.fy)
    if item.family == "steel i":
        area, slender = item.depth * item.web, _web_of(item) / item.web
        omega = SHEAR_ROLLED if slender <= 2.24 * root else SHEAR
        cv = (
            1.0 if slender <= 2.24 * root else min(1.0, 1.10 * math.sqrt(5.34) * root / slender)
        )  # G2-4
        clause, how = "AISC 360 G2-1", "0.6 Fy Aw Cv"
    elif item.round:
        # G5-2b, with no help from a short shear span.
        stress = min(0.6 * item.fy, 0.78 * E / (item.depth / item.web) ** 1.5)
        area, omega, cv = section.area / 2, SHEAR, stress / (0.6 * item.fy)
        clause, how = "AISC 360 G5-1", "Fcr Ag / 2"
    else:
        area, omega = 2 * (item.depth - 3 * item.web) * item.web, SHEAR
        cv = _hollow_web(item, root)
        clause, how = "AISC 360 G4-1", "0.6 Fy Aw Cv"
    nominal = 0.6 * item.fy * area * cv
    lines = (
        Line("Aw", area, "steel"),
        Line("Vn", nominal, "force", clause, how),
        Line("Ω", omega, "factor", "AISC 360 G"),
    )
    return nominal / omega, lines


def _hollow_web(item: Product, root: float) -> float:
    """C_v2 of the walls of a hollow section, k_v = 5 (G2-9 to G2-11)."""
    slender, kv = (item.depth - 3 * item.web) / item.web, math.sqrt(5.0)
    if slender <= 1.10 * kv * root:
        return 1.0
    if slender <= 1.37 * kv * root:
        return 1.10 * kv * root / slender
    return 1.51 * 5.0 * E / (slender**2 * item.fy)


def effective_area(section: Section, stress: float) -> float:
    """A_e of a column, mm²: slender plates count with their effective widths only (E7-2 to E7-7).

    Args:
        section: of steel.
        stress: F_cr of the whole section, N/mm².
    """
    item = _product(section)
    if item.round:
        slender = item.depth / item.web
        if slender <= 0.11 * E / item.fy:
            return section.area
        return min(1.0, 0.038 * E / (item.fy * slender) + 2 / 3) * section.area
    root = math.sqrt(E / item.fy)
    if item.family == "steel i":
        lost = 4 * _lost(item.breadth / 2, item.flange, 0.56 * root, (0.22, 1.49), item.fy, stress)
        lost += _lost(_web_of(item), item.web, 1.49 * root, (0.18, 1.31), item.fy, stress)
        return section.area - lost
    sides = (item.breadth - 3 * item.web, item.depth - 3 * item.web)
    lost = sum(2 * _lost(b, item.web, 1.40 * root, (0.20, 1.38), item.fy, stress) for b in sides)
    return section.area - lost


def _lost(
    width: float, thick: float, limit: float, c: tuple[float, float], fy: float, stress: float
) -> float:
    """Area of a plate that does not count, mm² (E7-2 to E7-5)."""
    slender = width / thick
    if slender <= limit * math.sqrt(fy / stress):
        return 0.0
    elastic = (c[1] * limit / slender) ** 2 * fy
    share = math.sqrt(elastic / stress)
    return width * thick * (1 - min(1.0, (1 - c[0] * share) * share))


def elastic_stress(slender: float) -> float:
    """F_e for L_c / r, N/mm² (E3-4)."""
    return math.pi**2 * E / slender**2 if slender > 0 else math.inf


def critical_stress(fy: float, slender: float) -> float:
    """F_cr of a column for L_c / r, N/mm² (E3-2, E3-3)."""
    euler = elastic_stress(slender)
    return math.pow(0.658, fy / euler) * fy if fy / euler <= 2.25 else 0.877 * euler


def slender_web_area(area: float, web: float, thick: float, fy: float, stress: float) -> float:
    """A_e of a rolled I whose web alone may be slender, mm² (E7-2 to E7-5 with c1 0.18, c2 1.31).

    Args:
        area: of the whole section, mm².
        web: its clear height, mm.
        thick: of the web, mm.
        fy: N/mm².
        stress: F_cr of the whole section, N/mm².
    """
    return area - _lost(web, thick, 1.49 * math.sqrt(E / fy), (0.18, 1.31), fy, stress)


def compression(section: Section, length: float) -> tuple[float, tuple[Line, ...]]:
    """The allowable compression of a column held at both ends, N (E3-1 to E3-4 with A_e of
    E7, K = 1)."""
    item = _product(section)
    r = math.sqrt(min(section.inertia, section.weak_inertia) / section.area)
    slender = length / r
    euler = elastic_stress(slender)
    stress = critical_stress(item.fy, slender)
    area = effective_area(section, stress)
    less = (
        (Line("Ae", area, "steel", "AISC 360 E7", "slender plates in part"),)
        if area < section.area
        else ()
    )
    lines = (
        Line("Lc", length, "length", "AISC 360 E2", "K = 1"),
        Line("r", r, "run"),
        Line("Lc / r", slender, "factor"),
        Line("Fe", euler, "stress", "AISC 360 E3-4"),
        Line("Fcr", stress, "stress", "AISC 360 E3-2"),
        Line("A", section.area, "steel"),
        *less,
        Line("Ω", COMPRESSION, "factor", "AISC 360 E1"),
    )
    return stress * area / COMPRESSION, lines


def slenderness(section: Section, length: float) -> float:
    """L_c / r of a column about its weaker axis."""
    return length / math.sqrt(min(section.inertia, section.weak_inertia) / section.area)


def web_bearing(section: Section, bearing: float, to_end: float) -> float:
    """Reaction that the web of an I resists over a bearing without stiffeners, N: yielding (J10-2,
    J10-3), crippling (J10-4, J10-5). Infinite for hollow sections, of which J10 does not speak.

    Args:
        section: a steel section.
        bearing: length of the bearing, mm.
        to_end: from its middle to the nearer end of the beam, mm.
    """
    item = _product(section)
    if item.family != "steel i":
        return math.inf
    k, d, tw, tf = item.flange + item.radius, item.depth, item.web, item.flange
    yielding = web_yielding(item.fy, tw, k, bearing, inside=to_end >= d)
    return min(yielding, web_crippling(item.fy, (d, tw, tf), bearing, inside=to_end >= d / 2))


def web_yielding(fy: float, web: float, k: float, bearing: float, *, inside: bool) -> float:
    """Allowable force on a web by local yielding, N (J10-2, J10-3).

    Args:
        fy: N/mm².
        web: its thickness, mm.
        k: from the outer face of the flange to the toe of the fillet, mm.
        bearing: length, mm.
        inside: the force is farther from the end than the depth of the beam.
    """
    return fy * web * ((5.0 if inside else 2.5) * k + bearing) / YIELDING


def web_crippling(
    fy: float, plates: tuple[float, float, float], bearing: float, *, inside: bool
) -> float:
    """Allowable force on a web by local crippling, N (J10-4, J10-5a, J10-5b).

    Args:
        fy: N/mm².
        plates: depth of the beam, thickness of its web and of its flange, mm.
        bearing: length, mm.
        inside: the force is half the depth or more from the end.
    """
    d, tw, tf = plates
    thin = math.pow(tw / tf, 1.5)
    root = math.sqrt(E * fy * tf / tw)
    if inside:
        held = 0.80 * tw**2 * (1 + 3 * bearing / d * thin) * root
    elif bearing / d <= 0.2:
        held = 0.40 * tw**2 * (1 + 3 * bearing / d * thin) * root
    else:
        held = 0.40 * tw**2 * (1 + (4 * bearing / d - 0.2) * thin) * root
    return held / CRIPPLING


def _product(section: Section) -> Product:
    assert section.product is not None, f"{section.name} is no product"
    return section.product
