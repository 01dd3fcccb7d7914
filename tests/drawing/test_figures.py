"""Figures, sections and plans say what the building says."""

import pytest
from msgspec.structs import replace

from balken.drawing.figure import figure
from balken.drawing.marks import Label, Patch, extent
from balken.drawing.plan import plan
from balken.drawing.section import wall_section
from balken.drawing.tiers import tiers
from balken.fit.findings import findings
from balken.framing import kinds
from balken.geometry.plane import box
from balken.model.names import MemberName
from balken.works.building import Checked, work_out
from buildings import house
from named import the


def test_every_kind_of_member_has_a_figure_with_words(demo_checked: Checked) -> None:
    seen = set()
    for m in demo_checked.structure.members:
        if m.role in seen:
            continue
        seen.add(m.role)
        drawing = figure(demo_checked, m)
        assert any(isinstance(x, Label) and any(c.isdigit() for c in x.text) for x in drawing), (
            m.role
        )
        found = extent(drawing)
        assert found is not None
        assert -10 <= found[0] <= found[2] <= 110, m.role
    assert seen == {
        "footing",
        "stem",
        "sill",
        "joist",
        "rim",
        "subfloor",
        "ceiling joist",
        "rafter",
        "ridge",
    }


def test_the_rafters_figure_is_its_true_shape(demo_checked: Checked) -> None:
    rafter = next(
        m for m in demo_checked.structure.members if m.kind is kinds.RAFTER and ".04" in str(m.id)
    )
    ring = next(x for x in figure(demo_checked, rafter) if isinstance(x, Patch)).ring
    outline = rafter.solid.outline
    a, b = box(outline), box(ring)
    assert (b[2] - b[0]) / (b[3] - b[1]) == pytest.approx((a[2] - a[0]) / (a[3] - a[1]))
    assert len(ring) == len(outline)


def test_the_section_shows_every_tier_at_its_height(demo_checked: Checked) -> None:
    parts = wall_section(demo_checked, findings(demo_checked))
    by_tier: dict[str, list[float]] = {}
    for p in parts:
        if isinstance(p.mark, Patch) and p.mark.fill != "misfit":
            by_tier.setdefault(p.tier, []).extend(z for _, z in p.mark.ring)
    for tier in tiers(demo_checked):
        assert tier.id in by_tier, tier.name
        assert min(by_tier[tier.id]) <= tier.low + 300
    assert any(isinstance(p.mark, Patch) and p.mark.fill == "misfit" for p in parts), (
        "the gap is hatched"
    )


def test_plan_holds_every_member_of_its_tier_once(demo_checked: Checked) -> None:
    for tier in tiers(demo_checked):
        if tier.kind in ("walls",):
            continue
        keys = [
            m.key
            for m in plan(demo_checked, tier)
            if isinstance(m, Patch) and isinstance(m.key, MemberName) and m.key.host == tier.id
        ]
        members = [
            m.id
            for m in demo_checked.structure.members
            if m.host == tier.id and m.kind is not kinds.SUBFLOOR
        ]
        assert sorted(keys) == sorted(members), tier.name


def test_dimensions_run_along_a_building_that_lies_askew() -> None:
    from math import radians

    from balken.drawing.plan import plan_notes
    from balken.geometry.plane import rotate

    project = house(9000.0, 6000.0, 1, "metric")
    turn = radians(25)
    walls = tuple(
        replace(w, start=rotate(w.start, turn), end=rotate(w.end, turn)) for w in project.walls
    )
    for grids in ((), (replace(project.grids[0], angle=25.0),)):
        checked = work_out(replace(project, walls=walls, grids=grids))
        floor = next(t for t in tiers(checked) if t.id == the("floor:F1"))
        labels = [m for m in plan_notes(checked, floor, 50.0) if isinstance(m, Label)]
        words = {m.text: m for m in labels}
        assert {"9000 overall", "6000 overall"} <= set(words)
        assert words["9000 overall"].angle == pytest.approx(25.0)
        assert words["6000 overall"].angle == pytest.approx(-65.0)
        assert ("9000" in words) == bool(grids)


def test_tiers_follow_one_another_upward(demo_checked: Checked) -> None:
    found = tiers(demo_checked)
    assert [t.low for t in found] == sorted(t.low for t in found)
    assert [t.kind for t in found][:3] == ["ground", "floor", "walls"]
