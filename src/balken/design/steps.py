"""The calculation, open to read: what was computed, from what, by which clause."""

from typing import Literal

import msgspec

from balken.units import (
    INCH,
    System,
    format_area_load,
    format_force,
    format_length,
    format_line_load,
    format_moment,
    format_run,
    format_stress,
)

Kind = Literal[
    "length",
    "run",
    "area load",
    "line load",
    "force",
    "moment",
    "stress",
    "factor",
    "modulus",
    "inertia",
    "steel",
    "steel per run",
]


class Step(msgspec.Struct, frozen=True, gc=False):
    """One line of a calculation. ``value`` in mm, N, N/mm² and their products; ``kind`` says
    which."""

    symbol: str
    value: float
    kind: Kind
    clause: str = ""
    how: str = ""
    """The formula, in symbols."""


class Check(msgspec.Struct, frozen=True, gc=False):
    """One check of one member: its utilisation, the combination that governs it, and every step on
    the way."""

    name: str
    ratio: float
    combination: str
    clause: str
    steps: tuple[Step, ...]


def format_value(step: Step, system: System) -> str:
    """Write a step's value with its unit."""
    match step.kind:
        case "length":
            return format_length(step.value, system)
        case "run":
            return (
                format_run(step.value, system)
                if system == "metric"
                else f"{step.value / INCH:.2f} in"
            )
        case "area load":
            return format_area_load(step.value, system)
        case "line load":
            return format_line_load(step.value, system)
        case "force":
            return format_force(step.value, system)
        case "moment":
            return format_moment(step.value, system)
        case "stress":
            return format_stress(step.value, system)
        case "modulus":
            return (
                f"{step.value / INCH**3:.2f} in³"
                if system == "us"
                else f"{step.value / 1e3:,.0f} ×10³ mm³"
            )
        case "inertia":
            return (
                f"{step.value / INCH**4:.1f} in⁴"
                if system == "us"
                else f"{step.value / 1e6:,.1f} ×10⁶ mm⁴"
            )
        case "steel":
            return f"{step.value / INCH**2:.2f} in²" if system == "us" else f"{step.value:,.0f} mm²"
        case "steel per run":
            return (
                f"{step.value * 12 / INCH:.3f} in²/ft"
                if system == "us"
                else f"{step.value * 1000:,.0f} mm²/m"
            )
    return f"{step.value:.2f}"
