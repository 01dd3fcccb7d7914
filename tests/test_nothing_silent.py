"""What carries has a utilisation, or a finding that says which check is lacking; all load arrives,
or a finding says where it is left; no two members share a name. Over both demos, ordinary other
buildings, and changed ones."""

import json
import math
import random
from collections.abc import Callable

import pytest
from msgspec.structs import replace

from balken.exchange.native import ReadError, from_text, to_text
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.framing.member import Member, clear_span
from balken.loads.path import BALANCE, SPECK
from balken.model.edits import set_floor
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out
from buildings import house, two_storeys, walled
from test_any_project import changed

RESTS_ALL_ALONG = {
    "subfloor",
    "blinding",
    "fascia",
    "rim",
    "blocking",
    "squash block",
    "splice",
    "sill",
    "link",
    "collar tie",
    "valley plate",
}
"""Roles that lie on what carries them along their whole length, or hold others in place: nothing
spans in them (``docs/rules.md``)."""
TELLS = (
    "unchecked",
    "load path",
    "unsupported",
    "bearing",
    "no foot",
    "no footing",
    "not framed",
    "idle pad",
    "slender",
    "fault",
)
"""Kinds of findings that say of a member that it is not, or cannot be, checked."""
SEEDS = 40


def curved() -> Project:
    """A house one of whose walls is bent outward."""
    project = house()
    return replace(project, walls=(replace(project.walls[0], bulge=0.1), *project.walls[1:]))


def askew() -> Project:
    """A house whose joists lie at 45° to its walls."""
    project = house()
    for floor in project.floors:
        project = set_floor(project, floor.id, turn=45.0)
    return project


def trussed() -> Project:
    """A metric building under scissors trusses."""
    return set_roof(
        two_storeys(),
        "R1",
        framing="trusses",
        trusses=replace(two_storeys().roofs[0].trusses, bottom_rise=2.0),
    )


def bent() -> Project:
    """An L of thin walls, turned against the axes, under a hip roof."""
    return walled(
        [(0, 0), (11000, 0), (11000, 5200), (6000, 5200), (6000, 9000), (0, 9000)], turn=0.3
    )


ORDINARY = (shown_demo, ferry_hall, house, two_storeys, curved, askew, trussed, bent)


def laden(checked: Checked) -> dict[str, float]:
    """How much load comes to each member by the way of loads, N; what stands on the soil by what it
    hands to it."""
    found: dict[str, float] = {}
    for name, ends in checked.path.reactions.items():
        found[name] = math.fsum(abs(f) for end in ends for f in end)
    for table in (checked.path.onto, checked.path.soil):
        for name, forces in table.items():
            found[name] = max(found.get(name, 0.0), math.fsum(map(abs, forces)))
    return found


def silent(checked: Checked, found: tuple[Finding, ...]) -> list[str]:
    """Members that carry with neither a utilisation nor a finding about them."""
    told = {name for f in found if f.kind in TELLS for name in f.members}
    hosts = {f.host for f in found if f.kind in TELLS and not f.members}
    carries = laden(checked)
    return [
        m.id
        for m in checked.structure.members
        if carries.get(m.id, 0.0) > 1.0
        and m.role not in RESTS_ALL_ALONG
        and m.id not in checked.used
        and m.id not in told
        and m.host not in hosts
        and not _only_itself(checked, m.id, m.role)
        and not _lies_on_its_bearings(m)
    ]


def _lies_on_its_bearings(m: Member) -> bool:
    """Whether a joist has no clear span: one at the edge, over a wall all along."""
    return m.kind.spans and len(m.carrier.supports) > 1 and clear_span(m) <= 0


def _only_itself(checked: Checked, name: str, role: str) -> bool:
    """Whether a piece of concrete on the soil bears nothing but itself: a slab between walls, a pad
    nothing stands on."""
    return role in ("slab", "pad") and not checked.path.points.get(name)


def assert_all_there(checked: Checked) -> None:
    """Held by a sum of its own: what was applied is in the soil, at open ends, or told as lying
    beside the members."""
    path = checked.path
    there = math.fsum(
        math.fsum(f)
        for f in (
            *path.soil.values(),
            *(e.forces for e in path.open_ends),
            *(b.forces for b in path.beside),
        )
    )
    applied = math.fsum(path.applied)
    assert abs(applied - there) <= max(
        SPECK * (1 + len(checked.project.floors)), 2 * BALANCE * applied
    )


def assert_said(checked: Checked, found: tuple[Finding, ...]) -> None:
    """Each load that does not arrive has a finding with a place and an amount."""
    of_loads = [f for f in found if f.kind == "load path"]
    for beside in checked.path.beside:
        assert any(f.host == beside.host and f.amount > 0 for f in of_loads), beside
    told = [
        f
        for f in found
        if f.kind in ("load path", "unsupported", "no footing", "no foot", "not framed")
    ]
    for end in checked.path.open_ends:
        assert math.fsum(end.forces) <= 1.0 or told, end


def held(project: Project) -> None:
    checked = work_out(project)
    found = findings(checked)
    names = [m.id for m in checked.structure.members]
    assert len(set(names)) == len(names)
    assert silent(checked, found) == []
    assert_all_there(checked)
    assert_said(checked, found)


@pytest.mark.parametrize("building", ORDINARY)
def test_of_ordinary_buildings(building: Callable[[], Project]) -> None:
    held(building())


@pytest.mark.parametrize("seed", range(SEEDS))
def test_of_changed_buildings(seed: int) -> None:
    chance = random.Random(1000 + seed)
    base = json.loads(to_text(ORDINARY[seed % len(ORDINARY)]()))
    for _ in range(40):
        try:
            project = from_text(json.dumps(changed(base, chance)).encode())
        except ReadError:
            continue
        held(project)
        return
    pytest.fail("no change of this seed gave a valid project")
