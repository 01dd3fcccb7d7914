"""Every row of the check values, by its id. Sources stand in the file's source column, row by
row."""

import csv
import json
from pathlib import Path
from typing import Any

import pytest
from adapters import ADAPTERS


def pytest_generate_tests(metafunc: pytest.Metafunc) -> None:
    if "row" in metafunc.fixturenames:
        path = Path(metafunc.config.getoption("--values"))
        rows = list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))
        metafunc.parametrize("row", rows, ids=[r["id"] for r in rows])


class NotGiven(Exception):
    """A row does not say what an adapter asks for. A key that the program itself misses is no such
    thing, and fails."""


class Given(dict[str, Any]):
    """The inputs of a row."""

    def __missing__(self, key: str) -> Any:
        raise NotGiven(key)


def test_value(row: dict[str, Any]) -> None:
    adapter = ADAPTERS.get(row["topic"])
    if adapter is None:
        pytest.skip(f"not covered: topic {row['topic']}")
    inputs = Given(json.loads(row["inputs_json"]))
    try:
        found = adapter(inputs)
    except NotGiven as missing:
        pytest.skip(f"not covered: {row['topic']} without or with another {missing}")
    if found is None:
        pytest.skip(f"not covered: {row['topic']}, {inputs.get('quantity')}")
    assert found == pytest.approx(float(row["expected"]), abs=float(row["tolerance"]), rel=0.0), (
        row["source"]
    )
