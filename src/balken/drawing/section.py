"""The wall section in the ladder: what sits on what, from footing to ridge, at true height and
thickness.

Tier by tier the building is cut across the outside wall it stands over: just before a member that
bears on that wall, so that the member is seen behind the plane. Horizontal places are mm inward
from the outer face of the wall; heights are the building's.
"""

from collections import Counter
from collections.abc import Iterable, Iterator
from typing import Final, NamedTuple

import msgspec

from balken.drawing.cut import EDGE, Body, View, body_of, outline_seen, rings_cut, wall_bodies
from balken.drawing.marks import Drawing, Fill, Mark, Patch, Stroke, rectangle
from balken.drawing.tiers import Tier, tiers
from balken.drawing.wall_elevation import pieces_of
from balken.fit.finding import Finding
from balken.framing import kinds
from balken.framing.ground.anchors import EMBEDDED
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.runs import sides_of
from balken.framing.member import Member
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    box,
    direction_or,
    dot,
    left,
    middle_of,
    sub,
    unit,
)
from balken.model.foundations import FoundationRun, walls_on
from balken.model.names import HostName, Name, wall_below, whole
from balken.model.project import Project, level
from balken.model.stacked import stacked
from balken.model.walls import Wall, direction_of, reach
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.works.building import Checked

INWARD: Final = 1150.0
"""So far into the room the section goes, mm."""
OUTWARD: Final = 1200.0
"""So far outside the wall, mm."""
BROAD: Final = (kinds.SUBFLOOR, kinds.FLOOR_SLAB, kinds.SLAB)
"""What reaches far to the sides of its axis."""
WIDEST: Final = 1500.0
"""Nothing else reaches further to the side of its axis, mm."""
STANDING: Final = (kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM)
"""What of a foundation runs along under a wall."""
BEFORE: Final = 10.0
"""The plane lies so far before the member that is seen, mm."""
NUT: Final = 20.0
"""A bolt stands over its sill by so much, mm."""
HOOK: Final = 45.0
"""Its foot is bent so far, mm."""
EARTH: Final = 420.0
"""The ground is hatched so deep, mm."""
DEEP: Final = 300.0
"""What lies further behind the plane is left out, mm: the next joist stands there."""
PLATES: Final = (kinds.BOTTOM_PLATE, kinds.TOP_PLATE, kinds.GABLE_PLATE, kinds.RAKE_PLATE)
"""What a cut between two studs goes through."""


class SectionPart(msgspec.Struct, frozen=True):
    """A part of the section and the tier it belongs to."""

    tier: Name | None
    mark: Mark


class Plane(NamedTuple):
    """An upright plane across a wall, and where the wall's outer face lies in it, mm."""

    view: View
    face: float

    def shifted(self, ring: Ring) -> Ring:
        """An outline in the plane, from the face of the wall."""
        return tuple((x - self.face, z) for x, z in ring)


class Looked(NamedTuple):
    """What the section shows: the walls it goes through, one of each storey, the foundation under
    them, and whether that foundation carries no floor: a wing, a terrace."""

    walls: tuple[Wall, ...]
    run: FoundationRun | None
    apart: bool


def wall_section(
    checked: Checked, findings: tuple[Finding, ...], foundation: Name | None = None
) -> tuple[SectionPart, ...]:
    """The section through an outside wall that carries joists, on its foundation or on the
    one that is named."""
    looked = _looked(checked, foundation)
    parts = [SectionPart(None, mark) for mark in _ground(checked.project)]
    for tier in tiers(checked):
        if not looked.apart or tier.kind in ("ground", "walls"):
            parts += [SectionPart(tier.id, mark) for mark in _tier(checked, tier, looked)]
    if not any(f.walls for f in checked.project.floors):
        parts += [SectionPart(None, mark) for mark in _post_and_beam(checked)]
    return (*parts, *_misfits(findings))


def _misfits(findings: tuple[Finding, ...]) -> Iterator[SectionPart]:
    """Gaps and overlaps in height."""
    for finding in findings:
        if finding.height and finding.kind in ("gap", "overlap"):
            low, high = finding.height
            misfit = Patch(rectangle(0, low, INWARD, high), "misfit", "none")
            yield SectionPart(finding.host, misfit)


def section_drawing(parts: tuple[SectionPart, ...]) -> Drawing:
    """The marks alone."""
    return tuple(p.mark for p in parts)


