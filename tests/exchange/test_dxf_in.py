"""DXF drawings as a background: what is whole comes in, in mm, the rest is listed."""

import math
from itertools import pairwise
from pathlib import Path

import ezdxf
import pytest

from balken.exchange.dxf_in import UNITS, background, read_dxf
from balken.exchange.files import FileError
from balken.model.edits.others import add_background, walls_from_pairs
from balken.model.new import empty_building


def drawing(unit: int = 4) -> "ezdxf.document.Drawing":
    made = ezdxf.new("R2010")
    made.header["$INSUNITS"] = unit
    return made


def saved(made: "ezdxf.document.Drawing", tmp_path: Path) -> Path:
    path = tmp_path / "plan.dxf"
    made.saveas(path)
    return path


@pytest.mark.parametrize("unit", sorted(UNITS))
def test_every_unit_comes_out_in_mm(tmp_path: Path, unit: int) -> None:
    made = drawing(unit)
    made.modelspace().add_line((0, 0), (10, 5), dxfattribs={"layer": "WALLS"})
    found = read_dxf(saved(made, tmp_path))
    assert found.unit == UNITS[unit]
    assert found.layers[0].name == "WALLS"
    assert found.layers[0].lines[0] == (
        (0.0, 0.0),
        pytest.approx((10 * UNITS[unit], 5 * UNITS[unit])),
    )


def test_a_file_that_does_not_say_its_unit_is_asked_about(tmp_path: Path) -> None:
    made = drawing(0)
    made.modelspace().add_line((0, 0), (10, 0))
    path = saved(made, tmp_path)
    assert read_dxf(path).unit is None
    assert read_dxf(path, 304.8).layers[0].lines[0][1] == (3048.0, 0.0)


