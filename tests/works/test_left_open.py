"""What codes leave open: values of a country, and the sag that stays; typed at the desk."""

import pytest

from balken.design.codes import ground_by, timber_by
from balken.design.lines import Check
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.names import HostName, MemberName
from balken.session.building import Building, demo_project
from balken.session.desk import Desk
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Options, field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.works.building import checks_of


def desk_of(building: Building) -> Desk:
    desk = Desk(building, THINGS)
    desk.select(HostName("run", desk.project.runs[0].id))
    return desk


def typed(desk: Desk, name: str, text: str) -> str:
    """What is said against a text typed into a field; nothing where it is taken."""
    refused = type_into(field_of(rows_of(desk), name), text, lambda: desk.said)
    return "" if refused is None else refused.why


def joist(desk: Desk) -> MemberName:
    return min(n for n in desk.checked.used if n.host.kind == "floor" and n.family == "joist")


def check(desk: Desk, name: str, words: str) -> Check:
    found = checks_of(
        desk.checked, next(m for m in desk.checked.structure.members if str(m.id) == str(name))
    )
    return next(c for c in found if c.name == words)


def test_values_of_a_country_are_typed_and_named_where_they_are_used() -> None:
    """γM 1.3 to 1.5 raises bending by 1.5 / 1.3 (EN 1995-1-1 2.14); kmod of medium loads 0.8 to 0.64
    by another 1.25, and both stand in the calculation as typed."""
    desk = desk_of(Building(ferry_hall()))
    one = joist(desk)
    before = check(desk, one, "Bending")
    assert typed(desk, "γM of solid timber", "1.5") == ""
    after = check(desk, one, "Bending")
    assert after.ratio == pytest.approx(before.ratio * 1.5 / 1.3)
    assert typed(desk, "kmod, class 1, 2", "0,6; 0,62; 0,64; 0,7; 0,9") == ""
    last = check(desk, one, "Bending")
    assert last.ratio == pytest.approx(after.ratio * 0.8 / 0.64)
    assert {line.clause for line in last.lines if line.symbol in ("γM", "kmod")} == {
        "typed for the country"
    }
    assert typed(desk, "kmod, class 1, 2", "") == ""
    assert desk.project.site.left_open.kmod_dry == RECOMMENDED.kmod_dry


def test_factors_of_loads_reach_wood_soil_and_wind() -> None:
    """EN 1990 6.10 and 6.14b with γG 1.2, γQ 1.4, ψ0 of snow 0.7."""
    by = LeftOpen(permanent=1.2, variable=1.4, psi_snow=(0.7, 0.5, 0.2))
    names = {c.name for c in timber_by("eu", by).sums(1, "A").every}
    assert {"1.2G", "1.2G + 1.4L + 0.98S", "0.9G + 1.4L"} <= names
    ground = ground_by("eu", "A", by)
    assert "G + L + 0.7S" in {c.name for c in ground.service}
    assert "1.2D + 1.4L + 0.98S" in {c.name for c in ground.strength}
    assert ground.walls.factor == pytest.approx(1.2)
    assert timber_by("eu", by).uplift(1)[:3] == ("0.9G + 1.4W up", 0.9, 1.4)


@pytest.mark.parametrize(
    ("name", "text", "said"),
    [
        ("ψ0, ψ1, ψ2, snow", "0.5, 0.2", "3 numbers"),
        ("ψ0, ψ1, ψ2, snow", "0.5, 0.2, 1.4", "ψ of snow is too large: at most 1"),
        ("kmod, class 3", "0.5, 0.6, much, 0.7, 0.9", "no number"),
        ("γG", "0.3", "γG is too small: at least 0.5"),
        ("γQ", "-1.5", "too small"),
    ],
)
def test_what_cannot_be_meant_is_refused(name: str, text: str, said: str) -> None:
    desk = desk_of(Building(ferry_hall()))
    assert said in typed(desk, name, text)
    assert desk.project.site.left_open == RECOMMENDED


def test_the_sag_that_stays_counts_where_it_is_asked_for() -> None:
    """NDS-2018 3.5.2: dead load's sag times 1.5 built in dry, 2 built in wet; live load's as it is."""
    desk = desk_of(Building(demo_project()))
    one = joist(desk)
    plain = check(desk, one, "Total deflection")
    floor = next(f for f in desk.project.floors if f.id == one.host.key)
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "sag of the whole")
    for choice, factor in (("seasoned", 1.5), ("unseasoned", 2.0)):
        row.choose(choice)
        found = check(desk, one, "Total deflection")
        dead = next(f.dead for f in desk.checked.built.floors if f.id == floor.id)
        live = next(f.live for f in desk.checked.built.floors if f.id == floor.id)
        expected = (factor * dead + live) / (dead + live)
        assert found.ratio == pytest.approx(plain.ratio * expected)
        assert ("Kcr", factor) in {(line.symbol, line.value) for line in found.lines}
    wet = timber_by("us", LeftOpen(long_term="seasoned")).sums(3, "A").every[0]
    assert wet.second_sag.dead == 2.0