def _tier(checked: Checked, tier: Tier, looked: Looked) -> list[Mark]:
    """What of a tier the section goes through, and what it sees just behind."""
    if tier.kind == "walls":
        return [m for w in looked.walls if w.base == tier.key for m in _wall(checked, w)]
    hosts, across = tier.hosts, _plane
    if tier.kind == "ground" and looked.run is not None:
        hosts, across = (HostName("run", looked.run.id),), _plane_of_run
    members = [m for m in checked.structure.members if m.host in hosts]
    plane = across(checked.project, looked, members)
    if plane is None:
        return []
    near = [m for m in members if _is_near(m, plane.view)]
    bodies = [body_of(checked, m) for m in near]
    sills = [body for m, body in zip(near, bodies) if m.kind is kinds.SILL]
    return [
        *_layers(checked, tier, members),
        *_cut_and_seen(bodies, plane),
        *_bolts(sills, plane),
    ]


def _is_near(m: Member, view: View) -> bool:
    """Whether a member may be cut or seen, by its axis: most of a building is far away."""
    if m.kind in BROAD:
        return True
    ends = view.deep(m.start[:2]), view.deep(m.end[:2])
    return min(ends) - WIDEST < DEEP and max(ends) + WIDEST > 0.0


def _bolts(sills: Iterable[Body], plane: Plane) -> Iterator[Mark]:
    """An anchor bolt through the middle of each sill that is cut."""
    cut = (ring for s in sills if s.is_cut(plane.view) for ring in rings_cut(s, plane.view))
    for ring in filter(None, (_near_wall(plane.shifted(r)) for r in cut)):
        x0, low, x1, high = box(ring)
        x, foot = (x0 + x1) / 2, low - EMBEDDED
        yield Stroke(((x, foot), (x, high + NUT)), "seen")
        yield Stroke(((x, foot), (x + HOOK, foot)), "seen")


def _cut_and_seen(bodies: Iterable[Body], plane: Plane) -> list[Mark]:
    """Bodies near the wall: first what is seen behind the plane, the farthest first, then what
    it cuts."""
    seen: list[tuple[float, Mark]] = []
    cut: list[Mark] = []
    for body in bodies:
        near, far = body.depths(plane.view)
        if near < -EDGE < EDGE < far:
            rings = [_near_wall(plane.shifted(r)) for r in rings_cut(body, plane.view)]
            cut += [
                Patch(ring, _cut_fill(body, plane, ring), "cut", None) for ring in rings if ring
            ]
        elif 0.0 <= near < DEEP:
            ring = _near_wall(plane.shifted(outline_seen(body, plane.view)))
            if ring:
                seen.append((near, Patch(ring, body.fill, "seen", None)))
    return [mark for _, mark in sorted(seen, key=lambda s: -s[0])] + cut


def _cut_fill(body: Body, plane: Plane, ring: Ring) -> Fill:
    """Timber that is cut across shows its grain, a wall of studs what fills it."""
    if body.fill == "wall":
        return "insulation"
    near, far = body.depths(plane.view)
    x0, _, x1, _ = box(ring)
    is_across = body.fill == "timber" and x1 - x0 < far - near
    return "end grain" if is_across else body.fill


def _near_wall(ring: Ring) -> Ring:
    """What of an outline lies in the section, cut off outside and in the room."""
    return _left_of(_right_of(ring, -OUTWARD), INWARD)


def _right_of(ring: Ring, limit: float) -> Ring:
    mirrored = _left_of(tuple((-x, z) for x, z in ring), -limit)
    return tuple((-x, z) for x, z in mirrored)


def _left_of(ring: Ring, limit: float) -> Ring:
    """What of an outline lies to the left of an upright line."""
    found: list[Point] = []
    for (x0, z0), (x1, z1) in zip(ring, (*ring[1:], *ring[:1])):
        if x0 <= limit:
            found.append((x0, z0))
        if (x0 <= limit) != (x1 <= limit):
            found.append((limit, z0 + (limit - x0) / (x1 - x0) * (z1 - z0)))
    return tuple(found) if len(found) > 2 else ()


def _plane(project: Project, looked: Looked, members: list[Member]) -> Plane | None:
    """The plane that shows members best: across a wall of the section that one of them bears on,
    else along one that spans elsewhere, else through the wall's middle."""
    for wall in looked.walls:
        bearing = [m for m in members if _bears_on(m, wall)]
        if bearing:
            return _before(_across(project, wall), _middlemost(bearing, wall))
    spanning = next((m for m in members if m.kind.spans and m.carrier.supports), None)
    if spanning is not None:
        return _along(spanning)
    return _across(project, looked.walls[0]) if looked.walls else None


