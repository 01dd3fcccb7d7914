"""Nothing on a sheet runs into anything else: words stay out of the title's column, strings stand
clear of the building, and contours end before dimensions."""

from itertools import combinations

import pytest
from shapely import LineString, Point, box
from shapely.geometry.base import BaseGeometry

from balken.drawing.clearing import words_box
from balken.drawing.marks import Label, Stroke, extent
from balken.drawing.paper.column import COLUMN, MARGIN, room_of
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.records import Placed, Sheet
from balken.drawing.plan import supports_on
from balken.drawing.tiers import tiers
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module")
def hall() -> Checked:
    return work_out(ferry_hall())


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


def sheets(checked: Checked) -> tuple[Sheet, ...]:
    return sheets_of(checked, (), "2026-01-01")


def plan_view(checked: Checked, kind: str) -> Placed:
    """The plan of the first tier of a kind, as it lies on its sheet."""
    tier = next(t for t in tiers(checked) if t.kind == kind)
    views = [v for s in sheets(checked) for v in s.views]
    return next(v for v in views if v.key == f"plan:{tier.id}")


def test_words_keep_out_of_the_column_of_the_title(bakehouse: Checked, hall: Checked) -> None:
    for checked in (bakehouse, hall):
        for sheet in sheets(checked):
            for view in sheet.views:
                ends = [
                    words_box(m, view.scale).bounds[2]
                    for m in view.drawing
                    if isinstance(m, Label) and m.text
                ]
                reach = view.origin[0] + max(ends, default=0.0) / view.scale
                assert reach < sheet.width - MARGIN - COLUMN, (sheet.title, view.title)


def test_views_lie_on_their_sheets_and_on_no_other(bakehouse: Checked, hall: Checked) -> None:
    """Everything that is drawn lies inside its view's box, boxes share no room, and each view is drawn
    once."""
    for checked in (bakehouse, hall):
        keys = [v.key for s in sheets(checked) for v in s.views]
        assert len(keys) == len(set(keys))
        for sheet in sheets(checked):
            left, foot, right, top = room_of(sheet.width, sheet.height)
            boxes = [box(*v.box) for v in sheet.views]
            for a, b in combinations(boxes, 2):
                assert a.intersection(b).area < 1.0, sheet.title
            for view, taken in zip(sheet.views, boxes):
                assert left - 0.1 <= taken.bounds[0]
                assert taken.bounds[2] <= right + 0.1
                assert foot - 0.1 <= taken.bounds[1]
                assert taken.bounds[3] <= top + 0.1
                x0, y0, x1, y1 = extent(view.drawing) or (0.0, 0.0, 0.0, 0.0)
                for x, y in ((x0, y0), (x1, y1)):
                    on = (view.origin[0] + x / view.scale, view.origin[1] + y / view.scale)
                    assert taken.buffer(0.1).contains(Point(*on)), view.title


def leads_to(line: Stroke, words: list[BaseGeometry]) -> bool:
    """Whether a line leads from what is named to its words: it ends on them."""
    end = Point(*line.points[-1])
    return len(line.points) == 2 and any(end.distance(w) < 60.0 for w in words)


def test_contours_end_before_dimensions_and_words(bakehouse: Checked) -> None:
    sheet = plan_view(bakehouse, "ground")
    words = [words_box(m, sheet.scale) for m in sheet.drawing if isinstance(m, Label)]
    contours = [
        LineString(m.points)
        for m in sheet.drawing
        if isinstance(m, Stroke) and m.pen == "beyond" and not leads_to(m, words)
    ]
    assert len(contours) > 10
    strings = [
        LineString(m.points) for m in sheet.drawing if isinstance(m, Stroke) and m.pen == "hair"
    ]
    sizes = [
        words_box(m, sheet.scale) for m in sheet.drawing if isinstance(m, Label) and not m.quiet
    ]
    assert len(sizes) > 8
    for line in contours:
        assert not any(line.crosses(s) for s in strings)
        assert not any(line.intersects(w) for w in sizes)


def test_strings_stand_clear_of_pads_where_walls_are_small(hall: Checked) -> None:
    """The hall stands on posts; its only walls are those of an office in one corner."""
    ground = next(t for t in tiers(hall) if t.kind == "ground")
    sheet = plan_view(hall, "ground")
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
