"""What soil bears where nobody tested it, and the least footing widths the prescriptive code asks
for.

IRC tables recalled from memory; the tests hold them against the check values.
"""

from typing import Final, Literal

import msgspec

from balken.units import INCH, PCF, PSF


class SoilClass(msgspec.Struct, frozen=True):
    """What a class of soil bears, N/mm² (IRC 2021 table R401.4.1), and how heavily it presses
    against walls as a fluid, N/mm³ (table R404.1.2(1), by the soil classes of R405.1)."""

    bearing: float
    fluid: float


SOIL_CLASSES: Final[dict[str, SoilClass]] = {
    "crystalline bedrock": SoilClass(12_000 * PSF, 30 * PCF),
    "sedimentary and foliated rock": SoilClass(4_000 * PSF, 30 * PCF),
    "sandy gravel and gravel": SoilClass(3_000 * PSF, 30 * PCF),
    "clean sand": SoilClass(2_000 * PSF, 30 * PCF),
    "silty sand, silty or clayey gravel": SoilClass(2_000 * PSF, 45 * PCF),
    "clayey sand": SoilClass(2_000 * PSF, 60 * PCF),
    "silt, sandy silt": SoilClass(1_500 * PSF, 45 * PCF),
    "clay, sandy or silty clay": SoilClass(1_500 * PSF, 60 * PCF),
}
"""Pairs that belong together: silt and clay bear alike, but clay presses a third harder."""

Construction = Literal["light frame", "brick veneer or hollow masonry", "solid or grouted masonry"]

_COLUMNS: Final = (1500.0, 2000.0, 3000.0, 4000.0)
_WIDTHS: Final[dict[Construction, tuple[tuple[int, ...], ...]]] = {
    "light frame": ((12, 12, 12, 12), (15, 12, 12, 12), (23, 17, 12, 12)),
    "brick veneer or hollow masonry": ((12, 12, 12, 12), (21, 16, 12, 12), (32, 24, 16, 12)),
    "solid or grouted masonry": ((16, 12, 12, 12), (29, 21, 14, 12), (42, 32, 21, 16)),
}


def prescriptive_width(construction: Construction, storeys: int, bearing: float) -> float | None:
    """The least width of a concrete footing, mm (IRC 2012 table R403.1, which knew neither
    basements nor snow).

    Args:
        construction: what the walls are made of.
        storeys: one to three; the table knows no more.
        bearing: of the soil, N/mm²; between two columns the weaker one counts.

    Returns:
        None where the table gives nothing: over three storeys, or a soil weaker than 1,500 psf.
    """
    psf = bearing / PSF
    if not 1 <= storeys <= 3 or psf < _COLUMNS[0] - 0.5:
        return None
    column = max(i for i, q in enumerate(_COLUMNS) if psf >= q - 0.5)
    return _WIDTHS[construction][storeys - 1][column] * INCH


Below = Literal["slab on grade", "crawl space", "basement"]
_SOILS_2021: Final = (1500.0, 2000.0, 2500.0, 3000.0, 3500.0, 4000.0)
_2021: Final[dict[int, dict[tuple[int, Below], tuple[int, ...]]]] = {
    20: {
        (1, "slab on grade"): (12,) * 6,
        (1, "crawl space"): (12,) * 6,
        (1, "basement"): (18, 14, 12, 12, 12, 12),
        (2, "slab on grade"): (12,) * 6,
        (2, "crawl space"): (16, 12, 12, 12, 12, 12),
        (2, "basement"): (22, 16, 13, 12, 12, 12),
        (3, "slab on grade"): (14, 12, 12, 12, 12, 12),
        (3, "crawl space"): (19, 14, 12, 12, 12, 12),
        (3, "basement"): (25, 19, 15, 13, 12, 12),
    },
    30: {
        (1, "slab on grade"): (12,) * 6,
        (1, "crawl space"): (13, 12, 12, 12, 12, 12),
        (1, "basement"): (19, 14, 12, 12, 12, 12),
        (2, "slab on grade"): (12,) * 6,
        (2, "crawl space"): (17, 13, 12, 12, 12, 12),
        (2, "basement"): (23, 17, 14, 12, 12, 12),
        (3, "slab on grade"): (15, 12, 12, 12, 12, 12),
        (3, "crawl space"): (20, 15, 12, 12, 12, 12),
        (3, "basement"): (26, 20, 16, 13, 12, 12),
    },
    50: {
        (1, "slab on grade"): (12,) * 6,
        (1, "crawl space"): (16, 12, 12, 12, 12, 12),
        (1, "basement"): (21, 16, 13, 12, 12, 12),
        (2, "slab on grade"): (14, 12, 12, 12, 12, 12),
        (2, "crawl space"): (19, 14, 12, 12, 12, 12),
        (2, "basement"): (25, 19, 15, 12, 12, 12),
        (3, "slab on grade"): (17, 13, 12, 12, 12, 12),
        (3, "crawl space"): (22, 17, 13, 12, 12, 12),
        (3, "basement"): (28, 21, 17, 14, 12, 12),
    },
    70: {
        (1, "slab on grade"): (12,) * 6,
        (1, "crawl space"): (18, 14, 12, 12, 12, 12),
        (1, "basement"): (24, 18, 14, 12, 12, 12),
        (2, "slab on grade"): (16, 12, 12, 12, 12, 12),
        (2, "crawl space"): (21, 16, 13, 12, 12, 12),
        (2, "basement"): (27, 20, 16, 14, 12, 12),
        (3, "slab on grade"): (19, 14, 12, 12, 12, 12),
        (3, "crawl space"): (25, 18, 15, 12, 12, 12),
        (3, "basement"): (30, 23, 18, 15, 13, 12),
    },
}
"""IRC 2021 table R403.1(1), light-frame construction: inches by roof live load or ground snow load
in psf, storeys and what lies below them. From memory; single cells may be an inch off."""


def width_2021(storeys: int, below: Below, bearing: float, snow: float) -> float | None:
    """Least width of a strip under light-frame walls, mm (IRC 2021 table R403.1(1), from memory).

    Args:
        storeys: one to three.
        below: what lies under the lowest floor.
        bearing: of the soil, N/mm²; between two columns the weaker one counts.
        snow: ground snow or roof live load, N/mm²; between two rows the heavier one counts.

    Returns:
        None where the table gives nothing.
    """
    psf = bearing / PSF
    rows = [row for row in _2021 if row >= snow / PSF - 0.5]
    if not 1 <= storeys <= 3 or psf < _SOILS_2021[0] - 0.5 or not rows:
        return None
    column = max(i for i, q in enumerate(_SOILS_2021) if psf >= q - 0.5)
    return _2021[min(rows)][storeys, below][column] * INCH
