"""Architects' files of both schemas, any unit, turned and nested; and what cannot be read is said,
not guessed."""

import math
from pathlib import Path
from typing import Any

import pytest
from architect import Architect, box
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.exchange.files import FileError
from balken.exchange.ifc_in import take
from balken.fit.findings import findings
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import wall_length
from balken.session.building import DEMO, begin
from balken.works.building import work_out
from named import the


def read(a: Architect, tmp_path: Path) -> Project:
    path = tmp_path / "a.ifc"
    path.write_text(a.f.to_string())
    return take(path)


@pytest.mark.parametrize("schema", ["IFC2X3", "IFC4"])
@pytest.mark.parametrize("unit", ["MILLIMETRE", "CENTIMETRE", "METRE", "FOOT", "INCH"])
def test_any_schema_and_unit(tmp_path: Path, schema: str, unit: str) -> None:
    a = Architect(schema, unit)
    storey = a.storey("Ground floor", 0.0)
    walls = box(a, storey)
    a.opening(walls[0], 1000, 900, 1200, 1400, "IfcWindow")
    project = read(a, tmp_path)
    assert project.system == ("us" if unit in ("FOOT", "INCH") else "metric")
    assert project.notes == ()
    assert [wall_length(w) for w in project.walls] == pytest.approx(
        [9000, 6000, 9000, 6000], abs=1e-3
    )
    south = project.walls[0]
    assert (south.thickness, south.side) == (pytest.approx(200.0, abs=1e-3), "left")
    assert wall_top(project, south) - wall_base(project, south) == pytest.approx(2700, abs=1e-3)
    assert wall_base(project, south) == pytest.approx(300, abs=1e-3), "the site lies 300 up"
    hole = south.openings[0]
    assert (hole.kind, hole.at, hole.width, hole.height, hole.sill) == (
        "window",
        pytest.approx(1000, abs=1e-3),
        pytest.approx(1200, abs=1e-3),
        pytest.approx(1400, abs=1e-3),
        pytest.approx(900, abs=1e-3),
    )


def test_nested_and_turned_placements(tmp_path: Path) -> None:
    turn = math.radians(30)
    a = Architect(turn=(math.cos(turn), math.sin(turn)))
    storey = a.storey("Floor", 0.0)
    box(a, storey)
    a.grid(
        storey,
        {
            "A": ((-500, 0), (9500, 0)),
            "B": ((-500, 6000), (9500, 6000)),
            "1": ((0, -500), (0, 6500)),
        },
    )
    project = read(a, tmp_path)
    south = project.walls[0]
    assert south.start == pytest.approx(
        (1000 + 500 * math.cos(turn), 2000 + 500 * math.sin(turn)), abs=1e-3
    )
    direction = math.atan2(south.end[1] - south.start[1], south.end[0] - south.start[0])
    assert direction == pytest.approx(turn)
    grid = project.grids[0]
    assert grid.angle == pytest.approx(30.0, abs=1e-6)
    assert [(line.label, line.runs) for line in grid.lines] == [("A", "x"), ("B", "x"), ("1", "y")]
    assert grid.lines[1].offset - grid.lines[0].offset == pytest.approx(6000, abs=1e-3)


@pytest.mark.parametrize(
    ("side", "expected"), [("left", "left"), ("right", "right"), ("centre", "centre")]
)
def test_side_of_the_line(tmp_path: Path, side: str, expected: str) -> None:
    a = Architect()
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 4000, side=side)
    assert read(a, tmp_path).walls[0].side == expected


def test_a_line_inside_its_wall_stays_where_the_architect_drew_it(tmp_path: Path) -> None:
    a = Architect()
    solid = a.extruded(
        a.rectangle(4000, 300, 50), 2700
    )  # body from 100 right to 200 left of the line
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 4000, solid=solid)
    wall = read(a, tmp_path).walls[0]
    assert wall.start == pytest.approx((1500.0, 2000.0))
    assert (wall.side, wall.shift, wall.thickness) == (
        "centre",
        pytest.approx(50.0),
        pytest.approx(300.0),
    )


