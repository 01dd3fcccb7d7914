"""The fit list: one function a kind of finding, over a building that was worked out."""

import math
from collections.abc import Callable, Iterable, Sequence
from functools import partial
from typing import Final, Literal

import msgspec

from balken.design.building import Checked, depth_between, is_over
from balken.design.sizing import LEAST_BEARING, Sized
from balken.fit.places import place_name
from balken.framing.member import SPANNING_ROLES, Member, clear_span
from balken.framing.structure import Bed, bed_of_floor, bed_of_roof, build_up_of, run_under
from balken.geometry.plane import TOUCH, Point
from balken.loads.path import place_of
from balken.model.catalogue import catalogue_of
from balken.model.edits import drop_change, move_level, set_floor, set_roof, set_run, set_wall_tops
from balken.model.edits.block_module import bring_onto_module, off_lengths, words_of
from balken.model.edits.walls import set_walls
from balken.model.foundations import FoundationRun
from balken.model.ground import height_at, surface_of
from balken.model.memo import Memo
from balken.model.project import FloorArea, GableRoof, Level, Project, host_record, level, wall_base, wall_top
from balken.model.walls import Wall, arc_middle, called, whole
from balken.units import format_force, format_length, format_run

Kind = Literal[
    "gap", "overlap", "bearing", "unsupported", "over", "clearance", "frost", "load path", "too long", "lost change",
    "not framed", "base", "module",
]  # fmt: skip
KIND_WORDS: Final[dict[str, str]] = {
    "gap": "Gap", "overlap": "Overlap", "bearing": "Bearing", "unsupported": "Unsupported", "over": "Over",
    "clearance": "Clearance", "frost": "Frost", "load path": "Load path", "too long": "Too long",
    "lost change": "Lost change", "not framed": "Not framed",
    "base": "Wrong base", "module": "Off module",
}  # fmt: skip
BALANCE: Final = 1e-3
"""Applied load and soil reaction may differ by this share, where joists are cut square at askew walls."""


class Mend(msgspec.Struct, frozen=True):
    """A way to put it right: what it does in words, and the edit."""

    text: str
    apply: Callable[[Project], Project]


class Finding(msgspec.Struct, frozen=True):
    """One thing that does not fit. ``amount`` in mm, or a utilisation, or N, as ``measure`` says."""

    kind: str
    place: str
    amount: float
    measure: Literal["mm", "ratio", "N", "count"]
    text: str
    host: str
    members: tuple[str, ...] = ()
    at: Point | None = None
    height: tuple[float, float] | None = None
    """The heights between which a gap or overlap lies, mm."""
    mend: Mend | None = None


def findings(checked: Checked, memo: Memo | None = None) -> tuple[Finding, ...]:
    """Return everything that does not fit, in the order of the building from the ground up."""
    memo = memo or Memo()
    kinds = (
        _ground,
        _bases,
        _columns,
        _wall_tops,
        _through,
        _modules,
        _supports,
        _bearings,
        _over,
        _path,
        _stock,
        _lost,
        _unframed,
    )
    return tuple(f for kind in kinds for f in kind(checked, memo))


