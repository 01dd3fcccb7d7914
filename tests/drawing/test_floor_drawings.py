"""Floors and beams as they are drawn: plans with openings and beams under joists, figures with
their values, names."""

import pytest

from balken.design.effects import Diagram
from balken.drawing.beam_figure import along, beam_figure, place_in, values_at, words_at
from balken.drawing.floor_plan import floor_marks, floor_notes
from balken.drawing.floor_words import build_up_name, depth_of
from balken.drawing.marks import Disc, Label, Patch, Stroke, extent
from balken.drawing.panel_figure import panel_figure
from balken.drawing.section import wall_section
from balken.drawing.tiers import Tier, tiers
from balken.framing import kinds
from balken.framing.floors.panels import lay_panels
from balken.geometry.plane import box
from balken.model.edits import change_member, set_floor
from balken.model.names import MemberName
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out
from named import the


@pytest.fixture(scope="module")
def hall() -> Checked:
    return work_out(ferry_hall())


def gallery(hall: Checked) -> Tier:
    return next(t for t in tiers(hall) if t.id == the("floor:F1"))


def drawn(hall: Checked) -> list[object]:
    tier = gallery(hall)
    return list(floor_marks(hall, [m for m in hall.structure.members if tier.holds(m.host)]))


def test_the_floors_of_a_level_share_a_tier_with_their_beams(hall: Checked) -> None:
    tier = gallery(hall)
    assert tier.holds(the("floor:F2"))
    assert tier.holds(the("bay:Y3"))
    assert tier.holds(the("beam:B6"))
    assert sum(t.kind == "floor" for t in tiers(hall)) == 1


def test_beams_under_joists_are_dashed_and_openings_crossed(hall: Checked) -> None:
    marks = drawn(hall)
    dashed = {m.key for m in marks if isinstance(m, Stroke) and m.pen == "hidden"}
    assert the("beam:B6/beam:1") in dashed
    crossed = [m for m in marks if isinstance(m, Stroke) and m.key == the("hole:F1/O1")]
    assert len(crossed) == 3  # the outline and both diagonals
    heavy = {
        m.key
        for m in marks
        if isinstance(m, Patch)
        and m.pen == "cut"
        and isinstance(m.key, MemberName)
        and m.key.family == "header"
    }
    assert heavy == {the("floor:F1/header:O1n"), the("floor:F1/header:O1f")}


def test_everything_of_the_floor_is_on_its_plan(hall: Checked) -> None:
    keys = {getattr(m, "key", "") for m in drawn(hall)}
    for m in hall.structure.members:
        if gallery(hall).holds(m.host) and m.kind is not kinds.SUBFLOOR:
            assert m.id in keys, m.id


def test_a_piece_changed_by_hand_carries_a_dot() -> None:
    checked = work_out(change_member(ferry_hall(), the("floor:F1/joist:05c"), shift=30.0))
    dots = [m.key for m in drawn(checked) if isinstance(m, Disc)]
    assert dots == [the("floor:F1/joist:05c")]


def test_marks_of_beams_lie_on_no_other_label(hall: Checked) -> None:
    paper = 100.0
    labels = [m for m in floor_notes(hall, gallery(hall), paper) if isinstance(m, Label)]
    beams = [m for m in labels if str(m.key).startswith(("beam:", "bay:"))]
    assert len(beams) > 10
    spots = [m.at for m in beams]
    for i, (x, y) in enumerate(spots):
        assert all(abs(x - a) + abs(y - b) > 2.0 * paper for a, b in spots[:i])


def test_the_span_symbol_can_be_taken_hold_of(hall: Checked) -> None:
    symbol = [
        m
        for m in floor_notes(hall, gallery(hall), 245.0)
        if isinstance(m, Stroke) and m.key == the("span:F1/floor")
    ]
    x0, _, x1, _ = box(symbol[0].points)
    assert x1 - x0 >= 16.0 * 245.0 - 1.0


def test_a_figure_shows_supports_loads_and_three_diagrams(hall: Checked) -> None:
    beam = next(m for m in hall.structure.members if m.id == the("beam:B6/beam:1"))
    marks, diagram = beam_figure(hall, beam)
    assert diagram is not None
    words = {m.text for m in marks if isinstance(m, Label)}
    assert {"shear", "moment", "deflection"} <= words
    greatest = max(m for _, m in diagram.moment)
    answer = hall.carrying[beam.id]
    assert greatest == pytest.approx(float(answer.effects.sagging.max()), rel=2e-3)
    x0, _, x1, _ = extent(marks) or (0, 0, 0, 0)
    assert x0 >= 0.0
    assert x1 <= 100.0


def test_values_are_read_between_stations_in_a_straight_line() -> None:
    flat = ((0.0, 0.0), (0.0, 0.0), (0.0, 0.0))
    diagram = Diagram(
        (0.0, 1000.0, 2000.0),
        ((0.0, 10.0), (0.0, 20.0), (-30.0, 0.0)),
        ((0.0, 5.0), (0.0, 5.0), (0.0, 9.0)),
        flat,
    )
    assert values_at(diagram, 500.0) == (15.0, 5.0, 0.0)
    assert values_at(diagram, 2000.0) == (-30.0, 9.0, 0.0)
    assert values_at(diagram, 5000.0) == (-30.0, 9.0, 0.0)
    assert words_at(diagram, 500.0, "metric").startswith("500:  V ")


def test_the_pointer_and_the_figure_agree_on_places(hall: Checked) -> None:
    beam = next(m for m in hall.structure.members if m.id == the("beam:B6/beam:1"))
    for x in (0.0, 1234.0, beam.length):
        assert place_in(beam, along(beam, x)) == pytest.approx(x)
    assert place_in(beam, -50.0) == 0.0
    assert place_in(beam, 500.0) == beam.length


def test_a_floors_name_tells_its_real_depth(hall: Checked) -> None:
    first, second = hall.project.floors
    assert (
        build_up_name(hall, first)
        == "38×235 at 600, 19 subfloor, 160 insulation, 12.5 ceiling: 266.5 deep"
    )
    assert depth_of(hall, first) == 12.5 + 235.0 + 19.0
    assert build_up_name(hall, second) == "solid slab, 260"
    deeper = work_out(set_floor(ferry_hall(), "F1", section="38x286"))
    assert "317.5 deep" in build_up_name(deeper, deeper.project.floors[0])


def test_panels_are_drawn_whole_and_cut(hall: Checked) -> None:
    panel = next(m for m in hall.structure.members if m.kind is kinds.SUBFLOOR)
    joist = next(m for m in hall.structure.members if m.id == the("floor:F1/joist:05c"))
    laid = lay_panels(panel, joist, "metric")
    marks = panel_figure(laid)
    assert sum(m.fill == "panel" for m in marks if isinstance(m, Patch)) == laid.whole
    assert len(marks) == laid.whole + laid.cut


def test_the_ladder_shows_a_post_with_its_pad_and_beam_where_no_wall_stands(hall: Checked) -> None:
    parts = wall_section(hall, ())
    fills = [p.mark.fill for p in parts if isinstance(p.mark, Patch)]
    assert "end grain" in fills
    assert "insulation" in fills
    assert fills.count("concrete") >= 2


def test_the_ladder_keeps_the_wall_section_where_there_is_one() -> None:
    checked = work_out(shown_demo())
    tiers_shown = {p.tier for p in wall_section(checked, ())}
    assert {the("walls:L1"), the("floor:F1"), the("floor:F2")} <= tiers_shown
