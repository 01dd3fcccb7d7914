"""Every size of a building in words, and what changed from one working out to another."""

from collections.abc import Iterator
from typing import NamedTuple

from balken.model.foundations import WITH_STEM
from balken.model.names import HostName
from balken.model.project import Project
from balken.units import format_run
from balken.works.building import Checked

Sizes = dict[tuple[HostName, str], str]
"""By host and what of it: the size in words."""


class SizeChange(NamedTuple):
    """One size that is another now."""

    host: HostName
    what: str
    was: str
    now: str
    why: str
    """The check that governs it now, and how far it is used."""


def sizes_told(checked: Checked) -> Sizes:
    """Every size of a building in words."""
    return dict([*_chosen(checked), *_typed(checked.project)])


def _chosen(checked: Checked) -> Iterator[tuple[tuple[HostName, str], str]]:
    """What sizing chose of floors, roofs and beams."""
    system = checked.project.system
    for host, sized in checked.sizes.items():
        size = sized.size
        gap = f" at {format_run(size.spacing, system)}" if size.spacing else ""
        word = {"floor": "joists", "roof": "rafters"}.get(host.kind, "section")
        yield (host, word), f"{size.section}{gap}"
        for (role, place), section in size.cut:
            yield (host, f"{role} {place}".strip()), section
        for row, count in size.plies:
            yield (host, f"plies of {row}"), str(count)


def _typed(project: Project) -> Iterator[tuple[tuple[HostName, str], str]]:
    """What was typed, or set by a mend, of posts, pads and foundations."""
    system = project.system

    def run(mm: float) -> str:
        return format_run(mm, system)

    for s in project.point_supports:
        size = f"{run(s.size[0])} × {run(s.size[1])}"
        thick = f" × {run(s.thickness)}" if s.thickness else ""
        yield (HostName("support", s.id), s.kind), f"{s.section or size}{thick}"
    for r in project.runs:
        if r.kind in WITH_STEM:
            wide = f"{run(r.footing_width)} × {run(r.footing_thickness)}"
            yield (HostName("run", r.id), "footing"), wide
            if r.bolts_apart:
                yield (HostName("run", r.id), "bolts apart"), run(r.bolts_apart)
    for change in project.changes:
        if change.section:
            yield (change.member.host, f"piece {change.member.place}"), change.section


def changed_sizes(before: Sizes, after: Checked) -> tuple[SizeChange, ...]:
    """What changed, in the order of hosts: each with the check that governs its host now."""
    now = sizes_told(after)
    worst: dict[HostName, tuple[float, str]] = {}
    for name, used in after.used.items():
        worst[name.host] = max(worst.get(name.host, (0.0, "")), used)
    found = []
    for key in sorted({*before, *now}):
        was, become = before.get(key, "none"), now.get(key, "none")
        if was != become:
            ratio, check = worst.get(key[0], (0.0, ""))
            why = f"{check.lower()} {ratio:.2f}" if check else ""
            found.append(SizeChange(*key, was, become, why))
    return tuple(found)
