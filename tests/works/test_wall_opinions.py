"""The tables of the IRC beside the calculation: R602.3(5), and R602.10.3(1) with (2), cells from memory; just
outside each condition there is no answer."""

import pytest
from msgspec.structs import replace

from balken.design.codes.us.irc_earthquake import (
    LENGTHS,
    LINE_LENGTHS,
    ShakenLine,
    category_of,
    shaken_length,
)
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
from balken.model.wind import Earthquake, Wind
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, MPH, PSF
from balken.works.bracing import braced_lines
from balken.works.bracing_opinions import QUAKE, WIND, bracing_opinions
from balken.works.building import work_out
from balken.works.wall_opinions import stud_opinion
from buildings import house

LINE = Line(30 * FOOT, 0, 115 * MPH, "B", 10 * FOOT, 10 * FOOT, 2, True)


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
    assert bracing_length(LINE._replace(gypsum=False)).length == pytest.approx(5.5 * 1.4 * FOOT)
    boards = LINE._replace(gypsum=False, method="GB")
    assert bracing_length(boards).length == pytest.approx(9.5 * FOOT)
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
    said = {o.words for w in walls if (o := stud_opinion(done, w)) is not None and o.listed}
    assert "under a roof" in said
    assert "under a roof and a floor" in said
    by_storey: dict[float, list[float]] = {}
    for line in braced_lines(done):
        for one in bracing_opinions(done, line):
            assert one.listed
            if "method WSP" in one.words:
                by_storey.setdefault(line.storey.top, []).append(one.listed)
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
    assert "asked for" in facts[WIND]
    assert "allowed" in facts["studs apart"]


SHAKEN = ShakenLine(
    "D1", 30 * FOOT, 25 * FOOT, 0, 10 * FOOT, 10 * PSF, 15 * PSF, 10 * PSF, False, True
)


@pytest.mark.parametrize(
    ("sds", "category"),
    [(0.17, "A"), (0.33, "B"), (0.5, "C"), (0.51, "D0"), (0.67, "D0"), (0.83, "D1"), (1.25, "D2")],
)
def test_the_category_of_a_place(sds: float, category: str) -> None:
    """IRC 2021 table R301.2.2.1.1; over 1.25 it is E."""
    assert category_of(sds) == category
    assert category_of(1.26) == "E"


@pytest.mark.parametrize(
    ("category", "method", "over", "length", "feet"),
    [
        ("D0", "WSP", 0, 20, 3.6),
        ("D1", "WSP", 0, 30, 6.0),
        ("D1", "WSP", 1, 40, 18.0),
        ("D1", "GB", 1, 25, 15.0),
        ("D2", "CS-WSP", 1, 50, 23.4),
        ("D2", "WSP", 0, 8, 2.5),
        ("D1", "WSP", 2, 50, 30.0),
    ],
)
def test_lengths_against_earthquakes(
    category: str, method: str, over: int, length: float, feet: float
) -> None:
    """Cells of table R602.10.3(3) from memory; every factor is 1. Shorter lines as those of 10 ft."""
    line = SHAKEN._replace(
        category=category, method=method, storeys_over=over, length=length * FOOT
    )
    assert shaken_length(line).length == pytest.approx(feet * FOOT)


def test_panels_all_over_are_asked_for_at_eighty_five_of_the_hundred() -> None:
    """The printed rows of CS-WSP are those of WSP times 0.85, to the tenth of a foot; all rows grow with the
    line, and each storey asks for more than the one above."""
    for (category, method), rows in LENGTHS.items():
        for storey, row in enumerate(rows):
            if method == "CS-WSP":
                panels = LENGTHS[category, "WSP"][storey]
                assert row == pytest.approx([0.85 * x for x in panels], abs=0.11)
            assert row == pytest.approx([row[-1] * x / 50 for x in LINE_LENGTHS], abs=0.11)
        assert [r[0] for r in rows] == sorted(r[0] for r in rows)


def test_the_factors_against_earthquakes() -> None:
    """Table R602.10.3(4): walls over 10 ft 1.2, lines 30 ft apart 1.2 and 35 ft 1.4, light walls 0.85, heavy
    roofs 1.2 and 1.1 under a floor, no gypsum 1.5."""
    for changed, factor in (
        ({"wall": 11 * FOOT}, 1.2),
        ({"spacing": 30 * FOOT}, 1.2),
        ({"spacing": 35 * FOOT}, 1.4),
        ({"wall_dead": 8 * PSF}, 0.85),
        ({"roof_dead": 25 * PSF}, 1.2),
        ({"gypsum": False}, 1.5),
    ):
        assert shaken_length(SHAKEN._replace(**changed)).length == pytest.approx(
            6.0 * factor * FOOT
        ), changed
    under = SHAKEN._replace(storeys_over=1, roof_dead=16 * PSF)
    assert shaken_length(under).length == pytest.approx(13.5 * 1.1 * FOOT)
    for outside in (
        {"category": "C"},
        {"category": "E"},
        {"method": "LIB"},
        {"category": "D2", "storeys_over": 2},
        {"length": 50.1 * FOOT},
        {"spacing": 35.1 * FOOT},
        {"wall": 12.1 * FOOT},
        {"wall_dead": 15.1 * PSF},
        {"roof_dead": 25.1 * PSF},
        {"floor_dead": 10.1 * PSF},
        {"veneer": True},
    ):
        with pytest.raises(BalkenError):
            shaken_length(SHAKEN._replace(**outside))


def test_wind_and_earthquake_are_answered_side_by_side() -> None:
    """Earthquake alone has its answer too; a place that hardly shakes is told once a line."""
    shaken = set_site(blown(), earthquake=Earthquake(sds=0.7, sd1=0.4))
    done = work_out(shaken)
    about = {o.about for b in braced_lines(done) for o in bracing_opinions(done, b)}
    assert about == {WIND, QUAKE}
    alone = work_out(set_site(shaken, wind=None))
    found = [o for b in braced_lines(alone) for o in bracing_opinions(alone, b)]
    assert {o.about for o in found} == {QUAKE}
    calm = work_out(set_site(shaken, earthquake=Earthquake(sds=0.2, sd1=0.1)))
    for line in braced_lines(calm):
        told = [o for o in bracing_opinions(calm, line) if o.about == QUAKE]
        assert [o.words for o in told] == ["category B asks for none of houses"]