def test_kinds_of_lines(tmp_path: Path) -> None:
    made = drawing()
    space = made.modelspace()
    space.add_lwpolyline([(0, 0), (1000, 0), (1000, 500)], close=True)
    space.add_lwpolyline([(0, 0, 0, 0, 1.0), (1000, 0)])
    space.add_polyline2d([(0, 0), (0, 700)])
    space.add_circle((5000, 0), 800)
    space.add_arc((0, 0), 1000, 0, 90)
    space.add_ellipse((0, 0), (2000, 0), 0.5)
    space.add_spline([(0, 0), (500, 300), (900, -100)])
    found = read_dxf(saved(made, tmp_path))
    lines = found.layers[0].lines
    assert len(lines) == 7
    assert found.left_out == ()
    assert lines[0] == ((0, 0), (1000, 0), (1000, 500), (0, 0))
    circle = next(
        w for w in lines if w[0] == w[-1] and len(w) > 10 and abs(w[0][1]) < 900 and w[0][0] > 3000
    )
    for p in circle:
        assert math.dist(p, (5000, 0)) == pytest.approx(800, abs=1e-3)
    for a, b in pairwise(circle):
        assert 800 - math.dist(((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), (5000, 0)) <= 2.0


def test_a_polyline_with_arcs_runs_through_its_corners(tmp_path: Path) -> None:
    made = drawing()
    made.modelspace().add_lwpolyline(
        [(0, 0, 0, 0, -1.0), (1000, 0, 0, 0, 0.0), (1000, 2000, 0, 0, 1.0), (0, 2000)], close=True
    )
    way = read_dxf(saved(made, tmp_path)).layers[0].lines[0]
    corners = [(0, 0), (1000, 0), (1000, 2000), (0, 2000)]
    order = [next(i for i, p in enumerate(way) if math.dist(p, c) < 1e-3) for c in corners]
    assert order == sorted(order)
    assert math.dist(way[-1], (0, 0)) < 1e-3
    top = max(way, key=lambda p: p[1])
    assert top == pytest.approx((500, 2500), abs=2.0)
    assert all(math.dist(a, b) < 2001 for a, b in pairwise(way)), "no jump back and forth"


def test_blocks_come_in_where_they_are_inserted(tmp_path: Path) -> None:
    made = drawing()
    block = made.blocks.new("DOOR")
    block.add_line((0, 0), (900, 0), dxfattribs={"layer": "DOORS"})
    made.modelspace().add_blockref("DOOR", (2000, 1000), dxfattribs={"rotation": 90})
    found = read_dxf(saved(made, tmp_path))
    assert found.layers[0].name == "DOORS"
    assert found.layers[0].lines[0][1] == pytest.approx((2000, 1900))


def test_blocks_in_themselves_end(tmp_path: Path) -> None:
    made = drawing()
    block = made.blocks.new("LOOP")
    block.add_line((0, 0), (1, 0))
    block.add_blockref("LOOP", (1, 1))
    made.modelspace().add_blockref("LOOP", (0, 0))
    path = saved(made, tmp_path)
    found = read_dxf(path)
    assert len(found.layers[0].lines) <= 10


def test_what_is_no_line_is_listed(tmp_path: Path) -> None:
    made = drawing()
    space = made.modelspace()
    space.add_line((0, 0), (100, 0))
    space.add_text("note")
    space.add_point((1, 1))
    space.add_line((0, 0), (1e12, 0))
    space.add_line((5, 5), (5, 5))
    found = read_dxf(saved(made, tmp_path))
    assert len(found.layers[0].lines) == 1
    words = " / ".join(found.left_out)
    for piece in ("text, which is not traced", "point, which is not traced", "100 km", "no length"):
        assert piece in words


def test_damaged_files_give_what_is_whole(tmp_path: Path) -> None:
    made = drawing()
    for i in range(40):
        made.modelspace().add_line((0, i * 10), (1000, i * 10), dxfattribs={"layer": f"L{i % 3}"})
    path = saved(made, tmp_path)
    text = path.read_text()
    cut = path.with_name("cut.dxf")
    at = text.index("ENTITIES") + (len(text) - text.index("ENTITIES")) // 3
    cut.write_text(text[:at])
    try:
        assert sum(len(x.lines) for x in read_dxf(cut).layers) < 40
    except FileError as error:
        assert "damaged" in str(error) or "cannot be read" in str(error)
    bent = path.with_name("bent.dxf")
    bent.write_text(text.replace("\n1000.0\n", "\nabc\n", 1))
    try:
        found = read_dxf(bent)
        assert sum(len(x.lines) for x in found.layers) >= 38
    except FileError as error:
        assert str(error)


@pytest.mark.parametrize("seed", range(30))
def test_no_damage_ends_in_a_traceback(tmp_path: Path, seed: int) -> None:
    import random

    made = drawing()
    made.modelspace().add_lwpolyline([(0, 0, 0, 0, 0.5), (1000, 0), (1000, 500)], close=True)
    made.modelspace().add_circle((0, 0), 500)
    data = bytearray(saved(made, tmp_path).read_bytes())
    chance = random.Random(seed)
    for _ in range(chance.randint(1, 30)):
        at = chance.randrange(len(data))
        if chance.random() < 0.5:
            data[at] = chance.randrange(32, 127)
        else:
            del data[at : at + chance.randint(1, 40)]
    path = tmp_path / "hurt.dxf"
    path.write_bytes(bytes(data))
    try:
        found = read_dxf(path)
    except FileError as error:
        assert "hurt.dxf" in str(error)
    else:
        for layer in found.layers:
            assert all(math.isfinite(v) for way in layer.lines for p in way for v in p)


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("a.dxf", b"", "empty"),
        ("b.dxf", b"AC1015 binary", "DWG"),
        ("c.dxf", b"\x89PNG\r\n\x1a\n" + b"\0" * 200, "DXF"),
    ],
)
def test_what_is_no_dxf(tmp_path: Path, name: str, data: bytes, words: str) -> None:
    path = tmp_path / name
    path.write_bytes(data)
    with pytest.raises(FileError, match=words):
        read_dxf(path)


def test_from_drawing_to_walls(tmp_path: Path) -> None:
    made = drawing(6)
    made.modelspace().add_lwpolyline([(0, 0), (9, 0), (9, 6), (0, 6)], close=True)
    made.modelspace().add_lwpolyline([(0.2, 0.2), (8.8, 0.2), (8.8, 5.8), (0.2, 5.8)], close=True)
    traced = read_dxf(saved(made, tmp_path))
    project = add_background(empty_building("B", "metric"), background(traced, "plan.dxf"))
    project = walls_from_pairs(project, "U1", "L1", "P1")
    assert sorted(round(math.dist(w.start, w.end)) for w in project.walls) == [
        5800,
        5800,
        8800,
        8800,
    ]
