"""Lines of walls against wind and earthquake: SDPWS-2015 4.3 and EN 1995-1-1 9.2.4.2 by hand, the least
that makes a line hold, and what pulls at its ends."""

import math

import pytest
from msgspec.structs import replace

from balken.design.codes import timber_by
from balken.design.codes.eu.ec5 import panels as eu
from balken.design.codes.eu.ec5.values import timber
from balken.design.codes.timber import Racking
from balken.fit.findings import findings
from balken.framing import kinds
from balken.geometry.plane import distance
from balken.model.edits.fasteners import choose_fastener
from balken.model.edits.wall_frames import EDGES, OFFERED, as_build_up, rule_studs, rule_studs_of
from balken.model.names import HostName
from balken.model.project import Project, wall
from balken.model.walls import wall_length
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk
from balken.session.rows import Checks, Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import FOOT, INCH, LB
from balken.works.bracing import between_openings, braced_lines, ends_of, turned_by_quake
from balken.works.building import work_out
from balken.works.fasteners import demands_of
from balken.works.overturning import HeldEnd, held_ends, pressed_ends, stud_at, turned_ends
from named import the

US, EU = timber_by("us"), timber_by("eu")
PLF = LB / FOOT


def asked(**more: object) -> Racking:
    made = Racking("15/32", "8d", 11.9, 3.3, 63.5, 4 * INCH, 1, "HF", "No.2", 9.1 * FOOT, 8 * FOOT)
    return made._replace(**more)  # type: ignore[arg-type]


def test_unit_shear_by_the_table_with_its_factors() -> None:
    """1,065 plf of 15/32 in panels with 8d at 4 in on Hem-Fir: 1065 / 2 (1 - 0.07) = 495 plf over 8 ft;
    against wind as it is over 0.6 (table 4.3A as in the check values)."""
    found = US.racked(asked())
    assert found.held == pytest.approx(1065 / 2 * 0.93 * PLF * 8 * FOOT / 0.6)
    quake = US.racked(asked(quake=True))
    assert quake.held == pytest.approx(760 / 2 * 0.93 * PLF * 8 * FOOT / 0.7)
    both = US.racked(asked(faces=2))
    assert both.held == pytest.approx(2 * found.held)


def test_slender_walls_hold_less_and_then_nothing() -> None:
    """1.25 - 0.125 h/b over 2 to 1; nothing over 3.5 to 1 (SDPWS-2015 4.3.4.2, table 4.3.4)."""
    broad = US.racked(asked(length=9.1 * FOOT / 2)).held / (9.1 * FOOT / 2)
    slim = US.racked(asked(length=9.1 * FOOT / 3)).held / (9.1 * FOOT / 3)
    assert slim / broad == pytest.approx(1.25 - 0.125 * 3)
    assert US.racked(asked(length=9.1 * FOOT / 3.49)).held > 0
    assert US.racked(asked(length=9.1 * FOOT / 3.51)).held == 0.0
    assert US.racked(asked(edges=5 * INCH)).why


def test_a_european_wall_by_method_a() -> None:
    """F_v,Rd = 1.2 F_f,Rd b c / s, c = b / (h/2) up to 1, nothing under h/4 (EN 1995-1-1 9.2.4.2)."""
    wall = asked(
        species="softwood",
        grade="C24",
        thick=12.0,
        nail_diameter=2.8,
        nail_length=63.0,
        edges=150.0,
        height=2_600.0,
        length=2_400.0,
    )
    bearing = 65 * 2.8**-0.7 * 12**0.1
    assert eu.embedding_of_board(2.8, 12.0) == pytest.approx(bearing)
    whole = EU.racked(wall)
    lines = {x.symbol: x.value for x in whole.lines}
    assert lines["Ff,Rd"] == pytest.approx(lines["Ff,Rk"] * 1.2 * 1.1 / 1.3)
    assert whole.held == pytest.approx(lines["Ff,Rd"] * 2_400 / 150 / 1.5)
    half = EU.racked(wall._replace(length=650.0 * 1.01))
    assert half.held == pytest.approx(lines["Ff,Rd"] * 656.5 / 150 * (656.5 / 1_300) / 1.5)
    assert EU.racked(wall._replace(length=649.0)).held == 0.0
    assert "8 d" in EU.racked(wall._replace(nail_length=30.0)).why
    assert timber("C24").density == 350


