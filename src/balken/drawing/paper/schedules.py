"""Schedules: what the marks on the plans mean. Alike pieces stand in one row with their count."""

from collections import Counter
from collections.abc import Iterator

from balken.drawing.bars import lines_of
from balken.drawing.paper.material_schedules import material_schedules
from balken.drawing.paper.tables import Table
from balken.drawing.tiers import Tier, tiers
from balken.drawing.valley_figure import valley_frames
from balken.drawing.wall_notes import stands_in
from balken.drawing.words import pretty, shortened
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.walls import Opening, Wall, called, name_of
from balken.takeoff.lifts import panels_of
from balken.takeoff.trusses import truss_kinds
from balken.units import System, format_force, format_length, format_run
from balken.works.building import Checked, checks_of


def schedules_of(checked: Checked) -> Iterator[Table]:
    """All schedules that have rows, those of plans from the foundation up."""
    for tier in tiers(checked):
        yield from schedules_on(checked, tier)
    for table in (_trusses(checked), _walls(checked), _panels(checked)):
        if table.rows:
            yield table
    yield from material_schedules(checked)


def schedules_on(checked: Checked, tier: Tier) -> Iterator[Table]:
    """The schedules of what a plan shows and marks, those that have rows."""
    found: list[Table] = []
    if tier.kind == "ground":
        found = [_foundations(checked), _pads(checked)]
    elif tier.kind == "walls":
        found = [_openings(checked, tier), _posts(checked, tier)]
    else:
        found = [_beams(checked, tier), _members(checked, tier)]
    yield from (table for table in found if table.rows)


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


def _of(checked: Checked, *wanted: MemberKind) -> list[Member]:
    return list(checked.structure.of(*wanted))


LUMBER = ("mark", "count", "section", "material", "length")


def _foundations(checked: Checked) -> Table:
    """By the mark of their foundation: alike stretches in one row with their count and whole length."""
    system = checked.project.system
    alike: dict[tuple[str, str, str, str, str], list[float]] = {}
    for m in _of(checked, kinds.FOOTING, kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM):
        row = (m.host.key, m.role, m.section, _heights(m, system), _bars(checked, m))
        alike.setdefault(row, []).append(m.length)
    rows = [
        (mark, role, size, f"{len(longs)}", format_length(sum(longs), system), heights, bars)
        for (mark, role, size, heights, bars), longs in sorted(alike.items())
    ]
    return Table(
        "Footings and walls of concrete",
        ("mark", "is", "size", "count", "length in all", "bottom and top", "bars"),
        tuple(rows),
    )


def _heights(m: Member, system: System) -> str:
    low, high = m.solid.bounds()
    return f"{format_length(low[2], system)} to {format_length(high[2], system)}"


def _pads(checked: Checked) -> Table:
    system = checked.project.system
    rows = [
        (
            m.mark,
            m.role,
            m.section,
            format_length(m.length, system),
            _heights(m, system),
            _bars(checked, m),
        )
        for m in _of(checked, kinds.PAD, kinds.PIER)
    ]
    head = ("mark", "is", "size", "height", "bottom and top", "bars")
    return Table("Pads and piers", head, tuple(rows))


def _bars(checked: Checked, m: Member) -> str:
    """The bars that its checks chose; plain concrete where they chose none."""
    line = lines_of(checks_of(checked, m)).get("bars")
    return line.how if line is not None else "plain"


def _posts(checked: Checked, tier: Tier) -> Table:
    here = [m for m in _of(checked, kinds.POST) if stands_in(m, tier)]
    return Table(f"Posts, {tier.name}", LUMBER, tuple(_alike(here, checked.project.system)))


def _beams(checked: Checked, tier: Tier) -> Table:
    beams = _of(checked, kinds.BEAM, kinds.RIDGE_BEAM, kinds.PURLIN)
    here = [m for m in beams if tier.holds(m.host)]
    return Table(f"Beams, {tier.name}", LUMBER, tuple(_alike(here, checked.project.system)))


def _openings(checked: Checked, tier: Tier) -> Table:
    project, system = checked.project, checked.project.system
    over = {(m.host, m.id.row): m for m in _of(checked, kinds.WALL_HEADER, kinds.LINTEL)}
    jacks = Counter((m.host, m.id.row) for m in _of(checked, kinds.JACK))
    rows = []
    for item in (w for w in project.walls if w.base == tier.walls_on):
        for hole in item.openings:
            key = (HostName("wall", item.id), hole.id)
            rows.append(_opening(item, hole, over.get(key), jacks.get(key, 0), system))
    head = ("mark", "is", "in", "rough width", "rough height", "sill", "over it", "jacks")
    title = f"Doors, windows and what is over them, {tier.name}"
    return Table(title, head, tuple(rows))


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


PIECES = ("mark", "is", "count", "section", "material", "length")


def _members(checked: Checked, tier: Tier) -> Table:
    """What lies in rows, by the mark of its floor or roof: alike pieces in one row with their count."""
    system = checked.project.system
    counts: Counter[tuple[str, str, str, str, float]] = Counter(
        (m.host.key, m.role, m.section, m.material, round(m.length, 0))
        for m in checked.structure.members
        if tier.holds(m.host) and _is_listed(m)
    )
    rows = [
        (mark, role, f"{n}", pretty(section), material, format_length(length, system))
        for (mark, role, section, material, length), n in sorted(counts.items())
    ]
    return Table(f"Pieces, {tier.name}", PIECES, tuple(rows))


def _is_listed(m: Member) -> bool:
    """Joists, rafters and what goes with them; what trusses are of stands on their own sheets."""
    others = (kinds.TRIMMER, kinds.HEADER, kinds.LEDGER, kinds.RIM, kinds.HIP, kinds.VALLEY)
    return (m.kind.spans or m.kind in others) and not m.kind.of_truss


def _trusses(checked: Checked) -> Table:
    """Each kind of truss with its rows, and the frames of valleys over other roofs."""
    found = truss_kinds(checked)
    rows = [
        (k.roof.placed[k.first].row, k.record.id, f"{len(k.rows)}", shortened(list(k.rows)))
        for k in found
    ]
    for host in checked.trusses:
        for row, pieces in valley_frames(checked, host).items():
            long = sum(m.run for m in pieces if m.kind is kinds.BOTTOM_CHORD)
            words = f"frame of a valley, {format_length(long, checked.project.system)} long"
            rows.append((row, host.key, "1", words))
    return Table("Trusses", ("truss", "of", "count", "rows"), tuple(rows))


def _panels(checked: Checked) -> Table:
    system = checked.project.system
    rows = [
        (p.mark, p.name, format_length(p.length, system), format_force(p.weight, system))
        for p in panels_of(checked)
    ]
    return Table(
        "Panels of walls, in order of setting", ("mark", "of", "length", "weight"), tuple(rows)
    )
