"""What does not fit in the ground, run by run and between them: bases, steps, ledges, walls with
no footing, bodies that clash."""

from collections.abc import Iterable
from functools import partial
from itertools import pairwise
from typing import Final

from shapely import Point as Spot
from shapely import Polygon, STRtree

from balken.design.soil.pressure import within_influence
from balken.fit.basement_findings import basement_findings
from balken.fit.finding import Finding, Mend, length_text, run_text
from balken.fit.frost_findings import frost_findings
from balken.fit.pad_findings import pad_findings
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.ground.footing_course import INFLUENCE, Ways
from balken.framing.ground.runs import ways_of
from balken.framing.hosts.runs import run_site, sides_of, surface_under
from balken.framing.member import Member
from balken.geometry.plane import TOUCH, Point
from balken.loads.path import place_of
from balken.model.edits import set_run
from balken.model.edits.foundations import add_shelf, lower_footing
from balken.model.edits.supports import merge_with_footing
from balken.model.foundations import WITH_STEM, FoundationRun, Shelf, walls_on
from balken.model.names import HostName, ThingName, whole
from balken.model.project import Level, Project, level, wall_build_up
from balken.model.walls import Wall, WallBuildUp, called
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.site.ground import Surface
from balken.units import INCH
from balken.works.building import Checked
from balken.works.records import run_of

SHARED_CORNERS: Final = 2.5
"""Strips share this many times their width at a corner or a step, at most; more, and they run along
in one place."""
LEDGE_DEPTH = 8 * INCH
"""A ledge for brick is offered this far down; common practice, no source."""


def ground_findings(checked: Checked) -> Iterable[Finding]:
    """Everything in the ground that does not fit, run by run, then between them."""
    surface, flat = surface_under(checked.project), _flat(checked.project)
    for run in checked.project.runs:
        if surface is not None or flat is not None:
            yield from frost_findings(checked, run, surface, flat or 0.0)
        yield from _base(checked, run)
        yield from _steps(checked, run, surface)
        yield from _ledges(checked, run)
        yield from _on_no_piers(checked, run)
        yield from basement_findings(checked, run, _flat(checked.project))
    yield from _no_footing(checked)
    yield from _shared_walls(checked)
    yield from _slabs_cross(checked)
    yield from pad_findings(checked)
    yield from _clashes(checked)
    yield from _over_one_another(checked)
    yield from _influence(checked)
    yield from _bolts(checked)


def _on_no_piers(checked: Checked, run: FoundationRun) -> Iterable[Finding]:
    """Grade beams that are set to span, and have less than two piers under them."""
    if not run.on_piers:
        return
    host = HostName("run", run.id)
    bare = [
        m
        for m in checked.structure.of(kinds.GRADE_BEAM)
        if m.host == host and m.id not in checked.path.spanning
    ]
    if not bare:
        return
    first, more = bare[0], len(bare) - 1
    marks = first.mark if not more else f"{first.mark} and {more} more"
    project, at = checked.project, place_of(first)
    low = first.solid.bounds()[0][2]
    yield Finding(
        "unsupported",
        f"{marks}, {place_name(project, at)}",
        float(len(bare)),
        "count",
        f"{marks} (grade beam), {place_name(project, at)},"
        f" {'is' if not more else 'are'} set to span between piers, and fewer than two piers end at"
        f" its underside, {length_text(project, low)}: the soil is taken to carry"
        f" {'it' if not more else 'them'}. Place piers under it up to there, or let it bear on the"
        " soil.",
        host,
        tuple(m.id for m in bare),
        at,
    )


def _flat(project: Project) -> float | None:
    return next((x.elevation for x in project.levels if x.role == "ground"), None)


