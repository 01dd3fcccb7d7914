"""Findings of floors, beams and posts: what hangs, clashes, lifts off, stands on nothing, or is
bored too deep."""

from collections.abc import Iterable
from functools import partial
from typing import Final

import shapely

from balken.fit.finding import (
    Finding,
    Mend,
    length_text,
    run_text,
    us_clause,
)
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.member import Hole, Member, apart
from balken.framing.pieces import near_spots, polygons_of, ring_of
from balken.geometry.plane import TOUCH, Point, add, direction_or, sub, unit
from balken.loads.path import place_of
from balken.model.catalogue import sections_of
from balken.model.edits.bores import drop_bore
from balken.model.edits.walls import set_walls
from balken.model.floors import FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Bore, Project, column, level, wall_base, wall_top
from balken.model.sections import BY_CAPACITY, STEEL, Product
from balken.model.walls import arc_middle
from balken.recall import remembered_piece
from balken.units import INCH, format_force
from balken.works.building import Checked

HEADROOM: Final = 80 * INCH
"""Clear height under a beam, mm (IRC 2021 R305.1, exception 1: 6 ft 4 in in basements; 6 ft 8 in
elsewhere)."""
STOREY: Final = 1500.0
"""A level nearer under a beam than this is not the floor one walks on there, mm."""
LIFTS: Final = 50.0
"""Less than this does not count as lifting off, N."""
FOOT: Final = 10.0
"""A post stands on what ends this near to its foot, mm."""
ON_JOISTS: Final = 60.0
"""Joists lie this far under a post's foot: a subfloor between, mm."""
BETWEEN: Final = 350.0
"""A post this near to a joist stands on it, or on the subfloor beside it, mm."""
NEAR_TOP: Final = 300.0
"""A wall that ends this near to a slab's underside is meant to meet it, mm."""


def beam_findings(checked: Checked) -> Iterable[Finding]:
    """The findings of floors, beams and posts."""
    yield from _feet(checked)
    yield from _openings_over_beams(checked)
    yield from _heads(checked)
    yield from _headroom(checked)
    yield from _lifting(checked)
    yield from _walls_under_slabs(checked)
    yield from _bores(checked)


JOISTED: Final = (kinds.JOIST, kinds.TRIMMER, kinds.HEADER)
"""What a post is not to stand on."""


def _feet(checked: Checked) -> Iterable[Finding]:
    """Posts that stand on a joist, or on nothing."""
    about = checked.structure.about
    lost = [p for p in checked.structure.of(kinds.POST) if not _stands(p, about[p.id])]
    if not lost:
        return
    joisted = checked.structure.of(*JOISTED)
    beside = {p.id: here for p, here in zip(lost, near_spots(_places(lost), joisted, BETWEEN))}
    on_walls = _on_wall_tops(checked.project, lost)
    for post in (p for p in lost if p.id not in on_walls):
        yield _no_foot(checked, post, [*about[post.id], *beside[post.id]])


def _on_wall_tops(project: Project, posts: list[Member]) -> set[MemberName]:
    """The posts that stand on the top of a wall."""
    walls = [
        (wall_top(project, w), shapely.LineString([w.start, w.end]).buffer(w.thickness))
        for w in project.walls
    ]
    return {
        p.id
        for p in posts
        if any(
            abs(top - p.start[2]) <= FOOT and shape.contains(shapely.Point(p.start[:2]))
            for top, shape in walls
        )
    }


def _no_foot(checked: Checked, post: Member, here: list[Member]) -> Finding:
    project = checked.project
    where = place_name(project, post.start[:2])
    over = [(m, post.start[2] - _top(m)) for m in here]
    joists = [m for m, by in over if m.kind in JOISTED and 0 <= by <= ON_JOISTS]
    below = [by for _, by in over if by > 0]
    if joists:
        text = (
            f"Post {post.mark} stands on {joists[0].role} {joists[0].mark}, {where}. Put a"
            " beam or a post under it, or"
            " move it over one."
        )
    else:
        gap = f"; what lies under it ends {run_text(project, min(below))} lower" if below else ""
        text = (
            f"Post {post.mark} stands on nothing, {where}{gap}. Put a pad, a wall or a beam"
            " under it."
        )
    return Finding(
        "no foot",
        f"{post.mark}, {where}",
        min(below, default=0.0),
        "mm",
        text,
        post.host,
        (post.id,),
        post.start[:2],
    )


