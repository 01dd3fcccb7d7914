"""What the header table says of the walls of a house: through the slip, and where it says nothing."""

import pytest
from msgspec.structs import replace

from balken.framing import kinds
from balken.model.edits import set_site
from balken.model.edits.wall_frames import frame_walls, rule_studs_of
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.snow import GroundSnow
from balken.model.walls import Opening, wall_length
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Fact
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, PSF
from balken.works.building import Checked, work_out
from balken.works.header_opinions import HEADER_TABLE, header_opinions
from balken.works.opinions import Opinion
from buildings import house


def with_windows(project: Project, header: str = "2-2x8") -> Project:
    """A window of 4 ft in every wall, under headers of one section."""
    hole = Opening("W1", "window", 6 * FOOT, 4 * FOOT, 4 * FOOT, 3 * FOOT)
    walls = tuple(
        replace(w, openings=(replace(hole, id=f"{w.id}-1", header=header),)) for w in project.walls
    )
    framed = frame_walls(replace(project, walls=walls), is_masonry)
    return set_site(framed, snow=GroundSnow(30 * PSF))


def said_of(done: Checked) -> dict[str, Opinion]:
    return {w.id: o for w in done.project.walls for o in header_opinions(done, w)}


def test_walls_under_the_eaves_have_an_answer() -> None:
    """36 by 26 ft: its long walls stand 26 ft apart, where the table has 6-10 at 20 ft and 5-11 at 28 ft, in
    proportion 6-1.75 (2x8, a roof alone, 30 psf); its short ones 36 ft, where it has 5-4."""
    done = work_out(with_windows(house()))
    found = said_of(done)
    long = [w.id for w in done.project.walls if w.id in found and wall_length(w) > 30 * FOOT]
    assert all(o.listed == pytest.approx(64 * INCH) for k, o in found.items() if k not in long)
    assert long
    for one in (found[key] for key in long):
        assert one.table == HEADER_TABLE
        assert one.there == pytest.approx(4 * FOOT)
        assert one.listed == pytest.approx((82 - 11 * 6 / 8) / 12 * FOOT, abs=0.5)
        assert one.kept


def test_a_floor_over_the_wall_shortens_it() -> None:
    done = work_out(with_windows(house(storeys=2)))
    by_storey: dict[str, list[float]] = {}
    for wall in done.project.walls:
        for one in header_opinions(done, wall):
            if one.listed:
                by_storey.setdefault(wall.base, []).append(one.listed)
    lower, upper = sorted(max(x) for x in by_storey.values())
    assert lower < upper


@pytest.mark.parametrize(
    ("changed", "told"),
    [
        ({"header": "2-LVL 1-3/4x9-1/2"}, "2x4 to 2x12"),
        ({"snow": 60 * PSF}, "50 psf"),
        ({"wide": 40}, "36 ft"),
        ({"grade": "No.3"}, "No. 2"),
        ({"dead": 21 * PSF}, "weight of a roof 21 psf"),
        ({"live": 25 * PSF}, "live load of a roof 25 psf"),
    ],
)
def test_outside_its_conditions_it_says_why(changed: dict[str, object], told: str) -> None:
    wide = float(str(changed.get("wide", 26)))
    project = house(52 * FOOT, wide * FOOT, 1)
    project = with_windows(project, str(changed.get("header", "2-2x8")))
    project = set_site(project, snow=GroundSnow(float(str(changed.get("snow", 30 * PSF)))))
    loads = {k: float(str(changed[k])) for k in ("dead", "live") if k in changed}
    project = replace(project, roofs=tuple(replace(r, **loads) for r in project.roofs))
    keys = [w.id for w in project.walls]
    project = rule_studs_of(project, keys, grade=str(changed.get("grade", "No.2")))
    found = said_of(work_out(project)).values()
    assert found
    assert any(told in o.words for o in found if o.listed is None), [o.words for o in found]
    assert not any(o.listed for o in found)


def test_too_few_jacks_are_told_and_other_codes_have_none() -> None:
    project = with_windows(house(storeys=2), "2-2x8")
    walls = tuple(
        replace(w, openings=tuple(replace(o, jacks=1) for o in w.openings)) for w in project.walls
    )
    found = said_of(work_out(replace(project, walls=walls)))
    assert any("2 jacks at each end, here 1" in o.words for o in found.values())
    metric = work_out(with_windows(house(system="metric"), ""))
    assert metric.structure.of(kinds.WALL_HEADER)
    assert said_of(metric) == {}


def test_it_stands_on_the_slip_of_the_wall() -> None:
    desk = Desk(Building(with_windows(house())), THINGS)
    key = next(k for k, o in said_of(desk.checked).items() if o.listed)
    desk.select(HostName("wall", key))
    facts = {r.name: r.text for r in rows_of(desk) if isinstance(r, Fact)}
    assert {"studs apart"} <= set(facts)
    (text,) = (t for name, t in facts.items() if name.startswith("header "))
    assert "allowed" in text
    assert "4'-0\"" in text
