"""What the desk asks of whoever sits in front of it: a window, or nobody."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any, Protocol, TypeVar

from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.names import Name
from balken.progress import Tell, unheard

_T = TypeVar("_T")
Answers = Sequence[tuple[str, Callable[[], object]]]
"""The words of each answer to a question, and what it does."""


class LeftError(BalkenError):
    """Work that was left by the one who waited for it."""


class Errand(Protocol):
    """Long work that is under way apart from the desk."""

    def leave(self) -> None:
        """Want nothing of it any more."""

    def settle(self) -> None:
        """Wait for it, and take in what it brings."""


class Face(Protocol):
    """What shows the desk and brings what a person decides."""

    def show_desk(self) -> None:
        """Show the desk as it is now."""

    def show_findings(self) -> None:
        """Show the fit list alone."""

    def say(self, text: str) -> None:
        """Say something in the foot of the fit list."""

    def ask(self, text: str, answers: Answers) -> None:
        """Ask a question, to be answered or not; a question of no answers takes it away."""

    def wait(self, work: Callable[[], _T], words: str) -> _T:
        """Do work and wait for it; what it raises is raised here.

        Raises:
            LeftError: it was left.
        """

    def apart(
        self, work: Callable[[], Any], done: Callable[[Any], object], failed: Callable[[str], None]
    ) -> Errand:
        """Do work apart from the desk; what it brings is handed to ``done``, why it failed to
        ``failed``."""

    def apart_telling(
        self,
        work: Callable[[Tell], Any],
        done: Callable[[Any], object],
        failed: Callable[[str], None],
    ) -> Errand:
        """Do work apart from the desk that says how far it is; left, it ends at its next step."""

    def tool_asks(self) -> None:
        """Show what the tool at work wants, or that none is at work any more."""

    def thing_at(self, place: Point, kinds: tuple[str, ...]) -> Name | None:
        """What is drawn at a place of the plan; where kinds are named, only of those."""

    def reach(self) -> float:
        """How near to a thing a place of the plan counts as on it, mm."""

    def drawn(self) -> Sequence[Name]:
        """The names of what is drawn on the plan."""

    def fit(self) -> None:
        """Show everything in the view that is chosen."""

    def begin_view(self) -> None:
        """Look at another building: from where all of it is seen."""

    def zoom(self, factor: float) -> None:
        """Zoom the plan."""

    def centre(self, place: Point) -> None:
        """Bring a place of the plan to the middle of the board."""

    def clip(self) -> str:
        """What is on the clipboard."""

    def put_clip(self, text: str) -> None:
        """Put text on the clipboard."""

    def file_to_open(self, title: str, kinds: str) -> Path | None:
        """Ask for a file that is there."""

    def file_to_write(self, title: str, start: str, kinds: str) -> Path | None:
        """Ask for the name of a file to write."""

    def folder(self, title: str) -> Path | None:
        """Ask for a folder."""

    def panel(self, name: str) -> None:
        """Open a panel, or close it: ``spans``, ``find``, ``keys``; ``close`` closes the window."""

    def to_field(self, name: str) -> None:
        """Put the keys into a field of the slip."""

    def change_theme(self) -> None:
        """From light to dark, or back."""


class _Done:
    """Work that was done at once."""

    def leave(self) -> None:
        return

    def settle(self) -> None:
        return


class Nobody:
    """Nobody in front of the desk: work is done at once, nothing is shown, no question is
    answered."""

    def __init__(self) -> None:
        self.asked: list[str] = []

    def show_desk(self) -> None:
        return

    def show_findings(self) -> None:
        return

    def say(self, text: str) -> None:
        return

    def ask(self, text: str, answers: Answers) -> None:
        self.asked.append(text)

    def wait(self, work: Callable[[], _T], words: str) -> _T:
        return work()

    def apart(
        self, work: Callable[[], Any], done: Callable[[Any], object], failed: Callable[[str], None]
    ) -> Errand:
        try:
            found = work()
        except BalkenError as error:
            failed(str(error))
        else:
            done(found)
        return _Done()

    def apart_telling(
        self,
        work: Callable[[Tell], Any],
        done: Callable[[Any], object],
        failed: Callable[[str], None],
    ) -> Errand:
        return self.apart(partial(work, unheard), done, failed)

    def tool_asks(self) -> None:
        return

    def thing_at(self, place: Point, kinds: tuple[str, ...]) -> Name | None:
        return None

    def reach(self) -> float:
        return 0.0

    def drawn(self) -> Sequence[Name]:
        return ()

    def fit(self) -> None:
        return

    def begin_view(self) -> None:
        return

    def zoom(self, factor: float) -> None:
        return

    def centre(self, place: Point) -> None:
        return

    def clip(self) -> str:
        return ""

    def put_clip(self, text: str) -> None:
        return

    def file_to_open(self, title: str, kinds: str) -> Path | None:
        return None

    def file_to_write(self, title: str, start: str, kinds: str) -> Path | None:
        return None

    def folder(self, title: str) -> Path | None:
        return None

    def panel(self, name: str) -> None:
        return

    def to_field(self, name: str) -> None:
        return

    def change_theme(self) -> None:
        return
