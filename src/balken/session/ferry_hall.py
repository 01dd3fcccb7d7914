"""The ferry hall, the second building that is shown: metric, on posts over an unequal grid.
Everything in it is made up.

A waiting hall with a gallery floor: glued beams along the lettered lines, secondary beams in the
bays between them, joists over these; at the quay end a solid slab with a round edge, over a ticket
office of block. The posts stand on pads, the inner ones higher than the outer.
"""

from math import radians, tan
from typing import Final

from msgspec.structs import replace

from balken.geometry.plane import Point
from balken.model.beams import BeamEnd
from balken.model.edits import move_level, rename_level, set_site
from balken.model.edits.beams import (
    beams_on_line,
    cells_of,
    fill_bays,
    put_beam,
    set_beams,
    usual_kind,
)
from balken.model.edits.common import checked
from balken.model.edits.floors import add_floor, add_opening
from balken.model.edits.foundations import place_foundation
from balken.model.edits.grids import straight_grid
from balken.model.edits.levels import add_level
from balken.model.edits.openings import add_opening as add_opening_in_wall
from balken.model.edits.paper import add_section
from balken.model.edits.roofs import add_roof
from balken.model.edits.supports import crossings_of, put_supports
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of, set_walls
from balken.model.floors import BuildUp
from balken.model.foundations import Chosen
from balken.model.labels import LabelRule
from balken.model.names import HostName, ThingName
from balken.model.new import empty_building
from balken.model.project import Project, Role
from balken.model.roofs import Trusses
from balken.model.usual import WOOD
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import Opening, arc_points
from balken.model.wind import Wind
from balken.units import KPA

ALONG: Final = (5400.0, 7200.0, 7200.0, 4800.0)
ACROSS: Final = (6000.0, 4800.0)
QUAY: Final = sum(ALONG[:3])
"""Where the slab begins, mm."""
LENGTH: Final = sum(ALONG)
WIDTH: Final = sum(ACROSS)
EDGE: Final = 70.0
"""How far the floor reaches past the outer lines, mm: its edge joists lie on the beams there."""
BULGE: Final = 0.3
"""Of the slab's round edge at the quay: its rise over half its chord."""
GALLERY: Final = 4000.0
EAVES: Final = 7200.0
PITCH: Final = 25.0
"""Of the roof, degrees."""
JOIST: Final = "38x235"
DECK: Final = 19.0
SLAB: Final = 260.0
WIND: Final = Wind(22_000.0, terrain="III")


def ferry_hall() -> Project:
    """The ferry hall."""
    project = set_site(
        empty_building("Ferry hall", "metric"), frost_depth=600.0, wind=WIND, blocked=True
    )
    project, keys = _levels(project)
    project = straight_grid(
        project, (0.0, 0.0), 0.0, ALONG, ACROSS, LabelRule("numbers"), LabelRule("letters"), "Hall"
    )
    project = _posts(project, keys)
    project = _office(project)
    project = _floors(_beams(project, keys["Gallery"]), keys["Gallery"])
    project = add_section(project, (16_000.0, -3000.0), (16_000.0, 16_000.0))[0]
    return _roof(project, keys["Eaves"])


def _levels(project: Project) -> tuple[Project, dict[str, str]]:
    project = rename_level(project, "L1", "Hall floor")
    project = move_level(
        rename_level(project, "P1", "Under the gallery"), "P1", GALLERY - DECK - 235.0
    )
    wanted: tuple[tuple[str, Role, float], ...] = (
        ("Ground line", "ground", -300.0),
        ("Under office footing", "footing_bottom", -1500.0),
        ("Office footing", "footing_top", -1200.0),
        ("Office foundation", "foundation_top", -100.0),
        ("Bottom of outer pads", "footing_bottom", -1500.0),
        ("Top of outer pads", "footing_top", -1100.0),
        ("Bottom of inner pads", "footing_bottom", -1250.0),
        ("Top of inner pads", "footing_top", -750.0),
        ("Gallery", "floor", GALLERY),
        ("Eaves", "plate", EAVES),
    )
    for name, role, height in wanted:
        project = add_level(project, role, name, height)
    return project, {x.name: x.id for x in project.levels}


