"""Architects' files whole: layers, types, several buildings, wrong elevations, curved grids, slabs
and roofs."""

import math
from pathlib import Path
from typing import Any

import pytest
from architect import Architect, box
from click.testing import CliRunner

from balken.cli import main
from balken.exchange.files import FileError
from balken.exchange.ifc_curve import ShapeError, arc_through
from balken.exchange.ifc_in import other_buildings, take
from balken.exchange.ifc_layers import build_up_of, role_of
from balken.exchange.native import load
from balken.model.grids import crossing, grid_crossings, row_of
from balken.model.project import Project, level
from balken.model.walls import arc_of, layer_bands, name_of, reach, wall_length
from balken.site.bodies import storey_outline


def read(a: Architect, tmp_path: Path, building: str = "") -> Project:
    path = tmp_path / "a.ifc"
    path.write_text(a.f.to_string())
    return take(path, building)


def layer_set(a: Architect, *layers: tuple[str, float]) -> Any:
    made = [
        a.f.create_entity(
            "IfcMaterialLayer",
            Material=a.f.create_entity("IfcMaterial", Name=n),
            LayerThickness=t / a.mm,
        )
        for n, t in layers
    ]
    return a.f.create_entity("IfcMaterialLayerSet", MaterialLayers=made, LayerSetName="wall")


def usage(a: Architect, layers: Any, sense: str = "POSITIVE", offset: float = 0.0) -> Any:
    return a.f.create_entity(
        "IfcMaterialLayerSetUsage",
        ForLayerSet=layers,
        LayerSetDirection="AXIS2",
        DirectionSense=sense,
        OffsetFromReferenceLine=offset / a.mm,
    )


def give(a: Architect, products: list[Any], material: Any) -> None:
    a.make("IfcRelAssociatesMaterial", RelatedObjects=products, RelatingMaterial=material)


LAYERS = (("Brick", 90.0), ("Air", 30.0), ("Timber studs", 140.0), ("Gypsum", 15.0))


@pytest.mark.parametrize("schema", ["IFC2X3", "IFC4"])
@pytest.mark.parametrize("unit", ["MILLIMETRE", "FOOT"])
def test_layers_come_in_from_the_outer_face(tmp_path: Path, schema: str, unit: str) -> None:
    a = Architect(schema, unit)
    storey = a.storey("Ground", 0.0)
    walls = [
        a.wall(storey, 0, 0, (1, 0), 9000, 275.0, name="south"),
        a.wall(storey, 9000, 0, (0, 1), 6000, 275.0, name="east"),
        a.wall(storey, 9000, 6000, (-1, 0), 9000, 275.0, name="north"),
        a.wall(storey, 0, 6000, (0, -1), 6000, 275.0, name="west"),
    ]
    give(a, walls, usage(a, layer_set(a, *LAYERS)))
    project = read(a, tmp_path)
    assert project.notes == ()
    assert len(project.wall_build_ups) == 1, "the same layers are one build-up"
    body = project.wall_build_ups[0]
    assert [(x.material, x.role) for x in body.layers] == [
        ("Brick", "cladding"),
        ("Air", "insulation"),
        ("Timber studs", "core"),
        ("Gypsum", "lining"),
    ]
    assert name_of(body, "metric").startswith("275: Brick 90")
    for w in project.walls:
        assert (w.by, w.side, w.shift) == ("outer face", "left", 0.0)
        bands = layer_bands(w, body)
        assert bands[0][1] == pytest.approx(0.0, abs=1e-3)
        assert bands[-1][2] == pytest.approx(275.0, abs=1e-3)


def test_drawn_the_other_way_round_the_brick_is_still_outside(tmp_path: Path) -> None:
    """Clockwise, bodies to the right, layers counted against the axis."""
    a = Architect()
    storey = a.storey("Ground", 0.0)
    walls = [
        a.wall(storey, 0, 0, (0, 1), 6000, 275.0, side="right"),
        a.wall(storey, 0, 6000, (1, 0), 9000, 275.0, side="right"),
        a.wall(storey, 9000, 6000, (0, -1), 6000, 275.0, side="right"),
        a.wall(storey, 9000, 0, (-1, 0), 9000, 275.0, side="right"),
    ]
    give(a, walls, usage(a, layer_set(a, *LAYERS), "NEGATIVE"))
    project = read(a, tmp_path)
    outline = storey_outline(project.walls)
    assert outline is not None
    assert [x.material for x in project.wall_build_ups[0].layers] == [n for n, _ in LAYERS]
    for w in project.walls:
        assert (w.side, w.by) == ("right", "outer face")
        assert reach(w) == pytest.approx((0.0, -275.0), abs=1e-3)


