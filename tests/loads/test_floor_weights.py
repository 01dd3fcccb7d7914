"""Dead load from what is built, and partitions counted once: by an allowance or as they stand."""

import math

import pytest
from msgspec.structs import replace

from balken.model.edits import set_floor
from balken.model.edits.common import EditError
from balken.model.project import Project
from balken.session.building import demo_project
from balken.site.floor_weights import floor_dead
from balken.units import FOOT, INCH, PCF, PSF
from balken.works.building import work_out


def built(**fields: object) -> Project:
    """The bakehouse with a partition in the middle of its upper floor."""
    project = demo_project()
    inner = next(w for w in project.walls if w.id == "W205")
    wall = replace(inner, id="WP", start=(2200.0, 900.0), end=(2200.0, 3300.0), openings=())
    project = replace(project, walls=(*project.walls, wall))
    return set_floor(project, "F2", dead_from="layers", **fields)


def test_a_floor_weighs_its_layers_by_hand() -> None:
    """2x10 at 16 in: 13.875 in² of wood at 35 pcf over 16 in; 3/4 in of panel at 38.4 pcf (ASCE 7-16
    tables C3.1-1, C3.1-2)."""
    project = built(section="2x10", spacing=16 * INCH, finishes=3 * PSF)
    floor = next(f for f in project.floors if f.id == "F2")
    body = next(b for b in project.build_ups if b.id == floor.build_up)
    joists = 1.5 * INCH * 9.25 * INCH * 35 * PCF / (16 * INCH)
    by_hand = joists + body.subfloor * 38.4 * PCF + body.ceiling * 52.8 * PCF + 3 * PSF
    assert floor_dead(project, floor) == pytest.approx(by_hand, rel=0.02)
    found = work_out(project)
    assert next(f for f in found.built.floors if f.id == "F2").dead == pytest.approx(
        by_hand, rel=0.02
    )
    assert next(f for f in found.project.floors if f.id == "F2").dead == floor.dead


def test_the_choice_of_joists_does_not_change_what_they_are_chosen_for() -> None:
    """Unheld, the heaviest that may be chosen counts."""
    project = built()
    floor = next(f for f in project.floors if f.id == "F2")
    held = built(section="2x6", spacing=24 * INCH)
    light = next(f for f in held.floors if f.id == "F2")
    assert floor_dead(project, floor) > floor_dead(held, light)


def test_an_allowance_stands_for_the_walls_that_stand_on_joists() -> None:
    """Never both: with an allowance those walls weigh nothing more; never neither: without one they
    weigh what they do."""
    as_they_stand = work_out(built())
    allowed = work_out(built(partitions=10 * PSF))
    joists = {m.id for m in as_they_stand.structure.members if m.role == "joist"}

    def on_joists(found: object) -> float:
        path = found.path  # type: ignore[attr-defined]
        return math.fsum(
            f.dead for s, on, f in path.handed if on in joists and getattr(s, "kind", "") == "wall"
        )

    assert on_joists(allowed) == 0.0
    assert on_joists(as_they_stand) > 1000.0
    area = 10 * PSF * 936 * FOOT**2
    gained = allowed.path.applied.dead - as_they_stand.path.applied.dead
    assert gained == pytest.approx(area - on_joists(as_they_stand), rel=0.02)
    for found in (as_they_stand, allowed):
        assert found.path.soil_total.dead == pytest.approx(found.path.applied.dead, rel=1e-9)


def test_what_was_typed_stays_until_it_is_told_otherwise() -> None:
    typed = set_floor(demo_project(), "F2", dead=15 * PSF)
    assert next(f for f in work_out(typed).built.floors if f.id == "F2").dead == 15 * PSF
    with pytest.raises(EditError):
        set_floor(demo_project(), "F2", partitions=-1.0)
