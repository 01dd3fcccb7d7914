"""What people call the thing behind a key: a wall, an opening, a grid line, a support, a member."""

from collections.abc import Callable, Sequence

from balken.model.names import HostKind, HostName, MemberName, Name, ThingName, in_words, kind_of
from balken.model.project import Project
from balken.model.roofs import SIDE_WORDS, side_of
from balken.model.walls import called
from balken.units import format_run


def page(title: str) -> ThingName:
    """The name of a page of the slip that is about no single thing."""
    return ThingName("page", title)


def level_of(name: Name | None) -> str:
    """The key of a level that is named; empty for everything else."""
    return name.key if isinstance(name, ThingName) and name.kind == "level" else ""


def host_behind(name: Name | None) -> HostName | None:
    """What a thing stands in, where that has a tier: of a hole its floor, of a side of a roof the
    roof."""
    if isinstance(name, ThingName):
        kind: HostKind | None = {"hole": "floor", "side": "roof", "skylight": "roof"}.get(name.kind)  # type: ignore[assignment]
        return HostName(kind, name.key) if kind else None
    return name.host if name is not None else None


def wall_behind(name: Name | None) -> str:
    """The key of a wall that is named, or that an opening lies in; empty for everything else."""
    if isinstance(name, ThingName):
        return name.key if name.kind == "opening" else ""
    return name.key if isinstance(name, HostName) and name.kind == "wall" else ""


def by_kind(names: Sequence[Name]) -> dict[str, list[Name]]:
    """What is selected by its kind, in the order in which the kinds come."""
    found: dict[str, list[Name]] = {}
    for name in names:
        found.setdefault(kind_of(name), []).append(name)
    return found


def label_of(project: Project, name: Name) -> str:
    """What people call the thing behind a name; empty where it is not there."""
    if isinstance(name, ThingName):
        return _LABELS[name.kind](project, name) if name.kind in _LABELS else in_words(name)
    if name.host.kind == "wall":
        found = next((w for w in project.walls if w.id == name.host.key), None)
        return f"{called(found)}, {format_run(found.thickness, project.system)}" if found else ""
    if name.host.kind == "support":
        item = next((s for s in project.point_supports if s.id == name.host.key), None)
        return f"{item.kind} {item.id}" if item else ""
    return (
        f"{name.host.key} {name.family} {name.place}"
        if isinstance(name, MemberName)
        else in_words(name)
    )


def _opening(project: Project, name: ThingName) -> str:
    item = next((w for w in project.walls if w.id == name.key), None)
    hole = next((o for o in item.openings if o.id == name.part), None) if item else None
    return (
        f"{hole.kind} in {called(item)}, {format_run(hole.width, project.system)} wide"
        if hole and item
        else ""
    )


def _line(project: Project, name: ThingName) -> str:
    lines = [x for g in project.grids if g.id == name.key for x in g.lines if x.id == name.part]
    return f"grid line {lines[0].label}" if lines else ""


def _hole(project: Project, name: ThingName) -> str:
    holes = [
        (f, o) for f in project.floors if f.id == name.key for o in f.openings if o.id == name.part
    ]
    return f"{holes[0][1].use} opening {name.part} of {holes[0][0].name}" if holes else ""


_LABELS: dict[str, Callable[[Project, ThingName], str]] = {
    "opening": _opening,
    "grid": _line,
    "hole": _hole,
    "span": lambda _, name: f"direction of {name.part} {name.key}",
    "step": lambda _, name: f"step of footing {name.key}",
    "side": lambda project, name: _of_roof(project, name),
    "skylight": lambda project, name: _of_roof(project, name),
}


def _of_roof(project: Project, of: ThingName) -> str:
    key, name = of.key, of.part
    roof = next((r for r in project.roofs if r.id == key), None)
    if roof is None:
        return ""
    if of.kind == "skylight":
        return next(
            (f"{o.use} {o.id} of roof {roof.name}" for o in roof.openings if o.id == name), ""
        )
    wall = next((w for w in project.walls if w.id == name), None)
    return (
        f"{SIDE_WORDS[side_of(roof, name).kind]}, {called(wall) if wall else f'side {name}'} of"
        f" roof {roof.name}"
    )
