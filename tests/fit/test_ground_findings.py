"""What does not fit in the ground is said with place and amount, and its mend puts it right."""

from collections.abc import Callable
from functools import cache

import numpy as np
import pytest
from msgspec.structs import replace

from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.model.cases import Cases
from balken.model.edits import move_level, set_run, set_site
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.common import EditError
from balken.model.edits.foundations import hold_step, place_foundation, usual_parts
from balken.model.edits.others import set_spots
from balken.model.edits.supports import put_support, set_supports
from balken.model.edits.walls import set_build_up_of
from balken.model.foundations import Chosen
from balken.model.project import Project, Spot, level
from balken.model.walls import Layer
from balken.session.building import demo_project
from balken.session.demo import bakehouse
from balken.site.ground import heights_at, surface_of
from balken.units import FOOT, INCH, PSF
from balken.works.building import work_out
from buildings import house, misfits


def of_kind(project: Project, kind: str) -> list[Finding]:
    return [f for f in findings(work_out(project)) if f.kind == kind]


def mended(project: Project, kind: str) -> Project:
    """The project after the first mend of a kind, which must leave none of that kind."""
    (found, *_) = of_kind(project, kind)
    assert found.mend is not None
    after = found.mend.apply(project)
    assert of_kind(after, kind) == []
    return after


@cache
def whole() -> Project:
    return bakehouse(demo_project())


def test_the_bakehouse_stands_but_for_its_one_gap() -> None:
    assert [f.kind for f in misfits(findings(work_out(whole())))] == ["gap"]


def test_brick_finds_no_ledge_until_one_is_cut() -> None:
    plain = house()
    layers = (Layer("brick", 90.0, "cladding"), Layer("2x6 studs", 139.7, "core"))
    plain, key = add_build_up(plain, layers)
    plain = set_build_up_of(plain, ["W11"], key, "outer face")
    plain = set_run(plain, "G1", stem_thickness=12 * INCH, footing_width=24 * INCH)
    (found,) = of_kind(plain, "ledge")
    assert found.amount == pytest.approx(90.0)
    assert "south 1" in found.text
    after = mended(plain, "ledge")
    assert after.runs[0].shelves[0].walls == ("W11",)


def test_a_basement_wall_without_its_floor_says_so() -> None:
    plain = house()
    walls = plain.runs[0].walls
    cellar = place_foundation(
        plain, "basement", usual_parts(plain, "basement"), walls, top="TF", base="FT"
    )
    assert of_kind(cellar, "prop") == []
    (found,) = of_kind(replace(cellar, floors=()), "prop")
    assert found.amount > 0
    assert "foot alone" in found.text


def test_an_outside_wall_with_no_footing() -> None:
    plain = house()
    run = plain.runs[0]
    bare = set_run(plain, "G1", walls=tuple(k for k in run.walls if k != "W13"))
    (found,) = of_kind(bare, "no footing")
    assert "north 1" in found.text
    assert set(mended(bare, "no footing").runs[0].walls) == set(run.walls)


def test_a_wall_on_two_foundations() -> None:
    plain = house()
    run = plain.runs[0]
    twice = replace(plain, runs=(run, replace(run, id="G2", name="G2", walls=("W11",))))
    found = [f for f in of_kind(twice, "overlap") if "two foundations" in f.text]
    assert len(found) == 1
    assert found[0].mend is not None
    assert found[0].mend.apply(twice).runs[1].walls == ()


def test_pads_under_no_post_and_posts_over_no_pad() -> None:
    plain = put_support(house(), "pad", (60 * FOOT, 0.0))
    (idle,) = of_kind(plain, "idle pad")
    assert idle.at == pytest.approx((60 * FOOT, 0.0))
    loaded = set_supports(plain, [plain.point_supports[0].id], loads=Cases(1000.0, 0.0, 0.0, 0.0))
    assert of_kind(loaded, "idle pad") == []
    pier = put_support(house(), "pier", (60 * FOOT, 0.0))
    (hanging,) = [f for f in of_kind(pier, "unsupported") if "Pier" in f.text]
    assert "no pad" in hanging.text
    both = put_support(pier, "pad", (60 * FOOT, 0.0))
    assert not of_kind(both, "idle pad")
    assert not [f for f in of_kind(both, "unsupported") if "Pier" in f.text]


def test_a_pad_that_reaches_into_a_strip_is_merged() -> None:
    plain = put_support(house(), "pad", (10 * FOOT, 0.0))
    key = plain.point_supports[0].id
    deep = set_supports(plain, [key], loads=Cases(1000.0, 0.0, 0.0, 0.0), thickness=16 * INCH)
    (found,) = of_kind(deep, "clash")
    assert found.amount == pytest.approx(6 * INCH)
    after = mended(deep, "clash")
    assert after.point_supports[0].thickness == pytest.approx(10 * INCH)


def test_a_footing_beside_a_deeper_one() -> None:
    """A pad 3 ft deeper, 1 ft clear of the strip: the strip stands 2 ft inside its 45° line."""
    plain = house()
    strip_edge = -6 * INCH  # the 20 in strip reaches 6 in past the outer face
    pad = put_support(
        plain, "pad", (10 * FOOT, strip_edge - 12 * INCH - 2 * FOOT), size=(4 * FOOT, 4 * FOOT)
    )
    key = pad.point_supports[0].id
    deep = set_supports(
        pad, [key], loads=Cases(1e4, 0.0, 0.0, 0.0), base_offset=-3 * FOOT, top_offset=-3 * FOOT
    )
    (found,) = of_kind(deep, "influence")
    assert found.amount == pytest.approx(2 * FOOT, abs=1.0)
    assert "G1-F-W11" in found.text


