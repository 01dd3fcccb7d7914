"""Spot heights: any order, header or none, any usual unit; lines that cannot be read are said with
their number."""

from pathlib import Path

import pytest
from click.testing import CliRunner

from balken.cli import main
from balken.exchange.files import FileError
from balken.exchange.native import save
from balken.exchange.spots_csv import read_spots, spots_csv
from balken.model.project import Project, Spot


def written(tmp_path: Path, text: str) -> Path:
    path = tmp_path / "heights.csv"
    path.write_text(text)
    return path


@pytest.mark.parametrize(
    "text",
    [
        "1000,2000,-300\n4000,5000,600\n",
        "x,y,z\n1000,2000,-300\n4000,5000,600\n",
        "z;x;y\n-300;1000;2000\n600;4000;5000\n",
        "name\theight\teasting\tnorthing\na\t-300\t1000\t2000\nb\t600\t4000\t5000\n",
        "1000 2000 -300\n\n4000 5000 600\n",
        "x [m],y [m],z [m]\n1.0,2.0,-0.3\n4,5,0.6\n",
        "\ufeffX,Y,Z\n1000mm,2m,-30cm\n4m,5000,600\n",
        "East,North,Level\n1000,2000,-300\n4000,5000,600\n",
    ],
)
def test_all_of_these_are_the_same(tmp_path: Path, text: str) -> None:
    found = read_spots(written(tmp_path, text), "metric")
    assert [(*s.at, s.height) for s in found.spots] == [
        pytest.approx((1000.0, 2000.0, -300.0)),
        pytest.approx((4000.0, 5000.0, 600.0)),
    ]
    assert found.left_out == ()


def test_feet_and_inches(tmp_path: Path) -> None:
    found = read_spots(written(tmp_path, "x,y,z\n10',4'-6\",-2'\n120,54,-24\n"), "us")
    a, b = found.spots
    assert (*a.at, a.height) == pytest.approx((*b.at, b.height))
    feet = read_spots(written(tmp_path, "10,4.5,-2\n"), "us", "ft")
    assert feet.spots[0].at == pytest.approx((3048.0, 1371.6))


def test_lines_that_cannot_be_read_are_said_and_the_rest_comes_in(tmp_path: Path) -> None:
    found = read_spots(written(tmp_path, "x,y,z\n1,2,3\n4,five,6\n7,8\n9,10,11\n"), "metric")
    assert len(found.spots) == 2
    assert found.left_out[0].startswith("line 3: “five”")
    assert found.left_out[1] == "line 4: fewer than three columns"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("x,y\n1,2\n", "does not name x, y and z"),
        ("a,b,c\n1,2,3\n", "does not name"),
        ("1,2,up\n", "holds no heights"),
    ],
)
def test_files_of_no_heights(tmp_path: Path, text: str, words: str) -> None:
    with pytest.raises(FileError, match=words):
        read_spots(written(tmp_path, text), "metric")


def test_written_heights_read_back(tmp_path: Path) -> None:
    spots = (Spot((0.0, -1500.0), -612.3), Spot((10972.8, 7924.8), -20.0))
    assert read_spots(written(tmp_path, spots_csv(spots)), "us").spots == spots


def test_the_survey_command(tmp_path: Path, demo: Project) -> None:
    house, target = tmp_path / "house.balken", tmp_path / "heights.csv"
    save(demo, house)
    result = CliRunner().invoke(main, ["survey", str(house), "--to", str(target)])
    assert result.exit_code == 0, result.output
    found = read_spots(target, "metric")
    assert len(found.spots) >= 20
    again = tmp_path / "again.csv"
    CliRunner().invoke(main, ["survey", str(house), "--to", str(again)])
    assert again.read_bytes() == target.read_bytes()
    wrong = CliRunner().invoke(main, ["survey", str(house), "--to", str(target), "--step", "1"])
    assert wrong.exit_code == 2
