"""What soil bears where nobody tested it, and the least footing widths the prescriptive code asks for.

IRC tables recalled from memory; the tests hold them against the check values.
"""

import math
from typing import Final, Literal

from balken.model.foundations import STEEPEST
from balken.units import INCH, PSF

SOIL_CLASSES: Final[dict[str, float]] = {
    "crystalline bedrock": 12_000 * PSF,
    "sedimentary and foliated rock": 4_000 * PSF,
    "sandy gravel and gravel": 3_000 * PSF,
    "sand, silty or clayey sand, silty or clayey gravel": 2_000 * PSF,
    "clay, sandy or silty clay, silt": 1_500 * PSF,
}
"""Presumptive load-bearing values, N/mm² (IRC 2021 table R401.4.1)."""

Construction = Literal["light frame", "brick veneer or hollow masonry", "solid or grouted masonry"]

_COLUMNS: Final = (1500.0, 2000.0, 3000.0, 4000.0)
_WIDTHS: Final[dict[Construction, tuple[tuple[int, ...], ...]]] = {
    "light frame": ((12, 12, 12, 12), (15, 12, 12, 12), (23, 17, 12, 12)),
    "brick veneer or hollow masonry": ((12, 12, 12, 12), (21, 16, 12, 12), (32, 24, 16, 12)),
    "solid or grouted masonry": ((16, 12, 12, 12), (29, 21, 14, 12), (42, 32, 21, 16)),
}


def prescriptive_width(construction: Construction, storeys: int, bearing: float) -> float | None:
    """Return the least width of a concrete footing, mm (IRC 2012 table R403.1).

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


def strip_width(line_load: float, bearing: float, thickness: float = 0.0, weight: float = 0.0) -> float:
    """Return the width a strip needs so that the soil bears it and its own weight, mm.

    Args:
        line_load: what comes down, N/mm; with the strip's own weight in it where ``thickness`` is zero.
        bearing: of the soil, N/mm².
        thickness: of the strip, mm.
        weight: of concrete, N/mm³.

    Raises:
        ValueError: the strip's own weight alone is more than the soil bears.
    """
    return line_load / _left_over(bearing, thickness, weight)


def pad_side(load: float, bearing: float, thickness: float = 0.0, weight: float = 0.0) -> float:
    """Return the side of a square pad so that the soil bears a load in N and the pad's own weight, mm."""
    return math.sqrt(load / _left_over(bearing, thickness, weight))


def _left_over(bearing: float, thickness: float, weight: float) -> float:
    net = bearing - thickness * weight
    if net <= 0:
        raise ValueError("The concrete alone is heavier than the soil bears: make it thinner, or find better soil.")
    return net


def rounded_up(size: float, module: float) -> float:
    """Return a size brought up to the next whole module, mm; what is on it to a hair stays."""
    return math.ceil(size / module - 1e-6) * module


def must_step(fall: float, over: float) -> bool:
    """Tell whether ground that falls by so much over such a length needs a stepped footing, both in one unit."""
    return abs(fall) > STEEPEST * over * (1 + 1e-9)
