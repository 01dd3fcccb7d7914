"""Factors of EN 1995-1-1 on strength and stiffness: duration and moisture, partial factors, size,
load sharing."""

import math
from typing import Final, Literal

from balken.design.codes.eu.ec5.values import Material, Timber
from balken.model.left_open import RECOMMENDED, LeftOpen

Duration = Literal["permanent", "long", "medium", "short", "instantaneous"]
"""How long a load lasts (EN 1995-1-1 table 2.1): of a combination the shortest in it (3.1.3(2))."""
DURATIONS: Final[tuple[Duration, ...]] = ("permanent", "long", "medium", "short", "instantaneous")
ServiceClass = Literal[1, 2, 3]
"""Of moisture: 1 heated inside, 2 under cover, 3 open to the weather (EN 1995-1-1 2.3.1.3)."""

_KDEF: Final[dict[ServiceClass, float]] = {1: 0.60, 2: 0.80, 3: 2.00}
KSYS: Final = 1.1
"""Of several equally spaced like members joined by something that shares load between them (EN
1995-1-1 6.6(2))."""
KCR: Final = 0.67
"""Of the breadth of solid timber and glulam, what cracks leave for shear (EN 1995-1-1 6.1.7(2))."""
KM: Final = 0.7
"""How far bending about one axis counts beside that about the other, of rectangles of solid timber
and glulam (EN 1995-1-1 6.1.6(2))."""
_SIZE: Final[dict[Material, tuple[float, float, float]]] = {
    "solid timber": (150.0, 0.2, 1.3),
    "glulam": (600.0, 0.1, 1.1),
    "lvl": (300.0, 0.12, 1.2),
}
"""Whole size, mm, power, and the most: of LVL the power is declared; 0.12 is usual (common
practice)."""
_HEAVIEST_WITH_SIZE = 700.0
"""Solid timber over this ρk has no size factor, kg/m³ (EN 1995-1-1 3.2(3))."""


def kmod(service: ServiceClass, duration: Duration, by: LeftOpen = RECOMMENDED) -> float:
    """What duration and moisture leave of strength (EN 1995-1-1 table 3.1: solid timber and
    glulam alike)."""
    of_all = by.kmod_wet if service == 3 else by.kmod_dry
    return of_all[DURATIONS.index(duration)]


def gamma_m(material: Material, by: LeftOpen = RECOMMENDED) -> float:
    """Partial factor of a material (EN 1995-1-1 table 2.3)."""
    return {"solid timber": by.solid_timber, "glulam": by.glulam, "lvl": by.lvl}[material]


TABLE_2_3: Final = "EN 1995-1-1 table 2.3"
TABLE_3_1: Final = "EN 1995-1-1 table 3.1"
TYPED: Final = "typed for the country"
"""What a calculation names where a value is not the recommended one."""


def gamma_clause(material: Material, by: LeftOpen) -> str:
    """Where a partial factor comes from."""
    return TABLE_2_3 if gamma_m(material, by) == gamma_m(material) else TYPED


def kmod_clause(by: LeftOpen) -> str:
    """Where kmod comes from."""
    same = (by.kmod_dry, by.kmod_wet) == (RECOMMENDED.kmod_dry, RECOMMENDED.kmod_wet)
    return TABLE_3_1 if same else TYPED


def kdef(service: ServiceClass) -> float:
    """How far creep adds to what sags at once (EN 1995-1-1 table 3.2: solid timber and glulam
    alike, wood dry when it is built in)."""
    return _KDEF[service]


def kcr(timber: Timber) -> float:
    """kcr of a material: LVL and panels have 1 (EN 1995-1-1 6.1.7(2))."""
    return 1.0 if timber.material == "lvl" else KCR


def kh(timber: Timber, size: float) -> float:
    """What a shallower piece is stronger by (EN 1995-1-1 3.2(3), 3.3(3)), and
    one of LVL deeper than 300 mm weaker (3.4(3)).

    Args:
        timber: of which class.
        size: depth in bending, or the larger side in tension, mm.
    """
    if timber.material == "solid timber" and timber.density > _HEAVIEST_WITH_SIZE:
        return 1.0
    whole, power, most = _SIZE[timber.material]
    found = min(most, math.pow(whole / size, power))
    return found if timber.material == "lvl" else max(1.0, found)


def design_value(characteristic: float, timber: Timber, kmod: float) -> float:
    """What a characteristic strength is worth in a combination, N/mm² (EN 1995-1-1 2.14)."""
    return kmod * characteristic / gamma_m(timber.material)
