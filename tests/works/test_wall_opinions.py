"""The tables of the IRC beside the calculation: R602.3(5), and R602.10.3(1) with (2), cells from memory; just
outside each condition there is no answer."""

import pytest
from msgspec.structs import replace

from balken.design.codes.us.irc_walls import (
    LEAST_PANEL,
    Line,
    bracing_length,
    least_continuous,
    stud_spacing,
)
from balken.errors import BalkenError
from balken.model.edits import set_site
from balken.model.edits.wall_frames import OFFERED, frame_walls, rule_studs_of
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.wind import Wind
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, MPH
from balken.works.bracing import braced_lines
from balken.works.building import work_out
from balken.works.wall_opinions import bracing_opinions, stud_opinion
from buildings import house

LINE = Line(30 * FOOT, 0, 115 * MPH, "B", 10 * FOOT, 10 * FOOT, 2)


@pytest.mark.parametrize(
    ("depth", "floors", "apart"),
    [(3.5, 0, 24), (3.5, 1, 16), (5.5, 0, 24), (5.5, 1, 24), (5.5, 2, 16)],
)
def test_studs_by_the_table(depth: float, floors: int, apart: float) -> None:
    assert stud_spacing(depth * INCH, 10 * FOOT, floors) == pytest.approx(apart * INCH)


def test_the_stud_table_ends() -> None:
    """2x4 under two floors, 2x8, over 10 ft, three floors: none."""
    for depth, height, floors in ((3.5, 8, 2), (7.25, 8, 0), (5.5, 10.1, 0), (5.5, 8, 3)):
        with pytest.raises(BalkenError):
            stud_spacing(depth * INCH, height * FOOT, floors)


@pytest.mark.parametrize(
    ("spacing", "over", "feet"),
    [
        (10, 0, 2.0),
        (20, 0, 3.5),
        (30, 0, 5.5),
        (40, 0, 7.0),
        (60, 0, 10.5),
        (30, 1, 10.5),
        (30, 2, 15.5),
    ],
)
def test_lengths_at_115_mph(spacing: float, over: int, feet: float) -> None:
    """Exposure B, walls of 10 ft, two lines, ridge 10 ft over the eaves: every factor is 1."""
    found = bracing_length(LINE._replace(spacing=spacing * FOOT, storeys_over=over))
    assert found.length == pytest.approx(feet * FOOT)


def test_the_factors_of_the_second_table() -> None:
    """Exposure C 1.2, ridge 5 ft 0.7, walls of 8 ft 0.9, three lines 1.3, and the square of the speed."""
    changed = LINE._replace(exposure="C", ridge=5 * FOOT, wall=8 * FOOT, lines=3, speed=130 * MPH)
    by_hand = 5.5 * (130 / 115) ** 2 * 1.2 * 0.7 * 0.9 * 1.3
    assert bracing_length(changed).length == pytest.approx(by_hand * FOOT)
    for outside in (
        {"speed": 140 * MPH},
        {"spacing": 60.1 * FOOT},
        {"wall": 12.1 * FOOT},
        {"ridge": 20.1 * FOOT},
        {"storeys_over": 3},
    ):
        with pytest.raises(BalkenError):
            bracing_length(LINE._replace(**outside))  # type: ignore[arg-type]


def blown() -> Project:
    project = set_site(house(storeys=2), wind=Wind(115 * MPH, "B"))
    project = frame_walls(project, is_masonry)
    keys = [w.id for w in project.walls]
    return rule_studs_of(project, keys, panels=OFFERED["us"][2])


def test_what_the_tables_say_of_a_house() -> None:
    """Two storeys: the lower walls stand under a roof and one floor, the upper under a roof."""
    done = work_out(blown())
    walls = sorted(done.project.walls, key=lambda w: w.base)
    said = {o.words for w in walls if (o := stud_opinion(done, w)) is not None and o.allowed}
    assert "under a roof" in said
    assert "under a roof and a floor" in said
    by_storey: dict[float, list[float]] = {}
    for line in braced_lines(done):
        for one in bracing_opinions(done, line):
            assert one.allowed
            if "method WSP" in one.words:
                by_storey.setdefault(line.storey.top, []).append(one.allowed)
    lower, upper = (by_storey[top] for top in sorted(by_storey))
    assert min(lower) > max(upper) / 2
    assert max(lower) > max(upper), "a storey below another asks for more"


@pytest.mark.parametrize(
    ("height", "clear", "least"), [(8, 64, 24), (8, 80, 32), (8, 96, 48), (9, 80, 30), (9, 0, 27)]
)
def test_panels_all_over_a_wall(height: float, clear: float, least: float) -> None:
    """Cells of table R602.10.5, method CS-WSP, from memory."""
    assert least_continuous(height * FOOT, clear * INCH) == pytest.approx(least * INCH)
    assert least_continuous(13 * FOOT, clear * INCH) == LEAST_PANEL


def test_boards_let_in_hold_two_storeys_at_most() -> None:
    assert bracing_length(LINE._replace(method="LIB")).length == pytest.approx(9.5 * FOOT)
    assert bracing_length(LINE._replace(method="GB", storeys_over=2)).length == pytest.approx(
        27 * FOOT
    )
    with pytest.raises(BalkenError):
        bracing_length(LINE._replace(method="LIB", storeys_over=2))


def test_other_codes_and_thin_panels_have_no_opinion() -> None:
    done = work_out(blown())
    metric = work_out(frame_walls(house(system="metric"), is_masonry))
    assert stud_opinion(metric, metric.project.walls[0]) is None
    thin = OFFERED["us"][2]
    keys = [w.id for w in done.project.walls]
    bare = work_out(rule_studs_of(done.project, keys, panels=replace(thin, thick=8.0)))
    said = [o for b in braced_lines(bare) for o in bracing_opinions(bare, b)]
    assert not [o for o in said if "WSP" in o.words]


def test_they_stand_on_the_slip() -> None:
    desk = Desk(Building(blown()), THINGS)
    desk.select(HostName("wall", desk.project.walls[0].id))
    rows = rows_of(desk)
    assert any(isinstance(r, Heading) and r.text == "Second opinion" for r in rows)
    facts = {r.name: r.text for r in rows if isinstance(r, Fact)}
    assert "asked for" in facts["bracing"]
    assert "allowed" in facts["studs apart"]