def test_a_wall_clipped_level_and_one_clipped_to_a_slope(tmp_path: Path) -> None:
    a = Architect(unit="METRE")
    storey = a.storey("F", 0.0)
    body = a.extruded(a.rectangle(5000, 200, 100), 4000)
    level_plane = a.f.createIfcPlane(a.axis3(0, 0, 2500))
    cut = a.f.createIfcBooleanClippingResult(
        "DIFFERENCE", body, a.f.createIfcHalfSpaceSolid(level_plane, False)
    )
    a.wall(storey, 0, 0, (1, 0), 5000, solid=cut, name="level")
    # A plane rising along the wall: 2 m at its start, 3.5 m at its end, normal up and back.
    normal = a.f.createIfcDirection((-0.3, 0.0, 1.0))
    slope = a.f.createIfcPlane(a.f.createIfcAxis2Placement3D(a.point(0, 0, 2000), normal, None))
    body2 = a.extruded(a.rectangle(5000, 200, 100), 4000)
    rake = a.f.createIfcBooleanClippingResult(
        "DIFFERENCE", body2, a.f.createIfcHalfSpaceSolid(slope, False)
    )
    a.wall(storey, 0, 5000, (1, 0), 5000, solid=rake, name="rake")
    project = read(a, tmp_path)
    tops = [wall_top(project, w) - wall_base(project, w) for w in project.walls]
    assert tops == pytest.approx([2500, 3500], abs=0.5)
    assert [w.thickness for w in project.walls] == pytest.approx([200, 200], abs=1e-3)
    assert project.notes == ()


def test_a_mitred_end_cut_off_by_a_bounded_half_space(tmp_path: Path) -> None:
    a = Architect()
    body = a.extruded(a.rectangle(5000, 200, 100), 2700)
    plane = a.f.createIfcPlane(
        a.f.createIfcAxis2Placement3D(
            a.point(5000, 0, 0), a.f.createIfcDirection((1.0, 1.0, 0.0)), None
        )
    )
    ring = [
        a.point(4000, -500),
        a.point(6000, -500),
        a.point(6000, 500),
        a.point(4000, 500),
        a.point(4000, -500),
    ]
    tool = a.f.createIfcPolygonalBoundedHalfSpace(
        plane, False, a.axis3(), a.f.createIfcPolyline(ring)
    )
    cut = a.f.createIfcBooleanClippingResult("DIFFERENCE", body, tool)
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 5000, solid=cut)
    wall = read(a, tmp_path).walls[0]
    assert (wall_length(wall), wall.thickness) == pytest.approx((5000, 200), abs=1e-3)


def test_a_wall_without_an_axis_gets_one_from_its_body(tmp_path: Path) -> None:
    a = Architect()
    ring = [a.point(*p) for p in ((0, 0), (4000, 0), (4000, 150), (0, 150), (0, 0))]
    profile = a.f.createIfcArbitraryClosedProfileDef("AREA", None, a.f.createIfcPolyline(ring))
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 4000, axis=False, solid=a.extruded(profile, 2700))
    wall = read(a, tmp_path).walls[0]
    assert (wall_length(wall), wall.thickness, wall.side) == (
        pytest.approx(4000),
        pytest.approx(150),
        "centre",
    )


def test_a_body_without_its_identifier(tmp_path: Path) -> None:
    a = Architect()
    made = a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 3000)
    made.Representation.Representations[1].RepresentationIdentifier = None
    assert wall_length(read(a, tmp_path).walls[0]) == pytest.approx(3000)


def test_a_wall_drawn_as_its_elevation_pushed_through_its_thickness(tmp_path: Path) -> None:
    a = Architect()
    ring = [a.point(*p) for p in ((0, 0), (4000, 0), (4000, 2600), (0, 2600), (0, 0))]
    profile = a.f.createIfcArbitraryClosedProfileDef("AREA", None, a.f.createIfcPolyline(ring))
    upright = a.f.createIfcAxis2Placement3D(
        a.point(0, 200, 0),
        a.f.createIfcDirection((0.0, -1.0, 0.0)),
        a.f.createIfcDirection((1.0, 0.0, 0.0)),
    )
    solid = a.f.createIfcExtrudedAreaSolid(profile, upright, a.z, 200.0)
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 4000, solid=solid)
    project = read(a, tmp_path)
    wall = project.walls[0]
    assert (wall.thickness, wall.side) == (pytest.approx(200), "left")
    assert wall_top(project, wall) - wall_base(project, wall) == pytest.approx(2600)


def test_a_wall_of_triangles(tmp_path: Path) -> None:
    a = Architect()
    corners = [
        (x, y, z)
        for z in (0.0, 2500.0)
        for x, y in ((0.0, 0.0), (3000.0, 0.0), (3000.0, 150.0), (0.0, 150.0))
    ]
    points = a.f.createIfcCartesianPointList3D(corners)
    faces = [(1, 2, 3), (1, 3, 4), (5, 6, 7), (5, 7, 8), (1, 2, 6), (1, 6, 5), (3, 4, 8), (3, 8, 7)]
    solid = a.f.createIfcTriangulatedFaceSet(points, None, None, faces, None)
    a.wall(a.storey("F", 0.0), 0, 0, (1, 0), 3000, solid=solid)
    project = read(a, tmp_path)
    assert project.walls[0].thickness == pytest.approx(150)
    assert wall_top(project, project.walls[0]) - wall_base(
        project, project.walls[0]
    ) == pytest.approx(2500)


