"""Rolled beams and posts by EN 1993-1-1:2005 with recommended values: bending with lateral
torsional buckling, compression, shear. Lengths mm, N, N/mm²."""

import math
from typing import Final, Literal

import msgspec

from balken.model.sections import Product, Section

E: Final = 210_000.0
G: Final = 81_000.0
GAMMA_M0: Final = 1.0
GAMMA_M1: Final = 1.0
Curve = Literal["a0", "a", "b", "c", "d"]
_ALPHA: Final[dict[Curve, float]] = {"a0": 0.13, "a": 0.21, "b": 0.34, "c": 0.49, "d": 0.76}
"""Imperfection (table 6.1, and 6.3 for lateral buckling)."""
LATERAL_PLATEAU: Final = 0.4
LATERAL_BETA: Final = 0.75
"""λ_LT,0 and β of rolled sections (6.3.2.3)."""
_THICK_FLANGE: Final = 40.0


def reduction(relative: float, alpha: float) -> float:
    """χ for a relative slenderness (EN 1993-1-1 6.49)."""
    if relative <= 0.2:
        return 1.0
    phi = 0.5 * (1 + alpha * (relative - 0.2) + relative**2)
    return min(1.0, 1 / (phi + math.sqrt(phi**2 - relative**2)))


def buckling_curve(depth: float, breadth: float, flange: float, axis: Literal["y", "z"]) -> Curve:
    """The curve of a rolled I of S235 to S420 (EN 1993-1-1 table 6.2)."""
    strong = axis == "y"
    if depth / breadth > 1.2:
        if flange <= _THICK_FLANGE:
            return "a" if strong else "b"
        return "b" if strong else "c"
    if flange <= 100.0:
        return "b" if strong else "c"
    return "d"


def compression(area: float, radius: float, length: float, fy: float, curve: Curve) -> float:
    """N_b,Rd of a section of class 1 to 3, N (EN 1993-1-1 6.47, 6.50).

    Args:
        area: mm².
        radius: of gyration, mm.
        length: of buckling, mm.
        fy: N/mm².
        curve: of buckling.
    """
    relative = length / radius / (math.pi * math.sqrt(E / fy))
    return reduction(relative, _ALPHA[curve]) * area * fy / GAMMA_M1


def critical_moment(
    length: float, weak_inertia: float, torsion: float, warping: float, c1: float = 1.0
) -> float:
    """M_cr between fork ends, loaded at the shear centre, N mm.

    Args:
        length: between places held sideways and against twisting, mm.
        weak_inertia: I_z, mm⁴.
        torsion: I_t, mm⁴.
        warping: I_w, mm⁶.
        c1: for the shape of the moment.
    """
    euler = math.pi**2 * E * weak_inertia / length**2
    return c1 * euler * math.sqrt(warping / weak_inertia + G * torsion / euler)


def lateral_curve(depth: float, breadth: float) -> Curve:
    """The curve of rolled I for lateral buckling by 6.3.2.3 (EN 1993-1-1 table 6.5)."""
    return "b" if depth / breadth <= 2 else "c"


def lateral_reduction(relative: float, curve: Curve) -> float:
    """χ_LT of rolled sections, f taken as 1 (EN 1993-1-1 6.57)."""
    if relative <= LATERAL_PLATEAU:
        return 1.0
    squared = LATERAL_BETA * relative**2
    phi = 0.5 * (1 + _ALPHA[curve] * (relative - LATERAL_PLATEAU) + squared)
    chi = 1 / (phi + math.sqrt(phi**2 - squared))
    return min(1.0, 1 / relative**2, chi)


def moment(modulus: float, fy: float, critical: float, curve: Curve) -> float:
    """M_b,Rd, N mm (EN 1993-1-1 6.55).

    Args:
        modulus: W_y: plastic of class 1 and 2, elastic of class 3, mm³.
        fy: N/mm².
        critical: M_cr, N mm; infinite where the flange in compression is held all along.
        curve: of lateral buckling.
    """
    relative = math.sqrt(modulus * fy / critical)
    return lateral_reduction(relative, curve) * modulus * fy / GAMMA_M1


