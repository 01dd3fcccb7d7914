"""Plans: what is seen from above at one tier, and the notes that belong on it at a scale."""

from math import atan2, cos, pi, radians, sin

from balken.design.building import Checked
from balken.drawing.dimensions import Frame, chain, frame_round, grid_heads
from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke
from balken.drawing.tiers import Tier
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, add, distance, left, sub, unit
from balken.model.bodies import Body, bodies, storey_walls
from balken.model.grids import Grid, grid_ends
from balken.model.project import Project
from balken.model.walls import Wall
from balken.units import System, format_length, format_run

_PENS = {"joist": "seen", "ceiling joist": "seen", "rafter": "seen", "rim": "seen", "ridge": "cut", "sill": "seen"}


def plan(checked: Checked, tier: Tier) -> Drawing:
    """Return the lines of a tier's plan, in the building's plan."""
    project = checked.project
    marks: list[Mark] = []
    members = [m for m in checked.structure.members if m.host == tier.id]
    if tier.kind == "walls":
        marks += _walls_cut(project, tier.walls_on)
    elif tier.kind == "ground":
        footings = [m for m in members if m.role == "footing"]
        stems = [m for m in members if m.role == "stem"]
        marks += [Patch(m.solid.plan(), "none", "none", m.id) for m in footings]
        marks += [Stroke(ring, "hidden") for ring in outlines([m.solid.plan() for m in footings])]
        marks += [Patch(m.solid.plan(), "concrete", "none", m.id) for m in stems]
        marks += [Stroke(ring, "cut") for ring in outlines([m.solid.plan() for m in stems])]
        marks += [Patch(m.solid.plan(), "none", "beyond", m.id) for m in members if m.role == "sill"]
    else:
        marks += _walls_faint(project, tier.walls_on)
        marks += [_member(m) for m in members if m.role != "subfloor"]
    return tuple(marks)


def _member(m: Member) -> Patch:
    return Patch(m.solid.plan(), "timber", _PENS.get(m.role, "seen"), m.id)  # type: ignore[arg-type]


def _walls_faint(project: Project, base: str) -> list[Mark]:
    shapes = bodies(storey_walls(project, base))
    marks: list[Mark] = [Patch(b.ring, "wall", "none", f"wall:{k}") for k, b in shapes.items()]
    return marks + [Stroke(ring, "hair") for ring in outlines([b.ring for b in shapes.values()])]


def outlines(rings: list[Ring]) -> list[tuple[Point, ...]]:
    """Return the closed lines round pieces that are one body where they touch, holes among them."""
    from shapely import Polygon, unary_union

    joined = unary_union([Polygon(ring).buffer(0.5, join_style="mitre") for ring in rings]).buffer(
        -0.5, join_style="mitre"
    )
    found: list[tuple[Point, ...]] = []
    for part in getattr(joined, "geoms", [joined]):
        if not part.is_empty:
            found += [tuple((x, y) for x, y in line.coords) for line in (part.exterior, *part.interiors)]
    return found


def _walls_cut(project: Project, base: str) -> list[Mark]:
    """Draw walls cut, openings left white with their jambs; windows with the line of the glass, doors with the leaf."""
    marks: list[Mark] = []
    walls = storey_walls(project, base)
    shapes = bodies(walls)
    for wall in walls:
        marks.append(Patch(shapes[wall.id].ring, "wall", "none", f"wall:{wall.id}"))
    marks += [Stroke(ring, "cut") for ring in outlines([b.ring for b in shapes.values()])]
    for wall in walls:
        marks += _openings(wall, shapes[wall.id])
    return marks


def _openings(wall: Wall, body: Body) -> list[Mark]:
    direction = unit(sub(wall.end, wall.start))
    normal = left(direction)
    a = body.centre[0]
    offset = (a[0] - wall.start[0]) * normal[0] + (a[1] - wall.start[1]) * normal[1]
    half = wall.thickness / 2
    found: list[Mark] = []
    for hole in wall.openings:
        p = add(add(wall.start, direction, hole.at), normal, offset)
        q = add(p, direction, hole.width)
        ring = (add(p, normal, -half), add(q, normal, -half), add(q, normal, half), add(p, normal, half))
        found.append(Patch(ring, "paper", "seen", f"wall:{wall.id}"))
        if hole.kind == "window":
            found.append(Stroke((p, q), "beyond"))
        elif hole.kind == "door":
            leaf = add(add(p, normal, half), normal, hole.width)
            arc = tuple(_arc(add(p, normal, half), leaf, add(q, normal, half)))
            found += [Stroke((add(p, normal, half), leaf), "beyond"), Stroke(arc, "hair")]
    return found


def _arc(centre: Point, start: Point, end: Point) -> list[Point]:
    u, v = sub(start, centre), sub(end, centre)
    steps = 12
    return [
        (centre[0] + cos(t) * u[0] + sin(t) * v[0], centre[1] + cos(t) * u[1] + sin(t) * v[1])
        for t in (pi / 2 * i / steps for i in range(steps + 1))
    ]