def test_a_mapped_body(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("F", 0.0)
    source = a.f.createIfcShapeRepresentation(
        a.context, "Body", "SweptSolid", [a.extruded(a.rectangle(3000, 200, 100), 2500)]
    )
    origin = a.f.createIfcRepresentationMap(a.axis3(), source)
    target = a.f.createIfcCartesianTransformationOperator3D(
        None, None, a.point(0, 0, 0), None, None
    )
    a.wall(storey, 0, 0, (0, 1), 3000, solid=a.f.createIfcMappedItem(origin, target))
    project = read(a, tmp_path)
    assert wall_top(project, project.walls[0]) - wall_base(
        project, project.walls[0]
    ) == pytest.approx(2500)


def test_what_cannot_be_read_is_said_with_its_id_and_the_rest_comes_in(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("F", 0.0)
    box(a, storey)
    circle = a.f.createIfcCircle(a.f.createIfcAxis2Placement2D(a.point(0, 0), None), 3.0)
    curved = a.wall(storey, 0, 0, (1, 0), 2000, name="curved")
    curved.Representation.Representations[0].Items = [circle]
    bare = a.make("IfcWall", Name="bare", ObjectPlacement=a.place(storey, 0, 0, (1, 0)))
    flat = a.wall(storey, 0, 0, (1, 0), 2000, height=0.0001, name="flat")
    far = a.wall(storey, 1e15, 0, (1, 0), 2000, name="far")
    door = a.make("IfcDoor", Name="loose", ObjectPlacement=a.place(storey, 0, 0, (1, 0)))
    a.make("IfcCurtainWall", Name="glass", ObjectPlacement=a.place(storey, 0, 0, (1, 0)))
    project = read(a, tmp_path)
    assert len(project.walls) == 4
    said = {n.source: n.why for n in project.notes}
    assert {curved.GlobalId, bare.GlobalId, flat.GlobalId, far.GlobalId, door.GlobalId} <= set(said)
    assert "curved" in said[curved.GlobalId]
    assert "no shape" in said[bare.GlobalId]
    assert "1000 km" in said[far.GlobalId]
    assert all(n.why and n.what for n in project.notes)


def test_an_opening_that_tells_its_size_only_by_its_window(tmp_path: Path) -> None:
    a = Architect()
    walls = box(a, a.storey("F", 0.0))
    hole = a.opening(walls[0], 2000, 900, 1000, 1200, "IfcWindow")
    hole.Representation = None
    found = read(a, tmp_path).walls[0].openings
    assert [
        (o.kind, round(o.at), round(o.width), round(o.height), round(o.sill)) for o in found
    ] == [("window", 2000, 1000, 1200, 900)]


def test_storey_height_is_the_one_its_walls_stand_on(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("F", 500.0, attribute=12345.0)
    box(a, storey)
    project = read(a, tmp_path)
    assert next(x.elevation for x in project.levels if x.name == "F") == pytest.approx(800.0)


def test_two_storeys_hang_between_their_levels(tmp_path: Path) -> None:
    a = Architect()
    box(a, a.storey("Lower", 0.0))
    box(a, a.storey("Upper", 3000.0))
    a.storey("Roof", 5700.0)
    project = read(a, tmp_path)
    roles = {x.name: x.role for x in project.levels}
    assert roles["Lower"] == roles["Upper"] == "floor"
    assert roles["Roof"] == "plate"
    assert {w.top for w in project.walls if w.base == "L2"} == {"L3"}
    assert any(x.role == "plate" and x.elevation == pytest.approx(3000.0) for x in project.levels)


def test_walls_drawn_from_floor_to_floor_get_a_plate_under_the_joists(tmp_path: Path) -> None:
    """Common in architects' files: the walls reach the next floor, and the joists need their
    depth."""
    a = Architect()
    for name, z in (("Level 1", 0.0), ("Level 2", 3000.0)):
        storey = a.storey(name, z)
        sides = (
            (0, 0, (1, 0), 9000),
            (9000, 0, (0, 1), 6000),
            (9000, 6000, (-1, 0), 9000),
            (0, 6000, (0, -1), 6000),
        )
        for x, y, way, length in sides:
            a.wall(storey, x, y, way, length, height=3000.0, name=f"{name} {x} {y}")
    a.storey("Level 3", 6000.0)
    path = tmp_path / "a.ifc"
    path.write_text(a.f.to_string())
    project, said = begin(path)
    assert said == ()
    assert next(x.role for x in project.levels if x.name == "Level 3") == "plate"
    assert {f.level for f in project.floors} == {"L1", "L2", "L3"}
    assert len(project.roofs) == 1
    found = findings(work_out(project))
    assert [f.kind for f in found if f.host == the("floor:F2") and f.kind != "over"] == ["overlap"]
    overlap = next(f for f in found if f.kind == "overlap")
    assert overlap.mend is not None
    mended = overlap.mend.apply(project)
    assert [f for f in findings(work_out(mended)) if f.kind in ("gap", "overlap")] == []


def test_gable_walls_clipped_to_the_roof_still_close_the_ceiling(tmp_path: Path) -> None:
    a = Architect()
    storey = a.storey("Floor 1", 0.0)
    a.wall(storey, 0, 0, (1, 0), 9000, name="south")
    a.wall(storey, 9000, 6000, (-1, 0), 9000, name="north")
    for x, y, way, name in ((9000, 0, (0, 1), "east"), (0, 6000, (0, -1), "west")):
        body = a.extruded(a.rectangle(6000, 200, 100), 6000)
        for sign, foot in ((-1.0, 0.0), (1.0, 6000.0)):
            normal = a.f.createIfcDirection((sign * 0.5, 0.0, 1.0))
            plane = a.f.createIfcPlane(
                a.f.createIfcAxis2Placement3D(a.point(foot, 0, 2700), normal, None)
            )
            body = a.f.createIfcBooleanClippingResult(
                "DIFFERENCE", body, a.f.createIfcHalfSpaceSolid(plane, False)
            )
        a.wall(storey, x, y, way, 6000, solid=body, name=name)
    path = tmp_path / "a.ifc"
    path.write_text(a.f.to_string())
    project, said = begin(path)
    assert (said, project.notes) == ((), ())
    heights = {w.name: wall_top(project, w) - wall_base(project, w) for w in project.walls}
    assert heights["east"] == pytest.approx(2700 + 3000 * 0.5, abs=1)
    assert {f.id for f in project.floors} == {"F1", "C1"}
    assert project.roofs
    assert [
        f
        for f in findings(work_out(project))
        if f.kind in ("gap", "overlap", "not framed", "load path")
    ] == []


def bad(tmp_path: Path, data: bytes) -> str:
    path = tmp_path / "bad.ifc"
    path.write_bytes(data)
    with pytest.raises(FileError) as error:
        take(path)
    assert "\n" not in str(error.value)
    return str(error.value)


def test_files_that_are_no_architects_files(tmp_path: Path) -> None:
    good = DEMO.read_bytes()
    assert "empty" in bad(tmp_path, b"")
    assert "zip" in bad(tmp_path, b"PK\x03\x04")
    assert "no IFC file" in bad(tmp_path, b"\x89PNG")
    assert "cut off" in bad(tmp_path, good[: len(good) // 2])
    assert "IFC9" in bad(tmp_path, good.replace(b"IFC4", b"IFC9"))
    assert "nested" in bad(
        tmp_path, good.replace(b"DATA;", b"DATA;\n#1=IFCX(" + b"(" * 100_000 + b");")
    )
    assert "no building storeys" in bad(
        tmp_path, good.replace(b"IFCBUILDINGSTOREY", b"IFCSPATIALZONE")
    )
    with pytest.raises(FileError, match="no file"):
        take(tmp_path / "none.ifc")


@settings(max_examples=40, deadline=None)
@given(st.data())
def test_damage_never_gives_a_traceback(
    tmp_path_factory: pytest.TempPathFactory, data: st.DataObject
) -> None:
    text = bytearray(DEMO.read_bytes())
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(200, len(text) - 60))
        text[at] = data.draw(st.sampled_from(list(b"0123456789#,.()'$*AE-")))
    path = tmp_path_factory.mktemp("d") / "d.ifc"
    path.write_bytes(bytes(text))
    try:
        project, _ = begin(path)
    except FileError as error:
        assert str(error)
        return
    work_out(project)


def test_the_demo_file_gives_the_bakehouse(demo: Project) -> None:
    assert demo.notes == ()
    assert [x.label for x in demo.grids[0].lines] == ["A", "B", "C", "1", "2", "3", "4"]
    assert sum(len(w.openings) for w in demo.walls) == 15
    shop: Any = demo.walls[0].openings[0]
    assert (shop.kind, round(shop.width / 304.8, 3), round(shop.sill / 304.8, 3)) == (
        "window",
        16.0,
        1.5,
    )