@remembered_piece
def _stands(post: Member, near: tuple[Member, ...]) -> bool:
    """Whether something ends at a post's foot."""
    return any(abs(_top(m) - post.start[2]) <= FOOT for m in near)


def _places(posts: list[Member]) -> list[Point]:
    return [(m.start[0], m.start[1]) for m in posts]


def _top(m: Member) -> float:
    return m.end[2] if m.kind is kinds.POST else m.solid.top()


def _openings_over_beams(checked: Checked) -> Iterable[Finding]:
    """Openings that a beam runs under or through."""
    for floor in checked.project.floors:
        bearings = bearings_of_floor(checked.built, floor)
        if bearings is None or not bearings.holes:
            continue
        top = level(checked.project, floor.level).elevation + TOUCH
        mine = [
            m
            for m in checked.structure.of(kinds.BEAM)
            if m.level == floor.level and bearings.height - NEAR_TOP < m.solid.top() <= top
        ]
        for hole in bearings.holes:
            for m in mine:
                yield from _beam_through(checked, floor, hole, m)


def _beam_through(checked: Checked, floor: FloorArea, hole: Hole, m: Member) -> Iterable[Finding]:
    project, shape = checked.project, shapely.Polygon(hole.ring)
    across = shapely.Polygon(ring_of(m)).intersection(shape)
    if across.area < TOUCH:
        return
    at = (float(across.centroid.x), float(across.centroid.y))
    length = shapely.LineString([m.start[:2], m.end[:2]]).intersection(shape).length
    where = place_name(project, at)
    yield Finding(
        "clash",
        f"opening {hole.key} of {floor.name}, {where}",
        length,
        "mm",
        f"Beam {m.mark} runs {length_text(project, length)} through the {hole.use}"
        f" opening {hole.key} of"
        f" {floor.name}, {where}. Move the opening beside the beam,"
        " or end the beam at a header.",
        HostName("floor", floor.id),
        (m.id,),
        at,
    )


def _heads(checked: Checked) -> Iterable[Finding]:
    """Beams that come down into the head of a door or window they cross or run over."""
    project = checked.project
    beams = checked.structure.of(kinds.BEAM)
    if not beams:
        return
    tree = shapely.STRtree(polygons_of(beams))
    for wall in project.walls:
        if wall.bulge or not wall.openings:
            continue
        way = unit(sub(wall.end, wall.start))
        foot = wall_base(project, wall)
        for hole in wall.openings:
            a, b = add(wall.start, way, hole.at), add(wall.start, way, hole.at + hole.width)
            head, sill = foot + hole.sill + hole.height, foot + hole.sill
            for k in tree.query(
                shapely.LineString([a, b]).buffer(wall.thickness / 2), predicate="intersects"
            ).tolist():
                m = beams[k]
                low = m.solid.bounds()[0][2]
                if low < head - TOUCH and m.solid.top() > sill + TOUCH:
                    at: Point = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
                    yield Finding(
                        "clash",
                        f"{m.mark} and opening {hole.id}, {place_name(project, at)}",
                        head - low,
                        "mm",
                        f"Beam {m.mark} comes {run_text(project, head - low)} down into the head"
                        f" of the opening {hole.id} in"
                        f" {wall.name}, {place_name(project, at)}. Raise the beam, choose a"
                        " shallower one, or lower the head.",
                        m.host,
                        (m.id,),
                        at,
                    )


def _headroom(checked: Checked) -> Iterable[Finding]:
    """Beams one cannot walk under upright."""
    project = checked.project
    floors = sorted(x.elevation for x in column(project) if x.role in ("floor", "slab"))
    low_by_host: dict[HostName, list[tuple[float, Member]]] = {}
    for m in checked.structure.of(kinds.BEAM):
        bottom = min(z for _, z in m.solid.outline)
        under = [z for z in floors if z < bottom - STOREY]
        if under and bottom - under[-1] < HEADROOM - TOUCH:
            low_by_host.setdefault(m.host, []).append((bottom - under[-1], m))
    for host, items in low_by_host.items():
        room, m = min(items, key=lambda i: (i[0], i[1].id))
        at = place_of(m)
        yield Finding(
            "headroom",
            f"under {m.mark}, {place_name(project, at)}",
            HEADROOM - room,
            "mm",
            f"Under beam {m.mark} there are {length_text(project, room)},"
            f" {place_name(project, at)}; people need"
            f" {length_text(project, HEADROOM)}{us_clause(project, 'IRC R305.1')}."
            " Set it flush with the joists, or choose one"
            f" {run_text(project, HEADROOM - room)} shallower.",
            host,
            (m.id,),
            at,
        )


