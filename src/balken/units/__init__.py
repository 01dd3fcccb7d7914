"""Quantities as the trade reads and writes them. Inside the program: mm, N, N/mm², kg."""

from balken.units.length import LengthError, format_length, format_run, parse_length
from balken.units.number import NumberError, parse_angle, parse_number
from balken.units.quantity import (
    FOOT,
    INCH,
    KPA,
    LB,
    LBFT,
    PCF,
    PLF,
    PSF,
    PSI,
    QuantityError,
    format_area_load,
    format_force,
    format_line_load,
    format_moment,
    format_stress,
    format_volume,
    parse_area_load,
)
from balken.units.runs import parse_angles, parse_runs
from balken.units.system import System

__all__ = [
    "FOOT",
    "INCH",
    "KPA",
    "LB",
    "LBFT",
    "PCF",
    "PLF",
    "PSF",
    "PSI",
    "LengthError",
    "NumberError",
    "QuantityError",
    "System",
    "format_area_load",
    "format_force",
    "format_length",
    "format_line_load",
    "format_moment",
    "format_run",
    "format_stress",
    "format_volume",
    "parse_angle",
    "parse_angles",
    "parse_area_load",
    "parse_length",
    "parse_number",
    "parse_runs",
]
