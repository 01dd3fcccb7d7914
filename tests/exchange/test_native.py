"""The project file: the same bytes every time, one clear sentence for every fault, and never half a
file."""

import json
import os
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from balken.exchange.files import FileError, write_atomic
from balken.exchange.native import ReadError, from_text, load, save, to_text
from balken.model.edits import change_member, move_level
from balken.model.project import Project
from named import the


def test_what_is_saved_is_read_back(demo: Project, tmp_path: Path) -> None:
    changed = change_member(
        move_level(demo, "L2", 2700.0), the("floor:F1/joist:05a"), section="2x12"
    )
    path = tmp_path / "x.balken"
    save(changed, path)
    assert load(path) == changed
    assert path.read_bytes() == to_text(load(path))


def test_the_text_can_be_read_by_people(demo: Project) -> None:
    text = to_text(demo).decode()
    assert text.count("\n") > 100
    assert json.loads(text)["levels"][0]["name"] == "Floor 1"


def damaged(demo: Project, change: Any) -> bytes:
    raw = json.loads(to_text(demo))
    change(raw)
    return json.dumps(raw).encode()


def _set(*path: Any) -> Any:
    *way, last, value = path

    def change(raw: Any) -> None:
        for step in way:
            raw = raw[step]
        raw[last] = value

    return change


FAULTS: dict[str, tuple[Any, str]] = {
    "newer": (_set("format", 99), "format 99"),
    "no format": (lambda r: r.pop("format"), "does not say its format"),
    "format is a word": (_set("format", "one"), "does not say its format"),
    "format is true": (_set("format", True), "does not say its format"),
    "never was": (_set("format", -3), "never was"),
    "text for a length": (
        _set("levels", 0, "elevation", "high"),
        r"levels\[0\].elevation|levels\[...\].elevation",
    ),
    "huge": (_set("levels", 0, "elevation", 1e300), "elevation"),
    "unknown field": (_set("walls", 0, "colour", "red"), "colour"),
    "unknown role": (_set("levels", 0, "role", "attic"), "role"),
    "twice": (lambda r: r["walls"].append(dict(r["walls"][0])), "is there twice"),
    "no such level": (_set("walls", 0, "base", "L99"), "no level"),
    "no such wall": (_set("floors", 0, "walls", ["W999"]), "no wall"),
    "no such build-up": (_set("floors", 0, "build_up", "x"), "no build-up"),
    "no such section": (_set("build_ups", 0, "sizes", ["9x9"]), "no section"),
    "no such grade": (_set("build_ups", 0, "grade", "No.9"), "no grade"),
    "no sizes": (_set("build_ups", 0, "sizes", []), "offers no sizes"),
    "a point": (_set("walls", 0, "end", [0.0, 0.0]), "both ends"),
    "upside down": (_set("walls", 0, "top_offset", -9000.0), "ends below"),
    "negative thickness": (_set("walls", 0, "thickness", -1), "thickness"),
    "slash in an id": (_set("levels", 0, "id", "a/b"), "id"),
    "opening outside": (_set("walls", 0, "openings", 0, "at", 1e6), "past the end"),
    "system": (_set("system", "stone"), "system"),
    "a list": (_set("levels", 5), "levels"),
}


@pytest.mark.parametrize("name", FAULTS)
def test_each_fault_is_one_sentence_with_its_place(demo: Project, name: str) -> None:
    change, words = FAULTS[name]
    with pytest.raises(ReadError, match=words) as error:
        from_text(damaged(demo, change), "x.balken")
    text = str(error.value)
    assert text.startswith("x.balken")
    assert "\n" not in text
    assert "Traceback" not in text


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"   \n", "empty"),
        (b"PK\x03\x04 zip", "zip"),
        (b"\x89PNG\r\n", "no Balken project"),
        (b"{", "damaged at line 1"),
        (b'{"format": 1, "format": 1}', "twice"),
        (b'{"format": 1, "name": NaN}', "NaN"),
        (b'{"format": 1, "name": 1e999}', "1e999"),
        (b"[" * 1_000_000, "no Balken project"),
        (b'{"a":' * 1_000_000, "nested"),
        (b'{"a": "' + b"[" * 100 + b'"}', "does not say its format"),
        (b"\xff\xfe{}", "no Balken project"),
        (b'{"name": "\xff"}', "no readable text"),
        (b'{"format": ' + b"9" * 5000 + b"}", "damaged|format"),
    ],
)
def test_what_is_no_project(data: bytes, words: str) -> None:
    with pytest.raises(ReadError, match=words):
        from_text(data, "x.balken")


