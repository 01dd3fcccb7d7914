"""The fit list: one function a kind of finding, over a building that was worked out. Those of the
ground have their own file."""

import math
from collections.abc import Callable, Iterable, Sequence
from functools import partial
from typing import Final

from balken.design.basement_walls import TOP_INTO_BOLTS, widest_bolts
from balken.design.building import Checked, checks_of, depth_between, is_over
from balken.design.carrying import next_section
from balken.design.footing_loads import run_of
from balken.design.pads import propose_pad
from balken.design.sizing import LEAST_BEARING, Sized
from balken.design.strips import proposed_width
from balken.fit.beam_findings import beam_findings
from balken.fit.divide import can_divide, divided
from balken.fit.finding import Finding, Kind, Mend, length_text, run_text
from balken.fit.ground_findings import ground_findings
from balken.fit.places import place_name
from balken.fit.roof_findings import roof_findings
from balken.fit.unchecked_findings import unchecked_findings
from balken.framing import kinds
from balken.framing.beds import bed_of_floor, bed_of_roof, build_up_of, run_under
from balken.framing.member import Bed, Member, Part, clear_span
from balken.geometry.plane import TOUCH, Point
from balken.loads.path import BALANCE, SPECK, Beside, place_of
from balken.model.beams import Beam, BeamBay
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.edits import (
    change_member,
    drop_change,
    move_level,
    set_floor,
    set_roof,
    set_run,
    set_wall_tops,
)
from balken.model.edits.beams import set_beams
from balken.model.edits.block_module import bring_onto_module, off_lengths, words_of
from balken.model.edits.supports import set_supports
from balken.model.edits.walls import set_walls
from balken.model.floors import FloorArea
from balken.model.memo import Memo
from balken.model.names import (
    HostName,
    MemberName,
    Rest,
    ThingName,
    in_words,
    wall_key,
    whole_of,
)
from balken.model.project import Level, Project, host_record, level, wall_base, wall_top
from balken.model.roofs import RoofArea
from balken.model.sections import STEEL
from balken.model.wall_weights import is_masonry
from balken.model.walls import Wall, arc_middle, called
from balken.units import INCH, System, format_area, format_force, format_run

ADVICE: Final = {
    "footing": "Make the footing wider or thicker",
    "edge": "Make the edge wider",
    "grade beam": "Make the beam wider",
    "pad": "Make the pad larger or thicker",
    "stem": "Make the wall thicker, or its backfill lower",
    "strut": "Set the struts closer, or cut them from a larger section",
    "tie": "Tie more pairs, or cut the ties from a larger section",
}
"""What helps a member that is used beyond 1.00, where no mend is at hand."""
BY_CHECK: Final = {
    "Turning over": "Let joists end on it or prop its top otherwise, or make its footing wider",
    "Sliding": "Put a slab at its foot, or make its footing wider",
    TOP_INTO_BOLTS: "Set the anchor bolts closer or larger, or let the floor lean on it otherwise",
    "Tail": "Make the overhang shorter, the seat shallower or the rafters deeper",
    "Tail deflection": "Make the overhang shorter or the rafters deeper",
    "Thrust and bending": "Put a beam under the ridge, or choose deeper rafters",
    "Slenderness": "Choose a thicker section, or hold it between its ends",
}
"""The same, by the check that governs."""


def findings(checked: Checked, memo: Memo | None = None) -> tuple[Finding, ...]:
    """Everything that does not fit, in the order of the building from the ground up."""
    memo = memo or Memo()
    kinds = (
        ground_findings,
        _columns,
        _wall_tops,
        _through,
        _modules,
        _supports,
        _bearings,
        beam_findings,
        roof_findings,
        _over,
        unchecked_findings,
        _path,
        _stock,
        _lost,
        _unframed,
    )
    return tuple(f for kind in kinds for f in _told(kind, checked, memo))


def _told(
    kind: Callable[[Checked, Memo], Iterable[Finding]], checked: Checked, memo: Memo
) -> list[Finding]:
    """What one kind of finding tells; where it cannot be asked for, that is a finding
    too."""
    try:
        return list(kind(checked, memo))
    except Exception as error:
        name = kind.__name__.strip("_").replace("_", " ")
        return [
            Finding(
                "fault",
                name,
                1.0,
                "count",
                f"What is told about {name} could not be worked out ({type(error).__name__}:"
                f" {str(error)[:160]}). Look at it by"
                " eye.",
                None,
            )
        ]


