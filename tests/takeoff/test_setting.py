"""The order of setting: every piece once, nothing before what it sits on unless it is told as propped, from
the soil up; the heaviest lift is a piece or a panel."""

import pytest
from msgspec.structs import replace

from balken.framing import kinds
from balken.model.edits.wall_frames import rule_studs_of
from balken.model.names import HostName, MemberName
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.lifts import panels_of
from balken.takeoff.setting import steps_of
from balken.units import FOOT
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


def test_every_piece_is_set_once(checked: Checked) -> None:
    names = [m.id for step in steps_of(checked) for m in step.stage.members]
    assert len(names) == len(set(names)) == len(checked.structure.members)


def test_nothing_is_set_before_what_carries_it(checked: Checked) -> None:
    steps = steps_of(checked)
    at = {m.id: n for n, step in enumerate(steps) for m in step.stage.members}
    walls = {step.stage.key[0]: n for n, step in enumerate(steps) if not step.stage.key[1]}
    for n, step in enumerate(steps):
        later = set()
        for m in step.stage.members:
            for s in m.carrier.supports:
                where = at.get(s.on) if isinstance(s.on, MemberName) else walls.get(str(s.on))
                if where is not None and where > n:
                    later.add(steps[where].stage.words)
        assert later == set(step.propped)


def test_from_the_soil_up(checked: Checked) -> None:
    steps = steps_of(checked)
    kinds_ = [step.stage.members[0].kind for step in steps]
    first = next(i for i, k in enumerate(kinds_) if k is kinds.FOOTING or k is kinds.PAD)
    assert first <= 1
    assert steps[-1].stage.members[0].host.kind == "roof"
    rooms = {step.stage.key: n for n, step in enumerate(steps)}
    for w in checked.project.walls:
        mine = rooms.get((str(HostName("wall", w.id)), ""))
        for f in checked.project.floors:
            floor = rooms.get((str(HostName("floor", f.id)), ""))
            if mine is not None and floor is not None and f.level == w.base:
                assert floor < mine, "walls stand on their deck"


def test_a_lift_is_a_piece_or_a_panel() -> None:
    checked = work_out(shown_demo())
    wall = next(s for s in steps_of(checked) if s.stage.words == "wall south 1").stage
    assert wall.lift is not None
    assert wall.lift < 0.5 * wall.weight
    project = rule_studs_of(checked.project, ("W101",), lift_length=20 * FOOT)
    lifted = work_out(project)
    heaviest = max(p.weight for p in panels_of(lifted) if p.wall == "W101")
    stage = next(s for s in steps_of(lifted) if s.stage.words == "wall south 1").stage
    assert stage.lift == pytest.approx(heaviest)
    poured = next(s for s in steps_of(checked) if s.stage.words.endswith("slab")).stage
    assert poured.lift is None


def test_what_holds_one_another_is_propped() -> None:
    """A post under a beam that hangs on what the post carries is a circle: one of both is propped."""
    checked = work_out(ferry_hall())
    beam = next(m for m in checked.structure.of(kinds.BEAM) if m.carrier.supports)
    post = next(
        m
        for m in checked.structure.members
        if any(isinstance(s.on, MemberName) and s.on == m.id for s in beam.carrier.supports)
        or m.kind is kinds.POST
    )
    seat = replace(beam.carrier.supports[0], on=beam.id)
    circled = replace(post, carrier=replace(post.carrier, supports=(seat,)))
    members = tuple(circled if m.id == post.id else m for m in checked.structure.members)
    on_post = replace(beam.carrier.supports[0], on=post.id)
    members = tuple(
        replace(m, carrier=replace(m.carrier, supports=(on_post, *m.carrier.supports[1:])))
        if m.id == beam.id
        else m
        for m in members
    )
    steps = steps_of(replace(checked, structure=replace(checked.structure, members=members)))
    assert any(step.propped for step in steps)
    assert sum(len(s.stage.members) for s in steps) == len(members)
