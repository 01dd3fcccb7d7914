"""What is applied arrives in the soil, case by case, to a billionth: 500 buildings at random.

``BALKEN_STRIDE=1`` tries all of them; without it, every fourth.
"""

import os
import random

import pytest
from msgspec.structs import replace

from balken.loads.path import SPECK
from balken.model.beams import BeamEnd
from balken.model.cases import total
from balken.model.edits.beams import put_beam
from balken.model.edits.drawn_loads import draw_load
from balken.model.new import new_building
from balken.model.project import Project
from balken.model.roofs import RoofSide
from balken.model.wind import Wind
from balken.session.building import demo_project
from balken.site.proposals import propose_structure
from balken.units import KPA
from balken.works.building import work_out

EACH, LOTS = 25, 20
STRIDE = int(os.environ.get("BALKEN_STRIDE", "4"))


def at_random(chance: random.Random) -> Project:
    """An ordinary building: one or two storeys, any size, roof, loads and code."""
    system = chance.choice(["us", "metric"])
    length, width = chance.uniform(5_000, 16_000), chance.uniform(4_000, 11_000)
    made = new_building("R", length, width, chance.choice([1, 2]), system)  # type: ignore[arg-type]
    project = propose_structure(made)[0]
    roofs = tuple(
        replace(
            r,
            rise=chance.uniform(2, 14),
            overhang=chance.uniform(0, 700),
            snow=chance.uniform(0, 3) * KPA,
            sides=tuple(RoofSide(wall, chance.choice(["slope", "gable"])) for wall in r.walls[:1]),
        )
        for r in project.roofs
    )
    floors = tuple(
        replace(
            f,
            live=chance.uniform(0.5, 5) * KPA,
            dead=chance.uniform(0.2, 1.5) * KPA,
            span=chance.choice(["short", "long", "x", "y"]),
        )
        for f in project.floors
    )
    project = replace(project, roofs=roofs, floors=floors)
    if chance.random() < 0.4:
        level = project.floors[0].level
        at = chance.uniform(0.3, 0.7) * length
        ends = BeamEnd(at=(at, 0.0)), BeamEnd(at=(at, width))
        project, _ = put_beam(project, level, *ends)
    return with_more_on_it(project, chance, (length, width))


def with_more_on_it(project: Project, chance: random.Random, size: tuple[float, float]) -> Project:
    """The same with wind, floors by what they are built of, an allowance, and drawn loads."""
    if chance.random() < 0.6:
        wind = Wind(chance.uniform(20, 60) * 1000, exposure="C", terrain="II")
        project = replace(project, site=replace(project.site, wind=wind))
    if chance.random() < 0.3:
        allowance = chance.choice([None, 0.5 * KPA])
        floors = (replace(f, dead_from="layers", partitions=allowance) for f in project.floors)
        project = replace(project, floors=tuple(floors))
    levels = [f.level for f in project.floors] + [r.plate for r in project.roofs]
    for shape, count, most in (("point", 1, 20_000), ("line", 2, 5.0), ("area", 4, 0.004)):
        if chance.random() < 0.3:
            places = [
                (chance.uniform(0.05, 0.95) * size[0], chance.uniform(0.05, 0.95) * size[1])
                for _ in range(count)
            ]
            case = chance.choice(["dead", "live", "roof_live", "snow"])
            project, _ = draw_load(
                project,
                shape,  # type: ignore[arg-type]
                chance.choice(levels),
                places,
                case,  # type: ignore[arg-type]
                chance.uniform(0.1, 1.0) * most,
            )
    return project


@pytest.mark.parametrize("lot", range(LOTS))
def test_all_that_is_applied_arrives_or_is_told(lot: int) -> None:
    chance = random.Random(lot)
    whole = tried = 0
    for number in range(EACH):
        project = at_random(chance)
        if number % STRIDE != lot % STRIDE:
            continue
        tried += 1
        path = work_out(project).path
        lost = total([*(e.forces for e in path.open_ends), *(b.forces for b in path.beside)])
        arrived = path.soil_total + lost
        # Each floor and roof may leave a speck beside its members untold.
        specks = SPECK * (len(project.floors) + len(project.roofs))
        applied = list(path.applied)
        assert list(arrived) == pytest.approx(applied, rel=1e-9, abs=specks), (lot, number)
        whole += not any(lost)
    assert whole >= 0.6 * tried > 0, "most buildings lose nothing"


def test_a_gable_over_a_curved_wall_stands_on_its_pieces() -> None:
    project = demo_project()
    walls = tuple(replace(w, bulge=0.05) if w.id == "W202" else w for w in project.walls)
    found = work_out(replace(project, walls=walls))
    assert any(g.wall == "W202" for g in found.structure.gables)
    assert not found.structure.unframed
    path = found.path
    lost = total([*(e.forces for e in path.open_ends), *(b.forces for b in path.beside)])
    assert list(path.soil_total + lost) == pytest.approx(list(path.applied), rel=1e-9, abs=0.05)
