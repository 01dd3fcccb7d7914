"""Loads, forces, stresses: factors to the inner units and notation for people.

Factors are exact by the international foot and pound (NIST SP 811, appendix B.8).
"""

import math
import re
from typing import Final

from balken.errors import BalkenError
from balken.units.number import parse_number
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

MPH: Final = 447.04
"""One mile per hour in mm/s."""

HEAVIEST: Final = 100 * KPA
"""The heaviest area load anybody may type: 100 kN/m², about 2,090 psf."""
HARDEST: Final = 20_000 * KPA
"""No ground bears more: 20 MN/m², twice what sound rock is presumed to (EN 1997-1 annex G)."""

_AREA_LOAD = re.compile(
    r"(?P<value>\d+(?:\.\d*)?|\.\d+)\s*(?P<unit>psf|ksf|lb/ft2|lb/ft²|kpa|mpa|kn/m2|kn/m²|)",
    re.IGNORECASE,
)

_THOUSANDS = re.compile(r"-?[1-9]\d{0,2}(,\d{3})+(\.\d*)?(?=[^\d.,]|$)")
"""A number with its thousands parted as we write them: 1,200 or 1,200.50, but not 0,125."""


_PRESSURES: Final = {
    "psf": PSF,
    "lb/ft2": PSF,
    "lb/ft²": PSF,
    "ksf": 1000 * PSF,
    "kpa": KPA,
    "kn/m2": KPA,
    "kn/m²": KPA,
    "mpa": 1000 * KPA,
}


class QuantityError(BalkenError):
    """A load that cannot be read; its text says what was typed and what is accepted."""


def parse_area_load(text: str, system: System) -> float:
    """Read an area load such as ``40psf`` or ``1.9 kPa``; a bare number is psf or kN/m² by system.

    Returns:
        The load in N/mm².

    Raises:
        QuantityError: no load, below zero, or heavier than 100 kN/m².
    """
    return _pressure(text, system, HEAVIEST, "is not an area load. Write 40psf or 1.9kPa.")


def parse_soil_bearing(text: str, system: System) -> float:
    """Read what a soil bears such as ``2,000psf``, ``3ksf`` or ``150kPa`` as N/mm²; a bare number is
    psf or kPa by system.

    Raises:
        QuantityError: no pressure, nothing, or more than rock bears.
    """
    hint = "is not what a soil bears. Write 2000psf, 3ksf or 150kPa."
    value = _pressure(text, system, HARDEST, hint)
    if value <= 0:
        raise QuantityError("Soil that bears nothing carries no building; type more than zero.")
    return value


def _pressure(text: str, system: System, most: float, hint: str) -> float:
    typed = text.strip()
    plain = typed.replace(",", "") if _THOUSANDS.match(typed) else typed.replace(",", ".")
    match = _AREA_LOAD.fullmatch(plain)
    if not match:
        raise QuantityError(f"“{typed}” {hint}")
    unit = match["unit"].lower() or ("psf" if system == "us" else "kpa")
    value = float(match["value"]) * _PRESSURES[unit]
    if value > most:
        limit = f"{most / KPA:,.0f} kN/m²" if system == "metric" else f"{most / PSF:,.0f} psf"
        raise QuantityError(f"“{typed}” is more than {limit}. {hint.partition('. ')[2]}")
    return value


def parse_line_load(text: str, system: System) -> float:
    """Read a load along a line such as ``850 plf`` or ``12.4 kN/m`` as N/mm; a bare number is plf
    or kN/m by system.

    Raises:
        NumberError: no number; says what was typed.
    """
    return _with_unit(text, {"plf": PLF, "lb/ft": PLF, "kn/m": 1.0}, PLF if system == "us" else 1.0)


def parse_force(text: str, system: System) -> float:
    """Read a force in pounds, kips, N or kN as N; a bare number is pounds or kN by system.

    Raises:
        NumberError: no number; says what was typed.
    """
    units = {"kips": 1000 * LB, "kip": 1000 * LB, "lbf": LB, "lb": LB, "kn": 1000.0, "n": 1.0}
    return _with_unit(text, units, LB if system == "us" else 1000.0)


def parse_speed(text: str, system: System) -> float:
    """Read the speed of wind in mph or m/s as mm/s; a bare number is one or the other by system.

    Raises:
        NumberError: no number; says what was typed.
    """
    units = {"mph": MPH, "km/h": 1000 / 3.6, "m/s": 1000.0}
    return _with_unit(text, units, MPH if system == "us" else 1000.0)


def parse_moment(text: str, system: System) -> float:
    """Read a moment in lb·ft or kN·m as N mm; a bare number is one or the other by system.

    Raises:
        NumberError: no number; says what was typed.
    """
    units = {"lbft": LBFT, "ftlb": LBFT, "knm": 1e6}
    return _with_unit(text.replace("·", ""), units, LBFT if system == "us" else 1e6)


def _with_unit(text: str, units: dict[str, float], bare: float) -> float:
    """Read a number and the unit after it; commas that part thousands, as we write them, fall
    away."""
    plain = text.lower().replace(" ", "")
    if parted := _THOUSANDS.match(plain):
        plain = parted[0].replace(",", "") + plain[parted.end() :]
    for word, factor in units.items():
        if plain.endswith(word):
            return parse_number(plain.removesuffix(word)) * factor
    return parse_number(plain) * bare


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


def format_speed(value: float, system: System) -> str:
    """Write a speed of wind, mm/s, in mph or m/s."""
    return f"{value / MPH:.0f} mph" if system == "us" else f"{value / 1000:.1f} m/s"


def format_moment(value: float, system: System) -> str:
    """Write a moment given in N mm."""
    return f"{value / LBFT:,.0f} lb·ft" if system == "us" else f"{value / 1e6:.2f} kN·m"


def format_stress(value: float, system: System) -> str:
    """Write a stress given in N/mm²."""
    return f"{value / PSI:,.0f} psi" if system == "us" else f"{value:.2f} N/mm²"


def format_area(value: float, system: System) -> str:
    """Write an area given in mm²: square feet or square metres."""
    return f"{value / FOOT**2:,.2f} ft²" if system == "us" else f"{value / 1e6:,.3f} m²"


def format_volume(value: float, system: System) -> str:
    """Write a volume given in mm³: cubic yards or cubic metres."""
    return f"{value / (3 * FOOT) ** 3:.2f} yd³" if system == "us" else f"{value / 1e9:.2f} m³"


def _short(value: float) -> str:
    return (
        f"{value:.0f}"
        if value >= 100 or math.isclose(value, round(value), abs_tol=0.05)
        else f"{value:.1f}"
    )
