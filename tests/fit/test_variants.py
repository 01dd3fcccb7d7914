"""Choices side by side, and variants of the whole building."""

import pytest

from balken.design.sizing import alternatives, choices, frontier
from balken.drawing.choice_chart import choice_chart, next_steps
from balken.drawing.marks import Label, Patch
from balken.fit.variants import compare, outcome, variants_of
from balken.model.edits import set_floor, set_site
from balken.model.foundations import Carbon
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.session.things.compared import held_as
from balken.works.building import Checked, work_out
from balken.works.costs import carbon_of, volumes_of

F2 = HostName("floor", "F2")
WOODS = (("DF-L", "SS"), ("DF-L", "No.1"), ("DF-L", "No.2"), ("DF-L", "No.3"))


@pytest.fixture(scope="module")
def checked() -> Checked:
    return work_out(demo_project())


def test_every_section_spacing_and_grade_is_looked_at_even_where_one_is_held(
    checked: Checked,
) -> None:
    held = work_out(set_floor(checked.project, "F2", section="2x12", spacing=304.8))
    for found in (checked, held):
        sized = found.sizes[F2]
        wide = alternatives(sized, WOODS)
        assert sized.task is not None
        offered = len(sized.task.offers) * len(sized.task.gaps) * len(WOODS)
        assert len(wide) == offered > 30
    assert len(held.sizes[F2].choices) == 1


def test_a_better_grade_costs_more_and_is_used_less(checked: Checked) -> None:
    wide = alternatives(checked.sizes[F2], WOODS)
    by = {c.wood[1]: c for c in wide if (c.section, round(c.spacing, 1)) == ("2x10", 406.4)}
    assert by["SS"].cost > by["No.1"].cost > by["No.2"].cost
    assert by["SS"].worst < by["No.1"].worst <= by["No.2"].worst
    assert by["SS"].pieces == by["No.2"].pieces
    assert by["SS"].volume == pytest.approx(by["No.2"].volume)


def test_none_on_the_line_is_beaten_in_cost_and_depth(checked: Checked) -> None:
    floor = set_floor(checked.project, "F1", live=0.004)
    wide = alternatives(work_out(floor).sizes[HostName("floor", "F1")], WOODS)
    line = frontier(wide)
    assert line
    for c in line:
        assert not any(
            o.passes
            and o.cost <= c.cost
            and o.depth <= c.depth
            and o != c
            and (o.cost < c.cost - 1e-9 or o.depth < c.depth - 1e-9)
            for o in wide
        )
    assert [c.depth for c in line] == sorted(c.depth for c in line)


@pytest.mark.parametrize(
    ("aim", "least"),
    [("cost", "cost"), ("depth", "depth"), ("pieces", "pieces"), ("volume", "volume")],
)
def test_what_it_is_chosen_for_is_least(checked: Checked, aim: str, least: str) -> None:
    sized = work_out(set_floor(checked.project, "F1", aim=aim)).sizes[HostName("floor", "F1")]
    chosen = next(
        c
        for c in sized.choices
        if c.section == sized.size.section and c.spacing == sized.size.spacing
    )
    assert chosen.passes
    assert getattr(chosen, least) == min(getattr(c, least) for c in sized.choices if c.passes)


def test_the_chart_has_a_dot_a_choice_and_the_steps_name_what_they_buy(checked: Checked) -> None:
    sized = checked.sizes[HostName("floor", "F1")]
    wide = alternatives(sized, WOODS)
    now = next(
        c
        for c in wide
        if (c.section, c.spacing, c.wood)
        == (sized.size.section, sized.size.spacing, ("DF-L", "No.2"))
    )
    chart = choice_chart(wide, now, sized.allowed, "us")
    assert sum(isinstance(m, Patch) for m in chart) == len(wide)
    assert any(isinstance(m, Label) and m.bold for m in chart)
    for words, c in next_steps(wide, now):
        assert c.passes
        assert c != now
        if "deeper" in words:
            assert c.depth > now.depth
        if "closer" in words:
            assert c.spacing < now.spacing
        if "better" in words:
            assert c.wood[1] in ("SS", "No.1", "No.1&Btr")


def test_holding_a_choice_of_another_grade_makes_the_model_follow(checked: Checked) -> None:
    better = next(
        c for c in alternatives(checked.sizes[F2], WOODS) if c.passes and c.wood[1] == "SS"
    )
    after = work_out(held_as(checked.project, F2, better))
    joists = [m for m in after.structure.members if m.host == F2 and m.role == "joist"]
    assert {m.section for m in joists} == {better.section}
    assert {m.material for m in joists} == {"DF-L SS"}
    other = [m for m in after.structure.members if m.host.key == "F1" and m.role == "joist"]
    assert {m.material for m in other} == {"DF-L No.2"}
    assert choices(after.sizes[F2].task)[0].worst == pytest.approx(better.worst)  # type: ignore[arg-type]


@pytest.mark.parametrize("project", [demo_project(), ferry_hall()], ids=["bakehouse", "hall"])
def test_variants_are_whole_buildings_sized_anew(project: Project) -> None:
    found = work_out(project)
    told: list[str] = []
    some = variants_of(found)[:2]
    outcomes = compare(found, told.append, some)
    assert next(x.words for x in outcomes) == "as it is"
    assert len(told) == len(some) + 1
    first = outcomes[0]
    assert first.over == 0
    closer = next(x for x in outcomes if "closer" in x.words)
    assert closer.pieces > first.pieces
    assert closer.cost > first.cost
    again = outcome("again", closer.project)
    assert again.cost == pytest.approx(closer.cost), "it is settled"


def test_a_variant_can_be_left(checked: Checked) -> None:
    class LeftError(Exception):
        pass

    def leave(words: str) -> None:
        if "1 of" in words:
            raise LeftError

    with pytest.raises(LeftError):
        compare(checked, leave)


def test_beams_and_trusses_are_held_without_another_wood() -> None:
    """What is chosen for them brings no wood of its own."""
    hall = work_out(ferry_hall())
    for host, sized in hall.sizes.items():
        if sized.task is None and len(sized.choices) > 1:
            last = sized.choices[-1]
            after = work_out(held_as(hall.project, host, last))
            mine = {m.section for m in after.structure.members if m.host == host}
            assert last.section in mine
            assert not after.structure.unframed
            break
    bake = work_out(shown_demo())
    roof = HostName("roof", "R2")
    species = next(r.species for r in bake.project.roofs if r.id == "R2")
    made = held_as(bake.project, roof, bake.sizes[roof].choices[0])
    assert next(r.species for r in made.roofs if r.id == "R2") == species


def test_carbon_follows_typed_factors() -> None:
    """Volumes times what is typed, kg a m³; nothing until then."""
    project = demo_project()
    bare = work_out(project)
    assert carbon_of(volumes_of(bare), project.site.carbon) == 0.0
    typed = set_site(project, carbon=Carbon(timber=100.0, concrete=250.0))
    amounts = volumes_of(work_out(typed))
    whole = (amounts.timber * 100 + amounts.concrete * 250) / 1e9
    assert outcome("typed", typed).carbon == pytest.approx(whole, rel=1e-6)
    assert amounts.timber > 0 < amounts.concrete
    hall = volumes_of(work_out(ferry_hall()))
    assert hall.steel > 0, "it has rolled beams"