def _bears_on(m: Member, wall: Wall) -> bool:
    return any(wall_below(s.on) == wall.id for s in m.carrier.supports)


def _plane_of_run(project: Project, looked: Looked, members: list[Member]) -> Plane | None:
    """The plane through the longest piece of a foundation, under a wall of the section where it
    stands there."""
    pieces = [m for m in members if m.run > 0 and m.kind in STANDING]
    if not pieces:
        return None
    shown = [w.id for w in looked.walls]
    exposed = set(dict(sides_of(project, looked.run))) if looked.run else set()
    long = max(pieces, key=lambda m: (whole(m.id.row) in shown, m.id.row in exposed, m.run, m.id))
    wall = next((w for w in project.walls if w.id == whole(long.id.row) and not w.bulge), None)
    if wall is None:
        return _through(long)
    plane = _across(project, wall)
    middle = middle_of(long.start[:2], long.end[:2])
    return plane._replace(view=msgspec.structs.replace(plane.view, cut=middle))


def _across(project: Project, wall: Wall) -> Plane:
    """The plane across the middle of a wall, looking along it, the room to the right."""
    storey = storey_walls(project, wall.base)
    side = outer_sides(storey, storey_outline(storey)).get(wall.id, 1)
    way = direction_of(wall)
    outer = add(wall.start, left(way), reach(wall)[0 if side > 0 else 1])
    inward = left(way) if side < 0 else left(left(left(way)))
    view = View(inward, left(inward), _solid_place(wall))
    return Plane(view, view.along(outer))


def _solid_place(wall: Wall) -> Point:
    """A place along a wall clear of its openings, as near to the middle as may be."""
    way = direction_of(wall)
    half = dot(sub(middle_of(wall.start, wall.end), wall.start), way)
    beside = [x for h in wall.openings for x in (h.at - DEEP, h.at + h.width + DEEP)]
    clear = [x for x in (half, *beside) if 0 < x < 2 * half and not _in_opening(wall, x)]
    return add(wall.start, way, min(clear, key=lambda x: (abs(x - half), x), default=half))


def _in_opening(wall: Wall, along: float) -> bool:
    return any(h.at < along < h.at + h.width for h in wall.openings)


def _middlemost(members: list[Member], wall: Wall) -> Member:
    middle, way = middle_of(wall.start, wall.end), direction_of(wall)
    return min(members, key=lambda m: (abs(dot(sub(m.start[:2], middle), way)), m.id))


def _before(plane: Plane, member: Member) -> Plane:
    """A plane moved to just before a member."""
    near, _ = Body(member.solid, "none", member.id).depths(plane.view)
    assert plane.view.cut is not None
    cut = add(plane.view.cut, plane.view.ahead, near - BEFORE)
    return plane._replace(view=msgspec.structs.replace(plane.view, cut=cut))


def _along(member: Member) -> Plane:
    """The plane along a member that bears on no wall of the section, from its first support on."""
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    way = unit(sub(member.end[:2], member.start[:2]))
    view = View(way, left(way), member.start[:2])
    bearing = first if first.on is not None else last
    return _before(Plane(view, view.along(bearing.point) - bearing.length / 2), member)


def _through(member: Member) -> Plane:
    """The plane across the middle of a member that lies along no wall."""
    way = unit(sub(member.end[:2], member.start[:2]))
    right = left(left(left(way)))
    view = View(right, left(right), middle_of(member.start[:2], member.end[:2]))
    return Plane(view, min(view.along(p) for p in member.solid.plan()))


def _wall(checked: Checked, wall: Wall) -> list[Mark]:
    """A wall cut through between two studs: the layers that are known, outside in, and its plates."""
    project, plane = checked.project, _across(checked.project, wall)
    storey = tuple(w for w in project.walls if w.base == wall.base)
    mine = [b for b in wall_bodies(project, storey) if b.key == HostName("wall", wall.id)]
    pieces = [m for m in pieces_of(checked, HostName("wall", wall.id)) if m.kind in PLATES]
    plates = [body_of(checked, m) for m in pieces if _is_near(m, plane.view)]
    return _cut_and_seen(mine, plane) + _cut_and_seen(plates, plane)