def shear(area: float, fy: float) -> float:
    """V_pl,Rd, N (EN 1993-1-1 6.18); ``area`` A_v, mm²."""
    return area * fy / math.sqrt(3) / GAMMA_M0


EPSILON_STEEL: Final = 235.0
_FLANGE: Final = (9.0, 10.0, 14.0)
_WEB_BENT: Final = (72.0, 83.0, 124.0)
_WEB_PRESSED: Final = (33.0, 38.0, 42.0)
"""Slenderness over ε up to which plates are of class 1, 2 and 3 (table 5.2)."""
SLENDER: Final = 4


def _class(slender: float, limits: tuple[float, float, float], fy: float) -> int:
    epsilon = math.sqrt(EPSILON_STEEL / fy)
    return 1 + sum(slender > limit * epsilon + 1e-9 for limit in limits)


class Rolled(msgspec.Struct, frozen=True, gc=False):
    """A rolled beam, for any length between places held sideways. Lengths mm, N/mm²."""

    fy: float
    modulus: float
    """Plastic of class 1 and 2, elastic of class 3, mm³."""
    words: str
    shear_area: float
    hollow: bool
    depth: float
    breadth: float
    weak_inertia: float
    torsion: float
    warping: float

    def allowable(self, unbraced: float, cb: float = 1.0) -> float:
        """M_b,Rd, N mm.

        Args:
            unbraced: of the flange in compression, mm.
            cb: C1 for the shape of the moment.
        """
        whole = self.modulus * self.fy / GAMMA_M0
        if self.hollow or unbraced <= 0:
            return whole
        critical = critical_moment(unbraced, self.weak_inertia, self.torsion, self.warping, cb)
        return min(
            whole, moment(self.modulus, self.fy, critical, lateral_curve(self.depth, self.breadth))
        )

    def shear(self) -> float:
        """V_pl,Rd, N."""
        return shear(self.shear_area, self.fy)


def rolled(section: Section) -> Rolled | None:
    """A rolled I or hollow section as a beam; None where its plates are of class 4 in bending or its
    web buckles in shear, which is not reckoned here.

    Torsion by thin plates, warping by I_z (h − tf)² / 4.
    """
    item = section.product
    assert item is not None, f"{section.name} is no product"
    found = class_in_bending(section)
    if found >= SLENDER or _web_buckles(item):
        return None
    modulus = section.plastic if found <= 2 else section.modulus
    height = item.depth - item.flange
    torsion = (2 * item.breadth * item.flange**3 + height * item.web**3) / 3
    warping = section.weak_inertia * height**2 / 4
    return Rolled(
        item.fy,
        modulus,
        f"class {found}, {'plastic' if found <= 2 else 'elastic'}",
        _shear_area(section, item),
        item.family == "steel hollow",
        item.depth,
        item.breadth,
        section.weak_inertia,
        torsion,
        warping,
    )


def class_in_bending(section: Section) -> int:
    """The class of a section bent about its strong axis (EN 1993-1-1 table 5.2)."""
    item = section.product
    assert item is not None, f"{section.name} is no product"
    if item.round:
        epsilon = EPSILON_STEEL / item.fy
        slender = item.depth / item.web
        return 1 + sum(slender > limit * epsilon for limit in (50.0, 70.0, 90.0))
    if item.family == "steel hollow":
        flange = (item.breadth - 3 * item.web) / item.web
        web = (item.depth - 3 * item.web) / item.web
        return max(_class(flange, _WEB_PRESSED, item.fy), _class(web, _WEB_BENT, item.fy))
    outstand = (item.breadth - item.web - 2 * item.radius) / 2 / item.flange
    web = (item.depth - 2 * item.flange - 2 * item.radius) / item.web
    return max(_class(outstand, _FLANGE, item.fy), _class(web, _WEB_BENT, item.fy))