def _base(checked: Checked, run: FoundationRun) -> Iterable[Finding]:
    """A foundation wall runs from the top of its footing; the basement slab lies inside it and
    carries nothing."""
    project = checked.project
    if run.kind not in WITH_STEM:
        return
    footing = next((x for x in project.levels if x.role == "footing_top"), None)
    base = level(project, run.base)
    if base.role != "slab":
        return
    high = abs(base.elevation - footing.elevation) if footing else 0.0
    away = f" {run_text(project, high)} from" if footing else ""
    yield Finding(
        "base",
        f"foundation {run.name}",
        high,
        "mm",
        f"The wall of foundation {run.name} stands on {base.name},{away} the top of its footing: a"
        " slab is poured inside"
        " the wall and does not carry it. Let it begin at the top of footing.",
        HostName("run", run.id),
        height=tuple(sorted((base.elevation, footing.elevation))) if footing else None,  # type: ignore[arg-type]
        mend=Mend(f"Begin at {footing.name}", partial(set_run, key=run.id, base=footing.id))
        if footing
        else None,
    )


def _steps(checked: Checked, run: FoundationRun, surface: Surface | None) -> Iterable[Finding]:
    """Ground that falls faster than the rule of steps can follow, and steps held nearer to each
    other than their lap."""
    project = checked.project
    rule = project.site.steps
    ways = ways_of(run, run_site(project, run), surface)
    names = {w.id: called(w) for w in project.walls}
    yield from _too_high(project, run, ways, {k for k, _ in sides_of(project, run)})
    for key, plateaus in ways.plateaus:
        places = [(a.end, abs(b.drop - a.drop)) for a, b in pairwise(plateaus)]
        for (x, rise), (y, other) in pairwise(places):
            lap = max(rule.lap, rise, other)
            if y - x < lap - TOUCH:
                yield Finding(
                    "steps",
                    f"steps under {names.get(whole(key), run.name)}",
                    lap - (y - x),
                    "mm",
                    f"Two steps of footing {run.name} under {names.get(whole(key), 'its path')}"
                    " stand"
                    f" {run_text(project, y - x)} apart; each laps {run_text(project, lap)}. Move"
                    " one by"
                    f" {run_text(project, lap - (y - x))}, or let the held steps go.",
                    HostName("run", run.id),
                    mend=Mend("Let the held steps go", partial(set_run, key=run.id, steps=())),
                )
                return
        steep = [r for _, r in places if r > rule.rise + TOUCH]
        if steep:
            yield Finding(
                "steps",
                f"footing {run.name} under {names.get(whole(key), 'its path')}",
                max(steep) - rule.rise,
                "mm",
                f"The ground along {names.get(whole(key), 'the path')} falls faster than steps of"
                f" {run_text(project, rule.rise)} at {run_text(project, rule.lap)} can follow:"
                f" footing {run.name} steps"
                f" {run_text(project, max(steep))} at once there. Raise the limit of a step, or"
                " lower the whole footing.",
                HostName("run", run.id),
            )
            return


def _too_high(
    project: Project, run: FoundationRun, ways: Ways, outside: set[str]
) -> Iterable[Finding]:
    """A footing that lies under its own level all along: the level says less than is built."""
    drops = [p.drop for key, plateaus in ways.plateaus if key in outside for p in plateaus]
    least = min(drops, default=0.0)
    if run.follow != "steps" or least <= TOUCH:
        return
    base = level(project, run.base)
    yield Finding(
        "steps",
        f"footing {run.name}",
        least,
        "mm",
        f"Footing {run.name} lies {run_text(project, least)} or more under {base.name} all along:"
        " the ground asks for"
        f" it, or it saves steps. Lower its levels by {run_text(project, least)}, so that they say"
        " what is built.",
        HostName("run", run.id),
        mend=Mend(
            f"Lower the levels of footing {run.name} by {run_text(project, least)}",
            partial(lower_footing, key=run.id, by=least),
        ),
    )


def _ledges(checked: Checked, run: FoundationRun) -> Iterable[Finding]:
    """Brick that clads a wall stands on a ledge of the foundation, not on wood (IRC 2021
    R703.8.2)."""
    project = checked.project
    outside = {whole(k) for k, _ in sides_of(project, run)} & set(walls_on(run))
    lacking: dict[float, list[Wall]] = {}
    for wall in (w for w in project.walls if w.id in outside):
        width = _brick(wall_build_up(project, wall))
        if width and not _has_ledge(run, wall, width):
            lacking.setdefault(width, []).append(wall)
    for width, walls in lacking.items():
        yield _no_ledge(project, run, width, walls)


