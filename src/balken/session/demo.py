"""The bakehouse as it is shown: the main block on footings that step down falling ground, a part
basement for flour, a loading wing on a slab with a thickened edge, the posts of its hoist on pads,
a roof of rafters that one of trusses runs into. Everything in it is made up."""

from msgspec.structs import replace

from balken.model.beams import BeamEnd
from balken.model.cases import Cases
from balken.model.edits import set_run, set_site
from balken.model.edits.beams import put_beam, usual_kind
from balken.model.edits.floors import add_opening
from balken.model.edits.foundations import place_foundation
from balken.model.edits.levels import add_level, move_level
from balken.model.edits.others import set_spots
from balken.model.edits.paper import add_section
from balken.model.edits.roofs import add_roof, add_roof_opening, hip_or_gable, set_roof
from balken.model.edits.supports import put_support
from balken.model.edits.wall_frames import frame_walls, rule_studs, rule_studs_of
from balken.model.edits.walls import WallKind, draw_walls
from balken.model.foundations import Chosen
from balken.model.project import Project, Role, Spot, wall
from balken.model.roofs import Rafters, RoofSide
from balken.session.building import demo_project
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, PLF

WING = (
    (20 * FOOT, 26 * FOOT),
    (20 * FOOT, 46 * FOOT),
    (36 * FOOT, 46 * FOOT),
    (36 * FOOT, 26 * FOOT),
)
"""The corners of the loading wing that stand free of the main block."""
HIGH = -17.5 * INCH
"""The ground at the east end, 6 in under the top of the foundation."""
FALLS = 4 * FOOT
"""From the east end to the west end."""


def shown_demo() -> Project:
    """The invented demo building as people first see it, its walls framed."""
    project = frame_walls(bakehouse(demo_project()), is_masonry)
    outside = wall(project, "W1").build_up
    project = rule_studs(project, outside, batts="mineral wool")
    project = add_section(project, (20 * FOOT, -4 * FOOT), (20 * FOOT, 50 * FOOT))[0]
    project = add_section(project, (-4 * FOOT, 19 * FOOT), (40 * FOOT, 19 * FOOT))[0]
    # The walls of the wing pass a floor: their ends are posts that panels push and pull.
    return rule_studs_of(project, ["W1", "W3"], end_studs=2)


def ground_height(x: float, y: float) -> float:
    """The made-up height of the ground, mm: level round the wing, falling west along the
    main block."""
    length = 36 * FOOT
    begins = length * (0.9 if y < 20 * FOOT else 0.55)
    fall = FALLS * min(1.2, max(0.0, (begins - x) / begins))
    roll = 40.0 * ((x / FOOT * 7 + y / FOOT * 11) % 5 - 2) / 2
    return HIGH - fall - (40.0 + roll if fall > 0 else 0.0)


def bakehouse(first: Project) -> Project:
    """The whole bakehouse from its first structure, the main block on level footings."""
    step = 6 * FOOT
    spots = [
        Spot((i * step, j * step), round(ground_height(i * step, j * step), 1))
        for i in range(-2, 9)
        for j in range(-2, 11)
    ]
    project = set_spots(first, spots)
    project = set_site(project, frost_depth=24 * INCH)
    project = set_run(project, "G1", footing_width=24 * INCH)
    project = move_level(project, "FB", -66 * INCH)
    project = move_level(project, "FT", -56 * INCH)
    project = move_level(project, "GR", HIGH)
    levels: tuple[tuple[str, Role, float], ...] = (
        ("Basement slab", "slab", -100 * INCH),
        ("Basement footing", "footing_top", -104 * INCH),
        ("Under basement footing", "footing_bottom", -117 * INCH),
        ("Top of pads", "footing_top", -5 * INCH),
        ("Bottom of pads", "footing_bottom", -17 * INCH),
    )
    for name, role, height in levels:
        project = add_level(project, role, name, height)
    keys = {x.name: x.id for x in project.levels}
    project = _basement(project, keys)
    project = _wing(project)
    return _roofs(_over_the_wing(_openings(_posts(_grid_past_the_wing(project), keys))))


