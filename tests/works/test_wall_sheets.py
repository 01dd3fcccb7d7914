"""Panels, boards and batts of walls: counts by hand, areas that add up, joints on studs, openings cut out."""

import csv
import io
import random

import pytest
import shapely
from msgspec.structs import replace

from balken.drawing.marks import Label, Patch
from balken.drawing.wall_sheets import sheets_drawing
from balken.exchange.sheets_csv import sheets_csv
from balken.framing.walls.sheets import Piece, Size, Skin, lay_batts, lay_sheets, sheets_needed
from balken.model.edits.wall_frames import rule_studs
from balken.model.names import HostName, ThingName
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk
from balken.session.rows import Line, field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.takeoff.sheets import sheets_of, sheets_on
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out

SIZE = Size(4 * FOOT, 8 * FOOT)


def skin(
    long: float = 24 * FOOT,
    tall: float = 8 * FOOT,
    holes: tuple[tuple[float, float, float, float], ...] = (),
    **more: object,
) -> Skin:
    outline = ((0.0, 0.0), (long, 0.0), (long, tall), (0.0, tall))
    made = Skin(outline, holes, SIZE, "upright", 0.0, False, 16 * INCH)
    return made._replace(**more)  # type: ignore[arg-type]


def area(pieces: tuple[Piece, ...]) -> float:
    return sum(p.area for p in pieces)


def test_a_plain_wall_of_six_sheets() -> None:
    """24 ft by 8 ft: six whole sheets of 4 by 8, upright or lying."""
    pieces = lay_sheets(skin())
    assert [p.name for p in pieces] == ["A1", "A2", "A3", "A4", "A5", "A6"]
    assert all(p.whole for p in pieces)
    lying = lay_sheets(skin(laid="lying"))
    assert sheets_needed(lying, SIZE, "lying") == 6, "3, and 2 with two halves of one"
    assert area(lying) == pytest.approx(24 * 8 * FOOT**2)


def test_rows_are_staggered_and_joints_fall_on_studs() -> None:
    """Lying sheets of two rows: joints at 8, 16 ft and at 4, 12, 20 ft."""
    pieces = lay_sheets(skin(laid="lying"))
    joints = {
        row: sorted({p.box[0] / FOOT for p in pieces if p.name[0] == row})[1:] for row in "AB"
    }
    assert joints == {"A": pytest.approx([8.0, 16.0]), "B": pytest.approx([4.0, 12.0, 20.0])}
    tall = lay_sheets(skin(tall=10 * FOOT))
    heights = [{round(p.box[1] / FOOT, 6) for p in tall if p.name[1:] == n} for n in ("1", "2")]
    assert heights == [{0.0, 8.0}, {0.0, 2.0}], "the short piece stands up and down by turns"


def test_a_door_and_a_window_are_cut_out() -> None:
    """A door of 3 ft by 7 ft at 5 ft, a window of 2 ft by 2 ft inside one sheet: areas less both."""
    door, window = (5 * FOOT, 0.0, 8 * FOOT, 7 * FOOT), (13 * FOOT, 3 * FOOT, 15 * FOOT, 5 * FOOT)
    pieces = lay_sheets(skin(holes=(door, window)))
    assert area(pieces) == pytest.approx((24 * 8 - 21 - 4) * FOOT**2)
    whole = [p.name for p in pieces if p.whole]
    assert whole == ["A1", "A3", "A5", "A6"]
    inside = next(p for p in pieces if p.name == "A4")
    assert len(inside.outlines) == 2, "a hole in it"


def test_what_others_leave_is_used() -> None:
    """Two rows of 2 ft by 4 ft come from one sheet; pieces that do not fit ask for another."""
    halves = tuple(p for p in lay_sheets(skin(long=8 * FOOT, tall=4 * FOOT)))
    assert len(halves) == 2
    assert sheets_needed(halves, SIZE, "upright") == 1
    more = lay_sheets(skin(long=8 * FOOT, tall=5 * FOOT))
    assert sheets_needed(more, SIZE, "upright") == 2


