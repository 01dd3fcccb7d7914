"""Findings between storeys: walls that reach into floors, plates that do not meet, heights that do
not add up."""

from collections.abc import Callable, Iterable, Sequence
from functools import partial

from balken.design.sizing import Sized
from balken.fit.finding import Finding, Kind, Mend, length_text, run_text
from balken.fit.places import place_name
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of, depth_between, run_under
from balken.framing.member import Bearings, Part, clear_span
from balken.geometry.plane import TOUCH, Point
from balken.model.catalogue import sections_of
from balken.model.edits import (
    move_level,
    set_floor,
    set_wall_tops,
)
from balken.model.edits.walls import end_walls_at
from balken.model.floors import FloorArea
from balken.model.names import (
    HostName,
    Rest,
    ThingName,
    wall_key,
    whole_of,
)
from balken.model.project import Level, Project, level, wall_base, wall_top
from balken.model.walls import Wall, arc_middle, called
from balken.recall import remembered_piece
from balken.site.block_module import bring_onto_module, off_lengths, words_of
from balken.units import format_run
from balken.works.building import Checked


def through(checked: Checked) -> Iterable[Finding]:
    """Walls of a storey that reach up into the joists of the floor over them, joists bearing on
    them or not."""
    project = checked.project
    for floor in project.floors:
        bearings = bearings_of_floor(project, floor)
        if bearings is None or build_up_of(project, floor).use == "ceiling":
            continue
        borne = {wall_key(name) for name in _borne_by(checked, floor, _borne)}
        off: dict[tuple[str, int], list[Wall]] = {}
        for wall in project.walls:
            by = _reaches_into(project, wall, floor, bearings)
            if by and wall.id not in borne:
                off.setdefault((wall.base, round(by)), []).append(wall)
        for (base, by), walls in off.items():
            yield _walls_through(project, floor, bearings, (base, by), walls)


def _reaches_into(project: Project, wall: Wall, floor: FloorArea, bearings: Bearings) -> float:
    """By how much a wall that stands below a floor reaches up into its joists, mm; 0 where it does
    not, or stands elsewhere."""
    foot, top = wall_base(project, wall), wall_top(project, wall)
    low, high = bearings.height, level(project, floor.level).elevation
    if not (foot < min(low - TOUCH, high) and top > low + TOUCH):
        return 0.0
    return top - low if _under(wall, bearings) else 0.0


def _walls_through(
    project: Project, floor: FloorArea, bearings: Bearings, at: tuple[str, int], walls: list[Wall]
) -> Finding:
    base, by = at
    one = len(walls) == 1
    names = walls[0].name if one else f"{walls[0].name} and {len(walls) - 1} more"
    middle = _middle(walls[0].start, walls[0].end)
    cut = partial(
        end_walls_at,
        keys=tuple(w.id for w in walls),
        height=bearings.height,
        bears_on=floor.bears_on,
    )
    return Finding(
        "overlap",
        f"wall {names} in {floor.name}",
        float(by),
        "mm",
        f"{'Wall' if one else 'Walls'} {names} on {level(project, base).name}"
        f" {'reaches' if one else 'reach'} {run_text(project, by)} up into the"
        f" joists of {floor.name},"
        f" {place_name(project, middle)}. Cut {'it' if one else 'them'} at the"
        " underside of the joists.",
        HostName("floor", floor.id),
        at=middle,
        mend=Mend(f"Cut {len(walls)} {'wall' if one else 'walls'} under {floor.name}", cut),
    )


def _borne_by(
    checked: Checked, floor: FloorArea, told: Callable[[Part], frozenset[Rest]]
) -> set[Rest]:
    """The walls, beams and sills that the members of a floor bear on, as told by their
    parts."""
    mine = [
        p
        for p in checked.structure.parts
        if p.members and p.members[0].host == HostName("floor", floor.id)
    ]
    return set().union(*(told(part) for part in mine))


@remembered_piece
def _borne(part: Part) -> frozenset[Rest]:
    """What members of a part lie on, at an end or all along."""
    return frozenset(whole_of(s.on) for m in part.members for s in m.carrier.supports if s.on)


@remembered_piece
def _ends_on(part: Part) -> frozenset[Rest]:
    """What members of a part span between."""
    return frozenset(
        whole_of(s.on)
        for m in part.members
        if clear_span(m) > 0
        for s in m.carrier.supports
        if s.on
    )


def _under(wall: Wall, bearings: Bearings) -> bool:
    from shapely import Polygon, contains_xy

    middle = arc_middle(wall)
    return bool(contains_xy(Polygon(bearings.outline).buffer(TOUCH), *middle))


