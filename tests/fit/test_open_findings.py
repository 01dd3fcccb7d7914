"""Open work: what a part of a building lacks is told once, with its mend where it can be mended."""

from msgspec.structs import replace

from balken.fit.finding import Finding
from balken.fit.open_findings import open_work
from balken.geometry.plane import Point
from balken.model.edits.walls import WallKind, draw_walls
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import work_out
from buildings import house


def told(project: Project) -> list[Finding]:
    return list(open_work(work_out(project)))


def test_a_building_that_is_whole_has_none() -> None:
    assert told(house()) == []
    assert told(shown_demo()) == []
    assert told(demo_project()) == []


def test_walls_alone_lack_foundation_floor_and_roof_once_each() -> None:
    found = told(replace(house(), runs=(), floors=(), roofs=()))
    assert [f.kind for f in found] == ["open"] * 3
    for word, f in zip(("foundation", "floor", "roof"), found):
        assert f"have no {word}" in f.text
        assert "936 sq ft" in f.text, "26 by 36 ft"


def test_each_mend_leaves_less_open_until_nothing_is() -> None:
    project = replace(house(), runs=(), floors=(), roofs=())
    left = told(project)
    for _ in range(5):
        mends = [f.mend for f in left if f.mend]
        if not mends:
            break
        project = mends[0].apply(project)
        after = told(project)
        assert len(after) < len(left)
        left = after
    assert left == []


def test_a_wing_without_a_roof_is_told_apart_from_the_main_block() -> None:
    found = told(replace(shown_demo(), roofs=shown_demo().roofs[:1]))
    assert len(found) == 1
    assert "have no roof" in found[0].text
    assert "304 sq ft" in found[0].text


def test_a_roof_that_covers_a_part_only_leaves_a_rest_open() -> None:
    project = shown_demo()
    (first, *rest) = project.roofs
    assert rest
    kept = replace(project, roofs=(first,), floors=project.floors)
    assert {f.kind for f in told(kept)} == {"open"}


def test_a_room_without_a_floor_under_another_floor_needs_no_roof() -> None:
    found = told(ferry_hall())
    assert len(found) == 1
    assert "have no floor" in found[0].text
    assert not any("roof" in f.text for f in found)


def with_wing(corners: tuple[Point, ...], *, closed: bool) -> Project:
    """A metric house of 11 by 8 m on one storey, and more walls on it that nobody framed."""
    project = house(11_000.0, 8_000.0, 1, "metric")
    kind = WallKind("L1", project.walls[0].top, thickness=150.0)
    return draw_walls(project, kind, corners, closed=closed)


BESIDE: tuple[Point, ...] = (
    (3_000.0, 8_000.0),
    (3_000.0, 12_000.0),
    (8_000.0, 12_000.0),
    (8_000.0, 8_000.0),
)
APART: tuple[Point, ...] = (
    (20_000.0, 0.0),
    (20_000.0, 4_000.0),
    (25_000.0, 4_000.0),
    (25_000.0, 0.0),
)


def test_a_wing_beside_a_floored_block_is_told_to_have_no_floor() -> None:
    """Most of what the walls enclose has a floor: the wing is told all the same."""
    (floor, _) = told(with_wing(BESIDE, closed=False))
    assert "have no floor" in floor.text
    assert "22 m²" in floor.text, "5 by 4 m, to the outer faces"
    assert floor.mend is not None
    assert not any(
        "have no floor" in f.text for f in told(floor.mend.apply(with_wing(BESIDE, closed=False)))
    )


def test_a_block_apart_has_none_of_three_though_another_has_them() -> None:
    project = with_wing(APART, closed=True)
    words = [f.text for f in told(project)]
    assert len(words) == 3
    for word, text in zip(("foundation", "floor", "roof"), words):
        assert f"have no {word}" in text
    for _ in range(3):
        mends = [f.mend for f in told(project) if f.mend]
        assert mends
        project = mends[0].apply(project)
    assert told(project) == []


def test_a_well_between_floors_is_no_part_without_one() -> None:
    """The case just outside: a strip less wide than a room, as beside a stair."""
    project = house(11_000.0, 8_000.0, 1, "metric")
    first = next(f for f in project.floors if f.level == "L1")
    ring = ((0.0, 0.0), (9_600.0, 0.0), (9_600.0, 8_000.0), (0.0, 8_000.0))
    narrow = tuple(replace(f, corners=ring) if f is first else f for f in project.floors)
    assert told(replace(project, floors=narrow)) == []
    ring = ((0.0, 0.0), (9_300.0, 0.0), (9_300.0, 8_000.0), (0.0, 8_000.0))
    wide = tuple(replace(f, corners=ring) if f is first else f for f in project.floors)
    assert ["have no floor" in f.text for f in told(replace(project, floors=wide))] == [True]
