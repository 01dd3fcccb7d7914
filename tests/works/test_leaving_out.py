"""A valid project is always worked out: what cannot be is left out and named, and everything else
stands."""

import pytest

from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.hosts import roofs
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.works import building
from balken.works.building import work_out
from balken.works.leaving_out import worked_out_in_part
from named import the

pytestmark = pytest.mark.forgetful


def test_a_roof_that_cannot_be_worked_out_is_named_and_the_rest_stands(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    real = roofs.frame_trusses

    def broken(*args: object, **more: object) -> object:
        if getattr(args[0], "id", "") == "R2":
            raise KeyError("a section nobody knows")
        return real(*args, **more)  # type: ignore[arg-type]

    monkeypatch.setattr(roofs, "frame_trusses", broken)
    checked = work_out(shown_demo())
    assert checked.project == shown_demo(), "nothing of the project itself is gone"
    assert [h for h, _ in checked.structure.unframed] == [the("roof:R2")]
    assert any(m.host == the("roof:R1") for m in checked.structure.members)
    (told,) = [f for f in findings(checked) if f.kind == "not framed"]
    assert "could not be worked out" in told.text
    assert "a section nobody knows" in told.text


def test_where_everything_of_a_kind_fails_the_kind_is_left_out(plain: Project) -> None:
    def work(project: Project) -> int:
        if project.floors:
            raise ValueError("no floor works")
        return len(project.roofs)

    found, left = worked_out_in_part(plain, work, ValueError("no floor works"))
    assert found == 1
    assert {x.host for x in left} == {the(f"floor:{f.id}") for f in plain.floors}


def test_a_check_that_fails_does_not_take_the_window_down(
    plain: Project, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = building.check_side_by_side

    def broken(project: Project, *rest: object) -> object:
        if project.roofs and project.floors:
            raise ZeroDivisionError
        return real(project, *rest)  # type: ignore[arg-type]

    monkeypatch.setattr(building, "check_side_by_side", broken)
    checked = work_out(plain)
    assert [h for h, _ in checked.structure.unframed] == [the("roof:R1")], (
        "said, not raised; as little as can be is left out"
    )
    assert any(m.kind is kinds.JOIST for m in checked.structure.members)
