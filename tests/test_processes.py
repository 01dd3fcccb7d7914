"""Work shared out to processes: the same comes out as from one, whatever happens in one of them."""

import os
import threading
import time
from collections.abc import Callable
from functools import partial

import pytest

from balken import processes
from balken.processes import on_all_cores, side_by_side


@pytest.fixture
def alone(monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing else runs in this program, and it may use three cores."""
    monkeypatch.setattr(processes, "_cores", lambda: 3)
    monkeypatch.setattr(processes, "_may_fork", lambda: True)


def who(n: int) -> tuple[int, int]:
    """What was asked, and which process answers; long enough that all of them get their turn."""
    time.sleep(0.05)
    return n, os.getpid()


@pytest.mark.usefixtures("alone")
def test_works_are_shared_out_and_come_back_in_order() -> None:
    found = side_by_side([partial(who, n) for n in range(12)])
    assert [n for n, _ in found] == list(range(12))
    makers = {maker for _, maker in found}
    assert len(makers) == 3
    assert os.getpid() in makers


@pytest.mark.usefixtures("alone")
def test_what_a_process_could_not_do_is_done_here() -> None:
    """One is ended from outside in the middle of its work, in another an error is raised."""
    here = os.getpid()

    def ended(n: int) -> int:
        time.sleep(0.02)
        if os.getpid() != here:
            os._exit(9)
        return n

    def failing(n: int) -> int:
        time.sleep(0.02)
        if os.getpid() != here:
            raise ValueError
        return n

    for work in (ended, failing):
        assert side_by_side([partial(work, n) for n in range(9)]) == list(range(9))


@pytest.mark.usefixtures("alone")
def test_an_error_of_the_work_itself_is_raised() -> None:
    def no(n: int) -> int:
        raise ValueError(f"no {n}")

    with pytest.raises(ValueError, match="no"):
        side_by_side([partial(no, n) for n in range(4)])


def test_with_other_threads_all_is_done_here() -> None:
    """A forked process would wait for ever for a lock that another thread held."""
    gate = threading.Event()
    other = threading.Thread(target=gate.wait)
    other.start()
    try:
        with on_all_cores():
            found = side_by_side([partial(who, n) for n in range(3)])
    finally:
        gate.set()
        other.join()
    assert {maker for _, maker in found} == {os.getpid()}


@pytest.mark.usefixtures("alone")
def test_a_set_drawn_by_several_processes_is_the_same() -> None:
    from balken.drawing.paper.compose import sheets_of
    from balken.recall import Recall, remembering
    from balken.works.building import work_out
    from buildings import house

    checked = work_out(house())
    drawn = []
    for cores in (3, 1):
        with pytest.MonkeyPatch.context() as patch, remembering(Recall()):
            patch.setattr(processes, "_cores", partial(int, cores))
            drawn.append(sheets_of(checked, (), ""))
    assert drawn[0] == drawn[1]


def test_nothing_is_shared_out_unasked() -> None:
    """What is remembered in another process is gone with it: an edit would draw all again."""
    found = side_by_side([partial(who, n) for n in range(3)])
    assert {maker for _, maker in found} == {os.getpid()}


def nothing() -> list[Callable[[], int]]:
    return []


def test_no_work_makes_nothing() -> None:
    assert side_by_side(nothing()) == []
