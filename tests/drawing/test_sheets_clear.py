"""Nothing on a sheet runs into anything else: words stay out of the title's column, strings stand
clear of the building, and contours end before dimensions."""

import pytest
from shapely import LineString, box

from balken.drawing.clearing import words_box
from balken.drawing.marks import Label, Stroke
from balken.drawing.plan import supports_on
from balken.drawing.sheet import BLOCK, MARGIN, Sheet, plan_sheet, upright_sheet
from balken.drawing.tiers import tiers
from balken.drawing.upright import SIDES, looking
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module")
def hall() -> Checked:
    return work_out(ferry_hall())


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


def right_end(sheet: Sheet) -> float:
    """How far to the right the words of the drawing reach on the paper, mm."""
    ends = [
        words_box(m, sheet.scale).bounds[2]
        for m in sheet.drawing
        if isinstance(m, Label) and m.text
    ]
    return sheet.origin[0] + max(ends) / sheet.scale


def test_words_keep_out_of_the_column_of_the_title(bakehouse: Checked, hall: Checked) -> None:
    for checked in (bakehouse, hall):
        drawn = [
            upright_sheet(checked, looking(checked.project, side), side, "S1") for side in SIDES
        ]
        drawn += [plan_sheet(checked, tier, "S1", ()) for tier in tiers(checked)]
        for sheet in drawn:
            assert right_end(sheet) < sheet.width - MARGIN - BLOCK, sheet.title


def test_contours_end_before_dimensions_and_words(bakehouse: Checked) -> None:
    ground = next(t for t in tiers(bakehouse) if t.kind == "ground")
    sheet = plan_sheet(bakehouse, ground, "S1", ())
    contours = [
        LineString(m.points) for m in sheet.drawing if isinstance(m, Stroke) and m.pen == "beyond"
    ]
    assert len(contours) > 10
    strings = [
        LineString(m.points) for m in sheet.drawing if isinstance(m, Stroke) and m.pen == "hair"
    ]
    sizes = [
        words_box(m, sheet.scale) for m in sheet.drawing if isinstance(m, Label) and m.size == 2.4
    ]
    assert len(sizes) > 8
    for line in contours:
        assert not any(line.crosses(s) for s in strings)
        assert not any(line.intersects(w) for w in sizes)


def test_strings_stand_clear_of_pads_where_walls_are_small(hall: Checked) -> None:
    """The hall stands on posts; its only walls are those of an office in one corner."""
    ground = next(t for t in tiers(hall) if t.kind == "ground")
    sheet = plan_sheet(hall, ground, "S1", ())
    pads = [m for m in supports_on(hall, ground) if isinstance(m, Stroke)]
    around = box(
        min(x for m in pads for x, _ in m.points),
        min(y for m in pads for _, y in m.points),
        max(x for m in pads for x, _ in m.points),
        max(y for m in pads for _, y in m.points),
    )
    words = {m.text: m.at for m in sheet.drawing if isinstance(m, Label)}
    assert words["5400"][1] > around.bounds[3], "over the uppermost pads"
    assert words["6000"][0] < around.bounds[0], "left of the leftmost"
    lines = [m for m in sheet.drawing if isinstance(m, Label) and m.text == "7200"]
    assert len(lines) == 2
