"""Whatever a valid project holds, it is worked out, drawn and written without a traceback."""

import json
import math
import random
from typing import Any

import pytest

from balken.drawing.book.book import calculation_book
from balken.drawing.figure import figure
from balken.drawing.paper.compose import sheets_of
from balken.drawing.section import wall_section
from balken.errors import BalkenError
from balken.exchange.cutlist_csv import cutting_list_csv
from balken.exchange.ifc_out import structure_ifc
from balken.exchange.native import ReadError, from_text, to_text
from balken.exchange.report import for_people, report
from balken.fit.findings import findings
from balken.model.project import Project
from balken.works.building import Checked, work_out

CASES = 60
LARGEST = 2500
"""Buildings with more members than this are not drawn here, for time."""
HELD = ("id", "name", "label", "source", "kind", "role", "format", "system")
STRANGE: tuple[Any, ...] = (
    0,
    1,
    -1,
    1e-9,
    10,
    5000,
    -3000,
    9.9e5,
    1e9,
    36,
    "2x12",
    "2x4",
    "8x12",
    "L1",
    "P2",
    "TF",
    "FB",
    "GR",
    "x",
    "long",
    None,
    [],
    ["W101"],
    ["W101", "W102", "W103", "W104", "W201"],
    "SP",
    "No.3",
    "Stud",
)


def leaves(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Return the way to every value, and to every list."""
    if isinstance(value, dict):
        return [p for k, v in value.items() for p in leaves(v, (*path, k))]
    if isinstance(value, list):
        return [path, *(p for i, v in enumerate(value) for p in leaves(v, (*path, i)))]
    return [path]


def changed(base: dict[str, Any], chance: random.Random) -> dict[str, Any]:
    """Return a project with one or two values made strange."""
    raw: dict[str, Any] = json.loads(json.dumps(base))
    ways = [p for p in leaves(raw) if p and p[-1] not in HELD]
    for _ in range(chance.randint(1, 2)):
        *way, last = chance.choice(ways)
        place: Any = raw
        try:
            for step in way:
                place = place[step]
            old = place[last]
        except (KeyError, IndexError, TypeError):
            continue  # an earlier change took it away
        if isinstance(old, int | float) and chance.random() < 0.6:
            place[last] = old * chance.choice([0.5, 2, -1, 1.1, 10]) + chance.choice([0, 1, -100])
        elif isinstance(old, list) and chance.random() < 0.7:
            chance.shuffle(old)
            place[last] = old[: chance.randint(0, len(old))]
        else:
            place[last] = chance.choice(STRANGE)
    return raw


def use_all(checked: Checked) -> None:
    found = findings(checked)
    document = report(checked, found)
    json.dumps(document, allow_nan=False)
    assert for_people(checked, found)
    assert cutting_list_csv(checked)
    wall_section(checked, found)
    assert all(
        (math.isfinite(f.amount) or f.kind == "over") and f.text.endswith(".") for f in found
    )
    assert not any(" inf" in f.text or "nan" in f.text for f in found)
    if len(checked.structure.members) > LARGEST:
        return
    assert structure_ifc(checked, "2026-01-01T00:00:00")
    assert sheets_of(checked, found, "2026-01-01")
    calculation_book(checked, ())
    for member in {(m.role, m.host): m for m in checked.structure.members}.values():
        assert figure(checked, member)


@pytest.mark.parametrize("seed", range(CASES))
def test_strange_but_valid(demo: Project, seed: int) -> None:
    base = json.loads(to_text(demo))
    chance = random.Random(seed)
    for _ in range(40):
        try:
            project = from_text(json.dumps(changed(base, chance)).encode())
        except ReadError:
            continue
        checked = work_out(project)
        open_load = sum(sum(e.forces) for e in checked.path.open_ends)
        held = sum(checked.path.soil_total) + open_load
        assert math.isfinite(held)
        use_all(checked)
        for finding in findings(checked):
            if finding.mend:
                try:
                    mended = finding.mend.apply(project)
                except BalkenError:
                    continue  # said in words in the window
                assert from_text(to_text(mended)) == mended
        return
    pytest.fail("no change of this seed gave a valid project")
