"""What a piece is cut from: lumber, pieces nailed together, glued and engineered wood, rolled
steel. Lengths mm, N/mm²."""

import math
from typing import Annotated, Final, Literal

import msgspec
from msgspec import Meta

from balken.model.record import Reach, Record, SectionName, Size

Family = Literal["sawn", "glulam", "lvl", "i-joist", "open web", "steel i", "steel hollow", "box"]
FAMILY_WORDS: Final[dict[Family, str]] = {
    "sawn": "sawn lumber",
    "glulam": "glued laminated timber",
    "lvl": "laminated veneer lumber",
    "i-joist": "wood I-joist",
    "open web": "open-web floor truss",
    "steel i": "rolled steel I",
    "steel hollow": "steel hollow section",
    "box": "box header",
}
NOT_TYPED: Final = ("sawn", "box")
"""Families whose values follow from graded wood: no product of theirs is typed."""
BY_STRESS: Final = ("glulam", "lvl")
BY_CAPACITY: Final = ("i-joist", "open web")
STEEL: Final = ("steel i", "steel hollow")
STEEL_E: Final = 200_000.0
"""E of steel, N/mm² (29,000 ksi in AISC 360, 210,000 in EN 1993; the lower is taken)."""
STEEL_WEIGHT: Final = 77.0e-6
"""Of steel, N/mm³ (490 pcf, EN 1991-1-1 table A.4)."""

SPANDREL: Final = (10 - 3 * math.pi) / (12 - 3 * math.pi)
"""How far the middle of what a rounded corner leaves out lies from both sides, in radii."""

Stress = Annotated[float, Meta(ge=0, le=1e6)]
Capacity = Annotated[float, Meta(ge=0, le=1e15)]


class Boring(Record, frozen=True):
    """What the maker of a product allows: the greatest hole and notch, as shares of its depth;
    nothing where not typed."""

    hole: Annotated[float, Meta(ge=0, le=1)] = 0.0
    notch: Annotated[float, Meta(ge=0, le=1)] = 0.0


class Product(Record, frozen=True):
    """A piece whose values are typed from its maker's publication, or shipped with the program.

    Which fields must be there depends on the family: wood by stress needs ``fb``, ``fv``,
    ``fc_perp``, ``e``, ``e_min``; wood by capacity ``moment``, ``shear``, ``reaction`` and
    ``stiffness``; steel its plates and ``fy``.
    """

    id: SectionName
    family: Family
    breadth: Size
    depth: Size
    fb: Stress = 0.0
    fv: Stress = 0.0
    fc_perp: Stress = 0.0
    fc: Stress = 0.0
    e: Stress = 0.0
    e_min: Stress = 0.0
    fb_hogging: Stress = 0.0
    """Fb where the upper edge is in tension, of glulam whose layup is not balanced;
    :func:`hogging_stress` where empty."""
    e_min_weak: Stress = 0.0
    """E min for bending sideways, of glulam: for lateral and weak-axis stability;
    :func:`weak_e_min` where empty."""
    depth_exponent: Annotated[float, Meta(ge=0, le=1)] = 0.136
    """Of the depth factor (12 in / d)^x of LVL (NDS-2018 8.3.6: by the maker; 0.111 to 0.136 are
    usual)."""
    boring: Boring = Boring()
    """What its maker lets be bored and notched."""
    southern_pine: bool = False
    """For the volume factor of glulam."""
    strength_class: Annotated[str, Meta(max_length=20)] = ""
    """Of EN 14080, which European projects take the values of glulam from."""
    moment: Capacity = 0.0
    """Moment it resists, N mm."""
    shear: Capacity = 0.0
    """Shear it resists, N."""
    reaction: Capacity = 0.0
    """End reaction it resists, N."""
    stiffness: Capacity = 0.0
    """EI, N mm²."""
    web: Reach = 0.0
    flange: Reach = 0.0
    """Thickness of web and flange; of a hollow section ``web`` is its wall."""
    radius: Reach = 0.0
    """Of the fillet between web and flange, or of the outer corner."""
    fy: Stress = 0.0
    weight: Annotated[float, Meta(ge=0, le=100)] = 0.0
    """N/mm."""
    price: Annotated[float, Meta(ge=0, le=1e6)] = 0.0
    """Of a metre; typed or invented, it only ranks one choice against another."""
    round: bool = False


LEAST_HOGGING: Final = 0.55
"""The least ratio of Fbx− to Fbx+ of the glulam stress classes (NDS-2018 Supplement table 5A:
20F-1.5E, 1100 to 2000)."""
LEAST_WEAK: Final = 0.765
"""The least ratio of Ey to Ex of the glulam stress classes (NDS-2018 Supplement table 5A: 24F-1.7E,
1.3 to 1.7)."""


def hogging_stress(item: Product) -> float:
    """Fb of a product where its upper edge is in tension, N/mm²: what was typed; of glulam without
    it the least that any stress class has; of all others Fb, since they have no layup."""
    if item.family != "glulam":
        return item.fb
    return item.fb_hogging or LEAST_HOGGING * item.fb


def weak_e_min(item: Product) -> float:
    """E min of a product for bending sideways, N/mm²: what was typed; of glulam without it by the
    least ratio of table 5A."""
    if item.family != "glulam":
        return item.e_min
    return item.e_min_weak or LEAST_WEAK * item.e_min