def test_steps_held_too_near_each_other() -> None:
    plain = house(40 * FOOT, 16 * FOOT)
    ground = level(plain, "GR").elevation
    flat = set_spots(
        plain, [Spot(p, ground) for p in ((-9e4, -9e4), (9e4, -9e4), (9e4, 9e4), (-9e4, 9e4))]
    )
    near = hold_step(hold_step(flat, "G1", "W11", 4000.0, 8 * INCH), "G1", "W11", 4300.0, 8 * INCH)
    (found,) = of_kind(near, "steps")
    assert found.amount == pytest.approx(24 * INCH - 300.0, abs=1.0)
    mended(near, "steps")


def test_a_cliff_is_followed_within_the_rule_and_under_the_frost() -> None:
    """Ground that drops 10 ft at once: the footing comes down before it, no step over the limit,
    frost covered."""
    plain = house(40 * FOOT, 16 * FOOT)
    ground = level(plain, "GR").elevation
    cliff = set_spots(
        plain,
        [
            Spot((x, y), ground - (3000.0 if x > 6300 else 0.0))
            for x in (-9e4, 6200.0, 6400.0, 9e4)
            for y in (-9e4, 9e4)
        ],
    )
    steps = work_out(cliff).structure.steps
    assert steps
    assert max(abs(s.drop) for s in steps) <= plain.site.steps.rise + 1e-6
    assert of_kind(cliff, "frost") == []


def test_an_edge_above_the_frost_is_made_deeper() -> None:
    project = whole()
    shallow = set_run(project, "G3", edge_depth=30 * INCH)
    (found,) = of_kind(shallow, "frost")
    assert "Edge" in found.text
    places = np.array(
        [(20 * FOOT, y) for y in np.linspace(26 * FOOT, 46 * FOOT, 400)]
    )  # the wing's west face falls lowest
    lowest = heights_at(surface_of(project.spots), places).min()
    assert found.amount == pytest.approx(-30 * INCH - (lowest - project.site.frost_depth), abs=15.0)
    mended(shallow, "frost")


def test_a_footing_that_is_too_narrow_is_widened_to_the_module() -> None:
    plain = set_run(house(storeys=2), "G1", footing_width=10 * INCH)
    found = [f for f in of_kind(plain, "over") if "footing" in f.text]
    assert found
    assert found[0].mend is not None
    after = found[0].mend.apply(plain)
    width = after.runs[0].footing_width / (2 * INCH)
    assert width == pytest.approx(round(width))
    assert not of_kind(after, "over")


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda p: set_site(p, soil_bearing=0.0), "more than zero"),
        (lambda p: set_site(p, soil_bearing=-1500 * PSF), "more than zero"),
        (lambda p: set_run(p, "G1", footing_width=0.0), "more than zero|no width"),
        (lambda p: move_level(p, "FT", level(p, "TF").elevation + 100.0), "no height"),
        (
            lambda p: place_foundation(
                p, "slab edge", Chosen(slab=300.0, edge=(300.0, 200.0), sill=""), ("W11",)
            ),
            "no deeper",
        ),
    ],
)
def test_what_cannot_stand_is_refused_and_changes_nothing(
    change: Callable[[Project], Project], says: str
) -> None:
    with pytest.raises(EditError, match=says):
        change(house())


def test_a_footing_under_its_own_level_all_along() -> None:
    """Ground 2 ft lower everywhere: the footing goes down with it, and its levels are offered to
    say so."""
    plain = house()
    ground = level(plain, "GR").elevation
    low = set_spots(
        plain,
        [Spot(p, ground - 2 * FOOT) for p in ((-9e4, -9e4), (9e4, -9e4), (9e4, 9e4), (-9e4, 9e4))],
    )
    (found,) = of_kind(low, "steps")
    assert found.amount == pytest.approx(2 * FOOT)
    after = mended(low, "steps")
    assert level(after, "FB").elevation == pytest.approx(level(low, "FB").elevation - 2 * FOOT)
    assert of_kind(after, "frost") == []


def test_slabs_whose_outlines_cross_are_reported_with_place_and_amount() -> None:
    """Two slabs drawn freely, one 2 m into the other."""
    plain = replace(house(), runs=(), floors=(), roofs=(), walls=())
    chosen = Chosen(slab=150.0, edge=(300.0, 500.0), sill="")

    def ring(x: float, y: float) -> list[tuple[float, float]]:
        return [(x, y), (x + 8000.0, y), (x + 8000.0, y + 6000.0), (x, y + 6000.0), (x, y)]

    both = place_foundation(
        place_foundation(plain, "slab edge", chosen, path=ring(0.0, 0.0)),
        "slab edge",
        chosen,
        path=ring(6300.0, 1000.0),
    )
    (found,) = of_kind(both, "overlap")
    assert found.amount == pytest.approx(
        2000.0, abs=2.0
    )  # 1,700 mm between the lines and half an edge on each side
    assert "cross" in found.text
