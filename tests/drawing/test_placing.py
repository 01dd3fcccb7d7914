"""The placer of words: none lies on another, on a bubble or on a string, at any scale, in the demos
and in buildings made at random."""

import itertools
from collections.abc import Callable

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.drawing.clearing import words_box
from balken.drawing.marks import Disc, Drawing, Label, Stroke
from balken.drawing.placing import placed
from balken.drawing.plan import plan_notes
from balken.drawing.tiers import tiers
from balken.model.new import new_building
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.site.proposals import propose_structure
from balken.works.building import work_out

PAPERS = (20.0, 48.0, 60.0, 96.0, 150.0)
"""mm of building to a mm of paper: 1 : 20 to 1 : 150."""


def overlaps(notes: Drawing, paper: float) -> list[tuple[str, str]]:
    """Words that lie on other words or on bubbles."""
    labels = [m for m in notes if isinstance(m, Label) and m.text]
    boxed = [m for m in labels if m.boxed]
    found = []
    for a, b in itertools.combinations(labels, 2):
        if (a.boxed or b.boxed) and words_box(a, paper).intersection(words_box(b, paper)).area > 1:
            found.append((a.text, b.text))
    for disc in (m for m in notes if isinstance(m, Disc)):
        (x, y), r = disc.centre, disc.radius * paper
        for a in boxed:
            x0, y0, x1, y1 = words_box(a, paper).bounds
            if x0 < x + r and x - r < x1 and y0 < y + r and y - r < y1:
                found.append((a.text, "bubble"))
    return found


@pytest.mark.parametrize("building", [shown_demo, ferry_hall])
def test_no_words_of_a_demo_lie_on_one_another_at_any_scale(
    building: Callable[[], Project],
) -> None:
    checked = work_out(building())
    for tier in tiers(checked):
        for paper in PAPERS:
            assert overlaps(plan_notes(checked, tier, paper), paper) == [], (tier.name, paper)


@settings(max_examples=12, deadline=None)
@given(
    length=st.integers(6, 24),
    width=st.integers(5, 14),
    storeys=st.integers(1, 2),
    paper=st.sampled_from(PAPERS),
)
def test_nor_of_buildings_at_random(length: int, width: int, storeys: int, paper: float) -> None:
    made = new_building("Random", length * 1000.0, width * 1000.0, storeys, "metric")
    checked = work_out(propose_structure(made)[0])
    for tier in tiers(checked):
        assert overlaps(plan_notes(checked, tier, paper), paper) == []


def test_what_has_room_stays_and_what_moves_far_is_led_back() -> None:
    here = Label("F1", (0.0, 0.0), boxed=True, bold=True)
    other = Label("span 3600", (0.0, 0.0), boxed=True, quiet=True)
    found = placed((here, other), 50.0)
    assert here in found
    moved = [m for m in found if isinstance(m, Label) and m.text == "span 3600"]
    assert moved[0].at != (0.0, 0.0)
    wall = [Label("x" * 16, (0.0, 130.0 * k), 2.4) for k in range(-2, 3)]
    led = placed((*wall, here), 50.0)
    assert any(isinstance(m, Stroke) for m in led)


@pytest.mark.forgetful
def test_the_same_drawing_gives_the_same_places() -> None:
    checked = work_out(ferry_hall())
    tier = tiers(checked)[2]
    assert plan_notes(checked, tier, 60.0) == plan_notes(checked, tier, 60.0)


def test_lines_of_words_about_one_thing_move_together() -> None:
    from balken.model.names import HostName

    key = HostName("floor", "F1")
    first = Label("F1 2x10 at 16", (0.0, 20.0), 2.8, "start", bold=True, boxed=True, key=key)
    second = Label("span 12'-6", (0.0, -160.0), 2.4, "start", quiet=True, boxed=True, key=key)
    fixed = Label("36'-0", (100.0, -150.0))
    found = [m for m in placed((fixed, first, second), 50.0) if isinstance(m, Label) and m.boxed]
    (ax, ay), (bx, by) = found[0].at, found[1].at
    assert (ax - first.at[0], ay - first.at[1]) == (bx - second.at[0], by - second.at[1])
    assert (ax, ay) != first.at
