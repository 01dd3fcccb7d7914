"""What the plan calls the thing under the pointer."""

import pytest

from balken.model.names import Name, kind_of
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.demo import bakehouse
from balken.session.things.register import THINGS
from named import the


def label_of(project: Project, name: Name) -> str:
    """What people call the thing behind a name."""
    return THINGS[kind_of(name)].called(project, name)


@pytest.fixture(scope="module")
def project() -> Project:
    return bakehouse(demo_project())


def test_a_wall_is_called_by_its_name_and_thickness(project: Project) -> None:
    item = project.walls[0]
    words = label_of(project, the(f"wall:{item.id}"))
    assert (item.name or item.id) in words
    assert words.rsplit(", ", 1)[1].endswith('"')


def test_an_opening_says_in_which_wall_it_is_and_how_wide(project: Project) -> None:
    item = next(w for w in project.walls if w.openings)
    hole = item.openings[0]
    words = label_of(project, the(f"opening:{item.id}/{hole.id}"))
    assert words.startswith(f"{hole.kind} in ")
    assert words.endswith(" wide")


def test_supports_steps_and_grid_lines(project: Project) -> None:
    support = project.point_supports[0]
    assert label_of(project, the(f"support:{support.id}")) == f"{support.kind} {support.id}"
    g = project.grids[0]
    assert label_of(project, the(f"grid:{g.id}/{g.lines[0].id}")) == f"grid line {g.lines[0].label}"
    assert label_of(project, the("step:G1/0")) == "step of footing G1"
    assert label_of(project, the("floor:F1/joist:12")) == "F1 joist 12"
    assert label_of(project, the("run:G1")) == "run G1"


@pytest.mark.parametrize(
    "key",
    [
        the("wall:none"),
        the("opening:none/none"),
        the("opening:none"),
        the("grid:none/none"),
        the("support:none"),
    ],
)
def test_what_is_gone_has_no_name(project: Project, key: str) -> None:
    assert label_of(project, key) == ""


def test_sides_and_skylights_of_roofs(project: Project) -> None:
    assert label_of(project, the("side:R1/W204")) == "gable, wall west 2 of roof R1"
    assert label_of(project, the("side:R1/W201")) == "slopes up from it, wall south 2 of roof R1"
    assert label_of(project, the("side:R2/1")) == "runs into another roof, side 1 of roof Wing"
    assert label_of(project, the("skylight:R1/S1")) == "skylight S1 of roof R1"
    assert label_of(project, the("skylight:R9/S1")) == ""
    assert label_of(project, the("roof:R1/hip:W201+W202")) == "R1 hip W201+W202"


def test_every_key_that_can_be_picked_has_a_name(project: Project) -> None:
    from balken.drawing.plan import plan
    from balken.drawing.tiers import tiers
    from balken.works.building import work_out

    checked = work_out(project)
    keys = {m.key for tier in tiers(checked) for m in plan(checked, tier) if m.key}
    assert len(keys) > 300
    assert not [k for k in keys if not label_of(project, k)]