def _through(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """Walls of a storey that reach up into the joists of the floor over them, joists bearing on
    them or not."""
    project = checked.project
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        if bed is None or build_up_of(project, floor).use == "ceiling":
            continue
        low, high = bed.height, level(project, floor.level).elevation
        borne = {wall_key(name) for name in _borne_by(checked, floor, _borne, memo)}
        off: dict[tuple[str, int], list[Wall]] = {}
        for wall in project.walls:
            foot, top = wall_base(project, wall), wall_top(project, wall)
            through = foot < low - TOUCH and top > low + TOUCH and foot < high
            if through and wall.id not in borne and _under(wall, bed):
                off.setdefault((wall.base, round(top - low)), []).append(wall)
        for (base, by), walls in off.items():
            names = (
                walls[0].name if len(walls) == 1 else f"{walls[0].name} and {len(walls) - 1} more"
            )
            middle = _middle(walls[0].start, walls[0].end)
            yield Finding(
                "overlap",
                f"wall {names} in {floor.name}",
                float(by),
                "mm",
                f"{'Wall' if len(walls) == 1 else 'Walls'} {names} on {level(project, base).name}"
                f" {'reaches' if len(walls) == 1 else 'reach'} {run_text(project, by)} up into the"
                f" joists of {floor.name},"
                f" {place_name(project, middle)}. Cut {'it' if len(walls) == 1 else 'them'} at the"
                " underside of the joists.",
                HostName("floor", floor.id),
                at=middle,
                mend=Mend(
                    f"Cut {len(walls)} {'wall' if len(walls) == 1 else 'walls'} under {floor.name}",
                    partial(
                        _cut_at,
                        keys=tuple(w.id for w in walls),
                        height=low,
                        bears_on=floor.bears_on,
                    ),
                ),
            )


def _borne_by(
    checked: Checked, floor: FloorArea, told: Callable[[Part], frozenset[Rest]], memo: Memo
) -> set[Rest]:
    """The walls, beams and sills that the members of a floor bear on, as told by their
    parts."""
    mine = [
        p
        for p in checked.structure.parts
        if p.members and p.members[0].host == HostName("floor", floor.id)
    ]
    return set().union(*(memo.small(told, part) for part in mine))


def _borne(part: Part) -> frozenset[Rest]:
    """What members of a part lie on, at an end or all along."""
    return frozenset(whole_of(s.on) for m in part.members for s in m.carrier.supports if s.on)


def _ends_on(part: Part) -> frozenset[Rest]:
    """What members of a part span between."""
    return frozenset(
        whole_of(s.on)
        for m in part.members
        if clear_span(m) > 0
        for s in m.carrier.supports
        if s.on
    )


def _under(wall: Wall, bed: Bed) -> bool:
    from shapely import Polygon, contains_xy

    middle = arc_middle(wall)
    return bool(contains_xy(Polygon(bed.outline).buffer(TOUCH), *middle))


def _cut_at(project: Project, keys: tuple[str, ...], height: float, bears_on: str) -> Project:
    return set_walls(
        project,
        keys,
        top=bears_on,
        top_offset=round(height - level(project, bears_on).elevation, 6) + 0.0,
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


def _columns(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    for floor in project.floors:
        host = HostName("floor", floor.id)
        bed = bed_of_floor(project, floor, memo)
        sized = checked.sizes.get(host)
        if bed is None or sized is None or build_up_of(project, floor).use == "ceiling":
            continue
        depth = sections_of(project.system, project.products)[sized.size.section].depth
        spare = depth_between(project, floor, bed) - depth
        if abs(spare) <= TOUCH:
            continue
        top = level(project, floor.level)
        under = level(project, floor.bears_on)
        built = bed.height + depth + build_up_of(project, floor).subfloor
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
            mend=_column_mend(project, floor, sized, bed, top, built),
        )


def _column_mend(
    project: Project, floor: FloorArea, sized: Sized, bed: Bed, top: Level, built: float
) -> Mend:
    """Prefer a deeper joist that fills the gap to the hair; otherwise move the level to what is
    built."""
    allowed = depth_between(project, floor, bed)
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


def _wall_tops(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """Walls that joists bear on must end where the joists begin."""
    project = checked.project
    by_id: dict[Rest, Wall] = {HostName("wall", w.id): w for w in project.walls}
    for floor in project.floors:
        bears = level(project, floor.bears_on)
        borne = _borne_by(checked, floor, _ends_on, memo)
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


def _by_host(members: Iterable[Member]) -> dict[HostName, list[Member]]:
    found: dict[HostName, list[Member]] = {}
    for member in members:
        found.setdefault(member.host, []).append(member)
    return found


def _marks(members: list[Member]) -> str:
    first = members[0].mark
    return first if len(members) == 1 else f"{first} and {len(members) - 1} more"


HANGING: Final = {
    "joist": "Put a wall or a beam there, or let the joists run to a wall that is",
    "ceiling joist": "Put a wall or a beam there, or let the joists run to a wall that is",
    "rafter": "Put a wall or a beam there, or let the rafters run to a wall that is",
    "trimmer": "Put a wall or a beam there, or move the opening",
    "header": "Put a trimmer there, or move the opening",
    "beam": "Put a post or a wall under it, or let it run to a beam it can hang on",
    "ledger": "Fix it to a wall that is there",
    "ridge beam": "Put a post or a wall under it",
    "purlin": (
        "Put a post or a wall under it; a strut reaches a wall inside that lies no further aside"
        " than the purlin is high"
    ),
    "hip": "Put a post there, or let the roof meet over a wall",
    "valley": "Put a post there, or let it run to a wall",
    "bottom chord": "Put a wall or a beam there, or move the truss",
}
"""What helps a piece that has nothing under an end."""


def _supports(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    loose = [m for part in checked.structure.parts for m in memo.small(_loose, part)]
    for host, members in _by_host(loose).items():
        end = next(s.point for s in members[0].carrier.supports if not s.on)
        where = place_name(project, end)
        count = sum(not s.on for m in members for s in m.carrier.supports)
        yield Finding(
            "unsupported",
            f"{_marks(members)}, {where}",
            float(count),
            "count",
            f"{_marks(members)} {'has' if len(members) == 1 else 'have'} nothing under an end,"
            f" {where}."
            f" {HANGING[members[0].role]}.",
            host,
            tuple(m.id for m in members),
            end,
        )


def _loose(part: Part) -> tuple[Member, ...]:
    return tuple(
        m for m in part.members if m.kind.flows and any(not s.on for s in m.carrier.supports)
    )


def _bearings(checked: Checked, memo: Memo) -> Iterable[Finding]:
    """Ends that bear on too little: 1½ in on wood and steel, 3 in on concrete and masonry (IRC 2021
    R502.6)."""
    project = checked.project
    hard = _hard_walls(project)
    sections = sections_of(project.system, project.products)
    short = [m for part in checked.structure.parts for m in memo.small(_short, part, hard)]
    wood = [
        m for m in short if m.section not in sections or sections[m.section].family not in STEEL
    ]
    for host, members in _by_host(wood).items():
        lacks = [
            (least_on(s.on, hard) - s.length, s)
            for m in members
            for s in m.carrier.supports
            if s.on and not s.hung
        ]
        lack, worst = max(lacks, key=lambda x: x[0])
        where = place_name(project, worst.point)
        least = worst.length + lack
        under = "wood on concrete or masonry" if least > LEAST_BEARING else "wood"
        yield Finding(
            "bearing",
            f"{_marks(members)}, {where}",
            lack,
            "mm",
            f"{_marks(members)} bear only {run_text(project, worst.length)} {where}; {under} needs"
            f" {run_text(project, least)} (IRC R502.6). Widen what is under it or move it by"
            f" {run_text(project, lack)}.",
            host,
            tuple(m.id for m in members),
            worst.point,
        )


LEAST_ON_HARD: Final = 3 * INCH
"""Least bearing of wood on concrete and masonry (IRC 2021 R502.6)."""


def least_on(on: Rest, hard_walls: frozenset[HostName]) -> float:
    """Least bearing on something by its name, mm."""
    kind = kinds.named(on)
    hard = kind is not None and kind.hard
    return LEAST_ON_HARD if hard or on in hard_walls else LEAST_BEARING


def _hard_walls(project: Project) -> frozenset[HostName]:
    """Walls of masonry or concrete, on which no plate lies, by what supports call them."""
    hard = {b.id for b in project.wall_build_ups if is_masonry(b)}
    return frozenset(HostName("wall", w.id) for w in project.walls if w.build_up in hard)


def _short(part: Part, hard_walls: frozenset[HostName]) -> tuple[Member, ...]:
    those = (
        *kinds.those(lambda k: k.spans),
        kinds.BEAM,
        kinds.TRIMMER,
        kinds.BOTTOM_CHORD,
        kinds.RIDGE_BEAM,
    )
    return tuple(
        m
        for m in part.members
        if m.kind in those
        and any(
            s.on and not s.hung and s.length < least_on(whole_of(s.on), hard_walls) - 0.5
            for s in m.carrier.supports
        )
    )


def _over(checked: Checked, memo: Memo) -> Iterable[Finding]:
    if not is_over(max((ratio for ratio, _ in checked.used.values()), default=0.0)):
        return
    over = [
        m
        for m in checked.structure.members
        if m.id in checked.used and is_over(checked.used[m.id][0])
    ]
    for host, members in _by_host(over).items():
        members.sort(key=lambda m: -checked.used[m.id][0])
        ratio, name = checked.used[members[0].id]
        mend = _mend_for(checked, members[0])
        helps = ADVICE.get(
            members[0].role, "Choose a stronger section, a closer spacing or a shorter span"
        )
        advice = mend.text if mend else BY_CHECK.get(name, helps)
        yield Finding(
            "over",
            f"{_marks(members)}, {name.lower()}",
            ratio,
            "ratio",
            f"{_marks(members)}: {used_to(checked, members[0], ratio, name)}. {advice}.",
            host,
            tuple(m.id for m in members),
            place_of(members[0]),
            mend=mend,
        )


def used_to(checked: Checked, member: Member, ratio: float, name: str) -> str:
    """How far a check is used up, in words; where no number can be said, why."""
    if math.isfinite(ratio):
        return f"{name.lower()} is used to {ratio:.2f} of 1.00"
    check = next((c for c in checks_of(checked, member) if c.name == name), None)
    steps = check.steps if check else ()
    why = next((s.how.rstrip(".") for s in steps if not math.isfinite(s.value) and s.how), "")
    return (
        f"{name.lower()} cannot be"
        f" met{': ' + why[0].lower() + why[1:] if why else ', whatever the load'}"
    )


def _mend_for(checked: Checked, member: Member) -> Mend | None:
    """What would make a member strong enough, if something at hand does."""
    if member.kind is kinds.BEAM:
        return _beam_mend(checked, member)
    if member.kind in (kinds.STRUT, kinds.TIE):
        return None
    if member.kind is kinds.STEM:
        return _bolts_mend(checked, member)
    if member.id in checked.carrying:
        return _plies_mend(checked, member)
    return _strength_mend(checked, member.host) or _footing_mend(checked, member)


def _beam_mend(checked: Checked, member: Member) -> Mend | None:
    """Give a beam's size back to the calculation, or take the first that passes of all that are
    sold."""
    project, host = checked.project, member.host
    record = host_record(project, host)
    if any(c.member == member.id and c.section for c in project.changes):
        return Mend("Take back the section changed by hand", partial(drop_change, member=member.id))
    if isinstance(record, Beam | BeamBay) and record.kind.section and record.kind.sizes:
        return Mend(
            "Give its size back to the calculation", partial(set_beams, hosts=(host,), section=None)
        )
    stronger = next_section(checked, member)
    if stronger is None:
        return None
    return Mend(f"Use {stronger}", partial(set_beams, hosts=(host,), section=stronger))


def _plies_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the piece with more plies, or the next that carries it."""
    stronger = next_section(checked, member)
    if stronger is None:
        return None
    return Mend(
        f"Make {member.mark} of {stronger}",
        partial(change_member, member=member.id, section=stronger),
    )


def _footing_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the width a strip needs, or the side and thickness of a pad."""
    project, structure, path = checked.project, checked.structure, checked.path
    if member.kind is kinds.FOOTING:
        run = run_of(project, member)
        wanted = proposed_width(project, structure, path, run)
        if wanted is None or wanted.size <= run.footing_width + TOUCH:
            return None
        text = f"Make the footing {run_text(project, wanted.size)} wide, for {wanted.why}"
        return Mend(text, partial(set_run, key=run.id, footing_width=round(wanted.size, 6)))
    if member.kind is kinds.PAD:
        size = propose_pad(project, structure, path, member)
        if size is None:
            return None
        side, thick = size
        text = f"Make the pad {run_text(project, side)} square and {run_text(project, thick)} thick"
        return Mend(
            text,
            partial(
                set_supports,
                keys=(member.host.key,),
                size=(round(side, 6), round(side, 6)),
                thickness=round(thick, 6),
                round=False,
            ),
        )
    return None


BOLT_STEP: Final = {"us": INCH, "metric": 25.0}
CLOSEST: Final = 8 * INCH
"""Anchor bolts are offered no closer than this, mm; common practice, no source."""


def _bolts_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer anchor bolts as close as the push of a basement wall's top asks."""
    ratio, name = checked.used[member.id]
    if name != TOP_INTO_BOLTS or not math.isfinite(ratio):
        return None
    project, step = checked.project, BOLT_STEP[checked.project.system]
    mine = [
        m
        for m in checked.structure.of(kinds.STEM)
        if m.host == member.host and checked.used.get(m.id, (0, ""))[1] == name
    ]
    apart = min(widest_bolts(checked.structure, m) / checked.used[m.id][0] for m in mine)
    apart = math.floor(apart / step + 1e-9) * step
    if apart < CLOSEST:
        return None
    run = run_of(project, member)
    return Mend(
        f"Set its anchor bolts {run_text(project, apart)} apart",
        partial(set_run, key=run.id, bolts_apart=round(apart, 6)),
    )


def _strength_mend(checked: Checked, host: HostName) -> Mend | None:
    sized = checked.sizes.get(host)
    project = checked.project
    if sized is None:
        return None
    touched = [c.member for c in project.changes if c.member.host == host and c.section]
    if touched:
        return Mend(
            "Take back the sections changed by hand", partial(_drop_all, names=tuple(touched))
        )
    edit = set_floor if host.kind == "floor" else set_roof
    record = host_record(project, host)
    if isinstance(record, FloorArea | RoofArea) and (record.section or record.spacing):
        return Mend(
            "Give size and spacing back to the calculation",
            partial(edit, key=host.key, section=None, spacing=None),
        )
    best = next((c for c in sized.choices if c.worst <= 1 and c.fits), None)
    if best is None or (best.section, best.spacing) == (sized.size.section, sized.size.spacing):
        return None
    spacing = format_run(best.spacing, project.system)
    return Mend(
        f"Use {best.section} at {spacing}",
        partial(edit, key=host.key, section=best.section, spacing=best.spacing),
    )


def _drop_all(project: Project, names: tuple[MemberName, ...]) -> Project:
    for name in names:
        project = drop_change(project, name)
    return project


def _path(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    by_source: dict[Rest, list[tuple[Point, float]]] = {}
    unsupported: set[Rest] = {
        m.id for part in checked.structure.parts for m in memo.small(_loose, part)
    }
    for end in checked.path.open_ends:
        if end.source not in unsupported:  # those have a line of their own
            by_source.setdefault(end.source, []).append(((end.x, end.y), sum(end.forces)))
    if not project.runs and by_source:
        yield _nothing_under(checked, by_source)
        return
    names: dict[Rest, str] = {HostName("wall", w.id): called(w) for w in project.walls}
    marks: dict[Rest, str] = {m.id: m.mark for m in checked.structure.members} if by_source else {}
    for source, ends in by_source.items():
        force = sum(f for _, f in ends)
        what = names.get(whole_of(source)) or marks.get(source) or in_words(source)
        where = place_name(project, ends[0][0])
        yield Finding(
            "load path",
            f"{what}, {where}",
            force,
            "N",
            f"{format_force(force, project.system)} from {what} find nothing that carries them"
            f" further down, {where}."
            " Put a wall, a beam or a footing under it.",
            source,
            (source,) if isinstance(source, MemberName) else (),
            ends[0][0],
        )
    yield from map(partial(_beside, checked), checked.path.beside)
    yield from _lost_on_the_way(checked)


def _beside(checked: Checked, found: Beside) -> Finding:
    """Load on a floor or a roof that its members do not carry, or carry twice."""
    project = checked.project
    name = getattr(host_record(project, found.host), "name", in_words(found.host))
    force, area = abs(math.fsum(found.forces)), format_area(abs(found.area), project.system)
    if math.fsum(found.forces) > 0:
        words = (
            f"{name}: {_force(force, project.system)} lie on {area} that none of its members"
            " carries."
        )
        help_ = " Its outline reaches past them: turn them, move its edge, or place one more."
    else:
        words = (
            f"{name}: its members carry {_force(force, project.system)} more than lies on it,"
            f" {area} twice."
        )
        help_ = (
            " Where its sides run together, two of them count the same strip: they carry more than"
            " they must."
        )
    return Finding("load path", name, force, "N", words + help_, found.host, ())


def _force(force: float, system: System) -> str:
    words = format_force(force, system)
    return (
        words
        if any(c in "123456789" for c in words)
        else f"less than {'1 lb' if system == 'us' else '0.01 kN'}"
    )


def _lost_on_the_way(checked: Checked) -> Iterable[Finding]:
    """What comes into the soil or ends in the open must be what was applied, less what lies beside
    the members."""
    path = checked.path
    ended = math.fsum(
        math.fsum(f)
        for f in (
            *path.soil.values(),
            *(e.forces for e in path.open_ends),
            *(b.forces for b in path.beside),
        )
    )
    short = math.fsum(path.applied) - ended
    if abs(short) > max(SPECK, BALANCE * math.fsum(path.applied)):
        yield Finding(
            "load path",
            "whole building",
            abs(short),
            "N",
            f"{_force(abs(short), checked.project.system)} of the applied load are not found again"
            " in the soil."
            " Something in the building cannot be followed; do not build on these loads.",
            None,
            (),
        )


def _nothing_under(checked: Checked, by_source: dict[Rest, list[tuple[Point, float]]]) -> Finding:
    """Before there is a foundation, one line says so for the whole building."""
    project = checked.project
    force = math.fsum(f for ends in by_source.values() for _, f in ends)
    walls = len({whole_of(s) for s in by_source})
    lowest = min(project.walls, key=lambda w: (wall_base(project, w), w.id))
    return Finding(
        "load path",
        f"under {level(project, lowest.base).name}",
        force,
        "N",
        f"{format_force(force, project.system)} from {walls} {'wall' if walls == 1 else 'walls'}"
        " find nothing that carries"
        " them further down: there is no foundation yet. Place a foundation.",
        ThingName("walls", lowest.base),
    )


def _longer(part: Part, longest: float) -> tuple[Member, ...]:
    return tuple(m for m in part.members if m.kind.spans and m.blank > longest + TOUCH)


def _stock(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    longest = catalogue_of(project.system).stock[-1]
    lumber = [m for part in checked.structure.parts for m in memo.small(_longer, part, longest)]
    for host, members in _by_host(lumber).items():
        worst = max(members, key=lambda m: m.blank)
        yield Finding(
            "too long",
            f"{_marks(members)}",
            worst.blank - longest,
            "mm",
            f"{_marks(members)} need {length_text(project, worst.blank)} in one piece; the longest"
            " sold is"
            f" {length_text(project, longest)}. Put a bearing wall or a beam between.",
            host,
            tuple(m.id for m in members),
            place_of(worst),
        )


def _lost(checked: Checked, memo: Memo) -> Iterable[Finding]:
    for name in checked.structure.gone:
        yield Finding(
            "lost change",
            str(name),
            1.0,
            "count",
            f"A change by hand on {name} has no member to act on any more. Take it back, or bring"
            " the member back.",
            name.host,
            (),
            mend=Mend("Take the change back", partial(drop_change, member=name)),
        )


def _divide(checked: Checked, host: Rest | None) -> Mend | None:
    """The mend of a roof of trusses over other than a rectangle, where it can be divided."""
    roof = next((r for r in checked.project.roofs if HostName("roof", r.id) == host), None)
    shape = checked.structure.roofs.get(HostName("roof", roof.id)) if roof else None
    if roof is None or shape is None or roof.framing != "trusses" or not can_divide(shape):
        return None
    key = roof.id
    return Mend("Divide it over rectangles", lambda project: divided(project, key, shape))


def _unframed(checked: Checked, memo: Memo) -> Iterable[Finding]:
    project = checked.project
    for host, why in checked.structure.unframed:
        yield Finding(
            "not framed",
            in_words(host) or "the building",
            1.0,
            "count",
            f"{in_words(host) or 'The building'} is not framed: {why}.",
            host,
            mend=_divide(checked, host),
        )
    for run in project.runs:
        if not run.walls and not run.spans and not run.paths:
            yield Finding(
                "not framed",
                f"foundation {run.name}",
                1.0,
                "count",
                f"Foundation {run.name} has no walls to stand under.",
                HostName("run", run.id),
            )
    for roof in project.roofs:
        bed = bed_of_roof(project, roof, memo)
        if bed and roof.seat and roof.seat > bed.width + TOUCH:
            yield Finding(
                "overlap",
                f"seat of roof {roof.name}",
                roof.seat - bed.width,
                "mm",
                f"The seat of roof {roof.name} is {run_text(project, roof.seat)} on a plate"
                f" {run_text(project, bed.width)} wide.",
                HostName("roof", roof.id),
            )