def _ground(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    ground = next((x for x in project.levels if x.role == "ground"), None)
    if ground is None:
        return
    for floor in project.floors:
        run = run_under(project, floor)
        if run is None:
            continue
        top = level(project, floor.level)
        _, (high, where) = _ground_at(checked, run, ground)
        above = top.elevation - high
        short = project.site.clearance - above
        if short > TOUCH:
            yield Finding(
                "clearance", top.name + _at(project, where), short, "mm",
                f"{top.name} lies {_run(project, above)} above the ground{_at(project, where)}; it needs"
                f" {_run(project, project.site.clearance)}. Raise the floor and its foundation, or lower the ground,"
                f" by {_run(project, short)}.",
                f"floor:{floor.id}", at=where, height=(high, top.elevation),
                mend=_level_mend(project, ground, ground.elevation - short) if where is None else None,
            )  # fmt: skip
    for run in project.runs:
        bottom, base = level(project, run.bottom), level(project, run.base)
        (low, where), _ = _ground_at(checked, run, ground)
        frost = low - project.site.frost_depth
        up = bottom.elevation - frost
        if up > TOUCH:
            yield Finding(
                "frost", f"footing {run.name}{_at(project, where)}", up, "mm",
                f"Footing {run.name} bears {_len(project, low - bottom.elevation)} below the ground{_at(project, where)};"
                f" frost reaches {_len(project, project.site.frost_depth)}. Lower the footing by {_len(project, up)}.",
                f"run:{run.id}", at=where, height=(frost, bottom.elevation),
                mend=Mend(
                    f"Lower {bottom.name} and {base.name} by {_len(project, up)}",
                    partial(_lower_both, keys=(bottom.id, base.id), by=up),
                ),
            )  # fmt: skip


Height = tuple[float, Point | None]
"""A height of the ground, and where; no place where the ground level alone is known."""


def _ground_at(checked: Checked, run: FoundationRun, ground: Level) -> tuple[Height, Height]:
    """Return the lowest and the highest ground along a foundation: of the measured heights, else the ground level."""
    spots = checked.project.spots
    if not spots:
        return (ground.elevation, None), (ground.elevation, None)
    surface = surface_of(spots)
    host = f"run:{run.id}"
    corners = [p for m in checked.structure.members if m.host == host and m.role == "stem" for p in m.solid.plan()]
    heights = sorted((height_at(surface, p), p) for p in dict.fromkeys(corners))
    if not heights:
        return (ground.elevation, None), (ground.elevation, None)
    return heights[0], heights[-1]


def _at(project: Project, where: Point | None) -> str:
    return f" {place_name(project, where)}" if where else ""


def _bases(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """A foundation wall runs from the top of its footing; the basement slab lies inside it and carries nothing."""
    project = checked.project
    footing = next((x for x in project.levels if x.role == "footing_top"), None)
    for run in project.runs:
        base = level(project, run.base)
        if base.role != "slab":
            continue
        high = abs(base.elevation - footing.elevation) if footing else 0.0
        away = f" {_run(project, high)} from" if footing else ""
        yield Finding(
            "base", f"foundation {run.name}", high, "mm",
            f"The wall of foundation {run.name} stands on {base.name},{away} the top of its footing: a slab is poured inside"
            " the wall and does not carry it. Let it begin at the top of footing.",
            f"run:{run.id}", height=tuple(sorted((base.elevation, footing.elevation))) if footing else None,  # type: ignore[arg-type]
            mend=Mend(f"Begin at {footing.name}", partial(set_run, key=run.id, base=footing.id)) if footing else None,
        )  # fmt: skip


def _through(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """Walls of a storey that reach up into the joists of the floor over them, joists bearing on them or not."""
    project = checked.project
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        if bed is None or build_up_of(project, floor).use == "ceiling":
            continue
        low, high = bed.height, level(project, floor.level).elevation
        spanning = [m for m in checked.structure.members if m.host == f"floor:{floor.id}"]
        borne = {whole(s.on).removeprefix("wall:") for m in spanning for s in m.supports}
        off: dict[tuple[str, int], list[Wall]] = {}
        for wall in project.walls:
            foot, top = wall_base(project, wall), wall_top(project, wall)
            through = foot < low - TOUCH and top > low + TOUCH and foot < high
            if through and wall.id not in borne and _under(wall, bed):
                off.setdefault((wall.base, round(top - low)), []).append(wall)
        for (base, by), walls in off.items():
            names = walls[0].name if len(walls) == 1 else f"{walls[0].name} and {len(walls) - 1} more"
            middle = _middle(walls[0].start, walls[0].end)
            yield Finding(
                "overlap", f"wall {names} in {floor.name}", float(by), "mm",
                f"{'Wall' if len(walls) == 1 else 'Walls'} {names} on {level(project, base).name}"
                f" {'reaches' if len(walls) == 1 else 'reach'} {_run(project, by)} up into the joists of {floor.name},"
                f" {place_name(project, middle)}. Cut {'it' if len(walls) == 1 else 'them'} at the underside of the joists.",
                f"floor:{floor.id}", at=middle,
                mend=Mend(
                    f"Cut {len(walls)} {'wall' if len(walls) == 1 else 'walls'} under {floor.name}",
                    partial(_cut_at, keys=tuple(w.id for w in walls), height=low, bears_on=floor.bears_on),
                ),
            )  # fmt: skip


def _under(wall: Wall, bed: Bed) -> bool:
    from shapely import Polygon, contains_xy

    middle = arc_middle(wall)
    return bool(contains_xy(Polygon(bed.outline).buffer(TOUCH), *middle))


def _cut_at(project: Project, keys: tuple[str, ...], height: float, bears_on: str) -> Project:
    return set_walls(
        project, keys, top=bears_on, top_offset=round(height - level(project, bears_on).elevation, 6) + 0.0
    )


def _modules(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    if not any(b.module for b in project.wall_build_ups):
        return
    off = memo(off_lengths, project)
    if not off:
        return
    worst = max(off, key=lambda x: abs(x.off))
    walls = {x.wall for x in off}
    wall = next(w for w in project.walls if w.id == worst.wall)
    middle = _middle(worst.start, worst.end)
    yield Finding(
        "module", f"{len(off)} lengths of {len(walls)} block walls", abs(worst.off), "mm",
        f"{len(off)} lengths of {len(walls)} block walls are off the module, most of all {called(wall)}"
        f" {place_name(project, middle)}: {words_of(project, worst)}. Bring the plan onto the module.",
        f"walls:{wall.base}", at=middle,
        mend=Mend("Bring block walls onto the module, grid lines along", bring_onto_module),
    )  # fmt: skip


def _lower_both(project: Project, keys: tuple[str, str], by: float) -> Project:
    for key in keys:  # the lower one first, so that the footing never has a negative height on the way
        project = move_level(project, key, level(project, key).elevation - by)
    return project


def _columns(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    for floor in project.floors:
        host = f"floor:{floor.id}"
        bed = bed_of_floor(project, floor, memo)
        sized = checked.sizes.get(host)
        if bed is None or sized is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = catalogue_of(project.system).sections[sized.size.section].depth
        spare = depth_between(project, floor, bed) - depth
        if abs(spare) <= TOUCH:
            continue
        top = level(project, floor.level)
        under = level(project, floor.bears_on)
        built = bed.height + depth + build_up_of(project, floor).subfloor
        kind = "gap" if spare > 0 else "overlap"
        parts = "sill, " if run_under(project, floor) else ""
        yield Finding(
            kind, f"{under.name} to {top.name}", abs(spare), "mm",
            f"From {under.name}, {parts}{sized.size.section} joists and subfloor reach {_len(project, built)};"
            f" {top.name} lies at {_len(project, top.elevation)}: {_run(project, abs(spare))} {kind}.",
            host, height=(min(built, top.elevation), max(built, top.elevation)),
            mend=_column_mend(project, floor, sized, bed, top, built),
        )  # fmt: skip


def _column_mend(project: Project, floor: FloorArea, sized: Sized, bed: Bed, top: Level, built: float) -> Mend:
    """Prefer a deeper joist that fills the gap to the hair; otherwise move the level to what is built."""
    allowed = depth_between(project, floor, bed)
    for choice in sized.choices:
        if choice.passes and abs(choice.depth - allowed) <= TOUCH:
            spacing = format_run(choice.spacing, project.system)
            return Mend(
                f"Use {choice.section} at {spacing}, which fills it",
                partial(set_floor, key=floor.id, section=choice.section, spacing=choice.spacing),
            )
    verb = "Lower" if built < top.elevation else "Raise"
    return Mend(f"{verb} {top.name} to {_len(project, built)}", partial(move_level, key=top.id, elevation=built))


def _level_mend(project: Project, item: Level, to: float) -> Mend:
    verb = "Lower" if to < item.elevation else "Raise"
    return Mend(f"{verb} {item.name} to {_len(project, to)}", partial(move_level, key=item.id, elevation=to))


def _wall_tops(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """Walls that joists bear on must end where the joists begin."""
    project = checked.project
    by_id = {f"wall:{w.id}": w for w in project.walls}
    for floor in project.floors:
        bears = level(project, floor.bears_on)
        spanning = [m for m in checked.structure.members if m.host == f"floor:{floor.id}" and clear_span(m) > 0]
        borne = {whole(s.on) for m in spanning for s in m.supports}
        off: dict[int, list[Wall]] = {}
        for name in sorted(borne & set(by_id)):
            by = wall_top(project, by_id[name]) - bears.elevation
            if abs(by) > TOUCH:
                off.setdefault(round(by), []).append(by_id[name])
        for walls in off.values():
            yield _wall_top(project, floor, bears, walls)


def _wall_top(project: Project, floor: FloorArea, bears: Level, walls: list[Wall]) -> Finding:
    by = wall_top(project, walls[0]) - bears.elevation
    kind = "overlap" if by > 0 else "gap"
    names = walls[0].name if len(walls) == 1 else f"{walls[0].name} and {len(walls) - 1} more"
    middle = _middle(walls[0].start, walls[0].end)
    what = "Cut" if by > 0 else "Raise"
    return Finding(
        kind, f"wall {names} under {floor.name}", abs(by), "mm",
        f"{'Wall' if len(walls) == 1 else 'Walls'} {names} {'ends' if len(walls) == 1 else 'end'}"
        f" {_run(project, abs(by))} {'above' if by > 0 else 'below'} {bears.name}, where the joists of {floor.name} bear,"
        f" {place_name(project, middle)}. {what} {'it' if len(walls) == 1 else 'them'} to {bears.name}.",
        f"floor:{floor.id}", at=middle,
        mend=Mend(
            f"{what} {len(walls)} {'wall' if len(walls) == 1 else 'walls'} to {bears.name}",
            partial(set_wall_tops, keys=tuple(w.id for w in walls), top=bears.id),
        ),
    )  # fmt: skip


def _middle(a: Sequence[float], b: Sequence[float]) -> Point:
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)


def _by_host(members: Iterable[Member]) -> dict[str, list[Member]]:
    found: dict[str, list[Member]] = {}
    for member in members:
        found.setdefault(member.host, []).append(member)
    return found


def _marks(members: list[Member]) -> str:
    first = members[0].mark
    return first if len(members) == 1 else f"{first} and {len(members) - 1} more"


def _supports(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    loose = [m for m in checked.structure.members if m.role in SPANNING_ROLES and any(not s.on for s in m.supports)]
    for host, members in _by_host(loose).items():
        end = next(s.point for s in members[0].supports if not s.on)
        where = place_name(project, end)
        count = sum(not s.on for m in members for s in m.supports)
        yield Finding(
            "unsupported", f"{_marks(members)}, {where}", float(count), "count",
            f"{_marks(members)} {'has' if len(members) == 1 else 'have'} nothing under an end, {where}."
            " Put a wall or a beam there, or let the joists run to a wall that is.",
            host, tuple(m.id for m in members), end,
        )  # fmt: skip


def _bearings(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    least = LEAST_BEARING - 0.5
    short = [
        m for m in checked.structure.members
        if m.role in SPANNING_ROLES and any(s.on and s.length < least for s in m.supports)
    ]  # fmt: skip
    for host, members in _by_host(short).items():
        worst = min((s for m in members for s in m.supports if s.on), key=lambda s: s.length)
        where = place_name(project, worst.point)
        yield Finding(
            "bearing", f"{_marks(members)}, {where}", LEAST_BEARING - worst.length, "mm",
            f"{_marks(members)} bear only {_run(project, worst.length)} {where}; wood needs"
            f" {_run(project, LEAST_BEARING)} (IRC R502.6). Widen the wall or move it by"
            f" {_run(project, LEAST_BEARING - worst.length)}.",
            host, tuple(m.id for m in members), worst.point,
        )  # fmt: skip


def _over(checked: Checked, memo: Memo) -> Iterable[Finding]:
    over = [m for m in checked.structure.members if m.id in checked.used and is_over(checked.used[m.id][0])]
    for host, members in _by_host(over).items():
        members.sort(key=lambda m: -checked.used[m.id][0])
        ratio, name = checked.used[members[0].id]
        mend = _strength_mend(checked, host)
        wide = "Make the footing wider"
        helps = (
            wide if name.lower() == "soil pressure" else "Choose a stronger section, a closer spacing or a shorter span"
        )
        advice = mend.text if mend else helps
        yield Finding(
            "over", f"{_marks(members)}, {name.lower()}", ratio, "ratio",
            f"{_marks(members)}: {name.lower()} is used to {ratio:.2f} of 1.00. {advice}.",
            host, tuple(m.id for m in members), place_of(members[0]), mend=mend,
        )  # fmt: skip


def _strength_mend(checked: Checked, host: str) -> Mend | None:
    sized = checked.sizes.get(host)
    project = checked.project
    if sized is None:
        return None
    kind, key = host.split(":", 1)
    touched = [c.member for c in project.changes if c.member.startswith(f"{host}/") and c.section]
    if touched:
        return Mend("Take back the sections changed by hand", partial(_drop_all, names=tuple(touched)))
    edit = set_floor if kind == "floor" else set_roof
    record = host_record(project, host)
    if isinstance(record, FloorArea | GableRoof) and (record.section or record.spacing):
        return Mend("Give size and spacing back to the calculation", partial(edit, key=key, section=None, spacing=None))
    best = next((c for c in sized.choices if c.worst <= 1 and c.fits), None)
    if best is None:
        return None
    spacing = format_run(best.spacing, project.system)
    return Mend(f"Use {best.section} at {spacing}", partial(edit, key=key, section=best.section, spacing=best.spacing))


def _drop_all(project: Project, names: tuple[str, ...]) -> Project:
    for name in names:
        project = drop_change(project, name)
    return project


def _path(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    by_source: dict[str, list[tuple[Point, float]]] = {}
    unsupported = {m.id for m in checked.structure.members if any(not s.on for s in m.supports)}
    for end in checked.path.open_ends:
        if end.source not in unsupported:  # those have a line of their own
            by_source.setdefault(end.source, []).append(((end.x, end.y), sum(end.forces)))
    if not project.runs and by_source:
        yield _nothing_under(checked, by_source)
        return
    names = {f"wall:{w.id}": called(w) for w in project.walls}
    marks = {m.id: m.mark for m in checked.structure.members}
    for source, ends in by_source.items():
        force = sum(f for _, f in ends)
        what = names.get(whole(source)) or marks.get(source, source)
        where = place_name(project, ends[0][0])
        yield Finding(
            "load path", f"{what}, {where}", force, "N",
            f"{format_force(force, project.system)} from {what} find nothing that carries them further down, {where}."
            " Put a wall, a beam or a footing under it.",
            source, (source,) if source in marks else (), ends[0][0],
        )  # fmt: skip
    short = (
        sum(checked.path.applied) - sum(checked.path.soil_total) - sum(sum(e.forces) for e in checked.path.open_ends)
    )
    if abs(short) > max(1.0, BALANCE * sum(checked.path.applied)) and not checked.structure.unframed:
        yield Finding(
            "load path", "whole building", abs(short), "N",
            f"{format_force(abs(short), project.system)} of the applied load lies outside what the members carry:"
            " an outline reaches past its joists or rafters.",
            "", (),
        )  # fmt: skip


def _nothing_under(checked: Checked, by_source: dict[str, list[tuple[Point, float]]]) -> Finding:
    """Before there is a foundation, one line says so for the whole building."""
    project = checked.project
    force = math.fsum(f for ends in by_source.values() for _, f in ends)
    walls = len({whole(s) for s in by_source})
    lowest = min(project.walls, key=lambda w: (wall_base(project, w), w.id))
    return Finding(
        "load path", f"under {level(project, lowest.base).name}", force, "N",
        f"{format_force(force, project.system)} from {walls} {'wall' if walls == 1 else 'walls'} find nothing that carries"
        " them further down: there is no foundation yet. Place a foundation.",
        f"walls:{lowest.base}",
    )  # fmt: skip


def _stock(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    longest = catalogue_of(project.system).stock[-1]
    lumber = [m for m in checked.structure.members if m.role in (*SPANNING_ROLES,) and m.blank > longest + TOUCH]
    for host, members in _by_host(lumber).items():
        worst = max(members, key=lambda m: m.blank)
        yield Finding(
            "too long", f"{_marks(members)}", worst.blank - longest, "mm",
            f"{_marks(members)} need {_len(project, worst.blank)} in one piece; the longest sold is"
            f" {_len(project, longest)}. Put a bearing wall or a beam between.",
            host, tuple(m.id for m in members), place_of(worst),
        )  # fmt: skip


def _lost(checked: Checked, memo: Memo) -> Iterable[Finding]:
    for name in checked.structure.gone:
        yield Finding(
            "lost change", name, 1.0, "count",
            f"A change by hand on {name} has no member to act on any more. Take it back, or bring the member back.",
            name.split("/")[0], (), mend=Mend("Take the change back", partial(drop_change, member=name)),
        )  # fmt: skip


def _unframed(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    for host, why in checked.structure.unframed:
        yield Finding(
            "not framed", host.replace(":", " "), 1.0, "count", f"{host.replace(':', ' ')} is not framed: {why}.", host
        )
    for run in project.runs:
        if not run.walls:
            yield Finding(
                "not framed", f"foundation {run.name}", 1.0, "count",
                f"Foundation {run.name} has no walls to stand under.", f"run:{run.id}",
            )  # fmt: skip
    for roof in project.roofs:
        bed = bed_of_roof(project, roof, memo)
        if bed and roof.seat and roof.seat > bed.width + TOUCH:
            yield Finding(
                "overlap", f"seat of roof {roof.name}", roof.seat - bed.width, "mm",
                f"The seat of roof {roof.name} is {_run(project, roof.seat)} on a plate {_run(project, bed.width)} wide.",
                f"roof:{roof.id}",
            )  # fmt: skip


def _len(project: Project, mm: float) -> str:
    return format_length(mm, project.system)


def _run(project: Project, mm: float) -> str:
    return format_run(mm, project.system)


def amount_text(project: Project, finding: Finding) -> str:
    """Write how much, in the project's units."""
    if finding.measure == "mm":
        return _run(project, finding.amount)
    if finding.measure == "N":
        return format_force(finding.amount, project.system)
    return f"{finding.amount:.2f}" if finding.measure == "ratio" else f"{finding.amount:.0f}"
