"""Plans: what is seen from above at one tier, and the notes that belong on it at a scale."""

from collections import Counter
from collections.abc import Iterator
from math import atan2, cos, degrees, pi, sin
from typing import Any, Final

from msgspec.structs import replace

from balken.drawing.cut import from_above
from balken.drawing.dimensions import (
    Frame,
    chain,
    frame_round,
    grid_marks,
    grid_strings,
    grown,
    widened,
)
from balken.drawing.floor_plan import floor_marks, floor_notes
from balken.drawing.foundation_strings import (
    foundation_sides,
    foundation_strings,
    room_for_sides,
)
from balken.drawing.ground_plan import ground_marks, ground_notes
from balken.drawing.hand_dimensions import clouds, hand_dimensions
from balken.drawing.hand_notes import hand_notes
from balken.drawing.layout_strings import layout_strings, layouts_of
from balken.drawing.load_marks import heap_marks, heap_notes, load_marks, load_notes
from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke
from balken.drawing.outlines import outlines
from balken.drawing.placing import placed
from balken.drawing.reserve import reserve_notes
from balken.drawing.roof_plan import roof_marks, roof_notes, truss_marks
from balken.drawing.room_strings import room_strings
from balken.drawing.section_marks import section_marks
from balken.drawing.tiers import Tier
from balken.drawing.wall_figure import LAYER_FILLS
from balken.drawing.wall_notes import outline_strings, room_for_strings, wall_marks, whole_sides
from balken.framing import kinds
from balken.geometry.parts import lines_in
from balken.geometry.plane import (
    Point,
    add,
    direction_or,
    distance,
    dot,
    left,
    middle_of,
    sub,
    unit,
)
from balken.model.catalogue import sections_of
from balken.model.grids import grid_crossings
from balken.model.masonry import SLACK, allowance
from balken.model.names import HostName, ThingName, whole
from balken.model.project import Project, wall_base
from balken.model.walls import Module, Wall, WallBuildUp, straightened
from balken.recall import remembered
from balken.site.block_module import ModuleLength, block_walls, module_lengths
from balken.site.bodies import Body, bodies, layer_rings, lie_of, storey_outline, storey_walls
from balken.site.ground import contour_step, contours
from balken.units import format_length
from balken.works.building import Checked

STANDING: Final = (kinds.WALL_STUD, kinds.KING, kinds.JACK)
"""What of a wall's frame a plan cuts."""
AROUND: Final = 2500.0
"""The ground is drawn this far round a building, mm."""
REFERENCE_REACH: Final = 600.0
"""A slab of the architect's this near above a tier is shown on its plan, mm."""


def plan(checked: Checked, tier: Tier) -> Drawing:
    """The lines of a tier's plan, in the building's plan."""
    project = checked.project
    marks: list[Mark] = list(_laid_under(project, tier))
    members = [m for m in checked.structure.members if tier.holds(m.host)]
    if tier.kind == "walls":
        marks += walls_cut(storey_of(project, tier.walls_on), project.wall_build_ups)
        # On the plan a wall is one thing: its pieces are taken hold of in its elevation.
        marks += [replace(from_above(m), key=m.host) for m in members if m.kind in STANDING]
    elif tier.kind == "ground":
        marks += ground_marks(checked, members)
    elif tier.kind == "roof":
        marks += walls_faint(walls_reaching(project, tier))
        marks += roof_marks(checked, tier.hosts, members)
    else:
        marks += walls_faint(storey_of(project, tier.walls_on))
        marks += floor_marks(checked, members)
    marks += supports_on(checked, tier)
    marks += load_marks(project, tier) + heap_marks(checked, tier)
    return tuple(marks)


def storey_of(project: Project, base: str) -> tuple[Wall, ...]:
    """The walls that stand on a level."""
    return tuple(w for w in project.walls if w.base == base)


def walls_reaching(project: Project, tier: Tier) -> tuple[Wall, ...]:
    """The walls that reach up to the roofs of a tier, whatever they stand on; those of its
    storey where none does."""
    plates = {r.plate for r in project.roofs if tier.holds(HostName("roof", r.id))}
    return tuple(w for w in project.walls if w.top in plates) or storey_of(project, tier.walls_on)