def _brick(build_up: WallBuildUp | None) -> float:
    """The thickness of the brick that clads a wall, mm; 0 where none does."""
    layers = build_up.layers if build_up else ()
    return sum(
        x.thickness for x in layers if x.role == "cladding" and "brick" in x.material.lower()
    )


def _has_ledge(run: FoundationRun, wall: Wall, width: float) -> bool:
    """Whether a foundation has a ledge under a wall that is wide enough."""
    ledges = [s for s in run.shelves if s.kind == "ledge" and (not s.walls or wall.id in s.walls)]
    return any(s.width >= width - TOUCH for s in ledges)


def _no_ledge(project: Project, run: FoundationRun, width: float, walls: list[Wall]) -> Finding:
    first = walls[0]
    more = f" and {len(walls) - 1} more" if len(walls) > 1 else ""
    shelf = Shelf("ledge", width + INCH, LEDGE_DEPTH, tuple(w.id for w in walls))
    wide = f"Cut a ledge {run_text(project, shelf.width)} wide"
    return Finding(
        "ledge",
        f"{called(first)}{more}",
        width,
        "mm",
        f"The brick of {called(first)}{more}, {run_text(project, width)} thick, finds no ledge"
        f" on foundation {run.name}"
        f" {place_name(project, first.start)}. {wide}.",
        HostName("run", run.id),
        at=first.start,
        mend=Mend(
            f"{wide}, {run_text(project, shelf.depth)} down",
            partial(add_shelf, key=run.id, shelf=shelf),
        ),
    )


def _over_one_another(checked: Checked) -> Iterable[Finding]:
    """Strips of two foundations that run along in one place: one of them is too many. Those that
    only meet or cross share no more than a corner."""
    project = checked.project
    strips = checked.structure.of(kinds.FOOTING)
    if not strips:
        return
    rings = [Polygon(m.solid.plan()) for m in strips]
    tree = STRtree(rings)
    told: set[tuple[str, str]] = set()
    for i, one in enumerate(strips):
        for k in sorted(tree.query(rings[i], predicate="intersects").tolist()):
            other = strips[k]
            pair = (min(one.host, other.host), max(one.host, other.host))
            if k <= i or one.host == other.host or pair in told:
                continue
            shared = rings[i].intersection(rings[k]).area
            wide = min(
                rings[i].area / max(one.length, TOUCH), rings[k].area / max(other.length, TOUCH)
            )
            along = shared / max(wide, TOUCH)
            if along > SHARED_CORNERS * wide:
                told.add(pair)
                yield Finding(
                    "clash",
                    f"footings {one.mark} and {other.mark}",
                    along,
                    "mm",
                    f"Footing {one.mark} and footing {other.mark} of another foundation lie in one"
                    " place for about"
                    f" {run_text(project, along)}, {place_name(project, place_of(one))}. Take one"
                    " of them away, or shorten it.",
                    one.host,
                    (one.id, other.id),
                    place_of(one),
                )


def _no_footing(checked: Checked) -> Iterable[Finding]:
    """Outside walls of the lowest storey that stand on no foundation, once there is one."""
    project = checked.project
    if not project.runs or not project.walls:
        return
    lowest = min((level(project, w.base) for w in project.walls), key=lambda x: x.elevation)
    bare = _without_foundation(checked, lowest)
    if bare:
        yield _bare_walls(project, lowest, bare)


def _without_foundation(checked: Checked, lowest: Level) -> list[Wall]:
    """The outside walls of a storey that stand neither on a foundation of theirs nor over one that
    runs on a path of its own."""
    project = checked.project
    storey = storey_walls(project, lowest.id)
    outer = {whole(k) for k in outer_sides(storey, storey_outline(storey))}
    bare = outer.difference(*map(walls_on, project.runs))
    walls = [w for w in project.walls if w.base == lowest.id and w.id in bare]
    under = checked.structure.of(kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM, kinds.SLAB)
    tree = STRtree([Polygon(m.solid.plan()) for m in under])
    return [w for w in walls if not under or not _on_path(w.start, w.end, tree)]