def test_layers_through_the_type(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("Ground", 0.0)
    walls = box(a, storey)
    kind = a.make("IfcWallType", Name="W200", PredefinedType="STANDARD")
    give(a, [kind], layer_set(a, ("Concrete", 180.0), ("Plaster", 20.0)))
    a.make("IfcRelDefinesByType", RelatedObjects=walls, RelatingType=kind)
    project = read(a, tmp_path)
    assert [x.role for x in project.wall_build_ups[0].layers] == ["core", "lining"]
    assert {w.build_up for w in project.walls} == {project.wall_build_ups[0].id}


def test_layers_that_do_not_fit_the_body_are_said(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("Ground", 0.0)
    walls = box(a, storey)
    give(a, walls[:1], usage(a, layer_set(a, ("Concrete", 250.0))))
    project = read(a, tmp_path)
    assert project.walls[0].build_up == ""
    assert project.walls[0].thickness == pytest.approx(200.0)
    assert "add up to 250.0 mm and its body is 200.0 mm" in project.notes[0].why


@pytest.mark.parametrize(
    ("name", "category", "role"),
    [
        ("Mineral wool", "", "insulation"),
        ("Gypsum wallboard", "", "lining"),
        ("OSB 12", "", "sheathing"),
        ("Timber siding", "", "cladding"),
        ("390 Block", "", "core"),
        ("Anything", "LoadBearing", "core"),
        ("Anything", "Insulation", "insulation"),
        ("Mystery", "", None),
    ],
)
def test_what_a_layer_is_by_its_words(name: str, category: str, role: str | None) -> None:
    assert role_of(name, category) == role


def test_a_core_is_always_found() -> None:
    unknown = build_up_of((("a", 20.0, ""), ("b", 120.0, ""), ("c", 15.0, "")), "X1")
    assert [x.role for x in unknown.layers] == ["sheathing", "core", "lining"]
    brick = build_up_of(
        (("Brick", 110.0, ""), ("Cavity", 50.0, ""), ("Brick inner block", 100.0, "")), "X1"
    )
    assert sum(x.role == "core" for x in brick.layers) >= 1
    veneer = build_up_of(
        (("Brick", 110.0, ""), ("Cavity", 50.0, ""), ("Timber frame", 90.0, "")), "X1"
    )
    assert [x.role for x in veneer.layers] == ["cladding", "insulation", "core"]
    wool = build_up_of((("Wool", 300.0, ""), ("Panel", 20.0, "")), "X1")
    assert [x.role for x in wool.layers] == ["insulation", "core"], "insulation never stands"


def test_the_building_with_most_walls_is_read_and_the_others_are_named(tmp_path: Path) -> None:
    a = Architect()
    ground = a.storey("Ground", 0.0)
    box(a, ground)
    shed = a.make(
        "IfcBuilding",
        Name="Shed",
        CompositionType="ELEMENT",
        ObjectPlacement=a.f.createIfcLocalPlacement(a.site.ObjectPlacement, a.axis3(30000, 0, 0)),
    )
    a.aggregate(a.site, [shed])
    floor = a.make(
        "IfcBuildingStorey",
        Name="Shed floor",
        CompositionType="ELEMENT",
        Elevation=0.0,
        ObjectPlacement=a.f.createIfcLocalPlacement(shed.ObjectPlacement, a.axis3()),
    )
    a.aggregate(shed, [floor])
    a.wall(floor, 0, 0, (1, 0), 3000)
    house = read(a, tmp_path)
    assert (house.name, len(house.walls), [x.name for x in house.levels]) == (
        "House",
        4,
        ["Ground", "Plate 1"],
    )
    assert other_buildings(house) == ("Shed",)
    other = read(a, tmp_path, "Shed")
    assert (other.name, len(other.walls)) == ("Shed", 1)
    with pytest.raises(FileError, match="holds no building “Barn”; it holds House, Shed"):
        read(a, tmp_path, "Barn")
    target = tmp_path / "shed.balken"
    command = [
        "take",
        str(tmp_path / "a.ifc"),
        "--to",
        str(target),
        "--building",
        "Shed",
        "--walls-only",
    ]
    result = CliRunner().invoke(main, command)
    assert result.exit_code == 0, result.output
    assert load(target).name == "Shed"


def test_a_storey_that_says_a_wrong_elevation(tmp_path: Path) -> None:
    a = Architect()
    lower, upper = (
        a.storey("Lower", 0.0, attribute=99_000.0),
        a.storey("Upper", 3000.0, attribute=0.0),
    )
    box(a, lower)
    box(a, upper)
    project = read(a, tmp_path)
    assert level(project, "L1").elevation == pytest.approx(300.0), (
        "where the feet of its walls stand"
    )
    assert level(project, "L2").elevation == pytest.approx(3300.0)
    assert {w.base for w in project.walls} == {"L1", "L2"}


def arc(a: Architect, radius: float, first: float, last: float, by: str) -> Any:
    at = a.f.createIfcAxis2Placement2D(a.point(2000, 1000), None)
    circle = a.f.createIfcCircle(at, radius / a.mm)
    if by == "circle":
        return circle
    if by == "points":
        ends = [
            a.point(
                2000 + radius * math.cos(math.radians(t)), 1000 + radius * math.sin(math.radians(t))
            )
            for t in (first, last)
        ]
        return a.f.createIfcTrimmedCurve(circle, [ends[0]], [ends[1]], True, "CARTESIAN")
    if by == "angles":
        values = [a.f.createIfcParameterValue(math.radians(t)) for t in (first, last)]
        return a.f.createIfcTrimmedCurve(circle, [values[0]], [values[1]], True, "PARAMETER")
    spots = [
        (
            (2000 + radius * math.cos(math.radians(t))) / a.mm,
            (1000 + radius * math.sin(math.radians(t))) / a.mm,
        )
        for t in (first, (first + last) / 2, last)
    ]
    return a.f.createIfcIndexedPolyCurve(
        a.f.createIfcCartesianPointList2D(spots), [a.f.createIfcArcIndex((1, 2, 3))], None
    )


@pytest.mark.parametrize("by", ["points", "angles", "index", "circle"])
@pytest.mark.parametrize("turn", [0.0, 25.0])
def test_rings_and_rays(tmp_path: Path, by: str, turn: float) -> None:
    t = math.radians(turn)
    a = Architect(turn=(math.cos(t), math.sin(t)))
    storey = a.storey("Ground", 0.0)
    box(a, storey)
    rings = [
        a.f.createIfcGridAxis(n, arc(a, r, 0.0, 120.0, by), True)
        for n, r in (("A", 5000.0), ("B", 8000.0))
    ]
    rays = []
    for n, angle in (("1", 0.0), ("2", 60.0), ("3", 120.0)):
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        line = a.f.createIfcPolyline(
            [a.point(2000 + 1000 * c, 1000 + 1000 * s), a.point(2000 + 9000 * c, 1000 + 9000 * s)]
        )
        rays.append(a.f.createIfcGridAxis(n, line, True))
    a.make(
        "IfcGrid",
        ObjectPlacement=a.f.createIfcLocalPlacement(storey.ObjectPlacement, a.axis3()),
        UAxes=rings,
        VAxes=rays,
    )
    project = read(a, tmp_path)
    assert project.notes == ()
    made = project.grids[0]
    assert [(x.label, x.offset) for x in row_of(made, "ring")] == [("A", 5000.0), ("B", 8000.0)]
    assert [x.label for x in made.lines if x.runs == "ray"] == ["1", "2", "3"]
    assert len(list(grid_crossings(made))) == 6
    spot = crossing(made, row_of(made, "ring")[1], next(x for x in made.lines if x.label == "2"))
    local = (2000 + 8000 * math.cos(math.radians(60)), 1000 + 8000 * math.sin(math.radians(60)))
    # The site lies at 1000, 2000 and turned, the house 500 along it.
    x, y = local[0] + 500, local[1]
    assert spot == pytest.approx(
        (1000 + x * math.cos(t) - y * math.sin(t), 2000 + x * math.sin(t) + y * math.cos(t)),
        abs=0.01,
    )


def test_lines_that_lie_askew_are_a_grid_of_their_own(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("Ground", 0.0)
    box(a, storey)
    a.grid(
        storey,
        {
            "A": ((0, 0), (9000, 0)),
            "B": ((0, 6000), (9000, 6000)),
            "1": ((0, 0), (0, 6000)),
            "C": ((0, 0), (8000, 4000)),
            "2": ((2000, 6000), (5000, 0)),
        },
    )
    project = read(a, tmp_path)
    assert [(g.id, sorted(x.label for x in g.lines)) for g in project.grids] == [
        ("G1", ["1", "A", "B"]),
        ("G1-2", ["2", "C"]),
    ]
    assert project.grids[0].origin == pytest.approx((1500.0, 2000.0)), (
        "where the lowest and the leftmost line cross"
    )


def ring_wall(
    a: Architect,
    storey: Any,
    by: str,
    first: float,
    last: float,
    inner: float,
    outer: float,
    line: float,
) -> Any:
    """Add a wall between two radii round (2000, 1000) of its own place, its axis an arc from one
    angle to another, degrees."""

    def spot(radius: float, t: float) -> tuple[float, float]:
        return 2000 + radius * math.cos(math.radians(t)), 1000 + radius * math.sin(math.radians(t))

    def arc(radius: float, b: float, c: float) -> Any:
        if by == "three places":
            points = [tuple(v / a.mm for v in spot(radius, t)) for t in (b, (b + c) / 2, c)]
            places = a.f.createIfcCartesianPointList2D(points)
            return a.f.createIfcIndexedPolyCurve(places, [a.f.createIfcArcIndex((1, 2, 3))], None)
        circle = a.f.createIfcCircle(
            a.f.createIfcAxis2Placement2D(a.point(2000, 1000), None), radius / a.mm
        )
        ends = [a.point(*spot(radius, t)) for t in (b, c)]
        return a.f.createIfcTrimmedCurve(circle, [ends[0]], [ends[1]], c > b, "CARTESIAN")

    def straight(p: tuple[float, float], q: tuple[float, float]) -> Any:
        return a.f.createIfcPolyline([a.point(*p), a.point(*q)])

    pieces = [
        arc(outer, first, last),
        straight(spot(outer, last), spot(inner, last)),
        arc(inner, last, first),
        straight(spot(inner, first), spot(outer, first)),
    ]
    parts = [a.f.create_entity("IfcCompositeCurveSegment", "CONTINUOUS", True, c) for c in pieces]
    outline = a.f.createIfcCompositeCurve(parts, False)
    profile = a.f.createIfcArbitraryClosedProfileDef("AREA", None, outline)
    wall = a.wall(storey, 0, 0, (1, 0), 1000, solid=a.extruded(profile, 2500), name="round")
    wall.Representation.Representations[0].Items = [arc(line, first, last)]
    return wall


@pytest.mark.parametrize(
    ("by", "schema", "unit"),
    [("three places", "IFC4", "FOOT"), ("trimmed", "IFC2X3", "METRE"), ("trimmed", "IFC4", "INCH")],
)
@pytest.mark.parametrize(("first", "last"), [(0.0, 90.0), (200.0, 40.0), (30.0, 210.0)])
def test_curved_walls(
    tmp_path: Path, by: str, schema: str, unit: str, first: float, last: float
) -> None:
    """Radii, ends and angle are those it was drawn with; site and building shift it by (1500,
    2000)."""
    a = Architect(schema, unit)
    storey = a.storey("F", 0.0)
    made = ring_wall(a, storey, by, first, last, 3800.0, 4000.0, 4000.0)
    hole = a.opening(made, 500, 900, 800, 1200)
    project = read(a, tmp_path)
    item = project.walls[0]
    centre, radius, _, _ = arc_of(item.start, item.end, item.bulge)
    assert centre == pytest.approx((3500.0, 3000.0), abs=0.01)
    assert radius == pytest.approx(math.copysign(4000.0, last - first), abs=0.01), (
        "positive where it turns left"
    )
    for t, end in ((first, item.start), (last, item.end)):
        spot = (3500 + 4000 * math.cos(math.radians(t)), 3000 + 4000 * math.sin(math.radians(t)))
        assert end == pytest.approx(spot, abs=0.01)
    assert item.thickness == pytest.approx(200.0, abs=0.01)
    assert item.side == ("left" if last > first else "right"), "its body lies inside the arc"
    assert wall_length(item) == pytest.approx(4000.0 * math.radians(abs(last - first)), rel=1e-6)
    assert {n.source: n.why for n in project.notes}[hole.GlobalId].startswith(
        "it lies in a curved wall"
    )


def test_a_straight_body_round_a_curved_axis_and_a_curved_body_without_axis(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("F", 0.0)
    box(a, storey)
    wrong = ring_wall(a, storey, "trimmed", 0, 90, 3800.0, 4000.0, 4000.0)
    wrong.Representation.Representations[1].Items = [a.extruded(a.rectangle(3000, 200, 100), 2500)]
    bare = ring_wall(a, storey, "trimmed", 0, 90, 3800.0, 4000.0, 4000.0)
    bare.Representation.Representations = [bare.Representation.Representations[1]]
    project = read(a, tmp_path)
    assert len(project.walls) == 4
    said = {n.source: n.why for n in project.notes}
    assert "does not go round" in said[wrong.GlobalId]
    assert "no axis" in said[bare.GlobalId]


def test_an_arc_through_three_places() -> None:
    centre, radius, first, last = arc_through((5.0, 0.0), (0.0, 5.0), (-5.0, 0.0))
    assert centre == pytest.approx((0.0, 0.0))
    assert (radius, first, last) == pytest.approx((5.0, 0.0, 180.0))
    _, _, first, last = arc_through((-5.0, 0.0), (0.0, 5.0), (5.0, 0.0))
    assert (first, last) == pytest.approx((0.0, 180.0)), "drawn the other way, it still turns left"
    with pytest.raises(ShapeError):
        arc_through((0.0, 0.0), (1.0, 1.0), (2.0, 2.0))


def test_slabs_and_roofs_are_references(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("Ground", 0.0)
    box(a, storey)
    ring = a.f.createIfcPolyline(
        [
            a.point(*p)
            for p in (
                (0, 0),
                (9000, 0),
                (9000, 6000),
                (4000, 6000),
                (4000, 3000),
                (0, 3000),
                (0, 0),
            )
        ]
    )
    profile = a.f.createIfcArbitraryClosedProfileDef("AREA", None, ring)
    slab = a.make(
        "IfcSlab",
        Name="deck",
        ObjectPlacement=a.place(storey, 0, 0, (1, 0), -250),
        Representation=a.shape([a.extruded(profile, 250)]),
        PredefinedType="FLOOR",
    )
    roof = a.make(
        "IfcRoof",
        Name="roof",
        ObjectPlacement=a.place(storey, 0, 0, (1, 0), 2700),
        Representation=a.shape([a.extruded(a.rectangle(9000, 6000, 3000), 1500)]),
    )
    bare = a.make("IfcSlab", Name="bare", ObjectPlacement=a.place(storey, 0, 0, (1, 0)))
    a.make(
        "IfcRelContainedInSpatialStructure",
        RelatedElements=[slab, roof, bare],
        RelatingStructure=storey,
    )
    project = read(a, tmp_path)
    found = {r.kind: r for r in project.references}
    assert len(found["slab"].outline) == 6, "its own outline, with the corner that is cut out"
    assert (found["slab"].bottom, found["slab"].top) == pytest.approx((50.0, 300.0))
    assert (found["roof"].bottom, found["roof"].top) == pytest.approx((3000.0, 4500.0))
    assert [n.why for n in project.notes] == ["it has no shape"]