def framed(panels: bool = True) -> Project:
    project = shown_demo()
    if panels:
        return project
    bare = as_build_up(project, ["W1", "W3"])
    for body in project.wall_build_ups:
        bare = rule_studs(bare, body.id, panels=None)
    return bare


def test_sheathed_walls_are_braced_from_the_start_and_bare_ones_told_with_their_mend() -> None:
    good = work_out(framed())
    outside = [b for b in braced_lines(good) if b.stretches]
    assert outside
    assert all(b.used <= 1.0 for b in outside)
    bare = work_out(framed(panels=False))
    told = [f for f in findings(bare) if f.text.startswith("The line of")]
    assert len(told) == len(braced_lines(bare))
    project = bare.project
    for f in told:
        assert f.mend is not None
        project = f.mend.apply(project)
    after = findings(work_out(project))
    assert not [f for f in after if f.text.startswith("The line of")]


def test_the_least_mend_is_closer_nails_before_stronger_panels() -> None:
    """Ten times the wind: 6 in is not enough, the first spacing that is is offered."""
    project = framed()
    wind = project.site.wind
    assert wind is not None
    storm = replace(project, site=replace(project.site, wind=replace(wind, speed=wind.speed * 1.7)))
    done = work_out(storm)
    over = [f for f in findings(done) if f.text.startswith("The line of") and f.kind == "over"]
    assert over
    for f in over:
        assert f.mend is not None
        assert "7/16" in f.mend.text or "on both faces" in f.mend.text or "15/32" in f.mend.text
        fixed = work_out(f.mend.apply(storm))
        named = [x for x in findings(fixed) if x.place == f.place and x.kind == "over"]
        assert not named


def test_stretches_lie_between_openings_and_pull_by_their_height() -> None:
    done = work_out(framed())
    item = next(w for w in done.project.walls if len(w.openings) == 3)
    holes = sorted(item.openings, key=lambda o: o.at)
    found = list(between_openings(item))
    assert found[0] == (0.0, holes[0].at)
    assert all(b <= h.at or a >= h.at + h.width for a, b in found for h in holes)
    braced = next(b for b in braced_lines(done) if item.id in b.line.walls)
    ends = ends_of(done.project, braced)
    for e in ends:
        share = e.stretch.wind.held / braced.wind
        turning = 0.6 * braced.line.wind * share * e.stretch.height / e.stretch.length
        dead = 0.6 * (e.stretch.dead + e.stretch.lifts) * e.stretch.length / 2
        assert e.pulls == pytest.approx(max(0.0, turning - dead))
        assert e.sways > 0


def test_panels_are_chosen_on_the_slip_and_the_line_reads_back() -> None:
    desk = Desk(Building(framed(panels=False)), THINGS)
    desk.select(the("wall:W101"))

    def row(name: str) -> Options:
        return next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == name)

    row("braced by panels").choose(OFFERED["us"][2])
    checks = [c for r in rows_of(desk) if isinstance(r, Checks) for c in r.checks]
    (along,) = [c for c in checks if c.name == "Wind along it"]
    row("nails at edges").choose(EDGES["us"][2])
    checks = [c for r in rows_of(desk) if isinstance(r, Checks) for c in r.checks]
    (closer,) = [c for c in checks if c.name == "Wind along it"]
    assert closer.ratio == pytest.approx(along.ratio * 670 / 1260)
    row("on").choose(2)
    assert desk.project.walls[0].studs is not None
    assert math.isfinite(closer.ratio)


def test_what_pulls_above_pulls_below_too_and_dead_load_is_counted_once() -> None:
    """Moments about the foot of the lower wall, by hand: V2 h over L beside V1 h over L, less 0.6 of all
    the dead load on the lower wall and 0.6 of what wind lifts of it (ASCE 7-16 2.4.1 no. 7)."""
    done = work_out(framed())
    by_wall: dict[str, list[HeldEnd]] = {}
    for held in held_ends(done):
        by_wall.setdefault(held.wall, []).append(held)
    lower = next(h for h in by_wall["W101"] if h.at == (0.0, 0.0))
    ends = {
        (e.stretch.wall, e.stretch.low): e
        for b in braced_lines(done)
        for e in ends_of(done.project, b)
    }
    over, under = ends["W201", 0.0], ends["W101", 0.0]
    onto = done.path.onto[HostName("wall", "W101")]
    held = 0.6 * (onto.dead + onto.uplift) / wall_length(wall(done.project, "W101"))
    by_hand = over.turning + under.turning - held * under.stretch.length / 2
    assert lower.pulls == pytest.approx(by_hand)
    assert lower.above == pytest.approx(over.turning)