def supports_on(checked: Checked, tier: Tier) -> list[Mark]:
    """Posts, pads and piers whose height lies in a tier: posts as cut end grain, pads
    hidden, piers cut."""
    found: list[Mark] = []
    sections = sections_of(checked.project.system, checked.project.products)
    for m in checked.structure.members:
        if m.host.kind != "support":
            continue
        low, high = m.start[2], m.end[2]
        in_ground = tier.kind == "ground" and m.kind in (kinds.PAD, kinds.PIER)
        if (
            not in_ground
            and min(high, tier.high) - max(low, tier.low)
            < min(high - low, tier.high - tier.low) / 2
        ):
            continue
        ring = m.solid.plan()
        if m.kind is kinds.PAD:
            found += [Patch(ring, "none", "none", m.id), Stroke((*ring, ring[0]), "hidden", m.id)]
        else:
            found.append(from_above(m, section=sections.get(m.section)))
    return found


def _laid_under(project: Project, tier: Tier) -> list[Mark]:
    """What of others lies under the plan: traced drawings, the architect's slabs and roofs,
    contours."""
    found = list(_traced(project, tier))
    for item in project.references:
        if tier.low - 1.0 <= item.top <= tier.high + REFERENCE_REACH or tier.kind == item.kind:
            key = ThingName("reference", item.id)
            found.append(Stroke((*item.outline, item.outline[0]), "hidden", key))
    if tier.kind == "ground" and len(project.spots) > 2:
        found += contour_marks(project)
    return found


def _traced(project: Project, tier: Tier) -> Iterator[Mark]:
    """The lines of drawings to trace, in the layers that are shown."""
    for drawing in project.backgrounds:
        if drawing.level in ("", tier.walls_on):
            for layer in (layer for layer in drawing.layers if layer.shown):
                yield from (Stroke(way, "beyond") for way in layer.lines)


@remembered
def walls_faint(walls: tuple[Wall, ...]) -> tuple[Mark, ...]:
    """Walls as a ground for what lies on them."""
    shapes = bodies(straightened(walls))
    marks: list[Mark] = [
        Patch(b.ring, "wall", "none", HostName("wall", whole(k))) for k, b in shapes.items()
    ]
    return (*marks, *(Stroke(ring, "hair") for ring in outlines([b.ring for b in shapes.values()])))


@remembered
def walls_cut(walls: tuple[Wall, ...], build_ups: tuple[WallBuildUp, ...]) -> tuple[Mark, ...]:
    """Draw walls cut, layer by layer where their layers are known; openings left white with their
    jambs, windows with the line of the glass, doors with the leaf."""
    marks: list[Mark] = []
    pieces = straightened(walls)
    shapes = bodies(pieces)
    known = {b.id: b for b in build_ups}
    rings = layer_rings(pieces, known)
    for piece in pieces:
        body = known.get(piece.build_up)
        core: Fill = "block" if body is not None and body.module else "wall"
        marks.append(Patch(shapes[piece.id].ring, core, "none", HostName("wall", whole(piece.id))))
        for role, ring in rings.get(piece.id, ()):
            if role != "core":
                marks.append(Patch(ring, LAYER_FILLS[role], "hair"))
    marks += [Stroke(ring, "cut") for ring in outlines([b.ring for b in shapes.values()])]
    for piece in pieces:
        marks += _openings(piece, shapes[piece.id])
    return tuple(marks)


def _openings(wall: Wall, body: Body) -> list[Mark]:
    direction = unit(sub(wall.end, wall.start))
    normal = left(direction)
    a = body.centre[0]
    offset = (a[0] - wall.start[0]) * normal[0] + (a[1] - wall.start[1]) * normal[1]
    half = wall.thickness / 2
    found: list[Mark] = []
    for hole in wall.openings:
        key = ThingName("opening", wall.id, hole.id)
        p = add(add(wall.start, direction, hole.at), normal, offset)
        q = add(p, direction, hole.width)
        ring = (
            add(p, normal, -half),
            add(q, normal, -half),
            add(q, normal, half),
            add(p, normal, half),
        )
        found.append(Patch(ring, "paper", "seen", key))
        if hole.kind == "window":
            found.append(Stroke((p, q), "beyond", key))
        elif hole.kind == "door":
            leaf = add(add(p, normal, half), normal, hole.width)
            arc = tuple(_arc(add(p, normal, half), leaf, add(q, normal, half)))
            found += [Stroke((add(p, normal, half), leaf), "beyond", key), Stroke(arc, "hair", key)]
    return found


def _arc(centre: Point, start: Point, end: Point) -> list[Point]:
    u, v = sub(start, centre), sub(end, centre)
    steps = 12
    return [
        (centre[0] + cos(t) * u[0] + sin(t) * v[0], centre[1] + cos(t) * u[1] + sin(t) * v[1])
        for t in (pi / 2 * i / steps for i in range(steps + 1))
    ]