def modules(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    if not any(b.module for b in project.wall_build_ups):
        return
    off = off_lengths(project)
    if not off:
        return
    worst = max(off, key=lambda x: abs(x.off))
    walls = {x.wall for x in off}
    wall = next(w for w in project.walls if w.id == worst.wall)
    middle = _middle(worst.start, worst.end)
    yield Finding(
        "module",
        f"{len(off)} lengths of {len(walls)} block walls",
        abs(worst.off),
        "mm",
        f"{len(off)} lengths of {len(walls)} block walls are off the module, most of all"
        f" {called(wall)}"
        f" {place_name(project, middle)}: {words_of(project, worst)}. Bring the plan onto the"
        " module.",
        ThingName("walls", wall.base),
        at=middle,
        mend=Mend("Bring block walls onto the module, grid lines along", bring_onto_module),
    )


def columns(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    for floor in project.floors:
        host = HostName("floor", floor.id)
        bearings = bearings_of_floor(project, floor)
        sized = checked.sizes.get(host)
        if bearings is None or sized is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = sections_of(project.system, project.products)[sized.size.section].depth
        spare = depth_between(project, floor, bearings.height) - depth
        if abs(spare) <= TOUCH:
            continue
        top = level(project, floor.level)
        under = level(project, floor.bears_on)
        built = bearings.height + depth + build_up_of(project, floor).subfloor
        kind: Kind = "gap" if spare > 0 else "overlap"
        parts = "sill, " if run_under(project, floor) else ""
        yield Finding(
            kind,
            f"{under.name} to {top.name}",
            abs(spare),
            "mm",
            f"From {under.name}, {parts}{sized.size.section} joists and subfloor reach"
            f" {length_text(project, built)};"
            f" {top.name} lies at {length_text(project, top.elevation)}:"
            f" {run_text(project, abs(spare))} {kind}.",
            host,
            height=(min(built, top.elevation), max(built, top.elevation)),
            mend=_column_mend(project, floor, sized, bearings, top, built),
        )


def _column_mend(
    project: Project, floor: FloorArea, sized: Sized, bearings: Bearings, top: Level, built: float
) -> Mend:
    """Prefer a deeper joist that fills the gap to the hair; otherwise move the level to what is
    built."""
    allowed = depth_between(project, floor, bearings.height)
    for choice in sized.choices:
        if choice.passes and abs(choice.depth - allowed) <= TOUCH:
            spacing = format_run(choice.spacing, project.system)
            return Mend(
                f"Use {choice.section} at {spacing}, which fills it",
                partial(set_floor, key=floor.id, section=choice.section, spacing=choice.spacing),
            )
    verb = "Lower" if built < top.elevation else "Raise"
    return Mend(
        f"{verb} {top.name} to {length_text(project, built)}",
        partial(move_level, key=top.id, elevation=built),
    )


def wall_tops(checked: Checked) -> Iterable[Finding]:
    """Walls that joists bear on must end where the joists begin."""
    project = checked.project
    by_id: dict[Rest, Wall] = {HostName("wall", w.id): w for w in project.walls}
    for floor in project.floors:
        bears = level(project, floor.bears_on)
        borne = _borne_by(checked, floor, _ends_on)
        off: dict[int, list[Wall]] = {}
        for name in sorted(borne & set(by_id)):
            by = wall_top(project, by_id[name]) - bears.elevation
            if abs(by) > TOUCH:
                off.setdefault(round(by), []).append(by_id[name])
        for walls in off.values():
            yield _wall_top(project, floor, bears, walls)


def _wall_top(project: Project, floor: FloorArea, bears: Level, walls: list[Wall]) -> Finding:
    by = wall_top(project, walls[0]) - bears.elevation
    kind: Kind = "overlap" if by > 0 else "gap"
    names = walls[0].name if len(walls) == 1 else f"{walls[0].name} and {len(walls) - 1} more"
    middle = _middle(walls[0].start, walls[0].end)
    what = "Cut" if by > 0 else "Raise"
    return Finding(
        kind,
        f"wall {names} under {floor.name}",
        abs(by),
        "mm",
        f"{'Wall' if len(walls) == 1 else 'Walls'} {names} {'ends' if len(walls) == 1 else 'end'}"
        f" {run_text(project, abs(by))} {'above' if by > 0 else 'below'} {bears.name}, where the"
        f" joists of {floor.name} bear,"
        f" {place_name(project, middle)}. {what} {'it' if len(walls) == 1 else 'them'} to"
        f" {bears.name}.",
        HostName("floor", floor.id),
        at=middle,
        mend=Mend(
            f"{what} {len(walls)} {'wall' if len(walls) == 1 else 'walls'} to {bears.name}",
            partial(set_wall_tops, keys=tuple(w.id for w in walls), top=bears.id),
        ),
    )


def _middle(a: Sequence[float], b: Sequence[float]) -> Point:
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
