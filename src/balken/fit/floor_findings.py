"""Findings of floors: joists too deep to stand without being held."""

from collections.abc import Iterable, Sequence
from functools import partial
from itertools import pairwise
from typing import Final

from balken.fit.finding import Finding, Mend, run_text
from balken.framing import kinds
from balken.framing.floors.bridging import MOST_APART
from balken.framing.member import Member, apart
from balken.framing.pieces import near_spots
from balken.geometry.plane import TOUCH, dot, sub, unit
from balken.loads.path import place_of
from balken.model.catalogue import dressed, sections_of
from balken.model.edits.floors import build_floor_otherwise
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.works.building import Checked

DEEPEST: Final = (2, 12)
"""Joists of a greater nominal size are held between their bearings (IRC 2021 R502.7.1); products
by what their maker says."""
HELD_BY: Final = (kinds.BRIDGING, kinds.BLOCKING)


def lacking_bridging(checked: Checked) -> Iterable[Finding]:
    """Floors whose joists are deeper than a nominal 2x12 and not held every 8 ft."""
    if checked.project.code != "us":
        return
    for floor in checked.project.floors:
        lacking = _too_far_apart(checked, HostName("floor", floor.id))
        if lacking:
            yield _finding(checked, floor, lacking)


def _too_far_apart(checked: Checked, host: HostName) -> list[tuple[float, Member]]:
    """The deep joists of a floor that are not held every 8 ft, each with its widest gap, mm."""
    held = [m for m in checked.structure.of(*HELD_BY) if m.host == host]
    joists = [m for m in checked.structure.of(kinds.JOIST, kinds.TRIMMER) if m.host == host]
    deep = [m for m in joists if _is_deep(checked, m)]
    return [(gap, m) for gap, m in zip(_widest(deep, held), deep) if gap > MOST_APART + TOUCH]


def _is_deep(checked: Checked, m: Member) -> bool:
    sections = sections_of(checked.project.system, checked.project.products)
    section = sections.get(m.section)
    return (
        section is not None
        and section.family == "sawn"
        and section.depth > dressed(DEEPEST)[1] + 1.0
    )


def _widest(joists: Sequence[Member], held: Sequence[Member]) -> list[float]:
    """For each joist the longest stretch between bearings, bridging and blocks, mm."""
    ends = [p[:2] for m in held for p in (m.start, m.end)]
    found: dict[Member, list[float]] = {m: [s.at for s in m.carrier.supports] for m in joists}
    for spot, beside in zip(ends, near_spots(ends, joists, TOUCH)):
        for m in beside:
            way = unit(sub(m.end[:2], m.start[:2]))
            found[m].append(dot(sub(spot, m.start[:2]), way))
    return [
        max((b - a for a, b in pairwise(sorted(found[m]))), default=0.0)
        if len(apart(m.carrier.supports)) > 1
        else 0.0
        for m in joists
    ]


def _finding(
    checked: Checked, floor: FloorArea, lacking: Sequence[tuple[float, Member]]
) -> Finding:
    project = checked.project
    gap, worst = max(lacking, key=lambda x: x[0])
    return Finding(
        "slender",
        f"joists of {floor.name}",
        gap - MOST_APART,
        "mm",
        f"{worst.section} joists of {floor.name} stand {run_text(project, gap)} without anything"
        f" that holds them upright; deeper than 2x12 they need bridging or blocks every"
        f" {run_text(project, MOST_APART)} (IRC R502.7.1).",
        HostName("floor", floor.id),
        tuple(m.id for _, m in lacking),
        place_of(worst),
        mend=Mend(
            f"Put crossed bridging between the joists of {floor.name}",
            partial(build_floor_otherwise, key=floor.id, bridging="crossed"),
        ),
    )