def plan_notes(
    checked: Checked, tier: Tier, paper: float, *, reserve: bool = False, on_paper: bool = False
) -> Drawing:
    """Grid, dimensions and words of a tier's plan.

    Args:
        checked: the building.
        tier: the tier.
        paper: mm of building to a mm of paper (48 for 1/4" to the foot).
        reserve: with the numbers of how far pieces are used, in place of other words.
        on_paper: marks name the sheets of what they stand for.
    """
    project, system = checked.project, checked.project.system
    frame = plan_frame(checked, tier)
    if frame is None:
        return ()
    marks: list[Mark] = []
    building = _frame_round_all(checked, tier, frame)
    room = room_for_strings(project, tier, paper) + room_for_sides(checked, tier, building, paper)
    layouts = layouts_of(checked, tier, building)
    whole = widened(grown(building, room), *layouts.room(paper))
    for grid in project.grids:
        marks += grid_marks(grid, whole, paper, building)
        marks += grid_strings(grid, whole, paper, system)
    a, b, c, _ = frame.corners
    right, up = frame.right, frame.up
    down = (-up[0], -up[1])
    below = 10 * paper + max(_overhang(checked, tier), dot(sub(whole.corners[0], a), down))
    there = whole_sides(project, tier)
    if tier.kind == "ground":
        there = [distance(p, q) for p, q in foundation_sides(checked, tier)]
    if not any(abs(distance(a, b) - x) < 1.0 for x in there):
        marks += chain([a, b], down, below, paper, system, words="overall")
    if not any(abs(distance(b, c) - x) < 1.0 for x in there):
        away = 10 * paper + dot(sub(whole.corners[1], b), right)
        marks += chain([b, c], right, away, paper, system, words="overall")
    marks += section_marks(project, (building, whole), paper, on_paper=on_paper)
    marks += hand_notes(project, f"plan:{tier.id}", paper)
    marks += hand_dimensions(checked, tier, frame.turn, paper)
    marks += clouds(project, f"plan:{tier.id}", paper)
    if reserve:
        return placed((*marks, *reserve_notes(checked, tier)), paper)
    marks += floor_notes(checked, tier, paper)
    marks += load_notes(project, tier, paper) + heap_notes(checked, tier)
    if tier.kind == "roof":
        marks += roof_notes(checked, tier.hosts, paper, marks)
        marks += truss_marks(checked, tier.hosts, paper)
    marks += layout_strings(layouts, building, paper, system)
    if tier.kind == "ground":
        marks += ground_notes(
            checked, [m for m in checked.structure.members if tier.holds(m.host)], paper
        )
        marks += foundation_strings(checked, tier, frame, paper)
    if tier.kind == "walls":
        marks += module_notes(project, tier.walls_on, paper)
        marks += outline_strings(project, tier, paper)
        marks += room_strings(project, tier, frame, paper)
        marks += wall_marks(checked, tier, paper)
    return placed(tuple(marks), paper)


MOST_TICKS: Final = 500
"""More whole blocks than this are not marked along one wall."""
MOST_MODULES: Final = 400
"""So many lengths are noted on a plan; beyond that they would be black."""
MODULE_TEXT: Final = 2.5
"""Size of what is said about a length, mm on paper."""


def module_notes(project: Project, base: str, paper: float) -> list[Mark]:
    """The block module along each block wall: ticks at whole blocks from where it begins,
    and what is off."""
    walls = {w.id for w in project.walls if w.base == base}
    lengths = [x for x in module_lengths(project) if x.wall in walls][:MOST_MODULES]
    modules = {key: module for key, (_, module) in block_walls(project).items()}
    pieces = Counter(x.wall for x in lengths)
    longest = {x.wall: x.length for x in sorted(lengths, key=lambda x: x.length)}
    marks: list[Mark] = []
    for item in lengths:
        module = modules[item.wall]
        if not item.opening:
            marks += _module_ticks(item, module, paper)
        whole = item.length >= longest[item.wall]
        out = -5.4 if whole and pieces[item.wall] > 1 else -2.6
        marks += _module_words(project, item, module, (whole, out * paper), paper)
    return marks


def _module_ticks(item: ModuleLength, module: Module, paper: float) -> Iterator[Mark]:
    way = direction_or(sub(item.end, item.start), (1.0, 0.0))
    for k in range(min(MOST_TICKS, int(item.length / module.length) + 1)):
        p = add(item.start, way, k * module.length)
        yield Stroke((p, add(p, left(way), -0.7 * paper)), "hair")