def _bare_walls(project: Project, lowest: Level, bare: list[Wall]) -> Finding:
    first, one = bare[0], len(bare) == 1
    more = "" if one else f" and {len(bare) - 1} more"
    them = "it" if one else "them"
    beside = min(project.runs, key=lambda r: (r.kind not in WITH_STEM, r.id))
    names = tuple(w.id for w in bare)
    return Finding(
        "no footing",
        f"{called(first)}{more}",
        float(len(bare)),
        "count",
        f"{called(first).capitalize()}{more} {'has' if one else 'have'} no footing"
        " under"
        f" {them}, {place_name(project, first.start)}. Place a"
        " foundation there, or let"
        f" {beside.name} run on under {them}.",
        ThingName("walls", lowest.id),
        at=first.start,
        mend=Mend(
            f"Let foundation {beside.name} run on under {them}",
            partial(set_run, key=beside.id, walls=beside.walls + names),
        ),
    )


def _on_path(a: Point, b: Point, tree: STRtree) -> bool:

    middle = Spot((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    return len(tree.query(middle, predicate="dwithin", distance=200.0)) > 0


def _shared_walls(checked: Checked) -> Iterable[Finding]:
    """One wall under two foundations: their concrete is counted once, but one of them is not
    meant."""
    project = checked.project
    owner: dict[str, FoundationRun] = {}
    for run in project.runs:
        for key in run.walls:
            other = owner.setdefault(key, run)
            if other.id != run.id and (other.kind in WITH_STEM) == (run.kind in WITH_STEM):
                wall = next(w for w in project.walls if w.id == key)
                yield Finding(
                    "overlap",
                    f"foundations {other.name} and {run.name}",
                    1.0,
                    "count",
                    f"{called(wall).capitalize()} stands on two foundations, {other.name} and"
                    f" {run.name},"
                    f" {place_name(project, wall.start)}. Take it out of one.",
                    HostName("run", run.id),
                    at=wall.start,
                    mend=Mend(
                        f"Take {called(wall)} out of {run.name}",
                        partial(set_run, key=run.id, walls=tuple(k for k in run.walls if k != key)),
                    ),
                )
                break


def _slabs_cross(checked: Checked) -> Iterable[Finding]:
    """Slabs of two foundations that lie in one another: their outlines cross."""
    project = checked.project
    slabs = checked.structure.of(kinds.SLAB)
    for i, m in enumerate(slabs):
        for other in slabs[i + 1 :]:
            (_, _, low), (_, _, high) = m.solid.bounds()
            (_, _, below), (_, _, above) = other.solid.bounds()
            shared = Polygon(m.solid.plan()).intersection(Polygon(other.solid.plan()))
            if (
                other.host == m.host
                or shared.area < 1e4
                or min(high, above) - max(low, below) <= TOUCH
            ):
                continue
            x0, y0, x1, y1 = shared.bounds
            where = ((x0 + x1) / 2, (y0 + y1) / 2)
            by = min(x1 - x0, y1 - y0)
            yield Finding(
                "overlap",
                f"slabs {m.mark} and {other.mark}",
                by,
                "mm",
                f"The outlines of slabs {m.mark} and {other.mark} cross by {run_text(project, by)},"
                f" {place_name(project, where)}. Their concrete is counted once; move one of them"
                " by that much.",
                m.host,
                (m.id, other.id),
                where,
            )


def _clashes(checked: Checked) -> Iterable[Finding]:
    """Pads that reach into strips at other heights: poured as one, they should share bottom and
    top."""
    project = checked.project
    strips = checked.structure.of(kinds.FOOTING)
    pads = checked.structure.of(kinds.PAD)
    if not strips or not pads:
        return
    tree = STRtree([Polygon(m.solid.plan()) for m in strips])
    for pad in pads:
        ring = Polygon(pad.solid.plan())
        low, high = pad.solid.bounds()[0][2], pad.solid.bounds()[1][2]
        for k in sorted(tree.query(ring, predicate="intersects").tolist()):
            strip = strips[k]
            below, above = strip.solid.bounds()[0][2], strip.solid.bounds()[1][2]
            shared = ring.intersection(Polygon(strip.solid.plan())).area
            apart = max(abs(low - below), abs(high - above))
            if shared < 1.0 or min(high, above) - max(low, below) <= TOUCH or apart <= TOUCH:
                continue
            run = run_of(project, strip)
            yield Finding(
                "clash",
                f"pad {pad.mark} and footing {strip.mark}",
                apart,
                "mm",
                f"Pad {pad.mark} reaches into footing {strip.mark},"
                f" {place_name(project, place_of(pad))}, and their bottoms or"
                f" tops lie {run_text(project, apart)} apart. Merge them: bottom and top of the"
                " pad as the footing's.",
                pad.host,
                (pad.id, strip.id),
                place_of(pad),
                mend=Mend(
                    f"Merge pad {pad.mark} with footing {strip.mark}",
                    partial(
                        merge_with_footing, pad=pad.host.key, run=run.id, low=below, high=above
                    ),
                ),
            )
            break


def _influence(checked: Checked) -> Iterable[Finding]:
    """Footings that stand on the soil a deeper footing beside them loosens or loads (45°, common
    practice, no source)."""
    feet = checked.structure.of(kinds.FOOTING, kinds.PAD, kinds.EDGE, kinds.GRADE_BEAM)
    if len(feet) > 1:
        for by, m, other in _loosened(feet, checked.project.site.steps.module + TOUCH):
            yield _on_loosened(checked.project, by, m, other)


def _loosened(feet: list[Member], least: float) -> Iterable[tuple[float, Member, Member]]:
    """By how much which footing stands in the influence of which, the worst of each two hosts;
    less than ``least`` is none, mm."""
    bottoms = [m.solid.bounds()[0][2] for m in feet]
    reach = (max(bottoms) - min(bottoms)) / INFLUENCE
    shapes = [Polygon(m.solid.plan()) for m in feet]
    pairs = STRtree(shapes).query(shapes, predicate="dwithin", distance=reach).tolist()
    worst: dict[tuple[HostName, HostName], tuple[float, Member, Member]] = {}
    for i, k in zip(*pairs):
        m, other = feet[i], feet[k]
        if bottoms[k] >= bottoms[i] - TOUCH or other.host == m.host:
            continue
        if m.kind is kinds.PAD and shapes[i].intersection(shapes[k]).area > 1.0:
            continue  # that is a clash, with a line of its own
        by = within_influence(bottoms[i], bottoms[k], shapes[i].distance(shapes[k]), INFLUENCE)
        key = (m.host, other.host)
        if by > worst.get(key, (least,))[0]:
            worst[key] = (by, m, other)
    return worst.values()


def _on_loosened(project: Project, by: float, m: Member, other: Member) -> Finding:
    what = {"pad": "Pad", "edge": "Edge", "grade beam": "Grade beam"}.get(m.role, "Footing")
    return Finding(
        "influence",
        f"{m.mark} beside {other.mark}",
        by,
        "mm",
        f"{what} {m.mark} bears {run_text(project, by)} above the 45° line that rises from"
        f" {other.mark},"
        f" {place_name(project, place_of(m))}: it stands on loosened soil and presses on what"
        " is deeper. Lower it by that"
        " much, or move it away as far.",
        m.host,
        (m.id, other.id),
        place_of(m),
    )


def _bolts(checked: Checked) -> Iterable[Finding]:
    """Anchor bolts for which no place is clear of joists and doors."""
    bolts = checked.structure.bolts
    by_host: dict[HostName, list[Member]] = {}
    for m in checked.structure.of(kinds.SILL):
        if m.id in bolts and bolts[m.id].blocked:
            by_host.setdefault(m.host, []).append(m)
    for host, sills in by_host.items():
        m, count = sills[0], sum(len(bolts[m.id].blocked) for m in sills)
        more = f" and {len(sills) - 1} more" if len(sills) > 1 else ""
        yield Finding(
            "bolts",
            f"sill {m.mark}",
            float(count),
            "count",
            f"{count} anchor {'bolt' if count == 1 else 'bolts'} of sill {m.mark}{more} find no"
            f" clear place: {run_text(checked.project, bolts[m.id].blocked[0])} from its end a"
            " joist or a door is in the way. Move the joist, or drill it.",
            host,
            tuple(x.id for x in sills),
            place_of(m),
        )