def _posts(project: Project, keys: dict[str, str]) -> Project:
    """Square posts along the outer lines, deeper ones along the middle; each on a pad."""
    grid = project.grids[0].id
    middle = crossings_of(project, lines=[ThingName("grid", grid, "A2")])
    outer = [c for c in crossings_of(project) if c not in middle]
    rows = (
        (outer, "outer", "GL 280x480", (280.0, 480.0), (1650.0, 1650.0)),
        (middle, "inner", "GL 280x600", (280.0, 600.0), (2200.0, 2200.0)),
    )
    for at, word, section, size, pad in rows:
        low, high = keys[f"Bottom of {word} pads"], keys[f"Top of {word} pads"]
        project = put_supports(project, "pad", at, base=low, top=high, size=pad)
        # Their long side lies along the beams that meet on them.
        project = put_supports(
            project, "post", at, base=high, top="P1", size=size, section=section, turn=90.0
        )
    return project


def _office(project: Project) -> Project:
    """The ticket office of block under the slab, on a strip footing of its own, with its door and its
    counter on the module of the block."""
    there = {w.id for w in project.walls}
    corner = (QUAY + 1000.0, 1000.0)
    block = next(b for b in first_build_ups("metric") if b.module and len(b.layers) == 1)
    project = checked(project, wall_build_ups=(*project.wall_build_ups, block))
    kind = WallKind("L1", "P1", build_up=block.id, by="outer face", outside="right")
    ring = rectangle_of(corner, (corner[0] + 2990.0, corner[1] + 3390.0))
    project = draw_walls(project, kind, ring, closed=True)
    walls = [w.id for w in project.walls if w.id not in there]
    names = {x.name: x.id for x in project.levels}
    under = next(x.elevation for x in project.levels if x.id == "P1")
    project = set_walls(
        project, walls, top_offset=GALLERY - SLAB - under
    )  # up to the slab, which is deeper than the joists
    project = add_opening_in_wall(
        project, walls[0], Opening("", "door", 990.0, 1010.0, 2200.0, 0.0)
    )
    counter = Opening("", "window", 1190.0, 1010.0, 1200.0, 1000.0)
    project = add_opening_in_wall(project, walls[-1], counter)  # tickets are sold through it
    chosen = Chosen((530.0, 300.0), 190.0, sill="")
    return place_foundation(
        project,
        "strip",
        chosen,
        walls=walls,
        top=names["Office foundation"],
        base=names["Office footing"],
    )


def _beams(project: Project, level: str) -> Project:
    """Glued beams along the lettered lines and across at the land end, steel ones under the slab;
    secondary beams in the bays."""
    grid = project.grids[0].id
    main = usual_kind(project, sizes=("GL 280x600", "GL 280x720", "GL 280x800"))
    steel = usual_kind(project, sizes=("HEA 200", "HEA 240", "IPE 360"))
    for line in ("A1", "A2", "A3"):
        project, keys = beams_on_line(project, level, grid, line, main)
        last = HostName("beam", keys[-1])
        project = set_beams(project, [last], sizes=steel.sizes)
    side = usual_kind(project, sizes=("GL 160x400", "GL 160x480", "GL 160x560", "GL 200x600"))
    second = usual_kind(
        project, sizes=("GL 100x280", "GL 140x320", "GL 140x360", "GL 140x400", "GL 140x440")
    )
    across = {"N1": side, "N2": second, "N3": second, "N4": steel, "N5": steel}
    for number, kind in across.items():
        for a, b in (("A1", "A2"), ("A2", "A3")):
            ends = (BeamEnd(grid=grid, lines=(a, number)), BeamEnd(grid=grid, lines=(b, number)))
            project, _ = put_beam(project, level, *ends, kind)
    bays = [c for c in cells_of(project, grid) if c[2] != ("N4", "N5")]
    project, _ = fill_bays(project, level, bays, second, along=1, rule="maximum", spacing=1800.0)
    return project


