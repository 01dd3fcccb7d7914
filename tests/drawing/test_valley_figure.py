"""Frames of valleys on their sheet: each once, as long and as high as it is framed, its pieces listed."""

from itertools import pairwise

import pytest
from msgspec.structs import replace

from balken.drawing.marks import Label, Patch
from balken.drawing.valley_figure import valley_drawing, valley_frames, valley_notes
from balken.framing import kinds
from balken.geometry.plane import signed_area
from balken.model.names import HostName
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.trusses import are_alike, truss_kinds
from balken.units import format_length
from balken.works.building import Checked, work_out

WING = HostName("roof", "R2")


@pytest.fixture(scope="module")
def checked() -> Checked:
    return work_out(shown_demo())


def test_each_frame_is_drawn_with_its_mark_and_measures(checked: Checked) -> None:
    frames = valley_frames(checked, WING)
    marks = valley_drawing(checked, WING, 24.0)
    words = [m.text for m in marks if isinstance(m, Label)]
    for row, pieces in frames.items():
        assert words.count(row) == 1
        plate = next(m for m in pieces if m.kind is kinds.BOTTOM_CHORD)
        along = [s for s, _ in plate.solid.outline]
        assert format_length(max(along) - min(along), "us") in words
    assert "01" not in frames, "trusses have drawings of their own"


def test_pieces_are_drawn_at_their_true_size(checked: Checked) -> None:
    drawn = [m for m in valley_drawing(checked, WING, 24.0) if isinstance(m, Patch)]
    pieces = [m for found in valley_frames(checked, WING).values() for m in found]
    areas = {m.id: abs(signed_area(m.solid.outline)) for m in pieces}
    assert {m.key: pytest.approx(abs(signed_area(m.ring))) for m in drawn} == areas


def test_frames_lie_clear_of_one_another(checked: Checked) -> None:
    spans: dict[str, list[float]] = {}
    for m in valley_drawing(checked, WING, 24.0):
        if isinstance(m, Patch) and m.key is not None:
            spans.setdefault(m.key.row, []).extend(x for x, _ in m.ring)  # type: ignore[union-attr]
    ends = sorted((min(xs), max(xs)) for xs in spans.values())
    assert all(a[1] < b[0] for a, b in pairwise(ends))


def test_a_line_lists_the_pieces_of_each_frame(checked: Checked) -> None:
    frames = valley_frames(checked, WING)
    lines = {line.partition(":")[0]: line for line in valley_notes(checked, WING)}
    for row, pieces in frames.items():
        assert lines[row].count("rafter") == sum(m.kind is kinds.TOP_CHORD for m in pieces)
        assert lines[row].count("post") == sum(m.kind is kinds.WEB for m in pieces)


def test_trusses_of_a_building_that_lies_at_an_angle_are_alike() -> None:
    """Their joints differ by what numbers are rounded to: one drawing with a count, not one for each; a
    joint 1 mm off makes another truss."""
    kinds_of_truss = truss_kinds(work_out(ferry_hall()))
    common = max(kinds_of_truss, key=lambda k: len(k.rows))
    assert len(common.rows) > 10
    assert len(kinds_of_truss) < 12
    one = common.roof.placed[common.first]
    x, z = one.truss.joints[3]
    joints = (*one.truss.joints[:3], (x, z + 1.0), *one.truss.joints[4:])
    assert not are_alike(one, replace(one, truss=replace(one.truss, joints=joints)))


def test_ties_of_jacks_are_no_frames() -> None:
    checked = work_out(ferry_hall())
    assert not any(valley_frames(checked, host) for host in checked.trusses)
