"""A building saved by each earlier format of the program is read as its version meant it."""

import json
from pathlib import Path

import pytest

from balken.exchange.native import MIGRATIONS, from_text, load, to_text
from balken.model.cases import Cases
from balken.model.project import FORMAT
from balken.works.building import work_out
from named import the

SAMPLES = sorted((Path(__file__).parent / "formats").glob("format-*.balken"))


def test_there_is_a_sample_of_every_format_that_was_released() -> None:
    formats = {json.loads(f.read_bytes())["format"] for f in SAMPLES}
    assert formats == set(range(1, FORMAT))
    assert set(MIGRATIONS) == {0, *formats}


@pytest.mark.parametrize("file", SAMPLES, ids=lambda f: f.stem)
def test_a_file_of_an_earlier_format_keeps_its_building(file: Path) -> None:
    raw, project = json.loads(file.read_bytes()), load(file)
    assert project.format == FORMAT
    assert [w.id for w in project.walls] == [w["id"] for w in raw["walls"]]
    assert [x.elevation for x in project.levels] == [x["elevation"] for x in raw["levels"]]
    assert {r.id for r in project.roofs} == {r["id"] for r in raw["roofs"]}
    assert from_text(to_text(project)) == project
    checked = work_out(project)
    assert checked.structure.unframed == ()
    assert checked.structure.gone == ()
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-9)


def test_loads_of_format_6_by_position_have_names_now() -> None:
    project = load(SAMPLES[5])
    assert project.runs[0].loads == Cases(dead=1.0, live=2.0, roof_live=3.0, snow=4.0)
    assert project.beams[0].loads.live > project.beams[0].loads.dead > 0.0
    assert project.beams[0].loads.snow == 0.0
    assert [c.member for c in project.changes] == [the("floor:F2/joist:09a")]


def test_format_0_had_no_notes() -> None:
    raw = json.loads(SAMPLES[0].read_bytes())
    raw["format"] = 0
    del raw["notes"]
    assert from_text(json.dumps(raw).encode()).notes == ()


def test_a_file_of_format_7_says_its_code_now() -> None:
    """Up to then the measure of length decided it."""
    for file in SAMPLES:
        project = load(file)
        assert project.code == ("us" if project.system == "us" else "eu"), file.stem
    assert load(SAMPLES[6]).code == "eu"
