"""An open building: edits, undo, saving, and what a killed program leaves behind."""

from functools import partial
from pathlib import Path

import pytest

from balken.exchange.files import FileError
from balken.fit.findings import findings
from balken.model.edits import EditError, move_level, move_wall, remove_host, set_floor, set_roof
from balken.model.project import Project, level
from balken.recall import Recall
from balken.session.building import DEMO, Building, begin, open_building
from balken.site.proposals import place
from buildings import misfits
from named import the


def test_edit_undo_redo(demo: Project) -> None:
    b = Building(demo)
    b.edit("raise", partial(move_level, key="L2", elevation=2800.0))
    b.edit("pitch", partial(set_roof, key="R1", rise=8.0))
    assert level(b.project, "L2").elevation == 2800.0
    assert b.undo() == "pitch"
    assert b.undo() == "raise"
    assert b.project == demo
    assert b.undo() is None
    assert b.redo() == "raise"
    assert b.redo() == "pitch"
    assert b.redo() is None
    assert b.project.roofs[0].rise == 8.0


def test_a_drag_is_one_step(demo: Project) -> None:
    b = Building(demo)
    for i in range(20):
        b.edit("drag", partial(move_level, key="L2", elevation=2700.0 + i), joined=i > 0)
    assert len(b.history.done) == 1
    b.undo()
    assert b.project == demo


def test_a_drag_back_to_where_it_was_is_no_step(demo: Project) -> None:
    b = Building(demo)
    b.edit("drag", partial(move_level, key="L2", elevation=2800.0))
    b.edit("drag", lambda _: demo, joined=True)
    assert b.history.done == ()
    assert b.project == demo


def test_a_new_edit_forgets_what_was_undone(demo: Project) -> None:
    b = Building(demo)
    b.edit("a", partial(move_level, key="L2", elevation=2800.0))
    b.undo()
    b.edit("b", partial(move_level, key="L2", elevation=2750.0))
    assert b.redo() is None


def test_an_edit_that_fails_changes_nothing(demo: Project) -> None:
    b = Building(demo)
    with pytest.raises(EditError):
        b.edit("bad", partial(move_level, key="P1", elevation=-9000.0))
    assert b.project is demo
    assert b.history.done == ()


def test_incremental_gives_what_a_rebuild_gives(demo: Project) -> None:
    """Thirty edits on one memory give, to the bit, what a fresh start gives."""
    b = Building(demo)
    for i in range(10):
        b.edit("level", partial(move_level, key="L2", elevation=2690.0 + 7 * i))
        b.edit("wall", partial(move_wall, key="W103", by=(-1) ** i * 40.0))
        b.edit("load", partial(set_floor, key="F2", live=0.002 + 0.0001 * i))
    fresh = Building(b.project)
    assert fresh.checked.structure == b.checked.structure
    assert fresh.checked.path == b.checked.path
    assert fresh.checked.used == b.checked.used
    assert [f.text for f in fresh.findings] == [f.text for f in b.findings]


def test_preview_changes_nothing(demo: Project) -> None:
    b = Building(demo)
    mend = b.findings[0].mend
    assert mend is not None
    _, left = b.preview(mend.apply)
    assert misfits(left) == []
    assert b.project is demo
    assert len(misfits(b.findings)) == 1


def test_save_close_open_again(demo: Project, tmp_path: Path) -> None:
    b = Building(demo)
    assert not b.saved
    b.edit("pitch", partial(set_roof, key="R1", rise=9.0))
    path = b.save(tmp_path / "house")
    assert path.name == "house.balken"
    assert b.saved
    again = open_building(path)
    assert again.project == b.project
    assert again.saved
    with pytest.raises(FileError):
        Building(demo).save()


def test_taking_hosts_away_and_placing_them_again(demo: Project) -> None:
    bare = demo
    for host in (the("roof:R1"), the("floor:C1"), the("floor:F2"), the("floor:F1"), the("run:G1")):
        bare = remove_host(bare, host)
    assert (bare.runs, bare.floors, bare.roofs) == ((), (), ())
    with pytest.raises(EditError):
        remove_host(bare, the("roof:R1"))
    for kind in ("foundation", "floors", "roof"):
        bare, said = place(bare, kind)
        assert said == ()
    assert {f.id for f in bare.floors} == {f.id for f in demo.floors}
    assert bare.runs == demo.runs
    assert bare.roofs == demo.roofs


def test_beginning_with_walls_only() -> None:
    project, said = begin(DEMO, structure=False)
    assert (project.floors, project.runs, said) == ((), (), ())
    assert findings(Building(project).checked, Recall()) != ()