@pytest.mark.parametrize("seed", range(20))
def test_pieces_cover_the_face_once(seed: int) -> None:
    """Random walls and openings: areas add up, no two pieces share room, none lies in an opening, and there
    are never fewer sheets than their area asks for."""
    chance = random.Random(seed)
    long, tall = chance.uniform(2, 40) * FOOT, chance.uniform(3, 14) * FOOT
    holes = []
    for _ in range(chance.randint(0, 4)):
        x, z = chance.uniform(0, long), chance.uniform(0, tall / 2)
        holes.append((x, z, min(long, x + 3 * FOOT), min(tall, z + 4 * FOOT)))
    asked = skin(
        long,
        tall,
        tuple(holes),
        laid=chance.choice(["upright", "lying"]),
        begins=chance.uniform(0, 2) * FOOT,
        backwards=chance.random() < 0.5,
    )
    pieces = lay_sheets(asked)
    face = shapely.Polygon(asked.outline)
    for hole in holes:
        face = face.difference(shapely.box(*hole))
    shapes = [shapely.Polygon(p.outlines[0], p.outlines[1:]) for p in pieces]
    assert shapely.union_all(shapes).area == pytest.approx(area(pieces), rel=1e-6), "none overlap"
    left_out = face.difference(shapely.union_all(shapes).buffer(0.01))
    assert left_out.area <= 45.0 * long + 1.0, "but for a strip along the top that plates close"
    assert all(s.difference(face.buffer(0.1)).area < 1.0 for s in shapes)
    assert sheets_needed(pieces, SIZE, asked.laid) * 32 * FOOT**2 >= area(pieces) - 1.0


def test_batts_give_way_to_wood() -> None:
    """A wall of 8 ft by 8 ft with studs at 0, 2, 4, 6, 8 ft and plates: four bays less the wood."""
    outline = ((0.0, 0.0), (2400.0, 0.0), (2400.0, 2400.0), (0.0, 2400.0))
    studs = [(x, 0.0, x + 40.0, 2400.0) for x in (0.0, 590.0, 1180.0, 1770.0, 2360.0)]
    plates = [(0.0, 0.0, 2400.0, 40.0), (0.0, 2360.0, 2400.0, 2400.0)]
    bays = lay_batts(outline, (), [*studs, *plates])
    assert len(bays) == 4
    assert area(bays) == pytest.approx((2400 - 5 * 40) * (2400 - 80))
    with_hole = lay_batts(outline, ((700.0, 40.0, 1100.0, 2360.0),), [*studs, *plates])
    assert area(with_hole) == pytest.approx(area(bays) - 400 * 2320)


@pytest.fixture(scope="module")
def demo() -> Checked:
    return work_out(shown_demo())


def test_layers_of_the_demo(demo: Checked) -> None:
    """Outside walls have sheathing, boards and batts; a wall inside boards on both faces; what lies in them
    is no more than their face."""
    by_wall: dict[str, list[str]] = {}
    for layer in sheets_of(demo):
        by_wall.setdefault(layer.wall, []).append(layer.material)
        assert layer.sheets > 0
        if layer.layer >= 0:
            assert layer.sheets * layer.size.width * layer.size.length >= layer.area - 1.0
    assert by_wall["W101"] == ["sheathing", "gypsum board", "mineral wool"]
    assert by_wall["W105"] == ["gypsum board", "gypsum board"]


def test_the_drawing_and_the_list(demo: Checked) -> None:
    host = HostName("wall", "W101")
    drawn = sheets_drawing(demo, host, 50.0, "outside")
    (layer,) = [x for x in sheets_on(demo, demo.project.walls[0]) if x.material == "sheathing"]
    fills = [m for m in drawn if isinstance(m, Patch) and m.fill in ("board", "panel")]
    assert len(fills) == len(layer.pieces)
    words = [m.text for m in drawn if isinstance(m, Label)]
    assert any(f"{layer.sheets} sheets" in w for w in words)
    rows = list(csv.DictReader(io.StringIO(sheets_csv(demo))))
    assert len(rows) == len(sheets_of(demo))
    assert sum(int(r["sheets"]) for r in rows) == sum(x.sheets for x in sheets_of(demo))


def test_sheets_are_typed_on_the_build_up() -> None:
    """Longer sheets that reach over the whole height leave no joint between two rows."""
    desk = Desk(Building(shown_demo()), THINGS)
    body = desk.project.wall_build_ups[0].id
    desk.select(ThingName("build-up", body))
    assert type_into(field_of(rows_of(desk), "sheets"), "4' x 10'", lambda: desk.said) is None
    layers = desk.project.wall_build_ups[0].layers
    assert layers[0].sheet == (4 * FOOT, 10 * FOOT)
    refused = type_into(field_of(rows_of(desk), "sheets"), "4 ft", lambda: desk.said)
    assert refused is not None
    assert "width x length" in refused.why
    desk.select(HostName("wall", "W101"))
    said = [r.text for r in rows_of(desk) if isinstance(r, Line)]
    assert any("sheathing" in s and "sheets 4'-0\" × 10'-0\"" in s for s in said)


def test_nothing_between_studs_where_none_is_asked_for() -> None:
    project = rule_studs(shown_demo(), "X1", batts="")
    item = replace(project.walls[0])
    assert not [x for x in sheets_on(work_out(project), item) if x.layer < 0]
