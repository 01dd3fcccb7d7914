"""Loads, forces, stresses: factors to the inner units and notation for people.

Factors are exact by the international foot and pound (NIST SP 811, appendix B.8).
"""

import math
import re
from typing import Final

from balken.units.system import System

INCH: Final = 25.4
FOOT: Final = 304.8
LB: Final = 4.4482216152605
"""One pound-force in N."""
PSI: Final = LB / INCH**2
"""One psi in N/mm²."""
PSF: Final = LB / FOOT**2
"""One psf in N/mm²."""
PLF: Final = LB / FOOT
"""One pound per foot in N/mm."""
PCF: Final = LB / FOOT**3
"""One pound-force per cubic foot in N/mm³."""
LBFT: Final = LB * FOOT
"""One pound-foot in N mm."""
KPA: Final = 1e-3
"""One kPa (kN/m²) in N/mm²."""

HEAVIEST: Final = 100 * KPA
"""The heaviest area load anybody may type: 100 kN/m², about 2,090 psf."""

_AREA_LOAD = re.compile(r"(?P<value>\d+(?:\.\d*)?|\.\d+)\s*(?P<unit>psf|lb/ft2|lb/ft²|kpa|kn/m2|kn/m²|)", re.IGNORECASE)


class QuantityError(ValueError):
    """A load that cannot be read; its text says what was typed and what is accepted."""


def parse_area_load(text: str, system: System) -> float:
    """Read an area load such as ``40psf`` or ``1.9 kPa``; a bare number is psf or kN/m² by system.

    Returns:
        The load in N/mm².

    Raises:
        QuantityError: no load, below zero, or heavier than 100 kN/m².
    """
    hint = "Write 40psf or 1.9kPa."
    match = _AREA_LOAD.fullmatch(text.strip().replace(",", "."))
    if not match:
        raise QuantityError(f"“{text.strip()}” is not an area load. {hint}")
    unit = match["unit"].lower() or ("psf" if system == "us" else "kpa")
    value = float(match["value"]) * (PSF if unit in ("psf", "lb/ft2", "lb/ft²") else KPA)
    if value > HEAVIEST:
        raise QuantityError(f"“{text.strip()}” is heavier than 100 kN/m². {hint}")
    return value


def format_area_load(value: float, system: System) -> str:
    """Write an area load given in N/mm²."""
    return f"{_short(value / PSF)} psf" if system == "us" else f"{value / KPA:.2f} kN/m²"


def format_line_load(value: float, system: System) -> str:
    """Write a line load given in N/mm."""
    return f"{value / PLF:,.0f} plf" if system == "us" else f"{value:.2f} kN/m"


def format_force(value: float, system: System) -> str:
    """Write a force given in N."""
    if system == "us":
        pounds = value / LB
        return f"{pounds / 1000:,.1f} kip" if abs(pounds) >= 20_000 else f"{pounds:,.0f} lb"
    return f"{value / 1000:,.2f} kN"


def format_moment(value: float, system: System) -> str:
    """Write a moment given in N mm."""
    return f"{value / LBFT:,.0f} lb·ft" if system == "us" else f"{value / 1e6:.2f} kN·m"


def format_stress(value: float, system: System) -> str:
    """Write a stress given in N/mm²."""
    return f"{value / PSI:,.0f} psi" if system == "us" else f"{value:.2f} N/mm²"


def format_volume(value: float, system: System) -> str:
    """Write a volume given in mm³: cubic yards or cubic metres."""
    return f"{value / (3 * FOOT) ** 3:.2f} yd³" if system == "us" else f"{value / 1e9:.2f} m³"


def _short(value: float) -> str:
    return f"{value:.0f}" if value >= 100 or math.isclose(value, round(value), abs_tol=0.05) else f"{value:.1f}"
