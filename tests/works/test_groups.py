"""Beams, posts and pads of one size, for the worst of them; and what sizes are chosen for."""

import pytest
from msgspec.structs import replace

from balken.model.beams import BeamEnd
from balken.model.cases import Cases
from balken.model.edits.beams import put_beam, set_beams
from balken.model.edits.groups import group_by_rule, ungroup
from balken.model.edits.supports import set_supports, size_supports
from balken.model.foundations import Carbon
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.building import Building, demo_project
from balken.session.desk import Desk
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.groups import make_groups, undo_groups
from balken.session.things.register import THINGS
from balken.works.building import work_out


def two_beams() -> tuple[Project, HostName, HostName]:
    """A building with two beams to be calculated, one longer and laden much more."""
    project = demo_project()
    floor = project.floors[-1]
    made = []
    for x, length in ((2_000.0, 2_000.0), (5_000.0, 3_900.0)):
        project, key = put_beam(project, floor.level, BeamEnd(at=(x, 0.0)), BeamEnd(at=(x, length)))
        made.append(HostName("beam", key))
    project = set_beams(project, (made[1],), loads=Cases(dead=10.0, live=30.0))
    return project, made[0], made[1]


def test_beams_of_a_group_are_cut_from_what_the_worst_needs() -> None:
    project, short, long = two_beams()
    alone = work_out(project).sizes
    assert alone[short].size.section != alone[long].size.section
    together = work_out(set_beams(project, (short, long), group="G")).sizes
    assert together[short].size.section == together[long].size.section
    chosen = next(c for c in together[short].choices if c.section == together[short].size.section)
    assert chosen.passes
    assert chosen.worst == max(
        c.worst
        for host in (short, long)
        for c in alone[host].choices
        if c.section == chosen.section
    )


def test_a_section_held_for_one_is_held_for_its_group() -> None:
    project, short, long = two_beams()
    grouped = set_beams(project, (short, long), group="G")
    held = set_beams(grouped, (short,), section="3-2x12")
    assert {b.kind.section for b in held.beams} == {"3-2x12"}
    apart = set_beams(project, (short,), section="3-2x12")
    assert {b.kind.section for b in apart.beams} == {"3-2x12", None}
    deeper = set_beams(grouped, (short,), live_limit=480.0)
    assert {b.kind.live_limit for b in deeper.beams} == {360.0, 480.0}


def test_posts_and_pads_are_grouped_by_their_lines() -> None:
    made = group_by_rule(ferry_hall())
    posts = {s.group for s in made.point_supports if s.kind == "post"}
    pads = {s.group for s in made.point_supports if s.kind == "pad"}
    assert len(posts - {""}) >= 2
    assert all(g.startswith("posts on ") for g in posts - {""})
    assert all(g.startswith("pads on ") for g in pads - {""})
    first = next(s for s in made.point_supports if s.kind == "pad" and s.group)
    mates = [s.id for s in made.point_supports if s.kind == "pad" and s.group == first.group]
    wider = size_supports(made, [first.id], width=2_400.0)
    assert {s.id for s in wider.point_supports if s.size[0] == 2_400.0} == set(mates)
    turned = set_supports(made, [first.id], turn=5.0)
    assert [s.id for s in turned.point_supports if s.turn == 5.0] == [first.id]
    assert not any(s.group for s in ungroup(made).point_supports)


def test_a_group_made_by_hand_stays_where_the_rule_comes_after() -> None:
    hall = ferry_hall()
    one = next(s for s in hall.point_supports if s.kind == "post")
    mine = set_supports(hall, [one.id], group="corner")
    again = group_by_rule(mine)
    assert next(s.group for s in again.point_supports if s.id == one.id) == "corner"


def test_groups_are_made_typed_and_undone_at_the_desk() -> None:
    desk = Desk(Building(ferry_hall()), THINGS)
    make_groups(desk)
    assert "groups: " in desk.said
    post = next(s for s in desk.project.point_supports if s.kind == "post" and s.group)
    desk.select(HostName("support", post.id))
    row = field_of(rows_of(desk), "sized with")
    assert row.value == post.group
    assert type_into(row, "alone", lambda: desk.said) is None
    assert next(s.group for s in desk.project.point_supports if s.id == post.id) == ""
    undo_groups(desk)
    assert not any(s.group for s in desk.project.point_supports)


def test_least_carbon_goes_by_the_factors_that_are_typed() -> None:
    """The choice that passes with the least of kg a m³ times volume."""
    project, _, long = two_beams()
    aimed = set_beams(project, (long,), aim="carbon")
    light = replace(aimed, site=replace(aimed.site, carbon=Carbon(timber=50.0, glued=500.0)))
    found = work_out(light).sizes[long]
    passing = [c for c in found.choices if c.passes]
    assert found.size.section == min(passing, key=lambda c: c.carbon).section
    assert all(c.carbon > 0 for c in passing)


def test_two_joists_side_by_side_are_among_the_choices_of_a_floor() -> None:
    done = work_out(demo_project())
    task = done.sizes[HostName("floor", "F2")].task
    assert task is not None
    assert "2-2x8" in {s.name for s in task.offers}
    assert "2-2x8" not in {s.name for s in task.sections}
    held = replace(
        demo_project(),
        floors=tuple(
            replace(f, section="2-2x8") if f.id == "F2" else f for f in demo_project().floors
        ),
    )
    joists = [
        m for m in work_out(held).structure.members if m.host.key == "F2" and m.role == "joist"
    ]
    assert {m.section for m in joists} == {"2-2x8"}


@pytest.mark.parametrize("aim", ["depth", "volume", "pieces"])
def test_beams_are_chosen_for_other_aims(aim: str) -> None:
    project, _, long = two_beams()
    found = work_out(set_beams(project, (long,), aim=aim)).sizes[long]
    passing = [c for c in found.choices if c.worst <= 0.99]
    least = min(getattr(c, aim) for c in passing)
    chosen = next(c for c in found.choices if c.section == found.size.section)
    assert getattr(chosen, aim) == pytest.approx(least)
