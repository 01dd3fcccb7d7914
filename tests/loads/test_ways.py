"""What sits on what: the balance of forces holds through every way down."""

from collections.abc import Callable

import pytest

from balken.framing import kinds
from balken.loads.ways import LoadWays, sits_on, way_down, ways_of
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out

BUILDINGS = [shown_demo, ferry_hall]


@pytest.fixture(scope="module", params=BUILDINGS, ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    make: Callable[[], Project] = request.param
    return work_out(make())


@pytest.fixture(scope="module")
def ways(checked: Checked) -> LoadWays:
    return ways_of(checked.path)


def test_all_that_comes_onto_the_soil_was_handed_there(checked: Checked, ways: LoadWays) -> None:
    for name, parcels in checked.path.points.items():
        comes = sum(sum(p.forces.down) for p in parcels)
        handed = sum(ways.givers.get(name, {}).values())
        # What was typed on a piece itself is handed by nobody.
        assert handed <= comes + 1e-6
        assert handed == pytest.approx(comes) or all(p.source == name for p in parcels if p)


def test_what_spans_hands_on_its_reactions(checked: Checked, ways: LoadWays) -> None:
    for name, reactions in checked.path.reactions.items():
        given = sum(ways.takers.get(name, {}).values())
        ends = sum(sum(e.forces.down) for e in checked.path.open_ends if e.source == name)
        assert given + ends == pytest.approx(sum(sum(r.down) for r in reactions), abs=1e-6), name


def test_a_pad_takes_what_its_post_brings(checked: Checked, ways: LoadWays) -> None:
    pads = [m for m in checked.structure.members if m.kind is kinds.PAD and m.id in ways.givers]
    for pad in pads:
        on = sits_on(ways, pad.id)
        for giver, force in ways.givers[pad.id].items():
            assert on[giver] == pytest.approx(force)


def test_of_what_is_handed_to_several_each_counts_its_share(
    checked: Checked, ways: LoadWays
) -> None:
    """The shares that go to all that stands on the soil make the whole."""
    joist = next(m.id for m in checked.structure.members if m.kind is kinds.JOIST)
    given = sum(ways.takers[joist].values())
    into = [sits_on(ways, foot).get(joist, 0.0) for foot in checked.path.soil]
    assert sum(into) == pytest.approx(given)
    down = way_down(ways, joist)
    assert sum(f for name, f in down.items() if name in checked.path.soil) == pytest.approx(given)


def test_nothing_sits_on_a_roof_and_soil_carries_all(checked: Checked, ways: LoadWays) -> None:
    assert not way_down(ways, HostName("wall", "none"))
    for name in checked.path.soil:
        assert not way_down(ways, name), "it stands on the soil"