def _lifting(checked: Checked) -> Iterable[Finding]:
    """Ends that lift off under some arrangement of the loads."""
    project = checked.project
    for name, answer in checked.carrying.items():
        least = float(answer.effects.lifting.min())
        m = answer.asked.member
        # Hips are nailed at both ends, and their tails are no spans; what spans square to a ridge
        # is not loaded in part (ASCE 7-16 7.5.1, from memory).
        if least >= -LIFTS or m.kind in (kinds.HIP, kinds.VALLEY, kinds.RAFTER):
            continue
        rest = apart(m.carrier.supports)[int(answer.effects.lifting.argmin())]
        where = place_name(project, rest.point)
        yield Finding(
            "lifts",
            f"{m.mark}, {where}",
            -least,
            "N",
            f"{m.mark} lifts off its bearing by {format_force(-least, project.system)} when only"
            f" some spans are loaded, {where}."
            " Tie it down for that, or make the span beside it longer.",
            m.host,
            (name,),
            rest.point,
        )


def _walls_under_slabs(checked: Checked) -> Iterable[Finding]:
    """Walls that end a little under or over a slab's underside."""
    project = checked.project
    for floor in project.floors:
        body = build_up_of(project, floor)
        slabs = [
            m
            for m in checked.structure.of(kinds.FLOOR_SLAB)
            if m.host == HostName("floor", floor.id)
        ]
        if body.kind != "slab" or not slabs:
            continue
        slab = slabs[0]
        shape = shapely.Polygon(slab.solid.plan())
        bottom = slab.solid.origin[2]
        for wall in project.walls:
            by = wall_top(project, wall) - bottom
            middle = arc_middle(wall)
            if (
                TOUCH * 10 < abs(by) <= NEAR_TOP
                and wall_base(project, wall) < bottom
                and shape.contains(shapely.Point(middle))
            ):
                offset = round(bottom - level(project, wall.top).elevation, 6) + 0.0
                yield _wall_under(project, floor, wall.id, wall.name, by, middle, offset)


def _wall_under(
    project: Project, floor: FloorArea, key: str, name: str, by: float, middle: Point, offset: float
) -> Finding:
    what = "Cut" if by > 0 else "Raise"
    return Finding(
        "overlap" if by > 0 else "gap",
        f"wall {name} under {floor.name}",
        abs(by),
        "mm",
        f"Wall {name} ends {run_text(project, abs(by))} {'inside' if by > 0 else 'under'} the slab"
        f" of {floor.name},"
        f" {place_name(project, middle)}. {what} it to the slab's underside.",
        HostName("floor", floor.id),
        at=middle,
        mend=Mend(
            f"{what} wall {name} to the slab", partial(set_walls, keys=(key,), top_offset=offset)
        ),
    )


def _bores(checked: Checked) -> Iterable[Finding]:
    """Holes and notches past the limits of IRC R502.8.1, and those whose piece is gone."""
    project = checked.project
    by_id = {m.id: m for m in checked.structure.members} if project.bores else {}
    for bore in project.bores:
        m = by_id.get(bore.member)
        mend = Mend("Close it", partial(drop_bore, key=bore.id))
        if m is None:
            yield Finding(
                "lost change",
                f"{bore.kind} {bore.id}",
                1.0,
                "count",
                f"The {bore.kind} {bore.id} is in {bore.member}, which is no longer there. Close"
                " it, or bring the piece back.",
                bore.member.host,
                (),
                mend=mend,
            )
            continue
        clause = _clause_of_boring(checked, m)
        for fault, amount in bore_faults(checked, m, bore):
            way = direction_or(sub(m.end[:2], m.start[:2]), (0.0, 0.0))
            at = add(m.start[:2], way, bore.at)
            yield Finding(
                "bored",
                f"{m.mark}, {place_name(project, at)}",
                amount,
                "mm",
                f"The {bore.kind} of {run_text(project, bore.size)} in {m.mark},"
                f" {place_name(project, at)}, {fault}"
                f" ({clause}).",
                m.host,
                (m.id,),
                at,
                mend=mend,
            )


def _clause_of_boring(checked: Checked, m: Member) -> str:
    if checked.project.code != "us":
        return "common practice"
    if m.kind.of_wall:
        return "IRC R602.6"
    section = sections_of(checked.project.system, checked.project.products).get(m.section)
    return "IRC R502.8.2" if section is not None and section.product is not None else "IRC R502.8.1"


