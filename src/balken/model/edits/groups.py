"""Groups: beams, posts and pads that are cut to one size, for the worst of them; made by rule, changed by
hand."""

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Any, Final

from msgspec.structs import replace

from balken.model.beams import Beam, BeamBay
from balken.model.edits.common import checked
from balken.model.names import HostName
from balken.model.project import PointSupport, Project, level

SHARED: Final = frozenset(
    ["section", "size", "width", "depth", "thickness", "round", "species", "grade"]
)
"""Fields of posts and pads that a group has in common."""
KINDS: Final = {"post": "posts", "pad": "pads", "pier": "piers"}


def with_group(project: Project, keys: Sequence[str], fields: Iterable[str]) -> set[str]:
    """Supports to be changed: those named, and where a size is changed all of their groups."""
    wanted = set(keys)
    if SHARED.isdisjoint(fields):
        return wanted
    groups = {(s.kind, s.group) for s in project.point_supports if s.id in wanted and s.group}
    return wanted | {s.id for s in project.point_supports if (s.kind, s.group) in groups}


def with_beam_group(
    project: Project, hosts: Sequence[HostName], fields: dict[str, Any]
) -> tuple[HostName, ...]:
    """Beams and bays to be changed: those named, and where a section is, all of their groups."""
    if "section" not in fields:
        return tuple(hosts)
    named = set(hosts)
    every = beam_groups(project)
    groups = {g for h, g in every.items() if h in named and g}
    return (*hosts, *(h for h, g in every.items() if g in groups and h not in named))


def beam_groups(project: Project) -> dict[HostName, str]:
    """The group of each beam and bay; empty where it is sized alone."""
    found = {HostName("beam", b.id): b.kind.group for b in project.beams}
    return found | {HostName("bay", b.id): b.kind.group for b in project.bays}


def group_by_rule(project: Project) -> Project:
    """Beams of one level, and posts and pads on one grid line, in groups; those that are in one stay
    in it."""
    of_line = {s.id: _line_of(project, s) for s in project.point_supports}
    count = Counter((s.kind, of_line[s.id]) for s in project.point_supports)

    def support(s: PointSupport) -> PointSupport:
        line = of_line[s.id]
        alone = s.group or not line or count[s.kind, line] < 2
        return s if alone else replace(s, group=f"{KINDS[s.kind]} on {line}")

    return checked(
        project,
        point_supports=tuple(support(s) for s in project.point_supports),
        beams=_of_level(project, project.beams),
        bays=_of_level(project, project.bays),
    )


def _of_level(project: Project, beams: Sequence[Any]) -> tuple[Any, ...]:
    def grouped(b: Beam | BeamBay) -> Beam | BeamBay:
        if b.kind.group:
            return b
        name = f"beams at {level(project, b.level).name}"
        return replace(b, kind=replace(b.kind, group=name[:80]))

    return tuple(grouped(b) for b in beams)


def ungroup(project: Project) -> Project:
    """Every beam, post and pad sized alone."""
    return checked(
        project,
        point_supports=tuple(replace(s, group="") for s in project.point_supports),
        beams=tuple(replace(b, kind=replace(b.kind, group="")) for b in project.beams),
        bays=tuple(replace(b, kind=replace(b.kind, group="")) for b in project.bays),
    )


def _line_of(project: Project, support: PointSupport) -> str:
    """The label of the grid line that most supports of its kind stand on, of the two it stands on."""
    grid = next((g for g in project.grids if g.id == support.grid), None)
    if grid is None:
        return ""
    labels = {x.id: x.label for x in grid.lines}

    def company(line: str) -> int:
        return sum(
            line in s.lines and s.grid == support.grid and s.kind == support.kind
            for s in project.point_supports
        )

    return labels.get(max(support.lines, key=company), "")