def plan_notes(checked: Checked, tier: Tier, paper: float) -> Drawing:
    """Return grid, dimensions and words of a tier's plan.

    Args:
        checked: the building.
        tier: the tier.
        paper: mm of building to a mm of paper (48 for 1/4" to the foot).
    """
    project, system = checked.project, checked.project.system
    frame = plan_frame(checked, tier)
    if frame is None:
        return ()
    marks: list[Mark] = []
    for grid in project.grids:
        marks += grid_heads(grid, frame, paper)
        marks += _grid_dimensions(grid, frame, paper, system)
    a, b, c, _ = frame.corners
    right, up = frame.right, frame.up
    below = 10 * paper + _overhang(checked, tier)
    marks += chain([a, b], (-up[0], -up[1]), below, paper, system, words="overall")
    marks += chain([b, c], right, 10 * paper, paper, system, words="overall")
    marks += _span_note(checked, tier, paper)
    return tuple(marks)


def _overhang(checked: Checked, tier: Tier) -> float:
    roof = next((r for r in checked.project.roofs if f"roof:{r.id}" == tier.id), None)
    return roof.overhang if roof else 0.0


def plan_frame(checked: Checked, tier: Tier) -> Frame | None:
    """Return the frame of a plan: round the walls of a tier, else its members, along the way the building lies.

    Dimensions of a building that lies askew to the axes must run along its own walls.
    """
    project = checked.project
    shapes = bodies(storey_walls(project, tier.walls_on))
    points = [p for b in shapes.values() for p in b.ring]
    if not points:
        points = [p for m in checked.structure.members if m.host == tier.id for p in m.solid.plan()]
    return frame_round(points, _lie(project, tier)) if points else None


def _lie(project: Project, tier: Tier) -> float:
    """Return the turn of a building, radians between -45° and 45°: of its grid, else of its longest wall."""
    turns = [radians(g.angle) for g in project.grids]
    walls = storey_walls(project, tier.walls_on)
    if not turns and walls:
        longest = max(walls, key=lambda w: (round(distance(w.start, w.end)), w.id))
        way = sub(longest.end, longest.start)
        turns = [atan2(way[1], way[0])]
    turn = turns[0] if turns else 0.0
    return (turn + pi / 4) % (pi / 2) - pi / 4


def _grid_dimensions(grid: Grid, frame: Frame, paper: float, system: System) -> list[Mark]:
    ends = [(line, *grid_ends(grid, line)) for line in grid.lines]
    found: list[Mark] = []
    _, _, c, d = frame.corners
    across = sorted((frame.local(a)[0], a) for line, a, _ in ends if line.runs == "y")
    along = sorted((frame.local(a)[1], a) for line, a, _ in ends if line.runs == "x")
    square = abs(sin(radians(grid.angle) - frame.turn)) < 1e-3
    if len(across) > 1 and square:
        found += chain([frame.plan((x, frame.local(c)[1])) for x, _ in across], frame.up, 8 * paper, paper, system)
    if len(along) > 1 and square:
        left = (-frame.right[0], -frame.right[1])
        found += chain([frame.plan((frame.local(d)[0], y)) for y, _ in along], left, 8 * paper, paper, system)
    return found


def _span_note(checked: Checked, tier: Tier, paper: float) -> list[Mark]:
    """Draw the span symbol with size and spacing, in the largest clear field of the members."""
    sized = checked.sizes.get(tier.id)
    pieces = [m for m in checked.structure.members if m.host == tier.id and m.area > 0]
    if sized is None or not pieces:
        return []
    _, middle = max(enumerate(pieces), key=lambda p: (round(p[1].run), -abs(p[0] - len(pieces) / 3)))
    a: Point = (middle.start[0], middle.start[1])
    b: Point = (middle.end[0], middle.end[1])
    way = unit(sub(b, a))
    side = left(way)
    inset = 0.14 * distance(a, b)
    p, q = add(a, way, inset), add(b, way, -inset)
    system = checked.project.system
    head = 2.2 * paper
    marks: list[Mark] = [
        Stroke((p, q), "cut"),
        Stroke((add(add(p, way, head), side, head * 0.45), p), "cut"),
        Stroke((add(add(q, way, -head), side, -head * 0.45), q), "cut"),
    ]
    centre = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
    right = (1.0, 0.0) if abs(way[1]) > abs(way[0]) else (0.0, 1.0)
    at = add(centre, right, 2.5 * paper)
    section = f"{tier.id.split(':')[1]}  {pretty(sized.size.section)} at {format_run(sized.size.spacing, system)}"
    marks.append(Label(section, add(at, (0, 1), 0.4 * paper), 2.8, "start", bold=True, boxed=True, key=tier.id))
    words = f"span {format_length(sized.span, system)}" if sized.span else "no span"
    marks.append(Label(words, add(at, (0, 1), -3.2 * paper), 2.4, "start", quiet=True, boxed=True, key=tier.id))
    return marks


def pretty(section: str) -> str:
    """Write a section with a multiplication sign."""
    return section.replace("x", "×")
