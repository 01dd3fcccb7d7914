"""What many tests share: the demo building, a plain house, and a folder for state that belongs to
the test."""

import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import settings

from balken.model.project import Project
from balken.recall import Recall, remembering
from balken.session import building as session_building
from balken.session.building import demo_project
from balken.works.building import Checked, work_out
from balken.workshop.screen import virtual_screen
from buildings import house

# The same cases on every run, and no stopwatch on a busy machine.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.load_profile("steady")


def pytest_configure(config: pytest.Config) -> None:
    """Give each of several workers its own screen: two windows on one would take the keyboard from
    each other."""
    if hasattr(config, "workerinput"):
        screen = virtual_screen()
        os.environ.update(screen.__enter__())
        config.add_cleanup(lambda: screen.__exit__(None, None, None))


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The longest first, so that at the end no worker waits for another."""
    items.sort(key=lambda item: item.get_closest_marker("long") is None)


@pytest.fixture(scope="session")
def shared_recall() -> Recall:
    """One memory for all tests of a worker: the demos are worked out once, not by every test."""
    return Recall(pieces=100_000)


@pytest.fixture(autouse=True)
def _remembering(
    request: pytest.FixtureRequest, shared_recall: Recall, monkeypatch: pytest.MonkeyPatch
) -> Iterator[None]:
    """Tests remember what others worked out, but those marked ``forgetful``: they ask what comes out
    where nothing is remembered, or count what is worked out again."""
    if request.node.get_closest_marker("forgetful"):
        yield
        return
    monkeypatch.setattr(session_building, "Recall", lambda: shared_recall)
    with remembering(shared_recall):
        yield


@pytest.fixture(autouse=True)
def _own_state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BALKEN_STATE", str(tmp_path / "state"))


@pytest.fixture(scope="session")
def demo() -> Project:
    """The bakehouse with its first structure."""
    return demo_project()


@pytest.fixture(scope="session")
def demo_checked(demo: Project) -> Checked:
    """The bakehouse worked out."""
    return work_out(demo)


@pytest.fixture(scope="session")
def plain() -> Project:
    """A one-storey house of 36 by 26 ft."""
    return house()
