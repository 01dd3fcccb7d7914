"""The calculation, open to read: what was computed, from what, by which clause."""

from collections.abc import Callable
from typing import Final, Literal

import msgspec

from balken.design.concrete.bars import Bars
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


class Line(msgspec.Struct, frozen=True, gc=False):
    """One line of a calculation. ``value`` in mm, N, N/mm² and their products; ``kind`` says
    which."""

    symbol: str
    value: float
    kind: Kind
    clause: str = ""
    how: str = ""
    """The formula, in symbols."""
    bars: Bars | None = None
    """The bars that it chose, where it chose any."""


class Check(msgspec.Struct, frozen=True, gc=False):
    """One check of one member: its utilisation, the combination that governs it, and every line on
    the way."""

    name: str
    ratio: float
    combination: str
    clause: str
    lines: tuple[Line, ...]


def format_value(line: Line, system: System) -> str:
    """Write a line's value with its unit."""
    written = _WRITTEN.get(line.kind)
    if written is not None:
        return written(line.value, system)
    us, metric = _IN_SECTIONS.get(line.kind, (_plain, _plain))
    return (us if system == "us" else metric)(line.value)


def _run(value: float, system: System) -> str:
    return f"{value / INCH:.2f} in" if system == "us" else format_run(value, system)


def _plain(value: float) -> str:
    return f"{value:.2f}"


_WRITTEN: Final[dict[Kind, Callable[[float, System], str]]] = {
    "length": format_length,
    "run": _run,
    "area load": format_area_load,
    "line load": format_line_load,
    "force": format_force,
    "moment": format_moment,
    "stress": format_stress,
}


_IN_SECTIONS: Final[dict[Kind, tuple[Callable[[float], str], Callable[[float], str]]]] = {
    "modulus": (lambda v: f"{v / INCH**3:.2f} in³", lambda v: f"{v / 1e3:,.0f} ×10³ mm³"),
    "inertia": (lambda v: f"{v / INCH**4:.1f} in⁴", lambda v: f"{v / 1e6:,.1f} ×10⁶ mm⁴"),
    "steel": (lambda v: f"{v / INCH**2:.2f} in²", lambda v: f"{v:,.0f} mm²"),
    "steel per run": (
        lambda v: f"{v * 12 / INCH:.3f} in²/ft",
        lambda v: f"{v * 1000:,.0f} mm²/m",
    ),
}
"""Values that belong to a cross section, in each measure."""