def _roof(project: Project, level: str) -> Project:
    """Trusses over the hall, hipped at both ends, on glued beams all round; their posts stand on
    the beams of the gallery."""
    grid = project.grids[0].id
    ends = [
        c
        for c in crossings_of(project, lines=[ThingName("grid", grid, "A2")])
        if {"N1", "N4"} & set(c)
    ]
    sides = [c for c in crossings_of(project) if {"A1", "A3"} & set(c) and "N5" not in c]
    project = put_supports(
        project,
        "post",
        [*sides, *ends],
        base="P1",
        top=level,
        size=(240.0, 240.0),
        section="GL 240x240",
    )
    kind = usual_kind(
        project, sizes=("GL 160x400", "GL 160x480", "GL 160x560", "GL 200x600", "GL 200x680")
    )
    for line in ("A1", "A3"):  # they run past the end beams, which hang at their sides
        start, end = (BeamEnd(grid=grid, lines=(line, n)) for n in ("N1", "N4"))
        project, _ = put_beam(project, level, start, end, kind, out=(80.0, 80.0))
    for number in ("N1", "N4"):
        start, end = (BeamEnd(grid=grid, lines=(line, number)) for line in ("A1", "A3"))
        project, _ = put_beam(project, level, start, end, kind)
    low, east, north = -80.0, QUAY + 80.0, WIDTH + 80.0  # the outer faces of the beams
    project, _ = add_roof(
        project,
        level,
        corners=((low, low), (east, low), (east, north), (low, north)),
        framing="trusses",
        rise=12 * tan(radians(PITCH)),
        overhang=600.0,
        name="Hall",
        dead=0.4 * KPA,
        live=0.75 * KPA,
        snow=0.75 * KPA,
        trusses=Trusses(
            kind="double Fink",
            chords=("38x140", "38x184"),
            bottom_dead=0.2 * KPA,
            bottom_live=0.25 * KPA,
        ),
    )
    return project


def _floors(project: Project, level: str) -> Project:
    joists = BuildUp(
        "UJ",
        "floor",
        *WOOD["eu"][:2],
        (JOIST,),
        (400.0, 600.0),
        DECK,
        ceiling=12.5,
        insulation=160.0,
        blocking="bearings",
        lap=76.0,
    )
    slab = BuildUp("US", "floor", *WOOD["eu"][:2], (), (), kind="slab", slab=SLAB)
    project = checked(project, build_ups=(*project.build_ups, joists, slab))
    low, high = -EDGE, WIDTH + EDGE
    hall: tuple[Point, ...] = ((low, low), (QUAY, low), (QUAY, high), (low, high))
    project, key = add_floor(
        project,
        level,
        corners=hall,
        build_up="UJ",
        name="Gallery",
        span="x",
        dead=0.7 * KPA,
        live=3.0 * KPA,
        use="assembly, fixed seats",
    )
    project, _ = add_opening(project, key, "stair", at=(2700.0, 2600.0), size=(1050.0, 2900.0))
    round_edge = arc_points((LENGTH + EDGE, low), (LENGTH + EDGE, high), BULGE, 20.0)
    quay = ((QUAY, low), *((round(x, 3), round(y, 3)) for x, y in round_edge), (QUAY, high))
    project, _ = add_floor(
        project,
        level,
        corners=quay,
        build_up="US",
        name="Quay terrace",
        dead=1.0 * KPA,
        live=4.0 * KPA,
        use="assembly",
    )
    floors = tuple(replace(f, total_limit=300.0) for f in project.floors)
    return checked(project, floors=floors)