def bore_faults(checked: Checked, m: Member, bore: Bore) -> Iterable[tuple[str, float]]:
    """What is wrong with a hole or notch, with by how much, mm.

    Sawn lumber, IRC 2021 R502.8.1: a hole is at most a third of the depth and 2 in from both edges;
    a notch at most a sixth deep and outside the middle third, at an end a quarter. Glued and
    engineered wood is bored and notched as its maker allows, and not at all where that is not typed
    (R502.8.2).
    """
    project = checked.project
    section = sections_of(project.system, project.products).get(m.section)
    zs = [z for _, z in m.solid.outline]
    depth = max(zs) - min(zs)
    if not 0 <= bore.at <= m.length:
        yield "lies past the end of the piece", abs(bore.at - min(max(bore.at, 0.0), m.length))
    elif section is not None and section.family in STEEL:
        yield "is in steel, which is cut in the shop only: ask for it there", bore.size
    elif section is not None and section.product is not None:
        yield from _by_the_maker(bore, depth, section.product, project)
    elif m.kind.of_wall:
        yield from _in_stud(bore, m.solid.depth, project)
    elif bore.kind == "notch":
        yield from _notch(m, bore, depth, project)
    else:
        yield from _hole(bore, depth, project)


def _hole(bore: Bore, depth: float, project: Project) -> Iterable[tuple[str, float]]:
    """A hole in sawn lumber (IRC 2021 R502.8.1)."""
    if bore.size > depth / 3 + TOUCH / 2:
        third = run_text(project, depth / 3)
        yield f"is wider than a third of the depth, {third}", bore.size - depth / 3
    over, under = depth - bore.up - bore.size / 2, bore.up - bore.size / 2
    for word, edge in (("top", over), ("underside", under)):
        if edge < 2 * INCH - TOUCH / 2:
            left = run_text(project, max(0.0, edge))
            yield f"is {left} from the {word}; 2 in must stay", 2 * INCH - edge


def _in_stud(bore: Bore, depth: float, project: Project) -> Iterable[tuple[str, float]]:
    """A hole or notch in a stud, as of walls outside or that carry (IRC 2021 R602.6): a notch a quarter
    of the depth, a hole two fifths, 5/8 in from the faces."""
    share, words = (0.25, "a quarter") if bore.kind == "notch" else (0.4, "two fifths")
    if bore.size > share * depth + TOUCH / 2:
        limit = run_text(project, share * depth)
        yield f"is more than {words} of the stud’s depth, {limit}", bore.size - share * depth
    if bore.kind == "notch":
        return
    for edge in (depth - bore.up - bore.size / 2, bore.up - bore.size / 2):
        if edge < EDGE_OF_STUD - TOUCH / 2:
            left = run_text(project, max(0.0, edge))
            yield f"is {left} from a face; 5/8 in must stay", EDGE_OF_STUD - edge


EDGE_OF_STUD: Final = 0.625 * INCH
"""IRC 2021 R602.6."""


def _by_the_maker(
    bore: Bore, depth: float, product: Product, project: Project
) -> Iterable[tuple[str, float]]:
    """What is wrong with a hole or notch in a product, which its maker must allow (IRC 2021
    R502.8.2)."""
    if bore.kind == "notch" and product.family in BY_CAPACITY:
        yield "cuts a flange, which is never cut; bore the web instead", bore.size
        return
    share = product.boring.hole if bore.kind == "hole" else product.boring.notch
    if not share:
        yield (
            f"is not allowed by the maker of {product.id} as far as is known; type what its maker"
            " lets be cut",
            bore.size,
        )
    elif bore.size > share * depth + TOUCH / 2:
        yield (
            f"is more than {run_text(project, share * depth)}, which the maker allows",
            bore.size - share * depth,
        )


def _notch(m: Member, bore: Bore, depth: float, project: Project) -> Iterable[tuple[str, float]]:
    rests = apart(m.carrier.supports)
    first, last = (rests[0].at, rests[-1].at) if len(rests) > 1 else (0.0, m.length)
    third = (last - first) / 3
    at_end = bore.at < first + depth or bore.at > last - depth
    limit = depth / 4 if at_end else depth / 6
    share = "a quarter" if at_end else "a sixth"
    if bore.size > limit + TOUCH / 2:
        yield f"is deeper than {share} of the depth, {run_text(project, limit)}", bore.size - limit
    if first + third < bore.at < last - third:
        yield (
            "lies in the middle third of the span, where no notch may be",
            min(bore.at - first - third, last - third - bore.at),
        )
