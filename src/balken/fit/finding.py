"""What a finding is: what does not fit, where, by how much, and how it can be put right."""

import math
from collections.abc import Callable
from typing import Final, Literal

import msgspec

from balken.geometry.plane import Point
from balken.model.names import MemberName, Name
from balken.model.project import Project
from balken.units import format_force, format_length, format_run

Kind = Literal[
    "gap",
    "overlap",
    "bearing",
    "unsupported",
    "over",
    "clearance",
    "frost",
    "load path",
    "too long",
    "lost change",
    "not framed",
    "base",
    "module",
    "steps",
    "ledge",
    "prop",
    "no footing",
    "idle pad",
    "clash",
    "influence",
    "bolts",
    "no foot",
    "headroom",
    "lifts",
    "bored",
    "unchecked",
    "slender",
    "fault",
    "open",
    "wind",
]
KIND_WORDS: Final[dict[str, str]] = {
    "gap": "Gap",
    "overlap": "Overlap",
    "bearing": "Bearing",
    "unsupported": "Unsupported",
    "over": "Over",
    "clearance": "Clearance",
    "frost": "Frost",
    "load path": "Load path",
    "too long": "Too long",
    "lost change": "Lost change",
    "not framed": "Not framed",
    "base": "Wrong base",
    "module": "Off module",
    "steps": "Steps",
    "ledge": "No ledge",
    "prop": "No prop yet",
    "no footing": "No footing",
    "idle pad": "Idle pad",
    "clash": "Clash",
    "influence": "Too near",
    "bolts": "Anchor bolts",
    "no foot": "No foot",
    "headroom": "Headroom",
    "lifts": "Lifts off",
    "bored": "Bored",
    "unchecked": "Not checked",
    "fault": "Fault",
    "open": "Open work",
    "slender": "Slender",
    "wind": "Wind",
}


class Mend(msgspec.Struct, frozen=True):
    """A way to put it right: what it does in words, and the edit."""

    text: str
    apply: Callable[[Project], Project]
    sizes: bool = False
    """Whether it makes a size larger that nobody holds by hand: sizing the whole building takes
    it."""


class Finding(msgspec.Struct, frozen=True):
    """One thing that does not fit. ``amount`` in mm, or a utilisation, or N, as ``measure``
    says."""

    kind: Kind
    place: str
    amount: float
    measure: Literal["mm", "ratio", "N", "count"]
    text: str
    host: Name | None
    """What it is about; None for the whole building."""
    members: tuple[MemberName, ...] = ()
    at: Point | None = None
    height: tuple[float, float] | None = None
    """The heights between which a gap or overlap lies, mm."""
    mend: Mend | None = None


def us_clause(project: Project, clause: str) -> str:
    """Where a prescriptive rule of US codes stands, in brackets; nothing in a European project, where
    the rule is common practice."""
    return f" ({clause})" if project.code == "us" else ""


def length_text(project: Project, mm: float) -> str:
    """Write a length in the project's units."""
    return format_length(mm, project.system)


def run_text(project: Project, mm: float) -> str:
    """Write a short length in the project's units."""
    return format_run(mm, project.system)


def amount_text(project: Project, finding: Finding) -> str:
    """Write how much, in the project's units."""
    if not math.isfinite(finding.amount):
        return "–"
    if finding.measure == "mm":
        return run_text(project, finding.amount)
    if finding.measure == "N":
        return format_force(finding.amount, project.system)
    return f"{finding.amount:.2f}" if finding.measure == "ratio" else f"{finding.amount:.0f}"