def test_a_wall_past_a_floor_is_turned_once_and_corners_pull_one_way_at_a_time() -> None:
    done = work_out(framed())
    mine = [h for h in held_ends(done) if h.wall == "W1"]
    assert len(mine) == 2, "one stretch from the ground to the roof"
    assert all(h.above == 0 for h in mine)
    corner = [h for h in held_ends(done) if distance(h.at, (6096.0, 14020.8)) < 1.0]
    assert {h.wall for h in corner} == {"W1", "W2"}
    assert all(h.above == 0 for h in corner), "wind along one wall pulls nothing of the other"


def test_hold_downs_are_listed_by_their_studs_and_told_where_none_stands() -> None:
    done = work_out(framed())
    demands = {d.what: d for d in demands_of(done) if d.use == "hold-down"}
    held = [h for h in held_ends(done) if stud_at(done, h) is not None]
    assert len(demands) == len({stud_at(done, h).id for h in held})  # type: ignore[union-attr]
    bare = [h for h in held_ends(done) if stud_at(done, h) is None]
    assert all(h.over_nothing for h in bare)
    told = [f for f in findings(done) if "hold-down could be fixed" in f.text]
    assert bool(told) is bool(bare)
    chosen = choose_fastener(done.project, "hold-down", "HD", 4000.0)
    over = [f for f in findings(work_out(chosen)) if f.text.startswith("Hold-downs of walls")]
    assert over
    assert over[0].kind == "over"


def test_studs_at_ends_are_pushed_beside_what_comes_down_and_share_where_they_touch() -> None:
    """What pushes is what turns, storey over storey (statics); two studs share it."""
    done = work_out(framed())
    single = {(e.wall, e.at): r for e, _, r in pressed_ends(done)}
    project = rule_studs_of(done.project, ["W101"], end_studs=2)
    doubled = {(e.wall, e.at): r for e, _, r in pressed_ends(work_out(project))}
    end = ("W101", (0.0, 0.0))
    assert doubled[end] < single[end]
    pushes = next(e.pushes for e in turned_ends(done) if (e.wall, e.at) == end)
    ends = [e for b in braced_lines(done) for e in ends_of(done.project, b)]
    turning = sum(
        e.turning for e in ends if e.stretch.wall in ("W101", "W201") and e.stretch.low == 0
    )
    assert pushes == pytest.approx(turning)


def test_one_stud_of_a_tall_wall_that_is_pushed_too_hard_is_told() -> None:
    project = rule_studs_of(framed(), ["W1", "W3"], end_studs=1)
    (told,) = [f for f in findings(work_out(project)) if "panels push it" in f.text]
    assert told.kind == "over"
    assert told.host == HostName("wall", "W1")
    mended = rule_studs_of(project, ["W1", "W3"], end_studs=2)
    assert not [f for f in findings(work_out(mended)) if "panels push it" in f.text]


def test_studs_at_ends_are_chosen_on_the_slip() -> None:
    desk = Desk(Building(framed()), THINGS)
    desk.select(the("wall:W101"))
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "studs at ends")
    row.choose(3)
    at_ends = [
        m.id.piece
        for m in desk.checked.structure.of(kinds.WALL_STUD)
        if m.host.key == "W101" and m.id.row == "start"
    ]
    assert sorted(at_ends) == ["", "b", "c"]


def test_what_turns_more_with_its_factor_is_what_counts() -> None:
    """0.6 W against 0.7 E (ASCE 7-16 2.4.1, 2.4.5): an earthquake a little less than the wind turns more."""
    braced = next(b for b in braced_lines(work_out(framed())) if b.stretches)
    for share, by_quake in ((0.85, False), (0.87, True)):
        line = replace(braced.line, quake=share * braced.line.wind)
        assert turned_by_quake(braced._replace(line=line)) is by_quake, share
