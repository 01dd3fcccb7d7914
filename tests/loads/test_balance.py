"""What is applied arrives in the soil, case by case, to a billionth: 500 buildings at random."""

import random

import pytest
from msgspec.structs import replace

from balken.model.beams import BeamEnd
from balken.model.cases import total
from balken.model.edits.beams import put_beam
from balken.model.new import new_building
from balken.model.project import Project
from balken.model.roofs import RoofSide
from balken.site.proposals import propose_structure
from balken.units import KPA
from balken.works.building import work_out

EACH, LOTS = 25, 20


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
    return project


@pytest.mark.parametrize("lot", range(LOTS))
def test_all_that_is_applied_arrives_or_is_told(lot: int) -> None:
    chance = random.Random(lot)
    whole = 0
    for number in range(EACH):
        path = work_out(at_random(chance)).path
        lost = total([*(e.forces for e in path.open_ends), *(b.forces for b in path.beside)])
        arrived = path.soil_total + lost
        assert list(arrived) == pytest.approx(list(path.applied), rel=1e-9, abs=0.01), (lot, number)
        whole += not any(lost)
    assert whole >= 0.8 * EACH, "most buildings lose nothing"