def _basement(project: Project, keys: dict[str, str]) -> Project:
    """Under the south-west corner, between grid lines 1 and 2, A and B."""
    i = INCH
    chosen = Chosen((36 * i, 13 * i), 10 * i, 4 * i, sill="2x6")
    before = {r.id for r in project.runs}
    corner = [(0.0, 0.0), (4064.0, 0.0), (4064.0, 3962.4), (0.0, 3962.4), (0.0, 0.0)]
    project = place_foundation(
        project,
        "basement",
        chosen,
        path=corner,
        top="TF",
        base=keys["Basement footing"],
        slab_level=keys["Basement slab"],
    )
    # The soil pushes the tops of its walls into the floor, through bolts closer than the rule's six
    # feet.
    cellar = next(r.id for r in project.runs if r.id not in before)
    return set_run(project, cellar, bolts_apart=30 * i)


def _wing(project: Project) -> Project:
    before = {w.id for w in project.walls}
    kind = WallKind("L1", "P2", build_up="X1", by="outer face", outside="left")
    project = draw_walls(project, kind, WING)  # as high as the main block: one line of eaves
    walls = [w.id for w in project.walls if w.id not in before]
    chosen = Chosen(slab=5 * INCH, edge=(12 * INCH, 60 * INCH), sill="2x6")
    return place_foundation(project, "slab edge", chosen, walls=walls)


def _grid_past_the_wing(project: Project) -> Project:
    """Let the numbered grid lines run on past the wing, so that their heads stand free of it."""
    of = project.grids[0]
    lines = tuple(replace(x, end=51 * FOOT) if x.runs == "y" else x for x in of.lines)
    return replace(project, grids=(replace(of, lines=lines), *project.grids[1:]))


def _posts(project: Project, keys: dict[str, str]) -> Project:
    """Two posts along the middle of the wing, each on a pad of its own under the slab."""
    low, high = keys["Bottom of pads"], keys["Top of pads"]
    for y in (32.5 * FOOT, 39.5 * FOOT):
        spot = (28 * FOOT, y)
        project = put_support(project, "pad", spot, base=low, top=high, size=(36 * INCH, 36 * INCH))
        project = put_support(project, "post", spot, base=high, top="P1")
    return project


def _openings(project: Project) -> Project:
    """In the floor over the bakery the stair, and the flue of the oven; as wide as leaves their
    trimmers on the layout."""
    wide, flue = 46.5 * INCH, 26.5 * INCH
    project, _ = add_opening(
        project, "F2", "stair", at=(344 * INCH, 6 * FOOT), size=(wide, 9.5 * FOOT)
    )
    project, _ = add_opening(
        project, "F2", "chimney", at=(112 * INCH, 19 * FOOT), size=(flue, flue)
    )
    return project


def _over_the_wing(project: Project) -> Project:
    """A beam along the middle of the wing on its posts, for the hoist over the loading floor."""
    kind = usual_kind(project, sizes=("3-2x8", "3-2x10", "3-2x12", "4-2x12"), set="on")
    ends = BeamEnd((28 * FOOT, 40.5 * FOOT)), BeamEnd((28 * FOOT, 31.5 * FOOT))
    loads = Cases(120 * PLF, 250 * PLF)
    return put_beam(project, "P1", *ends, kind, loads=loads)[0]


def _roofs(project: Project) -> Project:
    """Over the main block rafters, a hip at the east end, a gable at the west, two skylights to the
    south; over the wing trusses, a gable at their north end, running on to the main roof in two
    valleys."""
    project = set_roof(
        project, "R1", rake=12 * INCH, rafters=Rafters(collar="every second", fascia="2x8")
    )
    project = hip_or_gable(project, "R1", "W202")
    for x in (9.0 * FOOT, 17.0 * FOOT):
        project, _ = add_roof_opening(project, "R1", (x, 6.2 * FOOT), (38 * INCH, 46 * INCH))
    walls = [w.id for w in project.walls if w.base == "L1" and w.top == "P2"]
    x0, y0, x1, y1 = 20 * FOOT, 26 * FOOT, 36 * FOOT, 46 * FOOT
    project, key = add_roof(
        project,
        "P2",
        walls,
        corners=((x0, y0), (x1, y0), (x1, y1), (x0, y1)),
        framing="trusses",
        rake=12 * INCH,
        sides=(RoofSide("1", "runs on"), RoofSide(walls[1], "gable")),
    )
    return set_roof(project, key, name="Wing")