def _layers(checked: Checked, tier: Tier, members: list[Member]) -> list[Mark]:
    """What fills and closes the bays of a floor behind the joist that is seen: insulation, and the
    board under it."""
    project = checked.project
    joists = [m for m in members if m.kind in (kinds.JOIST, kinds.CEILING_JOIST)]
    floor = next((f for f in project.floors if HostName("floor", f.id) in tier.hosts), None)
    if floor is None or not joists:
        return []
    build_up = build_up_of(project, floor)
    low = joists[0].solid.bounds()[0][2]
    found: list[Mark] = []
    if build_up.ceiling:
        inner = max((w.thickness for w in project.walls), default=0.0)
        board = rectangle(inner, low - build_up.ceiling, INWARD, low)
        found.append(Patch(board, "board", "seen"))
    if build_up.insulation:
        thick = min(build_up.insulation, joists[0].solid.top() - low)
        bay = rectangle(INWARD * 0.55, low, INWARD, low + thick)
        found.append(Patch(bay, "insulation", "none"))
    return found


def _post_and_beam(checked: Checked) -> Iterator[Mark]:
    """A post of each height with its pad and the beam on it: what stands where no wall does."""
    posts = checked.structure.of(kinds.POST)
    beams, pads = checked.structure.of(kinds.BEAM), checked.structure.of(kinds.PAD, kinds.PIER)
    for post in {round(m.end[2], -2): m for m in reversed(posts)}.values():
        over = [m for m in beams if any(s.on == post.id for s in m.carrier.supports)][:1]
        under = [m for m in pads if m.start[:2] == post.start[:2]]
        shown = [body_of(checked, m) for m in (post, *under, *over)]
        yield from _cut_and_seen(shown, _beside_post(post, over))


def _beside_post(post: Member, over: list[Member]) -> Plane:
    """The plane across the beam on a post, just before the post."""
    ahead = (1.0, 0.0)
    if over:
        ahead = direction_or(sub(over[0].end[:2], over[0].start[:2]), ahead)
    view = View(left(left(left(ahead))), ahead, post.start[:2])
    return _before(Plane(view, min(view.along(p) for p in post.solid.plan())), post)


def _ground(project: Project) -> list[Mark]:
    ground = next((x.elevation for x in project.levels if x.role == "ground"), None)
    if ground is None:
        return []
    earth = rectangle(-OUTWARD, ground - EARTH, 0.0, ground)
    line = ((-OUTWARD - 50.0, ground), (0.0, ground))
    return [Patch(earth, "earth", "none"), Stroke(line, "cut")]


def _looked(checked: Checked, foundation: Name | None) -> Looked:
    """What the section shows, with the foundation that is asked for."""
    project = checked.project
    run = _foundation_shown(checked, foundation)
    if run is not None and _stands_apart(project, run, foundation):
        return Looked(_stacked_on(project, run), run, True)
    bases = dict.fromkeys(w.base for w in project.walls)
    upward = sorted(bases, key=lambda base: level(project, base).elevation)
    return Looked(tuple(_carrying_wall(checked, base) for base in upward), run, False)


def _stacked_on(project: Project, run: FoundationRun) -> tuple[Wall, ...]:
    """The first wall on a foundation and those that stand over it."""
    first = next((w for w in project.walls if w.id in walls_on(run)), None)
    if first is None:
        return ()
    over = {w.id for w in stacked(project, first)} - {first.id}
    return (first, *(w for w in project.walls if w.id in over))


def _carrying_wall(checked: Checked, base: str) -> Wall:
    """The outside wall of a storey that most members bear on."""
    walls = storey_walls(checked.project, base)
    outer = set(outer_sides(walls, storey_outline(walls)))
    bearing = Counter(
        wall_below(s.on) for m in checked.structure.members for s in m.carrier.supports
    )
    mine = [w for w in checked.project.walls if w.base == base]
    return max(mine, key=lambda w: (w.id in outer, bearing[w.id], w.id))


def _stands_apart(project: Project, run: FoundationRun, wanted: Name | None) -> bool:
    """Whether the foundation that is looked at carries none of the floors: a wing, a terrace."""
    on = set(walls_on(run))
    named = HostName("run", run.id) == wanted
    return named and not any(on & set(f.walls) for f in project.floors)


def _foundation_shown(checked: Checked, wanted: Name | None) -> FoundationRun | None:
    """The foundation that is looked at, else that under the wall that is shown."""
    project = checked.project
    named = [r for r in project.runs if HostName("run", r.id) == wanted]
    under: list[FoundationRun] = []
    if project.walls:
        lowest = min((level(project, w.base) for w in project.walls), key=lambda x: x.elevation)
        wall = _carrying_wall(checked, lowest.id)
        under = [r for r in project.runs if wall.id in walls_on(r)]
    return next(iter((*named, *under, *project.runs)), None)