def faults_of_product(item: Product) -> str:
    """What a product lacks, as the end of a sentence; empty where nothing."""
    if item.family == "box":
        return "cannot be typed: box headers are worked out from their flanges"
    needs: dict[str, tuple[str, ...]] = {
        "sawn": ("fb", "fv", "fc_perp", "e", "e_min"),
        "glulam": ("fb", "fv", "fc_perp", "e", "e_min"),
        "lvl": ("fb", "fv", "fc_perp", "e", "e_min"),
        "i-joist": ("moment", "shear", "reaction", "stiffness"),
        "open web": ("moment", "shear", "reaction", "stiffness"),
        "steel i": ("web", "flange", "fy"),
        "steel hollow": ("web", "fy"),
    }
    words = {
        "fb": "bending stress",
        "fv": "shear stress",
        "fc_perp": "bearing stress",
        "e": "E",
        "e_min": "E min",
        "moment": "moment",
        "shear": "shear",
        "reaction": "end reaction",
        "stiffness": "EI",
        "web": "thickness",
        "flange": "flange thickness",
        "fy": "yield stress",
    }
    missing = [words[name] for name in needs[item.family] if not getattr(item, name)]
    if missing:
        return f"lacks its {' and its '.join(missing)}"
    if item.family in STEEL and (
        2 * item.web >= item.breadth or 2 * max(item.flange, item.web) >= item.depth
    ):
        return "is thicker than it is wide"
    return ""


class Box(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A header made up of two flanges that lie flat, uprights between them, and panels nailed to their
    edges. Lengths mm."""

    flange: str
    """The section it is cut from, as 2x4."""
    nominal: tuple[int, int]
    """Of that."""
    width: float
    thick: float
    """Of a flange as it lies."""
    panel: float
    """Thickness of its panels."""
    faces: int
    """With panels: one or two."""

    @property
    def area(self) -> float:
        """Of one flange, mm²."""
        return self.width * self.thick


class Section(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A piece by its real size, mm; ``nominal`` thickness and width of one ply in inches, for the
    factors of the code."""

    name: str
    nominal: tuple[int, int]
    breadth: float
    """Of all plies together."""
    depth: float
    plies: int = 1
    product: Product | None = None
    box: Box | None = None

    @property
    def family(self) -> Family:
        """What kind of piece it is."""
        if self.box is not None:
            return "box"
        return self.product.family if self.product else "sawn"

    @property
    def area(self) -> float:
        """Area, mm²."""
        if self.product and self.family in STEEL:
            return _steel(self.product)[0]
        return self.breadth * self.depth

    @property
    def modulus(self) -> float:
        """Section modulus about the strong axis, mm³."""
        return self.inertia / (self.depth / 2)

    @property
    def inertia(self) -> float:
        """Moment of inertia about the strong axis, mm⁴."""
        if self.product and self.family in STEEL:
            return _steel(self.product)[1]
        return self.breadth * self.depth**3 / 12

    @property
    def weak_inertia(self) -> float:
        """Moment of inertia about the weak axis, mm⁴."""
        if self.product and self.family in STEEL:
            return _steel(self.product)[2]
        return self.depth * self.breadth**3 / 12

    @property
    def plastic(self) -> float:
        """Plastic modulus about the strong axis, mm³; of wood the elastic one."""
        if self.product and self.family in STEEL:
            return _steel(self.product)[3]
        return self.modulus


def _steel(item: Product) -> tuple[float, float, float, float]:
    """Area, strong and weak inertia, and plastic modulus of a rolled section with its
    fillets or corners."""
    b, d, w, f, r = item.breadth, item.depth, item.web, item.flange, item.radius
    if item.family == "steel i":
        inner = d - 2 * f
        fillet = (1 - math.pi / 4) * r**2  # one of four
        arm = inner / 2 - SPANDREL * r
        area = 2 * b * f + inner * w + 4 * fillet
        strong = (b * d**3 - (b - w) * inner**3) / 12 + 4 * fillet * arm**2
        weak = (2 * f * b**3 + inner * w**3) / 12
        plastic = b * f * (d - f) + w * inner**2 / 4 + 4 * fillet * arm
        return area, strong, weak, plastic
    if item.round:
        inner = d - 2 * w
        inertia = math.pi / 64 * (d**4 - inner**4)
        return math.pi / 4 * (d**2 - inner**2), inertia, inertia, (d**3 - inner**3) / 6
    outer, within = (b, d, r), (b - 2 * w, d - 2 * w, max(0.0, r - w))
    area = _rounded(*outer)[0] - _rounded(*within)[0]
    strong = _rounded(*outer)[1] - _rounded(*within)[1]
    weak = _rounded(d, b, r)[1] - _rounded(d - 2 * w, b - 2 * w, max(0.0, r - w))[1]
    plastic = _rounded(*outer)[2] - _rounded(*within)[2]
    return area, strong, weak, plastic


def _rounded(b: float, d: float, r: float) -> tuple[float, float, float]:
    """Area, inertia and plastic modulus of a rectangle with rounded corners."""
    corner = (1 - math.pi / 4) * r**2
    arm = d / 2 - SPANDREL * r
    return b * d - 4 * corner, b * d**3 / 12 - 4 * corner * arm**2, b * d**2 / 4 - 4 * corner * arm


def section_of(item: Product, plies: int = 1) -> Section:
    """A product as a section; of several plies side by side where it is wood by stress."""
    name = item.id if plies == 1 else f"{plies}-{item.id}"
    return Section(name, (0, 0), plies * item.breadth, item.depth, plies, item)
