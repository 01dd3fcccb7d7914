"""The first guess of hips: near enough to the last word, and never a different one."""

import random

import pytest

from balken.framing.hosts.sites import sites_of
from balken.framing.member import CutFrom
from balken.model.catalogue import price_per_mm, sections_of
from balken.model.edits.roofs import set_roof
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.works.building import work_out
from balken.works.first_sticks import first_sticks
from balken.works.sizes import sizes_of
from balken.works.terms import terms_of
from buildings import walled
from named import the


def guessed(project: Project) -> dict[HostName, tuple[CutFrom, ...]]:
    return first_sticks(sites_of(project), terms_of(project), sizes_of(project))


def test_the_hips_of_the_bakehouse_are_guessed_as_they_are_chosen() -> None:
    project = shown_demo()
    guess = guessed(project)
    assert guess[the("roof:R1")] == work_out(project).sizes[the("roof:R1")].size.cut
    assert guess[the("roof:R1")], "it has hips"
    assert guessed(set_roof(project, "R1", framing="trusses")) == {}


@pytest.mark.parametrize("seed", range(6))
def test_a_guess_costs_about_what_the_choice_does_and_what_is_chosen_holds(seed: int) -> None:
    chance = random.Random(seed)
    length, width = chance.uniform(7000, 14000), chance.uniform(5000, 9000)
    ell = [
        (0, 0),
        (length, 0),
        (length, width),
        (length / 2, width),
        (length / 2, width + 3000),
        (0, width + 3000),
    ]
    project = walled(ell, rise=chance.choice([4, 6, 8]), sides=())
    guess = dict(guessed(project)[the("roof:R1")])
    checked = work_out(project)
    chosen = dict(checked.sizes[the("roof:R1")].size.cut)
    sections = sections_of("us", ())
    assert set(guess) <= set(chosen)
    for (role, place), section in guess.items():
        one, other = (price_per_mm(sections[s], "No.2") for s in (section, chosen[role, place]))
        assert one == pytest.approx(other, rel=0.35), (role, place)
        assert checked.used[the(f"roof:R1/{role}:{place}")][0] <= 1.0
