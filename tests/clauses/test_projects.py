"""Small projects, one clause each, through the command and its report for machines, against what
was worked out by hand.

``expected.json`` holds for each what is right, how it was worked out and with which clause
(ANSI/AWC NDS 2018 and its Supplement, ASCE 7-16, AISC 360-16, ACI 318-19, IRC 2021, EN 1990): a
utilisation or load within limits, or a finding in so many words.
"""

import json
import math
import re
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner

from balken.cli import main

HERE = Path(__file__).parent
EXPECTED: dict[str, dict[str, Any]] = json.loads((HERE / "expected.json").read_text())


def asked(name: str, case: dict[str, Any]) -> Any:
    """The report for machines on one case."""
    args = (
        ["span", *case["pick"]["args"]]
        if case["value"] == "span"
        else ["check", str(HERE / "projects" / f"{name}.balken")]
    )
    result = CliRunner().invoke(main, [*args, "--json"])
    assert result.exception is None or isinstance(result.exception, SystemExit), result.exception
    return json.loads(result.output)


def used(member: dict[str, Any]) -> float | None:
    """Utilisation; infinite where something governs and no number can be said; None where nothing
    is checked."""
    if member["utilisation"] is not None:
        return float(member["utilisation"])
    return math.inf if member["governing"] else None


def picked(report: Any, pick: dict[str, Any]) -> dict[str, Any]:
    """The member a case is about: of its role and host, the most used or the nearest to a place."""
    of_role = [m for m in report["members"] if m["role"] == pick["role"]]
    mine = [m for m in of_role if m["host"].split(":")[0] == pick["host"]] or of_role
    if pick.get("take") == "max":
        return max(mine, key=lambda m: -1.0 if used(m) is None else used(m) or 0.0)
    return min(mine, key=lambda m: math.dist(m["start_mm"], pick["near"]))


def measured(report: Any, case: dict[str, Any]) -> float | None:
    """The number a case asks for."""
    if case["value"] == "span":
        return float(
            report["engineered_span_mm"]
            if isinstance(report, dict)
            else report[0]["engineered_span_mm"]
        )
    if case["value"] == "load":
        for key in case["pick"]["path"].split("."):
            report = report[key]
        return float(report)
    return used(picked(report, case["pick"]))


def told(report: Any, case: dict[str, Any]) -> bool:
    """Whether a finding about the member says it in the words asked for."""
    member, rule = picked(report, case["pick"]), case["finding"]
    mark = re.compile(rf"(?<![\w-]){re.escape(member['mark'])}(?![\w-])")
    return any(
        (member["id"] in f["members"] or f["host"] == member["host"] or mark.search(f["text"]))
        and f["kind"] not in rule["not_kinds"]
        and re.search(rule["words"], f["text"])
        for f in report["findings"]
    )


@pytest.mark.parametrize("name", EXPECTED)
def test_what_a_clause_says_of_a_small_project(name: str) -> None:
    case = EXPECTED[name]
    report = asked(name, case)
    got, low, high = measured(report, case), case["pass"]["min"], case["pass"]["max"]
    within = got is not None and (low is None or got >= low) and (high is None or got <= high)
    if case["value"] == "finding":
        assert told(report, case), case["how"]
    else:
        assert within or (case["value"] == "either" and told(report, case)), (got, case["how"])
