"""Schedules: what the marks on the plans mean. Alike pieces stand in one row with their count."""

from collections import Counter
from collections.abc import Iterator

from balken.drawing.paper.tables import Table
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.walls import Opening, Wall, called, name_of
from balken.takeoff.lifts import panels_of
from balken.units import System, format_force, format_length, format_run
from balken.works.building import Checked


def schedules_of(checked: Checked) -> Iterator[Table]:
    """All schedules that have rows."""
    for make in (
        _foundations,
        _pads,
        _posts,
        _beams,
        _openings,
        _walls,
        _members,
        _panels,
    ):
        table = make(checked)
        if table.rows:
            yield table


def _alike(members: list[Member], system: System) -> list[tuple[str, str, str, str, str]]:
    """Marks of alike pieces together: marks, count, section, material, length."""
    groups: dict[tuple[str, str, float], list[str]] = {}
    for m in members:
        groups.setdefault((m.section, m.material, round(m.length, 0)), []).append(m.mark)
    return [
        (
            shortened(marks),
            f"{len(marks)}",
            pretty(section),
            material,
            format_length(length, system),
        )
        for (section, material, length), marks in groups.items()
    ]


MOST = 4


def shortened(marks: list[str]) -> str:
    """Marks in a row of a table: a few, then how many more."""
    few = list(dict.fromkeys(marks))
    if len(few) <= MOST:
        return ", ".join(few)
    return f"{', '.join(few[: MOST - 1])} and {len(few) - MOST + 1} more"


def _of(checked: Checked, *wanted: MemberKind) -> list[Member]:
    return list(checked.structure.of(*wanted))


LUMBER = ("mark", "count", "section", "material", "length")


def _foundations(checked: Checked) -> Table:
    members = _of(checked, kinds.FOOTING, kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM)
    system = checked.project.system
    rows = [
        (m.mark, m.role, m.section, format_length(m.length, system), _heights(m, system))
        for m in members
    ]
    return Table(
        "Footings and walls of concrete",
        ("mark", "is", "size", "length", "bottom and top"),
        tuple(rows),
    )


def _heights(m: Member, system: System) -> str:
    low, high = m.solid.bounds()
    return f"{format_length(low[2], system)} to {format_length(high[2], system)}"


def _pads(checked: Checked) -> Table:
    system = checked.project.system
    rows = [
        (m.mark, m.role, m.section, format_length(m.length, system), _heights(m, system))
        for m in _of(checked, kinds.PAD, kinds.PIER)
    ]
    return Table("Pads and piers", ("mark", "is", "size", "height", "bottom and top"), tuple(rows))


def _posts(checked: Checked) -> Table:
    rows = _alike(_of(checked, kinds.POST), checked.project.system)
    return Table("Posts", LUMBER, tuple(rows))


def _beams(checked: Checked) -> Table:
    rows = _alike(_of(checked, kinds.BEAM, kinds.RIDGE_BEAM, kinds.PURLIN), checked.project.system)
    return Table("Beams", LUMBER, tuple(rows))


def _openings(checked: Checked) -> Table:
    project, system = checked.project, checked.project.system
    over = {(m.host, m.id.row): m for m in _of(checked, kinds.WALL_HEADER, kinds.LINTEL)}
    jacks = Counter((m.host, m.id.row) for m in _of(checked, kinds.JACK))
    rows = []
    for item in project.walls:
        for hole in item.openings:
            key = (HostName("wall", item.id), hole.id)
            rows.append(_opening(item, hole, over.get(key), jacks.get(key, 0), system))
    head = ("mark", "is", "in", "rough width", "rough height", "sill", "over it", "jacks")
    return Table("Doors, windows and what is over them", head, tuple(rows))


def _opening(
    item: Wall, hole: Opening, over: Member | None, jacks: int, system: System
) -> tuple[str, ...]:
    return (
        hole.id,
        hole.kind,
        called(item),
        format_run(hole.width, system),
        format_run(hole.height, system),
        format_run(hole.sill, system),
        f"{over.mark}, {pretty(over.section)}" if over else "–",
        f"{jacks}" if jacks else "–",
    )


def _walls(checked: Checked) -> Table:
    project = checked.project
    rows = [
        (body.id, name_of(body, project.system), _walls_of(project, body.id))
        for body in project.wall_build_ups
    ]
    return Table("Walls", ("type", "layers from the outside in", "walls"), tuple(rows))


def _walls_of(project: Project, body: str) -> str:
    return shortened([w.name for w in project.walls if w.build_up == body])


def _members(checked: Checked) -> Table:
    wanted = [
        m
        for m in checked.structure.members
        if (m.kind.spans or m.kind in (kinds.TRIMMER, kinds.HEADER, kinds.LEDGER))
        and not m.kind.of_truss
    ]
    rows = _alike(wanted, checked.project.system)
    return Table("Joists and rafters", LUMBER, tuple(rows))


def _panels(checked: Checked) -> Table:
    system = checked.project.system
    rows = [
        (p.mark, p.name, format_length(p.length, system), format_force(p.weight, system))
        for p in panels_of(checked)
    ]
    return Table(
        "Panels of walls, in order of setting", ("mark", "of", "length", "weight"), tuple(rows)
    )