@settings(
    max_examples=150, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None
)
@given(st.data())
def test_no_damage_ever_gives_a_traceback(demo: Project, data: st.DataObject) -> None:
    good = bytearray(to_text(demo))
    for _ in range(data.draw(st.integers(1, 6))):
        at = data.draw(st.integers(0, len(good) - 1))
        good[at] = data.draw(st.integers(0, 255))
    cut = data.draw(st.integers(0, len(good)))
    text = bytes(good[:cut]) if data.draw(st.booleans()) else bytes(good)
    try:
        from_text(text, "x")
    except ReadError as error:
        assert "\n" not in str(error)


json_values = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3)
    ),
    max_leaves=8,
)


@settings(
    max_examples=150, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None
)
@given(
    st.sampled_from(
        ["levels", "walls", "runs", "floors", "roofs", "site", "grids", "name", "changes"]
    ),
    json_values,
)
def test_wrong_types_anywhere(demo: Project, field: str, value: Any) -> None:
    try:
        from_text(damaged(demo, _set(field, value)), "x")
    except ReadError as error:
        assert str(error)


def old_roofs(raw: dict[str, Any]) -> list[dict[str, Any]]:
    """Return gable roofs as format 4 wrote them: by the way of their ridge."""
    new = {
        "heel",
        "rake",
        "sides",
        "corners",
        "top",
        "ridge",
        "eave_cut",
        "soffit",
        "framing",
        "rafters",
        "trusses",
        "openings",
    }
    return [{**{k: v for k, v in r.items() if k not in new}, "ridge": "long"} for r in raw["roofs"]]


def test_gables_of_the_format_before_sides_keep_their_ridge_and_their_changes(
    plain: Project,
) -> None:
    changed = change_member(plain, the("roof:R1/rafter:W13.05"), section="2x10")
    raw = json.loads(to_text(changed))
    for ridge, gables in (("long", {"W12", "W14"}), ("x", {"W12", "W14"}), ("y", {"W11", "W13"})):
        old = {**raw, "format": 4, "roofs": [{**r, "ridge": ridge} for r in old_roofs(raw)]}
        old["changes"] = [{**raw["changes"][0], "member": "roof:R1/rafter:05b"}]
        read = from_text(json.dumps(old).encode())
        assert {s.side for s in read.roofs[0].sides if s.kind == "gable"} == gables
        assert read.roofs[0].rake == 0.0, "format 4 had no overhang at gables"
        if ridge == "long":
            assert read == changed


def test_an_older_format_steps_up(demo: Project) -> None:
    raw = json.loads(to_text(demo))
    raw["format"] = 0
    del raw["notes"]
    raw["roofs"] = old_roofs(raw)
    assert from_text(json.dumps(raw).encode()) == demo


def test_a_write_that_fails_leaves_the_old_file_whole(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "x.balken"
    path.write_bytes(b"old")

    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(FileError, match="No space left"):
        write_atomic(path, b"new")
    assert path.read_bytes() == b"old"
    assert list(tmp_path.iterdir()) == [path], "nothing half-written is left behind"


def test_files_that_cannot_be_read(tmp_path: Path) -> None:
    with pytest.raises(FileError, match="no file"):
        load(tmp_path / "none.balken")
    with pytest.raises(FileError, match="folder"):
        load(tmp_path)
    with pytest.raises(FileError, match="cannot be written"):
        write_atomic(tmp_path / "no" / "x", b"")


def test_a_link_is_written_through(tmp_path: Path) -> None:
    target, link = tmp_path / "real.balken", tmp_path / "link.balken"
    target.write_bytes(b"old")
    link.symlink_to(target)
    write_atomic(link, b"new")
    assert link.is_symlink()
    assert target.read_bytes() == b"new"


def test_a_file_of_the_format_before_foundations_had_kinds_is_read(plain: Project) -> None:
    raw = json.loads(to_text(plain))
    raw["format"] = 2
    raw["roofs"] = old_roofs(raw)
    known = {
        "id",
        "name",
        "walls",
        "top",
        "base",
        "bottom",
        "stem_thickness",
        "footing_width",
        "offset",
        "sill",
    }
    raw["runs"] = [{k: v for k, v in run.items() if k in known} for run in raw["runs"]]
    raw["site"] = {
        k: raw["site"][k]
        for k in ("frost_depth", "soil_bearing", "clearance", "wall_dead", "concrete")
    }
    assert from_text(json.dumps(raw).encode()) == plain
