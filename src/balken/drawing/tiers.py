"""Tiers: what fills the building between two levels, from the footing up. The way round the program."""

from typing import Literal

import msgspec

from balken.design.building import Checked
from balken.framing.structure import bed_of_floor, build_up_of
from balken.model.memo import Memo
from balken.model.project import Project, level


class Tier(msgspec.Struct, frozen=True):
    """One tier: the host that fills it, its name, and its heights, mm."""

    id: str
    name: str
    kind: Literal["ground", "walls", "floor", "ceiling", "roof"]
    low: float
    high: float
    walls_on: str
    """The level whose walls belong on its plan."""


def tiers(checked: Checked, memo: Memo) -> tuple[Tier, ...]:
    """Return the tiers of a building from the lowest up."""
    project = checked.project
    found: list[Tier] = []
    for run in project.runs:
        low, high = level(project, run.bottom).elevation, level(project, run.top).elevation
        found.append(Tier(f"run:{run.id}", "Foundation", "ground", low, high, _base_of(project, run.walls)))
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        use = build_up_of(project, floor).use
        low = bed.height if bed else level(project, floor.bears_on).elevation
        members = [m for m in checked.structure.members if m.host == f"floor:{floor.id}"]
        high = max((m.solid.bounds()[1][2] for m in members), default=low + 1)
        name = floor.name if use == "ceiling" else f"{floor.name} joists"
        base = _base_of(project, floor.walls)
        found.append(Tier(f"floor:{floor.id}", name, "floor" if use == "floor" else "ceiling", low, high, base))
    for base in dict.fromkeys(w.base for w in project.walls):
        tops = [level(project, w.top).elevation for w in project.walls if w.base == base]
        item = level(project, base)
        found.append(Tier(f"walls:{base}", f"{item.name} walls", "walls", item.elevation, max(tops), base))
    for roof in project.roofs:
        members = [m for m in checked.structure.members if m.host == f"roof:{roof.id}"]
        low = level(project, roof.plate).elevation
        high = max((m.solid.bounds()[1][2] for m in members), default=low + 1)
        found.append(Tier(f"roof:{roof.id}", "Roof", "roof", low, high, _base_of(project, roof.walls)))
    return tuple(sorted(found, key=lambda t: (t.low, t.high)))


def _base_of(project: Project, keys: tuple[str, ...]) -> str:
    return next((w.base for w in project.walls if w.id in keys), "")