def class_in_compression(section: Section) -> int:
    """The class of a section pressed along (EN 1993-1-1 table 5.2)."""
    item = section.product
    assert item is not None, f"{section.name} is no product"
    if item.round:
        return class_in_bending(section)
    if item.family == "steel hollow":
        sides = ((item.breadth - 3 * item.web) / item.web, (item.depth - 3 * item.web) / item.web)
        return max(_class(s, _WEB_PRESSED, item.fy) for s in sides)
    outstand = (item.breadth - item.web - 2 * item.radius) / 2 / item.flange
    web = (item.depth - 2 * item.flange - 2 * item.radius) / item.web
    return max(_class(outstand, _FLANGE, item.fy), _class(web, _WEB_PRESSED, item.fy))


def _web_buckles(item: Product) -> bool:
    """Whether a web wants the shear buckling of EN 1993-1-5 (6.2.6(6): hw / tw over 72 ε, η 1)."""
    if item.round:
        return False
    height = item.depth - 2 * item.flange
    return height / item.web > 72 * math.sqrt(EPSILON_STEEL / item.fy)


def _shear_area(section: Section, item: Product) -> float:
    """A_v for loads along the web, mm² (EN 1993-1-1 6.2.6(3))."""
    if item.round:
        return 2 * section.area / math.pi
    if item.family == "steel hollow":
        return section.area * item.depth / (item.breadth + item.depth)
    web = item.web + 2 * item.radius
    least = (item.depth - 2 * item.flange) * item.web
    return max(section.area - 2 * item.breadth * item.flange + web * item.flange, least)


def post(section: Section, length: float) -> tuple[float, float, Curve]:
    """N_b,Rd of a post about its weaker axis, its relative slenderness and curve (EN 1993-1-1 6.3.1):
    hollow sections as cold formed."""
    item = section.product
    assert item is not None, f"{section.name} is no product"
    if item.family == "steel hollow":
        least = min(section.inertia, section.weak_inertia)
        axes: tuple[tuple[float, Curve], ...] = ((least, "c"),)
    else:
        sizes = (item.depth, item.breadth, item.flange)
        axes = (
            (section.inertia, buckling_curve(*sizes, "y")),
            (section.weak_inertia, buckling_curve(*sizes, "z")),
        )
    found = []
    for inertia, curve in axes:
        radius = math.sqrt(inertia / section.area)
        relative = length / radius / (math.pi * math.sqrt(E / item.fy))
        found.append((compression(section.area, radius, length, item.fy, curve), relative, curve))
    return min(found, key=lambda f: f[0])


def web_bearing(section: Section, bearing: float, to_end: float) -> float:
    """F_Rd of an unstiffened web over a bearing at the end of a beam, or inside it, N (EN 1993-1-5
    6.2 to 6.5); infinite for hollow sections, of which it does not speak.

    Args:
        section: a rolled I.
        bearing: s_s, mm.
        to_end: from its middle to the nearer end, mm.
    """
    item = section.product
    assert item is not None, f"{section.name} is no product"
    if item.family != "steel i":
        return math.inf
    height = item.depth - 2 * item.flange
    stiff = min(bearing, height)
    past = max(0.0, to_end - bearing / 2)
    m1 = item.breadth / item.web
    inside = past >= height
    k = 6.0 if inside else min(6.0, 2 + 6 * (stiff + past) / height)
    critical = 0.9 * k * E * item.web**3 / height

    def loaded(m2: float) -> float:
        if inside:
            return min(stiff + 2 * item.flange * (1 + math.sqrt(m1 + m2)), stiff + 2 * height)
        le = min(k * E * item.web**2 / (2 * item.fy * height), stiff + past)
        root = item.flange * math.sqrt(m1 / 2 + (le / item.flange) ** 2 + m2)
        return min(
            le + root,
            le + item.flange * math.sqrt(m1 + m2),
            stiff + 2 * item.flange * (1 + math.sqrt(m1 + m2)),
        )

    length = loaded(0.0)
    relative = math.sqrt(length * item.web * item.fy / critical)
    if relative > 0.5:
        length = loaded(0.02 * (height / item.flange) ** 2)
        relative = math.sqrt(length * item.web * item.fy / critical)
    chi = min(1.0, 0.5 / relative)
    return chi * length * item.web * item.fy / GAMMA_M1