def _module_words(
    project: Project,
    item: ModuleLength,
    module: Module,
    lies: tuple[bool, float],
    paper: float,
) -> list[Mark]:
    """What a length of block wall is off its module, or how many blocks it has; nothing where there
    is no room: the slip has it."""
    whole, out = lies
    off = abs(item.off) > SLACK
    if item.opening and not off:
        return []
    text = _off(project, item, whole) if off else _on_module(item, module)
    if len(text) * MODULE_TEXT * 0.6 * paper > item.length:
        return []
    way = direction_or(sub(item.end, item.start), (1.0, 0.0))
    angle = (degrees(atan2(way[1], way[0])) + 89.9) % 180 - 89.9
    at = add(middle_of(item.start, item.end), left(way), out)
    return [Label(text, at, MODULE_TEXT, angle=angle, quiet=not off, bold=off, boxed=True)]


def _off(project: Project, item: ModuleLength, whole: bool) -> str:
    fault = f"{format_length(abs(item.off), project.system)} {'over' if item.off > 0 else 'short'}"
    return f"{format_length(item.length, project.system)}, {fault}" if whole else fault


def _on_module(item: ModuleLength, module: Module) -> str:
    n = round((item.length - allowance(item.kind, module)) / module.length)
    joint = {"outside": f" − {module.joint:g}", "opening": f" + {module.joint:g}", "between": ""}[
        item.kind
    ]
    return f"{n} × {module.length:g}{joint}"


def contour_marks(project: Project) -> list[Mark]:
    """The ground's contours with their heights; under the building they end at its lowest
    walls."""
    from shapely import LineString, MultiPoint, Point, box

    footprint = _footprint(project)
    spots = [s.at for s in project.spots]
    spread = MultiPoint(spots) if footprint.is_empty else footprint
    around = box(*spread.buffer(AROUND).bounds)
    found: list[Mark] = []
    for height, lines in contours(project.spots, contour_step(project.spots, project.system)):
        for line in lines:
            outside = LineString(line).difference(footprint).intersection(around)
            pieces = list(lines_in(outside))
            found += [Stroke(tuple(p.coords), "beyond") for p in pieces]
            longest = max(pieces, key=lambda g: g.length, default=None)
            if longest is not None and longest.length > around.length / 20:
                spot = longest.interpolate(0.25, normalized=True)
                words = format_length(height, project.system)
                found.append(Label(words, (spot.x, spot.y), 2.5, quiet=True, boxed=True))
    shown = [p for p in map(Point, spots) if around.contains(p) and not footprint.contains(p)]
    return found + [Label("+", (p.x, p.y), 2.5, quiet=True) for p in shown]


def _footprint(project: Project) -> Any:
    """What the lowest walls enclose; empty where they enclose nothing."""
    from shapely import Polygon

    lowest = min((wall_base(project, w) for w in project.walls), default=0.0)
    walls = tuple(w for w in project.walls if wall_base(project, w) <= lowest + 1.0)
    return Polygon(storey_outline(straightened(walls)) or ())


def _frame_round_all(checked: Checked, tier: Tier, frame: Frame) -> Frame:
    """The frame round walls and all that stands or lies beside them on a plan: strings stand
    clear of it."""
    beside = [
        p for mark in supports_on(checked, tier) if isinstance(mark, Patch) for p in mark.ring
    ]
    return frame_round([*frame.corners, *beside], frame.turn) if beside else frame


def _overhang(checked: Checked, tier: Tier) -> float:
    shapes = (checked.structure.roofs.get(h) for h in tier.hosts)
    return max(
        (e.out for s in shapes if s for e in s.edges if e.rule.kind != "runs on"), default=0.0
    )


def plan_frame(checked: Checked, tier: Tier) -> Frame | None:
    """The frame of a plan: round the walls of a tier, else its members, along the way the
    building lies.

    Dimensions of a building that lies askew to the axes must run along its own walls.
    """
    walls = storey_walls(checked.project, tier.walls_on)
    points = _points_of(checked, tier, walls)
    return frame_round(points, lie_of(checked.project, walls)) if points else None


def _points_of(checked: Checked, tier: Tier, walls: tuple[Wall, ...]) -> list[Point]:
    """The corners of a tier's walls, else of its members, else the crossings of the grids."""
    project = checked.project
    shown = straightened(walls_reaching(project, tier)) if tier.kind == "roof" else walls
    corners = [p for b in bodies(shown).values() for p in b.ring]
    if corners:
        return corners
    members = [m for m in checked.structure.members if tier.holds(m.host)]
    if members:
        return [p for m in members for p in m.solid.plan()]
    return [p for g in project.grids for _, _, p in grid_crossings(g)]
